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
)

// Scene is a compiled document. It is immutable and safe for concurrent use.
type Scene struct {
	Doc    *scene.Document
	Clock  motion.Clock
	Paths  []*path.Curve // as in Doc.Paths
	Parts  []Part        // as in Doc.Parts
	Trains []Train       // as in Doc.Rigs
}

// Part is a part's generated geometry.
type Part struct {
	Mesh   *geom.Mesh
	Hash   [32]byte // of the shape, so that receivers can keep what they have
	Bounds geom.Box
	Axes   part.Axes
	Length float64 // extent along its own forward axis, metres
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
}

// Compile prepares a checked document. The error is a scene.Faults with the
// addresses of what cannot be made.
func Compile(d *scene.Document) (*Scene, error) {
	s := &Scene{
		Doc:    d,
		Clock:  motion.Clock{FPS: d.FPS, First: float64(d.Range.First)},
		Paths:  make([]*path.Curve, len(d.Paths)),
		Parts:  make([]Part, len(d.Parts)),
		Trains: make([]Train, len(d.Rigs)),
	}
	var faults scene.Faults
	say := func(err error, format string, args ...any) {
		faults = append(faults, scene.Fault{Address: fmt.Sprintf(format, args...), Message: err.Error()})
	}
	pathAt, partAt := map[string]int{}, map[string]int{}
	for i := range d.Paths {
		pathAt[d.Paths[i].ID] = i
		spans, closed := d.Paths[i].Shape.Spans()
		var err error
		if s.Paths[i], err = path.New(spans, closed); err != nil {
			say(err, "paths[%d].shape", i)
		}
	}
	for i := range d.Parts {
		partAt[d.Parts[i].ID] = i
		var err error
		if s.Parts[i], err = compilePart(&d.Parts[i]); err != nil {
			field := ""
			var size *part.SizeError
			if errors.As(err, &size) {
				field = "." + size.Field
			}
			say(err, "parts[%d].shape.%s%s", i, d.Parts[i].Shape.Kind(), field)
		}
	}
	if len(faults) > 0 {
		return nil, faults
	}
	for i := range d.Rigs {
		r := &d.Rigs[i]
		t := &s.Trains[i]
		*t = Train{Path: pathAt[r.Path], Part: partAt[r.Part], rig: r, scale: r.Scale, clock: s.Clock}
		t.Curve, t.axes = s.Paths[t.Path], s.Parts[t.Part].Axes
		t.ComesRound = t.Curve.Closed() || r.PastEnd == scene.ComeRound
		var err error
		t.Layout, err = place.Solve(t.Curve.Length(), t.ComesRound, place.Spec{
			Mode: r.Spacing.Mode, Count: r.Spacing.Count, Pitch: r.Spacing.Pitch, Gap: r.Spacing.Gap, Rest: r.Spacing.Rest,
		}, s.Parts[t.Part].Length*r.Scale)
		if err != nil {
			var fe *place.FieldError
			errors.As(err, &fe)
			say(err, "rigs[%d].spacing.%s", i, fe.Field)
		}
		spec := facing.Spec{Mode: r.Facing.Mode, Inward: r.Facing.Inward, Turns: r.Facing.Turns, Symmetry: r.Facing.Symmetry}
		if r.Facing.Up != nil {
			spec.Up = geom.FromArray(*r.Facing.Up)
		}
		if t.Field, err = facing.New(t.Curve, spec); err != nil {
			say(err, "rigs[%d].facing", i)
		}
	}
	if len(faults) > 0 {
		return nil, faults
	}
	return s, nil
}

func compilePart(p *scene.Part) (Part, error) {
	mesh, err := p.Shape.Mesh()
	if err != nil {
		return Part{}, err
	}
	axes, err := part.NewAxes(p.Forward, p.Up, geom.FromArray(p.Pivot))
	if err != nil {
		return Part{}, err
	}
	shape, err := json.Marshal(p.Shape)
	if err != nil {
		return Part{}, err
	}
	out := Part{Mesh: mesh, Hash: sha256.Sum256(shape), Bounds: mesh.Bounds(), Axes: axes}
	out.Length = axes.Extent(out.Bounds)
	if p.Shape.Shoe != nil && axes.Forward.Z != 0 {
		out.Length = p.Shape.Shoe.Length // pin to pin; the barrels reach past the pins
	}
	return out, nil
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
		if roll != 0 {
			f.U = geom.RotateAbout(f.U, f.T, roll)
		}
		p, q := t.seat(f)
		dst.Distances[i] = d
		o := dst.Transforms[i*Stride : i*Stride+Stride : i*Stride+Stride]
		o[0], o[1], o[2] = float32(p.X), float32(p.Y), float32(p.Z)
		o[3], o[4], o[5], o[6] = float32(q.X), float32(q.Y), float32(q.Z), float32(q.W)
		o[7], o[8], o[9] = scale, scale, scale
	}
}

// houseAxes are the default: forward +Z, up +Y, the pivot at the origin.
var houseAxes = part.Axes{Forward: geom.V(0, 0, 1), Up: geom.V(0, 1, 0), Side: geom.V(1, 0, 0)}

// seat puts the part's pivot on the frame's place and its own axes on the
// frame's: seat pivot.
func (t *Train) seat(f geom.Frame) (geom.Vec, geom.Quat) {
	a, side := &t.axes, f.Side()
	if *a == houseAxes {
		return f.P, geom.FromBasis(side, f.U, f.T)
	}
	column := func(side0, up0, forward0 float64) geom.Vec {
		return side.Mul(side0).Mad(f.U, up0).Mad(f.T, forward0)
	}
	x := column(a.Side.X, a.Up.X, a.Forward.X)
	y := column(a.Side.Y, a.Up.Y, a.Forward.Y)
	z := column(a.Side.Z, a.Up.Z, a.Forward.Z)
	p := f.P
	if a.Pivot != (geom.Vec{}) {
		k := t.scale
		p = p.Mad(x, -k*a.Pivot.X).Mad(y, -k*a.Pivot.Y).Mad(z, -k*a.Pivot.Z)
	}
	return p, geom.FromBasis(x, y, z)
}
