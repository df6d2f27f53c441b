package rig

import (
	"bead/core/geom"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// kind is what differs between kinds of rigs; how a rig lies on its path, faces, moves and bends is shared by
// all. One more kind is a file with a type that implements this, and a line in kinds.
type kind interface {
	// nature tells callers what to expect of the rig.
	nature() Nature
	// prepare finds the kind's own values; false when one has a fault.
	prepare(c *compiler) bool
	// layOut says how many pieces there are and how far apart, and the field of the rig that says
	// so. Its error is a place.FieldError.
	layOut(curve *path.Curve) (l place.Layout, field string, err error)
	// ready is called when everything else of the rig is made. Its error is of a field of the rig.
	ready(c *compiler) (field string, err error)
	// on is the layout on the path as it is in another frame.
	on(curve *path.Curve) place.Layout
	// at is where a piece stands on the path, before wrapping, metres; ends where the rig's tail
	// and head do.
	at(piece int, frame float64) float64
	ends(frame float64) (tail, head float64)
	// reach is where on the path a piece lies that bends, when all have arrived.
	reach(piece int, frame float64) Reach
	// form is applied to the sections of a piece that bends: taper, twist, volume.
	form(frame float64) form
	// stand writes the pieces of a moment into the picture.
	stand(dst *Pieces, m *moment)
}

// OfKind is what there is to be told of a rig that only its kind knows.
type OfKind struct {
	// Fall is how its pieces fall one after another; nil where they do not.
	Fall *FallReadout `json:"fall,omitempty"`
	// Cloth is of drapes.
	Cloth *ClothReadout `json:"cloth,omitempty"`
	// Cycle is of figures.
	Cycle *CycleReadout `json:"cycle,omitempty"`
	// Drum is of drums.
	Drum *DrumReadout `json:"drum,omitempty"`
	// Payout is of rolls.
	Payout *PayoutReadout `json:"payout,omitempty"`
}

// teller is a kind with something to tell that is its own.
type teller interface{ tell(out *OfKind) }

// OfKind is what the rig's kind tells of it.
func (t *Rig) OfKind() OfKind {
	var out OfKind
	if k, is := t.kind.(teller); is {
		k.tell(&out)
	}
	return out
}

// kinds make a rig's kind.
var kinds = map[string]func(*Rig) kind{
	scene.KindTrain:  func(t *Rig) kind { return &train{Rig: t, doc: t.rig.Train} },
	scene.KindRider:  func(t *Rig) kind { return &rider{carried: carried{t}, doc: t.rig.Rider} },
	scene.KindBody:   func(t *Rig) kind { return &body{Rig: t, doc: t.rig.Body} },
	scene.KindDrum:   func(t *Rig) kind { return &drum{carried: carried{t}, doc: t.rig.Drum} },
	scene.KindCycle:  func(t *Rig) kind { return &cycle{Rig: t, doc: t.rig.Cycle} },
	scene.KindDrape:  newDrape,
	scene.KindPayout: func(t *Rig) kind { return &payout{carried: carried{t}, doc: t.rig.Payout} },
}

// Nature is what others need to know of a rig without asking for its kind.
type Nature struct {
	// Row is set of pieces one behind the other that take one another's places.
	Row bool
	// Spine is set of things that are described by a middle line rather than by one place.
	Spine bool
	// Stays is set of what stands at its path's start and never goes along it.
	Stays bool
	// Renews is set of copies that appear and disappear.
	Renews bool
	// Simulated is set where a frame depends on those before: they have to be simulated first.
	Simulated bool
	// Jointed is set of figures whose joints are in the picture.
	Jointed bool
}

// form is what is done to the sections of a piece that bends.
type form struct {
	twist  float64 // of its head against its tail, radians
	volume bool    // drawn out it gets thinner
	taper  []scene.TaperBead
}

// moment is the state of a rig at a frame that all its pieces share.
type moment struct {
	*Posed
	frame float64
	base  float64    // where piece 0 stands, metres
	pose  geom.Rigid // of the path's space in the world
	moved bool       // that is not where it rests
	roll  float64    // radians
	speed float64    // along the path, m/s; 0 where nothing leans by it
}
