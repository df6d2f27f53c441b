package path_test

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"bead/core/geom"
	"bead/core/path"
)

func must(t testing.TB, spans []path.Span, closed bool) *path.Curve {
	t.Helper()
	c, err := path.New(spans, closed)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func cubic(v ...float64) []path.Span {
	var p [4]geom.Vec
	for i := range p {
		p[i] = geom.V(v[3*i], v[3*i+1], v[3*i+2])
	}
	return []path.Span{path.CubicSpan(p[0], p[1], p[2], p[3])}
}

var (
	along, across = geom.V(0, 0, 1), geom.V(0, 1, 0)
	origin        = geom.Vec{}
)

// Lengths of MATH 1, worked out with 25 digits outside this code unless a closed
// form is named.
func TestLengths(t *testing.T) {
	helix := path.ArcSpan(origin, geom.V(1, 0, 0), geom.V(0, 1, 0), 0, 2*math.Pi)
	helix.P[3] = geom.V(0, 0, 0.5)
	// The parabola y = x^2 on 0..1 as a cubic: handles at a third, degree raised.
	parabola := cubic(0, 0, 0, 1.0/3, 0, 0, 2.0/3, 1.0/3, 0, 1, 1, 0)
	for _, tc := range []struct {
		name   string
		spans  []path.Span
		closed bool
		want   float64
		tol    float64 // relative
	}{
		{"line", []path.Span{path.LineSpan(origin, geom.V(3, 4, 12))}, false, 13, 1e-15},
		{"circle 2 pi r", path.Circle(origin, along, across, 2), true, 4 * math.Pi, 1e-15},
		{"ellipse 4aE(e), DLMF 19", path.Ellipse(origin, along, across, 2, 1), true, 9.688448220547676, 1e-13},
		{"flat ellipse 4aE(e), E by the arithmetic-geometric mean", path.Ellipse(origin, along, across, 1, 1e-3), true, 4.000015588104685, 1e-12},
		{"parabola sqrt5/2 + asinh(2)/4", parabola, false, math.Sqrt(5)/2 + math.Asinh(2)/4, 1e-13},
		{"easy cubic", cubic(0, 0, 0, 1, 2, 0, 3, 2, 0, 4, 0, 0), false, 5.268365543018514, 1e-13},
		{"true cusp", cubic(0, 0, 0, 4, 3, 0, 0, 3, 0, 4, 0, 0), false, 6.125, 1e-12},
		{"space cubic", cubic(0, 0, 0, 1, 2, 1, 3, 2, -1, 4, 0, 2), false, 5.974219675596789, 1e-13},
		{"helix", []path.Span{helix}, false, 6.303048278758258, 1e-15},
		{"slot 2 l + 2 pi r", path.Slot(origin, along, across, 3, 0.5), true, 6 + math.Pi, 1e-15},
		{"back and forth on a line", cubic(0, 0, 0, 2, 0, 0, -1, 0, 0, 1, 0, 0), false, 1 + 2*backtrack(), 1e-12},
		{"handles on their points", cubic(0, 0, 0, 0, 0, 0, 5, 0, 0, 5, 0, 0), false, 5, 1e-12},
		{"closed by a straight line", path.Polyline([]geom.Vec{{}, {X: 3}, {X: 3, Y: 4}}, false), true, 12, 1e-15},
	} {
		c := must(t, tc.spans, tc.closed)
		if got := c.Length(); math.Abs(got-tc.want) > tc.tol*tc.want {
			t.Errorf("%s: length %.16g, want %.16g", tc.name, got, tc.want)
		}
	}
}

// backtrack is the fall between the two turning points of
// x(t) = 6t - 15t^2 + 10t^3, the roots of x' = 6 - 30t + 30t^2. It is run three
// times instead of once, so the length is 1 + 2 times that.
func backtrack() float64 {
	t := (5 - math.Sqrt(5)) / 10
	return 2*(6*t-15*t*t+10*t*t*t) - 1
}

func hard() map[string]*path.Curve {
	r := rand.New(rand.NewPCG(7, 7))
	out := map[string]*path.Curve{}
	add := func(name string, spans []path.Span, closed bool) {
		c, err := path.New(spans, closed)
		if err != nil {
			panic(err)
		}
		out[name] = c
	}
	add("cusp", cubic(0, 0, 0, 4, 3, 0, 0, 3, 0, 4, 0, 0), false)
	add("near cusp", cubic(0, 0, 0, 4, 3, 1e-4, 0, 3, 0, 4, 0, 0), false)
	add("handles on points", cubic(0, 0, 0, 0, 0, 0, 5, 1, 0, 5, 1, 0), false)
	add("loop", cubic(0, 0, 0, 5, 4, 0, -4, 4, 0, 1, 0, 0), false)
	add("tiny", cubic(0, 0, 0, 1e-6, 2e-6, 0, 3e-6, 2e-6, 0, 4e-6, 0, 0), false)
	add("huge", cubic(0, 0, 0, 1e6, 2e6, 0, 3e6, 2e6, 0, 4e6, 0, 0), false)
	add("flat ellipse", path.Ellipse(origin, along, across, 1, 1e-3), true)
	for i := range 12 {
		pts := make([]path.Point, 4+i)
		for k := range pts {
			pts[k] = path.Point{At: geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64()), Handles: path.Smooth}
		}
		closed := i%2 == 0
		add(fmt.Sprint("random ", i), path.Spline(path.Resolve(pts, closed), closed), closed)
	}
	return out
}

