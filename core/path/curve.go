package path

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"bead/core/geom"
)

// ErrZeroLength is returned for a curve whose spans have no length together.
var ErrZeroLength = errors.New("the path has no length: it needs at least two different points")

// maxCoordinate bounds positions so that squares and cubes stay finite.
const maxCoordinate = 1e9

// Curve is a measured run of spans. It is immutable and safe for concurrent use.
type Curve struct {
	spans  []Span
	power  []power // per span, for quick evaluation
	starts []float64
	bends  []float64 // per span, about its greatest curvature, 1/m
	slow   []float64 // per span, the square of the speed below which a tangent is doubtful
	leaves []leaf
	bucket []int32 // first leaf that reaches into each of len-1 even stretches
	perS   float64 // buckets a metre
	length float64
	closed bool
	stop   *Stop
}

// power holds a cubic's coefficients: c(t) = k0 + t(k1 + t(k2 + t k3)).
type power struct{ k0, k1, k2, k3 geom.Vec }

// MostSpans is the most spans of a curve. Generators that would make more stop there.
const MostSpans = 50_000

// TooMany says that a curve would have n spans.
func TooMany(n int) error {
	return fmt.Errorf("%d spans are too many for a path: up to %d are accepted", n, MostSpans)
}

// New measures the spans, which must follow one another without gaps. A closed
// curve whose end is not its start is closed with a straight line. Spans without
// length are left out. Errors: no span, a coordinate that is not finite or
// beyond 1e9, more than MostSpans, or no length at all (ErrZeroLength).
func New(spans []Span, closed bool) (*Curve, error) { return new(Cache).New(spans, closed) }

// New is the function New, but takes what it can from the cache.
func (k *Cache) New(spans []Span, closed bool) (*Curve, error) {
	if len(spans) == 0 {
		return nil, ErrZeroLength
	}
	total := 0.0
	for i := range spans {
		for _, p := range spans[i].P {
			if !p.IsFinite() || max(math.Abs(p.X), math.Abs(p.Y), math.Abs(p.Z)) > maxCoordinate {
				return nil, fmt.Errorf("span %d has a coordinate that is not a number within ±1e9", i+1)
			}
		}
		total += spans[i].size()
	}
	first, last := spans[0].Start(), spans[len(spans)-1].End()
	if closed {
		total += last.Sub(first).Norm()
	}
	if total < 1e-9 {
		return nil, ErrZeroLength
	}
	least := total * 1e-12
	if err := k.Stop.Err(); err != nil {
		return nil, err
	}
	if n := len(spans); n > MostSpans {
		return nil, TooMany(n)
	}
	c := &Curve{closed: closed, spans: make([]Span, 0, len(spans)+1), stop: k.Stop}
	for i := range spans {
		if spans[i].size() > least {
			c.spans = append(c.spans, spans[i])
		}
	}
	if closed && last.Sub(first).Norm() > total*1e-9 {
		c.spans = append(c.spans, LineSpan(last, first))
	}
	measured, leaves := k.measure(c.spans)
	if err := k.Stop.Err(); err != nil {
		return nil, err
	}
	c.index(measured, leaves)
	return c, nil
}

// index makes the curve's tables from the measures of its spans.
func (c *Curve) index(measured []measured, leaves int) {
	c.power = make([]power, len(c.spans))
	c.starts = make([]float64, len(c.spans)+1)
	c.slow = make([]float64, len(c.spans))
	c.bends = make([]float64, len(c.spans))
	c.leaves = make([]leaf, 0, leaves)
	for i := range c.spans {
		s := &c.spans[i]
		p := &s.P
		switch s.Kind {
		case Line:
			c.power[i] = power{k0: p[0], k1: p[3].Sub(p[0])}
		case Cubic:
			c.power[i] = power{p[0], p[1].Sub(p[0]).Mul(3),
				p[2].Sub(p[1].Mul(2)).Add(p[0]).Mul(3),
				p[3].Sub(p[0]).Add(p[1].Sub(p[2]).Mul(3))}
		}
		for _, l := range measured[i].leaves {
			l.s0, l.s1, l.span = l.s0+c.length, l.s1+c.length, int32(i)
			c.leaves = append(c.leaves, l)
		}
		c.length += measured[i].length
		c.bends[i] = measured[i].bend
		c.leaves[len(c.leaves)-1].s1 = c.length
		c.starts[i+1] = c.length
		c.slow[i] = 1e-14 * math.Pow(c.length-c.starts[i], 2)
	}
	n := 2*len(c.leaves) + 1
	c.bucket = make([]int32, n+1)
	c.perS = float64(n) / c.length
	k := int32(0)
	for b := range c.bucket {
		for int(k) < len(c.leaves)-1 && c.leaves[k].s1 <= float64(b)/c.perS {
			k++
		}
		c.bucket[b] = k
	}
}

