package check

import (
	"fmt"
	"math"
	"slices"

	"bead/core/geom"
	"bead/core/scene"
)

const (
	meetTol   = 1e-4 // metres between the sheet's end and its roll
	sheetTol  = 2.0  // % by which the edge of a sheet may be drawn out (from memory: woven mats of fibre break at 3 to 10 %)
	sideLooks = 400  // places of the way at which its bend sideways is looked at
)

// payout measures a roll and its sheet: whether they meet, in which dips the roll does not reach
// the ground, how far the sheet is strained where the way bends sideways, how deep it all comes
// into the ground.
type payout struct {
	*measure
	gap, dip, strain, deep worst
}

func (g *payout) lookAt(f *moment) {
	frame := float64(f.frame)
	now, p := g.rig.Payout(frame), g.pieces(f.pic)
	m, doc := g.scene.PathPlace(g.rig.Path, frame), g.doc().Payout
	posed := g.rig.At(frame)
	at := func(d float64) geom.Vec { return m.Apply(posed.Field.Frame(d).P) }
	// Sheet and roll are one mesh: the sheet's vertices come first.
	end := 3 * g.rig.SurfaceVertices(0)
	// Once all is laid out, and before any is, nothing has to meet.
	if !now.Out && now.To > now.From {
		// The lower corners of the sheet's face at the roll, as they are in the picture.
		// The sheet's vertices end with those of its two end faces, four each.
		k := end/3 - 4
		if doc.Winds {
			k -= 4
		}
		under := vertexAt(p.Positions, 0, k).Add(vertexAt(p.Positions, 0, k+1)).Mul(0.5)
		if gap := under.Sub(now.Hub).Norm() - now.Radius; g.gap.take(gap, f.frame, 0) {
			g.gap.along, g.gap.at = now.Laid, under
		}
	}
	// Up to where its travel would have it: in a dip tighter than the roll it stays behind.
	if base := g.rig.Travel(frame) + g.rig.Offset(frame); !now.Out {
		if g.dip.take(max(base, 0)-now.Laid, f.frame, 0) {
			g.dip.along, g.dip.at = now.Laid, at(now.Laid)
		}
	}
	// Sideways alone: over its face a sheet bends freely.
	for k := range sideLooks + 1 {
		d := now.From + (now.To-now.From)*float64(k)/sideLooks
		fr := posed.Field.Frame(d)
		if g.strain.take(math.Abs(posed.Curve.Curvature(d).Dot(fr.Side()))*doc.Width/2, f.frame, 0) {
			g.strain.along, g.strain.at = d, m.Apply(fr.P)
		}
	}
	ground := g.scene.Ground()
	// Roll and sheet alike: either may come into the ground.
	for v := 0; 3*v < len(p.Positions); v++ {
		q := vertexAt(p.Positions, 0, v)
		h, slope := ground.Height(q.Z)
		if in := max((h-q.Y)/math.Hypot(1, slope), 0); g.deep.take(in, f.frame, 0) {
			g.deep.along, g.deep.at = now.Laid, q
		}
	}
}

func (g *payout) mergeWith(later looker) {
	o := later.(*payout)
	g.gap.merge(o.gap)
	g.dip.merge(o.dip)
	g.strain.merge(o.strain)
	g.deep.merge(o.deep)
}

func (g *payout) meets() Result {
	r := Result{ID: "contact", Rig: g.id, Unit: "m", Value: g.gap.value, Tolerance: meetTol, Word: "meets", Where: g.gap.spot()}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("contact.meets", length(math.Abs(r.Value)), g.every())}
	if r.State == Outside {
		r.Word = "apart"
		r.Says = []Saying{say("contact.apart", g.gap.frame, length(math.Abs(r.Value)))}
	}
	return r
}

func (g *payout) dips() Result {
	r := Result{ID: "dips", Rig: g.id, Unit: "m", Value: max(g.dip.value, 0), Tolerance: lengthTol, Word: "none", Where: g.dip.spot()}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("dips.none", g.every())}
	if r.State == Outside {
		r.Word = "tighter"
		now := g.rig.Payout(float64(g.dip.frame))
		r.Says = []Saying{say("dips.tighter", far(g.dip.along), length(now.Radius), length(r.Value))}
		path := &g.scene.Doc.Paths[g.rig.Path]
		// Over twice the radius, so that the smoothed dip is wider than the roll.
		steps := append(slices.Clone(path.Steps), scene.Step{Smooth: &scene.SmoothStep{Reach: math.Round(2*now.Radius*1000) / 1000}})
		r.Remedies = []Remedy{offer(say("offer.smooth-way"), []Edit{{fmt.Sprintf("/paths/%d/steps", g.rig.Path), steps}})}
	}
	return r
}

func (g *payout) strained() Result {
	r := Result{ID: "strain", Rig: g.id, Unit: "%", Value: g.strain.value * 100, Tolerance: sheetTol, Word: slight(g.strain.value * 100), Where: g.strain.spot()}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("sheet-strain.slight", r.Value, g.every())}
	if r.State == Outside {
		r.Word = "drawn out"
		r.Says = []Saying{say("sheet-strain.drawn-out", far(g.strain.along), r.Value)}
		// The strain of an edge goes with the width, so the share that is over comes off it.
		narrow := math.Floor(g.doc().Payout.Width*sheetTol/r.Value*1000) / 1000
		// Narrower than a millimetre it is no sheet: the way has to be mended.
		if narrow > 1e-3 {
			r.Remedies = []Remedy{offer(say("offer.sheet-width", length(narrow)), []Edit{{g.pointer("payout/width"), narrow}})}
		}
	}
	return r
}

// slight is the word for so many percent that are allowed.
func slight(percent float64) string {
	if percent < 0.005 { // shown as 0.00
		return "none"
	}
	return "slight"
}

func (g *payout) below() Result {
	r := Result{ID: "floor", Rig: g.id, Unit: "m", Value: g.deep.value, Tolerance: floorTol, Word: "clear", Where: g.deep.spot()}
	r.State = grade(r.Value, r.Tolerance)
	r.Says = []Saying{say("sheet-floor.clear", length(r.Value), g.every())}
	if r.State == Outside {
		r.Word = "below"
		r.Says = []Saying{say("sheet-floor.below", length(r.Value), g.deep.frame)}
		r.Remedies = g.lift(r.Value)
	}
	return r
}

var payoutKind = Kind{
	Words: []Words{
		{ID: "contact", Signed: true},
		{ID: "dips"},
	},
	gauges: func(m *measure) []gauge {
		if m.doc().Payout == nil {
			return nil
		}
		g := &payout{measure: m}
		return aspects(g, g.meets, g.dips, g.strained, g.below)
	},
}
