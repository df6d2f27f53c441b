package machine

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/motion"
	"bead/core/scene"
)

// Signal is a compiled value: its keys or drive, with references resolved.
type Signal struct {
	v             *motion.Value
	speed         *motion.Speed // of values by rpm or turns
	of            *Signal
	ratio, offset float64
	odo           *odometer
	sign, start   float64
	behind        int // values that it follows, one after another
}

// At returns the value at a frame: a pure function that allocates nothing.
func (s *Signal) At(frame float64, c motion.Clock) float64 {
	switch {
	case s.odo != nil:
		return s.start + s.sign*s.odo.at(frame)
	case s.of != nil:
		return s.ratio*s.of.At(frame, c) + s.offset
	case s.speed != nil:
		return s.speed.Start + s.speed.PerSecond*(frame-c.First)/c.FPS
	}
	return s.v.At(frame, c)
}

// Goes gives a value that is counted in turns a speed of its owner's.
func (s *Signal) Goes(v *motion.Speed) { s.speed = v }

// About is At for graphs: of a value that rolls it interpolates linearly between the odometer's samples.
func (s *Signal) About(frame float64, c motion.Clock) float64 {
	if s.odo != nil {
		x := (frame - s.odo.from) * float64(s.odo.steps)
		if k := int(math.Floor(x)); k >= 0 && k+1 < len(s.odo.table) {
			a, b := s.odo.table[k], s.odo.table[k+1]
			return s.start + s.sign*(a+(b-a)*(x-float64(k)))
		}
	}
	return s.At(frame, c)
}

// Value returns the signal of a slot by its reference. Where the slot is being made
// by one that asks for it the ring is said and the signal is nil.
func (c *Builder) Value(ref string) *Signal {
	slot := c.slots[ref]
	s := c.signals[ref]
	if s == nil {
		s = &Signal{v: slot.Value}
		c.signals[ref] = s
	}
	key := "value " + ref
	c.Once("value", ref, slot.Name, slot.Address, func() { c.resolve(s, slot) })
	if c.state[key] == making {
		return nil
	}
	return s
}

func (c *Builder) resolve(s *Signal, slot *scene.Slot) {
	v := slot.Value
	switch {
	case v.Of != nil:
		s.of, s.ratio, s.offset = c.Value(v.Of.Of), v.Of.Times(), v.Of.Offset
		if s.of != nil {
			// Each is asked through the one before, in every frame.
			s.behind = s.of.behind + 1
			c.TooLong(s.behind, "%s.of", slot.Address)
		}
	case v.RPM != nil:
		s.speed = v.RPM.Speed()
	case v.Turns != nil:
		// Of an angle a turn is a turn; of a distance it is once round its path.
		turn := 360.0
		if slot.Unit == scene.Metres {
			curve := c.Path(c.pathAt[slot.Path])
			if curve == nil {
				return
			}
			turn = curve.Length()
		}
		s.speed = v.Turns.Speed(turn, c.Doc.Range.Count(), c.Clock)
	case v.Rolls != nil:
		c.rolls(s, slot)
	}
}

// rolls makes a signal that counts the way a carrier rolls.
func (c *Builder) rolls(s *Signal, slot *scene.Slot) {
	r := slot.Value.Rolls
	i := c.carrierAt[r.Rolls]
	if !c.Carrier(i) {
		return
	}
	side := 0.0
	s.sign, s.start = 1, r.Start
	if slot.Path != "" {
		j := c.pathAt[slot.Path]
		curve := c.Path(j)
		if curve == nil || !c.pathParent(j) {
			return
		}
		// On its lower run the path goes against the carrier, so that what lies on the
		// ground stands still.
		m := c.CarrierPlace(i, c.Clock.First).Inverse().Mul(c.PathPlace(j, c.Clock.First))
		// Enough to find the lowest run of a tread; where exactly it is lowest does not matter.
		const samples = 512
		lowest := math.Inf(1)
		for k := range samples {
			p, t := curve.At(curve.Length() * float64(k) / samples)
			if p, t = m.Apply(p), m.Turn(t); p.Y < lowest {
				lowest, side = p.Y, p.X
				s.sign = -math.Copysign(1, t.Z)
			}
		}
	}
	switch r.Side {
	case motion.Left:
		side = r.Gauge / 2
	case motion.Right:
		side = -r.Gauge / 2
	case motion.Middle:
		side = 0
	}
	if r.Flip {
		s.sign = -s.sign
	}
	s.odo = newOdometer(c.stepper(i, slot.Path, side), c.Doc.Range)
}

// odometer is the signed distance that something has rolled since the first frame of the range, in a table.
type odometer struct {
	step  func(a, b float64) float64
	from  float64   // frame of the table's first entry
	table []float64 // one entry a step
	steps int       // a frame
}

// Steps a frame, the range from which on one is enough, and the most frames beyond the
// range over which the way is counted; farther out it stands.
const (
	odoSteps = 4
	odoLong  = 2_000
	odoMost  = 10_000
)

