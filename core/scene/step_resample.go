package scene

import (
	"bead/core/path"
)

// ResampleStep puts points evenly along the path.
type ResampleStep struct {
	Count    int  `json:"count" form:"Points;count;min=3;max=20000;unit=points"`
	Straight bool `json:"straight,omitempty" form:"Joined;switch;off=smoothly;on=straight"`
}

func (s *ResampleStep) about() About {
	return About{Name: "Resample", Text: "points evenly along", First: &ResampleStep{Count: 24}}
}

// Shape takes the step.
func (s *ResampleStep) Shape(in *path.Curve) (Shaping, error) {
	return Shaping{Spans: in.Resample(s.Count, s.Straight), Closed: in.Closed()}, nil
}
