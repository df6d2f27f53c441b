package rig

import (
	"math"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/scene"
)

// way is the frame of the path at a distance, in the world, without lean. Where feet follow the ground it is
// upright and at the ground's height.
func (t *cycle) way(m *moment, d float64) geom.Frame {
	f := t.faced(m.Posed, t.wrap(m.Curve, d), m.roll, 0)
	if m.moved {
		f = m.pose.Frame(f)
	}
	// On the ground the way is level: the ground's own slope turns the feet, not the body.
	if t.doc.Ground {
		f.T.Y = 0
		f.T, f.U = f.T.Unit(), geom.V(0, 1, 0)
		f.P.Y = 0
	}
	return f
}

// onWay maps a rigid motion of the straight cycle to the path: from is the distance at which the round began.
func onWay(f geom.Frame, s geom.Rigid, from float64) geom.Rigid {
	s.P.Z -= from
	return f.Rigid().Mul(s)
}

// pose brings the joints of a copy to where they are in the world.
func (t *cycle) pose(dst *Pieces, m *moment, piece int, out []geom.Rigid) {
	rounds, from := t.rounds(piece, m.frame)
	// First as the motion was made, straight ahead from the origin; then piece by piece onto the way.
	dst.straight, dst.locals = t.gait.Straight(dst.straight, dst.locals, rounds)
	s := dst.straight
	zr := s[0].P.Z
	f := t.way(m, zr+from)
	lean := t.lean(m.Curve, t.wrap(m.Curve, zr+from), m.speed)
	under := t.under(m, s, rounds, from, f)
	f.P.Y += under
	joints := t.gait.Figure.Joints
	// Joints come after their parents, in the order of the file.
	for j := range s {
		if j == 0 {
			out[0] = onWay(f, s[0], zr)
		} else {
			// As its keys turn it against its parent, which has just been placed.
			p := joints[j].Parent
			out[j] = out[p].Mul(t.local(dst, j))
			// One that follows faces the way where it is itself: a long spine bends round a curve instead of cutting
			// it.
			if t.follow[j] {
				at := t.way(m, s[j].P.Z+from)
				at.P.Y += under
				there, axis := onWay(at, s[j], s[j].P.Z), f.T
				// Drawn along, it stands on the way; else its bones keep their lengths and only its facing follows.
				if t.doc.Bones == scene.BonesDrawn {
					axis = at.T
					there.P = at.P.Add(geom.RotateAbout(there.P.Sub(at.P), axis, lean))
				} else {
					there.P = out[j].P
				}
				out[j] = there
				turnBy(&out[j], axis, lean)
			}
		}
		// It leans about where the way is, so its feet stay and its head moves in.
		if j == 0 && lean != 0 {
			out[0].P = f.P.Add(geom.RotateAbout(out[0].P.Sub(f.P), f.T, lean))
			turnBy(&out[0], f.T, lean)
		}
		for k := range t.layers {
			if t.layers[k].joints[j] {
				t.layered(&t.layers[k], m, f, zr+from, &out[j])
			}
		}
	}
	// Free legs go as the cycle has them; none is too short then.
	if t.doc.Legs == scene.LegsFree {
		clear(dst.short[piece*len(t.feet) : (piece+1)*len(t.feet)])
		return
	}
	for k := range t.feet {
		dst.short[piece*len(t.feet)+k] = t.stepOn(dst, m, k, rounds, from, out)
		// A layer on a foot turns it where it stands: it must not lift it.
		if foot := &t.feet[k]; !foot.Tip { // set down, it is turned by layers about where it is
			for n := range t.layers {
				if t.layers[n].joints[foot.Joint] {
					at := out[foot.Joint].P
					t.layered(&t.layers[n], m, f, zr+from, &out[foot.Joint])
					out[foot.Joint].P = at
				}
			}
		}
	}
}

// local is a joint of the straight cycle relative to its parent, metres.
func (t *cycle) local(dst *Pieces, j int) geom.Rigid {
	m := dst.locals[j]
	m.P = m.P.Mul(t.gait.Scale())
	return m
}

func turnBy(m *geom.Rigid, axis geom.Vec, angle float64) {
	m.X, m.Y, m.Z = geom.RotateAbout(m.X, axis, angle), geom.RotateAbout(m.Y, axis, angle), geom.RotateAbout(m.Z, axis, angle)
}

// under is the mean height of the ground below the feet; below the root where there are none.
func (t *cycle) under(m *moment, s []geom.Rigid, rounds, from float64, f geom.Frame) float64 {
	if !t.doc.Ground {
		return 0
	}
	if len(t.feet) == 0 {
		y, _ := t.scene.Ground().Height(f.P.Z)
		return y
	}
	sum := 0.0
	for k := range t.feet {
		// Where each foot touches in the cycle, on the ground below that place.
		c, _ := t.contact(k, s, rounds)
		at := t.way(m, c.Z+from)
		y, _ := t.scene.Ground().Height(onWay(at, geom.Rigid{P: c}, c.Z).P.Z)
		sum += y
	}
	return sum / float64(len(t.feet))
}

