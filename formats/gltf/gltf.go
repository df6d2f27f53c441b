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

	"bead/core/geom"
	"bead/core/rig"
)

// The parts of glTF's JSON that Bead writes (glTF 2.0 specification, chapter 5).
type document struct {
	Asset       asset        `json:"asset"`
	Scene       int          `json:"scene"`
	Scenes      []sceneNodes `json:"scenes"`
	Nodes       []node       `json:"nodes,omitempty"`
	Meshes      []mesh       `json:"meshes,omitempty"`
	Materials   []material   `json:"materials,omitempty"`
	Animations  []animation  `json:"animations,omitempty"`
	Accessors   []accessor   `json:"accessors,omitempty"`
	BufferViews []bufferView `json:"bufferViews,omitempty"`
	Buffers     []buffer     `json:"buffers,omitempty"`
}

type asset struct {
	Version   string `json:"version"`
	Generator string `json:"generator"`
}

type sceneNodes struct {
	Name  string `json:"name"`
	Nodes []int  `json:"nodes,omitempty"`
}

type node struct {
	Name        string      `json:"name"`
	Mesh        *int        `json:"mesh,omitempty"`
	Children    []int       `json:"children,omitempty"`
	Translation *[3]float32 `json:"translation,omitempty"`
	Rotation    *[4]float32 `json:"rotation,omitempty"`
	Scale       *[3]float32 `json:"scale,omitempty"`
}

type mesh struct {
	Name       string      `json:"name"`
	Primitives []primitive `json:"primitives"`
}

type primitive struct {
	Attributes map[string]int `json:"attributes"`
	Indices    *int           `json:"indices,omitempty"`
	Material   int            `json:"material"`
	Mode       *int           `json:"mode,omitempty"` // triangles where left out
}

type material struct {
	Name string `json:"name"`
	PBR  pbr    `json:"pbrMetallicRoughness"`
}

type pbr struct {
	BaseColor [4]float64 `json:"baseColorFactor"`
	Metallic  float64    `json:"metallicFactor"`
	Roughness float64    `json:"roughnessFactor"`
}

type animation struct {
	Name     string    `json:"name"`
	Channels []channel `json:"channels"`
	Samplers []sampler `json:"samplers"`
}

type channel struct {
	Sampler int    `json:"sampler"`
	Target  target `json:"target"`
}

type target struct {
	Node int    `json:"node"`
	Path string `json:"path"`
}

type sampler struct {
	Input         int    `json:"input"`
	Output        int    `json:"output"`
	Interpolation string `json:"interpolation"`
}

type accessor struct {
	BufferView    int       `json:"bufferView"`
	ByteOffset    int       `json:"byteOffset,omitempty"`
	ComponentType int       `json:"componentType"`
	Count         int       `json:"count"`
	Type          string    `json:"type"`
	Min           []float32 `json:"min,omitempty"`
	Max           []float32 `json:"max,omitempty"`
}

type bufferView struct {
	Buffer     int `json:"buffer"`
	ByteOffset int `json:"byteOffset,omitempty"`
	ByteLength int `json:"byteLength"`
	Target     int `json:"target,omitempty"`
}

type buffer struct {
	URI        string `json:"uri,omitempty"`
	ByteLength int    `json:"byteLength"`
}

const (
	typeUint32   = 5125
	typeFloat32  = 5126
	targetVertex = 34962
	targetIndex  = 34963
)

// slate is the pieces' colour; glTF factors are linear.
var slate = [4]float64{0.35, 0.40, 0.42, 1}

// kelp is the colour of paths.
var kelp = [4]float64{0.027, 0.174, 0.133, 1}

// Baker gathers frames and writes the file when it is closed.
type Baker struct {
	scene  *rig.Scene
	frames int
	binary bool
	paths  bool
	doc    document
	bin    []byte
	tracks []track // a piece of a rig, in order
}

