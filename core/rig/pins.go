package rig

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// spaced solves the spacing of rigid pieces on their path.
func (t *Rig) spaced(curve *path.Curve) (place.Layout, error) {
	sp, partLength := t.traits.Spacing, t.scene.Parts[t.Part].Length*t.scale
	spec := place.Spec{Mode: sp.Mode, Count: sp.Count, Pitch: sp.Pitch, Gap: sp.Gap, Rest: sp.Rest, Seed: sp.Seed, Even: sp.Even}
	layout, err := place.Solve(curve.Length(), t.ComesRound, spec, partLength)
	if err != nil || !t.Pinned {
		return layout, err
	}
	// A pitch that was typed is kept, and the seam takes what is left over; otherwise the pitch gives way until the
	// links close.
	kept := sp.Mode == place.SetPitch || sp.Mode == place.CloseUp && sp.Rest == place.RestSlack
	if !t.ComesRound || !curve.Closed() {
		if !kept {
			if sp.Mode == place.CloseUp {
				layout.Count = max(layout.Count-1, 1) // pieces lie between pins
			}
			_, layout.Pitch, err = place.EvenPins(curve, layout.Count+1)
			return layout, pinFault(err)
		}
		// As many as fit, one after another: how many that are cannot be told from the length, for chords cut corners.
		n, s := 0, 0.0
		for n < place.MaxPieces {
			next, err := place.NextPin(curve, s, layout.Pitch)
			if err != nil {
				break
			}
			s, n = next, n+1
		}
		if n == 0 {
			return layout, &place.FieldError{Field: "pitch", Text: fmt.Sprintf("no two pins %g m apart lie on the path: a shorter pitch is accepted", layout.Pitch)}
		}
		layout.Count, layout.Seam = n, curve.Length()-s
		return layout, nil
	}
	// The length of such a belt is solved for these links, so they close by themselves.
	if b := t.belt(); b != nil && b.Keep != nil && b.Keep.Pins && b.Keep.Links == layout.Count {
		layout.Pitch = b.Keep.Pitch // the belt sees to it
		return layout, nil
	}
	if !kept {
		_, layout.Pitch, err = place.EvenPins(curve, layout.Count)
		return layout, pinFault(err)
	}
	pins, err := place.MarchPins(nil, curve, 0, layout.Pitch, layout.Count+2)
	if err != nil {
		return layout, pinFault(err)
	}
	if pins[layout.Count+1] <= curve.Length() { // chords are shorter than arcs: one more may fit
		layout.Count++
	}
	layout.Seam = curve.Length() - pins[layout.Count]
	// Within rounding it is closed. A seam that small would be shown, and checked, as if it were a fault.
	if math.Abs(layout.Seam) < 1e-9*curve.Length() {
		layout.Seam = 0
	}
	return layout, nil
}

func pinFault(err error) error {
	if err == nil {
		return nil
	}
	return &place.FieldError{Field: "pitch", Text: err.Error()}
}

// partsOf finds the part of each piece; false when one has a fault.
func (c *compiler) partsOf(i int, t *Rig, count int) bool {
	sit := func(k int) seat {
		p := &c.Parts[k]
		s := seat{axes: p.Axes, house: p.Axes == houseAxes}
		// From the pivot to the middle along forward: on its pins a part is centred between them, whatever its pivot.
		s.middle = p.Bounds.Min.Add(p.Bounds.Max).Mul(0.5).Sub(p.Axes.Pivot).Dot(p.Axes.Forward)
		return s
	}
	t.seat = sit(t.Part)
	others := t.traits.Others
	if len(others) == 0 {
		return true
	}
	t.Parts, t.seats = make([]int, count), make([]seat, len(c.Parts))
	for k := range t.seats {
		t.seats[k] = sit(k)
	}
	for k := range t.Parts {
		t.Parts[k] = t.Part
	}
	// Later ones take what earlier ones took, as later tints lie over earlier ones.
	for n := range others {
		o := &others[n]
		p := c.PartAt(o.Part)
		if c.PartFaulty(p) {
			return false
		}
		for _, piece := range o.Pieces {
			if piece < 1 || piece > count {
				c.Say(fmt.Errorf("piece %d is not there: 1 to %d are", piece, count), "rigs[%d].train.others[%d].pieces", i, n)
				return false
			}
		}
		for k := range t.Parts {
			if o.Of(k) {
				t.Parts[k] = p
			}
		}
	}
	return true
}

// PartOf is the part of a piece, an index into the scene.
func (t *Rig) PartOf(piece int) int {
	if t.Parts == nil {
		return t.Part
	}
	return t.Parts[piece]
}

