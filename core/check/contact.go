package check

import (
	"fmt"
	"math"
	"slices"

	"bead/core/geom"
	"bead/core/motion"
	"bead/core/rig"
	"bead/core/scene"
)

const (
	slipTol  = 0.001 // of the way a carrier goes: a tenth of a percent
	slipStep = 1.0 / 32
	// onGround is the distance from the ground, metres, within which the face of a belt's piece counts as
	// lying on it; for small pieces it is this share of the pitch.
	onGround, onGroundShare = 2e-4, 1e-3
	// still is how far a carrier may go in the whole range and count as standing, metres.
	still = 1e-3
)

// drives is the carrier relative to which the rig must not slip on the ground: the one that it rolls with,
// else, of a loop, the one that its path rides on if that moves; -1 where there is none.
func (m *measure) drives() int {
	d := m.scene.Doc
	find := func(id string) int {
		return slices.IndexFunc(d.Carriers, func(c scene.Carrier) bool { return c.ID == id })
	}
	if r := m.doc().Travel.Rolls; r != nil {
		return find(r.Rolls)
	}
	if !m.rig.Curve.Closed() {
		return -1 // a sledge may slide
	}
	i := find(d.PathCarrier(&d.Paths[m.rig.Path]))
	if i < 0 {
		return -1
	}
	from := m.scene.CarrierPlace(i, float64(d.Range.First)).P
	for _, f := range First(d.Range, 9) {
		to := m.scene.CarrierPlace(i, float64(f)).P
		if math.Hypot(to.X-from.X, to.Z-from.Z) > still {
			return i
		}
	}
	return -1
}

// slip compares what lies on the ground with the ground: the speed of those pieces in the
// world along their carrier's forward, over the greatest speed that is rolled or driven. Of a
// belt that rides on the ground these are all along its contact, at the face that lies there;
// of others that roll the lowest piece; of the rest those that touch the ground between two
// that do. Pieces ahead of and behind the middle slide sideways where a machine turns; that
// is no slip.
type slip struct {
	*measure
	worst    // metres a frame
	carrier  int
	grounded bool
	rolls    bool
	// depth is from a belt's pitch line to its outer face, on which it lies on the ground; 0 of what is no such belt.
	depth, top     float64 // top: the greatest speed, so that standing still is no slip
	most           int     // pieces on the ground at once
	a, b           rig.Pieces
	down           []bool
	lyingA, touchV []int
}

func newSlip(m *measure) *slip {
	g := &slip{measure: m, carrier: m.drives(), rolls: m.doc().Travel.Rolls != nil}
	if w := m.wrap(); w != nil && w.OnGround() {
		g.grounded, g.depth = true, w.Depth
	}
	return g
}

