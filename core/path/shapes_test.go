package path_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"bead/core/geom"
	"bead/core/path"
)

// Each generator against its closed form: length, ends, and the tangents there.
func TestGeneratorsAgainstClosedForms(t *testing.T) {
	up := geom.V(0, 1, 0)
	base := geom.V(0.5, 0.2, -1)
	// A cone's helix: ds = sqrt(r^2 + k^2 + c^2) da with r = r0 + k a, whose integral
	// is that of a parabola (Gradshteyn and Ryzhik 2.271, from memory).
	cone := func(r0, r1, rise, turns float64) float64 {
		k, c := (r1-r0)/(2*math.Pi*turns), rise/(2*math.Pi)
		g := math.Hypot(k, c)
		f := func(r float64) float64 { return (r*math.Hypot(r, g) + g*g*math.Asinh(r/g)) / (2 * k) }
		return f(r1) - f(r0)
	}
	lead := func(dir geom.Vec) geom.Vec { return dir.Unit() }
	for _, tc := range []struct {
		name     string
		spans    []path.Span
		closed   bool
		want     float64
		from, to geom.Vec // unit tangents at the ends
	}{
		{"rounded rectangle 2(l+h)-(8-2pi)r", path.RoundedRectangle(base, along, across, 3, 2, 0.4), true, 10 - (8-2*math.Pi)*0.4, along, along},
		{"rounded rectangle without rounding", path.RoundedRectangle(base, along, across, 3, 2, 0), true, 10, along, across},
		{"rounded rectangle that is a slot", path.RoundedRectangle(base, along, across, 3, 1, 0.5), true, 4 + math.Pi, along, along},
		{"arch w+2h-(4-pi)r", path.Arch(base, along, across, 2, 1.5, 0.5), false, 5 - (4-math.Pi)*0.5, up, up.Neg()},
		{"half round arch", path.Arch(base, along, across, 2, 1, 1), false, math.Pi, up, up.Neg()},
		{"arc 4R atan(2h/w)", path.ArcArch(base, along, across, 4, 1), false, 4 * 2.5 * math.Atan(0.5), geom.V(0, 0.8, 0.6), geom.V(0, -0.8, 0.6)},
		{"high arc", path.ArcArch(base, along, across, 1, 2), false, 4 * 1.0625 * math.Atan(4), geom.V(0, 8.0/17, -15.0/17), geom.V(0, -8.0/17, -15.0/17)},
		{"helix turns sqrt((2 pi r)^2+rise^2)", path.Helix(base, up, along, path.HelixSize{Radius: 1, EndRadius: 1, Rise: 0.5, Turns: 2.25}), false,
			2.25 * 6.303048278758258, lead(geom.V(2*math.Pi, 0.5, 0)), lead(geom.V(0, 0.5, -2*math.Pi))},
		{"left-handed helix", path.Helix(base, up, along, path.HelixSize{Radius: 1, EndRadius: 1, Rise: 0.5, Turns: 1, LeftHand: true}), false,
			6.303048278758258, lead(geom.V(-2*math.Pi, 0.5, 0)), lead(geom.V(-2*math.Pi, 0.5, 0))},
		{"conical helix", path.Helix(base, up, along, path.HelixSize{Radius: 1, EndRadius: 0.3, Rise: 0.4, Turns: 3}), false,
			cone(1, 0.3, 0.4, 3), lead(geom.V(2*math.Pi, 0.4, -0.7/3)), lead(geom.V(2*math.Pi*0.3, 0.4, -0.7/3))},
	} {
		c := must(t, tc.spans, tc.closed)
		if math.Abs(c.Length()-tc.want) > 1e-12*tc.want*10 {
			t.Errorf("%s: length %.15g, want %.15g", tc.name, c.Length(), tc.want)
		}
		_, from := c.At(0)
		_, to := c.At(c.Length() * (1 - 1e-13))
		if geom.Angle(from, tc.from) > 1e-9 || geom.Angle(to, tc.to) > 1e-6 {
			t.Errorf("%s: from %v to %v, want %v %v", tc.name, from, to, tc.from, tc.to)
		}
		if n := len(c.Corners(1e-6)); (n > 0) != (tc.name == "rounded rectangle without rounding") {
			t.Errorf("%s: %d corners", tc.name, n)
		}
	}
	// The leads are tangent and as long as asked.
	h := path.HelixSize{Radius: 0.4, EndRadius: 0.2, Rise: 0.3, Turns: 1.6, LeadIn: 0.7, LeadOut: 0.9}
	c := must(t, path.Helix(base, up, along, h), false)
	if k := c.Corners(0); len(k) > 0 {
		t.Errorf("the leads of a helix are not tangent: %v", k)
	}
	for i, s := range []float64{0.7, c.Length() - 0.9} {
		_, a := c.At(s - 1e-9)
		_, b := c.At(s + 1e-9)
		if geom.Angle(a, b) > 1e-6 {
			t.Errorf("lead %d turns by %g", i, geom.Angle(a, b))
		}
	}
	if want := 1.6 + cone(0.4, 0.2, 0.3, 1.6); math.Abs(c.Length()-want) > 1e-11 {
		t.Errorf("with leads %g, want %g", c.Length(), want)
	}
}

