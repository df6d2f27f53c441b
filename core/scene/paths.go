package scene

import (
	"bead/core/geom"
	"bead/core/path"
)

// Path is a named curve: a shape, and the steps that make of it what is used.
type Path struct {
	ID    string    `json:"id"`
	Name  string    `json:"name"`
	Shape PathShape `json:"shape"`
	Steps []Step    `json:"steps,omitempty" jsonschema:"description=Shaping steps in the order they are taken."`
	// Carrier is what it rides on, Rest where it stands in the carrier's space.
	Carrier string `json:"carrier,omitempty" jsonschema:"description=Id of the carrier that it rides on." ref:"carrier"`
	Rest    *Stand `json:"rest,omitempty" jsonschema:"description=Where the path stands in the carrier's space."`
	// ChordError is the greatest distance of the drawn and baked polyline from the path, metres.
	ChordError float64 `json:"chordError,omitempty" jsonschema:"minimum=0,maximum=1e6,description=Metres by which the drawn and baked polyline may stray; 0 or left out: a 50000th of the length."`
}

// chordShare is the chord error, as a share of the length, where none is asked for.
const chordShare = 2e-5

// Chord is the chord error for a path of a length: its own, or a default share of the length, metres.
func (p *Path) Chord(length float64) float64 {
	if p.ChordError > 0 {
		return max(p.ChordError, 1e-9*length)
	}
	return chordShare * length
}

// PlaneName is the ready view that looks at a flat path square on.
type PlaneName string

// axes are the plane's two directions.
func (p PlaneName) axes() (along, across geom.Vec) {
	along, across, _ = path.Axes(string(p))
	return along, across
}

func (p *Path) fillDefaults() {
	p.Shape.fillDefaults()
	for i := range p.Steps {
		if x, is := p.Steps[i].One().(filler); is {
			x.fill()
		}
	}
}
