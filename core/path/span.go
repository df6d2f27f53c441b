// Package path turns curves into lengths. A Curve is a run of spans (straight
// lines, elliptic arcs, catenaries, cubic Beziers) that is measured once; after that the
// position at a distance costs a table look-up and one polynomial.
//
// All lengths are metres, distances run from 0 at the start to Length at the
// end. On a closed curve distances are taken modulo the length; an open curve
// runs straight on past its ends along the end tangents.
package path

import (
	"math"

	"bead/core/geom"
)

// Kind says how a Span's points are to be read.
type Kind uint8

// The kinds of span.
const (
	Line  Kind = iota // P[0] to P[3], straight
	Arc               // P[0] centre, P[1] and P[2] the half axes a and b, P[3] the rise
	Cubic             // the four Bezier control points
	Hang              // P[0] start, P[1] and P[2] the catenary's parameter ahead and up
)

// Span is one piece of a curve over the parameter t in 0..1. An Arc is
//
//	c(t) = centre + (1 + Grow t) (a cos(From + Sweep t) + b sin(From + Sweep t)) + rise t
//
// with a and b of any lengths and directions, so circles, ellipses, spirals and
// helices on cylinders and cones are all arcs. From and Sweep are radians; they
// and Grow, the share by which the radius has grown at t = 1, are used by arcs alone.
// A Hang is a stretch of a catenary,
//
//	c(t) = start + x (asinh u - asinh From) + y (sqrt(1 + u^2) - sqrt(1 + From^2)),  u = From + Sweep t
//
// where u is the slope; x and y are as long as the catenary's parameter, so that equal
// steps of t are equal distances.
type Span struct {
	Kind        Kind
	P           [4]geom.Vec
	From, Sweep float64
	Grow        float64
}

// LineSpan returns the straight span from a to b.
func LineSpan(a, b geom.Vec) Span { return Span{Kind: Line, P: [4]geom.Vec{a, {}, {}, b}} }

// CubicSpan returns the Bezier span with the given control points.
func CubicSpan(a, b, c, d geom.Vec) Span {
	return Span{Kind: Cubic, P: [4]geom.Vec{a, b, c, d}}
}

// ArcSpan returns the arc round centre with half axes a and b.
func ArcSpan(centre, a, b geom.Vec, from, sweep float64) Span {
	return Span{Kind: Arc, P: [4]geom.Vec{centre, a, b, {}}, From: from, Sweep: sweep}
}

// HangSpan returns the catenary from start with x and y its parameter ahead and up,
// between two slopes.
func HangSpan(start, x, y geom.Vec, from, to float64) Span {
	return Span{Kind: Hang, P: [4]geom.Vec{start, x, y, {}}, From: from, Sweep: to - from}
}

// Point returns c(t).
func (s *Span) Point(t float64) geom.Vec {
	switch s.Kind {
	case Line:
		return s.P[0].Lerp(s.P[3], t)
	case Arc:
		sin, cos := math.Sincos(s.From + s.Sweep*t)
		g := 1 + s.Grow*t
		return s.P[0].Mad(s.P[1], g*cos).Mad(s.P[2], g*sin).Mad(s.P[3], t)
	case Hang:
		u := s.From + s.Sweep*t
		// Differences of large numbers, written so that a taut stretch keeps its digits.
		r, r0 := math.Sqrt(1+u*u), math.Sqrt(1+s.From*s.From)
		rise := (u - s.From) * (u + s.From) / (r + r0)
		return s.P[0].Mad(s.P[1], math.Asinh(u*r0-s.From*r)).Mad(s.P[2], rise)
	}
	r := 1 - t
	a, b, c, d := r*r*r, 3*r*r*t, 3*r*t*t, t*t*t
	return geom.Vec{
		X: a*s.P[0].X + b*s.P[1].X + c*s.P[2].X + d*s.P[3].X,
		Y: a*s.P[0].Y + b*s.P[1].Y + c*s.P[2].Y + d*s.P[3].Y,
		Z: a*s.P[0].Z + b*s.P[1].Z + c*s.P[2].Z + d*s.P[3].Z,
	}
}

// Deriv returns c'(t).
func (s *Span) Deriv(t float64) geom.Vec {
	switch s.Kind {
	case Line:
		return s.P[3].Sub(s.P[0])
	case Arc:
		sin, cos := math.Sincos(s.From + s.Sweep*t)
		g := (1 + s.Grow*t) * s.Sweep
		return s.P[1].Mul(s.Grow*cos-g*sin).Mad(s.P[2], s.Grow*sin+g*cos).Add(s.P[3])
	case Hang:
		u := s.From + s.Sweep*t
		return s.P[1].Mad(s.P[2], u).Mul(s.Sweep / math.Sqrt(1+u*u))
	}
	r := 1 - t
	a, b, c := 3*r*r, 6*r*t, 3*t*t
	return geom.Vec{
		X: a*(s.P[1].X-s.P[0].X) + b*(s.P[2].X-s.P[1].X) + c*(s.P[3].X-s.P[2].X),
		Y: a*(s.P[1].Y-s.P[0].Y) + b*(s.P[2].Y-s.P[1].Y) + c*(s.P[3].Y-s.P[2].Y),
		Z: a*(s.P[1].Z-s.P[0].Z) + b*(s.P[2].Z-s.P[1].Z) + c*(s.P[3].Z-s.P[2].Z),
	}
}

