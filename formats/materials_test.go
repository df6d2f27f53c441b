package formats_test

import (
	"bytes"
	"context"
	"encoding/base64"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"image"
	"image/png"
	"math"
	"os"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
	"bead/formats"
)

// Images of materials: what is none, what is damaged and what is too large are told apart before much is read.
func TestReadImage(t *testing.T) {
	good := stripes(t)
	if m, err := formats.ReadImage("a.bin", good); err != nil || m.Media != "image/png" || m.Width != 8 {
		t.Errorf("%+v %v", m, err)
	}
	// The same with a head that says 10,000 x 10,000 pixels and holds together (its sum by PNG's own CRC-32).
	huge := append([]byte(nil), good...)
	copy(huge[16:], []byte{0, 0, 0x27, 0x10, 0, 0, 0x27, 0x10})
	binary.BigEndian.PutUint32(huge[29:], crc32.ChecksumIEEE(huge[12:29]))
	var wide bytes.Buffer
	_ = png.Encode(&wide, image.NewGray(image.Rect(0, 0, 9000, 1)))
	for name, x := range map[string]struct {
		data []byte
		says string
	}{"text.png": {[]byte("no image"), "PNG and JPEG are accepted"}, "cut.png": {good[:len(good)-30], "damaged"}, "": {nil, "PNG and JPEG are accepted"},
		"wide.png": {wide.Bytes(), "9000 x 1 pixels: up to 4096"}, "huge.png": {huge, "10000 x 10000 pixels: up to 4096"}} {
		if _, err := formats.ReadImage(name, x.data); err == nil || !strings.Contains(err.Error(), x.says) {
			t.Errorf("%s: %v, want %q", name, err, x.says)
		}
	}
	// A scene whose image is gone says so when it is baked, by the material's name.
	d := dressed(t)
	s, err := (&rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}).Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	d.Assets = d.Assets[1:]
	for _, f := range []string{"glb", "usda", "obj.zip"} {
		err := formats.Bake(context.Background(), &bytes.Buffer{}, s, formats.Options{Format: f, Frames: scene.Range{First: 1, Last: 1}}, nil)
		if err == nil || !strings.HasPrefix(err.Error(), "material Tiles: ") {
			t.Errorf("%s: %v", f, err)
		}
	}
}

// What is written comes back: glTF's materials with their images, MTL's with their names.
func TestMaterialsComeBack(t *testing.T) {
	d := dressed(t)
	s, err := (&rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}).Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	frames := scene.Range{First: 1, Last: 1}
	data, err := os.ReadFile(bakeTo(t, s, formats.Options{Format: "glb", Frames: frames}, "a.glb"))
	if err != nil {
		t.Fatal(err)
	}
	found, err := formats.ReadMaterials("a.glb", data)
	if err != nil {
		t.Fatal(err)
	}
	seen := map[string]formats.FoundMaterial{}
	for _, m := range found {
		seen[m.Name] = m
	}
	if m := seen["Glass"]; m.Colour != "#88AACC" || m.Roughness != 0.1 || m.Metalness != 0.3 || m.Opacity != 0.4 {
		t.Errorf("%+v", m)
	}
	if m := seen["Tiles"]; len(m.Files) != 3 || !bytes.Equal(m.Files["normal"], stripes(t)) {
		t.Errorf("%d images", len(m.Files))
	}
	// The mesh of the file tells the same surfaces apart.
	mesh, err := formats.ReadMesh(context.Background(), "a.glb", data)
	if err != nil {
		t.Fatal(err)
	}
	drawn, all := mesh.Drawn(), 0
	for _, g := range drawn.Groups {
		if _, known := seen[g.Name]; !known || g.First != all {
			t.Errorf("%+v", g)
		}
		all += g.Count
	}
	if all != len(drawn.Indices) || len(drawn.Groups) < 5 {
		t.Errorf("%d groups of %d of %d", len(drawn.Groups), all, len(drawn.Indices))
	}
	mtl := "# c\nnewmtl a b\nKd 0.5 0.25 1\nNs 13.43\nd 0.3\nmap_Kd -s 2 2 1 dir/x.png\nnewmtl c\nKd 1\nPr 0.7\nNs 100\nPm 2\nTr 0.4\n"
	found, err = formats.ReadMaterials("x.MTL", []byte(mtl))
	if err != nil || len(found) != 2 {
		t.Fatal(err, found)
	}
	a, b := found[0], found[1]
	// Roughness of exponent 13.43 is (2 / 15.43)^(1/4) = 0.6.
	if a.Name != "a b" || a.Colour != "#8040FF" || math.Abs(a.Roughness-0.6) > 1e-3 || a.Opacity != 0.3 || a.Wants["colour"] != "dir/x.png" {
		t.Errorf("%+v", a)
	}
	if b.Colour != "#FFFFFF" || b.Roughness != 0.7 || b.Metalness != 1 || b.Opacity != 0.6 {
		t.Errorf("%+v", b)
	}
	for _, bad := range []string{"newmtl a\nKd x", "newmtl a\nNs", "map_Kd x.png", strings.Repeat("newmtl a\n", 300)} {
		if _, err := formats.ReadMaterials("a.mtl", []byte(bad)); err == nil {
			t.Errorf("%.20q was taken", bad)
		}
	}
}

