package path

import (
	"math"

	"bead/core/geom"
)

// The steps of this file change the shape.

// cornerTurn is the change of direction in radians from which on two spans meet
// in a corner.
const cornerTurn = 1e-4

// Corner is a place where direction jumps.
type Corner struct {
	At   float64 // distance, metres
	Turn float64 // radians
}

// Corners lists the corners that turn by more than least radians, in order. That
// at a closed curve's seam is at distance 0.
func (c *Curve) Corners(least float64) []Corner {
	var out []Corner
	n := len(c.spans)
	for i := range c.spans {
		if i == 0 && !c.closed {
			continue
		}
		turn := geom.Angle(endTangent(&c.spans[(i+n-1)%n]), startTangent(&c.spans[i]))
		if turn > max(least, cornerTurn) {
			out = append(out, Corner{c.starts[i], turn})
		}
	}
	return out
}

// onSpan returns position, unit tangent and curvature vector at distance s of span
// i, one-sided at its ends.
func (c *Curve) onSpan(i int, s float64) (p, t, k geom.Vec) {
	lo, hi := c.starts[i], c.starts[i+1]
	switch s {
	case lo:
		p = c.spans[i].Start()
	case hi:
		p = c.spans[i].End()
	default:
		p, _ = c.At(s)
	}
	e := 1e-9 * (hi - lo)
	s = min(max(s, lo+e), hi-e)
	_, t = c.At(s)
	return p, t, c.Curvature(s)
}

// FitTo appends cubic spans that follow f over a..b within tol: f gives the
// position and its derivative by the parameter. Each cubic shares both with f at
// its ends (Hermite); its error falls with the fourth power of its length.
func FitTo(dst []Span, a, b float64, f func(s float64) (p, d geom.Vec), tol float64) []Span {
	p, d := f(a)
	q, e := f(b)
	return fitBetween(dst, a, b, p, d, q, e, f, tol, 0)
}

func fitBetween(dst []Span, a, b float64, p, d, q, e geom.Vec, f func(s float64) (p, d geom.Vec), tol float64, depth int) []Span {
	h := (b - a) / 3
	s := CubicSpan(p, p.Mad(d, h), q.Mad(e, -h), q)
	off := 0.0
	for _, t := range [...]float64{0.25, 0.5, 0.75} {
		want, _ := f(a + t*(b-a))
		off = max(off, s.Point(t).Sub(want).Norm())
	}
	if off <= tol || depth >= 12 || len(dst) > MostSpans {
		return append(dst, s)
	}
	m := (a + b) / 2
	r, g := f(m)
	dst = fitBetween(dst, a, m, p, d, r, g, f, tol, depth+1)
	return fitBetween(dst, m, b, r, g, q, e, f, tol, depth+1)
}

// fitShare is the error, as a share of the length, to which steps that have no
// exact form are followed.
const fitShare = 1e-7

// Offset returns the path parallel to the curve at distance d to the side
// normal x T: straight and circular spans exactly, others within 1e-7 of the
// length or of the distance, whichever is more. Gaps on the outside of corners are closed by arcs, overlaps on the
// inside are cut where the two sides meet.
func (c *Curve) Offset(d float64, normal geom.Vec) []Span {
	runs := make([][]Span, len(c.spans))
	for i, n := 0, 0; i < len(runs) && n <= MostSpans && c.stop.Err() == nil; i++ {
		runs[i] = c.offsetSpan(i, d, normal)
		n += len(runs[i])
	}
	var out []Span
	joins := len(runs)
	if !c.closed {
		joins--
	}
	for i := 0; i < joins && c.stop.Err() == nil; i++ {
		c.joinOffset(runs, i, d, normal)
	}
	for _, r := range runs {
		out = append(out, r...)
	}
	return out
}

