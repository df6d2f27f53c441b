package scene

// TrackShape is the way that a piece of a rig, or a carrier, takes over the range.
type TrackShape struct {
	Rig     string `json:"rig,omitempty" jsonschema:"description=Id of the rig." ref:"rig;thing"`
	Carrier string `json:"carrier,omitempty" jsonschema:"description=Id of the carrier; instead of rig." ref:"carrier;thing"`
	Piece   int    `json:"piece,omitempty" jsonschema:"description=Which piece from 1 on; 1 where left out." form:";count;min=1"`
	Closed  bool   `json:"closed,omitempty"`
}

func (s *TrackShape) about() About { return About{Name: "Track"} }

func (s *TrackShape) fill() {
	if s.Piece == 0 {
		s.Piece = 1
	}
}

func (s *TrackShape) check(c *checker, at string) {
	if (s.Rig == "") == (s.Carrier == "") {
		c.say(at, "names a rig and a carrier or neither: one of them is accepted")
	} else if c.lone {
		c.say(at, "a shape that needs a rig or a carrier of its scene is not accepted here")
	}
}
