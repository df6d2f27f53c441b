package check

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/machine"
	"bead/core/place"
	"bead/core/rig"
	"bead/core/scene"
)

const (
	// overlapShare is the share of the pitch by which rigid neighbours may run into one
	// another: the inner corners of plates on a bend do so a little.
	overlapShare = 0.1
	overlapCells = 24 // across a part, either way, at which it is looked through
	roundEnd     = 1.05
)

// profile is how far a part reaches ahead and back along its forward, in a grid of cells across it. Empty
// cells are left out.
type profile struct {
	minX, minY, dx, dy float64 // of the cells, metres in the part's side and up
	rear, front        []float64
	x, y               []float64 // of the cells with material
	back, ahead        []float64
	least, most        float64 // of back and of ahead
	// pins are where its two pins are along it, and hinge how far round them it may meet its
	// neighbours: how far it reaches beyond them, where that is round; else 0.
	pins  [2]float64
	hinge float64
}

// profileOf looks through a part at the middles of cells: the least and the greatest forward
// coordinate at which a line along forward meets its mesh.
func profileOf(p *machine.Part, scale float64) *profile {
	a := &p.Axes
	mesh := p.Mesh
	n := len(mesh.Positions) / 3
	own := make([]geom.Vec, n) // side, up, forward
	lo, hi := geom.V(math.Inf(1), math.Inf(1), math.Inf(1)), geom.V(math.Inf(-1), math.Inf(-1), math.Inf(-1))
	// In the part's own side, up and forward, from its pivot: the axes in which neighbours stand in line.
	for i := range own {
		v := vertexAt(mesh.Positions, 0, i).Sub(a.Pivot).Mul(scale)
		q := geom.V(v.Dot(a.Side), v.Dot(a.Up), v.Dot(a.Forward))
		own[i] = q
		lo = geom.V(min(lo.X, q.X), min(lo.Y, q.Y), min(lo.Z, q.Z))
		hi = geom.V(max(hi.X, q.X), max(hi.Y, q.Y), max(hi.Z, q.Z))
	}
	// As many cells across as up, whatever the part's proportions: what counts is how fine the outline is seen.
	const k = overlapCells
	out := &profile{least: math.Inf(1), most: math.Inf(-1), minX: lo.X, minY: lo.Y, dx: (hi.X - lo.X) / k, dy: (hi.Y - lo.Y) / k, rear: make([]float64, k*k), front: make([]float64, k*k)}
	for i := range out.rear {
		out.rear[i], out.front[i] = math.Inf(1), math.Inf(-1)
	}
	// A part without extent across has nothing to run into.
	if !(out.dx > 0 && out.dy > 0) {
		return out
	}
	for t := 0; t+2 < len(mesh.Indices); t += 3 {
		p, q, r := own[mesh.Indices[t]], own[mesh.Indices[t+1]], own[mesh.Indices[t+2]]
		// Twice the triangle's area as seen along forward.
		det := (q.X-p.X)*(r.Y-p.Y) - (r.X-p.X)*(q.Y-p.Y)
		if det == 0 {
			continue // seen edge on
		}
		// Cells outside by rounding count as those at the edge.
		cell := func(v, low, d float64) int { return min(max(int(math.Floor((v-low)/d)), 0), k-1) }
		for j := cell(min(p.Y, q.Y, r.Y), lo.Y, out.dy); j <= cell(max(p.Y, q.Y, r.Y), lo.Y, out.dy); j++ {
			for i := cell(min(p.X, q.X, r.X), lo.X, out.dx); i <= cell(max(p.X, q.X, r.X), lo.X, out.dx); i++ {
				// At the middle of a cell, by the triangle's own shares (barycentric coordinates).
				x, y := lo.X+(float64(i)+0.5)*out.dx, lo.Y+(float64(j)+0.5)*out.dy
				u := ((x-p.X)*(r.Y-p.Y) - (r.X-p.X)*(y-p.Y)) / det
				v := ((q.X-p.X)*(y-p.Y) - (x-p.X)*(q.Y-p.Y)) / det
				if u < 0 || v < 0 || u+v > 1 {
					continue
				}
				// Where the line through the cell meets the triangle.
				z := p.Z + u*(q.Z-p.Z) + v*(r.Z-p.Z)
				at := j*k + i
				out.rear[at], out.front[at] = min(out.rear[at], z), max(out.front[at], z)
			}
		}
	}
	// Cells that no triangle covers are holes: what is behind them may come through.
	for at := range out.rear {
		if out.front[at] >= out.rear[at] {
			out.x = append(out.x, lo.X+(float64(at%k)+0.5)*out.dx)
			out.y = append(out.y, lo.Y+(float64(at/k)+0.5)*out.dy)
			out.back, out.ahead = append(out.back, out.rear[at]), append(out.ahead, out.front[at])
			out.least, out.most = min(out.least, out.rear[at]), max(out.most, out.front[at])
		}
	}
	return out
}

