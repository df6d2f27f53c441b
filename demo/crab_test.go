package demo

import (
	"bytes"
	"context"
	"math"
	"testing"

	"bead/core/figure"
	"bead/core/geom"
	"bead/formats"
	"bead/formats/bvh"
	"bead/formats/gltf"
)

// The crab's cycle closes, goes to its left by its stride, and its eight feet are found with the set
// that each belongs to; at the keys they stand where they are to a hair.
func TestCrab(t *testing.T) {
	f := Crab()
	if err := f.Check(); err != nil {
		t.Fatal(err)
	}
	forward, up, goes := f.Axes()
	if forward != geom.V(1, 0, 0) || up != geom.V(0, 1, 0) || math.Abs(goes-crabStride) > 1e-12 {
		t.Fatalf("forward %v, up %v, %g", forward, up, goes)
	}
	g := figure.NewGait(f, forward, up, geom.Vec{}, 1, 0)
	if !g.Closed || g.MissPlace > 1e-9 {
		t.Errorf("%+v", g)
	}
	feet := g.FindFeet()
	if len(feet) != 8 {
		t.Fatalf("%d feet", len(feet))
	}
	for i := range feet {
		if !feet[i].Tip || len(feet[i].Leg) != 3 {
			t.Errorf("%s: %+v", f.Joints[feet[i].Joint].Name, feet[i])
		}
		p := g.FindPlants(&feet[i])
		if len(p) != 1 || math.Abs(p[0].To-p[0].From-crabStands) > 0.06 {
			t.Fatalf("%s stands in %v", f.Joints[feet[i].Joint].Name, p)
		}
		if s := g.Slide(&feet[i], p); s > 0.003 { // its ends, where it sets down, and between keys
			t.Errorf("%s slides by %g", f.Joints[feet[i].Joint].Name, s)
		}
	}
}

// The files that ship hold the crab as it is made: written anew they are the same, and read back their
// joints are in the same places.
func TestCrabFiles(t *testing.T) {
	f := Crab()
	var text, binary bytes.Buffer
	if err := bvh.Write(&text, f); err != nil {
		t.Fatal(err)
	}
	if err := gltf.WriteFigure(&binary, "Crab", f); err != nil {
		t.Fatal(err)
	}
	for name, want := range map[string][]byte{"crab.bvh": text.Bytes(), "crab.glb": binary.Bytes()} {
		got, err := files.ReadFile("parts/" + name)
		if err != nil {
			t.Fatal(err)
		}
		if !bytes.Equal(got, want) {
			t.Errorf("%s is not what the crab makes now: run 'go run ./demo/crab'", name)
		}
		read, err := formats.ReadFigure(context.Background(), name, got)
		if err != nil {
			t.Fatal(err)
		}
		for k := range f.Times {
			was, is := f.Globals(nil, f.Between(nil, k, k, 1)), read.Globals(nil, read.Locals(nil, f.Times[k]))
			for i := range was {
				j := read.Find(f.Joints[i].Name)
				if d := was[i].P.Sub(is[j].P).Norm(); d > 1e-6 {
					t.Fatalf("%s, key %d, %s: %g off", name, k, f.Joints[i].Name, d)
				}
			}
		}
	}
}
