package rig_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"
	"testing"

	"bead/core/geom"
	"bead/core/machine"
	"bead/core/rig"
	"bead/core/scene"
)

// moving compiles a scene of a chassis whose values are %s, with a tread on its left
// and one on its right, 2b = 1.4 m apart, and what else there is.
func moving(t testing.TB, carrier, travel, more string) *rig.Scene {
	t.Helper()
	s, err := tryMoving(carrier, travel, more)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func tryMoving(carrier, travel, more string) (*rig.Scene, error) {
	tread := func(id string, x float64) string {
		return fmt.Sprintf(`{"id":"%s","name":"%s","kind":"train","path":"%s","part":"shoe","spacing":{"mode":"set count","count":40},"facing":{"mode":"loopside"},"travel":%s}`, id, id, id, travel)
	}
	loop := func(id string, x float64) string {
		return fmt.Sprintf(`{"id":"%s","name":"%s loop","carrier":"body","shape":{"slot":{"centre":[%g,0.4,0.1],"length":2,"radius":0.4}}}`, id, id, x)
	}
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":96},
"carriers":[{"id":"body","name":"Body",%s}],"paths":[%s,%s],
"parts":[{"id":"shoe","name":"shoe","shape":{"box":{"side":0.4,"height":0.05,"length":0.1}}}],
"rigs":[%s,%s]%s}`, carrier, loop("left", 0.7), loop("right", -0.7), tread("left", 0.7), tread("right", -0.7), more))
	if err != nil {
		return nil, err
	}
	return rig.Compile(d)
}

// circle drives once round a circle of radius r in frames 1 to 97: a carrier held off
// the middle of one that turns.
const (
	spin   = `"at":[0,0,0],"turn":{"heading":{"keys":[{"frame":1,"value":0},{"frame":97,"value":360}],"after":"carry on"}}`
	rolls  = `{"rolls":"body"}`
	drives = `"at":[0,0,{"keys":[{"frame":1,"value":0,"shape":"eased"},{"frame":49,"value":3,"shape":"stepped"},{"frame":61,"value":3,"shape":"eased"},{"frame":96,"value":5}]}],
"turn":{"heading":{"keys":[{"frame":20,"value":0,"shape":"eased"},{"frame":80,"value":75}]}}`
)

// A machine that turns once, on the spot or in a circle, rolls 2 pi b farther on the
// one side than on the other (MATH 8: exact); in a circle the middle goes 2 pi r.
func TestTurningRollsTwoPiB(t *testing.T) {
	const b = 1.4
	spot := moving(t, spin, rolls, "")
	left, right := spot.Rigs[0].Travel(97), spot.Rigs[1].Travel(97)
	if math.Abs(math.Abs(right-left)-2*math.Pi*b) > 1e-12 || math.Abs(left+right) > 1e-12 {
		t.Errorf("on the spot: left %v, right %v; want a difference of %v", left, right, 2*math.Pi*b)
	}
	if left > 0 || right < 0 {
		t.Errorf("turning to the left the right side rolls ahead: left %v, right %v", left, right)
	}
	const r = 3.0
	round := moving(t, `"at":[`+fmt.Sprint(-r)+`,0,0],"parent":"hub"},{"id":"hub","name":"Hub",`+spin, rolls, "")
	left, right = round.Rigs[0].Travel(97), round.Rigs[1].Travel(97)
	if math.Abs(math.Abs(right-left)-2*math.Pi*b) > 1e-12 || math.Abs((left+right)/2-2*math.Pi*r) > 1e-9 {
		t.Errorf("in a circle: left %v, right %v; want %v and %v", left, right, 2*math.Pi*(r-b/2), 2*math.Pi*(r+b/2))
	}
}

// What lies on the ground stands still: its speed in the world along the carrier's
// forward is below 0.01 % of the speed rolled.
func TestGroundStandsStill(t *testing.T) {
	s := moving(t, drives, rolls, "")
	var a, b rig.Picture
	const h = 1.0 / 64
	for side := range 2 {
		top, worst := 0.0, 0.0
		for f := 2.0; f < 96; f += 0.37 {
			s.At(&a, f-h/2)
			s.At(&b, f+h/2)
			z := s.CarrierPlace(0, f).Z
			x, y := a.Rigs[side].Transforms, b.Rigs[side].Transforms
			low := 0
			for i := 0; i < len(x); i += rig.Stride {
				if x[i+1] < x[low+1]-1e-6 {
					low = i
				}
			}
			slide := geom.V(float64(y[low]-x[low]), float64(y[low+1]-x[low+1]), float64(y[low+2]-x[low+2])).Dot(z) / h
			worst, top = max(worst, math.Abs(slide)), max(top, math.Abs(b.Rigs[side].Travel-a.Rigs[side].Travel)/h)
		}
		// Single precision at 5 m resolves 5e-7 m, 3e-5 m a frame here.
		if top < 0.05 || worst > 1e-4*top+3e-5 {
			t.Errorf("side %d: slides by %g m a frame while rolling up to %g", side, worst, top)
		}
	}
}

// Speeds are constant to 1e-12, by whatever they are given, however far outside.
func TestDrivesInClosedForm(t *testing.T) {
	more := `,"master":"body"`
	length := 4 + 0.8*math.Pi
	for _, tc := range []struct {
		travel string
		at     func(f float64) float64
	}{
		{`{"speed":0.37,"start":2}`, func(f float64) float64 { return 2 + 0.37*(f-1)/24 }},
		{`{"rpm":30,"radius":0.25,"start":-1}`, func(f float64) float64 { return -1 + 2*math.Pi*0.25*30/60*(f-1)/24 }},
		{`{"turns":-2}`, func(f float64) float64 { return -2 * length * (f - 1) / 96 }},
		{`{"turns":3,"frames":50}`, func(f float64) float64 { return 3 * length * (f - 1) / 50 }},
		{`{"of":"carriers/body/z","ratio":-2,"offset":0.5}`, func(f float64) float64 { return 0.5 - 2*0.1*(f-1) }},
		{`{"of":"carriers/body/heading","ratio":0.01}`, func(f float64) float64 { return 0.3 }},
	} {
		s := moving(t, `"at":[0,0,{"keys":[{"frame":1,"value":0},{"frame":11,"value":1}],"before":"carry on","after":"carry on"}],"turn":{"heading":30}`, tc.travel, more)
		for _, f := range []float64{-4321, -7.25, 1, 37, 96, 97.5, 8000} {
			if got, want := s.Rigs[0].Travel(f), tc.at(f); math.Abs(got-want) > 1e-12*max(math.Abs(want), 1) {
				t.Errorf("%s at frame %g: %v, want %v", tc.travel, f, got, want)
			}
		}
	}
}

// Everything that rides is moved once: the pieces of a moved chassis are those of a
// still one, moved.
func TestCarriedOnce(t *testing.T) {
	still := moving(t, `"at":[0,0,0]`, `{"speed":0.5}`, "")
	for _, more := range []string{`,"master":"body"`, ``} {
		s := moving(t, `"at":[1,2,{"speed":0.7}],"turn":{"heading":40,"pitch":-20,"bank":65}`, `{"speed":0.5}`, more)
		var a, b rig.Picture
		still.Frame(&a, 61)
		s.Frame(&b, 61)
		m := geom.Turned(40*math.Pi/180, -20*math.Pi/180, 65*math.Pi/180)
		m.P = geom.V(1, 2, 0.7*60/24)
		for i := 0; i < len(a.Rigs[1].Transforms); i += rig.Stride {
			x, y := a.Rigs[1].Transforms[i:], b.Rigs[1].Transforms[i:]
			want := m.Apply(geom.V(float64(x[0]), float64(x[1]), float64(x[2])))
			if d := want.Sub(geom.V(float64(y[0]), float64(y[1]), float64(y[2]))).Norm(); d > 1e-6 {
				t.Fatalf("%s: piece %d is %g m away from where it is carried to", more, i/rig.Stride, d)
			}
		}
	}
}

const tugged = `,"tugs":[{"id":"neck","name":"Neck","path":"bow","points":[2],"reach":3,"pull":[0,{"keys":[{"frame":1,"value":0,"shape":"eased"},{"frame":49,"value":1.5,"shape":"eased"},{"frame":97,"value":0}],"after":"repeat"},0]}]`

// Frames with odometers, tugs and drives are pure: asked forwards, backwards or on
// eight goroutines they are the same bytes.
func TestDrivenFramesArePure(t *testing.T) {
	s := moving(t, drives, rolls, "")
	s2, err := tryMovingBow(t)
	if err != nil {
		t.Fatal(err)
	}
	for _, s := range []*rig.Scene{s2, s} {
		frames := []int{1, 96, 37, -20, 37, 140, 2}
		var want []bits
		for _, f := range frames {
			var p rig.Picture
			s.Frame(&p, f)
			want = append(want, take(&p))
		}
		var wait sync.WaitGroup
		for range 8 {
			wait.Go(func() {
				var p rig.Picture
				for i := range slices.Backward(frames) {
					s.Frame(&p, frames[i])
					if !take(&p).same(want[i]) {
						t.Errorf("frame %d differs", frames[i])
					}
				}
			})
		}
		wait.Wait()
	}
}

func tryMovingBow(t testing.TB) (*rig.Scene, error) {
	t.Helper()
	d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":96},"carriers":[{"id":"body","name":"Body","at":[0,0,{"speed":1}]}],
"paths":[{"id":"bow","name":"Bow","shape":{"spline":{"closed":true,"points":[{"at":[0,0,0]},{"at":[2,0,1]},{"at":[2,1,4]},{"at":[-1,0,3]}]}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"bow","part":"a","spacing":{"mode":"set count","count":20},"facing":{"mode":"least-twist"},"travel":{"turns":1}}]` + tugged + `}`))
	if err != nil {
		return nil, err
	}
	return rig.Compile(d)
}

