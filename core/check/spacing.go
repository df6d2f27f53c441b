package check

import (
	"fmt"
	"math"

	"bead/core/rig"
	"bead/core/scene"
)

// spacing measures the distance along the path from each piece to the next, by
// integrating the curve between the two anew, not by the table that placed them.
type spacing struct {
	*measure
	worst
	settled bool
}

func newSpacing(m *measure) *spacing { return &spacing{measure: m} }

func (g *spacing) look(f *moment) {
	if !g.rig.Settled(float64(f.frame)) { // pieces are under way
		return
	}
	g.settled = true
	now := g.rig.At(float64(f.frame))
	d := g.pieces(f.pic).Distances
	// A first figure of 0, so that a train of one piece has a place to show.
	g.take(0, f.frame, 0)
	for i := 1; i < len(d); i++ {
		step := d[i] - d[i-1]
		if !(step >= 0) { // over the seam: measured there
			continue
		}
		if d[i-1] >= 0 && d[i] <= now.Curve.Length() {
			// Where both stand on the curve it is measured anew; beyond an open end the path has no curve to measure.
			step = now.Curve.Between(d[i-1], d[i])
		}
		// Against what the layout asks for at that place: scattered pieces are not even, and need not be.
		g.take(step-(now.Layout.At(i)-now.Layout.At(i-1)), f.frame, i)
	}
}

func (g *spacing) merge(later gauge) {
	o := later.(*spacing)
	g.worst.merge(o.worst)
	g.settled = g.settled || o.settled
}

func (g *spacing) result() Result {
	t := g.rig
	r := Result{ID: "spacing", Rig: g.id, Unit: "m", Value: g.value, Tolerance: lengthTol, Of: t.Layout.Count, Word: "even"}
	if !g.settled {
		r.State, r.Word = Near, "not seen"
		r.Where = g.measure.where(0, g.scene.Doc.Range.First)
		r.Says = []Saying{say("spacing.not-seen", g.every())}
		return r
	}
	r.State = grade(r.Value, r.Tolerance)
	// The place of the worst figure, in the frame in which it was.
	r.Where = g.measure.where(g.piece, g.frame)
	if r.State == Outside {
		r.Word = "uneven"
	}
	off := say("spacing.off", length(math.Abs(r.Value)), g.every())
	if places := t.Layout.Places; places != nil && r.State != Outside {
		least, most := math.Inf(1), 0.0
		for i := 1; i < len(places); i++ {
			least, most = min(least, places[i]-places[i-1]), max(most, places[i]-places[i-1])
		}
		r.Word = "scattered"
		r.Says = []Saying{say("spacing.scattered", length(least), length(most), length(t.Layout.Pitch), off)}
		return r
	}
	r.Says = []Saying{say("spacing.even", length(t.Layout.Pitch), off)}
	return r
}

// pins measures the straight distance from pin to pin of a train that sits on its pins,
// against the pitch of its links.
type pins struct {
	*measure
	worst
	pitch float64
}

func newPins(m *measure) *pins {
	g := &pins{measure: m, pitch: m.rig.Layout.Pitch}
	if w := m.wrap(); w != nil && w.Keep != nil && w.Keep.Pins {
		// On a belt of kept length the links are as long as the belt's document says, not as they were laid out.
		g.pitch = w.Keep.Pitch
	}
	return g
}

func (g *pins) look(f *moment) {
	curve, pins := g.rig.At(float64(f.frame)).Curve, g.pieces(f.pic).Pins
	g.take(0, f.frame, 0)
	for k := 1; k < len(pins); k++ {
		p, _ := curve.At(pins[k-1])
		q, _ := curve.At(pins[k])
		// The number of the piece between two pins is that of the first of them, counted from 0.
		g.take(q.Sub(p).Norm()-g.pitch, f.frame, k-1)
	}
}

func (g *pins) merge(later gauge) { g.worst.merge(later.(*pins).worst) }

func (g *pins) result() Result {
	r := Result{ID: "spacing", Rig: g.id, Unit: "m", Value: g.value, Tolerance: max(lengthTol, pinShare*g.pitch), Of: g.rig.Layout.Count, Word: "even"}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = g.measure.where(g.piece, g.frame)
	r.Says = []Saying{say("spacing.pins", length(g.pitch), length(math.Abs(r.Value)), g.every())}
	if r.State != Outside {
		return r
	}
	r.Word = "uneven"
	if least := g.rig.Unavoidable(); least > r.Tolerance {
		// No adjustment closes such a ring on its pins; on pivots every piece may be a little off instead.
		r.Says = append(r.Says, say("spacing.unavoidable", g.rig.Layout.Count, length(least)))
		r.Remedies = []Remedy{offer(say("offer.seat-on-pivots"), []Edit{{g.pointer("train/seat"), scene.SeatPivot}})}
	}
	return r
}

