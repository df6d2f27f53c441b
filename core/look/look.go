// Package look is what things are made of to be looked at: materials, in the terms of glTF 2.0, and colours.
package look

import (
	"fmt"
	"math"
	"strconv"
)

// Material is what things are made of to look at, in the terms of glTF 2.0's metallic-roughness
// model (Khronos, glTF 2.0 specification, 3.9). Colours are sRGB.
type Material struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Colour string `json:"colour" jsonschema:"pattern=^#[0-9A-Fa-f]{6}$,description=As #RRGGBB in sRGB."`
	// Under is the colour of the lower side: creatures and hulls have two.
	Under     string  `json:"under,omitempty" jsonschema:"pattern=^#[0-9A-Fa-f]{6}$,description=Colour of the lower side; left out: the same all round."`
	Roughness float64 `json:"roughness" jsonschema:"minimum=0,maximum=1,description=0 is a mirror and 1 is matt."`
	Metalness float64 `json:"metalness,omitempty" jsonschema:"minimum=0,maximum=1"`
	Opacity   float64 `json:"opacity,omitempty" jsonschema:"minimum=0,maximum=1,description=Below 1 what is behind shows through; 0 or left out: 1."`
	Images    *Images `json:"images,omitempty"`
}

// Images are the pictures that a material is covered with, PNG or JPEG, each an asset.
type Images struct {
	Colour string `json:"colour,omitempty" jsonschema:"description=Id of the asset whose colours the material's colour is multiplied by."`
	Normal string `json:"normal,omitempty" jsonschema:"description=Id of the asset that tilts the surface as tangent space normals do."`
	// Rough is glTF's: roughness in green, metalness in blue.
	Rough string `json:"rough,omitempty" jsonschema:"description=Id of the asset by whose green roughness is multiplied and by whose blue metalness is."`
	// Width and Length are the size of one image on the thing, across it and along it.
	Width  float64 `json:"width,omitempty" jsonschema:"minimum=0,maximum=1e4,description=Metres that an image is wide on the thing; 0 or left out: as wide as it is long; with both left out as the mesh of a file has it or 1 m."`
	Length float64 `json:"length,omitempty" jsonschema:"minimum=0,maximum=1e4,description=Metres that an image is long along the thing; 0 or left out: as wide as its width."`
}

// Each tells of the images that are there: the field and the asset's id.
func (m *Images) Each(tell func(field, asset string)) {
	if m == nil {
		return
	}
	for _, x := range [...]struct{ field, asset string }{{"colour", m.Colour}, {"normal", m.Normal}, {"rough", m.Rough}} {
		if x.asset != "" {
			tell(x.field, x.asset)
		}
	}
}

// Size is that of one image, metres across and along.
func (m *Images) Size() (width, length float64) {
	width, length = m.Width, m.Length
	if width == 0 {
		width = length
	}
	if width == 0 {
		width = 1
	}
	if length == 0 {
		length = width
	}
	return width, length
}

// Put names the asset of one of its fields.
func (m *Images) Put(field, asset string) {
	switch field {
	case "colour":
		m.Colour = asset
	case "normal":
		m.Normal = asset
	case "rough":
		m.Rough = asset
	}
}

// Linear is a colour as light: red, green and blue from 0 to 1, by the transfer function of sRGB
// (IEC 61966-2-1).
func Linear(colour string) (out [3]float64) {
	for i := range out {
		v, err := strconv.ParseUint(colour[1+2*i:3+2*i], 16, 8)
		if err != nil {
			return [3]float64{}
		}
		out[i] = Light(uint8(v))
	}
	return out
}

// Light is a part of a colour, 0 to 255, as light.
func Light(v uint8) float64 {
	c := float64(v) / 255
	if c <= 0.04045 {
		return c / 12.92
	}
	return math.Pow((c+0.055)/1.055, 2.4)
}

// Shown is light as a part of a colour, the inverse of Light.
func Shown(light float64) uint8 {
	v := min(max(light, 0), 1)
	if v <= 0.0031308 {
		v *= 12.92
	} else {
		v = 1.055*math.Pow(v, 1/2.4) - 0.055
	}
	return uint8(math.Round(v * 255))
}

// ColourOf is light as a colour, the inverse of Linear.
func ColourOf(light [3]float64) string {
	return fmt.Sprintf("#%02X%02X%02X", Shown(light[0]), Shown(light[1]), Shown(light[2]))
}

// Clear is how opaque it is, from above 0 to 1.
func (m *Material) Clear() float64 {
	if m.Opacity == 0 {
		return 1
	}
	return m.Opacity
}

// Palette are the materials to begin with; what names none is made of one of these. They are told
// apart by their lightness first.
var Palette = []Material{
	{ID: "rubber", Name: "Rubber", Colour: "#565E61", Roughness: 0.92},
	{ID: "steel", Name: "Forged steel", Colour: "#7E8890", Roughness: 0.5, Metalness: 0.3},
	{ID: "galvanised", Name: "Galvanised", Colour: "#AEB6B5", Roughness: 0.62, Metalness: 0.2},
	{ID: "paint", Name: "Hull paint", Colour: "#6E8CA0", Roughness: 0.7},
	{ID: "chalk", Name: "Chalk", Colour: "#DCD3BF", Roughness: 0.85},
	{ID: "rope", Name: "Rope", Colour: "#B79B66", Roughness: 0.95},
	{ID: "skin", Name: "Eel skin", Colour: "#5C6650", Under: "#C9C2A4", Roughness: 0.45},
	{ID: "shell", Name: "Shell", Colour: "#A9674B", Roughness: 0.6},
	{ID: "sailcloth", Name: "Sailcloth", Colour: "#E9E1CE", Roughness: 0.9},
	{ID: "matting", Name: "Matting", Colour: "#8FA3A8", Roughness: 0.95},
	{ID: "stone", Name: "Stone", Colour: "#B5AE9F", Roughness: 0.95},
	{ID: "glass", Name: "Lamp glass", Colour: "#E3EEF0", Roughness: 0.12, Opacity: 0.35},
	{ID: "brass", Name: "Brass", Colour: "#B98F45", Roughness: 0.35, Metalness: 0.8},
}

// FromPalette returns a material of the palette.
func FromPalette(id string) *Material {
	for i := range Palette {
		if Palette[i].ID == id {
			return &Palette[i]
		}
	}
	panic("look: no material " + id)
}

// PictureWidth is how wide a picture behind a lens is, mm: what focal lengths are told by.
const PictureWidth = 36
