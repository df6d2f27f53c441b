package scene

import "bead/core/motion"

// Payout is a roll that lays a sheet along the path behind it, or winds it up.
type Payout struct {
	Width     float64      `json:"width" form:"Sheet width;length;min=1e-4" jsonschema:"exclusiveMinimum=0,description=Of the sheet in metres."`
	Thickness float64      `json:"thickness" form:"Sheet thickness;length;min=1e-6" jsonschema:"exclusiveMinimum=0,description=Of the sheet in metres."`
	Radius    float64      `json:"radius" form:"Full radius;length;min=1e-4" jsonschema:"exclusiveMinimum=0,description=Of the roll with all of the sheet on it."`
	Core      float64      `json:"core" form:"Core radius;length;min=1e-4" jsonschema:"exclusiveMinimum=0,description=Of the bare core."`
	Winds     bool         `json:"winds,omitempty" form:"What it does;switch;off=lays out;on=winds up" jsonschema:"description=It winds up what lies before it; left out: it lays out."`
	Material  string       `json:"material,omitempty" jsonschema:"description=Id of the sheet's material; the core is of its part's." ref:"material"`
	Away      motion.Value `json:"away,omitzero" form:"Rolls on by;moving" jsonschema:"description=Metres that it rolls on when the sheet has run out." move:"away;distance;along;word=rolls on by"`
}

func (p *Payout) traits() Traits {
	return Traits{Seat: SeatPivot, Spacing: alone, PastEnd: StraightOn}
}

func (p *Payout) fill() {}

func (p *Payout) mould() (material, plain string) { return p.Material, "matting" }

func (p *Payout) about() About {
	return About{Name: "Roll", Text: "lays out a sheet, or winds it up"}
}

func (p *Payout) checkRig(c *checker, at string, _ *Rig, _ []Path) {
	if p.Core >= p.Radius {
		c.say(at+".core", "the core's radius of %g m leaves nothing on a roll of %g m: less is accepted", p.Core, p.Radius)
		return
	}
	if p.Thickness > p.Radius-p.Core {
		c.say(at+".thickness", "a sheet %g m thick does not go round once between %g and %g m: up to %g m is accepted", p.Thickness, p.Core, p.Radius, p.Radius-p.Core)
	}
}
