package still_test

import (
	"context"
	"fmt"
	"image"
	"math"
	"testing"
	"time"

	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
	"bead/formats/still"
)

func drawn(t *testing.T, d *scene.Document) *image.NRGBA {
	t.Helper()
	k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh, Figures: formats.LibraryOf(d).Figure}
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	m, err := still.Draw(context.Background(), s, formats.LibraryOf(d).Mean)
	if err != nil {
		t.Fatal(err)
	}
	return m
}

// seen tells how many pixels are covered whole, and the box round them.
func seen(m *image.NRGBA) (n int, box image.Rectangle) {
	for y := range still.Height {
		for x := range still.Width {
			if m.NRGBAAt(x, y).A == 255 {
				n++
				box = box.Union(image.Rect(x, y, x+1, y+1))
			}
		}
	}
	return n, box
}

// one is a scene of a box of 1 m that stands at a place; more is put into the document.
func one(t *testing.T, z, sun float64, more string) *scene.Document {
	t.Helper()
	d, err := scene.Decode([]byte(fmt.Sprintf(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":2},"light":{"heading":0,"height":%g,"strength":1},
"materials":[{"id":"m","name":"M","colour":"#808080","roughness":1}],%s
"parts":[{"id":"a","name":"A","material":"m","shape":{"box":{"side":1,"height":1,"length":1}}}],"paths":[{"id":"p","name":"P","shape":{"line":{"from":[0,0.5,%g],"to":[0,0.5,%g]}}}],
"rigs":[{"id":"r","name":"R","path":"p","part":"a","rider":{},"facing":{"mode":"steady"},"travel":0}]}`, sun, more, z, z+1)))
	if err != nil {
		t.Fatal(err)
	}
	return d
}

// A camera straight ahead of a box sees its face as a square that fills the height; its light is the
// closed form: colour x (0.85 cos + 0.42) of a face that stands upright.
func TestFaceOfABox(t *testing.T) {
	for _, sun := range []float64{2, 60} {
		m := drawn(t, one(t, 0, sun, `"cameras":[{"id":"c","name":"C","at":[0,0.5,9],"turn":{"heading":180},"lens":35}],`))
		n, box := seen(m)
		side := float64(box.Dy())
		if want := still.Height / 1.16; math.Abs(side-want) > 2 || math.Abs(float64(box.Dx())-side) > 1 || math.Abs(float64(n)-side*side) > 3*side {
			t.Errorf("%d pixels in %v, want a square of %g", n, box, want)
		}
		grey := 0.2158605 // #808080 in linear light, IEC 61966-2-1
		light := grey * (0.85*math.Cos(sun*math.Pi/180) + 0.42)
		want := 255 * (1.055*math.Pow(light, 1/2.4) - 0.055)
		if got := m.NRGBAAt(still.Width/2, still.Height/2); math.Abs(float64(got.R)-want) > 1 {
			t.Errorf("under a sun %g degrees high the face is %v, want %.1f", sun, got, want)
		}
	}
}

// What stands before something hides it, whatever comes first in the document, and tells by its colour.
func TestNearerHides(t *testing.T) {
	for _, front := range []string{"a", "b"} {
		at := map[string][2]string{"a": {"0", "3"}, "b": {"3", "0"}}[front]
		d, err := scene.Decode([]byte(fmt.Sprintf(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":2},"cameras":[{"id":"c","name":"C","at":[0,0,-9],"lens":35}],
"materials":[{"id":"red","name":"Red","colour":"#ff0000","roughness":1},{"id":"blue","name":"Blue","colour":"#0000ff","roughness":1}],
"parts":[{"id":"a","name":"A","material":"red","shape":{"box":{"side":1,"height":1,"length":1}}},{"id":"b","name":"B","material":"blue","shape":{"box":{"side":2,"height":2,"length":1}}}],
"fixtures":[{"id":"f","name":"F","part":"a","at":[0,0,%s]},{"id":"g","name":"G","part":"b","at":[0,0,%s]}],"paths":[],"rigs":[]}`, at[0], at[1])))
		if err != nil {
			t.Fatal(err)
		}
		got := drawn(t, d).NRGBAAt(still.Width/2, still.Height/2)
		if front == "a" && got.R <= got.B || front == "b" && got.R >= got.B {
			t.Errorf("with %s in front the middle is %v", front, got)
		}
	}
}

// All demo scenes and starters, and a scene with nothing but a path, are seen: nothing empty, nothing cut off at
// the picture's edge but ground and shadows.
func TestAllAreSeen(t *testing.T) {
	docs := map[string]*scene.Document{}
	for _, name := range demo.Names() {
		docs[name], _ = demo.Scene(name)
	}
	for _, s := range demo.Starters() {
		docs[s.ID], _ = demo.Begin(s.ID, nil)
	}
	for name, d := range docs {
		m := drawn(t, d)
		any := 0
		for i := 3; i < len(m.Pix); i += 4 {
			if m.Pix[i] > 0 {
				any++
			}
		}
		if n, box := seen(m); any < 300 && name != "empty" || n > 0 && (box.Min.X < 2 || box.Min.Y < 2 || box.Max.X > still.Width-2 || box.Max.Y > still.Height-2) {
			t.Errorf("%s: %d pixels are seen, %d of them whole, in %v", name, any, n, box)
		}
	}
}

// Pieces that are too small to be seen do not leave the picture empty: their path is drawn.
func TestTooSmall(t *testing.T) {
	d := one(t, 0, 60, "")
	d.Paths[0].Shape.Line.To = scene.Vec3{0, 0.5, 5000}
	d.Rigs[0].Rider, d.Rigs[0].Train = nil, &scene.Train{Seat: "pivot", Spacing: scene.Spacing{Mode: "set count", Count: 3}}
	n := 0
	m := drawn(t, d)
	for i := 3; i < len(m.Pix); i += 4 {
		if m.Pix[i] > 0 {
			n++
		}
	}
	if n < 300 {
		t.Errorf("%d pixels are seen of a path of 5 km", n)
	}
}

// A heap of pieces that each fill the picture is given up in time, with a picture.
func TestHeap(t *testing.T) {
	d := one(t, 0, 60, "")
	d.Rigs[0].Rider, d.Rigs[0].Train = nil, &scene.Train{Seat: "pivot", Spacing: scene.Spacing{Mode: "set count", Count: 30_000}}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	m, err := still.Draw(ctx, s, nil)
	if err != nil {
		t.Fatal(err)
	}
	if n, _ := seen(m); n < 1000 {
		t.Errorf("%d pixels are seen", n)
	}
}

func TestStops(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	s, err := rig.Compile(one(t, 0, 60, ""))
	if err != nil {
		t.Fatal(err)
	}
	if _, err := still.Draw(ctx, s, nil); err == nil {
		t.Error("a picture that nobody waits for is drawn on")
	}
}
