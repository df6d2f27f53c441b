package rig

import (
	"fmt"
	"math"
	"slices"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/scene"
)

// What a run of falling pieces may be at most, and what it stands on.
const (
	maxFalling = 5000
	plumb      = 0.01 // radians that a piece may lean to its side
	steepest   = 35   // degrees that its path may climb or descend
)

// falls are the runs of a train whose pieces topple one after another.
type falls struct {
	doc   *scene.Fall
	first float64 // frame at which it is let go
	push  float64 // frames before that in which it is pushed
	even  bool    // it is pushed at an even speed
	wings []wing
	hinge []geom.Vec // of each piece in the world
	hit   *touched   // what set it off; nil where it is let go at a frame, or nothing touches it
	never string     // why nothing falls
}

// wing is a run towards one end of a train: its first piece, its direction (1 or -1; -1 topples back), and its
// number of pieces.
type wing struct {
	run                *mech.Topple
	first, step, count int
}

// piece is the number of the piece that falls after so many.
func (w *wing) piece(order int) int { return w.first + w.step*order }

// falls computes the toppling of rig i once everything else of it is made. The pieces stand still until then.
func (c *compiler) falls(i int) {
	t, is := c.scene.Rigs[i].kind.(*train)
	// Asked for again by a run that sets another off: it is made once.
	if !is || t.doc.Fall == nil || t.falling != nil {
		return
	}
	c.Once("fall", t.rig.ID, t.rig.Name, fmt.Sprintf("rigs[%d].train.fall.rig", i), func() {
		// What sets this run off may itself fall: that comes first, so that it is seen falling.
		if by := t.doc.Fall.Rig; by != "" {
			c.falls(c.RigAt(by))
		}
		if c.Faulty() {
			return
		}
		f, err := newFalls(c, t)
		if err != nil {
			c.Say(err, "rigs[%d].train.fall", i)
			return
		}
		t.falling = f
	})
}

func newFalls(c *compiler, t *train) (*falls, error) {
	doc := t.doc.Fall
	r := t.rig
	// The run is worked out once, from the pieces as they stand; what moves by itself would be somewhere else when it
	// is reached.
	if r.Travel.Moves() || r.Offset.Moves() || r.Facing.Roll.Moves() || t.deforms || t.swayed(c) {
		return nil, fmt.Errorf("pieces that fall stand still until they are touched: a travel, offset, roll, path and carrier that do not move are accepted")
	}
	n := t.Layout.Count
	if n > maxFalling {
		return nil, fmt.Errorf("%d pieces that fall are not accepted: up to %d are", n, maxFalling)
	}
	f := &falls{doc: doc, first: doc.First, push: doc.Push, hinge: make([]geom.Vec, n)}
	stand, err := f.standing(t)
	if err != nil {
		return nil, err
	}
	push := mech.Push{Tilt: doc.Tilt * math.Pi / 180, Speed: doc.Speed * math.Pi / 180}
	if doc.Touched() {
		if push, err = f.touch(c, t, stand); err != nil || f.hit == nil {
			// Nothing touches it, or touching pushes nothing: the pieces stand, and the readout says why.
			return f, err
		}
	} else if err := f.spread(doc, n); err != nil {
		return nil, err
	}
	for k := range f.wings {
		w := &f.wings[k]
		slabs := make([]mech.Slab, w.count)
		for order := range slabs {
			i := w.piece(order)
			slabs[order] = slab(&stand[i], w.step < 0)
			f.hinge[i] = slabs[order].Hinge
		}
		// The same pieces and push fall the same way: dragging something else in the scene does not work it out again.
		w.run, err = c.memo.topple(fmt.Sprint(push, slabs), func() (*mech.Topple, error) {
			return mech.NewTopple(c.Stopped, slabs, push, gravity)
		})
		if err != nil {
			return nil, err
		}
	}
	if f.even { // it is let go where it would fall by itself
		f.push = f.wings[0].run.Start() / f.hit.turning * c.Clock.FPS
		f.first += f.push
	}
	return f, nil
}

