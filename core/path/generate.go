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

// RoundedRectangle returns a rectangle of the given length along and height
// across, with corners of radius r, at most half the shorter side. It starts at
// the rear of the upper side and runs forward along it; its length is
// 2 (length + height) - (8 - 2 pi) r.
func RoundedRectangle(centre, along, across geom.Vec, length, height, r float64) []Span {
	corner := func(a, c float64) geom.Vec { return centre.Mad(along, a*length/2).Mad(across, c*height/2) }
	spans := Fillet([]geom.Vec{corner(-1, 1), corner(1, 1), corner(1, -1), corner(-1, -1)}, []float64{r, r, r, r}, true, nil)
	return dropEmpty(spans)
}

// dropEmpty leaves out spans without length.
func dropEmpty(spans []Span) []Span {
	total := 0.0
	for i := range spans {
		total += spans[i].size()
	}
	out := spans[:0]
	for i := range spans {
		if spans[i].size() > 1e-12*total {
			out = append(out, spans[i])
		}
	}
	return out
}

// Arch returns a rounded arch that stands on base, width along and height across,
// with corners of radius r: up one leg, over, and down the other. r is at most
// half the width and the height; with r half the width the top is a half circle.
// Its length is width + 2 height - (4 - pi) r.
func Arch(base, along, across geom.Vec, width, height, r float64) []Span {
	a, b := base.Mad(along, -width/2), base.Mad(along, width/2)
	up := across.Mul(height)
	return dropEmpty(Fillet([]geom.Vec{a, a.Add(up), b.Add(up), b}, []float64{0, r, r, 0}, false, nil))
}

// ArcArch returns the circular arc that stands on base, width wide and height
// high: its radius is R = (width^2/4 + height^2) / (2 height), its length
// 4 R atan(2 height / width).
func ArcArch(base, along, across geom.Vec, width, height float64) []Span {
	r := (width*width/4 + height*height) / (2 * height)
	half := 2 * math.Atan2(2*height, width)
	n := int(math.Ceil(half / (math.Pi / 4))) // spans of a quarter turn or less
	spans := make([]Span, n)
	for i := range spans {
		spans[i] = ArcSpan(base.Mad(across, height-r), across.Mul(r), along.Mul(r),
			-half+2*half*float64(i)/float64(n), 2*half/float64(n))
	}
	return spans
}

// HelixSize describes a helix about an axis: Turns of Rise each, the radius
// growing or shrinking evenly from Radius to EndRadius, with straight runs tangent
// to it before and after. Metres; Turns may be fractional.
type HelixSize struct {
	Radius, EndRadius float64
	Rise, Turns       float64
	LeftHand          bool
	LeadIn, LeadOut   float64
}

// Helix returns the helix that starts at base + out Radius and winds about axis,
// which is at right angles to out. Without growth a turn is
// sqrt((2 pi r)^2 + rise^2) long.
func Helix(base, axis, out geom.Vec, h HelixSize) []Span {
	side := axis.Cross(out)
	if h.LeftHand {
		side = side.Neg()
	}
	n := max(int(math.Ceil(4*h.Turns-1e-9)), 1) // quarter turns
	sweep := 2 * math.Pi * h.Turns / float64(n)
	radius := func(i int) float64 { return h.Radius + (h.EndRadius-h.Radius)*float64(i)/float64(n) }
	spans := make([]Span, 0, n+2)
	for i := range n {
		r0, r1 := radius(i), radius(i+1)
		s := ArcSpan(base.Mad(axis, h.Rise*h.Turns*float64(i)/float64(n)), out.Mul(r0), side.Mul(r0), sweep*float64(i), sweep)
		s.P[3] = axis.Mul(h.Rise * h.Turns / float64(n))
		s.Grow = r1/r0 - 1
		spans = append(spans, s)
	}
	if h.LeadIn > 0 {
		start := spans[0].Start()
		spans = append([]Span{LineSpan(start.Mad(spans[0].Deriv(0).Unit(), -h.LeadIn), start)}, spans...)
	}
	if last := &spans[len(spans)-1]; h.LeadOut > 0 {
		end := last.End()
		spans = append(spans, LineSpan(end, end.Mad(last.Deriv(1).Unit(), h.LeadOut)))
	}
	return spans
}

