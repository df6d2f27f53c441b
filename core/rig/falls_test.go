package rig_test

import (
	"math"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/motion"
	"bead/core/place"
	"bead/core/rig"
	"bead/core/scene"
)

func going() bool { return false }

// slabs is a row of ten blocks on a line, with its pivots at their feet.
func slabs() *scene.Document {
	return &scene.Document{Bead: scene.Version, Name: "Slabs", FPS: 50, Range: scene.Range{First: 1, Last: 200},
		Paths: []scene.Path{{ID: "way", Name: "Way", Shape: scene.PathShape{Line: &scene.LineShape{From: scene.Vec3{1, 0.5, 0}, To: scene.Vec3{1, 0.5, 7.2}}}}},
		Parts: []scene.Part{{ID: "slab", Name: "Slab", Shape: scene.PartShape{Box: &scene.BoxShape{Side: 0.5, Height: 1.2, Length: 0.2}}, Pivot: scene.Vec3{0, -0.6, 0}}},
		Rigs: []scene.Rig{{ID: "run", Name: "Run", Path: "way", Part: "slab", Facing: scene.Facing{Mode: "steady"},
			Train: &scene.Train{Spacing: scene.Spacing{Mode: place.SetCount, Count: 10}, Fall: &scene.Fall{First: 11, Tilt: 12, Push: 5}}}}}
}

func compiled(t *testing.T, d *scene.Document) *rig.Scene {
	t.Helper()
	d.FillDefaults()
	if faults := d.Check(); len(faults) > 0 {
		t.Fatal(faults)
	}
	var k rig.Compiler
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// Every piece turns about its lower front edge, which stays where it is, by the tilt of the run
// (core/mech, held there against outside values), whichever end begins.
func TestPiecesFallAboutTheirEdge(t *testing.T) {
	for _, from := range []string{scene.FromStart, scene.FromEnd} {
		d := slabs()
		d.Rigs[0].Train.Fall.From = from
		s := compiled(t, d)
		row := make([]mech.Slab, 10)
		for i := range row {
			row[i] = mech.Slab{Height: 1.2, Depth: 0.2, Width: 0.5, Mass: 1, Hinge: geom.V(0, 0, 0.8*float64(i)), Ahead: geom.V(0, 0, 1)}
		}
		run, err := mech.NewTopple(going, row, 12*math.Pi/180, 9.80665)
		if err != nil {
			t.Fatal(err)
		}
		var pic rig.Picture
		tilts := make([]float64, 10)
		for frame := 1; frame <= 200; frame++ {
			s.Frame(&pic, frame)
			run.Tilts(tilts, float64(frame-11)/50)
			if push := float64(frame - 6); frame < 11 {
				tilts[0] = 12 * math.Pi / 180 * math.Pow(max(push/5, 0), 2)
			}
			for i := range 10 {
				k, sign := i, 1.0
				if from == scene.FromEnd {
					k, sign = 9-i, -1
				}
				x := pic.Rigs[0].Transforms[k*rig.Stride:]
				q := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
				at := geom.V(float64(x[0]), float64(x[1]), float64(x[2]))
				foot := 0.8 * float64(k)
				if edge := at.Add(q.Apply(geom.V(0, -0.6, sign*0.1))); edge.Sub(geom.V(1, 0.5, foot+sign*0.1)).Norm() > 2e-6 {
					t.Fatalf("from the %s, frame %d, piece %d: its edge is at %v", from, frame, k+1, edge)
				}
				up := q.Apply(geom.V(0, 1, 0))
				if got := math.Atan2(sign*up.Z, up.Y); math.Abs(got-tilts[i]) > 2e-6 {
					t.Fatalf("from the %s, frame %d, piece %d tilts by %g, want %g", from, frame, k+1, got, tilts[i])
				}
			}
		}
		r := s.Rigs[0].Falls()
		if want := 11 + 50*run.End(); r.Fallen != 10 || math.Abs(r.Ends-want) > 1e-6 || r.Why != "" {
			t.Errorf("%+v, want the end at %g", r, want)
		}
	}
}

// From the fourth piece on the rest fall as a run of their own would, and those before it stand; from
// the end it is the fourth from there.
func TestFallsFromAPieceOn(t *testing.T) {
	for _, from := range []string{scene.FromStart, scene.FromEnd} {
		d := slabs()
		d.Rigs[0].Train.Fall.From, d.Rigs[0].Train.Fall.Piece = from, 4
		d.FillDefaults()
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		r := s.Rigs[0].Falls()
		if r.Of != 7 || r.Fallen != 7 || r.Why != "" {
			t.Errorf("from the %s: %+v", from, r)
		}
		var pic rig.Picture
		s.Frame(&pic, int(math.Ceil(r.Ends)))
		for i := range 10 {
			k := i
			if from == scene.FromEnd {
				k = 9 - i
			}
			x := pic.Rigs[0].Transforms[k*rig.Stride:]
			q := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
			if stands := q.Apply(geom.V(0, 1, 0)).Y > 1-1e-9; stands != (i < 3) {
				t.Errorf("from the %s: piece %d stands: %v", from, k+1, stands)
			}
		}
		d.Rigs[0].Train.Fall.Piece = 10
		if _, err := rig.Compile(d); err == nil || !strings.Contains(err.Error(), "up to 9 is accepted") {
			t.Errorf("from the last on: %v", err)
		}
	}
}

func TestWhatCannotFall(t *testing.T) {
	for want, change := range map[string]func(*scene.Document){
		"do not move are accepted": func(d *scene.Document) { d.Rigs[0].Travel.Keys = []motion.Key{{Frame: 1}, {Frame: 9, Value: 1}} },
		"stand plumb":              func(d *scene.Document) { d.Paths[0].Shape.Line.To[1] = 2 },
		"where it balances":        func(d *scene.Document) { d.Rigs[0].Train.Fall.Tilt = 5 },
		"up to 5000 are":           func(d *scene.Document) { d.Rigs[0].Train.Spacing.Count = 5001 },
		"into the one before":      func(d *scene.Document) { d.Rigs[0].Train.Spacing.Count = 60 },
	} {
		d := slabs()
		change(d)
		d.FillDefaults()
		var k rig.Compiler
		s, err := k.Compile(d)
		if err == nil { // it falls no farther than that
			if why := s.Rigs[0].Falls().Why; strings.Contains(why, want) {
				continue
			}
		}
		if err == nil || !strings.Contains(err.Error(), want) || !strings.Contains(err.Error(), "rigs[0].train.fall") {
			t.Errorf("%v does not say %q", err, want)
		}
	}
}
