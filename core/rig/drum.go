package rig

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/scene"
)

// What the rope on a drum is drawn with.
const (
	ropeSides      = 6
	ropeLooks      = 28  // places a turn
	maxRopeTurns   = 600 // that are drawn
	tangentRounds  = 60
	tangentSettled = 1e-14
)

// winch is a drum on the start of a path: what its rig says.
type winch struct {
	doc    *scene.Drum
	drum   mech.Drum
	travel *signal
	first  geom.Vec // the way ahead in the first frame, level
}

// winchOf finds the drum of path i; ok is false when it has a fault, winch nil where there is none.
func (c *compiler) winchOf(i int) (w *winch, ok bool) {
	id, at := c.Doc.Paths[i].Shape.DrumOf()
	if id == "" {
		return nil, true
	}
	r := &c.Doc.Rigs[c.rigAt[id]]
	if r.Drum == nil || r.Path != c.Doc.Paths[i].ID {
		c.say(fmt.Errorf("%q is no drum of this path: a rig of the kind drum whose path this is is accepted", id), "paths[%d].shape.%s.drum", i, at)
		return nil, false
	}
	travel := c.value("rigs/" + r.ID + "/travel")
	if travel == nil {
		return nil, false
	}
	return newWinch(r.Drum, &c.Doc.Paths[i].Shape, travel), true
}

func newWinch(d *scene.Drum, s *scene.PathShape, travel *signal) *winch {
	var way geom.Vec
	if s.Hang != nil {
		way = geom.FromArray(s.Hang.To).Sub(geom.FromArray(s.Hang.From))
	} else {
		way, _, _ = s.Wrap.Axes()
	}
	way.Y = 0
	return &winch{doc: d, drum: mech.Drum{Radius: d.Radius, Width: d.Width, Rope: d.Rope}, travel: travel, first: way.Unit()}
}

// paidOut is a drum and its cable at a frame, in the path's space.
type paidOut struct {
	hub, axis, ahead geom.Vec
	out, along       geom.Vec // from the axis to where the rope leaves it, and its way on from there
	wound            float64  // metres on the drum by its turning
	fall             float64  // by how much the rope leaves it downwards, radians
	at               mech.Wound
	hang             *scene.HangShape
	belt             *mech.Belt // of an open belt
	off, used        float64    // metres of rope off the drum, and of an open belt up to its last wheel
}

// sense is 1 where the rope leaves over the top.
func (w *winch) sense() float64 {
	if w.doc.Under {
		return -1
	}
	return 1
}

// turned is the drum's angle when so much has been paid out, radians; what is up goes ahead.
func (w *winch) turned(p *paidOut) float64 {
	return w.sense() * (w.drum.At(w.doc.Wound).Angle - w.drum.At(p.wound).Angle)
}

// payOut lets a cable that begins at the hub leave the drum: on the common tangent, with the length
// that is off the drum. Where the rope leaves it and how the cable hangs follow from one another;
// they are found in turns.
func (w *winch) payOut(h *scene.HangShape, ahead geom.Vec, paid float64) paidOut {
	p := paidOut{hub: geom.FromArray(h.From), ahead: ahead, wound: max(w.doc.Wound-paid, 0)}
	up := geom.V(0, 1, 0)
	p.axis = up.Cross(ahead)
	p.at = w.drum.At(p.wound)
	off := h.Length + w.doc.Wound - p.wound
	hang := *h
	for range tangentRounds {
		sin, cos := math.Sincos(p.fall)
		p.along = ahead.Mul(cos).Mad(up, -sin)
		p.out = ahead.Mul(sin).Mad(up, cos).Mul(w.sense())
		hang.From = p.hub.Mad(p.axis, p.at.Across).Mad(p.out, p.at.Radius).Array()
		hang.Length = off - w.sense()*p.at.Radius*p.fall // what lies on the drum beyond its top, or foot
		v := geom.FromArray(hang.To).Sub(geom.FromArray(hang.From))
		c, err := mech.Hang(math.Hypot(v.X, v.Z), v.Y, hang.Length)
		if err != nil {
			break
		}
		fall := -math.Atan(math.Sinh(c.U0))
		if math.Abs(fall-p.fall) < tangentSettled {
			break
		}
		p.fall = fall
	}
	p.hang, p.off = &hang, hang.Length
	return p
}

