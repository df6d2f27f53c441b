package obj_test

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"io"
	"math"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
	"bead/formats/obj"
)

// One OBJ a frame: read again, each holds the vertices of the picture in their order, for a body that
// bends and a rigid piece, and the faces count on through the objects.
func TestFramesReadBack(t *testing.T) {
	d, err := scene.Decode([]byte(`{"bead":1,"name":"two\nlines","fps":24,"range":{"first":1,"last":4},
"paths":[{"id":"way","name":"way","shape":{"circle":{"centre":[0,1,0],"radius":1,"plane":"side"}}}],
"parts":[{"id":"rod","name":"rod","segments":6,"shape":{"tube":{"length":1,"radius":0.1}}},{"id":"box","name":"box","shape":{"box":{"side":0.1,"height":0.2,"length":0.3}}}],
"rigs":[{"id":"a","name":"a","kind":"bend","path":"way","part":"rod","facing":{"mode":"loopside"},"travel":{"speed":0.5}},
{"id":"b","name":"b","kind":"train","path":"way","part":"box","spacing":{"mode":"set count","count":2},"facing":{"mode":"loopside"},"travel":{"speed":0.5}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	b, err := obj.NewBaker(&out, s, make([]bool, 2), nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	var pic rig.Picture
	for f := 1; f <= 4; f++ {
		s.Frame(&pic, f)
		if err := b.Frame(&pic); err != nil {
			t.Fatal(err)
		}
	}
	if err := b.Close(); err != nil {
		t.Fatal(err)
	}
	z, err := zip.NewReader(bytes.NewReader(out.Bytes()), int64(out.Len()))
	if err != nil || len(z.File) != 5 || z.File[4].Name != "frame_000004.obj" {
		t.Fatalf("%v, %d files", err, len(z.File))
	}
	file, err := z.File[4].Open()
	if err != nil {
		t.Fatal(err)
	}
	text, err := io.ReadAll(file)
	if err != nil {
		t.Fatal(err)
	}
	mesh, err := obj.ReadMesh(context.Background(), text)
	if err != nil {
		t.Fatal(err)
	}
	var got, want geom.Box = geom.EmptyBox(), geom.EmptyBox()
	for _, p := range mesh.Points {
		got = got.Extend(p)
	}
	body := pic.Rigs[0].Positions
	for i := 0; i < len(body); i += 3 {
		want = want.Extend(geom.V(float64(body[i]), float64(body[i+1]), float64(body[i+2])))
	}
	for k := range 2 {
		x := pic.Rigs[1].Transforms[k*rig.Stride:]
		q := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
		for _, c := range [][3]float64{{1, 1, 1}, {1, 1, -1}, {1, -1, 1}, {1, -1, -1}, {-1, 1, 1}, {-1, 1, -1}, {-1, -1, 1}, {-1, -1, -1}} {
			want = want.Extend(geom.V(float64(x[0]), float64(x[1]), float64(x[2])).Add(q.Apply(geom.V(c[0]*0.05, c[1]*0.1, c[2]*0.15))))
		}
	}
	if got.Min.Sub(want.Min).Norm() > 1e-6 || got.Max.Sub(want.Max).Norm() > 1e-6 {
		t.Errorf("read back %v, drawn %v", got, want)
	}
	lines := bytes.Split(text, []byte("\n"))
	if count := bytes.Count(text, []byte("\nv ")); count != len(body)/3+2*24 || !bytes.HasPrefix(lines[2], []byte("o a piece 001")) {
		t.Errorf("%d vertices, third line %q", count, lines[2])
	}
	if last := strings.Fields(string(lines[len(lines)-2])); !strings.HasPrefix(last[len(last)-1], fmt.Sprint(len(body)/3+2*24)+"/") {
		t.Errorf("the last face ends at %q, not at the last vertex", last[len(last)-1])
	}
	if n := math.Abs(float64(bytes.Count(text, []byte("\nvn ")) - bytes.Count(text, []byte("\nv ")))); n != 0 {
		t.Errorf("%g vertices without a normal", n)
	}
}
