package scene

import (
	"bead/core/geom"
	"bead/core/path"
)

// ArchShape stands on its base: a rounded arch with legs, or one arc.
type ArchShape struct {
	Base   Vec3      `json:"base" jsonschema:"description=The middle between its two feet." form:"Base, between its feet;place"`
	Width  float64   `json:"width" form:"Width;length;min=1e-6"`
	Height float64   `json:"height" form:"Height;length;min=1e-6"`
	Arc    bool      `json:"arc,omitempty" jsonschema:"description=One circular arc from foot to foot instead of legs and corners." form:"Form;switch;off=legs and corners;on=one arc"`
	Radius float64   `json:"radius,omitempty" jsonschema:"description=Radius of the corners; 0 or left out: half the width or as much as the height allows." form:"Corner radius;length;min=0"`
	Open   OpenSide  `json:"open,omitempty" jsonschema:"enum=below,enum=above,enum=ahead,enum=behind,description=The side that stays open." form:"Open side;choice;fallback=below"`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above" form:"Plane;choice;fallback=side"`
}

// OpenSide is the side of an arch that stays open: below of an arch that stands, ahead and behind
// of one that lies on its side.
type OpenSide string

func (a *ArchShape) about() About {
	return About{Name: "Arch", First: &ArchShape{Width: 1, Height: 0.8, Open: "below", Plane: path.PlaneSide}}
}

func (a *ArchShape) fill() { fill(&a.Open, "below") }

func (a *ArchShape) check(c *checker, at string) {
	c.number(at+".radius", a.Radius, 0, max(min(a.Width/2, a.Height), 0))
}

func (a *ArchShape) spans(func(string)) ([]path.Span, bool) {
	along, across := a.Plane.axes()
	// Turned so that across points away from the open side.
	switch a.Open {
	case "above":
		along, across = along.Neg(), across.Neg()
	case "ahead":
		along, across = across, along.Neg()
	case "behind":
		along, across = across.Neg(), along
	}
	base := geom.FromArray(a.Base)
	if a.Arc {
		return path.ArcArch(base, along, across, a.Width, a.Height), false
	}
	r := a.Radius
	if r == 0 {
		r = min(a.Width/2, a.Height)
	}
	return path.Arch(base, along, across, a.Width, a.Height, r), false
}
