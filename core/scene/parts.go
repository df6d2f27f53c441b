package scene

import (
	"errors"

	"bead/core/geom"
	"bead/core/part"
)

// PartShape is exactly one of its fields, in the order of the menu that adds them.
type PartShape struct {
	Box   *BoxShape      `json:"box,omitempty" jsonschema:"oneof_required=box"`
	Shoe  *part.ShoeSize `json:"shoe,omitempty" jsonschema:"oneof_required=shoe"`
	Float *FloatShape    `json:"float,omitempty" jsonschema:"oneof_required=float"`
	Post  *PostShape     `json:"post,omitempty" jsonschema:"oneof_required=post"`
	Link  *part.LinkSize `json:"link,omitempty" jsonschema:"oneof_required=link"`
	File  *FileShape     `json:"file,omitempty" jsonschema:"oneof_required=file"`

	Figure *FigureShape `json:"figure,omitempty" jsonschema:"oneof_required=figure"`

	Tube    *part.TubeSize    `json:"tube,omitempty" jsonschema:"oneof_required=tube"`
	Eel     *part.EelSize     `json:"eel,omitempty" jsonschema:"oneof_required=eel"`
	Plank   *part.PlankSize   `json:"plank,omitempty" jsonschema:"oneof_required=plank"`
	Dart    *part.DartSize    `json:"dart,omitempty" jsonschema:"oneof_required=dart"`
	Coil    *part.CoilSize    `json:"coil,omitempty" jsonschema:"oneof_required=coil"`
	Strip   *part.StripSize   `json:"strip,omitempty" jsonschema:"oneof_required=strip"`
	Strands *part.StrandsSize `json:"strands,omitempty" jsonschema:"oneof_required=strands"`
	Sheet   *part.SheetSize   `json:"sheet,omitempty" jsonschema:"oneof_required=sheet"`
}

// PostShape is an upright cylinder or cone that stands on its origin.
type PostShape struct {
	Radius    float64 `json:"radius" form:"Radius;length;min=1e-6"`
	TopRadius float64 `json:"topRadius,omitempty" form:"Top radius;length;min=0;auto=as the foot;like=radius" jsonschema:"description=Radius at the top; 0 or left out: the same as below."`
	Height    float64 `json:"height" form:"Height;length;min=1e-6"`
}

// Top is the radius at the top.
func (s *PostShape) Top() float64 {
	if s.TopRadius == 0 {
		return s.Radius
	}
	return s.TopRadius
}

// FileShape is a mesh read from a file.
type FileShape struct {
	Asset string  `json:"asset" jsonschema:"description=Id of the asset: the SHA-256 of the file in hex."`
	Scale float64 `json:"scale,omitempty" form:"One unit of its file is;distance;min=1e-6;max=1e6;or0" jsonschema:"minimum=0,description=Metres a unit of the file; 0 or left out: 1."`
}

func (s *FileShape) check(c *checker, at string) {
	if !assetForm.MatchString(s.Asset) {
		c.say(at+".asset", "%q is no asset's id: the SHA-256 of a file in hex is", s.Asset)
	}
}

// FigureShape is a figure of joints read from a file, with its motion and its skin.
type FigureShape struct {
	Asset string  `json:"asset" jsonschema:"description=Id of the asset: the SHA-256 of the file in hex."`
	Scale float64 `json:"scale,omitempty" form:"One unit of its file is;distance;min=1e-6;max=1e6;or0" jsonschema:"minimum=0,description=Metres a unit of the file; 0 or left out: 1."`
}

func (s *FigureShape) check(c *checker, at string) {
	(&FileShape{Asset: s.Asset}).check(c, at)
}

// BoxShape is a box along the house axes: side x, height y, length z.
type BoxShape struct {
	Side   float64 `json:"side" form:"Width;length;min=1e-6"`
	Height float64 `json:"height" form:"Height;length;min=1e-6"`
	Length float64 `json:"length" form:"Length;length;min=1e-6"`
}

// FloatShape is a net float turned about z.
type FloatShape struct {
	Length float64 `json:"length" form:"Length;length;min=1e-6"`
	Radius float64 `json:"radius" form:"Radius;length;min=1e-6"`
}

// Kind names the shape's field.
func (s *PartShape) Kind() string {
	key, _, _ := one(s)
	return key
}

// Asset is the id of the file that it is read from, "" of one that is made.
func (s *PartShape) Asset() string {
	switch {
	case s.File != nil:
		return s.File.Asset
	case s.Figure != nil:
		return s.Figure.Asset
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
	case s.Sheet != nil:
		return part.Sheet(*s.Sheet)
	}
	return nil, errors.New("the part has no shape")
}

// newParts are the parts that can be begun with, in the order of the menu.
var newParts = []NewPart{
	{"Shoe", PartShape{Shoe: &part.ShoeSize{Length: 0.19, Width: 0.52, Height: 0.044, Grouser: 0.036, Horn: 0.07}}},
	{"Box", PartShape{Box: &BoxShape{Side: 0.2, Height: 0.05, Length: 0.15}}},
	{"Chain link", PartShape{Link: &part.LinkSize{Pitch: 0.0254, Width: 0.0158, Height: 0.0236, Plate: 0.0033, Roller: 0.0084}}},
	{"Rod", PartShape{Tube: &part.TubeSize{Length: 1.2, Radius: 0.05}}},
	{"Tube", PartShape{Tube: &part.TubeSize{Length: 1.2, Radius: 0.06, Bore: 0.045}}},
	{"Eel", PartShape{Eel: &part.EelSize{Length: 1.2, Girth: 0.14}}},
	{"Plank", PartShape{Plank: &part.PlankSize{Length: 1.2, Width: 0.18, Thickness: 0.03}}},
	{"Dart", PartShape{Dart: &part.DartSize{Length: 1, Radius: 0.06, Fins: 4}}},
	{"Coil", PartShape{Coil: &part.CoilSize{Radius: 0.16, Wire: 0.012, Turns: 16, Pitch: 0.03}}},
	{"Strip", PartShape{Strip: &part.StripSize{Length: 1.2, Width: 0.2, Thickness: 0.004}}},
	{"Cable of strands", PartShape{Strands: &part.StrandsSize{Length: 3, Count: 3, Radius: 0.03, Lay: 0.4}}},
	{"Sheet of cloth", PartShape{Sheet: &part.SheetSize{Length: 1.2, Drop: 0.8, Along: 24, Down: 16}}},
	{"Float", PartShape{Float: &FloatShape{Length: 0.24, Radius: 0.085}}},
}
