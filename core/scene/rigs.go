package scene

import (
	"slices"

	"bead/core/motion"
	"bead/core/place"
)

// Rig ties a part to a path. What else it is stands in exactly one of its kinds.
type Rig struct {
	ID     string       `json:"id"`
	Name   string       `json:"name"`
	Path   string       `json:"path" jsonschema:"description=Id of the path."`
	Part   string       `json:"part" jsonschema:"description=Id of the part."`
	Scale  float64      `json:"scale,omitempty" jsonschema:"exclusiveMinimum=0,description=Scale of the pieces; spacing is not touched. 1 where left out."`
	Facing Facing       `json:"facing"`
	Travel motion.Value `json:"travel" jsonschema:"description=How far the rig has moved along its path in metres."`
	Offset motion.Value `json:"offset,omitzero" jsonschema:"description=Metres by which all of it stands further along."`
	InStep string       `json:"inStep,omitempty" jsonschema:"description=Id of the rig that it is to be in step with."`

	Train *Train `json:"train,omitempty" jsonschema:"oneof_required=train,description=Pieces one behind the other."`
	Rider *Rider `json:"rider,omitempty" jsonschema:"oneof_required=rider,description=One thing that the path carries."`
	Body  *Body  `json:"body,omitempty" jsonschema:"oneof_required=body,description=One thing that takes the form of the path."`
}

// Train is pieces one behind the other.
type Train struct {
	Seat    string        `json:"seat,omitempty" jsonschema:"enum=pivot,enum=ends,enum=bent,description=ends: both of a piece's pins lie on the path and it is never stretched; bent: it takes the form of the path."`
	Spacing Spacing       `json:"spacing"`
	PastEnd string        `json:"pastEnd,omitempty" jsonschema:"enum=straight on,enum=come round,description=What a piece does that leaves an open path."`
	Arrive  *Arrivals     `json:"arrive,omitempty"`
	Leave   *Arrivals     `json:"leave,omitempty"`
	Others  []Others      `json:"others,omitempty" jsonschema:"description=Pieces that are of another part; later entries win."`
	Blends  []BlendAmount `json:"blends,omitempty" jsonschema:"description=Other shapes of its part that are put on before it is bent: of seat bent."`
}

// Rider is one thing that the path carries.
type Rider struct {
	PastEnd string  `json:"pastEnd,omitempty" jsonschema:"enum=straight on,enum=come round,description=What it does when it leaves an open path."`
	Lead    *Lead   `json:"lead,omitempty" jsonschema:"description=The rig that it goes along with; travel is then its lead or below 0 its lag."`
	Rolling float64 `json:"rolling,omitempty" jsonschema:"description=The radius in metres on which it rolls and turns."`
}

// The words of a rig.
const (
	KindTrain  = "train"
	KindRider  = "rider"
	KindBody   = "body"
	SeatPivot  = "pivot"
	SeatEnds   = "ends"
	SeatBent   = "bent"
	StraightOn = "straight on"
	ComeRound  = "come round"
	Stop       = "stop"
)

// Kind is the word of the kind that it is, "" of none.
func (r *Rig) Kind() string {
	switch {
	case r.Train != nil:
		return KindTrain
	case r.Rider != nil:
		return KindRider
	case r.Body != nil:
		return KindBody
	}
	return ""
}

// Seat says how its pieces sit on the path.
func (r *Rig) Seat() string {
	switch {
	case r.Train != nil:
		return r.Train.Seat
	case r.Body != nil:
		return SeatBent
	}
	return SeatPivot
}

// Bends reports whether the rig's pieces take the form of the path.
func (r *Rig) Bends() bool { return r.Seat() == SeatBent }

// Spacing is how its pieces are spread; a rider and a body are one piece.
func (r *Rig) Spacing() Spacing {
	if r.Train != nil {
		return r.Train.Spacing
	}
	return Spacing{Mode: place.SetCount, Count: 1, Rest: place.RestPitch}
}

// PastEnd is what it does when it leaves an open path.
func (r *Rig) PastEnd() string {
	switch {
	case r.Train != nil:
		return r.Train.PastEnd
	case r.Rider != nil:
		return r.Rider.PastEnd
	case r.Body != nil:
		return r.Body.PastEnd
	}
	return StraightOn
}

// Lead is what ties it to another rig, nil where it goes by itself.
func (r *Rig) Lead() *Lead {
	switch {
	case r.Rider != nil:
		return r.Rider.Lead
	case r.Body != nil:
		return r.Body.Lead
	}
	return nil
}

// Blends are the other shapes of its part that it shows.
func (r *Rig) Blends() []BlendAmount {
	switch {
	case r.Train != nil:
		return r.Train.Blends
	case r.Body != nil:
		return r.Body.Blends
	}
	return nil
}

// Others are the pieces that are of another part.
func (r *Rig) Others() []Others {
	if r.Train == nil {
		return nil
	}
	return r.Train.Others
}

func (r *Rig) fillDefaults() {
	if r.Scale == 0 {
		r.Scale = 1
	}
	if t := r.Train; t != nil {
		fill(&t.Seat, SeatPivot)
		fill(&t.PastEnd, StraightOn)
		fill(&t.Spacing.Rest, place.RestPitch)
		for _, a := range []*Arrivals{t.Arrive, t.Leave} {
			a.fillDefaults()
		}
	}
	if x := r.Rider; x != nil {
		fill(&x.PastEnd, StraightOn)
	}
	if b := r.Body; b != nil {
		fill(&b.Fit, FitOwn)
		fill(&b.Anchor, AtTail)
		fill(&b.PastEnd, StraightOn)
	}
	if l := r.Lead(); l != nil {
		fill(&l.At, AtHead)
		if l.Piece == 0 {
			l.Piece = 1
		}
	}
}

// Others makes some of a train's pieces of another part: every n-th from the first one,
// or those listed.
type Others struct {
	Part   string `json:"part" jsonschema:"description=Id of the part."`
	Every  int    `json:"every,omitempty" jsonschema:"minimum=0,description=Every n-th piece; 0 or left out: those listed."`
	First  int    `json:"first,omitempty" jsonschema:"minimum=0,description=The first of them counted from 1; n where left out."`
	Pieces []int  `json:"pieces,omitempty" jsonschema:"description=Their numbers from 1 on; instead of every."`
}

// Of reports whether piece i, from 0, is one of them.
func (o *Others) Of(i int) bool {
	if o.Every == 0 {
		return slices.Contains(o.Pieces, i+1)
	}
	first := o.First
	if first == 0 {
		first = o.Every
	}
	return i+1 >= first && (i+1-first)%o.Every == 0
}

// Spacing says how many pieces, or how far apart.
type Spacing struct {
	Mode  place.Mode `json:"mode,omitempty" jsonschema:"enum=set count,enum=set pitch,enum=close up,enum=scatter"`
	Count int        `json:"count,omitempty" jsonschema:"minimum=0,maximum=100000"`
	Pitch float64    `json:"pitch,omitempty" jsonschema:"description=Metres from one piece to the next; 0 or left out: the part's own length."`
	Gap   float64    `json:"gap,omitempty" jsonschema:"description=Metres added to the pitch."`
	Rest  place.Rest `json:"rest,omitempty" jsonschema:"enum=pitch,enum=slack"`
	Seed  int64      `json:"seed,omitempty" jsonschema:"description=Of scatter."`
	Even  float64    `json:"even,omitempty" jsonschema:"minimum=0,maximum=1,description=Of scatter: from 0 for places at random to 1 for an even spacing."`
}