// A corner that turns by a takes r tan(a/2) of each side and gives r a back.
func TestFillet(t *testing.T) {
	pts := []geom.Vec{geom.V(0, 0, 0), geom.V(3, 0, 0), geom.V(3, 4, 0), geom.V(0, 0, 0)}[:3]
	turns := []float64{math.Pi - math.Atan2(4, 3), math.Pi / 2, math.Pi - math.Atan2(3, 4)}
	r := []float64{0.2, 0.5, 0.3}
	want := 12.0
	for i := range r {
		want += r[i] * (turns[i] - 2*math.Tan(turns[i]/2))
	}
	c := must(t, path.Fillet(pts, r, true, nil), true)
	if math.Abs(c.Length()-want) > 1e-12 || len(c.Corners(1e-6)) > 0 {
		t.Errorf("length %g, want %g, corners %v", c.Length(), want, c.Corners(1e-6))
	}
	// Corners that ask for more than their side has are told so and share it.
	told := 0
	c = must(t, path.Fillet([]geom.Vec{{}, geom.V(1, 0, 0), geom.V(1, 1, 0), geom.V(0, 1, 0)}, []float64{3, 0.9, 0.9, 3}, false, func(corner int, asked, got float64) {
		told++
		if asked != 0.9 || math.Abs(got-0.5) > 1e-12 {
			t.Errorf("corner %d asked for %g and got %g", corner, asked, got)
		}
	}), false)
	if told != 2 || math.Abs(c.Length()-(1+math.Pi/2)) > 1e-12 {
		t.Errorf("told %d, length %g", told, c.Length())
	}
}

// A B-spline of points on a line at even steps is that line run evenly; of a regular
// polygon its greatest radius is (2 + cos a)/3 of the polygon's, at the points
// (the uniform cubic's weights 1/6, 4/6, 1/6). Its curvature has no jumps.
func TestBSpline(t *testing.T) {
	c := must(t, path.BSpline([]geom.Vec{{}, geom.V(1, 0, 0), geom.V(2, 0, 0), geom.V(3, 0, 0)}, false), false)
	if p, _ := c.At(1.25); math.Abs(c.Length()-3) > 1e-12 || math.Abs(p.X-1.25) > 1e-10 {
		t.Errorf("length %g, %v at 1.25", c.Length(), p)
	}
	const n = 7
	a := 2 * math.Pi / n
	var pts []geom.Vec
	for i := range n {
		pts = append(pts, geom.V(math.Cos(a*float64(i)), math.Sin(a*float64(i)), 0))
	}
	c = must(t, path.BSpline(pts, true), true)
	want := (2 + math.Cos(a)) / 3
	for i := range n {
		s := c.SpanStart(i)
		if p, _ := c.At(s); math.Abs(p.Norm()-want) > 1e-12 {
			t.Errorf("radius %g at joint %d, want %g", p.Norm(), i, want)
		}
		if d := c.Curvature(s + 1e-7).Sub(c.Curvature(c.Wrap(s - 1e-7))).Norm(); d > 1e-5 {
			t.Errorf("curvature jumps by %g at joint %d", d, i)
		}
	}
}

