package scene

import (
	"bead/core/path"
)

// ExtendStep lengthens an open path at either end.
type ExtendStep struct {
	Before float64 `json:"before,omitempty" form:"Before the start;distance;min=0;fallback=0"`
	After  float64 `json:"after,omitempty" form:"Behind the end;distance;min=0;fallback=0;scaled"`
	Curved bool    `json:"curved,omitempty" jsonschema:"description=Going on with the curvature of the end instead of straight." form:"Going on;switch;off=straight;on=in the bend"`
}

func (s *ExtendStep) about() About {
	return About{Name: "Extend", Text: "lengthen either end", First: &ExtendStep{After: 1. / 10}}
}

// Shape takes the step.
func (s *ExtendStep) Shape(in *path.Curve) (Shaping, error) {
	spans, err := in.Extend(s.Before, s.After, s.Curved)
	return Shaping{Spans: spans, Closed: in.Closed()}, err
}