// Deriv2 returns the second derivative c”(t).
func (s *Span) Deriv2(t float64) geom.Vec {
	switch s.Kind {
	case Line:
		return geom.Vec{}
	case Arc:
		sin, cos := math.Sincos(s.From + s.Sweep*t)
		k, turn := -s.Sweep*s.Sweep*(1+s.Grow*t), 2*s.Grow*s.Sweep
		return s.P[1].Mul(cos*k-sin*turn).Mad(s.P[2], sin*k+cos*turn)
	case Hang:
		u := s.From + s.Sweep*t
		return s.P[2].Mad(s.P[1], -u).Mul(s.Sweep * s.Sweep / math.Pow(1+u*u, 1.5))
	}
	u := s.P[2].Sub(s.P[1].Mul(2)).Add(s.P[0])
	v := s.P[3].Sub(s.P[2].Mul(2)).Add(s.P[1])
	return u.Mul(6*(1-t)).Mad(v, 6*t)
}

// curvature returns the curvature vector at t, zero where the span stands still.
func (s *Span) curvature(t float64) geom.Vec {
	if s.Kind == Line {
		return geom.Vec{}
	}
	d, dd := s.Deriv(t), s.Deriv2(t)
	v := d.Norm2()
	if size := s.size(); v <= 1e-14*size*size {
		return geom.Vec{}
	}
	return dd.Sub(d.Mul(d.Dot(dd) / v)).Mul(1 / v)
}

// Start returns c(0).
func (s *Span) Start() geom.Vec { return s.Point(0) }

// End returns c(1).
func (s *Span) End() geom.Vec { return s.Point(1) }

// size is an upper bound of the length, used as the scale of tolerances.
func (s *Span) size() float64 {
	switch s.Kind {
	case Line:
		return s.P[3].Sub(s.P[0]).Norm()
	case Arc:
		r := max(s.P[1].Norm(), s.P[2].Norm())
		return math.Hypot(s.Sweep*r*max(1, 1+s.Grow), s.P[3].Norm()) + math.Abs(s.Grow)*r
	case Hang:
		if s.evenSpeed() {
			return s.P[1].Norm() * math.Abs(s.Sweep)
		}
		return math.Hypot(s.P[1].Norm(), s.P[2].Norm()) * math.Abs(s.Sweep)
	}
	return s.P[1].Sub(s.P[0]).Norm() + s.P[2].Sub(s.P[1]).Norm() + s.P[3].Sub(s.P[2]).Norm()
}

// evenSpeed reports whether distance is proportional to t, and size then the
// length in closed form: lines, circular arcs, helices and catenaries.
func (s *Span) evenSpeed() bool {
	switch s.Kind {
	case Line:
		return true
	case Arc:
		a, b, rise := s.P[1], s.P[2], s.P[3]
		r := a.Norm()
		return s.Grow == 0 && math.Abs(r-b.Norm()) <= 1e-15*r && math.Abs(a.Dot(b)) <= 1e-15*r*r &&
			max(math.Abs(a.Dot(rise)), math.Abs(b.Dot(rise))) <= 1e-15*r*rise.Norm()
	case Hang:
		x, y := s.P[1], s.P[2]
		a := x.Norm()
		return math.Abs(a-y.Norm()) <= 1e-14*a && math.Abs(x.Dot(y)) <= 1e-14*a*a
	}
	return false
}

// Split returns the two spans that together are s, meeting at t.
// Bezier spans by de Casteljau's construction, which is exact.
func (s *Span) Split(t float64) (Span, Span) {
	switch s.Kind {
	case Line:
		m := s.Point(t)
		return LineSpan(s.P[0], m), LineSpan(m, s.P[3])
	case Arc:
		a, b := *s, *s
		a.Sweep = s.Sweep * t
		b.From, b.Sweep = s.From+a.Sweep, s.Sweep-a.Sweep
		a.P[3], b.P[3] = s.P[3].Mul(t), s.P[3].Mul(1-t)
		b.P[0] = s.P[0].Mad(s.P[3], t)
		g := 1 + s.Grow*t
		b.P[1], b.P[2] = s.P[1].Mul(g), s.P[2].Mul(g)
		a.Grow, b.Grow = s.Grow*t, s.Grow*(1-t)/g
		return a, b
	case Hang:
		a, b := *s, *s
		a.Sweep = s.Sweep * t
		b.P[0], b.From, b.Sweep = s.Point(t), s.From+a.Sweep, s.Sweep-a.Sweep
		return a, b
	}
	ab, bc, cd := s.P[0].Lerp(s.P[1], t), s.P[1].Lerp(s.P[2], t), s.P[2].Lerp(s.P[3], t)
	abc, bcd := ab.Lerp(bc, t), bc.Lerp(cd, t)
	m := abc.Lerp(bcd, t)
	return CubicSpan(s.P[0], ab, abc, m), CubicSpan(m, bcd, cd, s.P[3])
}

