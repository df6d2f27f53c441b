package scene

import (
	"bead/core/path"
)

// StartAtStep makes a closed path start at another distance.
type StartAtStep struct {
	Distance float64 `json:"distance" form:"Distance;distance;scaled"`
}

func (s *StartAtStep) about() About {
	return About{Name: "Start at", Text: "move the start mark of a loop", First: &StartAtStep{Distance: 1. / 4}}
}

// Shape takes the step.
func (s *StartAtStep) Shape(in *path.Curve) (Shaping, error) {
	spans, err := in.StartAt(s.Distance)
	return Shaping{Spans: spans, Closed: in.Closed()}, err
}
