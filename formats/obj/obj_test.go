package obj_test

import (
	"context"
	"errors"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/surface"
	"bead/formats/obj"
)

func TestReadLines(t *testing.T) {
	list, err := obj.ReadLines(context.Background(), []byte("# rail\nv 0 0 0\nv 3 0 0\nv 3 4 0\no rail\nl 1 2 3\nf 1 2 3\nl -3/1 -2 -1 1\n"))
	if err != nil || len(list) != 2 {
		t.Fatal(list, err)
	}
	for i, want := range []float64{7, 12} {
		c, err := path.New(list[i].Spans, list[i].Closed)
		if err != nil || c.Length() != want || list[i].Name != "rail" || list[i].Closed != (i == 1) {
			t.Errorf("line %d: %+v, %v", i, list[i], err)
		}
	}
	for text, says := range map[string]string{
		"": "no line", "v 1 2\n": "line 1: v has 2 numbers", "v 0 0 x": "line 1", "l 1 2": "line 1: \"1\" is no vertex",
		"v 0 0 0\nl 1": "line 2: l has 1", "v 0 0 0\nl 1 0": "no vertex", "v 0 0 NaN": "line 1",
	} {
		if _, err := obj.ReadLines(context.Background(), []byte(text)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v, want an error with %q", text, err, says)
		}
	}
}

// Files that repeat a few vertices without end are refused where they go too far, and reading for
// nobody ends.
func TestReadLimits(t *testing.T) {
	corners := strings.Repeat(" 1 2 3", 300)
	lines := "v 0 0 0\nv 1 0 0\nv 0 1 0\n" + strings.Repeat("l"+corners+"\n", 230)
	if _, err := obj.ReadLines(context.Background(), []byte(lines)); err == nil || !strings.Contains(err.Error(), "line 226: the lines have more than 200000 straights") {
		t.Errorf("lines: %v", err)
	}
	faces := "v 0 0 0\nv 1 0 0\nv 0 1 0\n" + strings.Repeat("f"+corners+"\n", 3400)
	if _, err := obj.ReadMesh(context.Background(), []byte(faces)); err == nil || !strings.Contains(err.Error(), "more than 3000000 corners") {
		t.Errorf("faces: %v", err)
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := obj.ReadMesh(gone, []byte(strings.Repeat("v 0 0 0\n", 5000))); !errors.Is(err, context.Canceled) {
		t.Errorf("reading for nobody: %v", err)
	}
}

func FuzzReadLines(f *testing.F) {
	f.Add([]byte("v 0 0 0\nv 1 1 1\nl 1 2\nl -1 -2 -1 1"))
	f.Fuzz(func(t *testing.T, data []byte) {
		list, err := obj.ReadLines(context.Background(), data)
		if err == nil && len(list) == 0 {
			t.Fatal("neither a path nor an error")
		}
	})
}

const tent = "o tent\nv 0 0 0\nv 2 0 0\nv 2 0 3\nv 0 0 3\nv 1 1 0\nv 1 1 3\nf 1/1 2/2 5/3\nf 2 3 6 5\nf 4 1 -2 -1\nf 3 4 6\n"

func TestReadMesh(t *testing.T) {
	m, err := obj.ReadMesh(context.Background(), []byte(tent))
	if err != nil || len(m.Points) != 6 {
		t.Fatal(m, err)
	}
	// The rim of the tent's floor is closed and 10 long.
	c, err := m.Follow(geom.V(1, 0, 0), surface.Boundary)
	if err != nil || !c.Closed || len(c.Points) != 4 {
		t.Errorf("%+v %v", c, err)
	}
	for text, says := range map[string]string{
		"v 0 0 0\n": "no face among its 1", "v 0 0 0\nf 1 2 3": `line 2: "2" is no vertex`, "f 1 2": "line 1: f has 2 corners",
		"v 0 0 0\nv 0 0 0\nv 0 0 0\nf 1 2 3": "no faces",
	} {
		if _, err := obj.ReadMesh(context.Background(), []byte(text)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v, want an error with %q", text, err, says)
		}
	}
}

func FuzzReadMesh(f *testing.F) {
	f.Add([]byte(tent))
	f.Add([]byte("v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3\nf 1 3 4\nf 1 3 2\nf 1 1 1"))
	f.Fuzz(func(t *testing.T, data []byte) {
		m, err := obj.ReadMesh(context.Background(), data)
		if err != nil {
			return
		}
		for _, way := range []surface.Way{surface.Loop, surface.Crease, surface.Boundary, surface.Middle} {
			if c, err := m.Follow(m.Points[0], way); err == nil && len(c.Points) < 2 {
				t.Fatalf("%s: a chain of %d points", way, len(c.Points))
			}
		}
		if d := m.Drawn(); len(d.Indices) == 0 {
			t.Fatal("nothing to draw")
		}
	})
}
