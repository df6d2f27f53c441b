package scene

import (
	"math"

	"bead/core/geom"
	"bead/core/path"
)

// HelixShape winds about an axis through its base.
type HelixShape struct {
	Base      Vec3    `json:"base" jsonschema:"description=Where the axis begins." form:"Base of its axis;place"`
	Radius    float64 `json:"radius" form:"Radius;length;min=1e-6"`
	EndRadius float64 `json:"endRadius,omitempty" jsonschema:"description=Radius at the end; 0 or left out: the same as at the start." form:"End radius;length;min=1e-6;auto=as at the base;like=radius"`
	Rise      float64 `json:"rise" jsonschema:"description=Metres along the axis a turn." form:"Rise a turn;length"`
	Turns     float64 `json:"turns" form:"Turns;plain;min=0.001;max=1000"`
	Hand      string  `json:"hand,omitempty" jsonschema:"enum=right,enum=left" form:"Hand;choice;fallback=right"`
	Axis      string  `json:"axis,omitempty" jsonschema:"enum=up,enum=forward,enum=side" form:"Axis;choice;fallback=up"`
	Begin     float64 `json:"begin,omitempty" jsonschema:"description=Degrees about the axis at which it begins." form:"Begins at;angle;fallback=0"`
	LeadIn    float64 `json:"leadIn,omitempty" jsonschema:"description=Metres of straight run before it and tangent to it." form:"Lead-in;distance;min=0;fallback=0"`
	LeadOut   float64 `json:"leadOut,omitempty" jsonschema:"description=Metres of straight run behind it and tangent to it." form:"Lead-out;distance;min=0;fallback=0"`
}

func (h *HelixShape) about() About {
	return About{Name: "Helix", First: &HelixShape{Radius: 0.5, Rise: 0.4, Turns: 3, Hand: "right", Axis: "up"}}
}

func (h *HelixShape) fill() {
	fill(&h.Hand, "right")
	fill(&h.Axis, "up")
}

func (h *HelixShape) spans(func(string)) ([]path.Span, bool) {
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
		Radius: h.Radius, EndRadius: end, Rise: h.Rise, Turns: h.Turns, LeftHand: h.Hand == "left", LeadIn: h.LeadIn, LeadOut: h.LeadOut}), false
}
