package demo

import (
	"fmt"
	"math"

	"bead/core/figure"
	"bead/core/geom"
)

// The crab's measures in metres, and its gait.
const (
	crabHigh   = 0.16  // of its shell's middle
	crabStride = 0.24  // a round
	crabFrames = 24    // a round, at 24 a second
	crabStands = 0.55  // of a round, that a foot stands
	crabLift   = 0.06  // of a foot that swings
	crabHip    = 0.035 // hip to the long bones
	crabUpper  = 0.15
	crabLower  = 0.19
	crabSwing  = 0.5 // of a round between the two sets of four legs
)

// crabLegs are where its hips and the middles of its footprints are on the left side, from behind on:
// x to the left, z towards where it looks.
var crabLegs = [4]struct{ hipX, hipZ, footX, footZ float64 }{
	{0.085, -0.075, 0.27, -0.20},
	{0.10, -0.03, 0.32, -0.075},
	{0.10, 0.015, 0.32, 0.06},
	{0.085, 0.06, 0.27, 0.19},
}

// Crab is the kelp station's crab with the cycle of its scuttle: it looks ahead and goes straight to
// its left. Eight legs of three bones stand in two sets of four by turns, so that the feet of each
// stay where they are; claws and eyes sway.
func Crab() *figure.Figure {
	c := &crab{f: &figure.Figure{}}
	body := c.joint("shell", -1, geom.V(0, crabHigh, 0))
	for s, side := range []float64{1, -1} {
		name := []string{"left", "right"}[s]
		for k, l := range crabLegs {
			hip := c.joint(fmt.Sprintf("%s leg %d hip", name, k+1), body, geom.V(side*l.hipX, -0.02, l.hipZ))
			out := math.Atan2(side*(l.footX-l.hipX), l.footZ-l.hipZ) // about up, from z
			way := geom.V(math.Sin(out), 0, math.Cos(out))
			upper := c.joint(fmt.Sprintf("%s leg %d upper", name, k+1), hip, way.Mul(crabHip))
			lower := c.joint(fmt.Sprintf("%s leg %d lower", name, k+1), upper, way.Mul(crabUpper))
			c.f.Joints[lower].Ends = []geom.Vec{way.Mul(crabLower)}
			c.legs = append(c.legs, leg{hip, upper, lower, way, geom.V(side*l.footX, 0, l.footZ), crabSwing * float64((s+k)%2)})
		}
		arm := c.joint(name+" arm", body, geom.V(side*0.075, 0, 0.085))
		claw := c.joint(name+" claw", arm, geom.V(side*0.05, 0.01, 0.085))
		c.f.Joints[claw].Ends = []geom.Vec{{X: -side * 0.02, Z: 0.1}}
		eye := c.joint(name+" eye", body, geom.V(side*0.03, 0.045, 0.09))
		c.f.Joints[eye].Ends = []geom.Vec{{Y: 0.04, Z: 0.012}}
	}
	for k := range crabFrames + 1 {
		c.key(float64(k) / crabFrames)
	}
	c.f.Skin = c.skin()
	return c.f
}

type leg struct {
	hip, upper, lower int
	way               geom.Vec // in which it is made, level
	foot              geom.Vec // the middle of its footprint beside the shell
	ahead             float64  // rounds by which it is ahead
}

type crab struct {
	f    *figure.Figure
	legs []leg
}

func (c *crab) joint(name string, parent int, at geom.Vec) int {
	rest := geom.Still
	rest.P = at
	c.f.Joints = append(c.f.Joints, figure.Joint{Name: name, Parent: parent, Rest: rest, Order: "YXZ", Moves: parent < 0})
	return len(c.f.Joints) - 1
}

