package rig

import (
	"crypto/sha256"
	"encoding/binary"
	"math"

	"bead/core/geom"
)

// Mould is a surface that a kind makes itself, vertex by vertex in every frame: no part of the
// document that is bent along the path.
type Mould struct {
	Name string
	// Mesh has its triangles and textures; its places are those of the first frame.
	Mesh *geom.Mesh
	Hash [32]byte // of the triangles and textures
}

// newMould takes the triangles and textures of a surface with so many vertices.
func newMould(name string, vertices int, uvs []float32, indices []uint32) Mould {
	h := sha256.New()
	var word [4]byte
	put := func(v uint32) {
		binary.LittleEndian.PutUint32(word[:], v)
		h.Write(word[:])
	}
	put(uint32(vertices))
	// By its bits: two moulds with equal numbers are one mesh to receivers.
	for _, v := range uvs {
		put(math.Float32bits(v))
	}
	for _, v := range indices {
		put(v)
	}
	m := Mould{Name: name, Mesh: &geom.Mesh{Positions: make([]float32, 3*vertices), Normals: make([]float32, 3*vertices), UVs: uvs, Indices: indices}}
	h.Sum(m.Hash[:0])
	return m
}

// vertices is how many a mould has.
func (m *Mould) vertices() int { return len(m.Mesh.Positions) / 3 }

// Moulds are the surfaces that the rig's kind makes itself, one behind the other in Pieces.Positions.
func (t *Rig) Moulds() []Mould { return t.moulds }

// surfaces is how many surfaces a rig has that take another form in every frame.
func (t *Rig) surfaces() int {
	switch {
	case len(t.moulds) > 0:
		return len(t.moulds)
	case t.Bends():
		return t.Layout.Count
	}
	return 0
}

// SurfaceVertices is how many vertices surface k has.
func (t *Rig) SurfaceVertices(k int) int {
	if len(t.moulds) > 0 {
		return t.moulds[k].vertices()
	}
	return t.Body(k).Vertices()
}

// moulder writes vertices one after another.
type moulder struct{ positions, normals []float32 }

func (w *moulder) add(p, n geom.Vec) {
	w.positions = append(w.positions, float32(p.X), float32(p.Y), float32(p.Z))
	w.normals = append(w.normals, float32(n.X), float32(n.Y), float32(n.Z))
}
