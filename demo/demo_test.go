package demo_test

import (
	"bytes"
	"context"
	"math"
	"slices"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
)

// Every demo scene compiles, passes its own checks and bakes to every format, to the slow ones by turns; a
// bake of some frames holds the same rows as the bake of all.
func TestScenesAreRight(t *testing.T) {
	want := map[string]struct {
		pieces int
		length float64 // of the first path; 0 where no closed form is at hand
	}{"crawler": {62, 62 * 0.19}, "hump": {62, 0}, "bucket-ladder": {60, 0}, "float-line": {48, 0}, "hull-rail": {33, 0}, "hull-plates": {17, 0}, "skid-steer": {42, 5.2 + 0.64*math.Pi}, "sounding-dart": {1, 0}, "mooring-post": {40, 0}, "eel": {1, 0}, "umbilical": {1, 5.6}, "ballast": {26, 0}, "breakwater": {60, 0}, "erosion-mat": {1, 0}, "pennants": {6, 0}, "winch": {1, 0}, "net-on-rings": {1, 0}, "crab-patrol": {1, 0}, "davit": {1, 0},
		// The first of four arches: two legs, half a circle, cut at its terrace; then the others.
		"tube-worm": {4, 4 * (2*0.35 + math.Pi*0.5 - 0.3)},
		// Four arches cut at their terraces, three treads, six rounded corners.
		"terraces": {46, 4*(2-(4-math.Pi)*0.25-0.3) + 1.5 - 6*(2-math.Pi/2)*0.06}}
	if len(demo.Names()) != len(want) {
		t.Errorf("scenes %v", demo.Names())
	}
	slow := []string{"gltf", "obj.zip", "usd.zip", "usda", "usdz"}
	for i, name := range demo.Names() {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(name, err)
		}
		k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh, Figures: formats.LibraryOf(d).Figure}
		s, err := k.Compile(d)
		if err != nil {
			t.Fatal(name, err)
		}
		for _, r := range check.All(s) {
			if r.State == check.Outside {
				t.Errorf("%s: %+v", name, r)
			}
		}
		w := want[name]
		if got := s.Rigs[0].Layout.Count; got != w.pieces {
			t.Errorf("%s has %d pieces, want %d", name, got, w.pieces)
		}
		if w.length > 0 && math.Abs(s.Paths[0].Length()-w.length) > 1e-9 {
			t.Errorf("%s is %g m long, want %g", name, s.Paths[0].Length(), w.length)
		}
		for _, f := range formats.Endings() {
			var all, some bytes.Buffer
			of, _ := formats.Of(f)
			if of.Only && (name != "crab-patrol" || f == "bvh") { // of one figure: formats_test
				continue
			}
			if turn := slices.Index(slow, f); turn >= 0 && turn != i%len(slow) {
				continue
			}
			frames, span := 0, scene.Range{First: 30, Last: 31}
			if f == "csv" {
				span.First, span.Last = d.Range.First, 40
			}
			if f == "values.csv" && len(s.Moving()) == 0 {
				continue
			}
			if of.Still || f == "obj.zip" || f == "usdz" {
				span.Last = span.First
			}
			if err := formats.Bake(context.Background(), &all, s, formats.Options{Format: f, Frames: span, Paths: true}, func(int) { frames++ }); err != nil || frames != span.Count() {
				t.Errorf("%s to %s: %d frames, %v", name, f, frames, err)
			}
			if f != "csv" {
				continue
			}
			if err := formats.Bake(context.Background(), &some, s, formats.Options{Format: f, Frames: scene.Range{First: 30, Last: 40}}, nil); err != nil {
				t.Fatal(err)
			}
			_, rows, _ := bytes.Cut(some.Bytes(), []byte("\n"))
			if !bytes.Contains(all.Bytes(), rows) {
				t.Errorf("%s: frames 30-40 baked alone differ from the whole bake", name)
			}
		}
	}
	if _, err := demo.Scene("../starters/tread"); err == nil {
		t.Error("a path is accepted as a name")
	}
}

func TestStartersCompile(t *testing.T) {
	for _, s := range demo.Starters() {
		d, err := demo.Begin(s.ID, nil)
		if err != nil {
			t.Fatalf("%s: %v", s.ID, err)
		}
		k := rig.Compiler{Figures: formats.LibraryOf(d).Figure}
		if _, err := k.Compile(d); err != nil {
			t.Errorf("%s: %v", s.ID, err)
		}
	}
	for _, bad := range []struct{ id, question, answer, says string }{
		{"walker", "frames", "36.5", "whole number"}, {"chain", "driver", "many", "whole number"},
		{"tread", "length", "long", "is not a number"}, {"walker", "stride", "NaN", "0.01 to 100 m are"}, {"walker", "legs", "4", "stride, down, frames, steps are asked"},
	} {
		if _, err := demo.Begin(bad.id, map[string]string{bad.question: bad.answer}); err == nil || !strings.Contains(err.Error(), bad.says) {
			t.Errorf("%s %s=%s: %v", bad.id, bad.question, bad.answer, err)
		}
	}
}

func TestBakeRefusesAndStops(t *testing.T) {
	d, _ := demo.Scene("crawler")
	s, _ := rig.Compile(d)
	var buf bytes.Buffer
	if err := formats.Bake(context.Background(), &buf, s, formats.Options{Format: "doc", Frames: d.Range}, nil); err == nil {
		t.Error("an unknown format is accepted")
	}
	if err := formats.Bake(context.Background(), &buf, s, formats.Options{Format: "glb", Frames: scene.Range{First: 9, Last: 3}}, nil); err == nil {
		t.Error("a backward range is accepted")
	}
	// Bodies as text in every frame come to too much, and it says what does not.
	d, _ = demo.Scene("float-line")
	floats, _ := rig.Compile(d)
	long := formats.Options{Format: "usda", Exact: true, Frames: scene.Range{First: 1, Last: 2000}}
	if err := formats.Bake(context.Background(), &buf, floats, long, nil); err == nil || !strings.Contains(err.Error(), "frames at a time, leave rigs out") {
		t.Errorf("bodies in 2000 frames as text: %v", err)
	}
	long.Frames.Last, long.Rigs = 20, []string{d.Rigs[0].ID}
	if err := formats.Bake(context.Background(), &buf, floats, long, nil); err != nil {
		t.Error(err)
	}
	d, _ = demo.Scene("crawler")
	ctx, cancel := context.WithCancel(context.Background())
	n := 0
	err := formats.Bake(ctx, &buf, s, formats.Options{Format: "glb", Frames: d.Range}, func(k int) {
		if n = k; k == 5 {
			cancel()
		}
	})
	if err == nil || n != 5 {
		t.Errorf("a cancelled bake went on to frame %d: %v", n, err)
	}
}

// What is measured of a drum is not the way along a path that it does not go.
func TestDrumsDoNotFlip(t *testing.T) {
	d, err := demo.Scene("davit")
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	seen := map[string]bool{}
	for _, r := range check.All(s) {
		seen[r.Rig+" "+r.ID] = true
	}
	if seen["drum flips"] || !seen["drum tension"] || !seen["crate flips"] {
		t.Errorf("%v", seen)
	}
}