// Pattern is the number of pieces after which their parts and tints repeat, round and round where
// the train comes round; 1 where all are alike.
func (t *Rig) Pattern() int {
	if t.Layout.Scattered() {
		return t.Layout.Count
	}
	// Tints count, too: a loop that is closed in shape but not in colour jumps to the eye.
	if len(t.rig.Tints) == 0 {
		return Period(t.Parts, t.ComesRound)
	}
	type kind struct {
		part   int
		colour string
	}
	known := map[kind]int{}
	list := make([]int, t.Layout.Count)
	for k := range list {
		x := kind{t.PartOf(k), t.scene.tinted(t.index, k, t.Layout.Count, t.scene.MadeOf(t.PartOf(k), scene.OnRig)[0])}
		if _, is := known[x]; !is {
			known[x] = len(known)
		}
		list[k] = known[x]
	}
	return Period(list, t.ComesRound)
}

// Period is the number of entries after which a list repeats, 1 of an empty one; round and round
// where it comes round, so that it divides its length. By the prefix function of Knuth, Morris and
// Pratt, in one pass.
func Period(list []int, round bool) int {
	n := len(list)
	if n == 0 {
		return 1
	}
	// The list repeats after n less the longest beginning that is also its end.
	// same[i] is the length of the longest beginning that is also an end of the first i+1.
	same := make([]int, n)
	for i, k := 1, 0; i < n; i++ {
		for k > 0 && list[i] != list[k] {
			k = same[k-1]
		}
		if list[i] == list[k] {
			k++
		}
		same[i] = k
	}
	m := n - same[n-1]
	// Round and round a period that does not divide the length would be broken at the seam.
	if round && n%m != 0 {
		return n
	}
	return m
}

// Turn is the travel that brings every piece once round.
func (t *Rig) Turn() float64 {
	// Links on pins have come once round after as many pitches as there are links; the curve, which they cut, is
	// longer.
	if t.Pinned && t.ComesRound && t.Layout.Seam == 0 {
		return t.Layout.Pitch * float64(t.Layout.Count)
	}
	return t.Curve.Length()
}

// pinned seats pieces on their pins. The first pin, the root, stands within a pitch of
// where the train begins and is carried evenly through that pitch (on a path whose
// distances begin on a driving sprocket this is the sprocket's own turning); the others
// are marched from it in straight lines of one pitch. After a pitch of travel each pin
// stands where the next one stood.
func (t *train) pinned(dst *Pieces, m *moment) {
	now, base, pose, roll := m.Posed, m.base, m.pose, m.roll
	n := now.Layout.Count
	chord := now.Layout.Pitch
	curve := now.Curve
	round := t.ComesRound && curve.Closed()
	root, whole := base, 0.0
	if t.ComesRound {
		root, whole = place.Root(curve, root, chord)
	}
	dst.Pins = resized(dst.Pins, n+1)
	dst.Distances, dst.Transforms = resized(dst.Distances, n), resized(dst.Transforms, n*Stride)
	dst.pinAt = resized(dst.pinAt, n+1)
	switch {
	case round && now.Layout.Seam == 0 && t.belt() != nil:
		closeUp(dst.Pins, dst.pinAt, curve, root, chord, share)
	case round && now.Layout.Seam == 0:
		// Without a driver or ground to be exact on, all links take an equal share: the least spread.
		closeUp(dst.Pins, dst.pinAt, curve, root, chord, func(float64) float64 { return 1 })
	default:
		place.March(dst.Pins, dst.pinAt, curve, root, chord)
	}
	dst.FirstPin = -int(whole)
	k := 0
	if t.ComesRound {
		k = int(math.Mod(whole, float64(n)))
		k = (k + n) % n
	}
	for j := range n {
		if dst.givenUp(j) {
			return
		}
		// Between pin j and the next lies the piece of that number.
		// Pin numbers rise along the path while pieces keep theirs: after whole pitches every piece has moved on by so
		// many pins.
		i := ((j-k)%n + n) % n
		a, b := dst.Pins[j], dst.Pins[j+1]
		p, q := dst.pinAt[j], dst.pinAt[j+1]
		f := now.Field.Frame((a + b) / 2)
		if turn := roll + t.rollAt(curve, (a+b)/2); turn != 0 {
			f.U = geom.RotateAbout(f.U, f.T, turn)
		}
		// The frame's origin and forward are the chord's; its up is the path's, made square to that.
		f.P, f.T = p.Lerp(q, 0.5), q.Sub(p).Unit()
		f.U = f.U.Sub(f.T.Mul(f.U.Dot(f.T))).Unit()
		if m.moved {
			f = pose.Frame(f)
		}
		sit := t.seatOf(i)
		// The part's middle between the pins, though the part is placed by its pivot.
		f.P = f.P.Mad(f.T, -sit.middle*t.scale)
		at, turn := sit.on(f, t.scale)
		d := (a + b) / 2
		if round {
			d = curve.Wrap(d)
		}
		dst.Distances[i] = d
		put(dst.Transforms[i*Stride:], at, turn, float32(t.scale))
	}
}