// Any bytes give materials or an error.
func FuzzReadMaterials(f *testing.F) {
	f.Add([]byte("newmtl a\nKd 1 0 0\nmap_Kd a.png\n"), true)
	f.Add([]byte(`{"asset":{"version":"2.0"},"materials":[{"name":"a","pbrMetallicRoughness":{"baseColorTexture":{"index":0}}}],"textures":[{"source":0}],"images":[{"bufferView":0,"mimeType":"image/png"}],"bufferViews":[{"buffer":0,"byteLength":2}],"buffers":[{"uri":"data:;base64,AAA=","byteLength":2}]}`), false)
	f.Fuzz(func(t *testing.T, data []byte, mtl bool) {
		name := "a.gltf"
		if mtl {
			name = "a.mtl"
		}
		found, err := formats.ReadMaterials(name, data)
		if err != nil {
			return
		}
		for _, m := range found {
			if len(m.Colour) != 7 || !(m.Roughness >= 0 && m.Roughness <= 1 && m.Metalness >= 0 && m.Metalness <= 1 && m.Opacity >= 0 && m.Opacity <= 1) || m.Name == "" || len(m.Name) > 120 {
				t.Errorf("%+v", m)
			}
			for _, bytes := range m.Files {
				_, _ = formats.ReadImage("x", bytes)
			}
		}
	})
}

// On an eel, on strips and on what a roll has laid out along z an image of 0.25 m goes by the metres of the way: what a
// GLB that was baked says of each vertex, read here again, is its z over 0.25 and the same rest for all.
func TestImagesGoByTheWay(t *testing.T) {
	img := stripes(t)
	for name, x := range map[string]struct{ shape, rig string }{
		"eel":   {`{"eel":{"length":1.2,"girth":0.14}}`, `"body":{"fit":"own length"}`},
		"strip": {`{"strip":{"length":1.5,"width":0.2,"thickness":0.02}}`, `"body":{"fit":"own length"}`},
		"drawn": {`{"strip":{"length":1,"width":0.2,"thickness":0.02}}`, `"body":{"fit":"whole path"}`},
		"roll":  {`{"tube":{"length":0.8,"radius":0.05,"bore":0.03}},"forward":"+x"`, `"payout":{"width":0.7,"thickness":0.005,"radius":0.2,"core":0.05,"material":"m"}`},
	} {
		text := fmt.Sprintf(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":2},"materials":[{"id":"m","name":"M","colour":"#FFFFFF","roughness":1,"images":{"colour":%[1]q,"width":0.1,"length":0.25}}],
"paths":[{"id":"l","name":"l","shape":{"line":{"from":[0,1,0],"to":[0,1,3]}}}],"parts":[{"id":"a","name":"A",%[6]s"shape":%[3]s}],
"rigs":[{"id":"r","name":"R","path":"l","part":"a","facing":{"mode":"steady"},"travel":%[5]s,%[4]s}],"assets":[{"id":%[1]q,"name":"a.png","data":%[2]q}]}`,
			scene.AssetID(img), base64.StdEncoding.EncodeToString(img), x.shape, x.rig, map[bool]string{true: "0", false: "2"}[name == "drawn"], map[bool]string{true: "", false: `"material":"m",`}[name == "roll"])
		d, err := scene.Decode([]byte(text))
		if err != nil {
			t.Fatal(name, err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(name, err)
		}
		data, err := os.ReadFile(bakeTo(t, s, formats.Options{Format: "glb", Frames: scene.Range{First: 1, Last: 1}, Exact: true}, "a.glb"))
		if err != nil {
			t.Fatal(err)
		}
		mesh, err := formats.ReadMesh(context.Background(), "a.glb", data)
		if err != nil {
			t.Fatal(name, err)
		}
		m := mesh.Drawn()
		var rest []float64
		least, most := math.Inf(1), math.Inf(-1)
		of := map[uint32]bool{} // of this material
		for _, run := range rig.Runs(m) {
			for _, v := range m.Indices[run.First : run.First+run.Count] {
				of[v] = run.Name == "" || run.Name == "M"
			}
		}
		for v := range len(m.Positions) / 3 {
			z := float64(m.Positions[3*v+2])
			if !of[uint32(v)] || name == "roll" && z > 1.7 { // what is still on the roll
				continue
			}
			if math.Abs(float64(m.Normals[3*v+2])) > 0.9 { // the ends of a strip look along the way
				continue
			}
			least, most = min(least, z), max(most, z)
			rest = append(rest, float64(m.UVs[2*v+1])-z/0.25)
		}
		for v := range rest {
			if math.Abs(rest[v]-rest[0]) > 1e-4 {
				t.Errorf("%s: vertex %d lies %g images off the way", name, v, rest[v]-rest[0])
				break
			}
		}
		if most-least < 1 {
			t.Errorf("%s: only %g m were looked at", name, most-least)
		}
	}
}