// Fillet returns straight spans through the points with corner i rounded by an arc
// of radius r[i] that is tangent to both sides. An arc of radius r at a corner
// that turns by angle a takes r tan(a/2) of each side. Where corners ask for more
// than their side has, they get shares of it, and say is told of it with the
// corner, the radius asked for and the one that fits.
func Fillet(pts []geom.Vec, r []float64, closed bool, say func(corner int, asked, got float64)) []Span {
	n := len(pts)
	if n < 3 {
		return Polyline(pts, closed)
	}
	// take is what each corner takes of its two sides.
	take, tangent := make([]float64, n), make([]float64, n)
	for i := range pts {
		if r[i] <= 0 || !closed && (i == 0 || i == n-1) {
			continue
		}
		before, after := pts[i].Sub(pts[(i+n-1)%n]), pts[(i+1)%n].Sub(pts[i])
		tangent[i] = math.Tan(geom.Angle(before, after) / 2)
		take[i] = r[i] * tangent[i]
	}
	fits := append([]float64(nil), take...)
	for i := range pts {
		j := (i + 1) % n
		if !closed && i == n-1 {
			break
		}
		side := pts[j].Sub(pts[i]).Norm()
		if need := take[i] + take[j]; need > side*(1+1e-12) {
			fits[i] = min(fits[i], side*take[i]/need)
			fits[j] = min(fits[j], side*take[j]/need)
		}
	}
	var spans []Span
	var first, at geom.Vec
	for i := range pts {
		enter, leave := pts[i], pts[i]
		var arc *Span
		if fits[i] > 0 && tangent[i] > 1e-12 {
			in, out := pts[i].Sub(pts[(i+n-1)%n]).Unit(), pts[(i+1)%n].Sub(pts[i]).Unit()
			enter, leave = pts[i].Mad(in, -fits[i]), pts[i].Mad(out, fits[i])
			radius := fits[i] / tangent[i]
			if say != nil && radius < r[i]*(1-1e-9) {
				say(i, r[i], radius)
			}
			// From the centre to the arc's start, and at right angles to it.
			toCentre := out.Sub(in.Mul(out.Dot(in))).Unit()
			s := ArcSpan(enter.Mad(toCentre, radius), toCentre.Mul(-radius), in.Mul(radius), 0, geom.Angle(in, out))
			arc = &s
		}
		if i == 0 {
			first = enter
		} else {
			spans = append(spans, LineSpan(at, enter))
		}
		if arc != nil {
			spans = append(spans, *arc)
		}
		at = leave
	}
	if closed {
		spans = append(spans, LineSpan(at, first))
		if fits[0] > 0 && tangent[0] > 1e-12 {
			// Begin behind the first corner, as without fillets the path begins at it.
			spans = append(spans[1:], spans[0])
		}
	}
	return spans
}

// BSpline returns the uniform cubic B-spline of the control points: curvature is
// continuous and the curve stays within the points' hull. An open one begins and
// ends at its first and last point (each end repeated by reflection). The points
// of the Bezier spans are the usual thirds (Farin, "Curves and Surfaces for CAGD",
// chapter on B-spline curves).
func BSpline(pts []geom.Vec, closed bool) []Span {
	n := len(pts)
	at := func(i int) geom.Vec {
		switch {
		case closed:
			return pts[(i%n+n)%n]
		case i < 0:
			return pts[0].Mul(2).Sub(pts[1])
		case i >= n:
			return pts[n-1].Mul(2).Sub(pts[n-2])
		}
		return pts[i]
	}
	count := n - 1
	if closed {
		count = n
	}
	spans := make([]Span, count)
	for i := range spans {
		a, b, c, d := at(i-1), at(i), at(i+1), at(i+2)
		spans[i] = CubicSpan(
			a.Add(b.Mul(4)).Add(c).Mul(1.0/6), b.Mul(2).Add(c).Mul(1.0/3),
			b.Add(c.Mul(2)).Mul(1.0/3), b.Add(c.Mul(4)).Add(d).Mul(1.0/6))
	}
	return spans
}
