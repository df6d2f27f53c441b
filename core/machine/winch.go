package machine

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/scene"
)

// How closely the place where a rope leaves its drum is found.
const (
	tangentRounds  = 60
	tangentSettled = 1e-14
)

// Winch is a drum on the start of a path: what its rig says.
type Winch struct {
	Drum   mech.Drum
	Travel *Signal
	doc    *scene.Drum
	first  geom.Vec // the way ahead in the first frame, level
}

// winchOf finds the drum of path i; ok is false when it has a fault, winch nil where there is none.
func (c *Builder) winchOf(i int) (w *Winch, ok bool) {
	id, at := c.Doc.Paths[i].Shape.DrumOf()
	if id == "" {
		return nil, true
	}
	r := &c.Doc.Rigs[c.rigAt[id]]
	if r.Drum == nil || r.Path != c.Doc.Paths[i].ID {
		c.Say(fmt.Errorf("%q is no drum of this path: a rig of the kind drum whose path this is is accepted", id), "paths[%d].shape.%s.drum", i, at)
		return nil, false
	}
	travel := c.Value("rigs/" + r.ID + "/travel")
	if travel == nil {
		return nil, false
	}
	return NewWinch(r.Drum, &c.Doc.Paths[i].Shape, travel), true
}

// NewWinch is a drum at the start of a path of a shape that hangs or wraps.
func NewWinch(d *scene.Drum, s *scene.PathShape, travel *Signal) *Winch {
	var way geom.Vec
	if s.Hang != nil {
		way = geom.FromArray(s.Hang.To).Sub(geom.FromArray(s.Hang.From))
	} else {
		way, _, _ = s.Wrap.Axes()
	}
	way.Y = 0
	return &Winch{doc: d, Drum: mech.Drum{Radius: d.Radius, Width: d.Width, Rope: d.Rope}, Travel: travel, first: way.Unit()}
}

// PaidOut is a drum and its cable at a frame, in the path's space.
type PaidOut struct {
	Hub, Axis, Ahead geom.Vec
	Out, Along       geom.Vec // from the axis to where the rope leaves it, and its way on from there
	Wound            float64  // metres on the drum by its turning
	Fall             float64  // by how much the rope leaves it downwards, radians
	At               mech.Wound
	Off, Used        float64 // metres of rope off the drum, and of an open belt up to its last wheel
	hang             *scene.HangShape
	belt             *mech.Belt // of an open belt
}

// Sense is 1 where the rope leaves over the top.
func (w *Winch) Sense() float64 {
	if w.doc.Under {
		return -1
	}
	return 1
}

// Turned is the drum's angle when so much has been paid out, radians; what is up goes ahead.
func (w *Winch) Turned(p *PaidOut) float64 {
	return w.Sense() * (w.Drum.At(w.doc.Wound).Angle - w.Drum.At(p.Wound).Angle)
}

// payOut lets a cable that begins at the hub leave the drum: on the common tangent, with the length
// that is off the drum. Where the rope leaves it and how the cable hangs follow from one another;
// they are found in turns.
func (w *Winch) payOut(h *scene.HangShape, ahead geom.Vec, paid float64) PaidOut {
	// What has been wound off cannot be wound off again.
	p := PaidOut{Hub: geom.FromArray(h.From), Ahead: ahead, Wound: max(w.doc.Wound-paid, 0)}
	up := geom.V(0, 1, 0)
	p.Axis = up.Cross(ahead)
	p.At = w.Drum.At(p.Wound)
	// The whole rope is as long as ever: what is not on the drum hangs, or lies on its rim.
	off := h.Length + w.doc.Wound - p.Wound
	hang := *h
	for range tangentRounds {
		sin, cos := math.Sincos(p.Fall)
		p.Along = ahead.Mul(cos).Mad(up, -sin)
		p.Out = ahead.Mul(sin).Mad(up, cos).Mul(w.Sense())
		hang.From = p.Hub.Mad(p.Axis, p.At.Across).Mad(p.Out, p.At.Radius).Array()
		hang.Length = off - w.Sense()*p.At.Radius*p.Fall // what lies on the drum beyond its top, or foot
		v := geom.FromArray(hang.To).Sub(geom.FromArray(hang.From))
		c, err := mech.Hang(math.Hypot(v.X, v.Z), v.Y, hang.Length)
		if err != nil {
			break
		}
		fall := -math.Atan(math.Sinh(c.U0))
		if math.Abs(fall-p.Fall) < tangentSettled {
			break
		}
		p.Fall = fall
	}
	p.hang, p.Off = &hang, hang.Length
	return p
}

// reeved is the open belt of path i as it is at a frame, with a drum at its start or, where that is nil, made fast.
func (s *Machine) reeved(w *Winch, i int, frame float64) (p PaidOut, err error) {
	b := s.belts[i]
	wheels, _ := s.hubs(i, frame)
	e := b.shape.Ends
	p = PaidOut{Hub: geom.FromArray(e.From), Off: e.Length}
	if w == nil {
		if p.Used, _, err = mech.ReeveTaut(b.shape.Start(0, false), wheels, 0); err != nil {
			return p, err
		}
		p.belt, err = mech.Reeve(b.shape.Start(0, false), wheels, 0, e.Length)
		return p, err
	}
	up := geom.V(0, 1, 0)
	p.Ahead, p.Axis = w.first, up.Cross(w.first)
	p.Wound = max(w.doc.Wound-w.Travel.At(frame, s.Clock), 0)
	p.At = w.Drum.At(p.Wound)
	start := b.shape.Start(p.At.Radius, w.doc.Under)
	// Where it leaves the drum does not depend on how long it is.
	used, heading, err := mech.ReeveTaut(start, wheels, p.At.Across)
	if err != nil {
		return p, err
	}
	// The heading goes up; the fall is how much it goes down.
	p.Fall, p.Used = -heading, used
	sin, cos := math.Sincos(p.Fall)
	p.Along = p.Ahead.Mul(cos).Mad(up, -sin)
	p.Out = p.Ahead.Mul(sin).Mad(up, cos).Mul(w.Sense())
	p.Off = e.Length + w.doc.Wound - p.Wound - w.Sense()*p.At.Radius*p.Fall
	p.belt, err = mech.Reeve(start, wheels, p.At.Across, p.Off)
	return p, err
}

// PaidAt is the drum of path i at a frame; as it is at first where its belt cannot be laid.
func (s *Machine) PaidAt(w *Winch, i int, frame float64) PaidOut {
	if h := s.Doc.Paths[i].Shape.Hang; h != nil {
		return s.paid(w, i, s.heldHang(i, h, frame), frame)
	}
	p, err := s.reeved(w, i, frame)
	if err != nil {
		// It is shown as at first, and the check of tension says so.
		p, _ = s.reeved(w, i, s.Clock.First)
	}
	return p
}

// paid is the drum of path i at a frame with its cable's ends where carriers hold them.
func (s *Machine) paid(w *Winch, i int, held *scene.HangShape, frame float64) PaidOut {
	ahead := w.first
	if held.FromOn != "" { // it turns with what holds it
		k := s.carrierOf(held.FromOn)
		now := s.PathPlace(i, frame).Inverse().Mul(s.CarrierPlace(k, frame))
		then := s.PathPlace(i, s.Clock.First).Inverse().Mul(s.CarrierPlace(k, s.Clock.First))
		ahead = now.Mul(then.Inverse()).Turn(ahead)
		// The drum's axis stays level, whatever holds it.
		ahead.Y = 0
		ahead = ahead.Unit()
	}
	return w.payOut(held, ahead, w.Travel.At(frame, s.Clock))
}
