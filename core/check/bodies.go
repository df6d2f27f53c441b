package check

import (
	"fmt"
	"math"
	"slices"

	"bead/core/bend"
	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
)

const (
	keepTol   = 1e-6   // metres by which the centre line of a body may be too long (MATH 7)
	facetTol  = 0.0005 // metres between a body's straight edges and the bend of its skin
	foldTol   = 100.0  // % by which the inside of a bend may be pressed together: then it folds
	strainTol = 50.0   // % by which the outside of a bend may be drawn out
)

// bodies is what was found on the pieces of a rig that bends; its gauges share it.
type bodies struct {
	*measure
	length, facet, pressed, drawn, deep, beyond worst
	segment                                     float64    // metres of body that the worst facet spans
	stretch                                     [2]float64 // least and greatest
	work                                        bend.Work
	amounts                                     []float64
	places                                      []float64
}

func newBodies(m *measure) *bodies {
	return &bodies{measure: m, stretch: [2]float64{math.Inf(1), 0}, deep: worst{value: math.Inf(-1)}}
}

// gauges are those of bodies that apply.
func (b *bodies) gauges() []gauge {
	// Surfaces that are made anew in each frame have no middle line whose length could be kept.
	says := []func() Result{b.facets, b.fold, b.strain, b.below}
	if b.rig.Spine {
		says = append([]func() Result{b.lengthKept}, says...)
	}
	// On a loop nothing reaches beyond an end.
	if !b.rig.Curve.Closed() {
		says = append(says, b.ends)
	}
	return aspects(b, says...)
}

// greater is take for figures of which more is worse, with the place.
func (w *worst) greater(v float64, frame, piece int, along float64, at func() geom.Vec) {
	// The place is worked out only of a figure that is the greatest so far: most are not.
	if w.seen && v <= w.value {
		return
	}
	*w = worst{value: v, frame: frame, piece: piece, along: along, at: at(), seen: true}
}

func (b *bodies) lookAt(f *moment) {
	t, p := b.rig, b.pieces(f.pic)
	now := t.At(float64(f.frame))
	curve, pose := now.Curve, b.pathPlace(f.frame)
	ground := b.scene.Ground()
	base := 0
	for i := range p.Reach {
		body, r := t.Body(i), p.Reach[i]
		// The vertices of all bodies of a rig stand in one list, one body after the other.
		n, at := body.Vertices(), base
		base += 3 * n
		// What is not shown has all its vertices in one place.
		if !r.Shown {
			continue
		}
		// From the body's own length to a distance on the path.
		place := func(z float64) float64 { return r.Tail + (z-body.Tail)*r.Stretch }
		on := func(s float64) func() geom.Vec {
			return func() geom.Vec { q, _ := curve.At(s); return pose.Apply(q) }
		}
		// Over all frames: a body that is asked to stretch is told as from so much to so much.
		b.stretch = [2]float64{min(b.stretch[0], r.Stretch), max(b.stretch[1], r.Stretch)}
		middle := (r.Tail + r.Head) / 2
		// As the path has it, anew, against the length that the body should have there.
		b.length.greater(math.Abs(covered(curve, r)-body.Length()*r.Stretch), f.frame, i, middle, on(middle))
		// With the blends that are in use: an open jaw is thicker than a shut one.
		b.amounts = t.AmountsOf(b.amounts, i, float64(f.frame))
		body.Pose(&b.work, b.amounts)
		// The most on either side: pressed is what folds, drawn what tears.
		pressed, drawn := body.Strains(&b.work, b.sections(p, i, f.frame, b.work.Places))
		for _, x := range []struct {
			at *bend.Extreme
			w  *worst
			v  float64
		}{{&pressed, &b.pressed, -pressed.Strain}, {&drawn, &b.drawn, drawn.Strain}} {
			v := x.at.Vertex
			x.w.greater(max(x.v, 0), f.frame, i, place(body.Place(v)), func() geom.Vec { return vertexAt(p.Positions, at, v) })
		}
		// Edges of the mesh are straight; a bend between two of its sections shows as corners.
		b.facetsOf(p, i, f.frame, place)
		for v := range n {
			q := vertexAt(p.Positions, at, v)
			// Also below 0: how far it stays above the ground is told where it does.
			h, slope := ground.Height(q.Z)
			b.deep.greater((h-q.Y)/math.Hypot(1, slope), f.frame, i, place(body.Place(v)), func() geom.Vec { return q })
		}
		// How far its tail is behind the start, and its head beyond the end.
		tail, head := -r.Tail, r.Head-curve.Length()
		end := min(max(r.Head, 0), curve.Length())
		// The end that is farther out is the one that is shown.
		if tail > head {
			end = max(r.Tail, 0)
		}
		b.beyond.greater(max(tail, head), f.frame, i, min(max(r.Head, 0), curve.Length()), on(min(end, curve.Length())))
	}
}

