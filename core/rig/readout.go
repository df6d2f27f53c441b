package rig

import (
	"context"
	"math"
	"runtime"
	"sync"
	"sync/atomic"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/look"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// Readout is what compiling found out, for the recipe and the strips: plain
// numbers in metres, degrees and 1/m.
type Readout struct {
	Paths    []PathReadout    `json:"paths"`
	Parts    []PartReadout    `json:"parts"`
	Rigs     []RigReadout     `json:"rigs"`
	Fixtures []FixtureReadout `json:"fixtures"`
	// Reach is the box, least and greatest corner, in which the paths and fixtures are
	// over the range; left out where there are none.
	Reach []scene.Vec3 `json:"reach,omitempty"`
	// Ground is the profile of the ground as z, height, z, ...; left out where it is level.
	Ground []float32 `json:"ground,omitempty"`
	// Values are those that move, over time.
	Values []CurveReadout `json:"values,omitempty"`
	// Materials are those that anything is made of, the scene's own and those that go with a shape;
	// others are told by their numbers among these. Wheels is that of wheels, GroundMaterial that of
	// the ground, -1 of a ground that is a chart.
	Materials      []look.Material `json:"materials"`
	Wheels         int             `json:"wheels"`
	GroundMaterial int             `json:"groundMaterial"`
}

// FixtureReadout is where a fixture stands.
type FixtureReadout struct {
	ID   string `json:"id"`
	Part int    `json:"part"` // index of its part
	// Place is position, rotation (x y z w) and scale, as of a piece.
	Place     []float32 `json:"place"`
	Materials []int     `json:"materials"` // of the groups of its mesh, or one
}

// PathReadout describes a measured path.
type PathReadout struct {
	ID     string     `json:"id"`
	Length float64    `json:"length"`
	Closed bool       `json:"closed"`
	Spans  int        `json:"spans"`
	Min    scene.Vec3 `json:"min"`
	Max    scene.Vec3 `json:"max"`
	// TightestRadius is 0 where the path is straight throughout.
	TightestRadius   float64 `json:"tightestRadius"`
	TightestDistance float64 `json:"tightestDistance"`
	// OffPlane is how far the path strays from its best-fit plane.
	OffPlane float64 `json:"offPlane"`
	// Normal is that plane's unit normal.
	Normal scene.Vec3 `json:"normal"`
	// Curvature is signed and evenly sampled from start to end: positive turns
	// with the loop, negative against it.
	Curvature []float64 `json:"curvature"`
	// Points are those that shape the path, with a spline's handles resolved, before
	// its steps and in the world; empty of shapes without.
	Points []PointReadout `json:"points,omitempty"`
	// Before is the shape before its steps as x, y, z, x, ...; empty without steps.
	Before []float32     `json:"before,omitempty"`
	Steps  []StepReadout `json:"steps,omitempty"`
	Notes  []string      `json:"notes,omitempty"`
	// ChordError is the tolerance of the drawn and baked polyline, DrawnPoints the
	// number of points it takes.
	ChordError  float64 `json:"chordError"`
	DrawnPoints int     `json:"drawnPoints"`
	Corners     int     `json:"corners"`
	// Lowest is the least height above the ground.
	Lowest    float64           `json:"lowest"`
	LowestAt  float64           `json:"lowestAt"`
	Crossings []CrossingReadout `json:"crossings,omitempty"`
	Close     []int             `json:"close,omitempty"` // points, from 0, that nearly coincide with the next
	Gap       float64           `json:"gap"`             // of an open path, from end to start
	Wheels    []WheelReadout    `json:"wheels,omitempty"`
	Belt      *BeltReadout      `json:"belt,omitempty"`
	Chain     *ChainReadout     `json:"chain,omitempty"`
}

// CrossingReadout is a place where a path meets itself.
type CrossingReadout struct {
	A  float64    `json:"a"`
	B  float64    `json:"b"`
	At scene.Vec3 `json:"at"`
}

// PointReadout is a spline point with its handles' positions.
type PointReadout struct {
	At  scene.Vec3 `json:"at"`
	In  scene.Vec3 `json:"in"`
	Out scene.Vec3 `json:"out"`
}

// PartReadout describes a part's geometry.
type PartReadout struct {
	ID        string     `json:"id"`
	Length    float64    `json:"length"`
	Min       scene.Vec3 `json:"min"`
	Max       scene.Vec3 `json:"max"`
	Triangles int        `json:"triangles"`
	Materials []int      `json:"materials"` // of the groups of its mesh on a rig, or one
	// Groups are the surfaces that its mesh tells apart.
	Groups []PartGroup `json:"groups,omitempty"`
	// Tiles tells of a mesh that lies on its images as its file has it, whatever their size.
	Tiles bool `json:"tiles,omitempty"`
}

// PartGroup is a surface of a part's mesh: a run of its indices.
type PartGroup struct {
	Name  string `json:"name"`
	First int    `json:"first"`
	Count int    `json:"count"`
}

// RigReadout describes a laid-out train.
type RigReadout struct {
	ID         string  `json:"id"`
	Count      int     `json:"count"`
	Pitch      float64 `json:"pitch"`
	Asked      float64 `json:"asked"`
	Gap        float64 `json:"gap"` // pitch less the piece's own length
	PartLength float64 `json:"partLength"`
	Seam       float64 `json:"seam"`
	ComesRound bool    `json:"comesRound"`
	// Facing, in degrees and metres.
	ResidualDeg float64          `json:"residualDeg"`
	OffPlane    float64          `json:"offPlane"`
	Straight    bool             `json:"straight"`
	Along       []StretchReadout `json:"along,omitempty"`
	Travels     bool             `json:"travels"`
	TravelRange [2]float64       `json:"travelRange"` // at the first frame and one past the last
	// Comb is a thinned row of frames for drawing: place and up, six numbers a tooth.
	Comb []float32 `json:"comb"`
	// Twist is the turn of up about forward beyond least twist, degrees a metre,
	// evenly sampled from start to end.
	Twist []float32 `json:"twist"`
	// Roll is the roll of the beads in degrees at the same places and at the end.
	Roll []float32 `json:"roll"`
	// Way is how far the rig has come at each frame of the range, metres; only of rigs that
	// are to be in step.
	Way []float64 `json:"way,omitempty"`
	// GuideNear is the least distance to the guide, metres; GuideAhead the greatest angle in
	// degrees by which the guide runs ahead or behind.
	GuideNear    float64 `json:"guideNear,omitempty"`
	GuideNearAt  float64 `json:"guideNearAt,omitempty"`
	GuideAhead   float64 `json:"guideAhead,omitempty"`
	GuideAheadAt float64 `json:"guideAheadAt,omitempty"`
	// Fall is how its pieces fall one after another; nil where they do not.
	Fall *FallReadout `json:"fall,omitempty"`
	// Cloth is of drapes.
	Cloth *ClothReadout `json:"cloth,omitempty"`
	// Cycle is of figures.
	Cycle *CycleReadout `json:"cycle,omitempty"`
	// Drum is of drums.
	Drum *DrumReadout `json:"drum,omitempty"`
	// Payout is of rolls.
	Payout *PayoutReadout `json:"payout,omitempty"`
	Notes  []string       `json:"notes,omitempty"`
	// Deviation is the greatest distance between a bent piece and the same piece rigid, metres, and
	// DeviationPiece that piece, from 1 on; of trains that can be seated either way.
	Deviation      float64 `json:"deviation"`
	DeviationPiece int     `json:"deviationPiece"`
	// Body is of bodies that bend.
	Body *BodyReadout `json:"body,omitempty"`

	// Made is the material of surfaces that the rig's kind makes itself. Colours are those of tinted
	// pieces, "" of the others; empty without tints. Drawn is the stretch of the body in the first
	// frame, by which images on it are shrunk along it to keep their size.
	Made    int      `json:"made"`
	Colours []string `json:"colours,omitempty"`
	Drawn   float64  `json:"drawn"`

	// Pinned is set where the pieces sit on their pins. Pattern is the number of pieces after which
	// their parts repeat, Kinds the part of each piece where they differ.
	Pinned  bool  `json:"pinned"`
	Pattern int   `json:"pattern"`
	Kinds   []int `json:"kinds,omitempty"`
}

// BodyReadout describes a body that bends.
type BodyReadout struct {
	Vertices int      `json:"vertices"`
	Sections int      `json:"sections"` // rings that bend by themselves
	Length   float64  `json:"length"`
	Blends   []string `json:"blends,omitempty"` // that the part has
	// Tail and Head are its reach in the first frame, metres.
	Tail    float64 `json:"tail"`
	Head    float64 `json:"head"`
	Stretch float64 `json:"stretch"`
	// Longest is the part's longest axis where that is not its forward, such as "+x"; else empty.
	Longest string `json:"longest,omitempty"`
}

func (t *Rig) readBody() *BodyReadout {
	b := t.Body(0)
	r := t.ReachOf(0, t.scene.Clock.First)
	out := &BodyReadout{Vertices: b.Vertices(), Sections: len(b.Stations), Length: b.Length(), Blends: b.Blends, Tail: r.Tail, Head: r.Head, Stretch: r.Stretch}
	size := t.scene.Parts[t.Part].Bounds.Size().Array()
	long := 0
	for i := range size {
		if size[i] > size[long]*(1+1e-6) {
			long = i
		}
	}
	if f := t.scene.Parts[t.Part].Axes.Forward.Array(); f[long] == 0 && size[long] > 1.02*b.Length()/t.scale {
		out.Longest = "+" + string("xyz"[long])
	}
	return out
}

// StretchReadout is a stretch where the path runs along its up.
type StretchReadout struct {
	From    float64 `json:"from"`
	To      float64 `json:"to"`
	TurnDeg float64 `json:"turnDeg"`
}

// curvatureSamples is fine enough for a strip 1,000 pixels wide.
const curvatureSamples = 480

// Readout is ReadoutContext without an end.
func (s *Scene) Readout() Readout {
	out, _ := s.ReadoutContext(context.Background())
	return out
}

// ReadoutContext gathers the numbers of a compiled scene. Its error is that of ctx.
func (s *Scene) ReadoutContext(ctx context.Context) (Readout, error) {
	s.stop.Arm(ctx)
	defer s.stop.LetGo()
	out := Readout{
		Paths: make([]PathReadout, len(s.Paths)),
		Parts: make([]PartReadout, len(s.Parts)),
		Rigs:  make([]RigReadout, len(s.Rigs)),

		Fixtures:  make([]FixtureReadout, len(s.Fixtures)),
		Materials: []look.Material{},
	}
	var wait sync.WaitGroup
	var next atomic.Int64
	for range runtime.GOMAXPROCS(0) {
		wait.Go(func() {
			for k := int(next.Add(1)) - 1; k < len(s.Paths)+len(s.Rigs) && ctx.Err() == nil; k = int(next.Add(1)) - 1 {
				if k < len(s.Paths) {
					out.Paths[k] = s.readPath(k)
				} else {
					out.Rigs[k-len(s.Paths)] = s.readTrain(k - len(s.Paths))
				}
			}
		})
	}
	for i := range s.Fixtures {
		f := &s.Fixtures[i]
		p := PlaceOf(s.pose(f.carrier, s.Clock.First).Mul(f.rest))
		out.Fixtures[i] = FixtureReadout{s.Doc.Fixtures[i].ID, f.Part, append(p[:], 1, 1, 1), out.madeOf(s.MadeOf(f.Part, s.standing(i)))}
	}
	for i := range s.Parts {
		p := &s.Parts[i]
		out.Parts[i] = PartReadout{ID: s.Doc.Parts[i].ID, Length: p.Length,
			Min: p.Bounds.Min.Array(), Max: p.Bounds.Max.Array(), Triangles: len(p.Mesh.Indices) / 3, Materials: out.madeOf(s.MadeOf(i, scene.OnRig)), Tiles: p.Mesh.Tiles}
		for _, g := range p.Mesh.Groups {
			out.Parts[i].Groups = append(out.Parts[i].Groups, PartGroup{g.Name, g.First, g.Count})
		}
	}
	out.Wheels, out.GroundMaterial = out.material(s.Doc.WheelsOf()), -1
	if g := s.Doc.Ground; g != nil && g.Material != "" {
		out.GroundMaterial = out.material(s.Doc.Material(g.Material))
	}
	for _, p := range s.ground {
		out.Ground = append(out.Ground, float32(p.X), float32(p.Y))
	}
	if ctx.Err() == nil {
		out.Values, out.Reach = s.values(ctx), s.reach(ctx)
	}
	wait.Wait()
	for i := range out.Rigs {
		r, t := &out.Rigs[i], &s.Rigs[i]
		r.Made, r.Drawn = out.material(s.Doc.MouldOf(t.rig)), t.Drawn()
		if len(t.rig.Tints) == 0 {
			continue
		}
		r.Colours = make([]string, t.Layout.Count)
		for k := range r.Colours {
			r.Colours[k] = s.tinted(i, k, t.Layout.Count, s.MadeOf(t.PartOf(k), scene.OnRig)[0])
		}
	}
	return out, ctx.Err()
}

// material is the number of a material among those of the readout.
func (r *Readout) material(m *look.Material) int {
	for i := range r.Materials {
		if r.Materials[i] == *m {
			return i
		}
	}
	r.Materials = append(r.Materials, *m)
	return len(r.Materials) - 1
}

func (r *Readout) madeOf(list []*look.Material) (out []int) {
	for _, m := range list {
		out = append(out, r.material(m))
	}
	return out
}

func (s *Scene) readTrain(i int) RigReadout {
	t := &s.Rigs[i]
	rep := t.Field.Report()
	r := RigReadout{ID: t.rig.ID, Count: t.Layout.Count, Pitch: t.Layout.Pitch, Asked: t.Layout.Asked,
		PartLength: s.Parts[t.Part].Length * t.scale, Seam: t.Layout.Seam, ComesRound: t.ComesRound,
		ResidualDeg: rep.Residual * 180 / math.Pi, OffPlane: rep.Off, Straight: rep.Straight,
		Travels:     t.rig.Travel.Moves(),
		TravelRange: [2]float64{t.Travel(float64(s.Doc.Range.First)), t.Travel(float64(s.Doc.Range.Last + 1))}}
	r.Gap = r.Pitch - r.PartLength
	r.Fall = t.Falls()
	if k, is := t.kind.(teller); is {
		k.tell(&r)
	}
	r.Pinned, r.Pattern, r.Kinds = t.Pinned, t.Pattern(), t.Parts
	for _, a := range rep.Along {
		r.Along = append(r.Along, StretchReadout{a.From, a.To, a.Turn * 180 / math.Pi})
	}
	r.GuideNear, r.GuideNearAt = rep.Guided.Nearest, rep.Guided.NearestAt
	r.GuideAhead, r.GuideAheadAt = rep.Guided.Ahead*180/math.Pi, rep.Guided.AheadAt
	if t.beyond > 0 {
		r.Notes = append(r.Notes, plural(t.beyond, "bead")+" of roll beyond the path's end: not used until the path is longer.")
	}
	piece := 0
	r.Deviation, piece = t.Deviation()
	r.DeviationPiece = piece + 1
	if t.Bends() {
		r.Body = t.readBody()
	}
	t.comb(&r, s.Clock.First)
	if s.inStep(r.ID) {
		r.Way = t.Way()
	}
	return r
}

const (
	combTeeth    = 120
	twistSamples = 240
)

// comb samples the facing for drawing, with the roll and the lean of one frame.
func (t *Rig) comb(r *RigReadout, frame float64) {
	length := t.Curve.Length()
	roll := t.roll.at(frame, t.scene.Clock) * math.Pi / 180
	speed := t.speed(frame)
	up := func(s float64) geom.Frame { return t.faced(&t.Posed, s, roll, speed) }
	teeth := combTeeth
	if !t.Curve.Closed() {
		teeth++
	}
	r.Comb = make([]float32, 0, 6*teeth)
	for i := range teeth {
		f := up(length * float64(i) / combTeeth)
		r.Comb = append(r.Comb, float32(f.P.X), float32(f.P.Y), float32(f.P.Z), float32(f.U.X), float32(f.U.Y), float32(f.U.Z))
	}
	r.Twist, r.Roll = make([]float32, twistSamples), make([]float32, twistSamples+1)
	h := length / twistSamples
	for i := range r.Roll {
		v, _ := place.ByDistance(t.marks, min(h*float64(i), length), length, t.Curve.Closed())
		r.Roll[i] = float32(v * 180 / math.Pi)
	}
	for i := range r.Twist {
		a, b := up(h*float64(i)), up(h*(float64(i)+1)-1e-9*h)
		carried := facing.Carry(t.Curve, h*float64(i), h*(float64(i)+1)-1e-9*h, a.U)
		r.Twist[i] = float32(geom.AngleAbout(b.T, carried, b.U) * 180 / math.Pi / h)
	}
}

func (scn *Scene) readPath(i int) PathReadout {
	c, doc, info := scn.Paths[i], &scn.Doc.Paths[i], &scn.Shaped[i]
	b, pl := c.Bounds(), c.Plane()
	r := PathReadout{ID: doc.ID, Length: c.Length(), Closed: c.Closed(), Spans: len(c.Spans()),
		Min: b.Min.Array(), Max: b.Max.Array(), OffPlane: pl.Off, Normal: pl.Normal.Array(), Curvature: make([]float64, curvatureSamples+1)}
	for i := range r.Curvature {
		s := c.Length() * float64(i) / curvatureSamples
		k := c.Curvature(s)
		_, t := c.At(s)
		// T x kappa points along the loop's normal where it turns with the loop.
		r.Curvature[i] = math.Copysign(k.Norm(), t.Cross(k).Dot(pl.Normal))
	}
	if k, at := c.Tightest(); k > 1e-9 {
		r.TightestRadius, r.TightestDistance = 1/k, at
	}
	r.Lowest, r.LowestAt = scn.LowestOf(i)
	r.Corners = len(c.Corners(5 * math.Pi / 180))
	r.ChordError = doc.Chord(c.Length())
	r.DrawnPoints = len(c.Stations(nil, r.ChordError, drawnTurn))
	r.Steps, r.Notes = info.Steps, info.Notes
	for _, x := range c.SelfCrossings(maxCrossings) {
		r.Crossings = append(r.Crossings, CrossingReadout{x.A, x.B, x.At.Array()})
	}
	if !c.Closed() {
		start, _ := c.At(0)
		end, _ := c.At(c.Length())
		r.Gap = end.Sub(start).Norm()
	}
	if len(doc.Steps) > 0 && info.Base != nil {
		r.Before, _ = Polyline(info.Base, 2e-4*info.Base.Length())
	}
	scn.points(&r, &doc.Shape)
	if doc.Shape.Wrap != nil {
		scn.readWheels(i, &r)
	}
	return r
}

const maxCrossings = 8

// points reads the points that shape a path.
func (scn *Scene) points(r *PathReadout, shape *scene.PathShape) {
	var pts []geom.Vec
	closed := false
	plain := func(list []scene.Vec3, loop bool, to func(geom.Vec) geom.Vec) {
		closed = loop
		for _, p := range list {
			at := to(geom.FromArray(p))
			pts = append(pts, at)
			r.Points = append(r.Points, PointReadout{at.Array(), at.Array(), at.Array()})
		}
	}
	still := func(p geom.Vec) geom.Vec { return p }
	switch {
	case shape.Spline != nil:
		closed = shape.Spline.Closed
		for _, p := range shape.Spline.Resolve() {
			pts = append(pts, p.At)
			r.Points = append(r.Points, PointReadout{p.At.Array(), p.At.Add(p.In).Array(), p.At.Add(p.Out).Array()})
		}
	case shape.Polyline != nil:
		plain(shape.Polyline.Points, shape.Polyline.Closed, still)
	case shape.BSpline != nil:
		plain(shape.BSpline.Points, shape.BSpline.Closed, still)
	case shape.Over != nil:
		for i := range scn.Doc.Fixtures {
			if scn.Doc.Fixtures[i].ID == shape.Over.Fixture {
				plain(shape.Over.Points, shape.Over.Closed, scn.Fixtures[i].ToWorld)
			}
		}
	}
	r.Close = path.ClosePoints(pts, closed)
}

// drawnTurn is the greatest turn in radians from chord to chord of a drawn path.
const drawnTurn = 0.2

// Polyline returns a path's points for drawing, within chordError metres, and
// their distances.
func Polyline(c *path.Curve, chordError float64) (points []float32, distances []float32) {
	stations := c.Stations(nil, chordError, drawnTurn)
	points = make([]float32, 0, 3*len(stations))
	distances = make([]float32, len(stations))
	for i, s := range stations {
		if i == len(stations)-1 && c.Closed() {
			s = 0 // the end is the start, to the bit
		}
		p, _ := c.At(s)
		points = append(points, float32(p.X), float32(p.Y), float32(p.Z))
		distances[i] = float32(stations[i])
	}
	return points, distances
}
