package rig

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/scene"
)

// What a run of falling pieces may be at most, and what it stands on.
const (
	maxFalling = 5000
	plumb      = 0.01 // radians that a piece may lean, and its path climb
)

// falls is the run of a train whose pieces fall one after another.
type falls struct {
	doc   *scene.Fall
	run   *mech.Topple
	hinge []geom.Vec // of each piece in the world
	back  bool       // pieces fall back, from the last one on
	skip  int        // pieces before the first one, from the end that begins: they stay standing
}

// newFalls works out the run of a train; nil for none. Pieces that fall stand still until then.
func newFalls(c *compiler, t *train) (*falls, error) {
	doc := t.doc.Fall
	if doc == nil {
		return nil, nil
	}
	r, s := t.rig, t.scene
	if r.Travel.Moves() || r.Offset.Moves() || r.Facing.Roll.Moves() || t.deforms || t.swayed(c) {
		return nil, fmt.Errorf("pieces that fall stand still until they are touched: a travel, offset, roll, path and carrier that do not move are accepted")
	}
	n := t.Layout.Count
	if n > maxFalling {
		return nil, fmt.Errorf("%d pieces that fall are not accepted: up to %d are", n, maxFalling)
	}
	first := float64(s.Doc.Range.First)
	f := &falls{doc: doc, back: doc.From == scene.FromEnd, skip: doc.Piece - 1, hinge: make([]geom.Vec, n)}
	if n-f.skip < 2 {
		return nil, fmt.Errorf("from piece %d on %d fall: a first piece up to %d is accepted", doc.Piece, max(n-f.skip, 0), n-1)
	}
	pose, slabs := s.pathPose(t.Path, first), make([]mech.Slab, n-f.skip)
	for i := range n {
		if f.order(i) < 0 {
			continue
		}
		at := pose.Frame(t.faced(&t.Posed, t.wrap(t.Curve, t.evenly(i, first)), t.Roll(first)*math.Pi/180, 0))
		if lean := math.Max(math.Acos(min(at.U.Y, 1)), math.Abs(at.T.Y)); lean > plumb {
			return nil, fmt.Errorf("piece %d leans by %.3g°: pieces that stand plumb are accepted, on a level path, facing a fixed up, without roll", i+1, lean*180/math.Pi)
		}
		slab := f.slab(t, i, at)
		f.hinge[i] = slab.Hinge
		slabs[f.order(i)] = slab
	}
	var err error
	f.run, err = c.memo.topple(fmt.Sprint(doc.Tilt, slabs), func() (*mech.Topple, error) {
		return mech.NewTopple(c.stopped, slabs, doc.Tilt*math.Pi/180, gravity)
	})
	return f, err
}

// swayed reports whether the path's space is elsewhere in any frame of the range.
func (t *train) swayed(c *compiler) bool {
	r := t.scene.Doc.Range
	if t.scene.parents[t.Path] < 0 {
		return false
	}
	was := t.scene.pathPose(t.Path, float64(r.First))
	for f := r.First + 1; f <= r.Last && !c.stopped(); f++ {
		if now := t.scene.pathPose(t.Path, float64(f)); now.P.Sub(was.P).Norm() > 1e-9 || now.X.Sub(was.X).Norm() > 1e-9 {
			return true
		}
	}
	return false
}

// order is how many pieces fall before one; below 0 of those that stay standing before the first.
func (f *falls) order(piece int) int {
	if f.back {
		return len(f.hinge) - 1 - piece - f.skip
	}
	return piece - f.skip
}

