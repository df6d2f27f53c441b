package geom_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/num/quat"
	"gonum.org/v1/gonum/spatial/r3"

	"bead/core/geom"
)

func randomUnit(r *rand.Rand) geom.Vec {
	return geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64()).Unit()
}

// Rotations are held against gonum's r3.Rotation, which shares no code.
func TestRotationsAgreeWithGonum(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for range 500 {
		axis, v := randomUnit(r), randomUnit(r).Mul(3)
		angle := (r.Float64() - 0.5) * 4 * math.Pi
		rot := r3.NewRotation(angle, r3.Vec(axis))
		want := geom.Vec(rot.Rotate(r3.Vec(v)))
		if got := geom.RotateAbout(v, axis, angle); got.Sub(want).Norm() > 1e-13 {
			t.Fatalf("RotateAbout(%v, %v, %v) = %v, want %v", v, axis, angle, got, want)
		}
		x := geom.Vec(rot.Rotate(r3.Vec{X: 1}))
		y := geom.Vec(rot.Rotate(r3.Vec{Y: 1}))
		z := geom.Vec(rot.Rotate(r3.Vec{Z: 1}))
		q := geom.FromBasis(x, y, z)
		if got := q.Apply(v); got.Sub(want).Norm() > 1e-13 {
			t.Fatalf("FromBasis rotates %v to %v, want %v", v, got, want)
		}
		g := quat.Number(rot)
		if d := math.Abs(g.Real*q.W + g.Imag*q.X + g.Jmag*q.Y + g.Kmag*q.Z); math.Abs(d-1) > 1e-13 {
			t.Fatalf("quaternion %v is not gonum's %v", q, g)
		}
		if q.W < 0 {
			t.Fatalf("W must not be negative: %v", q)
		}
	}
}

// Products are gonum's, a turn about an axis is that of the axis's own formula (Rodrigues, in RotateAbout),
// and turning evenly from one to another goes through the same share of the angle between, by the shorter
// way whatever their signs.
func TestQuaternionsTurnOn(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 9))
	any := func() geom.Quat {
		return geom.Quat{X: r.NormFloat64(), Y: r.NormFloat64(), Z: r.NormFloat64(), W: r.NormFloat64()}.Unit()
	}
	num := func(q geom.Quat) quat.Number { return quat.Number{Real: q.W, Imag: q.X, Jmag: q.Y, Kmag: q.Z} }
	for range 300 {
		p, q := any(), any()
		if d := quat.Abs(quat.Sub(quat.Mul(num(p), num(q)), num(p.Mul(q)))); d > 1e-14 {
			t.Fatalf("%v times %v is %g off gonum's", p, q, d)
		}
		axis, angle := geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64()).Unit(), 6*r.Float64()-3
		v := geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64())
		if d := geom.Rotation(axis, angle).Apply(v).Sub(geom.RotateAbout(v, axis, angle)).Norm(); d > 1e-13 {
			t.Fatalf("about %v by %g: %g off", axis, angle, d)
		}
		whole, u := p.Inverse().Mul(q).Angle(), r.Float64()
		m := p.Slerp(q, u)
		if a, b := p.Inverse().Mul(m).Angle(), m.Inverse().Mul(q).Angle(); math.Abs(a-u*whole) > 1e-6 || math.Abs(b-(1-u)*whole) > 1e-6 {
			t.Fatalf("at %g of %g it has turned by %g, and %g are left", u, whole, a, b)
		}
	}
}

// The half turns are where a matrix's trace is -1 and a careless method divides by zero.
func TestFromBasisHalfTurns(t *testing.T) {
	x, y, z := geom.V(1, 0, 0), geom.V(0, 1, 0), geom.V(0, 0, 1)
	for _, tc := range []struct {
		name    string
		a, b, c geom.Vec
		want    geom.Quat
	}{
		{"identity", x, y, z, geom.Identity},
		{"about x", x, y.Neg(), z.Neg(), geom.Quat{X: 1}},
		{"about y", x.Neg(), y, z.Neg(), geom.Quat{Y: 1}},
		{"about z", x.Neg(), y.Neg(), z, geom.Quat{Z: 1}},
	} {
		if got := geom.FromBasis(tc.a, tc.b, tc.c); got != tc.want {
			t.Errorf("%s: got %v, want %v", tc.name, got, tc.want)
		}
	}
}

func TestTurnToAndAngles(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	for range 300 {
		a, b := randomUnit(r), randomUnit(r)
		if got := geom.TurnTo(a, a, b); got.Sub(b).Norm() > 1e-13 {
			t.Fatalf("TurnTo does not carry %v to %v: %v", a, b, got)
		}
		v := randomUnit(r)
		if d := geom.TurnTo(v, a, b).Norm() - 1; math.Abs(d) > 1e-13 {
			t.Fatalf("TurnTo changes length by %g", d)
		}
		p := geom.AnyPerpendicular(a)
		if math.Abs(p.Dot(a)) > 1e-14 || math.Abs(p.Norm()-1) > 1e-14 {
			t.Fatalf("AnyPerpendicular(%v) = %v", a, p)
		}
		if got := geom.AngleAbout(a, p, geom.RotateAbout(p, a, 1.25)); math.Abs(got-1.25) > 1e-13 {
			t.Fatalf("AngleAbout = %v, want 1.25", got)
		}
	}
	up := geom.V(0, 1, 0)
	if got := geom.TurnTo(up, up, up.Neg()); got.Sub(up.Neg()).Norm() > 1e-14 {
		t.Errorf("opposite vectors: %v", got)
	}
	if got := geom.Angle(geom.V(1, 0, 0), geom.V(1, 1e-9, 0)); math.Abs(got-1e-9) > 1e-24 {
		t.Errorf("tiny angle: got %g, want 1e-9", got)
	}
	if got := (geom.Vec{}).Unit(); got != (geom.Vec{}) {
		t.Errorf("Unit of zero = %v", got)
	}
}
