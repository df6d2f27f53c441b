package store_test

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"testing"

	"bead/demo"
	"bead/store"
)

// Every save that has returned is on the disk: a copy of the files as they lie,
// taken while the store is open and never closed, holds it.
func TestSavesAreDurable(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	s := open(t, dir)
	d, _ := demo.Scene("crawler")
	sc, err := s.Create(ctx, d, "made")
	if err != nil {
		t.Fatal(err)
	}
	for i := range 20 {
		sc.Doc.Name = fmt.Sprint("save ", i)
		if sc, err = s.Save(ctx, sc.ID, sc.Revision, sc.Doc, "rename"); err != nil {
			t.Fatal(err)
		}
		if i%6 != 5 {
			continue
		}
		crash := t.TempDir()
		for _, name := range []string{"bead.db", "bead.db-wal"} { // the -shm file does not survive a crash
			copyFile(t, filepath.Join(dir, name), filepath.Join(crash, name))
		}
		after := open(t, crash)
		got, err := after.Get(ctx, sc.ID)
		if err != nil || got.Doc.Name != sc.Doc.Name || got.Revision != sc.Revision {
			t.Fatalf("after a crash behind save %d: %q at revision %d, %v", i, got.Doc.Name, got.Revision, err)
		}
		if steps, err := after.History(ctx, sc.ID); err != nil || len(steps) != i+2 {
			t.Fatalf("after a crash behind save %d: %d steps, %v", i, len(steps), err)
		}
	}
}

func copyFile(t *testing.T, from, to string) {
	t.Helper()
	in, err := os.Open(from)
	if err != nil {
		t.Fatal(err)
	}
	defer in.Close()
	var b bytes.Buffer
	if _, err := io.Copy(&b, in); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(to, b.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
}

// A directory that cannot be used, and a file that is no database, are errors.
func TestOpenRefuses(t *testing.T) {
	if _, err := store.Open(context.Background(), filepath.Join(t.TempDir(), "missing")); err == nil {
		t.Error("a missing directory is accepted")
	}
	dir := t.TempDir()
	if err := os.WriteFile(filepath.Join(dir, "bead.db"), bytes.Repeat([]byte("no database "), 100), 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := store.Open(context.Background(), dir); err == nil {
		t.Error("a file that is no database is accepted")
	}
	// Odd letters in the directory's name are part of the name.
	odd := filepath.Join(t.TempDir(), "a b?mode=memory#%41")
	if err := os.Mkdir(odd, 0o700); err != nil {
		t.Fatal(err)
	}
	s := open(t, odd)
	d, _ := demo.Scene("crawler")
	if _, err := s.Create(context.Background(), d, "made"); err != nil {
		t.Fatal(err)
	}
	if _, err := os.Stat(filepath.Join(odd, "bead.db")); err != nil {
		t.Error(err)
	}
}
