package rig

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/mech"
)

// How what sets a run off is looked at.
const (
	touchLooks  = 4     // a frame
	touchHalves = 40    // to find when
	touchSlow   = 1e-4  // m/s: what is slower pushes nothing
	touchPoint  = 0.005 // metres about a carrier that carries nothing
	maxTouching = 20_000_000
)

// touched is what sets a run off.
type touched struct {
	frame   float64
	piece   int
	back    bool    // it is pushed back
	turning float64 // radians a second at which it is pushed
}

// comer is something that may touch the pieces: the boxes of a rig's pieces, or of what a carrier carries, at
// any frame.
type comer struct {
	name  string
	boxes func(dst []geom.Cuboid, frame float64) []geom.Cuboid
}

func (c *compiler) comer(t *train) (comer, error) {
	doc := t.doc.Fall
	if doc.Rig == "" {
		return c.carried(c.CarrierAt(doc.On)), nil
	}
	by := &c.scene.Rigs[c.RigAt(doc.Rig)]
	if by.Bends() || by.Spine || by.Simulated || by.Renews {
		return comer{}, fmt.Errorf("%q has no rigid pieces that could touch: a rig of rigid pieces is accepted", by.rig.Name)
	}
	var pic Pieces
	return comer{by.rig.Name, func(dst []geom.Cuboid, frame float64) []geom.Cuboid {
		by.frame(&pic, frame)
		for i := range len(pic.Transforms) / Stride {
			x := pic.Transforms[i*Stride:]
			if x[9] == 0 { // it is not there
				continue
			}
			at := Place(x[:7]).Rigid()
			dst = append(dst, geom.CuboidOf(c.Parts[by.PartOf(i)].Bounds, at, float64(x[9])))
		}
		return dst
	}}, nil
}

// carried is a carrier as seen by touch: the fixtures on it, or its place where there are none.
func (c *compiler) carried(k int) comer {
	name := c.Doc.Carriers[k].Name
	return comer{name, func(dst []geom.Cuboid, frame float64) []geom.Cuboid {
		pose := c.CarrierPlace(k, frame)
		for i := range c.Fixtures {
			if f := &c.Fixtures[i]; f.Carrier == k {
				dst = append(dst, geom.CuboidOf(c.Parts[f.Part].Bounds, pose.Mul(f.Rest), 1))
			}
		}
		if len(dst) == 0 {
			r := touchPoint
			dst = append(dst, geom.CuboidOf(geom.Box{Min: geom.V(-r, -r, -r), Max: geom.V(r, r, r)}, pose, 1))
		}
		return dst
	}}
}

// touch finds the first contact in the range and the push that it gives.
func (f *falls) touch(c *compiler, t *train, stand []standing) (mech.Push, error) {
	by, err := c.comer(t)
	if err != nil {
		return mech.Push{}, err
	}
	still := make([]geom.Cuboid, len(stand))
	for i := range stand {
		still[i] = geom.CuboidOf(stand[i].box, stand[i].at.Rigid(), 1)
	}
	hit, push, err := c.firstTouch(&by, still, stand)
	if err != nil {
		return mech.Push{}, err
	}
	r := c.Doc.Range
	if hit == nil {
		f.never = fmt.Sprintf("no piece is touched by %s from frame %d to %d", by.name, r.First, r.Last)
		f.first = float64(r.First)
		return mech.Push{}, nil
	}
	f.hit, f.first, f.push = hit, hit.frame, 0
	w := wing{first: hit.piece, step: 1, count: len(stand) - hit.piece}
	if hit.back {
		w.step, w.count = -1, hit.piece+1
	}
	f.wings = []wing{w}
	s := slab(&stand[hit.piece], hit.back)
	if f.even = push.Speed <= s.LeastSpeed(gravity)*(1+1e-9); f.even {
		return mech.Push{}, nil // it is pushed over its balance as what pushes goes on
	}
	return push, nil
}

func (c *compiler) firstTouch(by *comer, still []geom.Cuboid, stand []standing) (*touched, mech.Push, error) {
	r := c.Doc.Range
	var now []geom.Cuboid
	gap := func(frame float64, i int) (least float64, box geom.Cuboid) {
		least = math.Inf(1)
		now = by.boxes(now[:0], frame)
		for k := range now {
			if g := now[k].Apart(&still[i]); g < least {
				least, box = g, now[k]
			}
		}
		return least, box
	}
	// Looked at before the work: boxes of either side, and every look at every frame of the range.
	if n := len(by.boxes(nil, float64(r.First))); n*len(still)*r.Count()*touchLooks > maxTouching {
		return nil, mech.Push{}, fmt.Errorf("%d pieces that may touch %d in %d frames are too many to be looked at: fewer pieces or a shorter range are accepted", n, len(still), r.Count())
	}
	was := make([]bool, len(still)) // it is touched, and not pushed
	for k := 0; k <= (r.Count()-1)*touchLooks && !c.Stopped(); k++ {
		frame := float64(r.First) + float64(k)/touchLooks
		now = by.boxes(now[:0], frame)
		boxes := now
		for i := range still {
			touches := false
			for b := range boxes {
				if touches = boxes[b].Apart(&still[i]) <= 0; touches {
					break
				}
			}
			// Only a touch that begins pushes: a box that already leans on a piece is no impact.
			if !touches || was[i] {
				was[i] = touches
				continue
			}
			was[i] = true
			lo, hi := frame-1.0/touchLooks, frame
			if k == 0 {
				lo = hi // it stands in it from the beginning
			}
			// Halves until the moment is known to a millionth of a millionth of a frame, far below what is seen.
			for range touchHalves {
				mid := (lo + hi) / 2
				if g, _ := gap(mid, i); g > 0 {
					lo = mid
				} else {
					hi = mid
				}
			}
			if hit, push := c.pushed(gap, &stand[i], i, hi); hit != nil {
				return hit, push, nil
			}
			// The bisection has used the room that they were in.
			boxes = by.boxes(nil, frame)
		}
	}
	return nil, mech.Push{}, nil
}

// pushed is the push that a piece gets from a contact at a frame; nil where the comer passes by.
func (c *compiler) pushed(gap func(frame float64, i int) (float64, geom.Cuboid), s *standing, i int, frame float64) (*touched, mech.Push) {
	const step = 1.0 / touchLooks // frames
	_, box := gap(frame, i)
	_, before := gap(frame-step, i)
	// Of the box's middle: how fast it comes along the piece's forward.
	v := box.Mid.Sub(before.Mid).Mul(c.Clock.FPS / step).Dot(s.at.T)
	if math.Abs(v) < touchSlow {
		return nil, mech.Push{}
	}
	lo, hi := box.Span(s.at.U)
	foot := s.at.P.Dot(s.at.U) + s.box.Min.Y
	high := s.box.Max.Y - s.box.Min.Y
	// Half way between the lowest and highest place at which the two meet, on the piece's own height.
	at := (max(lo-foot, 0) + min(hi-foot, high)) / 2 // where on the piece it is touched
	// A push low on the piece turns it faster; within a hundredth of its height from the foot it is taken as there.
	turning := math.Abs(v) / max(at, high/100)
	return &touched{frame: frame, piece: i, back: v < 0, turning: turning}, mech.Push{Speed: turning}
}