// hinged finds the pins of a part that sits on them, half a pitch ahead and back of its middle,
// and whether what it has beyond them lies within circles about them: then neighbours turn on
// them as links do.
func (out *profile) hinged(p *machine.Part, scale, pitch float64) {
	a := &p.Axes
	lo, hi := math.Inf(1), math.Inf(-1)
	for i := range len(p.Mesh.Positions) / 3 {
		z := vertexAt(p.Mesh.Positions, 0, i).Sub(a.Pivot).Dot(a.Forward) * scale
		lo, hi = min(lo, z), max(hi, z)
	}
	middle := (lo + hi) / 2
	// A link's pins are a pitch apart, however long the link is.
	ahead, behind := middle+pitch/2, middle-pitch/2
	out.pins = [2]float64{behind, ahead}
	reach := hi - ahead
	// Half the height of the part is the radius of an end that is round.
	if tall := float64(overlapCells) * out.dy / 2; reach <= 0 || reach > roundEnd*tall {
		return // not round: longer beyond the pin than it is high
	}
	for i := range len(p.Mesh.Positions) / 3 {
		v := vertexAt(p.Mesh.Positions, 0, i).Sub(a.Pivot).Mul(scale)
		y, z := v.Dot(a.Up), v.Dot(a.Forward)
		if z > ahead && math.Hypot(z-ahead, y) > roundEnd*reach || z < behind && math.Hypot(behind-z, y) > roundEnd*reach {
			return
		}
	}
	// A little more than the reach, so that the facets of a round end lie within.
	out.hinge = roundEnd * reach
}

// at is the cell of a place across the part, -1 beside it.
func (p *profile) at(x, y float64) int {
	i, j := int(math.Floor((x-p.minX)/p.dx)), int(math.Floor((y-p.minY)/p.dy))
	if i < 0 || j < 0 || i >= overlapCells || j >= overlapCells || !(p.dx > 0 && p.dy > 0) {
		return -1
	}
	return j*overlapCells + i
}

// bound is by how much two parts can run into one another at most, by their boxes: p, and ahead
// of it q, whose places toP brings into p and toQ the other way.
func (p *profile) bound(q *profile, toP, toQ geom.Rigid) float64 {
	out := math.Inf(-1)
	for i := range 4 {
		// The four corners across: a plane is highest over a box at one of them.
		x, y := float64(i&1)*overlapCells, float64(i>>1)*overlapCells
		out = max(out, p.most-toP.Apply(geom.V(q.minX+x*q.dx, q.minY+y*q.dy, q.least)).Z,
			toQ.Apply(geom.V(p.minX+x*p.dx, p.minY+y*p.dy, p.most)).Z-q.least)
	}
	return out
}

// overlap measures how far pieces cut into the piece ahead, along lines through the middles of 24 x 24 cells
// across them.
type overlap struct {
	*measure
	worst
	profiles map[int]*profile
	settled  bool
}

func newOverlap(m *measure) *overlap {
	return &overlap{measure: m, profiles: map[int]*profile{}}
}

func (g *overlap) profile(piece int) *profile {
	k := g.rig.PartOf(piece)
	p, known := g.profiles[k]
	// Pieces of one part share a profile: it is looked through once.
	if !known {
		part := &g.scene.Parts[k]
		p = profileOf(part, g.doc().Scale)
		if g.rig.Pinned {
			p.hinged(part, g.doc().Scale, g.rig.Layout.Pitch)
		}
		g.profiles[k] = p
	}
	return p
}

