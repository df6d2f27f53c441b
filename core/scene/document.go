// Package scene is the document: what a person made, as plain data. It knows its
// JSON form, its defaults and what is wrong with it, each fault with its address.
//
// Lengths are metres, angles that people read are degrees, times are frames.
package scene

import (
	"crypto/sha256"
	"encoding/hex"
	"slices"

	"bead/core/facing"
	"bead/core/motion"
	"bead/core/part"
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
	// Fixtures are parts that stand in the scene.
	Fixtures []Fixture `json:"fixtures,omitempty"`
	Rigs     []Rig     `json:"rigs"`
	// Assets are the files that mesh parts name, so that a document in a file holds
	// all it needs. Documents in the store are without; the store keeps the files.
	Assets []Asset `json:"assets,omitempty"`
}

// Fixture is a part that stands in the scene: a post, an imported hull. Paths can
// lie on it or be taken from its edges.
type Fixture struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Part    string  `json:"part" jsonschema:"description=Id of the part."`
	At      Vec3    `json:"at" jsonschema:"description=Where the part's pivot stands in metres."`
	Heading float64 `json:"heading,omitempty" jsonschema:"description=Degrees that the part's forward is turned about up."`
	Guide   bool    `json:"guide,omitempty" jsonschema:"description=Guide only: shown in the view and left out of deliveries."`
}

// Asset is a file in an open format, known by the SHA-256 of its bytes in hex.
type Asset struct {
	ID   string `json:"id"`
	Name string `json:"name" jsonschema:"description=File name; its ending says the format: obj or glb or gltf."`
	Data []byte `json:"data" jsonschema:"description=The bytes in base64."`
}

// AssetID returns the id of a file.
func AssetID(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
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
	Post  *PostShape     `json:"post,omitempty" jsonschema:"oneof_required=post"`
	File  *FileShape     `json:"file,omitempty" jsonschema:"oneof_required=file"`
}

// PostShape is an upright cylinder or cone that stands on its origin.
type PostShape struct {
	Radius    float64 `json:"radius"`
	TopRadius float64 `json:"topRadius,omitempty" jsonschema:"description=Radius at the top; 0 or left out: the same as below."`
	Height    float64 `json:"height"`
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
	Scale float64 `json:"scale,omitempty" jsonschema:"exclusiveMinimum=0,description=Metres a unit of the file; 1 where left out."`
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
	Mode     facing.Mode  `json:"mode" jsonschema:"enum=steady,enum=loopside,enum=least-twist,enum=guide,enum=turn"`
	Guide    string       `json:"guide,omitempty" jsonschema:"description=Id of the path that facing guide looks at."`
	Up       *Vec3        `json:"up,omitempty"`
	Inward   bool         `json:"inward,omitempty"`
	Turns    float64      `json:"turns,omitempty"`
	Symmetry int          `json:"symmetry,omitempty"`
	Roll     motion.Value `json:"roll,omitzero" jsonschema:"description=Degrees about the path's direction."`
	RollAt   []RollBead   `json:"rollAt,omitempty" jsonschema:"description=Roll by distance; added to roll."`
}

// RollBead is the roll at a distance. Up to the next bead it changes evenly or eased.
type RollBead struct {
	At   float64    `json:"at" jsonschema:"description=Metres from the path's start."`
	Roll float64    `json:"roll" jsonschema:"description=Degrees."`
	Ease place.Ease `json:"ease,omitempty" jsonschema:"enum=straight,enum=eased"`
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
		d.Paths[i].fillDefaults()
	}
	for i := range d.Parts {
		p := &d.Parts[i]
		if p.Forward == "" {
			p.Forward = "+z"
		}
		if p.Up == "" {
			p.Up = "+y"
		}
		if f := p.Shape.File; f != nil && f.Scale == 0 {
			f.Scale = 1
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
		for k := range r.Facing.RollAt {
			if b := &r.Facing.RollAt[k]; b.Ease == "" {
				b.Ease = place.Straight
			}
		}
	}
}

// Keep takes out all rigs but those named; no names keep all.
func (d *Document) Keep(rigs []string) {
	if len(rigs) > 0 {
		d.Rigs = slices.DeleteFunc(d.Rigs, func(r Rig) bool { return !slices.Contains(rigs, r.ID) })
	}
}
