package check

import (
	"fmt"
	"math"
	"strings"

	"bead/core/geom"
	"bead/core/motion"
	"bead/core/rig"
	"bead/core/scene"
)

const (
	joltTol    = 0.0001    // metres a frame: a jump of speed that is seen
	joltStep   = 1.0 / 256 // of a frame
	joltPlaces = 12        // of a deformed path, at which its speed is looked at
	carryTol   = 1e-6      // metres or radians within which a carrier is back
	inDegrees  = 180 / math.Pi
)

// placed is a piece's transform without its scale.
func placed(x []float32) geom.Rigid {
	q := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
	return geom.Rigid{
		P: geom.V(float64(x[0]), float64(x[1]), float64(x[2])),
		X: q.Apply(geom.V(1, 0, 0)), Y: q.Apply(geom.V(0, 1, 0)), Z: q.Apply(geom.V(0, 0, 1)),
	}
}

// rates are the speeds of a train at a frame, in metres a frame: of its pieces along
// the path, of its roll (as the way at a radius of a metre), and of some places of a
// path that is deformed. They are taken from one side of the frame, by three points.
func (m *measure) rates(frame, side float64) []float64 {
	h := side * joltStep
	var at [3][]float64
	for k := range at {
		f := frame + float64(k)*h
		at[k] = append(at[k], m.train.Roll(f)/inDegrees)
		if b := m.train.Rig().Bend; b == nil || b.Rounds == nil { // copies come and go
			at[k] = append(at[k], m.train.Distance(0, f))
		}
		if !m.scene.Deforms(m.train.Path) {
			continue
		}
		c := m.scene.EvenCurve(m.train.Path, f)
		if c == nil {
			c = m.train.At(f).Curve
		}
		for n := range joltPlaces {
			p, _ := c.At(c.Length() * float64(n) / joltPlaces)
			at[k] = append(at[k], p.X, p.Y, p.Z)
		}
	}
	out := at[0]
	for i := range out {
		out[i] = (4*at[1][i] - 3*at[0][i] - at[2][i]) / (2 * h)
	}
	return out
}

// carried says how far the path's carrier has gone from one end of the loop to the
// other, where it has.
func (m *measure) carried(from, to geom.Rigid) string {
	way, turn := to.P.Sub(from.P).Norm(), max(geom.Angle(from.Z, to.Z), geom.Angle(from.Y, to.Y))
	if way < carryTol && turn < carryTol {
		return ""
	}
	return fmt.Sprintf(" Seen from its carrier, which is %.3f m and %.1f° on by then.", way, turn*inDegrees)
}

// loop compares the frame after the range with the range's first, up to pieces
// that changed places.
func (m *measure) loop() Result {
	t, rg := m.train, m.scene.Doc.Range
	r := Result{ID: "loop", Rig: m.id, Unit: "m", Tolerance: loopTol}
	var last rig.Picture
	m.scene.Frame(&m.pic, rg.First)
	m.scene.Frame(&last, rg.Last+1)
	a, b := &m.pic.Rigs[m.index], &last.Rigs[m.index]
	first, end := float64(rg.First), float64(rg.Last+1)
	// Seen from the path's own space: what its carrier does is said beside it.
	from, to := m.scene.PathPlace(t.Path, first), m.scene.PathPlace(t.Path, end)
	jolt := 0.0
	after := m.rates(first, 1)
	for i, before := range m.rates(end, -1) {
		jolt = max(jolt, math.Abs(after[i]-before))
	}
	n := len(a.Distances)
	moved := t.Distance(0, float64(rg.Last+1)) - t.Distance(0, float64(rg.First))
	shift := 0
	if t.ComesRound {
		// Whole turns first: on a loop left open they are no whole number of pitches.
		rest := math.Remainder(moved, t.Turn())
		shift = int(math.Mod(math.Round(rest/t.Layout.Pitch), float64(n)))
	}
	worst, angle, piece := 0.0, 0.0, 0
	if t.Bends() {
		worst, piece = m.bodyJump(a, b, from.Mul(to.Inverse()), shift)
	}
	for i := range n {
		if t.Rig().Kind == scene.KindBend { // its vertices were looked at
			break
		}
		j := ((i+shift)%n + n) % n
		p, q := b.Transforms[i*rig.Stride:], a.Transforms[j*rig.Stride:]
		if t.PartOf(i) != t.PartOf(j) { // a piece of another part stands there
			worst, piece = max(worst, t.Layout.Pitch), i
			continue
		}
		if p[7] == 0 && q[7] == 0 { // neither is there to be seen
			continue
		}
		if p[7] != q[7] { // one of the two is not
			worst, piece = max(worst, t.Layout.Pitch), i
			continue
		}
		back := from.Mul(to.Inverse())
		now := back.Mul(placed(p))
		then := placed(q)
		gap := now.P.Sub(then.P).Norm()
		angle = max(angle, geom.Angle(now.Z, then.Z), geom.Angle(now.Y, then.Y))
		if gap > worst {
			worst, piece = gap, i
		}
	}
	r.Value = worst
	r.State = grade(worst, loopTol)
	if angle > loopAngle || jolt > joltTol {
		r.State = Outside
	}
	r.Where = m.where(piece, rg.First)
	if r.State != Outside {
		r.Word = "meets"
		links := ""
		if k := math.Round(moved / t.Layout.Pitch); k != 0 && t.ComesRound {
			links = fmt.Sprintf(" after %.0f pitches of travel", math.Abs(k))
			if t.Rig().Kind != scene.KindTrain || t.Layout.Scattered() {
				links = " after going round"
			}
		}
		r.Text = fmt.Sprintf("Frame %d shows frame %d again%s, within %.4f mm.%s", rg.Last+1, rg.First, links, worst*1000, m.carried(from, to))
		return r
	}
	r.Word = "jumps"
	r.Text = fmt.Sprintf("From frame %d to frame %d pieces jump by %.1f mm", rg.Last, rg.First, worst*1000)
	if angle > loopAngle {
		r.Text += fmt.Sprintf(" and %.1f°", angle*180/math.Pi)
	}
	r.Text += "."
	if worst <= loopTol && angle <= loopAngle {
		r.Word = "jolts"
		r.Text = fmt.Sprintf("Frame %d shows frame %d again, but the speed jumps by %.2f mm a frame.", rg.Last+1, rg.First, jolt*1000)
		if mend := m.runEvenly(moved); mend != nil && math.Abs(moved) > loopTol {
			r.Remedies = []Remedy{*mend}
		}
		return r
	}
	r.Text += m.carried(from, to)
	r.Remedies = m.loopRemedies(moved)
	return r
}

