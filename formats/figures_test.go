package formats_test

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/csv"
	"io"
	"math"
	"strconv"
	"strings"
	"testing"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
)

// patrol is the demo scene of the crabs; with so many keys of their cycle left out after each.
func patrol(t *testing.T, leave int) *rig.Scene {
	t.Helper()
	d, err := demo.Scene("crab-patrol")
	if err != nil {
		t.Fatal(err)
	}
	library := formats.LibraryOf(d)
	k := rig.Compiler{Figures: func(asset string) (*figure.Figure, error) {
		f, err := library.Figure(asset)
		if err != nil {
			return nil, err
		}
		few := &figure.Figure{Joints: f.Joints, Skin: f.Skin}
		for i := 0; i < len(f.Times); i += 1 + leave {
			few.Times, few.Turns, few.Shifts = append(few.Times, f.Times[i]), append(few.Turns, f.Turns[i]), append(few.Shifts, f.Shifts[i])
		}
		return few, nil
	}}
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func baked(t *testing.T, s *rig.Scene, o formats.Options) []byte {
	t.Helper()
	var out bytes.Buffer
	if err := formats.Bake(context.Background(), &out, s, o, nil); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// A figure that leaves as BVH or glTF comes back with its joints where the picture has them, whatever
// its path: that is not needed any more. With keys of its own it says how far off it is, and is.
func TestFiguresLeaveOnTheirOwnJoints(t *testing.T) {
	const first, last = 20, 60
	for _, file := range []string{"a.bvh", "a.glb", "own.glb"} {
		o := formats.Options{Format: strings.SplitN(file, ".", 2)[1], Frames: scene.Range{First: first, Last: last}, Rigs: []string{"scout"}}
		tol, s := 1e-5, patrol(t, 0)
		if file == "own.glb" {
			o.OwnKeys, o.Tolerance, tol, s = true, 0.002, 0.00201, patrol(t, 5)
		}
		f, err := formats.ReadFigure(context.Background(), file, baked(t, s, o))
		if err != nil {
			t.Fatal(err)
		}
		own := s.Parts[0].Figure
		var pic rig.Picture
		for n := first; n <= last; n += 4 {
			s.Frame(&pic, n)
			joints := f.Globals(nil, f.Locals(nil, float64(n-first)/24))
			for i, want := range pic.Rigs[0].Joints {
				if off := joints[f.Find(own.Joints[i].Name)].P.Sub(want.P).Norm(); off > tol {
					t.Fatalf("%s, frame %d, %s: %g off", file, n, own.Joints[i].Name, off)
				}
			}
		}
		if file == "own.glb" {
			keysAreOwn(t, s, f, first)
		}
	}
	s := patrol(t, 0)
	still, err := formats.ReadFigure(context.Background(), "a.bvh", baked(t, s, formats.Options{Format: "bvh", Frames: scene.Range{First: first, Last: last}, Rigs: []string{"scout"}, InPlace: true}))
	if err != nil {
		t.Fatal(err)
	}
	n := len(still.Times) - 1
	if a, b := still.Shifts[0][0], still.Shifts[n][0]; math.Hypot(a.X-b.X, a.Z-b.Z) > 1e-9 {
		t.Errorf("in place its root goes from %v to %v", a, b)
	}
}

// keysAreOwn holds the keys of a figure that was baked from a frame on at its own keys to those: each that lies
// between two frames is one at which its cycle has a key, and the joints are where they are then.
func keysAreOwn(t *testing.T, s *rig.Scene, f *figure.Figure, first int) {
	t.Helper()
	gait := s.Parts[0].Figure
	between := 0
	var pic rig.Picture
	for _, at := range f.Times {
		frame := float64(first) + at*24
		s.At(&pic, frame)
		joints := f.Globals(nil, f.Locals(nil, at))
		for i, want := range pic.Rigs[0].Joints {
			if off := joints[f.Find(gait.Joints[i].Name)].P.Sub(want.P).Norm(); off > 1e-5 {
				t.Fatalf("frame %g, %s: %g off", frame, gait.Joints[i].Name, off)
			}
		}
		if math.Abs(frame-math.Round(frame)) < 1e-3 {
			continue
		}
		between++
		u := s.Rigs[0].Rounds(0, frame)
		nearest := math.Inf(1)
		for _, key := range gait.Times {
			share := (key - gait.Times[0]) / (gait.Times[len(gait.Times)-1] - gait.Times[0])
			nearest = min(nearest, math.Abs(u-math.Floor(u)-share))
		}
		// A GLB's times have 32 bits, and rounds between two frames are taken to go evenly.
		if nearest > 2e-3 {
			t.Errorf("frame %g, %g rounds: its cycle has no key there, the nearest is %g rounds away", frame, u, nearest)
		}
	}
	if between < 10 {
		t.Errorf("%d of %d keys lie between two frames", between, len(f.Times))
	}
}

// All four leave in an archive; the table has a row a frame and joint, with the picture's places.
func TestFiguresInArchiveAndTable(t *testing.T) {
	s := patrol(t, 0)
	z := baked(t, s, formats.Options{Format: "bvh.zip", Frames: scene.Range{First: 1, Last: 3}})
	archive, err := zip.NewReader(bytes.NewReader(z), int64(len(z)))
	if err != nil || len(archive.File) != 4 {
		t.Fatalf("%v, %v", archive, err)
	}
	for _, file := range archive.File {
		r, err := file.Open()
		if err != nil {
			t.Fatal(err)
		}
		data, err := io.ReadAll(r)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := formats.ReadFigure(context.Background(), file.Name, data); err != nil {
			t.Errorf("%s: %v", file.Name, err)
		}
	}
	rows, err := csv.NewReader(bytes.NewReader(baked(t, s, formats.Options{Format: "joints.csv", Frames: scene.Range{First: 7, Last: 8}}))).ReadAll()
	if err != nil || len(rows) != 1+2*4*31 {
		t.Fatalf("%d rows, %v", len(rows), err)
	}
	var pic rig.Picture
	s.Frame(&pic, 7)
	var at [3]float64
	for i := range at {
		at[i], _ = strconv.ParseFloat(rows[6][4+i], 64)
	}
	if off := geom.FromArray(at).Sub(pic.Rigs[0].Joints[5].P).Norm(); off > 1e-8 || rows[6][3] != s.Parts[0].Figure.Joints[5].Name {
		t.Errorf("%v is %g off", rows[6], off)
	}
	for format, says := range map[string]string{"bvh": "4 are delivered"} {
		err := formats.Bake(context.Background(), io.Discard, s, formats.Options{Format: format, Frames: scene.Range{First: 1, Last: 1}}, nil)
		if err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v", format, err)
		}
	}
}