func (g *overlap) look(f *moment) {
	if !g.rig.Settled(float64(f.frame)) {
		return
	}
	g.settled = true
	p := g.pieces(f.pic)
	// Below 0 is a gap, so the first figure has to be below any.
	g.take(math.Inf(-1), f.frame, 0)
	g.neighbours(p, func(a, b int) {
		pa, pb := g.profile(a), g.profile(b)
		if g.rig.Bends() { // along the path, on which both lie
			g.deepest(g.along(p, a, b, pa, pb), f.frame, a)
			return
		}
		// Each is looked at in the other's axes.
		fa, fb := g.own(p, a), g.own(p, b)
		toA, toB := fa.Inverse().Mul(fb), fb.Inverse().Mul(fa)
		// By their boxes first: most pairs cannot be deeper than what has been seen.
		if g.worst.seen && pa.bound(pb, toA, toB) <= g.value {
			return // not by more than has been seen
		}
		// About the pin that they share, pieces with round ends lie beside or in one another.
		joint := max(pa.hinge, pb.hinge)
		most := g.value          // what is less deep than has been seen is passed over
		for i := range pb.back { // what is behind b, in a
			v := geom.V(pb.x[i], pb.y[i], pb.back[i])
			// By the forward coordinate alone, which is cheap, most cells are passed over.
			if pa.most-forward(&toA, v) < most-1e-9 {
				continue
			}
			q := toA.Apply(v)
			if at := pa.at(q.X, q.Y); at >= 0 && pa.front[at] >= pa.rear[at] && !(joint > 0 && math.Hypot(q.Z-pa.pins[1], q.Y) <= joint) {
				most = max(most, pa.front[at]-q.Z)
			}
		}
		for i := range pa.ahead { // what is ahead of a, in b
			v := geom.V(pa.x[i], pa.y[i], pa.ahead[i])
			if forward(&toB, v)-pb.least < most-1e-9 {
				continue
			}
			q := toB.Apply(v)
			if at := pb.at(q.X, q.Y); at >= 0 && pb.front[at] >= pb.rear[at] && !(joint > 0 && math.Hypot(q.Z-pb.pins[0], q.Y) <= joint) {
				most = max(most, q.Z-pb.rear[at])
			}
		}
		g.deepest(most, f.frame, a)
	})
}

// forward is the forward coordinate of a point, which is much cheaper than all three.
func forward(to *geom.Rigid, v geom.Vec) float64 {
	return to.P.Z + to.X.Z*v.X + to.Y.Z*v.Y + to.Z.Z*v.Z
}

// deepest takes a figure in of which more is worse: below 0 it is a gap.
func (g *overlap) deepest(v float64, frame, piece int) {
	if v > g.value {
		g.worst = worst{value: v, frame: frame, piece: piece, seen: true}
	}
}

// along is by how much two bodies that bend run into one another along their path.
func (g *overlap) along(p *rig.Pieces, a, b int, pa, pb *profile) float64 {
	way := p.Distances[b] - p.Distances[a]
	// Over the seam the next one is once round ahead.
	if way <= 0 {
		way += g.rig.Curve.Length()
	}
	// Both lie on the path, so distances along it say what is free between them.
	most := math.Inf(-1)
	for i := range pb.back {
		if at := pa.at(pb.x[i], pb.y[i]); at >= 0 && pa.front[at] >= pa.rear[at] {
			most = max(most, pa.front[at]-pb.back[i]-way)
		}
	}
	return most
}

// own is where a rigid piece's side, up and forward from its pivot are in the world.
func (g *overlap) own(p *rig.Pieces, piece int) geom.Rigid {
	at := placed(p.Transforms[piece*rig.Stride:])
	a := &g.scene.Parts[g.rig.PartOf(piece)].Axes
	return geom.Rigid{P: at.Apply(a.Pivot.Mul(g.doc().Scale)), X: at.Turn(a.Side), Y: at.Turn(a.Up), Z: at.Turn(a.Forward)}
}

func (g *overlap) merge(later gauge) {
	o := later.(*overlap)
	g.settled = g.settled || o.settled
	if !g.worst.seen || o.worst.seen && o.value > g.value {
		g.worst = o.worst
	}
}