func (c *Curve) offsetSpan(i int, d float64, normal geom.Vec) []Span {
	s := c.spans[i]
	switch {
	case s.Kind == Line:
		by := normal.Cross(s.P[3].Sub(s.P[0]).Unit()).Mul(d)
		return []Span{LineSpan(s.P[0].Add(by), s.P[3].Add(by))}
	case s.Kind == Arc && s.evenSpeed() && s.P[3] == (geom.Vec{}):
		r := s.P[1].Norm()
		axis := s.P[1].Cross(s.P[2]).Mul(math.Copysign(1/(r*r), s.Sweep))
		if turn := axis.Dot(normal); math.Abs(turn) > 1-1e-12 && r-turn*d > 1e-9*r {
			// normal x T points to the centre where the arc turns about the normal.
			k := (r - math.Copysign(d, d*turn)) / r
			s.P[1], s.P[2] = s.P[1].Mul(k), s.P[2].Mul(k)
			return []Span{s}
		}
	}
	f := func(at float64) (p, v geom.Vec) {
		p, t, k := c.onSpan(i, at)
		side := normal.Cross(t)
		n := side.Norm()
		if n < 1e-9 {
			return p, t
		}
		// d/ds (w/|w|) with w = normal x T, w' = normal x kappa.
		dw := normal.Cross(k)
		side = side.Mul(1 / n)
		turn := dw.Sub(side.Mul(side.Dot(dw))).Mul(1 / n)
		return p.Mad(side, d), t.Mad(turn, d)
	}
	return FitTo(nil, c.starts[i], c.starts[i+1], f, fitShare*max(c.length, math.Abs(d)))
}

// joinOffset closes the gap or cuts the overlap between run i and the next.
func (c *Curve) joinOffset(runs [][]Span, i int, d float64, normal geom.Vec) {
	j := (i + 1) % len(runs)
	a, b := runs[i], runs[j]
	if len(a) == 0 || len(b) == 0 {
		return
	}
	p, q := a[len(a)-1].End(), b[0].Start()
	if p.Sub(q).Norm() <= 1e-9*c.length {
		return
	}
	corner := c.spans[j].Start()
	t0, t1 := endTangent(&c.spans[i]), startTangent(&c.spans[j])
	turn := geom.AngleAbout(normal, t0, t1)
	if turn*d < 0 { // the outside: an arc about the corner
		u := p.Sub(corner)
		runs[i] = append(a, ArcSpan(corner, u, normal.Cross(u), 0, turn))
		return
	}
	if x, y, k, l, met := meet(a, b, normal); met {
		a[k], _ = a[k].Split(x)
		_, b[l] = b[l].Split(y)
		runs[i], runs[j] = a[:k+1], b[l:]
		return
	}
	runs[i] = append(a, LineSpan(p, q))
}

// meet finds where run a last meets run b, seen along normal: spans k of a and l of
// b and the parameters on them.
func meet(a, b []Span, normal geom.Vec) (x, y float64, k, l int, met bool) {
	e := geom.AnyPerpendicular(normal)
	f := normal.Cross(e)
	flat := func(v geom.Vec) (float64, float64) { return v.Dot(e), v.Dot(f) }
	as, bs := stepBoxes(a, e, f), stepBoxes(b, e, f)
	for k = len(a) - 1; k >= 0; k-- {
		for l = range b {
			if !as[k].whole.meets(&bs[l].whole) {
				continue
			}
			na, nb := len(as[k].steps), len(bs[l].steps)
			for m := na - 1; m >= 0; m-- {
				for n := range nb {
					if !as[k].steps[m].meets(&bs[l].steps[n]) {
						continue
					}
					x, y = (float64(m)+0.5)/float64(na), (float64(n)+0.5)/float64(nb)
					hx, hy := 0.5/float64(na), 0.5/float64(nb)
					// Newton from the middle of a pair of steps, kept near it.
					ok := true
					for range 12 {
						px, py := flat(a[k].Point(x).Sub(b[l].Point(y)))
						ax, ay := flat(a[k].Deriv(x))
						bx, by := flat(b[l].Deriv(y))
						det := ay*bx - ax*by
						if det == 0 {
							ok = false
							break
						}
						x += (px*by - py*bx) / det
						y += (px*ay - py*ax) / det
					}
					if ok && x >= 0 && x <= 1 && y >= 0 && y <= 1 &&
						math.Abs(x-(float64(m)+0.5)/float64(na)) <= 1.5*hx && math.Abs(y-(float64(n)+0.5)/float64(nb)) <= 1.5*hy &&
						a[k].Point(x).Sub(b[l].Point(y)).Norm() < 1e-9*(a[k].size()+b[l].size()) {
						return x, y, k, l, true
					}
				}
			}
		}
	}
	return 0, 0, 0, 0, false
}

// box is a rectangle in a plane.
type box struct{ lo, hi [2]float64 }

func (b *box) meets(o *box) bool {
	return b.lo[0] <= o.hi[0] && o.lo[0] <= b.hi[0] && b.lo[1] <= o.hi[1] && o.lo[1] <= b.hi[1]
}

// spanBoxes are the rectangles that hold a span and the steps that it is searched in.
type spanBoxes struct {
	whole box
	steps []box
}

