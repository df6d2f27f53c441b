package scene

import (
	"bead/core/path"
)

// JitterStep pushes the path about.
type JitterStep struct {
	Seed      int64          `json:"seed" form:"Seed;count;min=-4503599627370496;max=4503599627370496"`
	Amount    float64        `json:"amount" form:"Amount;length;min=0;scaled"`
	Grain     float64        `json:"grain" jsonschema:"description=About the length of one waver in metres." form:"Grain;length;min=1e-6;scaled"`
	Direction path.Direction `json:"direction,omitempty" jsonschema:"enum=side,enum=up,enum=all" form:"Direction;choice;fallback=all"`
	Floor     bool           `json:"floor,omitempty" jsonschema:"description=Never below the ground." form:"Below the ground;switch;off=may go;on=never"`
	Beats     int            `json:"beats,omitempty" jsonschema:"description=How often it comes back over the frame range; 0 or left out: it stands still." form:"Beats over the range;count;min=0;max=1000;fallback=0"`
}

func (s *JitterStep) about() About {
	return About{Name: "Jitter", Text: "a wavering hand, seeded",
		First: &JitterStep{Seed: 1, Amount: 1. / 200, Grain: 1. / 12, Direction: path.JitterAll, Floor: true}}
}

func (s *JitterStep) fill() { fill(&s.Direction, path.JitterAll) }
