// Package part makes the pieces that rigs place: generated solids in their own
// axes, forward +Z and up +Y, metres, the origin at the seat.
package part

import (
	"fmt"
	"math"

	"bead/core/geom"
)

// Axis is one of a part's own six directions, such as "+z" or "-x".
type Axis string

// Vec returns the axis as a unit vector. The empty axis is an error; callers put
// in their default first.
func (a Axis) Vec() (geom.Vec, error) {
	switch a {
	case "+x":
		return geom.V(1, 0, 0), nil
	case "-x":
		return geom.V(-1, 0, 0), nil
	case "+y":
		return geom.V(0, 1, 0), nil
	case "-y":
		return geom.V(0, -1, 0), nil
	case "+z":
		return geom.V(0, 0, 1), nil
	case "-z":
		return geom.V(0, 0, -1), nil
	}
	return geom.Vec{}, fmt.Errorf("%q is not an axis: +x, -x, +y, -y, +z and -z are", string(a))
}

// Axes is how a part's own axes lie: which of them is forward, which is up, and
// the point of the part that sits on the path.
type Axes struct{ Forward, Up, Side, Pivot geom.Vec }

// In returns a part's own x, y and z when its forward and up are those of a frame.
func (a *Axes) In(f geom.Frame) (x, y, z geom.Vec) {
	side := f.Side()
	column := func(side0, up0, forward0 float64) geom.Vec {
		return side.Mul(side0).Mad(f.U, up0).Mad(f.T, forward0)
	}
	return column(a.Side.X, a.Up.X, a.Forward.X), column(a.Side.Y, a.Up.Y, a.Forward.Y), column(a.Side.Z, a.Up.Z, a.Forward.Z)
}

// NewAxes resolves two axes and a pivot. Error: an unknown axis, or up along
// forward.
func NewAxes(forward, up Axis, pivot geom.Vec) (Axes, error) {
	f, err := forward.Vec()
	if err != nil {
		return Axes{}, err
	}
	u, err := up.Vec()
	if err != nil {
		return Axes{}, err
	}
	if f.Dot(u) != 0 {
		return Axes{}, fmt.Errorf("up %s lies along forward %s: up needs one of the other four axes", up, forward)
	}
	return Axes{Forward: f, Up: u, Side: u.Cross(f), Pivot: pivot}, nil
}

// Extent returns the length of box b along the part's forward axis.
func (a Axes) Extent(b geom.Box) float64 { return math.Abs(b.Size().Dot(a.Forward)) }

// builder gathers flat-shaded faces.
type builder struct{ m geom.Mesh }

func (b *builder) vertex(p, n geom.Vec) uint32 {
	i := uint32(len(b.m.Positions) / 3)
	b.m.Positions = append(b.m.Positions, float32(p.X), float32(p.Y), float32(p.Z))
	b.m.Normals = append(b.m.Normals, float32(n.X), float32(n.Y), float32(n.Z))
	return i
}

// face adds a flat convex polygon, counter-clockwise seen from outside.
func (b *builder) face(pts ...geom.Vec) {
	// Newell's normal does not mind a repeated corner.
	var n geom.Vec
	for i, p := range pts {
		n = n.Add(p.Cross(pts[(i+1)%len(pts)]))
	}
	n = n.Unit()
	first := b.vertex(pts[0], n)
	for _, p := range pts[1:] {
		b.vertex(p, n)
	}
	for i := uint32(2); i < uint32(len(pts)); i++ {
		b.m.Indices = append(b.m.Indices, first, first+i-1, first+i)
	}
}

// prism extrudes a convex profile, given in (z, y) and clockwise seen from -x,
// from x0 to x1.
func (b *builder) prism(profile [][2]float64, x0, x1 float64) {
	n := len(profile)
	at := func(i int, x float64) geom.Vec {
		p := profile[i%n]
		return geom.V(x, p[1], p[0])
	}
	left, right := make([]geom.Vec, n), make([]geom.Vec, n)
	for i := range profile {
		left[n-1-i], right[i] = at(i, x0), at(i, x1)
		b.face(at(i+1, x0), at(i+1, x1), at(i, x1), at(i, x0))
	}
	b.face(left...)
	b.face(right...)
}

// wedge is a box narrowing from its base rectangle (at y0) to its top (at y1),
// given by half sizes in x and z.
func (b *builder) wedge(x, z, y0, hx0, hz0, y1, hx1, hz1 float64) {
	c := func(sx, sz, y, hx, hz float64) geom.Vec { return geom.V(x+sx*hx, y, z+sz*hz) }
	lo := [4]geom.Vec{c(-1, -1, y0, hx0, hz0), c(1, -1, y0, hx0, hz0), c(1, 1, y0, hx0, hz0), c(-1, 1, y0, hx0, hz0)}
	hi := [4]geom.Vec{c(-1, -1, y1, hx1, hz1), c(1, -1, y1, hx1, hz1), c(1, 1, y1, hx1, hz1), c(-1, 1, y1, hx1, hz1)}
	if y1 < y0 {
		lo, hi = hi, lo
	}
	b.face(lo[0], lo[1], lo[2], lo[3])
	b.face(hi[3], hi[2], hi[1], hi[0])
	for i := range 4 {
		j := (i + 1) % 4
		b.face(lo[i], hi[i], hi[j], lo[j])
	}
}

// lathe turns an outline of (z, radius) points round the z axis. Each point has
// its own normal in (z, radius), so that the caller says where it is smooth.
type lathePoint struct{ z, r, nz, nr float64 }

func (b *builder) lathe(outline []lathePoint, sides int) {
	for i := 1; i < len(outline); i++ {
		p, q := outline[i-1], outline[i]
		if p.z == q.z && p.r == q.r {
			continue // a change of normal at one place: an edge
		}
		base := uint32(len(b.m.Positions) / 3)
		for k := range sides + 1 {
			sin, cos := math.Sincos(2 * math.Pi * float64(k%sides) / float64(sides))
			for _, o := range [...]lathePoint{p, q} {
				b.vertex(geom.V(cos*o.r, sin*o.r, o.z), geom.V(cos*o.nr, sin*o.nr, o.nz).Unit())
			}
		}
		for k := range uint32(sides) {
			a := base + 2*k
			if p.r > 0 {
				b.m.Indices = append(b.m.Indices, a, a+2, a+1)
			}
			if q.r > 0 {
				b.m.Indices = append(b.m.Indices, a+1, a+2, a+3)
			}
		}
	}
}