// sections are those of a piece in a picture.
func (b *bodies) sections(p *rig.Pieces, piece, frame int, places []float64) []bend.Section {
	// With the reach of the picture: where it lies is not worked out a second time.
	b.one.Reach = append(b.one.Reach[:0], p.Reach...)
	return b.rig.Sections(&b.one, piece, float64(frame), places)
}

// facetShares are the shares of an edge at which it is held against the bend of the skin.
var facetShares = [5]float64{0, 0.25, 0.5, 0.75, 1}

// facetsOf measures how far the straight edges of a piece stray from where its skin would be if
// it had sections there: the distance of the skin's places from the chord.
func (b *bodies) facetsOf(p *rig.Pieces, piece, frame int, place func(float64) float64) {
	edges := b.rig.Body(piece).Edges()
	// The edges come sorted by the sections between which they lie, each with the four corners of its box.
	const per = 4 // edges between the same two sections
	b.places = b.places[:0]
	for k := 0; k < len(edges); k += per {
		for _, u := range facetShares {
			b.places = append(b.places, edges[k].From+(edges[k].To-edges[k].From)*u)
		}
	}
	sections := b.sections(p, piece, frame, b.places)
	for k := range edges {
		e := &edges[k]
		at := sections[k/per*len(facetShares) : (k/per+1)*len(facetShares)]
		skin := func(n int) geom.Vec {
			// A place of the skin between the two sections, as if the mesh had one there.
			u := facetShares[n]
			return at[n].At(e.X0+(e.X1-e.X0)*u, e.Y0+(e.Y1-e.Y0)*u, 0)
		}
		from := skin(0)
		chord := skin(len(facetShares) - 1).Sub(from)
		// At a tip the four corners of the box fall together.
		if chord.Norm() == 0 {
			continue
		}
		way := chord.Unit()
		for n := 1; n+1 < len(facetShares); n++ {
			q := skin(n)
			off := q.Sub(from)
			// At right angles to the chord.
			if v := off.Sub(way.Mul(off.Dot(way))).Norm(); !b.facet.seen || v > b.facet.value {
				b.facet.greater(v, frame, piece, place(e.From+(e.To-e.From)*facetShares[n]), func() geom.Vec { return q })
				b.segment = e.To - e.From
			}
		}
	}
}

func (b *bodies) mergeWith(later looker) {
	o := later.(*bodies)
	if o.facet.seen && (!b.facet.seen || o.facet.value > b.facet.value) {
		b.segment = o.segment
	}
	for _, x := range [][2]*worst{{&b.length, &o.length}, {&b.facet, &o.facet}, {&b.pressed, &o.pressed}, {&b.drawn, &o.drawn}, {&b.deep, &o.deep}, {&b.beyond, &o.beyond}} {
		if w := x[1]; w.seen {
			x[0].greater(w.value, w.frame, w.piece, w.along, func() geom.Vec { return w.at })
		}
	}
	b.stretch = [2]float64{min(b.stretch[0], o.stretch[0]), max(b.stretch[1], o.stretch[1])}
}