// contact is the contact point of a foot in the straight cycle, blended to its standing place while it stands.
func (t *cycle) contact(k int, s []geom.Rigid, rounds float64) (at geom.Vec, stands bool) {
	foot := &t.feet[k]
	at = t.gait.Contact(&foot.Foot, s)
	whole := math.Floor(rounds)
	for i, p := range foot.plants {
		for _, round := range [3]float64{whole - 1, whole, whole + 1} {
			u := rounds - round
			switch {
			case u >= p.From && u <= p.To:
				// It stands in one place through all of the plant: its contact at the middle, on the round in which
				// the plant began.
				mid := foot.mids[i]
				return geom.V(mid.X, at.Y, mid.Z+round*t.gait.Stride), true
			case u > p.To && u < p.To+plantEase:
				// Before and behind it is led there and away, so that its way has no step.
				at = at.Mad(foot.ends[i][1], smooth(1-(u-p.To)/plantEase))
			case u < p.From && u > p.From-plantEase:
				at = at.Mad(foot.ends[i][0], smooth(1-(p.From-u)/plantEase))
			}
		}
	}
	return at, false
}

func smooth(u float64) float64 { return u * u * (3 - 2*u) }

// stepOn puts a foot at its place and bends its leg to reach it; short is by how much the leg is too short.
func (t *cycle) stepOn(dst *Pieces, m *moment, k int, rounds, from float64, out []geom.Rigid) (short float64) {
	foot, s, joints := &t.feet[k], dst.straight, t.gait.Figure.Joints
	c, _ := t.contact(k, s, rounds)
	f := t.way(m, c.Z+from)
	target := onWay(f, geom.Rigid{P: c}, c.Z).P
	own := s[foot.Joint]
	turned := geom.Rigid{X: own.X, Y: own.Y, Z: own.Z}
	// As it is turned in the cycle, turned on with the way at its own place: a foot on the outer side of a bend turns
	// there.
	turned = geom.Rigid{P: geom.Vec{}, X: f.Side(), Y: f.U, Z: f.T}.Mul(turned)
	if t.doc.Ground {
		y, slope := t.scene.Ground().Height(target.Z)
		target.Y += y
		// Up a slope its toes come up with the ground, which rises along z.
		pitch := -math.Atan(slope)
		turnBy(&turned, geom.V(1, 0, 0), pitch)
	}
	scaled := foot.Contact.Mul(t.gait.Scale())
	// Joints that hang from the leg keep their place on it, with their layers.
	dst.along = dst.along[:0]
	for _, j := range t.legs[k] {
		dst.along = append(dst.along, out[joints[j].Parent].Inverse().Mul(out[j]))
	}
	if foot.Tip {
		short = figure.Reach(out, foot.Leg, out[foot.Joint].Apply(scaled), target)
	} else {
		// A foot that is not the tip keeps its own joint's place on the leg, whatever layers or scale shift it.
		end := out[max(joints[foot.Joint].Parent, 0)].Apply(t.local(dst, foot.Joint).P) // whatever shifts the foot
		short = figure.Reach(out, foot.Leg, end, target.Sub(turned.Turn(scaled)))
	}
	for i, j := range t.legs[k] {
		out[j] = out[joints[j].Parent].Mul(dst.along[i])
		if j == foot.Joint && !foot.Tip {
			out[j].P = out[joints[j].Parent].Apply(t.local(dst, j).P)
			out[j].X, out[j].Y, out[j].Z = turned.X, turned.Y, turned.Z
		}
	}
	return short
}

// layered turns and shifts a joint on top, in the axes of the way.
func (t *cycle) layered(l *layer, m *moment, f geom.Frame, d float64, joint *geom.Rigid) {
	var v [6]float64
	for i, s := range l.by {
		v[i] = s.At(m.frame, t.scene.Clock)
	}
	const degree = math.Pi / 180
	heading := v[0] * degree
	if l.doc.Looks != 0 {
		// Looking ahead is the turn from the way here to the way there, about up.
		heading += geom.AngleAbout(f.U, f.T, t.way(m, d+l.doc.Looks).T)
	}
	axes := geom.Rigid{X: f.Side(), Y: f.U, Z: f.T}
	// In the way's axes, so that a heading turns about its up on a slope, too.
	turn := axes.Mul(geom.Turned(heading, v[1]*degree, v[2]*degree)).Mul(axes.Inverse())
	joint.X, joint.Y, joint.Z = turn.Turn(joint.X), turn.Turn(joint.Y), turn.Turn(joint.Z)
	joint.P = joint.P.Add(axes.Turn(geom.V(v[3], v[4], v[5])))
}
