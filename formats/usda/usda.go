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

	"bead/core/figure"
	"bead/core/path"
	"bead/core/rig"
	"bead/formats/bones"
)

// Options says what goes into a file.
type Options struct {
	First, Frames int
	// Stopped, which may be nil, is polled while the file is prepared; true cancels it.
	Stopped func() bool
	Paths   bool   // the scene's paths go along as linear curves
	Skip    []bool // of each rig: left out
	Single  bool   // every piece has a mesh of its own instead of referring to its part
	Centred bool   // single pieces have their origin at their centre instead of their pivot
	InPlace bool   // the roots of figures stay where they are at first, but for their height
	// Exact gives bodies that bend with their points in every frame instead of as skeletons.
	Exact bool
	// Say, which may be nil, is called with the error of skeletons.
	Say func(string)
	// Density, above 0, makes single pieces rigid bodies for a solver, kg/m^3, as they stand in the
	// first frame.
	Density float64
	// Step is the number of frames from key to key, 0: one. Start is the time code of the first key.
	Step, Start int
	// Flat puts everything into the world, beside the carriers instead of below them.
	Flat bool
	// Instanced gathers the rigid pieces of a rig in one PointInstancer.
	Instanced bool
	// Facts go along with the layer.
	Facts map[string]any
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
	bent     [][]bones.Track   // of each group of bodies that leave as skeletons, of each thing
	worst    float64           // by how much those of a group are off, metres
	most     int               // joints of one of them
	lines    []track
	cameras  []lens
	carriers []track
	parents  []int // of the carriers
	taken    int
	models   map[*rig.Model]string // the names of their prototypes
	curves   [][][]float32         // of each path, its points in each frame; one where it does not change
}

// track is what one prim does over the frames: ten floats a frame, as pieces have them.
type track []float32

type frame struct{ Positions, Normals []float32 }

// NewBaker prepares a file.
func NewBaker(s *rig.Scene, o Options) *Baker {
	b := &Baker{Options: o, scene: s, lines: make([]track, len(s.Paths)), curves: make([][][]float32, len(s.Paths))}
	b.Step, b.Flat = max(b.Step, 1), b.Flat || b.Density > 0 // a rigid body moves by itself
	b.groups, b.parents, b.carriers = s.Groups(o.Skip), s.Parents(), make([]track, len(s.Doc.Carriers))
	if b.Flat {
		rig.Flat(b.groups)
	}
	b.rigid, b.surfaces, b.figures = make([][]track, len(b.groups)), make([][][]frame, len(b.groups)), make([][]*figure.Track, len(b.groups))
	b.bent = make([][]bones.Track, len(b.groups))
	for i := range b.groups {
		b.rigid[i], b.surfaces[i] = make([]track, len(b.groups[i].Things)), make([][]frame, len(b.groups[i].Things))
		if g := &b.groups[i]; g.Surfaces && !b.exact(g) {
			b.bent[i] = bones.Of(s, g, b.Stopped)
		} else if g.Jointed {
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
				x := g.PlaceUnder(p, k, b.Single && b.Centred && g.Scaled)
				b.rigid[i][k] = append(b.rigid[i][k], x[:]...)
				continue
			}
			if g.Jointed {
				b.figures[i][k].Add(b.time(b.taken), g.JointsUnder(p, k))
				continue
			}
			if !b.exact(g) {
				b.bent[i][k].Frame(g, p, k)
				continue
			}
			positions, normals := g.VerticesUnder(p, k)
			b.surfaces[i][k] = append(b.surfaces[i][k], frame{positions, normals})
		}
	}
	b.cameraFrame(p)
	for i := range b.carriers {
		b.carriers[i] = placed(b.carriers[i], p.Under(b.under(b.parents[i]), p.Carriers[i]))
	}
	b.taken++
	if !b.Paths {
		return
	}
	for i, c := range b.scene.Paths {
		b.lines[i] = placed(b.lines[i], p.Under(b.under(b.scene.PathParent(i)), p.Paths[i]))
		if len(b.curves[i]) == 0 {
			points, _ := c.Polyline(b.scene.Doc.Paths[i].Chord(c.Length()))
			b.curves[i] = [][]float32{points}
			if p.Curves[i] != nil {
				b.curves[i][0] = evenly(p.Curves[i], len(points)/3)
			}
		} else if p.Curves[i] != nil {
			b.curves[i] = append(b.curves[i], evenly(p.Curves[i], len(b.curves[i][0])/3))
		}
	}
}

// time of key i of a figure, seconds.
func (b *Baker) time(i int) float64 { return float64(i*b.Step) / b.scene.Clock.FPS }

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
	return b.write(&writer{Writer: bufio.NewWriterSize(out, 1<<18)}, "")
}

