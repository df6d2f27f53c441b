package usda

import (
	"fmt"
	"strconv"
	"strings"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/rig"
)

// figure writes a figure by the UsdSkel schema: a skeleton with its joints as they were bound and as
// they rest, an animation with their turns and places in every frame, and the mesh that goes along.
func (b *Baker) figure(w *writer, t *rig.Thing, f *figure.Figure) {
	w.openWith("SkelRoot", t.Short, t.Short, "")
	paths := jointPaths(f)
	joints := "uniform token[] joints = [" + strings.Join(paths, ", ") + "]"
	names := make([]string, len(f.Joints))
	rest, bind := make([]string, len(f.Joints)), make([]string, len(f.Joints))
	for i := range f.Joints {
		names[i] = quoted(f.Joints[i].Name)
		m := f.Joints[i].Rest
		rest[i] = matrix(figure.Affine{X: m.X, Y: m.Y, Z: m.Z, P: m.P})
		bind[i] = matrix(inverse(f.Skin.Binds[i]))
	}
	const binding = "    prepend apiSchemas = [\"SkelBindingAPI\"]\n"
	w.openWith("Skeleton", "Joints", "", binding)
	w.line(joints)
	w.line("uniform token[] jointNames = [" + strings.Join(names, ", ") + "]")
	w.line("uniform matrix4d[] bindTransforms = [" + strings.Join(bind, ", ") + "]")
	w.line("uniform matrix4d[] restTransforms = [" + strings.Join(rest, ", ") + "]")
	w.line("rel skel:animationSource = <../Motion>")
	w.close()

	w.openWith("SkelAnimation", "Motion", "", "")
	w.line(joints)
	list := func(of func(i int)) {
		w.WriteString("[")
		for i := range f.Joints {
			if i > 0 {
				w.WriteString(", ")
			}
			of(i)
		}
		w.WriteString("]")
	}
	b.value(w, "float3[] translations", false, func(k int) {
		list(func(i int) {
			p := f.Shifts[k][i]
			w.tuple(float32(p.X), float32(p.Y), float32(p.Z))
		})
	})
	b.value(w, "quatf[] rotations", false, func(k int) {
		list(func(i int) { // the real part first
			q := f.Turns[k][i]
			w.tuple(float32(q.W), float32(q.X), float32(q.Y), float32(q.Z))
		})
	})
	w.once("half3[] scales", func() { list(func(int) { w.tuple(1, 1, 1) }) })
	w.close()

	w.openWith("Mesh", "Skin", "", "    prepend apiSchemas = [\"SkelBindingAPI\", \"MaterialBindingAPI\"]\n")
	mesh := f.Skin.Mesh
	w.faces(mesh)
	w.bound(t, mesh)
	w.once("float3[] extent", func() { w.extent(mesh.Positions) })
	w.once("point3f[] points", func() { w.list(mesh.Positions, 3) })
	w.once("normal3f[] normals", func() { w.list(mesh.Normals, 3) })
	w.line(`uniform token subdivisionScheme = "none"`)
	var js, ws strings.Builder
	for v := range f.Skin.Weights {
		for k := range 4 {
			if v+k > 0 {
				js.WriteString(", ")
				ws.WriteString(", ")
			}
			js.WriteString(strconv.Itoa(int(f.Skin.Joints[v][k])))
			ws.WriteString(strconv.FormatFloat(float64(f.Skin.Weights[v][k]), 'g', -1, 32))
		}
	}
	const each = " (\n            elementSize = 4\n            interpolation = \"vertex\"\n        )"
	w.line("int[] primvars:skel:jointIndices = [" + js.String() + "]" + each)
	w.line("float[] primvars:skel:jointWeights = [" + ws.String() + "]" + each)
	w.line("matrix4d primvars:skel:geomBindTransform = ((1, 0, 0, 0), (0, 1, 0, 0), (0, 0, 1, 0), (0, 0, 0, 1))")
	w.line("rel skel:skeleton = <../Joints>")
	w.close()
	w.close()
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
