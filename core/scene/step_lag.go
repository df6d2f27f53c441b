package scene

// LagStep lets a stretch of a path that moves come after it and swing past.
type LagStep struct {
	From      float64 `json:"from,omitempty" jsonschema:"description=Metres along the path where it begins to give way." form:"Loosens from;distance;fallback=0"`
	To        float64 `json:"to,omitempty" jsonschema:"description=Metres along the path where it gives way wholly; 0 or left out: the end. Less than from: towards the start." form:"Fully loose from;distance;auto=the end"`
	Frequency float64 `json:"frequency" jsonschema:"description=Of its own swing in swings a second." form:"Swings a second;plain;min=0.001;max=1000"`
	Damping   float64 `json:"damping" jsonschema:"description=Damping ratio: below 1 it swings past; 1: just not." form:"Damping ratio;plain;min=0;max=100"`
	First     *int    `json:"first,omitempty" jsonschema:"description=Frame from which on it gives way." form:"From frame;frame;auto=the first;min=-1e7;max=1e7"`
	Last      *int    `json:"last,omitempty" jsonschema:"description=Frame up to which it gives way." form:"Up to frame;frame;auto=the last;min=-1e7;max=1e7"`
}

func (l *LagStep) about() About {
	return About{Name: "Lag", Text: "comes after, and swings past", First: &LagStep{Frequency: 1.5, Damping: 0.4}}
}

func (l *LagStep) check(c *checker, at string) {
	if l.First != nil && l.Last != nil && *l.Last < *l.First {
		c.say(at+".last", "frame %d comes before the first, %d", *l.Last, *l.First)
	}
}
