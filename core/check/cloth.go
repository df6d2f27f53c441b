package check

import (
	"math"
)

const (
	clothTol = 5.0  // % by which an edge of a cloth may be longer than at rest
	restTol  = 0.02 // m/s at which a cloth counts as come to rest
)

// cloth measures a simulated cloth: how far it is stretched, whether it is in the ground or a
// fixture, whether it passes through itself, and how fast it still goes in the last frame.
type cloth struct {
	*measure
	stretch, deep, crossed worst
	speed                  float64 // m/s, in the last frame of the range
	last                   bool
}

func (g *cloth) lookAt(f *moment) {
	p := g.pieces(f.pic)
	// Over its edges, where the simulation holds the lengths.
	most, at, piece := g.rig.ClothStretch(p)
	if g.stretch.take(most, f.frame, piece) {
		g.stretch.at = at
	}
	deep, at := g.rig.ClothDepth(p, float64(f.frame))
	if g.deep.take(deep, f.frame, 0) {
		g.deep.at = at
	}
	// Edges against triangles: the dearest of the three, so only where it is asked.
	if !g.doc().Drape.Through {
		n, at := g.rig.ClothCrossings(p)
		if g.crossed.take(float64(n), f.frame, 0) {
			g.crossed.at = at
		}
	}
	// Only the last frame: before it cloth is meant to move.
	if f.frame == g.scene.Doc.Range.Last && f.before != nil {
		g.last = true
		was := g.pieces(f.before).Positions
		for v := 0; v+2 < len(p.Positions); v += 3 {
			// The way of one frame: what swings between two frames and is back is not seen.
			way := vertexAt(p.Positions, v, 0).Sub(vertexAt(was, v, 0)).Norm()
			g.speed = max(g.speed, way*g.scene.Clock.FPS)
		}
	}
}

func (g *cloth) mergeWith(later looker) {
	o := later.(*cloth)
	g.stretch.merge(o.stretch)
	g.deep.merge(o.deep)
	g.crossed.merge(o.crossed)
	// Only one worker has seen the last frame; the others have 0 here.
	g.speed, g.last = max(g.speed, o.speed), g.last || o.last
}

func (g *cloth) stretched() Result {
	r := Result{ID: "stretch", Rig: g.id, Unit: "%", Value: 100 * g.stretch.value, Tolerance: clothTol, Word: slight(100 * g.stretch.value), Where: g.stretch.spot()}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("stretch.slight", r.Value, g.every())}
	run := g.rig.Cloth()
	switch {
	// Its points stand where they were before, so its stretch says nothing.
	case run.Broken:
		r.State, r.Word = Outside, "breaks"
		r.Says = []Saying{say("stretch.breaks")}
	case r.State == Outside:
		r.Word = "drawn out"
		r.Says = []Saying{say("stretch.drawn-out", g.stretch.frame, r.Value)}
		r.Remedies = []Remedy{offer(say("offer.more-steps"), []Edit{{g.pointer("drape/substeps"), 2 * run.Substeps}})}
	}
	return r
}

func (g *cloth) through() Result {
	r := Result{ID: "through", Rig: g.id, Unit: "m", Value: g.deep.value, Tolerance: floorTol, Word: "clear", Where: g.deep.spot()}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("through.clear", length(r.Value), g.every())}
	if r.State == Outside {
		r.Word = "through"
		r.Says = []Saying{say("through.in", g.deep.frame, length(r.Value))}
		// By as much as it is in, up to a whole millimetre.
		thick := math.Ceil((g.doc().Drape.Thickness+r.Value)*1000) / 1000
		r.Remedies = []Remedy{offer(say("offer.touch-before", length(thick)), []Edit{{g.pointer("drape/thickness"), thick}})}
	}
	return r
}

func (g *cloth) itself() Result {
	// One that may pass through itself is not asked.
	if g.doc().Drape.Through {
		return Result{}
	}
	r := Result{ID: "itself", Rig: g.id, Unit: "edges", Value: g.crossed.value, Word: "clear", Where: g.crossed.spot()}
	r.State = grade(r.Value, 0)
	r.Says = []Saying{say("itself.clear", g.every())}
	if r.State == Outside {
		r.Word = "through"
		r.Says = []Saying{say("itself.crosses", g.crossed.frame, r.Value)}
		run := g.rig.Cloth()
		r.Remedies = []Remedy{offer(say("offer.more-steps"), []Edit{{g.pointer("drape/substeps"), 2 * run.Substeps}})}
	}
	return r
}

func (g *cloth) rests() Result {
	// A loop has no end to have come to rest at.
	if !g.scene.Doc.PlaysOnce() || !g.last {
		return Result{}
	}
	r := Result{ID: "rest", Rig: g.id, Unit: "m/s", Value: g.speed, Tolerance: restTol, Word: "at rest", State: Inside}
	r.Says = []Saying{say("rest.at-rest", g.speed)}
	if g.speed > restTol { // it may be meant to
		r.State, r.Word = Near, "moves"
		r.Says = []Saying{say("rest.moves", g.speed)}
	}
	return r
}

var clothKind = Kind{
	Words: []Words{
		{ID: "stretch"},
		{ID: "through"},
		{ID: "itself"},
		{ID: "rest"},
	},
	gauges: func(m *measure) []gauge {
		if !m.rig.Simulated {
			return nil
		}
		// One look at the cloth serves all four.
		g := &cloth{measure: m}
		return aspects(g, g.stretched, g.through, g.itself, g.rests)
	},
}
