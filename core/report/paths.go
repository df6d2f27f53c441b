package report

import (
	"math"

	"bead/core/geom"
	"bead/core/machine"
	"bead/core/path"
	"bead/core/rig"
	"bead/core/scene"
)

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
	Before []float32             `json:"before,omitempty"`
	Steps  []machine.StepReadout `json:"steps,omitempty"`
	Notes  []string              `json:"notes,omitempty"`
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

// curvatureSamples is fine enough for a strip 1,000 pixels wide.
const curvatureSamples = 480

func readPath(scn *rig.Scene, i int) PathReadout {
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
	r.DrawnPoints = len(c.Stations(nil, r.ChordError, path.DrawnTurn))
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
		r.Before, _ = info.Base.Polyline(2e-4 * info.Base.Length())
	}
	points(scn, &r, &doc.Shape)
	if doc.Shape.Wrap != nil {
		readWheels(scn, i, &r)
	}
	return r
}

const maxCrossings = 8

// points reads the points that shape a path.
func points(scn *rig.Scene, r *PathReadout, shape *scene.PathShape) {
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
