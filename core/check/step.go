package check

import (
	"math"
	"slices"

	"bead/core/motion"
	"bead/core/scene"
)

const (
	stepTol  = 0.001 // metres that two may be out of step
	maxShift = 240   // frames that are tried to bring them into step
)

// step compares the way of a rig with that of the one it is to be in step with.
type step struct {
	*measure
	worst
	other          int
	mine0, theirs0 float64 // where the two stand in the first frame
}

func newStep(m *measure) *step {
	g := &step{measure: m}
	g.other = slices.IndexFunc(m.scene.Doc.Rigs, func(r scene.Rig) bool { return r.ID == m.doc().InStep })
	first := float64(m.scene.Doc.Range.First)
	// They may begin a pitch apart: in step is what they do from there on.
	g.mine0, g.theirs0 = m.rig.Distance(0, first), m.scene.Rigs[g.other].Distance(0, first)
	return g
}

func (g *step) look(f *moment) {
	at := float64(f.frame)
	g.take((g.rig.Distance(0, at)-g.mine0)-(g.scene.Rigs[g.other].Distance(0, at)-g.theirs0), f.frame, 0)
}

func (g *step) merge(later gauge) { g.worst.merge(later.(*step).worst) }

func (g *step) result() Result {
	r := Result{ID: "step", Rig: g.id, Unit: "m", Value: g.value, Tolerance: stepTol, Word: "in step"}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = g.measure.where(0, g.frame)
	name := g.scene.Doc.Rigs[g.other].Name
	r.Says = []Saying{say("step.in-step", length(math.Abs(r.Value)), name, g.every())}
	if r.State != Outside {
		return r
	}
	r.Word = map[bool]string{true: "ahead", false: "behind"}[r.Value > 0]
	r.Says = []Saying{say("step."+r.Word, length(math.Abs(r.Value)), name, g.frame)}
	r.Remedies = g.stepRemedies(g.other, g.scene.Rigs[g.other].Way())
	return r
}

// stepRemedies offers what brings a keyed rig into step: the shapes of the other's
// keys, or its own keys shifted by the whole frames at which the two differ least.
func (m *measure) stepRemedies(other int, theirs []float64) []Remedy {
	d := m.scene.Doc
	a, b := &d.Rigs[m.index].Travel, &d.Rigs[other].Travel
	name := d.Rigs[other].Name
	var out []Remedy
	// One that is led or driven has no keys of its own to take over.
	if m.doc().Traits().Lead == nil && d.Rigs[other].Traits().Lead == nil && !b.Driven() {
		start, theirStart := m.rig.Travel(float64(d.Range.First)), m.scene.Rigs[other].Travel(float64(d.Range.First))
		same := *b
		same.Keys = slices.Clone(b.Keys)
		// From where it stands: it moves as the other does, not to where the other is.
		for i := range same.Keys {
			same.Keys[i].Value += start - theirStart
		}
		if b.Speed != nil {
			same.Speed = &motion.Speed{PerSecond: b.Speed.PerSecond, Start: b.Speed.Start + start - theirStart}
		}
		if b.Moves() {
			out = append(out, offer(say("offer.move-as", name), []Edit{{m.pointer("travel"), same}}))
		}
		// The same number of keys is most likely the same motion with other curves.
		if len(a.Keys) == len(b.Keys) && len(a.Keys) > 1 {
			var edits []Edit
			for i := range a.Keys {
				if shape := b.Keys[i].Shape; shape != a.Keys[i].Shape && shape != motion.Free {
					// A key without a shape is straight; left out it would keep the one that it had.
					if shape == "" {
						shape = motion.Straight
					}
					edits = append(edits, Edit{m.pointer("travel/keys/%d/shape", i), shape})
				}
			}
			if len(edits) > 0 {
				out = append(out, offer(say("offer.key-shapes", name), edits))
			}
		}
	}
	if shift, left := m.bestShift(theirs); shift != 0 && len(a.Keys) > 0 {
		var edits []Edit
		for i, k := range a.Keys {
			edits = append(edits, Edit{m.pointer("travel/keys/%d/frame", i), k.Frame + float64(shift)})
		}
		label := say("offer.shift-keys", shift)
		if left > stepTol {
			label = say("offer.shift-keys-left", shift, length(left))
		}
		out = append(out, offer(label, edits))
	}
	return out
}

// bestShift is the delay in frames at which the rig differs least from the other over the range, and the
// difference left then; 0 where no shift halves the difference.
func (m *measure) bestShift(theirs []float64) (shift int, left float64) {
	n := len(theirs)
	first := m.scene.Doc.Range.First
	differ := func(shift int) float64 {
		worst, start := 0.0, m.rig.Distance(0, float64(first-shift))
		for k := range theirs {
			worst = max(worst, math.Abs(m.rig.Distance(0, float64(first+k-shift))-start-theirs[k]))
		}
		return worst
	}
	now := differ(0)
	left = now
	// A little shift either way before a greater one: of equals the least is offered.
	for s := 1; s <= min(n/2, maxShift); s++ {
		if m.ctx.Err() != nil {
			return 0, now
		}
		for _, by := range [2]int{s, -s} {
			if d := differ(by); d < left-1e-12 {
				shift, left = by, d
			}
		}
	}
	// Less than half of it gone is no better in anyone's eyes.
	if left > now/2 {
		return 0, now
	}
	return shift, left
}

var stepKind = Kind{
	Words: []Words{{ID: "step", Signed: true}},
	gauges: func(m *measure) []gauge {
		if m.doc().InStep == "" {
			return nil
		}
		return []gauge{newStep(m)}
	},
}
