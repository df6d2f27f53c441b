package facing

import (
	"math"
	"math/rand/v2"
	"testing"

	"bead/core/geom"
	"bead/core/path"
)

func curve(t testing.TB, spans []path.Span, closed bool) *path.Curve {
	t.Helper()
	c, err := path.New(spans, closed)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func field(t testing.TB, c *path.Curve, s Spec) *Field {
	t.Helper()
	f, err := New(c, s)
	if err != nil {
		t.Fatal(err)
	}
	return f
}

func helix(r, rise, turns float64) path.Span {
	h := path.ArcSpan(geom.Vec{}, geom.V(r, 0, 0), geom.V(0, r, 0), 0, 2*math.Pi*turns)
	h.P[3] = geom.V(0, 0, rise*turns)
	return h
}

// frenetUp is a helix's normal, towards its axis.
func frenetUp(angle float64) geom.Vec {
	sin, cos := math.Sincos(angle)
	return geom.V(-cos, -sin, 0)
}

// helixTurn is how far one turn turns a least-twist frame against the Frenet
// frame: 2 pi c/sqrt(r^2+c^2), c = rise/2pi. For r 1, rise 0.5: 28.55761086
// degrees (worked out outside this code).
func helixTurn(r, rise float64) float64 {
	c := rise / (2 * math.Pi)
	return 2 * math.Pi * c / math.Hypot(r, c)
}

func TestHelixTwist(t *testing.T) {
	if got := helixTurn(1, 0.5) * 180 / math.Pi; math.Abs(got-28.55761086) > 1e-8 {
		t.Fatalf("the closed form gives %.10f", got)
	}
	for _, tc := range []struct{ r, rise, turns float64 }{{1, 0.5, 1}, {1, 0.5, 4}, {0.2, 3, 2}, {5, -1, 1}} {
		c := curve(t, []path.Span{helix(tc.r, tc.rise, tc.turns)}, false)
		f := field(t, c, Spec{Mode: LeastTwist, Up: frenetUp(0)})
		for i := range 50 {
			share := float64(i) / 49
			fr := f.Frame(c.Length() * share)
			want := geom.RotateAbout(frenetUp(2*math.Pi*tc.turns*share), fr.T, -helixTurn(tc.r, tc.rise)*tc.turns*share)
			if a := geom.Angle(fr.U, want); a > 2e-9 {
				t.Errorf("%+v at %.2f: %g rad off the closed form", tc, share, a)
				break
			}
		}
	}
}

// The method is of fourth order: halving the step cuts the error 16 times
// (Wang et al. 2008, section 4).
func TestDoubleReflectionOrder(t *testing.T) {
	c := curve(t, []path.Span{helix(1, 0.5, 1)}, false)
	errAt := func(n int) float64 {
		s := make([]float64, n+1)
		for i := range s {
			s[i] = c.Length() * float64(i) / float64(n)
		}
		_, t1 := c.At(c.Length())
		want := geom.RotateAbout(frenetUp(2*math.Pi), t1, -helixTurn(1, 0.5))
		return geom.Angle(newTransport(c, s, frenetUp(0), false, nil).end(), want)
	}
	for n := 16; n <= 128; n *= 2 {
		if order := math.Log2(errAt(n) / errAt(2*n)); order < 3.5 {
			t.Errorf("from %d to %d steps the error falls by 2^%.2f, want above 2^3.5", n, 2*n, order)
		}
	}
}

// octant turns the tangent x to y to z to x: the frame comes back turned by the
// area of an octant of the sphere, 90 degrees (Gauss-Bonnet).
func octant() []path.Span {
	x, y, z := geom.V(1, 0, 0), geom.V(0, 1, 0), geom.V(0, 0, 1)
	arc := func(at, t0, t1 geom.Vec) path.Span {
		return path.ArcSpan(at.Add(t1), t1.Neg(), t0, 0, math.Pi/2)
	}
	a := arc(geom.Vec{}, x, y)
	b := arc(a.End(), y, z)
	return []path.Span{a, b, arc(b.End(), z, x)}
}

func TestOctant(t *testing.T) {
	c := curve(t, octant(), false)
	f := field(t, c, Spec{Mode: LeastTwist, Up: geom.V(0, 1, 0)})
	a, b := f.Frame(0), f.Frame(c.Length())
	if a.T.Sub(b.T).Norm() > 1e-12 {
		t.Fatalf("the tangent does not come back: %v to %v", a.T, b.T)
	}
	if got := math.Abs(geom.AngleAbout(a.T, a.U, b.U)); math.Abs(got-math.Pi/2) > 1e-9 {
		t.Errorf("turned by %.12f rad, want a right angle", got)
	}
}

// spaceLoop is a closed curve that is not flat.
func spaceLoop(t testing.TB) *path.Curve {
	r := rand.New(rand.NewPCG(4, 2))
	pts := make([]path.Point, 9)
	for i := range pts {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / 9)
		pts[i] = path.Point{At: geom.V(0.6*r.NormFloat64(), 2*sin, 2*cos), Handles: path.Smooth}
	}
	return curve(t, path.Spline(path.Resolve(pts, true), true), true)
}

