package scene

import (
	"bead/core/geom"
	"bead/core/path"
)

// RectangleShape is a rectangle with rounded corners.
type RectangleShape struct {
	Centre Vec3      `json:"centre" form:"Centre;place"`
	Length float64   `json:"length" form:"Length;length;min=1e-6"`
	Height float64   `json:"height" form:"Height;length;min=1e-6"`
	Radius float64   `json:"radius,omitempty" jsonschema:"description=Radius of the corners." form:"Corner radius;length;min=0"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above" form:"Plane;choice;fallback=side"`
}

func (s *RectangleShape) about() About {
	return About{Name: "Rounded rectangle", First: &RectangleShape{Centre: Vec3{0, 0.6, 0}, Length: 2, Height: 0.9, Radius: 0.2, Plane: path.PlaneSide}}
}

func (s *RectangleShape) check(c *checker, at string) {
	c.number(at+".radius", s.Radius, 0, max(min(s.Length, s.Height)/2, 0))
}

func (s *RectangleShape) spans(func(string)) ([]path.Span, bool) {
	along, across := s.Plane.axes()
	return path.RoundedRectangle(geom.FromArray(s.Centre), along, across, s.Length, s.Height, s.Radius), true
}
