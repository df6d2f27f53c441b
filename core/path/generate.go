package path

import (
	"fmt"
	"math"

	"bead/core/geom"
)

// Plane names: the plane a generated path lies in, named after the ready view
// that looks at it square on.
const (
	PlaneSide  = "side"  // forward and up (z, y)
	PlaneAhead = "ahead" // side and up (x, y)
	PlaneAbove = "above" // side and forward (x, z), the ground
)

// Axes returns the two unit directions of a named plane: along, the way a slot's
// straights run, and across.
func Axes(plane string) (along, across geom.Vec, err error) {
	switch plane {
	case PlaneSide, "":
		return geom.V(0, 0, 1), geom.V(0, 1, 0), nil
	case PlaneAhead:
		return geom.V(1, 0, 0), geom.V(0, 1, 0), nil
	case PlaneAbove:
		return geom.V(0, 0, 1), geom.V(1, 0, 0), nil
	}
	return geom.Vec{}, geom.Vec{}, fmt.Errorf("unknown plane %q: side, ahead and above are accepted", plane)
}

// Circle returns one turn of radius r round centre, from centre + across,
// turning towards along: on a tread's upper side it runs forward.
func Circle(centre, along, across geom.Vec, r float64) []Span {
	return Ellipse(centre, along, across, r, r)
}

// Ellipse returns one turn with half axes a along and b across, starting at
// centre + b across and running towards along.
func Ellipse(centre, along, across geom.Vec, a, b float64) []Span {
	spans := make([]Span, 4)
	for i := range spans {
		spans[i] = ArcSpan(centre, across.Mul(b), along.Mul(a), float64(i)*math.Pi/2, math.Pi/2)
	}
	return spans
}

// Slot returns two half circles of radius r joined by straights of the given
// length. It starts at the rear of the upper straight and runs forward along it;
// its length is 2 length + 2 pi r.
func Slot(centre, along, across geom.Vec, length, r float64) []Span {
	fore, aft := centre.Mad(along, length/2), centre.Mad(along, -length/2)
	up, ahead := across.Mul(r), along.Mul(r)
	spans := []Span{
		LineSpan(aft.Add(up), fore.Add(up)),
		ArcSpan(fore, up, ahead, 0, math.Pi/2),
		ArcSpan(fore, up, ahead, math.Pi/2, math.Pi/2),
		LineSpan(fore.Sub(up), aft.Sub(up)),
		ArcSpan(aft, up, ahead, math.Pi, math.Pi/2),
		ArcSpan(aft, up, ahead, 1.5*math.Pi, math.Pi/2),
	}
	if length == 0 {
		return []Span{spans[1], spans[2], spans[4], spans[5]}
	}
	return spans
}

// Polyline returns straight spans through the points.
func Polyline(pts []geom.Vec, closed bool) []Span {
	spans := make([]Span, 0, len(pts))
	for i := 1; i < len(pts); i++ {
		spans = append(spans, LineSpan(pts[i-1], pts[i]))
	}
	if closed && len(pts) > 2 {
		spans = append(spans, LineSpan(pts[len(pts)-1], pts[0]))
	}
	return spans
}
