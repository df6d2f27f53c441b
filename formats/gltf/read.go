package gltf

import (
	"bytes"
	"context"
	"encoding/base64"
	"encoding/binary"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"strings"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/surface"
)

// Limits of what is read.
const (
	MaxBytes      = 64 << 20
	maxNodes      = 20_000
	maxDepth      = 64
	maxCoordinate = 1e9
	maxSpans      = 200_000   // of all lines
	maxElements   = 3_000_000 // vertices, indices and morphed vertices of all nodes
)

// source is what Bead reads of glTF's JSON. Numbers of things are pointers, for 0
// is a thing.
type source struct {
	Asset struct {
		Version, Generator string
	} `json:"asset"`
	Extensions []string `json:"extensionsRequired"`
	Scene      *int     `json:"scene"`
	Scenes     []struct {
		Name   string
		Nodes  []int
		Extras json.RawMessage
	} `json:"scenes"`
	Nodes  []sourceNode `json:"nodes"`
	Meshes []struct {
		Name       string
		Primitives []sourcePrimitive
		Extras     struct {
			TargetNames []string
			Part        *sourcePart
		} `json:"extras"`
	} `json:"meshes"`
	Accessors   []sourceAccessor `json:"accessors"`
	BufferViews []struct {
		Buffer, ByteOffset, ByteLength, ByteStride int
	} `json:"bufferViews"`
	Buffers []struct {
		URI        *string `json:"uri"`
		ByteLength int     `json:"byteLength"`
	} `json:"buffers"`
	Skins []struct {
		Joints []int
		Binds  *int `json:"inverseBindMatrices"`
	} `json:"skins"`
	Animations []struct {
		Channels []struct {
			Sampler int
			Target  struct {
				Node *int
				Path string
			}
		}
		Samplers []struct {
			Input, Output int
			Interpolation string
		}
	} `json:"animations"`
	Materials []sourceMaterial `json:"materials"`
	Textures  []struct {
		Source *int `json:"source"`
	} `json:"textures"`
	Images []struct {
		Name  string  `json:"name"`
		URI   *string `json:"uri"`
		Media string  `json:"mimeType"`
		View  *int    `json:"bufferView"`
	} `json:"images"`
}

type sourceNode struct {
	Name        string
	Mesh, Skin  *int
	Children    []int
	Matrix      *[16]float64
	Translation *[3]float64
	Rotation    *[4]float64
	Scale       *[3]float64
	Extras      json.RawMessage // of which only tips are read
}

type sourcePrimitive struct {
	Attributes map[string]int
	Indices    *int
	Mode       *int
	Material   *int
	Targets    []map[string]int
}

type sourceAccessor struct {
	BufferView    *int
	ByteOffset    int
	ComponentType int
	Count         int
	Type          string
	Sparse        *json.RawMessage
}

// The primitive modes of glTF 2.0, 5.24.4.
const (
	modeLines = 1 + iota
	modeLineLoop
	modeLineStrip
	modeTriangles
	modeStrip
	modeFan
)

// maxBlends bounds the morph targets that are read.
const maxBlends = 64

// ReadMesh returns the triangles of the file's scene as one mesh, each node where it
// stands, with its morph targets as blends: those of one name are one. Any bytes give a mesh or an error.
func ReadMesh(ctx context.Context, data []byte) (*surface.Mesh, error) {
	r, err := open(data)
	if err != nil {
		return nil, err
	}
	var points []geom.Vec
	var faces [][]int32
	var names []string
	moves := map[string][]geom.Vec{}
	var d dresser
	err = r.primitives(ctx, func(_ string, mode int, pos []geom.Vec, index []int32, morphs []morph) error {
		for _, x := range morphs {
			if mode < modeTriangles {
				break
			}
			if _, known := moves[x.name]; !known {
				if len(names) == maxBlends {
					return fmt.Errorf("more than %d morph targets: up to so many are read", maxBlends)
				}
				names = append(names, x.name)
			}
			list := moves[x.name]
			moves[x.name] = append(append(list, make([]geom.Vec, len(points)-len(list))...), x.move...)
		}
		if len(points)+len(pos) > surface.MaxPoints {
			return fmt.Errorf("more than %d vertices: up to so many are read", surface.MaxPoints)
		}
		first := int32(len(points))
		tri := func(a, b, c int32) { faces = append(faces, []int32{first + a, first + b, first + c}) }
		switch mode {
		case modeTriangles:
			for i := 2; i < len(index); i += 3 {
				tri(index[i-2], index[i-1], index[i])
			}
		case modeStrip:
			for i := 2; i < len(index); i++ {
				tri(index[i-2], index[i-1+i%2], index[i-i%2])
			}
		case modeFan:
			for i := 2; i < len(index); i++ {
				tri(index[0], index[i-1], index[i])
			}
		default:
			return nil
		}
		points = append(points, pos...)
		return d.dress(r, faces[len(d.group):], first)
	})
	if err != nil {
		return nil, err
	}
	if len(faces) == 0 {
		return nil, errors.New("the file's scene holds no triangles")
	}
	mesh, err := surface.NewDressed(points, faces, d.of())
	if err != nil {
		return nil, err
	}
	for _, name := range names {
		list := moves[name]
		if err := mesh.AddBlend(name, append(list, make([]geom.Vec, len(points)-len(list))...)); err != nil {
			return nil, err
		}
	}
	return mesh, nil
}

