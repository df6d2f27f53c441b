package part

import (
	"math"
	"testing"

	"bead/core/geom"
)

func bodies(t testing.TB) map[string]*geom.Mesh {
	t.Helper()
	out := map[string]*geom.Mesh{}
	add := func(name string, m *geom.Mesh, err error) {
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		out[name] = m
	}
	m, err := Tube(TubeSize{Length: 2, Radius: 0.1})
	add("rod", m, err)
	m, err = Tube(TubeSize{Length: 2, Radius: 0.1, Bore: 0.06})
	add("tube", m, err)
	m, err = Eel(EelSize{Length: 1.2, Girth: 0.14})
	add("eel", m, err)
	m, err = Plank(PlankSize{Length: 3, Width: 0.2, Thickness: 0.04})
	add("plank", m, err)
	m, err = Strip(StripSize{Length: 3, Width: 0.2, Thickness: 0.004})
	add("strip", m, err)
	m, err = Dart(DartSize{Length: 1, Radius: 0.05, Fins: 4})
	add("dart", m, err)
	m, err = Coil(CoilSize{Radius: 0.2, Pitch: 0.05, Turns: 8, Wire: 0.01})
	add("coil", m, err)
	m, err = Strands(StrandsSize{Length: 2, Count: 3, Radius: 0.05, Lay: 0.5})
	add("strands", m, err)
	return out
}

func vec(list []float32, i uint32) geom.Vec {
	return geom.V(float64(list[3*i]), float64(list[3*i+1]), float64(list[3*i+2]))
}

// volume is that of a closed mesh (divergence theorem), below 0 where faces look inwards.
func volume(m *geom.Mesh) float64 {
	sum := 0.0
	for i := 0; i < len(m.Indices); i += 3 {
		a, b, c := vec(m.Positions, m.Indices[i]), vec(m.Positions, m.Indices[i+1]), vec(m.Positions, m.Indices[i+2])
		sum += a.Dot(b.Cross(c)) / 6
	}
	return sum
}

// Every body has whole arrays, unit normals on the side its triangles look to, and texture
// coordinates.
func TestBodies(t *testing.T) {
	for name, m := range bodies(t) {
		n := len(m.Positions) / 3
		if len(m.Normals) != 3*n || len(m.UVs) != 2*n || len(m.Spine) != 0 && len(m.Spine) != n {
			t.Errorf("%s: %d vertices with %d floats of normals, %d of textures, %d of spine", name, n, len(m.Normals), len(m.UVs), len(m.Spine))
			continue
		}
		for i := range uint32(n) {
			if l := vec(m.Normals, i).Norm(); math.Abs(l-1) > 1e-5 || !vec(m.Positions, i).IsFinite() {
				t.Fatalf("%s: vertex %d has a normal %g long", name, i, l)
			}
		}
		against := 0
		for i := 0; i < len(m.Indices); i += 3 {
			a, b, c := m.Indices[i], m.Indices[i+1], m.Indices[i+2]
			face := vec(m.Positions, b).Sub(vec(m.Positions, a)).Cross(vec(m.Positions, c).Sub(vec(m.Positions, a)))
			if face.Norm() < 1e-10 {
				continue
			}
			if mean := vec(m.Normals, a).Add(vec(m.Normals, b)).Add(vec(m.Normals, c)); face.Dot(mean) <= 0 {
				against++
			}
		}
		if against > 0 {
			t.Errorf("%s: %d of %d triangles look against their normals", name, against, len(m.Indices)/3)
		}
	}
}

// Volumes against closed forms: a rod pi r^2 l less its ring's chords, a plank its section, a
// wire its section times its length (Pappus).
func TestVolumes(t *testing.T) {
	all := bodies(t)
	n := float64(sidesOf)
	ring := n / 2 * math.Sin(2*math.Pi/n) // of radius 1, as a polygon
	for name, want := range map[string]float64{
		"rod":   ring * 0.1 * 0.1 * 2,
		"tube":  ring * (0.1*0.1 - 0.06*0.06) * 2,
		"plank": (0.2*0.04 - 4*0.5*0.006*0.006) * 3,
	} {
		if got := volume(all[name]); math.Abs(got-want) > 1e-6*want {
			t.Errorf("%s: volume %.9f, not %.9f", name, got, want)
		}
	}
	sides := float64(max(8, sidesOf/2))
	want := sides / 2 * math.Sin(2*math.Pi/sides) * 0.01 * 0.01 * 8 * math.Hypot(2*math.Pi*0.2, 0.05)
	if got := volume(all["coil"]); math.Abs(got-want) > 0.005*want {
		t.Errorf("coil: volume %g, not %g", got, want)
	}
}

