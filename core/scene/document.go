// Package scene is the document: what a person made, as plain data. It knows its
// JSON form, its defaults and what is wrong with it, each fault with its address.
//
// Lengths are metres, angles that people read are degrees, times are frames.
package scene

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"

	"bead/core/facing"
	"bead/core/look"
	"bead/core/motion"
	"bead/core/part"
	"bead/core/place"
)

// Version is the document version this program writes.
const Version = 2

// Document is one scene.
type Document struct {
	Bead  int     `json:"bead" jsonschema:"enum=2,description=Version of the document's form."`
	Name  string  `json:"name" jsonschema:"minLength=1,maxLength=120"`
	Units Units   `json:"units,omitempty" jsonschema:"enum=mm,enum=cm,enum=m,enum=in,description=Unit in which small lengths are shown; the document itself is in metres."`
	FPS   float64 `json:"fps" jsonschema:"exclusiveMinimum=0,maximum=1000,description=Frames a second."`
	Range Range   `json:"range"`
	// Plays says what the scene is meant to do at the end of its range. Left out it plays
	// once where pieces arrive, leave or fall, and loops else.
	Plays string `json:"plays,omitempty" jsonschema:"enum=loops,enum=once,description=What happens at the end of the range; left out: once where pieces arrive or leave or fall and a loop else."`
	// Master is the carrier that all else rides on which names no carrier.
	Master   string    `json:"master,omitempty" jsonschema:"description=Id of the carrier that carries all that names no other." ref:"carrier"`
	Carriers []Carrier `json:"carriers,omitempty"`
	Tugs     []Tug     `json:"tugs,omitempty"`
	Ground   *Ground   `json:"ground,omitempty" jsonschema:"description=The ground; left out: level at height 0."`
	Paths    []Path    `json:"paths"`
	Parts    []Part    `json:"parts"`
	// Materials are those that parts name; a part that names none is of one that goes with its shape.
	Materials []look.Material `json:"materials,omitempty"`
	// Fixtures are parts that stand in the scene.
	Fixtures []Fixture `json:"fixtures,omitempty"`
	Rigs     []Rig     `json:"rigs"`
	// Cameras are kept places to look from; Light is the sun.
	Cameras []Camera `json:"cameras,omitempty"`
	Light   *Light   `json:"light,omitempty" jsonschema:"description=The sun; left out: over the left shoulder on a clear day."`
	// Assets are the files that mesh parts name, so that a document in a file holds
	// all it needs. Documents in the store are without; the store keeps the files.
	Assets []Asset `json:"assets,omitempty"`

	read1 bool // from a document of version 1
}

// Fixture is a part that stands in the scene: a post, an imported hull. Paths can
// lie on it or be taken from its edges.
type Fixture struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Part    string  `json:"part" jsonschema:"description=Id of the part." ref:"part;thing"`
	At      Vec3    `json:"at" jsonschema:"description=Where the part's pivot stands in metres."`
	Heading float64 `json:"heading,omitempty" jsonschema:"minimum=-1e6,maximum=1e6,description=Degrees that the part's forward is turned to the left."`
	Pitch   float64 `json:"pitch,omitempty" jsonschema:"minimum=-1e6,maximum=1e6,description=Degrees nose up."`
	Bank    float64 `json:"bank,omitempty" jsonschema:"minimum=-1e6,maximum=1e6,description=Degrees left side up."`
	Guide   bool    `json:"guide,omitempty" jsonschema:"description=Guide only: shown in the view and left out of deliveries."`
	Carrier string  `json:"carrier,omitempty" jsonschema:"description=Id of the carrier that it rides on." ref:"carrier"`
}

// Asset is a file in an open format, known by the SHA-256 of its bytes in hex.
type Asset struct {
	ID   string `json:"id"`
	Name string `json:"name" jsonschema:"description=File name; its ending says the format: obj or glb or gltf."`
	Data []byte `json:"data" jsonschema:"description=The bytes in base64."`
}

// AssetUse is a file that a document needs, and what needs it.
type AssetUse struct{ ID, By string }