// mixed is a run of every kind of span with a corner.
func mixed() []path.Span {
	pts := []path.Point{{At: geom.V(3, 1, 0), Handles: path.Smooth}, {At: geom.V(4, 2, 1), Handles: path.Smooth}, {At: geom.V(6, 2, -1), Handles: path.Smooth}}
	spiral := path.ArcSpan(geom.V(6, 2, -2), geom.V(0, 0, 1), geom.V(1, 0, 0), 0, 2.5)
	spiral.P[3], spiral.Grow = geom.V(0, 0.7, 0), 0.4
	out := append([]path.Span{path.LineSpan(geom.V(0, 0, 0), geom.V(2, 0, 0)),
		path.ArcSpan(geom.V(2, 1, 0), geom.V(0, -1, 0), geom.V(1, 0, 0), 0, math.Pi/2)}, path.Spline(path.Resolve(pts, false), false)...)
	return append(out, spiral)
}

// same compares curves at many distances, b shifted and reversed as told.
func same(t *testing.T, what string, a, b *path.Curve, at func(s float64) float64) {
	t.Helper()
	if math.Abs(a.Length()-b.Length()) > 1e-9*a.Length() {
		t.Errorf("%s: length %.12g became %.12g", what, a.Length(), b.Length())
	}
	for i := range 200 {
		s := a.Length() * float64(i) / 199
		p, _ := a.At(s)
		q, _ := b.At(at(s))
		if d := p.Sub(q).Norm(); d > 1e-9*a.Length() {
			t.Fatalf("%s: %g apart at %g", what, d, s)
		}
	}
}

// Reversed, restarted, cut and joined, subdivided, mirrored twice: the same path.
func TestStepsThatKeepTheShape(t *testing.T) {
	for _, closed := range []bool{false, true} {
		c := must(t, mixed(), closed)
		l := c.Length()
		same(t, "reversed", c, must(t, path.Reverse(c.Spans()), closed), func(s float64) float64 { return l - s })
		same(t, "subdivided", c, must(t, path.Subdivide(c.Spans(), 5), closed), func(s float64) float64 { return s })
		n := geom.V(1, 2, -2).Mul(1.0 / 3)
		same(t, "mirrored twice", c, must(t, path.Mirror(path.Mirror(c.Spans(), geom.V(1, 1, 1), n), geom.V(1, 1, 1), n), closed), func(s float64) float64 { return s })
		if closed {
			for _, at := range []float64{0, 0.123 * l, c.SpanStart(2), l - 1e-4} {
				spans, err := c.StartAt(at)
				if err != nil {
					t.Fatal(err)
				}
				same(t, "restarted", c, must(t, spans, true), func(s float64) float64 { return s - at })
			}
			continue
		}
		if _, err := c.StartAt(1); err == nil {
			t.Error("an open path was given another start")
		}
		// Cut in three, the middle one turned round, and joined again.
		a, b, d := must(t, c.Cut(0, 0.3*l), false), must(t, path.Reverse(c.Cut(0.3*l, 0.71*l)), false), must(t, c.Cut(0.71*l, l), false)
		if got := a.Length() + b.Length() + d.Length(); math.Abs(got-l) > 1e-9*l {
			t.Errorf("the cuts are %g together, the path %g", got, l)
		}
		spans, did, err := path.Join([]*path.Curve{a, b, d}, path.Joining{Snap: 1e-6, Turn: true})
		if err != nil || did[0].Turned || !did[1].Turned || did[2].Turned {
			t.Fatalf("%+v %v", did, err)
		}
		same(t, "joined", c, must(t, spans, false), func(s float64) float64 { return s })
	}
}

