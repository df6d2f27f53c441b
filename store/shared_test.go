package store_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"bead/demo"
	"bead/store"
)

// with changes the database behind the store's back.
func with(t *testing.T, dir, query string, args ...any) {
	t.Helper()
	db, err := sql.Open("sqlite", filepath.Join(dir, "bead.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	if _, err := db.Exec(query, args...); err != nil {
		t.Fatal(err)
	}
}

// Eighty writers at once are all served, each once.
func TestWritersQueue(t *testing.T) {
	ctx := context.Background()
	s := open(t, t.TempDir())
	d, _ := demo.Scene("terraces")
	var wait sync.WaitGroup
	for i := range 80 {
		wait.Go(func() {
			own := *d
			own.Name = fmt.Sprintf("scene %d", i)
			sc, err := s.Create(ctx, &own, "made")
			if err == nil {
				own.Name += " again"
				_, err = s.Save(ctx, sc.ID, sc.Revision, &own, "named")
			}
			if err != nil {
				t.Error(err)
			}
		})
	}
	wait.Wait()
	list, err := s.List(ctx)
	if err != nil || len(list) != 80 {
		t.Fatalf("%d scenes, %v", len(list), err)
	}
	for _, sc := range list {
		if sc.Revision != 2 || !strings.HasSuffix(sc.Doc.Name, " again") {
			t.Errorf("%s at revision %d", sc.Doc.Name, sc.Revision)
		}
	}
	// Who does not want to wait any more is told so, and writes nothing.
	gone, cancel := context.WithCancel(ctx)
	cancel()
	if _, err := s.Create(gone, d, "made"); !errors.Is(err, context.Canceled) {
		t.Errorf("a writer that left: %v", err)
	}
}

// The list is in the order of changes, whatever the clock said.
func TestOrderOfChanges(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	s := open(t, dir)
	d, _ := demo.Scene("terraces")
	var ids []string
	for range 3 {
		sc, err := s.Create(ctx, d, "made")
		if err != nil {
			t.Fatal(err)
		}
		ids = append(ids, sc.ID)
	}
	with(t, dir, `UPDATE scenes SET touched = touched + 1e9 WHERE id = ?`, ids[0]) // a clock that was wrong
	if _, err := s.Save(ctx, ids[1], 1, d, "saved"); err != nil {
		t.Fatal(err)
	}
	list, err := s.List(ctx)
	if err != nil || list[0].ID != ids[1] || list[1].ID != ids[2] || list[2].ID != ids[0] {
		t.Errorf("%v, %v", list, err)
	}
}

// A scene that cannot be read hides no other, says why, and its text can be had.
func TestUnreadableScene(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	s := open(t, dir)
	d, _ := demo.Scene("terraces")
	good, _ := s.Create(ctx, d, "made")
	newer, _ := s.Create(ctx, d, "made")
	torn, _ := s.Create(ctx, d, "made")
	with(t, dir, `UPDATE history SET doc = CAST(replace(CAST(doc AS TEXT), '"bead":2', '"bead":9') AS BLOB) WHERE scene = ?`, newer.ID)
	with(t, dir, `UPDATE history SET doc = x'00ff' WHERE scene = ?`, torn.ID)
	list, err := s.List(ctx)
	if err != nil || len(list) != 3 {
		t.Fatalf("%d scenes, %v", len(list), err)
	}
	for _, sc := range list {
		switch sc.ID {
		case good.ID:
			if sc.Doc == nil || sc.Unreadable != nil {
				t.Errorf("the good one: %v", sc.Unreadable)
			}
		case newer.ID:
			if sc.Doc != nil || sc.Name != d.Name || !strings.Contains(sc.Unreadable.Error(), "version 9") {
				t.Errorf("of a newer program: %q, %v", sc.Name, sc.Unreadable)
			}
		case torn.ID:
			if sc.Doc != nil || sc.Unreadable == nil {
				t.Errorf("damaged: %v", sc.Unreadable)
			}
		}
	}
	var unreadable *store.UnreadableError
	if _, err := s.Get(ctx, newer.ID); !errors.As(err, &unreadable) {
		t.Errorf("got: %v", err)
	}
	if text, err := s.Text(ctx, newer.ID); err != nil || !strings.Contains(string(text), `"bead":9`) {
		t.Errorf("its text: %.40s, %v", text, err)
	}
	if err := s.Delete(ctx, torn.ID); err != nil {
		t.Error(err)
	}
}

// A database of a newer program, and one that cannot be written, are refused with a sentence.
func TestRefusedDatabases(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	s := open(t, dir)
	d, _ := demo.Scene("terraces")
	sc, err := s.Create(ctx, d, "made")
	if err != nil {
		t.Fatal(err)
	}
	s.Close()
	with(t, dir, `INSERT INTO goose_db_version (version_id, is_applied) VALUES (99, 1)`)
	if _, err := store.Open(ctx, dir); err == nil || !strings.Contains(err.Error(), "newer Bead") {
		t.Errorf("of a newer program: %v", err)
	}
	with(t, dir, `DELETE FROM goose_db_version WHERE version_id = 99`)
	s = open(t, dir)
	if _, err := s.Get(ctx, sc.ID); err != nil {
		t.Error(err)
	}
	s.Close()
	if os.Getuid() == 0 {
		return // root may write everywhere
	}
	for _, f := range []string{"bead.db", "bead.db-wal", "bead.db-shm"} {
		_ = os.Chmod(filepath.Join(dir, f), 0o400)
	}
	_ = os.Chmod(dir, 0o500)
	defer os.Chmod(dir, 0o700)
	if s, err := store.Open(ctx, dir); err == nil {
		if _, err = s.Save(ctx, sc.ID, 1, d, "saved"); !errors.Is(err, store.ErrReadOnly) {
			t.Errorf("read only: %v", err)
		}
		s.Close()
	} else if !errors.Is(err, store.ErrReadOnly) {
		t.Errorf("read only: %v", err)
	}
}
