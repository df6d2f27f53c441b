package scene

// Fall lets a train's standing pieces fall one after another.
type Fall struct {
	First float64 `json:"first" jsonschema:"description=Frame at which the first piece is let go."`
	Tilt  float64 `json:"tilt,omitempty" jsonschema:"minimum=0,exclusiveMaximum=90,description=Degrees that it is tilted then; 0 or left out: two degrees beyond its balance or half way from there to the next piece."`
	Push  float64 `json:"push,omitempty" jsonschema:"minimum=0,description=Frames that the push to that tilt takes before it is let go."`
	Piece int     `json:"piece,omitempty" jsonschema:"minimum=0,description=The piece that is let go first counted from the end that begins; those before it stay standing. 1 where left out."`
	From  string  `json:"from,omitempty" jsonschema:"enum=start,enum=end,description=The end of the row that begins."`
}

func (f *Fall) fill() {
	if f != nil {
		fill(&f.From, FromStart)
		if f.Piece == 0 {
			f.Piece = 1
		}
	}
}

func (c *checker) fall(at string, t *Train) {
	f := t.Fall
	if f == nil {
		return
	}
	c.number(at+".fall.first", f.First, -1e7, 1e7)
	c.number(at+".fall.push", f.Push, 0, 1e6)
	if !(f.Tilt >= 0 && f.Tilt < 90) {
		c.say(at+".fall.tilt", "%g° is not accepted: from 0 to less than 90 is", f.Tilt)
	}
	c.number(at+".fall.piece", float64(f.Piece), 1, 100_000)
	c.oneOf(at+".fall.from", f.From, FromStart, FromEnd)
	if t.Seat != SeatPivot {
		c.say(at+".seat", "pieces that fall are rigid and stand each by itself: pivot is accepted")
	}
	if t.Arrive != nil || t.Leave != nil {
		c.say(at+".fall", "pieces that fall do not arrive or leave: leave one of the two out")
	}
}
