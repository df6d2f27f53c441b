package scene

import (
	"bead/core/path"
)

// CloseStep joins the end to the start.
type CloseStep struct {
	Smooth bool `json:"smooth,omitempty" jsonschema:"description=By a curve with both end tangents instead of a straight line." form:"With;switch;off=a straight;on=a curve"`
}

func (s *CloseStep) about() About {
	return About{Name: "Close", Text: "join end to start", First: &CloseStep{}}
}

// Shape takes the step.
func (s *CloseStep) Shape(in *path.Curve) (Shaping, error) {
	out := Shaping{Spans: in.CloseUp(s.Smooth), Closed: true}
	if in.Closed() {
		out.Note = "The path was closed before."
	}
	return out, nil
}
