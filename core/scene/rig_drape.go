package scene

import (
	"bead/core/motion"
)

// Drape is cloth that hangs from its path, or is drawn along it. It is simulated.
type Drape struct {
	Hang   string       `json:"hang,omitempty" jsonschema:"enum=edge,enum=corners,enum=every,enum=points,description=What of it is held on the path: its upper edge or that edge's two corners or every n-th point of that edge or points that are chosen." form:"Held by;choice;fallback=edge;names=edge:its edge,corners:two corners,every:every n-th point,points:chosen points"`
	Every  int          `json:"every,omitempty" jsonschema:"minimum=0,description=Of hang every: n."`
	Points []int        `json:"points,omitempty" jsonschema:"description=Of hang points: numbers of points of the cloth from 0."`
	Fit    string       `json:"fit,omitempty" jsonschema:"enum=own length,enum=reach,description=How much of the path it covers: as much as it is long or from tail to head with folds where it is less."`
	Tail   motion.Value `json:"tail,omitzero" jsonschema:"description=Of fit reach: metres along the path to the tail; the travel is added." move:"tail;distance;along;when=fit:reach"`
	Head   motion.Value `json:"head,omitzero" jsonschema:"description=Of fit reach: metres along the path to the head; the travel is added." move:"head;distance;along;when=fit:reach"`
	Anchor string       `json:"anchor,omitempty" jsonschema:"enum=tail,enum=middle,enum=head,description=The place of the cloth that stands at the travel."`
	Count  int          `json:"count,omitempty" form:"Copies;count;min=0;max=1000;fallback=1" jsonschema:"minimum=0,description=How many there are; 1 where left out."`
	Pitch  float64      `json:"pitch,omitempty" form:"Copies apart;distance;min=0" jsonschema:"minimum=0,description=From each to the next in metres."`

	Fabric Fabric `json:"fabric"`
	Air    Flow   `json:"flow,omitzero"`

	Buoyancy  float64 `json:"buoyancy,omitempty" form:"Buoyancy, of its weight;plain;min=0;max=2" jsonschema:"minimum=0,description=Share of its weight that is carried."`
	Damping   float64 `json:"damping,omitempty" form:"Damping;plain;unit=1/s;min=0;max=100;fallback=0" jsonschema:"minimum=0,description=Share of its speed that it loses a second as a power of e."`
	Thickness float64 `json:"thickness,omitempty" form:"Touches within;length;min=0" jsonschema:"minimum=0,description=Metres from ground and fixtures at which it touches them."`
	Friction  float64 `json:"friction,omitempty" form:"Friction;plain;min=0;max=10;fallback=0" jsonschema:"minimum=0"`
	Through   bool    `json:"through,omitempty" form:"Itself;switch;off=touches itself;on=passes through" jsonschema:"description=It passes through itself; left out: it does not."`

	Wrinkle  float64 `json:"wrinkle,omitempty" form:"Wrinkles at first;length;min=0" jsonschema:"minimum=0,description=Metres by which its points are off the flat sheet at first."`
	Seed     int     `json:"seed,omitempty" form:"Seed;count;min=0;max=1000000" jsonschema:"minimum=0,description=Of wrinkles and gusts."`
	Settle   float64 `json:"settle,omitempty" form:"Settles before;plain;unit=s;min=0;max=60;fallback=0" jsonschema:"minimum=0,description=Seconds before the range for which it hangs where it begins."`
	Rounds   int     `json:"rounds,omitempty" form:"Rounds before;count;min=0;max=20" jsonschema:"minimum=0,description=How often the range is gone through before it is shown."`
	Ease     int     `json:"ease,omitempty" form:"Eased at the end;count;unit=frames;min=0;max=10000" jsonschema:"minimum=0,description=Frames at the end of the range that are led over into its beginning as it came out of the round before."`
	Substeps int     `json:"substeps,omitempty" form:"Steps a frame;count;min=1;max=1000;auto=automatic" jsonschema:"minimum=0,description=Steps of the simulation a frame; 0 or left out: as many as keep it from stretching by its own weight by more than 4 thousandths beyond its fabric."`
}

