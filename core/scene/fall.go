package scene

// Fall lets a train's standing pieces fall one after another.
type Fall struct {
	First float64 `json:"first" jsonschema:"minimum=-1e7,maximum=1e7,description=Frame at which the first piece is let go."`
	Speed float64 `json:"speed,omitempty" jsonschema:"minimum=0,maximum=1e5,description=Degrees a second at which the first piece is pushed; instead of tilt."`
	Tilt  float64 `json:"tilt,omitempty" jsonschema:"minimum=0,exclusiveMaximum=90,description=Degrees that it is tilted then; 0 or left out: two degrees beyond its balance or half way from there to the next piece."`
	Push  float64 `json:"push,omitempty" jsonschema:"minimum=0,maximum=1e6,description=Frames that the push to that tilt takes before it is let go."`
	Piece int     `json:"piece,omitempty" jsonschema:"minimum=0,maximum=100000,description=The piece that is let go first counted from the end that begins; those before it stay standing. 1 where left out. Where both ways fall: it falls ahead and the one before it back; 0 or left out: the one in the middle."`
	From  string  `json:"from,omitempty" jsonschema:"enum=start,enum=end,enum=both,description=The end of the row that begins; both: from a piece on to both ends."`
	Rig   string  `json:"rig,omitempty" jsonschema:"description=Id of a rig of rigid pieces that sets it off: the first piece that it touches falls the way it is pushed and at that speed. First and tilt and push and speed and piece and from then say nothing." ref:"rig;;other"`
	On    string  `json:"carrier,omitempty" jsonschema:"description=Id of a carrier that sets it off likewise: by the fixtures on it or by its place where there are none." ref:"carrier"`
}

func (f *Fall) fill() {
	if f != nil {
		fill(&f.From, FromStart)
		if f.Piece == 0 && f.From != FromBoth {
			f.Piece = 1
		}
	}
}

// FromBoth lets pieces fall to both ends.
const FromBoth = "both"

// Touched reports whether something that comes by sets the run off.
func (f *Fall) Touched() bool { return f.Rig != "" || f.On != "" }

func (c *checker) fall(at string, t *Train) {
	f := t.Fall
	if f == nil {
		return
	}
	if f.Piece == 0 && f.From != FromBoth {
		c.say(at+".fall.piece", "0 is not accepted: a piece from 1 on is")
	}
	if f.Speed > 0 && f.Tilt > 0 {
		c.say(at+".fall.speed", "the first piece is pushed to a tilt or by a speed: leave one of the two out")
	}
	if f.Rig != "" && f.On != "" {
		c.say(at+".fall.carrier", "a rig or a carrier sets it off: leave one of the two out")
	}
	if t.Seat != SeatPivot {
		c.say(at+".seat", "pieces that fall are rigid and stand each by itself: pivot is accepted")
	}
	if t.Arrive != nil || t.Leave != nil {
		c.say(at+".fall", "pieces that fall do not arrive or leave: leave one of the two out")
	}
}
