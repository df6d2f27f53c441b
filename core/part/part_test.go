package part_test

import (
	"errors"
	"maps"
	"math"
	"slices"
	"testing"

	"bead/core/geom"
	"bead/core/part"
)

func vertex(m *geom.Mesh, i uint32) geom.Vec {
	return geom.V(float64(m.Positions[3*i]), float64(m.Positions[3*i+1]), float64(m.Positions[3*i+2]))
}

// volume by the divergence theorem; positive when faces look outwards.
func volume(m *geom.Mesh) float64 {
	sum := 0.0
	for i := 0; i < len(m.Indices); i += 3 {
		a, b, c := vertex(m, m.Indices[i]), vertex(m, m.Indices[i+1]), vertex(m, m.Indices[i+2])
		sum += a.Dot(b.Cross(c)) / 6
	}
	return sum
}

func TestShapes(t *testing.T) {
	box, err := part.Box(2, 3, 4)
	if err != nil {
		t.Fatal(err)
	}
	if v := volume(box); math.Abs(v-24) > 1e-12 {
		t.Errorf("box of 2 x 3 x 4 has volume %g", v)
	}
	shoe, err := part.Shoe(part.ShoeSize{Length: 0.19, Width: 0.5, Height: 0.04, Grouser: 0.03, Horn: 0.06})
	if err != nil {
		t.Fatal(err)
	}
	b := shoe.Bounds()
	if math.Abs(b.Max.Y-(0.02+0.03)) > 1e-7 || math.Abs(b.Min.Y+0.02+0.06) > 1e-7 || math.Abs(b.Size().X-0.5) > 1e-7 {
		t.Errorf("shoe reaches %v", b)
	}
	fl, err := part.Float(0.3, 0.1)
	if err != nil {
		t.Fatal(err)
	}
	fb := fl.Bounds()
	if math.Abs(fb.Size().Z-0.3) > 1e-7 || math.Abs(fb.Max.Y-0.1) > 1e-6 {
		t.Errorf("float reaches %v", fb)
	}
	// A float is smaller than its cylinder and larger than half of it.
	if v, cyl := volume(fl), math.Pi*0.01*0.3; v > cyl || v < cyl/2 {
		t.Errorf("float volume %g beside the cylinder's %g", v, cyl)
	}
	for name, m := range map[string]*geom.Mesh{"box": box, "shoe": shoe, "float": fl} {
		if volume(m) <= 0 {
			t.Errorf("%s is inside out", name)
		}
		for i := 0; i < len(m.Indices); i += 3 {
			a, b, c := vertex(m, m.Indices[i]), vertex(m, m.Indices[i+1]), vertex(m, m.Indices[i+2])
			n := b.Sub(a).Cross(c.Sub(a))
			for _, k := range m.Indices[i : i+3] {
				vn := geom.V(float64(m.Normals[3*k]), float64(m.Normals[3*k+1]), float64(m.Normals[3*k+2]))
				if math.Abs(vn.Norm()-1) > 1e-5 {
					t.Fatalf("%s: normal %v has not length 1", name, vn)
				}
				if n.Norm() > 1e-9 && n.Unit().Dot(vn) < 0.3 {
					t.Fatalf("%s: triangle %d looks away from its normal %v", name, i/3, vn)
				}
			}
		}
	}
}

func TestBadShapes(t *testing.T) {
	var size *part.SizeError
	if _, err := part.Box(1, -1, 1); !errors.As(err, &size) || size.Field != "height" {
		t.Errorf("negative height: %v", err)
	}
	if _, err := part.Shoe(part.ShoeSize{Length: 1, Width: 1, Height: 1, Horn: math.NaN()}); !errors.As(err, &size) || size.Field != "horn" {
		t.Errorf("horn NaN: %v", err)
	}
	if _, err := part.Float(math.Inf(1), 1); !errors.As(err, &size) || size.Field != "length" {
		t.Errorf("endless float: %v", err)
	}
}

func TestAxes(t *testing.T) {
	for _, f := range []part.Axis{"+x", "-x", "+y", "-y", "+z", "-z"} {
		for _, u := range []part.Axis{"+x", "-x", "+y", "-y", "+z", "-z"} {
			a, err := part.NewAxes(f, u, geom.Vec{})
			if alike := f[1] == u[1]; (err != nil) != alike {
				t.Errorf("forward %s up %s: %v", f, u, err)
			} else if !alike && a.Side.Cross(a.Up) != a.Forward {
				t.Errorf("forward %s up %s: side %v is not right-handed", f, u, a.Side)
			}
		}
	}
	if _, err := part.NewAxes("up", "+y", geom.Vec{}); err == nil {
		t.Error(`axis "up" is accepted`)
	}
}

// A cable of one strand bends like one of several: it has sections all along, none farther from
// the next than a twelfth of a turn of its lay.
func TestOneStrandHasSections(t *testing.T) {
	for _, count := range []int{1, 2, 7} {
		m, err := part.Strands(part.StrandsSize{Length: 3, Count: count, Radius: 0.02, Lay: 0.28})
		if err != nil {
			t.Fatal(err)
		}
		at := map[float32]bool{}
		for _, z := range m.Spine {
			at[z] = true
		}
		places := slices.Sorted(maps.Keys(at))
		if len(places) == 0 || places[0] != -1.5 || places[len(places)-1] != 1.5 {
			t.Fatalf("%d strands: fastened at %v", count, places)
		}
		for k := 1; k < len(places); k++ {
			if step := places[k] - places[k-1]; step > 0.28/12 {
				t.Errorf("%d strands: %g m from section to section", count, step)
			}
		}
	}
}
