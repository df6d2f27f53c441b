package scene

import (
	"bead/core/motion"
	"bead/core/place"
)

// Rig ties a part to a path. What else it is stands in exactly one of its kinds.
type Rig struct {
	ID     string       `json:"id"`
	Name   string       `json:"name"`
	Path   string       `json:"path" jsonschema:"description=Id of the path." ref:"path;thing"`
	Part   string       `json:"part" jsonschema:"description=Id of the part." ref:"part;thing"`
	Scale  float64      `json:"scale,omitempty" jsonschema:"description=Scale of the pieces; spacing is not touched. 0 or left out: 1." form:";plain;min=1e-4;max=1e4;or0"`
	Facing Facing       `json:"facing"`
	Travel motion.Value `json:"travel" jsonschema:"description=How far the rig has moved along its path in metres." move:"travel;distance;along"`
	Offset motion.Value `json:"offset,omitzero" jsonschema:"description=Metres by which all of it stands further along." move:"offset;length;along"`
	InStep string       `json:"inStep,omitempty" jsonschema:"description=Id of the rig that it is to be in step with." ref:"rig;;other"`

	Tints []Tint `json:"tints,omitempty" jsonschema:"description=Colours of some of its pieces; later ones lie over earlier ones."`

	Train *Train `json:"train,omitempty" jsonschema:"oneof_required=train,description=Pieces one behind the other."`
	Rider *Rider `json:"rider,omitempty" jsonschema:"oneof_required=rider,description=One thing that the path carries."`
	Body  *Body  `json:"body,omitempty" jsonschema:"oneof_required=body,description=One thing that takes the form of the path."`

	Payout *Payout `json:"payout,omitempty" jsonschema:"oneof_required=payout,description=A roll that lays out a sheet or winds it up."`
	Drum   *Drum   `json:"drum,omitempty" jsonschema:"oneof_required=drum,description=A drum that pays out the hanging cable that its path is."`
	Drape  *Drape  `json:"drape,omitempty" jsonschema:"oneof_required=drape,description=Cloth that hangs from the path or is drawn along it."`
	Cycle  *Cycle  `json:"cycle,omitempty" jsonschema:"oneof_required=cycle,description=A figure whose motion was made going straight, sent along the path."`
}

// The words of a rig.
const (
	KindTrain  = "train"
	KindRider  = "rider"
	KindBody   = "body"
	KindPayout = "payout"
	KindDrape  = "drape"
	KindDrum   = "drum"
	KindCycle  = "cycle"
	SeatPivot  = "pivot"
	SeatEnds   = "ends"
	SeatBent   = "bent"
	StraightOn = "straight on"
	ComeRound  = "come round"
	Stop       = "stop"
)

// Traits are what a kind of rig says to everything that is not of it.
type Traits struct {
	Seat string // how its pieces sit on the path
	// Spacing is how its pieces are spread; one piece where there is but one.
	Spacing Spacing
	PastEnd string // what it does when it leaves an open path
	Lead    *Lead  // what ties it to another rig, nil where it goes by itself
	Blends  []BlendAmount
	Others  []Others // pieces that are of another part
}

// rigKind is what a kind of rig has. One more is a file of its own with these, a line in Rig, and
// what it does frame by frame in package rig.
type rigKind interface {
	traits() Traits
	filler
	// checkRig reports faults of what the kind holds; references are checked elsewhere.
	checkRig(c *checker, at string, r *Rig, paths []Path)
}

// moulded are kinds that make a surface themselves: the id of its material, and the palette's where that
// names none.
type moulded interface {
	mould() (material, plain string)
}

// of is the kind that it is, nil of none.
func (r *Rig) of() rigKind {
	_, x, _ := one(r)
	k, _ := x.(rigKind)
	return k
}

// Kind is the word of the kind that it is, "" of none.
func (r *Rig) Kind() string {
	key, _, _ := one(r)
	return key
}

// Traits are those of its kind.
func (r *Rig) Traits() Traits {
	if k := r.of(); k != nil {
		return k.traits()
	}
	return Traits{Seat: SeatPivot, PastEnd: StraightOn, Spacing: alone}
}

// alone is the spacing of one piece.
var alone = Spacing{Mode: place.SetCount, Count: 1, Rest: place.RestPitch}

func (r *Rig) fillDefaults() {
	if r.Scale == 0 {
		r.Scale = 1
	}
	k := r.of()
	if k == nil {
		return
	}
	k.fill()
	if l := k.traits().Lead; l != nil {
		fill(&l.At, AtHead)
		if l.Piece == 0 {
			l.Piece = 1
		}
	}
}