// spread finds where a run that is released at a frame begins, and in which directions it goes.
func (f *falls) spread(doc *scene.Fall, n int) error {
	switch doc.From {
	case scene.FromBoth:
		p := doc.Piece
		if p == 0 {
			p = n/2 + 1
		}
		if p < 2 || p > n {
			return fmt.Errorf("to both ends from piece %d on: from 2 to %d is accepted, it falls ahead and the one before it back", p, n)
		}
		f.wings = []wing{{first: p - 1, step: 1, count: n - p + 1}, {first: p - 2, step: -1, count: p - 1}}
		return nil
	case scene.FromEnd:
		f.wings = []wing{{first: n - doc.Piece, step: -1, count: n - doc.Piece + 1}}
	default:
		f.wings = []wing{{first: doc.Piece - 1, step: 1, count: n - doc.Piece + 1}}
	}
	// One piece alone is not a run: nothing follows from it.
	if c := f.wings[0].count; c < 2 {
		return fmt.Errorf("from piece %d on %d fall: a first piece up to %d is accepted", doc.Piece, max(c, 0), n-1)
	}
	return nil
}

// swayed reports whether the path's space moves in any frame of the range.
func (t *train) swayed(c *compiler) bool {
	r := t.scene.Doc.Range
	if t.scene.PathParent(t.Path) < 0 {
		return false
	}
	was := t.scene.PathPlace(t.Path, float64(r.First))
	// In every frame, not between the ends: a carrier may come back to where it was.
	for f := r.First + 1; f <= r.Last && !c.Stopped(); f++ {
		if now := t.scene.PathPlace(t.Path, float64(f)); now.P.Sub(was.P).Norm() > 1e-9 || now.X.Sub(was.X).Norm() > 1e-9 {
			return true
		}
	}
	return false
}

// standing is how the box of each piece stands, in the world.
func (f *falls) standing(t *train) ([]standing, error) {
	first := t.scene.Clock.First
	pose, out := t.scene.PathPlace(t.Path, first), make([]standing, len(f.hinge))
	for i := range out {
		at := pose.Frame(t.faced(&t.Posed, t.wrap(t.Curve, t.evenly(i, first)), t.Roll(first)*math.Pi/180, 0))
		// A leaning piece would fall over its corner, which a block that turns about one edge cannot show.
		if lean := math.Abs(math.Asin(max(min(at.Side().Y, 1), -1))); lean > plumb || at.U.Y < 0 {
			return nil, fmt.Errorf("piece %d leans to its side by %.3g°: pieces that stand upright are accepted, facing a fixed up, without roll", i+1, lean*180/math.Pi)
		}
		if slope := math.Asin(max(min(at.T.Y, 1), -1)) * 180 / math.Pi; math.Abs(slope) > steepest {
			return nil, fmt.Errorf("piece %d stands on a slope of %.3g°: up to %d° are accepted", i+1, slope, steepest)
		}
		out[i] = standing{at, t.ownBounds(i)}
	}
	return out, nil
}

// standing is a piece's frame and its box along that: side, up and ahead.
type standing struct {
	at  geom.Frame
	box geom.Box
}

// ownBounds is the box of a piece's part about its pivot, along side, up and forward, metres.
func (t *train) ownBounds(piece int) geom.Box {
	part := &t.scene.Parts[t.PartOf(piece)]
	a := &part.Axes
	out := geom.EmptyBox()
	for k := range 8 {
		corner := part.Bounds.Corner(k).Sub(a.Pivot).Mul(t.scale)
		out = out.Extend(geom.V(corner.Dot(a.Side), corner.Dot(a.Up), corner.Dot(a.Forward)))
	}
	return out
}

// slab is a piece as a block that falls, ahead or back.
func slab(s *standing, back bool) mech.Slab {
	at, lo, hi := s.at, s.box.Min, s.box.Max
	ahead, front := at.T, hi.Z
	if back {
		ahead, front = at.T.Mul(-1), lo.Z
	}
	// The way it falls is level, whatever the slope: the hinge's axis lies in the ground.
	ahead.Y = 0
	ahead = ahead.Unit()
	size := hi.Sub(lo)
	// All of one density, so that their masses compare as their sizes do.
	return mech.Slab{Rest: math.Atan2(at.U.Dot(ahead), at.U.Y),
		Height: size.Y, Depth: size.Z, Width: size.X, Mass: size.X * size.Y * size.Z,
		Hinge: at.P.Mad(at.Side(), (lo.X+hi.X)/2).Mad(at.U, lo.Y).Mad(at.T, front), Ahead: ahead}
}

