package rig

import (
	"context"
	"fmt"
	"math"
	"sync"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/part"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// At returns the rig's state at a frame; that of the first frame where its path does not deform.
func (t *Rig) At(frame float64) *Posed {
	if !t.deforms {
		return &t.Posed
	}
	return t.scene.posed.Get(t.index, frame, func() *Posed { return t.pose(frame) })
}

func (t *Rig) pose(frame float64) *Posed {
	curve := t.scene.CurveAt(t.Path, frame)
	spec := t.spec
	if t.guide >= 0 {
		spec.Guide = t.scene.CurveAt(t.guide, frame)
	}
	if curve.Closed() && spec.Mode == facing.LeastTwist {
		spec.Near = t.spreadAt(frame)
	}
	field := t.scene.fields.Get(t.faces, frame, func() *facing.Field {
		f, err := facing.New(curve, spec)
		if err != nil {
			return nil
		}
		return f
	})
	if field == nil {
		return &t.Posed // what was right at rest is right: only the curve has changed
	}
	return &Posed{curve, field, t.kind.on(curve)}
}

// spreadOn is the layout of rigid pieces on a path that deforms: the gap stays, or grows with the path, as the
// spacing says.
func (t *Rig) spreadOn(curve *path.Curve) place.Layout {
	l := t.Layout
	switch n := float64(l.Count); {
	case l.Asked != 0 && t.traits.Spacing.Mode == place.SetPitch || t.traits.Spacing.Rest == place.RestSlack:
		l.Seam += curve.Length() - t.Curve.Length()
	case t.ComesRound:
		l.Pitch = curve.Length() / n
	case l.Count > 1:
		l.Pitch = curve.Length() / (n - 1)
	default:
		l.Pitch, l.Seam = curve.Length(), curve.Length()
	}
	return l
}

// spreads is, for each frame, the roll that closes the facing of a deforming closed path at its seam. Each
// value is the one nearest to that of the frame before, so that it never jumps by a turn.
type spreads struct {
	mu   sync.Mutex
	of   []float64 // of each frame of the range
	done int       // frames that are known
}

// settleSpreads computes the corrections up to frame at of the range, counted from 0. Its error is that of
// ctx.
func (t *Rig) settleSpreads(ctx context.Context, at int) error {
	p, r := t.spread, t.scene.Doc.Range
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.of == nil {
		p.of = make([]float64, r.Count())
	}
	for ; p.done <= at; p.done++ {
		if err := ctx.Err(); err != nil {
			return err
		}
		spec := t.spec
		if p.done > 0 {
			spec.Near = &p.of[p.done-1]
		}
		f, err := facing.New(t.scene.CurveAt(t.Path, float64(r.First+p.done)), spec)
		// Where the path has come to nothing the correction of the frame before stays: there is nothing to see, and
		// the next frame goes on from it.
		switch {
		case err == nil:
			p.of[p.done] = f.Report().Spread
		case p.done > 0:
			p.of[p.done] = p.of[p.done-1]
		}
	}
	return nil
}

// frameOfRange is the number from 0 of the frame of the range that is nearest.
func (t *Rig) frameOfRange(frame int) int {
	r := t.scene.Doc.Range
	return min(max(frame-r.First, 0), r.Count()-1)
}

// spreadAt is the correction at a frame; beyond the range that of its end.
func (t *Rig) spreadAt(frame float64) *float64 {
	at := t.frameOfRange(int(frame))
	// A picture has to be whole, so this runs on; callers that may give up settle first (Settle).
	_ = t.settleSpreads(context.Background(), at) // cannot be ended
	return &t.spread.of[at]
}

// Distance returns where piece i stands at a frame when all have arrived, before
// wrapping, metres.
func (t *Rig) Distance(i int, frame float64) float64 { return t.kind.at(i, frame) }

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

// evenly is where piece i of a row stands.
func (t *Rig) evenly(i int, frame float64) float64 { return t.base(frame) + t.At(frame).Layout.At(i) }

// base is where piece 0 stands.
func (t *Rig) base(frame float64) float64 {
	return t.baseAt(t.Offset(frame)+t.Travel(frame), frame)
}

// baseAt is base for a frame whose travel plus offset, d, is known.
func (t *Rig) baseAt(d, frame float64) float64 {
	if t.lead == nil {
		return d
	}
	tail, head := t.lead.kind.ends(frame)
	switch t.traits.Lead.At {
	case scene.AtTail:
		return d + tail
	case scene.AtMiddle:
		return d + (tail+head)/2
	case scene.AtPiece:
		// A lead may itself be led: its distance has its own lead in it.
		return d + t.lead.Distance(t.traits.Lead.Piece-1, frame)
	}
	return d + head
}

// Doc returns the document's rig.
func (t *Rig) Doc() *scene.Rig { return t.rig }

// Mode returns how the rig faces.
func (t *Rig) Mode() facing.Mode { return t.rig.Facing.Mode }

// Travel returns the rig's travel at a frame, metres.
func (t *Rig) Travel(frame float64) float64 { return t.travel.At(frame, t.scene.Clock) }

// Offset is how much further along the pieces stand at a frame, metres.
func (t *Rig) Offset(frame float64) float64 { return t.offset.At(frame, t.scene.Clock) }

// Roll is the pieces' turn about the path at a frame, without that by distance,
// degrees.
func (t *Rig) Roll(frame float64) float64 { return t.roll.At(frame, t.scene.Clock) }

// Wrap brings a distance onto the path where the rig comes round.
func (t *Rig) Wrap(d float64) float64 { return t.wrap(t.Curve, d) }

func (t *Rig) wrap(c *path.Curve, d float64) float64 {
	if !t.ComesRound {
		return d
	}
	// A distance within rounding of the end is the start; on an open path the two are far apart.
	if d = path.Modulo(d, c.Length()); c.Length()-d < atEnd*c.Length() {
		return 0
	}
	return d
}

// atEnd is the share of a path's length within which the end counts as reached.
const atEnd = 1e-9

// placeOf is the place of a piece on the path, in the world.
func (t *Rig) placeOf(piece int, frame float64) geom.Vec {
	now := t.At(frame)
	// On pins a piece lies on the chord between two of them, off the path: only its transform says where.
	if t.Pinned {
		var p Pieces
		t.frame(&p, frame)
		x := p.Transforms[piece*Stride:]
		return geom.V(float64(x[0]), float64(x[1]), float64(x[2]))
	}
	return t.scene.PathPlace(t.Path, frame).Apply(now.Field.Frame(t.wrap(now.Curve, t.Distance(piece, frame))).P)
}

func (t *Rig) frame(dst *Pieces, frame float64) {
	m := &dst.moment
	*m = moment{Posed: t.At(frame), frame: frame, pose: t.scene.PathPlace(t.Path, frame), speed: t.speed(frame)}
	n := m.Layout.Count
	dst.Distances, dst.Transforms = resized(dst.Distances, n), resized(dst.Transforms, n*Stride)
	dst.Travel, dst.Offset, dst.Roll = t.Travel(frame), t.Offset(frame), t.Roll(frame)
	// Rigs in the world's own axes, the most, skip the product with the path's pose: it would round their places.
	m.moved, m.base, m.roll = m.pose != geom.Still, t.baseAt(dst.Offset+dst.Travel, frame), dst.Roll*math.Pi/180
	// What this frame's kind does not write must not be left over from a rig that used the picture before.
	dst.Pins, dst.Joints = dst.Pins[:0], dst.Joints[:0]
	dst.Reach, dst.Positions, dst.Normals = dst.Reach[:0], dst.Positions[:0], dst.Normals[:0]
	dst.Waits = false
	t.kind.stand(dst, m)
}

// put places a piece at a distance on its path. rolled is the angle in radians by which it has rolled about
// its side axis.
func (t *Rig) put(dst *Pieces, m *moment, piece int, d float64, scale float32, rolled float64) {
	f := t.worldFrame(m, d)
	if rolled != 0 { // what is up goes ahead
		side := f.Side()
		f.U, f.T = geom.RotateAbout(f.U, side, rolled), geom.RotateAbout(f.T, side, rolled)
	}
	t.stood(dst, piece, d, f, scale)
}

// worldFrame is the frame at a distance, in the world.
func (t *Rig) worldFrame(m *moment, d float64) geom.Frame {
	// Field, roll and lean turn in the path's own space; its pose comes last, so that all of it is carried once.
	f := t.faced(m.Posed, d, m.roll, m.speed)
	if m.moved {
		f = m.pose.Frame(f)
	}
	return f
}

// stood writes the transform of a piece at a distance, given its frame in the world.
func (t *Rig) stood(dst *Pieces, piece int, d float64, f geom.Frame, scale float32) {
	p, q := t.seatOf(piece).on(f, t.scale)
	dst.Distances[piece] = d
	put(dst.Transforms[piece*Stride:], p, q, scale)
}

// faced is the frame of the path at a distance, turned by the roll there and by the lean for the speed.
func (t *Rig) faced(now *Posed, d, roll, speed float64) geom.Frame {
	f := now.Field.Frame(d)
	if turn := roll + t.rollAt(now.Curve, d) + t.lean(now.Curve, d, speed); turn != 0 {
		f.U = geom.RotateAbout(f.U, f.T, turn)
	}
	return f
}

// Facing is how the rig faces at a distance along its path in the first frame, metres, with the roll and the
// lean of a frame.
func (t *Rig) Facing(frame float64) func(distance float64) geom.Frame {
	roll, speed := t.roll.At(frame, t.scene.Clock)*math.Pi/180, t.speed(frame)
	return func(d float64) geom.Frame { return t.faced(&t.Posed, d, roll, speed) }
}

// Notes is what of the rig could not be had as it was asked for.
func (t *Rig) Notes() []string {
	if t.beyond == 0 {
		return nil
	}
	count := "1 bead"
	if t.beyond > 1 {
		count = fmt.Sprintf("%d beads", t.beyond)
	}
	return []string{count + " of roll beyond the path's end: not used until the path is longer."}
}

// RollAt is the roll of the beads at a distance along a curve of the rig, radians.
func (t *Rig) RollAt(c *path.Curve, d float64) float64 { return t.rollAt(c, d) }

// rollAt is the roll of the beads at a distance, radians.
func (t *Rig) rollAt(c *path.Curve, d float64) float64 {
	if len(t.marks) == 0 {
		return 0
	}
	// Beads of roll on a closed path go on over the seam.
	if c.Closed() {
		d = c.Wrap(d)
	}
	v, _ := place.ByDistance(t.marks, d, c.Length(), c.Closed())
	return v
}

// houseAxes are the default: forward +Z, up +Y, the pivot at the origin.
var houseAxes = part.Axes{Forward: geom.V(0, 0, 1), Up: geom.V(0, 1, 0), Side: geom.V(1, 0, 0)}

// seat is how a part sits.
type seat struct {
	axes   part.Axes
	house  bool    // the axes are the house's
	middle float64 // of the part along its forward, from its pivot, metres
}

func (t *Rig) seatOf(piece int) *seat {
	if t.Parts == nil {
		return &t.seat
	}
	return &t.seats[t.Parts[piece]]
}

// on returns position and rotation that put the part's pivot on the frame's origin and its axes on the frame's
// axes.
func (s *seat) on(f geom.Frame, scale float64) (geom.Vec, geom.Quat) {
	a := &s.axes
	if s.house {
		return f.P, geom.FromBasis(f.Side(), f.U, f.T)
	}
	x, y, z := a.In(f)
	p := f.P
	if a.Pivot != (geom.Vec{}) {
		p = p.Mad(x, -scale*a.Pivot.X).Mad(y, -scale*a.Pivot.Y).Mad(z, -scale*a.Pivot.Z)
	}
	return p, geom.FromBasis(x, y, z)
}
