package gltf

import (
	"encoding/binary"
	"fmt"
	"maps"
	"math"

	"bead/core/bend"
	"bead/core/geom"
	"bead/core/rig"
)

// Bodies that bend leave as a mesh with joints along it, each vertex held by the two next to it, or,
// where exact is asked for, as a mesh with a morph target a frame.

const (
	jointShare = 5e-4 // of a body's length that joints may be off
	jointGain  = 0.93 // to which share of the error more joints must bring it, or they are too many
	jointLooks = 37   // frames at which the number of joints is tried
)

// jointCounts are the numbers of joints that are tried.
var jointCounts = []int{4, 6, 8, 12, 16, 24, 32, 48, 64, 96, 128, 192}

// skin is glTF's (5.28).
type skin struct {
	Name                string `json:"name"`
	InverseBindMatrices int    `json:"inverseBindMatrices"`
	Joints              []int  `json:"joints"`
}

// bodyTrack is a body under way: its joints, or its exact samples.
type bodyTrack struct {
	places  []float64 // forward coordinates of the joints
	joints  []track
	turns   geom.Turns  // of the joints
	amounts [][]float32 // of each blend that is used
	used    []int
	samples [][]float32 // exact: positions and normals of each frame
	off     float64     // greatest distance of joints' shape from the true one, metres
	rest    []float32
	deltas  [][]float32
}

// samples tells of surfaces that leave vertex by vertex.
func (b *Baker) samples(g *rig.Group) bool { return b.Exact || !g.Skeletal }

// bodyTracks prepares the surfaces of a group.
func (b *Baker) bodyTracks(g *rig.Group) []bodyTrack {
	out := make([]bodyTrack, len(g.Things))
	made := map[*bend.Body][]float64{}
	if b.samples(g) {
		return out
	}
	for k := range out {
		o, s := &out[k], g.Skeleton(k)
		n := s.Vertices()
		o.rest = make([]float32, 3*n)
		normals := make([]float32, 3*n)
		s.Rest(o.rest, normals)
		o.used = s.Used()
		o.amounts = make([][]float32, len(o.used))
		for _, x := range o.used {
			d := make([]float32, 3*n)
			s.Blend(x, d, normals)
			o.deltas = append(o.deltas, d)
		}
		if made[s.Body] == nil {
			made[s.Body] = b.jointPlaces(g, k, o)
		}
		o.places = made[s.Body]
		o.joints = make([]track, len(o.places))
	}
	return out
}

// jointPlaces are the fewest joints of those tried that keep the body within jointShare at some
// frames.
func (b *Baker) jointPlaces(g *rig.Group, k int, o *bodyTrack) []float64 {
	s := g.Skeleton(k)
	rg := b.scene.Doc.Range
	var places, best []float64
	least := math.Inf(1)
	var pics [jointLooks]rig.Picture
	for f := range pics {
		b.scene.Frame(&pics[f], rg.First+f*(rg.Count()-1)/(jointLooks-1))
	}
	for _, n := range jointCounts {
		places = places[:0]
		for j := range n {
			places = append(places, s.Tail+s.Length()*float64(j)/float64(n-1))
		}
		worst := 0.0
		for f := range pics {
			worst = max(worst, off(g, &pics[f], k, places, o))
		}
		if best != nil && worst > jointGain*least {
			break // what is left is no matter of joints: an open jaw on a bend
		}
		best, least = append([]float64(nil), places...), worst
		if worst <= jointShare*s.Length() {
			break
		}
	}
	return best
}

// weights are the joint behind a place and the share of the one ahead.
func weights(places []float64, z float64) (j int, ahead float64) {
	n := len(places)
	x := (z - places[0]) / (places[n-1] - places[0]) * float64(n-1)
	j = min(max(int(x), 0), n-2)
	return j, min(max(x-float64(j), 0), 1)
}

// off is the greatest distance of the joints' shape from the true one in a picture.
func off(g *rig.Group, p *rig.Picture, k int, places []float64, o *bodyTrack) float64 {
	s := g.Skeleton(k)
	if !s.Shown(p) {
		return 0
	}
	truth, _ := g.Vertices(p, k)
	sections := append([]bend.Section(nil), s.Sections(p, places)...)
	amounts := s.Amounts(p)
	worst := 0.0
	for v := range s.Vertices() {
		q := vec3(o.rest, v)
		for n, d := range o.deltas {
			q = q.Mad(vec3(d, v), amounts[o.used[n]])
		}
		j, u := weights(places, s.Place(v))
		a, c := &sections[j], &sections[j+1]
		got := a.At(q.X, q.Y, q.Z-places[j]).Lerp(c.At(q.X, q.Y, q.Z-places[j+1]), u)
		worst = max(worst, got.Sub(vec3(truth, v)).Norm2())
	}
	return math.Sqrt(worst)
}

func vec3(list []float32, v int) geom.Vec {
	return geom.V(float64(list[3*v]), float64(list[3*v+1]), float64(list[3*v+2]))
}

