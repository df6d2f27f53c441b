// Package usda writes baked scenes as USD text: a layer with Y up, in metres, whose time codes are
// the frames. Parts are prototypes that pieces refer to; each piece is an Xform that is moved,
// turned and scaled; bodies that bend are meshes with their points in every frame. The syntax is
// that of the published "Usd Ascii" grammar and the UsdGeom schemas (Mesh, Xformable, BasisCurves).
package usda

import (
	"bufio"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/path"
	"bead/core/rig"
)

// Options says what goes into a file.
type Options struct {
	First, Frames int
	Paths         bool   // the scene's paths go along as linear curves
	Skip          []bool // of each rig: left out
	Single        bool   // every piece has a mesh of its own instead of referring to its part
	Centred       bool   // single pieces have their origin at their centre instead of their pivot
	InPlace       bool   // the roots of figures stay where they are at first, but for their height
	// Density, above 0, makes single pieces rigid bodies for a solver, kg/m^3, as they stand in the
	// first frame.
	Density float64
	// Files are where the images of materials lie beside the file, by their assets.
	Files map[string]string
}

// Baker gathers frames and writes the file when it is closed.
type Baker struct {
	Options
	scene    *rig.Scene
	groups   []rig.Group
	rigid    [][]track         // of each group, of each thing
	surfaces [][][]frame       // of each group, of each thing, a frame each
	figures  [][]*figure.Track // of each group of figures, of each thing
	lines    []track
	cameras  []lens
	curves   [][][]float32 // of each path, its points in each frame; one where it does not change
}

// track is what one prim does over the frames: ten floats a frame, as pieces have them.
type track []float32

type frame struct{ positions, normals []float32 }

// NewBaker prepares a file.
func NewBaker(s *rig.Scene, o Options) *Baker {
	b := &Baker{Options: o, scene: s, lines: make([]track, len(s.Paths)), curves: make([][][]float32, len(s.Paths))}
	b.groups = s.Groups(o.Skip)
	b.rigid, b.surfaces, b.figures = make([][]track, len(b.groups)), make([][][]frame, len(b.groups)), make([][]*figure.Track, len(b.groups))
	for i := range b.groups {
		b.rigid[i], b.surfaces[i] = make([]track, len(b.groups[i].Things)), make([][]frame, len(b.groups[i].Things))
		if g := &b.groups[i]; g.Jointed {
			f, scale := g.Figure()
			for range g.Things {
				b.figures[i] = append(b.figures[i], figure.NewTrack(f, scale))
			}
		}
	}
	return b
}

func placed(t track, p rig.Place) track { return append(append(t, p[:]...), 1, 1, 1) }

// Frame adds the next frame.
func (b *Baker) Frame(p *rig.Picture) {
	for i := range b.groups {
		g := &b.groups[i]
		for k := range g.Things {
			if !g.Surfaces {
				x := g.Place(p, k)
				if b.Single && b.Centred && g.Scaled {
					x = g.Centred(p, k)
				}
				b.rigid[i][k] = append(b.rigid[i][k], x[:]...)
				continue
			}
			if g.Jointed {
				b.figures[i][k].Add((p.Frame-float64(b.First))/b.scene.Clock.FPS, g.Joints(p, k))
				continue
			}
			positions, normals := g.Vertices(p, k)
			b.surfaces[i][k] = append(b.surfaces[i][k], frame{append([]float32(nil), positions...), append([]float32(nil), normals...)})
		}
	}
	b.cameraFrame(p)
	if !b.Paths {
		return
	}
	for i, c := range b.scene.Paths {
		b.lines[i] = placed(b.lines[i], p.Paths[i])
		if len(b.curves[i]) == 0 {
			points, _ := rig.Polyline(c, b.scene.Doc.Paths[i].Chord(c.Length()))
			b.curves[i] = [][]float32{points}
			if p.Curves[i] != nil {
				b.curves[i][0] = evenly(p.Curves[i], len(points)/3)
			}
		} else if p.Curves[i] != nil {
			b.curves[i] = append(b.curves[i], evenly(p.Curves[i], len(b.curves[i][0])/3))
		}
	}
}

