package report

import (
	"context"

	"bead/core/rig"
	"bead/core/scene"
)

// CurveReadout is a value over time: evenly from First by Step frames. Speed is its
// change a second.
type CurveReadout struct {
	Ref    string     `json:"ref"` // rigs/port/travel
	Name   string     `json:"name"`
	Unit   scene.Unit `json:"unit"`
	First  float64    `json:"first"`
	Step   float64    `json:"step"`
	Values []float64  `json:"values"`
	Speed  []float64  `json:"speed"`
}

// curveSamples is the least number of samples of a value over the range; there are
// more where a frame would be left out, up to curveMost.
const curveSamples, curveMost = 240, 1200

// values samples the moving values over the range and an eighth of it beyond either
// end, so that the graph shows what the ends do.
func values(ctx context.Context, s *rig.Scene) []CurveReadout {
	var out []CurveReadout
	for k, m := range s.Moving() {
		if ctx.Err() != nil {
			break
		}
		c := sampled(s, func(f float64) float64 { return s.MovingAt(k, f) })
		c.Ref, c.Name, c.Unit = m.Ref, m.Name, m.Unit
		out = append(out, c)
	}
	return out
}

func sampled(s *rig.Scene, at func(frame float64) float64) CurveReadout {
	r := s.Doc.Range
	frames := float64(max(r.Count()-1, 1))
	n := int(min(max(frames, curveSamples), curveMost))
	beyond := n / 8
	c := CurveReadout{Step: frames / float64(n)}
	c.First = float64(r.First) - float64(beyond)*c.Step
	for i := range n + 2*beyond + 1 {
		f := c.First + float64(i)*c.Step
		c.Values = append(c.Values, at(f))
		h := c.Step / 4
		c.Speed = append(c.Speed, (at(f+h)-at(f-h))/(2*h)*s.Clock.FPS)
	}
	return c
}
