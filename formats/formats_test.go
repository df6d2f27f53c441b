package formats_test

import (
	"math"
	"strings"
	"testing"

	"bead/core/path"
	"bead/formats"
)

func TestFormatOf(t *testing.T) {
	for name, want := range map[string]string{"a.glb": "glb", "b.GLTF": "gltf", "c.d.csv": "csv"} {
		if got, err := formats.FormatOf(name); err != nil || got != want {
			t.Errorf("%s: %q, %v", name, got, err)
		}
	}
	for _, name := range []string{"", "glb", "a.", "a.doc", "a.glb.zip"} {
		if _, err := formats.FormatOf(name); err == nil || !strings.Contains(err.Error(), ".glb, .gltf, .csv") {
			t.Errorf("%q: %v, want an error that names what is accepted", name, err)
		}
	}
	for _, f := range formats.Bakeable {
		if formats.MediaTypes[f] == "" {
			t.Errorf("%s has no media type", f)
		}
	}
}

func TestReadPathsByEnding(t *testing.T) {
	square := "0,0\n2,0\n2,2\n0,2\n0,0\n"
	for _, tc := range []struct {
		file, text string
		smooth     bool
		length     float64
		tol        float64
		closed     bool
	}{
		{"loop.csv", square, false, 8, 1e-12, true},
		{"loop.TSV", strings.ReplaceAll(square, ",", "\t"), false, 8, 1e-12, true},
		{"a.svg", `<svg><rect width="3" height="1"/></svg>`, false, 8, 1e-12, true},
		{"a.obj", "v 0 0 0\nv 3 4 0\nl 1 2\n", false, 5, 1e-12, false},
	} {
		list, err := formats.ReadPaths("some/dir/"+tc.file, []byte(tc.text), tc.smooth)
		if err != nil || len(list) != 1 {
			t.Errorf("%s: %v, %v", tc.file, list, err)
			continue
		}
		c, err := path.New(list[0].Spans, list[0].Closed)
		if err != nil || math.Abs(c.Length()-tc.length) > tc.tol || c.Closed() != tc.closed {
			t.Errorf("%s: length %g, closed %v, %v", tc.file, c.Length(), c.Closed(), err)
		}
	}
	// A smooth curve passes through every point, and is longer than the straights.
	list, err := formats.ReadPaths("s.csv", []byte("0,0,0\n1,2,0\n3,1,1\n4,4,0\n"), true)
	if err != nil || list[0].Name != "s" {
		t.Fatal(list, err)
	}
	c, err := path.New(list[0].Spans, false)
	if err != nil {
		t.Fatal(err)
	}
	straight := math.Sqrt(5) + math.Sqrt(6) + math.Sqrt(11)
	if c.Length() <= straight || c.Length() > 1.3*straight {
		t.Errorf("smooth length %g beside the straight %g", c.Length(), straight)
	}
	for i := 1; i < len(c.Spans()); i++ {
		if p, _ := c.At(c.SpanStart(i)); p.Sub([]struct{ X, Y, Z float64 }{{}, {1, 2, 0}, {3, 1, 1}}[i]).Norm() > 1e-9 {
			t.Errorf("the curve misses point %d: %v", i+1, p)
		}
	}
	if _, err := formats.ReadPaths("a.pdf", nil, false); err == nil || !strings.Contains(err.Error(), ".svg, .csv, .obj") {
		t.Errorf("a PDF: %v", err)
	}
}
