package rig

import (
	"context"

	"bead/core/geom"
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
const curveSamples, curveMost, mostCurves = 240, 1200, 100

// moving is a value of the scene that moves.
type moving struct {
	slot   scene.Slot
	signal *signal
}

// findMoving lists the values that move, for pictures and readouts.
func (s *Scene) findMoving() {
	for _, slot := range s.Doc.Slots() {
		if slot.Value.Moves() && len(s.moving) < mostCurves {
			s.moving = append(s.moving, moving{slot, s.signals[slot.Ref]})
		}
	}
}

// Way is how far a rig has come along its path since the first frame of the range, at
// each frame: what it goes along with included.
func (t *Rig) Way() []float64 {
	r := t.scene.Doc.Range
	out := make([]float64, r.Count())
	start := t.Distance(0, float64(r.First))
	for k := range out {
		out[k] = t.Distance(0, float64(r.First+k)) - start
	}
	return out
}

// inStep reports whether a rig is one of two that are to be in step.
func (s *Scene) inStep(id string) bool {
	for i := range s.Doc.Rigs {
		if r := &s.Doc.Rigs[i]; r.InStep != "" && (r.ID == id || r.InStep == id) {
			return true
		}
	}
	return false
}

// values samples the moving values over the range and an eighth of it beyond either
// end, so that the graph shows what the ends do.
func (s *Scene) values(ctx context.Context) []CurveReadout {
	var out []CurveReadout
	for _, m := range s.moving {
		if ctx.Err() != nil {
			break
		}
		c := s.sampled(func(f float64) float64 { return m.signal.about(f, s.Clock) })
		c.Ref, c.Name, c.Unit = m.slot.Ref, m.slot.Name, m.slot.Unit
		out = append(out, c)
	}
	return out
}

func (s *Scene) sampled(at func(frame float64) float64) CurveReadout {
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

// reachFrames is the number of frames at which the reach of a moving scene is taken.
const reachFrames = 13

// reach is roughly the box of the paths and fixtures over the range. Of a path with a lag its first frame
// counts, since a later one would need all frames before.
func (s *Scene) reach(ctx context.Context) []scene.Vec3 {
	box := geom.EmptyBox()
	grow := func(m geom.Rigid, b geom.Box) {
		for _, x := range [2]float64{b.Min.X, b.Max.X} {
			for _, y := range [2]float64{b.Min.Y, b.Max.Y} {
				for _, z := range [2]float64{b.Min.Z, b.Max.Z} {
					box = box.Extend(m.Apply(geom.V(x, y, z)))
				}
			}
		}
	}
	frames := 1
	if len(s.moving) > 0 {
		frames = reachFrames
	}
	for k := range frames {
		f := s.Clock.First + float64(k)*float64(s.Doc.Range.Count()-1)/reachFrames
		for i := range s.Paths {
			if ctx.Err() != nil {
				return nil
			}
			c := s.Paths[i]
			if !s.lagging(i) {
				c = s.curveAt(i, f)
			}
			grow(s.pathPose(i, f), c.Bounds())
		}
		for i := range s.Fixtures {
			x := &s.Fixtures[i]
			grow(s.pose(x.carrier, f).Mul(x.rest), s.Parts[x.Part].Bounds)
		}
	}
	if len(s.Paths)+len(s.Fixtures) == 0 {
		return nil
	}
	return []scene.Vec3{box.Min.Array(), box.Max.Array()}
}

// Moving are the values that move, in the order of Picture.Values.
func (s *Scene) Moving() []scene.Slot {
	var out []scene.Slot
	for i := range s.moving {
		out = append(out, s.moving[i].slot)
	}
	return out
}
