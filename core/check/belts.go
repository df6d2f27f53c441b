package check

import (
	"fmt"
	"math"
	"slices"

	"bead/core/place"
	"bead/core/scene"
)

const (
	tensionTol = 0.0005 // metres that a belt may lack or have too much
	phaseShare = 0.01   // of a pitch that a pin may stand off its gap
)

// tension measures what a belt of kept length lacks, or has too much of where nothing
// takes it up, at its worst. A frame without a valid belt takes precedence.
type tension struct {
	*measure
	worst
	least, most float64
	trouble     string // of the first frame without a valid belt
	troubleAt   int
}

func newTension(m *measure) *tension {
	return &tension{measure: m, least: math.Inf(1), most: math.Inf(-1)}
}

func (g *tension) look(f *moment) {
	b := g.scene.Belt(g.rig.Path, float64(f.frame))
	if b.Trouble != "" {
		if g.trouble == "" {
			g.trouble, g.troubleAt = b.Trouble, f.frame
		}
		return
	}
	bad := b.Spare
	// What is too long hangs where a run may sag: then nothing is left over.
	if b.Hanging {
		bad = 0
	}
	g.take(bad, f.frame, 0)
	g.least, g.most = min(g.least, b.Spare), max(g.most, b.Spare)
}

func (g *tension) merge(later gauge) {
	o := later.(*tension)
	g.worst.merge(o.worst)
	g.least, g.most = min(g.least, o.least), max(g.most, o.most)
	if g.trouble == "" {
		g.trouble, g.troubleAt = o.trouble, o.troubleAt
	}
}