// tilts fills the tilt of every piece at a frame, radians; below 0 of those that fall back.
func (f *falls) tilts(dst []float64, frame, fps float64) []float64 {
	dst = resized(dst, len(f.hinge))
	clear(dst)
	after := (frame - f.first) / fps
	for k := range f.wings {
		w := &f.wings[k]
		// Computed at the start of the slice, then moved to its place from the back.
		run := dst[:w.count]
		if w.step > 0 {
			run = dst[w.first : w.first+w.count]
		}
		w.run.Tilts(run, after)
		// Before it is let go it is pushed over: evenly by what comes by, else ever faster, as a hand pushes.
		if after < 0 {
			share := 0.0
			if f.push > 0 {
				share = max(1+(frame-f.first)/f.push, 0)
			}
			if !f.even {
				share *= share
			}
			run[0] = w.run.Start() * share
		}
		// The run counts from the first that falls; pieces count along the path.
		if w.step < 0 {
			slices.Reverse(run)
			for i := range run {
				run[i] = -run[i]
			}
		}
	}
	return dst
}

// tipped turns a frame over a hinge.
func tipped(at geom.Frame, hinge geom.Vec, tilt float64) geom.Frame {
	side := at.Side()
	at.P = hinge.Add(geom.RotateAbout(at.P.Sub(hinge), side, tilt))
	at.U, at.T = geom.RotateAbout(at.U, side, tilt), geom.RotateAbout(at.T, side, tilt)
	return at
}

// FallReadout is how a run of falling pieces goes.
type FallReadout struct {
	Fallen int     `json:"fallen"`          // pieces that fall
	Of     int     `json:"of"`              // pieces that are to fall
	Piece  int     `json:"piece,omitempty"` // the one that does not, from 1; 0 where all do
	Why    string  `json:"why,omitempty"`   // the next one does not
	Begins float64 `json:"begins"`          // frame at which the first is let go
	First  int     `json:"first"`           // the piece that begins, from 1; 0 where none does
	Ends   float64 `json:"ends"`            // frame at which the last has come to rest
	Rate   float64 `json:"rate"`            // pieces a second, over the second half of the longest run
	Tilt   float64 `json:"tilt"`            // of the first, degrees
	Speed  float64 `json:"speed,omitempty"` // at which what comes by pushes it, degrees a second
}

// Falls tells how the pieces of a rig fall; nil where they do not.
func (t *Rig) Falls() *FallReadout {
	k, is := t.kind.(*train)
	if !is || k.falling == nil {
		return nil
	}
	f := k.falling
	if f.never != "" {
		return &FallReadout{Of: len(f.hinge), Piece: 1, Why: f.never, Begins: f.first, Ends: f.first}
	}
	out := &FallReadout{Begins: f.first, First: f.wings[0].first + 1, Tilt: f.wings[0].run.Start() * 180 / math.Pi}
	if f.hit != nil {
		out.Speed = f.hit.turning * 180 / math.Pi
	}
	most := 0
	for i := range f.wings {
		w := &f.wings[i]
		fallen, stops, why := w.run.Fallen()
		out.Fallen, out.Of = out.Fallen+fallen, out.Of+w.count
		out.Ends = max(out.Ends, f.first+w.run.End()*t.scene.Clock.FPS)
		if why != "" && out.Why == "" {
			out.Piece = w.piece(stops-1) + 1
			out.Why = fmt.Sprintf("piece %d %s", out.Piece, why)
		}
		// Over the second half the run has found its pace; a run of two or less has none.
		if at := w.run.Touches(); len(at) > max(most, 2) {
			most = len(at)
			half := len(at) / 2
			if took := at[len(at)-1] - at[half]; took > 0 {
				out.Rate = float64(len(at)-1-half) / took
			}
		}
	}
	return out
}
