package scene

import (
	"bead/core/path"
)

// BSplineShape is the uniform cubic B-spline of control points.
type BSplineShape struct {
	Closed bool   `json:"closed,omitempty"`
	Points []Vec3 `json:"points" form:";points"`
}

func (s *BSplineShape) about() About {
	return About{Name: "B-spline", First: &BSplineShape{Points: []Vec3{{0, 0.3, -2}, {1, 0.3, -1}, {-1, 0.3, 1}, {0, 0.3, 2}}}}
}

func (s *BSplineShape) spans(func(string)) ([]path.Span, bool) {
	return path.BSpline(vecs(s.Points), s.Closed), s.Closed
}