func TestClosedLoopMeets(t *testing.T) {
	c := spaceLoop(t)
	for _, tc := range []struct {
		turns    float64
		symmetry int
	}{{0, 0}, {0, 4}, {3, 1}, {-2, 2}} {
		f := field(t, c, Spec{Mode: LeastTwist, Turns: tc.turns, Symmetry: tc.symmetry})
		start, end := f.Frame(0), f.Frame(c.Length()*(1-1e-12))
		part := 2 * math.Pi / float64(max(tc.symmetry, 1))
		left := math.Remainder(geom.AngleAbout(start.T, start.U, end.U), part)
		if math.Abs(left) > 1e-8 {
			t.Errorf("%+v: seam is off by %g rad", tc, left)
		}
		// Total twist against plain least twist is the correction plus whole turns.
		rep := f.Report()
		total := rep.Twist*c.Length() + rep.Residual
		if k := total/part - tc.turns*float64(max(tc.symmetry, 1)); math.Abs(k-math.Round(k)) > 1e-9 || math.Abs(k) > 1.5 {
			t.Errorf("%+v: twist %g rad and residual %g are not whole parts of a turn", tc, rep.Twist*c.Length(), rep.Residual)
		}
		if got := math.Abs(rep.Twist*c.Length() - 2*math.Pi*tc.turns); got > part/2+1e-9 {
			t.Errorf("%+v: the correction of %g rad is not the least", tc, got)
		}
	}
}

// Frames do not depend on how the curve is cut into spans, nor (turned round) on
// the direction it is run in.
func TestInvariance(t *testing.T) {
	spans := []path.Span{path.CubicSpan(geom.V(0, 0, 0), geom.V(1, 2, 1), geom.V(3, 2, -1), geom.V(4, 0, 2))}
	c := curve(t, spans, false)
	var cut []path.Span
	rest := spans[0]
	for _, at := range []float64{0.2, 0.5, 0.3} {
		var a path.Span
		a, rest = rest.Split(at)
		cut = append(cut, a)
	}
	d := curve(t, append(cut, rest), false)
	f, g := field(t, c, Spec{Mode: LeastTwist}), field(t, d, Spec{Mode: LeastTwist})
	rev := curve(t, []path.Span{path.CubicSpan(geom.V(4, 0, 2), geom.V(3, 2, -1), geom.V(1, 2, 1), geom.V(0, 0, 0))}, false)
	h := field(t, rev, Spec{Mode: LeastTwist, Up: f.Frame(c.Length()).U})
	for i := range 30 {
		s := c.Length() * float64(i) / 29
		u := f.Frame(s).U
		if a := geom.Angle(u, g.Frame(s).U); a > 1e-8 {
			t.Fatalf("at %g resampling turns up by %g", s, a)
		}
		if a := geom.Angle(u, h.Frame(c.Length()-s).U); a > 1e-8 {
			t.Fatalf("at %g running backwards turns up by %g", s, a)
		}
	}
}

var along, across = geom.V(0, 0, 1), geom.V(0, 1, 0)

// wavyLoop is flat, with inflections and an underside.
func wavyLoop(t testing.TB) *path.Curve {
	pts := make([]path.Point, 16)
	for i := range pts {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / 16)
		k := 1 + 0.45*float64(i%2)
		pts[i] = path.Point{At: geom.V(0.5, k*sin, k*cos), Handles: path.Smooth}
	}
	return curve(t, path.Spline(path.Resolve(pts, true), true), true)
}

func TestLoopsideNeverFlips(t *testing.T) {
	for name, c := range map[string]*path.Curve{
		"slot": curve(t, path.Slot(geom.Vec{}, along, across, 3, 0.4), true), "wavy": wavyLoop(t),
		"sharp ellipse": curve(t, path.Ellipse(geom.Vec{}, along, across, 5, 0.05), true),
		"triangle":      curve(t, path.Polyline([]geom.Vec{{}, {Z: 3}, {Y: 2}}, true), true),
	} {
		out, in := field(t, c, Spec{Mode: Loopside}), field(t, c, Spec{Mode: Loopside, Inward: true})
		normal := c.Plane().Normal
		const n = 5000
		for i := range n {
			s := c.Length() * float64(i) / n
			a := out.Frame(s)
			if side := a.Side().Dot(normal); side > -1+1e-12 && side < 1-1e-12 {
				t.Fatalf("%s at %g: side %v leaves the plane's normal", name, s, a.Side())
			}
			if a.Side().Dot(out.Frame(0).Side()) < 1-1e-9 {
				t.Fatalf("%s flips at %g", name, s)
			}
			if a.U.Add(in.Frame(s).U).Norm() > 1e-9 {
				t.Fatalf("%s at %g: inward is not the opposite of outward", name, s)
			}
		}
		if len(out.Report().Along) != 0 || out.Report().Off > 1e-9 {
			t.Errorf("%s: report %+v of a flat loop", name, out.Report())
		}
	}
	// Outward on a slot: up on top, down underneath.
	c := curve(t, path.Slot(geom.Vec{}, along, across, 3, 0.4), true)
	f := field(t, c, Spec{Mode: Loopside})
	if u := f.Frame(1).U; u.Sub(across).Norm() > 1e-12 {
		t.Errorf("up on top is %v", u)
	}
	if u := f.Frame(1 + c.Length()/2).U; u.Add(across).Norm() > 1e-12 {
		t.Errorf("up underneath is %v", u)
	}
}