// Reversed returns the span run the other way.
func (s *Span) Reversed() Span {
	switch s.Kind {
	case Line:
		return LineSpan(s.P[3], s.P[0])
	case Arc:
		g := 1 + s.Grow
		return Span{Kind: Arc, P: [4]geom.Vec{s.P[0].Add(s.P[3]), s.P[1].Mul(g), s.P[2].Mul(g), s.P[3].Neg()},
			From: s.From + s.Sweep, Sweep: -s.Sweep, Grow: 1/g - 1}
	case Hang:
		return Span{Kind: Hang, P: [4]geom.Vec{s.End(), s.P[1].Neg(), s.P[2], {}}, From: -s.From - s.Sweep, Sweep: s.Sweep}
	}
	return CubicSpan(s.P[3], s.P[2], s.P[1], s.P[0])
}

// Moved returns the span with each of its points p at to(p), where to is affine:
// it moves, turns, mirrors or scales.
func (s *Span) Moved(to func(geom.Vec) geom.Vec) Span {
	m := *s
	switch s.Kind {
	case Line:
		m.P[0], m.P[3] = to(s.P[0]), to(s.P[3])
	case Arc, Hang:
		m.P[0] = to(s.P[0])
		for i := 1; i < 4; i++ {
			m.P[i] = to(s.P[0].Add(s.P[i])).Sub(m.P[0])
		}
	case Cubic:
		for i := range m.P {
			m.P[i] = to(s.P[i])
		}
	}
	return m
}

// extend grows the box to hold the span, by the roots of the derivative in each
// coordinate; exact, not the box of the control points. A growing arc's box is
// taken at 64 places a turn, within 5e-4 of its radius.
func (s *Span) extend(b geom.Box) geom.Box {
	b = b.Extend(s.Point(0)).Extend(s.Point(1))
	switch s.Kind {
	case Arc:
		if s.Grow != 0 {
			n := int(math.Abs(s.Sweep)*64/(2*math.Pi)) + 1
			for i := 1; i < n; i++ {
				b = b.Extend(s.Point(float64(i) / float64(n)))
			}
			return b
		}
		// The derivative -a sin th + b cos th + rise/Sweep = 0 is
		// A cos(th + d) = -rise/Sweep with A = hypot(a, b), d = atan2(a, b).
		a, c, rise := s.P[1].Array(), s.P[2].Array(), s.P[3].Array()
		for i := range 3 {
			half := math.Acos(-rise[i] / (s.Sweep * math.Hypot(a[i], c[i])))
			d := math.Atan2(a[i], c[i])
			for _, root := range [...]float64{half - d, -half - d} {
				lo := min(s.From, s.From+s.Sweep)
				th := root + 2*math.Pi*math.Ceil((lo-root)/(2*math.Pi))
				for ; th <= lo+math.Abs(s.Sweep); th += 2 * math.Pi {
					b = b.Extend(s.Point((th - s.From) / s.Sweep))
				}
			}
		}
	case Hang: // the derivative x + u y = 0
		x, y := s.P[1].Array(), s.P[2].Array()
		for i := range 3 {
			if t := (-x[i]/y[i] - s.From) / s.Sweep; t > 0 && t < 1 {
				b = b.Extend(s.Point(t))
			}
		}
	case Cubic:
		p := [4][3]float64{s.P[0].Array(), s.P[1].Array(), s.P[2].Array(), s.P[3].Array()}
		for i := range 3 {
			d0, d1, d2 := p[1][i]-p[0][i], p[2][i]-p[1][i], p[3][i]-p[2][i]
			for _, t := range quadraticRoots(d0-2*d1+d2, 2*(d1-d0), d0) {
				if t > 0 && t < 1 {
					b = b.Extend(s.Point(t))
				}
			}
		}
	}
	return b
}

// quadraticRoots returns the real roots of a t^2 + b t + c, without the loss of
// digits of the schoolbook formula; NaN or infinite where there is none.
func quadraticRoots(a, b, c float64) [2]float64 {
	q := -(b + math.Copysign(math.Sqrt(b*b-4*a*c), b)) / 2
	return [2]float64{q / a, c / q}
}
