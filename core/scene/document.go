// Package scene is the document: what a person made, as plain data. It knows its
// JSON form, its defaults and what is wrong with it, each fault with its address.
//
// Lengths are metres, angles that people read are degrees, times are frames.
package scene

import (
	"slices"

	"bead/core/facing"
	"bead/core/motion"
	"bead/core/part"
	"bead/core/path"
	"bead/core/place"
)

// Version is the document version this program writes.
const Version = 1

// Document is one scene.
type Document struct {
	Bead  int     `json:"bead" jsonschema:"enum=1,description=Version of the document's form."`
	Name  string  `json:"name" jsonschema:"minLength=1,maxLength=120"`
	Units Units   `json:"units,omitempty" jsonschema:"enum=mm,enum=cm,enum=m,enum=in,description=Unit in which small lengths are shown; the document itself is in metres."`
	FPS   float64 `json:"fps" jsonschema:"exclusiveMinimum=0,maximum=1000,description=Frames a second."`
	Range Range   `json:"range"`
	Paths []Path  `json:"paths"`
	Parts []Part  `json:"parts"`
	Rigs  []Rig   `json:"rigs"`
}

// Units is a unit for showing small lengths.
type Units string

// Range is the frames that are worked on and baked, both included.
type Range struct {
	First int `json:"first"`
	Last  int `json:"last"`
}

// Count is the number of frames.
func (r Range) Count() int { return r.Last - r.First + 1 }

// Vec3 is a point or direction as documents hold it.
type Vec3 = [3]float64

// Path is a named curve.
type Path struct {
	ID    string    `json:"id"`
	Name  string    `json:"name"`
	Shape PathShape `json:"shape"`
}

// PathShape is exactly one of its fields.
type PathShape struct {
	Line     *LineShape     `json:"line,omitempty" jsonschema:"oneof_required=line"`
	Circle   *CircleShape   `json:"circle,omitempty" jsonschema:"oneof_required=circle"`
	Ellipse  *EllipseShape  `json:"ellipse,omitempty" jsonschema:"oneof_required=ellipse"`
	Slot     *SlotShape     `json:"slot,omitempty" jsonschema:"oneof_required=slot"`
	Spline   *SplineShape   `json:"spline,omitempty" jsonschema:"oneof_required=spline"`
	Polyline *PolylineShape `json:"polyline,omitempty" jsonschema:"oneof_required=polyline"`
}

// LineShape is straight.
type LineShape struct {
	From Vec3 `json:"from"`
	To   Vec3 `json:"to"`
}

// PlaneName is the ready view that looks at a flat path square on.
type PlaneName string

// CircleShape is one turn round a centre.
type CircleShape struct {
	Centre Vec3      `json:"centre"`
	Radius float64   `json:"radius"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above"`
}

// EllipseShape has one half axis along its plane's first direction and one
// across it.
type EllipseShape struct {
	Centre Vec3      `json:"centre"`
	Along  float64   `json:"along"`
	Across float64   `json:"across"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above"`
}

// SlotShape is two half circles joined by straights of the given length.
type SlotShape struct {
	Centre Vec3      `json:"centre"`
	Length float64   `json:"length"`
	Radius float64   `json:"radius"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above"`
}

// SplineShape is cubic spans through points with handles.
type SplineShape struct {
	Closed bool    `json:"closed,omitempty"`
	Points []Point `json:"points" jsonschema:"minItems=2"`
}

// Point is a spline point; In and Out are its handles as offsets from it.
type Point struct {
	At      Vec3         `json:"at"`
	In      *Vec3        `json:"in,omitempty"`
	Out     *Vec3        `json:"out,omitempty"`
	Handles path.Handles `json:"handles,omitempty" jsonschema:"enum=smooth,enum=aligned,enum=mirrored,enum=free"`
}

// PolylineShape is straight from point to point.
type PolylineShape struct {
	Closed bool   `json:"closed,omitempty"`
	Points []Vec3 `json:"points" jsonschema:"minItems=2"`
}

// Part is a piece of geometry with its own axes.
type Part struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Shape   PartShape `json:"shape"`
	Forward part.Axis `json:"forward,omitempty" jsonschema:"enum=+x,enum=-x,enum=+y,enum=-y,enum=+z,enum=-z"`
	Up      part.Axis `json:"up,omitempty" jsonschema:"enum=+x,enum=-x,enum=+y,enum=-y,enum=+z,enum=-z"`
	Pivot   Vec3      `json:"pivot,omitzero" jsonschema:"description=The point of the part that sits on the path in the part's own axes."`
}

// PartShape is exactly one of its fields.
type PartShape struct {
	Box   *BoxShape      `json:"box,omitempty" jsonschema:"oneof_required=box"`
	Shoe  *part.ShoeSize `json:"shoe,omitempty" jsonschema:"oneof_required=shoe"`
	Float *FloatShape    `json:"float,omitempty" jsonschema:"oneof_required=float"`
}

