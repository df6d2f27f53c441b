package scene

// Rider is one thing that the path carries.
type Rider struct {
	PastEnd string  `json:"pastEnd,omitempty" jsonschema:"enum=straight on,enum=come round,description=What it does when it leaves an open path."`
	Lead    *Lead   `json:"lead,omitempty" jsonschema:"description=The rig that it goes along with; travel is then its lead or below 0 its lag."`
	Rolling float64 `json:"rolling,omitempty" jsonschema:"description=The radius in metres on which it rolls and turns." form:";distance;min=1e-6;or0"`
}

func (x *Rider) about() About {
	return About{Name: "Rider", Text: "one thing that the path carries"}
}

func (x *Rider) traits() Traits {
	return Traits{Seat: SeatPivot, Spacing: alone, PastEnd: x.PastEnd, Lead: x.Lead}
}

func (x *Rider) fill() { fill(&x.PastEnd, StraightOn) }

func (x *Rider) checkRig(c *checker, at string, _ *Rig, _ []Path) {
}