// The length of a strand over that of its cable is sqrt(1 + (2 pi r / lay)^2) (MATH 6), strands
// touch one another, and the cable is as thick as it was asked to be.
func TestStrands(t *testing.T) {
	m := bodies(t)["strands"]
	strand, helix := Strand(3, 0.05)
	if got := helix * math.Sqrt(3) / 2; math.Abs(got-strand) > 1e-12 { // half the distance of two middles
		t.Errorf("strands of %g are %g apart", strand, got)
	}
	// The middle of each ring is the mean of two vertices that face one another across it.
	sides := max(8, sidesOf/2)
	row := sides + 1
	length, last := 0.0, geom.Vec{}
	reach := 0.0
	for i := 0; i+row <= len(m.Spine)/3-2*row; i += row { // but for its two ends
		c := geom.Vec{}
		for k := range sides {
			p := vec(m.Positions, uint32(i+k))
			c = c.Mad(p, 1/float64(sides))
			reach = max(reach, math.Hypot(p.X, p.Y))
		}
		if i > 0 {
			length += c.Sub(last).Norm()
		}
		last = c
	}
	if want := 2 * math.Sqrt(1+math.Pow(2*math.Pi*helix/0.5, 2)); math.Abs(length-want) > 1e-3*want {
		t.Errorf("a strand is %g long, not %g", length, want)
	}
	if math.Abs(reach-0.05) > 2e-3 {
		t.Errorf("the cable reaches %g from its middle, not 0.05", reach)
	}
}

// Slicing leaves the shape, cuts every edge at every plane, and parts no face from another.
func TestSlice(t *testing.T) {
	box, _ := Box(0.3, 0.2, 2)
	for name, m := range map[string]*geom.Mesh{"box": box, "eel": bodies(t)["eel"], "tube": bodies(t)["tube"]} {
		out := Slice(m, geom.V(0, 0, 1), 37)
		if a, b := volume(m), volume(out); math.Abs(a-b) > 1e-6*math.Abs(a) {
			t.Errorf("%s: volume %.9f became %.9f", name, a, b)
		}
		size := m.Bounds().Size().Z / 37
		for i := 0; i < len(out.Indices); i += 3 {
			if out.Spine != nil && out.Spine[out.Indices[i]] == out.Spine[out.Indices[i]] {
				continue // an eye
			}
			lo, hi := math.Inf(1), math.Inf(-1)
			for _, v := range out.Indices[i : i+3] {
				z := float64(out.Positions[3*v+2])
				lo, hi = min(lo, z), max(hi, z)
			}
			if hi-lo > size*1.001 {
				t.Fatalf("%s: a triangle is %g long, planes are %g apart", name, hi-lo, size)
			}
		}
		n := len(out.Positions) / 3
		if len(out.Normals) != 3*n || len(out.UVs) != 2*n*min(len(m.UVs), 1) {
			t.Errorf("%s: arrays of unlike length", name)
		}
		for _, b := range out.Blends {
			if len(b.Positions) != 3*n || len(b.Normals) != 3*n {
				t.Errorf("%s: a blend of %d floats for %d vertices", name, len(b.Positions), n)
			}
		}
	}
	// What would be added is told before, at most twice too high: a box's four sides are cut at 36
	// planes, each on three edges with its diagonal.
	if n, most := len(Slice(box, geom.V(0, 0, 1), 37).Positions)/3-len(box.Positions)/3, Cuts(box, geom.V(0, 0, 1), 37); n != 4*3*36 || n > most || 2*n < most {
		t.Errorf("%d vertices are added, about %d foretold", n, most)
	}
	if Slice(box, geom.V(0, 0, 1), 1) != box {
		t.Error("one stretch is not the mesh itself")
	}
}

func TestBodiesRefuse(t *testing.T) {
	for name, err := range map[string]error{
		"a bore as wide as the tube": second(Tube(TubeSize{Length: 1, Radius: 0.1, Bore: 0.1})),
		"an eel as thick as long":    second(Eel(EelSize{Length: 1, Girth: 1})),
		"no strands":                 second(Strands(StrandsSize{Length: 1, Radius: 0.1, Lay: 1})),
		"no lay":                     second(Strands(StrandsSize{Length: 1, Radius: 0.1, Count: 3})),
		"a wire thicker than coiled": second(Coil(CoilSize{Radius: 0.1, Pitch: 0.1, Turns: 1, Wire: 0.2})),
		"endless turns":              second(Coil(CoilSize{Radius: 0.1, Pitch: 0.1, Turns: 1e9, Wire: 0.01})),
		"a length of NaN":            second(Dart(DartSize{Length: math.NaN(), Radius: 0.1})),
		"endless lay":                second(Strands(StrandsSize{Length: 1000, Radius: 0.1, Count: 12, Lay: 0.1})),
		"too many fins":              second(Dart(DartSize{Length: 1, Radius: 0.1, Fins: 99})),
	} {
		if err == nil {
			t.Errorf("%s was accepted", name)
		}
	}
}

func second(_ *geom.Mesh, err error) error { return err }