// A tugged closed path keeps its least-twist choice from frame to frame: up never
// turns from one frame to the next by more than the path does, and spacing stays even
// on the length that the path then has.
func TestDeformedPathIsSteady(t *testing.T) {
	s, err := tryMovingBow(t)
	if err != nil {
		t.Fatal(err)
	}
	tr := &s.Rigs[0]
	before := tr.At(1).Field.Frame(0)
	longest, shortest := 0.0, math.Inf(1)
	for f := 1.5; f <= 97; f += 0.5 {
		now := tr.At(f)
		l := now.Curve.Length()
		longest, shortest = max(longest, l), min(shortest, l)
		if math.Abs(now.Layout.Pitch*20-l) > 1e-9 {
			t.Errorf("frame %g: 20 pitches are %v of a length of %v", f, now.Layout.Pitch*20, l)
		}
		at := now.Field.Frame(l / 3)
		was := tr.At(f - 0.5).Field.Frame(tr.At(f-0.5).Curve.Length() / 3)
		if turn := geom.Angle(at.U, was.U); turn > 0.15 {
			t.Errorf("frame %g: up turns by %.2f rad in half a frame", f, turn)
		}
	}
	if longest < shortest+0.2 {
		t.Errorf("lengths from %g to %g: the tug does nothing", shortest, longest)
	}
	if after := tr.At(97).Field.Frame(0); geom.Angle(after.U, before.U) > 1e-9 {
		t.Errorf("after the loop up has turned by %g", geom.Angle(after.U, before.U))
	}
}