// meetCuts is into how many steps a span is cut to look for where it meets another; straights
// are looked at whole.
const meetCuts = 24

// stepBoxes are the boxes of spans, seen along e x f. A step's box holds a quarter of a step
// more at either end, for the search may run on that far, and half its size more all round, for
// it is drawn through three points.
func stepBoxes(spans []Span, e, f geom.Vec) []spanBoxes {
	none := box{[2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}}
	out := make([]spanBoxes, len(spans))
	for k := range spans {
		s, cuts := &spans[k], meetCuts
		if s.Kind == Line {
			cuts = 1
		}
		steps := make([]box, cuts)
		whole := none
		for m := range steps {
			b := none
			for _, u := range [3]float64{-0.25, 0.5, 1.25} {
				p := s.Point(min(max((float64(m)+u)/float64(cuts), 0), 1))
				for i, v := range [2]float64{p.Dot(e), p.Dot(f)} {
					b.lo[i], b.hi[i] = min(b.lo[i], v), max(b.hi[i], v)
				}
			}
			more := math.Hypot(b.hi[0]-b.lo[0], b.hi[1]-b.lo[1]) / 2
			for i := range 2 {
				b.lo[i], b.hi[i] = b.lo[i]-more, b.hi[i]+more
				whole.lo[i], whole.hi[i] = min(whole.lo[i], b.lo[i]), max(whole.hi[i], b.hi[i])
			}
			steps[m] = b
		}
		out[k] = spanBoxes{whole, steps}
	}
	return out
}

// RoundCorners replaces every corner by a bend that is tangent to both sides: an
// arc of radius r between straight spans, else a cubic of about that radius. A
// corner takes at most 0.45 of the stretch to the next one; say is told of those
// that get a smaller radius, with their distance.
func (c *Curve) RoundCorners(r float64, say func(at, got float64)) []Span {
	corners := c.Corners(cornerTurn)
	if len(corners) == 0 || r <= 0 {
		return append([]Span(nil), c.spans...)
	}
	n := len(corners)
	take := make([]float64, n)
	for i, k := range corners {
		room := c.length
		before, after := k.At, c.length-k.At
		if i > 0 {
			before = (k.At - corners[i-1].At) * 0.45
		} else if c.closed {
			before = (k.At + c.length - corners[n-1].At) * 0.45
		}
		if i < n-1 {
			after = (corners[i+1].At - k.At) * 0.45
		} else if c.closed {
			after = (corners[0].At + c.length - k.At) * 0.45
		}
		room = min(room, before, after)
		ask := r * math.Tan(min(k.Turn, 3.1)/2)
		take[i] = min(ask, room)
		if say != nil && ask > room {
			say(k.At, r*room/ask)
		}
	}
	var out []Span
	bend := func(in, leave []Span) {
		if len(in) == 0 || len(leave) == 0 {
			return
		}
		out = append(out, cornerBend(&in[len(in)-1], &leave[0]))
	}
	if !c.closed {
		last := c.Cut(0, corners[0].At-take[0])
		out = append(out, last...)
		for i, k := range corners {
			to := c.length
			if i < n-1 {
				to = corners[i+1].At - take[i+1]
			}
			next := c.Cut(k.At+take[i], to)
			bend(last, next)
			out = append(out, next...)
			last = next
		}
		return out
	}
	runs := make([][]Span, n)
	for i, k := range corners {
		to := corners[(i+1)%n].At - take[(i+1)%n]
		if i == n-1 {
			to += c.length
		}
		runs[i] = c.Cut(k.At+take[i], to)
	}
	for i := range runs {
		out = append(out, runs[i]...)
		bend(runs[i], runs[(i+1)%n])
	}
	return out
}

// cornerBend leads from the end of a to the start of b.
func cornerBend(a, b *Span) Span {
	p, q := a.End(), b.Start()
	t, u := endTangent(a), startTangent(b)
	angle := geom.Angle(t, u)
	chord := q.Sub(p)
	if a.Kind == Line && b.Kind == Line && angle > 1e-9 {
		r := chord.Norm() / (2 * math.Sin(angle/2))
		in := u.Sub(t.Mul(u.Dot(t))).Unit()
		return ArcSpan(p.Mad(in, r), in.Mul(-r), t.Mul(r), 0, angle)
	}
	h := chord.Norm() / 3
	if angle > 1e-9 {
		h = chord.Norm() / (2 * math.Sin(angle/2)) * 4 / 3 * math.Tan(angle/4) // as for an arc
	}
	return CubicSpan(p, p.Mad(t, h), q.Mad(u, -h), q)
}
