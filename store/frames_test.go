package store

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"
	"time"
)

// What was put is got back whole; what is damaged is not; the oldest goes when there is too much; and
// files of others stay.
func TestFrames(t *testing.T) {
	dir := t.TempDir()
	other := filepath.Join(dir, "notes.txt")
	if err := os.WriteFile(other, []byte("mine"), 0o600); err != nil {
		t.Fatal(err)
	}
	f, err := OpenFrames(dir, 250)
	if err != nil {
		t.Fatal(err)
	}
	a, b := bytes.Repeat([]byte{1}, 80), bytes.Repeat([]byte{2}, 80)
	f.Put("a", a)
	f.Put("b", b)
	if got, there := f.Get("a"); !there || !bytes.Equal(got, a) {
		t.Errorf("%v %v", got, there)
	}
	if _, there := f.Get("c"); there {
		t.Error("what was never put is there")
	}
	old := time.Now().Add(-time.Hour)
	if err := os.Chtimes(f.file("b"), old, old); err != nil {
		t.Fatal(err)
	}
	f.Put("c", a)
	if _, there := f.Get("b"); there {
		t.Error("the oldest stays over the size")
	}
	if _, there := f.Get("a"); !there {
		t.Error("what was used goes before the oldest")
	}
	data, _ := os.ReadFile(f.file("a"))
	data[10] ^= 1
	if err := os.WriteFile(f.file("a"), data, 0o600); err != nil {
		t.Fatal(err)
	}
	if _, there := f.Get("a"); there {
		t.Error("what is damaged is taken for whole")
	}
	if f.Put("big", make([]byte, 300)); len(f.files()) != 1 {
		t.Errorf("%d files", len(f.files()))
	}
	if size, most := f.Size(); size != 112 || most != 250 {
		t.Errorf("%d of %d bytes", size, most)
	}
	if _, err := os.Stat(other); err != nil {
		t.Error(err)
	}
}
