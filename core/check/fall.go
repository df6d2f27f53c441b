package check

import (
	"math"

	"bead/core/rig"
)

// fall counts the pieces of a run that stay standing. The run is known whole, so no frames are needed.
type fall struct {
	*measure
	run *rig.FallReadout
}

func (g *fall) look(*moment) {}
func (g *fall) merge(gauge)  {}

func (g *fall) result() Result {
	count, last := g.run.Of, g.scene.Doc.Range.Last
	// What stays standing decides; how fast the rest falls is no fault.
	r := Result{ID: "fall", Rig: g.id, Unit: "pieces", Value: float64(count - g.run.Fallen), Of: count, Word: "all fall"}
	r.State = grade(r.Value, 0)
	ends := int(math.Ceil(g.run.Ends))
	rate := Saying{}
	if g.run.Rate > 0 {
		rate = say("fall.rate", g.run.Rate)
	}
	r.Says = []Saying{say("fall.all", count, rate, ends)}
	if r.State == Outside {
		// Where it stops, when the rest has come to rest.
		r.Where = g.where(max(g.run.Piece-1, 0), min(ends, last))
		r.Word = "stops"
		// The push did not tip even the first.
		if g.run.First == 0 {
			r.Word = "not set off"
		}
		r.Says = []Saying{say("fall.stops", g.run.Fallen, count, g.run.Why)}
		return r
	}
	// All of it falls, but nobody sees the end.
	if ends > last {
		r.Word = "cut short"
		r.Says = append(r.Says, say("fall.cut-short", last))
		r.State = Near
		r.Remedies = []Remedy{offer(say("offer.last-frame", ends), []Edit{{"/range/last", ends}})}
	}
	return r
}

var fallKind = Kind{
	Words: []Words{{ID: "fall"}},
	gauges: func(m *measure) []gauge {
		run := m.rig.Falls()
		if run == nil {
			return nil
		}
		return []gauge{&fall{m, run}}
	},
}