// Distance to position to distance: the length integrated anew up to the point
// that At returns must be the distance asked for, to 1e-9 of the length. A fine
// polyline is the second, obvious reference.
func TestPositionAtDistance(t *testing.T) {
	for name, c := range hard() {
		l := c.Length()
		for i := range 400 {
			s := l * (float64(i) + 0.37) / 400
			if got := c.Between(0, s); math.Abs(got-s) > 1e-9*l {
				t.Fatalf("%s: integral up to At(%g) is off by %g of the length", name, s, (got-s)/l)
			}
			if _, tan := c.At(s); math.Abs(tan.Norm()-1) > 1e-12 {
				t.Fatalf("%s: tangent at %g has length %g", name, s, tan.Norm())
			}
		}
		const chords = 200_000
		prev, _ := c.At(0)
		sum := 0.0
		for i := 1; i <= chords; i++ {
			s := l * float64(i) / chords
			if i == chords && c.Closed() {
				s = 0
			}
			p, _ := c.At(s)
			sum += p.Sub(prev).Norm()
			prev = p
		}
		// Chords fall short by about kappa^2 h^2/24; cusps cost a little more. They
		// cannot come out longer but for the rounding of each of their ends.
		if sum > l*(1+chords*0x1p-52) || sum < l*(1-2e-6) {
			t.Errorf("%s: %d chords make %.12g, length %.12g", name, chords, sum, l)
		}
	}
}

func TestTangentsAndRunOn(t *testing.T) {
	c := must(t, cubic(0, 0, 0, 4, 3, 0, 0, 3, 0, 4, 0, 0), false)
	// The cusp is at t = 1/2, half way; the tangent ahead points down.
	_, tan := c.At(c.Length() / 2)
	if tan.Sub(geom.V(0, -1, 0)).Norm() > 1e-3 {
		t.Errorf("tangent at the cusp %v, want the one ahead (0 -1 0)", tan)
	}
	straight := must(t, []path.Span{path.LineSpan(origin, geom.V(0, 0, 2))}, false)
	for s, want := range map[float64]float64{-1: -1, 0: 0, 1.5: 1.5, 2: 2, 7: 7} {
		if p, _ := straight.At(s); math.Abs(p.Z-want) > 1e-15 {
			t.Errorf("At(%g).Z = %g: an open path runs straight on", s, p.Z)
		}
	}
	loop := must(t, path.Circle(origin, along, across, 1), true)
	for _, s := range []float64{0, 1, 5, -1e-18} {
		p, _ := loop.At(s)
		for _, turns := range []float64{-3, 1, 1000} {
			q, _ := loop.At(s + turns*loop.Length())
			if p.Sub(q).Norm() > 1e-12*math.Abs(turns) {
				t.Errorf("At(%g) and %g turns on differ by %g", s, turns, p.Sub(q).Norm())
			}
		}
	}
}

