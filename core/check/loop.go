package check

import (
	"math"

	"bead/core/geom"
	"bead/core/motion"
	"bead/core/rig"
)

const (
	loopTol    = 0.0001 // metres between a piece and its successor one loop later
	loopAngle  = 0.1 * math.Pi / 180
	joltTol    = 0.0001    // metres a frame: a jump of speed that is seen
	joltStep   = 1.0 / 256 // of a frame
	joltPlaces = 12        // of a deformed path, at which its speed is looked at
	carryTol   = 1e-6      // metres or radians within which a carrier is back
)

// rates are the speeds of a train at a frame, in metres a frame: of its pieces along
// the path, of its roll (as the way at a radius of a metre), and of some places of a
// path that is deformed. They are taken from one side of the frame, by three points.
func (m *measure) rates(frame, side float64) []float64 {
	h := side * joltStep
	var at [3][]float64
	for k := range at {
		// Roll as the way at a metre from the path, so that it compares with ways.
		f := frame + float64(k)*h
		at[k] = append(at[k], m.rig.Roll(f)/inDegrees)
		// Copies that come and go have no one distance.
		if !m.rig.Renews {
			at[k] = append(at[k], m.rig.Distance(0, f))
		}
		if !m.scene.Deforms(m.rig.Path) {
			continue
		}
		// The belt without its links: they make its length pulse, which is no jolt.
		c := m.scene.EvenCurve(m.rig.Path, f)
		if c == nil {
			c = m.rig.At(f).Curve
		}
		for n := range joltPlaces {
			p, _ := c.At(c.Length() * float64(n) / joltPlaces)
			at[k] = append(at[k], p.X, p.Y, p.Z)
		}
	}
	out := at[0]
	for i := range out {
		// The slope at an end by three points, of the second order: speeds that grow evenly come out as they are.
		out[i] = (4*at[1][i] - 3*at[0][i] - at[2][i]) / (2 * h)
	}
	return out
}

// carried says how far the path's carrier has gone from one end of the loop to the
// other, where it has.
func (m *measure) carried(from, to geom.Rigid) Saying {
	way, turn := to.P.Sub(from.P).Norm(), max(geom.Angle(from.Z, to.Z), geom.Angle(from.Y, to.Y))
	// What the carrier does is no fault of the rig: it is said, not judged.
	if way < carryTol && turn < carryTol {
		return Saying{}
	}
	return say("loop.carried", far(way), turn*inDegrees)
}

// loop compares the frame after the range with the range's first, and tells what it found.
func (m *measure) loop() Result {
	r := m.compareEnds()
	r.tell(m.units)
	return r
}

// compareEnds is the result of the loop, up to pieces that changed places. Of places, turns and speeds the first
// that does not meet decides.
func (m *measure) compareEnds() Result {
	t, rg := m.rig, m.scene.Doc.Range
	r := Result{ID: "loop", Rig: m.id, Unit: "m", Tolerance: loopTol, Word: "meets"}
	first, end := float64(rg.First), float64(rg.Last+1)
	// Seen from the path's own space: what its carrier does is said beside it.
	from, to := m.scene.PathPlace(t.Path, first), m.scene.PathPlace(t.Path, end)
	l := m.meet()
	r.State, r.Value = grade(l.way, loopTol), l.way
	switch {
	case l.way > loopTol:
		r.Word = "jumps"
		r.Says = []Saying{say("loop.jumps", rg.Last, rg.First, length(l.way))}
		if l.angle > loopAngle {
			r.Says = append(r.Says, say("loop.and-turns", l.angle*inDegrees))
		}
		r.Says = append(r.Says, say("loop.end", m.carried(from, to)))
	case l.angle > loopAngle:
		r.Word, r.State = "turns", Outside
		r.Unit, r.Value, r.Tolerance = "°", l.angle*inDegrees, loopAngle*inDegrees
		r.Says = []Saying{say("loop.turns", rg.Last, rg.First, l.angle*inDegrees, m.carried(from, to))}
	case l.jolt > joltTol:
		r.Word, r.State = "jolts", Outside
		r.Unit, r.Value, r.Tolerance = "m/frame", l.jolt, joltTol
		r.Says = []Saying{say("loop.jolts", rg.Last+1, rg.First, length(l.jolt))}
	}
	// The first frame is where a person looks when the loop is played.
	r.Where = m.where(min(l.piece, t.Layout.Count-1), rg.First) // a surface of its own making is told by its piece
	switch {
	case r.State != Outside:
		links := Saying{}
		if k := math.Round(l.moved / t.Layout.Pitch); k != 0 && t.ComesRound {
			links = say("loop.after-pitches", math.Abs(k))
			if math.Abs(k) == 1 {
				links = say("loop.after-pitch")
			}
			if !t.Row || t.Layout.Scattered() {
				links = say("loop.after-round")
			}
		}
		r.Says = []Saying{say("loop.meets", rg.Last+1, rg.First, links, length(l.way), m.carried(from, to))}
	case r.Word == "jolts":
		if mend := m.runEvenly(l.moved); mend != nil && math.Abs(l.moved) > loopTol {
			r.Remedies = []Remedy{*mend}
		}
	default:
		r.Remedies = m.loopRemedies(l.moved)
	}
	if d := m.doc().Drape; d != nil && r.State == Outside {
		// A quarter of the loop is enough for most cloth to come back unseen.
		ease := min(max(rg.Count()/4, 1), rg.Count()-1)
		r.Remedies = []Remedy{offer(say("offer.ease-last", ease), []Edit{{m.pointer("drape/ease"), ease}, {m.pointer("drape/rounds"), max(d.Rounds, 1)}})}
	}
	return r
}

