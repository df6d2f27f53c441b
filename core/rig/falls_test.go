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
		run, err := mech.NewTopple(going, row, mech.Push{Tilt: 12 * math.Pi / 180}, 9.80665)
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
		"stands on a slope":        func(d *scene.Document) { d.Paths[0].Shape.Line.To[1] = 30 },
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

// tiltOf is by how much a piece of rig k leans ahead, radians.
func tiltOf(pic *rig.Picture, k, piece int) float64 {
	x := pic.Rigs[k].Transforms[piece*rig.Stride:]
	up := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}.Apply(geom.V(0, 1, 0))
	return math.Atan2(up.Z, up.Y)
}

// From the middle on both halves fall, each the other's mirror image.
func TestFallsBothWays(t *testing.T) {
	d := slabs()
	d.Rigs[0].Train.Fall.From = scene.FromBoth
	s := compiled(t, d)
	if r := s.Rigs[0].Falls(); r.Fallen != 10 || r.Of != 10 || r.First != 6 {
		t.Errorf("%+v", r)
	}
	var pic rig.Picture
	for frame := 1; frame <= 200; frame += 7 {
		s.Frame(&pic, frame)
		for i := range 5 {
			if a, b := tiltOf(&pic, 0, 5+i), tiltOf(&pic, 0, 4-i); math.Abs(a+b) > 1e-6 {
				t.Fatalf("frame %d: piece %d leans by %g, piece %d by %g", frame, 6+i, a, 5-i, b)
			}
			x, y := pic.Rigs[0].Transforms[(5+i)*rig.Stride:], pic.Rigs[0].Transforms[(4-i)*rig.Stride:]
			if math.Abs(float64(x[2]+y[2])-7.2) > 1e-5 || math.Abs(float64(x[1]-y[1])) > 1e-5 {
				t.Fatalf("frame %d: piece %d is at %v, piece %d at %v", frame, 6+i, x[:3], 5-i, y[:3])
			}
		}
	}
	if a := tiltOf(&pic, 0, 9); a < 1.5 {
		t.Errorf("the last leans by %g", a)
	}
	d.Rigs[0].Train.Fall.Piece = 1
	if _, err := rig.Compile(d); err == nil || !strings.Contains(err.Error(), "from 2 to 10 is accepted") {
		t.Errorf("from the first on: %v", err)
	}
}

// hit is the row of slabs with a cube 0.2 m wide that comes along a line at a speed, m/s, and is at
// its start in frame 1.
func hit(from, to scene.Vec3, speed float64) *scene.Document {
	d := slabs()
	d.Paths = append(d.Paths, scene.Path{ID: "track", Name: "Track", Shape: scene.PathShape{Line: &scene.LineShape{From: from, To: to}}})
	d.Parts = append(d.Parts, scene.Part{ID: "cube", Name: "Cube", Shape: scene.PartShape{Box: &scene.BoxShape{Side: 0.2, Height: 0.2, Length: 0.2}}})
	d.Rigs = append(d.Rigs, scene.Rig{ID: "ram", Name: "Ram", Path: "track", Part: "cube", Facing: scene.Facing{Mode: "steady"},
		Travel: motion.Value{Keys: []motion.Key{{Frame: 1, Shape: motion.Straight}, {Frame: 201, Value: 4 * speed, Shape: motion.Straight}}}, Rider: &scene.Rider{}})
	d.Rigs[0].Train.Fall = &scene.Fall{Rig: "ram"}
	return d
}