// morph is a morph target of a primitive: how its vertices move, in the world.
type morph struct {
	name string
	move []geom.Vec
}

// ReadLines returns the line strips, loops and runs of lines of the file's scene as
// straight-sided paths. Any bytes give paths or an error.
func ReadLines(ctx context.Context, data []byte) ([]path.Named, error) {
	r, err := open(data)
	if err != nil {
		return nil, err
	}
	var out []path.Named
	spans := 0
	err = r.primitives(ctx, func(name string, mode int, pos []geom.Vec, index []int32, _ []morph) error {
		if mode < modeLines || mode > modeLineStrip || len(index) < 2 {
			return nil
		}
		if spans+len(index) > maxSpans {
			return fmt.Errorf("the lines have more than %d straights in all: up to so many are read", maxSpans)
		}
		add := func(index []int32, closed bool) {
			pts := make([]geom.Vec, len(index))
			for i, k := range index {
				pts[i] = pos[k]
			}
			if n := len(pts); n > 3 && pts[0] == pts[n-1] {
				pts, closed = pts[:n-1], true
			}
			label := name
			if label == "" {
				label = fmt.Sprintf("line %d", len(out)+1)
			}
			spans += len(pts)
			out = append(out, path.Named{Name: label, Spans: path.Polyline(pts, closed), Closed: closed})
		}
		if mode != modeLines {
			add(index, mode == modeLineLoop)
			return nil
		}
		// Pairs that go on where the one before ended are one path.
		for i := 0; i+1 < len(index); {
			run := []int32{index[i], index[i+1]}
			for i += 2; i+1 < len(index) && index[i] == run[len(run)-1]; i += 2 {
				run = append(run, index[i+1])
			}
			add(run, false)
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	if len(out) == 0 {
		return nil, errors.New("the file's scene holds no lines: glTF with lines, line loops or line strips is accepted")
	}
	return out, nil
}

type reader struct {
	src          source
	now          *sourcePrimitive // that is being given
	buffers      [][]byte
	elementsRead int
}

// open reads the container, the JSON and the buffers that lie in the file itself.
func open(data []byte) (*reader, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the file has %d bytes: at most %d are read", len(data), MaxBytes)
	}
	text, bin := data, []byte(nil)
	if bytes.HasPrefix(data, []byte("glTF")) {
		var err error
		if text, bin, err = chunks(data); err != nil {
			return nil, err
		}
	}
	r := &reader{}
	if err := json.Unmarshal(text, &r.src); err != nil {
		return nil, fmt.Errorf("not glTF: %w", err)
	}
	if !strings.HasPrefix(r.src.Asset.Version, "2.") {
		return nil, fmt.Errorf("glTF version %q is not read: 2.0 is", r.src.Asset.Version)
	}
	if len(r.src.Extensions) > 0 {
		return nil, fmt.Errorf("the file needs the extension %s, which is not read: export it without", r.src.Extensions[0])
	}
	for i, b := range r.src.Buffers {
		var bytes []byte
		switch {
		case b.URI == nil && i == 0 && bin != nil:
			bytes = bin
		case b.URI != nil && strings.HasPrefix(*b.URI, "data:"):
			_, code, ok := strings.Cut(*b.URI, ";base64,")
			decoded, err := base64.StdEncoding.DecodeString(code)
			if !ok || err != nil {
				return nil, fmt.Errorf("buffer %d is not base64", i)
			}
			bytes = decoded
		default:
			return nil, fmt.Errorf("buffer %d lies in a file of its own: a .glb, or .gltf with its buffers inside, is accepted", i)
		}
		if b.ByteLength < 0 || b.ByteLength > len(bytes) {
			return nil, fmt.Errorf("buffer %d says it has %d bytes and has %d", i, b.ByteLength, len(bytes))
		}
		r.buffers = append(r.buffers, bytes)
	}
	return r, nil
}

// chunks takes a GLB apart (glTF 2.0, 4.4).
func chunks(data []byte) (text, bin []byte, err error) {
	cut := errors.New("the GLB is cut off or not whole")
	if len(data) < 20 || binary.LittleEndian.Uint32(data[4:]) != 2 {
		return nil, nil, errors.New("not a GLB of version 2")
	}
	for at := 12; at+8 <= len(data); {
		n := int64(binary.LittleEndian.Uint32(data[at:]))
		kind := binary.LittleEndian.Uint32(data[at+4:])
		if at += 8; n > int64(len(data)-at) {
			return nil, nil, cut
		}
		switch chunk := data[at : at+int(n)]; {
		case kind == 0x4E4F534A && text == nil:
			text = chunk
		case kind == 0x004E4942 && bin == nil:
			bin = chunk
		}
		at += int(n)
	}
	if text == nil {
		return nil, nil, cut
	}
	return text, bin, nil
}

// primitives gives every primitive of the scene's nodes to take, its positions in
// the world.
func (r *reader) primitives(ctx context.Context, take func(name string, mode int, pos []geom.Vec, index []int32, morphs []morph) error) error {
	var roots []int
	switch k := r.src.Scene; {
	case k != nil && *k >= 0 && *k < len(r.src.Scenes):
		roots = r.src.Scenes[*k].Nodes
	case len(r.src.Scenes) > 0:
		roots = r.src.Scenes[0].Nodes
	default:
		for i := range r.src.Nodes {
			roots = append(roots, i)
		}
	}
	visited := 0
	var visit func(k int, at affine, depth int) error
	visit = func(k int, at affine, depth int) error {
		if visited++; k < 0 || k >= len(r.src.Nodes) || depth > maxDepth || visited > maxNodes {
			return fmt.Errorf("node %d is not there, too deep or one too many", k)
		}
		if err := ctx.Err(); err != nil {
			return err
		}
		n := &r.src.Nodes[k]
		at = at.times(n.place())
		if n.Mesh != nil {
			if *n.Mesh < 0 || *n.Mesh >= len(r.src.Meshes) {
				return fmt.Errorf("node %d names mesh %d, which is not there", k, *n.Mesh)
			}
			m := &r.src.Meshes[*n.Mesh]
			for i := range m.Primitives {
				name := n.Name
				if name == "" {
					name = m.Name
				}
				if err := r.primitive(&m.Primitives[i], name, m.Extras.TargetNames, at, take); err != nil {
					return fmt.Errorf("mesh %d, primitive %d: %w", *n.Mesh, i, err)
				}
			}
		}
		for _, c := range n.Children {
			if err := visit(c, at, depth+1); err != nil {
				return err
			}
		}
		return nil
	}
	for _, k := range roots {
		if err := visit(k, (&sourceNode{}).place(), 0); err != nil {
			return err
		}
	}
	return nil
}

func (r *reader) primitive(p *sourcePrimitive, name string, targets []string, at affine, take func(string, int, []geom.Vec, []int32, []morph) error) error {
	mode := modeTriangles
	if p.Mode != nil {
		mode = *p.Mode
	}
	k, given := p.Attributes["POSITION"]
	if !given {
		return nil
	}
	if err := r.spend(k, p); err != nil {
		return err
	}
	flat, err := r.floats(k)
	if err != nil {
		return err
	}
	pos := make([]geom.Vec, len(flat)/3)
	for i := range pos {
		p := at.point(geom.V(flat[3*i], flat[3*i+1], flat[3*i+2]))
		if !p.IsFinite() || max(math.Abs(p.X), math.Abs(p.Y), math.Abs(p.Z)) > maxCoordinate {
			return fmt.Errorf("vertex %d is not a place within ±1e9", i)
		}
		pos[i] = p
	}
	index := make([]int32, len(pos))
	for i := range index {
		index[i] = int32(i)
	}
	if p.Indices != nil {
		if index, err = r.indices(*p.Indices, len(pos)); err != nil {
			return err
		}
	}
	var morphs []morph
	for i, x := range p.Targets {
		k, given := x["POSITION"]
		if !given {
			continue
		}
		if len(morphs) == maxBlends {
			return fmt.Errorf("more than %d morph targets: up to so many are read", maxBlends)
		}
		flat, err := r.floats(k)
		if err != nil {
			return fmt.Errorf("morph target %d: %w", i, err)
		}
		if len(flat) != 3*len(pos) {
			return fmt.Errorf("morph target %d moves %d vertices of %d", i, len(flat)/3, len(pos))
		}
		m := morph{fmt.Sprintf("blend %d", i+1), make([]geom.Vec, len(pos))}
		if i < len(targets) && targets[i] != "" && len(targets[i]) <= 120 {
			m.name = targets[i]
		}
		for v := range m.move {
			m.move[v] = at.vector(geom.V(flat[3*v], flat[3*v+1], flat[3*v+2]))
			if !m.move[v].IsFinite() || m.move[v].Norm() > maxCoordinate {
				return fmt.Errorf("morph target %d moves vertex %d to nowhere", i, v)
			}
		}
		morphs = append(morphs, m)
	}
	r.now = p
	return take(name, mode, pos, index, morphs)
}

// spend counts what a primitive comes to before it is made: nodes may share one.
func (r *reader) spend(k int, p *sourcePrimitive) error {
	count := func(k, components int) {
		if a, _, _, err := r.elements(k, components); err == nil { // else it is said when it is read
			r.elementsRead += a.Count
		}
	}
	count(k, 3)
	if p.Indices != nil {
		count(*p.Indices, 1)
	}
	for range p.Targets {
		count(k, 3)
	}
	if r.elementsRead > maxElements {
		return fmt.Errorf("with it the nodes come to more than %d vertices, indices and morphed vertices: up to so many are read", maxElements)
	}
	return nil
}
