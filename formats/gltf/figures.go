package gltf

import (
	"encoding/binary"
	"fmt"
	"io"
	"maps"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/look"
	"bead/core/machine"
	"bead/core/rig"
)

// WriteFigure writes a figure with its skin and its keys as a GLB, a unit of its own a metre.
func WriteFigure(w io.Writer, name string, f *figure.Figure) error {
	b := &Baker{Options: Options{Binary: true}, times: -1, finishes: map[rig.Finish]int{}}
	b.doc.Asset = asset{"2.0", generator}
	b.doc.Scenes = []sceneNodes{{Name: name, Nodes: []int{0}}}
	b.doc.Nodes = []node{{Name: name}}
	b.animate(name)
	t := &rig.Thing{Model: &rig.Model{Name: name, Materials: []*look.Material{machine.MaterialOf(name, f)}}}
	b.addFigure(name, t, f, 0)
	b.animate("")
	b.doc.Buffers = []buffer{{ByteLength: len(b.bin)}}
	return b.writeGLB(w)
}

// addFigure adds joints below a node, each with its turns and, where it moves, its places, and the
// mesh that goes along with them.
func (b *Baker) addFigure(name string, t *rig.Thing, f *figure.Figure, root int) {
	first := len(b.doc.Nodes)
	kids := f.Children()
	for i := range f.Joints {
		j := &f.Joints[i]
		q, p := j.Rest.Quat(), j.Rest.P
		n := node{Name: j.Name, Rotation: &[4]float32{float32(q.X), float32(q.Y), float32(q.Z), float32(q.W)}, Translation: &[3]float32{float32(p.X), float32(p.Y), float32(p.Z)}}
		for _, k := range kids[i] {
			n.Children = append(n.Children, first+k)
		}
		if len(j.Ends) > 0 { // glTF has no tips: those who read it here find them again
			var tips [][3]float64
			for _, e := range j.Ends {
				tips = append(tips, e.Array())
			}
			n.Extras = map[string]any{"tips": tips}
		}
		b.doc.Nodes = append(b.doc.Nodes, n)
	}
	b.doc.Nodes[root].Children = append(b.doc.Nodes[root].Children, first)
	b.figureKeys(f, first)
	s := f.Skin
	at := b.addMesh(name, t, s.Mesh)
	n := len(s.Weights)
	joints := b.view(8*n, targetVertex)
	var w []float32
	for v := range n {
		for k := range 4 {
			j := s.Joints[v][k]
			if s.Weights[v][k] == 0 {
				j = 0 // a joint that holds nothing has number 0
			}
			b.bin = binary.LittleEndian.AppendUint16(b.bin, j)
		}
		w = append(w, s.Weights[v][:]...)
	}
	held := map[string]int{}
	held["JOINTS_0"] = b.accessor(accessor{BufferView: joints, ComponentType: 5123, Count: n, Type: "VEC4"})
	held["WEIGHTS_0"] = b.addFloats(w, "VEC4", targetVertex, false)
	b.each(at, func(p *primitive) { maps.Copy(p.Attributes, held) })
	var inverse []float32
	for _, a := range s.Binds {
		for _, c := range [4]struct {
			v [3]float64
			w float32
		}{{a.X.Array(), 0}, {a.Y.Array(), 0}, {a.Z.Array(), 0}, {a.P.Array(), 1}} {
			inverse = append(inverse, float32(c.v[0]), float32(c.v[1]), float32(c.v[2]), c.w)
		}
	}
	sk := skin{Name: name, InverseBindMatrices: b.addFloats(inverse, "MAT4", 0, false)}
	for i := range f.Joints {
		sk.Joints = append(sk.Joints, first+i)
	}
	b.doc.Skins = append(b.doc.Skins, sk)
	skinAt := len(b.doc.Skins) - 1
	// A skinned mesh stands where its joints do: its node is one of the scene's own.
	b.doc.Scenes[0].Nodes = append(b.doc.Scenes[0].Nodes, len(b.doc.Nodes))
	b.doc.Nodes = append(b.doc.Nodes, node{Name: name + " skin", Mesh: &at, Skin: &skinAt})
}

