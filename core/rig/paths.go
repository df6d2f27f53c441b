package rig

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/path"
	"bead/core/scene"
	"bead/core/surface"
)

// Shaped tells how a path came to be.
type Shaped struct {
	Base  *path.Curve // the shape before its steps
	Steps []StepReadout
	Notes []string // what could not be had as it was asked for
	// LeastClearance is the least clearance found of a path over a mesh; NaN for others.
	LeastClearance float64
}

// StepReadout is what a shaping step did.
type StepReadout struct {
	Kind   string  `json:"kind"`
	Off    bool    `json:"off,omitempty"`
	Length float64 `json:"length"` // after it, metres
	Change float64 `json:"change"` // of the length, metres
	Spans  int     `json:"spans"`  // after it
	Closed bool    `json:"closed"`
	Note   string  `json:"note,omitempty"`
}

// compiler makes what paths and rigs need of one another in the order of need.
type compiler struct {
	*Scene
	memo       *Memo
	meshes     func(asset string) (*surface.Mesh, error)
	faults     scene.Faults
	partAt     map[string]int
	fixtureAt  map[string]int
	rigAt      map[string]int
	state      map[string]state
	under      []needed // what is being made, outermost first
	faultyPart []bool
	carrierAt  map[string]int
	slots      map[string]*scene.Slot
	shared     map[fieldKey]*facing.Field // rigs that face the same way on the same path share it
	faces      map[fieldKey]int           // the first such rig
	spent      spent
}

// builder takes shaping steps: when a scene is compiled, and when a path is made
// anew for a frame.
type builder struct {
	cache *path.Cache
	curve func(id string) *path.Curve // nil when it has a fault of its own
	scene *Scene
	path  int
	frame float64
}

// needed is a thing that is being made.
type needed struct{ key, name string }

type state uint8

const (
	unmade state = iota
	making
	made
)

func (c *compiler) say(err error, format string, args ...any) {
	c.faults = append(c.faults, scene.Fault{Address: fmt.Sprintf(format, args...), Message: err.Error()})
}

// once runs make for a thing that others may need too, and finds rings of need. Nothing is made
// when nobody waits for the scene any more.
func (c *compiler) once(what, id, name, address string, make func()) {
	if c.stopped() {
		return
	}
	n := needed{what + " " + id, name}
	switch c.state[n.key] {
	case made:
		return
	case making:
		ring := name
		for _, u := range c.under[slices.IndexFunc(c.under, func(u needed) bool { return u.key == n.key })+1:] {
			ring += " needs " + u.name + ", which"
		}
		c.say(fmt.Errorf("goes round in a ring: %s needs %s", ring, name), "%s", address)
		return
	}
	c.state[n.key] = making
	c.under = append(c.under, n)
	make()
	c.under = c.under[:len(c.under)-1]
	c.state[n.key] = made
}