// meeting is how far the end of the range and its beginning are apart.
type meeting struct {
	moved      float64 // travel over the range
	way, angle float64 // of the piece farthest off, metres and radians
	piece      int
	jolt       float64 // jump of speed, metres a frame
}

// meet compares the frame after the range with its first.
func (m *measure) meet() meeting {
	t, rg := m.rig, m.scene.Doc.Range
	var a, b rig.Pieces
	first, end := float64(rg.First), float64(rg.Last+1)
	m.scene.RigAt(&a, m.index, first)
	m.scene.RigAt(&b, m.index, end)
	// The end is seen in the space of the beginning: what carries the path may have gone on.
	back := m.scene.PathPlace(t.Path, first).Mul(m.scene.PathPlace(t.Path, end).Inverse())
	l := meeting{moved: t.Distance(0, end) - t.Distance(0, first)}
	after := m.rates(first, 1)
	for i, before := range m.rates(end, -1) {
		l.jolt = max(l.jolt, math.Abs(after[i]-before))
	}
	n := len(a.Distances)
	shift := 0
	if t.ComesRound {
		// Whole turns first: on a loop left open they are no whole number of pitches.
		rest := math.Remainder(l.moved, t.Turn())
		shift = int(math.Mod(math.Round(rest/t.Layout.Pitch), float64(n)))
	}
	// Surfaces by their vertices: a body may be in its place and swim another stroke.
	if len(a.Positions) > 0 {
		l.way, l.piece = m.bodyJump(&a, &b, back, shift)
	}
	for i := range n {
		if t.Spine { // its vertices were looked at
			break
		}
		j := ((i+shift)%n + n) % n
		p, q := b.Transforms[i*rig.Stride:], a.Transforms[j*rig.Stride:]
		if p[7] == 0 && q[7] == 0 { // neither is there to be seen
			continue
		}
		if t.PartOf(i) != t.PartOf(j) || p[7] != q[7] { // another stands there, or one of the two does not
			// A whole pitch, for a piece of another part pops up in its place.
			if t.Layout.Pitch > l.way {
				l.way, l.piece = t.Layout.Pitch, i
			}
			continue
		}
		now, then := back.Mul(placed(p)), placed(q)
		l.angle = max(l.angle, geom.Angle(now.Z, then.Z), geom.Angle(now.Y, then.Y))
		if gap := now.P.Sub(then.P).Norm(); gap > l.way {
			l.way, l.piece = gap, i
		}
	}
	return l
}

