// Package rig compiles a scene and turns it, frame by frame, into pictures.
//
// Compiling does once what does not change from frame to frame: measuring paths,
// preparing frames along them, spacing, part geometry. Frame n is then a pure
// function of the compiled scene and n that any number of goroutines may call at
// once; with a Picture that has been used before it allocates nothing.
package rig

import (
	"context"
	"errors"
	"fmt"
	"math"

	"bead/core/bend"
	"bead/core/facing"
	"bead/core/geom"
	"bead/core/mech"
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
	// Fixtures stand still in the space of their carrier, as in Doc.Fixtures.
	Fixtures []Fixture

	carriers []carrier    // as in Doc.Carriers
	parents  []int        // of each path: its carrier, or -1
	rests    []geom.Rigid // of each path
	tugs     [][]tug      // of each path
	deforms  []bool       // of each path: it differs from frame to frame
	signals  map[string]*signal
	moving   []moving
	pathAt   map[string]int
	belts    []*belt // of each path, nil of those that run round no wheels
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

// Train is a compiled rig: a train of pieces, or a rider, which is a train of one.
type Train struct {
	Path, Part int // indices into the scene
	Posed          // as it is in the first frame
	ComesRound bool

	// Kinds are the parts of the pieces, each an index into the scene; nil where all are of
	// the train's.
	Kinds []int
	// Pinned trains sit on their pins (seat ends), a chord of Layout.Pitch from one to the
	// next.
	Pinned bool

	scene                *Scene
	index                int
	rig                  *scene.Rig
	seat                 seat   // of the train's own part
	seats                []seat // of every part, where pieces are of several
	scale                float64
	rolling              float64      // metres; 0: it does not roll
	marks                []place.Mark // roll by distance, radians
	beyond               int          // beads of roll beyond the path's end
	travel, offset, roll *signal
	lead                 *Train
	behind               int // trains that lead it, one after another
	deforms              bool
	faces                int // the first train that faces as this one does on the same path
	spec                 facing.Spec
	guide                int // path, or -1
	spread               *spreads
	bodies               []*bend.Body // of every part, of trains whose pieces bend
	blends               []*signal
	blendAt              []int // of each, its number among the body's blends
	tail, head, twist    *signal
	coming, going        *arrivals
}

// Posed is what of a train differs from frame to frame where its path is deformed.
type Posed struct {
	Curve  *path.Curve
	Field  *facing.Field
	Layout place.Layout
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

// Compile is CompileContext without an end.
func (k *Compiler) Compile(d *scene.Document) (*Scene, error) {
	return k.CompileContext(context.Background(), d)
}

// CompileContext prepares a checked document. The error is a scene.Faults with the
// addresses of what cannot be made, or the context's when that has ended.
func (k *Compiler) CompileContext(ctx context.Context, d *scene.Document) (*Scene, error) {
	c := &compiler{
		Scene: &Scene{
			Doc:      d,
			Clock:    motion.Clock{FPS: d.FPS, First: float64(d.Range.First)},
			Paths:    make([]*path.Curve, len(d.Paths)),
			Parts:    make([]Part, len(d.Parts)),
			Trains:   make([]Train, len(d.Rigs)),
			Shaped:   make([]Shaped, len(d.Paths)),
			Fixtures: make([]Fixture, len(d.Fixtures)),
			carriers: make([]carrier, len(d.Carriers)),
			parents:  make([]int, len(d.Paths)),
			rests:    make([]geom.Rigid, len(d.Paths)),
			tugs:     make([][]tug, len(d.Paths)),
			deforms:  make([]bool, len(d.Paths)),
			signals:  map[string]*signal{},
			pathAt:   map[string]int{},
			belts:    make([]*belt, len(d.Paths)),
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
		meshes: k.Meshes, memo: k.Memo, state: map[string]state{},
		partAt: map[string]int{}, fixtureAt: map[string]int{}, rigAt: map[string]int{}, carrierAt: map[string]int{},
		faultyPart: make([]bool, len(d.Parts)), slots: map[string]*scene.Slot{}, shared: map[fieldKey]*facing.Field{}, faces: map[fieldKey]int{},
	}
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
		c.train(i)
	}
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	for i := range slots {
		c.value(slots[i].Ref)
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

// train makes rig i; nil when it or its path has a fault.
func (c *compiler) train(i int) *Train {
	t := &c.Trains[i]
	r := &c.Doc.Rigs[i]
	c.once("rig", r.ID, r.Name, fmt.Sprintf("rigs[%d]", i), func() { c.makeTrain(i, t, r) })
	if t.Curve == nil {
		return nil
	}
	return t
}

func (c *compiler) makeTrain(i int, t *Train, r *scene.Rig) {
	*t = Train{Path: c.pathAt[r.Path], Part: c.partAt[r.Part], rig: r, scale: r.Scale, scene: c.Scene, index: i, guide: -1}
	curve := c.path(t.Path)
	if curve == nil || c.faultyPart[t.Part] {
		return
	}
	t.ComesRound = curve.Closed() || r.PastEnd() == scene.ComeRound
	for _, v := range []struct {
		field string
		to    **signal
	}{{"travel", &t.travel}, {"offset", &t.offset}, {"roll", &t.roll}} {
		if *v.to = c.value("rigs/" + r.ID + "/" + v.field); *v.to == nil {
			return
		}
	}
	if b := r.Body; b != nil {
		if t.twist = c.value("rigs/" + r.ID + "/twist"); t.twist == nil {
			return
		}
		if b.Fit == scene.FitReach {
			t.tail, t.head = c.value("rigs/"+r.ID+"/tail"), c.value("rigs/"+r.ID+"/head")
			if t.tail == nil || t.head == nil {
				return
			}
		}
	}
	if r.Lead() != nil {
		if t.lead = c.train(c.rigAt[r.Lead().Rig]); t.lead == nil {
			return
		}
		if t.behind = t.lead.behind + 1; c.tooLong(t.behind, "rigs[%d].%s.lead", i, r.Kind()) {
			return
		}
		if n := t.lead.Layout.Count; r.Lead().At == scene.AtPiece && r.Lead().Piece > n {
			c.say(fmt.Errorf("piece %d is not there: the rig has %d", r.Lead().Piece, n), "rigs[%d].%s.lead.piece", i, r.Kind())
			return
		}
	}
	t.Pinned = r.Seat() == scene.SeatEnds
	layout, err := place.Layout{Count: 1, Pitch: curve.Length()}, error(nil)
	if r.Body == nil {
		layout, err = t.layOut(curve, c.Parts[t.Part].Length*r.Scale)
	} else if k := r.Body.Rounds; k != nil {
		layout.Count = k.Count
	}
	if err != nil {
		var fe *place.FieldError
		errors.As(err, &fe)
		c.say(err, "rigs[%d].train.spacing.%s", i, fe.Field)
		return
	}
	if c.over(&c.spent.pieces, layout.Count, maxPieces, "pieces", "fewer pieces or rigs are accepted", "rigs[%d].%s", i, spread(r)) {
		return
	}
	t.spec = facing.Spec{Mode: r.Facing.Mode, Inward: r.Facing.Inward, Turns: r.Facing.Turns, Symmetry: r.Facing.Symmetry}
	if r.Bends() {
		t.spec.Symmetry = 0 // what crosses the seam would be torn by a part of a turn
	}
	if r.Facing.Up != nil {
		t.spec.Up = geom.FromArray(*r.Facing.Up)
	}
	t.deforms = c.deforms[t.Path]
	if r.Facing.Mode == facing.Guide {
		t.guide = c.pathAt[r.Facing.Guide]
		if t.spec.Guide = c.path(t.guide); t.spec.Guide == nil {
			return
		}
		if !c.sameCarrier(t.Path, []string{r.Facing.Guide}, fmt.Sprintf("rigs[%d].facing.guide", i)) {
			return
		}
		t.deforms = t.deforms || c.deforms[t.guide]
	}
	field, err := c.field(curve, t.spec, "rigs[%d].facing", i)
	if err != nil {
		c.say(err, "rigs[%d].facing", i)
	}
	if field == nil || err != nil {
		return
	}
	key := fieldKey{curve, t.spec}
	if _, known := c.faces[key]; !known {
		c.faces[key] = i
	}
	t.faces = c.faces[key]
	for _, b := range r.Facing.RollAt {
		if b.At > curve.Length()*(1+1e-9) {
			t.beyond++ // kept in the document: the path may grow again
			continue
		}
		t.marks = append(t.marks, place.Mark{At: b.At, Value: b.Roll * math.Pi / 180, Ease: b.Ease})
	}
	if !c.kinds(i, t, layout.Count) || r.Bends() && !c.bodies(i, t, layout.Count) {
		return
	}
	if v := r.Travel.Turns; v != nil && t.Pinned && t.ComesRound { // once round is a pitch for every link
		t.travel.speed = v.Speed(layout.Pitch*float64(layout.Count), c.Doc.Range.Count(), c.Clock)
	}
	if b := c.belts[t.Path]; b != nil && b.train == nil && r.Train != nil {
		b.train = t
	}
	if own := r.Train; own != nil {
		t.coming, t.going = newArrivals(own.Arrive, layout, curve.Length()), newArrivals(own.Leave, layout, curve.Length())
	}
	if r.Rider != nil {
		t.rolling = r.Rider.Rolling
	}
	t.spread = new(spreads)
	t.Posed = Posed{curve, field, layout}
}

// spread is the field that says how many pieces a rig has.
func spread(r *scene.Rig) string {
	if r.Body != nil {
		return "body.rounds"
	}
	return "train.spacing"
}

// Picture is what a frame looks like. A Picture may be used again and again; its
// slices are then kept.
type Picture struct {
	Frame float64
	Rigs  []Pieces
	// Where the spaces of the paths, the fixtures and the carriers are in the world.
	Paths, Fixtures, Carriers []Place
	// Wheels are those of each path, none of paths that run round none.
	Wheels [][]Turning
	// Curves are the paths that differ from frame to frame, nil for others.
	Curves []*path.Curve
	// Values are those that move, in the order of Readout.Values.
	Values []float64
}

// Place is a position and a rotation (x y z w).
type Place [7]float32

// PlaceOf is a motion as pictures hold it.
func PlaceOf(m geom.Rigid) Place {
	q := geom.FromBasis(m.X, m.Y, m.Z)
	return Place{float32(m.P.X), float32(m.P.Y), float32(m.P.Z), float32(q.X), float32(q.Y), float32(q.Z), float32(q.W)}
}

// Rigid is the place as a motion.
func (p Place) Rigid() geom.Rigid {
	q := geom.Quat{X: float64(p[3]), Y: float64(p[4]), Z: float64(p[5]), W: float64(p[6])}
	return geom.Rigid{P: geom.V(float64(p[0]), float64(p[1]), float64(p[2])),
		X: q.Apply(geom.V(1, 0, 0)), Y: q.Apply(geom.V(0, 1, 0)), Z: q.Apply(geom.V(0, 0, 1))}
}

// Mul is o as seen from where p is seen: the rotation is the product of the two, on the side
// that theirs are on.
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
	// Positions and Normals hold, of pieces that take the form of the path, three floats a
	// vertex of each in the world, piece after piece; Reach where each lies. Pieces that are not
	// shown are drawn together to nothing.
	Positions, Normals []float32
	Reach              []Reach

	work     bend.Work
	sections []bend.Section
	amounts  []float64
}

// Stride is the number of floats of one piece in Pieces.Transforms.
const Stride = 10

// Frame fills the picture with frame n.
func (s *Scene) Frame(dst *Picture, n int) { s.At(dst, float64(n)) }

// RigAt fills dst with what rig i looks like at a frame that may lie between two.
func (s *Scene) RigAt(dst *Pieces, i int, frame float64) { s.Trains[i].frame(dst, frame) }

// At fills the picture with a frame that may lie between two.
func (s *Scene) At(dst *Picture, frame float64) {
	dst.Frame = frame
	dst.Rigs = resized(dst.Rigs, len(s.Trains))
	dst.Paths, dst.Curves = resized(dst.Paths, len(s.Paths)), resized(dst.Curves, len(s.Paths))
	dst.Fixtures, dst.Carriers = resized(dst.Fixtures, len(s.Fixtures)), resized(dst.Carriers, len(s.carriers))
	for i := range s.Paths {
		dst.Paths[i] = PlaceOf(s.pathPose(i, frame))
		dst.Curves[i] = nil
		if s.deforms[i] {
			dst.Curves[i] = s.curveAt(i, frame)
		}
	}
	for i := range s.Fixtures {
		f := &s.Fixtures[i]
		dst.Fixtures[i] = PlaceOf(s.pose(f.carrier, frame).Mul(f.rest))
	}
	for i := range s.carriers {
		dst.Carriers[i] = PlaceOf(s.pose(i, frame))
	}
	for i := range s.Trains {
		s.Trains[i].frame(&dst.Rigs[i], frame)
	}
	dst.Wheels = resized(dst.Wheels, len(s.Paths))
	for i := range s.Paths {
		dst.Wheels[i] = dst.Wheels[i][:0]
		if s.belts[i] != nil {
			dst.Wheels[i] = s.turning(dst.Wheels[i], i, frame, dst.Rigs)
		}
	}
	dst.Values = resized(dst.Values, len(s.moving))
	for i := range s.moving {
		dst.Values[i] = s.moving[i].signal.at(frame, s.Clock)
	}
}

func resized[T any](s []T, n int) []T {
	if cap(s) < n {
		return make([]T, n)
	}
	return s[:n]
}

// Deforms reports whether path i differs from frame to frame.
func (s *Scene) Deforms(i int) bool { return s.deforms[i] }

// PathPlace returns where the space of path i is in the world at a frame.
func (s *Scene) PathPlace(i int, frame float64) geom.Rigid { return s.pathPose(i, frame) }

// CarrierPlace returns where carrier i is in the world at a frame.
func (s *Scene) CarrierPlace(i int, frame float64) geom.Rigid { return s.pose(i, frame) }
