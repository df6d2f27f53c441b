package rig

import (
	"fmt"
	"math"
	"slices"
	"sync"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/path"
	"bead/core/scene"
)

// carrier is a compiled carrier.
type carrier struct {
	parent               int // -1: the world
	behind               int // carriers that it rides on, one on another
	at                   [3]*signal
	heading, pitch, bank *signal
	ride                 *ride
	riding               *riding // on the ground
	ok                   bool
}

type ride struct {
	path     int
	distance *signal
	turning  string
	field    *facing.Field // of the path at rest
}

// tug is a compiled tug.
type tug struct {
	weight []float64 // of each point of the path
	handle string
	pull   [3]*signal
	on     int // carrier, or -1
	belt   int // path whose wheel it rides on, or -1
	wheel  int
}

func (t *tug) moves() bool {
	return t.on >= 0 || t.belt >= 0 || slices.ContainsFunc(t.pull[:], func(s *signal) bool { return s.v.Moves() })
}

// carrier makes carrier i; false when it has a fault.
func (c *compiler) carrier(i int) bool {
	d, k := &c.Doc.Carriers[i], &c.carriers[i]
	c.once("carrier", d.ID, d.Name, fmt.Sprintf("carriers[%d]", i), func() {
		k.parent = -1 // of one that rides on a path: what its path rides on
		if d.Ride == nil {
			k.parent = c.carrierIndex(c.Doc.ParentOf(d))
		}
		if k.parent >= 0 {
			if !c.carrier(k.parent) {
				return
			}
			k.behind = c.carriers[k.parent].behind + 1
		}
		ok := true
		get := func(field string) *signal {
			s := c.value("carriers/" + d.ID + "/" + field)
			ok = ok && s != nil
			return s
		}
		k.at = [3]*signal{get("x"), get("y"), get("z")}
		k.heading, k.pitch, k.bank = get("heading"), get("pitch"), get("bank")
		if d.Ground != nil {
			k.riding = c.newRiding(d.ID, d.Ground.Soften)
		}
		if d.Ride != nil {
			r := c.newRide(d.Ride, get("distance"), fmt.Sprintf("carriers[%d].ride", i))
			if r == nil {
				return
			}
			k.ride = r
			if p := c.parents[r.path]; p >= 0 {
				k.behind = c.carriers[p].behind + 1
			}
		}
		if c.tooLong(k.behind, "carriers[%d]", i) {
			return
		}
		k.ok = ok
	})
	return k.ok
}

// newRide compiles a ride along a path; nil where it has a fault.
func (c *compiler) newRide(d *scene.Ride, distance *signal, at string) *ride {
	r := &ride{path: c.pathAt[d.Path], turning: d.Turning, distance: distance}
	curve := c.path(r.path)
	if curve == nil || !c.pathParent(r.path) {
		return nil
	}
	var err error
	if r.field, err = facing.New(curve, facing.Spec{Mode: facing.Steady}); err != nil {
		c.say(err, "%s", at)
		return nil
	}
	return r
}

func (c *compiler) carrierIndex(id string) int {
	if id == "" {
		return -1
	}
	return c.carrierAt[id]
}

// pathParent compiles the carrier of path i; false when it has a fault.
func (c *compiler) pathParent(i int) bool {
	p := c.carrierIndex(c.Doc.PathCarrier(&c.Doc.Paths[i]))
	c.parents[i], c.rests[i] = p, c.Doc.Paths[i].Rest.Rigid()
	return p < 0 || c.carrier(p)
}

// pose is where carrier i is in the world at a frame.
func (s *Scene) pose(i int, frame float64) geom.Rigid {
	if i < 0 {
		return geom.Still
	}
	k := &s.carriers[i]
	const degree = math.Pi / 180
	if k.riding != nil {
		own := geom.Turned(0, k.pitch.at(frame, s.Clock)*degree, k.bank.at(frame, s.Clock)*degree)
		own.P = geom.V(0, k.at[1].at(frame, s.Clock), 0)
		return s.stands.get(i, frame, func() geom.Rigid { return s.stood(i, frame) }).Mul(own)
	}
	own := geom.Turned(k.heading.at(frame, s.Clock)*degree, k.pitch.at(frame, s.Clock)*degree, k.bank.at(frame, s.Clock)*degree)
	own.P = geom.V(k.at[0].at(frame, s.Clock), k.at[1].at(frame, s.Clock), k.at[2].at(frame, s.Clock))
	if k.ride != nil {
		return s.pathPose(k.ride.path, frame).Mul(s.rideAt(k.ride, frame)).Mul(own)
	}
	return s.pose(k.parent, frame).Mul(own)
}

// rideAt is the place on the path, in the path's space.
func (s *Scene) rideAt(r *ride, frame float64) geom.Rigid {
	field := r.field
	if s.deforms[r.path] {
		if f, err := facing.New(s.curveAt(r.path, frame), facing.Spec{Mode: facing.Steady}); err == nil {
			field = f
		}
	}
	f := field.Frame(r.distance.at(frame, s.Clock))
	switch r.turning {
	case scene.TurnNone:
		m := geom.Still
		m.P = f.P
		return m
	case scene.TurnLevel:
		m := geom.Turned(math.Atan2(f.T.X, f.T.Z), 0, 0)
		m.P = f.P
		return m
	}
	return f.Rigid()
}