func TestJoinBridgesGaps(t *testing.T) {
	a := must(t, []path.Span{path.LineSpan(geom.V(0, 0, 0), geom.V(1, 0, 0))}, false)
	b := must(t, []path.Span{path.LineSpan(geom.V(3, 1, 0), geom.V(2, 1, 0))}, false)
	for _, tc := range []struct {
		how  path.Joining
		want float64
	}{
		{path.Joining{}, 2 + math.Sqrt(5)},
		{path.Joining{Turn: true}, 2 + math.Sqrt(2)},
		{path.Joining{Turn: true, Snap: 2}, 2},
	} {
		spans, _, err := path.Join([]*path.Curve{a, b}, tc.how)
		if c := must(t, spans, false); err != nil || math.Abs(c.Length()-tc.want) > 1e-12 {
			t.Errorf("%+v: %g, want %g, %v", tc.how, c.Length(), tc.want, err)
		}
	}
	spans, _, _ := path.Join([]*path.Curve{a, b}, path.Joining{Turn: true, Smooth: true})
	if k := must(t, spans, false).Corners(1e-9); len(k) > 0 {
		t.Errorf("a smooth bridge has corners %v", k)
	}
	if _, _, err := path.Join([]*path.Curve{a, must(t, path.Circle(origin, along, across, 1), true)}, path.Joining{}); err == nil {
		t.Error("a closed path was joined")
	}
}

func TestExtendAndClose(t *testing.T) {
	quarter := must(t, []path.Span{path.ArcSpan(origin, geom.V(2, 0, 0), geom.V(0, 2, 0), 0, math.Pi/2)}, false)
	straight, err := quarter.Extend(0.5, 0.7, false)
	c := must(t, straight, false)
	if a, _ := c.At(0); err != nil || a.Sub(geom.V(2, -0.5, 0)).Norm() > 1e-12 || math.Abs(c.Length()-math.Pi-1.2) > 1e-12 {
		t.Errorf("straight: from %v, %g long, %v", a, c.Length(), err)
	}
	// Keeping curvature an arc goes on as its circle.
	round, _ := quarter.Extend(0.5, 0.7, true)
	c = must(t, round, false)
	for i := range 100 {
		if p, _ := c.At(c.Length() * float64(i) / 99); math.Abs(p.Norm()-2) > 1e-12 {
			t.Fatalf("%v has left the circle", p)
		}
	}
	if math.Abs(c.Length()-math.Pi-1.2) > 1e-12 {
		t.Errorf("curved: %g", c.Length())
	}
	if smooth := must(t, quarter.CloseUp(true), true); len(smooth.Corners(1e-9)) > 0 || !smooth.Closed() {
		t.Errorf("closed smoothly it has corners %v", smooth.Corners(1e-9))
	}
	if plain := must(t, quarter.CloseUp(false), true); math.Abs(plain.Length()-math.Pi-2*math.Sqrt2) > 1e-12 {
		t.Errorf("closed straight it is %g", plain.Length())
	}
}

// The path parallel to a convex loop at d outside is 2 pi d longer (Steiner), and
// every point of it is d away; inside, a rectangle loses 8 d with its corners kept.
func TestOffset(t *testing.T) {
	normal := along.Cross(across) // loops here run clockwise seen against it, so outward is normal x T
	ell := must(t, path.Ellipse(origin, along, across, 2, 1), true)
	rect := must(t, path.RoundedRectangle(origin, along, across, 4, 2, 0), true)
	for name, c := range map[string]*path.Curve{"circle": must(t, path.Circle(origin, along, across, 1), true), "ellipse": ell, "rectangle": rect,
		"slot": must(t, path.Slot(origin, along, across, 3, 0.5), true)} {
		sign := 1.0
		if c.Plane().Normal.Dot(normal) > 0 {
			sign = -1
		}
		o := must(t, c.Offset(0.3*sign, normal), true)
		if want := c.Length() + 2*math.Pi*0.3; math.Abs(o.Length()-want) > 2e-6*want {
			t.Errorf("%s: %g outside, want %g", name, o.Length(), want)
		}
		dense := c.Evenly(12000)
		for i := range 60 {
			p, _ := o.At(o.Length() * float64(i) / 60)
			near := math.Inf(1)
			for _, q := range dense {
				near = min(near, p.Sub(q).Norm())
			}
			if math.Abs(near-0.3) > 1e-5 {
				t.Errorf("%s: %g away at %d", name, near, i)
				break
			}
		}
	}
	sign := math.Copysign(1, rect.Plane().Normal.Dot(normal))
	if in := must(t, rect.Offset(0.25*sign, normal), true); math.Abs(in.Length()-(12-8*0.25)) > 1e-9 || len(in.Corners(1)) != 4 {
		t.Errorf("inside: %g with corners %v", in.Length(), in.Corners(1))
	}
}

