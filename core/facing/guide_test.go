package facing

import (
	"math"
	"testing"

	"bead/core/geom"
	"bead/core/path"
)

// A circle and the same circle raised by h: up is towards the guide, which is
// exactly +Y at every distance, however the circles are cut into spans.
func TestGuideAboveACircle(t *testing.T) {
	along, across := geom.V(0, 0, 1), geom.V(1, 0, 0)
	c := curve(t, path.Circle(geom.Vec{}, along, across, 1), true)
	g := curve(t, path.Circle(geom.V(0, 0.5, 0), along, across, 1), true)
	f := field(t, c, Spec{Mode: Guide, Guide: g})
	for i := range 50 {
		u := f.Frame(c.Length() * float64(i) / 49).U
		if d := u.Sub(geom.V(0, 1, 0)).Norm(); d > 1e-12 {
			t.Fatalf("up at %d is %v", i, u)
		}
	}
	if r := f.Report().Guided; math.Abs(r.Nearest-0.5) > 1e-12 || r.Ahead > 1e-12 {
		t.Errorf("report %+v: the guide is 0.5 away and square to the path", r)
	}
}

// A straight path along z and a guide that crosses it from above to below: near the
// crossing the guide says nothing, up is carried and turns by 180 degrees over the
// stretch, which the report names; away from it up points at the guide.
func TestGuideThatComesTooNear(t *testing.T) {
	c := curve(t, []path.Span{path.LineSpan(geom.Vec{}, geom.V(0, 0, 4))}, false)
	g := curve(t, []path.Span{path.LineSpan(geom.V(0, 1, 0), geom.V(0, -1, 4))}, false)
	f := field(t, c, Spec{Mode: Guide, Guide: g})
	r := f.Report()
	if len(r.Along) != 1 || r.Along[0].From > 2 || r.Along[0].To < 2 || math.Abs(math.Abs(r.Along[0].Turn)-math.Pi) > 1e-9 {
		t.Fatalf("stretches %+v: one round 2 m that turns by 180 degrees", r.Along)
	}
	if r.Guided.Nearest > 0.02 || math.Abs(r.Guided.NearestAt-2) > 0.02 {
		t.Errorf("nearest %+v: at 2 m", r.Guided)
	}
	for s, want := range map[float64]float64{0.5: 1, 3.5: -1} {
		if u := f.Frame(s).U; math.Abs(u.Y-want) > 1e-9 {
			t.Errorf("up at %g is %v", s, u)
		}
	}
	// A guide that runs ahead: from the end of the path it lies along forward.
	ahead := curve(t, []path.Span{path.LineSpan(geom.V(0, 1, 0), geom.V(0, 1, 14))}, false)
	a := field(t, c, Spec{Mode: Guide, Guide: ahead}).Report().Guided
	if want := math.Atan2(10, 1); math.Abs(a.Ahead-want) > 1e-9 || a.AheadAt != 4 {
		t.Errorf("ahead %+v: %g at the end", a, want)
	}
	if _, err := New(c, Spec{Mode: Guide}); err == nil {
		t.Error("no guide was accepted")
	}
}

// Into the curve: on a circle up points at the centre; on an S of two waves it
// changes sides once a half wave, by 180 degrees spread over a stretch that holds
// the inflection, and never within one step.
func TestTurnPointsIntoTheCurve(t *testing.T) {
	centre := geom.V(1, 2, 3)
	c := curve(t, path.Circle(centre, geom.V(0, 0, 1), geom.V(0, 1, 0), 0.7), true)
	f := field(t, c, Spec{Mode: Turn})
	for i := range 40 {
		fr := f.Frame(c.Length() * float64(i) / 40)
		if d := fr.P.Mad(fr.U, 0.7).Sub(centre).Norm(); d > 1e-12 {
			t.Fatalf("up %v at %v misses the centre by %g", fr.U, fr.P, d)
		}
	}
	pts := make([]path.Point, 9)
	for i := range pts {
		pts[i] = path.Point{At: geom.V(math.Sin(float64(i)*math.Pi/2), 0, float64(i)), Handles: path.Smooth}
	}
	s := curve(t, path.Spline(path.Resolve(pts, false), false), false)
	f = field(t, s, Spec{Mode: Turn})
	if n := len(f.Report().Along); n != 5 { // three inflections and two ends without curvature
		t.Errorf("%d stretches: %+v", n, f.Report().Along)
	}
	before := f.Frame(0).U
	for i := 1; i <= 2000; i++ {
		u := f.Frame(s.Length() * float64(i) / 2000).U
		if a := geom.Angle(before, u); a > 0.3 {
			t.Fatalf("up jumps by %g at step %d", a, i)
		}
		before = u
	}
}

// A loop that is bent more and more out of its plane: the angle left over at the
// seam grows past half a turn. Taken alone each frame would choose the nearest
// closing and pop by a turn; with the frame before to hold to it goes on.
func TestDeformedLoopNeverPops(t *testing.T) {
	loop := func(h float64) *path.Curve {
		pts := make([]path.Point, 36)
		for i := range pts {
			// Wound three times round the ring: it writhes the more the wider it winds.
			a := 2 * math.Pi * float64(i) / 36
			r := 1 + 0.2*h*math.Cos(3*a)
			pts[i] = path.Point{At: geom.V(r*math.Cos(a), 0.2*h*math.Sin(3*a), r*math.Sin(a)), Handles: path.Smooth}
		}
		return curve(t, path.Spline(path.Resolve(pts, true), true), true)
	}
	var near *float64
	held, popped := 0.0, false
	last := math.NaN()
	for i := range 120 {
		c := loop(float64(i) * 0.03)
		alone := field(t, c, Spec{Mode: LeastTwist, Symmetry: 4}).Report().Spread
		popped = popped || math.Abs(alone-last) > 0.5
		last = alone
		now := field(t, c, Spec{Mode: LeastTwist, Symmetry: 4, Near: near}).Report().Spread
		if near != nil {
			held = max(held, math.Abs(now-*near))
		}
		near = &now
	}
	if !popped {
		t.Error("the loop is too tame: no frame popped even without its neighbour, so this tests nothing")
	}
	if held > 0.3 {
		t.Errorf("held to its neighbour a frame still moved by %g rad", held)
	}
}
