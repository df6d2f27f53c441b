package check

import (
	"math"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
)

const (
	slideTol  = 1e-4 // metres that a foot may get about while it stands
	shortTol  = 1e-3 // metres that a leg may be too short
	sinkTol   = 0.002
	strideTol = 2.0 // % by which the way a round goes may differ from its stride
	turnTol   = 60.0
)

// steps measures a figure that goes along the path: whether its feet slide while they stand, whether
// its legs reach, whether its feet sink into the ground, how far a joint turns from frame to frame.
type steps struct {
	*measure
	// Keyed by copy, foot, and first and last frame of the plant.
	places            map[[4]int]geom.Box // where each foot has been in each of its plants, level
	names             map[int]string
	short, sink, turn worst
	slide             worst
	slid, bent        string
	prints            []rig.Footprint
}

func (g *steps) lookAt(f *moment) {
	p := g.pieces(f.pic)
	g.prints = g.rig.Footprints(g.prints, p, float64(f.frame))
	ground := g.scene.Ground()
	for _, s := range g.prints {
		// Each plant of each copy for itself: from one to the next the foot is meant to move.
		if s.Stands {
			key := [4]int{s.Copy, s.Foot, s.Plant[0], s.Plant[1]}
			box, known := g.places[key]
			if !known {
				box = geom.EmptyBox()
			}
			// Seen from above: going down with the ground it stands on is no slide.
			box = box.Extend(geom.V(s.At.X, 0, s.At.Z))
			g.places[key] = box
			if g.slide.take(box.Size().Norm(), f.frame, s.Copy) {
				g.slide.at, g.slid = s.At, s.Name
			}
		}
		if g.short.take(s.Short, f.frame, s.Copy) {
			// The distance too, since the remedy is at the path: a wider bend.
			g.short.at, g.short.along = s.At, g.rig.Distance(s.Copy, float64(f.frame))
			g.names[0] = s.Name
		}
		// Above the ground it is no matter how far.
		if y, _ := ground.Height(s.At.Z); g.sink.take(max(y-s.At.Y, 0), f.frame, s.Copy) {
			g.sink.at = s.At
		}
	}
	if f.before == nil {
		return
	}
	was, joints := g.pieces(f.before), g.rig.Gait().Figure.Joints
	// The joints of all copies stand one after the other.
	n := len(joints)
	for i, m := range p.Joints {
		k := i % n
		// The root goes where the way takes it.
		if joints[k].Parent < 0 {
			continue
		}
		up := i - k + joints[k].Parent
		// Against its parent, so that a turn of the whole figure is no turn of its joints.
		a, b := was.Joints[up].Inverse().Mul(was.Joints[i]), p.Joints[up].Inverse().Mul(m)
		if by := max(geom.Angle(a.X, b.X), geom.Angle(a.Y, b.Y), geom.Angle(a.Z, b.Z)) * inDegrees; g.turn.take(by, f.frame, i/n) {
			g.turn.at, g.bent = m.P, joints[k].Name
		}
	}
}

func (g *steps) mergeWith(later looker) {
	o := later.(*steps)
	for key, box := range o.places {
		mine, known := g.places[key]
		if known {
			// A plant that two workers have seen parts of is one.
			box = box.Extend(mine.Min).Extend(mine.Max)
		}
		g.places[key] = box
		if size := box.Size().Norm(); size > g.slide.value*(1+sameShare) {
			g.slide = o.slide
			g.slide.value, g.slide.seen, g.slid = size, true, o.slid
		}
	}
	// Names go with the figures that are kept, and those are merged below.
	if o.short.seen && o.short.value > g.short.value {
		g.names[0] = o.names[0]
	}
	if o.turn.seen && o.turn.value > g.turn.value {
		g.bent = o.bent
	}
	g.short.merge(o.short)
	g.sink.merge(o.sink)
	g.turn.merge(o.turn)
}

