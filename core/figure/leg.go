package figure

import (
	"math"

	"bead/core/geom"
)

// How legs of more than two bones are brought to their goal.
const (
	reachRounds  = 200
	reachSettled = 1e-10 // of the leg's length
)

// Reach turns the joints of a leg so that its end comes to a goal. joints are in the world and are
// changed; what hangs from the leg is not brought along. end is where the leg's end is now. Two bones
// bend by the law of cosines, their knee on the side on which it is; longer legs are swung round and
// bend their last two bones so, or, where that does not reach, all of them by going to and fro along the
// bones (A. Aristidou, J. Lasenby, "FABRIK", Graphical Models 73, 2011). A goal that is out of
// reach is pointed at. short is by how much it is.
func Reach(joints []geom.Rigid, leg []int, end, goal geom.Vec) (short float64) {
	n := len(leg)
	if n == 0 {
		return goal.Sub(end).Norm()
	}
	var room [legMost + 1]geom.Vec
	at := room[:n+1]
	for i, j := range leg {
		at[i] = joints[j].P
	}
	at[n] = end
	var longRoom [legMost]float64
	long, whole := longRoom[:n], 0.0
	for i := range long {
		long[i] = at[i+1].Sub(at[i]).Norm()
		whole += long[i]
	}
	if goal.Sub(end).Norm() <= 1e-13*whole {
		return 0
	}
	var wasRoom [legMost + 1]geom.Vec
	was := wasRoom[:n+1]
	copy(was, at)
	away := goal.Sub(at[0])
	switch d := away.Norm(); {
	case n == 1 || d >= whole:
		short = math.Abs(d - whole)
		if n == 1 {
			short = math.Abs(d - long[0])
		}
		way := away.Unit()
		for i := range long {
			at[i+1] = at[i].Mad(way, long[i])
		}
	case n == 2:
		short = bend(at, long, goal)
	default:
		// The leg as it is, swung round to point at the goal, and its last two bones bent to it.
		swing := turnBetween(end.Sub(at[0]), away)
		for i := range long {
			at[i+1] = at[0].Add(swing.Apply(was[i+1].Sub(was[0])))
		}
		if d := goal.Sub(at[n-2]).Norm(); d > math.Abs(long[n-2]-long[n-1]) && d < long[n-2]+long[n-1] {
			bend(at[n-2:], long[n-2:], goal)
		} else {
			fold(at, long, goal, whole)
		}
		short = at[n].Sub(goal).Norm()
	}
	for i, j := range leg {
		turn := turnBetween(was[i+1].Sub(was[i]), at[i+1].Sub(at[i]))
		m := &joints[j]
		m.P, m.X, m.Y, m.Z = at[i], turn.Apply(m.X), turn.Apply(m.Y), turn.Apply(m.Z)
	}
	return short
}

// bend puts the knee of two bones where the goal asks for it.
func bend(at []geom.Vec, long []float64, goal geom.Vec) (short float64) {
	away := goal.Sub(at[0])
	d := away.Norm()
	if least := math.Abs(long[0] - long[1]); d < least {
		short, d = least-d, least
	}
	way := away.Unit()
	cos := (long[0]*long[0] + d*d - long[1]*long[1]) / (2 * long[0] * d)
	cos = min(max(cos, -1), 1)
	// The knee stays on the side on which it is, as seen from the way to the goal.
	side := at[1].Sub(at[0])
	side = side.Mad(way, -side.Dot(way))
	if side.Norm() < 1e-9*long[0] {
		side = geom.AnyPerpendicular(way)
	}
	at[1] = at[0].Mad(way, long[0]*cos).Mad(side.Unit(), long[0]*math.Sqrt(1-cos*cos))
	at[2] = at[0].Mad(way, d)
	return short
}

// fold brings the end of a leg of many bones to a goal within its reach.
func fold(at []geom.Vec, long []float64, goal geom.Vec, whole float64) {
	n := len(long)
	root := at[0]
	for range reachRounds {
		at[n] = goal
		for i := n - 1; i >= 0; i-- {
			at[i] = at[i+1].Mad(at[i].Sub(at[i+1]).Unit(), long[i])
		}
		at[0] = root
		for i := range long {
			at[i+1] = at[i].Mad(at[i+1].Sub(at[i]).Unit(), long[i])
		}
		if at[n].Sub(goal).Norm() < reachSettled*whole {
			return
		}
	}
}

// turnBetween is the least turn that brings one way onto another.
func turnBetween(a, b geom.Vec) geom.Quat {
	a, b = a.Unit(), b.Unit()
	w := 1 + a.Dot(b)
	if w < 1e-12 { // the other way: half a turn about anything square to it
		p := geom.AnyPerpendicular(a)
		return geom.Quat{X: p.X, Y: p.Y, Z: p.Z}
	}
	c := a.Cross(b)
	return geom.Quat{X: c.X, Y: c.Y, Z: c.Z, W: w}.Unit()
}