// whole is the nearest travel to moved at which pieces stand where pieces stood, and
// what it is called; ok is false where the rig's travel is not its own to set.
func (m *measure) whole(moved float64) (travel float64, label string, ok bool) {
	t, r := m.train, m.train.Rig()
	if !t.ComesRound || r.Spacing.Offset.Moves() || !r.Travel.Moves() || r.Travel.Driven() || r.Lead != nil {
		return 0, "", false
	}
	// On a loop left open only a whole turn brings the gap back to its place.
	period, what := t.Layout.Pitch, "pitches"
	if n := t.Pattern(); n > 1 {
		period, what = period*float64(n), fmt.Sprintf("rounds of %d pieces", n)
	}
	if math.Abs(t.Layout.Seam) > lengthTol {
		period, what = t.Turn(), "turns"
	}
	n := math.Round(moved / period)
	if n == 0 {
		n = math.Copysign(1, moved)
	}
	if math.Abs(n) == 1 {
		what = strings.NewReplacer("pitches", "pitch", "turns", "turn", "rounds", "round").Replace(what)
	}
	return n * period, fmt.Sprintf("%.0f %s in %d frames", math.Abs(n), what, m.scene.Doc.Range.Count()), true
}

// runEvenly offers a constant speed at which the loop meets.
func (m *measure) runEvenly(moved float64) *Remedy {
	travel, label, ok := m.whole(moved)
	if !ok {
		return nil
	}
	rg := m.scene.Doc.Range
	speed := motion.Running{Speed: travel * m.scene.Clock.FPS / float64(rg.Count()), Start: m.train.Travel(float64(rg.First))}
	return &Remedy{"Run evenly " + label, []Edit{{m.pointer("travel"), speed}}}
}

// loopRemedies offers the nearest travel over the range at which pieces stand
// where pieces stood: a speed, or the keys' values stretched from the first key on
// (every kind of end stretches alike, for values are linear in their keys').
func (m *measure) loopRemedies(moved float64) []Remedy {
	travel, label, ok := m.whole(moved)
	if !ok {
		return nil
	}
	mend := Remedy{Label: "Run " + label}
	v := &m.train.Rig().Travel
	if v.Speed != nil {
		mend.Edits = []Edit{{m.pointer("travel/speed"), travel * m.scene.Clock.FPS / float64(m.scene.Doc.Range.Count())}}
		return []Remedy{mend}
	}
	if math.Abs(moved) < 1e-3*m.train.Layout.Pitch {
		return nil // keys that come back to where they were: stretching moves nothing
	}
	first := v.Keys[0].Value
	for i, k := range v.Keys {
		for _, h := range []struct {
			name string
			v    *[2]float64
		}{{"in", k.In}, {"out", k.Out}} {
			if h.v != nil {
				mend.Edits = append(mend.Edits, Edit{m.pointer("travel/keys/%d/%s/1", i, h.name), h.v[1] * travel / moved})
			}
		}
	}
	for i, k := range v.Keys[1:] {
		mend.Edits = append(mend.Edits, Edit{m.pointer("travel/keys/%d/value", i+1), first + (k.Value-first)*travel/moved})
	}
	return []Remedy{mend}
}
