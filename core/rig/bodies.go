package rig

import (
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
func (c *compiler) bodies(i int, t *Train, pieces int) bool {
	for k := range pieces {
		p := t.Part
		if t.Kinds != nil {
			p = t.Kinds[k]
		}
		if c.over(&c.spent.bodies, len(c.Parts[p].Mesh.Positions)/3, maxBodies, "vertices of pieces that bend", "fewer pieces, segments or rigs are accepted", "rigs[%d].part", i) {
			return false
		}
	}
	t.bodies = make([]*bend.Body, len(c.Parts))
	t.bodies[t.Part] = c.body(t.Part, t.scale)
	for _, k := range t.Kinds {
		if t.bodies[k] == nil {
			t.bodies[k] = c.body(k, t.scale)
		}
	}
	shapes := t.rig.Blends()
	for k := range shapes {
		s := c.value(blendRef(t.rig.ID, k))
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
			c.say(errNoBlend(shapes[k].Name, t.bodies[t.Part].Blends), "rigs[%d].%s.blends[%d].name", i, t.rig.Kind(), k)
			return false
		}
	}
	return true
}

// Body is the body of a piece that bends; nil of rigid pieces.
func (t *Train) Body(piece int) *bend.Body {
	if t.bodies == nil {
		return nil
	}
	return t.bodies[t.PartOf(piece)]
}

// Bends reports whether the pieces take the form of the path.
func (t *Train) Bends() bool { return t.bodies != nil }

// Reach is the distance of tail and head of a piece that bends, metres, before wrapping; its
// stretch; and whether it is shown at the frame.
type Reach struct {
	Tail, Head float64
	Stretch    float64
	Shown      bool
}

// minStretch is the least stretch of a body: drawn together more it would turn inside out.
const minStretch = 1e-4

// ReachOf returns where piece i lies at a frame.
func (t *Train) ReachOf(i int, frame float64) Reach {
	if t.rig.Body == nil {
		return about(t.Body(i), t.Distance(i, frame), true)
	}
	if t.rig.Body.Rounds != nil {
		return t.reachOf(i, 0, frame) // each round has a base of its own
	}
	return t.reachOf(i, t.base(frame), frame)
}

// about is the reach of a piece of a train, which bends about its place.
func about(body *bend.Body, at float64, shown bool) Reach {
	return Reach{at + body.Tail, at + body.Head, 1, shown}
}

func (t *Train) reachOf(i int, base, frame float64) Reach {
	b := t.rig.Body
	body := t.Body(i)
	r := Reach{Shown: true, Stretch: 1}
	now := frame
	if k := b.Rounds; k != nil {
		// From round to round, and after the last from the first on again.
		first, all := t.scene.Clock.First, k.Frames*float64(k.Count)
		now -= all * math.Floor((frame-first)/all)
		if k.All {
			now = frame
		} else {
			r.Shown = now-first >= float64(i)*k.Frames && now-first < float64(i+1)*k.Frames
			now -= float64(i) * k.Frames
		}
		base = t.base(now) + float64(i)*k.Stride
	}
	c := t.At(frame).Curve
	length, body1 := c.Length(), body.Length()
	switch b.Fit {
	case scene.FitWhole:
		r.Tail, r.Head = base, base+length
	case scene.FitReach:
		r.Tail, r.Head = base+t.tail.at(now, t.scene.Clock), base+t.head.at(now, t.scene.Clock)
	default:
		r.Tail = base - anchorShare[b.Anchor]*body1
		r.Head = r.Tail + body1
	}
	r.Head = max(r.Head, r.Tail+minStretch*body1)
	if t.rig.PastEnd() == scene.Stop && !c.Closed() {
		switch {
		case r.Head-r.Tail >= length: // no room: it stands at the start
			r.Tail, r.Head = 0, r.Head-r.Tail
		case r.Head > length:
			r.Tail, r.Head = r.Tail-(r.Head-length), length
		case r.Tail < 0:
			r.Tail, r.Head = 0, r.Head-r.Tail
		}
	}
	r.Stretch = (r.Head - r.Tail) / body1
	return r
}

var anchorShare = map[string]float64{scene.AtTail: 0, scene.AtMiddle: 0.5, scene.AtHead: 1}

