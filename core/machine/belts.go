package machine

import (
	"errors"
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// belt is a compiled wrapped path.
type belt struct {
	shape  *scene.WrapShape
	wheels []mech.Wheel // as they stand, without those that are free
	of     []int        // their numbers in the shape
	index  []int        // of each of the shape's wheels among them, or -1
	on     []int        // the carrier of each, or -1
	rest   *mech.Solved // in the first frame
	anchor float64      // heading of the belt where distances begin on the anchor's wheel
	pins   float64      // what pins need of length beyond the estimate of it, metres
	moves  bool
	// Links on their pins that go all round, and where the first stands at a frame; 0 where there are none.
	links int
	first func(frame float64) float64
}

// belt makes the belt of path i; nil when it has a fault.
func (c *Builder) belt(i int, note func(string)) *belt {
	shape := c.Doc.Paths[i].Shape.Wrap
	b := &belt{shape: shape, index: make([]int, len(shape.Wheels)), anchor: math.NaN()}
	b.wheels, b.of = shape.Circles()
	say := func(err error) *belt {
		address := fmt.Sprintf("paths[%d].shape.wrap", i)
		err = shape.Explain(err, b.wheels, b.of)
		var we *mech.WheelError
		if errors.As(err, &we) {
			address += fmt.Sprintf(".wheels[%d]", we.Wheel)
		} else if shape.Ends != nil {
			address += ".ends.length"
		}
		c.Say(err, "%s", address)
		return nil
	}
	// All of its wheels are free: there is nothing to lie on.
	if len(b.of) == 0 {
		return say(nil)
	}
	for k := range b.index {
		b.index[k] = -1
	}
	b.on = make([]int, len(b.of))
	for k, n := range b.of {
		b.index[n] = k
		if b.on[k] = c.CarrierIndex(shape.Wheels[n].Carrier); b.on[k] >= 0 {
			if !c.Carrier(b.on[k]) {
				return nil
			}
			b.moves = true
		}
	}
	// The ground below differs from frame to frame.
	b.moves = b.moves || shape.OnGround()
	c.belts[i] = b
	w, ok := c.winchOf(i)
	if !ok {
		return nil
	}
	if w != nil {
		c.winches[i], b.moves, c.deforms[i] = w, true, true
	}
	var err error
	if b.rest, _, err = c.lay(i, c.Clock.First); err != nil {
		return say(err)
	}
	if a := shape.Anchor - 1; a >= 0 && b.index[a] >= 0 {
		if k := b.rest.Contacts[b.index[a]]; k.Touches && !shape.Wheels[a].Ground {
			// The middle of the arc as it is at first; from there on the place on the rim stays.
			b.anchor = k.Heading - b.wheels[b.index[a]].Sense()*k.Angle/2
			if b.rest, _, err = c.lay(i, c.Clock.First); err != nil {
				return say(err)
			}
		}
	}
	if k := shape.Keep; k != nil && k.Pins {
		// By marching the pins themselves, on average over the ways to begin.
		for range 3 {
			covered, ok := b.pinsCover(k)
			if !ok {
				break
			}
			// The length changes where pins lie on the wheels, so they are marched again.
			free, err := taut(c.gear(i, c.Clock.First))
			if err != nil {
				return say(err)
			}
			b.pins = covered - pinEstimate(k, free)
			if b.rest, _, err = c.lay(i, c.Clock.First); err != nil {
				return say(err)
			}
		}
	}
	for k, n := range b.of {
		if !b.rest.Contacts[k].Touches {
			note(shape.Wheels[n].Name + " does not touch the belt: it would have to go round it backwards.")
		}
	}
	return b
}

// pinsCover is how much of the belt's length its pins cover when they are marched along
// it; false where they cannot be.
func (b *belt) pinsCover(k *scene.KeptLength) (covered float64, ok bool) {
	curve, err := path.New(b.shape.SpansOf(b.rest.Belt), true)
	if err != nil {
		return 0, false
	}
	step, err := place.NextPin(curve, 0, k.Pitch)
	if err != nil {
		return 0, false
	}
	const ways = 8
	pins, at := make([]float64, k.Links+1), make([]geom.Vec, k.Links+1)
	for j := range ways {
		place.March(pins, at, curve, step*float64(j)/ways, k.Pitch)
		covered += (pins[k.Links] - pins[0]) / ways
	}
	return covered, true
}

// hubs are the wheels of path i where they are at a frame: moved by their carriers, and
// settled on the ground, which is returned as it lies in the belt's plane.
func (s *Machine) hubs(i int, frame float64) ([]mech.Wheel, mech.Ground) {
	b := s.belts[i]
	// Copies: frames are asked for by many at once.
	wheels := append([]mech.Wheel(nil), b.wheels...)
	ahead, up, _ := b.shape.Axes()
	for k, on := range b.on {
		if on >= 0 {
			at := s.ridden(i, on, frame).Apply(geom.FromArray(b.shape.Wheels[b.of[k]].At))
			wheels[k].X, wheels[k].Y = at.Dot(ahead), at.Dot(up)
		}
	}
	if !b.shape.OnGround() {
		return wheels, nil
	}
	// Only the ground below the wheels.
	lo, hi := math.Inf(1), math.Inf(-1)
	for k := range wheels {
		lo, hi = min(lo, wheels[k].X-wheels[k].R), max(hi, wheels[k].X+wheels[k].R)
	}
	ground := s.section(make(mech.Ground, 0, 64), s.PathPlace(i, frame), b.shape, lo, hi)
	for k := range wheels {
		if h, sprung := b.hanger(k, &wheels[k]); sprung {
			_, hub := h.Settle(ground, mech.Point{X: wheels[k].X, Y: wheels[k].Y}, wheels[k].R+b.shape.Depth)
			wheels[k].X, wheels[k].Y = hub.X, hub.Y
		}
	}
	return wheels, ground
}

// hanger is the suspension of wheel k, and whether it has one.
func (b *belt) hanger(k int, at *mech.Wheel) (h mech.Hanger, sprung bool) {
	w := &b.shape.Wheels[b.of[k]]
	if !w.Ground || w.Spring == nil {
		return h, false
	}
	h.Up, h.Down = w.Spring.Up, w.Spring.Down
	if w.Spring.Arm == nil {
		h.DX, h.DY = math.Sincos(w.Spring.Tilt * math.Pi / 180)
		return h, true
	}
	ahead, up, _ := b.shape.Axes()
	// The arm's pivot moves with what the wheel rides on.
	from := geom.FromArray(*w.Spring.Arm).Sub(geom.FromArray(w.At))
	h.Arm, h.PX, h.PY = true, at.X+from.Dot(ahead), at.Y+from.Dot(up)
	return h, true
}

// ridden is how carrier on has moved since the first frame, seen from path i's space.
func (s *Machine) ridden(i, on int, frame float64) geom.Rigid {
	now := s.PathPlace(i, frame).Inverse().Mul(s.CarrierPlace(on, frame))
	then := s.PathPlace(i, s.Clock.First).Inverse().Mul(s.CarrierPlace(on, s.Clock.First))
	return now.Mul(then.Inverse())
}

// gear is the constraints of path i's belt at a frame (wheels, ground, sag, tensioner), without its length.
func (s *Machine) gear(i int, frame float64) *mech.Gear {
	b := s.belts[i]
	wheels, ground := s.hubs(i, frame)
	g := &mech.Gear{Wheels: wheels, Ground: ground, Depth: b.shape.Depth, Down: make([]bool, len(wheels)), Slack: make([]bool, len(wheels))}
	for k, n := range b.of {
		w := &b.shape.Wheels[n]
		if w.Ground {
			y, _ := ground.Rest(wheels[k].X, wheels[k].R+b.shape.Depth)
			// A wheel in the air, at the end of its spring, leaves the belt hanging.
			g.Down[k] = math.Abs(y-wheels[k].Y) < downTol
		}
		g.Slack[k] = w.Slack
		if t := w.TakeUp; t != nil {
			sin, cos := math.Sincos(t.Angle * math.Pi / 180)
			g.TakeUp = &mech.TakeUp{Wheel: k, X: cos, Y: sin, Least: -t.In, Most: t.Out}
		}
	}
	return g
}

// taut lays a belt without a length to keep to.
func taut(g *mech.Gear) (*mech.Solved, error) {
	// Without a length there is nothing to take up, and the tensioner stays.
	free := *g
	free.Length = 0
	return mech.Solve(&free)
}

// pinEstimate is the belt length that the pins need, estimated from the arcs of the taut belt: pins on an arc
// are a chord apart, which is shorter than the arc.
func pinEstimate(keep *scene.KeptLength, taut *mech.Solved) float64 {
	return float64(keep.Links)*keep.Pitch + mech.PinExcess(taut.Belt, keep.Pitch)
}

// lay solves the belt of path i at a frame, and returns the constraints it was solved for.
func (s *Machine) lay(i int, frame float64) (*mech.Solved, *mech.Gear, error) {
	b := s.belts[i]
	if b.shape.Ends != nil {
		p, err := s.reeved(s.winches[i], i, frame)
		// A belt with ends keeps no length between its wheels: what is over hangs off the last.
		return &mech.Solved{Belt: p.belt}, nil, err
	}
	g := s.gear(i, frame)
	out, err := taut(g)
	if err != nil {
		return nil, nil, err
	}
	if keep := b.shape.Keep; keep != nil {
		g.Length = float64(keep.Links) * keep.Pitch
		if keep.Pins {
			g.Length = pinEstimate(keep, out) + b.pins
		}
		out = out.Keep(g)
	}
	b.anchored(out, g)
	return out, g, nil
}

// anchored moves the start of the belt's distances to its anchor, where it has one.
func (b *belt) anchored(out *mech.Solved, g *mech.Gear) {
	if a := b.shape.Anchor - 1; a >= 0 && b.index[a] >= 0 {
		b.begin(out, b.index[a], g.Ground)
	}
}

// begin moves the start of distances to wheel k: to where it touches the ground, else to the place on it where
// the belt has a fixed heading.
func (b *belt) begin(out *mech.Solved, k int, ground mech.Ground) {
	heading := b.anchor
	w, c := &out.Wheels[k], &out.Contacts[k]
	if b.shape.Wheels[b.of[k]].Ground {
		// On the ground distances begin where the wheel touches, so that what lies there stands still.
		_, touch := ground.Rest(w.X, w.R+b.shape.Depth)
		heading = math.Atan2(w.X-touch.X, touch.Y-w.Y)
	}
	if math.IsNaN(heading) {
		if !c.Touches {
			return
		}
		heading = c.Heading - w.Sense()*c.Angle/2
	}
	out.Begins(k, heading)
}

// Linked says that so many links on their pins stand on the belt of path i, and where the first of them is, metres.
func (c *Builder) Linked(i, links int, first func(frame float64) float64) {
	c.belts[i].links, c.belts[i].first = links, first
}

// Belt is the belt of a wrapped path as it is at a frame, nil for other paths. Its wheels
// are those that are not free, in the shape's order, then points of the ground that it
// lies over.
func (s *Machine) Belt(i int, frame float64) *mech.Solved {
	b := s.belts[i]
	if b == nil {
		return nil
	}
	if !b.moves {
		return b.rest
	}
	if k := b.shape.Keep; k == nil || !k.Pins || b.links != k.Links {
		return s.evenly(i, frame)
	}
	return s.laid.Get(i, frame, func() *mech.Solved { return s.linked(i, frame) })
}

// RestingBelt is the belt of a path as it is laid in the first frame.
func (s *Machine) RestingBelt(path int) *mech.Solved { return s.belts[path].rest }

// RestingWheel is where a wheel of a path's shape stands in the first frame, in metres ahead and up in the plane
// of its belt, and where the belt lies on it.
func (s *Machine) RestingWheel(path, wheel int) (ahead, up float64, on mech.Contact) {
	b := s.belts[path]
	if k := b.index[wheel]; k >= 0 {
		return b.rest.Wheels[k].X, b.rest.Wheels[k].Y, b.rest.Contacts[k]
	}
	x, y, _ := b.shape.Axes()
	at := geom.FromArray(b.shape.Wheels[wheel].At)
	return at.Dot(x), at.Dot(y), on
}

// plainBelt is a belt without the polygon effect of the links on it, with what it is kept to.
type plainBelt struct {
	*mech.Solved
	gear *mech.Gear
}

// evenly is the belt of path i at a frame, as long as its pins need on average over a pitch.
func (s *Machine) evenly(i int, frame float64) *mech.Solved {
	if b := s.belts[i]; !b.moves {
		return b.rest
	}
	return s.plainly(i, frame).Solved
}

func (s *Machine) plainly(i int, frame float64) plainBelt {
	b := s.belts[i]
	return s.plain.Get(i, frame, func() plainBelt {
		out, g, err := s.lay(i, frame)
		if err != nil { // wheels that came into one another: as it was at first, and said
			first := *b.rest
			first.Trouble = b.shape.Explain(err, b.wheels, b.of).Error()
			return plainBelt{&first, nil}
		}
		return plainBelt{out, g}
	})
}

// EvenCurve is the path of a belt without the polygon effect of rigid links: its length does not pulse once a
// pitch, so that curves of two frames can be compared. nil for other paths.
func (s *Machine) EvenCurve(i int, frame float64) *path.Curve {
	b := s.belts[i]
	if b == nil || b.shape.Ends != nil {
		return nil
	}
	c, err := path.New(b.shape.SpansOf(s.evenly(i, frame).Belt), true)
	if err != nil {
		return nil
	}
	return c
}

// linked is the belt of path i at a frame with its links where they stand then. Rigid links make a polygon;
// what that is longer or shorter than the belt is taken from the sagging run or the tensioner, so that the
// links close.
func (s *Machine) linked(i int, frame float64) *mech.Solved {
	b := s.belts[i]
	plain := s.plainly(i, frame)
	// A taut belt has nothing to give its links.
	if !plain.Hanging && plain.TakenUp == 0 || plain.gear == nil {
		return plain.Solved
	}
	curve, err := path.New(b.shape.SpansOf(plain.Belt), true)
	if err != nil {
		return plain.Solved
	}
	pitch := b.shape.Keep.Pitch
	root, _ := place.Root(curve, b.first(frame), pitch)
	pins := make([]float64, b.shape.Keep.Links+1)
	place.March(pins, make([]geom.Vec, len(pins)), curve, root, pitch)
	// By what the links need beyond the curve's length, or less.
	exact, err := plain.Longer(plain.gear, pins[len(pins)-1]-root-curve.Length())
	if err != nil {
		return plain.Solved
	}
	b.anchored(exact, plain.gear)
	return exact
}

// WheelIndex is the number of a wrapped shape's wheel among a belt's, -1 for free ones.
func (s *Machine) WheelIndex(path, wheel int) int { return s.belts[path].index[wheel] }

// beltSpans are the spans of path i's belt at a frame.
func (s *Machine) beltSpans(i int, frame float64) []path.Span {
	b := s.belts[i]
	spans := b.shape.SpansOf(s.Belt(i, frame).Belt)
	if s.winches[i] != nil && b.shape.Ends != nil { // it leaves its drum where it lies on that
		p := s.PaidAt(s.winches[i], i, frame)
		r := &p.belt.Runs[0]
		ahead, up, off := b.shape.Axes()
		spans[0] = path.LineSpan(p.Hub.Mad(p.Axis, p.At.Across).Mad(p.Out, p.At.Radius), off.Mad(ahead, r.X1).Mad(up, r.Y1))
	}
	return spans
}

// MoveToFit is how far a wheel of path i's shape has to move ahead, metres in the belt's plane, for the taut
// belt to have the kept length at a frame; false where no move does.
func (s *Machine) MoveToFit(i, wheel int, frame float64) (way float64, ok bool) {
	b := s.belts[i]
	now := s.Belt(i, frame)
	k := b.index[wheel]
	if b.shape.Keep == nil || k < 0 || !now.Contacts[k].Touches {
		return 0, false
	}
	wheels, ground := s.hubs(i, frame)
	kept := now.Length + now.Spare
	if now.Hanging {
		kept = now.Length
	}
	// Farther off the wheels would have to change places.
	reach := kept / 4
	got, err := mech.Solve(&mech.Gear{Wheels: wheels, Ground: ground, Depth: b.shape.Depth, Length: kept,
		TakeUp: &mech.TakeUp{Wheel: k, X: 1, Least: -reach, Most: reach}})
	if err != nil || math.Abs(got.Spare) > 1e-6 {
		return 0, false
	}
	return got.TakenUp, true
}

// hubPlace is where the hub of a wheel of path i's shape is in the world at a frame.
func (s *Machine) hubPlace(i, wheel int, frame float64) geom.Vec {
	b := s.belts[i]
	ahead, up, off := b.shape.Axes()
	at := geom.FromArray(b.shape.Wheels[wheel].At)
	x, y := at.Dot(ahead), at.Dot(up)
	if k := b.index[wheel]; k >= 0 {
		now := s.Belt(i, frame)
		x, y = now.Wheels[k].X, now.Wheels[k].Y
	}
	return s.PathPlace(i, frame).Apply(off.Mad(ahead, x).Mad(up, y))
}
