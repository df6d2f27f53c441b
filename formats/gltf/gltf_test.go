package gltf_test

import (
	"bytes"
	"encoding/json"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"testing"

	"bead/core/rig"
	"bead/demo"
	"bead/formats"
	"bead/formats/gltf"
)

func bake(t testing.TB, name string, frames int, binary bool) (*rig.Scene, []byte) {
	t.Helper()
	d, err := demo.Scene(name)
	if err != nil {
		t.Fatal(err)
	}
	k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	b := gltf.NewBaker(s, frames, binary, true)
	var pic rig.Picture
	for n := range frames {
		s.Frame(&pic, d.Range.First+n)
		b.Frame(&pic)
	}
	var out bytes.Buffer
	if err := b.Close(&out); err != nil {
		t.Fatal(err)
	}
	return s, out.Bytes()
}

// The Khronos validator (npm gltf-validator) finds nothing, and three's
// GLTFLoader reads back the core's places to 1e-5.
func TestStrangersReadTheSame(t *testing.T) {
	if _, err := os.Stat("../../web/node_modules/gltf-validator"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	for _, name := range demo.Names() {
		for _, frames := range []int{96, 1} {
			s, data := bake(t, name, frames, true)
			file := filepath.Join(t.TempDir(), "a.glb")
			if err := os.WriteFile(file, data, 0o600); err != nil {
				t.Fatal(err)
			}
			at := []int{0, frames / 2, frames - 1}
			args := []string{"tools/read-glb.mjs", file, strconv.FormatFloat(s.Clock.FPS, 'g', -1, 64)}
			for _, f := range at {
				args = append(args, strconv.Itoa(f))
			}
			cmd := exec.Command("node", args...)
			cmd.Dir, cmd.Stderr = "../../web", os.Stderr
			out, err := cmd.Output()
			if err != nil {
				t.Fatal(err)
			}
			var got struct {
				Errors, Warnings int
				Issues           []any
				At               [][][7]float64
			}
			if err := json.Unmarshal(out, &got); err != nil {
				t.Fatal(err)
			}
			if got.Errors != 0 || got.Warnings != 0 {
				t.Errorf("%s, %d frames: %d errors, %d warnings: %v", name, frames, got.Errors, got.Warnings, got.Issues)
			}
			var pic rig.Picture
			for i, f := range at {
				s.Frame(&pic, s.Doc.Range.First+f)
				k := 0
				for _, r := range pic.Rigs {
					for p := range r.Distances {
						want, have := r.Transforms[p*rig.Stride:], got.At[i][k]
						k++
						sign := math.Copysign(1, float64(want[3])*have[3]+float64(want[4])*have[4]+float64(want[5])*have[5]+float64(want[6])*have[6])
						for c := range 7 {
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
				for _, x := range s.Fixtures {
					for c, want := range x.Transform[:3] {
						if math.Abs(got.At[i][k][c]-float64(want)) > 1e-5 {
							t.Errorf("%s: fixture at %v, want %v", name, got.At[i][k], x.Transform)
						}
					}
					k++
				}
				if k != len(got.At[i]) {
					t.Errorf("%s: %d pieces and fixtures written, %d read", name, k, len(got.At[i]))
				}
			}
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
	if err := json.Unmarshal(data, &doc); err != nil || doc.Asset.Version != "2.0" || len(doc.Nodes) != 50 || len(doc.Buffers) != 1 || len(doc.Buffers[0].URI) < doc.Buffers[0].ByteLength {
		t.Errorf("%v %+v", err, doc.Asset)
	}
}