// reeved is the open belt of path i as it is at a frame, with a drum at its start or, where that is nil, made fast.
func (s *Scene) reeved(w *winch, i int, frame float64) (p paidOut, err error) {
	b := s.belts[i]
	wheels, _ := s.hubs(i, frame)
	e := b.shape.Ends
	p = paidOut{hub: geom.FromArray(e.From), off: e.Length}
	if w == nil {
		if p.used, _, err = mech.ReeveTaut(b.shape.Start(0, false), wheels, 0); err != nil {
			return p, err
		}
		p.belt, err = mech.Reeve(b.shape.Start(0, false), wheels, 0, e.Length)
		return p, err
	}
	up := geom.V(0, 1, 0)
	p.ahead, p.axis = w.first, up.Cross(w.first)
	p.wound = max(w.doc.Wound-w.travel.at(frame, s.Clock), 0)
	p.at = w.drum.At(p.wound)
	start := b.shape.Start(p.at.Radius, w.doc.Under)
	// Where it leaves the drum does not depend on how long it is.
	used, heading, err := mech.ReeveTaut(start, wheels, p.at.Across)
	if err != nil {
		return p, err
	}
	p.fall, p.used = -heading, used
	sin, cos := math.Sincos(p.fall)
	p.along = p.ahead.Mul(cos).Mad(up, -sin)
	p.out = p.ahead.Mul(sin).Mad(up, cos).Mul(w.sense())
	p.off = e.Length + w.doc.Wound - p.wound - w.sense()*p.at.Radius*p.fall
	p.belt, err = mech.Reeve(start, wheels, p.at.Across, p.off)
	return p, err
}

// paidAt is the drum of path i at a frame; as it is at first where its belt cannot be laid.
func (s *Scene) paidAt(w *winch, i int, frame float64) paidOut {
	if h := s.Doc.Paths[i].Shape.Hang; h != nil {
		return s.paid(w, i, s.heldHang(i, h, frame), frame)
	}
	p, err := s.reeved(w, i, frame)
	if err != nil {
		p, _ = s.reeved(w, i, s.Clock.First)
	}
	return p
}

// paid is the drum of path i at a frame with its cable's ends where carriers hold them.
func (s *Scene) paid(w *winch, i int, held *scene.HangShape, frame float64) paidOut {
	ahead := w.first
	if held.FromOn != "" { // it turns with what holds it
		k := s.carrierOf(held.FromOn)
		now := s.pathPose(i, frame).Inverse().Mul(s.pose(k, frame))
		then := s.pathPose(i, s.Clock.First).Inverse().Mul(s.pose(k, s.Clock.First))
		ahead = now.Mul(then.Inverse()).Turn(ahead)
		ahead.Y = 0
		ahead = ahead.Unit()
	}
	return w.payOut(held, ahead, w.travel.at(frame, s.Clock))
}

// drum is a rig that is the drum of its path.
// A drum that its path does not name stands there as if it did.
type drum struct {
	carried
	doc   *scene.Drum
	winch *winch
}

func (t *drum) at(int, float64) float64     { return 0 }
func (t *drum) reach(int, float64) Reach    { return Reach{} }
func (t *drum) ends(float64) (a, b float64) { return 0, 0 }

