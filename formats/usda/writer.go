package usda

import (
	"bufio"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"bead/core/geom"
	"bead/core/rig"
)

// writer writes prims within one another.
type writer struct {
	*bufio.Writer
	names []map[string]bool // of the prims in each that is open
	buf   []byte

	finishes map[rig.Finish]string // the paths of materials

	apart bool  // samples lie in clips
	clip  *clip // that is being written; nil: all
}

func (w *writer) indent() {
	for range len(w.names) - 1 {
		w.WriteString("    ")
	}
}

func (w *writer) line(text string) {
	w.indent()
	w.WriteString(text)
	w.WriteString("\n")
}

func (w *writer) open(kind, name, shown string) string { return w.openWith(kind, name, shown, "") }

// openWith begins a prim under a name that its parent has once, with the name that people see and
// other metadata. It returns the name.
func (w *writer) openWith(kind, name, shown, meta string) string {
	id := identifier(name)
	used := w.names[len(w.names)-1]
	for n, base := 2, id; used[id]; n++ {
		id = fmt.Sprintf("%s_%d", base, n)
	}
	used[id] = true
	if w.clip != nil {
		w.clip.open = append(w.clip.open, id)
	}
	if shown != "" {
		meta = "    displayName = " + quoted(shown) + "\n" + meta
	}
	w.indent()
	fmt.Fprintf(w, "def %s \"%s\"", kind, id)
	if meta != "" {
		w.WriteString(" (\n")
		for _, l := range strings.SplitAfter(strings.TrimSuffix(meta, "\n"), "\n") {
			w.indent()
			w.WriteString(l)
		}
		w.WriteString("\n")
		w.indent()
		w.WriteString(")")
	}
	w.WriteString("\n")
	w.line("{")
	w.names = append(w.names, map[string]bool{})
	return id
}

func (w *writer) close() {
	w.names = w.names[:len(w.names)-1]
	if w.clip != nil {
		w.clip.end()
	}
	w.line("}")
	w.WriteString("\n")
}

// once writes an attribute that stays the same.
func (w *writer) once(what string, value func()) {
	w.indent()
	w.WriteString(what)
	w.WriteString(" = ")
	value()
	w.WriteString("\n")
}

// part writes a prototype and returns its name. It brings its materials along: what a reference takes
// cannot point out of it.
func (b *Baker) part(w *writer, t *rig.Thing) string {
	m, plain := t.Model.Mesh(), *t
	plain.Colour = ""
	id := w.open("Xform", t.Model.Name, t.Model.Name)
	outer := w.finishes
	w.finishes = map[rig.Finish]string{}
	w.open("Scope", "Materials", "")
	for k := range rig.Runs(m) {
		if f := plain.Finish(k); w.finishes[f] == "" {
			b.look(w, f, "/World/Parts/"+id+"/Materials/")
		}
	}
	w.close()
	w.mesh(m, &plain)
	w.close()
	w.finishes = outer
	return id
}

// mesh writes a rigid mesh with the materials of its thing.
func (w *writer) mesh(m *geom.Mesh, of *rig.Thing) {
	w.openWith("Mesh", "mesh", "", bindingAPI)
	w.surface(m)
	w.bound(of, m)
	w.close()
}

// surface writes what a mesh is made of.
func (w *writer) surface(m *geom.Mesh) {
	w.faces(m)
	w.once("float3[] extent", func() { w.extent(m.Positions) })
	w.once("point3f[] points", func() { w.list(m.Positions, 3) })
	w.once("normal3f[] normals", func() { w.list(m.Normals, 3) })
	w.line(`uniform token subdivisionScheme = "none"`)
}

