package scene

import (
	"errors"
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/path"
)

// OffsetStep makes a parallel path.
type OffsetStep struct {
	Distance float64   `json:"distance" jsonschema:"description=Metres; out of a flat loop or to the left of other paths; negative: into it or to the right." form:"Out of the loop, or left;length;scaled"`
	Plane    PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above,description=The plane it is moved in; left out: a flat path's own and the ground for others." form:"Moved in;choice;fallback=;names=:its own plane"`
}

func (s *OffsetStep) about() About {
	return About{Name: "Offset", Text: "a parallel path", First: &OffsetStep{Distance: 1. / 50}}
}

// flatShare is the distance from its plane, as a share of the length, within which
// a path counts as flat.
const flatShare = 1e-6

// Shape moves out of a flat loop, else to the left of the path's run.
func (s *OffsetStep) Shape(in *path.Curve) (Shaping, error) {
	d, normal := s.Distance, geom.V(0, 1, 0)
	pl := in.Plane()
	flat := !pl.Line && pl.Off <= flatShare*in.Length()
	switch {
	case s.Plane != "":
		along, across, err := path.Axes(string(s.Plane))
		if err != nil {
			return Shaping{}, err
		}
		normal = along.Cross(across)
		if flat && in.Closed() && pl.Normal.Dot(normal) > 0 {
			normal = normal.Neg()
		}
	case flat && in.Closed():
		normal = pl.Normal.Neg() // a loop turns about its normal, so this side is out
	case flat:
		normal = pl.Normal
		if normal.Y < -1e-9 || math.Abs(normal.Y) <= 1e-9 && normal.X+normal.Z < 0 {
			normal = normal.Neg()
		}
	}
	if _, t := in.At(0); pl.Line && math.Abs(t.Dot(normal)) > 1-1e-9 {
		return Shaping{}, errors.New("the path runs straight along the normal of that plane: another plane is accepted")
	}
	out := Shaping{Spans: in.Offset(d, normal), Closed: in.Closed()}
	if k, at := in.Tightest(); k*math.Abs(d) > 1 {
		out.Note = fmt.Sprintf("The bend at %.4g m has a radius of %.1f mm: where the offset turns into it the path folds.", at, 1000/k)
	}
	return out, nil
}
