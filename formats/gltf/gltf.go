// Package gltf writes baked scenes as glTF 2.0 (Khronos), binary or text: a mesh
// a part, a node a piece, and one animation with a key on every frame.
package gltf

import (
	"encoding/base64"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"io"
	"math"

	"bead/core/figure"
	"bead/core/rig"
)

// generator is the program's name in files.
const generator = "Bead"

// kelp is the colour of paths; glTF factors are linear.
var kelp = [4]float64{0.027, 0.174, 0.133, 1}

// Options says what goes into a file.
type Options struct {
	Frames int
	// Stopped, which may be nil, is polled while the file is prepared; true cancels it.
	Stopped func() bool
	Binary  bool   // GLB, else text
	Paths   bool   // the scene's paths go along as line strips within their chord error
	Skip    []bool // of each rig: left out
	// Single gives every piece a mesh of its own, for rigid-body solvers.
	Single bool
	// Centred puts the origin of single pieces at their centre instead of their pivot.
	Centred bool
	// Exact gives bodies that bend as a morph target a frame instead of joints.
	Exact bool
	// InPlace keeps the roots of figures where they are at first, but for their height.
	InPlace bool
	// OwnKeys gives figures the keys that are their own, and as many more as keep each joint
	// within Tolerance, metres; First is the number of the first frame.
	OwnKeys   bool
	Tolerance float64
	First     int
	// Step is the number of frames from key to key, 0: one. Start is the time of the first key, seconds.
	Step  int
	Start float64
	// Flat puts everything into the world, beside the carriers instead of below them.
	Flat bool
	// PerRig makes an animation of each group instead of one of all.
	PerRig bool
	// Instanced gathers the pieces of a rig that stand still as instances (EXT_mesh_gpu_instancing).
	Instanced bool
	// ImageSizes says the sizes of images beside them (KHR_texture_transform), with texture coordinates in
	// metres, instead of in the coordinates.
	ImageSizes bool
	// Extras go along with the scene.
	Extras map[string]any
	// Image is the name, the media type and the bytes of a material's image by its asset; it may be nil
	// of a scene without.
	Image func(asset string) (name, media string, data []byte)
	// Say, which may be nil, is called with the error of joints.
	Say func(string)
}

// Baker gathers frames and writes the file when it is closed.
type Baker struct {
	Options
	scene   *rig.Scene
	groups  []rig.Group
	doc     document
	bin     []byte
	anim    *animation
	times   int               // accessor of the times, -1 while there is none
	rigid   [][]track         // of each group, of each thing
	bodies  [][]bodyTrack     // of each group of surfaces
	figures [][]*figure.Track // of each group of figures
	taken   int               // frames
	lines   []track           // of each path
	cameras []cameraTrack     // of each camera
	bearers []track           // of each carrier
	parents []int             // of each carrier
	bearing []int             // the node of each carrier
	meshes  map[made]int
	singles map[*rig.Model]int // the first mesh of a thing of its own

	finishes map[rig.Finish]int
	images   map[string]int // the texture of each asset
}

// made is what things share a mesh by.
type made struct {
	model  *rig.Model
	colour string
}

// track is what one node does over the frames.
type track struct{ Translation, Rotation, Scale []float32 }

func (t *track) add(x []float32) {
	t.Translation = append(t.Translation, x[:3]...)
	t.Rotation = append(t.Rotation, x[3:7]...)
	if len(x) > 7 {
		t.Scale = append(t.Scale, x[7:10]...)
	}
}

