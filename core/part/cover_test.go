package part

import (
	"math"
	"testing"

	"bead/core/geom"
)

// Texture lies on a mesh in metres: of a triangle on the plane that it faces its area there is its own; of one
// that leans, by the cosine of its lean (a projection), which is at least 1/sqrt 3 on the side that it faces most.
func TestCover(t *testing.T) {
	for name, make := range map[string]func() (*geom.Mesh, error){
		"box":   func() (*geom.Mesh, error) { return Box(0.2, 0.3, 0.4) },
		"post":  func() (*geom.Mesh, error) { return Post(0.2, 0.1, 1) },
		"float": func() (*geom.Mesh, error) { return Float(0.4, 0.1) },
	} {
		m, err := make()
		if err != nil {
			t.Fatal(err)
		}
		m.Groups = []geom.Group{{Name: "a", Count: len(m.Indices)}}
		c := Cover(m)
		if len(c.UVs)/2 != len(c.Positions)/3 || len(c.Indices) != len(m.Indices) || len(c.Groups) != 1 || c.Bounds() != m.Bounds() {
			t.Errorf("%s: %d places of %d vertices, %d indices of %d", name, len(c.UVs)/2, len(c.Positions)/3, len(c.Indices), len(m.Indices))
		}
		for i := 0; i < len(c.Indices); i += 3 {
			var p [3]geom.Vec
			var u [3][2]float64
			for k := range 3 {
				v := c.Indices[i+k]
				p[k] = geom.V(float64(c.Positions[3*v]), float64(c.Positions[3*v+1]), float64(c.Positions[3*v+2]))
				u[k] = [2]float64{float64(c.UVs[2*v]), float64(c.UVs[2*v+1])}
			}
			n := p[1].Sub(p[0]).Cross(p[2].Sub(p[0]))
			on := ((u[1][0]-u[0][0])*(u[2][1]-u[0][1]) - (u[1][1]-u[0][1])*(u[2][0]-u[0][0]))
			a := n.Array()
			most := max(math.Abs(a[0]), math.Abs(a[1]), math.Abs(a[2]))
			if math.Abs(math.Abs(on)-most) > 1e-6*max(n.Norm(), 1e-3) || math.Abs(on) < n.Norm()/math.Sqrt(3)*(1-1e-4) {
				t.Fatalf("%s: triangle %d of %g covers %g of texture, as its side shows %g", name, i/3, n.Norm(), on, most)
			}
			if on < 0 {
				t.Fatalf("%s: texture lies mirrored on triangle %d", name, i/3)
			}
		}
	}
	tube, err := Tube(TubeSize{Length: 1, Radius: 0.1})
	if err != nil {
		t.Fatal(err)
	}
	if Cover(tube) != tube {
		t.Error("a tube has its own, and was covered anew")
	}
	tube.Tiles = true
	if c := Cover(tube); c.Tiles || c == tube {
		t.Error("a mesh of a file keeps its own although a size is said")
	}
}

func TestLowness(t *testing.T) {
	m := &geom.Mesh{Positions: []float32{0, 0, 0, 0, 2, 0, 0, 1, 0, 0, 0.7, 0}}
	got := Lowness(m, geom.V(0, 1, 0))
	// Half way of the smooth step, from the middle down by 0.3 of the height.
	if got[0] != 1 || got[1] != 0 || got[2] != 0 || math.Abs(got[3]-0.5) > 1e-6 {
		t.Errorf("%v", got)
	}
}
