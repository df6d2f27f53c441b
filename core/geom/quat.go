package geom

import "math"

// Mul is the rotation that turns by o first and by q then.
func (q Quat) Mul(o Quat) Quat {
	return Quat{
		X: q.W*o.X + q.X*o.W + q.Y*o.Z - q.Z*o.Y,
		Y: q.W*o.Y + q.Y*o.W + q.Z*o.X - q.X*o.Z,
		Z: q.W*o.Z + q.Z*o.W + q.X*o.Y - q.Y*o.X,
		W: q.W*o.W - q.X*o.X - q.Y*o.Y - q.Z*o.Z,
	}
}

// Inverse undoes a rotation of length 1.
func (q Quat) Inverse() Quat { return Quat{-q.X, -q.Y, -q.Z, q.W} }

// Unit is the rotation of length 1; none of one that has no length.
func (q Quat) Unit() Quat {
	n := math.Sqrt(q.X*q.X + q.Y*q.Y + q.Z*q.Z + q.W*q.W)
	if !(n > 1e-12) {
		return Quat{W: 1}
	}
	return Quat{q.X / n, q.Y / n, q.Z / n, q.W / n}
}

// Slerp turns evenly from q to o, by the shorter way.
func (q Quat) Slerp(o Quat, u float64) Quat {
	cos := q.X*o.X + q.Y*o.Y + q.Z*o.Z + q.W*o.W
	if cos < 0 {
		o, cos = Quat{-o.X, -o.Y, -o.Z, -o.W}, -cos
	}
	a, b := 1-u, u
	if cos < 1-1e-12 {
		angle := math.Acos(cos)
		sin := math.Sin(angle)
		a, b = math.Sin((1-u)*angle)/sin, math.Sin(u*angle)/sin
	}
	return Quat{a*q.X + b*o.X, a*q.Y + b*o.Y, a*q.Z + b*o.Z, a*q.W + b*o.W}.Unit()
}

// Angle is by how much the rotation turns, radians, from 0 to pi.
func (q Quat) Angle() float64 {
	return 2 * math.Atan2(math.Sqrt(q.X*q.X+q.Y*q.Y+q.Z*q.Z), math.Abs(q.W))
}

// At is the rotation as a motion to a place.
func (q Quat) At(p Vec) Rigid {
	return Rigid{p, q.Apply(V(1, 0, 0)), q.Apply(V(0, 1, 0)), q.Apply(V(0, 0, 1))}
}

// Quat is the rotation of a motion.
func (m Rigid) Quat() Quat { return FromBasis(m.X, m.Y, m.Z) }

// Rotation turns about an axis of length 1.
func Rotation(axis Vec, angle float64) Quat {
	s, c := math.Sincos(angle / 2)
	return Quat{axis.X * s, axis.Y * s, axis.Z * s, c}
}
