package gltf

import (
	"bead/core/rig"
)

// Carriers are nodes without a mesh. What hangs from one is a child of its node and placed relative to it, so
// that others can attach more to it.

// under is the carrier that something is delivered below.
func (b *Baker) under(carrier int) int {
	if b.Flat {
		return rig.World
	}
	return carrier
}

// hang makes a node a child of a carrier's, or one of the scene's own.
func (b *Baker) hang(node, carrier int) {
	if carrier == rig.World {
		b.doc.Scenes[0].Nodes = append(b.doc.Scenes[0].Nodes, node)
		return
	}
	n := &b.doc.Nodes[b.bearing[carrier]]
	n.Children = append(n.Children, node)
}

func (b *Baker) carrierFrame(p *rig.Picture) {
	for i := range b.bearers {
		at := p.Under(b.under(b.parents[i]), p.Carriers[i])
		b.bearers[i].add(at[:])
	}
}

// addCarriers adds a node for each carrier, parents or children first as they come.
func (b *Baker) addCarriers() {
	first := len(b.doc.Nodes)
	for i := range b.bearers {
		d := &b.scene.Doc.Carriers[i]
		b.bearing = append(b.bearing, first+i)
		b.add(d.Name, nil, &b.bearers[i], "LINEAR")
		b.doc.Nodes[first+i].Extras = map[string]any{"carrier": d.ID}
	}
	for i := range b.bearers {
		b.hang(first+i, b.under(b.parents[i]))
	}
}

// facts are what a group's node says about it.
func (b *Baker) facts(g *rig.Group) map[string]any {
	f, is := g.Facts()
	if !is {
		return nil
	}
	out := map[string]any{"kind": f.Kind, "rig": f.Rig, "path": f.Path}
	if f.Pinned {
		behind, ahead, axis := g.Pins(0, b.ownMesh(g) && b.Centred)
		out["pins"], out["hingeAxis"] = [2][3]float64{behind.Array(), ahead.Array()}, axis.Array()
	}
	return out
}

// instances adds the things of a group that stand still as instances of their meshes; false where
// one moves.
func (b *Baker) instances(i, root int) bool {
	g := &b.groups[i]
	for k := range b.rigid[i] {
		if t := &b.rigid[i][k]; !still(t.Translation, 3) || !still(t.Rotation, 4) || !still(t.Scale, 3) {
			return false
		}
	}
	var order []int
	of := map[int][]int{} // the things of each mesh
	for k := range g.Things {
		m := b.meshOf(&g.Things[k])
		if of[m] == nil {
			order = append(order, m)
		}
		of[m] = append(of[m], k)
	}
	for _, m := range order {
		var all track
		for _, k := range of[m] {
			t := &b.rigid[i][k]
			scale := []float32{1, 1, 1}
			if len(t.Scale) > 0 {
				scale = t.Scale[:3]
			}
			all.add(append(append(append([]float32(nil), t.Translation[:3]...), t.Rotation[:4]...), scale...))
		}
		b.doc.Nodes[root].Children = append(b.doc.Nodes[root].Children, len(b.doc.Nodes))
		b.doc.Nodes = append(b.doc.Nodes, node{Name: g.Name + " " + b.doc.Meshes[m].Name, Mesh: &m,
			Extensions: map[string]any{instancing: map[string]any{"attributes": map[string]int{
				"TRANSLATION": b.addFloats(all.Translation, "VEC3", 0, false),
				"ROTATION":    b.addFloats(all.Rotation, "VEC4", 0, false),
				"SCALE":       b.addFloats(all.Scale, "VEC3", 0, false)}}}})
	}
	b.uses(instancing)
	b.doc.Required = []string{instancing}
	return true
}

// instancing is the extension by which many copies of a mesh are one node. A reader without it would show
// one of them, so that it is required.
const instancing = "EXT_mesh_gpu_instancing"