// Length returns the length in metres, greater than 0.
func (c *Curve) Length() float64 { return c.length }

// Closed reports whether the end is joined to the start.
func (c *Curve) Closed() bool { return c.closed }

// Spans returns the spans in order. The slice is not to be changed.
func (c *Curve) Spans() []Span { return c.spans }

// SpanStart returns the distance at which span i starts; SpanStart(len(Spans()))
// is the length.
func (c *Curve) SpanStart(i int) float64 { return c.starts[i] }

// Wrap brings a distance into 0..Length on a closed curve and leaves it on an
// open one.
func (c *Curve) Wrap(s float64) float64 {
	if !c.closed || s >= 0 && s < c.length {
		return s
	}
	return Modulo(s, c.length)
}

// Modulo returns s less a whole number of lengths, in 0..length without the end.
// Against math.Mod it is off by the rounding of s itself, and ten times quicker.
func Modulo(s, length float64) float64 {
	s -= length * math.Floor(s/length)
	if s < 0 || s >= length { // rounding at either end
		return 0
	}
	return s
}

// Locate returns the span and its parameter at distance s, which is wrapped on
// a closed curve and clamped to the ends of an open one.
func (c *Curve) Locate(s float64) (span int, t float64) {
	s = min(max(c.Wrap(s), 0), c.length)
	k := c.bucket[min(int(s*c.perS), len(c.bucket)-1)]
	for int(k) < len(c.leaves)-1 && c.leaves[k].s1 <= s {
		k++
	}
	l := &c.leaves[k]
	return int(l.span), l.at(c.spans, s)
}

// At returns the position and unit tangent at distance s. Where the derivative
// vanishes the tangent is that of the nearest neighbour ahead, else behind.
func (c *Curve) At(s float64) (p, tangent geom.Vec) {
	i, t := c.Locate(s)
	if k := c.spans[i].Kind; k == Arc || k == Hang {
		p, tangent = c.spans[i].Point(t), c.spans[i].Deriv(t)
	} else {
		k := &c.power[i]
		p = k.k0.Mad(k.k1.Mad(k.k2.Mad(k.k3, t), t), t)
		tangent = k.k1.Mad(k.k2.Mul(2).Mad(k.k3, 3*t), t)
	}
	if n := tangent.Norm2(); n > c.slow[i] {
		tangent = tangent.Mul(1 / math.Sqrt(n))
	} else {
		tangent = c.neighbourTangent(i, t)
	}
	if !c.closed && (s < 0 || s > c.length) {
		p = p.Mad(tangent, s-min(max(s, 0), c.length))
	}
	return p, tangent
}

// neighbourTangent looks ahead, then behind, in growing steps inside span i.
func (c *Curve) neighbourTangent(i int, t float64) geom.Vec {
	s := &c.spans[i]
	for _, sign := range [...]float64{1, -1} {
		for d := 1e-6; d <= 1; d *= 4 {
			u := t + sign*d
			if u < 0 || u > 1 {
				break
			}
			if v := s.Deriv(u); v.Norm() > 1e-7*s.size() {
				return v.Unit()
			}
		}
	}
	return s.End().Sub(s.Start()).Unit()
}

