package scene

import (
	"bead/core/path"
)

// ReverseStep runs the path the other way.
type ReverseStep struct{}

func (s *ReverseStep) about() About {
	return About{Name: "Reverse", Text: "run the other way", First: &ReverseStep{}}
}

// Shape takes the step.
func (s *ReverseStep) Shape(in *path.Curve) (Shaping, error) {
	return Shaping{Spans: path.Reverse(in.Spans()), Closed: in.Closed()}, nil
}
