// Package geom holds the small values everything else is made of: vectors,
// rotations, moving frames, boxes and triangle meshes.
//
// Conventions are those of glTF 2.0: right-handed, Y up, forward +Z, lengths in
// metres, angles in radians. The zero value of each type is usable unless its
// comment says otherwise.
package geom

import "math"

// Vec is a point or direction in metres.
type Vec struct{ X, Y, Z float64 }

// V is shorthand for a Vec.
func V(x, y, z float64) Vec { return Vec{x, y, z} }

// Add returns v + o.
func (v Vec) Add(o Vec) Vec { return Vec{v.X + o.X, v.Y + o.Y, v.Z + o.Z} }

// Sub returns v - o.
func (v Vec) Sub(o Vec) Vec { return Vec{v.X - o.X, v.Y - o.Y, v.Z - o.Z} }

// Mul returns v scaled by k.
func (v Vec) Mul(k float64) Vec { return Vec{v.X * k, v.Y * k, v.Z * k} }

// Neg returns -v.
func (v Vec) Neg() Vec { return Vec{-v.X, -v.Y, -v.Z} }

// Mad returns v + o*k.
func (v Vec) Mad(o Vec, k float64) Vec { return Vec{v.X + o.X*k, v.Y + o.Y*k, v.Z + o.Z*k} }

// Dot returns the scalar product.
func (v Vec) Dot(o Vec) float64 { return v.X*o.X + v.Y*o.Y + v.Z*o.Z }

// Cross returns the vector product v x o.
func (v Vec) Cross(o Vec) Vec {
	return Vec{v.Y*o.Z - v.Z*o.Y, v.Z*o.X - v.X*o.Z, v.X*o.Y - v.Y*o.X}
}

// Norm2 returns the square of the length.
func (v Vec) Norm2() float64 { return v.Dot(v) }

// Norm returns the length.
func (v Vec) Norm() float64 { return math.Sqrt(v.Dot(v)) }

// Unit returns v over its length. The zero vector stays zero, so callers can
// test for it instead of meeting NaN.
func (v Vec) Unit() Vec {
	n := v.Norm()
	if n == 0 {
		return Vec{}
	}
	return v.Mul(1 / n)
}

// Lerp returns the point a share k of the way from v to o.
func (v Vec) Lerp(o Vec, k float64) Vec { return v.Mad(o.Sub(v), k) }

// IsFinite reports whether no component is NaN or infinite.
func (v Vec) IsFinite() bool {
	s := v.X + v.Y + v.Z
	return !math.IsNaN(s) && !math.IsInf(s, 0)
}

// Array returns the components in order, as documents and files hold them.
func (v Vec) Array() [3]float64 { return [3]float64{v.X, v.Y, v.Z} }

// FromArray is the inverse of Array.
func FromArray(a [3]float64) Vec { return Vec{a[0], a[1], a[2]} }

// Angle returns the angle between a and b in 0..pi. It uses atan2, which stays
// exact for tiny angles where acos of the cosine returns 0.
func Angle(a, b Vec) float64 { return math.Atan2(a.Cross(b).Norm(), a.Dot(b)) }

// AngleAbout returns the signed angle that turns a to b about the unit axis,
// in -pi..pi. Both are taken as perpendicular to the axis.
func AngleAbout(axis, a, b Vec) float64 {
	return math.Atan2(axis.Dot(a.Cross(b)), a.Dot(b))
}

// RotateAbout turns v about the unit axis by angle (Rodrigues' formula).
func RotateAbout(v, axis Vec, angle float64) Vec {
	s, c := math.Sincos(angle)
	return v.Mul(c).Add(axis.Cross(v).Mul(s)).Add(axis.Mul(axis.Dot(v) * (1 - c)))
}

// AnyPerpendicular returns a unit vector at right angles to the unit vector t.
// It is continuous except near the two directions where it changes its helper
// axis, and the same for the same input.
func AnyPerpendicular(t Vec) Vec {
	h := Vec{0, 1, 0}
	if math.Abs(t.Y) > 0.9 {
		h = Vec{1, 0, 0}
	}
	return h.Sub(t.Mul(h.Dot(t))).Unit()
}

// TurnTo carries v along with the least rotation that turns unit vector a to
// unit vector b. Opposite vectors have no least rotation; v is then turned half
// a turn about any axis at right angles to a.
func TurnTo(v, a, b Vec) Vec {
	axis := a.Cross(b)
	s, c := axis.Norm(), a.Dot(b)
	if s < 1e-15 {
		if c > 0 {
			return v
		}
		return RotateAbout(v, AnyPerpendicular(a), math.Pi)
	}
	return RotateAbout(v, axis.Mul(1/s), math.Atan2(s, c))
}

// Frame is a moving frame at a place: position P, unit forward T and unit up U
// at right angles to it.
type Frame struct{ P, T, U Vec }