func (g *slip) look(f *moment) {
	t, at := g.rig, float64(f.frame)
	g.scene.RigAt(&g.a, g.index, at-slipStep/2)
	g.scene.RigAt(&g.b, g.index, at+slipStep/2)
	body := g.scene.CarrierPlace(g.carrier, at)
	// Half way between the two, so that what only turns does not seem to go ahead.
	body.Z = g.scene.CarrierPlace(g.carrier, at-slipStep/2).Z.Add(g.scene.CarrierPlace(g.carrier, at+slipStep/2).Z).Unit()
	ahead, behind := g.scene.CarrierPlace(g.carrier, at+0.5), g.scene.CarrierPlace(g.carrier, at-0.5)
	// Over a whole frame: from straight to straight of the ground the travel steps a little.
	g.top = max(g.top, math.Abs(t.Travel(at+0.5)-t.Travel(at-0.5)))
	// What does not roll by a carrier may stand while the carrier goes: then it slides as fast as that.
	if !g.rolls {
		g.top = max(g.top, math.Abs(ahead.P.Sub(behind.P).Dot(body.Z)))
	}
	slide := func(piece int, was, is geom.Vec) { g.take(is.Sub(was).Dot(body.Z)/slipStep, f.frame, piece) }
	if t.Bends() {
		if v, piece := g.lowestVertex(&g.a); v >= 0 && v < len(g.b.Positions) {
			g.most = max(g.most, 1)
			slide(piece, vertexAt(g.a.Positions, v, 0), vertexAt(g.b.Positions, v, 0))
		}
		return
	}
	if g.grounded || g.rolls {
		lying := []int{lowest(&g.a)}
		if g.grounded {
			lying = g.lying(&g.a)
		}
		g.most = max(g.most, len(lying))
		for _, i := range lying {
			slide(i, face(g.a.Transforms[i*rig.Stride:], g.depth), face(g.b.Transforms[i*rig.Stride:], g.depth))
		}
		return
	}
	n := len(g.a.Distances)
	// Which vertex touches is kept from one end of the step to the other: a slide is of one point of the piece.
	g.touchV = append(g.touchV[:0], make([]int, n)...)
	for i := range n {
		deep, v := g.deep(&g.a, i)
		if g.touchV[i] = v; deep < -floorTol {
			g.touchV[i] = -1
		}
	}
	count := 0
	for i := range n {
		v := g.touchV[i]
		// Pieces at the ends of the run on the ground are just coming down or being taken up, and move.
		if v < 0 || g.touchV[(i+1)%n] < 0 || g.touchV[(i+n-1)%n] < 0 {
			continue
		}
		count++
		slide(i, g.vertex(&g.a, i, v), g.vertex(&g.b, i, v))
	}
	g.most = max(g.most, count)
}

// lowestVertex is the index into the positions of the vertex that touches the ground most
// deeply, of the bodies of a rig, -1 where none touches it.
func (m *measure) lowestVertex(p *rig.Pieces) (at, piece int) {
	at = -1
	// The deepest, or, within the tolerance, the nearest.
	most := -floorTol
	ground := m.scene.Ground()
	base := 0
	for i := range p.Reach {
		n := m.rig.Body(i).Vertices()
		for v := range n {
			q := vertexAt(p.Positions, base, v)
			h, slope := ground.Height(q.Z)
			// At right angles to the slope.
			if deep := (h - q.Y) / math.Hypot(1, slope); deep > most && p.Reach[i].Shown {
				most, at, piece = deep, base+3*v, i
			}
		}
		base += 3 * n
	}
	return at, piece
}

func (g *slip) merge(later gauge) {
	o := later.(*slip)
	g.worst.merge(o.worst)
	g.top, g.most = max(g.top, o.top), max(g.most, o.most)
}

