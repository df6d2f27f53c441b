package gltf

import (
	"bead/core/geom"
	"bead/core/rig"
)

// centre is the middle of a model's box, in its own axes.
func centre(m *rig.Model) geom.Vec { return m.Bounds.Min.Add(m.Bounds.Max).Mul(0.5) }

// centred moves a thing's place to the centre of its model, which is scaled.
func centred(x *[rig.Stride]float32, m *rig.Model, scale float64) {
	q := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
	p := geom.V(float64(x[0]), float64(x[1]), float64(x[2])).Add(q.Apply(centre(m).Mul(scale)))
	x[0], x[1], x[2] = float32(p.X), float32(p.Y), float32(p.Z)
}

// addSingle adds a mesh of a thing's own, of its model moved to its centre. The numbers are
// kept once a model; meshes share them.
func (b *Baker) addSingle(t *rig.Thing) int {
	first, known := b.singles[t.Model]
	if !known {
		mesh := t.Model.Mesh()
		c := centre(t.Model)
		moved := geom.Mesh{Positions: append([]float32(nil), mesh.Positions...), Normals: mesh.Normals, Indices: mesh.Indices}
		for i := 0; i < len(moved.Positions); i += 3 {
			moved.Positions[i] -= float32(c.X)
			moved.Positions[i+1] -= float32(c.Y)
			moved.Positions[i+2] -= float32(c.Z)
		}
		b.singles[t.Model] = len(b.doc.Meshes)
		b.addMesh(t.Name, &moved)
		return b.singles[t.Model]
	}
	b.doc.Meshes = append(b.doc.Meshes, mesh{Name: t.Name, Primitives: b.doc.Meshes[first].Primitives})
	return len(b.doc.Meshes) - 1
}
