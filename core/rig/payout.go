package rig

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/machine"
	"bead/core/mech"
	"bead/core/path"
	"bead/core/scene"
)

// What a roll is drawn with.
const (
	rollSides     = 64  // straights round it
	rollArms      = 12  // turns of the spiral on its end faces, at most
	armDepth      = 0.2 // how deep an arm's step is, of its width
	maxStations   = 2000
	onTheWay      = 1e-9 // share of a radius within which a roll touches
	contactLooks  = 48   // places of the way that are looked at on either side of a roll
	contactHalves = 60
)

// payout is a roll that lays out a sheet along its path, or winds it up. Its travel is the distance at which
// the sheet meets the roll.
type payout struct {
	carried
	doc      *scene.Payout
	away     *machine.Signal
	roll     mech.Roll
	stations []float64 // distances at which the sheet has vertices across
	arms     int
}

func (t *payout) prepare(c *compiler) bool { return c.own(t.Rig, "away", &t.away) }

func (t *payout) at(_ int, frame float64) float64 { return t.state(frame).at }

func (t *payout) ends(frame float64) (tail, head float64) {
	s := t.state(frame)
	return s.from, s.to
}

func (t *payout) reach(_ int, frame float64) Reach {
	s := t.state(frame)
	return Reach{Tail: s.from, Head: s.to, Stretch: 1, Shown: s.to > s.from}
}

func (t *payout) ready(c *compiler) (field string, err error) {
	d := t.doc
	t.roll = mech.Roll{Thickness: d.Thickness, Full: d.Radius, Core: d.Core}
	length := t.roll.Capacity()
	// Before stations and vertices take memory.
	if length > maxLaid {
		return "payout.thickness", fmt.Errorf("the roll holds %.3g m of sheet: up to %g m are accepted, so a thicker sheet or a smaller roll", length, maxLaid)
	}
	// The way's own stations, closer where it bends, as far as the sheet can reach.
	own := t.Curve.Length()
	marks := t.Curve.Stations(nil, t.scene.Doc.Paths[t.Path].Chord(own), path.DrawnTurn)
	// On a loop the sheet may lie several times round, one layer of stations a round.
	for round := 0.0; round < length && len(t.stations) <= maxStations; round += own {
		for _, s := range marks[:len(marks)-1] {
			if round+s < length {
				t.stations = append(t.stations, round+s)
			}
		}
		// Off the end of an open way the sheet would lie on nothing.
		if !t.Curve.Closed() {
			if own < length {
				t.stations = append(t.stations, own)
			}
			break
		}
	}
	t.stations = append(t.stations, length)
	if len(t.stations) > maxStations {
		return "path", fmt.Errorf("the way has more than %d straights for a sheet %.3g m long: a coarser display tolerance or a shorter way is accepted", maxStations, length)
	}
	t.stations = t.closer(t.stations)
	t.arms = min(max(int(math.Round(t.roll.Turns())), 1), rollArms)
	t.moulds = []Mould{t.sheetMould(), t.rollMould()}
	if err := machine.Spend(&c.spent.bodies, t.moulds[0].vertices()+t.moulds[1].vertices(), maxBodies, "vertices of pieces that bend", "a shorter way, or fewer pieces, segments or rigs are accepted"); err != nil {
		return "path", err
	}
	// The moulds' own vertices are those of the first frame, for receivers that show a rest pose.
	var p Pieces
	t.frame(&p, t.scene.Clock.First)
	at := 0
	for i := range t.moulds {
		at += copy(t.moulds[i].Mesh.Positions, p.Positions[at:])
	}
	return "", nil
}

// closer adds stations so that the texture, which is compressed from the last laid station to the roll, is
// compressed only below the roll; very long sheets get fewer.
func (t *payout) closer(stations []float64) []float64 {
	// A quarter of the full radius is finer than the roll's own facets where it touches down.
	gap := max(t.doc.Radius/4, stations[len(stations)-1]/float64(mostCloser))
	out := stations[:1:1]
	for i, s := range stations[1:] {
		from := stations[i]
		n := math.Ceil((s - from) / gap)
		for k := 1.0; k < n; k++ {
			out = append(out, from+(s-from)*k/n)
		}
		out = append(out, s)
	}
	return out
}

// mostCloser is how many stations come between others at most.
const mostCloser = 1000

// maxLaid is the most sheet that a roll may hold, metres.
const maxLaid = 1e5

// paid is a roll at a frame.
type paid struct {
	at       float64 // where it stands on the way
	from, to float64 // what of the way is covered
	meets    float64 // where the sheet meets the roll, or ended when it ran out
	radius   float64
	turned   float64 // radians, what is up goes ahead
	out      bool    // all of the sheet is off, or on
}

