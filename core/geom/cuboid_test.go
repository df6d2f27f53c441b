package geom_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"bead/core/geom"
)

// Boxes whose gap is known: face to face, a corner to a face, and two edges that cross. Where the gap
// is along an edge crossing only that axis tells.
func TestBoxesApart(t *testing.T) {
	cube := geom.Box{Min: geom.V(-1, -1, -1), Max: geom.V(1, 1, 1)}
	still := geom.CuboidOf(cube, geom.Still, 1)
	diagonal := math.Sqrt2
	along := geom.Rigid{X: geom.V(1, 0, 0), Y: geom.V(0, 1/diagonal, 1/diagonal), Z: geom.V(0, -1/diagonal, 1/diagonal)}
	for _, c := range []struct {
		name string
		at   geom.Rigid
		size float64
		want float64
	}{
		{"face to face", geom.Rigid{P: geom.V(2.5, 0.3, 0.1), X: geom.V(1, 0, 0), Y: geom.V(0, 1, 0), Z: geom.V(0, 0, 1)}, 1, 0.5},
		{"overlapping", geom.Rigid{P: geom.V(1.5, 0, 0), X: geom.V(1, 0, 0), Y: geom.V(0, 1, 0), Z: geom.V(0, 0, 1)}, 1, -0.5},
		{"an edge to a face", geom.Rigid{P: geom.V(0, 3, 0), X: along.X, Y: along.Y, Z: along.Z}, 1, 2 - diagonal},
		{"half as large", geom.Rigid{P: geom.V(0, 3, 0), X: along.X, Y: along.Y, Z: along.Z}, 0.5, 2 - diagonal/2},
	} {
		other := geom.CuboidOf(cube, c.at, c.size)
		if got, back := still.Apart(&other), other.Apart(&still); math.Abs(got-c.want) > 1e-12 || math.Abs(back-got) > 1e-12 {
			t.Errorf("%s: %g and %g, want %g", c.name, got, back, c.want)
		}
	}
	// One's upper edge along x under the other's lower edge along z.
	lower := geom.CuboidOf(cube, geom.Rigid{X: along.X, Y: along.Y, Z: along.Z}, 1)
	turned := geom.Rigid{P: geom.V(0, 2*diagonal+0.05, 0), Z: geom.V(0, 0, 1), X: geom.V(1/diagonal, 1/diagonal, 0), Y: geom.V(-1/diagonal, 1/diagonal, 0)}
	upper := geom.CuboidOf(cube, turned, 1)
	if got := lower.Apart(&upper); math.Abs(got-0.05) > 1e-12 {
		t.Errorf("crossed edges are %g apart, want 0.05", got)
	}
}

// Boxes that share a point are never apart, and boxes that are apart share none of many.
func TestBoxesApartByPoints(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	random := func() geom.Cuboid {
		at := geom.Turned(r.Float64()*6, r.Float64()*3-1.5, r.Float64()*6)
		at.P = geom.V(r.Float64()*3, r.Float64()*3, r.Float64()*3)
		b := geom.Box{Max: geom.V(r.Float64()+0.1, r.Float64()+0.1, r.Float64()+0.1)}
		return geom.CuboidOf(b, at, 1)
	}
	inside := func(c *geom.Cuboid, p geom.Vec) bool {
		p = p.Sub(c.Mid)
		for _, h := range c.Half {
			if math.Abs(p.Dot(h)) > h.Dot(h) {
				return false
			}
		}
		return true
	}
	shared := 0
	for range 400 {
		a, b := random(), random()
		apart := a.Apart(&b)
		for range 300 {
			p := a.Mid
			for _, h := range a.Half {
				p = p.Mad(h, 2*r.Float64()-1)
			}
			if inside(&b, p) {
				if shared++; apart > 0 {
					t.Fatalf("%v and %v share %v, but are %g apart", a, b, p, apart)
				}
			}
		}
	}
	if shared < 500 {
		t.Errorf("only %d points shared: the test looks at too little", shared)
	}
}
