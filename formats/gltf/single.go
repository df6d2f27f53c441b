package gltf

import (
	"bead/core/rig"
)

// addSingle adds a mesh of a thing's own, about its pivot or its centre. The numbers are kept once
// a model; meshes share them.
func (b *Baker) addSingle(t *rig.Thing) int {
	first, known := b.singles[t.Model]
	if !known {
		mesh := t.Model.Mesh()
		if b.Centred {
			mesh = t.Model.CentredMesh()
		}
		b.singles[t.Model] = b.addMesh(t.Name, t, mesh)
		return b.singles[t.Model]
	}
	return b.again(t.Name, first, t)
}
