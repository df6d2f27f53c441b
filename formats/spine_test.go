package formats_test

import (
	"archive/zip"
	"bytes"
	"context"
	"io"
	"math"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
	"bead/formats"
	"bead/formats/bvh"
)

// Bodies that bend leave as BVH, too: read back, their joints lie on the middle line of each in every frame, from
// its tail to its head, turned as it is.
func TestBodiesAsBVH(t *testing.T) {
	for _, name := range []string{"sounding-dart", "eel"} {
		s := compileDemo(t, name)
		first := s.Doc.Range.First + 5
		o := formats.Options{Format: "bvh.zip", Frames: scene.Range{First: first, Last: first + 3}}
		var out bytes.Buffer
		if err := formats.Bake(context.Background(), &out, s, o, nil); err != nil {
			t.Fatal(err)
		}
		z, err := zip.NewReader(bytes.NewReader(out.Bytes()), int64(out.Len()))
		if err != nil {
			t.Fatal(err)
		}
		n := 0
		for _, g := range s.Groups(nil) {
			if !g.Skeletal {
				continue
			}
			for k := range g.Things {
				file, err := z.File[n].Open()
				if err != nil {
					t.Fatal(err)
				}
				text, _ := io.ReadAll(file)
				f, err := bvh.Read(context.Background(), text)
				if err != nil {
					t.Fatal(err)
				}
				n++
				body := g.Skeleton(k)
				var pic rig.Picture
				for key := range 4 {
					s.Frame(&pic, first+key)
					joints := f.Globals(nil, f.Locals(nil, f.Times[key]))
					var places []float64
					for i := range joints {
						places = append(places, body.Tail+body.Length()*float64(i)/float64(len(joints)-1))
					}
					for i, x := range body.Sections(&pic, places) {
						if off := joints[i].P.Sub(x.P).Norm(); off > 1e-4 || joints[i].Z.Sub(x.T).Norm() > 1e-4 || joints[i].Y.Sub(x.U).Norm() > 1e-4 {
							t.Fatalf("%s, %s, key %d: joint %d is %g m off", name, g.Things[k].Name, key, i+1, off)
						}
					}
				}
				if len(f.Joints) < 4 || math.Abs(f.Times[1]*s.Doc.FPS-1) > 1e-6 {
					t.Errorf("%s: %d joints", name, len(f.Joints))
				}
			}
		}
		if n == 0 || n != len(z.File) {
			t.Errorf("%s: %d of %d files are bodies", name, n, len(z.File))
		}
	}
}