// AssetsUsed lists the files that a document needs, each once: meshes, figures, images.
func (d *Document) AssetsUsed() []AssetUse {
	var out []AssetUse
	add := func(id, by string) {
		if id != "" && !slices.ContainsFunc(out, func(u AssetUse) bool { return u.ID == id }) {
			out = append(out, AssetUse{id, by})
		}
	}
	for i := range d.Parts {
		add(d.Parts[i].Shape.Asset(), fmt.Sprintf("part %q", d.Parts[i].Name))
	}
	for i := range d.Materials {
		d.Materials[i].Images.Each(func(_, asset string) { add(asset, fmt.Sprintf("material %q", d.Materials[i].Name)) })
	}
	return out
}

// AssetID returns the id of a file.
func AssetID(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}

// Range is the frames that are worked on and baked, both included.
type Range struct {
	First int `json:"first"`
	Last  int `json:"last"`
}

// What a scene does at the end of its range.
const (
	PlaysLoops = "loops"
	PlaysOnce  = "once"
)

// PlaysOnce reports whether the scene is meant to end with its range: what it says, or else
// whether something arrives or leaves.
func (d *Document) PlaysOnce() bool {
	if d.Plays != "" {
		return d.Plays == PlaysOnce
	}
	return slices.ContainsFunc(d.Rigs, func(r Rig) bool {
		return r.Train != nil && (r.Train.Arrive != nil || r.Train.Leave != nil || r.Train.Fall != nil)
	})
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
	Guide   bool      `json:"guide,omitempty" jsonschema:"description=Guide only: shown in the view and left out of deliveries."`
	// Material is what it is made of, Surfaces what those surfaces are that its file tells apart.
	Material string    `json:"material,omitempty" jsonschema:"description=Id of the material; left out: one that goes with its shape." ref:"material"`
	Surfaces []Surface `json:"surfaces,omitempty" jsonschema:"description=Surfaces of a mesh from a file that are of other materials."`
	// Segments cut the part along its forward so that it can bend.
	Segments int `json:"segments,omitempty" jsonschema:"minimum=0,maximum=5000,description=Into how many stretches along its forward it is cut; 0 or left out: as it is."`
}

// Face says by their names which of the part's own axes is forward and which up.
func (p *Part) Face(forward, up string) { p.Forward, p.Up = part.Axis(forward), part.Axis(up) }

// Surface is one of the surfaces that a mesh from a file tells apart, by its material's name there.
type Surface struct {
	Name     string `json:"name" jsonschema:"minLength=1,maxLength=120,description=As the file has it."`
	Material string `json:"material" jsonschema:"description=Id of the material." ref:"material;whole"`
}

// Facing says which way is up.
type Facing struct {
	Mode     facing.Mode  `json:"mode" jsonschema:"enum=steady,enum=loopside,enum=least-twist,enum=guide,enum=turn"`
	Guide    string       `json:"guide,omitempty" jsonschema:"description=Id of the path that facing guide looks at." ref:"path;;idle"`
	Up       *Vec3        `json:"up,omitempty"`
	Inward   bool         `json:"inward,omitempty"`
	Turns    float64      `json:"turns,omitempty"`
	Symmetry int          `json:"symmetry,omitempty"`
	Roll     motion.Value `json:"roll,omitzero" jsonschema:"description=Degrees about the path's direction." move:"roll;angle"`
	RollAt   []RollBead   `json:"rollAt,omitempty" jsonschema:"description=Roll by distance; added to roll."`
	Bank     *Bank        `json:"bank,omitempty" jsonschema:"description=Leans into bends as its speed asks."`
}

// RollBead is the roll at a distance. Up to the next bead it changes evenly or eased.
type RollBead struct {
	At   float64    `json:"at" jsonschema:"minimum=0,maximum=1e6,description=Metres from the path's start."`
	Roll float64    `json:"roll" jsonschema:"minimum=-1e6,maximum=1e6,description=Degrees."`
	Ease place.Ease `json:"ease,omitempty" jsonschema:"enum=straight,enum=eased"`
}

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
		if f := p.Shape.Figure; f != nil && f.Scale == 0 {
			f.Scale = 1
		}
	}
	d.fillMotionDefaults()
	for i := range d.Rigs {
		r := &d.Rigs[i]
		r.fillDefaults()
		for k := range r.Facing.RollAt {
			if b := &r.Facing.RollAt[k]; b.Ease == "" {
				b.Ease = place.Straight
			}
		}
	}
}
