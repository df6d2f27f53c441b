package gltf_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"encoding/json"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"bead/core/figure"
	"bead/demo"
	"bead/formats/gltf"
)

func crabGLB(t *testing.T) (*figure.Figure, []byte) {
	t.Helper()
	f := demo.Crab()
	if err := f.Check(); err != nil {
		t.Fatal(err)
	}
	var b bytes.Buffer
	if err := gltf.WriteFigure(&b, "Crab", f); err != nil {
		t.Fatal(err)
	}
	return f, b.Bytes()
}

// The Khronos validator finds nothing in a figure that was written, and three's loader moves its skin
// as it is moved here, within 1e-4.
func TestStrangersMoveTheSkin(t *testing.T) {
	if _, err := os.Stat("../../web/node_modules/gltf-validator"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	f, data := crabGLB(t)
	file := filepath.Join(t.TempDir(), "a.glb")
	if err := os.WriteFile(file, data, 0o600); err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command("node", "tools/read-glb.mjs", file, "24", "0", "7", "18")
	cmd.Dir, cmd.Stderr = "../../web", os.Stderr
	out, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	var got struct {
		Errors, Warnings int
		Issues           []any
		Shapes           [][][][4]float64
	}
	if err := json.Unmarshal(out, &got); err != nil {
		t.Fatal(err)
	}
	if got.Errors+got.Warnings != 0 {
		t.Errorf("%d errors, %d warnings: %v", got.Errors, got.Warnings, got.Issues)
	}
	n := len(f.Skin.Weights)
	p, q := make([]float32, 3*n), make([]float32, 3*n)
	for i, k := range []int{0, 7, 18} {
		f.Skin.Pose(p, q, f.Globals(nil, f.Between(nil, k, k, 1)), 1, nil)
		for _, v := range got.Shapes[i][0] {
			for c := range 3 {
				if want := float64(p[3*int(v[0])+c]); math.Abs(v[1+c]-want) > 1e-4 {
					t.Fatalf("key %d, vertex %g: %g, want %g", k, v[0], v[1+c], want)
				}
			}
		}
	}
}

// What is written is read back: joints, keys, weights, tips.
func TestFigureThereAndBack(t *testing.T) {
	f, data := crabGLB(t)
	g, err := gltf.ReadFigure(context.Background(), data)
	if err != nil {
		t.Fatal(err)
	}
	if len(g.Joints) != len(f.Joints) || len(g.Times) != len(f.Times) || len(g.Skin.Weights) != len(f.Skin.Weights) || len(g.Skin.Mesh.Indices) != len(f.Skin.Mesh.Indices) {
		t.Fatalf("%d joints, %d keys, %d vertices", len(g.Joints), len(g.Times), len(g.Skin.Weights))
	}
	for _, j := range f.Joints {
		k := g.Find(j.Name)
		if k < 0 || len(g.Joints[k].Ends) != len(j.Ends) {
			t.Fatalf("%s has come to %d", j.Name, k)
		}
	}
}

// A file whose names are changed: what it says is wrong is said, and nothing panics.
func TestBadFigures(t *testing.T) {
	_, data := crabGLB(t)
	n := int(binary.LittleEndian.Uint32(data[12:]))
	text := string(data[20 : 20+n])
	remade := func(text string) []byte {
		for len(text)%4 != 0 {
			text += " "
		}
		out := append([]byte(nil), data[:12]...)
		out = binary.LittleEndian.AppendUint32(out, uint32(len(text)))
		out = append(out, "JSON"...)
		out = append(out, text...)
		return append(out, data[20+n:]...)
	}
	for says, change := range map[string][2]string{
		"has no skin":                  {`"skins":`, `"skin":`},
		"hangs from two others":        {`"children":[1]`, `"children":[1,2]`},
		"which is not there":           {`"joints":[1,`, `"joints":[900,`},
		"is scaled or sheared":         {`{"name":"left leg 1 hip",`, `{"name":"left leg 1 hip","scale":[2,1,1],`},
		"it has no JOINTS_0":           {`"JOINTS_0"`, `"JOINTS_9"`},
		"names sampler":                {`"sampler":0,`, `"sampler":9000,`},
		"no mesh goes along":           {`"skin":0`, `"skin":7`},
		"is VEC4 where VEC3 is wanted": {`"path":"rotation"`, `"path":"translation"`},
	} {
		changed := strings.Replace(text, change[0], change[1], 1)
		if changed == text {
			t.Errorf("%q is not in the file", change[0])
			continue
		}
		if _, err := gltf.ReadFigure(context.Background(), remade(changed)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", says, err)
		}
	}
}

func FuzzReadFigure(f *testing.F) {
	var b bytes.Buffer
	if err := gltf.WriteFigure(&b, "Crab", demo.Crab()); err != nil {
		f.Fatal(err)
	}
	f.Add(b.Bytes())
	f.Add([]byte(`{"asset":{"version":"2.0"},"skins":[{"joints":[0]}],"nodes":[{"children":[0]}]}`))
	f.Add([]byte(`{"asset":{"version":"2.0"},"skins":[{"joints":[0,1]}],"nodes":[{"children":[1]},{"children":[0]}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		if fig, err := gltf.ReadFigure(context.Background(), data); err == nil {
			fig.RestMesh(1)
			figure.NewGait(fig, fig.Joints[0].Rest.Z, fig.Joints[0].Rest.Y, fig.Joints[0].Rest.P, 1, 0).FindFeet()
		}
	})
}
