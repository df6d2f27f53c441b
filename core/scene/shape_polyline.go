package scene

import (
	"fmt"

	"bead/core/path"
)

// PolylineShape is straight from point to point, with rounded corners where asked.
type PolylineShape struct {
	Closed  bool      `json:"closed,omitempty"`
	Points  []Vec3    `json:"points" form:";points"`
	Fillet  float64   `json:"fillet,omitempty" jsonschema:"description=Radius of every corner in metres." form:";length;min=0"`
	Fillets []float64 `json:"fillets,omitempty" jsonschema:"description=Radius of each corner in the order of the points; instead of fillet."`
}

func (p *PolylineShape) about() About {
	return About{Name: "Polyline with fillets", First: &PolylineShape{Points: []Vec3{{0, 0.1, -2}, {0, 0.1, 0}, {1, 0.1, 0}, {1, 0.1, 2}}, Fillet: 0.3}}
}

func (p *PolylineShape) check(c *checker, at string) {
	if n := len(p.Fillets); n > len(p.Points) {
		c.say(at+".fillets", "%d radii for %d points: one a point is accepted", n, len(p.Points))
	}
	for i, r := range p.Fillets {
		c.number(fmt.Sprintf("%s.fillets[%d]", at, i), r, 0, maxPosition)
	}
}

func (p *PolylineShape) spans(say func(string)) ([]path.Span, bool) {
	r := make([]float64, len(p.Points))
	rounded := false
	for i := range r {
		r[i] = p.Fillet
		if len(p.Fillets) > 0 {
			r[i] = 0
		}
		if i < len(p.Fillets) {
			r[i] = p.Fillets[i]
		}
		rounded = rounded || r[i] > 0
	}
	if !rounded {
		return path.Polyline(vecs(p.Points), p.Closed), p.Closed
	}
	return path.Fillet(vecs(p.Points), r, p.Closed, func(corner int, asked, got float64) {
		if say != nil {
			say(fmt.Sprintf("Corner %d has no room for a radius of %.4g m and got %.4g m.", corner+1, asked, got))
		}
	}), p.Closed
}