// BoxShape is a box along the house axes: side x, height y, length z.
type BoxShape struct {
	Side   float64 `json:"side"`
	Height float64 `json:"height"`
	Length float64 `json:"length"`
}

// FloatShape is a net float turned about z.
type FloatShape struct {
	Length float64 `json:"length"`
	Radius float64 `json:"radius"`
}

// Rig ties a part to a path.
type Rig struct {
	ID      string       `json:"id"`
	Name    string       `json:"name"`
	Kind    string       `json:"kind" jsonschema:"enum=train"`
	Path    string       `json:"path" jsonschema:"description=Id of the path."`
	Part    string       `json:"part" jsonschema:"description=Id of the part."`
	Seat    string       `json:"seat,omitempty" jsonschema:"enum=pivot"`
	Scale   float64      `json:"scale,omitempty" jsonschema:"exclusiveMinimum=0,description=Scale of the pieces; spacing is not touched. 1 where left out."`
	Spacing Spacing      `json:"spacing"`
	Facing  Facing       `json:"facing"`
	Travel  motion.Value `json:"travel" jsonschema:"description=How far the rig has moved along its path in metres."`
	PastEnd string       `json:"pastEnd,omitempty" jsonschema:"enum=straight on,enum=come round,description=What a piece does that leaves an open path."`
}

// Spacing says how many pieces, or how far apart.
type Spacing struct {
	Mode   place.Mode   `json:"mode" jsonschema:"enum=set count,enum=set pitch,enum=close up"`
	Count  int          `json:"count,omitempty" jsonschema:"minimum=0,maximum=100000"`
	Pitch  float64      `json:"pitch,omitempty" jsonschema:"description=Metres from one piece to the next; 0 or left out: the part's own length."`
	Gap    float64      `json:"gap,omitempty" jsonschema:"description=Metres added to the pitch."`
	Rest   place.Rest   `json:"rest,omitempty" jsonschema:"enum=pitch,enum=slack"`
	Offset motion.Value `json:"offset,omitzero" jsonschema:"description=Metres by which all pieces stand further along."`
}

// Facing says which way is up.
type Facing struct {
	Mode     facing.Mode  `json:"mode" jsonschema:"enum=steady,enum=loopside,enum=least-twist"`
	Up       *Vec3        `json:"up,omitempty"`
	Inward   bool         `json:"inward,omitempty"`
	Turns    float64      `json:"turns,omitempty"`
	Symmetry int          `json:"symmetry,omitempty"`
	Roll     motion.Value `json:"roll,omitzero" jsonschema:"description=Degrees about the path's direction."`
}

// Defaults that the document may leave out.
const (
	SeatPivot  = "pivot"
	KindTrain  = "train"
	StraightOn = "straight on"
	ComeRound  = "come round"
)

// FillDefaults puts in what the document left out, so that readers of a Document
// need not know the defaults.
func (d *Document) FillDefaults() {
	if d.Units == "" {
		d.Units = "mm"
	}
	for i := range d.Paths {
		d.Paths[i].Shape.fillDefaults()
	}
	for i := range d.Parts {
		p := &d.Parts[i]
		if p.Forward == "" {
			p.Forward = "+z"
		}
		if p.Up == "" {
			p.Up = "+y"
		}
	}
	for i := range d.Rigs {
		r := &d.Rigs[i]
		if r.Seat == "" {
			r.Seat = SeatPivot
		}
		if r.Scale == 0 {
			r.Scale = 1
		}
		if r.PastEnd == "" {
			r.PastEnd = StraightOn
		}
		if r.Spacing.Rest == "" {
			r.Spacing.Rest = place.RestPitch
		}
	}
}

func (s *PathShape) fillDefaults() {
	if s.Spline != nil {
		for k := range s.Spline.Points {
			p := &s.Spline.Points[k]
			if p.Handles != "" {
				continue
			}
			p.Handles = path.Smooth
			if p.In != nil || p.Out != nil {
				p.Handles = path.Aligned
			}
		}
	}
	for _, p := range s.planes() {
		if *p == "" {
			*p = path.PlaneSide
		}
	}
}

func (s *PathShape) planes() []*PlaneName {
	switch {
	case s.Circle != nil:
		return []*PlaneName{&s.Circle.Plane}
	case s.Ellipse != nil:
		return []*PlaneName{&s.Ellipse.Plane}
	case s.Slot != nil:
		return []*PlaneName{&s.Slot.Plane}
	}
	return nil
}

// Keep takes out all rigs but those named; no names keep all.
func (d *Document) Keep(rigs []string) {
	if len(rigs) > 0 {
		d.Rigs = slices.DeleteFunc(d.Rigs, func(r Rig) bool { return !slices.Contains(rigs, r.ID) })
	}
}
