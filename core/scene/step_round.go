package scene

import (
	"fmt"

	"bead/core/path"
)

// RoundStep rounds corners.
type RoundStep struct {
	Radius float64 `json:"radius" form:"Radius;length;min=0;scaled"`
}

func (s *RoundStep) about() About {
	return About{Name: "Round corners", Text: "bends in place of corners", First: &RoundStep{Radius: 1. / 40}}
}

// Shape takes the step.
func (s *RoundStep) Shape(in *path.Curve) (Shaping, error) {
	out := Shaping{Closed: in.Closed()}
	tight := 0
	out.Spans = in.RoundCorners(s.Radius, func(at, got float64) {
		if tight++; tight == 1 {
			out.Note = fmt.Sprintf("The corner at %.4g m has room for a radius of %.4g m only.", at, got)
		}
	})
	if n := len(in.Corners(0)); n == 0 {
		out.Note = "The path has no corners."
	}
	return out, nil
}
