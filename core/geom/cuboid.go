package geom

import "math"

// Cuboid is a box that may stand turned: its middle and the three ways from there to its faces,
// square to one another.
type Cuboid struct {
	Mid  Vec
	Half [3]Vec
}

// CuboidOf is a box in a turned place, its sides times scale.
func CuboidOf(b Box, at Rigid, scale float64) Cuboid {
	mid, half := b.Min.Add(b.Max).Mul(scale/2), b.Max.Sub(b.Min).Mul(scale/2)
	return Cuboid{at.Apply(mid), [3]Vec{at.X.Mul(half.X), at.Y.Mul(half.Y), at.Z.Mul(half.Z)}}
}

// Apart is the greatest gap between two boxes along a face's normal or square to two edges; 0 or
// less where they touch or overlap. (Separating axes: S. Gottschalk, M. Lin, D. Manocha, "OBBTree",
// SIGGRAPH 1996.)
func (c *Cuboid) Apart(o *Cuboid) float64 {
	between := o.Mid.Sub(c.Mid)
	most := math.Inf(-1)
	look := func(axis Vec) {
		n := axis.Norm()
		if n < 1e-12 {
			return
		}
		axis = axis.Mul(1 / n)
		gap := math.Abs(between.Dot(axis))
		for k := range 3 {
			gap -= math.Abs(c.Half[k].Dot(axis)) + math.Abs(o.Half[k].Dot(axis))
		}
		most = max(most, gap)
	}
	for k := range 3 {
		look(c.Half[k])
		look(o.Half[k])
		for j := range 3 {
			a, b := c.Half[k], o.Half[j]
			if x := a.Cross(b); x.Norm() > 1e-9*a.Norm()*b.Norm() {
				look(x)
			}
		}
	}
	return most
}

// Span is how far the box reaches along a way of length 1.
func (c *Cuboid) Span(way Vec) (lo, hi float64) {
	mid, half := c.Mid.Dot(way), 0.0
	for k := range 3 {
		half += math.Abs(c.Half[k].Dot(way))
	}
	return mid - half, mid + half
}
