package formats_test

import (
	"bytes"
	"context"
	"math"
	"strings"
	"testing"

	"bead/core/path"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
)

// What is guide only stays at home, so do rigs that were not asked for; pieces that
// have not arrived come with scale 0 and a channel that says when they are there.
func TestWhatIsDelivered(t *testing.T) {
	baked := func(name, format string, rigs ...string) string {
		t.Helper()
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		var out bytes.Buffer
		if err := formats.Bake(context.Background(), &out, s, formats.Options{Format: format, Frames: d.Range, Rigs: rigs}, nil); err != nil {
			t.Fatal(err)
		}
		return out.String()
	}
	for _, tc := range []struct {
		name, format string
		rigs         []string
		has, not     []string
	}{
		{"sounding-dart", "gltf", nil, []string{"Dart body", "Dart joint 4", "greatestErrorMetres", "Lamp piece 001"}, []string{"Depth mark"}},
		{"sounding-dart", "csv", nil, []string{",dart,", ",lamp,"}, []string{",marks,"}},
		{"sounding-dart", "csv", []string{"lamp"}, []string{",lamp,"}, []string{",marks,", ",dart,"}},
		{"hull-plates", "gltf", nil, []string{`"path": "scale"`}, nil},
		{"hull-plates", "gltf", []string{"upper"}, []string{"Upper plates piece 017"}, []string{"Lower"}},
		{"hull-plates", "csv", nil, []string{"1,upper,1,", ",0,0,0,"}, nil},
		{"crawler", "gltf", nil, nil, []string{`"path": "scale"`}},
	} {
		text := baked(tc.name, tc.format, tc.rigs...)
		for _, want := range tc.has {
			if !strings.Contains(text, want) {
				t.Errorf("%s to %s, %v: no %s", tc.name, tc.format, tc.rigs, want)
			}
		}
		for _, bad := range tc.not {
			if strings.Contains(text, bad) {
				t.Errorf("%s to %s, %v: has %s", tc.name, tc.format, tc.rigs, bad)
			}
		}
	}
}

func TestFormatOf(t *testing.T) {
	for name, want := range map[string]string{"a.glb": "glb", "b.GLTF": "gltf", "c.d.csv": "csv", "a.OBJ.zip": "obj.zip"} {
		if got, err := formats.FormatOf(name); err != nil || got != want {
			t.Errorf("%s: %q, %v", name, got, err)
		}
	}
	for _, name := range []string{"", "glb", "a.", "a.doc", "a.glb.zip"} {
		if _, err := formats.FormatOf(name); err == nil || !strings.Contains(err.Error(), ".glb, .gltf, .usda") {
			t.Errorf("%q: %v, want an error that names what is accepted", name, err)
		}
	}
	for _, f := range formats.All {
		if f.Media == "" || f.Text == "" || f.Name == "" {
			t.Errorf("%+v is not whole", f)
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
		list, err := formats.ReadPaths(context.Background(), "some/dir/"+tc.file, []byte(tc.text), tc.smooth)
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
	list, err := formats.ReadPaths(context.Background(), "s.csv", []byte("0,0,0\n1,2,0\n3,1,1\n4,4,0\n"), true)
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
	if _, err := formats.ReadPaths(context.Background(), "a.pdf", nil, false); err == nil || !strings.Contains(err.Error(), ".svg, .csv, .obj") {
		t.Errorf("a PDF: %v", err)
	}
}

// A mesh from a file bends like any part, here with its forward along -x and cut into segments: a box on a
// circle becomes an annular sector of exact radii (closed form), whichever way it was modelled.
func TestImportedMeshBends(t *testing.T) {
	file := []byte("v -1 -0.1 -0.2\nv 1 -0.1 -0.2\nv 1 0.1 -0.2\nv -1 0.1 -0.2\nv -1 -0.1 0.2\nv 1 -0.1 0.2\nv 1 0.1 0.2\nv -1 0.1 0.2\n" +
		"f 1 4 3 2\nf 5 6 7 8\nf 1 2 6 5\nf 3 4 8 7\nf 1 5 8 4\nf 2 3 7 6\n")
	d := &scene.Document{Bead: scene.Version, Name: "t", FPS: 24, Range: scene.Range{First: 1, Last: 2},
		Paths:  []scene.Path{{ID: "p", Name: "p", Shape: scene.PathShape{Circle: &scene.CircleShape{Radius: 1}}}},
		Parts:  []scene.Part{{ID: "m", Name: "m", Shape: scene.PartShape{File: &scene.FileShape{Asset: scene.AssetID(file), Scale: 0.5}}, Forward: "-x", Segments: 40}},
		Rigs:   []scene.Rig{{ID: "r", Name: "r", Path: "p", Part: "m", Facing: scene.Facing{Mode: "loopside"}, Body: &scene.Body{}}},
		Assets: []scene.Asset{{ID: scene.AssetID(file), Name: "box.obj", Data: file}}}
	d.FillDefaults()
	if faults := d.Check(); len(faults) > 0 {
		t.Fatal(faults)
	}
	k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh, Figures: formats.LibraryOf(d).Figure}
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	var pic rig.Picture
	s.Frame(&pic, 1)
	p := pic.Rigs[0].Positions
	if r := pic.Rigs[0].Reach[0]; math.Abs(r.Head-r.Tail-1) > 1e-9 || len(p) < 3*4*41 {
		t.Fatalf("from %g to %g with %d floats", r.Tail, r.Head, len(p))
	}
	for i := 0; i < len(p); i += 3 {
		r := math.Hypot(float64(p[i+1]), float64(p[i+2]))
		// Those on a diagonal of its flat sides lie between the radii, at the side.
		flat := math.Abs(math.Abs(float64(p[i]))-0.1) < 1e-7 && math.Abs(r-1) < 0.05+2e-7
		if !flat && math.Abs(math.Abs(r-1)-0.05) > 2e-7 || math.Abs(float64(p[i])) > 0.1+1e-7 {
			t.Fatalf("vertex %d stands at radius %.9f, side %g", i/3, r, p[i])
		}
	}
}
