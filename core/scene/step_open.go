package scene

import (
	"fmt"

	"bead/core/path"
)

// OpenStep leaves a stretch of a closed path out at its end.
type OpenStep struct {
	Gap float64 `json:"gap,omitempty" jsonschema:"description=Metres left open before the start; 0: the seam is only parted." form:"Gap left;distance;min=0;fallback=0"`
}

func (s *OpenStep) about() About {
	return About{Name: "Open", Text: "part a loop at its seam", First: &OpenStep{}}
}

// Shape takes the step.
func (s *OpenStep) Shape(in *path.Curve) (Shaping, error) {
	if !in.Closed() {
		return Shaping{}, path.ErrOpenPath
	}
	if s.Gap >= in.Length() {
		return Shaping{}, fmt.Errorf("a gap of %g m leaves nothing of a path %.6g m long", s.Gap, in.Length())
	}
	return Shaping{Spans: in.Cut(0, in.Length()-s.Gap)}, nil
}