func TestRoundCorners(t *testing.T) {
	square := must(t, path.Polyline([]geom.Vec{{}, geom.V(2, 0, 0), geom.V(2, 2, 0), geom.V(0, 2, 0)}, true), true)
	c := must(t, square.RoundCorners(0.3, nil), true)
	if want := 8 - (8-2*math.Pi)*0.3; math.Abs(c.Length()-want) > 1e-9 || len(c.Corners(1e-6)) > 0 {
		t.Errorf("%g, want %g; corners %v", c.Length(), want, c.Corners(1e-6))
	}
	told := 0
	must(t, square.RoundCorners(5, func(at, got float64) {
		told++
		if math.Abs(got-0.9) > 1e-9 {
			t.Errorf("corner at %g got %g", at, got)
		}
	}), true)
	if told != 4 {
		t.Errorf("told of %d corners", told)
	}
	bent := must(t, must(t, mixed(), false).RoundCorners(0.1, nil), false)
	if k := bent.Corners(1e-4); len(k) > 0 {
		t.Errorf("corners left: %v", k)
	}
}

// Rebuilding the 96 facets of a circle takes a few points and stays within the
// tolerance of the facets, which lie up to r (1 - cos(pi/96)) inside the circle.
func TestSimplify(t *testing.T) {
	var pts []geom.Vec
	for i := range 96 {
		a := 2 * math.Pi * float64(i) / 96
		pts = append(pts, geom.V(math.Cos(a), 0, math.Sin(a)))
	}
	c := must(t, path.Polyline(pts, true), true)
	got := c.Simplify(2e-3)
	out := must(t, got.Spans, true)
	if got.Points > 12 || got.Off > 2e-3 || got.Off == 0 || len(out.Corners(1e-6)) > 0 {
		t.Errorf("%d points, off by %g, corners %v", got.Points, got.Off, out.Corners(1e-6))
	}
	for i := range 500 {
		if p, _ := out.At(out.Length() * float64(i) / 500); math.Abs(p.Norm()-1) > 2e-3 {
			t.Fatalf("%g from the centre", p.Norm())
		}
	}
	// The flats of sixteen sides do not show through, though they lie 0.019 inside.
	ring := pts[:0]
	for i := range 16 {
		a := 2 * math.Pi * float64(i) / 16
		ring = append(ring, geom.V(math.Cos(a), 0, math.Sin(a)))
	}
	if k, _ := must(t, must(t, path.Polyline(ring, true), true).Simplify(2e-3).Spans, true).Tightest(); k > 1.1 {
		t.Errorf("sixteen facets of a circle rebuilt bend to 1/%g", k)
	}
	// Corners are kept as corners.
	l := must(t, path.Polyline([]geom.Vec{{}, geom.V(1, 0, 0), geom.V(2, 0, 0), geom.V(2, 0, 1), geom.V(2, 0, 2)}, false), false)
	if s := l.Simplify(1e-3); s.Points != 3 || math.Abs(must(t, s.Spans, false).Length()-4) > 1e-9 {
		t.Errorf("an L takes %d points", s.Points)
	}
	// A circle of four arcs is not made of more points than it has.
	round := must(t, path.Circle(geom.Vec{}, geom.V(0, 0, 1), geom.V(0, 1, 0), 1), true)
	if s := round.Simplify(1e-9); !s.Kept || s.Points != len(round.Spans()) || must(t, s.Spans, true).Length() != round.Length() {
		t.Errorf("a circle simplified: %d points, kept %v", s.Points, s.Kept)
	}
	// The closer the tolerance, the more points, and always within it.
	w := must(t, mixed(), false)
	before := 0
	for _, tol := range []float64{0.1, 0.01, 1e-3, 1e-4} {
		s := w.Simplify(tol)
		if s.Off > tol+1e-12 || s.Points < before {
			t.Errorf("within %g: %d points, off by %g", tol, s.Points, s.Off)
		}
		before = s.Points
	}
}

