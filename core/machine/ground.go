package machine

import (
	"math"
	"slices"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/scene"
)

// riding is how a carrier rides on the ground.
type riding struct {
	wheels []roadWheel
	soften float64 // frames
	rigid  bool    // no wheel is sprung
}

// roadWheel is a wheel on the ground at rest, in its carrier's space.
type roadWheel struct {
	hub   geom.Vec
	reach float64 // from the hub to the face on the ground, metres
	up    float64 // that the hub may come up
}

// newRiding gathers the road wheels of the belts that ride on a carrier.
func (c *Builder) newRiding(id string, soften float64) *riding {
	r := &riding{soften: soften, rigid: true}
	for i := range c.Doc.Paths {
		p := &c.Doc.Paths[i]
		w := p.Shape.Wrap
		// Only belts that ride on it: others have wheels of their own carriers.
		if w == nil || c.Doc.PathCarrier(p) != id {
			continue
		}
		ahead, up, off := w.Axes()
		rest := p.Rest.Rigid()
		for k := range w.Wheels {
			x := &w.Wheels[k]
			if !x.Ground || x.Free {
				continue
			}
			at := geom.FromArray(x.At)
			flat := off.Mad(ahead, at.Dot(ahead)).Mad(up, at.Dot(up))
			road := roadWheel{hub: rest.Apply(flat), reach: x.PitchRadius() + w.Depth}
			if x.Spring != nil {
				road.up, r.rigid = x.Spring.Up, false
			}
			r.wheels = append(r.wheels, road)
		}
	}
	return r
}

// lie is a plane in a level space with a heading: its height at the origin, and its rise for a metre ahead and
// a metre to the left.
type lie struct{ height, ahead, left float64 }

func (l *lie) at(x, z float64) float64 { return l.height + l.ahead*z + l.left*x }

// need is, for each wheel, the height of the carrier's plane at which the wheel rests on the ground.
func (r *riding) need(dst []float64, g mech.Ground, level geom.Rigid) []float64 {
	cos := level.Z.Z
	for i := range r.wheels {
		w := &r.wheels[i]
		p := level.Apply(geom.V(w.hub.X, 0, w.hub.Z))
		// The profile runs along z; a carrier that goes across it meets it stretched.
		y, _ := g.RestAcross(p.Z, w.reach, cos)
		dst = append(dst, y-w.hub.Y)
	}
	return dst
}

// fit is the plane in which the carrier lies: of sprung wheels the one with the least
// squares of their travel, of unsprung ones that which rests on two of them.
func (r *riding) fit(need []float64) lie {
	n := float64(len(need))
	var mx, mz, my float64
	for i, y := range need {
		mx, mz, my = mx+r.wheels[i].hub.X/n, mz+r.wheels[i].hub.Z/n, my+y/n
	}
	var xx, zz, xz, xy, zy float64
	for i, y := range need {
		x, z := r.wheels[i].hub.X-mx, r.wheels[i].hub.Z-mz
		xx, zz, xz, xy, zy = xx+x*x, zz+z*z, xz+x*z, xy+x*(y-my), zy+z*(y-my)
	}
	var l lie
	switch det := xx*zz - xz*xz; {
	// Wheels on one line or in one point say nothing of the rest of the plane.
	case det > 1e-9*xx*zz && det > 0:
		l.left, l.ahead = (xy*zz-zy*xz)/det, (zy*xx-xy*xz)/det
	case zz > 1e-12:
		l.ahead = zy / zz
	case xx > 1e-12:
		l.left = xy / xx
	}
	l.height = my - l.left*mx - l.ahead*mz
	if r.rigid {
		l = r.rest(need, l, mz)
	}
	return l
}

// rest tips a plane about ahead until it rests on two wheels, one on either side of the
// middle: the edge of the upper hull of what the wheels need that lies over it.
func (r *riding) rest(need []float64, l lie, middle float64) lie {
	best := math.Inf(-1)
	slope := l.ahead
	over := func(i int) float64 { return need[i] - l.left*r.wheels[i].hub.X }
	for i := range need {
		for k := range need {
			a, b := r.wheels[i].hub.Z, r.wheels[k].hub.Z
			// One behind the middle and one ahead of it: on others it would tip over.
			if a > middle || b <= middle || b-a < 1e-9 {
				continue
			}
			s := (over(k) - over(i)) / (b - a)
			if y := over(i) + s*(middle-a); y > best {
				best, slope = y, s
			}
		}
	}
	if math.IsInf(best, -1) {
		return l
	}
	l.ahead, l.height = slope, best-slope*middle
	return l
}

// softSpan is how many times its softness a softened carrier looks back, in at most
// softParts steps of whole quarters of a frame, so that one frame's answers serve the next.
const softSpan, softParts = 2.0, 24.0