// covered is the length of the centre line, by integrating the path anew.
func covered(c interface {
	Between(a, b float64) float64
	Length() float64
	Closed() bool
}, r rig.Reach) float64 {
	if c.Closed() {
		// Tail and head count on over every round; the curve is integrated within one.
		turns := math.Floor(r.Tail / c.Length())
		a, b := r.Tail-turns*c.Length(), r.Head-turns*c.Length()
		sum, end := 0.0, math.Nextafter(c.Length(), 0) // the length itself is the start again
		for b > end {
			sum += c.Between(min(a, end), end)
			a, b = 0, b-c.Length()
		}
		return sum + c.Between(a, max(b, a))
	}
	a, b := min(max(r.Tail, 0), c.Length()), min(max(r.Head, 0), c.Length())
	// Beyond an open end the body goes straight on, by its own length.
	beyond := math.Max(-r.Tail, 0) - math.Max(-r.Head, 0) + math.Max(r.Head-c.Length(), 0) - math.Max(r.Tail-c.Length(), 0)
	return c.Between(a, b) + beyond
}

// lengthKept measures the centre line against what the fit asks for.
func (b *bodies) lengthKept() Result {
	r := Result{ID: "length", Rig: b.id, Unit: "m", Value: b.length.value, Tolerance: keepTol, Word: "kept", Where: b.length.spot()}
	r.State = grade(r.Value, r.Tolerance)
	own := far(b.rig.Body(0).Length())
	r.Says = []Saying{say("length.kept", own, length(r.Value), b.every())}
	// One that is asked to reach or to cover the path has no length to keep.
	if b.doc().Body.Fit != scene.FitOwn {
		r.Word = "as asked"
		r.Says = []Saying{say("length.drawn-out", b.stretch[0]*100, b.stretch[1]*100, own, b.every())}
	}
	// Drawn together to a hundredth nobody means it.
	if b.stretch[0] < 0.01 { // its head has come to its tail
		r.State, r.Word = Outside, "collapsed"
		r.Unit, r.Value, r.Tolerance = "%", 100*(1-b.stretch[0]), 99
		r.Says = []Saying{say("length.head-behind")}
		r.Remedies = []Remedy{offer(say("offer.keep-length"), []Edit{{b.pointer("body/fit"), scene.FitOwn}})}
	}
	return r
}

// facets measures how far the straight edges along the body stray from the bend of its skin.
func (b *bodies) facets() Result {
	t := b.rig
	body := t.Body(b.facet.piece)
	r := Result{ID: "facets", Rig: b.id, Unit: "m", Value: b.facet.value, Tolerance: max(facetTol, facetShare*body.Half), Word: "smooth", Where: b.facet.spot()}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("facets.smooth", length(r.Value), b.every())}
	if r.State == Outside {
		r.Word = "faceted"
		// The stray goes with the square of an edge's length.
		// 0.6 of the tolerance, so that the remedy brings it well inside.
		n := int(math.Ceil(body.Length() / (b.segment * math.Sqrt(r.Tolerance*0.6/r.Value))))
		part := t.PartOf(b.facet.piece)
		r.Says = []Saying{say("facets.coarse", length(r.Value), far(b.facet.along), length(1/math.Max(b.curvatureAt(&b.facet), 1e-9)))}
		// A coil and strands are cut as their own turns ask for.
		if shape := &b.scene.Doc.Parts[part].Shape; shape.Coil == nil && shape.Strands == nil {
			r.Remedies = []Remedy{offer(say("offer.segments", n), []Edit{{fmt.Sprintf("/parts/%d/segments", part), n}})}
		}
	}
	return r
}

func (b *bodies) curvatureAt(w *worst) float64 {
	return b.rig.At(float64(w.frame)).Curve.Curvature(w.along).Norm()
}

// fold measures how far the inside of a bend is pressed together; at 100 % it folds over itself.
func (b *bodies) fold() Result {
	r := Result{ID: "fold", Rig: b.id, Unit: "%", Value: b.pressed.value * 100, Tolerance: foldTol, Word: "none", Where: b.pressed.spot()}
	r.State = grade(r.Value, r.Tolerance)
	// At 100 % exactly it touches itself: that is outside, too.
	if r.Value >= foldTol {
		r.State = Outside
	}
	r.Says = []Saying{say("fold.none", r.Value, b.every())}
	if r.State == Outside {
		r.Word = "folds"
		r.Says = []Saying{say("fold.over", far(b.pressed.along), length(1/math.Max(b.curvatureAt(&b.pressed), 1e-9)))}
		r.Remedies = b.thinner(b.pressed.value / 0.6)
	}
	return r
}

