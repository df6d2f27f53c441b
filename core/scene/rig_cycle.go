package scene

import (
	"fmt"

	"bead/core/motion"
)

// Cycle is a figure whose motion was made going straight, sent along the path.
type Cycle struct {
	Stride float64 `json:"stride,omitempty" form:"A round goes;distance;min=0;auto=as its keys go" jsonschema:"minimum=0,description=Metres that a round of the cycle goes; 0 or left out: as far as its keys do."`
	Start  float64 `json:"start,omitempty" form:"Starts ahead by;plain;unit=rounds;min=-1000;max=1000;fallback=0" jsonschema:"description=Rounds by which it is further in its cycle than its distance says."`
	Pace   string  `json:"pace,omitempty" form:"Its rounds go by;choice;fallback=distance;names=distance:its way,time:time" jsonschema:"enum=distance,enum=time,description=distance: a round every stride so that its feet are true at any speed; time: as fast as its keys."`

	// Follow names joints that turn with the way where they are, each at its own distance; the
	// others go along with the one that they hang from. Names are those of joints or of sets.
	Follow []string `json:"follow,omitempty" jsonschema:"description=Joints or sets that turn with the way at their own distance; left out: all goes by its root."`
	// Bones says what becomes of the bones to joints that follow: kept, those turn and stay where their
	// bones have them; drawn, they stand where the way puts them.
	Bones  string    `json:"bones,omitempty" form:"Bones to these joints;choice;fallback=kept;names=kept:keep their length,drawn:stretch to the way" jsonschema:"enum=kept,enum=drawn,description=Of joints that follow: kept: they turn with the way and stay where their bones have them; drawn: they stand where the way puts them and their bones are as long as that asks."`
	Legs   string    `json:"legs,omitempty" form:"Its legs;choice;fallback=reach;names=reach:reach for the ground,free:go along" jsonschema:"enum=reach,enum=free,description=reach: feet stand still along the way where they stand in the cycle and legs reach for them; free: legs go along as they are."`
	Feet   []Foot    `json:"feet,omitempty" jsonschema:"description=What it stands on; left out: what is found in its motion."`
	Ground bool      `json:"ground,omitempty" form:"The ground;switch;off=is as its path;on=is felt by its feet" jsonschema:"description=Feet and root follow the ground below them and feet its slope."`
	Sets   []Set     `json:"sets,omitempty" jsonschema:"description=Named sets of joints."`
	Layers []Layer   `json:"layers,omitempty" jsonschema:"description=Turns and shifts on top."`
	Count  int       `json:"count,omitempty" form:"Copies;count;min=0;max=1000;fallback=1" jsonschema:"minimum=0,description=How many there are; 1 where left out."`
	Pitch  float64   `json:"pitch,omitempty" form:"Copies apart;distance;min=0" jsonschema:"minimum=0,description=From each to the next in metres."`
	Phase  float64   `json:"phase,omitempty" form:"Each starts ahead by;plain;unit=rounds;min=-1;max=1" jsonschema:"description=Rounds by which each copy is further in its cycle than the one before."`
	Stray  float64   `json:"stray,omitempty" form:"Off their places by up to;distance;min=0" jsonschema:"minimum=0,description=Metres by which copies stand off their places at most by the seed; their cycle too."`
	Seed   int       `json:"seed,omitempty" form:"Seed;count;min=0;max=1000000" jsonschema:"minimum=0"`
	Speeds []float64 `json:"speeds,omitempty" jsonschema:"description=Shares of the travel by which copies go; in turn; left out: all go as the travel says."`
	Past   string    `json:"pastEnd,omitempty" form:"Past the end;choice;fallback=straight on" jsonschema:"enum=straight on,enum=come round"`
}

// Foot is what a figure stands on.
type Foot struct {
	Joint  string       `json:"joint"`
	Tip    bool         `json:"tip,omitempty" jsonschema:"description=Its tip stands and the joint turns with its leg; left out: the joint itself is set down."`
	Joints int          `json:"joints,omitempty" jsonschema:"minimum=0,maximum=8,description=How many joints its leg has; 0 or left out: up to the one from which others hang too."`
	Plants [][2]float64 `json:"plants,omitempty" jsonschema:"description=When it stands: from and to in rounds; left out: as found."`
}

// Set is a named set of joints.
type Set struct {
	Name   string   `json:"name"`
	Joints []string `json:"joints"`
}

