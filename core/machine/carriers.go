package machine

import (
	"fmt"
	"math"
	"slices"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/path"
	"bead/core/scene"
)

// carrier is a compiled carrier.
type carrier struct {
	parent               int // -1: the world
	behind               int // carriers that it rides on, one on another
	at                   [3]*Signal
	heading, pitch, bank *Signal
	ride                 *Ride
	riding               *riding // on the ground
	ok                   bool
}

// Ride is a compiled ride along a path.
type Ride struct {
	path     int
	distance *Signal
	turning  string
	field    *facing.Field // of the path at rest
}

// tug is a compiled tug.
type tug struct {
	weight []float64 // of each point of the path
	handle string
	pull   [3]*Signal
	on     int // carrier, or -1
	belt   int // path whose wheel it rides on, or -1
	wheel  int
}

func (t *tug) moves() bool {
	return t.on >= 0 || t.belt >= 0 || slices.ContainsFunc(t.pull[:], func(s *Signal) bool { return s.v.Moves() })
}

// Carrier makes carrier i; false when it has a fault.
func (c *Builder) Carrier(i int) bool {
	d, k := &c.Doc.Carriers[i], &c.carriers[i]
	c.Once("carrier", d.ID, d.Name, fmt.Sprintf("carriers[%d]", i), func() {
		// Where it is is asked in every frame; by what it rides is found once.
		k.parent = -1 // of one that rides on a path: what its path rides on
		if d.Ride == nil {
			k.parent = c.CarrierIndex(c.Doc.ParentOf(d))
		}
		if k.parent >= 0 {
			if !c.Carrier(k.parent) {
				return
			}
			k.behind = c.carriers[k.parent].behind + 1
		}
		ok := true
		get := func(field string) *Signal {
			s := c.Value("carriers/" + d.ID + "/" + field)
			ok = ok && s != nil
			return s
		}
		k.at = [3]*Signal{get("x"), get("y"), get("z")}
		k.heading, k.pitch, k.bank = get("heading"), get("pitch"), get("bank")
		if d.Ground != nil {
			// The wheels at rest are enough: belts are laid on what stands, not the other way round.
			k.riding = c.newRiding(d.ID, d.Ground.Soften)
		}
		if d.Ride != nil {
			r := c.NewRide(d.Ride, get("distance"), fmt.Sprintf("carriers[%d].ride", i))
			if r == nil {
				return
			}
			k.ride = r
			if p := c.parents[r.path]; p >= 0 {
				k.behind = c.carriers[p].behind + 1
			}
		}
		// Each link is one more call deep in every frame.
		if c.TooLong(k.behind, "carriers[%d]", i) {
			return
		}
		k.ok = ok
	})
	return k.ok
}

// NewRide compiles a ride along a path; nil where it has a fault.
func (c *Builder) NewRide(d *scene.Ride, distance *Signal, at string) *Ride {
	r := &Ride{path: c.pathAt[d.Path], turning: d.Turning, distance: distance}
	curve := c.Path(r.path)
	if curve == nil || !c.pathParent(r.path) {
		return nil
	}
	var err error
	if r.field, err = facing.New(curve, facing.Spec{Mode: facing.Steady}); err != nil {
		c.Say(err, "%s", at)
		return nil
	}
	return r
}

// CarrierIndex is the number of a carrier, -1 of the empty id.
func (c *Builder) CarrierIndex(id string) int {
	if id == "" {
		return -1
	}
	return c.carrierAt[id]
}

// pathParent compiles the carrier of path i; false when it has a fault.
func (c *Builder) pathParent(i int) bool {
	p := c.CarrierIndex(c.Doc.PathCarrier(&c.Doc.Paths[i]))
	c.parents[i], c.rests[i] = p, c.Doc.Paths[i].Rest.Rigid()
	return p < 0 || c.Carrier(p)
}