// path makes path i; its curve stays nil when it has a fault.
func (c *compiler) path(i int) *path.Curve {
	p := &c.Doc.Paths[i]
	c.once("path", p.ID, p.Name, fmt.Sprintf("paths[%d]", i), func() {
		info := &c.Shaped[i]
		info.LeastClearance = math.NaN()
		note := func(text string) { info.Notes = append(info.Notes, text) }
		var ok bool
		if !c.pathParent(i) {
			return
		}
		if c.tugs[i], ok = c.tugsOf(i); !ok {
			return
		}
		c.deforms[i] = slices.ContainsFunc(c.tugs[i], func(t tug) bool { return t.moves() })
		if !c.liveSteps(i) {
			return
		}
		spans, closed := c.shape(i, note)
		c.deforms[i] = c.deforms[i] || c.belts[i] != nil && c.belts[i].moves
		if spans == nil {
			return
		}
		curve, err := c.memo.spans.New(spans, closed)
		if err != nil {
			c.say(err, "paths[%d].shape", i)
			return
		}
		info.Base = curve
		b := builder{cache: &c.memo.spans, curve: func(id string) *path.Curve { return c.path(c.pathAt[id]) }, scene: c.Scene, path: i, frame: c.Clock.First}
		each := 0 // spans that are made anew in every frame, where it moves
		for k := range p.Steps {
			s := &p.Steps[k]
			did := StepReadout{Kind: s.Kind(), Off: s.Off}
			if !s.Off {
				next, text, err := b.step(k, s, curve)
				if err != nil {
					c.say(err, "paths[%d].steps[%d].%s", i, k, did.Kind)
					return
				}
				if next == nil {
					return // what it needs has a fault of its own
				}
				if s.Join != nil && !c.sameCarrier(i, s.Join.Paths, fmt.Sprintf("paths[%d].steps[%d].join", i, k)) {
					return
				}
				did.Note, did.Change = text, next.Length()-curve.Length()
				curve = next
				if c.over(&c.spent.steps, len(curve.Spans()), maxStepSpans, "spans after steps", "fewer steps, or paths with fewer points, are accepted", "paths[%d].steps[%d]", i, k) {
					return
				}
			}
			did.Length, did.Spans, did.Closed = curve.Length(), len(curve.Spans()), curve.Closed()
			info.Steps = append(info.Steps, did)
			// Before what follows is made of it, which may be gone through frame by frame.
			if each += did.Spans; c.deforms[i] && each > maxMovingPath {
				c.say(fmt.Errorf("with it the path comes to %d spans, those after each step added up, which are made anew in every frame: up to %d are accepted of a path that moves", each, maxMovingPath), "paths[%d].steps[%d]", i, k)
				return
			}
		}
		n := len(curve.Spans())
		each = max(each, n)
		if c.over(&c.spent.spans, n, maxSceneSpans, "spans", "paths with fewer points, or fewer paths, are accepted", "paths[%d]", i) ||
			c.deforms[i] && c.over(&c.spent.moving, each, maxMovingSpans, "spans of paths that move, those after each step added up,", "fewer steps, a resampled path, or one with fewer points, are accepted", "paths[%d]", i) {
			return
		}
		c.Paths[i] = curve
	})
	return c.Paths[i]
}

// sameCarrier says where paths that path i is made of stand elsewhere than it does,
// and takes over that they are deformed.
func (c *compiler) sameCarrier(i int, ids []string, address string) bool {
	for _, id := range ids {
		j := c.pathAt[id]
		if c.parents[j] != c.parents[i] || c.rests[j] != c.rests[i] {
			c.say(fmt.Errorf("%q rides on another carrier or rests elsewhere: a path with the same carrier and rest is accepted", c.Doc.Paths[j].Name), "%s", address)
			return false
		}
		c.deforms[i] = c.deforms[i] || c.deforms[j]
	}
	return true
}

// shape returns the spans of path i before its steps, nil when they have a fault.
func (c *compiler) shape(i int, note func(string)) ([]path.Span, bool) {
	p := &c.Doc.Paths[i]
	switch s := &p.Shape; {
	case s.Over != nil:
		at := c.fixtureAt[s.Over.Fixture]
		f := &c.Fixtures[at]
		if c.carrierIndex(c.Doc.Parent(c.Doc.Fixtures[at].Carrier)) != c.parents[i] || c.rests[i] != geom.Still {
			c.say(fmt.Errorf("%q rides on another carrier than the path that lies on it: the same carrier, without a rest, is accepted", c.Doc.Fixtures[at].Name), "paths[%d].shape.over.fixture", i)
			return nil, false
		}
		if c.faultyPart[f.Part] {
			return nil, false
		}
		pts := make([]geom.Vec, len(s.Over.Points))
		for k, v := range s.Over.Points {
			pts[k] = geom.FromArray(v)
		}
		var spans []path.Span
		shape := &c.Doc.Parts[f.Part].Shape
		if post := shape.Post; post != nil {
			o := surface.Post{Radius: post.Radius, TopRadius: post.Top(), Height: post.Height}
			spans = o.Over(pts, s.Over.Closed, s.Over.Clearance)
		} else {
			mesh, err := c.solid(f.Part)
			if err != nil {
				c.say(err, "paths[%d].shape.over.fixture", i)
				return nil, false
			}
			over := c.memo.over(&c.Parts[f.Part], s.Over, func() laid {
				spans, least := mesh.Over(pts, s.Over.Closed, s.Over.Clearance)
				return laid{spans, least}
			})
			spans = over.spans
			least := over.least
			c.Shaped[i].LeastClearance = least
			if least < s.Over.Clearance-0.05*max(s.Over.Clearance, 1e-3) {
				note(fmt.Sprintf("Between its points the path comes within %.1f mm of the surface.", least*1000))
			}
		}
		return path.MoveAll(spans, f.ToWorld), s.Over.Closed
	case s.Track != nil && s.Track.Carrier != "":
		j := c.carrierAt[s.Track.Carrier]
		if !c.carrier(j) {
			return nil, false
		}
		return track(c.Doc.Range, s.Track.Closed, func(f float64) geom.Vec { return c.pose(j, f).P }), s.Track.Closed
	case s.Track != nil:
		j := c.rigAt[s.Track.Rig]
		t := c.train(j)
		if t == nil {
			return nil, false
		}
		if s.Track.Piece > t.Layout.Count {
			c.say(fmt.Errorf("piece %d is not there: the rig has %d", s.Track.Piece, t.Layout.Count), "paths[%d].shape.track.piece", i)
			return nil, false
		}
		return track(c.Doc.Range, s.Track.Closed, func(f float64) geom.Vec { return t.placeOf(s.Track.Piece-1, f) }), s.Track.Closed
	case s.Wrap != nil:
		if c.belt(i, note) == nil {
			return nil, false
		}
		return c.beltSpans(i, c.Clock.First), true
	default:
		return c.pulled(i, c.Clock.First).Spans(note)
	}
}