// Curvature returns the curvature vector at distance s in 1/m: it points to the
// centre of the circle that fits best, and its length is one over that radius.
// It is zero on straight stretches, past open ends and at cusps.
func (c *Curve) Curvature(s float64) geom.Vec {
	if !c.closed && (s < 0 || s > c.length) {
		return geom.Vec{}
	}
	i, t := c.Locate(s)
	return c.spans[i].curvature(t)
}

// Bounds returns the exact box of the curve.
func (c *Curve) Bounds() geom.Box {
	b := geom.EmptyBox()
	for i := range c.spans {
		b = c.spans[i].extend(b)
	}
	return b
}

// Stations appends distances from 0 to Length, every span's ends among them,
// between which the curve strays from its chord by at most chordError metres
// and turns by at most maxTurn radians. The count is the price of that
// tolerance: halving chordError costs about 1.4 times the points.
func (c *Curve) Stations(dst []float64, chordError, maxTurn float64) []float64 {
	pieces := func(i int) int {
		k := c.bends[i] // the greatest curvature on the span decides
		if k <= 0 {
			return 1
		}
		h := min(math.Sqrt(8*chordError/k), maxTurn/k)
		return max(int(min(math.Ceil((c.starts[i+1]-c.starts[i])/h), 512)), 1)
	}
	all := 1
	for i := range c.spans {
		all += pieces(i)
	}
	dst = slices.Grow(dst, all)
	for i := range c.spans {
		s0, s1, n := c.starts[i], c.starts[i+1], pieces(i)
		for j := range n {
			dst = append(dst, s0+(s1-s0)*float64(j)/float64(n))
		}
	}
	return append(dst, c.length)
}

// Plane is the best-fit plane of a curve.
type Plane struct {
	Centre geom.Vec
	Normal geom.Vec // unit; the loop runs counter-clockwise seen against it
	Off    float64  // greatest distance of the curve from the plane, metres
	Line   bool     // the curve is straight, so that any plane through it fits
}

// Plane returns the plane in which the curve lies best in the sense of least
// squares, and how far the curve strays from it. The normal's sign is that of
// the enclosed area; an open curve is closed by its chord for that purpose.
// Of a straight curve Line is true and Normal is at right angles to it.
func (c *Curve) Plane() Plane {
	pts := c.Stations(nil, c.length*1e-4, 0.1)
	pos := make([]geom.Vec, len(pts))
	var centre geom.Vec
	for i, s := range pts {
		pos[i], _ = c.At(s)
	}
	// Weight each chord's middle by its length, so that dense stations do not pull.
	for i := 1; i < len(pos); i++ {
		centre = centre.Mad(pos[i].Add(pos[i-1]), (pts[i]-pts[i-1])/(2*c.length))
	}
	var cov [3][3]float64
	var area geom.Vec
	prev := pos[len(pos)-1]
	for i := range pos {
		a, b := prev.Sub(centre), pos[i].Sub(centre)
		area = area.Add(a.Cross(b))
		if i > 0 {
			// Second moments of a chord: those of its middle and of its own extent.
			m, d, w := a.Add(b).Mul(0.5).Array(), b.Sub(a).Array(), pts[i]-pts[i-1]
			for r := range 3 {
				for k := range 3 {
					cov[r][k] += w * (m[r]*m[k] + d[r]*d[k]/12)
				}
			}
		}
		prev = pos[i]
	}
	normal, isLine := leastDirection(cov)
	// Of a truly flat curve the area is the better conditioned normal.
	if n := area.Norm(); n > 1e-9*c.length*c.length {
		if u := area.Mul(1 / n); math.Abs(u.Dot(normal)) > 1-1e-9 {
			normal = u
		} else if u.Dot(normal) < 0 {
			normal = normal.Neg()
		}
	}
	pl := Plane{Centre: centre, Normal: normal, Line: isLine}
	for _, p := range pos {
		pl.Off = max(pl.Off, math.Abs(p.Sub(centre).Dot(normal)))
	}
	return pl
}

// Named is a run of spans with a name, as files hold them, not yet measured.
type Named struct {
	Name   string
	Spans  []Span
	Closed bool
}
