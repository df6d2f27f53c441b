package scene

import (
	"fmt"

	"bead/core/path"
)

// SimplifyStep rebuilds the path with fewer points.
type SimplifyStep struct {
	Tolerance float64 `json:"tolerance" jsonschema:"description=Metres by which the new path may stray from the old." form:"Tolerance;length;min=1e-9;scaled"`
}

func (s *SimplifyStep) about() About {
	return About{Name: "Rebuild", Text: "fewer points within a tolerance", First: &SimplifyStep{Tolerance: 1. / 1000}}
}

// Shape takes the step.
func (s *SimplifyStep) Shape(in *path.Curve) (Shaping, error) {
	got := in.Simplify(s.Tolerance)
	points := len(in.Spans())
	if !in.Closed() {
		points++
	}
	out := Shaping{Spans: got.Spans, Closed: in.Closed()}
	out.Note = fmt.Sprintf("%d points instead of %d, at most %.3g mm off.", got.Points, points, got.Off*1000)
	if got.Kept {
		out.Note = fmt.Sprintf("It keeps its %d points: as many others come no nearer than that.", points)
	}
	return out, nil
}
