package scene

import (
	"bead/core/path"
)

// SubdivideStep cuts each span into more; the shape stays.
type SubdivideStep struct {
	Parts int `json:"parts" form:"Each span into;count;min=2;max=64;unit=parts"`
}

func (s *SubdivideStep) about() About {
	return About{Name: "Subdivide", Text: "more spans, same shape", First: &SubdivideStep{Parts: 2}}
}

// Shape takes the step.
func (s *SubdivideStep) Shape(in *path.Curve) (Shaping, error) {
	if n := len(in.Spans()) * s.Parts; n > path.MostSpans {
		return Shaping{}, path.TooMany(n)
	}
	return Shaping{Spans: path.Subdivide(in.Spans(), s.Parts), Closed: in.Closed()}, nil
}
