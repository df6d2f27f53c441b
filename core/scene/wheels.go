package scene

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/path"
)

// WrapShape is a belt round wheels: a tread, a chain. It runs forward on top.
type WrapShape struct {
	Wheels []Wheel   `json:"wheels" jsonschema:"minItems=1,description=In the order in which the belt comes to them."`
	Plane  PlaneName `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above" form:";choice;fallback=side"`
	// Keep is the length that the belt has whatever its wheels do.
	Keep   *KeptLength `json:"keep,omitempty" jsonschema:"description=The length that is kept; left out: the belt is taut and as long as it comes."`
	Depth  float64     `json:"depth,omitempty" jsonschema:"description=Metres from the pitch line out to the face that lies on the ground." form:";length;min=0"`
	Anchor int         `json:"anchor,omitempty" jsonschema:"minimum=0,description=The wheel counted from 1 at whose contact distances begin; 0 or left out: where the belt leaves the first wheel."`
	Width  float64     `json:"width,omitempty" jsonschema:"description=Metres across the wheels as they are drawn and delivered; 0 or left out: a quarter of their radius." form:";length;min=0"`
	// Ends makes it open.
	Ends *BeltEnds `json:"ends,omitempty" jsonschema:"description=Of an open belt: it comes from a place or from a drum over its wheels and its free end hangs straight down behind the last; left out: it is closed."`
}

// BeltEnds are those of an open belt.
type BeltEnds struct {
	From   Vec3    `json:"from" jsonschema:"description=Where it is made fast or its drum's hub."`
	Length float64 `json:"length" jsonschema:"minimum=1e-6,maximum=1e6,description=Metres of it off the drum when nothing has been paid out; of a belt without a drum all of it." form:";distance;min=1e-6"`
	Drum   string  `json:"drum,omitempty" jsonschema:"description=Id of the rig that is the drum at its start." ref:"rig"`
}

// KeptLength is that of a number of links of one pitch.
type KeptLength struct {
	Links int     `json:"links" jsonschema:"minimum=2,maximum=100000"`
	Pitch float64 `json:"pitch" jsonschema:"minimum=1e-6,maximum=1e6,description=Metres." form:";length"`
	Pins  bool    `json:"pins,omitempty" jsonschema:"description=The pitch is the straight distance from pin to pin; left out: along the belt."`
}

// Wheel is a circle that a belt runs round: a radius at the pitch line, or a sprocket
// by its teeth and their pitch.
type Wheel struct {
	Name   string  `json:"name"`
	At     Vec3    `json:"at" jsonschema:"description=Its centre; what is not in the plane counts from the first wheel only."`
	Radius float64 `json:"radius,omitempty" jsonschema:"description=Metres at the pitch line; of wheels without teeth." form:";length"`
	Teeth  int     `json:"teeth,omitempty" jsonschema:"minimum=0,maximum=2000"`
	Pitch  float64 `json:"pitch,omitempty" jsonschema:"minimum=0,maximum=1e6,description=Metres from tooth to tooth along the chain." form:";length"`
	Back   bool    `json:"back,omitempty" jsonschema:"description=The back of the belt lies on it and it turns the other way."`
	Free   bool    `json:"free,omitempty" jsonschema:"description=The belt passes it by."`
	// Slack runs take what a kept length has to spare.
	Slack   bool     `json:"slack,omitempty" jsonschema:"description=The run behind it hangs where the belt has length to spare."`
	Carrier string   `json:"carrier,omitempty" jsonschema:"description=Id of a carrier that it rides on; it moves as that has moved since the first frame." ref:"carrier"`
	Ground  bool     `json:"ground,omitempty" jsonschema:"description=It rides on the ground."`
	Spring  *Spring  `json:"spring,omitempty" jsonschema:"description=How a wheel on the ground moves against the rest."`
	TakeUp  *Sliding `json:"takeUp,omitempty" jsonschema:"description=It slides to hold the kept length."`
}

