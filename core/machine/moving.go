package machine

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
	signal *Signal
}

// findMoving lists the values that move, for pictures and readouts.
func (s *Machine) findMoving(slots []scene.Slot) {
	for _, slot := range slots {
		if slot.Value.Moves() && len(s.moving) < mostCurves {
			s.moving = append(s.moving, moving{slot, s.signals[slot.Ref]})
		}
	}
}

// reachFrames is the number of frames at which the reach of a moving scene is taken.
const reachFrames = 13

// Reach is roughly the box of the paths and fixtures over the range. Of a path with a lag its first frame
// counts, since a later one would need all frames before.
func (s *Machine) Reach(ctx context.Context) []scene.Vec3 {
	box := geom.EmptyBox()
	grow := func(m geom.Rigid, b geom.Box) {
		for k := range 8 {
			box = box.Extend(m.Apply(b.Corner(k)))
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
				c = s.CurveAt(i, f)
			}
			grow(s.PathPlace(i, f), c.Bounds())
		}
		for i := range s.Fixtures {
			x := &s.Fixtures[i]
			grow(s.CarrierPlace(x.Carrier, f).Mul(x.Rest), s.Parts[x.Part].Bounds)
		}
	}
	if len(s.Paths)+len(s.Fixtures) == 0 {
		return nil
	}
	return []scene.Vec3{box.Min.Array(), box.Max.Array()}
}

// MovingAt is the value of number k of Moving at a frame, also of one outside the range.
func (s *Machine) MovingAt(k int, frame float64) float64 {
	return s.moving[k].signal.About(frame, s.Clock)
}

// ValuesAt fills in the values that move, in the order of Moving.
func (s *Machine) ValuesAt(dst []float64, frame float64) []float64 {
	dst = dst[:0]
	for i := range s.moving {
		dst = append(dst, s.moving[i].signal.At(frame, s.Clock))
	}
	return dst
}

// Moving are the values that move, in the order of Picture.Values.
func (s *Machine) Moving() []scene.Slot {
	var out []scene.Slot
	for i := range s.moving {
		out = append(out, s.moving[i].slot)
	}
	return out
}