// whole is the nearest travel to moved at which pieces stand where pieces stood, and
// what it is called; ok is false where the rig's travel is not its own to set.
func (m *measure) whole(moved float64) (travel float64, label Saying, ok bool) {
	t, r := m.rig, m.rig.Doc()
	// Keys and speeds are the rig's own; what follows something else has to be mended there.
	if !t.ComesRound || r.Offset.Moves() || !r.Travel.Moves() || r.Travel.Driven() || r.Traits().Lead != nil {
		return 0, Saying{}, false
	}
	// On a loop left open only a whole turn brings the gap back to its place.
	period, what := t.Layout.Pitch, "run.pitch"
	if n := t.Pattern(); n > 1 {
		period, what = period*float64(n), "run.round"
	}
	if math.Abs(t.Layout.Seam) > lengthTol {
		period, what = t.Turn(), "run.turn"
	}
	n := math.Round(moved / period)
	// No travel at all is no loop that anyone asked for.
	if n == 0 {
		n = math.Copysign(1, moved)
	}
	if math.Abs(n) != 1 {
		what += ".many"
	}
	return n * period, say(what, math.Abs(n), m.scene.Doc.Range.Count(), t.Pattern()), true
}

// runEvenly offers a constant speed at which the loop meets.
func (m *measure) runEvenly(moved float64) *Remedy {
	travel, label, ok := m.whole(moved)
	if !ok {
		return nil
	}
	rg := m.scene.Doc.Range
	speed := motion.Running{Speed: travel * m.scene.Clock.FPS / float64(rg.Count()), Start: m.rig.Travel(float64(rg.First))}
	// It starts where it stood, so that nothing else moves.
	mend := offer(say("offer.run-evenly", label), []Edit{{m.pointer("travel"), speed}})
	return &mend
}

// loopRemedies offers the nearest travel over the range at which pieces stand
// where pieces stood: a speed, or the keys' values stretched from the first key on
// (every kind of end stretches alike, for values are linear in their keys').
func (m *measure) loopRemedies(moved float64) []Remedy {
	travel, label, ok := m.whole(moved)
	if !ok {
		return nil
	}
	mend := offer(say("offer.run", label), nil)
	v := &m.rig.Doc().Travel
	if v.Speed != nil {
		mend.Edits = []Edit{{m.pointer("travel/speed"), travel * m.scene.Clock.FPS / float64(m.scene.Doc.Range.Count())}}
		return []Remedy{mend}
	}
	// Stretching by the travel over nothing would throw the keys out of all bounds.
	if math.Abs(moved) < 1e-3*m.rig.Layout.Pitch {
		return nil // keys that come back to where they were: stretching moves nothing
	}
	first := v.Keys[0].Value
	for i, k := range v.Keys {
		for _, h := range []struct {
			name string
			v    *[2]float64
		}{{"in", k.In}, {"out", k.Out}} {
			if h.v != nil {
				// Handles go with the values, their frames stay.
				mend.Edits = append(mend.Edits, Edit{m.pointer("travel/keys/%d/%s/1", i, h.name), h.v[1] * travel / moved})
			}
		}
	}
	for i, k := range v.Keys[1:] {
		mend.Edits = append(mend.Edits, Edit{m.pointer("travel/keys/%d/value", i+1), first + (k.Value-first)*travel/moved})
	}
	return []Remedy{mend}
}

// bodyJump is the greatest distance of a vertex at the loop's end from where it, or a copy that
// takes its place, is at the start, seen from the path's space.
func (m *measure) bodyJump(a, b *rig.Pieces, back geom.Rigid, shift int) (worst float64, piece int) {
	t := m.rig
	n := len(b.Reach)
	if k := t.Doc().Body; k != nil && k.Rounds != nil && k.Rounds.All {
		// Rounds that are all there at once move on by strides, not by turns of the path.
		moved := t.ReachOf(0, float64(m.scene.Doc.Range.Last+1)).Tail - t.ReachOf(0, float64(m.scene.Doc.Range.First)).Tail
		if k.Rounds.Stride != 0 {
			shift = int(math.Round(moved / k.Rounds.Stride))
		}
	}
	start := make([]int, n+1)
	for i := range n {
		start[i+1] = start[i] + 3*t.SurfaceVertices(i)
	}
	for i := range n {
		j := i + shift
		if t.ComesRound {
			j = (j%n + n) % n
		}
		// What another part shows there, or what is hidden, has nothing to be compared with.
		if j < 0 || j >= n || t.Bends() && t.PartOf(i) != t.PartOf(j) || !b.Reach[i].Shown || !a.Reach[j].Shown {
			continue
		}
		for v := range t.SurfaceVertices(i) {
			if d := back.Apply(vertexAt(b.Positions, start[i], v)).Sub(vertexAt(a.Positions, start[j], v)).Norm(); d > worst {
				worst, piece = d, i
			}
		}
	}
	return worst, piece
}
