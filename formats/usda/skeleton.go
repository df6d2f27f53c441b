package usda

import (
	"fmt"
	"strconv"
	"strings"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/rig"
)

// skel is what moves a mesh by joints, by the UsdSkel schema.
type skel struct {
	paths, names []string // tokens of the joints
	bind, rest   []figure.Affine
	shift        func(frame, joint int) [3]float32
	turn         func(frame, joint int) [4]float32 // x y z w
	scale        func(frame, joint int) [3]float32 // nil: always 1
	blends       []string                          // names of other shapes
	amount       func(frame, blend int) float32
	each         int // joints of a vertex
	joints       []int
	weights      []float32
}

// figure writes a figure: a skeleton with its joints as they were bound and as they rest, an animation
// with their turns and places in every frame, and the mesh that goes along.
func (b *Baker) figure(w *writer, t *rig.Thing, f *figure.Figure) {
	k := &skel{paths: jointPaths(f), each: 4,
		shift: func(k, i int) [3]float32 {
			p := f.Shifts[k][i]
			return [3]float32{float32(p.X), float32(p.Y), float32(p.Z)}
		},
		turn: func(k, i int) [4]float32 {
			q := f.Turns[k][i]
			return [4]float32{float32(q.X), float32(q.Y), float32(q.Z), float32(q.W)}
		}}
	for i := range f.Joints {
		k.names = append(k.names, quoted(f.Joints[i].Name))
		m := f.Joints[i].Rest
		k.rest = append(k.rest, figure.Affine{X: m.X, Y: m.Y, Z: m.Z, P: m.P})
		k.bind = append(k.bind, inverse(f.Skin.Binds[i]))
	}
	for v := range f.Skin.Weights {
		for i := range 4 {
			k.joints = append(k.joints, int(f.Skin.Joints[v][i]))
		}
		k.weights = append(k.weights, f.Skin.Weights[v][:]...)
	}
	w.openWith("SkelRoot", t.Short, t.Short, "")
	b.skeleton(w, k)
	b.skin(w, k, t, f.Skin.Mesh)
	w.close()
	w.close()
}

// skeleton writes joints and their animation.
func (b *Baker) skeleton(w *writer, k *skel) {
	joints := "uniform token[] joints = [" + strings.Join(k.paths, ", ") + "]"
	matrices := func(of []figure.Affine) string {
		var out []string
		for _, m := range of {
			out = append(out, matrix(m))
		}
		return strings.Join(out, ", ")
	}
	w.openWith("Skeleton", "Joints", "", "    prepend apiSchemas = [\"SkelBindingAPI\"]\n")
	w.line(joints)
	w.line("uniform token[] jointNames = [" + strings.Join(k.names, ", ") + "]")
	w.line("uniform matrix4d[] bindTransforms = [" + matrices(k.bind) + "]")
	w.line("uniform matrix4d[] restTransforms = [" + matrices(k.rest) + "]")
	w.line("rel skel:animationSource = <../Motion>")
	w.close()

	w.openWith("SkelAnimation", "Motion", "", "")
	w.line(joints)
	list := func(n int, of func(i int)) {
		w.WriteString("[")
		for i := range n {
			if i > 0 {
				w.WriteString(", ")
			}
			of(i)
		}
		w.WriteString("]")
	}
	n := len(k.paths)
	b.value(w, "float3[] translations", false, func(f int) {
		list(n, func(i int) { p := k.shift(f, i); w.tuple(p[:]...) })
	})
	b.value(w, "quatf[] rotations", false, func(f int) {
		list(n, func(i int) { q := k.turn(f, i); w.tuple(q[3], q[0], q[1], q[2]) }) // the real part first
	})
	b.value(w, "half3[] scales", k.scale == nil, func(f int) {
		list(n, func(i int) {
			x := [3]float32{1, 1, 1}
			if k.scale != nil {
				x = k.scale(f, i)
			}
			w.tuple(x[:]...)
		})
	})
	if len(k.blends) > 0 {
		w.line("uniform token[] blendShapes = [" + strings.Join(k.blends, ", ") + "]")
		b.value(w, "float[] blendShapeWeights", false, func(f int) {
			list(len(k.blends), func(i int) { w.number(k.amount(f, i)) })
		})
	}
	w.close()
}