// CarrierPlace is where carrier i is in the world at a frame.
func (s *Machine) CarrierPlace(i int, frame float64) geom.Rigid {
	if i < 0 {
		return geom.Still
	}
	k := &s.carriers[i]
	const degree = math.Pi / 180
	if k.riding != nil {
		// Heading and place over ground are in how it stands; only height, pitch and bank are counted from there.
		own := geom.Turned(0, k.pitch.At(frame, s.Clock)*degree, k.bank.At(frame, s.Clock)*degree)
		own.P = geom.V(0, k.at[1].At(frame, s.Clock), 0)
		return s.stands.Get(i, frame, func() geom.Rigid { return s.stood(i, frame) }).Mul(own)
	}
	own := geom.Turned(k.heading.At(frame, s.Clock)*degree, k.pitch.At(frame, s.Clock)*degree, k.bank.At(frame, s.Clock)*degree)
	own.P = geom.V(k.at[0].At(frame, s.Clock), k.at[1].At(frame, s.Clock), k.at[2].At(frame, s.Clock))
	if k.ride != nil {
		return s.RidePlace(k.ride, frame).Mul(own)
	}
	return s.CarrierPlace(k.parent, frame).Mul(own)
}

// RidePlace is where what rides along a path is in the world at a frame.
func (s *Machine) RidePlace(r *Ride, frame float64) geom.Rigid {
	return s.PathPlace(r.path, frame).Mul(s.rideAt(r, frame))
}

// rideAt is the place on the path, in the path's space.
func (s *Machine) rideAt(r *Ride, frame float64) geom.Rigid {
	field := r.field
	if s.deforms[r.path] {
		// A path that deforms has another frame at the same distance.
		if f, err := facing.New(s.CurveAt(r.path, frame), facing.Spec{Mode: facing.Steady}); err == nil {
			field = f
		}
	}
	f := field.Frame(r.distance.At(frame, s.Clock))
	switch r.turning {
	case scene.TurnNone:
		m := geom.Still
		m.P = f.P
		return m
	case scene.TurnLevel:
		// The heading of the path alone: no climb and no roll.
		m := geom.Turned(math.Atan2(f.T.X, f.T.Z), 0, 0)
		m.P = f.P
		return m
	}
	return f.Rigid()
}

// PathPlace is where the space of path i is in the world at a frame.
func (s *Machine) PathPlace(i int, frame float64) geom.Rigid {
	return s.CarrierPlace(s.parents[i], frame).Mul(s.rests[i])
}

// tugsOf makes the tugs of path i; nil when one has a fault.
func (c *Builder) tugsOf(i int) (tugs []tug, ok bool) {
	p := &c.Doc.Paths[i]
	ok = true
	for j := range c.Doc.Tugs {
		d := &c.Doc.Tugs[j]
		if d.Path != p.ID {
			continue
		}
		// A tug's weights go by the points as drawn; that it pulls them does not change how far they are apart for it.
		t := tug{handle: d.Handle, on: c.CarrierIndex(d.On), belt: -1, weight: weights(p, d)}
		if w := d.Wheel; w != nil {
			t.belt, t.wheel = c.pathAt[w.Path], w.Wheel-1
			ok = ok && c.Path(t.belt) != nil
		}
		for k, axis := range []string{"x", "y", "z"} {
			t.pull[k] = c.Value("tugs/" + d.ID + "/" + axis)
			ok = ok && t.pull[k] != nil
		}
		ok = ok && (t.on < 0 || c.Carrier(t.on))
		tugs = append(tugs, t)
	}
	return tugs, ok
}

