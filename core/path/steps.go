package path

import (
	"errors"
	"fmt"
	"math"
	"sort"

	"bead/core/geom"
)

// Shaping steps make new spans of a measured curve. Those of this file change
// neither shape nor length but for what they add or take away, to rounding.

// Reverse returns the spans run the other way.
func Reverse(spans []Span) []Span {
	out := make([]Span, len(spans))
	for i := range spans {
		out[len(spans)-1-i] = spans[i].Reversed()
	}
	return out
}

// Cut returns the stretch from distance a to b, a < b. On a closed curve b may lie
// up to one length beyond a, over the seam; on an open one both are clamped to it.
func (c *Curve) Cut(a, b float64) []Span {
	if c.closed {
		turn := math.Floor(a/c.length) * c.length
		a, b = a-turn, b-turn
		if b > c.length*(1+1e-12) {
			return append(c.Cut(a, c.length), c.Cut(0, b-c.length)...)
		}
	}
	a, b = max(a, 0), min(b, c.length)
	var out []Span
	first := max(sort.SearchFloat64s(c.starts, a)-1, 0) // the spans before it end at a or earlier
	for i := first; i < len(c.spans) && c.starts[i] < b; i++ {
		s, lo, hi := c.spans[i], c.starts[i], c.starts[i+1]
		least := 1e-12 * (hi - lo)
		if hi <= a+least || lo >= b-least {
			continue
		}
		from, to := 0.0, 1.0
		if a > lo+least {
			_, from = c.locateOn(i, a)
		}
		if b < hi-least {
			_, to = c.locateOn(i, b)
		}
		if to < 1 {
			s, _ = s.Split(to)
		}
		if from > 0 {
			_, s = s.Split(from / to)
		}
		out = append(out, s)
	}
	return out
}

// locateOn is Locate for a distance inside span i.
func (c *Curve) locateOn(i int, s float64) (int, float64) {
	if j, t := c.Locate(s); j == i {
		return i, t
	}
	return i, (s - c.starts[i]) / (c.starts[i+1] - c.starts[i]) // at the very end of the span
}

// ErrOpenPath is returned for a step that needs a closed path.
var ErrOpenPath = errors.New("the path is open: this step needs a closed one")

// ErrClosedPath is returned for a step that needs an open path.
var ErrClosedPath = errors.New("the path is closed: this step needs an open one")

// StartAt returns a closed curve's spans from distance s round to s again.
func (c *Curve) StartAt(s float64) ([]Span, error) {
	if !c.closed {
		return nil, ErrOpenPath
	}
	if s = c.Wrap(s); s == 0 {
		return append([]Span(nil), c.spans...), nil
	}
	return c.Cut(s, s+c.length), nil
}

// Closed returns the spans of an open curve with its end joined to its start:
// straight, or smoothly by a cubic that keeps both end tangents.
func (c *Curve) CloseUp(smooth bool) []Span {
	out := append([]Span(nil), c.spans...)
	if c.closed || !smooth {
		return out
	}
	return append(out, bridge(c.spans[len(c.spans)-1], c.spans[0])...)
}

// bridge joins the end of a to the start of b by a cubic with their tangents.
func bridge(a, b Span) []Span {
	p, q := a.End(), b.Start()
	gap := q.Sub(p).Norm()
	if gap < 1e-9*(a.size()+b.size()) {
		return nil
	}
	return []Span{CubicSpan(p, p.Mad(endTangent(&a), gap/3), q.Mad(startTangent(&b), -gap/3), q)}
}

func startTangent(s *Span) geom.Vec { return tangentNear(s, 0, 1) }
func endTangent(s *Span) geom.Vec   { return tangentNear(s, 1, -1) }

// tangentNear looks from t inwards until the derivative says something.
func tangentNear(s *Span, t, sign float64) geom.Vec {
	for d := 0.0; d <= 0.5; d = max(4*d, 1e-6) {
		if v := s.Deriv(t + sign*d); v.Norm() > 1e-7*s.size() {
			return v.Unit()
		}
	}
	return s.End().Sub(s.Start()).Unit()
}

