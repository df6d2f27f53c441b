package scene

import (
	"cmp"
	"encoding/json"
	"fmt"
	"math"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"bead/core/form"
	"bead/core/geom"
	"bead/core/motion"
)

// each visits a value and everything in it, from the outside in. Where visit returns true, what is inside is
// skipped.
func each(v reflect.Value, visit func(v reflect.Value) bool) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			each(v.Elem(), visit)
		}
		return
	case reflect.Slice:
		for i := range v.Len() {
			each(v.Index(i), visit)
		}
		return
	}
	// From the outside in, so that a visitor can take a thing whole.
	if visit(v) {
		return
	}
	// Arrays of numbers are places: they are visited whole, above.
	if v.Kind() == reflect.Array && v.Type().Elem().Kind() == reflect.Struct {
		for i := range v.Len() {
			each(v.Index(i), visit)
		}
	}
	if v.Kind() != reflect.Struct {
		return
	}
	for i := range v.NumField() {
		if v.Type().Field(i).IsExported() {
			each(v.Field(i), visit)
		}
	}
}

// places calls tell with every place and offset of a shape. An offset, such as a spline's handle, counts from
// the place beside it.
func places(s *PathShape, tell func(p *Vec3, offset bool)) {
	each(reflect.ValueOf(s), func(v reflect.Value) bool {
		switch x := v.Addr().Interface().(type) {
		case *Vec3:
			tell(x, false)
		case *Point:
			tell(&x.At, false)
			for _, handle := range []*Vec3{x.In, x.Out} {
				if handle != nil {
					tell(handle, true)
				}
			}
			return true
		}
		return false
	})
}

// lengths calls tell with every number in a value that is a length in metres by its form tag.
func lengths(of any, tell func(x *float64)) {
	each(reflect.ValueOf(of), func(v reflect.Value) bool {
		if v.Type() == valueType {
			return true
		}
		ownLengths(v, tell)
		return false
	})
}

// ownLengths is lengths for the fields of v itself, of what is a struct.
func ownLengths(v reflect.Value, tell func(x *float64)) {
	if v.Kind() != reflect.Struct {
		return
	}
	for _, f := range form.Of(v.Type()) {
		if x, is := f.In(v).Addr().Interface().(*float64); is && (f.Kind == "length" || f.Kind == "distance") {
			tell(x)
		}
	}
}

// Resize scales a path about a place of its own space: its shape with wheels and tooth pitch, and the lengths
// of its shaping steps, moving ones too. Rigs on the path are left as they are.
func (p *Path) Resize(times float64, about Vec3) error {
	if !(times >= 1e-6 && times <= 1e6) {
		return fmt.Errorf("%g times is not accepted: a number from 1e-6 to 1e6 is", times)
	}
	// It would be drawn back to what it follows in the next moment.
	if p.Shape.Track != nil || p.Shape.Over != nil {
		return fmt.Errorf("%q is as large as what it follows or lies on: a path with a size of its own is accepted", p.Name)
	}
	places(&p.Shape, func(at *Vec3, offset bool) {
		for i := range at {
			if offset {
				at[i] *= times
			} else {
				at[i] = about[i] + (at[i]-about[i])*times
			}
		}
	})
	scale := func(x *float64) { *x *= times }
	lengths(&p.Shape, scale)
	// Reach, spacing and the like are lengths of the same space as the shape.
	lengths(p.Steps, scale)
	for _, s := range p.Steps {
		switch {
		case s.Mirror != nil:
			axis := strings.Index("xyz", s.Mirror.Axis)
			// Its lengths have been scaled about 0: it belongs about the middle that the shape was scaled about.
			s.Mirror.At += about[axis] * (1 - times)
		case s.Wave != nil:
			s.Wave.Side.Times(times)
			s.Wave.Up.Times(times)
			for i := range s.Wave.Amount {
				s.Wave.Amount[i].At *= times
			}
		}
	}
	// Fillets of single corners are a list, which form tags do not reach.
	if line := p.Shape.Polyline; line != nil {
		for i := range line.Fillets {
			line.Fillets[i] *= times
		}
	}
	return nil
}