func TestSmoothResampleJitter(t *testing.T) {
	// The bell of deviation w damps a wave of length l by exp(-2 (pi w/l)^2) (its
	// Fourier transform).
	pts := make([]path.Point, 161)
	for i := range pts {
		x := float64(i) / 4
		pts[i] = path.Point{At: geom.V(0.02*math.Sin(2*math.Pi*x/4), 0, x), Handles: path.Smooth}
	}
	wavy := must(t, path.Spline(path.Resolve(pts, false), false), false)
	calm := must(t, wavy.Smooth(1), false)
	b := must(t, calm.Cut(calm.Length()*0.3, calm.Length()*0.7), false).Bounds()
	if want := 0.02 * math.Exp(-2*math.Pi*math.Pi/16); math.Abs(b.Max.X-want) > 0.02*want {
		t.Errorf("a wave of 0.02 is damped to %g, want %g", b.Max.X, want)
	}
	if a, _ := calm.At(0); a.Norm() > 1e-12 {
		t.Errorf("the end moved to %v", a)
	}
	c := must(t, path.Circle(origin, along, across, 1), true)
	if r := must(t, c.Resample(12, true), true); math.Abs(r.Length()-24*math.Sin(math.Pi/12)) > 1e-9 {
		t.Errorf("12 straight steps round a circle are %g", r.Length())
	}
	if r := must(t, c.Resample(24, false), true); math.Abs(r.Length()-2*math.Pi) > 1e-4 {
		t.Errorf("24 smooth steps round a circle are %g", r.Length())
	}
	j := path.Jittering{Seed: 7, Amount: 0.05, Grain: 0.4, Direction: path.JitterAll, Floor: true}
	ground := must(t, path.Circle(geom.V(0, 0.02, 0), geom.V(0, 0, 1), geom.V(1, 0, 0), 1), true)
	a, again := ground.Jitter(j), ground.Jitter(j)
	j.Seed = 8
	other := ground.Jitter(j)
	if len(a) != len(again) || a[3] != again[3] || a[3] == other[3] {
		t.Error("the same seed gave another path, or another seed the same")
	}
	w := must(t, a, true)
	moved := 0.0
	for i := range 2000 {
		p, _ := w.At(w.Length() * float64(i) / 2000)
		if p.Y < 0 {
			t.Fatalf("below the ground: %v", p)
		}
		moved = max(moved, math.Abs(math.Hypot(p.X, p.Z)-1))
	}
	if moved < 0.01 || moved > 0.05*math.Sqrt2 {
		t.Errorf("moved by up to %g, the amount is 0.05 in each direction", moved)
	}
	if k := w.Corners(1e-3); !w.Closed() || w.Spans()[len(w.Spans())-1].End().Sub(w.Spans()[0].Start()).Norm() > 1e-9 || len(k) > 20 {
		t.Errorf("a closed path came apart")
	}
}

