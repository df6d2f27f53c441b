package scene

import (
	"fmt"

	"bead/core/path"
)

// TrimStep keeps what lies between two distances.
type TrimStep struct {
	From float64 `json:"from" form:"From;distance;min=0"`
	To   float64 `json:"to" jsonschema:"description=0 or left out: the end." form:"To;distance;min=0;auto=the end;scaled"`
}

func (s *TrimStep) about() About {
	return About{Name: "Trim", Text: "keep a stretch", First: &TrimStep{To: 0.8}}
}

func (s *TrimStep) check(c *checker, at string) {
	if s.To != 0 && s.To <= s.From {
		c.say(at+".to", "%g is not beyond the start at %g: a greater distance is accepted, or 0 for the end", s.To, s.From)
	}
}

// Shape takes the step.
func (s *TrimStep) Shape(in *path.Curve) (Shaping, error) {
	from, to := s.From, s.To
	if to == 0 {
		to = in.Length()
	}
	var out Shaping
	if to > in.Length() && !in.Closed() {
		out.Note = fmt.Sprintf("The path ends at %.4g m.", in.Length())
	}
	if !in.Closed() && from >= in.Length() || in.Closed() && to-from > in.Length()*(1+1e-12) {
		return Shaping{}, fmt.Errorf("from %g m to %g m is not on a path %.6g m long", from, to, in.Length())
	}
	out.Spans = in.Cut(from, to)
	return out, nil
}
