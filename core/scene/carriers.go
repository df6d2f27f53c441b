package scene

import (
	"math"
	"slices"

	"bead/core/geom"
	"bead/core/motion"
)

// Carrier is a body that other things ride on: its place and turn in the space of
// its parent, or along a path.
type Carrier struct {
	ID     string          `json:"id"`
	Name   string          `json:"name"`
	Parent string          `json:"parent,omitempty" jsonschema:"description=Id of the carrier it rides on; left out: the master or the world." ref:"carrier"`
	At     [3]motion.Value `json:"at" jsonschema:"description=Where it is in metres." move:"*;distance"`
	Turn   Turn            `json:"turn,omitzero"`
	Ride   *Ride           `json:"ride,omitempty" jsonschema:"description=The path it rides along: then at and turn are counted from the place there."`
	Ground *OnGround       `json:"ground,omitempty" jsonschema:"description=It rides on the ground on the wheels of its belts: then height and pitch and bank are counted from how it stands there."`
}

// OnGround lets a carrier ride on the ground.
type OnGround struct {
	Soften float64 `json:"soften,omitempty" jsonschema:"minimum=0,maximum=1000,description=Frames over which its body gives way; 0 or left out: it follows at once."`
}

// Turn is heading, pitch and bank in degrees: the bank is turned first, the heading
// last.
type Turn struct {
	Heading motion.Value `json:"heading,omitzero" jsonschema:"description=Degrees to the left." move:"heading;angle"`
	Pitch   motion.Value `json:"pitch,omitzero" jsonschema:"description=Degrees nose up." move:"pitch;angle"`
	Bank    motion.Value `json:"bank,omitzero" jsonschema:"description=Degrees left side up." move:"bank;angle"`
}

// Ride puts a carrier on a path.
type Ride struct {
	Path     string       `json:"path" jsonschema:"description=Id of the path." ref:"path;whole"`
	Distance motion.Value `json:"distance" jsonschema:"description=Metres from the path's start." move:"distance;distance;along"`
	Turning  string       `json:"turning,omitempty" jsonschema:"enum=with the path,enum=level,enum=none,description=level: with the path's heading but upright."`
}

// The ways a riding carrier turns.
const (
	TurnWithPath = "with the path"
	TurnLevel    = "level"
	TurnNone     = "none"
)

// Stand is where a thing stands in the space of the carrier it rides on.
type Stand struct {
	At      Vec3    `json:"at,omitzero" jsonschema:"description=Metres."`
	Heading float64 `json:"heading,omitempty" jsonschema:"minimum=-1e6,maximum=1e6,description=Degrees to the left."`
	Pitch   float64 `json:"pitch,omitempty" jsonschema:"minimum=-1e6,maximum=1e6,description=Degrees nose up."`
	Bank    float64 `json:"bank,omitempty" jsonschema:"minimum=-1e6,maximum=1e6,description=Degrees left side up."`
}

const degree = math.Pi / 180

// Rigid is the rest as a motion; that of nil moves nothing.
func (r *Stand) Rigid() geom.Rigid {
	if r == nil {
		return geom.Still
	}
	m := geom.Turned(r.Heading*degree, r.Pitch*degree, r.Bank*degree)
	m.P = geom.FromArray(r.At)
	return m
}

// Stand is the fixture's place in the space of its carrier, forward ahead.
func (f *Fixture) Stand() geom.Rigid {
	return (&Stand{f.At, f.Heading, f.Pitch, f.Bank}).Rigid()
}

// StandOf is a motion as a document holds it; nil when it moves nothing.
func StandOf(m geom.Rigid) *Stand {
	h, p, b := m.Turns()
	r := &Stand{At: m.P.Array(), Heading: h / degree, Pitch: p / degree, Bank: b / degree}
	if *r == (Stand{}) {
		return nil
	}
	return r
}

// Tug holds points of a path and pulls them.
type Tug struct {
	ID     string          `json:"id"`
	Name   string          `json:"name"`
	Path   string          `json:"path" jsonschema:"description=Id of a path with points of its own: spline or B-spline or polyline." ref:"path;thing"`
	Points []int           `json:"points" jsonschema:"minItems=1,description=The points held counted from 1."`
	Handle string          `json:"handle,omitempty" jsonschema:"enum=both,enum=in,enum=out,description=Of a spline's points: the point with both handles or only one of its handles."`
	Pull   [3]motion.Value `json:"pull,omitzero" jsonschema:"description=Metres that it is pulled by in the path's own space." move:"*;length;word=pull *"`
	Reach  float64         `json:"reach,omitempty" jsonschema:"minimum=0,maximum=1e6,description=Metres along the path over which its hold falls off; 0: only the points held."`
	On     string          `json:"carrier,omitempty" jsonschema:"description=Id of the carrier that it rides on; it moves as that has moved since the first frame." ref:"carrier"`
	Wheel  *OnWheel        `json:"wheel,omitempty" jsonschema:"description=The wheel that it rides on instead of a carrier; it moves as its hub has moved since the first frame."`
}

