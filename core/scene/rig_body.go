package scene

import (
	"fmt"
	"math"

	"bead/core/motion"
	"bead/core/path"
)

// Body is one thing that takes the form of its path.
type Body struct {
	Fit    string       `json:"fit,omitempty" jsonschema:"enum=own length,enum=whole path,enum=reach,description=How much of the path the body covers: as much as it is long or all of it or from tail to head."`
	Anchor string       `json:"anchor,omitempty" jsonschema:"enum=tail,enum=middle,enum=head,description=The place of the body that stands at the travel."`
	Tail   motion.Value `json:"tail,omitzero" jsonschema:"description=Of fit reach: metres along the path to the tail; the travel is added." move:"tail;distance;along;when=fit:reach"`
	Head   motion.Value `json:"head,omitzero" jsonschema:"description=Of fit reach: metres along the path to the head; the travel is added." move:"head;distance;along;when=fit:reach"`
	Volume bool         `json:"keepVolume,omitempty" jsonschema:"description=Drawn out it gets thinner and pressed together thicker."`
	Taper  []TaperBead  `json:"taper,omitempty" jsonschema:"description=Scale of the sections along the body."`
	Twist  motion.Value `json:"twist,omitzero" jsonschema:"description=Degrees that the head is turned against the tail." move:"twist;angle"`
	Rounds *Rounds      `json:"rounds,omitempty"`

	PastEnd string        `json:"pastEnd,omitempty" jsonschema:"enum=straight on,enum=come round,enum=stop,description=What it does when it leaves an open path."`
	Lead    *Lead         `json:"lead,omitempty" jsonschema:"description=The rig that it goes along with; travel is then its lead or below 0 its lag."`
	Blends  []BlendAmount `json:"blends,omitempty" jsonschema:"description=Other shapes of its part that are put on before it is bent."`
}

// TaperBead is the scale of the body's section at a share of its length.
type TaperBead struct {
	At    float64 `json:"at" jsonschema:"minimum=0,maximum=1,description=From 0 at the tail to 1 at the head."`
	Scale float64 `json:"scale" jsonschema:"minimum=0,maximum=100"`
}

func (b *Body) about() About {
	return About{Name: "Body", Text: "one thing that takes the form of the path"}
}

func (b *Body) traits() Traits {
	return Traits{Seat: SeatBent, Spacing: alone, PastEnd: b.PastEnd, Lead: b.Lead, Blends: b.Blends}
}

func (b *Body) fill() {
	fill(&b.Fit, FitOwn)
	fill(&b.Anchor, AtTail)
	fill(&b.PastEnd, StraightOn)
}

// Rounds are copies of a body, each a round later and a stride further on than the one before.
type Rounds struct {
	Count  int     `json:"count" jsonschema:"minimum=1,maximum=1000"`
	Frames float64 `json:"frames" jsonschema:"minimum=1e-3,maximum=1e7,description=Frames of a round."`
	Stride float64 `json:"stride" jsonschema:"minimum=-1e6,maximum=1e6,description=Metres along the path from round to round."`
	All    bool    `json:"all,omitempty" jsonschema:"description=Every copy is shown at all times; left out: each only in its own round."`
}

// BlendAmount is how much of another shape of its part a rig shows.
type BlendAmount struct {
	Name   string       `json:"name" jsonschema:"description=Of the part's blend such as jaw."`
	Amount motion.Value `json:"amount" jsonschema:"description=0: none of it; 1: all of it." move:"blend#;plain;word=@"`
}

// Bank leans what rides on the path into its bends as its speed asks.
type Bank struct {
	Share float64 `json:"share" jsonschema:"minimum=-10,maximum=10,description=1: as much as the speed asks."`
	Over  float64 `json:"over,omitempty" jsonschema:"minimum=0,maximum=1e6,description=Metres of path over which a bend is looked at; 0 or left out: a tenth of the path."`
	Lead  float64 `json:"lead,omitempty" jsonschema:"minimum=-1e6,maximum=1e6,description=Frames by which it leans before the bend."`
	Limit float64 `json:"limit,omitempty" jsonschema:"minimum=0,maximum=90,description=Degrees by which it leans at most; 0 or left out: as far as the speed asks."`
}

// How much of its path a body covers.
const (
	FitOwn   = "own length"
	FitWhole = "whole path"
	FitReach = "reach"
)

// blends checks the other shapes that a rig shows, at the address of its kind.
func (c *checker) blends(at string, list []BlendAmount) {
	for i := range list {
		ba := fmt.Sprintf("%s.blends[%d]", at, i)
		c.name(ba+".name", list[i].Name)
		for k := range i {
			if list[k].Name == list[i].Name {
				c.say(ba+".name", "%q is given twice", list[i].Name)
			}
		}
	}
	if len(list) > 32 {
		c.say(at+".blends", "%d are not accepted: up to 32 are", len(list))
	}
}

func (b *Body) checkRig(c *checker, at string, r *Rig, paths []Path) {
	c.blends(at, b.Blends)
	if b.PastEnd == ComeRound {
		for i := range paths {
			if paths[i].ID == r.Path && paths[i].Shape.Standalone() && len(paths[i].Steps) == 0 && !paths[i].Shape.closed() {
				c.say(at+".pastEnd", "a body that comes round on an open path would be torn: straight on and stop are accepted")
			}
		}
	}
	if b.Fit == FitReach && !b.Tail.Moves() && !b.Head.Moves() && !(b.Head.At(0, motion.Clock{FPS: 1}) > b.Tail.At(0, motion.Clock{FPS: 1})) {
		c.say(at+".head", "the head lies at or behind the tail: a head beyond it is accepted")
	}
	for i, x := range b.Taper {
		ta := fmt.Sprintf("%s.taper[%d]", at, i)
		if i > 0 && x.At <= b.Taper[i-1].At {
			c.say(ta+".at", "%g is not beyond the one before, at %g: rising shares are accepted", x.At, b.Taper[i-1].At)
		}
	}
	if len(b.Taper) > 200 {
		c.say(at+".taper", "%d are not accepted: up to 200 are", len(b.Taper))
	}
}

// TaperAt is the scale of the section at a share of the body, and its slope.
func TaperAt(beads []TaperBead, u float64) (scale, slope float64) {
	return path.Beads(len(beads), func(i int) (at, v float64) { return beads[i].At, beads[i].Scale }, u, 1)
}

// VolumeScale is the scale of the section of a body drawn out k times that keeps its volume.
func VolumeScale(k float64) float64 { return 1 / math.Sqrt(max(k, 1e-6)) }
