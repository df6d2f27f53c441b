package scene

// Drum pays out the hanging cable that its path is, where that names it, or winds it up: its travel is
// how much it has paid out. The cable's start is then the drum's hub.
type Drum struct {
	Radius   float64 `json:"radius" form:"Drum radius;length;min=1e-4" jsonschema:"exclusiveMinimum=0,description=Of the bare barrel in metres."`
	Width    float64 `json:"width" form:"Drum width;length;min=1e-4" jsonschema:"exclusiveMinimum=0,description=Between the flanges."`
	Rope     float64 `json:"rope" form:"Rope diameter;length;min=1e-5" jsonschema:"exclusiveMinimum=0"`
	Wound    float64 `json:"wound" form:"Rope on it at first;distance;min=0" jsonschema:"minimum=0,description=Metres of rope on the drum when nothing has been paid out."`
	Material string  `json:"material,omitempty" jsonschema:"description=Id of the rope's material; the barrel is of its part's." ref:"material"`
	Under    bool    `json:"under,omitempty" form:"Rope leaves it;switch;off=over the top;on=from below" jsonschema:"description=The rope leaves it from below; left out: over its top."`
}

const maxLayers = 60

func (d *Drum) traits() Traits {
	return Traits{Seat: SeatPivot, Spacing: alone, PastEnd: StraightOn}
}

func (d *Drum) fill() {}

func (d *Drum) mould() (material, plain string) { return d.Material, "rope" }

func (d *Drum) about() About {
	return About{Name: "Drum", Text: "pays out a hanging cable, or winds it up"}
}

func (d *Drum) checkRig(c *checker, at string, r *Rig, paths []Path) {
	if d.Rope > d.Width {
		c.say(at+".rope", "a rope %g m thick does not lie between flanges %g m apart: up to that is accepted", d.Rope, d.Width)
	}
	if most := 2e3 * d.Radius * maxLayers; d.Wound > most {
		c.say(at+".wound", "%g m of rope are not accepted: up to %g m are on this drum", d.Wound, most)
	}
	for i := range paths {
		if s := &paths[i].Shape; paths[i].ID == r.Path && s.Hang == nil && (s.Wrap == nil || s.Wrap.Ends == nil) {
			c.say(at[:len(at)-len(".drum")]+".path", "a drum pays out a cable: a path of the shape hanging cable, or a belt with ends, is accepted")
		}
	}
}

// DrumOf is the id of the rig that is the drum of a path of this shape, and where the shape names it; "" of
// none.
func (s *PathShape) DrumOf() (id, at string) {
	switch {
	case s.Hang != nil:
		return s.Hang.Drum, "hang"
	case s.Wrap != nil && s.Wrap.Ends != nil:
		return s.Wrap.Ends.Drum, "wrap.ends"
	}
	return "", ""
}
