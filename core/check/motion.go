package check

import (
	"fmt"
	"math"
	"slices"

	"bead/core/geom"
	"bead/core/motion"
	"bead/core/rig"
	"bead/core/scene"
)

const (
	slipTol    = 0.001 // of the way a carrier rolls: a tenth of a percent
	slipFrames = 48    // at which it is measured
	slipStep   = 1.0 / 32
	stepTol    = 0.001 // metres that two may be out of step
	maxShift   = 240   // frames that are tried to bring them into step
)

// slip compares what lies on the ground with the ground: the speed of those pieces in
// the world along their carrier's forward, over the greatest speed rolled, at its worst
// over the range. Of a belt that rides on the ground these are all along its contact, at
// the face that lies there; of others the lowest piece. Pieces ahead of and behind the
// middle slide sideways where a machine turns; that is no slip.
func (m *measure) slip() Result {
	t, rg := m.train, m.scene.Doc.Range
	r := Result{ID: "slip", Rig: m.id, Unit: "%", Tolerance: slipTol * 100, Of: t.Layout.Count, Word: "grips"}
	carrier := slices.IndexFunc(m.scene.Doc.Carriers, func(c scene.Carrier) bool { return c.ID == t.Rig().Travel.Rolls.Rolls })
	wrap := m.scene.Doc.Paths[t.Path].Shape.Wrap
	grounded := wrap != nil && wrap.OnGround()
	depth := 0.0
	if grounded {
		depth = wrap.Depth
	}
	var a, b rig.Picture
	top := 0.0 // greatest speed of the ground over the range, so that standing still is no slip
	worst, piece, frame, pieces := 0.0, 0, rg.First, 0
	for k := range min(slipFrames, rg.Count()) {
		f := float64(rg.First) + float64(k)*float64(rg.Count()-1)/float64(max(min(slipFrames, rg.Count())-1, 1))
		m.scene.At(&a, f-slipStep/2)
		m.scene.At(&b, f+slipStep/2)
		body := m.scene.CarrierPlace(carrier, f)
		lying := []int{lowest(&a.Rigs[m.index])}
		if grounded {
			lying = m.lying(&a.Rigs[m.index], depth)
		}
		pieces = max(pieces, len(lying))
		for _, i := range lying {
			was, is := face(a.Rigs[m.index].Transforms[i*rig.Stride:], depth), face(b.Rigs[m.index].Transforms[i*rig.Stride:], depth)
			if slide := is.Sub(was).Dot(body.Z) / slipStep; math.Abs(slide) > math.Abs(worst) {
				worst, piece, frame = slide, i, int(math.Round(f))
			}
		}
		// Over a whole frame: from straight to straight of the ground the travel steps a little.
		top = max(top, math.Abs(t.Travel(f+0.5)-t.Travel(f-0.5)))
	}
	if top > 1e-9 {
		r.Value = 100 * worst / top
	}
	// Below what single precision shows of a place there is nothing to be seen.
	if x := m.scene.CarrierPlace(carrier, float64(frame)).P; math.Abs(worst)*slipStep < 4e-7*max(x.Norm(), 1) {
		r.Value = 0
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = m.where(piece, frame)
	what := "The piece on the ground stands"
	if pieces > 1 {
		what = fmt.Sprintf("Up to %d pieces on the ground stand", pieces)
	}
	r.Text = fmt.Sprintf("%s still within %.4f %% of the way rolled.", what, math.Abs(r.Value))
	if r.State == Outside {
		r.Word = "slips"
		r.Text = fmt.Sprintf("A piece on the ground slides by %.2f %% of the greatest speed rolled.", math.Abs(r.Value))
		if v := t.Rig().Travel.Rolls; v.Side != "" || v.Flip {
			r.Remedies = []Remedy{{"Roll where the path lies", []Edit{{m.pointer("travel"), motion.Rolling{Rolls: v.Rolls, Start: v.Start}}}}}
		}
	}
	return r
}

// onGround is how near to the ground the face of a piece is that lies on it, metres.
const onGround = 2e-4

// lying are the pieces that lie on the ground with a neighbour on either side that does
// so, too.
func (m *measure) lying(p *rig.Pieces, depth float64) []int {
	n := len(p.Distances)
	down := make([]bool, n)
	for i := range n {
		at := face(p.Transforms[i*rig.Stride:], depth)
		h, slope := m.scene.Ground().Height(at.Z)
		down[i] = math.Abs(at.Y-h)/math.Hypot(1, slope) < onGround
	}
	var out []int
	for i := range n {
		if down[i] && down[(i+1)%n] && down[(i+n-1)%n] {
			out = append(out, i)
		}
	}
	return out
}

// face is the place of a piece's outer face.
func face(x []float32, depth float64) geom.Vec {
	at := placed(x)
	return at.P.Mad(at.Y, depth)
}

// step compares the way of a rig with that of the one it is to be in step with.
func (m *measure) step() Result {
	d := m.scene.Doc
	other := slices.IndexFunc(d.Rigs, func(r scene.Rig) bool { return r.ID == m.train.Rig().InStep })
	mine, theirs := m.train.Way(), m.scene.Trains[other].Way()
	r := Result{ID: "step", Rig: m.id, Unit: "m", Tolerance: stepTol, Word: "in step"}
	at := 0
	for k := range mine {
		if v := mine[k] - theirs[k]; math.Abs(v) > math.Abs(r.Value)+1e-12 {
			r.Value, at = v, k
		}
	}
	r.State = grade(r.Value, r.Tolerance)
	frame := d.Range.First + at
	r.Where = m.where(0, frame)
	name := d.Rigs[other].Name
	r.Text = fmt.Sprintf("At most %.3f mm from %s, at frame %d.", math.Abs(r.Value)*1000, name, frame)
	if r.State != Outside {
		return r
	}
	r.Word = map[bool]string{true: "ahead", false: "behind"}[r.Value > 0]
	r.Text = fmt.Sprintf("%.1f mm %s %s at frame %d.", math.Abs(r.Value)*1000, map[bool]string{true: "ahead of", false: "behind"}[r.Value > 0], name, frame)
	r.Remedies = m.stepRemedies(other, theirs)
	return r
}

// stepRemedies offers what brings a keyed rig into step: the shapes of the other's
// keys, or its own keys shifted by the whole frames at which the two differ least.
func (m *measure) stepRemedies(other int, theirs []float64) []Remedy {
	d := m.scene.Doc
	a, b := &d.Rigs[m.index].Travel, &d.Rigs[other].Travel
	name := d.Rigs[other].Name
	var out []Remedy
	if m.train.Rig().Lead == nil && d.Rigs[other].Lead == nil && !b.Driven() {
		start, theirStart := m.train.Travel(float64(d.Range.First)), m.scene.Trains[other].Travel(float64(d.Range.First))
		same := *b
		same.Keys = slices.Clone(b.Keys)
		for i := range same.Keys {
			same.Keys[i].Value += start - theirStart
		}
		if b.Speed != nil {
			same.Speed = &motion.Speed{PerSecond: b.Speed.PerSecond, Start: b.Speed.Start + start - theirStart}
		}
		if b.Moves() {
			out = append(out, Remedy{"Move as " + name + " does", []Edit{{m.pointer("travel"), same}}})
		}
		if len(a.Keys) == len(b.Keys) && len(a.Keys) > 1 {
			var edits []Edit
			for i := range a.Keys {
				if shape := b.Keys[i].Shape; shape != a.Keys[i].Shape && shape != motion.Free {
					if shape == "" {
						shape = motion.Straight
					}
					edits = append(edits, Edit{m.pointer("travel/keys/%d/shape", i), shape})
				}
			}
			if len(edits) > 0 {
				out = append(out, Remedy{"Take the key shapes of " + name, edits})
			}
		}
	}
	if shift, left := m.bestShift(theirs); shift != 0 && len(a.Keys) > 0 {
		var edits []Edit
		for i, k := range a.Keys {
			edits = append(edits, Edit{m.pointer("travel/keys/%d/frame", i), k.Frame + float64(shift)})
		}
		label := fmt.Sprintf("Shift the keys by %+d frames", shift)
		if left > stepTol {
			label += fmt.Sprintf(": %.1f mm left", left*1000)
		}
		out = append(out, Remedy{label, edits})
	}
	return out
}

// bestShift is the number of frames by which the rig has to come later to differ least
// from the other over the range, and what is left then; 0 where no shift halves the
// difference.
func (m *measure) bestShift(theirs []float64) (shift int, left float64) {
	n := len(theirs)
	first := m.scene.Doc.Range.First
	differ := func(shift int) float64 {
		worst, start := 0.0, m.train.Distance(0, float64(first-shift))
		for k := range theirs {
			worst = max(worst, math.Abs(m.train.Distance(0, float64(first+k-shift))-start-theirs[k]))
		}
		return worst
	}
	now := differ(0)
	left = now
	for s := 1; s <= min(n/2, maxShift); s++ {
		for _, by := range [2]int{s, -s} {
			if d := differ(by); d < left-1e-12 {
				shift, left = by, d
			}
		}
	}
	if left > now/2 {
		return 0, now
	}
	return shift, left
}

// lowest is the piece that stands lowest.
func lowest(p *rig.Pieces) int {
	best := 0
	for i := range p.Distances {
		if p.Transforms[i*rig.Stride+1] < p.Transforms[best*rig.Stride+1]-1e-6 {
			best = i
		}
	}
	return best
}
