// Package rig compiles a scene and turns it, frame by frame, into pictures.
//
// Compiling does once what does not change from frame to frame: measuring paths,
// preparing frames along them, spacing, part geometry. Frame n is then a pure
// function of the compiled scene and n that any number of goroutines may call at
// once; with a Picture that has been used before it allocates nothing.
package rig

import (
	"context"

	"bead/core/facing"
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

// Scene is a compiled document. It is immutable and safe for concurrent use.
type Scene struct {
	Doc    *scene.Document
	Clock  motion.Clock
	Paths  []*path.Curve // as in Doc.Paths
	Parts  []Part        // as in Doc.Parts
	Rigs   []Rig         // as in Doc.Rigs
	Shaped []Shaped      // as in Doc.Paths
	// Fixtures stand still in the space of their carrier, as in Doc.Fixtures.
	Fixtures []Fixture

	carriers []carrier    // as in Doc.Carriers
	cameras  []camera     // as in Doc.Cameras
	parents  []int        // of each path: its carrier, or -1
	rests    []geom.Rigid // of each path
	tugs     [][]tug      // of each path
	deforms  []bool       // of each path: it differs from frame to frame
	still    []still      // of each path
	signals  map[string]*signal
	moving   []moving
	pathAt   map[string]int
	winches  []*winch // of each path, nil of those that leave no drum
	belts    []*belt  // of each path, nil of those that run round no wheels
	waves    map[*scene.WaveStep]*wave
	lags     map[*scene.LagStep]*lag
	ground   mech.Ground
	curves   byFrame[*path.Curve]
	laid     byFrame[*mech.Solved] // with their links where they stand
	plain    byFrame[plainBelt]    // whatever stands on them
	stands   byFrame[geom.Rigid]
	fits     byFrame[lie]
	posed    byFrame[*Posed]
	fields   byFrame[*facing.Field] // of the first train that faces so on its path
	stop     *path.Stop             // of reading the curves that stand still
}

// Until makes the reading of curves that stand still give up when ctx ends, until its result is called.
func (s *Scene) Until(ctx context.Context) (done func()) {
	s.stop.Arm(ctx)
	return s.stop.LetGo
}

// FixturePlace is where a fixture stands at a frame.
func (s *Scene) FixturePlace(i int, frame float64) Place {
	f := &s.Fixtures[i]
	return PlaceOf(s.pose(f.carrier, frame).Mul(f.rest))
}

// Fixture is a part that stands in the scene.
type Fixture struct {
	Part    int // index into the scene
	carrier int // or -1
	rest    geom.Rigid
	at      geom.Vec
	x, y, z geom.Vec // the part's own axes in the carrier's space
	pivot   geom.Vec
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
	made   *look.Material // of a figure: as its file has it
}

// Solid is the part's mesh with a search tree for edges and places on it. It is built on first use and is not
// safe for concurrent use before that.
func (p *Part) Solid() (*surface.Mesh, error) {
	if p.solid != nil {
		return p.solid, nil
	}
	return surface.Of(p.Mesh)
}

// Compiler prepares documents. Its zero value compiles scenes without meshes from
// files.
type Compiler struct {
	// Meshes returns the mesh of an asset.
	Meshes func(asset string) (*surface.Mesh, error)
	// Figures returns the figure of an asset.
	Figures func(asset string) (*figure.Figure, error)
	// Memo, where given, holds results of the last compile, so that only what changed is computed again while
	// a point is dragged. A Compiler with a memo serves one compile at a time.
	Memo *Memo
	// Kept, where it is given, keeps simulated frames from compile to compile.
	Kept Kept
}

// Kept stores bytes under a key that stands for everything they depend on. It is safe for concurrent use.
type Kept interface {
	Get(key string) ([]byte, bool)
	Put(key string, data []byte)
}

// Compile prepares a checked document that needs no files.
func Compile(d *scene.Document) (*Scene, error) { return new(Compiler).Compile(d) }

// Compile is CompileContext without an end.
func (k *Compiler) Compile(d *scene.Document) (*Scene, error) {
	return k.CompileContext(context.Background(), d)
}

// compiler returns a compiler with everything still to do.
func (k *Compiler) compiler(d *scene.Document) *compiler {
	return &compiler{
		Scene: &Scene{
			Doc:      d,
			Clock:    motion.Clock{FPS: d.FPS, First: float64(d.Range.First)},
			Paths:    make([]*path.Curve, len(d.Paths)),
			Parts:    make([]Part, len(d.Parts)),
			Rigs:     make([]Rig, len(d.Rigs)),
			Shaped:   make([]Shaped, len(d.Paths)),
			Fixtures: make([]Fixture, len(d.Fixtures)),
			carriers: make([]carrier, len(d.Carriers)),
			cameras:  make([]camera, len(d.Cameras)),
			parents:  make([]int, len(d.Paths)),
			rests:    make([]geom.Rigid, len(d.Paths)),
			tugs:     make([][]tug, len(d.Paths)),
			deforms:  make([]bool, len(d.Paths)),
			still:    make([]still, len(d.Paths)),
			signals:  map[string]*signal{},
			pathAt:   map[string]int{},
			belts:    make([]*belt, len(d.Paths)),
			winches:  make([]*winch, len(d.Paths)),
			waves:    map[*scene.WaveStep]*wave{},
			lags:     map[*scene.LagStep]*lag{},
			ground:   d.Ground.Profile(),
			stands:   byFrame[geom.Rigid]{most: smallMost},
			fits:     byFrame[lie]{most: smallMost},
			curves:   byFrame[*path.Curve]{spans: func(c *path.Curve) int { return len(c.Spans()) }},
			fields: byFrame[*facing.Field]{spans: func(f *facing.Field) int {
				if f == nil {
					return 0
				}
				return len(f.Curve().Spans())
			}},
			posed: byFrame[*Posed]{spans: func(p *Posed) int { return len(p.Curve.Spans()) }},
		},
		meshes: k.Meshes, figures: k.Figures, memo: k.Memo, kept: k.Kept, state: map[string]state{},
		partAt: map[string]int{}, fixtureAt: map[string]int{}, rigAt: map[string]int{}, carrierAt: map[string]int{},
		faultyPart: make([]bool, len(d.Parts)), slots: map[string]*scene.Slot{}, shared: map[fieldKey]*facing.Field{}, faces: map[fieldKey]int{},
	}
}

// CompileContext prepares a checked document. The error is a scene.Faults with the
// addresses of what cannot be made, or the context's when that has ended.
func (k *Compiler) CompileContext(ctx context.Context, d *scene.Document) (*Scene, error) {
	c := k.compiler(d)
	c.stop = new(path.Stop)
	c.stop.Arm(ctx)
	defer c.stop.LetGo()
	slots := d.Slots()
	for i := range slots {
		c.slots[slots[i].Ref] = &slots[i]
	}
	for i := range d.Carriers {
		c.carrierAt[d.Carriers[i].ID] = i
	}
	if c.memo == nil {
		c.memo = new(Memo)
	}
	c.memo.next()
	c.memo.spans.Stop = c.stop
	for i := range d.Paths {
		c.pathAt[d.Paths[i].ID] = i
	}
	for i := range d.Rigs {
		c.rigAt[d.Rigs[i].ID] = i
	}
	for i := range d.Paths { // where carriers look for their wheels
		c.rests[i] = d.Paths[i].Rest.Rigid()
	}
	for i := range d.Parts {
		c.partAt[d.Parts[i].ID] = i
		c.part(i)
	}
	for i := range d.Fixtures {
		c.fixtureAt[d.Fixtures[i].ID] = i
		c.fixture(i)
	}
	for i := range d.Paths {
		c.path(i)
	}
	for i := range d.Carriers {
		c.carrier(i)
	}
	for i := range d.Rigs {
		c.rig(i)
	}
	for i := range slots {
		c.value(slots[i].Ref)
	}
	for i := range d.Cameras {
		c.camera(i)
	}
	if len(c.faults) == 0 { // what sets them off can be anything that moves
		for i := range d.Rigs {
			c.falls(i)
		}
	}
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	if len(c.faults) > 0 {
		return nil, c.Doc.Addressed(c.faults)
	}
	c.findMoving()
	return c.Scene, nil
}

func (c *compiler) fixture(i int) {
	d := &c.Doc.Fixtures[i]
	f := &c.Fixtures[i]
	f.Part = c.partAt[d.Part]
	a := &c.Parts[f.Part].Axes
	if c.faultyPart[f.Part] {
		return
	}
	m := d.Stand()
	fr := geom.Frame{P: m.P, T: m.Z, U: m.Y}
	f.at, f.pivot = fr.P, a.Pivot
	f.carrier = c.carrierIndex(c.Doc.Parent(d.Carrier))
	f.x, f.y, f.z = ownAxes(a, fr)
	f.rest = geom.Rigid{P: f.ToWorld(geom.Vec{}), X: f.x, Y: f.y, Z: f.z}
}