func TestReadings(t *testing.T) {
	// A figure of eight crosses itself once, at the origin; a trefoil knot seen as a
	// curve in space never does, and its flat shadow three times.
	eight := func(a float64) geom.Vec { return geom.V(math.Sin(2*a), 0, 2*math.Sin(a)) }
	trefoil := func(h float64) func(a float64) geom.Vec {
		return func(a float64) geom.Vec {
			return geom.V(math.Sin(a)+2*math.Sin(2*a), -h*math.Sin(3*a), math.Cos(a)-2*math.Cos(2*a))
		}
	}
	for name, tc := range map[string]struct {
		f    func(float64) geom.Vec
		want int
	}{"eight": {eight, 1}, "knot": {trefoil(1), 0}, "shadow": {trefoil(0), 3}} {
		pts := make([]path.Point, 30)
		for i := range pts {
			pts[i] = path.Point{At: tc.f(2 * math.Pi * (float64(i) + 0.3) / 30), Handles: path.Smooth}
		}
		c := must(t, path.Spline(path.Resolve(pts, true), true), true)
		got := c.SelfCrossings(10)
		if len(got) != tc.want {
			t.Errorf("%s: %d crossings %v, want %d", name, len(got), got, tc.want)
		}
		for _, x := range got {
			a, _ := c.At(x.A)
			b, _ := c.At(x.B)
			if a.Sub(b).Norm() > 1e-5 {
				t.Errorf("%s: %v and %v", name, a, b)
			}
		}
	}
	// Down, back up over the same way and off in an arc is no crossing; round twice the same way is one.
	out := path.LineSpan(geom.V(0, 1, 0), geom.V(0, 0, 0))
	up := path.LineSpan(geom.V(0, 0, 0), geom.V(0, 0.3, 0))
	off := path.ArcSpan(geom.V(0, 0.3, -0.5), geom.V(0, 0, 0.5), geom.V(0, 0.5, 0), 0, math.Pi)
	back := must(t, []path.Span{out, up, off}, false)
	if got := back.SelfCrossings(10); len(got) != 0 {
		t.Errorf("back over itself: %v", got)
	}
	// Nearly the other way, but across: half a degree.
	lean := math.Tan(0.5 * math.Pi / 180)
	across180 := []geom.Vec{geom.V(0, -1, 0), geom.V(0, 1, 0), geom.V(0.3, 1.2, 0), geom.V(lean, 1, 0), geom.V(-lean, -1, 0)}
	if got := must(t, path.Polyline(across180, false), false).SelfCrossings(10); len(got) != 1 || got[0].At.Norm() > 1e-5 {
		t.Errorf("across at half a degree: %v", got)
	}
	square := []geom.Vec{geom.V(0, 0, 0), geom.V(1, 0, 0), geom.V(1, 1, 0), geom.V(0, 1, 0), geom.V(0, 0, 0), geom.V(1, 0, 0)}
	if got := must(t, path.Polyline(square, false), false).SelfCrossings(10); len(got) == 0 {
		t.Error("over itself the same way: no crossing")
	}
	ell := must(t, path.Ellipse(geom.V(0, 3, 0), along, across, 2, 1), true)
	if k, _ := ell.Tightest(); math.Abs(k-2) > 1e-9 { // a/b^2
		t.Errorf("tightest %g", k)
	}
	if y, at := ell.Lowest(); math.Abs(y-2) > 1e-12 || math.Abs(at-ell.Length()/2) > 0.1 {
		t.Errorf("lowest %g at %g", y, at)
	}
	if got := path.ClosePoints([]geom.Vec{{}, geom.V(1, 0, 0), geom.V(1, 1e-5, 0), geom.V(2, 0, 0)}, false); len(got) != 1 || got[0] != 1 {
		t.Errorf("close points %v", got)
	}
}

// A cache gives the same curve to the bit, and a drag measures only what moved.
func TestCacheChangesNothing(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	pts := make([]path.Point, 100)
	for i := range pts {
		h := geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64()).Mul(0.2)
		pts[i] = path.Point{At: geom.V(float64(i), r.NormFloat64(), 0), Out: h, Handles: path.Mirrored}
	}
	var cache path.Cache
	for drag := range 3 {
		pts[50].At.Y += 0.1 * float64(drag)
		spans := path.Spline(path.Resolve(pts, true), true)
		cache.Next()
		cached, err := cache.New(spans, true)
		if err != nil {
			t.Fatal(err)
		}
		plain := must(t, spans, true)
		for i := range 500 {
			s := plain.Length() * float64(i) / 500
			p, _ := plain.At(s)
			if q, _ := cached.At(s); p != q {
				t.Fatalf("drag %d: %v is %v from the cache", drag, p, q)
			}
		}
	}
}