// weights are the shares of a tug's pull that each point of its path takes: 1 for the points that it names,
// less for others the farther off they are along the chords.
func weights(p *scene.Path, d *scene.Tug) []float64 {
	pts, closed := controlPoints(&p.Shape)
	n := len(pts)
	w := make([]float64, n)
	for _, h := range d.Points {
		w[h-1] = 1
	}
	// Without a reach only the points that are named.
	if d.Reach == 0 {
		return w
	}
	for _, h := range d.Points {
		for _, step := range [2]int{1, -1} {
			way := 0.0
			for i, k := h-1, 0; k < n; k++ {
				j := i + step
				if !closed && (j < 0 || j >= n) {
					break
				}
				j = (j + n) % n
				// Along the chords from point to point, either way round.
				if way += pts[j].Sub(pts[i]).Norm(); way >= d.Reach {
					break
				}
				u := 1 - way/d.Reach
				// Of two holds the stronger counts: they are one hand.
				w[j] = max(w[j], u*u*(3-2*u))
				i = j
			}
		}
	}
	return w
}

func controlPoints(s *scene.PathShape) (pts []geom.Vec, closed bool) {
	add := func(v scene.Vec3) { pts = append(pts, geom.FromArray(v)) }
	switch {
	case s.Spline != nil:
		for _, p := range s.Spline.Points {
			add(p.At)
		}
		return pts, s.Spline.Closed
	case s.BSpline != nil:
		for _, p := range s.BSpline.Points {
			add(p)
		}
		return pts, s.BSpline.Closed
	case s.Polyline != nil:
		for _, p := range s.Polyline.Points {
			add(p)
		}
		return pts, s.Polyline.Closed
	}
	return nil, false
}

// pulled is the shape of path i as its tugs pull it at a frame.
func (s *Machine) pulled(i int, frame float64) *scene.PathShape {
	shape := &s.Doc.Paths[i].Shape
	// Ends that something holds come first: what pulls points of a cable pulls nothing, it has none.
	if h := shape.Hang; h != nil && (h.FromOn != "" || h.ToOn != "" || s.winches[i] != nil) {
		h = s.heldHang(i, h, frame)
		if s.winches[i] != nil {
			h = s.paid(s.winches[i], i, h, frame).hang
		}
		shape = &scene.PathShape{Hang: h}
	}
	for k := range s.tugs[i] {
		t := &s.tugs[i][k]
		pull := geom.V(t.pull[0].At(frame, s.Clock), t.pull[1].At(frame, s.Clock), t.pull[2].At(frame, s.Clock))
		m := geom.Still
		if t.belt >= 0 {
			// As the hub has moved since the first frame, without its turning.
			// A wheel that springs or takes up moves its hub against what it rides on.
			by := s.hubPlace(t.belt, t.wheel, frame).Sub(s.hubPlace(t.belt, t.wheel, s.Clock.First))
			m.P = s.PathPlace(i, frame).Inverse().Turn(by)
		}
		if t.on >= 0 {
			// As the carrier has moved since the first frame, seen from the path's space.
			now := s.PathPlace(i, frame).Inverse().Mul(s.CarrierPlace(t.on, frame))
			then := s.PathPlace(i, s.Clock.First).Inverse().Mul(s.CarrierPlace(t.on, s.Clock.First))
			m = now.Mul(then.Inverse())
		}
		shape = t.apply(shape, func(p geom.Vec, w float64) geom.Vec { return p.Lerp(m.Apply(p).Add(pull), w) })
	}
	return shape
}