// NewBaker prepares a file. A path that is deformed over time goes along as it is in
// the first frame of the range.
func NewBaker(s *rig.Scene, o Options) *Baker {
	b := &Baker{Options: o, scene: s, times: -1, lines: make([]track, len(s.Paths)), meshes: map[made]int{}, singles: map[*rig.Model]int{}, finishes: map[rig.Finish]int{}, images: map[string]int{}}
	b.Step = max(b.Step, 1)
	b.groups, b.parents, b.bearers = s.Groups(o.Skip), s.Parents(), make([]track, len(s.Doc.Carriers))
	if o.Flat {
		rig.Flat(b.groups)
	}
	b.rigid, b.bodies, b.figures = make([][]track, len(b.groups)), make([][]bodyTrack, len(b.groups)), make([][]*figure.Track, len(b.groups))
	for i := range b.groups {
		g := &b.groups[i]
		if b.jointed(g) {
			f, scale := g.Figure()
			for range g.Things {
				b.figures[i] = append(b.figures[i], figure.NewTrack(f, scale))
			}
			continue
		}
		if g.Surfaces {
			b.bodies[i] = b.bodyTracks(g)
			continue
		}
		b.rigid[i] = make([]track, len(g.Things))
		for k := range b.rigid[i] {
			b.rigid[i][k] = track{make([]float32, 0, 3*o.Frames), make([]float32, 0, 4*o.Frames), nil}
			if g.Scaled {
				b.rigid[i][k].Scale = make([]float32, 0, 3*o.Frames)
			}
		}
	}
	return b
}

// Frame adds the next frame.
func (b *Baker) Frame(p *rig.Picture) {
	for i := range b.groups {
		g := &b.groups[i]
		if b.jointed(g) {
			b.figureFrame(p, i)
			continue
		}
		if g.Surfaces {
			b.bodyFrame(p, i)
			continue
		}
		for k := range g.Things {
			x := g.PlaceUnder(p, k, b.ownMesh(g) && b.Centred)
			if g.Scaled {
				b.rigid[i][k].add(x[:])
			} else {
				b.rigid[i][k].add(x[:7])
			}
		}
	}
	for i := range b.lines {
		at := p.Under(b.under(b.scene.PathParent(i)), p.Paths[i])
		b.lines[i].add(at[:])
	}
	b.carrierFrame(p)
	b.cameraFrame(p)
	b.taken++
}

// jointed reports whether a group is written as figures of joints.
func (b *Baker) jointed(g *rig.Group) bool { return g.Jointed && !b.Exact }

// ownMesh reports whether each thing of a group gets a mesh of its own.
func (b *Baker) ownMesh(g *rig.Group) bool { return b.Single && g.Scaled }

// Close writes the file.
func (b *Baker) Close(w io.Writer) error {
	if b.taken != b.Frames {
		return errDamaged
	}
	b.load()
	b.build()
	if b.Binary {
		return b.writeGLB(w)
	}
	if len(b.bin) > 0 {
		b.doc.Buffers[0].URI = "data:application/octet-stream;base64," + base64.StdEncoding.EncodeToString(b.bin)
	}
	enc := json.NewEncoder(w)
	enc.SetIndent("", " ")
	return enc.Encode(&b.doc)
}

func (b *Baker) build() {
	d := b.scene.Doc
	b.doc.Asset = asset{"2.0", generator}
	b.doc.Scenes = []sceneNodes{{Name: d.Name, Extras: b.Extras}}
	for i := range b.groups {
		g := &b.groups[i]
		for k := range g.Things { // parts first; what was made for a belt with it
			if t := &g.Things[k]; t.Model.Part && !g.Surfaces && !b.ownMesh(g) {
				b.meshOf(t)
			}
		}
	}
	b.animate(d.Name)
	b.addCarriers()
	for i := range b.groups {
		if b.PerRig {
			b.animate(b.groups[i].Name)
		}
		b.addGroup(i)
	}
	if b.PerRig {
		b.animate("Paths and cameras")
	}
	b.addLines()
	b.addCameras()
	b.animate("")
	if len(b.bin) > 0 {
		b.doc.Buffers = []buffer{{ByteLength: len(b.bin)}}
	} else {
		b.doc.Buffers = nil
	}
}

// animate begins another animation; one in which nothing moves is left out.
func (b *Baker) animate(name string) {
	if b.anim != nil && len(b.anim.Channels) > 0 {
		b.doc.Animations = append(b.doc.Animations, *b.anim)
	}
	b.anim = &animation{Name: name}
}

