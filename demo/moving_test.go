package demo_test

import (
	"math"
	"testing"

	"bead/core/rig"
	"bead/demo"
	"bead/formats"
)

// The mirror image of a crawler's port tread lies, in every frame of the range, where the demo's
// own starboard tread does: that was set up by hand before there were mirror images.
func TestOtherSideIsTheStarboardOfTheDemos(t *testing.T) {
	for name, tread := range map[string][3]string{
		"skid-steer": {"port-loop", "port-tread", "starboard-tread"},
		"hump":       {"port-belt", "port-tread", "starboard-tread"},
	} {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		path, err := d.OtherSide(tread[0], 0)
		if err != nil {
			t.Fatal(name, err)
		}
		k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh, Figures: formats.LibraryOf(d).Figure}
		s, err := k.Compile(d)
		if err != nil {
			t.Fatal(name, err)
		}
		own, image := -1, -1
		for i, r := range d.Rigs {
			switch {
			case r.ID == tread[2]:
				own = i
			case r.Path == path:
				image = i
			}
		}
		var pic rig.Picture
		for frame := d.Range.First; frame <= d.Range.Last; frame++ {
			s.Frame(&pic, frame)
			want, got := pic.Rigs[own].Transforms, pic.Rigs[image].Transforms
			if len(got) != len(want) || len(got) == 0 {
				t.Fatalf("%s: %d numbers, want %d", name, len(got), len(want))
			}
			for i := range want {
				if !(math.Abs(float64(got[i]-want[i])) < 2e-6) {
					t.Fatalf("%s, frame %d, number %d: %g, want %g", name, frame, i, got[i], want[i])
				}
			}
		}
	}
}

// The other side of a cable or a belt with ends has a drum of its own, which lies where the image of the first one
// does.
func TestOtherSideHasItsOwnDrum(t *testing.T) {
	for name, path := range map[string]string{"winch": "cable", "davit": "fall"} {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		other, err := d.OtherSide(path, 2)
		if err != nil {
			t.Fatal(name, err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(name, err)
		}
		drums := map[string]int{}
		for i, r := range d.Rigs {
			if r.Drum != nil {
				drums[r.Path] = i
			}
		}
		var pic rig.Picture
		for frame := d.Range.First; frame <= d.Range.Last; frame += 7 {
			s.Frame(&pic, frame)
			a, b := pic.Rigs[drums[path]].Transforms, pic.Rigs[drums[other]].Transforms
			if math.Abs(float64(a[0]+b[0])) > 1e-5 || math.Abs(float64(a[1]-b[1])) > 1e-5 || math.Abs(float64(a[2]-b[2])) > 1e-5 {
				t.Fatalf("%s, frame %d: the drums stand at %v and %v", name, frame, a[:3], b[:3])
			}
		}
	}
}