// Memo keeps what one compile found out for the next: the measures of spans, and
// paths laid over meshes. Its zero value is empty. It serves one compile at a time.
type Memo struct {
	spans       path.Cache
	now, before map[string]laid
}

// laid is a path over a mesh, in the part's own axes.
type laid struct {
	spans []path.Span
	least float64 // clearance
}

func (m *Memo) next() {
	m.spans.Next()
	m.now, m.before = map[string]laid{}, m.now
}

func (m *Memo) over(p *Part, s *scene.OverShape, lay func() laid) laid {
	key := fmt.Sprintf("%x %v %v %v", p.Hash, s.Closed, s.Clearance, s.Points)
	l, known := m.before[key]
	if !known {
		l = lay()
	}
	m.now[key] = l
	return l
}

// solid is the mesh of a part for finding edges and places on it.
func (c *compiler) solid(i int) (*surface.Mesh, error) {
	p := &c.Parts[i]
	if p.solid == nil {
		var err error
		if p.solid, err = surface.Of(p.Mesh); err != nil {
			return nil, err
		}
	}
	return p.solid, nil
}

// track is the smooth way of a thing through its places in every frame of the range.
// Frames in which it stands still are one.
func track(r scene.Range, closed bool, place func(frame float64) geom.Vec) []path.Span {
	const most = 5000
	every := r.Count()/most + 1
	last := r.Last
	if closed {
		last++ // the frame that shows the first again
	}
	var all []geom.Vec
	size := geom.EmptyBox()
	for n := r.First; n <= last; n += every {
		p := place(float64(n))
		all, size = append(all, p), size.Extend(p)
	}
	scale := size.Size().Norm()
	var pts []path.Point
	for _, p := range all {
		if len(pts) == 0 || p.Sub(pts[len(pts)-1].At).Norm() > 1e-9*scale {
			pts = append(pts, path.Point{At: p, Handles: path.Smooth})
		}
	}
	if n := len(pts); closed && n > 2 && pts[n-1].At.Sub(pts[0].At).Norm() < 1e-6*scale {
		pts = pts[:n-1]
	}
	if len(pts) < 2 {
		return []path.Span{} // no length: measuring it says so
	}
	return path.Spline(path.Resolve(pts, closed), closed)
}

// flatShare is the distance from its plane, as a share of the length, within which
// a path counts as flat.
const flatShare = 1e-6

