package rig

import (
	"context"
	"slices"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// drape is a cloth: a body that some points hold to the path; the rest is simulated.
type drape struct {
	*body
	drape *scene.Drape
	run   *clothRun
}

// Along its path a cloth covers what a body would; all else of a body it does not have.
func newDrape(t *Rig) kind {
	d := t.rig.Drape
	return &drape{body: &body{Rig: t, doc: &scene.Body{Fit: d.Fit, Anchor: d.Anchor, PastEnd: scene.StraightOn}}, drape: d}
}

func (t *drape) nature() Nature { return Nature{Simulated: true} }

func (t *drape) prepare(c *compiler) bool {
	return t.drape.Fit != scene.FitReach || c.own(t.Rig, "tail", &t.tail) && c.own(t.Rig, "head", &t.head)
}

func (t *drape) layOut(curve *path.Curve) (place.Layout, string, error) {
	return place.Layout{Count: t.drape.Count, Pitch: max(t.drape.Pitch, 1e-6)}, "drape.count", nil
}

func (t *drape) form(float64) form { return form{} }

func (t *drape) at(piece int, frame float64) float64 { return t.anchor(t.reach(piece, frame)) }

func (t *drape) ends(frame float64) (tail, head float64) {
	return t.reach(0, frame).Tail, t.reach(t.Layout.Count-1, frame).Head
}

func (t *drape) reach(piece int, frame float64) Reach {
	// Copies are counted from the travel on, a pitch from one to the next.
	return t.reachOf(0, t.base(frame)+float64(piece)*t.drape.Pitch, frame)
}

func (t *drape) ready(c *compiler) (field string, err error) {
	t.run, field, err = c.cloth(t)
	return field, err
}

func (t *drape) stand(dst *Pieces, m *moment) {
	// First as if it followed its path: that gives reach and transforms, and is shown while the simulation is behind.
	t.flat(dst, m)
	if t.run != nil {
		dst.Waits = !t.run.fill(dst, t, m)
	}
}

// flat is the cloth as it would be if it followed its path.
func (t *drape) flat(dst *Pieces, m *moment) {
	dst.Reach = resized(dst.Reach, m.Layout.Count)
	for i := range dst.Reach {
		r := t.reachOf(0, m.base+float64(i)*t.drape.Pitch, m.frame)
		dst.Reach[i] = r
		t.put(dst, m, i, t.wrap(m.Curve, t.anchor(r)), float32(t.scale), 0)
	}
	t.bend(dst, m)
}

// Simulate computes all frames that have to be simulated, going on from those that are known. progress, which
// may be nil, is called with the number of frames done and in all. Its error is that of ctx.
func (s *Scene) Simulate(ctx context.Context, progress func(done, of int)) error {
	return s.SimulateTo(ctx, s.Doc.Range.Last+1, progress)
}

// SimulateTo is Simulate up to a frame.
func (s *Scene) SimulateTo(ctx context.Context, frame int, progress func(done, of int)) error {
	done, of := s.SimulatedTo(frame)
	for i := range s.Rigs {
		run := s.Rigs[i].simulation()
		// One rig after another: each is simulated on one core, and several scenes at once are what fills the others.
		for run != nil && !run.has(float64(frame)) {
			if err := run.advance(ctx); err != nil {
				return err
			}
			if now, _ := s.SimulatedTo(frame); progress != nil && now != done {
				done = now
				progress(done, of)
			}
		}
	}
	return ctx.Err()
}

// Simulated is how many frames of how many have been simulated, over all rigs, including those before the
// range in which cloth settles.
func (s *Scene) Simulated() (done, of int) { return s.SimulatedTo(s.Doc.Range.Last + 1) }

// SimulatedTo is Simulated for SimulateTo.
func (s *Scene) SimulatedTo(frame int) (done, of int) {
	for i := range s.Rigs {
		if run := s.Rigs[i].simulation(); run != nil {
			_, last, _ := run.span(float64(frame))
			// What of the work is wanted for this frame: frames behind it need not be gone through.
			all := run.work - (run.count - 1 - last)
			done, of = done+min(int(run.worked.Load()), all), of+all
		}
	}
	return done, of
}

// Waits reports whether frames of the rig are still to be simulated.
func (t *Rig) Waits() bool {
	run := t.simulation()
	return run != nil && !run.whole()
}

// Ready reports whether all that a frame shows has been worked out.
func (s *Scene) Ready(frame int) bool {
	for i := range s.Rigs {
		if run := s.Rigs[i].simulation(); run != nil && !run.has(float64(frame)) {
			return false
		}
	}
	return true
}

func (t *Rig) simulation() *clothRun {
	if k, is := t.kind.(*drape); is {
		return k.run
	}
	return nil
}

// ClothReadout is what a cloth is made of.
type ClothReadout struct {
	Points   int     `json:"points"`
	Held     int     `json:"held"`
	Substeps int     `json:"substeps"` // a frame
	Spacing  float64 `json:"spacing"`  // metres from point to point
	Mass     float64 `json:"mass"`     // kg, of all copies
	// Fullness is how much longer the cloth is than its run of the path, in the first frame.
	Fullness float64 `json:"fullness"`
	// Fine is the spacing from which on its folds are round: a third of the bending length; 0 of none.
	Fine float64 `json:"fine,omitempty"`
	// Broken is set when the simulation has diverged in the frames computed so far.
	Broken bool `json:"-"`
}

// Cloth tells what the rig's cloth is made of; nil of what is none.
func (t *Rig) Cloth() *ClothReadout {
	run := t.simulation()
	if run == nil {
		return nil
	}
	out := &ClothReadout{Points: len(run.cloth.X), Held: len(run.pins), Substeps: run.substeps, Spacing: run.cloth.Spacing(),
		Fullness: 1 / t.ReachOf(0, t.scene.Clock.First).Stretch, Fine: t.rig.Drape.Fabric.Bending / 3, Broken: run.broken.Load()}
	for _, m := range run.cloth.Mass {
		out.Mass += m
	}
	return out
}

func (k *drape) tell(out *OfKind) { out.Cloth = k.Cloth() }

// ClothStretch is the greatest share by which an edge of the cloth is longer in a picture than at
// rest, the place of that edge, and its piece.
func (t *Rig) ClothStretch(p *Pieces) (most float64, at geom.Vec, piece int) {
	run := t.simulation()
	points := run.points(p)
	most, a, b := run.cloth.Stretched(points)
	return most, points[a].Lerp(points[b], 0.5), a / run.perPiece
}

// ClothCrossings is how many edges of the cloth pass through it in a picture, and where one does.
func (t *Rig) ClothCrossings(p *Pieces) (n int, at geom.Vec) {
	run := t.simulation()
	return run.cloth.Crossings(run.points(p))
}

// ClothDepth is how deep a point of the cloth is in the ground or a fixture in a picture of a frame,
// metres, and where.
func (t *Rig) ClothDepth(p *Pieces, frame float64) (most float64, at geom.Vec) {
	run := t.simulation()
	solids := slices.Clone(run.solids)
	placed(t.scene, solids, frame)
	for _, q := range run.points(p) {
		if deep, _ := pushed(t.scene, solids, q, 0); deep > most {
			most, at = deep, q
		}
	}
	return most, at
}