func (t *tug) apply(shape *scene.PathShape, to func(p geom.Vec, w float64) geom.Vec) *scene.PathShape {
	out := *shape
	plain := func(list []scene.Vec3) []scene.Vec3 {
		moved := slices.Clone(list)
		for i, w := range t.weight {
			if w > 0 {
				moved[i] = to(geom.FromArray(moved[i]), w).Array()
			}
		}
		return moved
	}
	switch {
	case shape.Spline != nil:
		pts := shape.Spline.Resolve()
		for i, w := range t.weight {
			if w == 0 {
				continue
			}
			p := &pts[i]
			in, out := p.At.Add(p.In), p.At.Add(p.Out)
			at := p.At
			if t.handle == scene.HandleBoth {
				at = to(at, w)
			}
			if t.handle != "out" {
				in = to(in, w)
			}
			if t.handle != "in" {
				out = to(out, w)
			}
			p.At, p.In, p.Out = at, in.Sub(at), out.Sub(at)
		}
		for i := range pts {
			// A smooth point would turn its handles after its neighbours, which have been pulled elsewhere.
			pts[i].Handles = path.Free // as resolved: what is pulled is not smoothed anew
		}
		out.Spline = scene.SplineOf(pts, shape.Spline.Closed)
	case shape.BSpline != nil:
		out.BSpline = &scene.BSplineShape{Closed: shape.BSpline.Closed, Points: plain(shape.BSpline.Points)}
	case shape.Polyline != nil:
		p := *shape.Polyline
		p.Points = plain(p.Points)
		out.Polyline = &p
	}
	return &out
}

// CurveAt is path i as it is at a frame.
func (s *Machine) CurveAt(i int, frame float64) *path.Curve {
	if !s.deforms[i] {
		return s.Paths[i]
	}
	return s.curves.Get(i, frame, func() *path.Curve {
		curve, err := s.deformed(i, frame)
		if err != nil {
			return s.Paths[i] // pulled to nothing: it stays as at rest
		}
		return curve
	})
}

// Deforms reports whether path i differs from frame to frame.
func (s *Machine) Deforms(i int) bool { return s.deforms[i] }

func (s *Machine) deformed(i int, frame float64) (*path.Curve, error) {
	return s.shapedTo(i, len(s.Doc.Paths[i].Steps), frame)
}

// shapedTo is path i at a frame after its first steps.
func (s *Machine) shapedTo(i, steps int, frame float64) (*path.Curve, error) {
	p := &s.Doc.Paths[i]
	cache := path.Fleeting()
	defer cache.Done()
	b := stepping{cache: cache, curve: func(id string) *path.Curve { return s.CurveAt(s.pathAt[id], frame) }, on: s, path: i, frame: frame}
	curve, first, err := s.still[i].curve, s.still[i].steps, error(nil)
	// Asked for a state before the first step that moves: it is made from the shape.
	if curve == nil || first > steps {
		first = 0
		curve, err = cache.New(s.spansAt(i, frame))
	}
	for k := first; k < steps; k++ {
		if err != nil {
			return nil, err
		}
		if !p.Steps[k].Off {
			curve, _, err = b.step(k, &p.Steps[k], curve)
		}
	}
	return curve, err
}

// spansAt are the spans of path i at a frame before its steps.
func (s *Machine) spansAt(i int, frame float64) (spans []path.Span, closed bool) {
	switch shape := &s.Doc.Paths[i].Shape; {
	case s.belts[i] != nil:
		return s.beltSpans(i, frame), shape.Wrap.Ends == nil
	case shape.Standalone():
		return s.pulled(i, frame).Spans(nil)
	}
	// On a fixture, or the track of a thing: the same in every frame.
	// What lies on a fixture is carried along with it.
	base := s.Shaped[i].Base
	return base.Spans(), base.Closed()
}

// World is the parent of what hangs from no carrier.
const World = -1

// Parents are the carriers that the scene's carriers hang from, by their numbers, or World. One that
// rides on a path hangs from what the path hangs from.
func (s *Machine) Parents() []int {
	out := make([]int, len(s.Doc.Carriers))
	for i := range out {
		out[i] = s.carrierNamed(s.Doc.ParentOf(&s.Doc.Carriers[i]))
	}
	return out
}

func (s *Machine) carrierNamed(id string) int {
	for i := range s.Doc.Carriers {
		if s.Doc.Carriers[i].ID == id {
			return i
		}
	}
	return World
}

// PathParent is the carrier that path i hangs from, or World.
func (s *Machine) PathParent(i int) int { return s.parents[i] }