// evenly is a path that is deformed over time as n points, the same number in every frame.
func evenly(c *path.Curve, n int) []float32 {
	out := make([]float32, 0, 3*n)
	for i := range n {
		p, _ := c.At(c.Length() * float64(i) / float64(n-1))
		out = append(out, float32(p.X), float32(p.Y), float32(p.Z))
	}
	return out
}

// Close writes the file.
func (b *Baker) Close(out io.Writer) error {
	w := &writer{Writer: bufio.NewWriterSize(out, 1<<18), names: []map[string]bool{{}}, finishes: map[rig.Finish]string{}}
	d, s := b.scene.Doc, b.scene
	fmt.Fprintf(w, "#usda 1.0\n(\n    defaultPrim = \"World\"\n    doc = %s\n    startTimeCode = %d\n    endTimeCode = %d\n    timeCodesPerSecond = %g\n    framesPerSecond = %g\n    metersPerUnit = 1\n    upAxis = \"Y\"\n)\n\n",
		quoted(d.Name+", baked by Bead"), b.First, b.First+b.Frames-1, s.Clock.FPS, s.Clock.FPS)
	w.open("Xform", "World", d.Name)
	b.looks(w)
	w.open("Scope", "Parts", "")
	w.line(`token visibility = "invisible"`)
	models := map[*rig.Model]string{}
	for _, parts := range []bool{true, false} { // parts before what was made for a belt
		for i := range b.groups {
			for _, t := range b.groups[i].Things {
				if _, known := models[t.Model]; !known && t.Model.Part == parts && !b.groups[i].Surfaces && !b.own(&b.groups[i]) {
					models[t.Model] = b.part(w, &t)
				}
			}
		}
	}
	w.close()
	if b.Density > 0 {
		b.physics(w)
	}
	for i := range b.groups {
		g := &b.groups[i]
		if !g.Alone {
			w.open("Xform", g.Name, g.Name)
		}
		for k := range g.Things {
			if _, err := w.Write(nil); err != nil {
				return err // that of a write before: nobody wants the rest
			}
			switch t := &g.Things[k]; {
			case g.Jointed:
				f := b.figures[i][k].Figure()
				if b.InPlace {
					f.InPlace()
				}
				b.figure(w, t, f)
			case g.Surfaces:
				b.writeSurface(w, t, b.surfaces[i][k])
			case b.Density > 0 && b.own(g):
				b.body(w, t, b.rigid[i][k])
			case b.Density > 0 && g.Alone: // a fixture
				w.open("Xform", t.Short, t.Short)
				b.still(w, b.rigid[i][k])
				w.collider("mesh", t, t.Model.Mesh(), asItIs)
				w.close()
			case b.own(g):
				b.single(w, t, b.rigid[i][k])
			default:
				b.instance(w, t, models[t.Model], b.rigid[i][k])
			}
		}
		if !g.Alone {
			w.close()
		}
	}
	for i := range b.curves {
		b.curve(w, i)
	}
	for i := range b.cameras {
		b.camera(w, i)
	}
	w.close()
	return w.Flush()
}

// own tells of things that each get a mesh of their own.
func (b *Baker) own(g *rig.Group) bool { return b.Single && g.Scaled && !g.Surfaces }

// single writes a prim with a mesh of its own that does what its track says.
func (b *Baker) single(w *writer, of *rig.Thing, t track) {
	mesh := of.Model.Mesh()
	if b.Centred {
		mesh = of.Model.CentredMesh()
	}
	w.open("Xform", of.Short, of.Short)
	b.moves(w, t)
	w.mesh(mesh, of)
	w.close()
}

// instance writes a prim that refers to a part and does what its track says.
func (b *Baker) instance(w *writer, of *rig.Thing, part string, t track) {
	api := ""
	if of.Colour != "" {
		api = bindingAPI
	}
	w.openWith("Xform", of.Short, of.Short, "    prepend references = </World/Parts/"+part+">\n"+api)
	if of.Colour != "" {
		w.line("rel material:binding = <" + w.finishes[of.Finish(0)] + "> (bindMaterialAs = \"strongerThanDescendants\")")
	}
	b.moves(w, t)
	w.close()
}

