package figure

import (
	"math"

	"bead/core/geom"
)

// Gait is a figure's motion as a cycle that was made going straight. Places are in the axes side, up
// and forward, as a rigid's X, Y and Z, in metres; times in rounds of the cycle.
type Gait struct {
	Figure *Figure
	// Period is the time of a round, seconds. Closed tells of keys of which the last stands where
	// the first does, a stride on; else the cycle goes on from the last key to the first.
	Period float64
	Closed bool
	// Stride is how far the root goes ahead in a round; Aside and Rise by how much it goes off to
	// the left and up: that is taken out evenly over the round.
	Stride, Aside, Rise float64
	// MissPlace and MissTurn are how far joints are, at the end of a round, from where they began,
	// seen from the root: metres and radians, the greatest, and of which joint.
	MissPlace, MissTurn float64
	MissAt              int

	side, up, forward geom.Vec
	scale             float64
	pivot             geom.Vec
	start             geom.Vec // of the root, in own axes, at the first key
	added             float64  // metres ahead in a round that the keys do not have
}

// closing is by how much turns at the end of a round may differ from its beginning, as a share of the
// last step between two keys, for the last key to be taken for the first one come round.
const closing = 0.5

// NewGait finds the cycle in a figure's motion. forward and up are the figure's own, of length 1;
// pivot is the place in its axes that is on the ground; scale is metres a unit. stride, where it is
// not 0, is how far a round goes: of a cycle on the spot, or one that is to go another way than its
// keys do.
func NewGait(f *Figure, forward, up, pivot geom.Vec, scale, stride float64) *Gait {
	g := &Gait{Figure: f, side: up.Cross(forward), up: up, forward: forward, scale: scale, pivot: pivot}
	n := len(f.Times)
	first, last := g.own(f.Between(nil, 0, 0, 1)), g.own(f.Between(nil, n-1, n-1, 1))
	g.start = first[0].P
	g.Closed = n > 2 && f.meets()
	g.Period = f.Duration()
	gain := last[0].P.Sub(first[0].P)
	if !g.Closed {
		// The last stretch, from the last key to the first of the next round, is as long as others.
		step := g.Period / float64(max(n-1, 1))
		if n < 2 {
			step = 1
		}
		g.Period += step
		if n > 1 {
			gain = gain.Mul(g.Period / f.Duration())
		}
	}
	g.Aside, g.Rise, g.Stride = gain.X, gain.Y, gain.Z
	if g.Closed {
		g.miss(first, last)
	}
	if stride != 0 {
		g.added = stride - g.Stride
		g.Stride = stride
	}
	return g
}

// meets reports whether the last key's turns are those of the first, as nearly as keys follow one
// another.
func (f *Figure) meets() bool {
	n := len(f.Times)
	worst, step := 0.0, 0.0
	for i := range f.Joints {
		worst = max(worst, f.Turns[n-1][i].Inverse().Mul(f.Turns[0][i]).Angle())
		for k := 1; k < n; k++ {
			step = max(step, f.Turns[k][i].Inverse().Mul(f.Turns[k-1][i]).Angle())
		}
	}
	// A cycle that is cut one key short misses by a whole step.
	between := 0.0
	for i := range f.Joints {
		between = max(between, f.Turns[n-1][i].Inverse().Mul(f.Turns[n-2][i]).Angle())
	}
	return worst <= closing*between || worst < 0.02*step || step == 0
}

// miss measures how far the end of a closed round is from its beginning.
func (g *Gait) miss(first, last []geom.Rigid) {
	for i := range first {
		a := last[i].P.Sub(last[0].P).Sub(first[i].P.Sub(first[0].P)).Norm()
		t := last[i].Quat().Inverse().Mul(first[i].Quat()).Angle()
		if a > g.MissPlace {
			g.MissPlace, g.MissAt = a, i
		}
		g.MissTurn = max(g.MissTurn, t)
	}
}

// own brings local motions of joints to places in the gait's axes.
func (g *Gait) own(locals []geom.Rigid) []geom.Rigid {
	out := g.Figure.Globals(nil, locals)
	for i := range out {
		out[i] = g.toOwn(out[i])
	}
	return out
}

// toOwn brings a motion in the figure's axes into those of the gait.
func (g *Gait) toOwn(m geom.Rigid) geom.Rigid {
	p := m.P.Sub(g.pivot).Mul(g.scale)
	return geom.Rigid{P: g.seen(p), X: g.seen(m.X), Y: g.seen(m.Y), Z: g.seen(m.Z)}
}

func (g *Gait) seen(v geom.Vec) geom.Vec { return geom.V(v.Dot(g.side), v.Dot(g.up), v.Dot(g.forward)) }

// ToFigure brings a motion in the gait's axes back into the figure's own.
func (g *Gait) ToFigure(m geom.Rigid) geom.Rigid {
	back := func(v geom.Vec) geom.Vec { return g.side.Mul(v.X).Mad(g.up, v.Y).Mad(g.forward, v.Z) }
	return geom.Rigid{P: back(m.P).Mul(1 / g.scale).Add(g.pivot), X: back(m.X), Y: back(m.Y), Z: back(m.Z)}
}

