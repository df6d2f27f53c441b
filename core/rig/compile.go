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
	"bead/core/machine"
	"bead/core/mech"
	"bead/core/scene"
	"bead/core/surface"
)

// Scene is a compiled document: its rigs and cameras, and the machine that they stand on. It is immutable and
// safe for concurrent use.
type Scene struct {
	*machine.Machine
	Rigs []Rig // as in Doc.Rigs

	cameras []camera // as in Doc.Cameras
	carries []*Rig   // of each path: the first row of pieces on its belt
	posed   machine.ByFrame[*Posed]
	fields  machine.ByFrame[*facing.Field] // of the first train that faces so on its path
}

// FixturePlace is where a fixture stands at a frame.
func (s *Scene) FixturePlace(i int, frame float64) Place {
	return PlaceOf(s.FixturePose(i, frame))
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

// Memo keeps results of one compile for the next: what the machine measured, simulations. Its zero value is
// empty. It serves one compile at a time.
type Memo struct {
	machine   machine.Memo
	runs, ran map[string]*mech.Topple // falling runs of this compile, and of the one before
	// simulations of this compile, and of the one before
	drapes, cloths map[string]*clothRun
}

func (m *Memo) next() {
	m.runs, m.ran = map[string]*mech.Topple{}, m.runs
	m.drapes, m.cloths = map[string]*clothRun{}, m.drapes
}

// topple computes a falling run, or returns the one that the last compile computed for the same key.
func (m *Memo) topple(key string, work func() (*mech.Topple, error)) (*mech.Topple, error) {
	run, known := m.ran[key]
	if !known {
		var err error
		if run, err = work(); err != nil {
			return nil, err
		}
	}
	m.runs[key] = run
	return run, nil
}

// compiler makes rigs and cameras, and has the rest made by the machine's builder.
type compiler struct {
	*machine.Builder
	scene  *Scene
	memo   *Memo
	kept   Kept
	shared map[fieldKey]*facing.Field // rigs that face the same way on the same path share it
	faces  map[fieldKey]int           // the first such rig
	spent  spent
}

// Compile prepares a checked document that needs no files.
func Compile(d *scene.Document) (*Scene, error) { return new(Compiler).Compile(d) }

// Compile is CompileContext without an end.
func (k *Compiler) Compile(d *scene.Document) (*Scene, error) {
	return k.CompileContext(context.Background(), d)
}

// CompileContext prepares a checked document. The error is a scene.Faults with the
// addresses of what cannot be made, or the context's when that has ended.
func (k *Compiler) CompileContext(ctx context.Context, d *scene.Document) (*Scene, error) {
	c := k.begin(ctx, d)
	c.Make()
	for i := range d.Rigs {
		c.rig(i)
	}
	c.Values()
	for i := range d.Cameras {
		c.camera(i)
	}
	if !c.Faulty() { // what sets them off can be anything that moves
		for i := range d.Rigs {
			c.falls(i)
		}
	}
	if err := c.End(ctx); err != nil {
		return nil, err
	}
	return c.scene, nil
}

// begin returns a compiler with everything still to do.
func (k *Compiler) begin(ctx context.Context, d *scene.Document) *compiler {
	memo := k.Memo
	if memo == nil {
		memo = new(Memo)
	}
	memo.next()
	c := &compiler{memo: memo, kept: k.Kept, shared: map[fieldKey]*facing.Field{}, faces: map[fieldKey]int{}}
	c.Builder = machine.Begin(ctx, d, machine.Sources{Meshes: k.Meshes, Figures: k.Figures, Memo: &memo.machine}, c)
	c.scene = &Scene{
		Machine: c.Machine,
		Rigs:    make([]Rig, len(d.Rigs)),
		cameras: make([]camera, len(d.Cameras)),
		carries: make([]*Rig, len(d.Paths)),
		fields: machine.ByFrame[*facing.Field]{Spans: func(f *facing.Field) int {
			if f == nil {
				return 0
			}
			return len(f.Curve().Spans())
		}},
		posed: machine.ByFrame[*Posed]{Spans: func(p *Posed) int { return len(p.Curve.Spans()) }},
	}
	return c
}

// Tracked makes rig i, and says where its pieces are at a frame.
func (c *compiler) Tracked(i int) (pieces int, at func(piece int, frame float64) geom.Vec) {
	t := c.rig(i)
	if t == nil {
		return 0, nil
	}
	return t.Layout.Count, t.placeOf
}