// skin opens the mesh that a skeleton moves.
func (b *Baker) skin(w *writer, k *skel, t *rig.Thing, mesh *geom.Mesh) {
	w.openWith("Mesh", "Skin", "", "    prepend apiSchemas = [\"SkelBindingAPI\", \"MaterialBindingAPI\"]\n")
	w.surface(mesh)
	w.bound(t, mesh)
	var js, ws strings.Builder
	for i := range k.joints {
		if i > 0 {
			js.WriteString(", ")
			ws.WriteString(", ")
		}
		js.WriteString(strconv.Itoa(k.joints[i]))
		ws.WriteString(strconv.FormatFloat(float64(k.weights[i]), 'g', -1, 32))
	}
	each := fmt.Sprintf(" (\n            elementSize = %d\n            interpolation = \"vertex\"\n        )", k.each)
	w.line("int[] primvars:skel:jointIndices = [" + js.String() + "]" + each)
	w.line("float[] primvars:skel:jointWeights = [" + ws.String() + "]" + each)
	w.line("matrix4d primvars:skel:geomBindTransform = ((1, 0, 0, 0), (0, 1, 0, 0), (0, 0, 1, 0), (0, 0, 0, 1))")
	w.line("rel skel:skeleton = <../Joints>")
	if len(k.blends) > 0 {
		var targets []string
		for _, name := range k.blends {
			targets = append(targets, "<"+strings.Trim(name, `"`)+">")
		}
		w.line("uniform token[] skel:blendShapes = [" + strings.Join(k.blends, ", ") + "]")
		w.line("rel skel:blendShapeTargets = [" + strings.Join(targets, ", ") + "]")
	}
}

// jointPaths are the joints' names after those that they hang from, as tokens; names that would be the
// same in one place have a number.
func jointPaths(f *figure.Figure) []string {
	out, plain, used := make([]string, len(f.Joints)), make([]string, len(f.Joints)), map[string]bool{}
	for i, j := range f.Joints {
		above := ""
		if j.Parent >= 0 {
			above = plain[j.Parent] + "/"
		}
		id := above + identifier(j.Name)
		for n, base := 2, id; used[id]; n++ {
			id = fmt.Sprintf("%s_%d", base, n)
		}
		used[id] = true
		plain[i], out[i] = id, quoted(id)
	}
	return out
}

// matrix is a motion as rows (USD's vectors stand before their matrix).
func matrix(a figure.Affine) string {
	row := func(v geom.Vec, w int) string { return fmt.Sprintf("(%.9g, %.9g, %.9g, %d)", v.X, v.Y, v.Z, w) }
	return "(" + row(a.X, 0) + ", " + row(a.Y, 0) + ", " + row(a.Z, 0) + ", " + row(a.P, 1) + ")"
}

// inverse undoes a motion that may scale.
func inverse(a figure.Affine) figure.Affine {
	// The rows of the inverse are cross products of the columns, over their volume.
	volume := a.X.Dot(a.Y.Cross(a.Z))
	if volume == 0 {
		return a
	}
	r1, r2, r3 := a.Y.Cross(a.Z).Mul(1/volume), a.Z.Cross(a.X).Mul(1/volume), a.X.Cross(a.Y).Mul(1/volume)
	out := figure.Affine{X: geom.V(r1.X, r2.X, r3.X), Y: geom.V(r1.Y, r2.Y, r3.Y), Z: geom.V(r1.Z, r2.Z, r3.Z)}
	out.P = out.Turn(a.P).Neg()
	return out
}