// Extend lengthens an open curve by before ahead of its start and after behind its
// end, in metres: straight along the end tangents, or going on with the curvature
// that the end has.
func (c *Curve) Extend(before, after float64, curved bool) ([]Span, error) {
	if c.closed {
		return nil, ErrClosedPath
	}
	out := append([]Span(nil), c.spans...)
	if after > 0 {
		out = append(out, runOn(&c.spans[len(c.spans)-1], after, curved))
	}
	if before > 0 {
		first := c.spans[0].Reversed()
		lead := runOn(&first, before, curved)
		out = append([]Span{lead.Reversed()}, out...)
	}
	return out, nil
}

// runOn continues a span beyond its end by a length.
func runOn(s *Span, length float64, curved bool) Span {
	p, t := s.End(), endTangent(s)
	if curved {
		d, dd := s.Deriv(1), s.Deriv2(1)
		if v := d.Norm2(); v > 1e-14*s.size()*s.size() {
			k := dd.Sub(d.Mul(d.Dot(dd) / v)).Mul(1 / v)
			if n := k.Norm(); n*length > 1e-9 {
				in := k.Mul(1 / n) // towards the centre of the circle that fits best
				r := 1 / n
				return ArcSpan(p.Mad(in, r), in.Mul(-r), t.Mul(r), 0, min(length/r, 2*math.Pi))
			}
		}
	}
	return LineSpan(p, p.Mad(t, length))
}

// Joining says how Join treats the gaps between its curves.
type Joining struct {
	Snap   float64 // gaps up to this many metres are closed by moving the later curve onto the end
	Smooth bool    // wider gaps are bridged by a cubic with both tangents instead of a straight line
	Turn   bool    // a curve whose end is nearer than its start is turned round
}

// Joined is what Join did with one curve.
type Joined struct {
	Turned bool
	Gap    float64 // metres between the end so far and this curve
}

// Join puts open curves end to end into one run of distances.
func Join(curves []*Curve, how Joining) ([]Span, []Joined, error) {
	var out []Span
	did := make([]Joined, len(curves))
	for i, c := range curves {
		if c.closed {
			return nil, nil, fmt.Errorf("path %d of the join is closed: open ones are accepted", i+1)
		}
		spans := append([]Span(nil), c.spans...)
		if i == 0 {
			if how.Turn && len(curves) > 1 {
				// The first is turned when its start is nearer to the second than its end.
				next := curves[1].spans
				near := func(p geom.Vec) float64 {
					return min(next[0].Start().Sub(p).Norm(), next[len(next)-1].End().Sub(p).Norm())
				}
				if near(spans[0].Start()) < near(spans[len(spans)-1].End()) {
					spans, did[0].Turned = Reverse(spans), true
				}
			}
			out = spans
			continue
		}
		end := out[len(out)-1].End()
		if how.Turn && spans[len(spans)-1].End().Sub(end).Norm() < spans[0].Start().Sub(end).Norm() {
			spans, did[i].Turned = Reverse(spans), true
		}
		gap := end.Sub(spans[0].Start())
		did[i].Gap = gap.Norm()
		switch {
		case did[i].Gap <= how.Snap:
			for k := range spans {
				spans[k] = spans[k].Moved(func(p geom.Vec) geom.Vec { return p.Add(gap) })
			}
		case how.Smooth:
			out = append(out, bridge(out[len(out)-1], spans[0])...)
		default:
			out = append(out, LineSpan(end, spans[0].Start()))
		}
		out = append(out, spans...)
	}
	return out, did, nil
}

// Subdivide cuts each span into n at even steps of its parameter. The shape stays.
func Subdivide(spans []Span, n int) []Span {
	out := make([]Span, 0, n*len(spans))
	for _, s := range spans {
		for k := n; k > 1; k-- {
			var a Span
			a, s = s.Split(1 / float64(k))
			out = append(out, a)
		}
		out = append(out, s)
	}
	return out
}

// Mirror returns the spans mirrored in the plane through p with unit normal n.
func Mirror(spans []Span, p, n geom.Vec) []Span {
	return MoveAll(spans, func(v geom.Vec) geom.Vec { return v.Mad(n, -2*v.Sub(p).Dot(n)) })
}

// MoveAll moves every span by an affine map.
func MoveAll(spans []Span, to func(geom.Vec) geom.Vec) []Span {
	out := make([]Span, len(spans))
	for i := range spans {
		out[i] = spans[i].Moved(to)
	}
	return out
}