// A tug moves the points it holds by its pull, those within its reach by the
// smoothstep of what is left of it, and rides on what it is told to ride on.
func TestTugs(t *testing.T) {
	for _, tc := range []struct {
		name, tug string
		want      [3]geom.Vec // of the three points at frame 25
	}{
		{"held alone", `"points":[3],"pull":[0,1,0]`, [3]geom.Vec{{}, {Z: 1}, {Y: 1, Z: 2}}},
		{"with reach", `"points":[3],"pull":[0,1,0],"reach":2`, [3]geom.Vec{{}, {Y: 0.5, Z: 1}, {Y: 1, Z: 2}}},
		{"two held", `"points":[1,3],"pull":[1,0,0]`, [3]geom.Vec{{X: 1}, {Z: 1}, {X: 1, Z: 2}}},
		{"riding", `"points":[3],"carrier":"lift"`, [3]geom.Vec{{}, {Z: 1}, {Y: 2, Z: 2}}},
		{"riding and pulled", `"points":[3],"carrier":"lift","pull":[0.5,0,0]`, [3]geom.Vec{{}, {Z: 1}, {X: 0.5, Y: 2, Z: 2}}},
	} {
		d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"carriers":[{"id":"lift","name":"Lift","at":[5,{"speed":2},0],"turn":{"heading":12}}],
"paths":[{"id":"p","name":"p","shape":{"polyline":{"points":[[0,0,0],[0,0,1],[0,0,2]]}}}],"parts":[],"rigs":[],
"tugs":[{"id":"t","name":"t","path":"p",` + tc.tug + `}]}`))
		if err != nil {
			t.Fatal(tc.name, err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(tc.name, err)
		}
		var p rig.Picture
		s.Frame(&p, 25)
		c := p.Curves[0]
		if c == nil {
			c = s.Paths[0]
		}
		for k, at := range []float64{0, c.SpanStart(1), c.Length()} {
			if got, _ := c.At(at); got.Sub(tc.want[k]).Norm() > 1e-9 {
				t.Errorf("%s: point %d at %v, want %v", tc.name, k+1, got, tc.want[k])
			}
		}
	}
}

// A rider goes at its lead from where it is told, and turns by distance over radius.
func TestRiders(t *testing.T) {
	for at, want := range map[string]float64{`"head"`: 5 + 9*0.5, `"middle"`: 5 + 4.5*0.5, `"tail"`: 5, `"piece","piece":4`: 5 + 3*0.5} {
		d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[{"id":"p","name":"p","shape":{"line":{"from":[0,0,0],"to":[0,0,100]}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"rigs":[{"id":"lamp","name":"Lamp","kind":"rider","path":"p","part":"a","facing":{"mode":"steady"},"travel":-0.25,"lead":{"rig":"dart","at":` + at + `},"rolling":0.2},
{"id":"dart","name":"Dart","kind":"train","path":"p","part":"a","spacing":{"mode":"set pitch","pitch":0.5},"facing":{"mode":"steady"},"travel":{"speed":5}}]}`))
		if err != nil {
			t.Fatal(err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		// As many as fit: 201 pieces of which the head is the last.
		if at == `"head"` {
			want = 5 + 200*0.5
		} else if at == `"middle"` {
			want = 5 + 100*0.5
		}
		want -= 0.25
		var p rig.Picture
		s.Frame(&p, 25)
		if got := p.Rigs[0].Distances[0]; math.Abs(got-want) > 1e-12 {
			t.Errorf("%s: at %v, want %v", at, got, want)
		}
		x := p.Rigs[0].Transforms
		q := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
		sin, cos := math.Sincos(want / 0.2)
		if up := q.Apply(geom.V(0, 1, 0)); up.Sub(geom.V(0, cos, sin)).Norm() > 1e-5 {
			t.Errorf("%s: rolled so that up is %v, want (0, %g, %g)", at, up, cos, sin)
		}
	}
}