// Spring is the way of a road wheel: on a slide, or on an arm about a pivot.
type Spring struct {
	Arm  *Vec3   `json:"arm,omitempty" jsonschema:"description=The pivot of its arm; left out: a slide."`
	Tilt float64 `json:"tilt,omitempty" jsonschema:"minimum=-80,maximum=80,description=Degrees that a slide leans forward."`
	Up   float64 `json:"up" jsonschema:"minimum=0,description=Metres that its hub may come above its place." form:";length"`
	Down float64 `json:"down" jsonschema:"minimum=0,description=Metres that its hub may drop below its place." form:";length"`
}

// Sliding is a slide and how far a wheel may go along it.
type Sliding struct {
	Angle float64 `json:"angle,omitempty" jsonschema:"minimum=-1e6,maximum=1e6,description=Degrees of the slide from forward towards up."`
	In    float64 `json:"in" jsonschema:"minimum=0,description=Metres that it may go against the slide." form:";length"`
	Out   float64 `json:"out" jsonschema:"minimum=0,description=Metres that it may go along the slide." form:";length"`
}

// PitchRadius is the radius at the pitch line.
func (w *Wheel) PitchRadius() float64 {
	if w.Teeth > 0 {
		return mech.PitchDiameter(w.Pitch, w.Teeth) / 2
	}
	return w.Radius
}

// WheelWidth is the width with which a wheel is drawn, metres.
func (s *WrapShape) WheelWidth(wheel int) float64 {
	if s.Width > 0 {
		return s.Width
	}
	return s.Wheels[wheel].PitchRadius() / 4
}

// Axes are the directions ahead and up of the belt's plane, and its place across that.
func (s *WrapShape) Axes() (ahead, up, off geom.Vec) {
	ahead, up, _ = path.Axes(string(s.Plane))
	if e := s.Ends; e != nil && geom.FromArray(s.Wheels[0].At).Sub(geom.FromArray(e.From)).Dot(ahead) < 0 {
		ahead = ahead.Neg() // ahead of an open belt is where it goes
	}
	normal := ahead.Cross(up)
	return ahead, up, normal.Mul(geom.FromArray(s.Wheels[0].At).Dot(normal))
}

// OnGround reports whether one of the wheels rides on the ground.
func (s *WrapShape) OnGround() bool {
	return slices.ContainsFunc(s.Wheels, func(w Wheel) bool { return w.Ground && !w.Free })
}

// Changes reports whether the belt is not what its wheels alone make of it: its length
// is kept, or its wheels move.
func (s *WrapShape) Changes() bool {
	return s.Keep != nil || slices.ContainsFunc(s.Wheels, func(w Wheel) bool { return w.Carrier != "" || w.Ground })
}

// Circles are the wheels in the belt's plane as they stand, without those that are
// free, and the numbers of those that are there.
func (s *WrapShape) Circles() (wheels []mech.Wheel, of []int) {
	ahead, up, _ := s.Axes()
	for i := range s.Wheels {
		w := &s.Wheels[i]
		if w.Free {
			continue
		}
		at := geom.FromArray(w.At)
		wheels = append(wheels, mech.Wheel{X: at.Dot(ahead), Y: at.Dot(up), R: w.PitchRadius(), Back: w.Back})
		of = append(of, i)
	}
	return wheels, of
}

// Explain turns a fault of a belt into one that names the shape's wheels: a mech.WheelError with the shape's
// own numbers where it is of one wheel.
func (s *WrapShape) Explain(err error, wheels []mech.Wheel, of []int) error {
	if len(of) == 0 {
		return errors.New("the belt touches no wheel: at least one that is not free is accepted")
	}
	var we *mech.WheelError
	if errors.As(err, &we) {
		said := *we
		said.Wheel = of[we.Wheel]
		said.Text = s.Wheels[of[we.Wheel]].Name + ": " + we.Text
		if we.Other >= 0 {
			said.Other = of[we.Other]
			said.Text = fmt.Sprintf("there is no way for the belt from %s to %s: move one of them or make it smaller", s.Wheels[said.Wheel].Name, s.Wheels[said.Other].Name)
		}
		return &said
	}
	if s.Ends != nil {
		return err
	}
	return fmt.Errorf("%w; round the outside: %s", err, s.named(mech.Outline(wheels), of))
}