// Side returns U x T, so that (Side, U, T) is right-handed like (x, y, z).
func (f Frame) Side() Vec { return f.U.Cross(f.T) }

// Quat is a unit quaternion. Its zero value is not a rotation; use Identity.
type Quat struct{ X, Y, Z, W float64 }

// Identity is the rotation that changes nothing.
var Identity = Quat{0, 0, 0, 1}

// FromBasis returns the rotation whose matrix has the orthonormal right-handed
// columns x, y, z. W is never negative, so equal rotations give equal bits.
// Method: Shepperd, "Quaternion from rotation matrix", J. Guidance and
// Control 1(3), 1978: divide by the largest of the four components.
func FromBasis(x, y, z Vec) Quat {
	var q Quat
	switch tr := x.X + y.Y + z.Z; {
	case tr > 0:
		r := math.Sqrt(1 + tr)
		k := 0.5 / r
		q = Quat{(y.Z - z.Y) * k, (z.X - x.Z) * k, (x.Y - y.X) * k, r / 2}
	case x.X >= y.Y && x.X >= z.Z:
		r := math.Sqrt(1 + x.X - y.Y - z.Z)
		k := 0.5 / r
		q = Quat{r / 2, (y.X + x.Y) * k, (z.X + x.Z) * k, (y.Z - z.Y) * k}
	case y.Y >= z.Z:
		r := math.Sqrt(1 + y.Y - x.X - z.Z)
		k := 0.5 / r
		q = Quat{(y.X + x.Y) * k, r / 2, (z.Y + y.Z) * k, (z.X - x.Z) * k}
	default:
		r := math.Sqrt(1 + z.Z - x.X - y.Y)
		k := 0.5 / r
		q = Quat{(z.X + x.Z) * k, (z.Y + y.Z) * k, r / 2, (x.Y - y.X) * k}
	}
	if q.W < 0 {
		return Quat{-q.X, -q.Y, -q.Z, -q.W}
	}
	return q
}

// Apply rotates v by q.
func (q Quat) Apply(v Vec) Vec {
	u := Vec{q.X, q.Y, q.Z}
	t := u.Cross(v).Mul(2)
	return v.Add(t.Mul(q.W)).Add(u.Cross(t))
}

// Box is an axis-aligned box. Its zero value is the point at the origin; start
// from EmptyBox to gather points.
type Box struct{ Min, Max Vec }

// EmptyBox contains nothing and grows with Extend.
func EmptyBox() Box {
	i := math.Inf(1)
	return Box{Vec{i, i, i}, Vec{-i, -i, -i}}
}

// Extend returns the least box that holds b and p.
func (b Box) Extend(p Vec) Box {
	return Box{
		Vec{min(b.Min.X, p.X), min(b.Min.Y, p.Y), min(b.Min.Z, p.Z)},
		Vec{max(b.Max.X, p.X), max(b.Max.Y, p.Y), max(b.Max.Z, p.Z)},
	}
}

// Corner is one of the eight, by its number from 0: bit 0 is set at the far end along x, bit 1 along y, bit 2 along z.
func (b Box) Corner(i int) Vec {
	c := b.Min
	if i&1 != 0 {
		c.X = b.Max.X
	}
	if i&2 != 0 {
		c.Y = b.Max.Y
	}
	if i&4 != 0 {
		c.Z = b.Max.Z
	}
	return c
}

// Size returns the extents; negative where the box is empty.
func (b Box) Size() Vec { return b.Max.Sub(b.Min) }

// Mesh is an indexed triangle mesh in flat arrays, three floats a vertex,
// three indices a triangle, counter-clockwise seen from outside.
type Mesh struct {
	Positions []float32
	Normals   []float32
	Indices   []uint32
	// Texture coordinates in metres, two a vertex, across and along; empty of meshes
	// without.
	UVs []float32
	// Tiles tells of texture coordinates that are shares of an image instead, as a file has them.
	Tiles bool
	// Spine holds, of meshes of which something keeps its form when they bend (a wire's section,
	// an eye), the z at which each vertex is fastened, one a vertex; NaN for those that bend
	// where they are. Empty: all do.
	Spine []float32
	// Blends are other shapes of the same vertices.
	Blends []Blend
	// Groups tell the surfaces of a mesh apart that are of other materials: runs of Indices that
	// cover them one behind the other. Empty: all is one.
	Groups []Group
}

// Group is a run of a mesh's indices.
type Group struct {
	Name         string
	First, Count int
}

// Blend is a second shape of a mesh: what has to be added to its positions and normals.
type Blend struct {
	Name               string
	Positions, Normals []float32
}

// Bounds returns the box of all vertices.
func (m *Mesh) Bounds() Box {
	b := EmptyBox()
	for i := 0; i+2 < len(m.Positions); i += 3 {
		b = b.Extend(Vec{float64(m.Positions[i]), float64(m.Positions[i+1]), float64(m.Positions[i+2])})
	}
	return b
}