// OtherSide adds the mirror image of a path, to the left or right of the middle of what it rides
// on, with the rigs on it, the handles that pull it, and their ties to a carrier: what rolled with
// its left side rolls with its right one. The two then lie so many metres apart; a path in the very
// middle is moved off it, one beside it stays. 0: as far as it lies from the middle, twice. It
// returns the new path's id. The pieces themselves are not mirrored, and what faces a guide faces the
// same one.
func (d *Document) OtherSide(path string, apart float64) (string, error) {
	at := slices.IndexFunc(d.Paths, func(p Path) bool { return p.ID == path })
	if at < 0 {
		return "", fmt.Errorf("%q is no path of this scene", path)
	}
	if !(apart >= 0 && apart <= form.MaxPosition) {
		return "", fmt.Errorf("%g m apart is not accepted: a distance from 0 to %g m is", apart, form.MaxPosition)
	}
	if err := d.Paths[at].mirrors(); err != nil {
		return "", err
	}
	p := &d.Paths[at]
	x := p.beside()
	// Within rounding it lies in the middle, and has no other side to go to.
	middle := math.Abs(x) < 1e-9
	switch {
	case middle && apart == 0:
		return "", fmt.Errorf("%q lies on the middle: say how many metres the two are to be apart", p.Name)
	case middle:
		p.shift(apart / 2)
		x = apart / 2
	case apart == 0:
		apart = 2 * math.Abs(x)
	}
	// The mirror stands half way between the two.
	plane := x - math.Copysign(apart/2, x)

	other := again(*p)
	other.ID, other.Name = d.free(p.ID, otherName(p.Name, x))
	other.mirror(plane)
	d.Paths = append(d.Paths, other)
	d.mirrorRigs(path, other.ID, x)
	return other.ID, nil
}

// mirrors says why a path has no mirror image; nil where it has one.
func (p *Path) mirrors() error {
	s := &p.Shape
	planes := []PlaneName{}
	switch {
	case s.Track != nil || s.Over != nil || s.Helix != nil || s.Weave != nil:
		return fmt.Errorf("a %s has no other side: a path of points, a belt, a line, a hanging line, or a flat shape in the side plane is accepted", s.Kind())
	case s.Wrap != nil:
		planes = append(planes, s.Wrap.Plane)
	case s.Slot != nil:
		planes = append(planes, s.Slot.Plane)
	case s.Circle != nil:
		planes = append(planes, s.Circle.Plane)
	case s.Ellipse != nil:
		planes = append(planes, s.Ellipse.Plane)
	case s.Rectangle != nil:
		planes = append(planes, s.Rectangle.Plane)
	case s.Arch != nil:
		planes = append(planes, s.Arch.Plane)
	}
	for _, plane := range planes {
		if plane != "" && plane != "side" {
			return fmt.Errorf("%q lies in the plane %q and would run the other way: one in the plane side is accepted, or turn it into points first", p.Name, plane)
		}
	}
	for i := range p.Steps {
		switch s := &p.Steps[i]; {
		case s.Mirror != nil, s.Offset != nil, s.Wave != nil, s.Jitter != nil, s.Join != nil:
			return fmt.Errorf("step %d of %q, %s, has no mirror image: turn the path with its steps into points first", i+1, p.Name, s.Kind())
		}
	}
	return nil
}

// beside is how far to the left of the middle a path lies, metres: the plane of a belt, else the mean of its
// places.
func (p *Path) beside() float64 {
	sum, n := 0.0, 0
	if p.Shape.Wrap != nil {
		sum, n = p.Shape.Wrap.Wheels[0].At[0], 1
	} else {
		places(&p.Shape, func(at *Vec3, offset bool) {
			if !offset {
				sum += at[0]
				n++
			}
		})
	}
	// A path without places of its own lies in the middle.
	x := sum / float64(max(n, 1))
	if p.Rest != nil {
		x = p.Rest.Rigid().Apply(geom.Vec{X: x}).X
	}
	return x
}

// shift moves a path to the left.
func (p *Path) shift(by float64) {
	if p.Rest != nil {
		p.Rest.At[0] += by
		return
	}
	places(&p.Shape, func(at *Vec3, offset bool) {
		if !offset {
			at[0] += by
		}
	})
}

// mirror mirrors a path at a plane across the space that it stands in.
func (p *Path) mirror(plane float64) {
	// Taken from 0, so that no place becomes a minus zero in the document.
	places(&p.Shape, func(at *Vec3, _ bool) { at[0] = 0 - at[0] })
	if r := p.Rest; r != nil {
		r.At[0], r.Heading, r.Bank = 0-r.At[0], 0-r.Heading, 0-r.Bank
	}
	p.shift(2 * plane)
}

