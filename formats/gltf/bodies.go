package gltf

import (
	"encoding/binary"
	"fmt"
	"maps"

	"bead/core/geom"
	"bead/core/rig"
	"bead/formats/bones"
)

// Bodies that bend leave as a mesh with joints along it, each vertex held by the two next to it, or,
// where exact is asked for, as a mesh with a morph target a frame.

// skin is glTF's (5.28).
type skin struct {
	Name                string `json:"name"`
	InverseBindMatrices int    `json:"inverseBindMatrices"`
	Joints              []int  `json:"joints"`
}

// bodyTrack is a body under way: by joints, or exactly.
type bodyTrack struct {
	bones.Track
	Samples [][]float32 // exact: positions and normals of each frame
}

// samples reports whether a surface is written vertex by vertex.
func (b *Baker) samples(g *rig.Group) bool { return b.Exact || !g.Skeletal }

// bodyTracks prepares the surfaces of a group.
func (b *Baker) bodyTracks(g *rig.Group) []bodyTrack {
	out := make([]bodyTrack, len(g.Things))
	if b.samples(g) {
		return out
	}
	for k, t := range bones.Of(b.scene, g, b.Stopped) {
		out[k].Track = t
	}
	return out
}

// bodyFrame adds a frame of the surfaces of group i.
func (b *Baker) bodyFrame(p *rig.Picture, i int) {
	g := &b.groups[i]
	for k := range b.bodies[i] {
		o := &b.bodies[i][k]
		if b.samples(g) {
			positions, normals := g.VerticesUnder(p, k)
			o.Samples = append(o.Samples, append(positions, normals...))
		} else {
			o.Frame(g, p, k)
		}
	}
}

// Prime takes in a frame that is not written, for the sides of the rotations of those that are.
func (b *Baker) Prime(p *rig.Picture) {
	for i := range b.bodies {
		for k := range b.bodies[i] {
			if !b.samples(&b.groups[i]) {
				b.bodies[i][k].Prime(&b.groups[i], p, k)
			}
		}
	}
}

// addBodies adds the surfaces of group i below its node.
func (b *Baker) addBodies(i, root int) {
	g := &b.groups[i]
	for k := range b.bodies[i] {
		name := g.Things[k].Name
		if len(b.bodies[i]) == 1 {
			name = g.Name
		}
		if b.samples(g) {
			b.addSamples(name, &g.Things[k], &b.bodies[i][k], root)
		} else {
			b.addJoints(name, g, k, &b.bodies[i][k], root)
		}
	}
	if b.Say != nil && !b.samples(g) {
		off, most := 0.0, 0
		for k := range b.bodies[i] {
			off, most = max(off, b.bodies[i][k].Off), max(most, len(b.bodies[i][k].Places))
		}
		b.Say(fmt.Sprintf("%s: up to %d joints a body, at most %.2f mm off its true shape", g.Name, most, off*1000))
	}
}

// addJoints adds a body as a mesh with a skin.
func (b *Baker) addJoints(name string, g *rig.Group, k int, o *bodyTrack, root int) {
	body, mesh := g.Skeleton(k), g.Things[k].Model.Mesh()
	n := body.Vertices()
	rest, normals := make([]float32, 3*n), make([]float32, 3*n)
	body.Rest(rest, normals)
	m := &geom.Mesh{Positions: rest, Normals: normals, Indices: mesh.Indices, UVs: mesh.UVs, Groups: mesh.Groups}
	at := b.addMesh(name, &g.Things[k], m)
	joints := b.view(8*n, targetVertex)
	for v := range n {
		j, _ := o.Hold(body.Place(v))
		for _, x := range [4]uint16{uint16(j), uint16(j + 1), 0, 0} {
			b.bin = binary.LittleEndian.AppendUint16(b.bin, x)
		}
	}
	held := map[string]int{}
	held["JOINTS_0"] = b.accessor(accessor{BufferView: joints, ComponentType: 5123, Count: n, Type: "VEC4"})
	w := make([]float32, 0, 4*n)
	for v := range n {
		_, u := o.Hold(body.Place(v))
		ahead := float32(u)
		w = append(w, 1-ahead, ahead, 0, 0)
	}
	held["WEIGHTS_0"] = b.addFloats(w, "VEC4", targetVertex, false)
	b.each(at, func(p *primitive) { maps.Copy(p.Attributes, held) })
	for v := range n { // a joint that holds nothing has number 0
		if w[4*v+1] == 0 {
			binary.LittleEndian.PutUint16(b.bin[b.doc.BufferViews[joints].ByteOffset+8*v+2:], 0)
		}
		if w[4*v] == 0 {
			binary.LittleEndian.PutUint16(b.bin[b.doc.BufferViews[joints].ByteOffset+8*v:], 0)
		}
	}
	if len(o.Used) > 0 {
		names := []string{}
		for _, x := range o.Used {
			p, q := make([]float32, 3*n), make([]float32, 3*n)
			body.Blend(x, p, q)
			target := map[string]int{"POSITION": b.addFloats(p, "VEC3", targetVertex, true), "NORMAL": b.addFloats(q, "VEC3", targetVertex, false)}
			b.each(at, func(p *primitive) { p.Targets = append(p.Targets, target) })
			names = append(names, body.Blends[x])
		}
		if b.doc.Meshes[at].Extras == nil {
			b.doc.Meshes[at].Extras = map[string]any{}
		}
		b.doc.Meshes[at].Extras["targetNames"] = names
	}
	// Bound each at its place on the straight body.
	inverse := make([]float32, 0, 16*len(o.Places))
	for _, z := range o.Places {
		inverse = append(inverse, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, float32(-z), 1)
	}
	s := skin{Name: name, InverseBindMatrices: b.addFloats(inverse, "MAT4", 0, false)}
	interpolation := "LINEAR"
	if g.Jumps {
		interpolation = "STEP"
	}
	group := len(b.doc.Nodes)
	b.doc.Nodes = append(b.doc.Nodes, node{Name: name + " joints"})
	b.doc.Nodes[root].Children = append(b.doc.Nodes[root].Children, group)
	for j := range o.Joints {
		s.Joints = append(s.Joints, len(b.doc.Nodes))
		b.doc.Nodes[group].Children = append(b.doc.Nodes[group].Children, len(b.doc.Nodes))
		b.add(fmt.Sprintf("%s joint %d", name, j+1), nil, trackOf(o.Joints[j]), interpolation)
	}
	b.doc.Skins = append(b.doc.Skins, s)
	skinAt := len(b.doc.Skins) - 1
	// A skinned mesh stands where its joints do: its node is one of the scene's own.
	b.doc.Scenes[0].Nodes = append(b.doc.Scenes[0].Nodes, len(b.doc.Nodes))
	b.doc.Nodes = append(b.doc.Nodes, node{Name: name + " body", Mesh: &at, Skin: &skinAt,
		Extras: map[string]any{"joints": len(o.Places), "greatestErrorMetres": o.Off}})
	b.addWeights(len(b.doc.Nodes)-1, o.Amounts, "LINEAR")
}