// The cube's front is 0.1 m ahead of its middle, and the first slab's back at z = -0.1: it is reached
// when the cube has gone the gap between. It is struck in the middle of what of the cube is beside it,
// and falls from then on as one pushed by that speed does (core/mech).
func TestATouchSetsItOff(t *testing.T) {
	s := compiled(t, hit(scene.Vec3{1, 1.4, -2}, scene.Vec3{1, 1.4, 20}, 3))
	r := s.Rigs[0].Falls()
	begins, turning := 1+50*(2-0.2)/3.0, 3/0.9
	if math.Abs(r.Begins-begins) > 1e-6 || r.First != 1 || math.Abs(r.Speed*math.Pi/180-turning) > 1e-5 || r.Fallen != 10 {
		t.Fatalf("%+v, want frame %g and %g a second", r, begins, turning*180/math.Pi)
	}
	row := make([]mech.Slab, 10)
	for i := range row {
		row[i] = mech.Slab{Height: 1.2, Depth: 0.2, Width: 0.5, Mass: 1, Hinge: geom.V(0, 0, 0.8*float64(i)), Ahead: geom.V(0, 0, 1)}
	}
	run, err := mech.NewTopple(going, row, mech.Push{Speed: turning}, 9.80665)
	if err != nil {
		t.Fatal(err)
	}
	var pic rig.Picture
	tilts := make([]float64, 10)
	for frame := 1; frame <= 200; frame += 3 {
		s.Frame(&pic, frame)
		if run.Tilts(tilts, (float64(frame)-begins)/50); float64(frame) < begins {
			clear(tilts)
		}
		for i := range tilts {
			if got := tiltOf(&pic, 0, i); math.Abs(got-tilts[i]) > 1e-5 {
				t.Fatalf("frame %d, piece %d: %g, want %g", frame, i+1, got, tilts[i])
			}
		}
	}
}

// From ahead it falls back, from the middle on; slowly it leans as the cube pushes until it falls by
// itself; across the row, or beside it, nothing falls.
func TestHowATouchPushes(t *testing.T) {
	back := compiled(t, hit(scene.Vec3{1, 1.4, 8.5}, scene.Vec3{1, 1.4, -20}, 3)).Rigs[0].Falls()
	if back.First != 10 || back.Fallen != 10 {
		t.Errorf("from ahead: %+v", back)
	}
	slow := compiled(t, hit(scene.Vec3{1, 1.4, -0.5}, scene.Vec3{1, 1.4, 20}, 0.2))
	r := slow.Rigs[0].Falls()
	if want := 1 + 50*0.3/0.2 + 50*r.Tilt*math.Pi/180/(0.2/0.9); r.Fallen != 10 || math.Abs(r.Begins-want) > 1e-3 {
		t.Errorf("slowly: %+v, want it let go at %g", r, want)
	}
	var pic rig.Picture
	if slow.At(&pic, 1+75+10); math.Abs(tiltOf(&pic, 0, 0)-0.2/0.9*0.2) > 1e-5 {
		t.Errorf("while it is pushed it leans by %g", tiltOf(&pic, 0, 0))
	}
	for name, d := range map[string]*scene.Document{
		"across":  hit(scene.Vec3{-3, 1.4, 1.6}, scene.Vec3{20, 1.4, 1.6}, 3),
		"beside":  hit(scene.Vec3{1.4, 1.4, -2}, scene.Vec3{1.4, 1.4, 20}, 3),
		"too low": hit(scene.Vec3{1, 0.3, -2}, scene.Vec3{1, 0.3, 20}, 3),
	} {
		if r := compiled(t, d).Rigs[0].Falls(); r.Fallen != 0 || !strings.Contains(r.Why, "no piece is touched by Ram from frame 1 to 200") {
			t.Errorf("%s: %+v", name, r)
		}
	}
}

