package rig_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/geom"
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
	out := s.Readout().Rigs[0].Drum
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
