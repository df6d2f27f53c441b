package formats_test

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"math/rand/v2"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
)

func compileDemo(t testing.TB, name string) *rig.Scene {
	t.Helper()
	d, err := demo.Scene(name)
	if err != nil {
		t.Fatal(err)
	}
	s, err := compileWhole(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func compileWhole(d *scene.Document) (*rig.Scene, error) {
	l := formats.LibraryOf(d)
	return (&rig.Compiler{Meshes: l.Mesh, Figures: l.Figure}).Compile(d)
}

// A bake that is split into 2 to 7 parts and joined is the whole bake, bit for bit, in every format, whatever
// the order in which the parts are named.
func TestJoinedPartsAreTheWhole(t *testing.T) {
	chance := rand.New(rand.NewPCG(17, 8))
	for n, name := range []string{"hump", "sounding-dart", "crab-patrol", "winch"} {
		s := compileDemo(t, name)
		for k := range formats.All {
			f := &formats.All[k]
			if f.Only && name != "crab-patrol" || f.Still || f.Ending == "gltf" || (f.Ending == "usdz" || f.Ending == "obj.zip") && n > 0 || name == "winch" && k%2 == 0 {
				continue
			}
			parts := 2 + (n+k)%6
			o := formats.Options{Format: f.Ending, Frames: scene.Range{First: s.Doc.Range.First + 3, Last: s.Doc.Range.First + 3 + 2*parts + 1}}
			o.Paths, o.PerRig, o.Exact = f.Lines, f.Keys, f.Exact && k%2 == n%2
			if f.Ending == "bvh" {
				o.Rigs = []string{s.Doc.Rigs[0].ID}
			}
			if k%3 == 1 {
				o.Step = 2
			}
			what := fmt.Sprintf("%s as %s in %d parts, step %d", name, f.Ending, parts, o.Step)
			var whole bytes.Buffer
			if err := formats.Bake(context.Background(), &whole, s, o, nil); err != nil {
				t.Fatal(what, err)
			}
			var names []string
			var files []io.Reader
			step := max(o.Step, 1)
			for first := o.Frames.First; first <= o.Frames.Last; {
				p := o
				p.Frames.First = first
				p.Frames.Last = min(o.Frames.Last, first+step*max(1, (o.Frames.Count()/parts)/step)-1)
				if len(files) == parts-1 {
					p.Frames.Last = o.Frames.Last
				}
				var out bytes.Buffer
				if err := formats.BakePart(context.Background(), &out, s, p, nil); err != nil {
					t.Fatal(what, err)
				}
				names, files = append(names, fmt.Sprint(first)), append(files, &out)
				first = p.Frames.Last + 1
			}
			if len(files) != parts {
				t.Fatalf("%s: %d parts", what, len(files))
			}
			chance.Shuffle(len(files), func(a, b int) {
				names[a], names[b], files[a], files[b] = names[b], names[a], files[b], files[a]
			})
			j, err := formats.OpenParts(names, files, compileWhole)
			var joined bytes.Buffer
			if err == nil {
				err = j.Write(context.Background(), &joined, nil)
			}
			if err != nil {
				t.Fatal(what, err)
			}
			if !bytes.Equal(joined.Bytes(), whole.Bytes()) {
				t.Errorf("%s: %d bytes joined, %d whole, and they differ", what, joined.Len(), whole.Len())
			}
		}
	}
}

// Parts that do not belong together, or are none, are refused with what would be accepted.
func TestPartsThatDoNotFit(t *testing.T) {
	part := func(name string, o formats.Options, first, last int) *bytes.Reader {
		o.Frames = scene.Range{First: first, Last: last}
		var out bytes.Buffer
		if err := formats.BakePart(context.Background(), &out, compileDemo(t, name), o, nil); err != nil {
			t.Fatal(err)
		}
		return bytes.NewReader(out.Bytes())
	}
	glb := formats.Options{Format: "glb"}
	a := func() io.Reader { return part("ballast", glb, 1, 4) }
	cut := func() io.Reader {
		all, _ := io.ReadAll(part("ballast", glb, 5, 8))
		return bytes.NewReader(all[:len(all)*3/4])
	}
	for _, x := range []struct {
		says string
		of   []io.Reader
	}{
		{"begins at frame 6: after 0, which ends at 4, one that begins at 5 is wanted", []io.Reader{a(), part("ballast", glb, 6, 8)}},
		{"begins at frame 3", []io.Reader{a(), part("ballast", glb, 3, 8)}},
		{"1 was baked with other choices than 0", []io.Reader{a(), part("ballast", formats.Options{Format: "glb", Flat: true}, 5, 8)}},
		{"1 was baked with other choices than 0", []io.Reader{a(), part("ballast", formats.Options{Format: "csv"}, 5, 8)}},
		{"1 is of another scene than 0", []io.Reader{a(), part("hump", glb, 5, 8)}},
		{"0 is no part of a bake", []io.Reader{strings.NewReader("glTF")}},
		{"cannot be read", []io.Reader{a(), cut()}},
		{"0 parts are not accepted", nil},
	} {
		j, err := formats.OpenParts([]string{"0", "1"}[:len(x.of)], x.of, compileWhole)
		if err == nil {
			err = j.Write(context.Background(), io.Discard, nil)
		}
		if err == nil || !strings.Contains(err.Error(), x.says) {
			t.Errorf("%v, want %q", err, x.says)
		}
	}
}

func FuzzParts(f *testing.F) {
	for _, format := range []string{"glb", "usda", "csv", "obj.zip"} {
		var out bytes.Buffer
		if err := formats.BakePart(context.Background(), &out, compileDemo(f, "ballast"), formats.Options{Format: format, Frames: scene.Range{First: 1, Last: 2}}, nil); err != nil {
			f.Fatal(err)
		}
		f.Add(out.Bytes())
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		j, err := formats.OpenParts([]string{"a"}, []io.Reader{bytes.NewReader(data)}, compileWhole)
		if err == nil {
			_ = j.Write(context.Background(), io.Discard, nil)
		}
	})
}