func (s *WrapShape) named(order, of []int) string {
	var names []string
	for _, i := range order {
		names = append(names, s.Wheels[of[i]].Name)
	}
	return strings.Join(names, ", ")
}

// spans are the belt's as its wheels alone make it; none where it cannot be laid, which
// compiling says.
func (s *WrapShape) about() About {
	return About{Name: "Belt round wheels", First: &WrapShape{Plane: path.PlaneSide, Wheels: []Wheel{
		{Name: "Sprocket", At: Vec3{0, 0.8, -1.2}, Teeth: 14, Pitch: 0.19},
		{Name: "Idler", At: Vec3{0, 0.7, 1.2}, Radius: 0.36},
		{Name: "Road wheel 1", At: Vec3{0, 0.3, 0.6}, Radius: 0.24},
		{Name: "Road wheel 2", At: Vec3{0, 0.3, -0.6}, Radius: 0.24},
	}}}
}

func (s *WrapShape) spans(func(string)) ([]path.Span, bool) { return s.belt(), s.Ends == nil }

// Start is where an open belt begins, in its plane: on a drum of a radius, 0 of a place.
func (s *WrapShape) Start(radius float64, under bool) mech.Wheel {
	ahead, up, _ := s.Axes()
	at := geom.FromArray(s.Ends.From)
	return mech.Wheel{X: at.Dot(ahead), Y: at.Dot(up), R: radius, Back: under}
}

func (s *WrapShape) belt() []path.Span {
	wheels, of := s.Circles()
	if len(of) == 0 {
		return nil
	}
	if e := s.Ends; e != nil {
		b, err := mech.Reeve(s.Start(0, false), wheels, 0, e.Length)
		if err != nil {
			return nil
		}
		return s.SpansOf(b)
	}
	b, err := mech.Wrap(wheels)
	if err != nil {
		return nil
	}
	return s.SpansOf(b)
}

// SpansOf are the spans of a belt that was laid in the shape's plane, from where its
// distances begin.
func (s *WrapShape) SpansOf(b *mech.Belt) []path.Span {
	ahead, up, off := s.Axes()
	at := func(x, y float64) geom.Vec { return off.Mad(ahead, x).Mad(up, y) }
	var out []path.Span
	way, begin := 0.0, -1 // the span in which, or at whose end, the belt begins
	var split float64
	add := func(length float64, span path.Span) {
		if begin < 0 && way+length >= b.Begin {
			begin, split = len(out), min(max((b.Begin-way)/length, 0), 1)
		}
		way += length
		out = append(out, span)
	}
	n := len(b.Touching)
	for k := range b.Touching {
		r := &b.Runs[k]
		switch {
		case r.Length <= 0:
		case r.A == 0:
			add(r.Length, path.LineSpan(at(r.X0, r.Y0), at(r.X1, r.Y1)))
		default:
			x := ahead
			if r.Back {
				x = x.Neg()
			}
			add(r.Length, path.HangSpan(at(r.X0, r.Y0), x.Mul(r.A), up.Mul(r.A), math.Sinh(r.U0), math.Sinh(r.U1)))
		}
		w, c := &b.Wheels[b.Touching[(k+1)%n]], &b.Contacts[b.Touching[(k+1)%n]]
		if c.Angle == 0 || w.R == 0 {
			continue
		}
		side := 1.0
		if w.Back {
			side = -1
		}
		sin, cos := math.Sincos(c.Heading)
		forth := ahead.Mul(cos).Mad(up, sin)
		left := ahead.Mul(-sin).Mad(up, cos)
		parts := math.Ceil(c.Angle/(math.Pi/2) - 1e-9)
		for p := range int(parts) {
			add(w.R*c.Angle/parts, path.ArcSpan(at(w.X, w.Y), left.Mul(side*w.R), forth.Mul(w.R), c.Angle*float64(p)/parts, c.Angle/parts))
		}
	}
	if begin < 0 || b.Begin <= 0 {
		return out
	}
	first, last := out[begin].Split(split)
	turned := append([]path.Span{last}, out[begin+1:]...)
	return append(append(turned, out[:begin]...), first)
}

