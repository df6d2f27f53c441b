// Package motion holds values that may move over time: a constant, keys with
// shapes between them and ends beyond them, or a constant speed. Time is counted
// in frames; a frame may be fractional.
package motion

import (
	"fmt"
	"math"
	"sort"
)

// Shape says how a value goes from a key to the next.
type Shape string

// The key shapes.
const (
	Straight Shape = "straight"
	Eased    Shape = "eased" // starts and arrives at rest
	Stepped  Shape = "stepped"
	Free     Shape = "free" // a cubic Bezier in frame and value with the handles of its two keys
)

// Ends says what a value does before its first or after its last key.
type Ends string

// The ends.
const (
	Hold    Ends = "hold"
	CarryOn Ends = "carry on" // keeps the slope that the keys have there
	Repeat  Ends = "repeat"
	Build   Ends = "build"  // repeats, adding each round's gain
	Mirror  Ends = "mirror" // to and fro
)

// Key is a value at a frame. The shape is that of the stretch after the key; the
// empty shape is straight.
type Key struct {
	Frame float64 `json:"frame"`
	Value float64 `json:"value"`
	Shape Shape   `json:"shape,omitempty" jsonschema:"enum=straight,enum=eased,enum=stepped,enum=free"`
	// In and Out are the handles before and after the key as offsets of frame and
	// value, for free stretches. Left out they lie on the straight line to the
	// neighbour, a third of the way.
	In  *[2]float64 `json:"in,omitempty" jsonschema:"description=Handle before the key: offsets of frame and value."`
	Out *[2]float64 `json:"out,omitempty" jsonschema:"description=Handle after the key: offsets of frame and value."`
}

// Value is a number that may move. The zero value is the constant 0.
type Value struct {
	Const  float64
	Keys   []Key // not empty: the value is keyed
	Before Ends
	After  Ends
	// Within, where it is not nil, is the frames between which the keys and their ends
	// act; outside it the value stands as it is at the nearer of the two.
	Within *[2]float64
	Speed  *Speed // not nil: the value runs at a constant speed
	// At most one drive is given. What a drive follows lies outside a value: who
	// holds the scene resolves it (core/rig) and At does not know it.
	Of    *Driven
	RPM   *Spun
	Turns *Turning
	Rolls *Rolling
}

// Speed is a constant rate: Start at the clock's first frame, then PerSecond.
type Speed struct {
	PerSecond float64
	Start     float64
}

// Clock ties frames to seconds.
type Clock struct {
	FPS   float64 // frames a second, greater than 0
	First float64 // the frame at which speeds start to count
}

// Number returns a constant value.
func Number(v float64) Value { return Value{Const: v} }

// Moves reports whether the value is anything but a constant.
func (v *Value) Moves() bool { return len(v.Keys) > 0 || v.Speed != nil || v.Driven() }

// Driven reports whether the value follows something else.
func (v *Value) Driven() bool { return v.Of != nil || v.RPM != nil || v.Turns != nil || v.Rolls != nil }

// Problem is a fault of a value at a field below it, such as "keys[2].frame".
type Problem struct{ Field, Text string }

// Farthest is the largest number that a value may have.
const Farthest = 1e9

// Check returns the faults of v: numbers that are not finite, keys out of order
// or at one frame, unknown shapes or ends.
func (v *Value) Check() []Problem {
	var out []Problem
	say := func(field, format string, args ...any) {
		out = append(out, Problem{field, fmt.Sprintf(format, args...)})
	}
	finite := func(field string, x float64) {
		if !(math.Abs(x) <= Farthest) {
			say(field, "%g is not accepted: a number within ±%g is", x, Farthest)
		}
	}
	finite("", v.Const)
	for i, k := range v.Keys {
		at := fmt.Sprintf("keys[%d]", i)
		finite(at+".frame", k.Frame)
		finite(at+".value", k.Value)
		if i > 0 && k.Frame <= v.Keys[i-1].Frame {
			say(at+".frame", "frame %g does not come after the key before it (frame %g): keys stand in order, one a frame", k.Frame, v.Keys[i-1].Frame)
		}
		switch k.Shape {
		case "", Straight, Eased, Stepped, Free:
		default:
			say(at+".shape", "%q is not a key shape: straight, eased, stepped and free are", k.Shape)
		}
		for _, h := range []struct {
			field string
			v     *[2]float64
			sign  float64
		}{{".in", k.In, -1}, {".out", k.Out, 1}} {
			if h.v == nil {
				continue
			}
			finite(at+h.field+"[0]", h.v[0])
			finite(at+h.field+"[1]", h.v[1])
			if h.v[0]*h.sign < 0 {
				say(at+h.field+"[0]", "%g frames point over the key: a handle before a key has 0 or less, one after it 0 or more", h.v[0])
			}
		}
	}
	for _, e := range []struct {
		field string
		ends  Ends
	}{{"before", v.Before}, {"after", v.After}} {
		switch e.ends {
		case "", Hold, CarryOn, Repeat, Build, Mirror:
		default:
			say(e.field, "%q is not an end: hold, carry on, repeat, build and mirror are", e.ends)
		}
	}
	if w := v.Within; w != nil {
		finite("within[0]", w[0])
		finite("within[1]", w[1])
		if w[1] < w[0] {
			say("within", "ends at frame %g before it starts at %g", w[1], w[0])
		}
	}
	if v.Speed != nil {
		finite("speed", v.Speed.PerSecond)
		finite("start", v.Speed.Start)
	}
	v.checkDrive(finite, say)
	return out
}