// seam measures the distance between the last piece and the first beyond one pitch; negative where they
// overlap.
type seam struct {
	*measure
	worst
	settled bool
}

func newSeam(m *measure) *seam { return &seam{measure: m} }

func (g *seam) look(f *moment) {
	t := g.rig
	if !t.Settled(float64(f.frame)) {
		return
	}
	g.settled = true
	n, now, p := t.Layout.Count, t.At(float64(f.frame)), g.pieces(f.pic)
	g.take(0, f.frame, n-1)
	v := 0.0
	if t.Pinned {
		// From the last pin to the first, where they are to be one.
		if v = now.Layout.Seam; v == 0 {
			a, _ := now.Curve.At(p.Pins[0])
			b, _ := now.Curve.At(p.Pins[n])
			v = b.Sub(a).Norm()
		}
	} else {
		// The way round from the last piece to the first, on the path itself.
		over := p.Distances[0] - p.Distances[n-1]
		// The first piece may stand just behind the last in numbers of the path: once round, then.
		if over <= 0 {
			over += now.Curve.Length()
		}
		v = over - now.Layout.Closing()
	}
	// Rounding over the whole way round is no seam.
	if math.Abs(v) > 1e-9*now.Curve.Length() {
		g.take(v, f.frame, n-1)
	}
}

func (g *seam) merge(later gauge) {
	o := later.(*seam)
	g.worst.merge(o.worst)
	g.settled = g.settled || o.settled
}

func (g *seam) result() Result {
	t, n := g.rig, g.rig.Layout.Count
	r := Result{ID: "seam", Rig: g.id, Unit: "m", Value: g.value, Tolerance: lengthTol, Word: "closed"}
	if !g.settled {
		r.State, r.Word = Near, "not seen"
		r.Where = g.measure.where(n-1, g.scene.Doc.Range.First)
		r.Says = []Saying{say("overlap.not-seen", g.every())}
		return r
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = g.measure.where(n-1, g.frame)
	switch {
	case r.State != Outside:
		r.Says = []Saying{say("seam.closed", n, length(math.Abs(r.Value)), g.every())}
		return r
	case r.Value > 0:
		r.Word = "open"
		r.Says = []Saying{say("seam.open", length(r.Value), n)}
	default:
		r.Word = "overlaps"
		r.Says = []Saying{say("seam.overlaps", n, length(-r.Value))}
	}
	r.Remedies = append(r.Remedies, offer(say("offer.fill-evenly"), []Edit{
		{g.pointer("train/spacing/mode"), "close up"}, {g.pointer("train/spacing/rest"), "pitch"},
	}))
	// Half of the leftover on either straight.
	if slot := g.scene.Doc.Paths[t.Path].Shape.Slot; slot != nil && slot.Length-r.Value/2 >= 0 {
		how, by := "offer.shorten", r.Value/2
		if by < 0 {
			how, by = "offer.lengthen", -by
		}
		r.Remedies = append(r.Remedies, offer(say(how, length(by)), []Edit{{fmt.Sprintf("/paths/%d/shape/slot/length", t.Path), slot.Length - r.Value/2}}))
	}
	return r
}

// neighbours calls fn with the pieces that follow one another in a frame: in the order of
// their numbers, over the seam where the train comes round, and only those that are there.
func (m *measure) neighbours(p *rig.Pieces, fn func(a, b int)) {
	n := len(p.Distances)
	// Index 9 is a scale: 0 of pieces that are not there.
	shown := func(i int) bool { return p.Transforms[i*rig.Stride+9] != 0 }
	for i := range n {
		j := i + 1
		if j == n {
			if !m.rig.ComesRound || !m.rig.Curve.Closed() || n < 3 {
				continue
			}
			j = 0
		}
		// On an open path the last piece is not next to the first, even where it comes round.
		if shown(i) && shown(j) && (m.rig.Curve.Closed() || p.Distances[j] >= p.Distances[i]) {
			fn(i, j)
		}
	}
}

var spacingKind = Kind{
	Words: []Words{{ID: "spacing", Signed: true}},
	gauges: func(m *measure) []gauge {
		if !m.rig.Row {
			return nil
		}
		if m.rig.Pinned {
			return []gauge{newPins(m)}
		}
		return []gauge{newSpacing(m)}
	},
}

var seamKind = Kind{
	Words: []Words{{ID: "seam", Signed: true}},
	gauges: func(m *measure) []gauge {
		if !m.rig.Row || !m.rig.ComesRound {
			return nil
		}
		return []gauge{newSeam(m)}
	},
}