// checkEnds says what does not go together in an open belt.
func (s *WrapShape) checkEnds(c *checker, at string) {
	e := s.Ends
	if e == nil {
		return
	}
	ends := at + ".ends"
	if s.Keep != nil || s.Anchor != 0 || s.OnGround() {
		c.say(ends, "a belt with ends keeps its own length and begins at its start: links, an anchor and wheels on the ground are accepted of closed ones")
	}
	if s.Plane == path.PlaneAbove {
		c.say(at+".plane", "the free end of a belt hangs down: side and ahead are accepted")
	}
	for i := range s.Wheels {
		if w := &s.Wheels[i]; w.Slack || w.TakeUp != nil {
			c.say(fmt.Sprintf("%s.wheels[%d]", at, i), "nothing hangs loose or is taken up of a belt with ends: leave slack and takeUp out")
		}
	}
}

func (s *WrapShape) check(c *checker, at string) {
	if n := len(s.Wheels); n < 1 || n > maxWheels {
		c.say(at+".wheels", "%d wheels are not accepted: from 1 to %d are", n, maxWheels)
		return
	}
	if s.Anchor < 0 || s.Anchor > len(s.Wheels) {
		c.say(at+".anchor", "wheel %d is not there: 1 to %d are accepted, or 0 for where the belt leaves the first", s.Anchor, len(s.Wheels))
	}
	if s.OnGround() && s.Plane == path.PlaneAbove {
		c.say(at+".plane", "a belt that lies flat does not ride on the ground: side and ahead are accepted")
	}
	s.checkEnds(c, at)
	takeUps := 0
	for i := range s.Wheels {
		w, wa := &s.Wheels[i], fmt.Sprintf("%s.wheels[%d]", at, i)
		c.name(wa+".name", w.Name)
		if t := w.TakeUp; t != nil {
			takeUps++
			switch {
			case takeUps > 1:
				c.say(wa+".takeUp", "only one wheel of a belt takes up its slack")
			case s.Keep == nil:
				c.say(wa+".takeUp", "a wheel that slides needs a length to hold: give the belt its links and pitch in keep")
			case w.Ground:
				c.say(wa+".takeUp", "a wheel on the ground does not slide to hold the length")
			}
		}
		c.spring(wa+".spring", w)
		if w.Teeth == 0 {
			c.number(wa+".radius", w.Radius, minRadius, maxPosition)
			continue
		}
		if w.Teeth < minTeeth || w.Teeth > maxTeeth {
			c.say(wa+".teeth", "%d teeth are not accepted: from %d to %d are, or 0 for a plain wheel", w.Teeth, minTeeth, maxTeeth)
		}
		c.number(wa+".pitch", w.Pitch, minRadius, maxPosition)
		if w.Radius != 0 {
			c.say(wa+".radius", "follows from the teeth and their pitch: leave it out")
		}
	}
}

func (c *checker) spring(at string, w *Wheel) {
	p := w.Spring
	if p == nil {
		return
	}
	if !w.Ground {
		c.say(at, "only a wheel that rides on the ground is sprung")
	}
	if p.Arm == nil {
		return
	}
	from, to := geom.FromArray(w.At), geom.FromArray(*p.Arm)
	if long := to.Sub(from).Norm(); from.Y-to.Y+p.Up > 0.999*long || to.Y-from.Y+p.Down > 0.999*long {
		c.say(at+".arm", "is %.4g m long, too short for the wheel to come %g m up and %g m down on it: a longer arm or less travel is accepted", long, p.Up, p.Down)
	}
}

const (
	maxWheels = 200
	minTeeth  = 4
	maxTeeth  = 2000
)
