package machine

import (
	"math"

	"bead/core/geom"
	"bead/core/mech"
)

// stepper returns the way that a point at the side of carrier i rolls from one frame to
// another. Where the carrier rides on the ground and the way is that of a belt round its
// wheels this is the belt that is laid down and taken up, so that what lies on the ground
// stands still there, uphill and down.
func (c *Builder) stepper(i int, onPath string, side float64) func(a, b float64) float64 {
	s := c.Machine
	if c.carriers[i].riding == nil {
		return func(a, b float64) float64 {
			return rolledAlong(func(f float64) geom.Rigid { return s.CarrierPlace(i, f) }, a, b, side)
		}
	}
	// The ground's own length below a place of the carrier, from its places ahead.
	flat := func(a, b, x, y float64) float64 {
		from, to := s.level(i, a), s.level(i, b)
		at := func(m geom.Rigid, ahead float64) float64 { return m.Apply(geom.V(side, 0, ahead)).Z }
		way := rolledAlong(func(f float64) geom.Rigid { return s.level(i, f) }, a, b, side)
		return (way + y - x) * s.ground.Stretch(at(from, x), at(to, y), from.Z.Add(to.Z).Unit().Z)
	}
	j, known := c.pathAt[onPath]
	if !known || s.belts[j] == nil || !s.belts[j].shape.OnGround() {
		return func(a, b float64) float64 { return flat(a, b, 0, 0) }
	}
	shape := s.belts[j].shape
	anchor := shape.Anchor - 1
	// An anchor that is not on the ground does not say what lies there.
	if anchor >= 0 && (!shape.Wheels[anchor].Ground || shape.Wheels[anchor].Free) {
		anchor = -1
	}
	return func(a, b float64) float64 {
		// The wheel at which distances begin, or else one that stands on the ground from
		// one frame to the other, with the belt below it.
		k := anchor
		var x, y foot
		if k >= 0 {
			x, y = s.foot(i, j, k, a), s.foot(i, j, k, b)
		}
		if k < 0 || !x.down || !y.down {
			for n := range shape.Wheels {
				if n == anchor || s.belts[j].index[n] < 0 || !shape.Wheels[n].Ground {
					continue
				}
				if p, q := s.foot(i, j, n, a), s.foot(i, j, n, b); p.down && q.down {
					k, x, y = n, p, q
					break
				}
			}
		}
		if k < 0 {
			return flat(a, b, 0, 0)
		}
		// The pitch line lies above the ground: over a crest it is longer by the depth times
		// the turn, through a hollow shorter.
		way := flat(a, b, x.ahead, y.ahead) - shape.Depth*(y.slope-x.slope)
		if k == anchor {
			return way // its contact is at distance 0 in either frame
		}
		now, then := s.evenly(j, b), s.evenly(j, a)
		// By how much that wheel's place on the belt has moved.
		p, ok := now.Beside(s.belts[j].index[k], y.heading)
		q, known := then.Beside(s.belts[j].index[k], x.heading)
		if !ok || !known {
			return way
		}
		return way + math.Remainder(p-q, now.Length)
	}
}

// foot is where a wheel touches the ground, or would.
type foot struct {
	ahead, slope float64 // of the carrier, metres; the ground's angle there, radians
	heading      float64 // of the belt there, in its plane
	down         bool
}

// foot is that of a wheel on the ground of path j's shape, seen from carrier i.
func (s *Machine) foot(i, j, wheel int, frame float64) foot {
	b := s.belts[j]
	level, pose := s.level(i, frame), s.PathPlace(j, frame)
	k := b.index[wheel]
	w := b.wheels[k]
	ahead, up, off := b.shape.Axes()
	if b.on[k] >= 0 {
		at := s.ridden(j, b.on[k], frame).Apply(geom.FromArray(b.shape.Wheels[wheel].At))
		w.X, w.Y = at.Dot(ahead), at.Dot(up)
	}
	var room [64]mech.Point
	ground := s.section(room[:0], pose, b.shape, w.X-2*w.R-b.shape.Depth, w.X+2*w.R+b.shape.Depth)
	if h, sprung := b.hanger(k, &w); sprung {
		_, hub := h.Settle(ground, mech.Point{X: w.X, Y: w.Y}, w.R+b.shape.Depth)
		w.X, w.Y = hub.X, hub.Y
	}
	y, p := ground.Rest(w.X, w.R+b.shape.Depth)
	at := pose.Apply(off.Mad(ahead, p.X).Mad(up, p.Y))
	normal := pose.Turn(ahead.Mul(w.X-p.X).Mad(up, w.Y-p.Y))
	return foot{at.Sub(level.P).Dot(level.Z), math.Atan2(-normal.Dot(level.Z), normal.Y),
		math.Atan2(w.X-p.X, p.Y-w.Y), math.Abs(y-w.Y) < downTol}
}

// downTol is how near to rest a wheel is that stands on the ground, metres.
const downTol = 1e-6
