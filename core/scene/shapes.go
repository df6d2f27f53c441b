package scene

import (
	"errors"
	"fmt"
	"math"
	"reflect"
	"strings"

	"bead/core/geom"
	"bead/core/mech"
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
// passed Check and be one that stands alone. say is told of what could not be had
// as it was asked for; it may be nil.
func (s *PathShape) Spans(say func(note string)) (spans []path.Span, closed bool) {
	vec := geom.FromArray
	var along, across geom.Vec
	if p := s.plane(); p != nil {
		along, across, _ = path.Axes(string(*p))
	}
	switch {
	case s.Line != nil:
		return []path.Span{path.LineSpan(vec(s.Line.From), vec(s.Line.To))}, false
	case s.Hang != nil:
		return s.Hang.spans(), false
	case s.Circle != nil:
		return path.Circle(vec(s.Circle.Centre), along, across, s.Circle.Radius), true
	case s.Ellipse != nil:
		return path.Ellipse(vec(s.Ellipse.Centre), along, across, s.Ellipse.Along, s.Ellipse.Across), true
	case s.Slot != nil:
		return path.Slot(vec(s.Slot.Centre), along, across, s.Slot.Length, s.Slot.Radius), true
	case s.Rectangle != nil:
		r := s.Rectangle
		return path.RoundedRectangle(vec(r.Centre), along, across, r.Length, r.Height, r.Radius), true
	case s.Arch != nil:
		return s.Arch.spans(along, across), false
	case s.Helix != nil:
		return s.Helix.spans(), false
	case s.Spline != nil:
		return path.Spline(s.Spline.Resolve(), s.Spline.Closed), s.Spline.Closed
	case s.BSpline != nil:
		return path.BSpline(vecs(s.BSpline.Points), s.BSpline.Closed), s.BSpline.Closed
	case s.Polyline != nil:
		return s.Polyline.spans(say), s.Polyline.Closed
	case s.Wrap != nil:
		return s.Wrap.spans(), true
	}
	return nil, false
}

// cable hangs the cable and says which way ahead is.
func (h *HangShape) cable() (c mech.Cable, from, ahead geom.Vec, err error) {
	from = geom.FromArray(h.From)
	v := geom.FromArray(h.To).Sub(from)
	ahead = geom.V(v.X, 0, v.Z)
	span := ahead.Norm()
	c, err = mech.Hang(span, v.Y, h.Length)
	return c, from, ahead.Mul(1 / max(span, 1e-300)), err
}

// spans are the cable's; none where it cannot hang, which checking says.
func (h *HangShape) spans() []path.Span {
	c, from, ahead, err := h.cable()
	if err != nil {
		return nil
	}
	return []path.Span{path.HangSpan(from, ahead.Mul(c.A), geom.V(0, c.A, 0), math.Sinh(c.U0), math.Sinh(c.U1))}
}

func vecs(pts []Vec3) []geom.Vec {
	out := make([]geom.Vec, len(pts))
	for i, p := range pts {
		out[i] = geom.FromArray(p)
	}
	return out
}

func (a *ArchShape) spans(along, across geom.Vec) []path.Span {
	// Turned so that across points away from the open side.
	switch a.Open {
	case OpenAbove:
		along, across = along.Neg(), across.Neg()
	case OpenAhead:
		along, across = across, along.Neg()
	case OpenBehind:
		along, across = across.Neg(), along
	}
	base := geom.FromArray(a.Base)
	if a.Arc {
		return path.ArcArch(base, along, across, a.Width, a.Height)
	}
	r := a.Radius
	if r == 0 {
		r = min(a.Width/2, a.Height)
	}
	return path.Arch(base, along, across, a.Width, a.Height, r)
}

func (h *HelixShape) spans() []path.Span {
	axis, out := geom.V(0, 1, 0), geom.V(0, 0, 1)
	switch h.Axis {
	case "forward":
		axis, out = geom.V(0, 0, 1), geom.V(0, 1, 0)
	case "side":
		axis, out = geom.V(1, 0, 0), geom.V(0, 1, 0)
	}
	end := h.EndRadius
	if end == 0 {
		end = h.Radius
	}
	return path.Helix(geom.FromArray(h.Base), axis, geom.RotateAbout(out, axis, h.Begin*math.Pi/180), path.HelixSize{
		Radius: h.Radius, EndRadius: end, Rise: h.Rise, Turns: h.Turns, LeftHand: h.Hand == "left", LeadIn: h.LeadIn, LeadOut: h.LeadOut})
}

func (p *PolylineShape) spans(say func(string)) []path.Span {
	r := make([]float64, len(p.Points))
	rounded := false
	for i := range r {
		r[i] = p.Fillet
		if len(p.Fillets) > 0 {
			r[i] = 0
		}
		if i < len(p.Fillets) {
			r[i] = p.Fillets[i]
		}
		rounded = rounded || r[i] > 0
	}
	if !rounded {
		return path.Polyline(vecs(p.Points), p.Closed)
	}
	return path.Fillet(vecs(p.Points), r, p.Closed, func(corner int, asked, got float64) {
		if say != nil {
			say(fmt.Sprintf("Corner %d has no room for a radius of %.4g m and got %.4g m.", corner+1, asked, got))
		}
	})
}

// Kind names the shape's field.
func (s *PathShape) Kind() string { return kindOfOne(s) }

// Kind names the step's field.
func (s *Step) Kind() string { return kindOfOne(s) }

// kindOfOne returns the name of the one pointer field that is given.
func kindOfOne(of any) string {
	v := reflect.ValueOf(of).Elem()
	for i := range v.NumField() {
		if f := v.Field(i); f.Kind() == reflect.Pointer && !f.IsNil() {
			name, _, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
			return name
		}
	}
	return ""
}

// Mesh generates the part's geometry. Errors name the size that is wrong. The mesh
// of a file is not generated.
func (s *PartShape) Mesh() (*geom.Mesh, error) {
	switch {
	case s.Box != nil:
		return part.Box(s.Box.Side, s.Box.Height, s.Box.Length)
	case s.Shoe != nil:
		return part.Shoe(*s.Shoe)
	case s.Float != nil:
		return part.Float(s.Float.Length, s.Float.Radius)
	case s.Post != nil:
		return part.Post(s.Post.Radius, s.Post.Top(), s.Post.Height)
	case s.Link != nil:
		return part.Link(*s.Link)
	case s.Tube != nil:
		return part.Tube(*s.Tube)
	case s.Eel != nil:
		return part.Eel(*s.Eel)
	case s.Plank != nil:
		return part.Plank(*s.Plank)
	case s.Dart != nil:
		return part.Dart(*s.Dart)
	case s.Coil != nil:
		return part.Coil(*s.Coil)
	case s.Strip != nil:
		return part.Strip(*s.Strip)
	case s.Strands != nil:
		return part.Strands(*s.Strands)
	}
	return nil, errors.New("the part has no shape")
}

// Kind names the shape's field.
func (s *PartShape) Kind() string { return kindOfOne(s) }
