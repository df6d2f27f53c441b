package rig_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
)

func winch(t *testing.T, drum, travel string) (*rig.Scene, error) {
	t.Helper()
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":0,"last":40},"plays":"once",
"parts":[{"id":"core","name":"Drum","forward":"+x","shape":{"tube":{"length":0.4,"radius":0.15}}}],
"paths":[{"id":"p","name":"Rope","shape":{"hang":{"from":[0,3,0],"to":[0.5,0.4,6],"length":8,"drum":"r"}}}],
"rigs":[{"id":"r","name":"Winch","path":"p","part":"core","drum":%s,"facing":{"mode":"steady"},"travel":%s}]}`, drum, travel))
	if err != nil {
		return nil, err
	}
	return rig.Compile(d)
}

// Rope that is off the drum and on it are the same length in every frame: the cable, and what lies on
// the drum up to where it leaves it, measured along the drawn middle line. There the two run on into
// one another without a bend, and the drum has turned by what it has paid out.
func TestDrumKeepsItsRope(t *testing.T) {
	for _, under := range []string{"", `,"under":true`} {
		s, err := winch(t, `{"radius":0.15,"width":0.4,"rope":0.02,"wound":50`+under+`}`, `{"keys":[{"frame":0,"value":0,"shape":"straight"},{"frame":40,"value":30}]}`)
		if err != nil {
			t.Fatal(err)
		}
		var p rig.Picture
		all := math.NaN()
		for f := 0.0; f <= 40; f++ {
			s.At(&p, f)
			curve := p.Curves[0]
			// The rope's middle line on the drum: the means of its rings.
			r := &p.Rigs[0]
			var line []geom.Vec
			for v := 0; v < len(r.Positions)/3; v += 6 {
				var mid geom.Vec
				for k := range 6 {
					mid = mid.Add(vec(r.Positions, v+k).Mul(1. / 6))
				}
				line = append(line, mid)
			}
			on := 0.0
			for k := 1; k < len(line); k++ {
				on += line[k].Sub(line[k-1]).Norm()
			}
			on /= 1 - math.Pow(math.Pi/28, 2)/6 // chords of a 28th of a turn are shorter than their arcs
			start, ahead := curve.At(0)
			// It leaves along the drum: square to the way out from the axis.
			out := start.Sub(geom.V(0, 3, 0))
			axis := geom.V(0, 1, 0).Cross(geom.V(0.5, 0, 6).Unit())
			if lean := math.Abs(out.Mad(axis, -out.Dot(axis)).Unit().Dot(ahead.Mad(axis, -ahead.Dot(axis)).Unit())); lean > 1e-4 { // it goes a little across, from flange to flange
				t.Errorf("frame %g: it leaves the drum %g off its tangent", f, lean)
			}
			if gap := line[len(line)-1].Sub(start).Norm(); gap > 1e-5 {
				t.Fatalf("frame %g: the rope on the drum ends %g m from the cable", f, gap)
			}
			if total := on + curve.Length(); math.IsNaN(all) {
				all = total
			} else if math.Abs(total-all) > 0.02 { // a climb to the next layer that is half done
				t.Errorf("frame %g: %.4f m of rope on the drum and %.4f off it, %.4f at first", f, on, curve.Length(), all)
			}
		}
	}
}

// The drum turns by the rope's way over the radius: 5 m off the first layer of radius 0.16 are
// 5 / hypot(2 pi 0.16, 0.02) turns; the cable is longer by as much, but for what the changed tangent takes.
func TestDrumTurns(t *testing.T) {
	s, err := winch(t, `{"radius":0.15,"width":0.4,"rope":0.02,"wound":15}`, `{"keys":[{"frame":0,"value":0,"shape":"straight"},{"frame":40,"value":5}]}`)
	if err != nil {
		t.Fatal(err)
	}
	up := func(f int) geom.Vec {
		var p rig.Picture
		s.Frame(&p, f)
		x := p.Rigs[0].Transforms
		return geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}.Apply(geom.V(0, 1, 0))
	}
	turned := 0.0
	for f := 1; f <= 40; f++ {
		turned += geom.Angle(up(f-1), up(f))
	}
	if want := 2 * math.Pi * 5 / math.Hypot(2*math.Pi*0.16, 0.02); math.Abs(turned-want) > 1e-4 {
		t.Errorf("turned by %g, not %g", turned, want)
	}
	out := report.Of(s).Rigs[0].Drum
	if out == nil || out.Layers != 1 || out.RunsOut != nil || math.Abs(out.Turns-15/math.Hypot(2*math.Pi*0.16, 0.02)) > 1e-9 {
		t.Errorf("%+v", out)
	}
	for drum, says := range map[string]string{
		`{"radius":2.9,"width":0.4,"rope":0.02,"wound":5}`:      "off its drum",
		`{"radius":0.15,"width":0.01,"rope":0.02,"wound":5}`:    "does not lie between flanges",
		`{"radius":0,"width":0.4,"rope":0.02,"wound":5}`:        "is not accepted",
		`{"radius":0.15,"width":0.4,"rope":0.0005,"wound":900}`: "turns of rope",
	} {
		if _, err := winch(t, drum, "0"); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v, not %q", drum, err, says)
		}
	}
}

// open is a drum whose rope goes up over a wheel and down under another, over a third, from which it hangs.
func open(t *testing.T, drum, travel, ends, more string) (*rig.Scene, error) {
	t.Helper()
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":0,"last":40},"plays":"once",
"parts":[{"id":"core","name":"Drum","forward":"+x","shape":{"tube":{"length":0.4,"radius":0.15}}}],
"paths":[{"id":"p","name":"Rope","shape":{"wrap":{"plane":"side","wheels":[{"name":"A","at":[0,5,2],"radius":0.3},{"name":"B","at":[0,4,4],"radius":0.2,"back":true},{"name":"C","at":[0,6,6],"radius":0.4}],"ends":%s%s}}}],
"rigs":[{"id":"r","name":"Winch","path":"p","part":"core","drum":%s,"facing":{"mode":"steady"},"travel":%s}]}`, ends, more, drum, travel))
	if err != nil {
		return nil, err
	}
	return rig.Compile(d)
}