// faces writes a mesh's triangles and textures.
func (w *writer) faces(m *geom.Mesh) {
	w.indent()
	w.WriteString("int[] faceVertexCounts = [")
	for i := 0; i < len(m.Indices); i += 3 {
		if i > 0 {
			w.WriteString(", ")
		}
		w.WriteString("3")
	}
	w.WriteString("]\n")
	w.indent()
	w.WriteString("int[] faceVertexIndices = [")
	for i, v := range m.Indices {
		if i > 0 {
			w.WriteString(", ")
		}
		w.buf = strconv.AppendUint(w.buf[:0], uint64(v), 10)
		w.Write(w.buf)
	}
	w.WriteString("]\n")
	if len(m.UVs) > 0 {
		w.indent()
		w.WriteString("texCoord2f[] primvars:st = ")
		w.list(m.UVs, 2)
		w.WriteString(" (\n")
		w.line(`    interpolation = "vertex"`)
		w.line(")")
	}
}

func (w *writer) number(x float32) {
	w.buf = strconv.AppendFloat(w.buf[:0], float64(x), 'g', -1, 32)
	w.Write(w.buf)
}

func (w *writer) tuple(v ...float32) {
	w.WriteString("(")
	for i, x := range v {
		if i > 0 {
			w.WriteString(", ")
		}
		w.number(x)
	}
	w.WriteString(")")
}

func (w *writer) list(v []float32, width int) {
	w.WriteString("[")
	for i := 0; i < len(v); i += width {
		if i > 0 {
			w.WriteString(", ")
		}
		w.tuple(v[i : i+width]...)
	}
	w.WriteString("]")
}

func (w *writer) extent(v []float32) {
	if len(v) == 0 {
		w.WriteString("[]")
		return
	}
	lo, hi := [3]float32(v[:3]), [3]float32(v[:3])
	for i, x := range v {
		lo[i%3], hi[i%3] = min(lo[i%3], x), max(hi[i%3], x)
	}
	w.WriteString("[")
	w.tuple(lo[:]...)
	w.WriteString(", ")
	w.tuple(hi[:]...)
	w.WriteString("]")
}

// identifier makes a prim's name of any: letters, digits and _, not beginning with a digit.
func identifier(name string) string {
	id := strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' {
			return r
		}
		return '_'
	}, name)
	if id == "" || id[0] >= '0' && id[0] <= '9' {
		id = "_" + id
	}
	return id
}

// quoted is a string as the grammar has it.
func quoted(s string) string {
	var b strings.Builder
	b.WriteByte('"')
	for _, r := range s {
		switch {
		case r == '"' || r == '\\':
			b.WriteByte('\\')
			b.WriteRune(r)
		case r < ' ' || r == 0x7f:
			b.WriteByte(' ')
		default:
			b.WriteRune(r)
		}
	}
	b.WriteByte('"')
	return b.String()
}

// custom is a prim's own data as metadata, for those who go on with it.
func custom(data map[string]any) string { return dictionary("customData", data) }

// dictionary writes a dictionary of texts, numbers and points, in the order of its keys.
func dictionary(name string, data map[string]any) string {
	if len(data) == 0 {
		return ""
	}
	var out strings.Builder
	fmt.Fprintf(&out, "    %s = {\n", name)
	for _, key := range slices.Sorted(maps.Keys(data)) {
		switch v := data[key].(type) {
		case string:
			fmt.Fprintf(&out, "        string %s = %s\n", key, quoted(v))
		case int, int64:
			fmt.Fprintf(&out, "        int %s = %d\n", key, v)
		case float64:
			fmt.Fprintf(&out, "        double %s = %g\n", key, v)
		case geom.Vec:
			fmt.Fprintf(&out, "        double3 %s = (%g, %g, %g)\n", key, v.X, v.Y, v.Z)
		default:
			panic(fmt.Sprintf("a dictionary holds no %T", v))
		}
	}
	out.WriteString("    }\n")
	return out.String()
}

// facts are what a group's prim says about it.
func (b *Baker) facts(g *rig.Group) string {
	f, is := g.Facts()
	if !is {
		return ""
	}
	out := map[string]any{"kind": f.Kind, "rig": f.Rig, "path": f.Path}
	if f.Pinned {
		out["pinBehind"], out["pinAhead"], out["hingeAxis"] = g.Pins(0, b.Single && b.Centred)
	}
	return custom(out)
}
