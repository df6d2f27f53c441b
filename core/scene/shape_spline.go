package scene

import (
	"bead/core/geom"
	"bead/core/path"
)

// SplineShape is cubic spans through points with handles.
type SplineShape struct {
	Closed bool    `json:"closed,omitempty"`
	Points []Point `json:"points" jsonschema:"minItems=2"`
}

// Point is a spline point; In and Out are its handles as offsets from it.
type Point struct {
	At      Vec3         `json:"at" form:";place"`
	In      *Vec3        `json:"in,omitempty" form:";place"`
	Out     *Vec3        `json:"out,omitempty" form:";place"`
	Handles path.Handles `json:"handles,omitempty" jsonschema:"enum=smooth,enum=aligned,enum=mirrored,enum=free" form:";choice"`
}

func (s *SplineShape) about() About {
	first := &SplineShape{}
	for _, at := range []Vec3{{0, 0.3, -2}, {0.8, 0.3, -0.6}, {-0.8, 0.3, 0.6}, {0, 0.3, 2}} {
		first.Points = append(first.Points, Point{At: at, Handles: path.Smooth})
	}
	return About{Name: "Spline", First: first}
}

func (s *SplineShape) fill() {
	for k := range s.Points {
		p := &s.Points[k]
		if p.Handles != "" {
			continue
		}
		p.Handles = path.Smooth
		if p.In != nil || p.Out != nil {
			p.Handles = path.Aligned
		}
	}
}

func (s *SplineShape) check(c *checker, at string) {
	c.count(at+".points", len(s.Points))
}

func (s *SplineShape) spans(func(string)) ([]path.Span, bool) {
	return path.Spline(s.Resolve(), s.Closed), s.Closed
}

// Resolve returns the spline's points with their handles resolved.
func (s *SplineShape) Resolve() []path.Point {
	pts := make([]path.Point, len(s.Points))
	for i, p := range s.Points {
		pts[i] = path.Point{At: geom.FromArray(p.At), Handles: p.Handles}
		if p.In != nil {
			pts[i].In = geom.FromArray(*p.In)
		}
		if p.Out != nil {
			pts[i].Out = geom.FromArray(*p.Out)
		}
	}
	return path.Resolve(pts, s.Closed)
}

// SplineOf is the document's form of resolved points.
func SplineOf(pts []path.Point, closed bool) *SplineShape {
	s := &SplineShape{Closed: closed, Points: make([]Point, len(pts))}
	for i, p := range pts {
		in, out := p.In.Array(), p.Out.Array()
		s.Points[i] = Point{At: p.At.Array(), In: &in, Out: &out, Handles: p.Handles}
		if p.Handles == path.Smooth {
			s.Points[i].In, s.Points[i].Out = nil, nil
		}
	}
	return s
}