func TestSteady(t *testing.T) {
	c := curve(t, octant(), false)
	f := field(t, c, Spec{Mode: Steady})
	rep := f.Report()
	// y is the tangent where the first arc meets the second.
	if len(rep.Along) != 1 || rep.Along[0].From > math.Pi/2 || rep.Along[0].To < math.Pi/2 {
		t.Fatalf("stretches along up: %+v", rep.Along)
	}
	// On an upright circle the up turns right over at both sides, never at once.
	ring := curve(t, path.Circle(geom.Vec{}, along, across, 1), true)
	g := field(t, ring, Spec{Mode: Steady})
	if n := len(g.Report().Along); n != 2 {
		t.Fatalf("%d stretches on a ring, want 2: %+v", n, g.Report().Along)
	}
	for _, a := range g.Report().Along {
		if math.Abs(math.Abs(a.Turn)-math.Pi) > 1e-6 {
			t.Errorf("turn %g, want half a turn reported", a.Turn)
		}
	}
	for name, fl := range map[string]*Field{"octant": f, "ring": g} {
		cv := fl.curve
		const n = 20000
		for i := range n {
			a, b := fl.Frame(cv.Length()*float64(i)/n), fl.Frame(cv.Length()*float64(i+1)/n)
			if math.Abs(a.U.Dot(a.T)) > 1e-12 || math.Abs(a.U.Norm()-1) > 1e-12 {
				t.Fatalf("%s: frame %d is not orthonormal", name, i)
			}
			if i < n-1 && geom.Angle(a.U, b.U) > 0.03 {
				t.Fatalf("%s: up jumps by %g at step %d", name, geom.Angle(a.U, b.U), i)
			}
		}
	}
	// A post straight up: no reference anywhere, still a frame.
	post := curve(t, []path.Span{path.LineSpan(geom.Vec{}, geom.V(0, 3, 0))}, false)
	h := field(t, post, Spec{Mode: Steady})
	if a, b := h.Frame(-1), h.Frame(9); a.U.Sub(b.U).Norm() > 1e-12 || len(h.Report().Along) != 1 {
		t.Errorf("upright line: %v, %v, %+v", a, b, h.Report())
	}
	// From an upright start the frame is that of the far side carried back.
	hook := curve(t, []path.Span{path.LineSpan(geom.Vec{}, geom.V(0, 2, 0)),
		path.ArcSpan(geom.V(0, 2, 1), geom.V(0, 0, -1), geom.V(0, 1, 0), 0, math.Pi/2)}, false)
	if u := field(t, hook, Spec{Mode: Steady}).Frame(0).U; u.Sub(geom.V(0, 0, -1)).Norm() > 1e-6 {
		t.Errorf("up at the foot of the hook %v, want (0 0 -1)", u)
	}
}

func TestBadSpecs(t *testing.T) {
	ring := curve(t, path.Circle(geom.Vec{}, along, across, 1), true)
	for _, s := range []Spec{
		{Mode: "sideways"}, {Mode: LeastTwist, Turns: 0.5}, {Mode: LeastTwist, Turns: math.NaN()},
		{Mode: Steady, Up: geom.V(math.NaN(), 0, 0)}, {Mode: LeastTwist, Symmetry: -1},
	} {
		if _, err := New(ring, s); err == nil {
			t.Errorf("%+v is accepted", s)
		}
	}
}

func BenchmarkFrame(b *testing.B) {
	c := spaceLoop(b)
	for _, mode := range []Mode{Steady, Loopside, LeastTwist} {
		b.Run(string(mode), func(b *testing.B) {
			f := field(b, c, Spec{Mode: mode})
			s, step := 0.0, c.Length()*0.381966
			b.ReportAllocs()
			for b.Loop() {
				s = c.Wrap(s + step)
				f.Frame(s)
			}
		})
	}
}
