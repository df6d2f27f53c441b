package rig

import (
	"math"

	"bead/core/machine"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// body is one thing that takes the form of its path, or copies of it that come round by round.
type body struct {
	*Rig
	doc               *scene.Body
	tail, head, twist *machine.Signal
}

// minStretch is the least stretch of a body: drawn together more it would turn inside out.
const minStretch = 1e-4

var anchorShare = map[string]float64{scene.AtTail: 0, scene.AtMiddle: 0.5, scene.AtHead: 1}

// A single body comes back to where it was only as its path does; rounds come and go by themselves.
func (t *body) nature() Nature { return Nature{Spine: true, Renews: t.doc.Rounds != nil} }

func (t *body) prepare(c *compiler) bool {
	return c.own(t.Rig, "twist", &t.twist) &&
		(t.doc.Fit != scene.FitReach || c.own(t.Rig, "tail", &t.tail) && c.own(t.Rig, "head", &t.head))
}

func (t *body) layOut(curve *path.Curve) (place.Layout, string, error) {
	l := place.Layout{Count: 1, Pitch: curve.Length()}
	if k := t.doc.Rounds; k != nil {
		l.Count = k.Count
	}
	return l, "body.rounds", nil
}

func (t *body) ready(*compiler) (string, error) { return "", nil }

func (t *body) on(*path.Curve) place.Layout { return t.Layout }

func (t *body) at(piece int, frame float64) float64 { return t.anchor(t.reach(piece, frame)) }

// anchor is the place of the body that stands at the travel.
func (t *body) anchor(r Reach) float64 { return r.Tail + anchorShare[t.doc.Anchor]*(r.Head-r.Tail) }

func (t *body) ends(frame float64) (tail, head float64) {
	r := t.reach(0, frame)
	return r.Tail, r.Head
}

func (t *body) reach(piece int, frame float64) Reach {
	// Its travel begins anew in every round.
	if t.doc.Rounds != nil {
		return t.reachOf(piece, 0, frame) // each round has a base of its own
	}
	return t.reachOf(piece, t.base(frame), frame)
}

func (t *body) reachOf(i int, base, frame float64) Reach {
	b, own := t.doc, t.Body(i)
	r := Reach{Shown: true, Stretch: 1}
	now := frame
	if k := b.Rounds; k != nil {
		// From round to round, and after the last from the first on again.
		first, all := t.scene.Clock.First, k.Frames*float64(k.Count)
		now -= all * math.Floor((frame-first)/all)
		// All are there at once, each its stride further along, and none begins anew.
		if k.All {
			now = frame
		} else {
			r.Shown = now-first >= float64(i)*k.Frames && now-first < float64(i+1)*k.Frames
			now -= float64(i) * k.Frames
		}
		// The copy of each round swims its own way, a stride beyond the one before.
		base = t.base(now) + float64(i)*k.Stride
	}
	c := t.At(frame).Curve
	length, body1 := c.Length(), own.Length()
	switch b.Fit {
	case scene.FitWhole:
		r.Tail, r.Head = base, base+length
	case scene.FitReach:
		r.Tail, r.Head = base+t.tail.At(now, t.scene.Clock), base+t.head.At(now, t.scene.Clock)
	default:
		r.Tail = base - anchorShare[b.Anchor]*body1
		r.Head = r.Tail + body1
	}
	// Keys that cross would turn it inside out; it is held just short of that, and the check of length says so.
	r.Head = max(r.Head, r.Tail+minStretch*body1)
	// It stops with its whole length on the path, and does not draw itself together at the end.
	if b.PastEnd == scene.Stop && !c.Closed() {
		switch {
		case r.Head-r.Tail >= length: // no room: it stands at the start
			r.Tail, r.Head = 0, r.Head-r.Tail
		case r.Head > length:
			r.Tail, r.Head = r.Tail-(r.Head-length), length
		case r.Tail < 0:
			r.Tail, r.Head = 0, r.Head-r.Tail
		}
	}
	r.Stretch = (r.Head - r.Tail) / body1
	return r
}

func (t *body) form(frame float64) form {
	return form{twist: t.twist.At(frame, t.scene.Clock) * math.Pi / 180, volume: t.doc.Volume, taper: t.doc.Taper}
}

func (t *body) stand(dst *Pieces, m *moment) {
	dst.Reach = resized(dst.Reach, m.Layout.Count)
	for i := range dst.Reach {
		r := t.reachOf(i, m.base, m.frame)
		// The transform says where the body is for those who read no vertices; a scale of 0 hides it.
		scale := float32(t.scale)
		if !r.Shown {
			scale = 0
		}
		dst.Reach[i] = r
		t.put(dst, m, i, t.wrap(m.Curve, t.anchor(r)), scale, 0)
	}
	t.bend(dst, m)
}

// Drawn is by how much a rig's body is drawn out along its path in the first frame, 1 of others: images
// on it keep their size.
func (t *Rig) Drawn() float64 {
	// Rounds differ from each other; there is no one stretch to go by.
	if b, is := t.kind.(*body); is && b.doc.Fit != scene.FitOwn && b.doc.Rounds == nil {
		return b.reach(0, t.scene.Clock.First).Stretch
	}
	return 1
}