func (g *tension) result() Result {
	w := g.wrap()
	r := Result{ID: "tension", Rig: g.id, Unit: "m", Value: g.value, Tolerance: tensionTol, Of: g.rig.Layout.Count, Word: "held"}
	// Without a way there is no length to speak of.
	if g.trouble != "" {
		r.State, r.Word, r.Where = Outside, "no way", g.measure.where(0, g.troubleAt)
		r.Says = []Saying{say("tension.no-way", g.troubleAt, g.trouble)}
		return r
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = g.measure.where(0, g.frame)
	if w.Keep == nil {
		r.Says = []Saying{say("tension.as-it-comes", g.every())}
		return r
	}
	kept := say("tension.links", w.Keep.Links, length(w.Keep.Pitch))
	switch {
	case r.State != Outside && g.most <= tensionTol:
		r.Says = []Saying{say("tension.tight", kept, g.every())}
	case r.State != Outside:
		r.Says = []Saying{say("tension.sags", kept, length(g.least), length(g.most), g.every())}
	case r.Value < 0:
		r.Word = "too short"
		r.Says = []Saying{say("tension.too-short", kept, length(-r.Value), g.frame)}
		r.Remedies = g.lengthRemedies(w, r.Value, g.frame)
	default:
		r.Word = "too long"
		r.Says = []Saying{say("tension.too-long", kept, length(r.Value), g.frame)}
		r.Remedies = append(g.slackRemedies(w, g.frame), g.lengthRemedies(w, r.Value, g.frame)...)
	}
	return r
}

// slackRemedies lets the longest upper run hang.
func (m *measure) slackRemedies(w *scene.WrapShape, frame int) []Remedy {
	b := m.scene.Belt(m.rig.Path, float64(frame))
	best, long := -1, 0.0
	// Runs are numbered by the wheels that the belt touches, not by those of the shape.
	for k, i := range b.Touching {
		r := &b.Runs[k]
		for n := range w.Wheels {
			if m.scene.WheelIndex(m.rig.Path, n) == i && r.X1-r.X0 > long {
				best, long = n, r.X1-r.X0
			}
		}
	}
	// A run that may sag already hangs, and still was too long.
	if best < 0 || w.Wheels[best].Slack {
		return nil
	}
	return []Remedy{offer(say("offer.let-run-sag", w.Wheels[best].Name), []Edit{{m.shape("wheels/%d/slack", best), true}})}
}

// lengthRemedies offers the number of links that fits, and the move of a wheel.
func (m *measure) lengthRemedies(w *scene.WrapShape, spare float64, frame int) []Remedy {
	var out []Remedy
	// As many links as reach round; the rest of the length hangs.
	// 1e-9 of a pitch: exactly as many as are there are not one more.
	links := w.Keep.Links - int(math.Floor(spare/w.Keep.Pitch+1e-9))
	if links >= 2 && links != w.Keep.Links {
		edits := []Edit{{m.shape("keep/links"), links}}
		// The train counts links, too; the two have to agree.
		if sp := m.doc().Traits().Spacing; sp.Mode == place.SetCount && sp.Count == w.Keep.Links {
			edits = append(edits, Edit{m.pointer("train/spacing/count"), links})
		}
		out = append(out, offer(say("offer.use-links", links), edits))
	}
	for n := len(w.Wheels) - 1; n >= 0; n-- {
		// The last wheel first: people put the driver first, and what can be moved last.
		x := &w.Wheels[n]
		if x.Free || x.Ground || x.TakeUp != nil {
			continue
		}
		way, ok := m.scene.MoveToFit(m.rig.Path, n, float64(frame))
		// Closer than a thousandth of a millimetre it fits.
		if !ok || math.Abs(way) < 1e-6 {
			continue
		}
		axis := 2
		if w.Plane == "ahead" {
			axis = 0
		}
		sign := ""
		if way > 0 {
			sign = "+"
		}
		out = append(out, offer(say("offer.move-wheel", x.Name, sign, length(way)), []Edit{{m.shape("wheels/%d/at/%d", n, axis), x.At[axis] + way}}))
		break
	}
	return out
}

// cable measures whether a hanging cable still reaches between its ends where carriers hold
// them. Where it does not, it is drawn as in the first frame, which has to be said.
type cable struct {
	*measure
	long, least float64 // its length where that is, and what of it is left over the ends' distance
	at          int
}

func newCable(m *measure) *cable {
	long, _ := m.ownLength()
	return &cable{measure: m, long: long, least: math.Inf(1), at: m.scene.Doc.Range.First}
}

// ownLength is the length of a cable or an open belt as its shape has it, and where it stands there.
func (m *measure) ownLength() (long float64, at string) {
	s := &m.scene.Doc.Paths[m.rig.Path].Shape
	if s.Hang != nil {
		return s.Hang.Length, "hang/length"
	}
	return s.Wrap.Ends.Length, "wrap/ends/length"
}

func (g *cable) look(f *moment) {
	// The frame in which least is left is the one in which it reaches least.
	if apart, length, _ := g.scene.Held(g.rig.Path, float64(f.frame)); length-apart < g.least {
		g.long, g.least, g.at = length, length-apart, f.frame
	}
}

func (g *cable) merge(later gauge) {
	if o := later.(*cable); o.least < g.least {
		g.long, g.least, g.at = o.long, o.least, o.at
	}
}

func (g *cable) result() Result {
	r := Result{ID: "tension", Rig: g.id, Unit: "m", Tolerance: tensionTol, Word: "hangs"}
	r.Where = g.measure.where(0, g.at)
	if r.Value = min(g.least, 0); g.least > 0 {
		r.State = Inside
		if g.wrap() != nil {
			r.Says = []Saying{say("cable.free-end", far(g.least), g.every())}
			return r
		}
		r.Says = []Saying{say("cable.reaches", length(g.least), far(g.long), g.every())}
		return r
	}
	r.State, r.Word = Outside, "too short"
	r.Says = []Saying{say("cable.apart", g.at, length(-g.least))}
	if g.wrap() != nil {
		r.Says = []Saying{say("cable.off-last-wheel", g.at, length(-g.least))}
	}
	own, at := g.ownLength() // what a drum has paid out comes to it
	// A hundredth of its length more, so that it hangs and is not a line, and up to a millimetre.
	longer := math.Ceil((own-g.least+0.01*g.long)*1000) / 1000
	r.Remedies = []Remedy{offer(say("offer.make-long", far(longer)), []Edit{{fmt.Sprintf("/paths/%d/shape/%s", g.rig.Path, at), longer}})}
	return r
}

// teeth measures how far the pins on sprockets stand off the gaps between the teeth.
type teeth struct {
	*measure
	worst
	wheel int
}

func newTeeth(m *measure) *teeth { return &teeth{measure: m, wheel: -1} }

func (g *teeth) look(f *moment) {
	for _, e := range g.scene.Engaged(g.rig.Path, float64(f.frame), f.pic) {
		if g.take(e.Off, f.frame, 0) {
			g.along, g.wheel = e.Distance, e.Wheel
		}
	}
}

func (g *teeth) merge(later gauge) {
	o := later.(*teeth)
	was := g.worst
	// The wheel goes with the figure that was kept.
	if g.worst.merge(o.worst); g.worst != was {
		g.wheel = o.wheel
	}
}

func (g *teeth) result() Result {
	pitch := g.rig.Layout.Pitch
	r := Result{ID: "teeth", Rig: g.id, Unit: "m", Value: g.value, Tolerance: phaseShare * pitch, Of: g.rig.Layout.Count, Word: "mesh"}
	// Neither right nor wrong: nothing was seen, and that is said.
	if g.wheel < 0 {
		r.State, r.Where = Near, g.measure.where(0, g.scene.Doc.Range.First)
		r.Word, r.Says = "no pins", []Saying{say("teeth.no-pins", g.every())}
		return r
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = g.measure.whereAt(g.along, g.frame)
	r.Says = []Saying{say("teeth.mesh", length(math.Abs(r.Value)), g.every())}
	if r.State != Outside {
		return r
	}
	w := &g.wrap().Wheels[g.wheel]
	r.Word = "off the teeth"
	r.Says = []Saying{say("teeth.off", w.Name, length(math.Abs(r.Value)), g.frame)}
	// Teeth and pieces of different pitches can never mesh; that explains it better than the place does.
	if math.Abs(w.Pitch-pitch) > 1e-3*w.Pitch {
		r.Says = append(r.Says, say("teeth.pitches", length(w.Pitch), length(pitch)))
	}
	if !g.rig.Pinned {
		edits := []Edit{{g.pointer("train/seat"), scene.SeatEnds}}
		if k := g.wrap().Keep; k != nil && !k.Pins {
			edits = append(edits, Edit{g.shape("keep/pins"), true})
		}
		r.Remedies = append(r.Remedies, offer(say("offer.seat-on-pins"), edits))
	}
	if k := g.wrap().Keep; g.rig.Pinned && (k == nil || math.Abs(k.Pitch-w.Pitch) > 1e-9*w.Pitch) {
		// At least as many as there are: the run that sags takes what is over.
		links := int(math.Ceil(float64(g.rig.Layout.Count) * pitch / w.Pitch))
		r.Remedies = append(r.Remedies, offer(say("offer.keep-links", links, length(w.Pitch)), []Edit{
			{g.shape("keep"), scene.KeptLength{Links: links, Pitch: w.Pitch, Pins: true}},
			{g.pointer("train/spacing/mode"), place.SetCount}, {g.pointer("train/spacing/count"), links},
		}))
	}
	return r
}

var tensionKind = Kind{
	Words: []Words{{ID: "tension", Signed: true}},
	gauges: func(m *measure) []gauge {
		if w := m.wrap(); w != nil && w.Ends == nil && m.rig.Row && (w.Keep != nil || m.scene.Deforms(m.rig.Path)) {
			return []gauge{newTension(m)}
		}
		return nil
	},
}

var teethKind = Kind{
	Words: []Words{{ID: "teeth", Signed: true}},
	gauges: func(m *measure) []gauge {
		if w := m.wrap(); w != nil && w.Ends == nil && m.rig.Row && slices.ContainsFunc(w.Wheels, func(x scene.Wheel) bool { return x.Teeth > 0 && !x.Free }) {
			return []gauge{newTeeth(m)}
		}
		return nil
	},
}

var cableKind = Kind{
	gauges: func(m *measure) []gauge {
		if _, _, held := m.scene.Held(m.rig.Path, float64(m.scene.Doc.Range.First)); !held {
			return nil
		}
		return []gauge{newCable(m)}
	},
}