// track is what one piece does over the frames.
type track struct {
	translation, rotation []float32
	scale                 [3]float32
}

// NewBaker prepares a file for the given number of frames. With paths the scene's
// paths go along as line strips within their chord error.
func NewBaker(s *rig.Scene, frames int, binary, paths bool) *Baker {
	b := &Baker{scene: s, frames: frames, binary: binary, paths: paths}
	for i := range s.Trains {
		for range s.Trains[i].Layout.Count {
			b.tracks = append(b.tracks, track{
				translation: make([]float32, 0, 3*frames), rotation: make([]float32, 0, 4*frames),
			})
		}
	}
	return b
}

// Frame adds the next frame.
func (b *Baker) Frame(p *rig.Picture) {
	k := 0
	for i := range p.Rigs {
		x := p.Rigs[i].Transforms
		for o := 0; o < len(x); o += rig.Stride {
			t := &b.tracks[k]
			t.translation = append(t.translation, x[o:o+3]...)
			t.rotation = append(t.rotation, x[o+3:o+7]...)
			t.scale = [3]float32(x[o+7 : o+10])
			k++
		}
	}
}

// Close writes the file.
func (b *Baker) Close(w io.Writer) error {
	b.build()
	if b.binary {
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
	b.doc.Asset = asset{"2.0", "Bead"}
	b.doc.Scenes = []sceneNodes{{Name: d.Name}}
	used := map[int]int{} // part to mesh
	use := func(p int) int {
		if _, done := used[p]; !done {
			used[p] = len(b.doc.Meshes)
			b.addMesh(d.Parts[p].Name, b.scene.Parts[p].Mesh)
		}
		return used[p]
	}
	for i := range b.scene.Trains {
		use(b.scene.Trains[i].Part)
	}
	for i := range b.scene.Fixtures {
		if !d.Fixtures[i].Guide {
			use(b.scene.Fixtures[i].Part)
		}
	}
	anim := animation{Name: d.Name}
	times := -1
	if b.frames > 1 && len(b.tracks) > 0 {
		t := make([]float32, b.frames)
		for i := range t {
			t[i] = float32(float64(i) / b.scene.Clock.FPS)
		}
		times = b.addFloats(t, "SCALAR", 0, true)
	}
	k := 0
	for i := range b.scene.Trains {
		train := &b.scene.Trains[i]
		root := len(b.doc.Nodes)
		b.doc.Nodes = append(b.doc.Nodes, node{Name: d.Rigs[i].Name})
		b.doc.Scenes[0].Nodes = append(b.doc.Scenes[0].Nodes, root)
		// A piece that leaves an open path and comes in again at its start must not
		// be drawn on the way back.
		interpolation := "LINEAR"
		if train.ComesRound && !train.Curve.Closed() {
			interpolation = "STEP"
		}
		for piece := range train.Layout.Count {
			t := &b.tracks[k]
			k++
			at := len(b.doc.Nodes)
			m := used[train.Part]
			b.doc.Nodes[root].Children = append(b.doc.Nodes[root].Children, at)
			b.doc.Nodes = append(b.doc.Nodes, node{
				// Not "name 1": readers number nodes of one name that way themselves.
				Name: fmt.Sprintf("%s piece %d", d.Rigs[i].Name, piece+1), Mesh: &m,
				Translation: (*[3]float32)(t.translation), Rotation: (*[4]float32)(t.rotation), Scale: &t.scale,
			})
			if times < 0 {
				continue
			}
			for _, c := range []struct {
				path, kind string
				values     []float32
				width      int
			}{{"translation", "VEC3", t.translation, 3}, {"rotation", "VEC4", t.rotation, 4}} {
				if still(c.values, c.width) {
					continue // the node's own place says it all
				}
				anim.Channels = append(anim.Channels, channel{len(anim.Samplers), target{at, c.path}})
				anim.Samplers = append(anim.Samplers, sampler{times, b.addFloats(c.values, c.kind, 0, false), interpolation})
			}
		}
	}
	if len(anim.Channels) > 0 {
		b.doc.Animations = []animation{anim}
	} else if times >= 0 { // nothing moves: take the unused times back out
		b.doc.Accessors = b.doc.Accessors[:len(b.doc.Accessors)-1]
		v := b.doc.BufferViews[len(b.doc.BufferViews)-1]
		b.doc.BufferViews = b.doc.BufferViews[:len(b.doc.BufferViews)-1]
		b.bin = b.bin[:v.ByteOffset]
	}
	b.addStill(use)
	if len(b.bin) > 0 {
		b.doc.Buffers = []buffer{{ByteLength: len(b.bin)}}
	} else {
		b.doc.Buffers = nil
	}
}

// addStill adds what does not move: fixtures, and paths where they were asked for.
func (b *Baker) addStill(meshOf func(part int) int) {
	d := b.scene.Doc
	for i := range b.scene.Fixtures {
		f := &b.scene.Fixtures[i]
		if d.Fixtures[i].Guide {
			continue
		}
		m, x := meshOf(f.Part), f.Transform
		b.addRoot(node{Name: d.Fixtures[i].Name, Mesh: &m,
			Translation: (*[3]float32)(x[0:3]), Rotation: (*[4]float32)(x[3:7])})
	}
	if !b.paths || len(b.scene.Paths) == 0 {
		return
	}
	b.doc.Materials = append(b.doc.Materials, material{"path", pbr{kelp, 0, 1}})
	strip := modeLineStrip
	for i, c := range b.scene.Paths {
		points, _ := rig.Polyline(c, d.Paths[i].Chord(c.Length()))
		m := len(b.doc.Meshes)
		b.doc.Meshes = append(b.doc.Meshes, mesh{d.Paths[i].Name, []primitive{{
			Attributes: map[string]int{"POSITION": b.addFloats(points, "VEC3", targetVertex, true)},
			Material:   len(b.doc.Materials) - 1, Mode: &strip,
		}}})
		b.addRoot(node{Name: d.Paths[i].Name, Mesh: &m})
	}
}

func (b *Baker) addRoot(n node) {
	b.doc.Scenes[0].Nodes = append(b.doc.Scenes[0].Nodes, len(b.doc.Nodes))
	b.doc.Nodes = append(b.doc.Nodes, n)
}

func still(v []float32, width int) bool {
	for i := width; i < len(v); i++ {
		if v[i] != v[i-width] {
			return false
		}
	}
	return true
}

func (b *Baker) addMesh(name string, m *geom.Mesh) {
	pos := b.addFloats(m.Positions, "VEC3", targetVertex, true)
	nor := b.addFloats(m.Normals, "VEC3", targetVertex, false)
	v := b.view(4*len(m.Indices), targetIndex)
	for _, i := range m.Indices {
		b.bin = binary.LittleEndian.AppendUint32(b.bin, i)
	}
	idx := b.accessor(accessor{BufferView: v, ComponentType: typeUint32, Count: len(m.Indices), Type: "SCALAR"})
	b.doc.Materials = append(b.doc.Materials, material{name, pbr{slate, 0, 0.85}})
	b.doc.Meshes = append(b.doc.Meshes, mesh{name, []primitive{{
		Attributes: map[string]int{"POSITION": pos, "NORMAL": nor}, Indices: &idx, Material: len(b.doc.Materials) - 1,
	}}})
}

func (b *Baker) accessor(a accessor) int {
	b.doc.Accessors = append(b.doc.Accessors, a)
	return len(b.doc.Accessors) - 1
}

func (b *Baker) view(bytes, target int) int {
	b.doc.BufferViews = append(b.doc.BufferViews, bufferView{ByteOffset: len(b.bin), ByteLength: bytes, Target: target})
	return len(b.doc.BufferViews) - 1
}

var widths = map[string]int{"SCALAR": 1, "VEC3": 3, "VEC4": 4}

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