func (g *slip) result() Result {
	t := g.rig
	r := Result{ID: "slip", Rig: g.id, Unit: "%", Tolerance: slipTol * 100, Of: t.Layout.Count, Word: "grips"}
	// A rig that never touches the ground has no slip; one that rolls by a carrier is asked all the same.
	if !g.rolls && g.most == 0 {
		return Result{} // it never lies on the ground
	}
	if g.top > 1e-9 {
		r.Value = 100 * math.Abs(g.value) / g.top
	}
	// 4e-7 is what rounds of single precision come to over a step, as a share of how far out the place is.
	// Below what single precision shows of a place there is nothing to be seen.
	if x := g.scene.CarrierPlace(g.carrier, float64(g.frame)).P; math.Abs(g.value)*slipStep < 4e-7*max(x.Norm(), 1) {
		r.Value = 0
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = g.measure.where(g.piece, g.frame)
	what := say("slip.all-stand")
	if g.most > 1 {
		what = say("slip.pieces-stand", g.most)
	}
	r.Says = []Saying{say("slip.grips", what, r.Value, g.every())}
	if r.State != Outside {
		return r
	}
	name := g.scene.Doc.Carriers[g.carrier].Name
	r.Word = "slips"
	r.Says = []Saying{say("slip.slips", r.Value, name, g.frame)}
	v := g.doc().Travel.Rolls
	w := g.wrap()
	switch {
	// What goes at its own speed slips until it rolls with what carries it.
	case v == nil && g.doc().Traits().Lead == nil:
		r.Remedies = []Remedy{offer(say("offer.roll-with", name), []Edit{{g.pointer("travel"), motion.Rolling{Rolls: g.scene.Doc.Carriers[g.carrier].ID}}})}
	case v != nil && (v.Side != "" || v.Flip):
		r.Remedies = []Remedy{offer(say("offer.roll-back"), []Edit{{g.pointer("travel"), motion.Rolling{Rolls: v.Rolls, Start: v.Start}}})}
	// Distances have to begin on a wheel that stands on the ground, or the belt creeps as its wheels settle.
	case g.grounded && w != nil:
		for n := range w.Wheels {
			if w.Wheels[n].Ground && !w.Wheels[n].Free && w.Anchor != n+1 {
				r.Remedies = []Remedy{offer(say("offer.anchor", w.Wheels[n].Name), []Edit{{g.shape("anchor"), n + 1}})}
				break
			}
		}
	}
	return r
}

// lying are the pieces of a belt on the ground that lie there with a neighbour on either side
// that does so, too.
func (g *slip) lying(p *rig.Pieces) []int {
	n := len(p.Distances)
	g.down = append(g.down[:0], make([]bool, n)...)
	// Of a small link a thousandth of a metre is a lot.
	near := min(onGround, onGroundShare*g.rig.Layout.Pitch)
	for i := range n {
		at := face(p.Transforms[i*rig.Stride:], g.depth)
		h, slope := g.scene.Ground().Height(at.Z)
		g.down[i] = math.Abs(at.Y-h)/math.Hypot(1, slope) < near
	}
	g.lyingA = g.lyingA[:0]
	for i := range n {
		if g.down[i] && g.down[(i+1)%n] && g.down[(i+n-1)%n] {
			g.lyingA = append(g.lyingA, i)
		}
	}
	return g.lyingA
}

// face is the place of a piece's outer face.
func face(x []float32, depth float64) geom.Vec {
	at := placed(x)
	return at.P.Mad(at.Y, depth)
}

// lowest is the piece that stands lowest.
func lowest(p *rig.Pieces) int {
	best := 0
	for i := range p.Distances {
		if p.Transforms[i*rig.Stride+1] < p.Transforms[best*rig.Stride+1]-1e-6 {
			best = i
		}
	}
	return best
}

// deep is how deep a rigid piece comes into the ground, metres, below 0 how far above it is;
// and the vertex of its part that is deepest, -1 of a piece that is far above.
func (m *measure) deep(p *rig.Pieces, piece int) (deep float64, vertex int) {
	part := &m.scene.Parts[m.rig.PartOf(piece)]
	o := p.Transforms[piece*rig.Stride : (piece+1)*rig.Stride]
	pose, size := placed(o), float64(o[7])
	ground := m.scene.Ground()
	// No vertex is farther from the pivot than the corner of the box.
	lo, hi := part.Bounds.Min, part.Bounds.Max
	far := size * geom.V(max(-lo.X, hi.X), max(-lo.Y, hi.Y), max(-lo.Z, hi.Z)).Norm()
	// The highest ground below its reach decides in one look for most pieces.
	if size == 0 || pose.P.Y-far > ground.Highest(pose.P.Z-far, pose.P.Z+far)+floorTol {
		return math.Inf(-1), -1
	}
	deep = math.Inf(-1)
	v := part.Mesh.Positions
	for k := 0; k < len(v); k += 3 {
		q := pose.Apply(geom.V(float64(v[k]), float64(v[k+1]), float64(v[k+2])).Mul(size))
		h, slope := ground.Height(q.Z)
		if d := (h - q.Y) / math.Hypot(1, slope); d > deep {
			deep, vertex = d, k/3
		}
	}
	return deep, vertex
}

// vertex is where a vertex of a rigid piece is in the world.
func (m *measure) vertex(p *rig.Pieces, piece, vertex int) geom.Vec {
	o := p.Transforms[piece*rig.Stride:]
	v := m.scene.Parts[m.rig.PartOf(piece)].Mesh.Positions[3*vertex:]
	return placed(o).Apply(geom.V(float64(v[0]), float64(v[1]), float64(v[2])).Mul(float64(o[7])))
}

// floor measures how deep rigid pieces come into the ground.
type floor struct {
	*measure
	worst
	nearest float64 // the least height above the ground, where nothing comes into it
}

func newFloor(m *measure) *floor { return &floor{measure: m, nearest: math.Inf(1)} }

func (g *floor) look(f *moment) {
	p := g.pieces(f.pic)
	g.take(0, f.frame, 0)
	for i := range p.Distances {
		deep, _ := g.deep(p, i)
		g.nearest = min(g.nearest, -deep)
		if deep > 0 {
			g.take(deep, f.frame, i)
		}
	}
}

func (g *floor) merge(later gauge) {
	o := later.(*floor)
	g.worst.merge(o.worst)
	g.nearest = min(g.nearest, o.nearest)
}

func (g *floor) result() Result {
	r := Result{ID: "floor", Rig: g.id, Unit: "m", Value: g.value, Tolerance: max(floorTol, dipShare*g.rig.Layout.Pitch), Of: g.rig.Layout.Count, Word: "clear"}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = g.measure.where(g.piece, g.frame)
	switch {
	case r.State == Outside:
		r.Word = "below"
		r.Says = []Saying{say("floor.piece-in", g.piece+1, length(r.Value), g.frame)}
		r.Remedies = g.lift(r.Value)
	case g.value > 0:
		r.Says = []Saying{say("floor.little", length(r.Value), g.every())}
	default:
		r.Says = []Saying{say("floor.clear", g.every())}
	}
	return r
}

// lift offers what brings a rig up by some metres: a belt on the ground thicker shoes, another
// belt higher wheels, any other path a higher place.
func (m *measure) lift(by float64) []Remedy {
	// Up to a tenth of a millimetre, so that what was typed reads well and lifts enough.
	by = math.Ceil(by*1e4) / 1e4
	i := m.rig.Path
	path := &m.scene.Doc.Paths[i]
	switch w := path.Shape.Wrap; {
	case w != nil && w.OnGround():
		return []Remedy{offer(say("offer.thicker-belt", length(by)), []Edit{{m.shape("depth"), w.Depth + by}})}
	case w != nil:
		mend := offer(say("offer.raise-wheels", length(by)), nil)
		for n := range w.Wheels {
			mend.Edits = append(mend.Edits, Edit{m.shape("wheels/%d/at/1", n), w.Wheels[n].At[1] + by})
		}
		if w.Ends != nil {
			mend.Edits = append(mend.Edits, Edit{m.shape("ends/from/1"), w.Ends.From[1] + by})
		}
		return []Remedy{mend}
	}
	// From its lowest point on: the step sets a clearance, it does not add one.
	lowest, _ := m.scene.LowestOf(i)
	steps := append(slices.Clone(path.Steps), scene.Step{Drop: &scene.DropStep{Clearance: lowest + by}})
	return []Remedy{offer(say("offer.lift-path", length(by)), []Edit{{fmt.Sprintf("/paths/%d/steps", i), steps}})}
}

var slipKind = Kind{
	Words: []Words{{ID: "slip"}},
	gauges: func(m *measure) []gauge {
		if !m.rig.Row && !m.rig.Spine || m.drives() < 0 {
			return nil
		}
		return []gauge{newSlip(m)}
	},
}

var floorKind = Kind{
	Words: []Words{{ID: "floor"}},
	gauges: func(m *measure) []gauge {
		if !m.rig.Row || m.rig.Bends() {
			return nil // bodies measure theirs with the rest of them
		}
		return []gauge{newFloor(m)}
	},
}
