package usda

import (
	"fmt"
	"math"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/rig"
	"bead/formats/bones"
)

// halfStep is the greatest share by which a scale is rounded: UsdSkel holds scales as half floats.
const halfStep = 1.0 / 2048

const root = "body"

// exact reports whether a surface is written with its points in every frame.
func (b *Baker) exact(g *rig.Group) bool { return b.Exact || !g.Skeletal }

// bone writes a body that bends as a skeleton and the mesh that it moves.
func (b *Baker) bone(w *writer, g *rig.Group, thing int, o *bones.Track) {
	t, body := &g.Things[thing], g.Skeleton(thing)
	still := figure.Affine{X: geom.V(1, 0, 0), Y: geom.V(0, 1, 0), Z: geom.V(0, 0, 1)}
	// Many readers want one root: a joint that never moves, which holds nothing.
	off, k := o.Off, &skel{each: 2, paths: []string{quoted(root)}, names: []string{quoted(root)}, bind: []figure.Affine{still}, rest: []figure.Affine{still}}
	at := func(f, j, i int) float32 {
		if j == 0 {
			return [rig.Stride]float32{6: 1, 7: 1, 8: 1, 9: 1}[i]
		}
		return o.Joints[j-1][f*rig.Stride+i]
	}
	k.shift = func(f, j int) [3]float32 { return [3]float32{at(f, j, 0), at(f, j, 1), at(f, j, 2)} }
	k.turn = func(f, j int) [4]float32 { return [4]float32{at(f, j, 3), at(f, j, 4), at(f, j, 5), at(f, j, 6)} }
	scaled := false
	for j, z := range o.Places {
		name := fmt.Sprintf("joint_%03d", j+1)
		k.paths, k.names = append(k.paths, quoted(root+"/"+name)), append(k.names, quoted(name))
		m := still
		m.P.Z = z
		k.bind, k.rest = append(k.bind, m), append(k.rest, m)
		for f := range len(o.Joints[j]) / rig.Stride {
			scaled = scaled || at(f, j+1, 7) != 1
		}
	}
	if scaled {
		k.scale = func(f, j int) [3]float32 { return [3]float32{at(f, j, 7), at(f, j, 8), at(f, j, 9)} }
		off += body.Half * halfStep
	}
	for v := range body.Vertices() {
		j, ahead := o.Hold(body.Place(v))
		k.joints = append(k.joints, j+1, j+2)
		k.weights = append(k.weights, 1-float32(ahead), float32(ahead))
	}
	for _, x := range o.Used {
		k.blends = append(k.blends, quoted(identifier(body.Blends[x])))
	}
	k.amount = func(f, x int) float32 { return o.Amounts[x][f] }

	w.openWith("SkelRoot", t.Short, t.Short, custom(map[string]any{"joints": len(o.Places), "greatestErrorMetres": off}))
	b.skeleton(w, k)
	n := body.Vertices()
	mesh := *t.Model.Mesh()
	mesh.Positions, mesh.Normals = make([]float32, 3*n), make([]float32, 3*n)
	body.Rest(mesh.Positions, mesh.Normals)
	b.skin(w, k, t, &mesh)
	for _, x := range o.Used {
		shift, turn := make([]float32, 3*n), make([]float32, 3*n)
		body.Blend(x, shift, turn)
		w.openWith("BlendShape", identifier(body.Blends[x]), "", "")
		w.indent()
		w.WriteString("uniform vector3f[] offsets = ")
		w.list(shift, 3)
		w.WriteString("\n")
		w.indent()
		w.WriteString("uniform vector3f[] normalOffsets = ")
		w.list(turn, 3)
		w.WriteString("\n")
		w.close()
	}
	w.close()
	w.close()
	b.worst, b.most = math.Max(b.worst, off), max(b.most, len(o.Places))
}
