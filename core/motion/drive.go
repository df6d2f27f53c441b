package motion

import "math"

// Driven follows another value: ratio times it, plus an offset.
type Driven struct {
	Of string `json:"of" jsonschema:"description=The value that is followed: rigs/ID/travel and the like."`
	// Ratio is nil where it is left out: 1 between values of one unit. Between values
	// of different units it has to be given, in units of this value a unit of that.
	Ratio  *float64 `json:"ratio,omitempty"`
	Offset float64  `json:"offset,omitempty"`
}

// Times is the ratio, 1 where it is left out.
func (d *Driven) Times() float64 {
	if d.Ratio == nil {
		return 1
	}
	return *d.Ratio
}

// Spun runs as fast as the rim of a wheel that turns evenly.
type Spun struct {
	RPM    float64 `json:"rpm" jsonschema:"description=Turns of the wheel a minute."`
	Radius float64 `json:"radius" jsonschema:"exclusiveMinimum=0,description=Radius of the wheel at the path in metres."`
	Start  float64 `json:"start,omitempty"`
}

// Speed is the constant speed that it comes to, in metres a second.
func (s *Spun) Speed() *Speed { return &Speed{s.RPM / 60 * 2 * math.Pi * s.Radius, s.Start} }

// Turning goes a number of times round its path in a loop.
type Turning struct {
	Turns  float64 `json:"turns" jsonschema:"description=Times round the path a loop; of values in degrees: whole turns."`
	Frames float64 `json:"frames,omitempty" jsonschema:"minimum=0,description=Frames of a loop; 0 or left out: the range."`
	Start  float64 `json:"start,omitempty"`
}

// Speed is the constant speed that it comes to. turn is one turn in units of the value, frames the number of
// frames of the range.
func (t *Turning) Speed(turn float64, frames int, c Clock) *Speed {
	f := t.Frames
	if f == 0 {
		f = float64(frames)
	}
	return &Speed{t.Turns * turn * c.FPS / f, t.Start}
}

// Rolling is the way that a carrier has rolled over the ground, at one of its sides
// where it turns.
type Rolling struct {
	Rolls string  `json:"rolls" jsonschema:"description=Id of the carrier."`
	Side  Side    `json:"side,omitempty" jsonschema:"enum=left,enum=right,enum=middle,description=Left out: where the path lies."`
	Gauge float64 `json:"gauge,omitempty" jsonschema:"minimum=0,description=Metres from the left track to the right one; 0 or left out: where the path lies."`
	Flip  bool    `json:"flip,omitempty" jsonschema:"description=The other way round than the path's lower run asks for."`
	Start float64 `json:"start,omitempty"`
}

// Shift adds a number to the value in every frame, whatever its form.
func (v *Value) Shift(by float64) {
	switch {
	case v.Of != nil:
		v.Of.Offset += by
	case v.RPM != nil:
		v.RPM.Start += by
	case v.Turns != nil:
		v.Turns.Start += by
	case v.Rolls != nil:
		v.Rolls.Start += by
	case v.Speed != nil:
		v.Speed.Start += by
	case len(v.Keys) > 0:
		for i := range v.Keys {
			v.Keys[i].Value += by
		}
	default:
		v.Const += by
	}
}

// Times multiplies the value in every frame, whatever its form. What rolls with a carrier is left as it is.
func (v *Value) Times(k float64) {
	scale := func(of ...*float64) {
		for _, x := range of {
			*x = 0 + *x*k // no -0
		}
	}
	switch {
	case v.Of != nil:
		ratio := v.Of.Times() * k
		v.Of.Ratio = &ratio
		scale(&v.Of.Offset)
	case v.RPM != nil:
		scale(&v.RPM.RPM, &v.RPM.Start)
	case v.Turns != nil:
		scale(&v.Turns.Turns, &v.Turns.Start)
	case v.Rolls != nil:
	case v.Speed != nil:
		scale(&v.Speed.PerSecond, &v.Speed.Start)
	default:
		scale(&v.Const)
		for i := range v.Keys {
			key := &v.Keys[i]
			scale(&key.Value)
			for _, h := range []*[2]float64{key.In, key.Out} {
				if h != nil {
					scale(&h[1])
				}
			}
		}
	}
}

// Side is a side of a carrier as it looks ahead.
type Side string

// The sides.
const (
	Left   Side = "left"
	Right  Side = "right"
	Middle Side = "middle"
)

func (v *Value) checkDrive(finite func(string, float64), say func(field, format string, args ...any)) {
	if d := v.Of; d != nil {
		finite("ratio", d.Times())
		finite("offset", d.Offset)
	}
	if d := v.RPM; d != nil {
		finite("rpm", d.RPM)
		finite("start", d.Start)
		if finite("radius", d.Radius); !(d.Radius > 0) {
			say("radius", "a wheel of radius %g has no rim to run with: a radius above 0 is accepted", d.Radius)
		}
	}
	if d := v.Turns; d != nil {
		finite("turns", d.Turns)
		finite("start", d.Start)
		if finite("frames", d.Frames); d.Frames < 0 || d.Frames > 0 && d.Frames < 1 {
			say("frames", "a loop of %g frames is not accepted: 1 or more is, or 0 for the range", d.Frames)
		}
	}
	if d := v.Rolls; d != nil {
		finite("start", d.Start)
		if finite("gauge", d.Gauge); d.Gauge < 0 {
			say("gauge", "%g m between the tracks is not accepted: 0 or more is", d.Gauge)
		}
		switch d.Side {
		case "", Left, Right, Middle:
		default:
			say("side", "%q is no side: left, right and middle are", d.Side)
		}
	}
}
