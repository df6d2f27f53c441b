package facing

import (
	"math"
	"math/rand/v2"
	"sync"
	"testing"

	"bead/core/geom"
	"bead/core/path"
)

// Frames are orthonormal and right-handed everywhere, for every mode, on every
// kind of path, and the same from eight goroutines at once.
func TestFramesAreFrames(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 3))
	curves := map[string]*path.Curve{
		"helix": curve(t, []path.Span{helix(1, 0.4, 3)}, false), "space loop": spaceLoop(t), "wavy loop": wavyLoop(t),
		"octant":   curve(t, octant(), false),
		"upright":  curve(t, []path.Span{path.LineSpan(geom.Vec{}, geom.V(0, 2, 0))}, false),
		"sideways": curve(t, []path.Span{path.LineSpan(geom.Vec{}, geom.V(2, 0, 0))}, false),
		"zigzag":   curve(t, path.Polyline([]geom.Vec{{}, {X: 1}, {X: 1, Y: 1}, {Z: 1}, {Y: -2, Z: 1}}, true), true),
		"cusp":     curve(t, []path.Span{path.CubicSpan(geom.V(0, 0, 0), geom.V(4, 3, 0), geom.V(0, 3, 0), geom.V(4, 0, 0))}, false),
	}
	for name, c := range curves {
		for _, spec := range []Spec{
			{Mode: Steady}, {Mode: Steady, Up: geom.V(1, 1, 0)}, {Mode: Loopside}, {Mode: Loopside, Inward: true},
			{Mode: LeastTwist}, {Mode: LeastTwist, Turns: 2, Symmetry: 3}, {Mode: Steady, Turns: -1},
		} {
			f := field(t, c, spec)
			at := make([]float64, 300)
			want := make([]geom.Frame, len(at))
			for i := range at {
				at[i] = c.Length() * (3*r.Float64() - 1)
				fr := f.Frame(at[i])
				want[i] = fr
				if !fr.U.IsFinite() || math.Abs(fr.U.Norm()-1) > 1e-9 || math.Abs(fr.U.Dot(fr.T)) > 1e-9 || math.Abs(fr.Side().Cross(fr.U).Dot(fr.T)-1) > 1e-9 {
					t.Fatalf("%s %+v at %g: up %v, forward %v", name, spec, at[i], fr.U, fr.T)
				}
			}
			var wg sync.WaitGroup
			for g := range 8 {
				wg.Go(func() {
					for k := range at {
						i := (k*7 + g*31) % len(at)
						if f.Frame(at[i]) != want[i] {
							t.Errorf("%s %+v: goroutine %d sees another frame at %g", name, spec, g, at[i])
							return
						}
					}
				})
			}
			wg.Wait()
		}
	}
}

// Turning the whole path and its up turns the frames with them.
func TestFacingTurnsWithThePath(t *testing.T) {
	c := spaceLoop(t)
	axis, angle := geom.V(1, 2, -1).Unit(), 1.1
	turn := func(v geom.Vec) geom.Vec { return geom.RotateAbout(v, axis, angle) }
	spans := append([]path.Span(nil), c.Spans()...)
	for i := range spans {
		for k := range spans[i].P {
			spans[i].P[k] = turn(spans[i].P[k])
		}
	}
	d := curve(t, spans, true)
	up := geom.V(0, 1, 0)
	for _, mode := range []Mode{Steady, Loopside, LeastTwist} {
		f, g := field(t, c, Spec{Mode: mode, Up: up}), field(t, d, Spec{Mode: mode, Up: turn(up)})
		for i := range 50 {
			s := c.Length() * float64(i) / 50
			if e := geom.Angle(turn(f.Frame(s).U), g.Frame(s).U); e > 1e-7 {
				t.Errorf("%s at %g: %g rad off", mode, s, e)
				break
			}
		}
	}
}

// The second opinion that checks use agrees with the frames on a smooth path.
func TestCarryAgrees(t *testing.T) {
	c := spaceLoop(t)
	f := field(t, c, Spec{Mode: LeastTwist})
	twist := f.Report().Twist
	for i := range 40 {
		a := c.Length() * float64(i) / 40
		b := a + c.Length()/60
		fa, fb := f.Frame(a), f.Frame(b)
		turn := geom.AngleAbout(fb.T, Carry(c, a, b, fa.U), fb.U) - twist*(b-a)
		if math.Abs(turn) > 1e-4 {
			t.Errorf("from %g to %g: %g rad apart", a, b, turn)
		}
	}
}

// Rate against the differences of the frames themselves, for every way of facing on a path that
// bends in space.
func TestRateIsTheTurnOfTheFrames(t *testing.T) {
	c := curve(t, path.Helix(geom.V(0, 0, 0), geom.V(0, 1, 0), geom.V(0, 0, 1), path.HelixSize{Radius: 0.7, EndRadius: 0.4, Rise: 0.6, Turns: 2}), false)
	guide := curve(t, []path.Span{path.LineSpan(geom.V(0, -0.5, 0), geom.V(0, 2, 0))}, false)
	for _, spec := range []Spec{
		{Mode: Steady}, {Mode: Steady, Turns: 3}, {Mode: Loopside}, {Mode: Loopside, Inward: true},
		{Mode: LeastTwist, Turns: 1.5}, {Mode: Guide, Guide: guide}, {Mode: Turn},
	} {
		f, err := New(c, spec)
		if err != nil {
			t.Fatal(err)
		}
		for _, u := range []float64{0.13, 0.4, 0.77} {
			s, h := u*c.Length(), 1e-5*c.Length()
			fr := f.Frame(s)
			want := -f.Frame(s+h).U.Sub(f.Frame(s-h).U).Dot(fr.Side()) / (2 * h)
			if got := f.Rate(s, fr, c.Curvature(s)); math.Abs(got-want) > 1e-4*(1+math.Abs(want)) {
				t.Errorf("%s, %g turns, at %g of the length: %.8f, differences say %.8f", spec.Mode, spec.Turns, u, got, want)
			}
		}
	}
}