func newOdometer(step func(a, b float64) float64, r scene.Range) *odometer {
	// A little beyond the range is asked for often: by speeds, by lags, by motion blur.
	beyond := r.Count()/8 + 2
	o := &odometer{step: step, from: float64(r.First - beyond), steps: odoSteps}
	if r.Count() > odoLong {
		o.steps = 1
	}
	n := (r.Count()+2*beyond)*o.steps + 1
	o.table = make([]float64, n)
	for k := 1; k < n; k++ {
		o.table[k] = o.table[k-1] + step(o.frameOf(k-1), o.frameOf(k))
	}
	// It counts from the first frame of the range.
	zero := o.table[beyond*o.steps]
	for k := range o.table {
		o.table[k] -= zero
	}
	return o
}

// frameOf is the frame of a step of the table.
func (o *odometer) frameOf(k int) float64 { return o.from + float64(k)/float64(o.steps) }

// turnsMuch is the turn over a step, radians, from which the way is integrated more finely:
// below it a step is as good as straight.
const turnsMuch = 1e-4

// rolledAlong is the way from one moment to another of what moves as pose says. Where it turns
// on the way, the step and its two halves are put together so that their second-order errors
// cancel (Richardson extrapolation, twice: Romberg's rule).
func rolledAlong(pose func(frame float64) geom.Rigid, a, b, side float64) float64 {
	from, to := pose(a), pose(b)
	whole := rolled(from, to, side)
	if math.Abs(headingTurn(from, to)) < turnsMuch {
		return whole
	}
	// Places at the quarters; those at the ends are known.
	q1, mid, q3 := pose(a+(b-a)/4), pose((a+b)/2), pose(b-(b-a)/4)
	halves := rolled(from, mid, side) + rolled(mid, to, side)
	quarters := rolled(from, q1, side) + rolled(q1, mid, side) + rolled(mid, q3, side) + rolled(q3, to, side)
	fine, coarse := (4*quarters-halves)/3, (4*halves-whole)/3
	return (16*fine - coarse) / 15
}

// headingTurn is how far forward turns about up from one pose to another, radians.
func headingTurn(a, b geom.Rigid) float64 {
	return geom.AngleAbout(a.Y, a.Z, b.Z.Sub(a.Y.Mul(b.Z.Dot(a.Y))))
}

// rolled is the way from one pose to the next: along the forward half way between
// them, on the arc that turns evenly (the odometry of wheeled machines, common
// practice), plus what the turn about up makes at the side. The turn's share is
// exact however long the step.
func rolled(a, b geom.Rigid, side float64) float64 {
	turn := headingTurn(a, b)
	ahead := a.Z.Add(b.Z).Unit()
	way := b.P.Sub(a.P).Dot(ahead)
	if h := turn / 2; math.Abs(h) > 1e-9 {
		// The arc over its chord.
		way *= h / math.Sin(h)
	}
	// Heading turns to the left, where the inner side is: it rolls less.
	return way - turn*side
}

func (o *odometer) at(frame float64) float64 {
	// Farther out every frame would have to be gone through.
	frame = min(max(frame, o.from-odoMost), o.from+float64(len(o.table)/o.steps)+odoMost)
	x := (frame - o.from) * float64(o.steps)
	k := int(math.Floor(x))
	base := min(max(k, 0), len(o.table)-1)
	sum := o.table[base]
	if x == float64(base) {
		return sum
	}
	for j := base; j > k; j-- { // before the table
		sum += o.step(o.frameOf(j), o.frameOf(j-1))
	}
	for j := base; j < k; j++ { // behind it
		sum += o.step(o.frameOf(j), o.frameOf(j+1))
	}
	if x != float64(k) {
		sum += o.step(o.frameOf(k), frame)
	}
	return sum
}

// Rate is the constant speed of a value a second where it has one of its own.
func (s *Machine) Rate(ref string) (perSecond float64, constant bool) {
	switch v := s.signals[ref]; {
	case v == nil:
	case v.speed != nil:
		return v.speed.PerSecond, true
	case v.v.Speed != nil:
		return v.v.Speed.PerSecond, true
	}
	return 0, false
}

// Follows reports whether a value follows another, over however many in between, and
// its change for one unit of that.
func (s *Machine) Follows(ref, of string) (share float64, ok bool) {
	share = 1
	target := s.signals[of]
	for v := s.signals[ref]; v != nil && v.of != nil; v = v.of {
		share *= v.ratio
		if v.of == target {
			return share, true
		}
	}
	return 0, false
}

// Value returns the value named by a drive's reference at a frame.
func (s *Machine) Value(ref string, frame float64) (float64, error) {
	v := s.signals[ref]
	if v == nil {
		return 0, fmt.Errorf("%q is no value of this scene", ref)
	}
	return v.At(frame, s.Clock), nil
}
