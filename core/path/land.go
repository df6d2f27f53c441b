package path

import "bead/core/geom"

// Land is the ground under a curve: its height and its slope at z, the same for all x. nil is
// level ground at y = 0.
type Land func(z float64) (height, slope float64)

func (l Land) at(z float64) (height, slope float64) {
	if l == nil {
		return 0, 0
	}
	return l(z)
}

// landLooks is the number of places at which a curve is looked at over ground that is not level.
const landLooks = 2048

// Above returns the least height of the curve over the ground, and a distance at which it is.
// place tells where a point of the curve is in the space of the ground; nil: where it is.
func (c *Curve) Above(l Land, place func(geom.Vec) geom.Vec) (height, at float64) {
	if l == nil && place == nil {
		return c.Lowest()
	}
	depth, at := greatest(func(s float64) float64 {
		p, _ := c.At(min(max(s, 0), c.length*(1-1e-12)))
		if place != nil {
			p = place(p)
		}
		y, _ := l.at(p.Z)
		return y - p.Y
	}, 0, c.length, landLooks)
	return -depth, at
}

// Lower moves the whole curve straight down or up so that its lowest point over the ground lies
// clearance above it.
func (c *Curve) Lower(clearance float64, l Land) []Span {
	height, _ := c.Above(l, nil)
	by := geom.V(0, clearance-height, 0)
	return MoveAll(c.spans, func(p geom.Vec) geom.Vec { return p.Add(by) })
}

// Drape lays every point of the curve clearance above the ground: exactly on level ground, else
// within 1e-6 of its length.
func (c *Curve) Drape(clearance float64, l Land) []Span {
	if l == nil {
		return MoveAll(c.spans, func(p geom.Vec) geom.Vec { return geom.V(p.X, clearance, p.Z) })
	}
	var out []Span
	for i := 0; i < len(c.spans) && c.stop.Err() == nil; i++ {
		out = FitTo(out, c.starts[i], c.starts[i+1], func(s float64) (p, d geom.Vec) {
			p, d, _ = c.onSpan(i, s)
			y, slope := l(p.Z)
			p.Y, d.Y = y+clearance, slope*d.Z
			return p, d
		}, 1e-6*c.length)
	}
	return out
}
