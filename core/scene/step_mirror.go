package scene

import (
	"bead/core/geom"
	"bead/core/path"
)

// MirrorStep mirrors the path.
type MirrorStep struct {
	Axis string  `json:"axis" jsonschema:"enum=x,enum=y,enum=z" form:"Across;choice;fallback=x"`
	At   float64 `json:"at,omitempty" jsonschema:"description=Where the mirror stands on that axis in metres." form:"At;distance;fallback=0"`
}

func (s *MirrorStep) about() About {
	return About{Name: "Mirror", Text: "in a plane", First: &MirrorStep{Axis: "x"}}
}

// Shape takes the step.
func (s *MirrorStep) Shape(in *path.Curve) (Shaping, error) {
	n := map[string]geom.Vec{"x": geom.V(1, 0, 0), "y": geom.V(0, 1, 0), "z": geom.V(0, 0, 1)}[s.Axis]
	return Shaping{Spans: path.Mirror(in.Spans(), n.Mul(s.At), n), Closed: in.Closed()}, nil
}
