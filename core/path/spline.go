package path

import (
	"math"

	"bead/core/geom"
)

// Handles says how the two handles of a spline point relate.
type Handles string

// The kinds of handles.
const (
	Smooth   Handles = "smooth"   // both found from the neighbours: curvature is continuous
	Aligned  Handles = "aligned"  // one direction, two lengths
	Mirrored Handles = "mirrored" // one direction, one length
	Free     Handles = "free"     // independent; a zero handle makes a corner
)

// Point is a spline point with its handles as offsets from it, in metres.
type Point struct {
	At, In, Out geom.Vec
	Handles     Handles
}

// Resolve returns the points with the handles their kinds ask for:
//
//   - mirrored: In becomes -Out.
//   - aligned: In keeps its length and turns to lie opposite Out. Where one of
//     the two is zero the other is left as it is.
//   - smooth: both handles from the cubic spline of continuous curvature through
//     the points, knots spaced by the square root of the chord (E. T. Y. Lee,
//     "Choosing nodes in parametric curve interpolation", CAD 21, 1989). Points of
//     other kinds hold their own tangents and part the spline; at open ends the
//     curvature is zero.
func Resolve(pts []Point, closed bool) []Point {
	out := append([]Point(nil), pts...)
	smooth := 0
	for i := range out {
		p := &out[i]
		switch p.Handles {
		case Mirrored:
			p.In = p.Out.Neg()
		case Aligned:
			if d := p.Out.Unit(); d != (geom.Vec{}) && p.In != (geom.Vec{}) {
				p.In = d.Mul(-p.In.Norm())
			}
		case Smooth:
			p.In, p.Out = geom.Vec{}, geom.Vec{}
			smooth++
		}
	}
	if smooth > 0 && len(out) > 1 {
		smoothHandles(out, closed)
	}
	return out
}

// smoothHandles solves for the velocities m at smooth points:
//
//	h1 m(i-1) + 2(h0+h1) m(i) + h0 m(i+1) = 3 (h1/h0 (P(i)-P(i-1)) + h0/h1 (P(i+1)-P(i)))
//
// with knot steps h0 before and h1 after. The system is diagonally dominant by a
// factor of two, so each Gauss-Seidel sweep at least quarters the error and
// sweeps enough for full precision are cheap and need no special case for closed
// curves.
func smoothHandles(p []Point, closed bool) {
	n := len(p)
	h := make([]float64, n) // step from i to i+1
	mean := 0.0
	for i := range p {
		h[i] = math.Sqrt(p[(i+1)%n].At.Sub(p[i].At).Norm())
		mean += h[i] / float64(n)
	}
	for i := range h {
		h[i] = max(h[i], 1e-6*mean, 1e-12)
	}
	m, by := make([]geom.Vec, n), make([]smoothRow, n)
	for i := range p {
		if p[i].Handles == Smooth {
			by[i] = rowOf(p, h, i, closed)
		}
	}
	const sweeps = 30 // 4^-30 is below 1e-18
	for range sweeps {
		for i := range by {
			r := &by[i]
			if r.share == 0 {
				continue
			}
			prev, next := i-1, i+1
			if prev < 0 {
				prev = n - 1
			}
			if next == n {
				next = 0
			}
			m[i] = r.rest.Mad(m[prev], -r.prev).Mad(m[next], -r.next).Mul(r.share)
		}
	}
	for i := range p {
		if p[i].Handles == Smooth {
			p[i].In, p[i].Out = m[i].Mul(-h[(i+n-1)%n]/3), m[i].Mul(h[i]/3)
		}
	}
}

// smoothRow is a row of the system: m = share (rest - prev m(i-1) - next m(i+1)).
type smoothRow struct {
	rest              geom.Vec
	prev, next, share float64
}

// rowOf makes row i. A neighbour of another kind offers the handle on our side as velocity.
func rowOf(p []Point, h []float64, i int, closed bool) smoothRow {
	n := len(p)
	prev, next := (i+n-1)%n, (i+1)%n
	h0, h1 := h[prev], h[i]
	before, after := p[i].At.Sub(p[prev].At), p[next].At.Sub(p[i].At)
	var r smoothRow
	switch {
	case !closed && i == 0:
		r = smoothRow{after.Mul(3 / h1), 0, 1, 0.5}
	case !closed && i == n-1:
		r = smoothRow{before.Mul(3 / h0), 1, 0, 0.5}
	default:
		r = smoothRow{before.Mul(3*h1/h0).Mad(after, 3*h0/h1), h1, h0, 1 / (2 * (h0 + h1))}
	}
	if r.prev != 0 && p[prev].Handles != Smooth {
		r.rest, r.prev = r.rest.Mad(p[prev].Out.Mul(3/h0), -r.prev), 0
	}
	if r.next != 0 && p[next].Handles != Smooth {
		r.rest, r.next = r.rest.Mad(p[next].In.Mul(-3/h1), -r.next), 0
	}
	return r
}

