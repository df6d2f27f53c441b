package scene

import (
	"errors"

	"bead/core/geom"
	"bead/core/part"
	"bead/core/path"
)

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

// Spans returns the shape's spans and whether it is closed. The shape must have
// passed Check.
func (s *PathShape) Spans() (spans []path.Span, closed bool) {
	axes := func(p PlaneName) (along, across geom.Vec) {
		along, across, _ = path.Axes(string(p))
		return along, across
	}
	switch {
	case s.Line != nil:
		return []path.Span{path.LineSpan(geom.FromArray(s.Line.From), geom.FromArray(s.Line.To))}, false
	case s.Circle != nil:
		along, across := axes(s.Circle.Plane)
		return path.Circle(geom.FromArray(s.Circle.Centre), along, across, s.Circle.Radius), true
	case s.Ellipse != nil:
		along, across := axes(s.Ellipse.Plane)
		return path.Ellipse(geom.FromArray(s.Ellipse.Centre), along, across, s.Ellipse.Along, s.Ellipse.Across), true
	case s.Slot != nil:
		along, across := axes(s.Slot.Plane)
		return path.Slot(geom.FromArray(s.Slot.Centre), along, across, s.Slot.Length, s.Slot.Radius), true
	case s.Spline != nil:
		return path.Spline(s.Spline.Resolve(), s.Spline.Closed), s.Spline.Closed
	case s.Polyline != nil:
		pts := make([]geom.Vec, len(s.Polyline.Points))
		for i, p := range s.Polyline.Points {
			pts[i] = geom.FromArray(p)
		}
		return path.Polyline(pts, s.Polyline.Closed), s.Polyline.Closed
	}
	return nil, false
}

// Mesh generates the part's geometry. Errors name the size that is wrong.
func (s *PartShape) Mesh() (*geom.Mesh, error) {
	switch {
	case s.Box != nil:
		return part.Box(s.Box.Side, s.Box.Height, s.Box.Length)
	case s.Shoe != nil:
		return part.Shoe(*s.Shoe)
	case s.Float != nil:
		return part.Float(s.Float.Length, s.Float.Radius)
	}
	return nil, errors.New("the part has no shape")
}

// Kind names the shape's field.
func (s *PartShape) Kind() string {
	switch {
	case s.Box != nil:
		return "box"
	case s.Shoe != nil:
		return "shoe"
	}
	return "float"
}
