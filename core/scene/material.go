package scene

import (
	"fmt"
	"regexp"

	"bead/core/look"
)

// Tint colours some of a rig's pieces, without a part of their own.
type Tint struct {
	Colour string `json:"colour" jsonschema:"pattern=^#[0-9A-Fa-f]{6}$,description=As #RRGGBB in sRGB; takes the place of the material's colour."`
	From   int    `json:"from,omitempty" jsonschema:"minimum=0,maximum=1e6,description=The first piece that has it counted from 1; 0 or left out: 1."`
	Every  int    `json:"every,omitempty" jsonschema:"minimum=0,maximum=1e6,description=Every n-th piece from that one on; 0 or left out: that piece alone."`
	Along  bool   `json:"along,omitempty" jsonschema:"description=All pieces have it more and more from the first to the last; from and every say nothing."`
}

// Share is the weight, from 0 to 1, of the tint on one of count pieces, counted from 0.
func (t *Tint) Share(piece, count int) float64 {
	first := max(t.From, 1) - 1
	switch {
	case t.Along:
		return float64(piece) / float64(max(count-1, 1))
	case piece == first, t.Every > 0 && piece > first && (piece-first)%t.Every == 0:
		return 1
	}
	return 0
}

const (
	maxMaterials = 200
	maxTints     = 20
)

var colourForm = regexp.MustCompile(`^#[0-9A-Fa-f]{6}$`)

func (c *checker) colour(at, v string) {
	if !colourForm.MatchString(v) {
		c.say(at, "%q is no colour: # and six digits of base 16 are accepted, as in #2E7466", v)
	}
}

func (c *checker) materials(d *Document) {
	if len(d.Materials) > maxMaterials {
		c.say("materials", "%d are not accepted: up to %d are", len(d.Materials), maxMaterials)
		return
	}
	for i := range d.Materials {
		c.material(fmt.Sprintf("materials[%d]", i), &d.Materials[i])
	}
	for i := range d.Parts {
		seen := map[string]bool{}
		for k, s := range d.Parts[i].Surfaces {
			at := fmt.Sprintf("parts[%d].surfaces[%d]", i, k)
			c.name(at+".name", s.Name)
			if seen[s.Name] {
				c.say(at+".name", "%q is taken by another of these", s.Name)
			}
			seen[s.Name] = true
		}
	}
	for i := range d.Rigs {
		at, r := fmt.Sprintf("rigs[%d]", i), &d.Rigs[i]
		if len(r.Tints) > maxTints {
			c.say(at+".tints", "%d are not accepted: up to %d are", len(r.Tints), maxTints)
			continue
		}
		for k := range r.Tints {
			t, at := &r.Tints[k], fmt.Sprintf("%s.tints[%d]", at, k)
			c.colour(at+".colour", t.Colour)
		}
	}
}

func (c *checker) material(at string, m *look.Material) {
	c.colour(at+".colour", m.Colour)
	if m.Under != "" {
		c.colour(at+".under", m.Under)
	}
	if m.Images == nil {
		return
	}
	m.Images.Each(func(field, asset string) {
		if !assetForm.MatchString(asset) {
			c.say(at+".images."+field, "%q is no asset's id: the SHA-256 of a file in hex is", asset)
		}
	})
}

// stony are names of meshes that are of stone: of a file nothing else is known.
var stony = regexp.MustCompile(`(?i)terrace|quay|stone|rock|slab|wall|floor|stair|step|ground|bed\b`)

// How a part stands where it is asked what it is made of.
const (
	OnRig  = ""
	Still  = "still"
	Riding = "riding"
)

// Material returns the document's material of an id, nil of none.
func (d *Document) Material(id string) *look.Material {
	for i := range d.Materials {
		if d.Materials[i].ID == id {
			return &d.Materials[i]
		}
	}
	return nil
}

// MadeOf is the material that a part names, or else one that goes with its shape: a block that
// stands about is of stone, one that rides is painted.
func (d *Document) MadeOf(p *Part, stands string) *look.Material {
	if m := d.Material(p.Material); m != nil {
		return m
	}
	s := &p.Shape
	of := "galvanised"
	switch {
	case s.File != nil && stony.MatchString(p.Name):
		of = "stone"
	case s.File != nil, s.Dart != nil, s.Box != nil && stands == Riding:
		of = "paint"
	case s.Box != nil && stands == Still:
		of = "stone"
	case s.Box != nil, s.Float != nil, s.Plank != nil:
		of = "chalk"
	case s.Shoe != nil, s.Tube != nil:
		of = "rubber"
	case s.Link != nil, s.Coil != nil:
		of = "steel"
	case s.Strands != nil:
		of = "rope"
	case s.Eel != nil:
		of = "skin"
	case s.Strip != nil:
		of = "sailcloth"
	case s.Sheet != nil:
		of = "matting"
	case s.Figure != nil:
		of = "shell"
	}
	return look.FromPalette(of)
}

// MouldOf is the material of the surface that a rig's kind makes: a roll's sheet, a drum's rope.
func (d *Document) MouldOf(r *Rig) *look.Material {
	if k, is := r.of().(moulded); is {
		id, plain := k.mould()
		if m := d.Material(id); m != nil {
			return m
		}
		return look.FromPalette(plain)
	}
	return look.FromPalette("matting")
}

// WheelsOf is the material of wheels.
func (d *Document) WheelsOf() *look.Material { return look.FromPalette("galvanised") }
