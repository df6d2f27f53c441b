package scene

import (
	"fmt"
	"slices"

	"bead/core/place"
)

// Train is pieces one behind the other.
type Train struct {
	Seat    string        `json:"seat,omitempty" jsonschema:"enum=pivot,enum=ends,enum=bent,description=ends: both of a piece's pins lie on the path and it is never stretched; bent: it takes the form of the path."`
	Spacing Spacing       `json:"spacing"`
	PastEnd string        `json:"pastEnd,omitempty" jsonschema:"enum=straight on,enum=come round,description=What a piece does that leaves an open path."`
	Arrive  *Arrivals     `json:"arrive,omitempty"`
	Leave   *Arrivals     `json:"leave,omitempty"`
	Fall    *Fall         `json:"fall,omitempty" jsonschema:"description=Its standing pieces fall one after another."`
	Others  []Others      `json:"others,omitempty" jsonschema:"description=Pieces that are of another part; later entries win."`
	Blends  []BlendAmount `json:"blends,omitempty" jsonschema:"description=Other shapes of its part that are put on before it is bent: of seat bent."`
}

func (t *Train) about() About {
	return About{Name: "Train", Text: "pieces one behind the other"}
}

func (t *Train) traits() Traits {
	return Traits{Seat: t.Seat, Spacing: t.Spacing, PastEnd: t.PastEnd, Blends: t.Blends, Others: t.Others}
}

func (t *Train) fill() {
	fill(&t.Seat, SeatPivot)
	fill(&t.PastEnd, StraightOn)
	fill(&t.Spacing.Rest, place.RestPitch)
	for _, a := range []*Arrivals{t.Arrive, t.Leave} {
		a.fillDefaults()
	}
	t.Fall.fill()
}

func (t *Train) checkRig(c *checker, at string, _ *Rig, _ []Path) {
	if t.Seat == SeatEnds && t.Spacing.Mode == place.Scatter {
		c.say(at+".spacing.mode", "pieces joined by pins are not scattered: set count, set pitch and close up are accepted, or another seat")
	}
	if t.Seat == SeatEnds && (t.Arrive != nil || t.Leave != nil) {
		c.say(at+".seat", "pieces that come and go one after another are not joined by pins: pivot is accepted")
	}
	c.fall(at, t)
	if len(t.Others) > 20 {
		c.say(at+".others", "%d entries are not accepted: up to 20 are", len(t.Others))
	}
	for i := range t.Others {
		o, oa := &t.Others[i], fmt.Sprintf("%s.others[%d]", at, i)
		switch {
		case o.Every == 0 && len(o.Pieces) == 0:
			c.say(oa, "names no pieces: every or pieces is accepted")
		case o.Every != 0 && len(o.Pieces) > 0:
			c.say(oa+".pieces", "every says which they are: leave one of the two out")
		}
	}
	c.blends(at, t.Blends)
	if len(t.Blends) > 0 && t.Seat != SeatBent {
		c.say(at+".blends", "only bodies that bend show blends: seat bent is accepted")
	}
}

// Others makes some of a train's pieces of another part: every n-th from the first one,
// or those listed.
type Others struct {
	Part   string `json:"part" jsonschema:"description=Id of the part." ref:"part;whole"`
	Every  int    `json:"every,omitempty" jsonschema:"minimum=0,maximum=100000,description=Every n-th piece; 0 or left out: those listed."`
	First  int    `json:"first,omitempty" jsonschema:"minimum=0,maximum=100000,description=The first of them counted from 1; n where left out."`
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
	Pitch float64    `json:"pitch,omitempty" jsonschema:"minimum=0,maximum=1e6,description=Metres from one piece to the next; 0 or left out: the part's own length."`
	Gap   float64    `json:"gap,omitempty" jsonschema:"minimum=-1e6,maximum=1e6,description=Metres added to the pitch."`
	Rest  place.Rest `json:"rest,omitempty" jsonschema:"enum=pitch,enum=slack"`
	Seed  int64      `json:"seed,omitempty" jsonschema:"description=Of scatter."`
	Even  float64    `json:"even,omitempty" jsonschema:"minimum=0,maximum=1,description=Of scatter: from 0 for places at random to 1 for an even spacing."`
}