// An upper-side start, running forward: what a tread expects.
func TestGeneratorsRunForwardOnTop(t *testing.T) {
	for name, spans := range map[string][]path.Span{
		"circle": path.Circle(origin, along, across, 1), "ellipse": path.Ellipse(origin, along, across, 2, 1),
		"slot": path.Slot(origin, along, across, 2, 1), "slot without straights": path.Slot(origin, along, across, 0, 1),
	} {
		c := must(t, spans, true)
		p, tan := c.At(0)
		if tan.Sub(along).Norm() > 1e-14 || math.Abs(p.Y-1) > 1e-14 {
			t.Errorf("%s starts at %v along %v", name, p, tan)
		}
		if end := spans[len(spans)-1].End(); end.Sub(p).Norm() > 1e-14 {
			t.Errorf("%s does not close: %v", name, end)
		}
		if n := c.Plane().Normal; math.Abs(n.X-1) > 1e-12 { // z towards -y: counter-clockwise about +x
			t.Errorf("%s: normal %v", name, n)
		}
	}
}

func TestCurvatureAndBounds(t *testing.T) {
	c := must(t, path.Ellipse(origin, along, across, 2, 1), true)
	// An ellipse's greatest curvature is a/b^2, its least b/a^2 (closed form).
	if got := c.Curvature(0).Norm(); math.Abs(got-0.25) > 1e-9 {
		t.Errorf("curvature at the flat side %g, want 0.25", got)
	}
	if got := c.Curvature(c.Length() / 4).Norm(); math.Abs(got-2) > 1e-9 {
		t.Errorf("curvature at the sharp end %g, want 2", got)
	}
	helix := path.ArcSpan(origin, geom.V(1, 0, 0), geom.V(0, 1, 0), 0.3, 9)
	helix.P[3] = geom.V(0.5, -2, 1)
	for name, spans := range map[string][]path.Span{
		"helix": {helix}, "cubic": cubic(0, 0, 0, 1, 2, 1, 3, 2, -1, 4, 0, 2), "ellipse": path.Ellipse(origin, along, across, 2, 1),
	} {
		// The dense box can only be smaller, and by little.
		dense := geom.EmptyBox()
		for i := range spans {
			for k := range 20_001 {
				dense = dense.Extend(spans[i].Point(float64(k) / 20_000))
			}
		}
		got := must(t, spans, false).Bounds()
		if got.Min.Sub(dense.Min).Norm() > 1e-6 || got.Max.Sub(dense.Max).Norm() > 1e-6 ||
			got.Min.X > dense.Min.X || got.Max.Y < dense.Max.Y {
			t.Errorf("%s: bounds %v, sampled %v", name, got, dense)
		}
	}
}