// slab is a piece as a block: the box of its part, which stands at a frame in the world.
func (f *falls) slab(t *train, piece int, at geom.Frame) mech.Slab {
	part := &t.scene.Parts[t.PartOf(piece)]
	a := &part.Axes
	lo, hi := geom.V(math.Inf(1), math.Inf(1), math.Inf(1)), geom.V(math.Inf(-1), math.Inf(-1), math.Inf(-1))
	for k := range 8 {
		corner := part.Bounds.Min
		if k&1 != 0 {
			corner.X = part.Bounds.Max.X
		}
		if k&2 != 0 {
			corner.Y = part.Bounds.Max.Y
		}
		if k&4 != 0 {
			corner.Z = part.Bounds.Max.Z
		}
		corner = corner.Sub(a.Pivot).Mul(t.scale)
		own := geom.V(corner.Dot(a.Side), corner.Dot(a.Up), corner.Dot(a.Forward))
		lo, hi = geom.V(min(lo.X, own.X), min(lo.Y, own.Y), min(lo.Z, own.Z)), geom.V(max(hi.X, own.X), max(hi.Y, own.Y), max(hi.Z, own.Z))
	}
	ahead, front := at.T, hi.Z
	if f.back {
		ahead, front = at.T.Mul(-1), lo.Z
	}
	ahead.Y = 0
	size := hi.Sub(lo)
	return mech.Slab{Height: size.Y, Depth: size.Z, Width: size.X, Mass: size.X * size.Y * size.Z,
		Hinge: at.P.Mad(at.Side(), (lo.X+hi.X)/2).Mad(at.U, lo.Y).Mad(at.T, front), Ahead: ahead.Unit()}
}

// tilts fills the tilt of every piece at a frame, radians.
func (f *falls) tilts(dst []float64, frame, fps float64) []float64 {
	dst = resized(dst, len(f.hinge))
	after := (frame - f.doc.First) / fps
	clear(dst[:f.skip])
	run := dst[f.skip:]
	f.run.Tilts(run, after)
	if after < 0 {
		share := 0.0
		if f.doc.Push > 0 {
			share = max(1+(frame-f.doc.First)/f.doc.Push, 0)
		}
		run[0] = f.run.Start() * share * share
	}
	if f.back {
		for i, j := 0, len(dst)-1; i < j; i, j = i+1, j-1 {
			dst[i], dst[j] = dst[j], dst[i]
		}
	}
	return dst
}

// tip turns a frame over the hinge of a piece.
func (f *falls) tip(at geom.Frame, piece int, tilt float64) geom.Frame {
	if f.back {
		tilt = -tilt
	}
	side := at.Side()
	h := f.hinge[piece]
	at.P = h.Add(geom.RotateAbout(at.P.Sub(h), side, tilt))
	at.U, at.T = geom.RotateAbout(at.U, side, tilt), geom.RotateAbout(at.T, side, tilt)
	return at
}

// FallReadout is how a run of falling pieces goes.
type FallReadout struct {
	Fallen int     `json:"fallen"`          // pieces that fall
	Of     int     `json:"of"`              // pieces that are to fall
	Piece  int     `json:"piece,omitempty"` // the one that does not, from 1; 0 where all do
	Why    string  `json:"why,omitempty"`   // the next one does not
	Ends   float64 `json:"ends"`            // frame at which the last has come to rest
	Rate   float64 `json:"rate"`            // pieces a second, over the second half of the run
	Tilt   float64 `json:"tilt"`            // of the first, degrees
}

// Falls tells how the pieces of a rig fall; nil where they do not.
func (t *Rig) Falls() *FallReadout {
	k, is := t.kind.(*train)
	if !is || k.falling == nil {
		return nil
	}
	f := k.falling
	out := &FallReadout{Ends: f.doc.First + f.run.End()*t.scene.Clock.FPS, Tilt: f.run.Start() * 180 / math.Pi}
	stops, why := 0, ""
	out.Fallen, stops, why = f.run.Fallen()
	out.Of = len(f.hinge) - f.skip
	if why != "" {
		if out.Piece = f.skip + stops; f.back {
			out.Piece = len(f.hinge) + 1 - out.Piece
		}
		out.Why = fmt.Sprintf("piece %d %s", out.Piece, why)
	}
	if at := f.run.Touches(); len(at) > 2 {
		half := len(at) / 2
		if took := at[len(at)-1] - at[half]; took > 0 {
			out.Rate = float64(len(at)-1-half) / took
		}
	}
	return out
}
