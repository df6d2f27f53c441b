package rig

import (
	"errors"
	"fmt"
	"math"

	"bead/core/bend"
	"bead/core/facing"
	"bead/core/geom"
	"bead/core/machine"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// Rig is a compiled rig: how its pieces lie on their path, face and move. What differs from kind to kind is
// behind the interface kind.
type Rig struct {
	Path, Part int // indices into the scene
	Posed          // as it is in the first frame
	Nature
	ComesRound bool

	// Parts are those of the pieces, each an index into the scene; nil where all are of the
	// rig's.
	Parts []int
	// Pinned rigs sit on their pins (seat ends), a chord of Layout.Pitch from one to the
	// next.
	Pinned bool

	scene                *Scene
	index                int
	rig                  *scene.Rig
	traits               scene.Traits
	kind                 kind
	seat                 seat   // of the rig's own part
	seats                []seat // of every part, where pieces are of several
	scale                float64
	marks                []place.Mark // roll by distance, radians
	beyond               int          // beads of roll beyond the path's end
	travel, offset, roll *machine.Signal
	lead                 *Rig
	behind               int // rigs that lead it, one after another
	deforms              bool
	faces                int // the first rig that faces as this one does on the same path
	spec                 facing.Spec
	guide                int // path, or -1
	spread               *spreads
	bodies               []*bend.Body // of every part, of rigs whose pieces bend
	moulds               []Mould      // surfaces of its own making
	blends               []*machine.Signal
	blendAt              []int // of each, its number among the body's blends
}

// Posed is the per-frame state of a rig on a path that deforms: curve, facing and layout of that frame.
type Posed struct {
	Curve  *path.Curve
	Field  *facing.Field
	Layout place.Layout
}

// rig makes rig i; nil when it or its path has a fault.
func (c *compiler) rig(i int) *Rig {
	t := &c.scene.Rigs[i]
	r := &c.Doc.Rigs[i]
	c.Once("rig", r.ID, r.Name, fmt.Sprintf("rigs[%d]", i), func() { c.makeRig(i, t, r) })
	if t.Curve == nil {
		return nil
	}
	return t
}

func (c *compiler) makeRig(i int, t *Rig, r *scene.Rig) {
	*t = Rig{Path: c.PathAt(r.Path), Part: c.PartAt(r.Part), rig: r, traits: r.Traits(), scale: r.Scale, scene: c.scene, index: i, guide: -1}
	// The kind first: what it is like (its nature) decides what of the rest is made.
	t.kind = kinds[r.Kind()](t)
	t.Nature = t.kind.nature()
	curve := c.Path(t.Path)
	if curve == nil || c.PartFaulty(t.Part) {
		return
	}
	t.ComesRound, t.Pinned = curve.Closed() || t.traits.PastEnd == scene.ComeRound, t.traits.Seat == scene.SeatEnds
	// Everything that the rig goes by comes before its layout, which may depend on it.
	if !c.own(t, "travel", &t.travel) || !c.own(t, "offset", &t.offset) || !c.own(t, "roll", &t.roll) || !t.kind.prepare(c) || !c.leads(i, t) {
		return
	}
	layout, field, err := t.kind.layOut(curve)
	if err != nil {
		var fe *place.FieldError
		// Layouts fail on a field of the spacing, which is where a person can do something about it.
		errors.As(err, &fe)
		c.Say(err, "rigs[%d].%s.%s", i, field, fe.Field)
		return
	}
	// Counted before pieces, parts and bodies take memory.
	if c.Over(&c.spent.pieces, layout.Count, maxPieces, "pieces", "fewer pieces or rigs are accepted", "rigs[%d].%s", i, field) {
		return
	}
	face, ok := c.faced(i, t, curve)
	if !ok || !c.partsOf(i, t, layout.Count) || t.Bends() && !c.bodies(i, t, layout.Count) {
		return
	}
	if v := r.Travel.Turns; v != nil && t.Pinned && t.ComesRound { // once round is a pitch for every link
		t.travel.Goes(v.Speed(layout.Pitch*float64(layout.Count), c.Doc.Range.Count(), c.Clock))
	}
	// The belt's wheels turn with the first row on it. Others lie on the same belt, whatever they carry.
	if first := &c.scene.carries[t.Path]; *first == nil && t.Row && c.Doc.Paths[t.Path].Shape.Wrap != nil {
		*first = t
		if t.Pinned {
			c.Linked(t.Path, layout.Count, t.base)
		}
	}
	t.spread = new(spreads)
	// A rig is whole, for those that ask for it, once its curve is set (rig).
	t.Posed = Posed{curve, face, layout}
	if field, err := t.kind.ready(c); err != nil {
		c.Say(err, "rigs[%d].%s", i, field)
		t.Posed = Posed{}
	}
}

// own finds the signal of a value of the rig; false when it has a fault.
func (c *compiler) own(t *Rig, field string, to **machine.Signal) bool {
	*to = c.Value("rigs/" + t.rig.ID + "/" + field)
	return *to != nil
}

// leads finds the rig that leads this one, where one does; false when one has a fault.
func (c *compiler) leads(i int, t *Rig) bool {
	l := t.traits.Lead
	if l == nil {
		return true
	}
	if t.lead = c.rig(c.RigAt(l.Rig)); t.lead == nil {
		return false
	}
	if t.behind = t.lead.behind + 1; c.TooLong(t.behind, "rigs[%d].%s.lead", i, t.rig.Kind()) {
		return false
	}
	if n := t.lead.Layout.Count; l.At == scene.AtPiece && l.Piece > n {
		c.Say(fmt.Errorf("piece %d is not there: the rig has %d", l.Piece, n), "rigs[%d].%s.lead.piece", i, t.rig.Kind())
		return false
	}
	return true
}

// faced finds how the rig faces along its path; false when that has a fault.
func (c *compiler) faced(i int, t *Rig, curve *path.Curve) (*facing.Field, bool) {
	f := &t.rig.Facing
	t.spec = facing.Spec{Mode: f.Mode, Inward: f.Inward, Turns: f.Turns, Symmetry: f.Symmetry}
	// What bends is one surface across the seam.
	if t.Bends() {
		t.spec.Symmetry = 0 // what crosses the seam would be torn by a part of a turn
	}
	if f.Up != nil {
		t.spec.Up = geom.FromArray(*f.Up)
	}
	// It is posed anew in each frame in which its path or its guide has another form.
	t.deforms = c.scene.Deforms(t.Path)
	if f.Mode == facing.Guide {
		t.guide = c.PathAt(f.Guide)
		if t.spec.Guide = c.Path(t.guide); t.spec.Guide == nil {
			return nil, false
		}
		// Both curves in one space: the guide is looked at from the path.
		if !c.SameCarrier(t.Path, []string{f.Guide}, fmt.Sprintf("rigs[%d].facing.guide", i)) {
			return nil, false
		}
		t.deforms = t.deforms || c.scene.Deforms(t.guide)
	}
	field, err := c.field(curve, t.spec, "rigs[%d].facing", i)
	if err != nil {
		c.Say(err, "rigs[%d].facing", i)
	}
	if field == nil || err != nil {
		return nil, false
	}
	// Rigs that face alike share a field now, and in every frame that deforms (Rig.pose).
	key := fieldKey{curve, t.spec}
	if _, known := c.faces[key]; !known {
		c.faces[key] = i
	}
	t.faces = c.faces[key]
	for _, b := range f.RollAt {
		// 1e-9: a bead at the very end must not be lost to rounding.
		if b.At > curve.Length()*(1+1e-9) {
			t.beyond++ // kept in the document: the path may grow again
			continue
		}
		t.marks = append(t.marks, place.Mark{At: b.At, Value: b.Roll * math.Pi / 180, Ease: b.Ease})
	}
	return field, true
}
