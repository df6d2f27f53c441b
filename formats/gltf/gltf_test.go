package gltf_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
	"bead/formats/gltf"
)

func compiled(t testing.TB, name string) *rig.Scene {
	t.Helper()
	d, err := demo.Scene(name)
	if err != nil {
		t.Fatal(err)
	}
	for i := range d.Rigs { // cloth that is quickly simulated is written as well
		if r := d.Rigs[i].Drape; r != nil {
			r.Substeps = 4
		}
	}
	k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh, Figures: formats.LibraryOf(d).Figure}
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func bake(t testing.TB, name string, frames int, binary bool) (*rig.Scene, []byte) {
	return bakeWith(t, name, gltf.Options{Frames: frames, Binary: binary, Paths: true})
}

func bakeWith(t testing.TB, name string, o gltf.Options) (*rig.Scene, []byte) {
	t.Helper()
	s := simulated(t, name)
	return s, bakeScene(t, s, o)
}

func simulated(t testing.TB, name string) *rig.Scene {
	t.Helper()
	s := compiled(t, name)
	if err := s.Simulate(context.Background(), nil); err != nil {
		t.Fatal(err)
	}
	return s
}

// bakeScene bakes a scene's first frames.
func bakeScene(t testing.TB, s *rig.Scene, o gltf.Options) []byte {
	t.Helper()
	o.Image = func(asset string) (string, string, []byte) {
		m, err := formats.LibraryOf(s.Doc).Image(asset)
		if err != nil {
			t.Fatal(err)
		}
		return m.Name, m.Media, m.Data
	}
	b := gltf.NewBaker(s, o)
	var pic rig.Picture
	for n := range o.Frames {
		s.Frame(&pic, s.Doc.Range.First+n)
		b.Frame(&pic)
	}
	var out bytes.Buffer
	if err := b.Close(&out); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// The Khronos validator (npm gltf-validator) finds nothing, and three's
// GLTFLoader reads back the core's places to 1e-5.
func TestStrangersReadTheSame(t *testing.T) {
	t.Parallel()
	if _, err := os.Stat("../../web/node_modules/gltf-validator"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	var files []written
	var args []string
	for _, name := range demo.Names() {
		s := simulated(t, name)
		for _, frames := range []int{12, 1, 6} {
			if frames == 1 && name != "crawler" && name != "eel" && name != "hump" {
				continue // a still differs from a motion in the same way for all rigs
			}
			exact := frames == 6 // bodies as they are in every frame
			if exact && (name == "terraces" || name == "tube-worm") {
				continue // made as the eel is
			}
			if exact && (name == "pennants" || name == "net-on-rings") {
				continue // cloth is exact in any case
			}
			if exact && s.VertexSamples(nil, true) == 0 {
				continue
			}
			data := bakeScene(t, s, gltf.Options{Frames: frames, Binary: true, Paths: true, Exact: exact, Flat: exact, PerRig: exact, Instanced: frames == 1 && name == "hump"}) // whose rigs are each of one part
			file := filepath.Join(t.TempDir(), "a.glb")
			if err := os.WriteFile(file, data, 0o600); err != nil {
				t.Fatal(err)
			}
			w := written{name, s, frames, []int{0, frames / 2, frames - 1}}
			if len(files) > 0 {
				args = append(args, "--")
			}
			args = append(args, file, strconv.FormatFloat(s.Clock.FPS, 'g', -1, 64))
			for _, f := range w.at {
				args = append(args, strconv.Itoa(f))
			}
			files = append(files, w)
		}
	}
	lines := readBack(t, args)
	for _, w := range files {
		var got strangers
		if err := lines.Decode(&got); err != nil {
			t.Fatal(err)
		}
		w.compare(t, &got)
	}
}

// The Khronos validator finds nothing in any demo scene, whatever is asked of it, every second pair of the two: binary or text, exact, each piece
// by itself, centred, with paths, figures in place and by their own keys, a rig left out, all in the world, an animation a
// rig, keys by steps from elsewhere, instances.
func TestEveryOptionIsValid(t *testing.T) {
	t.Parallel()
	if _, err := os.Stat("../../web/node_modules/gltf-validator"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	asked := []gltf.Options{{}, {Binary: true, Paths: true}, {Binary: true, Single: true}, {Binary: true, Single: true, Centred: true, Paths: true}, {Binary: true, Exact: true},
		{Binary: true, InPlace: true, OwnKeys: true, Tolerance: 0.001}, {Exact: true, Single: true}, {Binary: true, Skip: []bool{true}},
		{Flat: true, PerRig: true, Start: 2.5, Step: 2}, {Binary: true, Instanced: true, ImageSizes: true}}
	var args []string
	var files []string
	dir := t.TempDir()
	for i, name := range demo.Names() {
		s := compiled(t, name)
		for k, o := range asked {
			if (i+k)%3 != 0 {
				continue // every third scene with each: seven of them
			}
			o.Frames, o.First = 3, s.Doc.Range.First
			file := filepath.Join(dir, fmt.Sprintf("%s-%d.gltf", name, k))
			if err := os.WriteFile(file, bakeScene(t, s, o), 0o600); err != nil {
				t.Fatal(err)
			}
			if len(files) > 0 {
				args = append(args, "--")
			}
			args, files = append(args, file, "24"), append(files, fmt.Sprintf("%s with %+v", name, o))
		}
	}
	lines := readBack(t, args)
	for _, file := range files {
		var got strangers
		if err := lines.Decode(&got); err != nil {
			t.Fatal(err)
		}
		if got.Errors != 0 || got.Warnings != 0 {
			t.Errorf("%s: %d errors, %d warnings: %v", file, got.Errors, got.Warnings, got.Issues)
		}
	}
}

// readBack lets a stranger read files, and returns a line of JSON for each.
func readBack(t *testing.T, files []string) *json.Decoder {
	t.Helper()
	cmd := exec.Command("node", append([]string{"tools/read-glb.mjs"}, files...)...)
	cmd.Dir, cmd.Stderr = "../../web", os.Stderr
	out, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	return json.NewDecoder(bytes.NewReader(out))
}

// written is a file of a demo scene, to be read at some frames.
type written struct {
	name   string
	s      *rig.Scene
	frames int
	at     []int
}

// strangers is what tools/read-glb.mjs says of a file.
type strangers struct {
	Errors, Warnings int
	Issues           []any
	At               [][][7]float64
	Shapes           [][][][4]float64
	Stated           []float64
}

// compare holds what was read of a file to the scene it was made of.
func (w *written) compare(t *testing.T, got *strangers) {
	t.Helper()
	name, s := w.name, w.s
	if got.Errors != 0 || got.Warnings != 0 {
		t.Errorf("%s, %d frames: %d errors, %d warnings: %v", name, w.frames, got.Errors, got.Warnings, got.Issues)
	}
	var pic rig.Picture
	for i, f := range w.at {
		s.Frame(&pic, s.Doc.Range.First+f)
		k := 0
		compareBodies(t, name, s, &pic, got.Shapes[i], got.Stated)
		for n, r := range pic.Rigs {
			if s.Rigs[n].Bends() {
				continue
			}
			for p := range r.Distances {
				want, have := r.Transforms[p*rig.Stride:], got.At[i][k]
				k++
				sign := math.Copysign(1, float64(want[3])*have[3]+float64(want[4])*have[4]+float64(want[5])*have[5]+float64(want[6])*have[6])
				for c := range 7 {
					if c > 2 && want[7] == 0 {
						break // a piece of no size, which has not arrived, has no rotation to read
					}
					h := have[c]
					if c > 2 {
						h *= sign // q and -q are one rotation
					}
					if math.Abs(h-float64(want[c])) > 1e-5 {
						t.Fatalf("%s frame %d piece %d number %d: %g, want %g", name, f, p, c, h, want[c])
					}
				}
			}
		}
		for p := range pic.Wheels {
			pose := s.PathPlace(p, pic.Frame)
			for _, w := range pic.Wheels[p] {
				want := pose.Apply(geom.V(float64(w.Place[0]), float64(w.Place[1]), float64(w.Place[2]))).Array()
				for c := range 3 {
					if math.Abs(got.At[i][k][c]-want[c]) > 1e-5 {
						t.Fatalf("%s: wheel at %v, want %v", name, got.At[i][k], want)
					}
				}
				q := got.At[i][k][3:]
				axis := geom.Quat{X: q[0], Y: q[1], Z: q[2], W: q[3]}.Apply(geom.V(1, 0, 0))
				own := geom.Quat{X: float64(w.Place[3]), Y: float64(w.Place[4]), Z: float64(w.Place[5]), W: float64(w.Place[6])}.Apply(geom.V(1, 0, 0))
				if geom.Angle(axis, pose.Turn(own)) > 1e-5 {
					t.Fatalf("%s: a wheel turns about %v, want %v", name, axis, pose.Turn(own))
				}
				k++
			}
		}
		for _, x := range pic.Fixtures {
			for c, want := range x[:3] {
				if math.Abs(got.At[i][k][c]-float64(want)) > 1e-5 {
					t.Errorf("%s: fixture at %v, want %v", name, got.At[i][k], x)
				}
			}
			k++
		}
		if k != len(got.At[i]) {
			t.Errorf("%s: %d pieces and fixtures written, %d read", name, k, len(got.At[i]))
		}
	}
}

// Single pieces: a mesh each about its pivot, or whose box has its middle at the origin, and nodes
// that put it where the piece was.
func TestSinglePieces(t *testing.T) {
	for _, centred := range []bool{false, true} {
		singlePieces(t, centred)
	}
}

func singlePieces(t *testing.T, centred bool) {
	t.Helper()
	s := compiled(t, "bucket-ladder")
	var out bytes.Buffer
	if err := formats.Bake(context.Background(), &out, s, formats.Options{Format: "gltf", Frames: scene.Range{First: 5, Last: 5}, Single: true, Centred: centred}, nil); err != nil {
		t.Fatal(err)
	}
	var doc struct {
		Nodes []struct {
			Name        string
			Mesh        *int
			Translation [3]float64
			Rotation    [4]float64
		}
		Meshes []struct {
			Name       string
			Primitives []struct{ Attributes map[string]int }
		}
		Accessors []struct{ Min, Max []float64 }
	}
	if err := json.Unmarshal(out.Bytes(), &doc); err != nil {
		t.Fatal(err)
	}
	var pic rig.Picture
	s.Frame(&pic, 5)
	seen, pieces := map[int]bool{}, 0
	for _, n := range doc.Nodes {
		if n.Mesh == nil || !strings.Contains(n.Name, " piece ") {
			continue
		}
		if seen[*n.Mesh] || doc.Meshes[*n.Mesh].Name == "" {
			t.Errorf("%s shares its mesh", n.Name)
		}
		seen[*n.Mesh] = true
		box := doc.Accessors[doc.Meshes[*n.Mesh].Primitives[0].Attributes["POSITION"]]
		for c := range 3 {
			if centred && math.Abs(box.Min[c]+box.Max[c]) > 1e-6 {
				t.Fatalf("%s: its box is %v to %v", n.Name, box.Min, box.Max)
			}
		}
		x := pic.Rigs[0].Transforms[pieces*rig.Stride:]
		b := s.Parts[s.Rigs[0].PartOf(pieces)].Bounds
		c := geom.Vec{}
		if centred {
			c = b.Min.Add(b.Max).Mul(0.5)
		}
		turn := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
		want := geom.V(float64(x[0]), float64(x[1]), float64(x[2])).Add(turn.Apply(c))
		if want.Sub(geom.FromArray(n.Translation)).Norm() > 1e-6 {
			t.Fatalf("%s stands at %v, want %v", n.Name, n.Translation, want)
		}
		pieces++
	}
	if pieces != 60 {
		t.Errorf("%d single pieces, want 60", pieces)
	}
}

// compareBodies holds the vertices that another reader places against the core's: within the error
// that the file states, and within rounding where it holds exact samples.
func compareBodies(t *testing.T, name string, s *rig.Scene, pic *rig.Picture, shapes [][][4]float64, stated []float64) {
	t.Helper()
	k := 0
	for n, r := range pic.Rigs {
		at := 0
		for p := range r.Reach {
			from := at
			at += 3 * s.Rigs[n].SurfaceVertices(p)
			if !r.Reach[p].Shown {
				k++
				continue
			}
			if body := s.Rigs[n].Body(p); body != nil && stated[k] > 0.004*body.Length() {
				t.Errorf("%s: joints are %g off a body %g long", name, stated[k], body.Length())
			}
			for _, v := range shapes[k] {
				i := from + 3*int(v[0])
				d := geom.V(v[1], v[2], v[3]).Sub(geom.V(float64(r.Positions[i]), float64(r.Positions[i+1]), float64(r.Positions[i+2]))).Norm()
				if d > stated[k]+1e-5 {
					t.Fatalf("%s, frame %g, body %d, vertex %g: %g off, stated are %g", name, pic.Frame, p+1, v[0], d, stated[k])
				}
			}
			k++
		}
	}
}

// The text form is the same document with its numbers inside.
func TestTextForm(t *testing.T) {
	_, data := bake(t, "float-line", 3, false)
	var doc struct {
		Asset   struct{ Version string }
		Nodes   []any
		Buffers []struct {
			URI        string
			ByteLength int
		}
	}
	if err := json.Unmarshal(data, &doc); err != nil || doc.Asset.Version != "2.0" || len(doc.Nodes) < 50 || len(doc.Buffers) != 1 || len(doc.Buffers[0].URI) < doc.Buffers[0].ByteLength {
		t.Errorf("%v %+v", err, doc.Asset)
	}
}

// What rides on a carrier is a child of its node, flat by choice, and says what it is: kind, rig, and of linked
// pieces where their pins are, a pitch apart.
func TestHangsFromItsCarrier(t *testing.T) {
	type node struct {
		Name     string
		Mesh     *int
		Children []int
		Extras   struct {
			Carrier, Kind, Rig, Path string
			Pins                     [][3]float64
			HingeAxis                [3]float64
		}
	}
	read := func(o gltf.Options) (nodes []node, above map[string]string, animations int) {
		o.Frames = 2
		s := compiled(t, "hump")
		var doc struct {
			Nodes      []node
			Animations []struct{ Name string }
		}
		if err := json.Unmarshal(bakeScene(t, s, o), &doc); err != nil {
			t.Fatal(err)
		}
		above = map[string]string{}
		for _, n := range doc.Nodes {
			for _, c := range n.Children {
				above[doc.Nodes[c].Name] = n.Name
			}
		}
		return doc.Nodes, above, len(doc.Animations)
	}
	nodes, above, one := read(gltf.Options{})
	s := compiled(t, "hump")
	for _, name := range []string{"Port tread", "Starboard belt wheels", "Hull", "Cabin"} {
		if above[name] != "Chassis" {
			t.Errorf("%s hangs from %q", name, above[name])
		}
	}
	if above["Stones"] != "" || above["Port tread piece 007"] != "Port tread" {
		t.Errorf("stones hang from %q, a shoe from %q", above["Stones"], above["Port tread piece 007"])
	}
	linked := 0
	for _, n := range nodes {
		if n.Name == "Port tread" {
			linked++
			apart := geom.FromArray(n.Extras.Pins[1]).Sub(geom.FromArray(n.Extras.Pins[0])).Norm()
			if n.Extras.Kind != "train" || n.Extras.Rig != s.Doc.Rigs[0].ID || math.Abs(apart-s.Rigs[0].Layout.Pitch) > 1e-12 || geom.FromArray(n.Extras.HingeAxis).Norm() != 1 {
				t.Errorf("%+v", n.Extras)
			}
			// A piece's pin ahead is the next one's pin behind; this belt's pitch gives by hundredths of a
			// millimetre as its wheels ride.
			var pic rig.Picture
			s.Frame(&pic, 17)
			x := pic.Rigs[0].Transforms
			at := func(k int, pin [3]float64) geom.Vec {
				p := rig.Place(x[k*rig.Stride : k*rig.Stride+7])
				return p.Rigid().Apply(geom.FromArray(pin))
			}
			for k := range 20 {
				if gap := at(k, n.Extras.Pins[1]).Sub(at(k+1, n.Extras.Pins[0])).Norm(); gap > 3e-5 {
					t.Errorf("the pins between shoes %d and %d are %g m apart", k+1, k+2, gap)
				}
			}
		}
	}
	if linked != 1 || one != 1 {
		t.Errorf("%d linked rigs, %d animations", linked, one)
	}
	_, above, many := read(gltf.Options{Flat: true, PerRig: true})
	if above["Port tread"] != "" || many < 4 {
		t.Errorf("flat, a tread hangs from %q; %d animations", above["Port tread"], many)
	}
}
