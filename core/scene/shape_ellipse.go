package scene

import (
	"bead/core/geom"
	"bead/core/path"
)

// EllipseShape has one half axis along its plane's first direction and one across it.
type EllipseShape struct {
	Centre Vec3      `json:"centre" form:"Centre;place"`
	Along  float64   `json:"along" form:"Half axis along;length;min=1e-6"`
	Across float64   `json:"across" form:"Half axis across;length;min=1e-6"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above" form:"Plane;choice;fallback=side"`
}

func (s *EllipseShape) about() About {
	return About{Name: "Ellipse", First: &EllipseShape{Centre: Vec3{0, 0.6, 0}, Along: 1.2, Across: 0.6, Plane: path.PlaneSide}}
}

func (s *EllipseShape) spans(func(string)) ([]path.Span, bool) {
	along, across := s.Plane.axes()
	return path.Ellipse(geom.FromArray(s.Centre), along, across, s.Along, s.Across), true
}