// OnWheel names a wheel of a belt.
type OnWheel struct {
	Path  string `json:"path" jsonschema:"description=Id of the belt." ref:"path;whole"`
	Wheel int    `json:"wheel" jsonschema:"minimum=1,description=Which wheel from 1 on."`
}

// HandleBoth holds a point with both its handles.
const HandleBoth = "both"

// Arrivals let a train's pieces set out one after another and slide into their
// places, or out of them.
type Arrivals struct {
	First float64 `json:"first" jsonschema:"minimum=-1e7,maximum=1e7,description=Frame at which the first piece sets out."`
	Delay float64 `json:"delay" jsonschema:"minimum=0,maximum=1e6,description=Frames from one piece to the next."`
	Takes float64 `json:"takes" jsonschema:"minimum=1e-3,maximum=1e7,description=Frames that a piece is under way."`
	Order string  `json:"order,omitempty" jsonschema:"enum=last first,enum=first first,enum=by distance,enum=scattered,description=Who sets out when. By distance: those with the longest way first and a pitch apart."`
	Seed  int     `json:"seed,omitempty"`
	End   string  `json:"end,omitempty" jsonschema:"enum=start,enum=end,description=The end of the path that they come from or go to."`
	Ease  string  `json:"ease,omitempty" jsonschema:"enum=straight,enum=eased"`
	Shown bool    `json:"shown,omitempty" jsonschema:"description=Pieces are shown while they wait at the end; left out: only once they are under way."`
}

// The orders of arrival.
const (
	LastFirst  = "last first"
	FirstFirst = "first first"
	ByDistance = "by distance"
	Scattered  = "scattered"
	FromStart  = "start"
	FromEnd    = "end"
	Straight   = "straight"
	Eased      = "eased"
)

// Lead ties a rider to another rig.
type Lead struct {
	Rig   string `json:"rig" jsonschema:"description=Id of the rig that it goes along with." ref:"rig;whole"`
	At    string `json:"at,omitempty" jsonschema:"enum=head,enum=middle,enum=tail,enum=piece"`
	Piece int    `json:"piece,omitempty" jsonschema:"minimum=1,maximum=1e6,description=Which piece from 1 on where at is piece."`
}

// The places of a lead.
const (
	AtHead   = "head"
	AtMiddle = "middle"
	AtTail   = "tail"
	AtPiece  = "piece"
)

// fill puts in a word that was left out.
func fill[T ~string](s *T, v T) {
	if *s == "" {
		*s = v
	}
}

func (d *Document) fillMotionDefaults() {
	for i := range d.Carriers {
		if r := d.Carriers[i].Ride; r != nil {
			fill(&r.Turning, TurnWithPath)
		}
	}
	for i := range d.Cameras {
		if r := d.Cameras[i].Ride; r != nil {
			fill(&r.Turning, TurnLevel)
		}
	}
	for i := range d.Tugs {
		fill(&d.Tugs[i].Handle, HandleBoth)
	}
}

func (a *Arrivals) fillDefaults() {
	if a != nil {
		fill(&a.Order, LastFirst)
		fill(&a.End, FromStart)
		fill(&a.Ease, Eased)
	}
}

// Parent returns the id of the carrier that a thing rides on: its own, or the
// master.
func (d *Document) Parent(carrier string) string {
	if carrier == "" {
		return d.Master
	}
	return carrier
}

// ParentOf returns the id of the carrier that a carrier rides on: that of its path,
// its own parent, or the master; "" for the world.
func (d *Document) ParentOf(c *Carrier) string {
	if c.Ride != nil {
		if i := slices.IndexFunc(d.Paths, func(p Path) bool { return p.ID == c.Ride.Path }); i >= 0 {
			return d.PathCarrier(&d.Paths[i])
		}
	}
	if c.Parent == "" && c.ID == d.Master {
		return ""
	}
	return d.Parent(c.Parent)
}

// PathCarrier returns the id of the carrier that a path rides on. The track of a
// thing lies in the world.
func (d *Document) PathCarrier(p *Path) string {
	if p.Shape.Track != nil {
		return ""
	}
	return d.Parent(p.Carrier)
}
