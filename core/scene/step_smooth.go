package scene

import (
	"bead/core/path"
)

// SmoothStep smooths away wiggles that are shorter than a reach.
type SmoothStep struct {
	Reach float64 `json:"reach" jsonschema:"description=Metres." form:"Reach;length;min=1e-6;scaled"`
}

func (s *SmoothStep) about() About {
	return About{Name: "Smooth", Text: "even out what is fine", First: &SmoothStep{Reach: 1. / 50}}
}

// Shape takes the step.
func (s *SmoothStep) Shape(in *path.Curve) (Shaping, error) {
	return Shaping{Spans: in.Smooth(s.Reach), Closed: in.Closed()}, nil
}