// Layer turns and shifts joints on top of their cycle, in the way's own axes where the root is.
type Layer struct {
	Name    string       `json:"name"`
	Off     bool         `json:"off,omitempty"`
	Joints  []string     `json:"joints" jsonschema:"description=Names of joints or sets."`
	Heading motion.Value `json:"heading,omitzero" jsonschema:"description=Degrees to the left." move:"layer#-heading;angle;word=@ heading"`
	Pitch   motion.Value `json:"pitch,omitzero" jsonschema:"description=Degrees nose up." move:"layer#-pitch;angle;word=@ pitch"`
	Bank    motion.Value `json:"bank,omitzero" jsonschema:"description=Degrees left side up." move:"layer#-bank;angle;word=@ bank"`
	Aside   motion.Value `json:"aside,omitzero" jsonschema:"description=Metres to the left." move:"layer#-aside;length;word=@ aside"`
	Rise    motion.Value `json:"rise,omitzero" jsonschema:"description=Metres up." move:"layer#-rise;length;word=@ rise"`
	Ahead   motion.Value `json:"ahead,omitzero" jsonschema:"description=Metres ahead." move:"layer#-ahead;length;word=@ ahead"`
	// Looks turns towards where the way goes so far ahead.
	Looks float64 `json:"looks,omitempty" jsonschema:"minimum=-1e6,maximum=1e6,description=Metres of way by which it looks ahead."`
}

// The words of a cycle.
const (
	PaceDistance = "distance"
	PaceTime     = "time"
	LegsReach    = "reach"
	LegsFree     = "free"
	BonesKept    = "kept"
	BonesDrawn   = "drawn"
	maxOnTop     = 32
	maxFeet      = 64
)

func (x *Cycle) traits() Traits {
	return Traits{Seat: SeatBent, Spacing: alone, PastEnd: x.Past}
}

func (x *Cycle) fill() {
	fill(&x.Pace, PaceDistance)
	fill(&x.Legs, LegsReach)
	fill(&x.Bones, BonesKept)
	fill(&x.Past, StraightOn)
	if x.Count == 0 {
		x.Count = 1
	}
}

func (x *Cycle) about() About {
	return About{Name: "Cycle", Text: "a figure whose motion was made going straight, sent along the path"}
}

func (x *Cycle) checkRig(c *checker, at string, _ *Rig, _ []Path) {
	if x.Count > 1 && !(x.Pitch > 0) {
		c.say(at+".pitch", "%d copies stand on one another: a distance above 0 m is accepted", x.Count)
	}
	if len(x.Feet) > maxFeet {
		c.say(at+".feet", "%d are not accepted: up to %d are", len(x.Feet), maxFeet)
	}
	for i := range x.Feet {
		f, fa := &x.Feet[i], fmt.Sprintf("%s.feet[%d]", at, i)
		if len(f.Plants) > 100 {
			c.say(fa+".plants", "%d are not accepted: up to 100 are", len(f.Plants))
		}
		for k, p := range f.Plants {
			if !(p[0] >= 0 && p[0] < 1 && p[1] > p[0] && p[1] <= p[0]+1) {
				c.say(fmt.Sprintf("%s.plants[%d]", fa, k), "from %g to %g is not accepted: a beginning from 0 to less than 1, and an end after it by up to 1, are", p[0], p[1])
			}
		}
	}
	if len(x.Layers) > maxOnTop || len(x.Sets) > maxOnTop {
		c.say(at+".layers", "%d layers and %d sets are not accepted: up to %d of each are", len(x.Layers), len(x.Sets), maxOnTop)
	}
	for i := range x.Layers {
		c.name(fmt.Sprintf("%s.layers[%d].name", at, i), x.Layers[i].Name)
	}
	seen := map[string]bool{}
	for i, s := range x.Sets {
		if s.Name == "" || seen[s.Name] {
			c.say(fmt.Sprintf("%s.sets[%d].name", at, i), "%q names no set, or a second one: another name is accepted", s.Name)
		}
		seen[s.Name] = true
	}
	if len(x.Speeds) > 1000 {
		c.say(at+".speeds", "%d are not accepted: up to 1000 are", len(x.Speeds))
	}
	for i, v := range x.Speeds {
		c.number(fmt.Sprintf("%s.speeds[%d]", at, i), v, -100, 100)
	}
}