// state is the roll at a frame, on the way as it is then.
func (t *payout) state(frame float64) paid { return t.stateAt(t.base(frame), frame) }

func (t *payout) stateAt(base, frame float64) paid {
	length := t.roll.Capacity()
	s := paid{at: base, meets: min(max(base, 0), length), radius: t.doc.Radius}
	if t.doc.Winds {
		s.to, s.radius = length, t.doc.Core
	}
	// Before the sheet begins the roll goes along bare, and turns by its way.
	if base <= 0 { // it rolls up to where the sheet begins
		s.turned = base / s.radius
	} else {
		on := t.rests(t.At(frame), s.meets)
		s.meets, s.at = on, on
		// What has come off, or is still on, is what its radius goes by.
		off := on
		if t.doc.Winds {
			off = length - on
		}
		s.radius, s.turned = t.roll.Radius(off), t.roll.Turned(off)
		// A roll that winds began as its core and turns the same way as one that lays.
		if t.doc.Winds { // it began bare
			s.turned = t.roll.Turned(length) - s.turned
		}
	}
	// What rolls on when the sheet has run out goes by a value of its own, not by the travel.
	if base >= length {
		s.out = true
		away := t.away.At(frame, t.scene.Clock)
		s.at += away
		s.turned += away / s.radius
	}
	if t.doc.Winds {
		s.from = s.meets
	} else {
		s.to = s.meets
	}
	return s
}

// radiusAt is that of the roll when the sheet meets it at a distance.
func (t *payout) radiusAt(d float64) float64 {
	if t.doc.Winds {
		d = t.roll.Capacity() - d
	}
	return t.roll.Radius(d)
}

// rests is the last distance, up to a given one, at which the roll can touch the path. In a dip tighter than
// itself it touches both sides, and the sheet ends at the one behind.
func (t *payout) rests(now *Posed, d float64) float64 {
	if t.clears(now, d) {
		return d
	}
	// Backwards in steps that a roll cannot jump over: a 48th of its radius, over eight radii.
	step := t.radiusAt(d) / contactLooks
	lo := d
	for k := 0; k < 8*contactLooks && lo > 0; k++ {
		if lo = max(lo-step, 0); t.clears(now, lo) {
			break
		}
	}
	hi := lo + step
	// Halves of that step, to the last bit.
	for range contactHalves {
		mid := (lo + hi) / 2
		if t.clears(now, mid) {
			lo = mid
		} else {
			hi = mid
		}
	}
	return lo
}

// clears reports whether a roll that touches the path at a distance cuts into it nowhere else.
func (t *payout) clears(now *Posed, d float64) bool {
	r := t.radiusAt(d)
	f := now.Field.Frame(d)
	// A bend inwards that is tighter than the roll itself: it cannot lie in there.
	if now.Curve.Curvature(d).Dot(f.U)*r > 1 {
		return false
	}
	hub, side := f.P.Mad(f.U, r), f.Side()
	off := func(along float64) float64 { // of the way there from the hub, as seen along it
		q := now.Field.Frame(d + along).P.Sub(hub)
		return q.Mad(side, -q.Dot(side)).Norm()
	}
	step := 3.2 * r / contactLooks // once round and more
	for _, sense := range [2]float64{-1, 1} {
		before, here := r, off(sense*step)
		for k := 1; k <= contactLooks; k++ {
			next := off(sense * step * float64(k+1))
			// At every low point of the distance from the hub; between those the way only comes nearer to one.
			if here < before && here <= next && here < r+step && nearest(off, sense*step*float64(k-1), sense*step*float64(k+1)) < r*(1-onTheWay) {
				return false
			}
			before, here = here, next
		}
	}
	return true
}

// nearest is the least value of a unimodal function between two places.
func nearest(of func(float64) float64, a, b float64) float64 {
	// By thirds: each round takes a third off, whatever the function's slope.
	for range contactHalves {
		p, q := a+(b-a)/3, b-(b-a)/3
		if of(p) < of(q) {
			b = q
		} else {
			a = p
		}
	}
	return of((a + b) / 2)
}

func (t *payout) stand(dst *Pieces, m *moment) {
	s := t.stateAt(m.base, m.frame)
	f := t.worldFrame(m, s.at)
	f.P = f.P.Mad(f.U, s.radius)
	// The sheet meets the roll straight below the hub; the roll's own turning does not count for that.
	still := f
	side := f.Side()
	f.U, f.T = geom.RotateAbout(f.U, side, s.turned), geom.RotateAbout(f.T, side, s.turned)
	t.stood(dst, 0, s.at, f, float32(t.scale))
	w := moulder{dst.Positions[:0], dst.Normals[:0]}
	t.mouldSheet(&w, m, s)
	t.mouldRoll(&w, still, s)
	dst.Positions, dst.Normals = w.positions, w.normals
	dst.Reach = append(dst.Reach[:0], Reach{s.from, s.to, 1, true}, Reach{s.at, s.at, 1, true})
}

