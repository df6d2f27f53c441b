package demo_test

import (
	"math"
	"slices"
	"testing"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
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

// A path that is made larger with its rigs shows them so many times as large about its middle in every tenth frame: places,
// turns and scales, and the vertices of bodies. Left out are scenes in which something stays as large as it is: the ground,
// gravity, a carrier that the path hangs from or rolls with; and the eel, whose waves are drawn through another number of places.
func TestResizeWithRigs(t *testing.T) {
	const times = 1.5
	for name, paths := range map[string][]string{"bucket-ladder": {"ladder-line"}, "crawler": {"port-loop"}, "davit": {"fall"},
		"float-line": {"head-line", "bent-line"}, "hull-plates": {"rail", "low-rail"}, "hull-rail": {"rail"}, "breakwater": {"drift"},
		"net-on-rings": {"wire"}, "terraces": {"way-down"}, "tube-worm": {"way-down"}} {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh, Figures: formats.LibraryOf(d).Figure}
		was, err := k.Compile(d)
		if err != nil {
			t.Fatal(name, err)
		}
		for _, id := range paths {
			large, err := was.ResizeWithRigs(id, times)
			if err != nil {
				t.Fatal(name, err)
			}
			is, err := k.Compile(large)
			if err != nil {
				t.Fatal(name, err)
			}
			i := slices.IndexFunc(d.Paths, func(p scene.Path) bool { return p.ID == id })
			b := was.Paths[i].Bounds()
			middle := b.Min.Add(b.Max).Mul(0.5)
			var before, after rig.Picture
			for f := d.Range.First; f <= d.Range.Last; f += 10 {
				was.Frame(&before, f)
				is.Frame(&after, f)
				from, to := was.PathPlace(i, float64(f)).Inverse(), is.PathPlace(i, float64(f)).Inverse()
				place := func(list []float32, at geom.Rigid) geom.Vec {
					return at.Apply(geom.V(float64(list[0]), float64(list[1]), float64(list[2])))
				}
				apart := func(a, b []float32) float64 {
					return place(b, to).Sub(middle.Mad(place(a, from).Sub(middle), times)).Norm()
				}
				for r := range d.Rigs {
					a, b := &before.Rigs[r], &after.Rigs[r]
					if d.Rigs[r].Path != id {
						continue
					}
					if len(a.Transforms) != len(b.Transforms) || len(a.Positions) != len(b.Positions) || len(a.Transforms) == 0 {
						t.Fatalf("%s: %s has %d and %d numbers", name, d.Rigs[r].ID, len(a.Transforms), len(b.Transforms))
					}
					off := 0.0
					for n := 0; n < len(a.Transforms); n += rig.Stride {
						off = max(off, apart(a.Transforms[n:], b.Transforms[n:]))
						for m := 3; m < 7; m++ {
							off = max(off, math.Abs(float64(b.Transforms[n+m]-a.Transforms[n+m])))
						}
						for m := 7; m < 10; m++ {
							off = max(off, math.Abs(float64(b.Transforms[n+m])-times*float64(a.Transforms[n+m])))
						}
					}
					for n := 0; n < len(a.Positions); n += 3 {
						off = max(off, apart(a.Positions[n:], b.Positions[n:]))
					}
					if !(off < 5e-5) {
						t.Errorf("%s, frame %d: %s is off by %g", name, f, d.Rigs[r].ID, off)
					}
				}
			}
		}
	}
}