// moves writes the operations of an Xform. A piece that is not there has scale 0: it is made
// invisible instead, since a scale of nothing has no inverse.
func (b *Baker) moves(w *writer, t track) {
	at := func(f, i int) float32 { return t[f*rig.Stride+i] }
	frames := len(t) / rig.Stride
	gone, scale := false, float32(1)
	for f := range frames {
		if at(f, 7) == 0 {
			gone = true
		} else {
			scale = at(f, 7)
		}
	}
	same := func(from, n int) bool {
		for f := 1; f < frames; f++ {
			for i := from; i < from+n; i++ {
				if at(f, i) != at(0, i) {
					return false
				}
			}
		}
		return true
	}
	place := func(f int) { w.tuple(at(f, 0), at(f, 1), at(f, 2)) }
	// From frame to frame on the same half of all rotations, the real part first.
	signs := make([]float32, frames)
	for f := range frames {
		signs[f] = 1
		if f > 0 {
			dot := at(f, 3)*at(f-1, 3) + at(f, 4)*at(f-1, 4) + at(f, 5)*at(f-1, 5) + at(f, 6)*at(f-1, 6)
			if dot*signs[f-1] < 0 {
				signs[f] = -1
			}
		}
	}
	turn := func(f int) {
		g := signs[f]
		w.tuple(g*at(f, 6), g*at(f, 3), g*at(f, 4), g*at(f, 5))
	}
	b.value(w, "double3 xformOp:translate", same(0, 3), place)
	b.value(w, "quatf xformOp:orient", same(3, 4), turn)
	w.once("float3 xformOp:scale", func() { w.tuple(scale, scale, scale) })
	w.line(`uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:orient", "xformOp:scale"]`)
	if gone {
		b.value(w, "token visibility", same(7, 1), func(f int) {
			if at(f, 7) == 0 {
				w.WriteString(`"invisible"`)
			} else {
				w.WriteString(`"inherited"`)
			}
		})
	}
}

// value writes an attribute: once where it stays the same, else in every frame.
func (b *Baker) value(w *writer, what string, same bool, of func(f int)) {
	if same {
		w.once(what, func() { of(0) })
		return
	}
	w.indent()
	w.WriteString(what)
	w.WriteString(".timeSamples = {\n")
	for f := range b.Frames {
		w.indent()
		fmt.Fprintf(w, "    %d: ", b.First+f)
		of(f)
		w.WriteString(",\n")
	}
	w.line("}")
}

// writeSurface writes what takes another form in every frame.
func (b *Baker) writeSurface(w *writer, t *rig.Thing, frames []frame) {
	same := true
	for f := 1; f < len(frames) && same; f++ {
		same = slices.Equal(frames[f].positions, frames[0].positions)
	}
	w.openWith("Mesh", t.Short, t.Short, bindingAPI)
	w.faces(t.Model.Mesh())
	w.bound(t, t.Model.Mesh())
	b.value(w, "float3[] extent", same, func(f int) { w.extent(frames[f].positions) })
	b.value(w, "point3f[] points", same, func(f int) { w.list(frames[f].positions, 3) })
	b.value(w, "normal3f[] normals", same, func(f int) { w.list(frames[f].normals, 3) })
	w.line(`uniform token subdivisionScheme = "none"`)
	w.close()
}

func (b *Baker) curve(w *writer, i int) {
	points := b.curves[i]
	if len(points) == 0 {
		return
	}
	w.open("BasisCurves", b.scene.Doc.Paths[i].Name, b.scene.Doc.Paths[i].Name)
	w.line(`uniform token type = "linear"`)
	w.line(fmt.Sprintf("int[] curveVertexCounts = [%d]", len(points[0])/3))
	of := func(f int) []float32 { return points[min(f, len(points)-1)] }
	b.value(w, "float3[] extent", len(points) == 1, func(f int) { w.extent(of(f)) })
	b.value(w, "point3f[] points", len(points) == 1, func(f int) { w.list(of(f), 3) })
	b.moves(w, b.lines[i])
	w.close()
}

// writer writes prims within one another.
type writer struct {
	*bufio.Writer
	names []map[string]bool // of the prims in each that is open
	buf   []byte

	finishes map[rig.Finish]string // the paths of materials
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

// mesh writes a mesh that keeps its form, with the materials of what it is of.
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