// pathPose is where the space of path i is in the world at a frame.
func (s *Scene) pathPose(i int, frame float64) geom.Rigid {
	return s.pose(s.parents[i], frame).Mul(s.rests[i])
}

// tugsOf makes the tugs of path i; nil when one has a fault.
func (c *compiler) tugsOf(i int) (tugs []tug, ok bool) {
	p := &c.Doc.Paths[i]
	ok = true
	for j := range c.Doc.Tugs {
		d := &c.Doc.Tugs[j]
		if d.Path != p.ID {
			continue
		}
		t := tug{handle: d.Handle, on: c.carrierIndex(d.On), belt: -1, weight: weights(p, d)}
		if w := d.Wheel; w != nil {
			t.belt, t.wheel = c.pathAt[w.Path], w.Wheel-1
			ok = ok && c.path(t.belt) != nil
		}
		for k, axis := range []string{"x", "y", "z"} {
			t.pull[k] = c.value("tugs/" + d.ID + "/" + axis)
			ok = ok && t.pull[k] != nil
		}
		ok = ok && (t.on < 0 || c.carrier(t.on))
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
				if way += pts[j].Sub(pts[i]).Norm(); way >= d.Reach {
					break
				}
				u := 1 - way/d.Reach
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
func (s *Scene) pulled(i int, frame float64) *scene.PathShape {
	shape := &s.Doc.Paths[i].Shape
	if h := shape.Hang; h != nil && (h.FromOn != "" || h.ToOn != "" || s.winches[i] != nil) {
		h = s.heldHang(i, h, frame)
		if s.winches[i] != nil {
			h = s.paid(s.winches[i], i, h, frame).hang
		}
		shape = &scene.PathShape{Hang: h}
	}
	for k := range s.tugs[i] {
		t := &s.tugs[i][k]
		pull := geom.V(t.pull[0].at(frame, s.Clock), t.pull[1].at(frame, s.Clock), t.pull[2].at(frame, s.Clock))
		m := geom.Still
		if t.belt >= 0 {
			// As the hub has moved since the first frame, without its turning.
			by := s.hubPlace(t.belt, t.wheel, frame).Sub(s.hubPlace(t.belt, t.wheel, s.Clock.First))
			m.P = s.pathPose(i, frame).Inverse().Turn(by)
		}
		if t.on >= 0 {
			// As the carrier has moved since the first frame, seen from the path's space.
			now := s.pathPose(i, frame).Inverse().Mul(s.pose(t.on, frame))
			then := s.pathPose(i, s.Clock.First).Inverse().Mul(s.pose(t.on, s.Clock.First))
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

// curveAt is path i as it is at a frame.
func (s *Scene) curveAt(i int, frame float64) *path.Curve {
	if !s.deforms[i] {
		return s.Paths[i]
	}
	return s.curves.get(i, frame, func() *path.Curve {
		curve, err := s.deformed(i, frame)
		if err != nil {
			return s.Paths[i] // pulled to nothing: it stays as at rest
		}
		return curve
	})
}

func (s *Scene) deformed(i int, frame float64) (*path.Curve, error) {
	return s.shapedTo(i, len(s.Doc.Paths[i].Steps), frame)
}

// shapedTo is path i at a frame after its first steps.
func (s *Scene) shapedTo(i, steps int, frame float64) (*path.Curve, error) {
	p := &s.Doc.Paths[i]
	cache := path.Fleeting()
	defer cache.Done()
	b := builder{cache: cache, curve: func(id string) *path.Curve { return s.curveAt(s.pathAt[id], frame) }, scene: s, path: i, frame: frame}
	curve, first, err := s.still[i].curve, s.still[i].steps, error(nil)
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
func (s *Scene) spansAt(i int, frame float64) (spans []path.Span, closed bool) {
	switch shape := &s.Doc.Paths[i].Shape; {
	case s.belts[i] != nil:
		return s.beltSpans(i, frame), shape.Wrap.Ends == nil
	case shape.Standalone():
		return s.pulled(i, frame).Spans(nil)
	}
	// On a fixture, or the track of a thing: the same in every frame.
	base := s.Shaped[i].Base
	return base.Spans(), base.Closed()
}

// byFrame caches what was computed for a thing at a frame.
type byFrame[T any] struct {
	mu    sync.Mutex
	made  map[thingAtFrame]T
	most  int         // that are kept; byFrameMost where 0
	spans func(T) int // of the curve in it, where it holds one
	held  int         // spans of all that are kept
}

type thingAtFrame struct {
	thing int
	frame float64
}

const byFrameMost, smallMost = 600, 20_000

// heldSpans is the most spans of cached curves; a span takes about a kilobyte.
const heldSpans = 150_000

func (b *byFrame[T]) get(thing int, frame float64, make1 func() T) T {
	key := thingAtFrame{thing, frame}
	b.mu.Lock()
	v, known := b.made[key]
	b.mu.Unlock()
	if known {
		return v
	}
	v = make1() // twice by two at once: the same, for frames are pure
	b.mu.Lock()
	defer b.mu.Unlock()
	n := 0
	if b.spans != nil {
		n = b.spans(v)
	}
	if most := max(b.most, byFrameMost); b.made == nil || len(b.made) >= most || b.held+n > heldSpans {
		b.made, b.held = map[thingAtFrame]T{}, 0
	}
	b.held += n
	b.made[key] = v
	return v
}
