package gltf_test

import (
	"bytes"
	"context"
	"encoding/base64"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
	"bead/formats"
	"bead/formats/gltf"
)

// skinned is a glTF of a root and a joint ahead of it, with two squares, each of a material of its own, whose
// vertices go along with up to six joints' worth of weights.
func skinned() []byte {
	var bin bytes.Buffer
	var views, accessors []string
	put := func(kind string, component, count int, bounds string, data any) int {
		from := bin.Len()
		_ = binary.Write(&bin, binary.LittleEndian, data)
		views = append(views, fmt.Sprintf(`{"buffer":0,"byteOffset":%d,"byteLength":%d}`, from, bin.Len()-from))
		accessors = append(accessors, fmt.Sprintf(`{"bufferView":%d,"componentType":%d,"count":%d,"type":%q%s}`, len(views)-1, component, count, kind, bounds))
		for bin.Len()%4 != 0 {
			bin.WriteByte(0)
		}
		return len(accessors) - 1
	}
	square := func(z float32, material int) string {
		p := put("VEC3", 5126, 4, fmt.Sprintf(`,"min":[0,0,%g],"max":[1,1,%g]`, z, z), []float32{0, 0, z, 1, 0, z, 1, 1, z, 0, 1, z})
		uv := put("VEC2", 5126, 4, "", []float32{0, 0, 0.5, 0, 0.5, 0.25, 0, 0.25})
		index := put("SCALAR", 5123, 6, "", []uint16{0, 1, 2, 0, 2, 3})
		j0 := put("VEC4", 5123, 4, "", []uint16{0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 0, 1})
		w0 := put("VEC4", 5126, 4, "", []float32{0.4, 0.3, 0.1, 0, 0.4, 0.3, 0.1, 0, 0.4, 0.3, 0.1, 0, 0.4, 0.3, 0.1, 0})
		j1 := put("VEC4", 5123, 4, "", []uint16{1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0})
		w1 := put("VEC4", 5126, 4, "", []float32{0.15, 0.05, 0, 0, 0.15, 0.05, 0, 0, 0.15, 0.05, 0, 0, 0.15, 0.05, 0, 0})
		return fmt.Sprintf(`{"attributes":{"POSITION":%d,"TEXCOORD_0":%d,"JOINTS_0":%d,"WEIGHTS_0":%d,"JOINTS_1":%d,"WEIGHTS_1":%d},"indices":%d,"material":%d}`, p, uv, j0, w0, j1, w1, index, material)
	}
	a, b := square(0, 1), square(1, 0)
	times := put("SCALAR", 5126, 2, `,"min":[0],"max":[1]`, []float32{0, 1})
	goes := put("VEC3", 5126, 2, "", []float32{0, 0, 0, 0, 0, 2})
	text := fmt.Sprintf(`{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0,2]}],
"nodes":[{"name":"root","children":[1]},{"name":"claw","translation":[0,0,1]},{"name":"skin","mesh":0,"skin":0}],
"skins":[{"joints":[0,1]}],"meshes":[{"primitives":[%s,%s]}],
"materials":[{"name":"Shell","pbrMetallicRoughness":{"baseColorFactor":[1,0,0,1],"roughnessFactor":0.25}},{"name":"Claw","pbrMetallicRoughness":{"baseColorFactor":[0,0,1,1],"metallicFactor":0}}],
"animations":[{"samplers":[{"input":%d,"output":%d}],"channels":[{"sampler":0,"target":{"node":0,"path":"translation"}}]}],
"accessors":[%s],"bufferViews":[%s],"buffers":[{"byteLength":%d,"uri":"data:application/octet-stream;base64,%s"}]}`,
		a, b, times, goes, strings.Join(accessors, ","), strings.Join(views, ","), bin.Len(), base64.StdEncoding.EncodeToString(bin.Bytes()))
	return []byte(text)
}

// A figure keeps what its file says of how it looks: surfaces of several materials, places on images; and goes out
// with them again. Of joints beyond four the strongest stay and share the others' weights.
func TestFiguresKeepTheirMaterials(t *testing.T) {
	data := skinned()
	f, err := gltf.ReadFigure(context.Background(), data)
	if err != nil {
		t.Fatal(err)
	}
	m := f.Skin.Mesh
	if len(m.Groups) != 2 || m.Groups[0] != (geom.Group{Name: "Claw", First: 0, Count: 6}) || m.Groups[1] != (geom.Group{Name: "Shell", First: 6, Count: 6}) || !m.Tiles {
		t.Fatalf("%+v, tiles %v", m.Groups, m.Tiles)
	}
	if len(m.UVs) != 16 || m.UVs[2] != 0.5 || m.UVs[3] != 1 || m.UVs[5] != 0.75 {
		t.Errorf("places on images %v", m.UVs)
	}
	// 0.4, 0.3, 0.15 and 0.1 stay of 1, each by 1 / 0.95: 0.4 and 0.1 of the root, 0.3 and 0.15 of the claw.
	for k, want := range []float64{0.5, 0.45, 0, 0} {
		if got := float64(f.Skin.Weights[0][k]); math.Abs(got-want/0.95) > 1e-6 {
			t.Errorf("weight %d is %g, want %g", k+1, got, want/0.95)
		}
	}
	asset := scene.AssetID(data)
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":5},
"materials":[{"id":"s","name":"Red","colour":"#FF0000","roughness":0.25},{"id":"c","name":"Blue","colour":"#0000FF","roughness":1}],
"paths":[{"id":"p","name":"p","shape":{"line":{"from":[0,0,0],"to":[0,0,9]}}}],
"parts":[{"id":"f","name":"F","shape":{"figure":{"asset":%q,"scale":1}},"forward":"+z","up":"+y","surfaces":[{"name":"Shell","material":"s"},{"name":"Claw","material":"c"}]}],
"rigs":[{"id":"r","name":"R","path":"p","part":"f","facing":{"mode":"steady"},"travel":{"speed":1},"cycle":{}}],
"assets":[{"id":%q,"name":"f.gltf","data":%q}]}`, asset, asset, base64.StdEncoding.EncodeToString(data)))
	if err != nil {
		t.Fatal(err)
	}
	l := formats.LibraryOf(d)
	s, err := (&rig.Compiler{Meshes: l.Mesh, Figures: l.Figure}).Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	if err := formats.Bake(context.Background(), &out, s, formats.Options{Format: "gltf", Frames: d.Range}, nil); err != nil {
		t.Fatal(err)
	}
	var got struct {
		Meshes    []struct{ Primitives []struct{ Material int } }
		Materials []struct {
			Name string
			PBR  struct{ BaseColorFactor [4]float64 } `json:"pbrMetallicRoughness"`
		}
	}
	if err := json.Unmarshal(out.Bytes(), &got); err != nil {
		t.Fatal(err)
	}
	if len(got.Meshes) != 1 || len(got.Meshes[0].Primitives) != 2 {
		t.Fatalf("%+v", got.Meshes)
	}
	for k, want := range []struct {
		name   string
		colour [4]float64
	}{{"Blue", [4]float64{0, 0, 1, 1}}, {"Red", [4]float64{1, 0, 0, 1}}} {
		if m := got.Materials[got.Meshes[0].Primitives[k].Material]; m.Name != want.name || m.PBR.BaseColorFactor != want.colour {
			t.Errorf("surface %d is of %+v, want %+v", k+1, m, want)
		}
	}
}