func (t *drum) ready(c *compiler) (field string, err error) {
	w := newWinch(t.doc, &t.scene.Doc.Paths[t.Path].Shape, t.travel)
	t.winch = w
	turns := w.drum.At(t.doc.Wound).Angle / (2 * math.Pi)
	if turns > maxRopeTurns {
		return "drum.wound", fmt.Errorf("%.0f turns of rope are not accepted: up to %d are", turns, maxRopeTurns)
	}
	// Half a turn more, for what lies beyond its top.
	looks := int(math.Ceil((turns + 0.5) * ropeLooks))
	var indices []uint32
	var uvs []float32
	for k := range looks + 1 {
		for n := range ropeSides {
			uvs = append(uvs, float32(math.Pi*t.doc.Rope*float64(n)/ropeSides), float32(w.drum.Length(2*math.Pi*float64(k)/ropeLooks)))
			if k > 0 {
				a, b := uint32((k-1)*ropeSides+n), uint32((k-1)*ropeSides+(n+1)%ropeSides)
				indices = append(indices, a, b, b+ropeSides, a, b+ropeSides, a+ropeSides)
			}
		}
	}
	t.moulds = []Mould{newMould("rope", (looks+1)*ropeSides, uvs, indices)}
	return "drum.wound", spend(&c.spent.bodies, t.moulds[0].vertices(), maxBodies, "vertices of pieces that bend", "less rope, or fewer pieces, segments or rigs are accepted")
}

func (t *drum) stand(dst *Pieces, m *moment) {
	s := t.scene
	w, p := t.winch, s.paidAt(t.winch, t.Path, m.frame)
	f := geom.Frame{P: p.hub, T: p.ahead, U: geom.V(0, 1, 0)}
	side, turn := f.Side(), w.turned(&p)
	f.U, f.T = geom.RotateAbout(f.U, side, turn), geom.RotateAbout(f.T, side, turn)
	if m.moved {
		f = m.pose.Frame(f)
	}
	t.stood(dst, 0, 0, f, float32(t.scale))
	out := moulder{dst.Positions[:0], dst.Normals[:0]}
	// What lies on it ends where the rope leaves it.
	end := w.drum.At(p.wound).Angle + w.sense()*p.fall
	for k := range t.moulds[0].vertices() / ropeSides {
		a := min(2*math.Pi*float64(k)/ropeLooks, max(end, 0))
		at := w.drum.At(w.drum.Length(a))
		if a >= end {
			at.Radius, at.Across = p.at.Radius, p.at.Across
		}
		sin, cos := math.Sincos(end - a)
		dir := p.out.Mul(cos).Mad(p.along, -sin)
		mid := p.hub.Mad(p.axis, at.Across).Mad(dir, at.Radius)
		for n := range ropeSides {
			sn, cs := math.Sincos(2 * math.Pi * float64(n) / ropeSides)
			round := dir.Mul(cs).Mad(p.axis, -w.sense()*sn)
			q := mid.Mad(round, t.doc.Rope/2)
			if m.moved {
				q, round = m.pose.Apply(q), m.pose.Turn(round)
			}
			out.add(q, round)
		}
	}
	dst.Positions, dst.Normals = out.positions, out.normals
	dst.Reach = append(dst.Reach[:0], Reach{0, 0, 1, true})
}

// DrumReadout is what a drum holds.
type DrumReadout struct {
	Layers   int     `json:"layers"` // in the first frame
	Turns    float64 `json:"turns"`
	Hangs    float64 `json:"hangs"`    // metres that hang in the first frame: of a cable all that is off it, of an open belt what is behind its last wheel
	Diameter float64 `json:"diameter"` // over the rope, metres
	// RunsOut is the frame at which all of its rope is off, left out where that is not in the range.
	RunsOut *float64 `json:"runsOut,omitempty"`
}

// tell says what is wound on it.
func (k *drum) tell(told *OfKind) {
	t := k.Rig
	w, first := k.winch, t.scene.Clock.First
	p := t.scene.paidAt(w, t.Path, first)
	out := &DrumReadout{Turns: p.at.Angle / (2 * math.Pi), Hangs: p.off - p.used, Diameter: 2*p.at.Radius + k.doc.Rope}
	if p.wound > 0 {
		out.Layers = p.at.Layer + 1
	}
	r := t.scene.Doc.Range
	for f := r.First; f <= r.Last; f++ {
		if w.travel.at(float64(f), t.scene.Clock) >= k.doc.Wound {
			at := float64(f)
			out.RunsOut = &at
			break
		}
	}
	told.Drum = out
}