// Fabric is what cloth is made of.
type Fabric struct {
	Weight  float64 `json:"weight" form:"Weight;plain;unit=kg/m²;min=1e-4;max=1000" jsonschema:"exclusiveMinimum=0,description=Kilograms a square metre."`
	Stretch float64 `json:"stretch" form:"Stretch;plain;unit=N/m;min=1e-3;max=1e9" jsonschema:"exclusiveMinimum=0,description=Newtons a metre of width that would draw it out to twice its length."`
	Shear   float64 `json:"shear,omitempty" form:"Shear;plain;unit=N/m;min=0;max=1e9" jsonschema:"minimum=0"`
	Bending float64 `json:"bending,omitempty" form:"Bending length;length;min=0" jsonschema:"minimum=0,description=Metres: Peirce's bending length (ASTM D1388)."`
}

// Flow is the air or water about a cloth.
type Flow struct {
	Medium string  `json:"medium,omitempty" jsonschema:"enum=none,enum=air,enum=water" form:"About it;choice;fallback=none;names=none:nothing"`
	Speed  Vec3    `json:"speed,omitzero" form:"Flows at;place" jsonschema:"description=Metres a second."`
	Gusts  float64 `json:"gusts,omitempty" form:"Gusts, of the speed;plain;min=0;max=5" jsonschema:"minimum=0,description=Share of the speed by which it swells and falls by the seed; comes round with the range."`
}

// The words of a drape.
const (
	HangEdge    = "edge"
	HangCorners = "corners"
	HangEvery   = "every"
	HangPoints  = "points"
	MediumNone  = "none"
	MediumAir   = "air"
	MediumWater = "water"
)

// NamedFabric is a fabric to begin with.
type NamedFabric struct {
	Name   string `json:"name"`
	Fabric Fabric `json:"fabric"`
}

// Fabrics are those that can be begun with (from memory: common weights and bending lengths).
var Fabrics = []NamedFabric{
	{"Net", Fabric{Weight: 0.18, Stretch: 1500, Shear: 20, Bending: 0.012}},
	{"Sheet", Fabric{Weight: 0.13, Stretch: 3000, Shear: 100, Bending: 0.022}},
	{"Canvas", Fabric{Weight: 0.45, Stretch: 15000, Shear: 800, Bending: 0.045}},
	{"Oilcloth", Fabric{Weight: 0.35, Stretch: 8000, Shear: 1500, Bending: 0.055}},
}

func (x *Drape) traits() Traits {
	return Traits{Seat: SeatBent, Spacing: alone, PastEnd: StraightOn}
}

func (x *Drape) fill() {
	fill(&x.Hang, HangEdge)
	fill(&x.Fit, FitOwn)
	fill(&x.Anchor, AtTail)
	fill(&x.Air.Medium, MediumNone)
	if x.Count == 0 {
		x.Count = 1
	}
}

func (x *Drape) about() About {
	return About{Name: "Cloth", Text: "hangs from its path, or is drawn along it"}
}

func (x *Drape) checkRig(c *checker, at string, _ *Rig, _ []Path) {
	if x.Hang == HangEvery && x.Every < 1 {
		c.say(at+".every", "%d is not accepted: 1 or more is", x.Every)
	}
	if x.Hang == HangPoints && len(x.Points) == 0 {
		c.say(at+".points", "nothing holds the cloth: numbers of its points are accepted")
	}
	if len(x.Points) > 10_000 {
		c.say(at+".points", "%d are not accepted: up to 10000 are", len(x.Points))
	}
	for i, p := range x.Points {
		if p < 0 {
			c.say(at+".points", "number %d, %d, is no point: 0 and more are", i+1, p)
			break
		}
	}
	if x.Count > 1 && !(x.Pitch > 0) {
		c.say(at+".pitch", "%d copies lie on one another: a distance above 0 m is accepted", x.Count)
	}
}
