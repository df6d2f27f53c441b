package check

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"bead/core/geom"
	"bead/core/motion"
	"bead/core/rig"
	"bead/core/scene"
)

const (
	jumpTol = 0.001 // metres that something may move in no time
	// startShare is by how much more than in the frame before something has to move to be
	// looked at closely.
	startShare = 0.5
	halvings   = 14                  // of a frame, until what is left of a motion is a jump
	bodyPlaces = 48                  // on the bodies of a rig that are followed
	cornerTurn = 0.5 * math.Pi / 180 // from which a path's corner is named
)

// jumps finds what is thrown from one place to another between two frames: pieces and bodies
// that move in no time. What moves much farther than in the frame before is followed into ever
// shorter parts of the frame: a motion, however quick, gets shorter with the time, a jump does
// not. A jump that is less than half of what the piece moves in a frame anyway is not looked
// for. Stepped keys are meant to jump, and what comes round on an open path as well.
type jumps struct {
	*measure
	worst
	cause       Saying
	corner      bool            // the path's, which makes it jump
	stepped     int             // jumps that stepped keys ask for
	needs       map[string]bool // what the rig goes by; nil until it is asked for
	last        int             // frame of was
	was, is     []geom.Vec
	steps, next []geom.Vec
	// At what distances the pieces stood in the frame before and the one before that.
	stood, stoodBefore []float64
}

func newJumps(m *measure) *jumps { return &jumps{measure: m, last: math.MinInt} }

// places are the points of a rig that are followed: of each piece its pivot and, to see turns,
// two points half a length off; of bodies some vertices. A place that is not shown is NaN.
// NaN compares with nothing, so what is not there is never the worst.
func (g *jumps) places(dst []geom.Vec, p *rig.Pieces) []geom.Vec {
	dst = dst[:0]
	nan := geom.V(math.NaN(), 0, 0)
	if g.rig.Bends() {
		// Every n-th vertex, over the whole body: a body may jump at one end alone.
		n := len(p.Positions) / 3
		for k := range min(bodyPlaces, n) {
			dst = append(dst, vertexAt(p.Positions, 3*(k*n/min(bodyPlaces, n)), 0))
		}
		for i := range p.Reach {
			if !p.Reach[i].Shown { // copies come and go
				for k := range dst {
					dst[k] = nan
				}
			}
		}
		return dst
	}
	for i := range p.Distances {
		o := p.Transforms[i*rig.Stride:]
		if o[7] == 0 {
			dst = append(dst, nan, nan, nan)
			continue
		}
		at := placed(o)
		half := float64(o[7]) * g.scene.Parts[g.rig.PartOf(i)].Length / 2
		dst = append(dst, at.P, at.P.Mad(at.Y, half), at.P.Mad(at.Z, half))
	}
	return dst
}

// pieceOf is the piece that a place belongs to.
func (g *jumps) pieceOf(place int) int {
	if g.rig.Bends() {
		return 0
	}
	return place / 3
}

func (g *jumps) look(f *moment) {
	g.is = g.places(g.is, g.pieces(f.pic))
	g.take(0, f.frame, 0)
	// Two steps are compared: what moved far before may well move far again.
	if f.before != nil && len(g.was) == len(g.is) && g.last == f.frame-1 && len(g.steps) == len(g.is) {
		g.compare(f)
	} else if f.before != nil {
		// The first of a run: what it moved before is looked up, since a run may begin in the middle of the range.
		g.was = g.places(g.was, g.pieces(f.before))
		g.steps = g.steps[:0]
		g.stood = append(g.stood[:0], g.pieces(f.before).Distances...)
		if f.frame-2 >= g.scene.Doc.Range.First {
			g.scene.RigAt(&g.one, g.index, float64(f.frame-2))
			g.stoodBefore = append(g.stoodBefore[:0], g.one.Distances...)
			g.steps = g.places(g.steps, &g.one)
			for k := range g.steps {
				g.steps[k] = g.was[k].Sub(g.steps[k])
			}
			g.compare(f)
		}
	}
	if f.before != nil && len(g.was) == len(g.is) {
		g.next = g.next[:0]
		for k := range g.is {
			g.next = append(g.next, g.is[k].Sub(g.was[k]))
		}
		// The two change places, so that their room is used again.
		g.steps, g.next = g.next, g.steps
	}
	g.stood, g.stoodBefore = append(g.stoodBefore[:0], g.pieces(f.pic).Distances...), g.stood
	g.was, g.is = g.is, g.was
	g.last = f.frame
}