// The sheet is a flat bar along the way: eight vertices a station, two at each corner of its
// section, and four more at each end.
const perStation = 8

func (t *payout) sheetMould() Mould {
	n := len(t.stations)
	var uvs []float32
	var indices []uint32
	half := float32(t.doc.Width / 2)
	for _, s := range t.stations {
		for _, u := range [perStation]float32{-half, half, half, half, half, -half, -half, -half} {
			uvs = append(uvs, u, float32(s))
		}
	}
	for k := range n - 1 {
		a, b := uint32(k*perStation), uint32((k+1)*perStation)
		for i := uint32(0); i < perStation; i += 2 {
			indices = append(indices, a+i, b+i, b+i+1, a+i, b+i+1, a+i+1)
		}
	}
	for end := range 2 {
		at := uint32(n*perStation + 4*end)
		s := float32(t.stations[end*(n-1)])
		uvs = append(uvs, -half, s, half, s, half, s, -half, s)
		if end == 1 {
			indices = append(indices, at, at+1, at+2, at, at+2, at+3)
		} else {
			indices = append(indices, at, at+2, at+1, at, at+3, at+2)
		}
	}
	return newMould("sheet", n*perStation+8, uvs, indices)
}

// mouldSheet writes the sheet as far as it is laid; the rest of its stations are at the place where it meets
// the roll.
func (t *payout) mouldSheet(w *moulder, m *moment, s paid) {
	var first, last geom.Frame
	half, up := t.doc.Width/2, t.doc.Thickness
	// Stations that are not laid yet stand on the end of what is: no triangle of theirs has any area.
	for k, d := range t.stations {
		f := t.worldFrame(m, min(max(d, s.from), s.to))
		if last = f; k == 0 {
			first = f
		}
		side := f.Side()
		right, left := f.P.Mad(side, -half), f.P.Mad(side, half)
		topRight, topLeft := right.Mad(f.U, up), left.Mad(f.U, up)
		w.add(topRight, f.U)
		w.add(topLeft, f.U)
		w.add(topLeft, side)
		w.add(left, side)
		w.add(left, f.U.Neg())
		w.add(right, f.U.Neg())
		w.add(right, side.Neg())
		w.add(topRight, side.Neg())
	}
	// The ends have corners of their own, so that they are shaded as flat faces.
	for k, f := range [2]geom.Frame{first, last} {
		n := f.T
		if k == 0 {
			n = n.Neg()
		}
		side := f.Side()
		w.add(f.P.Mad(side, -half), n)
		w.add(f.P.Mad(side, half), n)
		w.add(f.P.Mad(side, half).Mad(f.U, up), n)
		w.add(f.P.Mad(side, -half).Mad(f.U, up), n)
	}
}

// The roll is its outside, from where the sheet meets it once round, and two end faces whose arms
// wind as the sheet does, each a small step behind the next.
func (t *payout) rollMould() Mould {
	var uvs []float32
	var indices []uint32
	half := float32(t.doc.Width / 2)
	round := float32(2 * math.Pi * t.doc.Radius / rollSides)
	// One more column than sides: the first and last are in one place and differ in texture.
	for k := range rollSides + 1 {
		uvs = append(uvs, -half, float32(k)*round, half, float32(k)*round)
		if k > 0 {
			a, b := uint32(2*k-2), uint32(2*k)
			if t.doc.Winds {
				indices = append(indices, a, b, b+1, a, b+1, a+1)
			} else {
				indices = append(indices, a, b+1, b, a, a+1, b+1)
			}
		}
	}
	rows := 2 * (t.arms + 1)
	// The arms are drawn in step with the turning, not as every turn of the sheet: that would be finer than a pixel.
	for face := range 2 {
		base := uint32(len(uvs) / 2)
		for row := range rows {
			for k := range rollSides + 1 {
				uvs = append(uvs, float32(k)*round, float32(row))
				if row == 0 || k == 0 {
					continue
				}
				a := base + uint32((row-1)*(rollSides+1)+k-1)
				b := a + rollSides + 1
				if (face == 0) == t.doc.Winds {
					indices = append(indices, a, a+1, b+1, a, b+1, b)
				} else {
					indices = append(indices, a, b+1, a+1, a, b, b+1)
				}
			}
		}
	}
	return newMould("roll", len(uvs)/2, uvs, indices)
}