// bodyFrame adds a frame of the surfaces of group i.
func (b *Baker) bodyFrame(p *rig.Picture, i int) {
	g := &b.groups[i]
	for k := range b.bodies[i] {
		o := &b.bodies[i][k]
		if b.samples(g) {
			positions, normals := g.Vertices(p, k)
			o.samples = append(o.samples, append(append([]float32(nil), positions...), normals...))
			continue
		}
		s := g.Skeleton(k)
		o.off = max(o.off, off(g, p, k, o.places, o))
		shown := s.Shown(p)
		for j, x := range s.Sections(p, o.places) {
			q := o.turn(j, &x)
			w, along := float32(x.W), float32(1)
			if !shown {
				w, along = 0, 0
			}
			o.joints[j].add([]float32{float32(x.P.X), float32(x.P.Y), float32(x.P.Z), q[0], q[1], q[2], q[3], w, w, along})
		}
		amounts := s.Amounts(p)
		for x, u := range o.used {
			o.amounts[x] = append(o.amounts[x], float32(amounts[u]))
		}
	}
}

// turn is the rotation of a joint, on the side of the one before.
func (o *bodyTrack) turn(joint int, s *bend.Section) [4]float32 {
	q := geom.FromBasis(s.S, s.U, s.T)
	out := [4]float32{float32(q.X), float32(q.Y), float32(q.Z), float32(q.W)}
	o.turns.Steady(joint, out[:])
	return out
}

// Prime takes in a frame that is not written, for the sides of the rotations of those that are.
func (b *Baker) Prime(p *rig.Picture) {
	for i := range b.bodies {
		if b.samples(&b.groups[i]) {
			continue
		}
		for k := range b.bodies[i] {
			o := &b.bodies[i][k]
			for j, x := range b.groups[i].Skeleton(k).Sections(p, o.places) {
				o.turn(j, &x)
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
			off, most = max(off, b.bodies[i][k].off), max(most, len(b.bodies[i][k].places))
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
		j, _ := weights(o.places, body.Place(v))
		for _, x := range [4]uint16{uint16(j), uint16(j + 1), 0, 0} {
			b.bin = binary.LittleEndian.AppendUint16(b.bin, x)
		}
	}
	held := map[string]int{}
	held["JOINTS_0"] = b.accessor(accessor{BufferView: joints, ComponentType: 5123, Count: n, Type: "VEC4"})
	w := make([]float32, 0, 4*n)
	for v := range n {
		_, u := weights(o.places, body.Place(v))
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
	if len(o.used) > 0 {
		names := []string{}
		for _, x := range o.used {
			p, q := make([]float32, 3*n), make([]float32, 3*n)
			body.Blend(x, p, q)
			target := map[string]int{"POSITION": b.addFloats(p, "VEC3", targetVertex, true), "NORMAL": b.addFloats(q, "VEC3", targetVertex, false)}
			b.each(at, func(p *primitive) { p.Targets = append(p.Targets, target) })
			names = append(names, body.Blends[x])
		}
		b.doc.Meshes[at].Extras = map[string]any{"targetNames": names}
	}
	// Bound each at its place on the straight body.
	inverse := make([]float32, 0, 16*len(o.places))
	for _, z := range o.places {
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
	for j := range o.joints {
		s.Joints = append(s.Joints, len(b.doc.Nodes))
		b.doc.Nodes[group].Children = append(b.doc.Nodes[group].Children, len(b.doc.Nodes))
		b.add(fmt.Sprintf("%s joint %d", name, j+1), nil, &o.joints[j], interpolation)
	}
	b.doc.Skins = append(b.doc.Skins, s)
	skinAt := len(b.doc.Skins) - 1
	// A skinned mesh stands where its joints do: its node is one of the scene's own.
	b.doc.Scenes[0].Nodes = append(b.doc.Scenes[0].Nodes, len(b.doc.Nodes))
	b.doc.Nodes = append(b.doc.Nodes, node{Name: name + " body", Mesh: &at, Skin: &skinAt,
		Extras: map[string]any{"joints": len(o.places), "greatestErrorMetres": o.off}})
	b.addWeights(len(b.doc.Nodes)-1, o.amounts, "LINEAR")
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
	n := len(o.samples[0]) / 2
	first := o.samples[0]
	at := b.addMesh(name, t, &geom.Mesh{Positions: first[:n], Normals: first[n:], Indices: mesh.Indices, UVs: mesh.UVs, Groups: mesh.Groups})
	differ := false
	for f := 1; f < len(o.samples); f++ {
		differ = differ || !same(first, o.samples[f])
	}
	nodeAt := len(b.doc.Nodes)
	b.doc.Nodes = append(b.doc.Nodes, node{Name: name, Mesh: &at, Extras: map[string]any{"samples": len(o.samples)}})
	b.doc.Nodes[root].Children = append(b.doc.Nodes[root].Children, nodeAt)
	if !differ {
		return
	}
	shares := make([][]float32, len(o.samples)-1)
	for f := 1; f < len(o.samples); f++ {
		d := make([]float32, 2*n)
		for i := range d {
			d[i] = o.samples[f][i] - first[i]
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