// meshOf is the number of a thing's mesh; things of one model and one tint share it.
func (b *Baker) meshOf(t *rig.Thing) int {
	key := made{t.Model, t.Colour}
	if n, done := b.meshes[key]; done {
		return n
	}
	var n int
	if plain, done := b.meshes[made{t.Model, ""}]; done { // the same numbers in another colour
		n = b.again(t.Model.Name+" "+t.Colour[1:], plain, t)
	} else {
		n = b.addMesh(t.Model.Name, t, t.Model.Mesh())
	}
	b.meshes[key] = n
	return n
}

// again is a mesh with the numbers of another, of a thing that may have another tint.
func (b *Baker) again(name string, of int, t *rig.Thing) int {
	out := mesh{Name: name}
	for k, p := range b.doc.Meshes[of].Primitives {
		_, shaded := p.Attributes["COLOR_0"]
		p.Material = b.finish(t.Finish(k), shaded)
		out.Primitives = append(out.Primitives, p)
	}
	b.doc.Meshes = append(b.doc.Meshes, out)
	return len(b.doc.Meshes) - 1
}

// addGroup adds the things of a group below a node of its own, one that is alone without.
func (b *Baker) addGroup(i int) {
	g := &b.groups[i]
	root := len(b.doc.Nodes)
	b.hang(root, g.Carrier)
	if !g.Alone {
		b.doc.Nodes = append(b.doc.Nodes, node{Name: g.Name, Extras: b.facts(g)})
	}
	if b.jointed(g) {
		b.addFigures(i, root)
		return
	}
	if g.Surfaces {
		b.addBodies(i, root)
		return
	}
	interpolation := "LINEAR"
	if g.Jumps {
		interpolation = "STEP"
	}
	if b.Instanced && !g.Alone && !b.Single && b.instances(i, root) {
		return
	}
	for k := range g.Things {
		t := &g.Things[k]
		var m int
		if b.ownMesh(g) {
			m = b.addSingle(t)
		} else {
			m = b.meshOf(t)
		}
		if !g.Alone {
			b.doc.Nodes[root].Children = append(b.doc.Nodes[root].Children, len(b.doc.Nodes))
		}
		b.add(t.Name, &m, &b.rigid[i][k], interpolation)
	}
}

// add adds a node with a mesh that moves along a track: animation channels for what changes, the node's own
// transform for what does not.
func (b *Baker) add(name string, mesh *int, t *track, interpolation string) {
	at := len(b.doc.Nodes)
	n := node{Name: name, Mesh: mesh, Translation: (*[3]float32)(t.Translation), Rotation: (*[4]float32)(t.Rotation)}
	if len(t.Scale) > 0 {
		n.Scale = (*[3]float32)(t.Scale)
	}
	b.doc.Nodes = append(b.doc.Nodes, n)
	for _, c := range []struct {
		path, kind, interpolation string
		values                    []float32
		width                     int
	}{
		{"translation", "VEC3", interpolation, t.Translation, 3},
		{"rotation", "VEC4", interpolation, t.Rotation, 4},
		{"scale", "VEC3", "STEP", t.Scale, 3}, // pieces come and go at once
	} {
		if still(c.values, c.width) {
			continue
		}
		b.timesOf()
		b.anim.Channels = append(b.anim.Channels, channel{len(b.anim.Samplers), target{at, c.path}})
		b.anim.Samplers = append(b.anim.Samplers, sampler{b.times, b.addFloats(c.values, c.kind, 0, false), c.interpolation})
	}
}

// time of key i, seconds.
func (b *Baker) time(i int) float64 { return b.Start + float64(i*b.Step)/b.scene.Clock.FPS }

// timesOf is the accessor of the times.
func (b *Baker) timesOf() int {
	if b.times < 0 {
		at := make([]float32, b.Frames)
		for i := range at {
			at[i] = float32(b.time(i))
		}
		b.times = b.addFloats(at, "SCALAR", 0, true)
	}
	return b.times
}

