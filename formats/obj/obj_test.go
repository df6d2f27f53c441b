package obj_test

import (
	"strings"
	"testing"

	"bead/core/path"
	"bead/formats/obj"
)

func TestReadLines(t *testing.T) {
	list, err := obj.ReadLines([]byte("# rail\nv 0 0 0\nv 3 0 0\nv 3 4 0\no rail\nl 1 2 3\nf 1 2 3\nl -3/1 -2 -1 1\n"))
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
		if _, err := obj.ReadLines([]byte(text)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v, want an error with %q", text, err, says)
		}
	}
}

func FuzzReadLines(f *testing.F) {
	f.Add([]byte("v 0 0 0\nv 1 1 1\nl 1 2\nl -1 -2 -1 1"))
	f.Fuzz(func(t *testing.T, data []byte) {
		list, err := obj.ReadLines(data)
		if err == nil && len(list) == 0 {
			t.Fatal("neither a path nor an error")
		}
	})
}