// Spline returns the cubic spans through resolved points. Between two points
// whose handles on that side are both zero the span is a straight line.
func Spline(pts []Point, closed bool) []Span {
	n := len(pts)
	count := n - 1
	if closed && n > 1 {
		count = n
	}
	spans := make([]Span, 0, max(count, 0))
	for i := range count {
		a, b := &pts[i], &pts[(i+1)%n]
		if a.Out == (geom.Vec{}) && b.In == (geom.Vec{}) {
			spans = append(spans, LineSpan(a.At, b.At))
			continue
		}
		spans = append(spans, CubicSpan(a.At, a.At.Add(a.Out), b.At.Add(b.In), b.At))
	}
	return spans
}

// ToPoints returns spline points that trace the curve: exactly for lines and
// cubics; arcs are cut so that none turns by more than 45 degrees, which keeps
// them within 4e-6 of their radius, and catenaries into eight.
func ToPoints(spans []Span, closed bool) []Point {
	var cubics [][4]geom.Vec
	for i := range spans {
		s := &spans[i]
		switch s.Kind {
		case Line:
			cubics = append(cubics, [4]geom.Vec{s.P[0], s.P[0], s.P[3], s.P[3]})
		case Cubic:
			cubics = append(cubics, s.P)
		case Arc:
			most := math.Pi / 4
			if s.Grow != 0 {
				most /= 2 // the fit below is that of a circle
			}
			n := int(math.Ceil(math.Abs(s.Sweep)/most - 1e-9))
			for j := range max(n, 1) {
				t0, t1 := float64(j)/float64(n), float64(j+1)/float64(n)
				// The standard fit of a quarter turn or less: handles 4/3 tan(angle/4).
				k := 4.0 / 3 * math.Tan(s.Sweep*(t1-t0)/4) / s.Sweep
				a, b := s.Point(t0), s.Point(t1)
				cubics = append(cubics, [4]geom.Vec{a, a.Mad(s.Deriv(t0), k), b.Mad(s.Deriv(t1), -k), b})
			}
		case Hang:
			const parts = 8
			for j := range parts {
				t0, t1 := float64(j)/parts, float64(j+1)/parts
				a, b := s.Point(t0), s.Point(t1)
				cubics = append(cubics, [4]geom.Vec{a, a.Mad(s.Deriv(t0), 1.0/3/parts), b.Mad(s.Deriv(t1), -1.0/3/parts), b})
			}
		}
	}
	pts := make([]Point, 0, len(cubics)+1)
	for i, c := range cubics {
		p := Point{At: c[0], Out: c[1].Sub(c[0]), Handles: Free}
		if i > 0 {
			p.In = cubics[i-1][2].Sub(c[0])
		}
		pts = append(pts, p)
	}
	if n := len(cubics); n > 0 {
		last := cubics[n-1]
		if closed && last[3].Sub(cubics[0][0]).Norm() <= 1e-9*last[3].Sub(last[0]).Norm() {
			pts[0].In = last[2].Sub(last[3])
		} else {
			pts = append(pts, Point{At: last[3], In: last[2].Sub(last[3]), Handles: Free})
		}
	}
	for i := range pts {
		p := &pts[i]
		in, out := p.In.Norm(), p.Out.Norm()
		if in > 0 && out > 0 && p.In.Mul(1/in).Add(p.Out.Mul(1/out)).Norm() < 1e-9 {
			p.Handles = Aligned
		}
	}
	return pts
}

// InsertPoint returns the resolved points with one more at parameter t of the span
// that follows point after; the shape is unchanged (de Casteljau). It panics when
// there is no such span: an open spline has one less than points.
func InsertPoint(pts []Point, closed bool, after int, t float64) []Point {
	span := Spline(pts, closed)[after]
	if span.Kind == Line {
		return insertAt(pts, after+1, Point{At: span.Point(t), Handles: Free})
	}
	a, b := span.Split(t)
	out := insertAt(pts, after+1, Point{At: a.P[3], In: a.P[2].Sub(a.P[3]), Out: b.P[1].Sub(b.P[0]), Handles: Aligned})
	prev, next := &out[after], &out[(after+2)%len(out)]
	prev.Out, next.In = a.P[1].Sub(a.P[0]), b.P[2].Sub(b.P[3])
	for _, p := range [...]*Point{prev, next} {
		// Handles of these kinds would not stay as long as they have become.
		if p.Handles == Smooth || p.Handles == Mirrored {
			p.Handles = Aligned
		}
	}
	return out
}

func insertAt(pts []Point, i int, p Point) []Point {
	out := make([]Point, 0, len(pts)+1)
	out = append(out, pts[:i]...)
	out = append(out, p)
	return append(out, pts[i:]...)
}
