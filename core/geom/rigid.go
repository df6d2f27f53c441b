package geom

import "math"

// Rigid is a place and a turn: the axes X, Y, Z of a space and its origin P, seen
// from the space around it. The zero value is not a Rigid; Still is the identity.
type Rigid struct{ P, X, Y, Z Vec }

// Still moves nothing.
var Still = Rigid{X: Vec{1, 0, 0}, Y: Vec{0, 1, 0}, Z: Vec{0, 0, 1}}

// Turned returns the turn about the origin by a heading to the left, a pitch nose up
// and a bank left side up, in radians: the bank first, the heading last.
func Turned(heading, pitch, bank float64) Rigid {
	sh, ch := math.Sincos(heading)
	sp, cp := math.Sincos(-pitch)
	sb, cb := math.Sincos(bank)
	return Rigid{
		X: Vec{ch*cb + sh*sp*sb, cp * sb, -sh*cb + ch*sp*sb},
		Y: Vec{-ch*sb + sh*sp*cb, cp * cb, sh*sb + ch*sp*cb},
		Z: Vec{sh * cp, -sp, ch * cp},
	}
}

// Turns returns heading, pitch and bank in radians of which Turned makes m's turn.
// Straight up or down the bank is 0.
func (m Rigid) Turns() (heading, pitch, bank float64) {
	cp := math.Hypot(m.X.Y, m.Y.Y)
	pitch = math.Atan2(m.Z.Y, cp)
	if cp < 1e-9 {
		// The heading and the bank are one turn: all of it is heading.
		return math.Atan2(-m.X.Z, m.X.X), pitch, 0
	}
	return math.Atan2(m.Z.X, m.Z.Z), pitch, math.Atan2(m.X.Y, m.Y.Y)
}

// Turn turns a direction.
func (m Rigid) Turn(v Vec) Vec { return m.X.Mul(v.X).Mad(m.Y, v.Y).Mad(m.Z, v.Z) }

// Apply moves a place.
func (m Rigid) Apply(p Vec) Vec { return m.P.Add(m.Turn(p)) }

// Mul returns the motion that does o first, then m.
func (m Rigid) Mul(o Rigid) Rigid {
	return Rigid{m.Apply(o.P), m.Turn(o.X), m.Turn(o.Y), m.Turn(o.Z)}
}

// Inverse undoes m.
func (m Rigid) Inverse() Rigid {
	r := Rigid{
		X: Vec{m.X.X, m.Y.X, m.Z.X},
		Y: Vec{m.X.Y, m.Y.Y, m.Z.Y},
		Z: Vec{m.X.Z, m.Y.Z, m.Z.Z},
	}
	r.P = r.Turn(m.P).Neg()
	return r
}

// Frame moves a frame.
func (m Rigid) Frame(f Frame) Frame { return Frame{m.Apply(f.P), m.Turn(f.T), m.Turn(f.U)} }

// Rigid returns the space whose forward is the frame's tangent and whose up is its up.
func (f Frame) Rigid() Rigid { return Rigid{f.P, f.Side(), f.U, f.T} }
