package store_test

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"

	"bead/demo"
	"bead/store"
)

func open(t *testing.T, dir string) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), dir)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

func TestHistory(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	s := open(t, dir)
	d, _ := demo.Scene("crawler")
	sc, err := s.Create(ctx, d, "made")
	if err != nil || sc.Undo != "" || sc.Redo != "" || sc.Revision != 1 {
		t.Fatalf("%+v, %v", sc, err)
	}
	save := func(name string) {
		t.Helper()
		sc.Doc.Name = name
		if sc, err = s.Save(ctx, sc.ID, sc.Revision, sc.Doc, "rename to "+name); err != nil {
			t.Fatal(err)
		}
	}
	save("one")
	save("two")
	undo := func(want string) {
		t.Helper()
		if sc, err = s.Undo(ctx, sc.ID, sc.Revision); err != nil || sc.Doc.Name != want {
			t.Fatalf("undo gives %+v, %v; want %q", sc.Doc, err, want)
		}
	}
	undo("one")
	if sc.Undo != "rename to one" || sc.Redo != "rename to two" {
		t.Errorf("labels %q and %q", sc.Undo, sc.Redo)
	}
	// The same after the program was closed and opened again.
	s.Close()
	s = open(t, dir)
	undo("Crawler tread")
	if _, err := s.Undo(ctx, sc.ID, sc.Revision); !errors.Is(err, store.ErrNothing) {
		t.Errorf("undo at the first step: %v", err)
	}
	if sc, err = s.Redo(ctx, sc.ID, sc.Revision); err != nil || sc.Doc.Name != "one" {
		t.Fatalf("redo: %v", err)
	}
	save("three") // "two" is gone
	if _, err := s.Redo(ctx, sc.ID, sc.Revision); !errors.Is(err, store.ErrNothing) {
		t.Errorf("redo after a new edit: %v", err)
	}
	steps, err := s.History(ctx, sc.ID)
	if err != nil || len(steps) != 3 || !steps[0].Current || steps[0].Label != "rename to three" {
		t.Errorf("history %+v, %v", steps, err)
	}
	if c := steps[0].Change; c.What() != "Scene: name" || c.Was != "“one”" || c.Is != "“three”" || c.Address != "name" || steps[2].Change.Field != "" {
		t.Errorf("changes %+v and %+v", c, steps[2].Change)
	}
	if sc, err = s.GoTo(ctx, sc.ID, sc.Revision, 1); err != nil || sc.Doc.Name != "Crawler tread" {
		t.Errorf("go to the first step: %v", err)
	}
	if err := s.Delete(ctx, sc.ID); err != nil {
		t.Error(err)
	}
	for what, err := range map[string]error{"delete": s.Delete(ctx, sc.ID), "get": second(s.Get(ctx, sc.ID)), "history": second(s.History(ctx, sc.ID))} {
		if !errors.Is(err, store.ErrNotFound) {
			t.Errorf("%s of a deleted scene: %v", what, err)
		}
	}
}

func second[T any](_ T, err error) error { return err }

// Of many writers that know the same revision exactly one gets through; the
// others learn what stands there now.
func TestWritersDoNotOverwriteEachOther(t *testing.T) {
	ctx := context.Background()
	s := open(t, t.TempDir())
	d, _ := demo.Scene("crawler")
	sc, err := s.Create(ctx, d, "made")
	if err != nil {
		t.Fatal(err)
	}
	var wg sync.WaitGroup
	results := make([]error, 8)
	for i := range results {
		wg.Go(func() {
			own, _ := demo.Scene("crawler")
			own.Name = fmt.Sprint("writer ", i)
			_, results[i] = s.Save(ctx, sc.ID, sc.Revision, own, "write")
		})
	}
	wg.Wait()
	won := 0
	now, _ := s.Get(ctx, sc.ID)
	for i, err := range results {
		var conflict *store.ConflictError
		switch {
		case err == nil:
			won++
			if now.Doc.Name != fmt.Sprint("writer ", i) {
				t.Errorf("writer %d got through but %q stands there", i, now.Doc.Name)
			}
		case !errors.As(err, &conflict) || conflict.Current.Doc.Name != now.Doc.Name:
			t.Errorf("writer %d: %v", i, err)
		}
	}
	if won != 1 || now.Revision != 2 {
		t.Errorf("%d writers got through, revision %d", won, now.Revision)
	}
}

func TestHistoryIsBounded(t *testing.T) {
	if testing.Short() {
		t.Skip("writes a thousand steps")
	}
	ctx := context.Background()
	s := open(t, t.TempDir())
	d, _ := demo.Scene("float-line")
	sc, _ := s.Create(ctx, d, "made")
	for i := range 1010 {
		var err error
		if sc, err = s.Save(ctx, sc.ID, sc.Revision, sc.Doc, fmt.Sprint("step ", i)); err != nil {
			t.Fatal(err)
		}
	}
	if steps, err := s.History(ctx, sc.ID); err != nil || len(steps) != 1000 {
		t.Errorf("%d steps kept, %v", len(steps), err)
	}
}

// A document's files are kept once beside it and come back with it.
func TestAssets(t *testing.T) {
	ctx := context.Background()
	s := open(t, t.TempDir())
	d, err := demo.Scene("hull-rail")
	if err != nil {
		t.Fatal(err)
	}
	file := d.Assets[0]
	if _, err := s.WithAssets(ctx, d); !errors.Is(err, store.ErrNoAsset) {
		t.Errorf("a file that was never kept: %v", err)
	}
	sc, err := s.Create(ctx, d, "made")
	if err != nil || len(sc.Doc.Assets) != 0 {
		t.Fatalf("%d assets in the scene, %v", len(sc.Doc.Assets), err)
	}
	for range 2 { // the same bytes again are no fault
		if id, err := s.PutAsset(ctx, "again.obj", file.Data); err != nil || id != file.ID {
			t.Errorf("%s %v", id, err)
		}
	}
	whole, err := s.WithAssets(ctx, sc.Doc)
	if err != nil || len(whole.Assets) != 1 || whole.Assets[0].Name != "hull.obj" || string(whole.Assets[0].Data) != string(file.Data) {
		t.Errorf("%+v %v", whole.Assets, err)
	}
}