// trackOf parts ten floats a frame.
func trackOf(x []float32) *track {
	var t track
	for i := 0; i < len(x); i += rig.Stride {
		t.add(x[i : i+rig.Stride])
	}
	return &t
}

// addWeights animates the weights of a node's morph targets, where they move.
func (b *Baker) addWeights(nodeAt int, of [][]float32, interpolation string) {
	if len(of) == 0 {
		return
	}
	moves := false
	first := make([]float32, len(of))
	for x, list := range of {
		first[x] = list[0]
		moves = moves || !still(list, 1)
	}
	if !moves {
		b.doc.Nodes[nodeAt].Weights = first
		return
	}
	flat := make([]float32, 0, len(of)*b.Frames)
	for f := range b.Frames {
		for _, list := range of {
			flat = append(flat, list[f])
		}
	}
	b.anim.Channels = append(b.anim.Channels, channel{len(b.anim.Samplers), target{nodeAt, "weights"}})
	b.anim.Samplers = append(b.anim.Samplers, sampler{b.timesOf(), b.addFloats(flat, "SCALAR", 0, false), interpolation})
}

// addSamples adds a body as a mesh with its first frame and a morph target for each other frame that
// differs from it.
func (b *Baker) addSamples(name string, t *rig.Thing, o *bodyTrack, root int) {
	mesh := t.Model.Mesh()
	n := len(o.Samples[0]) / 2
	first := o.Samples[0]
	at := b.addMesh(name, t, &geom.Mesh{Positions: first[:n], Normals: first[n:], Indices: mesh.Indices, UVs: mesh.UVs, Groups: mesh.Groups})
	differ := false
	for f := 1; f < len(o.Samples); f++ {
		differ = differ || !same(first, o.Samples[f])
	}
	nodeAt := len(b.doc.Nodes)
	b.doc.Nodes = append(b.doc.Nodes, node{Name: name, Mesh: &at, Extras: map[string]any{"samples": len(o.Samples)}})
	b.doc.Nodes[root].Children = append(b.doc.Nodes[root].Children, nodeAt)
	if !differ {
		return
	}
	shares := make([][]float32, len(o.Samples)-1)
	for f := 1; f < len(o.Samples); f++ {
		d := make([]float32, 2*n)
		for i := range d {
			d[i] = o.Samples[f][i] - first[i]
		}
		target := map[string]int{"POSITION": b.addFloats(d[:n], "VEC3", targetVertex, true), "NORMAL": b.addFloats(d[n:], "VEC3", targetVertex, false)}
		b.each(at, func(p *primitive) { p.Targets = append(p.Targets, target) })
		shares[f-1] = make([]float32, b.Frames)
		shares[f-1][f] = 1
	}
	b.addWeights(nodeAt, shares, "LINEAR")
}

func same(a, b []float32) bool {
	for i := range a {
		if a[i] != b[i] {
			return false
		}
	}
	return true
}