// write writes all, or of a clip what changes; meta goes along with the scene's prim.
func (b *Baker) write(w *writer, meta string) error {
	if b.taken != b.Frames {
		return errDamaged
	}
	w.names, w.finishes = []map[string]bool{{}}, map[rig.Finish]string{}
	d, s := b.scene.Doc, b.scene
	fmt.Fprintf(w, "#usda 1.0\n(\n    defaultPrim = \"World\"\n    doc = %s\n    startTimeCode = %d\n    endTimeCode = %d\n    timeCodesPerSecond = %g\n    framesPerSecond = %g\n    metersPerUnit = 1\n    upAxis = \"Y\"\n%s)\n\n",
		quoted(d.Name+", baked by Bead"), b.Start, b.Start+(b.Frames-1)*b.Step, s.Clock.FPS, s.Clock.FPS, dictionary("customLayerData", b.Facts))
	w.openWith("Xform", "World", d.Name, meta)
	b.looks(w)
	w.open("Scope", "Parts", "")
	w.line(`token visibility = "invisible"`)
	b.models = map[*rig.Model]string{}
	for _, parts := range []bool{true, false} { // parts before what was made for a belt
		for i := range b.groups {
			for _, t := range b.groups[i].Things {
				if _, known := b.models[t.Model]; !known && t.Model.Part == parts && !b.groups[i].Surfaces && !b.own(&b.groups[i]) {
					b.models[t.Model] = b.part(w, &t)
				}
			}
		}
	}
	w.close()
	if b.Density > 0 {
		b.physics(w)
	}
	if err := b.below(w, rig.World); err != nil {
		return err
	}
	w.close()
	return w.Flush()
}

// under is the carrier that something is delivered below.
func (b *Baker) under(carrier int) int {
	if b.Flat {
		return rig.World
	}
	return carrier
}

// below writes what hangs from a carrier, or stands in the world.
func (b *Baker) below(w *writer, carrier int) error {
	for i := range b.carriers {
		if b.under(b.parents[i]) != carrier {
			continue
		}
		d := &b.scene.Doc.Carriers[i]
		w.openWith("Xform", d.Name, d.Name, custom(map[string]any{"carrier": d.ID}))
		b.moves(w, b.carriers[i])
		if err := b.below(w, i); err != nil {
			return err
		}
		w.close()
	}
	for i := range b.groups {
		if b.groups[i].Carrier == carrier {
			if err := b.group(w, i); err != nil {
				return err
			}
		}
	}
	for i := range b.curves {
		if b.under(b.scene.PathParent(i)) == carrier {
			b.curve(w, i)
		}
	}
	for i := range b.cameras {
		if b.under(b.scene.CameraParent(i)) == carrier {
			b.camera(w, i)
		}
	}
	return nil
}

// group writes the things of a group.
func (b *Baker) group(w *writer, i int) error {
	g := &b.groups[i]
	if !g.Alone {
		w.openWith("Xform", g.Name, g.Name, b.facts(g))
	}
	if b.instanced(g) {
		b.instancer(w, i)
	}
	for k := range g.Things {
		if b.instanced(g) {
			break
		}
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
		case g.Surfaces && !b.exact(g):
			b.bone(w, g, k, &b.bent[i][k])
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
			b.instance(w, t, b.models[t.Model], b.rigid[i][k])
		}
	}
	if !g.Alone {
		w.close()
	}
	if b.most > 0 && b.Say != nil && w.clip == nil {
		b.Say(fmt.Sprintf("%s: up to %d joints a body, at most %.2f mm off its true shape", g.Name, b.most, b.worst*1000))
	}
	b.worst, b.most = 0, 0
	return nil
}

// Prime takes in a frame that is not written, for the sides of the rotations of those that are.
func (b *Baker) Prime(p *rig.Picture) {
	for i := range b.bent {
		for k := range b.bent[i] {
			b.bent[i][k].Prime(&b.groups[i], p, k)
		}
	}
}

// own reports whether each thing of a group gets a mesh of its own.
func (b *Baker) own(g *rig.Group) bool { return b.Single && g.Scaled && !g.Surfaces }

// single writes a prim with a mesh of its own that moves along a track.
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

// instance writes a prim that refers to a part and moves along a track.
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
	from, to := 0, b.Frames
	if w.apart { // its samples lie in clips
		w.line(what)
		return
	}
	if c := w.clip; c != nil {
		static := w.Writer
		w.Writer = c.out
		defer func() { w.Writer = static }()
		c.begin()
		if c.manifest {
			w.line(what)
			return
		}
		from, to = c.from, c.to
	}
	w.indent()
	w.WriteString(what)
	w.WriteString(".timeSamples = {\n")
	for f := from; f < to; f++ {
		w.indent()
		fmt.Fprintf(w, "    %d: ", b.code(f))
		of(f)
		w.WriteString(",\n")
	}
	w.line("}")
}

// code is the time code of key f.
func (b *Baker) code(f int) int { return b.Start + f*b.Step }

// writeSurface writes what takes another form in every frame.
func (b *Baker) writeSurface(w *writer, t *rig.Thing, frames []frame) {
	same := true
	for f := 1; f < len(frames) && same; f++ {
		same = slices.Equal(frames[f].Positions, frames[0].Positions)
	}
	w.openWith("Mesh", t.Short, t.Short, bindingAPI)
	w.faces(t.Model.Mesh())
	w.bound(t, t.Model.Mesh())
	b.value(w, "float3[] extent", same, func(f int) { w.extent(frames[f].Positions) })
	b.value(w, "point3f[] points", same, func(f int) { w.list(frames[f].Positions, 3) })
	b.value(w, "normal3f[] normals", same, func(f int) { w.list(frames[f].Normals, 3) })
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
