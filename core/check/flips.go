package check

import (
	"math"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/path"
	"bead/core/rig"
)

const (
	flipAngle    = math.Pi / 4 // turn of up between neighbours that is not the curve's doing
	stretchAngle = math.Pi / 2
	flipLooks    = 64 // places along a body at which its up is looked at
	rollLooks    = 8  // between two places, at which roll by distance is looked at
)

// upTurn is the turn of up about forward between two distances, radians, beyond least twist and the turns that
// the document asks for; a roll by distance that jumps counts.
func (m *measure) upTurn(now *rig.Posed, a, b float64) float64 {
	fa, fb := now.Field.Frame(a), now.Field.Frame(b)
	// Least twist carries the frame along as if it were rolled; what is left over is the facing's own turn.
	carried := facing.Carry(now.Curve, a, b, fa.U)
	turn := geom.AngleAbout(fb.T, carried, fb.U) - now.Field.Report().Twist*(b-a)
	return math.Abs(math.Remainder(turn, 2*math.Pi)) + m.rollJump(now.Curve, a, b)
}

// rollJump is by how much roll by distance jumps between two places: what it turns in one of a
// few equal steps where that alone would be a flip. Roll that is spread over the way is what
// was asked for.
func (m *measure) rollJump(c *path.Curve, a, b float64) float64 {
	// One key of roll is the same everywhere.
	if len(m.doc().Facing.RollAt) < 2 {
		return 0
	}
	most := 0.0
	was := m.rig.RollAt(c, a)
	for k := range rollLooks {
		is := m.rig.RollAt(c, a+(b-a)*float64(k+1)/rollLooks)
		most, was = max(most, math.Abs(is-was)), is
	}
	// A roll that is spread over the way turns by less in each part.
	if most < flipAngle {
		return 0
	}
	return most
}

// flips counts the neighbours between which up turns about forward by more than
// flipAngle beyond what is explained, and the stretches over which a facing had to turn by
// more than stretchAngle; of the frame in which these are most.
type flips struct {
	*measure
	worst         // the greatest turn, radians
	count, at int // most at once, and the frame
	along     []facing.Stretch
}

func newFlips(m *measure) *flips { return &flips{measure: m} }

func (g *flips) look(f *moment) {
	now, d := g.rig.At(float64(f.frame)), g.pieces(f.pic).Distances
	n := len(d)
	count := 0
	g.take(0, f.frame, 0)
	for i := range n {
		a, b := d[i], d[(i+1)%n]
		// Numbers of pieces count against the path where the train stands over the seam.
		if b <= a {
			if !now.Curve.Closed() || n == 1 {
				continue
			}
			b += now.Curve.Length()
		}
		turn := g.upTurn(now, a, b)
		if turn > flipAngle {
			count++
		}
		g.take(turn, f.frame, i)
	}
	stretches := 0
	along := now.Field.Report().Along
	for _, a := range along {
		// A facing that runs along its up has to turn over however the pieces stand; the pieces may straddle that.
		if math.Abs(a.Turn) > stretchAngle {
			stretches++
		}
	}
	if stretches > 0 && g.along == nil {
		g.along = along
	}
	if c := max(count, stretches); c > g.count {
		g.count, g.at = c, f.frame
	}
}

func (g *flips) merge(later gauge) {
	o := later.(*flips)
	g.worst.merge(o.worst)
	if o.count > g.count {
		g.count, g.at = o.count, o.at
	}
	if g.along == nil {
		g.along = o.along
	}
}

func (g *flips) result() Result {
	t := g.rig
	r := Result{ID: "flips", Rig: g.id, Unit: "pieces", Value: float64(g.count), Of: t.Layout.Count, Word: "none"}
	r.State = grade(r.Value, 0)
	r.Where = g.measure.where(g.piece, g.frame)
	r.Says = []Saying{say("flips.none", g.value*inDegrees, g.every())}
	if r.State != Outside {
		return r
	}
	r.Word = "flips"
	r.Says = []Saying{say("flips.pieces", g.piece+1, g.value*inDegrees, g.frame)}
	mode := Edit{g.pointer("facing/mode"), "least-twist"}
	label := say("offer.least-twist")
	// On a flat path, near enough, out of the loop is what people mean; elsewhere least twist never flips.
	if pl := t.Curve.Plane(); !pl.Line && pl.Off < 1e-3*t.Curve.Length() {
		mode.Value, label = "loopside", say("offer.loopside")
	}
	if mode.Value != string(t.Mode()) {
		r.Remedies = []Remedy{offer(label, []Edit{mode})}
	}
	// What the facing itself had to do explains the flip better than two pieces do.
	if g.along != nil {
		why := say("flips.along-up")
		switch t.Mode() {
		case facing.Guide:
			why = say("flips.no-guide")
		case facing.Turn:
			why = say("flips.bend-changes")
		}
		most := g.along[0]
		for _, a := range g.along {
			if math.Abs(a.Turn) > math.Abs(most.Turn) {
				most = a
			}
		}
		r.Says = []Saying{say("flips.path", why, far(most.From), math.Abs(most.Turn)*inDegrees)}
	} else if g.rolls() {
		r.Remedies = append(r.Remedies, g.evenRoll()...)
		// Taking the keys out mends it where the facing is right already.
		if len(r.Remedies) > 1 && r.Remedies[0].Says.Code == label.Code {
			r.Remedies = r.Remedies[1:]
		}
	}
	return r
}