func (g *overlap) result() Result {
	pitch := g.rig.Layout.Pitch
	r := Result{ID: "overlap", Rig: g.id, Unit: "m", Tolerance: overlapShare * pitch, Of: g.rig.Layout.Count, Word: "clear"}
	if math.IsInf(g.value, -1) || !g.settled {
		r.State, r.Where = Inside, g.measure.where(0, g.scene.Doc.Range.First)
		r.Word = "apart"
		r.Says = []Saying{say("overlap.none", g.every())}
		if !g.settled {
			r.State, r.Word = Near, "not seen"
			r.Says = []Saying{say("overlap.not-seen", g.every())}
		}
		return r
	}
	r.Value = max(g.value, 0)
	r.State = grade(r.Value, r.Tolerance)
	r.Where = g.measure.where(g.piece, g.frame)
	switch {
	case r.State == Outside:
		r.Word = "clash"
		// Piece 1 follows the last.
		next := g.piece%g.rig.Layout.Count + 2
		if g.piece+1 == g.rig.Layout.Count {
			next = 1
		}
		r.Says = []Saying{say("overlap.runs-into", g.piece+1, length(r.Value), next, g.frame)}
		r.Remedies = g.remedies(g.value)
	case g.value > 0:
		r.Says = []Saying{say("overlap.corners", length(r.Value), g.every())}
	default:
		r.Says = []Saying{say("overlap.free", length(-g.value), g.every())}
	}
	return r
}

// remedies fit the piece to the pitch, or the pitch to the piece.
func (g *overlap) remedies(by float64) []Remedy {
	var out []Remedy
	i := g.rig.PartOf(g.piece)
	part, own := &g.scene.Doc.Parts[i], g.scene.Parts[i].Length
	// As much shorter as it is too long, in the part's own size.
	fit := (own*g.doc().Scale - by) / g.doc().Scale
	sp := g.doc().Traits().Spacing
	var keep []Edit // a pitch that follows the piece's length has to stay what it is
	if sp.Mode != place.SetCount && sp.Pitch == 0 {
		keep = []Edit{{g.pointer("train/spacing/pitch"), g.rig.Layout.Pitch}, {g.pointer("train/spacing/gap"), 0}}
	}
	if at, ok := lengthField(part); ok && fit > 0.05*own {
		out = append(out, offer(say("offer.piece-long", length(fit)), append([]Edit{{fmt.Sprintf("/parts/%d/shape/%s", i, at), fit}}, keep...)))
	} else if scale := g.doc().Scale * fit / own; fit > 0.05*own {
		out = append(out, offer(say("offer.piece-scaled", scale), append([]Edit{{g.pointer("scale"), scale}}, keep...)))
	}
	pitch := g.rig.Layout.Pitch + by
	if w := g.wrap(); w != nil && w.Keep != nil {
		// As many links of the new pitch as fit the belt's length.
		links := int(math.Round(float64(w.Keep.Links) * w.Keep.Pitch / pitch))
		if links >= 3 {
			out = append(out, offer(say("offer.pitch-links", links, length(pitch)), []Edit{
				{g.shape("keep"), scene.KeptLength{Links: links, Pitch: pitch, Pins: w.Keep.Pins}},
				{g.pointer("train/spacing/mode"), place.SetCount}, {g.pointer("train/spacing/count"), links}}))
		}
		return out
	}
	if sp.Mode != place.Scatter && pitch < g.rig.Curve.Length() {
		out = append(out, offer(say("offer.pitch", length(pitch)), []Edit{
			{g.pointer("train/spacing/mode"), place.SetPitch}, {g.pointer("train/spacing/pitch"), pitch}, {g.pointer("train/spacing/gap"), 0}}))
	}
	return out
}

// lengthField is the field of a generated part's shape that says how long it is along its
// forward, as a pointer below its shape; not ok where no one field does.
func lengthField(p *scene.Part) (pointer string, ok bool) {
	along := "z"
	if n := len(p.Forward); n > 0 {
		along = string(p.Forward[n-1])
	}
	s := &p.Shape
	if along != "z" {
		if s.Box != nil {
			return map[string]string{"x": "box/side", "y": "box/height"}[along], true
		}
		return "", false
	}
	for name, there := range map[string]bool{"box": s.Box != nil, "shoe": s.Shoe != nil, "float": s.Float != nil, "tube": s.Tube != nil,
		"eel": s.Eel != nil, "plank": s.Plank != nil, "dart": s.Dart != nil, "strip": s.Strip != nil, "strands": s.Strands != nil} {
		if there {
			return name + "/length", true
		}
	}
	return "", false
}

var overlapKind = Kind{
	Words: []Words{{ID: "overlap"}},
	gauges: func(m *measure) []gauge {
		if !m.rig.Row || m.rig.Layout.Count < 2 {
			return nil
		}
		return []gauge{newOverlap(m)}
	},
}
