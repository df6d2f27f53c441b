package rig_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
)

const crabID = "0000000000000000000000000000000000000000000000000000000000000000"

// crabOn is the kelp station's crab on a path, with what else its rig and its cycle say.
func crabOn(t *testing.T, shape, more, cycle string) (*rig.Scene, error) {
	t.Helper()
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":0,"last":96},
"parts":[{"id":"crab","name":"Crab","forward":"+x","up":"+y","shape":{"figure":{"asset":%q}}}],
"paths":[{"id":"p","name":"p","shape":%s}],
"rigs":[{"id":"r","name":"Crab","path":"p","part":"crab","facing":{"mode":"steady"%s},
"travel":{"speed":0.24},"cycle":{%s}}]}`, crabID, shape, more, cycle))
	if err != nil {
		return nil, err
	}
	crab := demo.Crab()
	k := rig.Compiler{Figures: func(string) (*figure.Figure, error) { return crab, nil }}
	return k.Compile(d)
}

func crabScene(t *testing.T, shape, more, cycle string) *rig.Scene {
	t.Helper()
	s, err := crabOn(t, shape, more, cycle)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func crabGait(s *rig.Scene) *figure.Gait {
	return figure.NewGait(s.Parts[0].Figure, geom.V(1, 0, 0), geom.V(0, 1, 0), geom.Vec{}, 1, 0)
}

const (
	ahead = `{"line":{"from":[0,0,0],"to":[0,0,10]}}`
	bends = `{"weave":{"from":[0,0,0],"length":4,"width":1.2,"bends":2}}`
)

// On a straight path the cycle comes back as it was made, at any real frame and after rounds: places
// and turns of all joints to 1e-9, with its legs going along, and with legs that reach at the keys,
// where the feet that it has stand still by themselves.
func TestStraightGivesTheCycleBack(t *testing.T) {
	for _, c := range []struct {
		cycle string
		tol   float64
		frame []float64
	}{{`"legs":"free"`, 1e-9, []float64{0, 0.3, 7.77, 24, 60.5, 96}}, {``, 1e-9, []float64{0, 7, 24, 61, 96}}} {
		s := crabScene(t, ahead, "", c.cycle)
		g := crabGait(s)
		var p rig.Picture
		for _, f := range c.frame {
			s.At(&p, f)
			want, _ := g.Straight(nil, nil, f/24)
			for i := range want {
				got := p.Rigs[0].Joints[i]
				if d := got.P.Sub(want[i].P).Norm(); d > c.tol {
					t.Fatalf("%q, frame %g, %s: %g off", c.cycle, f, s.Parts[0].Figure.Joints[i].Name, d)
				}
				if d := got.X.Sub(want[i].X).Norm() + got.Y.Sub(want[i].Y).Norm(); d > 1e-7 {
					t.Fatalf("%q, frame %g, %s: turned off by %g", c.cycle, f, s.Parts[0].Figure.Joints[i].Name, d)
				}
			}
		}
	}
}

// On a circle of radius R, gone to the left, a foot that is planted at side x stands at R - x from the
// centre, to 1e-9, through the whole of its plant; and the root is so many strides along after so many rounds.
func TestFeetStandOnACircle(t *testing.T) {
	const radius = 1.5
	s := crabScene(t, `{"circle":{"centre":[0,0,0],"radius":1.5,"plane":"above"}}`, "", "")
	g := crabGait(s)
	feet := g.FindFeet()
	var p rig.Picture
	s.At(&p, 0)
	centre := geom.Vec{}
	side := 1.0 // to the left is inwards where the path turns to the left
	at, d := s.Paths[0].At(0)
	if left := geom.V(0, 1, 0).Cross(d); left.Dot(centre.Sub(at)) < 0 {
		side = -1
	}
	stood := 0
	for i := range feet {
		for _, plant := range g.FindPlants(&feet[i]) {
			mid, _ := g.Straight(nil, nil, g.NearestKey((plant.From+plant.To)/2))
			x := g.Contact(&feet[i], mid).X
			var was geom.Vec
			for k := range 21 {
				f := 24 * (plant.From + (plant.To-plant.From)*float64(k)/20)
				s.At(&p, f)
				tip := p.Rigs[0].Joints[feet[i].Joint].Apply(feet[i].Contact)
				if off := math.Hypot(tip.X, tip.Z) - (radius - side*x); math.Abs(off) > 1e-9 {
					t.Fatalf("foot %d, frame %g: %g off its circle", i, f, off)
				}
				if k > 0 && math.Hypot(tip.X-was.X, tip.Z-was.Z) > 1e-9 {
					t.Fatalf("foot %d, frame %g: it slides by %g", i, f, tip.Sub(was).Norm())
				}
				was = tip
				stood++
			}
		}
	}
	if stood < 100 {
		t.Errorf("only %d places of feet looked at", stood)
	}
	s.At(&p, 72)
	q, _ := s.Paths[0].At(3 * g.Stride)
	root, first := p.Rigs[0].Joints[0].P, demo.Crab().Shifts[0][0]
	if d := math.Hypot(root.X, root.Z) - math.Hypot(q.X, q.Z); math.Abs(d) > 1e-9 || math.Abs(root.Y-first.Y) > 1e-9 || math.Hypot(root.X-q.X, root.Z-q.Z) > 1e-9 {
		t.Errorf("after three rounds the root is at %v, the way at %v", root, q)
	}
}

// Joints that follow turn with the way where they are, and keep the lengths of bones.
func TestJointsFollow(t *testing.T) {
	s := crabScene(t, bends, "", `"follow":["shell","arms"],"sets":[{"name":"arms","joints":["left arm","right arm"]}],"legs":"free"`)
	f := s.Parts[0].Figure
	var p rig.Picture
	for _, frame := range []float64{3, 30.5, 77} {
		s.At(&p, frame)
		joints := p.Rigs[0].Joints
		g, _ := crabGait(s).Straight(nil, nil, frame/24)
		for i, j := range f.Joints {
			if j.Parent >= 0 {
				if d := joints[i].P.Sub(joints[j.Parent].P).Norm() - j.Rest.P.Norm(); math.Abs(d) > 1e-9 {
					t.Fatalf("%s: its bone is %g longer", j.Name, d)
				}
			}
			if strings.HasSuffix(j.Name, "arm") {
				at := s.Rigs[0].Field.Frame(g[i].P.Z)
				if d := at.Rigid().Turn(g[i].Z).Sub(joints[i].Z).Norm(); d > 1e-9 {
					t.Errorf("%s is turned off the way by %g", j.Name, d)
				}
			}
		}
	}
}

// Joints whose bones are drawn stand where the way puts them, each at its own distance: on a circle of radius R
// a place at side x and distance z of the straight cycle is at R - x, z / R round, as high as it was. On a
// straight path they are as they were.
func TestJointsDrawnToTheWay(t *testing.T) {
	const radius = 1.5
	const drawn = `"legs":"free","bones":"drawn","follow":["left claw","right eye","left arm"]`
	s := crabScene(t, `{"circle":{"centre":[0,0,0],"radius":1.5,"plane":"above"}}`, "", drawn)
	f := s.Parts[0].Figure
	at, d := s.Paths[0].At(0)
	side := 1.0 // to the left is inwards where the path turns to the left
	if geom.V(0, 1, 0).Cross(d).Dot(at) > 0 {
		side = -1
	}
	var p rig.Picture
	longer := 0.0
	for _, frame := range []float64{0, 9.5, 40} {
		s.At(&p, frame)
		straight, _ := crabGait(s).Straight(nil, nil, frame/24)
		for _, name := range []string{"left claw", "right eye", "left arm"} {
			j := f.Find(name)
			got, z := p.Rigs[0].Joints[j].P, straight[j].P
			round := geom.Angle(at, geom.V(got.X, 0, got.Z))
			if off := math.Hypot(got.X, got.Z) - (radius - side*z.X); math.Abs(off) > 1e-9 || math.Abs(got.Y-z.Y) > 1e-9 || math.Abs(round-math.Abs(z.Z)/radius) > 1e-9 {
				t.Errorf("frame %g, %s: %g off its circle, %g high, %g round, want %g and %g", frame, name, off, got.Y, round, z.Y, z.Z/radius)
			}
			parent := f.Joints[j].Parent
			longer = max(longer, math.Abs(got.Sub(p.Rigs[0].Joints[parent].P).Norm()-z.Sub(straight[parent].P).Norm()))
		}
	}
	if longer < 1e-4 {
		t.Errorf("bones differ by %g m at most: nothing was drawn", longer)
	}
	s = crabScene(t, ahead, "", drawn)
	s.At(&p, 30.5)
	straight, _ := crabGait(s).Straight(nil, nil, 30.5/24)
	for j := range straight {
		if d := p.Rigs[0].Joints[j].P.Sub(straight[j].P).Norm(); d > 1e-9 {
			t.Errorf("straight on, %s is %g off", f.Joints[j].Name, d)
		}
	}
}

// On ground that is 0.3 m high all stands 0.3 m higher, drawn joints too.
func TestDrawnJointsFollowTheGround(t *testing.T) {
	const drawn = `"legs":"free","ground":true,"bones":"drawn","follow":["left claw"]`
	low, high := crabScene(t, ahead, "", drawn), crabScene(t, ahead, "", drawn)
	d := *high.Doc
	d.Ground = &scene.Ground{Points: []scene.GroundPoint{{Z: -100, Height: 0.3}, {Z: 100, Height: 0.3}}}
	crab := demo.Crab()
	k := rig.Compiler{Figures: func(string) (*figure.Figure, error) { return crab, nil }}
	high, err := k.Compile(&d)
	if err != nil {
		t.Fatal(err)
	}
	var p, q rig.Picture
	low.At(&p, 17.3)
	high.At(&q, 17.3)
	for j := range p.Rigs[0].Joints {
		if up := q.Rigs[0].Joints[j].P.Sub(p.Rigs[0].Joints[j].P); up.Sub(geom.V(0, 0.3, 0)).Norm() > 1e-9 {
			t.Errorf("%s is %v higher", crab.Joints[j].Name, up)
		}
	}
}

// A picture that held figures holds none when it is of another scene.
func TestPicturesForgetJoints(t *testing.T) {
	crab, train := crabScene(t, ahead, "", ""), compiled(t, slabs())
	var p rig.Picture
	crab.Frame(&p, 5)
	if len(p.Rigs[0].Joints) == 0 {
		t.Fatal("the crab has no joints")
	}
	train.Frame(&p, 5)
	if n := len(p.Rigs[0].Joints); n != 0 {
		t.Errorf("%d joints of a train", n)
	}
}

// A layer turns its topmost joints by its values in the way's axes, and shifts them; switched off it
// does nothing. Looking ahead turns by the angle between the way here and there.
func TestLayers(t *testing.T) {
	plain := crabScene(t, bends, "", `"legs":"free"`)
	on := crabScene(t, bends, "", `"legs":"free","layers":[{"name":"arm","joints":["left arm","left claw"],"heading":30,"rise":0.02}]`)
	off := crabScene(t, bends, "", `"legs":"free","layers":[{"name":"arm","off":true,"joints":["left arm"],"heading":30}]`)
	looks := crabScene(t, bends, "", `"legs":"free","layers":[{"name":"eyes","joints":["left eye"],"looks":0.5}]`)
	f := plain.Parts[0].Figure
	arm, claw, eye := f.Find("left arm"), f.Find("left claw"), f.Find("left eye")
	var a, b, c, d rig.Picture
	for _, frame := range []float64{10, 43.5} {
		plain.At(&a, frame)
		on.At(&b, frame)
		off.At(&c, frame)
		looks.At(&d, frame)
		was, is := a.Rigs[0].Joints, b.Rigs[0].Joints
		if up := is[arm].P.Sub(was[arm].P).Sub(geom.V(0, 0.02, 0)).Norm(); up > 1e-9 {
			t.Errorf("the arm is %g off 20 mm above", up)
		}
		heading := func(a, b geom.Vec) float64 {
			return geom.AngleAbout(geom.V(0, 1, 0), geom.V(a.X, 0, a.Z), geom.V(b.X, 0, b.Z))
		}
		turned := heading(was[arm].Z, is[arm].Z) * 180 / math.Pi
		bone := is[arm].Inverse().Apply(is[claw].P).Sub(was[arm].Inverse().Apply(was[claw].P)).Norm()
		if math.Abs(turned-30) > 1e-6 || bone > 1e-9 {
			t.Errorf("it is turned by %g, its claw off by %g", turned, bone)
		}
		if c.Rigs[0].Joints[arm] != was[arm] {
			t.Error("a layer that is off turns something")
		}
		// The way where the root is, and half a metre on.
		at, _ := crabGait(plain).Straight(nil, nil, frame/24)
		here, there := plain.Rigs[0].Field.Frame(at[0].P.Z).T, plain.Rigs[0].Field.Frame(at[0].P.Z+0.5).T
		want := heading(here, there)
		if got := heading(was[eye].Z, d.Rigs[0].Joints[eye].Z); math.Abs(got-want) > 1e-6 {
			t.Errorf("the eye looks %g ahead, want %g", got, want)
		}
	}
}

// A layer on a foot that is set down turns it where it is; one on what hangs from a leg goes along with it.
func TestLayersBelowLegs(t *testing.T) {
	const feet = `"feet":[{"joint":"left leg 1 upper"}]`
	plain := crabScene(t, bends, "", feet)
	foot := crabScene(t, bends, "", feet+`,"layers":[{"name":"foot","joints":["left leg 1 upper"],"heading":20,"rise":0.1}]`)
	below := crabScene(t, bends, "", feet+`,"layers":[{"name":"below","joints":["left leg 1 lower"],"heading":20}]`)
	f := plain.Parts[0].Figure
	upper, lower := f.Find("left leg 1 upper"), f.Find("left leg 1 lower")
	var a, b, c rig.Picture
	plain.At(&a, 43.5)
	foot.At(&b, 43.5)
	below.At(&c, 43.5)
	turned := func(a, b geom.Rigid) float64 { return b.Quat().Mul(a.Quat().Inverse()).Angle() * 180 / math.Pi }
	if was, is := a.Rigs[0].Joints[upper], b.Rigs[0].Joints[upper]; math.Abs(turned(was, is)-20) > 1e-6 || is.P.Sub(was.P).Norm() > 1e-9 {
		t.Errorf("the foot is turned by %g and moved by %g", turned(was, is), is.P.Sub(was.P).Norm())
	}
	if was, is := a.Rigs[0].Joints[lower], c.Rigs[0].Joints[lower]; math.Abs(turned(was, is)-20) > 1e-6 {
		t.Errorf("what hangs from the leg is turned by %g", turned(was, is))
	}
}

// Over humps feet stand on the ground, and still, as on the level.
func TestFeetFeelTheGround(t *testing.T) {
	d := crabScene(t, ahead, "", "").Doc
	d.Ground = &scene.Ground{Humps: []scene.Hump{{Z: 0.8, Length: 1.2, Height: 0.08}}}
	d.Rigs[0].Cycle.Ground = true
	d.FillDefaults()
	crab := demo.Crab()
	k := rig.Compiler{Figures: func(string) (*figure.Figure, error) { return crab, nil }}
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	g := crabGait(s)
	feet := g.FindFeet()
	var p rig.Picture
	high := 0.0
	for frame := 0.0; frame <= 96; frame += 0.5 {
		s.At(&p, frame)
		for i := range feet {
			plants := g.FindPlants(&feet[i])
			tip := p.Rigs[0].Joints[feet[i].Joint].Apply(feet[i].Contact)
			y, _ := s.Ground().Height(tip.Z)
			high = max(high, y)
			if _, _, stands := figure.During(plants, frame/24); stands && math.Abs(tip.Y-y) > 0.004 {
				t.Fatalf("frame %g, foot %d stands %g above the ground", frame, i, tip.Y-y)
			} else if tip.Y-y < -0.001 {
				t.Fatalf("frame %g, foot %d is %g in the ground", frame, i, y-tip.Y)
			}
		}
	}
	if high < 0.05 {
		t.Error("no foot comes over the hump: the test looks at nothing")
	}
}

// A foot that is set down takes the slope of the ground: what was up on the level is along the ground's
// normal, by the slope of the hump there.
func TestFeetTakeTheSlope(t *testing.T) {
	d := crabScene(t, ahead, "", `"feet":[{"joint":"left leg 1 lower"}],"ground":true`).Doc
	crab := demo.Crab()
	k := rig.Compiler{Figures: func(string) (*figure.Figure, error) { return crab, nil }}
	level, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	over := *d
	over.Ground = &scene.Ground{Humps: []scene.Hump{{Z: 0.8, Length: 1.2, Height: 0.08}}}
	over.FillDefaults()
	hump, err := k.Compile(&over)
	if err != nil {
		t.Fatal(err)
	}
	j, steepest, looked := crab.Find("left leg 1 lower"), 0.0, 0
	var a, b rig.Picture
	for frame := 10.0; frame < 96; frame += 2.5 {
		level.At(&a, frame)
		hump.At(&b, frame)
		if hump.Rigs[0].Footprints(nil, &b.Rigs[0], frame)[0].Short > 1e-9 {
			continue // it is not where the slope is asked for
		}
		was, is := a.Rigs[0].Joints[j], b.Rigs[0].Joints[j]
		up := is.Quat().Mul(was.Quat().Inverse()).Apply(geom.V(0, 1, 0))
		z := is.Apply(crab.Joints[j].Ends[0]).Z
		high := func(z float64) float64 { y, _ := hump.Ground().Height(z); return y }
		slope, before := (high(z+1e-4)-high(z))/1e-4, (high(z)-high(z-1e-4))/1e-4
		if math.Abs(slope-before) > 1e-6 {
			continue // a corner of the profile, which has two
		}
		looked++
		steepest = max(steepest, math.Abs(slope))
		if off := geom.Angle(up, geom.V(0, 1, -slope)); off > 1e-5 {
			t.Errorf("frame %g: on a slope of %g it stands %g off the normal", frame, slope, off)
		}
	}
	if steepest < 0.05 || looked < 12 {
		t.Errorf("%d frames, the steepest slope %g: too little is looked at", looked, steepest)
	}
}

// Copies stand apart, each further in its cycle by its phase and its own way.
func TestCopies(t *testing.T) {
	s := crabScene(t, ahead, "", `"count":3,"pitch":0.7,"phase":0.25,"speeds":[1,0.5]`)
	g := crabGait(s)
	n := len(s.Parts[0].Figure.Joints)
	var p rig.Picture
	s.At(&p, 40)
	for i, speed := range []float64{1, 0.5, 1} {
		d := 0.24*40/24*speed + 0.7*float64(i)
		rounds := d/g.Stride + 0.25*float64(i)
		want, _ := g.Straight(nil, nil, rounds)
		got := p.Rigs[0].Joints[i*n].P
		if off := got.Z - (want[0].P.Z + d - rounds*g.Stride); math.Abs(off) > 1e-9 {
			t.Errorf("copy %d is %g off", i+1, off)
		}
	}
}

func TestCycleRefused(t *testing.T) {
	for _, c := range []struct{ cycle, says string }{
		{`"feet":[{"joint":"tail"}]`, `rigs[0].cycle.feet[0].joint: "tail" is no joint of "Crab"`},
		{`"feet":[{"joint":"shell","tip":true}]`, `rigs[0].cycle.feet[0].tip: "shell" has no tip`},
		{`"follow":["spine"]`, `"spine" is no joint of "Crab", and no set`},
		{`"count":3`, "copies stand on one another"},
		{`"feet":[{"joint":"shell","plants":[[1.5,2]]}]`, "a beginning from 0 to less than 1"},
		{`"legs":"fly"`, "is not accepted"},
		{`"count":1000,"pitch":1,"sets":[{"name":"","joints":[]}]`, "names no set"},
	} {
		if _, err := crabOn(t, ahead, "", c.cycle); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v, not %q", c.cycle, err, c.says)
		}
	}
	d := crabScene(t, ahead, "", "").Doc
	d.Parts[0].Forward = "-x"
	crab := demo.Crab()
	k := rig.Compiler{Figures: func(string) (*figure.Figure, error) { return crab, nil }}
	if _, err := k.Compile(d); err == nil || !strings.Contains(err.Error(), "m back in a round") {
		t.Errorf("the other way round: %v", err)
	}
	d.Parts[0].Forward = "+z"
	if _, err := k.Compile(d); err == nil || !strings.Contains(err.Error(), "it runs on the spot") {
		t.Errorf("across: %v", err)
	}
}

// Frames are pure and allocate nothing once a picture has been used.
func TestCyclesAllocateNothing(t *testing.T) {
	s := crabScene(t, bends, `,"bank":{"share":1,"limit":20,"lead":2}`, `"count":4,"pitch":0.6,"phase":0.3`)
	var p rig.Picture
	s.At(&p, 10)
	want := append([]float32(nil), p.Rigs[0].Positions...)
	s.At(&p, 50)
	if n := testing.AllocsPerRun(20, func() { s.At(&p, 10) }); n > 0 {
		t.Errorf("a frame allocates %g times", n)
	}
	for i := range want {
		if p.Rigs[0].Positions[i] != want[i] {
			t.Fatal("a frame is not the same the second time")
		}
	}
}

// A hundred figures of 31 joints each, their skins included, a frame; and a frame of their joints alone.
func BenchmarkFigures(b *testing.B) {
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":0,"last":96},
"parts":[{"id":"crab","name":"Crab","forward":"+x","up":"+y","shape":{"figure":{"asset":%q}}}],
"paths":[{"id":"p","name":"p","shape":{"weave":{"from":[0,0,0],"length":60,"width":8,"bends":6}}}],
"rigs":[{"id":"r","name":"Crab","path":"p","part":"crab","facing":{"mode":"steady"},"travel":{"speed":0.24},"cycle":{"count":100,"pitch":0.55,"phase":0.1}}]}`, crabID))
	if err != nil {
		b.Fatal(err)
	}
	for _, bare := range []bool{false, true} {
		name := "skins"
		crab := demo.Crab()
		if bare {
			name = "joints"
			crab.Skin = (&figure.Figure{Joints: crab.Joints}).Bones()
		}
		k := rig.Compiler{Figures: func(string) (*figure.Figure, error) { return crab, nil }}
		s, err := k.Compile(d)
		if err != nil {
			b.Fatal(err)
		}
		b.Run(name, func(b *testing.B) {
			var p rig.Picture
			for i := range b.N {
				s.At(&p, float64(i%96))
			}
		})
	}
}
