package main

import (
	"context"
	"math"
	"os"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/rig"
	"bead/formats"
)

// A file of a figure becomes a scene that passes its own checks: its axes, stride, pace and materials are those
// of the file, its way is as long as was asked for.
func TestFiguresOfFilesBegin(t *testing.T) {
	read := func(name string) []byte {
		data, err := os.ReadFile("../../demo/parts/" + name)
		if err != nil {
			t.Fatal(err)
		}
		return data
	}
	for name, w := range map[string]figureWish{
		"crab.bvh": {Bends: 2}, "crab.glb": {Length: 6, Bends: 1, Count: 3, Ground: "humps"},
	} {
		d, err := figureScene(context.Background(), name, read(name), w)
		if err != nil {
			t.Fatal(name, err)
		}
		if faults := d.Check(); len(faults) > 0 {
			t.Fatal(name, faults)
		}
		k := rig.Compiler{Figures: formats.LibraryOf(d).Figure}
		s, err := k.Compile(d)
		if err != nil {
			t.Fatal(name, err)
		}
		for _, r := range check.All(s) {
			if r.State == check.Outside {
				t.Errorf("%s: %s %g %s", name, r.ID, r.Value, r.Text)
			}
		}
		speed := d.Rigs[0].Travel.Speed.PerSecond
		long := d.Paths[0].Shape.Weave.Length
		// The crab's round of 24 frames goes 0.24 m (demo/crab.go); eight strides a bend and two bends, in two digits.
		// Numbers of a GLB have 32 bits.
		if want := max(w.Length, 3.9); math.Abs(speed-0.24) > 1e-7 || math.Abs(long-want) > 1e-9 || d.Parts[0].Forward != "+x" || d.Parts[0].Up != "+y" {
			t.Errorf("%s: %g m/s on %g m, along %s, up %s", name, speed, long, d.Parts[0].Forward, d.Parts[0].Up)
		}
		if skinned := name == "crab.glb"; (len(d.Materials) == 1 && d.Parts[0].Material == d.Materials[0].ID) != skinned {
			t.Errorf("%s: materials %v", name, d.Materials)
		}
	}
	const still = "HIERARCHY\nROOT a\n{\nOFFSET 0 90 0\nCHANNELS 3 Zrotation Xrotation Yrotation\nEnd Site\n{\nOFFSET 0 -90 0\n}\n}\nMOTION\nFrames: 3\nFrame Time: 0.5\n0 0 0\n0 10 0\n0 0 0\n"
	for want, w := range map[string]figureWish{
		"runs on the spot":   {},
		"is no unit":         {Unit: "mile"},
		"lie on one line":    {Forward: "+y", Stride: 1},
		"is not an axis":     {Forward: "ahead", Stride: 1},
		"bends are not":      {Stride: 1, Length: 9, Bends: 7},
		"is no ground of a ": {Stride: 1, Ground: "mud"},
	} {
		if _, err := figureScene(context.Background(), "still.bvh", []byte(still), w); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%+v: %v, want %q", w, err, want)
		}
	}
	// Told its stride, it goes; its size of 90 says that its unit is a centimetre.
	d, err := figureScene(context.Background(), "still.bvh", []byte(still), figureWish{Stride: 1.5})
	if err != nil {
		t.Fatal(err)
	}
	if c := d.Rigs[0].Cycle; c.Stride != 1.5 || d.Parts[0].Shape.Figure.Scale != 0.01 || math.Abs(d.Rigs[0].Travel.Speed.PerSecond-1.5) > 1e-9 {
		t.Errorf("stride %g, scale %g, %g m/s", c.Stride, d.Parts[0].Shape.Figure.Scale, d.Rigs[0].Travel.Speed.PerSecond)
	}
}
