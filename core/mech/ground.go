package mech

import (
	"math"

	"bead/core/geom"
)

// Point is a place in the belt's plane.
type Point struct{ X, Y float64 }

// Ground is a profile as straights from point to point, with x rising; level before its
// first point and behind its last one.
type Ground []Point

// beyond is the index of the first point beyond x.
func (g Ground) beyond(x float64) int {
	lo, hi := 0, len(g)
	for lo < hi {
		if mid := (lo + hi) / 2; g[mid].X > x {
			hi = mid
		} else {
			lo = mid + 1
		}
	}
	return lo
}

// Height is the ground's height at x, and its slope there.
func (g Ground) Height(x float64) (y, slope float64) {
	k := g.beyond(x)
	switch {
	case len(g) == 0:
		return 0, 0
	case k == 0:
		return g[0].Y, 0
	case k == len(g):
		return g[k-1].Y, 0
	}
	a, b := g[k-1], g[k]
	slope = (b.Y - a.Y) / (b.X - a.X)
	return a.Y + (x-a.X)*slope, slope
}

// Smooth is the height and the slope at x of a curve through the profile's points, without corners
// but where the profile itself has one: cubics whose slope at a point is that of the parabola
// through it and its neighbours.
func (g Ground) Smooth(x float64) (y, slope float64) {
	k := g.beyond(x)
	if k == 0 || k == len(g) {
		return g.Height(x)
	}
	a, b := g[k-1], g[k]
	h := b.X - a.X
	m0, m1 := g.slopeAt(k-1, k), g.slopeAt(k, k)
	return geom.Hermite(a.Y, b.Y, m0, m1, h, (x-a.X)/h)
}

// profileCorner is the turn from which a point of a profile is a corner, radians.
const profileCorner = 0.1

// slopeAt is the slope at point i for the straight that ends at point k.
func (g Ground) slopeAt(i, k int) float64 {
	straight := func(k int) (slope, long float64) {
		if k == 0 || k == len(g) {
			return 0, math.Inf(1) // level beyond the ends
		}
		return (g[k].Y - g[k-1].Y) / (g[k].X - g[k-1].X), g[k].X - g[k-1].X
	}
	before, l0 := straight(i)
	after, l1 := straight(i + 1)
	switch {
	case math.Abs(math.Atan(before)-math.Atan(after)) > profileCorner:
		own, _ := straight(k)
		return own
	case math.IsInf(l0, 1) || math.IsInf(l1, 1):
		return 0
	}
	return (before*l1 + after*l0) / (l0 + l1)
}

// Rest is how high the centre of a circle stands that rests on the ground at x, and
// where it touches: the true offset of the profile, not the height under the hub.
func (g Ground) Rest(x, r float64) (y float64, touch Point) { return g.RestAcross(x, r, 1) }

// RestAcross is Rest for a circle that rolls at an angle to the profile; cos is that angle's cosine, by which
// the profile appears stretched.
func (g Ground) RestAcross(x, r, cos float64) (y float64, touch Point) {
	if cos = math.Abs(cos); len(g) == 0 || cos < 1e-9 {
		h, _ := g.Height(x)
		return h + r, Point{x, h}
	}
	y = math.Inf(-1)
	take := func(h, at, low float64) {
		if h > y {
			y, touch = h, Point{x + at*cos, low}
		}
	}
	for k := g.beyond(x - r*cos); k <= len(g); k++ {
		// The straight that ends at point k, level beyond the ends; places from x on.
		a, b := Point{math.Inf(-1), g[0].Y}, Point{math.Inf(1), g[len(g)-1].Y}
		if k > 0 {
			a = Point{(g[k-1].X - x) / cos, g[k-1].Y}
		}
		if k < len(g) {
			b = Point{(g[k].X - x) / cos, g[k].Y}
		}
		if a.X > r {
			break
		}
		rise, long := 0.0, 1.0
		low := b.Y
		if k > 0 && k < len(g) {
			long = math.Hypot(b.X-a.X, b.Y-a.Y)
			rise = (b.Y - a.Y) / long
		}
		if at := r * rise; at >= a.X && at <= b.X {
			level := 1.0
			if rise != 0 {
				level = (b.X - a.X) / long
				low = a.Y + (at-a.X)*rise/level
			}
			take(low+r*level, at, low)
		}
		if k < len(g) && math.Abs(b.X) <= r {
			take(b.Y+math.Sqrt(r*r-b.X*b.X), b.X, b.Y)
		}
	}
	return y, touch
}

// Stretch is the ratio of the ground's length to its horizontal length between two places, for a way at an
// angle to the profile with that cosine; 1 where it is level.
func (g Ground) Stretch(a, b, cos float64) float64 {
	if b < a {
		a, b = b, a
	}
	one := func(slope float64) float64 { return math.Hypot(1, slope*cos) }
	if b-a < 1e-12 {
		_, slope := g.Height(a)
		return one(slope)
	}
	sum, x := 0.0, a
	for k := g.beyond(a); x < b; k++ {
		end := b
		if k < len(g) {
			end = min(g[k].X, b)
		}
		_, slope := g.Height((x + end) / 2)
		sum += (end - x) * one(slope)
		x = end
	}
	return sum / (b - a)
}

// Hanger is the suspension of a wheel: along a slide, or on an arm about a pivot. Up and Down are how much
// higher and lower than at rest its hub may come, metres.
type Hanger struct {
	Arm      bool
	PX, PY   float64 // of an arm: its pivot
	DX, DY   float64 // of a slide: its direction, of length 1
	Down, Up float64
}

// hub is where the hub is at a travel: a height above rest of arms, a way along slides.
func (h *Hanger) hub(at Point, travel float64) Point {
	if !h.Arm {
		return Point{at.X + travel*h.DX, at.Y + travel*h.DY}
	}
	r, y := math.Hypot(at.X-h.PX, at.Y-h.PY), at.Y+travel-h.PY
	x := math.Sqrt(max(r*r-y*y, 0))
	if at.X < h.PX {
		x = -x
	}
	return Point{h.PX + x, y + h.PY}
}

// Settle is the travel at which a wheel of that radius on the ground comes to rest: as
// low as the ground and the limits let it.
func (h *Hanger) Settle(g Ground, at Point, r float64) (travel float64, hub Point) {
	over := func(t float64) float64 {
		p := h.hub(at, t)
		y, _ := g.Rest(p.X, r)
		return p.Y - y
	}
	lo, hi := -h.Down, h.Up
	fLo, fHi := over(lo), over(hi)
	switch {
	case fLo >= 0:
		return lo, h.hub(at, lo)
	case fHi <= 0:
		return hi, h.hub(at, hi)
	}
	t, _ := geom.Root(over, lo, hi, fLo, fHi, 1e-10)
	return t, h.hub(at, t)
}

// Highest is the greatest height of the ground between two places.
func (g Ground) Highest(from, to float64) float64 {
	y, _ := g.Height(from)
	end, _ := g.Height(to)
	y = max(y, end)
	for k := g.beyond(from); k < len(g) && g[k].X < to; k++ {
		y = max(y, g[k].Y)
	}
	return y
}
