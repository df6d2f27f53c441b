package sim

import (
	"math"
	"slices"

	"bead/core/geom"
)

// LookAround finds the points that could touch while none goes farther than reach, metres. Points
// touch at apart, but for those that are as near at rest; 0 lets them through one another.
func (c *Cloth) LookAround(apart, reach float64, rest []geom.Vec) {
	c.apart, c.near = apart, c.near[:0]
	if apart <= 0 {
		return
	}
	far := apart + 2*reach
	c.cells.put(c.X, far)
	for i := range c.X {
		here := c.cells.of[i]
		for dx := int32(-1); dx <= 1; dx++ {
			for dy := int32(-1); dy <= 1; dy++ {
				for dz := int32(-1); dz <= 1; dz++ {
					there := cell{here[0] + dx, here[1] + dy, here[2] + dz}
					for _, k := range c.cells.row(there) {
						if int(k) >= i {
							break // from the other one's side
						}
						if c.cells.of[k] == there && c.inverse[i]+c.inverse[k] > 0 &&
							c.X[i].Sub(c.X[k]).Norm2() < far*far && rest[i].Sub(rest[k]).Norm() > 1.5*apart {
							c.near = append(c.near, [2]int32{k, int32(i)})
						}
					}
				}
			}
		}
	}
}

// cells are points sorted by the cubes of space that they lie in. Cubes share rows of the table: who reads a
// row asks of each point whether it is of the cube.
type cells struct {
	of     []cell
	start  []int32 // of each row in sorted, and the end
	sorted []int32 // each row in the points' order
}

type cell [3]int32

// put sorts points by cubes of a size, metres.
func (c *cells) put(at []geom.Vec, size float64) {
	rows := 1
	for rows < 2*len(at) {
		rows *= 2
	}
	c.of, c.sorted = slices.Grow(c.of[:0], len(at))[:len(at)], slices.Grow(c.sorted[:0], len(at))[:len(at)]
	c.start = slices.Grow(c.start[:0], rows+1)[:rows+1]
	clear(c.start)
	for i, p := range at {
		c.of[i] = cell{int32(math.Floor(p.X / size)), int32(math.Floor(p.Y / size)), int32(math.Floor(p.Z / size))}
		c.start[c.index(c.of[i])]++
	}
	end := int32(0)
	for k, n := range c.start {
		end += n
		c.start[k] = end
	}
	for i := len(at) - 1; i >= 0; i-- { // from each row's end to its start
		k := c.index(c.of[i])
		c.start[k]--
		c.sorted[c.start[k]] = int32(i)
	}
}

// index is the row of a cell, after Teschner et al., "Optimized spatial hashing for collision detection", 2003.
func (c *cells) index(at cell) int {
	h := uint32(at[0])*73856093 ^ uint32(at[1])*19349663 ^ uint32(at[2])*83492791
	return int(h) & (len(c.start) - 2)
}

// row are the points of the row that a cell is in.
func (c *cells) row(at cell) []int32 {
	k := c.index(at)
	return c.sorted[c.start[k]:c.start[k+1]]
}

// part keeps points of the cloth from coming too near to one another.
func (c *Cloth) part() {
	for _, p := range c.near {
		d := c.X[p[1]].Sub(c.X[p[0]])
		far := d.Norm()
		if far >= c.apart || far < 1e-12 {
			continue
		}
		wa, wb := c.inverse[p[0]], c.inverse[p[1]]
		m := (c.apart - far) / (far * (wa + wb))
		c.X[p[0]], c.X[p[1]] = c.X[p[0]].Mad(d, -m*wa), c.X[p[1]].Mad(d, m*wb)
	}
}

// Crossings counts the edges of the cloth that pass through its faces when its points are at some
// places, and says where the first is.
func (c *Cloth) Crossings(at []geom.Vec) (n int, where geom.Vec) {
	cell := 0.0
	for i := range c.springs {
		cell = max(cell, c.springs[i].rest)
	}
	if cell *= 1.5; cell == 0 {
		return 0, where
	}
	index := func(v float64) int32 { return int32(math.Floor(v / cell)) }
	faces := map[[3]int32][]int32{}
	for k, t := range c.triangles {
		mid := at[t[0]].Add(at[t[1]]).Add(at[t[2]]).Mul(1. / 3)
		key := [3]int32{index(mid.X), index(mid.Y), index(mid.Z)}
		faces[key] = append(faces[key], int32(k))
	}
	for i := range c.springs {
		s := &c.springs[i]
		mid := at[s.a].Lerp(at[s.b], 0.5)
		x, y, z := index(mid.X), index(mid.Y), index(mid.Z)
	search:
		for k := range int32(27) {
			for _, f := range faces[[3]int32{x + k%3 - 1, y + k/3%3 - 1, z + k/9 - 1}] {
				t := c.triangles[f]
				if t[0] == s.a || t[1] == s.a || t[2] == s.a || t[0] == s.b || t[1] == s.b || t[2] == s.b {
					continue
				}
				if pierces(at[s.a], at[s.b], at[t[0]], at[t[1]], at[t[2]]) {
					if n == 0 {
						where = mid
					}
					n++
					break search
				}
			}
		}
	}
	return n, where
}

// pierces reports whether the straight from p to q goes through a triangle (Moeller and Trumbore,
// 1997).
func pierces(p, q, a, b, c geom.Vec) bool {
	d, e1, e2 := q.Sub(p), b.Sub(a), c.Sub(a)
	h := d.Cross(e2)
	det := e1.Dot(h)
	if math.Abs(det) < 1e-18 {
		return false
	}
	s := p.Sub(a)
	u := s.Dot(h) / det
	if u < 0 || u > 1 {
		return false
	}
	k := s.Cross(e1)
	v := d.Dot(k) / det
	if v < 0 || u+v > 1 {
		return false
	}
	t := e2.Dot(k) / det
	return t >= 0 && t <= 1
}