// rolls reports whether a roll by distance that jumps is what flips.
func (g *flips) rolls() bool {
	now := g.rig.At(float64(g.frame))
	g.scene.RigAt(&g.one, g.index, float64(g.frame))
	d := g.one.Distances
	a, b := d[g.piece], d[(g.piece+1)%len(d)]
	if b <= a {
		b += now.Curve.Length()
	}
	return g.rollJump(now.Curve, a, b) > 0
}

// evenRoll offers to take out the keys of roll between which it jumps.
func (m *measure) evenRoll() []Remedy {
	marks := m.doc().Facing.RollAt
	kept := marks[:0:0]
	for i, k := range marks {
		// Within the eighth of a pitch that rollJump looks at.
		if i > 0 && k.At-marks[i-1].At < m.rig.Curve.Length()/rollLooks/float64(max(m.rig.Layout.Count, 1)) && math.Abs(k.Roll-marks[i-1].Roll) > flipAngle*inDegrees {
			continue
		}
		kept = append(kept, k)
	}
	if len(kept) == len(marks) {
		return nil
	}
	return []Remedy{offer(say("offer.take-out-roll"), []Edit{{m.pointer("facing/rollAt"), kept}})}
}

// bodyFlips counts the places along a body between which up turns about forward by more than
// flipAngle beyond what is explained.
type bodyFlips struct {
	*measure
	worst
	count int
}

func newBodyFlips(m *measure) *bodyFlips { return &bodyFlips{measure: m} }

func (g *bodyFlips) look(f *moment) {
	now := g.rig.At(float64(f.frame))
	for piece, reach := range g.pieces(f.pic).Reach {
		if !reach.Shown {
			continue
		}
		// Places along the body, not pieces: a body is one piece.
		step := (reach.Head - reach.Tail) / flipLooks
		count := 0
		for i := range flipLooks {
			a := reach.Tail + step*float64(i)
			turn := g.upTurn(now, a, a+step)
			if turn > flipAngle {
				count++
			}
			if g.take(turn, f.frame, piece) {
				p, _ := now.Curve.At(a)
				g.along, g.at = a, g.pathPlace(f.frame).Apply(p)
			}
		}
		g.count = max(g.count, count)
	}
}

func (g *bodyFlips) merge(later gauge) {
	o := later.(*bodyFlips)
	g.worst.merge(o.worst)
	g.count = max(g.count, o.count)
}

func (g *bodyFlips) result() Result {
	r := Result{ID: "flips", Rig: g.id, Unit: "places", Value: float64(g.count), Of: flipLooks, Word: "none", Where: g.spot()}
	if !g.worst.seen {
		r.Where = &Where{Piece: 1, Frame: g.scene.Doc.Range.First}
	}
	r.State = grade(r.Value, 0)
	r.Says = []Saying{say("flips.body-none", g.value*inDegrees, g.every())}
	if r.State == Outside {
		r.Word = "flips"
		r.Says = []Saying{say("flips.body", far(g.along), g.value*inDegrees, g.frame)}
		if g.rig.Mode() != facing.LeastTwist {
			r.Remedies = []Remedy{offer(say("offer.least-twist"), []Edit{{g.pointer("facing/mode"), "least-twist"}})}
		}
		r.Remedies = append(r.Remedies, g.evenRoll()...)
	}
	return r
}

var flipsKind = Kind{
	Words: []Words{{ID: "flips"}},
	gauges: func(m *measure) []gauge {
		if m.rig.Stays {
			return nil
		}
		if m.rig.Spine {
			return []gauge{newBodyFlips(m)}
		}
		return []gauge{newFlips(m)}
	},
}