// Scale is metres a unit of the figure.
func (g *Gait) Scale() float64 { return g.scale }

// Straight fills the joints as the cycle goes straight on, after so many rounds: the root begins at
// forward 0 and is a stride on after each. locals is work space that is kept between calls.
func (g *Gait) Straight(dst, locals []geom.Rigid, rounds float64) (joints, work []geom.Rigid) {
	whole := math.Floor(rounds)
	share := rounds - whole
	locals = g.locals(locals, share)
	dst = g.Figure.Globals(dst, locals)
	on := geom.V(g.start.X+share*g.Aside, share*g.Rise, g.start.Z-share*g.added-whole*g.Stride)
	for i := range dst {
		dst[i] = g.toOwn(dst[i])
		dst[i].P = dst[i].P.Sub(on)
	}
	return dst, locals
}

// locals are the joints in their parents' axes at a share of the round.
func (g *Gait) locals(dst []geom.Rigid, share float64) []geom.Rigid {
	f := g.Figure
	t := share * g.Period
	if d := f.Duration(); t > d && !g.Closed { // from the last key to the first of the next round
		n := len(f.Times)
		u := (t - d) / (g.Period - d)
		if n == 1 {
			return f.Between(dst, 0, 0, 1)
		}
		dst = f.Between(dst, n-1, 0, u)
		// The root goes on: the first key's place is a round's gain on.
		gain := g.side.Mul(g.Aside).Mad(g.up, g.Rise).Mad(g.forward, g.Stride-g.added).Mul(1 / g.scale)
		dst[0].P = f.Shifts[n-1][0].Lerp(f.Shifts[0][0].Add(gain), u)
		return dst
	}
	return f.Locals(dst, t)
}

// NearestKey is the time of the key that is nearest to one, in rounds.
func (g *Gait) NearestKey(rounds float64) float64 {
	whole := math.Floor(rounds)
	best := whole + 1 // the first of the next round
	for _, t := range g.Figure.Times {
		if k := whole + (t-g.Figure.Times[0])/g.Period; math.Abs(k-rounds) < math.Abs(best-rounds) {
			best = k
		}
	}
	return best
}

// Moves reports whether the keys themselves go ahead: by more than a hundredth of the figure's size.
func (g *Gait) Moves() bool { return math.Abs(g.Stride-g.added) > 0.01*g.Size() }

// Own is how far the keys themselves go in a round, metres.
func (g *Gait) Own() float64 { return g.Stride - g.added }

// Floor is the lowest place that its tips, and joints without any, come down to, metres above the pivot.
func (g *Gait) Floor() float64 {
	low := math.Inf(1)
	for _, joints := range g.looks() {
		for i, j := range g.Figure.Joints {
			low = min(low, joints[i].P.Y)
			for _, e := range j.Ends {
				low = min(low, joints[i].Apply(e.Mul(g.scale)).Y)
			}
		}
	}
	return low
}

// Size is the greatest distance between joints at the first key, metres.
func (g *Gait) Size() float64 {
	box := geom.EmptyBox()
	for _, m := range g.Figure.Globals(nil, g.Figure.Between(nil, 0, 0, 1)) {
		box = box.Extend(m.P)
	}
	return box.Size().Norm() * g.scale
}

// Axes are the figure's forward and up as its motion tells them: forward is the axis along which its
// root goes farthest, up the axis square to that along which its root is farthest above the tips that
// it goes on, or y where that says nothing. goes is how far it goes, in the figure's units.
func (f *Figure) Axes() (forward, up geom.Vec, goes float64) {
	n := len(f.Times)
	first, last := f.Globals(nil, f.Between(nil, 0, 0, 1)), f.Globals(nil, f.Between(nil, n-1, n-1, 1))
	way := last[0].P.Sub(first[0].P)
	low := geom.Vec{}
	tips := 0
	for i, j := range f.Joints {
		for _, e := range j.Ends {
			low = low.Add(first[i].Apply(e))
			tips++
		}
	}
	up = geom.V(0, 1, 0)
	if tips > 0 {
		above := first[0].P.Sub(low.Mul(1 / float64(tips)))
		if a := nearestAxis(above); math.Abs(above.Dot(a)) > 1.5*math.Abs(above.Y) {
			up = a
		}
	}
	way = way.Mad(up, -way.Dot(up))
	forward = nearestAxis(way)
	if goes = way.Norm(); !(goes > 0) {
		forward = geom.V(0, 0, 1)
		if math.Abs(up.Z) == 1 {
			forward = geom.V(0, -up.Z, 0)
		}
	}
	return forward, up, goes
}

// nearestAxis is the axis nearest to a way, z of none.
func nearestAxis(v geom.Vec) geom.Vec {
	x, y, z := math.Abs(v.X), math.Abs(v.Y), math.Abs(v.Z)
	switch {
	case x > y && x > z:
		return geom.V(math.Copysign(1, v.X), 0, 0)
	case y > z:
		return geom.V(0, math.Copysign(1, v.Y), 0)
	}
	if v.Z < 0 {
		return geom.V(0, 0, -1)
	}
	return geom.V(0, 0, 1)
}
