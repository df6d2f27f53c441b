package usda_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
	"bead/formats/usda"
)

func compile(t *testing.T, d *scene.Document) *rig.Scene {
	t.Helper()
	k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh, Figures: formats.LibraryOf(d).Figure}
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func bake(t *testing.T, s *rig.Scene, first, frames int) string {
	t.Helper()
	b := usda.NewBaker(s, usda.Options{First: first, Start: first, Frames: frames, Paths: true, Flat: true, Exact: true})
	var pic rig.Picture
	for n := range frames {
		s.Frame(&pic, first+n)
		b.Frame(&pic)
	}
	var out bytes.Buffer
	if err := b.Close(&out); err != nil {
		t.Fatal(err)
	}
	return out.String()
}

// read is what three's USDLoader and its parser (npm three) find in a layer.
type read struct {
	Layer  map[string]any
	Placed map[string][9]float64 // place, rotation, scale, corners
	At     []map[string]struct {
		Translate  []*float64 `json:"xformOp:translate"`
		Orient     []float64  `json:"xformOp:orient"` // x y z w, as the reader turns it
		Scale      []float64  `json:"xformOp:scale"`
		Visibility string     // of samples the reader keeps the quotes and the comma
		Points     []float64
		Normals    []float64
	}
}

func stranger(t *testing.T, text string, frames ...int) (r read) {
	t.Helper()
	if _, err := os.Stat("../../web/node_modules/three"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	file := filepath.Join(t.TempDir(), "a.usda")
	if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	args := []string{"tools/read-usda.mjs", file}
	for _, f := range frames {
		args = append(args, fmt.Sprint(f))
	}
	cmd := exec.Command("node", args...)
	cmd.Dir, cmd.Stderr = "../../web", os.Stderr
	out, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(out, &r); err != nil {
		t.Fatal(err)
	}
	return r
}

func prim(name string) string { return strings.NewReplacer(" ", "_").Replace(name) }

// same reports whether a place that was read is a piece's; a rotation and its negative are one.
func same(want []float32, p, q []float64) bool {
	dot := 0.0
	for i := range 4 {
		dot += float64(want[3+i]) * q[i]
	}
	for i := range 7 {
		have := 0.0
		if i < 3 {
			have = p[i]
		} else {
			have = math.Copysign(1, dot) * q[i-3]
		}
		if math.Abs(have-float64(want[i])) > 1e-6*math.Max(1, math.Abs(have)) {
			return false
		}
	}
	return true
}

// A stranger reads the core's numbers: pieces, whether they are there, and every point and normal
// of bodies in frames of a range; and the loader puts all of one frame where the core has it.
func TestAStrangerReadsTheSame(t *testing.T) {
	for _, name := range []string{"hump", "hull-plates", "float-line", "bucket-ladder"} {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		first, there, gone := 40, 0, 0
		if name == "hull-plates" { // while plates come, those of one row rigid
			first, d.Rigs[0].Train.Seat = 12, scene.SeatPivot
		}
		if name == "float-line" { // fewer bodies, whose many points the stranger reads slowly
			for i := range d.Rigs {
				d.Rigs[i].Train.Spacing.Count = 6
			}
		}
		s := compile(t, d)
		const frames = 6
		text := bake(t, s, first, frames)
		got := stranger(t, text, first, first+3, first+frames-1)
		for k, want := range map[string]any{"upAxis": "Y", "metersPerUnit": 1.0, "timeCodesPerSecond": d.FPS, "defaultPrim": "World"} {
			if got.Layer[k] != want {
				t.Errorf("%s: %s is %v, want %v", name, k, got.Layer[k], want)
			}
		}
		if !strings.Contains(text, fmt.Sprintf("startTimeCode = %d\n", first)) || !strings.Contains(text, fmt.Sprintf("endTimeCode = %d\n", first+frames-1)) {
			t.Errorf("%s: the range is not said", name)
		}
		var pic rig.Picture
		for i, f := range []int{first, first + 3, first + frames - 1} {
			s.Frame(&pic, f)
			for n := range s.Rigs {
				train, r, from := &s.Rigs[n], &pic.Rigs[n], 0
				for k := range train.Layout.Count {
					path := fmt.Sprintf("/World/%s/piece_%03d", prim(d.Rigs[n].Name), k+1)
					have, ok := got.At[i][path]
					if !ok {
						t.Fatalf("%s: no %s", name, path)
					}
					if train.Bends() {
						m := s.Parts[train.PartOf(k)].Mesh
						to := from + len(m.Positions)
						if !equal(have.Points, r.Positions[from:to]) || !equal(have.Normals, r.Normals[from:to]) {
							t.Errorf("%s, frame %d: %s has other points or normals", name, f, path)
						}
						from = to
						continue
					}
					x := r.Transforms[k*rig.Stride : (k+1)*rig.Stride]
					if shown := strings.Trim(have.Visibility, `",`) != "invisible"; shown != (x[7] != 0) {
						t.Errorf("%s, frame %d: %s is there: %v", name, f, path, shown)
					}
					if x[7] != 0 {
						there++
					} else {
						gone++
					}
					p := []float64{*have.Translate[0], *have.Translate[1], *have.Translate[2]}
					if !same(x, p, have.Orient) || x[7] != 0 && math.Abs(have.Scale[1]-float64(x[7])) > 1e-6 {
						t.Errorf("%s, frame %d: %s is at %v %v %v, want %v", name, f, path, p, have.Orient, have.Scale, x)
					}
				}
			}
		}
		if name == "hull-plates" && (there == 0 || gone == 0) {
			t.Errorf("%s: %d pieces are there and %d are not: nothing is shown by this", name, there, gone)
		}
		one := stranger(t, bake(t, s, 60, 1), 60)
		s.Frame(&pic, 60)
		for n := range s.Rigs {
			for k := range s.Rigs[n].Layout.Count {
				at := one.Placed[fmt.Sprintf("/World/%s/piece_%03d", prim(d.Rigs[n].Name), k+1)]
				if m := s.Parts[s.Rigs[n].PartOf(k)].Mesh; s.Rigs[n].Bends() {
					if int(at[8]) != len(m.Indices) {
						t.Errorf("%s: piece %d of %s has %g corners, want %d", name, k+1, d.Rigs[n].Name, at[8], len(m.Indices))
					}
				} else if x := pic.Rigs[n].Transforms[k*rig.Stride:]; x[7] != 0 && !same(x, at[:3], at[3:7]) {
					t.Errorf("%s: the loader puts piece %d of %s at %v, want %v", name, k+1, d.Rigs[n].Name, at, x[:8])
				}
			}
		}
		for i := range s.Fixtures {
			if d.Fixtures[i].Guide || d.Parts[s.Fixtures[i].Part].Guide {
				continue
			}
			if at := one.Placed["/World/"+prim(d.Fixtures[i].Name)]; !same(pic.Fixtures[i][:], at[:3], at[3:7]) {
				t.Errorf("%s: fixture %s is at %v", name, d.Fixtures[i].Name, at)
			}
		}
	}
}

func equal(have []float64, want []float32) bool {
	if len(have) != len(want) {
		return false
	}
	for i := range have {
		if math.Abs(have[i]-float64(want[i])) > 1e-6*math.Max(1, math.Abs(have[i])) {
			return false
		}
	}
	return true
}

// Names that are no identifiers, alike or hostile give prims of their own that are read back; what
// is guide only or left out does not go along, and a part of a range equals that of the whole.
func TestNamesAndRanges(t *testing.T) {
	d, err := demo.Scene("sounding-dart")
	if err != nil {
		t.Fatal(err)
	}
	d.Name = "a \"quoted\\name\"\n#usda"
	for i := range d.Rigs {
		d.Rigs[i].Name = "7 lamps)"
	}
	s := compile(t, d)
	got := stranger(t, bake(t, s, 1, 1), 1)
	for _, path := range []string{"/World/_7_lamps_/piece_001", "/World/_7_lamps__2/piece_001"} {
		if _, ok := got.Placed[path]; !ok {
			t.Errorf("no %s", path)
		}
	}
	whole, part := bake(t, s, 1, 12), bake(t, s, 5, 3)
	lines := map[string]bool{}
	for _, l := range strings.Split(whole, "\n") {
		lines[l] = true
	}
	samples := 0
	for _, l := range strings.Split(part, "\n") {
		if x := strings.TrimSpace(l); len(x) > 3 && strings.ContainsAny(x[:1], "567") && strings.Contains(x, ": (") {
			samples++
			if !lines[l] {
				t.Fatalf("not in the whole bake: %s", l)
			}
		}
	}
	if samples < 6 {
		t.Errorf("frames 5-7 alone differ from those of the whole bake (%d samples)", samples)
	}
	b := usda.NewBaker(s, usda.Options{First: 1, Frames: 1, Skip: []bool{true, false}, Flat: true, Exact: true})
	var pic rig.Picture
	s.Frame(&pic, 1)
	b.Frame(&pic)
	var out bytes.Buffer
	if err := b.Close(&out); err != nil {
		t.Fatal(err)
	}
	if n := strings.Count(out.String(), `def Xform "_7_lamps`); n != len(d.Rigs)-1 || strings.Contains(out.String(), "BasisCurves") {
		t.Errorf("%d of %d rigs go along", n, len(d.Rigs))
	}
}

// Single pieces have meshes of their own, about their pivot or centre: the stranger finds as many
// corners, turned and as large as where they refer to their part, and only then elsewhere.
func TestSinglePieces(t *testing.T) {
	d, err := demo.Scene("bucket-ladder")
	if err != nil {
		t.Fatal(err)
	}
	s := compile(t, d)
	text := func(single, centred bool) string {
		b := usda.NewBaker(s, usda.Options{First: 7, Start: 7, Frames: 1, Single: single, Centred: centred, Flat: true})
		var pic rig.Picture
		s.Frame(&pic, 7)
		b.Frame(&pic)
		var out bytes.Buffer
		if err := b.Close(&out); err != nil {
			t.Fatal(err)
		}
		return out.String()
	}
	want := stranger(t, text(false, false), 7).Placed
	for _, centred := range []bool{false, true} {
		bare := text(true, centred)
		got, pieces, apart := stranger(t, bare, 7).Placed, 0, 0
		for path, w := range want {
			if !strings.Contains(path, "/piece_") {
				continue
			}
			pieces++
			g := got[path]
			for i := range 9 {
				switch far := math.Abs(g[i] - w[i]); {
				case i < 3 && far > 1e-6:
					apart++ // the origin
				case i >= 3 && far > 2e-6:
					t.Fatalf("centred %v: %s is %v, want %v", centred, path, g, w)
				}
			}
		}
		if pieces != 60 || strings.Count(bare, `def Mesh "mesh"`) < 60 || (apart > 0) != centred {
			t.Errorf("centred %v: %d pieces, %d meshes, %d origins apart", centred, pieces, strings.Count(bare, `def Mesh "mesh"`), apart)
		}
	}
}

// For a solver: every piece is a rigid body with the mass of its part by hand (1.2 m x 0.6 x 0.18 of
// stone), a collider each, the first one tilted as it is let go; the ground and the scene's gravity
// are there, and nothing moves by samples.
func TestForASolver(t *testing.T) {
	d, err := demo.Scene("ballast")
	if err != nil {
		t.Fatal(err)
	}
	s := compile(t, d)
	frame := int(d.Rigs[0].Train.Fall.First)
	b := usda.NewBaker(s, usda.Options{First: frame, Frames: 2, Single: true, Density: 2400})
	var pic rig.Picture
	for f := frame; f < frame+2; f++ {
		s.Frame(&pic, f)
		b.Frame(&pic)
	}
	var out bytes.Buffer
	if err := b.Close(&out); err != nil {
		t.Fatal(err)
	}
	text := out.String()
	box := d.Parts[0].Shape.Box
	mass := fmt.Sprintf("float physics:mass = %g", float32(2400*box.Side*box.Height*box.Length))
	n := len(pic.Rigs[0].Distances)
	if got := strings.Count(text, `"PhysicsRigidBodyAPI", "PhysicsMassAPI"`); got != n {
		t.Errorf("%d bodies, not %d", got, n)
	}
	if got := strings.Count(text, mass[:len(mass)-2]); got < n/2 {
		t.Errorf("%d pieces of the first part weigh %s", got, mass)
	}
	if strings.Count(text, `"PhysicsCollisionAPI"`) != n+1 || strings.Count(text, "def PhysicsScene") != 1 || strings.Contains(text, "timeSamples") {
		t.Errorf("%d colliders, %d scenes", strings.Count(text, `"PhysicsCollisionAPI"`), strings.Count(text, "def PhysicsScene"))
	}
	tilt := math.Acos(geom.Quat{X: float64(pic.Rigs[0].Transforms[3]), Y: float64(pic.Rigs[0].Transforms[4]), Z: float64(pic.Rigs[0].Transforms[5]), W: float64(pic.Rigs[0].Transforms[6])}.Apply(geom.V(0, 1, 0)).Y)
	if tilt < 0.05 {
		t.Errorf("the first one is tilted by %g", tilt)
	}
}

// A second reader, which resolves references (npm tinyusdz): everything stands in the world where the
// picture has it, below its carriers or flat, and every piece has the corners of its part.
func TestASecondReaderResolves(t *testing.T) {
	if _, err := os.Stat("../../web/node_modules/tinyusdz"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	type file struct {
		name string
		s    *rig.Scene
		pic  rig.Picture
		opt  usda.Options
		text string
	}
	var files []*file
	args := []string{"tools/read-usda-composed.mjs"}
	dir := t.TempDir()
	for i, name := range []string{"hump", "hull-rail", "bucket-ladder", "winch", "mooring-post"} {
		for k, o := range []usda.Options{{}, {Flat: true}, {Single: true, Centred: true}, {Instanced: true, Flat: true}} {
			if (i+k)%2 != 0 {
				continue
			}
			d, err := demo.Scene(name)
			if err != nil {
				t.Fatal(err)
			}
			f := &file{name: name, s: compile(t, d), opt: o}
			f.opt.First, f.opt.Frames = 40, 1
			b := usda.NewBaker(f.s, f.opt)
			f.s.Frame(&f.pic, 40)
			b.Frame(&f.pic)
			var out bytes.Buffer
			if err := b.Close(&out); err != nil {
				t.Fatal(err)
			}
			f.text = out.String()
			path := filepath.Join(dir, fmt.Sprintf("%d.usda", len(files)))
			if err := os.WriteFile(path, out.Bytes(), 0o600); err != nil {
				t.Fatal(err)
			}
			files, args = append(files, f), append(args, path)
		}
	}
	cmd := exec.Command("node", args...)
	cmd.Dir, cmd.Stderr = "../../web", os.Stderr
	out, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	dec := json.NewDecoder(bytes.NewReader(out))
	below := 0
	for _, f := range files {
		var got struct {
			Placed map[string][16]float64
			Meshes map[string][2]int
		}
		if err := dec.Decode(&got); err != nil {
			t.Fatal(err)
		}
		groups := f.s.Groups(nil)
		for i := range groups {
			g := &groups[i]
			if g.Surfaces || g.Jointed {
				continue
			}
			if f.opt.Instanced && !g.Alone { // the reader takes no instancers apart: their text is read
				text := f.text[strings.Index(f.text, `def Xform "`+prim(g.Name)+`"`):]
				at, turns := after(t, text, "positions = ["), after(t, text, "orientationsf = [")
				for k := range g.Things {
					if x := g.Place(&f.pic, k); !same(x[:], at[3*k:], []float64{turns[4*k+1], turns[4*k+2], turns[4*k+3], turns[4*k]}) {
						t.Fatalf("%s: instance %d of %s is at %v, want %v", f.name, k, g.Name, at[3*k:3*k+3], x)
					}
				}
				continue
			}
			for k := range g.Things {
				path, x := "", g.Place(&f.pic, k)
				end := "/" + prim(g.Things[k].Short)
				if !g.Alone {
					end = "/" + prim(g.Name) + end
				}
				for p := range got.Placed {
					if strings.HasSuffix(p, end) && !strings.HasPrefix(p, "/World/Parts") {
						path = p
					}
				}
				if path == "" {
					t.Fatalf("%s %+v: no %s", f.name, f.opt, end)
				}
				if strings.Count(path, "/") > strings.Count(end, "/")+1 {
					below++
				}
				if f.opt.Centred && g.Scaled {
					x = g.Centred(&f.pic, k)
				}
				m := got.Placed[path]
				for c := range 3 {
					if math.Abs(m[12+c]-float64(x[c])) > 2e-5 {
						t.Fatalf("%s %+v: %s stands at %v, want %v", f.name, f.opt, path, m[12:15], x[:3])
					}
				}
				z := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}.Apply(geom.V(0, 0, float64(x[7])))
				if x[7] != 0 && math.Abs(m[8]-z.X)+math.Abs(m[9]-z.Y)+math.Abs(m[10]-z.Z) > 2e-5 {
					t.Fatalf("%s %+v: %s looks along %v, want %v", f.name, f.opt, path, m[8:11], z)
				}
				if corners := got.Meshes[path+"/mesh"][0]; corners != len(g.Things[k].Model.Mesh().Indices) {
					t.Fatalf("%s %+v: %s has %d corners", f.name, f.opt, path, corners)
				}
			}
		}
	}
	if below < 100 {
		t.Errorf("%d things hang from carriers: nothing is shown by this", below)
	}
}