// Splitting, inserting and turning into points keep the shape.
func TestSplitInsertToPoints(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 9))
	pts := make([]path.Point, 7)
	for i := range pts {
		pts[i] = path.Point{At: geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64()), Handles: path.Smooth}
	}
	for _, closed := range []bool{true, false} {
		resolved := path.Resolve(pts, closed)
		c := must(t, path.Spline(resolved, closed), closed)
		for i := range 20 {
			at, u := i%len(c.Spans()), r.Float64()
			more := path.InsertPoint(resolved, closed, at, u)
			d := must(t, path.Spline(path.Resolve(more, closed), closed), closed)
			want := c.Spans()[at].Point(u)
			if len(more) != 8 || more[at+1].At.Sub(want).Norm() > 1e-12 || math.Abs(d.Length()-c.Length()) > 1e-9*c.Length() {
				t.Fatalf("closed %v: inserting after %d moves the point by %g, changes the length by %g",
					closed, at, more[at+1].At.Sub(want).Norm(), d.Length()-c.Length())
			}
			for k := range 50 {
				q := c.Length() * float64(k) / 50
				a, _ := c.At(q)
				b, _ := d.At(q)
				if a.Sub(b).Norm() > 1e-8 {
					t.Fatalf("closed %v: inserting after %d changes the shape at %g by %g", closed, at, q, a.Sub(b).Norm())
				}
			}
		}
	}
	slot := path.Slot(origin, along, across, 2, 0.5)
	free := path.ToPoints(slot, true)
	c, d := must(t, slot, true), must(t, path.Spline(path.Resolve(free, true), true), true)
	if e := math.Abs(c.Length()-d.Length()) / c.Length(); e > 4e-6 || !d.Closed() {
		t.Errorf("slot as points: length off by %g", e)
	}
	arc := slot[1]
	a, b := arc.Split(0.3)
	if a.End().Sub(b.Start()).Norm() > 1e-15 || b.End().Sub(arc.End()).Norm() > 1e-15 || a.Point(0.5).Sub(arc.Point(0.15)).Norm() > 1e-15 {
		t.Error("an arc split in two is not the arc")
	}
}

// Smooth splines have continuous curvature: second derivatives over the knot
// step agree on both sides of every inner point.
func TestSmoothSplineIsSmooth(t *testing.T) {
	pts := []path.Point{{At: geom.V(0, 0, 0)}, {At: geom.V(1, 2, 0)}, {At: geom.V(3, 1, 1)}, {At: geom.V(4, 4, 0)}, {At: geom.V(0, 5, 2)}}
	for i := range pts {
		pts[i].Handles = path.Smooth
	}
	for _, closed := range []bool{true, false} {
		c := must(t, path.Spline(path.Resolve(pts, closed), closed), closed)
		for i := 1; i < len(c.Spans()); i++ {
			s := c.SpanStart(i)
			before, after := c.Curvature(s-1e-9), c.Curvature(s+1e-9)
			if before.Sub(after).Norm() > 1e-6*(1+before.Norm()) {
				t.Errorf("closed %v: curvature jumps at point %d: %v to %v", closed, i, before, after)
			}
		}
		if !closed && c.Curvature(0).Norm() > 1e-9 {
			t.Errorf("curvature at the open end %v, want 0", c.Curvature(0))
		}
	}
	// Mirrored and aligned handles obey their kinds whatever the document says.
	out := path.Resolve([]path.Point{
		{At: geom.V(0, 0, 0), In: geom.V(9, 9, 9), Out: geom.V(1, 0, 0), Handles: path.Mirrored},
		{At: geom.V(5, 0, 0), In: geom.V(0, 2, 0), Out: geom.V(0, 0, 3), Handles: path.Aligned},
		{At: geom.V(7, 0, 0), In: geom.V(0, 2, 0), Out: geom.V(0, 0, 3), Handles: path.Free},
	}, false)
	if out[0].In != geom.V(-1, 0, 0) || out[1].In != geom.V(0, 0, -2) || out[2].In != geom.V(0, 2, 0) {
		t.Errorf("resolved handles: %v", out)
	}
}

func TestBadCurves(t *testing.T) {
	nan := math.NaN()
	for name, spans := range map[string][]path.Span{
		"nothing": nil, "one point": path.Polyline([]geom.Vec{{X: 1}}, false),
		"the same point twice": path.Polyline([]geom.Vec{{X: 1}, {X: 1}}, true),
		"all handles together": cubic(1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1),
	} {
		if _, err := path.New(spans, false); !errors.Is(err, path.ErrZeroLength) {
			t.Errorf("%s: %v, want ErrZeroLength", name, err)
		}
	}
	for _, bad := range []float64{nan, math.Inf(1), 1e12} {
		if _, err := path.New(cubic(0, 0, 0, bad, 0, 0, 1, 0, 0, 1, 1, 0), false); err == nil {
			t.Errorf("coordinate %g is accepted", bad)
		}
	}
	// Repeated points inside a path are left out, not divided by.
	c := must(t, path.Polyline([]geom.Vec{{}, {}, {X: 1}, {X: 1}, {X: 2}}, false), false)
	if c.Length() != 2 || len(c.Spans()) != 2 {
		t.Errorf("length %g with %d spans, want 2 with 2", c.Length(), len(c.Spans()))
	}
}

