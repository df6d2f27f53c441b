package rig

import (
	"bead/core/bend"
	"bead/core/figure"
	"bead/core/geom"
	"bead/core/path"
	"context"
)

// Picture is what a frame looks like. A Picture may be used again and again; its
// slices are then kept.
type Picture struct {
	Frame float64
	// Bare asks for the joints of figures alone: their vertices are not computed.
	Bare bool
	Rigs []Pieces
	stop context.Context // ends where nobody waits for it any more; nil where it is made in any case
	// Where the spaces of the paths, the fixtures and the carriers are in the world.
	Paths, Fixtures, Carriers []Place
	// Wheels are those of each path, none of paths that run round none.
	Wheels [][]Turning
	// Curves are the paths that differ from frame to frame, nil for others.
	Curves []*path.Curve
	// Cameras are where cameras look from.
	Cameras []Looking
	// Values are those that move, in the order of Readout.Values.
	Values []float64
}

// Place is a position and a rotation (x y z w).
type Place [7]float32

// PlaceOf packs a rigid motion as position and quaternion (x y z w).
func PlaceOf(m geom.Rigid) Place {
	q := geom.FromBasis(m.X, m.Y, m.Z)
	return Place{float32(m.P.X), float32(m.P.Y), float32(m.P.Z), float32(q.X), float32(q.Y), float32(q.Z), float32(q.W)}
}

// Quat is its rotation.
func (p Place) Quat() geom.Quat {
	return geom.Quat{X: float64(p[3]), Y: float64(p[4]), Z: float64(p[5]), W: float64(p[6])}
}

// Rigid unpacks the place into a rigid motion.
func (p Place) Rigid() geom.Rigid {
	q := p.Quat()
	return geom.Rigid{P: geom.V(float64(p[0]), float64(p[1]), float64(p[2])),
		X: q.Apply(geom.V(1, 0, 0)), Y: q.Apply(geom.V(0, 1, 0)), Z: q.Apply(geom.V(0, 0, 1))}
}

// Mul composes two places, p after o, as rigid motions do. The quaternion is the plain product, so its sign
// stays continuous where theirs are.
func (p Place) Mul(o Place) Place {
	at := p.Rigid().Apply(geom.V(float64(o[0]), float64(o[1]), float64(o[2])))
	x1, y1, z1, w1 := float64(p[3]), float64(p[4]), float64(p[5]), float64(p[6])
	x2, y2, z2, w2 := float64(o[3]), float64(o[4]), float64(o[5]), float64(o[6])
	return Place{float32(at.X), float32(at.Y), float32(at.Z),
		float32(w1*x2 + x1*w2 + y1*z2 - z1*y2), float32(w1*y2 - x1*z2 + y1*w2 + z1*x2),
		float32(w1*z2 + x1*y2 - y1*x2 + z1*w2), float32(w1*w2 - x1*x2 - y1*y2 - z1*z2)}
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
	// Pins are the distances of the pins of a rig that sits on them, one more than pieces,
	// in rising order from its root on; FirstPin is the first's number, counted on and on.
	Pins     []float64
	FirstPin int
	pinAt    []geom.Vec // where the pins are, in the path's space
	// Transforms holds Stride floats a piece: position, rotation (x y z w), scale.
	Transforms []float32
	// Positions and Normals hold the vertices of pieces that bend: three floats each, in the world, piece
	// after piece. Reach is where each piece lies on the path. All vertices of a piece that is not shown are
	// at one place.
	Positions, Normals []float32
	Reach              []Reach
	// Joints are those of figures in the world, figure after figure.
	Joints []geom.Rigid
	// Waits is set while the simulation of this frame has not been computed: the pieces are shown without it.
	Waits bool

	moment   moment
	work     bend.Work
	sections []bend.Section
	amounts  []float64
	tilts    []float64

	bare             bool
	one              int // the figure that is posed, from 1; 0: all
	stop             context.Context
	straight, locals []geom.Rigid // of a figure
	along            []geom.Rigid // of what a leg takes along, in the axes of what that hangs from
	binds            []figure.Affine
	short            []float64 // by how much each leg is too short, metres
}

// Stride is the number of floats of one piece in Pieces.Transforms.
const Stride = 10

// Frame fills the picture with frame n.
func (s *Scene) Frame(dst *Picture, n int) { s.At(dst, float64(n)) }

// FrameContext is Frame, but gives up between two pieces when ctx ends. It then returns the error of ctx and
// the picture is incomplete.
func (s *Scene) FrameContext(ctx context.Context, dst *Picture, n int) error {
	return s.AtContext(ctx, dst, float64(n))
}

// AtContext is At, given up as FrameContext is.
func (s *Scene) AtContext(ctx context.Context, dst *Picture, frame float64) error {
	dst.stop = ctx
	defer func() { dst.stop = nil }()
	s.At(dst, frame)
	return ctx.Err()
}

// askEvery is the number of rigid pieces between two looks at the context.
const askEvery = 256

// givenUp reports whether the context of the picture has ended; it looks at every askEvery-th piece.
func (p *Pieces) givenUp(piece int) bool {
	// Every piece would be slower to ask than to place.
	return piece%askEvery == 0 && p.stop != nil && p.stop.Err() != nil
}

// RigAt fills dst with what rig i looks like at a frame that may lie between two.
func (s *Scene) RigAt(dst *Pieces, i int, frame float64) { s.Rigs[i].frame(dst, frame) }

// At fills the picture with a frame that may lie between two.
func (s *Scene) At(dst *Picture, frame float64) {
	dst.Frame = frame
	dst.Rigs = resized(dst.Rigs, len(s.Rigs))
	dst.Paths, dst.Curves = resized(dst.Paths, len(s.Paths)), resized(dst.Curves, len(s.Paths))
	dst.Fixtures, dst.Carriers = resized(dst.Fixtures, len(s.Fixtures)), resized(dst.Carriers, len(s.Doc.Carriers))
	for i := range s.Paths {
		dst.Paths[i] = PlaceOf(s.PathPlace(i, frame))
		dst.Curves[i] = nil
		if s.Deforms(i) {
			dst.Curves[i] = s.CurveAt(i, frame)
		}
	}
	for i := range s.Fixtures {
		dst.Fixtures[i] = s.FixturePlace(i, frame)
	}
	dst.Cameras = resized(dst.Cameras, len(s.cameras))
	for i := range s.cameras {
		dst.Cameras[i] = s.Look(i, frame)
	}
	for i := range s.Doc.Carriers {
		dst.Carriers[i] = PlaceOf(s.CarrierPlace(i, frame))
	}
	for i := range s.Rigs {
		dst.Rigs[i].bare, dst.Rigs[i].stop = dst.Bare, dst.stop
		s.Rigs[i].frame(&dst.Rigs[i], frame)
		dst.Rigs[i].stop = nil
		if dst.stop != nil && dst.stop.Err() != nil {
			return
		}
	}
	dst.Wheels = resized(dst.Wheels, len(s.Paths))
	for i := range s.Paths {
		// After the rigs: a belt's wheels turn with the pieces on it.
		dst.Wheels[i] = dst.Wheels[i][:0]
		if s.Doc.Paths[i].Shape.Wrap != nil {
			dst.Wheels[i] = s.turning(dst.Wheels[i], i, frame, dst.Rigs)
		}
	}
	dst.Values = s.ValuesAt(dst.Values, frame)
}

func resized[T any](s []T, n int) []T {
	if cap(s) < n {
		return make([]T, n)
	}
	return s[:n]
}