// lies is the plane in which carrier i would lie at a frame were it not softened.
func (s *Machine) lies(i int, frame float64) lie {
	return s.fits.Get(i, frame, func() lie {
		r := s.carriers[i].riding
		var room [32]float64
		return r.fit(r.need(room[:0], s.ground, s.level(i, frame)))
	})
}

// stood is where a carrier on the ground is in the world at a frame.
func (s *Machine) stood(i int, frame float64) geom.Rigid {
	k := &s.carriers[i]
	r := k.riding
	level := s.level(i, frame)
	l := s.lies(i, frame)
	if r.soften > 0 {
		// A body on critically damped springs over moving ground answers a step after t
		// by w (2 - w t) exp(-w t): it lags behind no even slope (control theory).
		w := 4 / r.soften
		// Whole quarters of a frame, so that neighbouring frames ask for the same moments.
		step := max(math.Ceil(softSpan*r.soften/softParts*4), 1) / 4
		var sum lie
		weights := 0.0
		for t := 0.0; t <= softSpan*r.soften; t += step {
			weight := w * (2 - w*t) * math.Exp(-w*t)
			if t == 0 {
				weight /= 2 // the trapezoid rule
			}
			past := s.lies(i, frame-t)
			sum.height, sum.ahead, sum.left = sum.height+weight*past.height, sum.ahead+weight*past.ahead, sum.left+weight*past.left
			weights += weight
		}
		l = lie{sum.height / weights, sum.ahead / weights, sum.left / weights}
	}
	var room [32]float64
	need := r.need(room[:0], s.ground, level)
	// No wheel may come up farther than its spring lets it.
	lift := 0.0
	for n, y := range need {
		w := &r.wheels[n]
		lift = max(lift, y-w.up-l.at(w.hub.X, w.hub.Z))
	}
	l.height += lift
	z := geom.V(0, l.ahead, 1).Unit()
	y := geom.V(-l.left, 1, -l.ahead).Unit()
	lies := geom.Rigid{P: geom.V(0, l.height, 0), X: y.Cross(z), Y: y, Z: z}
	return level.Mul(lies)
}

// level is the place and heading of a carrier at height 0, without pitch and bank.
func (s *Machine) level(i int, frame float64) geom.Rigid {
	k := &s.carriers[i]
	const degree = math.Pi / 180
	own := geom.Turned(k.heading.At(frame, s.Clock)*degree, 0, 0)
	own.P = geom.V(k.at[0].At(frame, s.Clock), 0, k.at[2].At(frame, s.Clock))
	m := s.CarrierPlace(k.parent, frame).Mul(own)
	out := geom.Turned(math.Atan2(m.Z.X, m.Z.Z), 0, 0)
	out.P = geom.V(m.P.X, 0, m.P.Z)
	return out
}

// section appends to room the ground below a belt's plane, in that plane: ahead and up of the belt,
// from lo to hi and a little beyond.
func (s *Machine) section(room mech.Ground, pose geom.Rigid, w *scene.WrapShape, lo, hi float64) mech.Ground {
	ahead, up, off := w.Axes()
	origin, x, y := pose.Apply(off), pose.Turn(ahead), pose.Turn(up)
	// A belt that stands upright has no ground below it along itself.
	flat := math.Hypot(x.X, x.Z)
	if flat < 1e-6 {
		return nil
	}
	hx, hz := x.X/flat, x.Z/flat
	// A little beyond, so that wheels near the ends find ground to roll on to.
	size := hi - lo
	lo, hi = lo-size/2, hi+size/2
	at := func(u float64, h float64) mech.Point {
		d := geom.V(hx*u, h-origin.Y, hz*u)
		return mech.Point{X: d.Dot(x), Y: d.Dot(y)}
	}
	out := room
	h, _ := s.ground.Height(origin.Z + hz*lo)
	out = append(out, at(lo, h))
	if math.Abs(hz) > 1e-9 {
		first := origin.Z + min(hz*lo, hz*hi)
		k, _ := slices.BinarySearchFunc(s.ground, first, func(p mech.Point, z float64) int {
			if p.X <= z {
				return -1
			}
			return 1
		})
		from := len(out)
		for ; k < len(s.ground); k++ {
			u := (s.ground[k].X - origin.Z) / hz
			if u <= lo || u >= hi {
				break
			}
			out = append(out, at(u, s.ground[k].Y))
		}
		if hz < 0 {
			slices.Reverse(out[from:])
		}
	}
	h, _ = s.ground.Height(origin.Z + hz*hi)
	return append(out, at(hi, h))
}

// Ground returns the compiled profile of the scene's ground: heights along z.
func (s *Machine) Ground() mech.Ground { return s.ground }
