package scene

import (
	"reflect"
	"strings"

	"bead/core/geom"
	"bead/core/path"
)

// PathShape is exactly one of its fields, in the order of the menu that adds them. One more is a
// file of its own, with its type and what the interfaces below ask for, and a line here.
type PathShape struct {
	Slot      *SlotShape      `json:"slot,omitempty" jsonschema:"oneof_required=slot"`
	Circle    *CircleShape    `json:"circle,omitempty" jsonschema:"oneof_required=circle"`
	Ellipse   *EllipseShape   `json:"ellipse,omitempty" jsonschema:"oneof_required=ellipse"`
	Rectangle *RectangleShape `json:"rectangle,omitempty" jsonschema:"oneof_required=rectangle"`
	Arch      *ArchShape      `json:"arch,omitempty" jsonschema:"oneof_required=arch"`
	Helix     *HelixShape     `json:"helix,omitempty" jsonschema:"oneof_required=helix"`
	Wrap      *WrapShape      `json:"wrap,omitempty" jsonschema:"oneof_required=wrap"`
	Line      *LineShape      `json:"line,omitempty" jsonschema:"oneof_required=line"`
	Weave     *WeaveShape     `json:"weave,omitempty" jsonschema:"oneof_required=weave"`
	Hang      *HangShape      `json:"hang,omitempty" jsonschema:"oneof_required=hang"`
	Polyline  *PolylineShape  `json:"polyline,omitempty" jsonschema:"oneof_required=polyline"`
	BSpline   *BSplineShape   `json:"bspline,omitempty" jsonschema:"oneof_required=bspline"`
	Spline    *SplineShape    `json:"spline,omitempty" jsonschema:"oneof_required=spline"`
	Over      *OverShape      `json:"over,omitempty" jsonschema:"oneof_required=over"`
	Track     *TrackShape     `json:"track,omitempty" jsonschema:"oneof_required=track"`
}

// About is what one kind of shape or step is called, what it is for, and a new one of it; nil
// where it is not made from a menu. Of fields that are scaled First holds a share of a length.
type About struct {
	Name, Text string
	First      any
}

// What shapes and steps may have. All have words about them.
type (
	described interface{ about() About }
	// filler fills in what was left out.
	filler interface{ fill() }
	// checked says what the tags of the fields cannot.
	checked interface {
		check(c *checker, at string)
	}
	// generator is a shape that needs nothing else of the scene. say, if not nil, is called for each wish that
	// had to be relaxed, such as a radius that does not fit.
	generator interface {
		spans(say func(note string)) (spans []path.Span, closed bool)
	}
)

// one is the one pointer field of a struct that is given, with its name, and how many are.
func one(of any) (key string, is any, given int) {
	v := reflect.ValueOf(of).Elem()
	for i := range v.NumField() {
		if f := v.Field(i); f.Kind() == reflect.Pointer && !f.IsNil() {
			given++
			if given == 1 {
				key, is = keyOf(v.Type().Field(i)), f.Interface()
			}
		}
	}
	return key, is, given
}

// keyOf is what documents call a field.
func keyOf(f reflect.StructField) string {
	key, _, _ := strings.Cut(f.Tag.Get("json"), ",")
	return key
}

// keys are the kinds of a struct that is exactly one of its fields.
func keys(of any) []string {
	var out []string
	t := reflect.TypeOf(of).Elem()
	for i := range t.NumField() {
		if f := t.Field(i); f.Type.Kind() == reflect.Pointer {
			out = append(out, keyOf(f))
		}
	}
	return out
}

// Kind names the shape's field.
func (s *PathShape) Kind() string {
	key, _, _ := one(s)
	return key
}

// Spans returns the shape's spans and whether it is closed. The shape must have passed Check and need nothing
// else of the scene. say, if not nil, is called for each wish that had to be relaxed.
func (s *PathShape) Spans(say func(note string)) (spans []path.Span, closed bool) {
	_, x, _ := one(s)
	if g, alone := x.(generator); alone {
		return g.spans(say)
	}
	return nil, false
}

// Standalone reports whether the shape needs nothing else of the scene.
func (s *PathShape) Standalone() bool {
	_, x, _ := one(s)
	_, alone := x.(generator)
	return alone
}

func (s *PathShape) fillDefaults() {
	_, x, _ := one(s)
	if x == nil {
		return
	}
	if plane := reflect.ValueOf(x).Elem().FieldByName("Plane"); plane.IsValid() && plane.String() == "" {
		plane.SetString(path.PlaneSide)
	}
	if f, is := x.(filler); is {
		f.fill()
	}
}

// closed reports whether a standalone shape is closed.
func (s *PathShape) closed() bool {
	_, closed := s.Spans(nil)
	return closed
}

func vecs(pts []Vec3) []geom.Vec {
	out := make([]geom.Vec, len(pts))
	for i, p := range pts {
		out[i] = geom.FromArray(p)
	}
	return out
}
