// Package rig compiles a scene and turns it, frame by frame, into pictures.
//
// Compiling does once what does not change from frame to frame: measuring paths,
// preparing frames along them, spacing, part geometry. Frame n is then a pure
// function of the compiled scene and n that any number of goroutines may call at
// once; with a Picture that has been used before it allocates nothing.
package rig

import (
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"math"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/motion"
	"bead/core/part"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
	"bead/core/surface"
)

// Scene is a compiled document. It is immutable and safe for concurrent use.
type Scene struct {
	Doc    *scene.Document
	Clock  motion.Clock
	Paths  []*path.Curve // as in Doc.Paths
	Parts  []Part        // as in Doc.Parts
	Trains []Train       // as in Doc.Rigs
	Shaped []Shaped      // as in Doc.Paths
	// Fixtures stand still, as in Doc.Fixtures.
	Fixtures []Fixture
}

// Fixture is a part that stands in the scene.
type Fixture struct {
	Part      int // index into the scene
	Transform [Stride]float32
	at        geom.Vec
	x, y, z   geom.Vec // the part's own axes in the world
	pivot     geom.Vec
}

// ToWorld brings a place in the part's own axes into the world.
func (f *Fixture) ToWorld(p geom.Vec) geom.Vec {
	p = p.Sub(f.pivot)
	return f.at.Mad(f.x, p.X).Mad(f.y, p.Y).Mad(f.z, p.Z)
}

// ToOwn brings a place in the world into the part's own axes.
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
	Length float64 // extent along its own forward axis, metres
	solid  *surface.Mesh
}

// Solid is the part's mesh for finding edges and places on it, made when it is
// first asked for; not while others ask.
func (p *Part) Solid() (*surface.Mesh, error) {
	if p.solid != nil {
		return p.solid, nil
	}
	return surface.Of(p.Mesh)
}

// Train is a compiled rig of kind train.
type Train struct {
	Path, Part int // indices into the scene
	Curve      *path.Curve
	Field      *facing.Field
	Layout     place.Layout
	ComesRound bool
	rig        *scene.Rig
	axes       part.Axes
	scale      float64
	clock      motion.Clock
	marks      []place.Mark // roll by distance, radians
	beyond     int          // beads of roll beyond the path's end
}

// Compiler prepares documents. Its zero value compiles scenes without meshes from
// files.
type Compiler struct {
	// Meshes returns the mesh of an asset.
	Meshes func(asset string) (*surface.Mesh, error)
	// Memo, where it is given, holds what the last compile found out: while a point is
	// dragged only what changed is measured anew. A Compiler with a memo serves one
	// compile at a time.
	Memo *Memo
}

// Compile prepares a checked document that needs no files.
func Compile(d *scene.Document) (*Scene, error) { return new(Compiler).Compile(d) }

