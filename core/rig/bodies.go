package rig

import (
	"fmt"
	"math"
	"slices"

	"bead/core/bend"
	"bead/core/geom"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// gravity is the standard acceleration of free fall, m/s^2 (ISO 80000-3).
const gravity = 9.80665

// body makes the part of the train ready to be bent, of kind p.
func (c *compiler) body(p int, scale float64) *bend.Body {
	part := &c.Parts[p]
	a := part.Axes
	return bend.New(part.Mesh, bend.Axes{Side: a.Side, Up: a.Up, Forward: a.Forward, Origin: a.Pivot}, scale)
}

// bodies makes the bodies of a train whose pieces bend, and finds its blends.
func (c *compiler) bodies(i int, t *Rig, pieces int) bool {
	// Over all pieces, not parts: each piece has vertices of its own in a picture.
	for k := range pieces {
		p := t.Part
		if t.Parts != nil {
			p = t.Parts[k]
		}
		if c.Over(&c.spent.bodies, len(c.Parts[p].Mesh.Positions)/3, maxBodies, "vertices of pieces that bend", "fewer pieces, segments or rigs are accepted", "rigs[%d].part", i) {
			return false
		}
	}
	t.bodies = make([]*bend.Body, len(c.Parts))
	t.bodies[t.Part] = c.body(t.Part, t.scale)
	for _, k := range t.Parts {
		if t.bodies[k] == nil {
			t.bodies[k] = c.body(k, t.scale)
		}
	}
	// A body without length along its forward would be stretched without end.
	for p, b := range t.bodies {
		if b != nil && !(b.Length() > 0) {
			c.Say(fmt.Errorf("%q has no length along its forward %s: a forward along which it has one is accepted", c.Doc.Parts[p].Name, c.Doc.Parts[p].Forward), "rigs[%d].part", i)
			return false
		}
	}
	shapes := t.traits.Blends
	// Blends are named by the document and numbered by the mesh; a name that the part does not have is a fault, not an
	// absence.
	for k := range shapes {
		s := c.Value(blendRef(t.rig.ID, k))
		if s == nil {
			return false
		}
		t.blends = append(t.blends, s)
		t.blendAt = append(t.blendAt, -1)
		for n, name := range t.bodies[t.Part].Blends {
			if name == shapes[k].Name {
				t.blendAt[k] = n
			}
		}
		if t.blendAt[k] < 0 {
			c.Say(errNoBlend(shapes[k].Name, t.bodies[t.Part].Blends), "rigs[%d].%s.blends[%d].name", i, t.rig.Kind(), k)
			return false
		}
	}
	return true
}

// Body is the body of a piece that bends; nil of rigid pieces.
func (t *Rig) Body(piece int) *bend.Body {
	if t.bodies == nil {
		return nil
	}
	return t.bodies[t.PartOf(piece)]
}

// Bends reports whether the pieces take the form of the path.
func (t *Rig) Bends() bool { return t.traits.Seat == scene.SeatBent }

// Reach is the distance of tail and head of a piece that bends, metres, before wrapping; its
// stretch; and whether it is shown at the frame.
type Reach struct {
	Tail, Head float64
	Stretch    float64
	Shown      bool
}

// ReachOf returns where piece i lies at a frame when all have arrived.
func (t *Rig) ReachOf(i int, frame float64) Reach { return t.kind.reach(i, frame) }

// about is the reach of a piece of a train, which bends about its place.
func about(body *bend.Body, at float64, shown bool) Reach {
	return Reach{at + body.Tail, at + body.Head, 1, shown}
}

// speed is how fast the rig goes along its path at a frame, m/s; 0 where nothing leans by it.
func (t *Rig) speed(frame float64) float64 {
	if t.rig.Facing.Bank == nil {
		return 0
	}
	// Over a frame: the speed that is seen, whatever the keys do between two frames.
	return (t.travel.At(frame+0.5, t.scene.Clock) - t.travel.At(frame-0.5, t.scene.Clock)) * t.scene.Clock.FPS
}

// lean is the angle in radians by which a rider at distance d leans into the bend: atan(v^2 k / g)
// for the curvature k seen from above, the mean over a stretch so that it sets in gently; that of where
// it will be in some frames, and no more than a limit, where those are given.
func (t *Rig) lean(c *path.Curve, d, speed float64) float64 {
	b := t.rig.Facing.Bank
	if b == nil || speed == 0 {
		return 0
	}
	over := b.Over
	// Long enough to smooth the corners of arcs and short enough to tell bends apart.
	if over == 0 {
		over = c.Length() / 10
	}
	if b.Lead != 0 {
		d = t.wrap(c, d+b.Lead/t.scene.Clock.FPS*speed)
	}
	_, p := c.At(d - over/2)
	_, q := c.At(d + over/2)
	// The angle between level tangents, so that climbing does not count as turning.
	p.Y, q.Y = 0, 0
	turn := geom.AngleAbout(geom.V(0, 1, 0), p, q)
	// So that gravity and the bend's pull add up to the rider's own down (statics of a turn, common practice).
	// To the left the right side goes up: about forward, up turns to the left side, which is +x.
	lean := -b.Share * math.Atan(speed*speed*turn/over/gravity)
	if most := b.Limit * math.Pi / 180; most > 0 {
		lean = min(max(lean, -most), most)
	}
	return lean
}

// bend fills dst with the bodies of the pieces, which lie where dst.Reach says.
func (t *Rig) bend(dst *Pieces, m *moment) {
	dst.Positions, dst.Normals = dst.Positions[:0], dst.Normals[:0]
	total := 0
	for i := range dst.Reach {
		total += 3 * t.Body(i).Vertices()
	}
	dst.Positions, dst.Normals = resized(dst.Positions, total), resized(dst.Normals, total)
	at := 0
	for i := range dst.Reach {
		// Looked at before each body, not each vertex: a body is bent in microseconds.
		if dst.givenUp(0) {
			return
		}
		body := t.Body(i)
		// The blends are put on before it bends, in the part's own axes.
		dst.amounts = t.amounts(dst.amounts, body, m.frame)
		body.Pose(&dst.work, dst.amounts)
		dst.sections = resized(dst.sections, len(dst.work.Places))
		t.sections(dst, m, body, dst.Reach[i])
		end := at + 3*body.Vertices()
		body.Bend(dst.Positions[at:end], dst.Normals[at:end], &dst.work, dst.sections)
		at = end
	}
}

// sections lays the sections of a body along the path.
func (t *Rig) sections(dst *Pieces, m *moment, body *bend.Body, r Reach) {
	form, volume := t.kind.form(m.frame), 1.0
	if form.volume {
		// Drawn out k times it gets thinner by the root of k both ways, so that what it holds stays the same.
		volume = scene.VolumeScale(r.Stretch)
	}
	length, banks := body.Length(), t.rig.Facing.Bank != nil
	turns := m.roll != 0 || form.twist != 0 || len(t.marks) > 0 || banks
	for k, z := range dst.work.Places {
		// Its own coordinate along forward, stretched onto the path from the tail on.
		s := r.Tail + (z-body.Tail)*r.Stretch
		f := m.Field.Frame(s)
		curve := m.Curve.Curvature(s)
		// How fast the frame turns about the path there, which shears the section's normals.
		tau := m.Field.Rate(s, f, curve)
		sec := bend.Section{W: volume, K: r.Stretch}
		// No extent in any direction: nothing is seen, and no vertex is undefined.
		if !r.Shown {
			sec.W, sec.K = 0, 0
		}
		if turns {
			u := (z - body.Tail) / length
			turn, slope := t.rollSlope(m.Curve, s)
			turn += m.roll + form.twist*u
			// A twist spreads evenly from tail to head; its rate is a metre of the path, not of the body.
			tau += slope + form.twist/(length*r.Stretch)
			if banks {
				// The lean has no slope in closed form: a central difference over a ten-thousandth of the path either
				// way.
				h := 1e-4 * m.Curve.Length()
				turn += t.lean(m.Curve, s, m.speed)
				tau += (t.lean(m.Curve, s+h, m.speed) - t.lean(m.Curve, s-h, m.speed)) / (2 * h)
			}
			f.U = geom.RotateAbout(f.U, f.T, turn)
		}
		if len(form.taper) > 0 && length > 0 {
			w, slope := scene.TaperAt(form.taper, (z-body.Tail)/length)
			sec.W, sec.DW = sec.W*w, sec.W*slope/length
		}
		// The curvature is a direction of the path's space and turns with it.
		if m.moved {
			f, curve = m.pose.Frame(f), m.pose.Turn(curve)
		}
		sec.P, sec.U, sec.T, sec.S, sec.Tau = f.P, f.U, f.T, f.Side(), tau
		// The curvature as the section sees it, to its side and up: what keeps the inner side from folding.
		sec.Ks, sec.Ku = curve.Dot(sec.S), curve.Dot(sec.U)
		dst.sections[k] = sec
	}
	if !r.Shown { // all of it in one place
		// Triangles between sections at different places would be seen though each section has no extent.
		for k := range dst.sections {
			dst.sections[k].P = dst.sections[0].P
		}
	}
}

// rollSlope is the roll of the beads at a distance, radians, and its change a metre.
func (t *Rig) rollSlope(c *path.Curve, d float64) (roll, slope float64) {
	if len(t.marks) == 0 || !c.Closed() && (d < 0 || d > c.Length()) {
		return t.rollAt(c, d), 0
	}
	if c.Closed() {
		d = c.Wrap(d)
	}
	return place.ByDistance(t.marks, d, c.Length(), c.Closed())
}

// Sections returns the sections of piece i at a frame for the forward coordinates of its body, in
// the world: for checks.
func (t *Rig) Sections(dst *Pieces, i int, frame float64, places []float64) []bend.Section {
	dst.Roll = t.Roll(frame)
	m := &dst.moment
	*m = moment{Posed: t.At(frame), frame: frame, pose: t.scene.PathPlace(t.Path, frame), roll: dst.Roll * math.Pi / 180, speed: t.speed(frame)}
	m.moved = m.pose != geom.Still
	dst.work.Places = append(dst.work.Places[:0], places...)
	dst.sections = resized(dst.sections, len(places))
	t.sections(dst, m, t.Body(i), dst.Reach[i])
	return dst.sections
}

// VertexSamples is the number of vertices of all surfaces, but for those of rigs that are
// skipped; nil skips none. Unless all are wanted, those that can be read as skeletons are left out.
func (s *Scene) VertexSamples(skip []bool, all bool) int {
	n := 0
	for i := range s.Rigs {
		t := &s.Rigs[i]
		for k := range t.surfaces() {
			// What a file holds as joints and weights needs no vertices a frame.
			if (skip == nil || !skip[i]) && (all || !t.Bends() || t.Simulated) && (all || !t.Jointed) {
				n += t.SurfaceVertices(k)
			}
		}
	}
	return n
}

// CentreSamples is the number of places of a body's middle line that tables hold.
const CentreSamples = 33

// CentreLine returns the sections of piece i at even places from tail to head in a picture of the
// frame, and the distances of the places along the path.
func (t *Rig) CentreLine(p *Pieces, i int, frame float64) (sections []bend.Section, distances []float64) {
	body, r := t.Body(i), p.Reach[i]
	places := make([]float64, CentreSamples)
	distances = make([]float64, CentreSamples)
	for k := range places {
		u := float64(k) / (CentreSamples - 1)
		places[k] = body.Tail + body.Length()*u
		distances[k] = r.Tail + (r.Head-r.Tail)*u
	}
	return t.Sections(p, i, frame, places), distances
}

// Amounts are those of the body's blends at a frame, by its blends' numbers.
func (t *Rig) Amounts(frame float64) []float64 {
	return t.amounts(nil, t.Body(0), frame)
}

// AmountsOf fills dst with the amounts of a piece's own blends at a frame.
func (t *Rig) AmountsOf(dst []float64, piece int, frame float64) []float64 {
	return t.amounts(dst, t.Body(piece), frame)
}

// amounts fills dst with those of a body, whose blends go by their names: a piece of another part
// may have others.
func (t *Rig) amounts(dst []float64, body *bend.Body, frame float64) []float64 {
	dst = resized(dst, len(body.Blends))
	shapes := t.traits.Blends
	for i, name := range body.Blends {
		dst[i] = 0
		for k, s := range t.blends {
			if shapes[k].Name == name {
				// A body with two blends of one name shows the sum of what the rig asks of that name.
				dst[i] += s.At(frame, t.scene.Clock)
			}
		}
	}
	return dst
}

// BlendsUsed reports which of the body's blends the rig uses.
func (t *Rig) BlendsUsed() []int {
	out := append([]int(nil), t.blendAt...)
	slices.Sort(out)
	return slices.Compact(out)
}

// Deviation is the greatest distance between a bent piece of the train and its rigid self on the
// same place of the path in the first frame, by the corners of its box: with it a person
// chooses between the two. 0 of bodies of their own.
func (t *Rig) Deviation() (most float64, piece int) {
	if !t.Row || t.Pinned {
		return 0, 0
	}
	frame := t.scene.Clock.First
	now := t.At(frame)
	base := t.base(frame)
	// Enough to find the worst bend of a long train, and quick on one of many thousands.
	const looks = 200 // pieces that are looked at, evenly over all of them
	for i := 0; i < now.Layout.Count; i += now.Layout.Count/looks + 1 {
		at := t.wrap(now.Curve, base+now.Layout.At(i))
		part := &t.scene.Parts[t.PartOf(i)]
		a, box := &part.Axes, part.Bounds
		mid := now.Field.Frame(at)
		for k := range 8 {
			c := box.Corner(k).Sub(a.Pivot).Mul(t.scale)
			x, y, z := c.Dot(a.Side), c.Dot(a.Up), c.Dot(a.Forward)
			f := now.Field.Frame(at + z)
			bent := f.P.Mad(f.Side(), x).Mad(f.U, y)
			rigid := mid.P.Mad(mid.Side(), x).Mad(mid.U, y).Mad(mid.T, z)
			if d := bent.Sub(rigid).Norm(); d > most {
				most, piece = d, i
			}
		}
	}
	return most, piece
}

func errNoBlend(name string, there []string) error {
	if len(there) == 0 {
		return fmt.Errorf("%q is no blend of this part, which has none", name)
	}
	return fmt.Errorf("%q is no blend of this part: %q are", name, there)
}

func blendRef(rig string, k int) string { return fmt.Sprintf("rigs/%s/blend%d", rig, k+1) }
