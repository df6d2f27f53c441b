package machine

import (
	"fmt"
	"math"

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

// still is a path up to its first step that moves: the curve there and the number of steps taken. The curve is
// nil where the shape itself moves.
type still struct {
	curve *path.Curve
	steps int
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

// Path makes path i; its curve stays nil when it has a fault.
func (c *Builder) Path(i int) *path.Curve {
	p := &c.Doc.Paths[i]
	c.Once("path", p.ID, p.Name, fmt.Sprintf("paths[%d]", i), func() {
		info := &c.Shaped[i]
		// Not looked at, until a path over a mesh is.
		info.LeastClearance = math.NaN()
		note := func(text string) { info.Notes = append(info.Notes, text) }
		var ok bool
		if !c.pathParent(i) {
			return
		}
		if c.tugs[i], ok = c.tugsOf(i); !ok {
			return
		}
		// Before the shape, which may ask for what depends on whether it moves.
		c.deforms[i] = c.shapeMoves(i)
		if !c.liveSteps(i) {
			return
		}
		spans, closed := c.shape(i, note)
		c.deforms[i] = c.deforms[i] || c.shapeMoves(i)
		if spans == nil {
			return
		}
		curve, err := c.Memo.spans.New(spans, closed)
		if err != nil {
			c.Say(err, "paths[%d].shape", i)
			return
		}
		info.Base = curve
		b := stepping{cache: &c.Memo.spans, curve: func(id string) *path.Curve { return c.Path(c.pathAt[id]) }, on: c.Machine, path: i, frame: c.Clock.First}
		if c.deforms[i] && !c.shapeMoves(i) {
			c.still[i].curve = curve
		}
		each := 0 // spans that are made anew in every frame, where it moves
		for k := range p.Steps {
			s := &p.Steps[k]
			did := StepReadout{Kind: s.Kind(), Off: s.Off}
			if !s.Off {
				next, text, err := b.step(k, s, curve)
				if err != nil {
					c.Say(err, "paths[%d].steps[%d].%s", i, k, did.Kind)
					return
				}
				// The other path's fault is said at that path.
				if next == nil {
					return // what it needs has a fault of its own
				}
				if s.Join != nil && !c.SameCarrier(i, s.Join.Paths, fmt.Sprintf("paths[%d].steps[%d].join", i, k)) {
					return
				}
				did.Note, did.Change = text, next.Length()-curve.Length()
				curve = next
				if c.Over(&c.spent.steps, len(curve.Spans()), maxStepSpans, "spans after steps", "fewer steps, or paths with fewer points, are accepted", "paths[%d].steps[%d]", i, k) {
					return
				}
			}
			if still := &c.still[i]; still.curve != nil && still.steps == k && !c.stepMoves(*s) {
				still.curve, still.steps = curve, k+1
			}
			did.Length, did.Spans, did.Closed = curve.Length(), len(curve.Spans()), curve.Closed()
			info.Steps = append(info.Steps, did)
			// Before more is made of it: later steps may have to go through all frames.
			if each += did.Spans; c.deforms[i] && each > maxMovingPath {
				c.Say(fmt.Errorf("with it the path comes to %d spans, those after each step added up, which are made anew in every frame: up to %d are accepted of a path that moves", each, maxMovingPath), "paths[%d].steps[%d]", i, k)
				return
			}
		}
		n := len(curve.Spans())
		each = max(each, n)
		if c.Over(&c.spent.spans, n, maxSceneSpans, "spans", "paths with fewer points, or fewer paths, are accepted", "paths[%d]", i) ||
			c.deforms[i] && c.Over(&c.spent.moving, each, maxMovingSpans, "spans of paths that move, those after each step added up,", "fewer steps, a resampled path, or one with fewer points, are accepted", "paths[%d]", i) {
			return
		}
		c.Paths[i] = curve
	})
	return c.Paths[i]
}

// SameCarrier requires that the paths from which path i is made have its carrier and rest, and marks path i as
// deforming where one of them is.
func (c *Builder) SameCarrier(i int, ids []string, address string) bool {
	for _, id := range ids {
		j := c.pathAt[id]
		if c.parents[j] != c.parents[i] || c.rests[j] != c.rests[i] {
			c.Say(fmt.Errorf("%q rides on another carrier or rests elsewhere: a path with the same carrier and rest is accepted", c.Doc.Paths[j].Name), "%s", address)
			return false
		}
		c.deforms[i] = c.deforms[i] || c.deforms[j]
	}
	return true
}

// shape returns the spans of path i before its steps, nil when they have a fault.
func (c *Builder) shape(i int, note func(string)) ([]path.Span, bool) {
	p := &c.Doc.Paths[i]
	switch s := &p.Shape; {
	case s.Over != nil:
		at := c.fixtureAt[s.Over.Fixture]
		f := &c.Fixtures[at]
		if c.CarrierIndex(c.Doc.Parent(c.Doc.Fixtures[at].Carrier)) != c.parents[i] || c.rests[i] != geom.Still {
			c.Say(fmt.Errorf("%q rides on another carrier than the path that lies on it: the same carrier, without a rest, is accepted", c.Doc.Fixtures[at].Name), "paths[%d].shape.over.fixture", i)
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
				c.Say(err, "paths[%d].shape.over.fixture", i)
				return nil, false
			}
			over := c.Memo.over(&c.Parts[f.Part], s.Over, func() laid {
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
		if !c.Carrier(j) {
			return nil, false
		}
		return track(c.Doc.Range, s.Track.Closed, func(f float64) geom.Vec { return c.CarrierPlace(j, f).P }), s.Track.Closed
	case s.Track != nil:
		pieces, at := c.rigs.Tracked(c.RigAt(s.Track.Rig))
		if at == nil {
			return nil, false
		}
		if s.Track.Piece > pieces {
			c.Say(fmt.Errorf("piece %d is not there: the rig has %d", s.Track.Piece, pieces), "paths[%d].shape.track.piece", i)
			return nil, false
		}
		return track(c.Doc.Range, s.Track.Closed, func(f float64) geom.Vec { return at(s.Track.Piece-1, f) }), s.Track.Closed
	case s.Wrap != nil:
		if c.belt(i, note) == nil {
			return nil, false
		}
		return c.beltSpans(i, c.Clock.First), s.Wrap.Ends == nil
	default:
		return c.pulled(i, c.Clock.First).Spans(note)
	}
}

// Memo keeps measures of spans, and paths laid over meshes, of one build for the next. Its zero value is empty. It
// serves one build at a time.
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
	// All that the way over a mesh depends on, in the part's own axes: moving the fixture changes none of it.
	key := fmt.Sprintf("%x %v %v %v", p.Hash, s.Closed, s.Clearance, s.Points)
	l, known := m.before[key]
	if !known {
		l = lay()
	}
	m.now[key] = l
	return l
}

// solid is the mesh of a part for finding edges and places on it.
func (c *Builder) solid(i int) (*surface.Mesh, error) {
	p := &c.Parts[i]
	if p.solid == nil {
		var err error
		if p.solid, err = surface.Of(p.Mesh); err != nil {
			return nil, err
		}
	}
	return p.solid, nil
}

// track is a smooth curve through the places of a thing in every frame of the range. Consecutive frames at one
// place count once.
func track(r scene.Range, closed bool, place func(frame float64) geom.Vec) []path.Span {
	const most = 5000
	// Long ranges are drawn through every n-th frame.
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
