package rig

import (
	"math"

	"bead/core/path"
	"bead/core/scene"
)

// Readout is what compiling found out, for the recipe and the strips: plain
// numbers in metres, degrees and 1/m.
type Readout struct {
	Paths []PathReadout `json:"paths"`
	Parts []PartReadout `json:"parts"`
	Rigs  []RigReadout  `json:"rigs"`
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
	// Points are a spline's points with their handles resolved, empty otherwise.
	Points []PointReadout `json:"points,omitempty"`
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
}

// StretchReadout is a stretch where the path runs along its up.
type StretchReadout struct {
	From    float64 `json:"from"`
	To      float64 `json:"to"`
	TurnDeg float64 `json:"turnDeg"`
}

// curvatureSamples is fine enough for a strip 1,000 pixels wide.
const curvatureSamples = 480

// Readout gathers the numbers of a compiled scene.
func (s *Scene) Readout() Readout {
	out := Readout{
		Paths: make([]PathReadout, len(s.Paths)),
		Parts: make([]PartReadout, len(s.Parts)),
		Rigs:  make([]RigReadout, len(s.Trains)),
	}
	for i, c := range s.Paths {
		out.Paths[i] = readPath(s.Doc.Paths[i].ID, c, &s.Doc.Paths[i].Shape)
	}
	for i := range s.Parts {
		p := &s.Parts[i]
		out.Parts[i] = PartReadout{ID: s.Doc.Parts[i].ID, Length: p.Length,
			Min: p.Bounds.Min.Array(), Max: p.Bounds.Max.Array(), Triangles: len(p.Mesh.Indices) / 3}
	}
	for i := range s.Trains {
		t := &s.Trains[i]
		rep := t.Field.Report()
		r := RigReadout{ID: t.rig.ID, Count: t.Layout.Count, Pitch: t.Layout.Pitch, Asked: t.Layout.Asked,
			PartLength: s.Parts[t.Part].Length * t.scale, Seam: t.Layout.Seam, ComesRound: t.ComesRound,
			ResidualDeg: rep.Residual * 180 / math.Pi, OffPlane: rep.Off, Straight: rep.Straight,
			Travels:     t.rig.Travel.Moves(),
			TravelRange: [2]float64{t.Travel(float64(s.Doc.Range.First)), t.Travel(float64(s.Doc.Range.Last + 1))}}
		r.Gap = r.Pitch - r.PartLength
		for _, a := range rep.Along {
			r.Along = append(r.Along, StretchReadout{a.From, a.To, a.Turn * 180 / math.Pi})
		}
		out.Rigs[i] = r
	}
	return out
}

func readPath(id string, c *path.Curve, shape *scene.PathShape) PathReadout {
	b, pl := c.Bounds(), c.Plane()
	r := PathReadout{ID: id, Length: c.Length(), Closed: c.Closed(), Spans: len(c.Spans()),
		Min: b.Min.Array(), Max: b.Max.Array(), OffPlane: pl.Off, Normal: pl.Normal.Array(), Curvature: make([]float64, curvatureSamples+1)}
	tightest := 0.0
	for i := range r.Curvature {
		s := c.Length() * float64(i) / curvatureSamples
		k := c.Curvature(s)
		_, t := c.At(s)
		size := k.Norm()
		if size > tightest {
			tightest, r.TightestDistance = size, s
		}
		// T x kappa points along the loop's normal where it turns with the loop.
		r.Curvature[i] = math.Copysign(size, t.Cross(k).Dot(pl.Normal))
	}
	if tightest > 1e-9 {
		r.TightestRadius = 1 / tightest
	}
	if shape.Spline != nil {
		for _, p := range shape.Spline.Resolve() {
			r.Points = append(r.Points, PointReadout{p.At.Array(), p.At.Add(p.In).Array(), p.At.Add(p.Out).Array()})
		}
	}
	return r
}

// Polyline returns a path's points for drawing, within chordError metres, and
// their distances.
func Polyline(c *path.Curve, chordError float64) (points []float32, distances []float32) {
	stations := c.Stations(nil, chordError, 0.2)
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
