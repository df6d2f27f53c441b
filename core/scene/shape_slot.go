package scene

import (
	"bead/core/geom"
	"bead/core/path"
)

// SlotShape is two half circles joined by straights of the given length.
type SlotShape struct {
	Centre Vec3      `json:"centre" form:"Centre;place"`
	Length float64   `json:"length" form:"Straights;length;min=0"`
	Radius float64   `json:"radius" form:"Radius;length;min=1e-6"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above" form:"Plane;choice;fallback=side"`
}

func (s *SlotShape) about() About {
	return About{Name: "Slot", First: &SlotShape{Centre: Vec3{0, 0.5, 0}, Length: 2, Radius: 0.4, Plane: path.PlaneSide}}
}

func (s *SlotShape) spans(func(string)) ([]path.Span, bool) {
	along, across := s.Plane.axes()
	return path.Slot(geom.FromArray(s.Centre), along, across, s.Length, s.Radius), true
}