// At returns the value at a frame. It is a pure function, defined for every
// frame, and allocates nothing.
func (v *Value) At(frame float64, c Clock) float64 {
	if v.Speed != nil {
		return v.Speed.Start + v.Speed.PerSecond*(frame-c.First)/c.FPS
	}
	n := len(v.Keys)
	if n == 0 {
		return v.Const
	}
	if v.Within != nil {
		frame = min(max(frame, v.Within[0]), v.Within[1])
	}
	first, last := &v.Keys[0], &v.Keys[n-1]
	round := last.Frame - first.Frame
	switch {
	case frame < first.Frame && n > 1:
		return v.beyond(frame, first, v.Before, 0, round)
	case frame > last.Frame && n > 1:
		return v.beyond(frame, last, v.After, n-2, round)
	case frame <= first.Frame:
		return first.Value
	case frame >= last.Frame:
		return last.Value
	}
	return v.inside(frame)
}

// beyond is the value outside the keys, by the ends there; edge is the nearest
// key and segment the stretch next to it.
func (v *Value) beyond(frame float64, edge *Key, ends Ends, segment int, round float64) float64 {
	switch ends {
	case CarryOn:
		a, b := &v.Keys[segment], &v.Keys[segment+1]
		switch a.Shape {
		case Straight, "":
			return edge.Value + (b.Value-a.Value)/(b.Frame-a.Frame)*(frame-edge.Frame)
		case Free:
			// The slope of the handle at that end; an upright or missing one has none.
			out, in := handles(a, b)
			h := out
			if edge == b {
				h = in
			}
			if h[0] == 0 {
				return edge.Value
			}
			return edge.Value + h[1]/h[0]*(frame-edge.Frame)
		}
		return edge.Value // eased and stepped stretches end at rest
	case Repeat, Build:
		first, last := &v.Keys[0], &v.Keys[len(v.Keys)-1]
		rounds := math.Floor((frame - first.Frame) / round)
		x := v.inside(min(max(frame-rounds*round, first.Frame), last.Frame))
		if ends == Build {
			x += rounds * (last.Value - first.Value)
		}
		return x
	case Mirror:
		first, last := &v.Keys[0], &v.Keys[len(v.Keys)-1]
		rounds := math.Floor((frame - first.Frame) / round)
		x := frame - rounds*round
		if math.Mod(rounds, 2) != 0 {
			x = first.Frame + last.Frame - x
		}
		return v.inside(min(max(x, first.Frame), last.Frame))
	}
	return edge.Value
}

// handles returns the handle after a and the one before b, as offsets of frame and
// value, kept within their stretch so that the curve has one value a frame.
func handles(a, b *Key) (out, in [2]float64) {
	h, rise := b.Frame-a.Frame, b.Value-a.Value
	out, in = [2]float64{h / 3, rise / 3}, [2]float64{-h / 3, -rise / 3}
	if a.Out != nil {
		out = *a.Out
	}
	if b.In != nil {
		in = *b.In
	}
	// A handle that reaches beyond the other key is shortened, its direction kept.
	if out[0] > h {
		out = [2]float64{h, out[1] * h / out[0]}
	}
	if in[0] < -h {
		in = [2]float64{-h, in[1] * -h / in[0]}
	}
	return out, in
}

// free is the value at a frame of the Bezier stretch from a to b. The parameter at
// the frame is found by Newton's method in a bracket: the frame rises along it.
func free(a, b *Key, frame float64) float64 {
	out, in := handles(a, b)
	x1, x2, x3 := out[0], b.Frame+in[0]-a.Frame, b.Frame-a.Frame
	y1, y2, y3 := out[1], b.Value+in[1]-a.Value, b.Value-a.Value
	at := func(t, p, q, r float64) float64 {
		u := 1 - t
		return t * (3*u*(u*p+t*q) + t*t*r)
	}
	lo, hi, x := 0.0, 1.0, frame-a.Frame
	t := x / x3
	for range 60 {
		miss := at(t, x1, x2, x3) - x
		if miss < 0 {
			lo = t
		} else {
			hi = t
		}
		u := 1 - t
		slope := 3 * (u*u*x1 + 2*u*t*(x2-x1) + t*t*(x3-x2))
		next := t - miss/slope
		if !(next >= lo && next <= hi) { // no slope, or out of the bracket
			next, slope = (lo+hi)/2, 0
		}
		far := math.Abs(next - t)
		t = next
		if slope != 0 && far < 1e-9 { // the next step would change it by the square of that
			break
		}
	}
	return a.Value + at(t, y1, y2, y3)
}

// inside is the value between the first and the last key.
func (v *Value) inside(frame float64) float64 {
	i := sort.Search(len(v.Keys), func(i int) bool { return v.Keys[i].Frame > frame })
	if i == 0 {
		return v.Keys[0].Value
	}
	if i == len(v.Keys) {
		return v.Keys[i-1].Value
	}
	a, b := &v.Keys[i-1], &v.Keys[i]
	u := (frame - a.Frame) / (b.Frame - a.Frame)
	switch a.Shape {
	case Stepped:
		return a.Value
	case Free:
		return free(a, b, frame)
	case Eased:
		u = u * u * (3 - 2*u) // the cubic with level ends
	}
	return a.Value + (b.Value-a.Value)*u
}
