package surface

import (
	"math"
	"math/rand/v2"
	"testing"

	"bead/core/geom"
	"bead/core/path"
)

const around, along = 24, 10

// tube is an open pipe of radius 0.5 about z: quads, or each cut into two triangles
// with its own copies of the points, as files with normals have them.
func tube(t *testing.T, triangles bool) *Mesh {
	t.Helper()
	at := func(i, k int) geom.Vec {
		a := 2 * math.Pi * float64(i%around) / around
		return geom.V(0.5*math.Cos(a), 0.5*math.Sin(a), 0.2*float64(k))
	}
	var points []geom.Vec
	var faces [][]int32
	for k := range along {
		for i := range around {
			n := int32(len(points))
			points = append(points, at(i, k), at(i+1, k), at(i+1, k+1), at(i, k+1))
			if triangles {
				faces = append(faces, []int32{n, n + 1, n + 2}, []int32{n, n + 2, n + 3})
			} else {
				faces = append(faces, []int32{n, n + 1, n + 2, n + 3})
			}
		}
	}
	m, err := New(points, faces)
	if err != nil {
		t.Fatal(err)
	}
	if len(m.Points) != around*(along+1) {
		t.Fatalf("%d points after welding", len(m.Points))
	}
	return m
}

// The edge loops of a tube are its circles, whether it comes in quads or triangles:
// the points lie on the exact circle, each once, in order.
func TestLoopsOfATube(t *testing.T) {
	for _, triangles := range []bool{false, true} {
		m := tube(t, triangles)
		for name, tc := range map[string]struct {
			pick geom.Vec
			way  Way
			z    float64
		}{
			"loop inside": {geom.V(0.5*math.Cos(0.13), 0.5*math.Sin(0.13), 0.61), Loop, 0.6},
			"loop at rim": {geom.V(0.5*math.Cos(0.13), 0.5*math.Sin(0.13), 0.01), Loop, 0},
			"rim":         {geom.V(0.5*math.Cos(2), 0.5*math.Sin(2), 1.7), Boundary, 2},
			"crease":      {geom.V(0.5*math.Cos(1), 0.5*math.Sin(1), 1.98), Crease, 2},
			"band":        {geom.V(0.5, 0, 0.51), Middle, 0.5},
		} {
			c, err := m.Follow(tc.pick, tc.way)
			if err != nil || !c.Closed || len(c.Points) != around {
				t.Errorf("triangles %v, %s: %d points, closed %v, %v", triangles, name, len(c.Points), c.Closed, err)
				continue
			}
			for i, p := range c.Points {
				q := c.Points[(i+1)%around]
				if math.Abs(p.Z-tc.z) > 1e-12 || math.Abs(math.Hypot(p.X, p.Y)-0.5) > 1e-12 ||
					math.Abs(p.Sub(q).Norm()-2*0.5*math.Sin(math.Pi/around)) > 1e-12 {
					t.Errorf("triangles %v, %s: point %v, next %v", triangles, name, p, q)
					break
				}
			}
		}
		// Along the tube a loop is a straight line from rim to rim.
		c, err := m.Follow(geom.V(0.5, 0, 0.9), Loop)
		if err != nil || c.Closed || len(c.Points) != along+1 {
			t.Errorf("triangles %v: %d points along, closed %v, %v", triangles, len(c.Points), c.Closed, err)
		}
	}
}

func box(t *testing.T) *Mesh {
	t.Helper()
	var pts []geom.Vec
	for i := range 8 {
		pts = append(pts, geom.V(float64(i&1), float64(i>>1&1), float64(i>>2&1)))
	}
	m, err := New(pts, [][]int32{{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}})
	if err != nil {
		t.Fatal(err)
	}
	return m
}