// speed is how fast the rig goes along its path at a frame, m/s; 0 where nothing leans by it.
func (t *Train) speed(frame float64) float64 {
	if t.rig.Facing.Bank == nil {
		return 0
	}
	return (t.travel.at(frame+0.5, t.scene.Clock) - t.travel.at(frame-0.5, t.scene.Clock)) * t.scene.Clock.FPS
}

// lean is the angle in radians by which a rider at distance d leans into the bend: atan(v^2 k / g)
// for the curvature k seen from above, the mean over a stretch so that it sets in gently.
func (t *Train) lean(c *path.Curve, d, speed float64) float64 {
	b := t.rig.Facing.Bank
	if b == nil || speed == 0 {
		return 0
	}
	over := b.Over
	if over == 0 {
		over = c.Length() / 10
	}
	_, p := c.At(d - over/2)
	_, q := c.At(d + over/2)
	p.Y, q.Y = 0, 0
	turn := geom.AngleAbout(geom.V(0, 1, 0), p, q)
	// To the left the right side goes up: about forward, up turns to the left side, which is +x.
	return -b.Share * math.Atan(speed*speed*turn/over/gravity)
}

// bend fills dst with the bodies of the pieces.
func (t *Train) bend(dst *Pieces, now *Posed, pose geom.Rigid, base, frame float64) {
	dst.Positions, dst.Normals = dst.Positions[:0], dst.Normals[:0]
	n := now.Layout.Count
	dst.Reach = resized(dst.Reach, n)
	total := 0
	for i := range n {
		total += 3 * t.Body(i).Vertices()
	}
	dst.Positions, dst.Normals = resized(dst.Positions, total), resized(dst.Normals, total)
	speed := t.speed(frame)
	at := 0
	for i := range n {
		body := t.Body(i)
		var r Reach
		if t.rig.Body != nil {
			r = t.reachOf(i, base, frame)
		} else {
			r = about(body, dst.Distances[i], dst.Transforms[i*Stride+9] != 0)
		}
		dst.Reach[i] = r
		dst.amounts = t.amounts(dst.amounts, body, frame)
		body.Pose(&dst.work, dst.amounts)
		dst.sections = resized(dst.sections, len(dst.work.Places))
		t.sections(dst, now, body, r, pose, frame, speed)
		end := at + 3*body.Vertices()
		body.Bend(dst.Positions[at:end], dst.Normals[at:end], &dst.work, dst.sections)
		at = end
	}
}

// sections lays the sections of a body along the path.
func (t *Train) sections(dst *Pieces, now *Posed, body *bend.Body, r Reach, pose geom.Rigid, frame, speed float64) {
	roll := dst.Roll * math.Pi / 180
	b := t.rig.Body
	twist, volume := 0.0, 1.0
	if b != nil {
		twist = t.twist.at(frame, t.scene.Clock) * math.Pi / 180
		if b.Volume {
			volume = scene.VolumeScale(r.Stretch)
		}
	}
	length := body.Length()
	moved := pose != geom.Still
	turns := roll != 0 || twist != 0 || len(t.marks) > 0 || t.rig.Facing.Bank != nil
	for k, z := range dst.work.Places {
		s := r.Tail + (z-body.Tail)*r.Stretch
		f := now.Field.Frame(s)
		curve := now.Curve.Curvature(s)
		tau := now.Field.Rate(s, f, curve)
		sec := bend.Section{W: volume, K: r.Stretch}
		if !r.Shown {
			sec.W, sec.K = 0, 0
		}
		if turns {
			u := (z - body.Tail) / length
			turn, slope := t.rollSlope(now.Curve, s)
			turn += roll + twist*u
			tau += slope + twist/(length*r.Stretch)
			if t.rig.Facing.Bank != nil {
				h := 1e-4 * now.Curve.Length()
				turn += t.lean(now.Curve, s, speed)
				tau += (t.lean(now.Curve, s+h, speed) - t.lean(now.Curve, s-h, speed)) / (2 * h)
			}
			f.U = geom.RotateAbout(f.U, f.T, turn)
		}
		if b != nil && len(b.Taper) > 0 && length > 0 {
			w, slope := b.TaperAt((z - body.Tail) / length)
			sec.W, sec.DW = sec.W*w, sec.W*slope/length
		}
		if moved {
			f, curve = pose.Frame(f), pose.Turn(curve)
		}
		sec.P, sec.U, sec.T, sec.S, sec.Tau = f.P, f.U, f.T, f.Side(), tau
		sec.Ks, sec.Ku = curve.Dot(sec.S), curve.Dot(sec.U)
		dst.sections[k] = sec
	}
	if !r.Shown { // all of it in one place
		for k := range dst.sections {
			dst.sections[k].P = dst.sections[0].P
		}
	}
}