// Pieces set out by their order, none is lost, all arrive and all leave.
func TestArrivals(t *testing.T) {
	for _, order := range []string{"last first", "first first", "by distance", "scattered"} {
		s := compile(t, `{"line":{"from":[0,0,0],"to":[0,0,9]}}`, box, `{"mode":"set count","count":10}`,
			`"facing":{"mode":"steady"},"travel":0,"arrive":{"first":5,"delay":2,"takes":10,"order":"`+order+`","seed":3},"leave":{"first":60,"delay":1,"takes":8,"end":"end","ease":"straight"}`)
		tr := &s.Rigs[0]
		var p rig.Picture
		shown := func(f int) (n int) {
			s.Frame(&p, f)
			for i := range 10 {
				if p.Rigs[0].Transforms[i*rig.Stride+7] != 0 {
					n++
				}
			}
			return n
		}
		for f, want := range map[int]int{4: 0, 5: 1, 7: 2, 23: 10, 50: 10, 68: 9, 77: 0} {
			if got := shown(f); got != want {
				t.Errorf("%s: %d pieces are shown at frame %d, want %d", order, got, f, want)
			}
		}
		if !tr.Settled(33) || tr.Settled(32) || tr.Settled(61) || tr.SettledFrame() != 33 {
			t.Errorf("%s: settled from frame %d", order, tr.SettledFrame())
		}
		s.Frame(&p, 40)
		for i, d := range p.Rigs[0].Distances {
			if math.Abs(d-float64(i)) > 1e-12 {
				t.Errorf("%s: piece %d has come to %v", order, i+1, d)
			}
		}
		s.Frame(&p, 10)
		first := slices.IndexFunc(p.Rigs[0].Distances, func(d float64) bool { return d > 0 && p.Rigs[0].Transforms[7] >= 0 })
		if want := map[string]int{"last first": 7, "by distance": 7, "first first": 1}[order]; want != 0 && first != want {
			t.Errorf("%s: the first piece under way is %d, want %d", order, first, want)
		}
	}
}