// key adds the joints at a share of the round.
func (c *crab) key(u float64) {
	n := len(c.f.Joints)
	turns, shifts := make([]geom.Quat, n), make([]geom.Vec, n)
	for i := range turns {
		turns[i], shifts[i] = geom.Identity, c.f.Joints[i].Rest.P
	}
	wave := func(times, ahead float64) float64 { return math.Sin(2 * math.Pi * (times*u + ahead)) }
	shifts[0] = geom.V(crabStride*u, crabHigh+0.006*wave(2, 0.1), 0.004*wave(1, 0))
	turns[0] = geom.Rotation(geom.V(0, 0, 1), 0.03*wave(1, 0.2)).Mul(geom.Rotation(geom.V(0, 1, 0), 0.03*wave(1, 0.4)))
	body := turns[0].At(shifts[0])
	for _, l := range c.legs {
		v := u + l.ahead
		v -= math.Floor(v)
		// Beside the shell's even way the foot goes from ahead to behind while it stands.
		ahead, lift := crabStride*(crabStands/2-v), 0.0
		if v > crabStands {
			s := (v - crabStands) / (1 - crabStands)
			ahead = crabStride * (-crabStands/2 + crabStands*(s-math.Sin(2*math.Pi*s)/(2*math.Pi)))
			lift = crabLift * (1 - math.Cos(2*math.Pi*s)) / 2
		}
		c.reach(&l, body, l.foot.Add(geom.V(crabStride*u+ahead, lift, 0)), turns)
	}
	for i, j := range c.f.Joints {
		switch {
		case len(j.Name) > 3 && j.Name[len(j.Name)-3:] == "arm":
			turns[i] = geom.Rotation(geom.V(1, 0, 0), -0.35+0.08*wave(1, float64(i)/20)).Mul(geom.Rotation(geom.V(0, 1, 0), 0.05*wave(1, 0.3)))
		case len(j.Name) > 4 && j.Name[len(j.Name)-4:] == "claw":
			turns[i] = geom.Rotation(geom.V(1, 0, 0), -0.2+0.1*wave(1, 0.15+float64(i)/20))
		case len(j.Name) > 3 && j.Name[len(j.Name)-3:] == "eye":
			turns[i] = geom.Rotation(geom.V(1, 0, 0), 0.06*wave(2, 0.3))
		}
	}
	c.f.Times, c.f.Turns, c.f.Shifts = append(c.f.Times, u), append(c.f.Turns, turns), append(c.f.Shifts, shifts)
}

// reach turns a leg so that its tip is at a place: the hip about up, then the two long bones in the
// upright plane through it, by the law of cosines, the knee above.
func (c *crab) reach(l *leg, body geom.Rigid, goal geom.Vec, turns []geom.Quat) {
	p := body.Inverse().Apply(goal).Sub(c.f.Joints[l.hip].Rest.P)
	up := geom.V(0, 1, 0)
	yaw := geom.AngleAbout(up, l.way, geom.V(p.X, 0, p.Z))
	turns[l.hip] = geom.Rotation(up, yaw)
	along, high := math.Hypot(p.X, p.Z)-crabHip, p.Y
	d := math.Hypot(along, high)
	at := math.Atan2(high, along)
	knee := math.Acos((crabUpper*crabUpper + d*d - crabLower*crabLower) / (2 * crabUpper * d))
	bend := math.Pi - math.Acos((crabUpper*crabUpper+crabLower*crabLower-d*d)/(2*crabUpper*crabLower))
	side := l.way.Cross(up) // about it way turns up
	turns[l.upper] = geom.Rotation(side, at+knee)
	turns[l.lower] = geom.Rotation(side, -bend)
}