// strain measures how far the outside of a bend is drawn out: curvature times half the thickness.
func (b *bodies) strain() Result {
	s := b.drawn
	// Inside and outside of a bend differ once it is tight; the worse of the two counts.
	if b.pressed.value > s.value {
		s = b.pressed
	}
	r := Result{ID: "strain", Rig: b.id, Unit: "%", Value: s.value * 100, Tolerance: strainTol, Word: slight(s.value * 100), Where: s.spot()}
	r.State = grade(r.Value, r.Tolerance)
	if r.Value > strainTol/5 {
		r.Word = "bearable"
	}
	r.Says = []Saying{say("strain.slight", r.Value, b.every())}
	if r.State == Outside {
		r.Word = "stretched"
		r.Says = []Saying{say("strain.squashed", far(s.along), r.Value)}
		r.Remedies = b.thinner(s.value / 0.4)
	}
	return r
}

// thinner offers a body thinner by a factor, or a path whose bends are wider.
func (b *bodies) thinner(by float64) []Remedy {
	t := b.rig
	path := &b.scene.Doc.Paths[t.Path]
	var out []Remedy
	// Four times its half thickness is a bend that it can take.
	steps := append(slices.Clone(path.Steps), scene.Step{Smooth: &scene.SmoothStep{Reach: math.Round(t.Body(0).Half*4*1000) / 1000}})
	if path.Shape.Wrap == nil {
		out = append(out, offer(say("offer.smooth-path"), []Edit{{fmt.Sprintf("/paths/%d/steps", t.Path), steps}}))
	}
	if k := b.doc().Body; k != nil && len(k.Taper) == 0 {
		scale := math.Floor(100/by) / 100
		if scale >= 0.01 {
			out = append(out, offer(say("offer.thinner", scale*100), []Edit{{b.pointer("body/taper"), []scene.TaperBead{{At: 0, Scale: scale}}}}))
		}
	}
	return out
}

// below measures how deep bodies come into the ground.
func (b *bodies) below() Result {
	r := Result{ID: "floor", Rig: b.id, Unit: "m", Value: max(b.deep.value, 0), Tolerance: floorTol, Word: "clear", Where: b.deep.spot()}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("body-floor.in", length(r.Value), b.every())}
	if b.deep.value < 0 {
		r.Says = []Saying{say("body-floor.clear", length(-b.deep.value), b.every())}
	}
	if r.State == Outside {
		r.Word = "below"
		r.Says = []Saying{say("body-floor.below", far(b.deep.along), length(r.Value), b.deep.frame)}
		r.Remedies = b.lift(r.Value)
	}
	return r
}

// ends measures how far a body reaches beyond an open path.
func (b *bodies) ends() Result {
	t := b.rig
	own := t.Body(b.beyond.piece).Length()
	// As long as a part of it is on the path it has not left it.
	r := Result{ID: "ends", Rig: b.id, Unit: "m", Value: max(b.beyond.value, 0), Tolerance: own, Word: "on the path", Where: b.beyond.spot()}
	r.State = grade(r.Value, r.Tolerance)
	switch {
	// A hair beyond the end is a matter of rounding and of drawing.
	case r.Value <= lengthTol:
		r.State, r.Says = Inside, []Saying{say("ends.on", b.every())}
	case r.State != Outside:
		r.Word = "straight on"
		r.Says = []Saying{say("ends.straight-on", length(r.Value), b.beyond.frame)}
	default:
		r.Word = "left the path"
		r.Says = []Saying{say("ends.left", b.beyond.frame, far(r.Value))}
	}
	if r.State == Outside && b.rig.Spine && b.doc().Traits().PastEnd != scene.Stop {
		r.Remedies = []Remedy{offer(say("offer.stop-at-ends"), []Edit{{b.pointer("body/pastEnd"), scene.Stop}})}
	}
	return r
}

var bodyKind = Kind{
	Words: []Words{
		{ID: "length"},
		{ID: "facets"},
		{ID: "fold"},
		{ID: "strain"},
		{ID: "ends"},
	},
	gauges: func(m *measure) []gauge {
		// Cloth and figures have checks of their own.
		if !m.rig.Bends() || m.rig.Simulated || m.rig.Jointed {
			return nil
		}
		return newBodies(m).gauges()
	},
}