// addLines adds paths, where they were asked for.
func (b *Baker) addLines() {
	if !b.Paths || len(b.scene.Paths) == 0 {
		return
	}
	d := b.scene.Doc
	b.doc.Materials = append(b.doc.Materials, material{Name: "path", PBR: pbr{BaseColor: kelp, Roughness: 1}})
	strip := modeLineStrip
	for i, c := range b.scene.Paths {
		points, _ := c.Polyline(d.Paths[i].Chord(c.Length()))
		m := len(b.doc.Meshes)
		b.doc.Meshes = append(b.doc.Meshes, mesh{Name: d.Paths[i].Name, Primitives: []primitive{{
			Attributes: map[string]int{"POSITION": b.addFloats(points, "VEC3", targetVertex, true)},
			Material:   len(b.doc.Materials) - 1, Mode: &strip,
		}}})
		b.hang(len(b.doc.Nodes), b.under(b.scene.PathParent(i)))
		b.add(d.Paths[i].Name, &m, &b.lines[i], "LINEAR")
	}
}

func still(v []float32, width int) bool {
	for i := width; i < len(v); i++ {
		if v[i] != v[i-width] {
			return false
		}
	}
	return true
}

func (b *Baker) accessor(a accessor) int {
	b.doc.Accessors = append(b.doc.Accessors, a)
	return len(b.doc.Accessors) - 1
}

func (b *Baker) view(bytes, target int) int {
	b.doc.BufferViews = append(b.doc.BufferViews, bufferView{ByteOffset: len(b.bin), ByteLength: bytes, Target: target})
	return len(b.doc.BufferViews) - 1
}

var widths = map[string]int{"SCALAR": 1, "VEC2": 2, "VEC3": 3, "VEC4": 4, "MAT4": 16}

func (b *Baker) addFloats(v []float32, kind string, target int, bounds bool) int {
	a := accessor{BufferView: b.view(4*len(v), target), ComponentType: typeFloat32, Count: len(v) / widths[kind], Type: kind}
	for _, x := range v {
		b.bin = binary.LittleEndian.AppendUint32(b.bin, math.Float32bits(x))
	}
	if bounds {
		w := widths[kind]
		a.Min, a.Max = append([]float32(nil), v[:w]...), append([]float32(nil), v[:w]...)
		for i, x := range v {
			a.Min[i%w], a.Max[i%w] = min(a.Min[i%w], x), max(a.Max[i%w], x)
		}
	}
	return b.accessor(a)
}

// writeGLB writes the container of glTF 2.0, chapter 4.4: a header and two chunks
// padded to four bytes, the first with spaces, the second with zeros.
func (b *Baker) writeGLB(w io.Writer) error {
	text, err := json.Marshal(&b.doc)
	if err != nil {
		return err
	}
	for len(text)%4 != 0 {
		text = append(text, ' ')
	}
	for len(b.bin)%4 != 0 {
		b.bin = append(b.bin, 0)
	}
	total := 12 + 8 + len(text)
	if len(b.bin) > 0 {
		total += 8 + len(b.bin)
	}
	if total > math.MaxUint32 {
		return fmt.Errorf("the file would have %d bytes: GLB holds up to %d; bake fewer frames", total, uint32(math.MaxUint32))
	}
	head := make([]byte, 0, 20)
	for _, v := range []uint32{0x46546C67, 2, uint32(total), uint32(len(text)), 0x4E4F534A} { // "glTF", "JSON"
		head = binary.LittleEndian.AppendUint32(head, v)
	}
	parts := [][]byte{head, text}
	if len(b.bin) > 0 {
		chunk := binary.LittleEndian.AppendUint32(nil, uint32(len(b.bin)))
		parts = append(parts, binary.LittleEndian.AppendUint32(chunk, 0x004E4942), b.bin) // "BIN"
	}
	for _, p := range parts {
		if _, err := w.Write(p); err != nil {
			return err
		}
	}
	return nil
}