func TestStationsKeepTheirWord(t *testing.T) {
	c := must(t, path.Ellipse(origin, along, across, 2, 1), true)
	for _, tol := range []float64{1e-2, 1e-3, 1e-4} {
		st := c.Stations(nil, tol, 1)
		for i := 1; i < len(st); i++ {
			a, _ := c.At(st[i-1])
			b, _ := c.At(st[i])
			m, _ := c.At((st[i] + st[i-1]) / 2)
			// 1.05: kappa h^2/8 is the leading term.
			if dev := m.Sub(a.Lerp(b, 0.5)).Norm(); dev > 1.05*tol {
				t.Fatalf("tolerance %g: chord %d strays by %g", tol, i, dev)
			}
		}
	}
}

func spline12() *path.Curve {
	pts := make([]path.Point, 12)
	for i := range pts {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / 12)
		k := 1 + 0.3*math.Sin(3*float64(i))
		pts[i] = path.Point{At: geom.V(0.2*sin*cos, k*sin, k*cos), Handles: path.Smooth}
	}
	c, err := path.New(path.Spline(path.Resolve(pts, true), true), true)
	if err != nil {
		panic(err)
	}
	return c
}

func BenchmarkAt(b *testing.B) {
	c := spline12()
	s, step := 0.0, c.Length()*0.381966
	b.ReportAllocs()
	for b.Loop() {
		s = c.Wrap(s + step)
		c.At(s)
	}
}

func BenchmarkMeasure(b *testing.B) {
	// Drawn: a winding line as a hand draws it. Wild: every point thrown anew, so that
	// each span is a hard one.
	winding := func(n int, wild float64) []path.Point {
		pts := make([]path.Point, n)
		r := rand.New(rand.NewPCG(1, 1))
		for i := range pts {
			x := float64(i)
			pts[i] = path.Point{At: geom.V(x, 2*math.Sin(x/3)+wild*r.NormFloat64(), math.Cos(x/5)+wild*r.NormFloat64()), Handles: path.Smooth}
		}
		return pts
	}
	for _, bc := range []struct {
		name string
		pts  []path.Point
	}{{"12-span", winding(12, 0.1)}, {"1000-span-drawn", winding(1000, 0.1)}, {"1000-span-wild", winding(1000, 1)}} {
		b.Run(bc.name, func(b *testing.B) {
			for b.Loop() {
				if _, err := path.New(path.Spline(path.Resolve(bc.pts, true), true), true); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
	// One point of a hundred is dragged: with the cache only its neighbourhood is
	// measured, without it everything.
	pts := winding(100, 0.3)
	drag := func(b *testing.B, next func() *path.Cache) {
		for i := 0; b.Loop(); i++ {
			pts[50].At.Y += 0.01 * float64(i%2*2-1)
			if _, err := next().New(path.Spline(path.Resolve(pts, true), true), true); err != nil {
				b.Fatal(err)
			}
		}
	}
	var cache path.Cache
	b.Run("drag-of-100/cached", func(b *testing.B) {
		drag(b, func() *path.Cache { cache.Next(); return &cache })
	})
	b.Run("drag-of-100/anew", func(b *testing.B) {
		drag(b, func() *path.Cache { return new(path.Cache) })
	})
}

func ExampleCurve_At() {
	along, across, _ := path.Axes(path.PlaneSide)
	c, _ := path.New(path.Slot(geom.Vec{}, along, across, 2, 0.5), true)
	p, forward := c.At(1)
	fmt.Printf("%.3f m round; at 1 m: %.2f %.2f %.2f, forward %.0f %.0f %.0f\n",
		c.Length(), p.X, p.Y, p.Z, forward.X, forward.Y, forward.Z)
	// Output: 7.142 m round; at 1 m: 0.00 0.50 0.00, forward 0 0 1
}
