package scene

import (
	"bead/core/geom"
	"bead/core/path"
)

// CircleShape is one turn round a centre.
type CircleShape struct {
	Centre Vec3      `json:"centre" form:"Centre;place"`
	Radius float64   `json:"radius" form:"Radius;length;min=1e-6"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above" form:"Plane;choice;fallback=side"`
}

func (s *CircleShape) about() About {
	return About{Name: "Circle", First: &CircleShape{Centre: Vec3{0, 0.6, 0}, Radius: 0.6, Plane: path.PlaneSide}}
}

func (s *CircleShape) spans(func(string)) ([]path.Span, bool) {
	along, across := s.Plane.axes()
	return path.Circle(geom.FromArray(s.Centre), along, across, s.Radius), true
}
