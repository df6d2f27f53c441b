package gltf_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/report"
	"bead/core/surface"
	"bead/formats/gltf"
)

// What the baker writes the reader reads: paths as lines within their chord error,
// and a fixture's mesh with its rim.
func TestReadsWhatWasBaked(t *testing.T) {
	for _, binary := range []bool{true, false} {
		s, data := bake(t, "hull-rail", 2, binary)
		lines, err := gltf.ReadLines(context.Background(), data)
		if err != nil || len(lines) != len(s.Paths) || lines[0].Name != "Rail" || !lines[0].Closed {
			t.Fatalf("%d lines, %v", len(lines), err)
		}
		c, err := path.New(lines[0].Spans, true)
		if err != nil {
			t.Fatal(err)
		}
		if got, want := len(lines[0].Spans), report.Of(s).Paths[0].DrawnPoints-1; got != want {
			t.Errorf("%d chords, the page says %d", got, want)
		}
		chord := s.Doc.Paths[0].Chord(s.Paths[0].Length())
		dense := s.Paths[0].Evenly(20000)
		for i := range 200 {
			p, _ := c.At(c.Length() * float64(i) / 200)
			near := math.Inf(1)
			for _, q := range dense {
				near = min(near, p.Sub(q).Norm())
			}
			if near > 1.05*chord+3e-4 { // the dense points are 0.45 mm apart
				t.Fatalf("the line strays by %g, its chord error is %g", near, chord)
			}
		}
		m, err := gltf.ReadMesh(context.Background(), data)
		if err != nil {
			t.Fatal(err)
		}
		rim, err := m.Follow(geom.V(0.62, 0.8, 0), surface.Boundary)
		if err != nil || !rim.Closed || len(rim.Points) != 34 {
			t.Errorf("rim of %d points, closed %v, %v", len(rim.Points), rim.Closed, err)
		}
	}
}

// small is a text glTF of one primitive with positions and indices in its buffer.
func small(mode string, change func(doc map[string]any)) []byte {
	var buf bytes.Buffer
	for _, v := range []float32{0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0} {
		_ = binary.Write(&buf, binary.LittleEndian, v)
	}
	buf.Write([]byte{0, 1, 2, 3, 0, 0})
	doc := map[string]any{}
	text := `{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],
"nodes":[{"name":"outer","children":[1],"translation":[0,0,5],"rotation":[0,0,0.7071067811865476,0.7071067811865476]},{"name":"inner","mesh":0,"scale":[2,2,2]}],
"meshes":[{"primitives":[{"attributes":{"POSITION":0},"indices":1,"mode":` + mode + `}]}],
"accessors":[{"bufferView":0,"componentType":5126,"count":4,"type":"VEC3"},{"bufferView":1,"componentType":5121,"count":4,"type":"SCALAR"}],
"bufferViews":[{"buffer":0,"byteLength":48},{"buffer":0,"byteOffset":48,"byteLength":6}],"buffers":[{"byteLength":54}]}`
	if err := json.Unmarshal([]byte(text), &doc); err != nil {
		panic(err)
	}
	doc["buffers"].([]any)[0].(map[string]any)["uri"] = append([]byte(nil), buf.Bytes()...)
	if change != nil {
		change(doc)
	}
	if b := doc["buffers"].([]any); len(b) > 0 {
		first := b[0].(map[string]any)
		if raw, ok := first["uri"].([]byte); ok {
			enc, _ := json.Marshal(raw)
			first["uri"] = "data:application/octet-stream;base64," + strings.Trim(string(enc), `"`)
		}
	}
	out, err := json.Marshal(doc)
	if err != nil {
		panic(err)
	}
	return out
}

// Modes of lines and triangles, with nested nodes: scaled by 2, turned a quarter
// about z, and set 5 m ahead.
func TestModesAndNodes(t *testing.T) {
	for mode, want := range map[string]struct {
		lines  int
		length float64
		closed bool
	}{"2": {1, 8, true}, "3": {1, 6, false}, "1": {2, 2, false}} {
		lines, err := gltf.ReadLines(context.Background(), small(mode, nil))
		if err != nil || len(lines) != want.lines || lines[0].Name != "inner" || lines[0].Closed != want.closed {
			t.Errorf("mode %s: %+v %v", mode, lines, err)
			continue
		}
		c, err := path.New(lines[0].Spans, want.closed)
		if err != nil || math.Abs(c.Length()-want.length) > 1e-9 {
			t.Errorf("mode %s: %v", mode, err)
			continue
		}
		if p, _ := c.At(2); math.Abs(p.X) > 1e-9 || math.Abs(p.Y-2) > 1e-9 || p.Z != 5 {
			t.Errorf("mode %s: (1,0,0) is at %v", mode, p)
		}
	}
	for mode, faces := range map[string]int{"5": 2, "6": 2} {
		m, err := gltf.ReadMesh(context.Background(), small(mode, nil))
		if err != nil {
			t.Errorf("mode %s: %v", mode, err)
			continue
		}
		if d := m.Drawn(); len(d.Indices) != 3*faces {
			t.Errorf("mode %s: %d triangles", mode, len(d.Indices)/3)
		}
	}
}

