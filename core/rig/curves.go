package rig

import (
	"context"

	"bead/core/geom"
	"bead/core/scene"
)

// mostCurves is how many values that move are in pictures and reports.
const mostCurves = 100

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

// reachFrames is the number of frames at which the reach of a moving scene is taken.
const reachFrames = 13

// Reach is roughly the box of the paths and fixtures over the range. Of a path with a lag its first frame
// counts, since a later one would need all frames before.
func (s *Scene) Reach(ctx context.Context) []scene.Vec3 {
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

// MovingAt is the value of number k of Moving at a frame, also of one outside the range.
func (s *Scene) MovingAt(k int, frame float64) float64 {
	return s.moving[k].signal.about(frame, s.Clock)
}

// Moving are the values that move, in the order of Picture.Values.
func (s *Scene) Moving() []scene.Slot {
	var out []scene.Slot
	for i := range s.moving {
		out = append(out, s.moving[i].slot)
	}
	return out
}
