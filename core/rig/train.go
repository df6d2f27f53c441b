package rig

import (
	"math"

	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// train is pieces one behind the other.
type train struct {
	*Rig
	doc           *scene.Train
	coming, going *arrivals
	falling       *falls
}

func (t *train) nature() Nature         { return Nature{Row: true} }
func (t *train) prepare(*compiler) bool { return true }
func (t *train) form(float64) form      { return form{} }

func (t *train) layOut(curve *path.Curve) (place.Layout, string, error) {
	l, err := t.spaced(curve)
	return l, "train.spacing", err
}

func (t *train) ready(c *compiler) (field string, err error) {
	// How they come and go is of the layout at rest: a path that deforms changes where they stand, not when they set
	// out.
	t.coming, t.going = newArrivals(t.doc.Arrive, t.Layout, t.Curve.Length()), newArrivals(t.doc.Leave, t.Layout, t.Curve.Length())
	return "", nil
}

func (t *train) on(curve *path.Curve) place.Layout {
	if t.Pinned {
		// Pins are marched anew along the curve of every frame; their pitch is the links' and never changes.
		return t.Layout
	}
	return t.spreadOn(curve)
}

func (t *train) at(piece int, frame float64) float64 { return t.evenly(piece, frame) }

func (t *train) ends(frame float64) (tail, head float64) {
	base, l := t.base(frame), &t.At(frame).Layout // asked for once: what leads may be led itself
	return base + l.At(0), base + l.At(l.Count-1)
}

func (t *train) reach(piece int, frame float64) Reach {
	return about(t.Body(piece), t.at(piece, frame), true)
}

func (t *train) stand(dst *Pieces, m *moment) {
	if t.Pinned {
		t.pinned(dst, m)
		return
	}
	start, length := t.wrap(m.Curve, m.base), m.Curve.Length()
	if t.falling != nil {
		dst.tilts = t.falling.tilts(dst.tilts, m.frame, t.scene.Clock.FPS)
	}
	for i := range m.Layout.Count {
		if dst.givenUp(i) {
			return
		}
		d := start + m.Layout.At(i)
		scale := float32(t.scale)
		if t.coming != nil || t.going != nil {
			there, shown := t.underWay(i, d, m.frame)
			if d = t.wrap(m.Curve, there); !shown {
				// Scale 0 hides: receivers keep the number of pieces, which no format can change within a take.
				scale = 0
			}
		} else if t.ComesRound && d >= length*(1-atEnd) {
			d = max(d-length, 0) // the train is at most one length long
		}
		if t.falling != nil && dst.tilts[i] != 0 {
			// Tilted about the edge of its own foot, not about the path.
			t.stood(dst, i, d, tipped(t.worldFrame(m, d), t.falling.hinge[i], dst.tilts[i]), scale)
			continue
		}
		t.put(dst, m, i, d, scale, 0)
	}
	if !t.Bends() {
		return
	}
	dst.Reach = resized(dst.Reach, m.Layout.Count)
	for i := range dst.Reach {
		// Index 9 is the last of the three scales, set to 0 above where the piece is not there.
		dst.Reach[i] = about(t.Body(i), dst.Distances[i], dst.Transforms[i*Stride+9] != 0)
	}
	t.bend(dst, m)
}

// underWay is where piece i, whose place is at distance d, is at a frame, and whether
// it is shown.
func (t *train) underWay(i int, d, frame float64) (at float64, shown bool) {
	length := t.At(frame).Curve.Length()
	// The last piece of a train that goes all round stands where the first does, one length on; it sets out from the
	// start.
	if t.ComesRound && d >= length*(1-atEnd) {
		d = max(d-length, 0)
	}
	at, shown = d, true
	if a := t.coming; a != nil {
		share, out := a.share(i, frame)
		shown = out || a.doc.Shown
		from := a.end(length)
		// From the end where it waits to its place by the share of its way, which is eased.
		at = from + (d-from)*share
	}
	if a := t.going; a != nil {
		if share, _ := a.share(i, frame); share > 0 {
			to := a.end(length)
			at += (to - at) * share
			// One that has gone is still shown where the document says that they wait in sight.
			shown = shown && (share < 1 || a.doc.Shown)
		}
	}
	return at, shown
}

// Settled reports whether every piece stands in its place at a frame: all have
// arrived and none has set out to leave.
func (t *Rig) Settled(frame float64) bool {
	k, is := t.kind.(*train)
	return !is || k.settled(frame)
}

func (t *train) settled(frame float64) bool {
	for i := range t.Layout.Count {
		if t.coming != nil && frame < t.coming.setOut[i]+t.coming.doc.Takes {
			return false
		}
		if t.going != nil && frame > t.going.setOut[i] {
			return false
		}
	}
	return true
}

// SettledFrame is a frame of the range in which every piece stands in its place, or
// the first where there is none.
func (t *Rig) SettledFrame() int {
	r := t.scene.Doc.Range
	at := float64(r.First)
	if k, is := t.kind.(*train); is && k.coming != nil {
		// The last to arrive is not always the last in the row: by distance the farthest sets out first.
		for _, s := range k.coming.setOut {
			at = max(at, s+k.coming.doc.Takes)
		}
	}
	if f := math.Ceil(at); f <= float64(r.Last) && t.Settled(f) {
		return int(f)
	}
	return r.First
}

func (t *train) tell(out *OfKind) { out.Fall = t.Falls() }