// mirrorRigs gives a path that was mirrored what rides on the one it came of.
func (d *Document) mirrorRigs(from, to string, x float64) {
	is := map[string]string{} // ids of the originals to those of their images
	for _, t := range d.Tugs {
		if t.Path != from {
			continue
		}
		t = again(t)
		was := t.ID
		t.ID, t.Name = d.free(t.ID, otherName(t.Name, x))
		t.Path, is["tugs/"+was] = to, t.ID
		// What pulls it to the left pulls its image to the right.
		t.Pull[0].Times(-1)
		if t.Wheel != nil && t.Wheel.Path == from {
			t.Wheel.Path = to
		}
		d.Tugs = append(d.Tugs, t)
	}
	first := len(d.Rigs)
	for _, r := range d.Rigs {
		if r.Path != from {
			continue
		}
		r = again(r)
		was := r.ID
		r.ID, r.Name = d.free(r.ID, otherName(r.Name, x))
		r.Path, is["rigs/"+was] = to, r.ID
		r.Facing.mirror()
		if r.Body != nil {
			r.Body.Twist.Times(-1)
		}
		d.Rigs = append(d.Rigs, r)
	}
	for i := range d.Rigs[first:] {
		d.Rigs[first+i].follow(is)
	}
	for i := range d.Paths {
		if s := &d.Paths[i].Shape; d.Paths[i].ID == to && s.Hang != nil {
			s.Hang.Drum = cmp.Or(is["rigs/"+s.Hang.Drum], s.Hang.Drum)
		} else if d.Paths[i].ID == to && s.Wrap != nil && s.Wrap.Ends != nil {
			s.Wrap.Ends.Drum = cmp.Or(is["rigs/"+s.Wrap.Ends.Drum], s.Wrap.Ends.Drum)
		}
	}
}

// follow lets a mirrored rig follow what was mirrored with it, and the other side of a carrier.
func (r *Rig) follow(is map[string]string) {
	r.InStep = cmp.Or(is["rigs/"+r.InStep], r.InStep)
	each(reflect.ValueOf(r), func(v reflect.Value) bool {
		switch x := v.Addr().Interface().(type) {
		case *Lead:
			x.Rig = cmp.Or(is["rigs/"+x.Rig], x.Rig)
		case *motion.Value:
			if x.Of != nil {
				if at := strings.SplitN(x.Of.Of, "/", 3); len(at) == 3 {
					at[1] = cmp.Or(is[at[0]+"/"+at[1]], at[1])
					x.Of.Of = strings.Join(at, "/")
				}
			}
			if x.Rolls != nil {
				switch x.Rolls.Side {
				// Its image rolls with the other side of what it rides on.
				case motion.Left:
					x.Rolls.Side = motion.Right
				case motion.Right:
					x.Rolls.Side = motion.Left
				}
			}
			return true
		}
		return false
	})
}

// mirror turns rolls and leanings the other way round.
func (f *Facing) mirror() {
	if f.Up != nil {
		f.Up[0] = 0 - f.Up[0]
	}
	f.Turns = 0 - f.Turns
	f.Roll.Times(-1)
	for i := range f.RollAt {
		f.RollAt[i].Roll = 0 - f.RollAt[i].Roll
	}
}

// again is a copy that shares nothing with what it is one of.
func again[T any](of T) (out T) {
	data, err := json.Marshal(of)
	if err == nil {
		err = json.Unmarshal(data, &out)
	}
	if err != nil {
		panic(err) // what was read from JSON can be written and read again
	}
	return out
}

// otherName is the name of the mirror image of what lies x metres to the left.
func otherName(name string, x float64) string {
	for _, pair := range [][2]string{{"left", "right"}, {"Left", "Right"}, {"right", "left"}, {"Right", "Left"}, {"port", "starboard"}, {"Port", "Starboard"}, {"starboard", "port"}, {"Starboard", "Port"}} {
		if at := regexp.MustCompile(`\b` + pair[0] + `\b`).FindStringIndex(name); at != nil {
			return name[:at[0]] + pair[1] + name[at[1]:]
		}
	}
	if x > 0 {
		return name + " right"
	}
	return name + " left"
}

// free returns an id and a name that no path, rig or handle has yet, made of those wished for.
func (d *Document) free(id, name string) (string, string) {
	ids, names := map[string]bool{}, map[string]bool{}
	take := func(id, name string) { ids[id], names[name] = true, true }
	for _, p := range d.Paths {
		take(p.ID, p.Name)
	}
	for _, r := range d.Rigs {
		take(r.ID, r.Name)
	}
	for _, t := range d.Tugs {
		take(t.ID, t.Name)
	}
	next := func(taken map[string]bool, wish, apart string) string {
		free := wish
		for n := 2; taken[free]; n++ {
			free = wish + apart + strconv.Itoa(n)
		}
		return free
	}
	return next(ids, id, "-"), next(names, name, " ")
}
