package gltf

import (
	"bead/core/geom"
)

// centre is the middle of a part's box, in its own axes.
func (b *Baker) centre(p int) geom.Vec {
	box := b.scene.Parts[p].Bounds
	return box.Min.Add(box.Max).Mul(0.5)
}

// centred is a piece's transform with the origin at the part's centre.
func (b *Baker) centred(i, k int, x []float32) []float32 {
	q := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
	c := b.centre(b.scene.Trains[i].PartOf(k)).Mul(float64(b.scene.Trains[i].Rig().Scale))
	p := geom.V(float64(x[0]), float64(x[1]), float64(x[2])).Add(q.Apply(c))
	return append([]float32{float32(p.X), float32(p.Y), float32(p.Z)}, x[3:]...)
}

// addSingle adds a mesh of a piece's own, of a part moved to its centre. The numbers are
// kept once a part; meshes share them.
func (b *Baker) addSingle(name string, p int) int {
	first, known := b.singles[p]
	if !known {
		part := b.scene.Parts[p].Mesh
		c := b.centre(p)
		moved := geom.Mesh{Positions: append([]float32(nil), part.Positions...), Normals: part.Normals, Indices: part.Indices}
		for i := 0; i < len(moved.Positions); i += 3 {
			moved.Positions[i] -= float32(c.X)
			moved.Positions[i+1] -= float32(c.Y)
			moved.Positions[i+2] -= float32(c.Z)
		}
		if b.singles == nil {
			b.singles = map[int]int{}
		}
		b.singles[p] = len(b.doc.Meshes)
		b.addMesh(name, &moved)
		return b.singles[p]
	}
	b.doc.Meshes = append(b.doc.Meshes, mesh{Name: name, Primitives: b.doc.Meshes[first].Primitives})
	return len(b.doc.Meshes) - 1
}

// addWheels adds the wheels of belts, one node each.
func (b *Baker) addWheels() {
	made := map[[32]byte]int{}
	for i := range b.wheels {
		if len(b.wheels[i]) == 0 {
			continue
		}
		root := len(b.doc.Nodes)
		b.doc.Nodes = append(b.doc.Nodes, node{Name: b.scene.Doc.Paths[i].Name + " wheels"})
		b.doc.Scenes[0].Nodes = append(b.doc.Scenes[0].Nodes, root)
		for k := range b.wheels[i] {
			name := b.scene.Doc.Paths[i].Shape.Wrap.Wheels[k].Name
			key, make1 := b.scene.WheelMesh(i, k)
			m, known := made[key]
			if !known {
				m = len(b.doc.Meshes)
				made[key] = m
				b.addMesh(name, make1())
			}
			b.doc.Nodes[root].Children = append(b.doc.Nodes[root].Children, len(b.doc.Nodes))
			b.add(name+" of "+b.scene.Doc.Paths[i].Name, &m, &b.wheels[i][k], "LINEAR")
		}
	}
}
