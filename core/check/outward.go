package check

import (
	"fmt"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/part"
	"bead/core/rig"
)

// flatShare is the share of its length by which a loop may stray from a plane and still have
// an outside.
const flatShare = 0.01

// hasOuterSide reports whether the pieces know which of their sides belongs outward of a loop
// and the path is a flat loop: generated shoes have their grousers there.
func (m *measure) hasOuterSide() bool {
	if !m.rig.Curve.Closed() || m.rig.Bends() {
		return false
	}
	// On a loop in space no side is the outer one everywhere.
	pl := m.rig.Curve.Plane()
	return !pl.Line && pl.Off < flatShare*m.rig.Curve.Length() && m.scene.Doc.Parts[m.rig.Part].Shape.Shoe != nil
}

// outward counts the pieces whose outer side lies inward, against the wheels.
type outward struct {
	*measure
	count, frame, piece int
	field               *facing.Field
	of                  *rig.Posed
}

func newOutward(m *measure) *outward {
	return &outward{measure: m, frame: m.scene.Doc.Range.First}
}

func (g *outward) look(f *moment) {
	now, p := g.rig.At(float64(f.frame)), g.pieces(f.pic)
	// The way out of the loop is found anew when the path has another form.
	if g.of != now {
		// Loopside is the outer side by definition, whatever facing the rig itself has.
		field, err := facing.New(now.Curve, facing.Spec{Mode: facing.Loopside})
		if err != nil {
			return
		}
		g.of, g.field = now, field
	}
	pose := g.pathPlace(f.frame)
	count, first := 0, -1
	for i := range p.Distances {
		// Other parts of a pattern have no outer side to say.
		if g.scene.Doc.Parts[g.rig.PartOf(i)].Shape.Shoe == nil {
			continue
		}
		outer := placed(p.Transforms[i*rig.Stride:]).Turn(geom.V(0, 1, 0)) // a shoe is made with its grousers up
		if outer.Dot(pose.Turn(g.field.Frame(p.Distances[i]).U)) < 0 {
			if count++; first < 0 {
				first = i
			}
		}
	}
	// Of the frame with the most, so that the count and the place are of one frame.
	if count > g.count {
		g.count, g.frame, g.piece = count, f.frame, first
	}
}

func (g *outward) merge(later gauge) {
	if o := later.(*outward); o.count > g.count {
		g.count, g.frame, g.piece = o.count, o.frame, o.piece
	}
}

func (g *outward) result() Result {
	r := Result{ID: "outward", Rig: g.id, Unit: "pieces", Value: float64(g.count), Of: g.rig.Layout.Count, Word: "all out"}
	r.State = grade(r.Value, 0)
	r.Where = g.measure.where(g.piece, g.frame)
	r.Says = []Saying{say("outward.all-out", g.every())}
	if r.State != Outside {
		return r
	}
	r.Word = "inside out"
	r.Says = []Saying{say("outward.inside-out", g.count, g.frame)}
	edits := []Edit{}
	// The part itself lies on its side or its back: its own up is turned, which mends it on every path.
	if g.scene.Doc.Parts[g.rig.Part].Up != part.Axis("+y") {
		edits = append(edits, Edit{fmt.Sprintf("/parts/%d/forward", g.rig.Part), "+z"}, Edit{fmt.Sprintf("/parts/%d/up", g.rig.Part), "+y"})
	}
	if g.rig.Mode() != facing.Loopside {
		edits = append(edits, Edit{g.pointer("facing/mode"), facing.Loopside})
	}
	if g.doc().Facing.Inward {
		edits = append(edits, Edit{g.pointer("facing/inward"), false})
	}
	// Nothing else is turned the wrong way, so the roll is.
	if len(edits) == 0 || g.doc().Facing.Roll.Moves() || g.rig.Roll(float64(g.frame)) != 0 {
		edits = append(edits, Edit{g.pointer("facing/roll"), 0})
	}
	r.Remedies = []Remedy{offer(say("offer.outside-out"), edits)}
	return r
}

var outwardKind = Kind{
	Words: []Words{{ID: "outward"}},
	gauges: func(m *measure) []gauge {
		if !m.hasOuterSide() {
			return nil
		}
		return []gauge{newOutward(m)}
	},
}