// compare looks for the place whose step has changed most, and follows it.
func (g *jumps) compare(f *moment) {
	most, at, early := 0.0, -1, false
	for k := range g.is {
		now, before := g.is[k].Sub(g.was[k]), g.steps[k]
		d1, d0 := now.Norm(), before.Norm()
		if math.IsNaN(d1) || math.IsNaN(d0) || g.comesRound(f, k) {
			continue
		}
		// Beyond what moving on, at a like speed in whatever direction, explains.
		// A change of velocity, since a turn at speed changes no length.
		change := now.Sub(before).Norm()
		over := change - startShare*min(d0, d1) - jumpTol
		if over > most {
			most, at, early = over, k, d0 > d1
		}
	}
	if at < 0 {
		return
	}
	// The jump may be in this step or in the one before, which has been seen then if it was in range.
	to, from, end := float64(f.frame), g.was[at], g.is[at]
	if early {
		to, from, end = to-1, from.Sub(g.steps[at]), from
	}
	g.follow(at, to, from, end)
}

// comesRound reports whether a place is of a piece that has just come round on an open path.
// Farther than half the path in one frame: nothing goes that fast that does not come round.
func (g *jumps) comesRound(f *moment, place int) bool {
	if !g.rig.ComesRound || g.rig.Curve.Closed() {
		return false
	}
	half := g.rig.Curve.Length() / 2
	now := g.pieces(f.pic).Distances
	for i := range now { // of bodies any piece
		if !g.rig.Bends() {
			i = g.pieceOf(place)
		}
		if math.Abs(now[i]-g.stood[i]) > half || math.Abs(g.stood[i]-g.stoodBefore[i]) > half {
			return true
		}
		if !g.rig.Bends() {
			break
		}
	}
	return false
}

// follow halves the frame up to a frame again and again, always towards where a place moves
// more, and takes what it then still moves for a jump. pa and pb are where the place is at the frame's ends.
func (g *jumps) follow(place int, to float64, pa, pb geom.Vec) {
	at := func(frame float64) geom.Vec {
		g.scene.RigAt(&g.one, g.index, frame)
		g.next = g.places(g.next, &g.one)
		return g.next[place]
	}
	a, b := to-1, to
	half := 0.0 // what is left half way
	for n := range halvings {
		if g.ctx.Err() != nil {
			return
		}
		if n >= halvings/4 && !(pb.Sub(pa).Norm() > jumpTol/2) {
			return // so little in so short a time, on the side that moves more
		}
		if n == halvings/2 {
			// To be held against what is left at the end: of a motion that is a hundredth of it by then.
			half = pb.Sub(pa).Norm()
		}
		mid := (a + b) / 2
		pm := at(mid)
		// Towards the half in which it moves more: a motion gets shorter with the time, a jump stays.
		if pm.Sub(pa).Norm() >= pb.Sub(pm).Norm() {
			b, pb = mid, pm
		} else {
			a, pa = mid, pm
		}
	}
	jump := pb.Sub(pa).Norm()
	if !(jump > jumpTol/2) || jump < half/2 { // it still shrinks with the time: a quick motion
		return
	}
	if g.isStepped(a, b) {
		g.stepped++
		return
	}
	if piece := g.pieceOf(place); g.take(jump, int(to), piece) {
		g.cause, g.corner = g.why(a, b)
	}
}