func (g *steps) slides() Result {
	r := Result{ID: "slide", Rig: g.id, Unit: "m", Value: g.slide.value, Tolerance: slideTol, Word: "stands"}
	r.State = grade(r.Value, r.Tolerance)
	before := 0.0
	// What the file's keys do by themselves is no fault of the way.
	c := g.scene.Rigs[g.index].CycleFeet()
	for _, f := range c {
		// Of all feet the worst: the sentence says one figure.
		before = max(before, f.Slides)
	}
	own := say("slide.own", length(before))
	switch {
	case len(c) == 0:
		r.State, r.Word = Near, "no feet"
		r.Says = []Saying{say("slide.no-feet")}
		return r
	case !g.slide.seen:
		r.State, r.Word = Near, "not seen"
		r.Says = []Saying{say("slide.not-seen")}
		return r
	}
	r.Where = g.slide.spot()
	r.Says = []Saying{say("slide.stands", length(r.Value), g.every()), own}
	if r.State == Outside {
		r.Word = "slides"
		r.Says = []Saying{say("slide.slides", g.slid, length(r.Value), g.slide.frame), own}
		// Legs that go as they are hold no place on the ground, whatever the pace.
		if d := g.doc().Cycle; d.Legs == scene.LegsFree {
			r.Remedies = append(r.Remedies, offer(say("offer.legs-reach"), []Edit{{g.pointer("cycle/legs"), scene.LegsReach}}))
		} else if d.Pace == scene.PaceTime {
			// By its own clock its rounds do not go with its way; by the way they do.
			r.Remedies = append(r.Remedies, offer(say("offer.rounds-by-way"), []Edit{{g.pointer("cycle/pace"), scene.PaceDistance}}))
		}
	}
	return r
}

func (g *steps) reaches() Result {
	r := Result{ID: "reach", Rig: g.id, Unit: "m", Value: g.short.value, Tolerance: shortTol, Word: "reach", Where: g.short.spot()}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("reach.reaches", length(r.Value), g.every())}
	// No leg reaches for anything, so none can be too short.
	if g.doc().Cycle.Legs == scene.LegsFree {
		r.Says = []Saying{say("reach.free")}
	}
	if r.State == Outside {
		r.Word = "too short"
		r.Says = []Saying{say("reach.too-short", g.names[0], length(r.Value), g.short.frame)}
	}
	return r
}

func (g *steps) sinks() Result {
	r := Result{ID: "sink", Rig: g.id, Unit: "m", Value: g.sink.value, Tolerance: sinkTol, Word: "clear", Where: g.sink.spot()}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("sink.clear", length(r.Value), g.every())}
	if r.State == Outside {
		r.Word = "below"
		r.Says = []Saying{say("sink.below", length(r.Value), g.sink.frame)}
		// A figure that feels the ground already has nothing to be offered.
		if !g.doc().Cycle.Ground {
			r.Remedies = []Remedy{offer(say("offer.feel-ground"), []Edit{{g.pointer("cycle/ground"), true}})}
		}
	}
	return r
}

// strides holds the way that a round goes against the stride: by its distance the two are one.
func (g *steps) strides() Result {
	gait, rg := g.rig.Gait(), g.scene.Doc.Range
	first, end := float64(rg.First), float64(rg.Last)
	// Over all of the range, so that a pace that comes and goes is told by what it comes to.
	r := Result{ID: "stride", Rig: g.id, Unit: "%", Tolerance: strideTol, Word: "true"}
	way, rounds := g.rig.Distance(0, end)-g.rig.Distance(0, first), g.rig.Rounds(0, end)-g.rig.Rounds(0, first)
	// A figure that stands has gone no round to compare.
	if rounds != 0 {
		r.Value = (way/rounds/gait.Stride - 1) * 100
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("stride.true", far(gait.Stride*(1+r.Value/100)), far(gait.Stride))}
	if r.State == Outside {
		r.Word = map[bool]string{true: "too fast", false: "too slow"}[r.Value > 0]
		r.Says = []Saying{say("stride.off", far(gait.Stride*(1+r.Value/100)), far(gait.Stride))}
		r.Remedies = []Remedy{offer(say("offer.rounds-by-way"), []Edit{{g.pointer("cycle/pace"), scene.PaceDistance}})}
	}
	return r
}

func (g *steps) joints() Result {
	// To what the sentence shows, so that a figure of 60.04 is not called outside of 60.0.
	r := Result{ID: "joints", Rig: g.id, Unit: "°", Value: math.Round(g.turn.value*10) / 10, Tolerance: turnTol, Word: "smooth"}
	r.State = grade(r.Value, r.Tolerance)
	// Of a range of one frame nothing turns, and there is no place to show.
	if g.turn.seen {
		r.Where = g.turn.spot()
	}
	r.Says = []Saying{say("joints.smooth", g.turn.value, g.every())}
	if r.State == Outside {
		r.Word = "jumps"
		r.Says = []Saying{say("joints.jumps", g.bent, g.turn.value, g.turn.frame)}
	}
	return r
}

var cycleKind = Kind{
	Words: []Words{
		{ID: "slide"},
		{ID: "reach"},
		{ID: "sink"},
		{ID: "stride", Signed: true},
		{ID: "joints"},
	},
	gauges: func(m *measure) []gauge {
		if m.doc().Cycle == nil {
			return nil
		}
		// One look at the feet serves all five.
		g := &steps{measure: m, places: map[[4]int]geom.Box{}, names: map[int]string{}}
		return aspects(g, g.slides, g.reaches, g.sinks, g.strides, g.joints)
	},
}
