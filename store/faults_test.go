package store

import (
	"context"
	"errors"
	"testing"

	"bead/core/scene"
)

// What SQLite says of a disk that is full or read-only becomes a sentence, and nothing is kept.
func TestDiskRefuses(t *testing.T) {
	ctx := context.Background()
	s, err := Open(ctx, t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	s.db.SetMaxOpenConns(1) // a PRAGMA is of one connection
	d := &scene.Document{Bead: scene.Version, Name: "t", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: 1}}
	for pragma, want := range map[string]error{"max_page_count = 1": ErrNoRoom, "query_only = 1": ErrReadOnly} {
		if _, err := s.db.Exec("PRAGMA " + pragma); err != nil {
			t.Fatal(err)
		}
		big := *d
		big.Parts = make([]scene.Part, 5000)
		_, err := s.Create(ctx, &big, "made")
		if !errors.Is(err, want) || Disk(err) != want {
			t.Errorf("%s: %v, want %v", pragma, err, want)
		}
		if _, err := s.db.Exec("PRAGMA max_page_count = 1000000; PRAGMA query_only = 0"); err != nil {
			t.Fatal(err)
		}
	}
	var n int
	if err := s.db.QueryRow("SELECT count(*) FROM scenes").Scan(&n); err != nil || n != 0 {
		t.Errorf("%d scenes are kept, %v", n, err)
	}
}