// isStepped reports whether a value that the rig goes by has a stepped key between two moments: what jumps there is
// meant to.
func (g *jumps) isStepped(a, b float64) bool {
	const near = 1e-3
	if g.needs == nil {
		g.needs = g.scene.Doc.Needs("rigs/" + g.id)
	}
	for _, s := range g.scene.Doc.Slots() {
		if !g.needs[s.Ref[:strings.LastIndexByte(s.Ref, '/')]] {
			continue
		}
		for k, key := range s.Value.Keys {
			if k > 0 && s.Value.Keys[k-1].Shape == motion.Stepped && key.Frame > a-near && key.Frame < b+near {
				return true
			}
		}
	}
	return false
}

// why names what jumps between two moments that lie close to one another.
func (g *jumps) why(a, b float64) (cause Saying, corner bool) {
	t := g.rig
	for _, v := range []struct {
		name string
		at   func(float64) float64
	}{{"travel", t.Travel}, {"offset", t.Offset}, {"roll", t.Roll}} {
		if math.Abs(v.at(b)-v.at(a)) > jumpTol/4 {
			return say("cause.value", v.name), false
		}
	}
	for i := range g.scene.Doc.Carriers {
		p, q := g.scene.CarrierPlace(i, a), g.scene.CarrierPlace(i, b)
		if p.P.Sub(q.P).Norm() > jumpTol/4 || geom.Angle(p.Z, q.Z)+geom.Angle(p.Y, q.Y) > 1e-3 {
			return say("cause.carrier", g.scene.Doc.Carriers[i].Name), false
		}
	}
	// A corner turns what rides over it in no time.
	for _, c := range t.At(b).Curve.Corners(cornerTurn) {
		g.scene.RigAt(&g.one, g.index, b)
		for _, d := range g.one.Distances {
			if math.Abs(math.Remainder(d-c.At, t.Curve.Length())) < 1e-3*t.Curve.Length() {
				return say("cause.corner", far(c.At)), true
			}
		}
	}
	switch {
	case g.wrap() != nil && g.scene.Deforms(t.Path):
		return say("cause.belt"), false
	case g.scene.Deforms(t.Path):
		return say("cause.path"), false
	}
	return say("cause.along"), false
}

func (g *jumps) merge(later gauge) {
	o := later.(*jumps)
	if o.worst.seen && (!g.worst.seen || o.value > g.value) {
		g.worst, g.cause, g.corner = o.worst, o.cause, o.corner
	}
	g.stepped += o.stepped
}

func (g *jumps) result() Result {
	r := Result{ID: "jumps", Rig: g.id, Unit: "m", Value: g.value, Tolerance: jumpTol, Of: g.rig.Layout.Count, Word: "smooth"}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = g.measure.where(g.piece, g.frame)
	if r.State == Outside {
		r.Word = "jumps"
		what := say("jumps.piece", g.piece+1)
		if g.rig.Bends() || g.rig.Layout.Count == 1 {
			what = say("jumps.it")
		}
		r.Says = []Saying{say("jumps.thrown", g.frame-1, g.frame, what, length(r.Value), g.cause)}
		if g.corner {
			// Round enough for a piece, and never more than an eighth of the path.
			reach := math.Round(1e3*min(g.rig.Layout.Pitch/2, g.rig.Curve.Length()/8)) / 1e3
			steps := append(slices.Clone(g.scene.Doc.Paths[g.rig.Path].Steps), scene.Step{Smooth: &scene.SmoothStep{Reach: max(reach, 1e-3)}})
			r.Remedies = []Remedy{offer(say("offer.smooth-corners"), []Edit{{fmt.Sprintf("/paths/%d/steps", g.rig.Path), steps}})}
		}
		return r
	}
	r.Says = []Saying{say("jumps.none", g.every())}
	if g.measure.seen < g.of {
		r.Says = []Saying{say("jumps.not-all", g.measure.seen, g.of)}
	}
	if g.stepped > 0 {
		r.Says = append(r.Says, say("jumps.stepped"))
	}
	return r
}

var jumpsKind = Kind{
	Words: []Words{{ID: "jumps"}},
	gauges: func(m *measure) []gauge {
		return []gauge{newJumps(m)}
	},
}
