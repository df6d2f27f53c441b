package store

import (
	"context"
	"database/sql"
	"io/fs"
	"os"
	"path/filepath"
	"testing"

	"github.com/pressly/goose/v3"

	"bead/core/scene"
)

// A database of an older Bead is brought to the present schema with all that is in it, and a copy of it as it was
// stays beside it, with which the older program goes on.
func TestUpgradeKeepsACopy(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	old, err := sql.Open("sqlite", filepath.Join(dir, "bead.db"))
	if err != nil {
		t.Fatal(err)
	}
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		t.Fatal(err)
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, old, sub)
	if err != nil {
		t.Fatal(err)
	}
	const before = 4
	if _, err := p.UpTo(ctx, before); err != nil {
		t.Fatal(err)
	}
	text, err := os.ReadFile("../demo/scenes/ballast.json")
	if err != nil {
		t.Fatal(err)
	}
	d, err := scene.Decode(text)
	if err != nil {
		t.Fatal(err)
	}
	// A scene is put in by the present program, and what came later is taken away again.
	if _, err := p.Up(ctx); err != nil {
		t.Fatal(err)
	}
	s := &Store{old, make(chan struct{}, 1)}
	made, err := s.Create(ctx, d, "made")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := p.DownTo(ctx, before); err != nil {
		t.Fatal(err)
	}
	if err := old.Close(); err != nil {
		t.Fatal(err)
	}

	for range 2 { // the second start has nothing to do
		now, err := Open(ctx, dir)
		if err != nil {
			t.Fatal(err)
		}
		got, err := now.Get(ctx, made.ID)
		if err != nil || got.Doc.Name != d.Name {
			t.Errorf("%v: %q", err, got.Doc.Name)
		}
		if err := now.Close(); err != nil {
			t.Fatal(err)
		}
	}
	copies, err := filepath.Glob(filepath.Join(dir, "bead-before-*"))
	if err != nil || len(copies) != 1 || filepath.Base(copies[0]) != "bead-before-5.db" {
		t.Fatalf("%v: %v", err, copies)
	}
	back, err := sql.Open("sqlite", copies[0])
	if err != nil {
		t.Fatal(err)
	}
	defer back.Close()
	q, err := goose.NewProvider(goose.DialectSQLite3, back, sub)
	if err != nil {
		t.Fatal(err)
	}
	var name string
	if err := back.QueryRow(`SELECT id FROM scenes`).Scan(&name); err != nil || name != made.ID {
		t.Errorf("the copy has %q: %v", name, err)
	}
	if v, err := q.GetDBVersion(ctx); err != nil || v != before {
		t.Errorf("the copy is of schema %d, want %d: %v", v, before, err)
	}
	// A new directory has nothing to copy.
	fresh := t.TempDir()
	n, err := Open(ctx, fresh)
	if err != nil {
		t.Fatal(err)
	}
	defer n.Close()
	if copies, _ := filepath.Glob(filepath.Join(fresh, "bead-before-*")); len(copies) != 0 {
		t.Errorf("a new store keeps %v", copies)
	}
}