func TestChainsThatEnd(t *testing.T) {
	m := box(t)
	if _, err := m.Follow(geom.V(0.5, 0, 0), Boundary); err == nil {
		t.Error("a box has no rim")
	}
	if _, err := m.Follow(geom.V(0.5, 0, 0), "somehow"); err == nil {
		t.Error("an unknown way was accepted")
	}
	// Three edges meet at a box's corners: nothing goes on.
	c, err := m.Follow(geom.V(0.5, 0, 0), Loop)
	if err != nil || c.Closed || len(c.Points) != 2 {
		t.Errorf("%+v %v", c, err)
	}
	// A band round the box runs over four faces.
	c, err = m.Follow(geom.V(0.5, 0, 0), Middle)
	if err != nil || !c.Closed || len(c.Points) != 4 {
		t.Errorf("%+v %v", c, err)
	}
	if _, err := New([]geom.Vec{{}, {X: 1}}, [][]int32{{0, 1, 0}}); err == nil {
		t.Error("a mesh without faces was accepted")
	}
	if _, err := New([]geom.Vec{{}}, [][]int32{{0, 1, 7}}); err == nil {
		t.Error("a face of points that are not there was accepted")
	}
}

// The tree against looking at every triangle.
func TestNearestAgainstAll(t *testing.T) {
	m := tube(t, true)
	r := rand.New(rand.NewPCG(3, 4))
	for range 500 {
		p := geom.V(r.NormFloat64(), r.NormFloat64(), 1+r.NormFloat64())
		q, _ := m.Nearest(p)
		best := math.Inf(1)
		for _, tri := range m.tree.tri {
			x, w := nearestOnTriangle(p, m.Points[tri[0]], m.Points[tri[1]], m.Points[tri[2]])
			best = min(best, x.Sub(p).Norm())
			if math.Abs(w[0]+w[1]+w[2]-1) > 1e-12 {
				t.Fatalf("weights %v", w)
			}
		}
		if math.Abs(q.Sub(p).Norm()-best) > 1e-12 {
			t.Fatalf("nearest to %v: %g, by all %g", p, q.Sub(p).Norm(), best)
		}
	}
}

// Points of a helix drawn on a cylinder come back as the helix: its closed length,
// and everywhere at the radius plus the clearance.
func TestOverAPost(t *testing.T) {
	o := Post{Base: geom.V(1, 0, 2), Radius: 0.3, TopRadius: 0.3, Height: 3}
	const clearance, turns, rise = 0.05, 3, 0.5
	var pts []geom.Vec
	for i := range 3*turns + 1 { // a third of a turn apart, as clicks from three sides are
		a := 2 * math.Pi * float64(i) / 3
		pts = append(pts, o.Base.Add(geom.V(0.3*math.Sin(a), rise*a/(2*math.Pi)+0.2, 0.3*math.Cos(a))))
	}
	c, err := path.New(o.Over(pts, false, clearance), false)
	if err != nil {
		t.Fatal(err)
	}
	// On the unrolled side the points lie on a straight line, and so does the smooth
	// curve through them: the length is the helix's.
	if want := turns * math.Hypot(2*math.Pi*0.35, rise); math.Abs(c.Length()-want) > 1e-4 {
		t.Errorf("length %g, want %g", c.Length(), want)
	}
	for i := range 1000 {
		p, _ := c.At(c.Length() * float64(i) / 999)
		if r := math.Hypot(p.X-1, p.Z-2); math.Abs(r-0.35) > 1e-6 {
			t.Fatalf("%g from the axis at %d", r, i)
		}
	}
	// A ring round a cone, closed: it stays at its clearance from the cone's side
	// and goes over the seam without a corner.
	cone := Post{Radius: 0.5, TopRadius: 0.2, Height: 1}
	pts = nil
	for i := range 5 {
		a := 2 * math.Pi * float64(i) / 5
		h := 0.5 + 0.1*math.Sin(2*a)
		pts = append(pts, geom.V((0.5-0.3*h)*math.Sin(a), h, (0.5-0.3*h)*math.Cos(a)))
	}
	c, err = path.New(cone.Over(pts, true, clearance), true)
	if err != nil {
		t.Fatal(err)
	}
	if k := c.Corners(1e-3); len(k) > 0 {
		t.Errorf("corners %v", k)
	}
	slope := math.Atan2(0.3, 1)
	for i := range 500 {
		p, _ := c.At(c.Length() * float64(i) / 500)
		if d := (math.Hypot(p.X, p.Z)-0.5)*math.Cos(slope) + p.Y*math.Sin(slope); math.Abs(d-clearance) > 2e-6 {
			t.Fatalf("%g from the cone's side at %d", d, i)
		}
	}
}