// closeUp marches pins from a root once round to itself. The polygons that rigid links make
// round sprockets leave a little, which changes as they turn; the links far from the root
// take it, so that those next to it, on the driver or on the ground, are carried as they
// are. Which link takes how much, its share, is a matter of its place alone (as a share of the
// way round), so that a pitch of travel brings each pin to where the next one stood. By the
// secant method.
func closeUp(pins []float64, at []geom.Vec, c *path.Curve, root, chord float64, share func(u float64) float64) {
	n, length := len(pins)-1, c.Length()
	at[0], _ = c.At(root)
	weight := 0.0 // of all shares: what a metre more to share out makes at the end
	over := func(more float64) float64 {
		pins[0], weight = root, 0
		for i := range n {
			w := share(c.Wrap(pins[i]) / length)
			weight += w
			// Marching may find no point a chord ahead on a bend tighter than the chord; the pins then go straight on
			// (March).
			next, p, err := place.PinAfter(c, pins[i], at[i], chord+more*w)
			if err != nil {
				return math.NaN()
			}
			pins[i+1], at[i+1] = next, p
		}
		return pins[n] - root - length
	}
	a, fa := 0.0, over(0)
	// The first guess: what is left over, shared out by weight, as if the end moved one for one.
	b := a - fa/max(weight, 1)
	for range 20 {
		if math.Abs(fa) <= 1e-10*length || math.IsNaN(fa) || a == b {
			// 1e-10 of the way round is far below what single precision shows, and above what rounding of the sum
			// leaves.
			break
		}
		fb := over(b)
		if fb == fa {
			break
		}
		a, fa, b = b, fb, b-fb*(b-a)/(fb-fa)
	}
	if math.IsNaN(fa) {
		place.March(pins, at, c, root, chord)
	}
}

// share is the weight of a link at u, its place as a share of the way round from 0 to 1, when the closure
// error is shared out.
func share(u float64) float64 {
	ramp := func(x float64) float64 { x = min(max(x, 0), 1); return x * x * (3 - 2*x) }
	// None to links next to the root, on the first quarter of the round (its driver or the ground), and a smooth way
	// in and out so that no link's share jumps as it moves on.
	return ramp((u-0.27)/0.05) * ramp((0.995-u)/0.03)
}

// pinNumber is the number of the pin at a distance, with fractions between two pins. It counts on over every
// round, so that one point of the belt has one number in every frame.
func (t *Rig) pinNumber(d, frame float64, p *Pieces) float64 {
	if !t.Pinned {
		return (d-t.baseAt(p.Offset+p.Travel, frame))/t.At(frame).Layout.Pitch + 0.5
	}
	n := len(p.Pins) - 1
	length := t.At(frame).Curve.Length()
	rounds := 0.0
	if t.ComesRound {
		rounds = math.Floor((d - p.Pins[0]) / length)
		d -= rounds * length
	}
	k := 0
	// The pins are in order and few frames ask; a search by halves would not be seen in a profile.
	for k < n-1 && p.Pins[k+1] <= d {
		k++
	}
	return rounds*float64(n) + float64(k+p.FirstPin) + (d-p.Pins[k])/(p.Pins[k+1]-p.Pins[k])
}

// pinPlace is the distance of a pin of a whole number, on the round on which it lies at or
// behind from.
func (t *Rig) pinPlace(number, from, frame float64, p *Pieces) float64 {
	if !t.Pinned {
		return (number-0.5)*t.At(frame).Layout.Pitch + t.baseAt(p.Offset+p.Travel, frame)
	}
	n := len(p.Pins) - 1
	k := int(math.Mod(number-float64(p.FirstPin), float64(n)))
	d := p.Pins[(k+n)%n]
	length := t.At(frame).Curve.Length()
	if !t.ComesRound {
		return d
	}
	// 1e-12 of a round: a pin that stands at from itself must not be sent a whole round ahead by rounding.
	return d + length*math.Ceil((from-d)/length-1e-12)
}

// put writes a piece's transform.
func put(o []float32, p geom.Vec, q geom.Quat, scale float32) {
	o = o[:Stride:Stride]
	o[0], o[1], o[2] = float32(p.X), float32(p.Y), float32(p.Z)
	o[3], o[4], o[5], o[6] = float32(q.X), float32(q.Y), float32(q.Z), float32(q.W)
	o[7], o[8], o[9] = scale, scale, scale
}

// Unavoidable is the greatest change of pitch over one pitch of travel, metres, that a closed train on its
// pins cannot avoid: the pitch with which its links close differs from place to place. 0 where it does not,
// and on belts, which adjust their length.
func (t *Rig) Unavoidable() float64 {
	if !t.Pinned || !t.ComesRound || !t.Curve.Closed() || t.Layout.Seam != 0 || t.belt() != nil {
		return 0
	}
	least, most := math.Inf(1), 0.0
	const places = 64
	for k := range places {
		pitch, err := place.ClosingPitch(t.Curve, t.Layout.Pitch*float64(k)/places, t.Layout.Count)
		if err != nil {
			continue // so coarse that no chord closes from there: the others tell
		}
		least, most = min(least, pitch), max(most, pitch)
	}
	return max(most-least, 0)
}