// figureKeys animates the joints, those that stand still by their node alone.
func (b *Baker) figureKeys(f *figure.Figure, first int) {
	if len(f.Times) < 2 {
		for i := range f.Joints { // one pose
			q, p := f.Turns[0][i], f.Shifts[0][i]
			n := &b.doc.Nodes[first+i]
			n.Rotation, n.Translation = &[4]float32{float32(q.X), float32(q.Y), float32(q.Z), float32(q.W)}, &[3]float32{float32(p.X), float32(p.Y), float32(p.Z)}
		}
		return
	}
	var times []float32
	for _, t := range f.Times {
		times = append(times, float32(t))
	}
	input := b.addFloats(times, "SCALAR", 0, true)
	for i := range f.Joints {
		var turns, shifts []float32
		for k := range f.Times {
			q, p := f.Turns[k][i], f.Shifts[k][i]
			turns = append(turns, float32(q.X), float32(q.Y), float32(q.Z), float32(q.W))
			shifts = append(shifts, float32(p.X), float32(p.Y), float32(p.Z))
		}
		b.keyed(first+i, "rotation", turns, 4, "VEC4", input)
		b.keyed(first+i, "translation", shifts, 3, "VEC3", input)
	}
}

// keyed animates a node's turn or place, or sets it where it is always the same.
func (b *Baker) keyed(at int, path string, values []float32, width int, kind string, input int) {
	if still(values, width) {
		n := &b.doc.Nodes[at]
		if path == "rotation" {
			n.Rotation = (*[4]float32)(values[:4])
		} else {
			n.Translation = (*[3]float32)(values[:3])
		}
		return
	}
	b.anim.Samplers = append(b.anim.Samplers, sampler{Input: input, Output: b.addFloats(values, kind, 0, false), Interpolation: "LINEAR"})
	b.anim.Channels = append(b.anim.Channels, channel{Sampler: len(b.anim.Samplers) - 1, Target: target{Node: at, Path: path}})
}

// figureFrame takes a picture's joints of a group of figures.
func (b *Baker) figureFrame(p *rig.Picture, i int) {
	g := &b.groups[i]
	for k := range g.Things {
		b.figures[i][k].Add(b.time(b.taken), g.JointsUnder(p, k))
	}
}

// fill adds to a figure's frames the keys that made its motion, where those lie between two frames, and returns
// the numbers that they have.
func (b *Baker) fill(g *rig.Group, i, thing int) []int {
	track := b.figures[i][thing]
	own := g.OwnKeys(thing, b.First, len(track.Figure().Times))
	seconds := make([]float64, len(own))
	for k, at := range own {
		seconds[k] = b.Start + at/b.scene.Clock.FPS
	}
	var p rig.Picture
	return track.Fill(seconds, func(k int) []geom.Rigid {
		return g.JointsAt(b.scene, &p, thing, float64(b.First)+own[k])
	})
}

// addFigures adds the figures of a group.
func (b *Baker) addFigures(i, root int) {
	g := &b.groups[i]
	for k := range g.Things {
		name := g.Things[k].Name
		if len(g.Things) == 1 {
			name = g.Name
		}
		f := b.figures[i][k].Figure()
		if b.OwnKeys && len(f.Times) > 2 {
			var off float64
			f, off = f.Fewer(b.fill(g, i, k), max(b.Tolerance, 0))
			if b.Say != nil {
				b.Say(fmt.Sprintf("%s: %d keys for %d frames, at most %.2f mm off between them", name, len(f.Times), b.taken, off*1000))
			}
		}
		if b.InPlace {
			f.InPlace()
		}
		b.addFigure(name, &g.Things[k], f, root)
	}
}