// Over a mesh of a tube the shortest way between two points at different heights
// and angles is a helix on the tube.
func TestOverAMesh(t *testing.T) {
	m := tube(t, true)
	// A sixth of a turn, half a metre on: 0.5 cos(pi/24) .. 0.5 is the tube's radius.
	a := geom.V(0.5, 0, 0.8)
	b := geom.V(0.5*math.Cos(math.Pi/3), 0.5*math.Sin(math.Pi/3), 1.3)
	spans, least := m.Over([]geom.Vec{a, b}, false, 0.05)
	c, err := path.New(spans, false)
	if err != nil {
		t.Fatal(err)
	}
	if want := math.Hypot(math.Pi/3*0.55, 0.5); math.Abs(c.Length()/want-1) > 0.01 {
		t.Errorf("length %g, the helix has %g", c.Length(), want)
	}
	if math.Abs(least-0.05) > 0.004 {
		t.Errorf("least clearance %g", least)
	}
}

// Two triangles of a square are one face, but for those of two surfaces or with a seam of an image between them: their
// edge is then one of the mesh, and each is drawn among its own.
func TestDressParts(t *testing.T) {
	points := []geom.Vec{{}, {X: 1}, {X: 1, Y: 1}, {Y: 1}}
	faces := [][]int32{{0, 1, 2}, {0, 2, 3}}
	whole := [][][2]float32{{{0, 0}, {1, 0}, {1, 1}}, {{0, 0}, {1, 1}, {0, 1}}}
	seam := [][][2]float32{{{0, 0}, {1, 0}, {1, 1}}, {{0.5, 0}, {1, 1}, {0, 1}}}
	for name, c := range map[string]struct {
		dress  Dress
		edges  int
		groups int
	}{
		"plain":        {Dress{}, 4, 0},
		"one surface":  {Dress{Names: []string{"a"}, Group: []int32{0, 0}, UVs: whole}, 4, 1},
		"two surfaces": {Dress{Names: []string{"a", "b"}, Group: []int32{1, 0}}, 5, 2},
		"a seam":       {Dress{UVs: seam}, 5, 0},
	} {
		m, err := NewDressed(points, faces, c.dress)
		if err != nil {
			t.Fatal(err)
		}
		if got := len(m.Wire()) / 2; got != c.edges {
			t.Errorf("%s: %d edges, want %d", name, got, c.edges)
		}
		scaled, err := m.Scaled(2)
		if err != nil {
			t.Fatal(err)
		}
		for _, d := range []*geom.Mesh{m.Drawn(), scaled.Drawn()} {
			if len(d.Groups) != c.groups || len(d.Indices) != 6 || d.Tiles != (len(c.dress.UVs) > 0) || d.Tiles && len(d.UVs)/2 != len(d.Positions)/3 {
				t.Errorf("%s: %d groups, %d indices, %d places of %d vertices", name, len(d.Groups), len(d.Indices), len(d.UVs)/2, len(d.Positions)/3)
			}
		}
		if c.groups == 2 { // the second triangle is of the first surface
			d := m.Drawn()
			v := d.Indices[d.Groups[0].First : d.Groups[0].First+3]
			x := d.Positions[3*v[0]] + d.Positions[3*v[1]] + d.Positions[3*v[2]]
			if d.Groups[0].Name != "a" || x != 1 {
				t.Errorf("%s: %+v has corners whose x add up to %g", name, d.Groups, x)
			}
		}
	}
}