// Changing the parent keeps places in the world to 1e-9, in every frame.
func TestReparentKeepsPlaces(t *testing.T) {
	more := `{"id":"body","name":"Body",` + drives + `},{"id":"barge","name":"Barge","at":[{"speed":0.4},0.2,1],"turn":{"heading":{"keys":[{"frame":1,"value":-170},{"frame":96,"value":500}]},"pitch":7,"bank":-12}},
{"id":"quay","name":"Quay","at":[10,0,-3]}`
	d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":96},"carriers":[` + more + `],
"paths":[{"id":"p","name":"p","carrier":"body","shape":{"circle":{"centre":[1,0,0],"radius":1}}}],
"fixtures":[{"id":"f","name":"f","part":"a","at":[1,2,3],"heading":30}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],"rigs":[]}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	same := func(what string, a, b geom.Rigid) {
		t.Helper()
		if d := max(a.P.Sub(b.P).Norm(), a.X.Sub(b.X).Norm(), a.Y.Sub(b.Y).Norm(), a.Z.Sub(b.Z).Norm()); d > 1e-9 {
			t.Errorf("%s is moved by %g", what, d)
		}
	}
	for _, to := range []string{"barge", "quay", ""} {
		for _, kind := range [][2]string{{machine.KindPath, "p"}, {machine.KindFixture, "f"}, {machine.KindCarrier, "body"}} {
			moved, err := s.Reparent(kind[0], kind[1], to, 37)
			if err != nil {
				t.Fatal(kind, to, err)
			}
			now, err := rig.Compile(moved)
			if err != nil {
				t.Fatal(kind, to, err)
			}
			if kind[0] == machine.KindFixture {
				var a, b rig.Picture
				s.Frame(&a, 37)
				now.Frame(&b, 37)
				for k := range a.Fixtures[0] {
					if math.Abs(float64(a.Fixtures[0][k]-b.Fixtures[0][k])) > 1e-6 {
						t.Errorf("fixture to %q: %v, want %v", to, b.Fixtures[0], a.Fixtures[0])
					}
				}
			}
			same("path, as "+kind[0]+" goes to "+to, s.PathPlace(0, 37), now.PathPlace(0, 37))
			if kind[0] == machine.KindCarrier {
				for f := 1.0; f <= 96; f++ {
					same(fmt.Sprintf("body at frame %g on %q", f, to), s.CarrierPlace(0, f), now.CarrierPlace(0, f))
				}
			}
		}
	}
	// Where the parents only stand apart the keys stay what they are.
	moved, err := s.Reparent(machine.KindCarrier, "body", "quay", 1)
	if err != nil || len(moved.Carriers[0].At[2].Keys) != 4 || moved.Carriers[0].At[0].Const != -10 {
		t.Errorf("to the quay: %+v, %v", moved.Carriers[0], err)
	}
	if _, err := s.Reparent(machine.KindCarrier, "body", "body", 1); err == nil || !strings.Contains(err.Error(), "itself") {
		t.Errorf("a carrier may ride on itself: %v", err)
	}
}