func TestReadRefusals(t *testing.T) {
	in := func(list, field string, i int, v any) func(map[string]any) {
		return func(d map[string]any) { d[list].([]any)[i].(map[string]any)[field] = v }
	}
	for name, tc := range map[string]struct {
		data []byte
		says string
	}{
		"not glTF":       {[]byte("hello"), "not glTF"},
		"old":            {[]byte(`{"asset":{"version":"1.0"}}`), "2.0 is"},
		"cut GLB":        {[]byte("glTF\x02\x00\x00\x00\xff\x00\x00\x00\xff\x00\x00\x00JSON{}"), "cut off"},
		"empty":          {[]byte(`{"asset":{"version":"2.0"}}`), "no triangles"},
		"needs more":     {small("4", func(d map[string]any) { d["extensionsRequired"] = []string{"EXT_zip"} }), "EXT_zip"},
		"outside buffer": {small("4", in("buffers", "uri", 0, "https://elsewhere/a.bin")), "file of its own"},
		"short buffer":   {small("4", in("buffers", "byteLength", 0, 99)), "says it has 99"},
		"long view":      {small("4", in("bufferViews", "byteLength", 0, 999)), "beyond its buffer"},
		"many":           {small("4", in("accessors", "count", 0, 1<<40)), "beyond its buffer view"},
		"negative":       {small("4", in("accessors", "byteOffset", 0, -4)), "beyond its buffer view"},
		"index outside":  {small("4", in("accessors", "count", 0, 2)), "vertex 2 of 2"},
		"no accessor":    {small("4", in("accessors", "bufferView", 1, 7)), "not there"},
		"child is parent": {small("4", func(d map[string]any) {
			in("nodes", "children", 1, []int{0})(d)
			in("nodes", "scale", 1, []float64{1, 1, 1})(d)
		}), "too deep"},
		"a crowd": {[]byte(fmt.Sprintf(`{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[%s]}],"nodes":[{"mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0},"indices":1}]}],
			"accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3"},{"bufferView":0,"componentType":5121,"count":300,"type":"SCALAR"}],"bufferViews":[{"buffer":0,"byteLength":3600}],"buffers":[{"byteLength":3600,"uri":"data:;base64,%s"}]}`,
			strings.Repeat("0,", 18_999)+"0", strings.Repeat("AAAA", 1200))), "more than 3000000 vertices"},
		"mesh not there":   {small("4", in("nodes", "mesh", 1, 3)), "mesh 3"},
		"lines as a mesh":  {small("3", nil), "no triangles"},
		"place beyond all": {small("4", in("nodes", "scale", 1, []float64{1e300, 1, 1})), "within"},
	} {
		if _, err := gltf.ReadMesh(context.Background(), tc.data); err == nil || !strings.Contains(err.Error(), tc.says) {
			t.Errorf("%s: %v, want an error with %q", name, err, tc.says)
		}
	}
}

func FuzzRead(f *testing.F) {
	f.Add(small("4", nil))
	f.Add(small("3", nil))
	_, glb := bake(f, "hull-rail", 1, true)
	f.Add(glb)
	f.Fuzz(func(t *testing.T, data []byte) {
		if lines, err := gltf.ReadLines(context.Background(), data); err == nil && len(lines) == 0 {
			t.Fatal("neither lines nor an error")
		}
		if m, err := gltf.ReadMesh(context.Background(), data); err == nil && len(m.Drawn().Indices) == 0 {
			t.Fatal("neither faces nor an error")
		}
	})
}

// Morph targets come in as blends: the eel's jaw, delivered and read again, opens the same mouth.
func TestMorphTargetsAreRead(t *testing.T) {
	s, data := bakeWith(t, "eel", gltf.Options{Frames: 1, Binary: true})
	m, err := gltf.ReadMesh(context.Background(), data)
	if err != nil {
		t.Fatal(err)
	}
	got := m.Drawn()
	if len(got.Blends) != 1 || got.Blends[0].Name != "jaw" {
		t.Fatalf("%d blends", len(got.Blends))
	}
	// The vertices of the lower jaw stand as low when it is open as those of the part do.
	lowest := func(m *geom.Mesh) float32 {
		low := float32(0)
		for i, y := range m.Blends[0].Positions {
			if i%3 == 1 {
				low = min(low, y)
			}
		}
		return low
	}
	if a, b := lowest(got), lowest(s.Parts[0].Mesh); math.Abs(float64(a-b)) > 1e-6 || a > -0.01 {
		t.Errorf("the jaw goes down by %g, not %g", a, b)
	}
}
