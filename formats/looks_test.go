package formats_test

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"io"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/look"
	"bead/core/motion"
	"bead/core/rig"
	"bead/core/scene"
	"bead/formats"
)

// stripes is a small PNG.
func stripes(t *testing.T) []byte {
	t.Helper()
	m := image.NewRGBA(image.Rect(0, 0, 8, 8))
	for i := range 64 {
		m.Set(i%8, i/8, color.RGBA{uint8(200 * (i / 8 % 2)), 90, 60, 255})
	}
	var out bytes.Buffer
	if err := png.Encode(&out, m); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

const cube = `v 0 0 0
v 1 0 0
v 1 1 0
v 0 1 0
v 0 0 1
v 1 0 1
v 1 1 1
v 0 1 1
vt 0 0
vt 0.5 0
vt 0.5 1
vt 0 1
usemtl lid
f 4/1 8/2 7/3 3/4
usemtl sides
f 1/1 2/2 6/3 5/4
f 5/1 6/2 7/3 8/4
f 1/1 4/2 3/3 2/4
f 2/1 3/2 7/3 6/4
f 1/1 5/2 8/3 4/4
`

// dressed is a scene in which everything has a look of its own.
func dressed(t *testing.T) *scene.Document {
	t.Helper()
	img := stripes(t)
	asset := func(data []byte) string { return scene.AssetID(data) }
	text := fmt.Sprintf(`{"bead":2,"name":"Looks","fps":24,"range":{"first":1,"last":4},
"materials":[{"id":"tiles","name":"Tiles","colour":"#FFFFFF","roughness":0.6,"images":{"colour":%[1]q,"normal":%[1]q,"rough":%[1]q,"width":0.1,"length":0.25}},
 {"id":"glass","name":"Glass","colour":"#88AACC","roughness":0.1,"metalness":0.3,"opacity":0.4},
 {"id":"lid","name":"Lid","colour":"#FF8000","roughness":0.5,"images":{"colour":%[1]q}},
 {"id":"skin","name":"Skin","colour":"#5C6650","under":"#C9C2A4","roughness":0.4}],
"paths":[{"id":"c","name":"c","shape":{"circle":{"centre":[0,2,0],"radius":1,"plane":"side"}}},{"id":"l","name":"l","shape":{"line":{"from":[1,1,-2],"to":[1,1,2]}}}],
"parts":[{"id":"box","name":"Box","shape":{"box":{"side":0.2,"height":0.1,"length":0.2}},"material":"glass"},
 {"id":"rod","name":"Rod","shape":{"tube":{"length":1,"radius":0.1}},"material":"tiles"},
 {"id":"eel","name":"Eel","shape":{"eel":{"length":1.2,"girth":0.14}},"material":"skin"},
 {"id":"core","name":"Core","forward":"+x","shape":{"tube":{"length":0.8,"radius":0.05,"bore":0.03}}},
 {"id":"cube","name":"Cube","shape":{"file":{"asset":%[2]q,"scale":0.5}},"surfaces":[{"name":"lid","material":"lid"},{"name":"sides","material":"glass"}]}],
"fixtures":[{"id":"f","name":"Stand","part":"cube","at":[-1,0,1]}],
"rigs":[{"id":"r","name":"Row","path":"c","part":"box","facing":{"mode":"loopside"},"travel":0,"tints":[{"colour":"#2040D0","from":2,"every":3}],"train":{"seat":"pivot","spacing":{"mode":"set count","count":6}}},
 {"id":"w","name":"Whole","path":"l","part":"rod","facing":{"mode":"steady"},"travel":0,"body":{"fit":"whole path"}},
 {"id":"e","name":"Swims","path":"l","part":"eel","facing":{"mode":"steady"},"travel":1,"body":{"fit":"own length"}},
 {"id":"p","name":"Roll","path":"l","part":"core","facing":{"mode":"steady"},"travel":2,"payout":{"width":0.7,"thickness":0.005,"radius":0.2,"core":0.05,"material":"tiles"}}],
"assets":[{"id":%[1]q,"name":"tiles 1.png","data":%[3]q},{"id":%[2]q,"name":"cube.obj","data":%[4]q}]}`,
		asset(img), asset([]byte(cube)), base64.StdEncoding.EncodeToString(img), base64.StdEncoding.EncodeToString([]byte(cube)))
	d, err := scene.Decode([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	return d
}

type seen struct {
	Meshes []struct {
		Name, Parent string
		Corners      [][5]float64
		Materials    []struct {
			Name                                  string
			Colour                                [3]float64
			Roughness, Metalness, Opacity, Images float64
			Tiles                                 [2]float64
		}
	}
	Cameras []struct {
		Name        string
		Fov, Aspect float64
		At, Ahead   [3]float64
	}
}

// looksOf is what three's loaders see of files.
func looksOf(t *testing.T, files ...string) (out seen) {
	t.Helper()
	cmd := exec.Command("node", append([]string{"tools/read-looks.mjs"}, files...)...)
	cmd.Dir, cmd.Stderr = "../web", os.Stderr
	text, err := cmd.Output()
	if err == nil {
		err = json.Unmarshal(text, &out)
	}
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func bakeTo(t *testing.T, s *rig.Scene, o formats.Options, file string) string {
	t.Helper()
	var out bytes.Buffer
	if err := formats.Bake(context.Background(), &out, s, o, nil); err != nil {
		t.Fatal(err)
	}
	at := filepath.Join(t.TempDir(), file)
	if err := os.WriteFile(at, out.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	return at
}

// three's GLTFLoader, USDLoader and OBJLoader with MTLLoader see the same materials on the same things: colours,
// roughness, opacity, tints, images on as many tiles as their size in metres says, a file's surfaces apart.
func TestStrangersSeeTheSameLooks(t *testing.T) {
	if _, err := os.Stat("../web/node_modules/three"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	d := dressed(t)
	s, err := (&rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}).Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	frames := scene.Range{First: 1, Last: 1}
	gltf := looksOf(t, bakeTo(t, s, formats.Options{Format: "glb", Frames: frames}, "a.glb"))
	usd := looksOf(t, bakeTo(t, s, formats.Options{Format: "usda", Frames: frames, Single: true}, "a.usda"))
	sized := looksOf(t, bakeTo(t, s, formats.Options{Format: "glb", Frames: frames, ImageSizes: true}, "sized.glb"))
	archive := bakeTo(t, s, formats.Options{Format: "obj.zip", Frames: frames}, "a.zip")
	z, err := zip.OpenReader(archive)
	if err != nil {
		t.Fatal(err)
	}
	defer z.Close()
	dir := t.TempDir()
	if err := os.CopyFS(dir, z); err != nil {
		t.Fatal(err)
	}
	obj := looksOf(t, filepath.Join(dir, "frame_000001.obj"), filepath.Join(dir, "materials.mtl"))
	// In OBJ a face has one colour: those of the eel's lower half have a material of their own.
	for _, m := range obj.Meshes {
		if m.Name != "Swims piece 001" {
			continue
		}
		got := map[string]string{}
		for _, x := range m.Materials {
			c := x.Colour
			got[x.Name] = look.ColourOf(c)
		}
		if len(got) != 2 || !strings.EqualFold(got["Skin"], "#5C6650") || !strings.EqualFold(got["Skin_below"], "#C9C2A4") {
			t.Errorf("the eel in OBJ: %v", got)
		}
	}
	if img, err := os.ReadFile(filepath.Join(dir, "textures", "tiles_1_"+scene.AssetID(stripes(t))[:8]+".png")); err != nil || !bytes.Equal(img, stripes(t)) {
		t.Errorf("the image beside the OBJ: %v", err)
	}

	glass := [3]float64{0.246201, 0.401978, 0.603827} // #88AACC as light, by three's own Color
	blue := [3]float64{0.014444, 0.051269, 0.630757}
	for _, c := range []struct {
		what              string
		glb, usda, object string // by their names there
		group             int
		colour            [3]float64
		rough, opacity    float64
		images            float64
		tiles             [2]float64
	}{
		{"the row's first", "Row_piece_001", "piece_001 of Row", "Row piece 001", 0, glass, 0.1, 0.4, 0, [2]float64{}},
		{"the row's tinted", "Row_piece_002", "piece_002 of Row", "Row piece 002", 0, blue, 0.1, 0.4, 0, [2]float64{}},
		{"the row's other tinted", "Row_piece_005", "piece_005 of Row", "Row piece 005", 0, blue, 0.1, 0.4, 0, [2]float64{}},
		// 4 m of path by 0.25 m; the girth and the ends' discs by 0.1 m.
		{"the rod on its whole path", "Whole_body", "Skin of piece_001", "Whole piece 001", 0, [3]float64{1, 1, 1}, 0.6, 1, 3, [2]float64{0, 16}},
		// All the sheet there is, pi (0.2^2 - 0.05^2) / 0.005 m, 0.7 m wide.
		{"the sheet", "Roll_sheet", "sheet of Roll_surfaces", "Roll sheet", 0, [3]float64{1, 1, 1}, 0.6, 1, 3, [2]float64{7, math.Pi * (0.04 - 0.0025) / 0.005 / 0.25}},
		{"the lid of a file", "Cube", "mesh of Cube", "Stand", 0, [3]float64{1, 0.215861, 0}, 0.5, 1, 1, [2]float64{0.5, 1}},
		{"its sides", "Cube_1", "mesh of Cube", "Stand", 1, glass, 0.1, 0.4, 0, [2]float64{}},
	} {
		for _, x := range []struct {
			format, name string
			of           seen
		}{{"glTF", c.glb, gltf}, {"glTF with sizes", c.glb, sized}, {"USD", c.usda, usd}, {"OBJ", c.object, obj}} {
			name, parent, _ := strings.Cut(x.name, " of ")
			found := 0
			for _, m := range x.of.Meshes {
				if x.format == "USD" && strings.HasPrefix(name, "piece") && m.Name == "mesh" {
					m.Name, m.Parent = m.Parent, "Row" // a mesh within its piece
				} else if x.format == "USD" && m.Name == "mesh" && parent == "Row" {
					m.Name, m.Parent = m.Parent, "Row"
				}
				if m.Name != name || parent != "" && m.Parent != parent {
					continue
				}
				if found++; found > 1 {
					break // a part beside what is of it
				}
				k := min(c.group, len(m.Materials)-1)
				got := m.Materials[k]
				for i := range c.colour {
					if math.Abs(got.Colour[i]-c.colour[i]) > 2e-3 && !(x.format == "USD" && c.images > 0) { // there the image's scale has it
						t.Errorf("%s in %s: colour %v, want %v", c.what, x.format, got.Colour, c.colour)
						break
					}
				}
				if x.format != "OBJ" && math.Abs(got.Roughness-c.rough) > 1e-6 && !(x.format == "USD" && c.images > 1) || math.Abs(got.Opacity-c.opacity) > 1e-6 {
					t.Errorf("%s in %s: roughness %g, opacity %g", c.what, x.format, got.Roughness, got.Opacity)
				}
				if x.format[:3] == "glT" && got.Images != c.images || c.images > 0 && got.Images == 0 {
					t.Errorf("%s in %s: %g images", c.what, x.format, got.Images)
				}
				for i, want := range c.tiles {
					if want > 0 && x.format != "USD" && math.Abs(math.Abs(got.Tiles[i])-want) > 1e-4*want {
						t.Errorf("%s in %s: %v tiles, want %v", c.what, x.format, got.Tiles, c.tiles)
					}
				}
			}
			if found == 0 {
				t.Errorf("%s: %s has no %q", c.what, x.format, x.name)
			}
		}
	}
}

// USD's own words for the sizes of images, which three's loader passes over: metres in st, and how many a
// metre in the transform before each image.
func TestImageSizesInUSD(t *testing.T) {
	d := dressed(t)
	s, err := (&rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}).Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	text, err := os.ReadFile(bakeTo(t, s, formats.Options{Format: "usda", Frames: scene.Range{First: 1, Last: 1}}, "a.usda"))
	if err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{
		"float2 inputs:scale = (10, 16)", // the rod is drawn out four times
		"float2 inputs:scale = (10, 4)",  // the sheet is not
		"float2 inputs:scale = (1, 1)",   // the cube lies on its image as its file has it
		"asset inputs:file = @textures/tiles_1_",
		"bindMaterialAs = \"strongerThanDescendants\"",
		// A normal's image holds 0 to 1 for -1 to 1.
		"float4 inputs:scale = (2, 2, 2, 1)\n", "float4 inputs:bias = (-1, -1, -1, 0)\n",
	} {
		if !bytes.Contains(text, []byte(want)) {
			t.Errorf("no %s", want)
		}
	}
}

// The lid of a cube lies on its image as its file says, whichever edge of the image a format counts from: its corner
// at the origin's side on the lower left, the one across from it at half the width on the upper edge.
func TestPlacesOnImages(t *testing.T) {
	if _, err := os.Stat("../web/node_modules/three"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	d := dressed(t)
	s, err := (&rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}).Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	for format, down := range map[string]bool{"glb": true, "usda": false} {
		seen := 0
		for _, m := range looksOf(t, bakeTo(t, s, formats.Options{Format: format, Frames: scene.Range{First: 1, Last: 1}}, "a."+format)).Meshes {
			if format == "glb" && m.Name != "Cube" || format == "usda" && (m.Name != "mesh" || m.Parent != "Cube") {
				continue
			}
			for _, c := range m.Corners {
				u, v := c[0], c[2] // of the lid, half a metre wide and long
				if c[1] != 0.5 {   // of the sides
					continue
				}
				want := [2]float64{v, 2 * u}
				if down {
					want[1] = 1 - want[1]
				}
				if seen++; math.Abs(c[3]-want[0]) > 1e-6 || math.Abs(c[4]-want[1]) > 1e-6 {
					t.Errorf("%s: the corner at %v lies at %v of its image, want %v", format, c[:3], c[3:], want)
				}
			}
		}
		if seen == 0 {
			t.Errorf("%s: no corner of the lid", format)
		}
	}
	// Read here again, they count from the lower left as everywhere in the core.
	bare := *d
	bare.Rigs = nil
	stand, err := (&rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}).Compile(&bare)
	if err != nil {
		t.Fatal(err)
	}
	data, err := os.ReadFile(bakeTo(t, stand, formats.Options{Format: "glb", Frames: scene.Range{First: 1, Last: 1}}, "a.glb"))
	if err != nil {
		t.Fatal(err)
	}
	mesh, err := formats.ReadMesh(context.Background(), "a.glb", data)
	if err != nil {
		t.Fatal(err)
	}
	back, seen := mesh.Drawn(), 0
	for _, g := range back.Groups {
		for _, k := range back.Indices[g.First : g.First+g.Count] {
			x, z := float64(back.Positions[3*k])+1, float64(back.Positions[3*k+2])-1 // where it stands
			if g.Name != "Lid" {
				continue
			}
			if seen++; math.Abs(float64(back.UVs[2*k])-z) > 1e-6 || math.Abs(float64(back.UVs[2*k+1])-2*x) > 1e-6 {
				t.Errorf("read back, the corner at %g, %g lies at %v", x, z, back.UVs[2*k:2*k+2])
			}
		}
	}
	if seen != 6 {
		t.Errorf("%d corners of the lid read back", seen)
	}
}

// A package holds the same text and the images as they came, uncompressed and at multiples of 64 bytes, as its
// specification asks; another reader of zip archives finds them, and three sees the same materials in it.
func TestUSDPackage(t *testing.T) {
	d := dressed(t)
	s, err := (&rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}).Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	o := formats.Options{Format: "usda", Frames: scene.Range{First: 1, Last: 1}, Single: true}
	plain := bakeTo(t, s, o, "a.usda")
	o.Format = "usdz"
	file := bakeTo(t, s, o, "a.usdz")
	z, err := zip.OpenReader(file)
	if err != nil {
		t.Fatal(err)
	}
	defer z.Close()
	text, err := os.ReadFile(plain)
	if err != nil {
		t.Fatal(err)
	}
	want := map[string][]byte{"scene.usda": text, "textures/tiles_1_" + scene.AssetID(stripes(t))[:8] + ".png": stripes(t)}
	if len(z.File) != len(want) || z.File[0].Name != "scene.usda" {
		t.Fatalf("%d files, first %s", len(z.File), z.File[0].Name)
	}
	for _, f := range z.File {
		at, err := f.DataOffset()
		if err != nil || at%64 != 0 || f.Method != zip.Store || f.Flags&8 != 0 {
			t.Errorf("%s begins at %d, method %d, flags %x, %v", f.Name, at, f.Method, f.Flags, err)
		}
		r, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		if got, err := io.ReadAll(r); err != nil || !bytes.Equal(got, want[f.Name]) {
			t.Errorf("%s holds other bytes, %v", f.Name, err)
		}
	}
	if _, err := os.Stat("../web/node_modules/three"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	a, b := looksOf(t, plain), looksOf(t, file)
	if len(a.Meshes) == 0 || fmt.Sprint(a) != fmt.Sprint(b) {
		t.Errorf("three sees %d meshes in the text and %d in the package, or other looks", len(a.Meshes), len(b.Meshes))
	}
}

// The lower side of a body is told to other programs by its vertices: of an eel with its back up those at the bottom
// have the second colour, those at the top the first, as USD has it.
func TestLowerSides(t *testing.T) {
	d := dressed(t)
	s, err := (&rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}).Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	back, belly := look.Linear("#5C6650"), look.Linear("#C9C2A4")
	o := formats.Options{Format: "usda", Frames: scene.Range{First: 1, Last: 1}, Rigs: []string{"e"}}
	text, err := os.ReadFile(bakeTo(t, s, o, "a.usda"))
	if err != nil {
		t.Fatal(err)
	}
	_, eel, _ := bytes.Cut(text, []byte(`def Xform "Swims"`))
	list := func(word string) (out [][3]float64) {
		_, after, _ := bytes.Cut(eel, []byte(word))
		line, _, _ := bytes.Cut(after, []byte("\n"))
		for _, tuple := range strings.Split(strings.Trim(strings.TrimSuffix(string(line), " ("), "[] "), "), (") {
			var v [3]float64
			if _, err := fmt.Sscanf(strings.Trim(tuple, "()"), "%g, %g, %g", &v[0], &v[1], &v[2]); err != nil {
				t.Fatalf("%q: %v", tuple, err)
			}
			out = append(out, v)
		}
		return out
	}
	points, colours := list("point3f[] points = "), list("color3f[] primvars:displayColor = ")
	if len(points) != len(colours) || len(points) < 100 {
		t.Fatalf("%d points, %d colours", len(points), len(colours))
	}
	low, high := 0, 0
	for i, p := range points {
		if p[1] < points[low][1] {
			low = i
		}
		if p[1] > points[high][1] {
			high = i
		}
	}
	for _, c := range []struct {
		at   int
		want [3]float64
	}{{low, belly}, {high, back}} {
		for k := range 3 {
			if math.Abs(colours[c.at][k]-c.want[k]) > 1e-6 {
				t.Errorf("vertex at height %g has %v, want %v", points[c.at][1], colours[c.at], c.want)
			}
		}
	}
	if !bytes.Contains(text, []byte("string inputs:varname = \"displayColor\"")) {
		t.Error("the surface does not read the colours of its vertices")
	}
}

// three's GLTFLoader sees cameras as they are: a 35 mm lens at 16:9 takes in 32.27 degrees (2 atan(20.25 / 70)),
// from where the camera stands, ahead of it; USD has the lens and the picture in mm.
func TestStrangersSeeTheSameCameras(t *testing.T) {
	if _, err := os.Stat("../web/node_modules/three"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	d := dressed(t)
	d.Cameras = []scene.Camera{
		{ID: "a", Name: "Plain", At: [3]motion.Value{{Const: 3}, {Const: 2}, {Const: 6}}, Aim: &scene.Aim{At: [3]motion.Value{{}, {Const: 1}, {}}}},
		{ID: "b", Name: "Zooms", Width: 1000, Height: 1000, Turn: scene.Turn{Heading: motion.Value{Const: 90}},
			Lens: motion.Value{Keys: []motion.Key{{Frame: 1, Value: 50}, {Frame: 4, Value: 80}}}},
	}
	d.FillDefaults()
	if faults := d.Check(); len(faults) > 0 {
		t.Fatal(faults)
	}
	s, err := (&rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}).Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	said := ""
	o := formats.Options{Format: "glb", Frames: d.Range, Say: func(text string) { said += text }}
	got := looksOf(t, bakeTo(t, s, o, "a.glb")).Cameras
	if len(got) != 2 || math.Abs(got[0].Fov-32.2688) > 1e-3 || math.Abs(got[0].Aspect-16.0/9) > 1e-6 || math.Abs(got[1].Fov-2*math.Atan(0.36)*180/math.Pi) > 1e-3 {
		t.Fatalf("%+v", got)
	}
	ahead := geom.V(-3, -1, -6).Unit()
	if at := geom.FromArray(got[0].At); at.Sub(geom.V(3, 2, 6)).Norm() > 1e-6 || geom.FromArray(got[0].Ahead).Sub(ahead).Norm() > 1e-6 {
		t.Errorf("it stands at %v and looks along %v", at, got[0].Ahead)
	}
	if geom.FromArray(got[1].Ahead).Sub(geom.V(1, 0, 0)).Norm() > 1e-6 {
		t.Errorf("it looks along %v", got[1].Ahead)
	}
	if !strings.Contains(said, "Zooms: its lens changes from 25.36 to 39.60 degrees, and glTF keeps the first") {
		t.Error(said)
	}
	o.Format = "usda"
	text, err := os.ReadFile(bakeTo(t, s, o, "a.usda"))
	if err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{"def Camera \"Plain\"", "float focalLength = 35\n", "float horizontalAperture = 36", "float verticalAperture = 20.25", "float verticalAperture = 36", "4: 80"} {
		if !bytes.Contains(text, []byte(want)) {
			t.Errorf("no %q", want)
		}
	}
}