// Of a belt with a drum at its start the rope is as long in every frame, on the drum and off it; it leaves the
// drum where it lies on that, its free end hangs straight below the edge of the last wheel, and the wheels turn
// by what comes over them.
func TestOpenBeltKeepsItsRope(t *testing.T) {
	const ends = `{"from":[0,1,0],"length":14,"drum":"r"}`
	for _, under := range []string{"", `,"under":true`} {
		s, err := open(t, `{"radius":0.15,"width":0.4,"rope":0.02,"wound":50`+under+`}`, `{"keys":[{"frame":0,"value":0,"shape":"straight"},{"frame":40,"value":30}]}`, ends, "")
		if err != nil {
			t.Fatal(err)
		}
		drum := mech.Drum{Radius: 0.15, Width: 0.4, Rope: 0.02}
		var p rig.Picture
		var hung, turned [2]float64
		for f := 0; f <= 40; f++ {
			s.Frame(&p, f)
			curve := p.Curves[0]
			start, ahead := curve.At(0)
			end, down := curve.At(curve.Length())
			if math.Abs(end.Z-6.4) > 1e-9 || math.Abs(end.X) > 1e-9 || down.Sub(geom.V(0, -1, 0)).Norm() > 1e-9 {
				t.Fatalf("%q, frame %d: its end is at %v, on its way %v", under, f, end, down)
			}
			at := drum.At(50 - 30*float64(f)/40)
			out := start.Sub(geom.V(at.Across, 1, 0))
			if math.Abs(out.Norm()-at.Radius) > 1e-9 || math.Abs(out.Unit().Dot(geom.V(0, ahead.Y, ahead.Z).Unit())) > 1e-9 {
				t.Fatalf("%q, frame %d: it leaves the drum %g m from its axis, %g off its tangent", under, f, out.Norm(), out.Unit().Dot(ahead))
			}
			// From the top of the drum, or its foot, up to where it leaves it.
			sense := 1.0
			if under != "" {
				sense = -1
			}
			lies := sense * at.Radius * math.Atan2(ahead.Y, ahead.Z)
			if got := curve.Length() - lies - 30*float64(f)/40; math.Abs(got-14) > 1e-9 {
				t.Fatalf("%q, frame %d: %g m off the drum that were 14", under, f, got)
			}
			r := &p.Rigs[0]
			var last geom.Vec
			for k := range 6 {
				last = last.Add(vec(r.Positions, len(r.Positions)/3-6+k).Mul(1. / 6))
			}
			if gap := last.Sub(start).Norm(); gap > 1e-5 {
				t.Fatalf("%q, frame %d: the rope on the drum ends %g m from where it goes on", under, f, gap)
			}
			wheel := p.Wheels[0][2].Place.Rigid()
			turn := math.Atan2(wheel.Z.Y, wheel.Z.Z)
			if f == 0 {
				hung[0], turned[0], turned[1] = end.Y, turn, turn
			}
			turned[1] += math.Remainder(turn-turned[1], 2*math.Pi)
			hung[1] = end.Y
			// What hangs longer has come over the wheel: forward over its top it turns down ahead.
			if want := -(hung[0] - hung[1]) / 0.4; math.Abs(turned[1]-turned[0]-want) > 1e-5*(1+math.Abs(want)) {
				t.Fatalf("%q, frame %d: the last wheel has turned by %g, want %g", under, f, turned[1]-turned[0], want)
			}
		}
		if hung[0]-hung[1] < 20 {
			t.Errorf("its end went down by %g m", hung[0]-hung[1])
		}
	}
}

