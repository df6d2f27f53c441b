package surface

import (
	"math"
	"sort"

	"bead/core/geom"
)

// tree is a hierarchy of boxes over the triangles of a mesh.
type tree struct {
	tri   [][3]int32
	nodes []node
}

// node holds tri[from:to]; inner nodes have their children at left and left+1.
type node struct {
	box      geom.Box
	from, to int32
	left     int32
}

const leafSize = 6

func (t *tree) build(m *Mesh) {
	for _, f := range m.faces {
		for k := 1; k+1 < len(f); k++ {
			t.tri = append(t.tri, [3]int32{f[0], f[k], f[k+1]})
		}
	}
	t.nodes = append(t.nodes, node{from: 0, to: int32(len(t.tri))})
	for i := 0; i < len(t.nodes); i++ {
		n := t.nodes[i]
		n.box = geom.EmptyBox()
		for _, tri := range t.tri[n.from:n.to] {
			for _, v := range tri {
				n.box = n.box.Extend(m.Points[v])
			}
		}
		if n.to-n.from > leafSize {
			size := n.box.Size().Array()
			axis := 0
			for a := range size {
				if size[a] > size[axis] {
					axis = a
				}
			}
			part := t.tri[n.from:n.to]
			key := func(tri [3]int32) float64 {
				return m.Points[tri[0]].Array()[axis] + m.Points[tri[1]].Array()[axis] + m.Points[tri[2]].Array()[axis]
			}
			sort.Slice(part, func(a, b int) bool { return key(part[a]) < key(part[b]) })
			mid := (n.from + n.to) / 2
			n.left = int32(len(t.nodes))
			t.nodes = append(t.nodes, node{from: n.from, to: mid}, node{from: mid, to: n.to})
		}
		t.nodes[i] = n
	}
}

func boxDistance2(b geom.Box, p geom.Vec) float64 {
	d := geom.V(
		max(b.Min.X-p.X, 0, p.X-b.Max.X),
		max(b.Min.Y-p.Y, 0, p.Y-b.Max.Y),
		max(b.Min.Z-p.Z, 0, p.Z-b.Max.Z))
	return d.Norm2()
}

// Nearest returns the place on the mesh nearest to p and the outward normal there, interpolated over the faces
// so that it has no steps.
func (m *Mesh) Nearest(p geom.Vec) (q, normal geom.Vec) {
	best := math.Inf(1)
	var at [3]int32
	var weight [3]float64
	stack := make([]int32, 1, 64)
	for len(stack) > 0 {
		n := &m.tree.nodes[stack[len(stack)-1]]
		stack = stack[:len(stack)-1]
		if boxDistance2(n.box, p) >= best {
			continue
		}
		if n.left > 0 {
			a, b := n.left, n.left+1
			if boxDistance2(m.tree.nodes[a].box, p) < boxDistance2(m.tree.nodes[b].box, p) {
				a, b = b, a
			}
			stack = append(stack, a, b) // the nearer one is looked at first
			continue
		}
		for _, t := range m.tree.tri[n.from:n.to] {
			r, w := nearestOnTriangle(p, m.Points[t[0]], m.Points[t[1]], m.Points[t[2]])
			if d := r.Sub(p).Norm2(); d < best {
				best, q, at, weight = d, r, t, w
			}
		}
	}
	for k, v := range at {
		normal = normal.Mad(m.normals[v], weight[k])
	}
	return q, normal.Unit()
}

// nearestOnTriangle returns the nearest point and its weights (Ericson, "Real-Time
// Collision Detection", 5.1.5).
func nearestOnTriangle(p, a, b, c geom.Vec) (geom.Vec, [3]float64) {
	ab, ac, ap := b.Sub(a), c.Sub(a), p.Sub(a)
	d1, d2 := ab.Dot(ap), ac.Dot(ap)
	if d1 <= 0 && d2 <= 0 {
		return a, [3]float64{1, 0, 0}
	}
	bp := p.Sub(b)
	d3, d4 := ab.Dot(bp), ac.Dot(bp)
	if d3 >= 0 && d4 <= d3 {
		return b, [3]float64{0, 1, 0}
	}
	vc := d1*d4 - d3*d2
	if vc <= 0 && d1 >= 0 && d3 <= 0 {
		t := d1 / (d1 - d3)
		return a.Mad(ab, t), [3]float64{1 - t, t, 0}
	}
	cp := p.Sub(c)
	d5, d6 := ab.Dot(cp), ac.Dot(cp)
	if d6 >= 0 && d5 <= d6 {
		return c, [3]float64{0, 0, 1}
	}
	vb := d5*d2 - d1*d6
	if vb <= 0 && d2 >= 0 && d6 <= 0 {
		t := d2 / (d2 - d6)
		return a.Mad(ac, t), [3]float64{1 - t, 0, t}
	}
	va := d3*d6 - d5*d4
	if va <= 0 && d4-d3 >= 0 && d5-d6 >= 0 {
		t := (d4 - d3) / ((d4 - d3) + (d5 - d6))
		return b.Lerp(c, t), [3]float64{0, 1 - t, t}
	}
	k := va + vb + vc
	if k == 0 {
		return a, [3]float64{1, 0, 0}
	}
	v, w := vb/k, vc/k
	return a.Mad(ab, v).Mad(ac, w), [3]float64{1 - v - w, v, w}
}