// What goes wrong is said where it is, with what would be accepted.
func TestMotionFaults(t *testing.T) {
	for _, tc := range []struct{ name, carrier, travel, more, address, says string }{
		{"ring of drives", `"at":[0,0,{"of":"rigs/left/travel"}]`, `{"of":"carriers/body/z"}`, "", "", "Body z needs left travel, which needs Body z"},
		{"rolls on itself", `"at":[0,0,{"of":"rigs/left/travel"}]`, rolls, "", "", "goes round in a ring"},
		{"carrier on its own path", `"at":[0,0,0],"ride":{"path":"left","distance":0}`, `0`, "", "", "goes round in a ring: left loop needs Body, which needs left loop"},
		{"ring of parents", `"at":[0,0,0],"parent":"b"},{"id":"b","name":"B","at":[0,0,0],"parent":"body"`, `0`, "", "carriers[0].parent", "rides on itself"},
		{"unknown value", `"at":[0,0,0]`, `{"of":"rigs/lefd/travel"}`, "", "rigs[0].travel.of", "no value of this scene"},
		{"other unit", `"at":[0,0,0]`, `{"of":"carriers/body/heading"}`, "", "rigs[0].travel.ratio", "m/°"},
		{"zero radius", `"at":[0,0,0]`, `{"rpm":3,"radius":0}`, "", "rigs[0].travel.radius", "above 0"},
		{"rpm of an angle", `"at":[0,0,0],"turn":{"heading":{"rpm":3,"radius":1}}`, `0`, "", "carriers[0].turn.heading", "degrees"},
		{"turns of no path", `"at":[{"turns":1},0,0]`, `0`, "", "carriers[0].at[0]", "no distance on a path"},
		{"no such carrier", `"at":[0,0,0]`, `{"rolls":"bodi"}`, "", "rigs[0].travel.rolls", "no carrier"},
		{"side without gauge", `"at":[0,0,0]`, `{"rolls":"body","side":"left"}`, "", "rigs[0].travel.gauge", "missing"},
		{"keys at one frame", `"at":[0,{"keys":[{"frame":2,"value":0},{"frame":2,"value":1}]},0]`, `0`, "", "carriers[0].at[1].keys[1].frame", "one a frame"},
		{"endless", `"at":[1e12,0,0]`, `0`, "", "carriers[0].at[0]", "within"},
		{"unknown drive", `"at":[0,0,0]`, `{"rols":"body"}`, "", "rigs[0].travel.rols", "not a field"},
		{"tug on a slot", `"at":[0,0,0]`, `0`, `,"tugs":[{"id":"t","name":"t","path":"left","points":[1]}]`, "tugs[0].path", "points of its own"},
		{"master unknown", `"at":[0,0,0]`, `0`, `,"master":"x"`, "master", "no carrier"},
	} {
		_, err := tryMoving(tc.carrier, tc.travel, tc.more)
		var faults scene.Faults
		if f, ok := err.(scene.Faults); ok {
			faults = f
		}
		if !slices.ContainsFunc(faults, func(f scene.Fault) bool {
			return (tc.address == "" || f.Address == tc.address) && strings.Contains(f.Message, tc.says)
		}) {
			t.Errorf("%s: %v; want %q at %q", tc.name, err, tc.says, tc.address)
		}
	}
	// One frame and ten thousand are ranges.
	for _, last := range []string{"1", "10000"} {
		d, err := scene.Decode([]byte(strings.Replace(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":96},"carriers":[{"id":"b","name":"B","at":[0,0,{"speed":1}]}],"paths":[{"id":"p","name":"p","shape":{"circle":{"centre":[0,1,0],"radius":1}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":3},"facing":{"mode":"loopside"},"travel":{"rolls":"b"}}]}`, `"last":96`, `"last":`+last, 1)))
		if err != nil {
			t.Fatal(err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		if got := math.Abs(s.Rigs[0].Travel(25)); math.Abs(got-1) > 1e-9 {
			t.Errorf("range to %s: rolled %v m in a second at 1 m/s", last, got)
		}
	}
}