// A carrier sets it off by the fixture on it; another falling run can; two that wait for one another
// are told.
func TestWhatElseSetsItOff(t *testing.T) {
	d := hit(scene.Vec3{1, 1.4, -2}, scene.Vec3{1, 1.4, 20}, 3)
	d.Carriers = []scene.Carrier{{ID: "cart", Name: "Cart", Ride: &scene.Ride{Path: "track", Distance: d.Rigs[1].Travel}}}
	d.Rigs = d.Rigs[:1]
	d.Fixtures = []scene.Fixture{{ID: "ram", Name: "Ram", Part: "cube", Carrier: "cart"}}
	d.Rigs[0].Train.Fall = &scene.Fall{On: "cart"}
	if r := compiled(t, d).Rigs[0].Falls(); math.Abs(r.Begins-(1+50*1.8/3)) > 1e-6 || r.Fallen != 10 {
		t.Errorf("by a carrier: %+v", r)
	}

	d = slabs()
	second := d.Rigs[0]
	second.ID, second.Name, second.Path = "next", "Next", "on"
	second.Train = &scene.Train{Spacing: second.Train.Spacing, Fall: &scene.Fall{Rig: "run"}}
	d.Paths = append(d.Paths, scene.Path{ID: "on", Name: "On", Shape: scene.PathShape{Line: &scene.LineShape{From: scene.Vec3{1, 0.5, 8}, To: scene.Vec3{1, 0.5, 15.2}}}})
	d.Rigs = append(d.Rigs, second)
	s := compiled(t, d)
	if a, b := s.Rigs[0].Falls(), s.Rigs[1].Falls(); b.Fallen != 10 || !(b.Begins > 11 && b.Begins < a.Ends) {
		t.Errorf("by another run: %+v after %+v", b, a)
	}
	d.Rigs[0].Train.Fall = &scene.Fall{Rig: "next"}
	d.FillDefaults()
	if _, err := rig.Compile(d); err == nil || !strings.Contains(err.Error(), "goes round in a ring") {
		t.Errorf("in a ring: %v", err)
	}
}

// Up and down a slope pieces stand on it and fall onto it: none has a corner below it or lies in the next, in any
// frame; each behind the front touches the one before it; in the end the last one lies on the slope, as thick as
// it is deep.
func TestFallsOnASlope(t *testing.T) {
	for _, rise := range []float64{-1, 0.6} {
		d := slabs()
		l := d.Paths[0].Shape.Line
		l.To[1] += rise
		d.Rigs[0].Train.Fall.Tilt = 0
		d.FillDefaults()
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		run := s.Rigs[0].Falls()
		if run.Why != "" {
			t.Fatalf("rise %g: %s", rise, run.Why)
		}
		from := geom.FromArray(l.From)
		along := geom.FromArray(l.To).Sub(from).Unit()
		up := geom.V(0, 1, 0).Sub(along.Mul(along.Y)).Unit()
		part := &s.Parts[s.Rigs[0].Part]
		depth := math.Abs(part.Bounds.Size().Dot(part.Axes.Forward))
		var pic rig.Picture
		boxes := make([]geom.Cuboid, s.Rigs[0].Layout.Count)
		low, in, off := 0.0, 0.0, 0.0
		for f := int(run.Begins) - 10; f <= int(run.Ends)+2; f++ {
			s.Frame(&pic, f)
			for k := range boxes {
				at := rig.Place(pic.Rigs[0].Transforms[k*rig.Stride:][:7]).Rigid()
				at.P = at.P.Sub(from)
				boxes[k] = geom.CuboidOf(part.Bounds, at, 1)
				lo, _ := boxes[k].Span(up)
				low = min(low, lo)
			}
			for k := range len(boxes) - 1 {
				gap := boxes[k].Apart(&boxes[k+1])
				in = min(in, gap)
				if up := tiltOf(&pic, 0, k+1) + math.Asin(along.Y); up > 1e-3 {
					off = max(off, gap)
				}
			}
		}
		t.Logf("rise %g: %g m below, %g m in one another, %g m off one another", rise, -low, -in, off)
		if low < -2e-6 || in < -2e-6 || off > 2e-6 {
			t.Errorf("rise %g: %g m below the slope, %g m in one another, %g m off one another", rise, -low, -in, off)
		}
		if lo, hi := boxes[len(boxes)-1].Span(up); math.Abs(lo) > 2e-6 || math.Abs(hi-depth) > 2e-6 {
			t.Errorf("rise %g: the last one lies from %g to %g m above the slope, %g deep", rise, lo, hi, depth)
		}
	}
}