// step takes shaping step k.
func (b *builder) step(k int, s *scene.Step, in *path.Curve) (out *path.Curve, note string, err error) {
	closed := in.Closed()
	spans := in.Spans()
	switch {
	case s.Reverse != nil:
		spans = path.Reverse(spans)
	case s.StartAt != nil:
		spans, err = in.StartAt(s.StartAt.Distance)
	case s.Close != nil:
		spans, closed = in.CloseUp(s.Close.Smooth), true
		if in.Closed() {
			note = "The path was closed before."
		}
	case s.Open != nil:
		if !closed {
			return nil, "", path.ErrOpenPath
		}
		if s.Open.Gap >= in.Length() {
			return nil, "", fmt.Errorf("a gap of %g m leaves nothing of a path %.6g m long", s.Open.Gap, in.Length())
		}
		spans, closed = in.Cut(0, in.Length()-s.Open.Gap), false
	case s.Extend != nil:
		spans, err = in.Extend(s.Extend.Before, s.Extend.After, s.Extend.Curved)
	case s.Trim != nil:
		spans, note, err = trim(s.Trim, in)
		closed = false
	case s.Join != nil:
		return b.join(s.Join, in)
	case s.Subdivide != nil:
		if n := len(spans) * s.Subdivide.Parts; n > path.MostSpans {
			return nil, "", path.TooMany(n)
		}
		spans = path.Subdivide(spans, s.Subdivide.Parts)
	case s.Resample != nil:
		spans = in.Resample(s.Resample.Count, s.Resample.Straight)
	case s.Simplify != nil:
		got := in.Simplify(s.Simplify.Tolerance)
		spans = got.Spans
		note = fmt.Sprintf("%d points instead of %d, at most %.3g mm off.", got.Points, points(in), got.Off*1000)
		if got.Kept {
			note = fmt.Sprintf("It keeps its %d points: as many others come no nearer than that.", points(in))
		}
	case s.Round != nil:
		tight := 0
		spans = in.RoundCorners(s.Round.Radius, func(at, got float64) {
			if tight++; tight == 1 {
				note = fmt.Sprintf("The corner at %.4g m has room for a radius of %.4g m only.", at, got)
			}
		})
		if n := len(in.Corners(0)); n == 0 {
			note = "The path has no corners."
		}
	case s.Smooth != nil:
		spans = in.Smooth(s.Smooth.Reach)
	case s.Offset != nil:
		spans, note, err = offset(s.Offset, in)
	case s.Mirror != nil:
		n := map[string]geom.Vec{"x": geom.V(1, 0, 0), "y": geom.V(0, 1, 0), "z": geom.V(0, 0, 1)}[s.Mirror.Axis]
		spans = path.Mirror(spans, n.Mul(s.Mirror.At), n)
	case s.Jitter != nil:
		if n := in.Length() / s.Jitter.Grain; n > path.MostSpans/10 {
			return nil, "", fmt.Errorf("a grain of %g m makes %.0f wavers: at least %.3g m is accepted", s.Jitter.Grain, n, in.Length()*10/path.MostSpans)
		}
		j := path.Jittering{Seed: s.Jitter.Seed, Amount: s.Jitter.Amount, Grain: s.Jitter.Grain, Direction: s.Jitter.Direction, Floor: s.Jitter.Floor, Phase: b.beat(s.Jitter.Beats)}
		if !j.Floor {
			spans = in.Jitter(j)
			break
		}
		spans, err = b.onGround(in, func(in *path.Curve, land path.Land) []path.Span {
			j.Land = land
			return in.Jitter(j)
		})
	case s.Wave != nil:
		spans, note, err = b.wave(s.Wave, in)
	case s.Lag != nil:
		if closed { // it would part where its end meets its start
			return nil, "", path.ErrClosedPath
		}
		spans = b.lag(k, s.Lag, in)
	case s.Drop != nil:
		spans, err = b.onGround(in, func(in *path.Curve, land path.Land) []path.Span {
			if s.Drop.Flat {
				return in.Drape(s.Drop.Clearance, land)
			}
			height, _ := in.Above(land, nil)
			note = fmt.Sprintf("Moved by %+.1f mm.", (s.Drop.Clearance-height)*1000)
			return in.Lower(s.Drop.Clearance, land)
		})
	}
	if err != nil {
		return nil, "", err
	}
	out, err = b.cache.New(spans, closed)
	return out, note, err
}

// onGround does to a curve what has to do with the ground, in the world, as the path lies there in
// the first frame.
func (b *builder) onGround(in *path.Curve, do func(in *path.Curve, land path.Land) []path.Span) ([]path.Span, error) {
	pose := b.scene.pathPose(b.path, b.scene.Clock.First)
	if pose == geom.Still {
		return do(in, b.scene.land()), nil
	}
	world, err := b.cache.New(path.MoveAll(in.Spans(), pose.Apply), in.Closed())
	if err != nil {
		return nil, err
	}
	return path.MoveAll(do(world, b.scene.land()), pose.Inverse().Apply), nil
}