// skin is the crab's shell, legs, claws and eyes; each vertex goes along with one joint, those near a
// knee with two.
func (c *crab) skin() *figure.Skin {
	s := &figure.Skin{Mesh: &geom.Mesh{}, Colour: [4]float32{0.55, 0.2, 0.12, 1}}
	rest := c.f.AtRest()
	for _, m := range rest {
		s.Binds = append(s.Binds, figure.Bound(m))
	}
	b := &blob{s}
	b.ball(rest[0].P, geom.V(0.115, 0.045, 0.1), 0)
	for _, l := range c.legs {
		hip, upper, lower := rest[l.hip].P, rest[l.upper].P, rest[l.lower].P
		tip := lower.Add(c.f.Joints[l.lower].Ends[0])
		b.limb(hip, upper, 0.018, 0.016, l.hip, l.upper)
		b.limb(upper, lower, 0.016, 0.012, l.upper, l.lower)
		b.limb(lower, tip, 0.012, 0.002, l.lower, l.lower)
	}
	for i, j := range c.f.Joints {
		if len(j.Ends) == 0 || i == c.legs[0].lower {
			continue
		}
		end := rest[i].Apply(j.Ends[0])
		switch j.Name {
		case "left claw", "right claw":
			b.limb(rest[j.Parent].P, rest[i].P, 0.018, 0.02, j.Parent, i)
			b.ball(rest[i].P.Lerp(end, 0.45), geom.V(0.024, 0.03, 0.055), i)
		case "left eye", "right eye":
			b.limb(rest[i].P, end, 0.006, 0.005, i, i)
			b.ball(end, geom.V(0.011, 0.011, 0.011), i)
		}
	}
	return s
}

// blob adds round things to a skin.
type blob struct{ *figure.Skin }

func (b *blob) put(p, n geom.Vec, joints [4]uint16, weights [4]float32) {
	b.Mesh.Positions = append(b.Mesh.Positions, float32(p.X), float32(p.Y), float32(p.Z))
	b.Mesh.Normals = append(b.Mesh.Normals, float32(n.X), float32(n.Y), float32(n.Z))
	b.Joints, b.Weights = append(b.Joints, joints), append(b.Weights, weights)
}

// grid joins rows of points, each of which comes round.
func (b *blob) grid(first, rows, round int) {
	for r := range rows - 1 {
		for k := range round {
			at := func(r, k int) uint32 { return uint32(first + r*round + k%round) }
			p, q, u, v := at(r, k), at(r, k+1), at(r+1, k), at(r+1, k+1)
			b.Mesh.Indices = append(b.Mesh.Indices, p, u, q, q, u, v)
		}
	}
}

// ball is an ellipsoid about a place.
func (b *blob) ball(mid, size geom.Vec, joint int) {
	const rows, round = 11, 18
	first := len(b.Weights)
	for r := range rows {
		sp, cp := math.Sincos(math.Pi * (float64(r)/(rows-1) - 0.5))
		for k := range round {
			s, c := math.Sincos(2 * math.Pi * float64(k) / round)
			way := geom.V(cp*c, sp, cp*s)
			b.put(mid.Add(geom.V(way.X*size.X, way.Y*size.Y, way.Z*size.Z)),
				geom.V(way.X/size.X, way.Y/size.Y, way.Z/size.Z).Unit(), [4]uint16{uint16(joint)}, [4]float32{1})
		}
	}
	b.grid(first, rows, round)
}

// limb is a bone with round ends from a to q; towards its end it goes along with the next joint.
func (b *blob) limb(a, q geom.Vec, thick, thin float64, joint, next int) {
	const rows, round = 7, 9
	first := len(b.Weights)
	way := q.Sub(a).Unit()
	u := geom.AnyPerpendicular(way)
	w := way.Cross(u)
	for r := range rows {
		// Two rows close each end.
		along := [rows]float64{0, 0, 0.12, 0.5, 0.88, 1, 1}[r]
		out := [rows]float64{-1, 0, 0, 0, 0, 0, 1}[r]
		radius := thick + (thin-thick)*along
		wide := radius
		if out != 0 {
			wide = radius * 0.2
		}
		at := a.Lerp(q, along).Mad(way, out*radius*0.8)
		share := float32(max(along-0.75, 0) * 2)
		if joint == next {
			share = 0
		}
		for k := range round {
			s, c := math.Sincos(2 * math.Pi * float64(k) / round)
			side := u.Mul(c).Mad(w, s)
			b.put(at.Mad(side, wide), side.Mad(way, out*2).Unit(), [4]uint16{uint16(joint), uint16(next)}, [4]float32{1 - share, share})
		}
	}
	b.grid(first, rows, round)
}