// Sent the other way, or in the plane ahead, an open belt is the mirror image of itself, and turned by a quarter; made
// fast, its wheels turn with the pieces that go along it.
func TestOpenBeltsEveryWay(t *testing.T) {
	belt := func(plane string, at func(z, y float64) string) *rig.Scene {
		d, err := scene.Decode(fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":0,"last":40},"plays":"once",
"parts":[{"id":"a","name":"A","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"paths":[{"id":"p","name":"Rope","shape":{"wrap":{"plane":%q,"wheels":[{"name":"A","at":%s,"radius":0.3},{"name":"B","at":%s,"radius":0.2,"back":true},{"name":"C","at":%s,"radius":0.4}],"ends":{"from":%s,"length":14}}}}],
"rigs":[{"id":"r","name":"R","path":"p","part":"a","train":{"spacing":{"mode":"set count","count":3}},"facing":{"mode":"least-twist"},"travel":{"keys":[{"frame":0,"value":0,"shape":"straight"},{"frame":40,"value":2}]}}]}`,
			plane, at(2, 5), at(4, 4), at(6, 6), at(0, 1)))
		if err != nil {
			t.Fatal(err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		return s
	}
	side := belt("side", func(z, y float64) string { return fmt.Sprintf("[0,%g,%g]", y, z) })
	back := belt("side", func(z, y float64) string { return fmt.Sprintf("[0,%g,%g]", y, -z) })
	ahead := belt("ahead", func(z, y float64) string { return fmt.Sprintf("[%g,%g,0]", z, y) })
	for k := range 50 {
		d := 14 * float64(k) / 49
		p, _ := side.Paths[0].At(d)
		q, _ := back.Paths[0].At(d)
		r, _ := ahead.Paths[0].At(d)
		if q.Sub(geom.V(p.X, p.Y, -p.Z)).Norm() > 1e-9 || r.Sub(geom.V(p.Z, p.Y, p.X)).Norm() > 1e-9 {
			t.Fatalf("at %g m: %v, the other way %v, ahead %v", d, p, q, r)
		}
	}
	// Over a wheel of radius 0.4 forward and down: the angle from ahead up falls by the way over the radius.
	angle := func(f, wheel int) float64 {
		var p rig.Picture
		side.Frame(&p, f)
		x := p.Wheels[0][wheel].Place.Rigid()
		return math.Atan2(x.Z.Y, x.Z.Z)
	}
	for wheel, radius := range []float64{0.3, -0.2, 0.4} {
		if off := math.Remainder(angle(20, wheel)-angle(0, wheel)+1/radius, 2*math.Pi); math.Abs(off) > 1e-5 {
			t.Errorf("wheel %d is %g off what a way of 1 m turns it by", wheel+1, off)
		}
	}
}

func TestOpenBeltsRefused(t *testing.T) {
	const drum, still = `{"radius":0.15,"width":0.4,"rope":0.02,"wound":50}`, `0`
	for want, c := range map[string][3]string{
		"too short to come over its last wheel":      {`{"from":[0,1,0],"length":5,"drum":"r"}`, "", still},
		"keeps its own length":                       {`{"from":[0,1,0],"length":50,"drum":"r"}`, `,"keep":{"links":40,"pitch":0.1}`, still},
		`"x" is no rig of this scene`:                {`{"from":[0,1,0],"length":50,"drum":"x"}`, "", still},
		"paths[0].shape.wrap.ends.length: -1":        {`{"from":[0,1,0],"length":-1,"drum":"r"}`, "", still},
		"paths[0].shape.wrap.wheels[0]: A: there is": {`{"from":[0,5,2],"length":50}`, "", still},
	} {
		if _, err := open(t, drum, c[2], c[0], c[1]); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
	// A drum that the belt does not name stands there as if it did, and the belt is made fast.
	alone, err := open(t, drum, `5`, `{"from":[0,1,0],"length":14}`, "")
	if err != nil {
		t.Fatal(err)
	}
	var stands rig.Picture
	alone.Frame(&stands, 7)
	if x := stands.Rigs[0].Transforms; math.Abs(float64(x[1])-1) > 1e-6 || math.IsNaN(float64(x[3])) || alone.Paths[0].Length() != 14 {
		t.Errorf("it stands at %v, the belt is %g m long", x[:7], alone.Paths[0].Length())
	}
	// Wound up beyond its last wheel later on, it stays as it is at first, which the check tells.
	s, err := open(t, drum, `{"keys":[{"frame":0,"value":0,"shape":"straight"},{"frame":40,"value":-10}]}`, `{"from":[0,1,0],"length":14,"drum":"r"}`, "")
	if err != nil {
		t.Fatal(err)
	}
	used, has, held := s.Held(0, 40)
	if !held || has >= used {
		t.Errorf("%g m of %g m, %v", has, used, held)
	}
	var p rig.Picture
	s.Frame(&p, 40)
	if got, want := p.Curves[0].Length(), s.Paths[0].Length(); math.Abs(got-want) > 1e-9 {
		t.Errorf("it is %g m long, %g m at first", got, want)
	}
}