// land is the ground that paths lie on.
func (s *Scene) land() path.Land {
	if len(s.ground) == 0 {
		return nil
	}
	return s.ground.Smooth
}

// LowestOf is the least height above the ground of path i as it is in the first frame, and a
// distance at which it is.
func (s *Scene) LowestOf(i int) (height, at float64) {
	pose := s.pathPose(i, s.Clock.First)
	if pose == geom.Still {
		return s.Paths[i].Above(s.land(), nil)
	}
	return s.Paths[i].Above(s.land(), pose.Apply)
}

func points(c *path.Curve) int {
	if c.Closed() {
		return len(c.Spans())
	}
	return len(c.Spans()) + 1
}

func trim(s *scene.TrimStep, in *path.Curve) ([]path.Span, string, error) {
	from, to := s.From, s.To
	if to == 0 {
		to = in.Length()
	}
	note := ""
	if to > in.Length() && !in.Closed() {
		note = fmt.Sprintf("The path ends at %.4g m.", in.Length())
	}
	if !in.Closed() && from >= in.Length() || in.Closed() && to-from > in.Length()*(1+1e-12) {
		return nil, "", fmt.Errorf("from %g m to %g m is not on a path %.6g m long", from, to, in.Length())
	}
	return in.Cut(from, to), note, nil
}

func (b *builder) join(s *scene.JoinStep, in *path.Curve) (*path.Curve, string, error) {
	if in.Closed() {
		return nil, "", path.ErrClosedPath
	}
	curves := []*path.Curve{in}
	for _, id := range s.Paths {
		other := b.curve(id)
		if other == nil {
			return nil, "", nil
		}
		curves = append(curves, other)
	}
	n := 0
	for _, c := range curves {
		n += len(c.Spans()) + 1 // with the bridge to the next
	}
	if n > path.MostSpans {
		return nil, "", path.TooMany(n)
	}
	spans, did, err := path.Join(curves, path.Joining{Snap: s.Snap, Smooth: s.Smooth, Turn: !s.Keep})
	if err != nil {
		return nil, "", err
	}
	turned, bridged := 0, 0
	for i, d := range did {
		if d.Turned {
			turned++
		}
		if i > 0 && d.Gap > s.Snap && d.Gap > 1e-9*in.Length() {
			bridged++
		}
	}
	out, err := b.cache.New(spans, false)
	return out, fmt.Sprintf("%s joined, %d turned round, %s bridged.", plural(len(curves), "path"), turned, plural(bridged, "gap")), err
}

func plural(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}

// offset moves out of a flat loop, else to the left of the path's run.
func offset(s *scene.OffsetStep, in *path.Curve) ([]path.Span, string, error) {
	d, normal := s.Distance, geom.V(0, 1, 0)
	pl := in.Plane()
	flat := !pl.Line && pl.Off <= flatShare*in.Length()
	switch {
	case s.Plane != "":
		along, across, err := path.Axes(string(s.Plane))
		if err != nil {
			return nil, "", err
		}
		normal = along.Cross(across)
		if flat && in.Closed() && pl.Normal.Dot(normal) > 0 {
			normal = normal.Neg()
		}
	case flat && in.Closed():
		normal = pl.Normal.Neg() // a loop turns about its normal, so this side is out
	case flat:
		normal = pl.Normal
		if normal.Y < -1e-9 || math.Abs(normal.Y) <= 1e-9 && normal.X+normal.Z < 0 {
			normal = normal.Neg()
		}
	}
	if _, t := in.At(0); pl.Line && math.Abs(t.Dot(normal)) > 1-1e-9 {
		return nil, "", errors.New("the path runs straight along the normal of that plane: another plane is accepted")
	}
	spans := in.Offset(d, normal)
	note := ""
	if k, at := in.Tightest(); k*math.Abs(d) > 1 {
		note = fmt.Sprintf("The bend at %.4g m has a radius of %.1f mm: where the offset turns into it the path folds.", at, 1000/k)
	}
	return spans, note, nil
}