// Compile prepares a checked document. The error is a scene.Faults with the
// addresses of what cannot be made.
func (k *Compiler) Compile(d *scene.Document) (*Scene, error) {
	c := &compiler{
		Scene: &Scene{
			Doc:      d,
			Clock:    motion.Clock{FPS: d.FPS, First: float64(d.Range.First)},
			Paths:    make([]*path.Curve, len(d.Paths)),
			Parts:    make([]Part, len(d.Parts)),
			Trains:   make([]Train, len(d.Rigs)),
			Shaped:   make([]Shaped, len(d.Paths)),
			Fixtures: make([]Fixture, len(d.Fixtures)),
		},
		meshes: k.Meshes, memo: k.Memo, state: map[string]state{},
		pathAt: map[string]int{}, partAt: map[string]int{}, fixtureAt: map[string]int{}, rigAt: map[string]int{},
		faultyPart: make([]bool, len(d.Parts)),
	}
	if c.memo == nil {
		c.memo = new(Memo)
	}
	c.memo.next()
	for i := range d.Paths {
		c.pathAt[d.Paths[i].ID] = i
	}
	for i := range d.Rigs {
		c.rigAt[d.Rigs[i].ID] = i
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
	for i := range d.Rigs {
		c.train(i)
	}
	if len(c.faults) > 0 {
		return nil, c.faults
	}
	return c.Scene, nil
}

func (c *compiler) part(i int) {
	p := &c.Doc.Parts[i]
	made, err := c.makePart(p)
	if err != nil {
		field := ""
		var size *part.SizeError
		if errors.As(err, &size) {
			field = "." + size.Field
		}
		c.say(err, "parts[%d].shape.%s%s", i, p.Shape.Kind(), field)
		c.faultyPart[i] = true
	}
	c.Parts[i] = made
}

func (c *compiler) makePart(p *scene.Part) (Part, error) {
	var out Part
	var err error
	if f := p.Shape.File; f != nil {
		if c.meshes == nil {
			return Part{}, errNoAsset
		}
		solid, err := c.meshes(f.Asset)
		if err != nil {
			return Part{}, err
		}
		if out.solid, err = solid.Scaled(f.Scale); err != nil {
			return Part{}, err
		}
		out.Mesh = out.solid.Drawn()
	} else if out.Mesh, err = p.Shape.Mesh(); err != nil {
		return Part{}, err
	}
	if out.Axes, err = part.NewAxes(p.Forward, p.Up, geom.FromArray(p.Pivot)); err != nil {
		return Part{}, err
	}
	shape, err := json.Marshal(p.Shape)
	if err != nil {
		return Part{}, err
	}
	out.Hash, out.Bounds = sha256.Sum256(shape), out.Mesh.Bounds()
	out.Length = out.Axes.Extent(out.Bounds)
	if p.Shape.Shoe != nil && out.Axes.Forward.Z != 0 {
		out.Length = p.Shape.Shoe.Length // pin to pin; the barrels reach past the pins
	}
	return out, nil
}

var errNoAsset = errors.New("the mesh's file is not here: bring it in again, or use a document that holds its assets")

func (c *compiler) fixture(i int) {
	d := &c.Doc.Fixtures[i]
	f := &c.Fixtures[i]
	f.Part = c.partAt[d.Part]
	a := &c.Parts[f.Part].Axes
	if c.faultyPart[f.Part] {
		return
	}
	sin, cos := math.Sincos(d.Heading * math.Pi / 180)
	fr := geom.Frame{P: geom.FromArray(d.At), T: geom.V(sin, 0, cos), U: geom.V(0, 1, 0)}
	f.at, f.pivot = fr.P, a.Pivot
	f.x, f.y, f.z = ownAxes(a, fr)
	p, q := f.ToWorld(geom.Vec{}), geom.FromBasis(f.x, f.y, f.z)
	f.Transform = [Stride]float32{float32(p.X), float32(p.Y), float32(p.Z), float32(q.X), float32(q.Y), float32(q.Z), float32(q.W), 1, 1, 1}
}

// train makes rig i; nil when it or its path has a fault.
func (c *compiler) train(i int) *Train {
	t := &c.Trains[i]
	r := &c.Doc.Rigs[i]
	c.once("rig", r.ID, r.Name, fmt.Sprintf("rigs[%d]", i), func() {
		*t = Train{Path: c.pathAt[r.Path], Part: c.partAt[r.Part], rig: r, scale: r.Scale, clock: c.Clock}
		curve := c.path(t.Path)
		if curve == nil || c.faultyPart[t.Part] {
			return
		}
		t.axes = c.Parts[t.Part].Axes
		t.ComesRound = curve.Closed() || r.PastEnd == scene.ComeRound
		var err error
		t.Layout, err = place.Solve(curve.Length(), t.ComesRound, place.Spec{
			Mode: r.Spacing.Mode, Count: r.Spacing.Count, Pitch: r.Spacing.Pitch, Gap: r.Spacing.Gap, Rest: r.Spacing.Rest,
		}, c.Parts[t.Part].Length*r.Scale)
		if err != nil {
			var fe *place.FieldError
			errors.As(err, &fe)
			c.say(err, "rigs[%d].spacing.%s", i, fe.Field)
			return
		}
		spec := facing.Spec{Mode: r.Facing.Mode, Inward: r.Facing.Inward, Turns: r.Facing.Turns, Symmetry: r.Facing.Symmetry}
		if r.Facing.Up != nil {
			spec.Up = geom.FromArray(*r.Facing.Up)
		}
		if r.Facing.Mode == facing.Guide {
			if spec.Guide = c.path(c.pathAt[r.Facing.Guide]); spec.Guide == nil {
				return
			}
		}
		if t.Field, err = facing.New(curve, spec); err != nil {
			c.say(err, "rigs[%d].facing", i)
			return
		}
		for _, b := range r.Facing.RollAt {
			if b.At > curve.Length()*(1+1e-9) {
				t.beyond++ // kept in the document: the path may grow again
				continue
			}
			t.marks = append(t.marks, place.Mark{At: b.At, Value: b.Roll * math.Pi / 180, Ease: b.Ease})
		}
		t.Curve = curve
	})
	if t.Curve == nil {
		return nil
	}
	return t
}

// Picture is what a frame looks like. A Picture may be used again and again; its
// slices are then kept.
type Picture struct {
	Frame int
	Rigs  []Pieces
}

// Pieces are a rig's rigid pieces.
type Pieces struct {
	// Travel is how far the rig has moved along its path, metres; Offset how much
	// further along its pieces stand; Roll their turn about it, degrees. These are
	// the values that may move, as they are in this frame.
	Travel, Offset, Roll float64
	// Distances holds one distance a piece, metres, within the path where the rig
	// comes round.
	Distances []float64
	// Transforms holds Stride floats a piece: position, rotation (x y z w), scale.
	Transforms []float32
}

// Stride is the number of floats of one piece in Pieces.Transforms.
const Stride = 10

// Frame fills the picture with frame n.
func (s *Scene) Frame(dst *Picture, n int) {
	dst.Frame = n
	if cap(dst.Rigs) < len(s.Trains) {
		dst.Rigs = make([]Pieces, len(s.Trains))
	}
	dst.Rigs = dst.Rigs[:len(s.Trains)]
	for i := range s.Trains {
		s.Trains[i].frame(&dst.Rigs[i], float64(n))
	}
}

// Distance returns where piece i stands at a frame, before wrapping, metres.
func (t *Train) Distance(i int, frame float64) float64 {
	return t.offset(frame) + t.Travel(frame) + float64(i)*t.Layout.Pitch
}

// Mode returns how the train faces.
func (t *Train) Mode() facing.Mode { return t.rig.Facing.Mode }

// Travel returns the rig's travel at a frame, metres.
func (t *Train) Travel(frame float64) float64 { return t.rig.Travel.At(frame, t.clock) }

func (t *Train) offset(frame float64) float64 { return t.rig.Spacing.Offset.At(frame, t.clock) }

// Wrap brings a distance onto the path where the rig comes round.
func (t *Train) Wrap(d float64) float64 {
	if !t.ComesRound {
		return d
	}
	return path.Modulo(d, t.Curve.Length())
}

func (t *Train) frame(dst *Pieces, frame float64) {
	n := t.Layout.Count
	if cap(dst.Distances) < n {
		dst.Distances = make([]float64, n)
		dst.Transforms = make([]float32, n*Stride)
	}
	dst.Distances, dst.Transforms = dst.Distances[:n], dst.Transforms[:n*Stride]
	dst.Travel, dst.Offset, dst.Roll = t.Travel(frame), t.offset(frame), t.rig.Facing.Roll.At(frame, t.clock)
	start, length := t.Wrap(t.Distance(0, frame)), t.Curve.Length()
	roll := dst.Roll * math.Pi / 180
	scale := float32(t.scale)
	for i := range n {
		d := start + float64(i)*t.Layout.Pitch
		if t.ComesRound && d >= length {
			d -= length // the train is at most one length long
		}
		f := t.Field.Frame(d)
		if turn := roll + t.rollAt(d); turn != 0 {
			f.U = geom.RotateAbout(f.U, f.T, turn)
		}
		p, q := t.seat(f)
		dst.Distances[i] = d
		o := dst.Transforms[i*Stride : i*Stride+Stride : i*Stride+Stride]
		o[0], o[1], o[2] = float32(p.X), float32(p.Y), float32(p.Z)
		o[3], o[4], o[5], o[6] = float32(q.X), float32(q.Y), float32(q.Z), float32(q.W)
		o[7], o[8], o[9] = scale, scale, scale
	}
}

// rollAt is the roll of the beads at a distance, radians.
func (t *Train) rollAt(d float64) float64 {
	if len(t.marks) == 0 {
		return 0
	}
	if t.Curve.Closed() {
		d = t.Curve.Wrap(d)
	}
	v, _ := place.ByDistance(t.marks, d, t.Curve.Length(), t.Curve.Closed())
	return v
}

// houseAxes are the default: forward +Z, up +Y, the pivot at the origin.
var houseAxes = part.Axes{Forward: geom.V(0, 0, 1), Up: geom.V(0, 1, 0), Side: geom.V(1, 0, 0)}

// ownAxes returns a part's x, y and z in the world when its own forward and up are
// put on the frame's.
func ownAxes(a *part.Axes, f geom.Frame) (x, y, z geom.Vec) {
	side := f.Side()
	column := func(side0, up0, forward0 float64) geom.Vec {
		return side.Mul(side0).Mad(f.U, up0).Mad(f.T, forward0)
	}
	return column(a.Side.X, a.Up.X, a.Forward.X), column(a.Side.Y, a.Up.Y, a.Forward.Y), column(a.Side.Z, a.Up.Z, a.Forward.Z)
}

// seat puts the part's pivot on the frame's place and its own axes on the
// frame's: seat pivot.
func (t *Train) seat(f geom.Frame) (geom.Vec, geom.Quat) {
	a := &t.axes
	if *a == houseAxes {
		return f.P, geom.FromBasis(f.Side(), f.U, f.T)
	}
	x, y, z := ownAxes(a, f)
	p := f.P
	if a.Pivot != (geom.Vec{}) {
		k := t.scale
		p = p.Mad(x, -k*a.Pivot.X).Mad(y, -k*a.Pivot.Y).Mad(z, -k*a.Pivot.Z)
	}
	return p, geom.FromBasis(x, y, z)
}
