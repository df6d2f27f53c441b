// Package machine makes what a scene's rigs stand on, and what recurses from frame to frame: paths with their
// shaping steps, carriers, values that follow one another, odometers, belts round wheels, ropes off drums, and
// the ground below them. A path may hang on a carrier that rides on a path; so all of it is made together, each
// thing when the first that needs it asks.
//
// It knows of rigs only what paths ask of them (Rigs). A Machine is immutable once it is built: any number of
// goroutines may ask it about frames at once.
package machine

import (
	"context"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/look"
	"bead/core/mech"
	"bead/core/motion"
	"bead/core/part"
	"bead/core/path"
	"bead/core/scene"
	"bead/core/surface"
)

// Machine is all of a compiled document but its rigs and cameras.
type Machine struct {
	Doc    *scene.Document
	Clock  motion.Clock
	Paths  []*path.Curve // as in Doc.Paths, in the first frame
	Parts  []Part        // as in Doc.Parts
	Shaped []Shaped      // as in Doc.Paths
	// Fixtures stand still in the space of their carrier, as in Doc.Fixtures.
	Fixtures []Fixture

	carriers []carrier    // as in Doc.Carriers
	parents  []int        // of each path: its carrier, or -1
	rests    []geom.Rigid // of each path
	tugs     [][]tug      // of each path
	deforms  []bool       // of each path: it differs from frame to frame
	still    []still      // of each path
	signals  map[string]*Signal
	moving   []moving
	pathAt   map[string]int
	winches  []*Winch // of each path, nil of those that leave no drum
	belts    []*belt  // of each path, nil of those that run round no wheels
	waves    map[*scene.WaveStep]*wave
	lags     map[*scene.LagStep]*lag
	ground   mech.Ground
	curves   ByFrame[*path.Curve]
	laid     ByFrame[*mech.Solved] // with their links where they stand
	plain    ByFrame[plainBelt]    // whatever stands on them
	stands   ByFrame[geom.Rigid]
	fits     ByFrame[lie]
	stop     *path.Stop // of reading the curves that stand still
}

// Until makes the reading of curves that stand still give up when ctx ends, until its result is called.
func (s *Machine) Until(ctx context.Context) (done func()) {
	s.stop.Arm(ctx)
	return s.stop.LetGo
}

// Fixture is a part that stands in the scene.
type Fixture struct {
	Part int // index into the scene
	// Carrier is the one that it rides on, or -1; Rest is where it stands in its space.
	Carrier int
	Rest    geom.Rigid
	at      geom.Vec
	x, y, z geom.Vec // the part's own axes in the carrier's space
	pivot   geom.Vec
}

// FixturePose is where a fixture stands in the world at a frame.
func (s *Machine) FixturePose(i int, frame float64) geom.Rigid {
	f := &s.Fixtures[i]
	return s.CarrierPlace(f.Carrier, frame).Mul(f.Rest)
}

// ToWorld brings a place in the part's own axes into the space of its carrier, the
// world where it has none.
func (f *Fixture) ToWorld(p geom.Vec) geom.Vec {
	p = p.Sub(f.pivot)
	return f.at.Mad(f.x, p.X).Mad(f.y, p.Y).Mad(f.z, p.Z)
}

// ToOwn brings a place in its carrier's space into the part's own axes.
func (f *Fixture) ToOwn(p geom.Vec) geom.Vec {
	p = p.Sub(f.at)
	return f.pivot.Add(geom.V(p.Dot(f.x), p.Dot(f.y), p.Dot(f.z)))
}

// Part is a part's generated geometry.
type Part struct {
	Mesh   *geom.Mesh
	Hash   [32]byte // of the shape, so that receivers can keep what they have
	Bounds geom.Box
	Axes   part.Axes
	Length float64        // extent along its own forward axis, metres
	Figure *figure.Figure // of a part that is one
	solid  *surface.Mesh
	// Made is what a figure is made of by its file.
	Made *look.Material
}

// Solid is the part's mesh with a search tree for edges and places on it. It is built on first use and is not
// safe for concurrent use before that.
func (p *Part) Solid() (*surface.Mesh, error) {
	if p.solid != nil {
		return p.solid, nil
	}
	return surface.Of(p.Mesh)
}