// rollSlope is the roll of the beads at a distance, radians, and its change a metre.
func (t *Train) rollSlope(c *path.Curve, d float64) (roll, slope float64) {
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
func (t *Train) Sections(dst *Pieces, i int, frame float64, places []float64) []bend.Section {
	now := t.At(frame)
	dst.Roll = t.Roll(frame)
	dst.work.Places = append(dst.work.Places[:0], places...)
	dst.sections = resized(dst.sections, len(places))
	speed := t.speed(frame)
	t.sections(dst, now, t.Body(i), dst.Reach[i], t.scene.pathPose(t.Path, frame), frame, speed)
	return dst.sections
}

// VertexSamples is the number of vertices of all bodies that bend, but for those of rigs that are
// skipped; nil skips none.
func (s *Scene) VertexSamples(skip []bool) int {
	n := 0
	for i := range s.Trains {
		t := &s.Trains[i]
		for k := range t.Layout.Count {
			if t.Bends() && (skip == nil || !skip[i]) {
				n += t.Body(k).Vertices()
			}
		}
	}
	return n
}

// CentreSamples is the number of places of a body's middle line that tables hold.
const CentreSamples = 33

// CentreLine returns the sections of piece i at even places from tail to head in a picture of the
// frame, and the distances of the places along the path.
func (t *Train) CentreLine(p *Pieces, i int, frame float64) (sections []bend.Section, distances []float64) {
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
func (t *Train) Amounts(frame float64) []float64 {
	return t.amounts(nil, t.Body(0), frame)
}

// AmountsOf fills dst with the amounts of a piece's own blends at a frame.
func (t *Train) AmountsOf(dst []float64, piece int, frame float64) []float64 {
	return t.amounts(dst, t.Body(piece), frame)
}

// amounts fills dst with those of a body, whose blends go by their names: a piece of another part
// may have others.
func (t *Train) amounts(dst []float64, body *bend.Body, frame float64) []float64 {
	dst = resized(dst, len(body.Blends))
	shapes := t.rig.Blends()
	for i, name := range body.Blends {
		dst[i] = 0
		for k, s := range t.blends {
			if shapes[k].Name == name {
				dst[i] += s.at(frame, t.scene.Clock)
			}
		}
	}
	return dst
}

// BlendsUsed reports which of the body's blends the rig uses.
func (t *Train) BlendsUsed() []int {
	out := append([]int(nil), t.blendAt...)
	slices.Sort(out)
	return slices.Compact(out)
}

// Deviation is the greatest distance between a bent piece of the train and its rigid self on the
// same place of the path in the first frame, by the corners of its box: with it a person
// chooses between the two. 0 of bodies of their own.
func (t *Train) Deviation() (most float64, piece int) {
	if t.rig.Kind() != scene.KindTrain || t.Pinned {
		return 0, 0
	}
	frame := t.scene.Clock.First
	now := t.At(frame)
	base := t.base(frame)
	const looks = 200 // pieces that are looked at, evenly over all of them
	for i := 0; i < now.Layout.Count; i += now.Layout.Count/looks + 1 {
		at := t.wrap(now.Curve, base+now.Layout.At(i))
		part := &t.scene.Parts[t.PartOf(i)]
		a, box := &part.Axes, part.Bounds
		mid := now.Field.Frame(at)
		for k := range 8 {
			c := box.Min
			if k&1 != 0 {
				c.X = box.Max.X
			}
			if k&2 != 0 {
				c.Y = box.Max.Y
			}
			if k&4 != 0 {
				c.Z = box.Max.Z
			}
			c = c.Sub(a.Pivot).Mul(t.scale)
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