// mouldRoll puts the roll about its hub: f is there, turned as the way is.
func (t *payout) mouldRoll(w *moulder, f geom.Frame, s paid) {
	side, ahead := f.Side(), f.T
	sense := 1.0
	if t.doc.Winds { // the sheet comes from before it
		ahead, sense = ahead.Neg(), -1
	}
	half := t.doc.Width / 2
	way := func(angle float64) geom.Vec { // from straight down to where the sheet goes on
		sin, cos := math.Sincos(angle)
		return f.U.Mul(-cos).Mad(ahead, sin)
	}
	for k := range rollSides + 1 {
		angle := 2 * math.Pi * float64(k) / rollSides
		out := way(angle)
		// Outward, and a little along the spiral on which the radius shrinks by the thickness once round.
		n := out.Mad(way(angle+math.Pi/2), t.doc.Thickness/(2*math.Pi*s.radius)).Unit()
		p := f.P.Mad(out, t.roll.Outline(s.radius, angle))
		w.add(p.Mad(side, -half), n)
		w.add(p.Mad(side, half), n)
	}
	wide := (t.doc.Radius - t.doc.Core) / float64(t.arms)
	deep := min(armDepth*wide, half/4)
	lean := geom.V(wide, deep, 0).Unit()
	for face := range 2 {
		out := side.Mul(float64(2*face - 1))
		for row := range 2 * (t.arms + 1) {
			arm, outer := row/2, row%2
			for k := range rollSides + 1 {
				own := 2 * math.Pi * float64(k) / rollSides
				angle := own - sense*s.turned
				dir := way(angle)
				r := t.doc.Core + wide*(float64(arm+outer)-own/(2*math.Pi))
				// Cut off by the outside of the roll as it is, and by its core.
				r = min(max(r, t.doc.Core), t.roll.Outline(s.radius, path.Modulo(angle, 2*math.Pi)))
				in := half
				if outer == 0 {
					in -= deep
				}
				w.add(f.P.Mad(dir, r).Mad(out, in), out.Mul(lean.X).Mad(dir, -lean.Y).Unit())
			}
		}
	}
}

// Paid is how a roll stands at a frame, in the world.
type Paid struct {
	Hub, Side geom.Vec
	Radius    float64
	Turned    float64 // radians; what is up goes ahead
	From, To  float64 // what of the way is covered, metres
	Laid      float64 // where the sheet meets the roll, metres
	Out       bool    // all of the sheet is off, or wound up
}

// Payout tells how the roll of a rig stands; nil of what is none.
func (t *Rig) Payout(frame float64) *Paid {
	k, is := t.kind.(*payout)
	if !is {
		return nil
	}
	s := k.state(frame)
	f := t.scene.PathPlace(t.Path, frame).Frame(t.faced(t.At(frame), s.at, t.Roll(frame)*math.Pi/180, 0))
	// The hub is a radius above the way.
	return &Paid{Hub: f.P.Mad(f.U, s.radius), Side: f.Side(), Radius: s.radius, Turned: s.turned, From: s.from, To: s.to, Laid: s.meets, Out: s.out}
}

// PayoutReadout is what a roll holds and how far that reaches.
type PayoutReadout struct {
	Capacity float64 `json:"capacity"` // metres of sheet
	Turns    float64 `json:"turns"`
	Reaches  float64 `json:"reaches"` // metres of the way; less than all where the way is shorter
	// RunsOut is the frame at which the sheet ends, left out where it does not in the range.
	RunsOut *float64 `json:"runsOut,omitempty"`
	// FitRadius and FitThickness are those with which the sheet ends at the way's end.
	FitRadius    float64 `json:"fitRadius"`
	FitThickness float64 `json:"fitThickness"`
	Vertices     int     `json:"vertices"`
}

// tell says how much of its sheet there is, and where it runs out.
func (k *payout) tell(told *OfKind) {
	t := k.Rig
	length, way := k.roll.Capacity(), t.Curve.Length()
	out := &PayoutReadout{Capacity: length, Turns: k.roll.Turns(), Reaches: length, FitRadius: k.roll.FullFor(way), FitThickness: k.roll.ThicknessFor(way)}
	if !t.Curve.Closed() {
		out.Reaches = min(length, way)
	}
	for i := range t.moulds {
		out.Vertices += t.moulds[i].vertices()
	}
	r := t.scene.Doc.Range
	// Whole frames first, then the moment within the frame, for people who set keys on it.
	for f := r.First; f <= r.Last; f++ {
		if t.base(float64(f)) < length {
			continue
		}
		lo, hi := float64(f-1), float64(f)
		for range 60 {
			if mid := (lo + hi) / 2; t.base(mid) < length {
				lo = mid
			} else {
				hi = mid
			}
		}
		out.RunsOut = &hi
		break
	}
	told.Payout = out
}
