package formats_test

import (
	"bytes"
	"context"
	"errors"
	"math"
	"os"
	"regexp"
	"testing"

	"bead/core/geom"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
	"bead/formats/gltf"
)

// What Bead writes as GLB opens in Bead again: each part once with its box, pivot and axes, the material it was
// of, and the paths with their lengths; a scene that compiles and can be gone on with.
func TestAGLBOpensAgain(t *testing.T) {
	for _, name := range []string{"hump", "ballast", "sounding-dart", "bucket-ladder", "hull-plates", "crab-patrol"} {
		s := compileDemo(t, name)
		var out bytes.Buffer
		o := formats.Options{Format: "glb", Paths: true, Frames: s.Doc.Range}
		if err := formats.Bake(context.Background(), &out, s, o, nil); err != nil {
			t.Fatal(err)
		}
		d, err := formats.Reopen(context.Background(), out.Bytes())
		if err != nil {
			t.Fatal(name, err)
		}
		text, err := d.Encode()
		if err != nil {
			t.Fatal(name, err)
		}
		if d, err = scene.Decode(text); err != nil {
			t.Fatal(name, err)
		}
		again, err := compileWhole(d)
		if err != nil {
			t.Fatal(name, err)
		}
		if d.Name != s.Doc.Name || d.FPS != s.Doc.FPS || d.Range != s.Doc.Range || d.PlaysOnce() != s.Doc.PlaysOnce() {
			t.Errorf("%s: %q, %g fps, %+v", name, d.Name, d.FPS, d.Range)
		}
		wanted := map[int]bool{} // the parts that are in the file
		for _, g := range s.Groups(nil) {
			for _, x := range g.Things {
				for i := range s.Doc.Parts {
					if x.Model.Of == &s.Doc.Parts[i] && !s.Doc.Parts[i].Guide {
						wanted[i] = true
					}
				}
			}
		}
		if len(d.Parts) != len(wanted) {
			t.Errorf("%s: %d parts, want %d", name, len(d.Parts), len(wanted))
		}
		for i := range wanted {
			p, found := &s.Doc.Parts[i], false
			for k := range d.Parts {
				q := &d.Parts[k]
				if q.Name != p.Name {
					continue
				}
				found = true
				a, b := s.Parts[i].Bounds, again.Parts[k].Bounds
				if p.Shape.Figure == nil && (a.Min.Sub(b.Min).Norm()+a.Max.Sub(b.Max).Norm() > 1e-5*(1+a.Size().Norm())) || geom.FromArray(p.Pivot).Sub(geom.FromArray(q.Pivot)).Norm() > 0 || again.Parts[k].Axes.Forward != s.Parts[i].Axes.Forward {
					t.Errorf("%s: %s lies at %v, was at %v", name, p.Name, b, a)
				}
				for _, m := range d.Materials {
					if m.ID == q.Material && p.Material != "" {
						for _, was := range s.Doc.Materials {
							if was.ID == p.Material && (math.Abs(m.Roughness-was.Roughness) > 1e-6 || math.Abs(m.Metalness-was.Metalness) > 1e-6) {
								t.Errorf("%s: %s is of %+v, was of %+v", name, p.Name, m, was)
							}
						}
					}
				}
			}
			if !found {
				t.Errorf("%s: no part %q", name, p.Name)
			}
		}
		if len(d.Paths) != len(s.Paths) {
			t.Fatalf("%s: %d paths of %d", name, len(d.Paths), len(s.Paths))
		}
		for i, c := range again.Paths {
			if c.Closed() != s.Paths[i].Closed() || math.Abs(c.Length()-s.Paths[i].Length()) > 5e-4*c.Length() {
				t.Errorf("%s: %s is %g long, was %g", name, d.Paths[i].Name, c.Length(), s.Paths[i].Length())
			}
		}
	}
	foreign, err := os.ReadFile("../demo/parts/crab.glb")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := formats.Reopen(context.Background(), bytes.Replace(foreign, []byte(`"generator":"Bead"`), []byte(`"generator":"Else"`), 1)); !errors.Is(err, gltf.ErrForeign) {
		t.Errorf("a foreign file: %v", err)
	}
}

func FuzzReopen(f *testing.F) {
	d, err := demo.Scene("ballast")
	if err != nil {
		f.Fatal(err)
	}
	s, err := compileWhole(d)
	if err != nil {
		f.Fatal(err)
	}
	var out bytes.Buffer
	if err := formats.Bake(context.Background(), &out, s, formats.Options{Format: "glb", Paths: true, Frames: scene.Range{First: 1, Last: 2}}, nil); err != nil {
		f.Fatal(err)
	}
	f.Add(out.Bytes())
	out.Reset() // a part without triangles, which was once a panic
	if err := formats.Bake(context.Background(), &out, s, formats.Options{Format: "gltf", Frames: scene.Range{First: 1, Last: 1}}, nil); err != nil {
		f.Fatal(err)
	}
	f.Add(regexp.MustCompile(`(?s)"primitives": \[.*?\n   \]`).ReplaceAll(out.Bytes(), []byte(`"primitives": []`)))
	f.Fuzz(func(t *testing.T, data []byte) {
		if d, err := formats.Reopen(context.Background(), data); err == nil && len(d.Check()) > 0 {
			t.Error(d.Check())
		}
	})
}
