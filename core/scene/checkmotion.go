package scene

import (
	"fmt"
	"slices"

	"bead/core/motion"
)

// motion checks what moves things: carriers, tugs, leads, arrivals and drives.
func (c *checker) motion(d *Document, carriers map[string]bool) {
	c.ids("tugs", len(d.Tugs), func(i int) (string, string) { return d.Tugs[i].ID, d.Tugs[i].Name })
	for i := range d.Carriers {
		x, at := &d.Carriers[i], fmt.Sprintf("carriers[%d]", i)
		if x.Ride != nil && x.Parent != "" {
			c.say(at+".parent", "a carrier that rides on a path has that path's carrier as its parent: leave parent or ride out")
		}
		if x.Ground != nil {
			if x.Ride != nil {
				c.say(at+".ground", "a carrier that rides on a path does not ride on the ground: leave one of the two out")
			}
			// It is the wheels that find the ground; the carrier only goes where they are.
			if !slices.ContainsFunc(d.Paths, func(p Path) bool { return d.PathCarrier(&p) == x.ID && p.Shape.Wrap != nil && p.Shape.Wrap.OnGround() }) {
				c.say(at+".ground", "%q has no wheel on the ground: a belt that rides on it with wheels marked ground is needed", x.Name)
			}
		}
	}
	c.carrierRings(d)
	for i := range d.Paths {
		p, at := &d.Paths[i], fmt.Sprintf("paths[%d]", i)
		if p.Shape.Track != nil && (p.Carrier != "" || p.Rest != nil) {
			c.say(at+".carrier", "the track of a thing lies in the world: it rides on no carrier and has no rest")
		}
	}
	for i := range d.Tugs {
		c.tug(fmt.Sprintf("tugs[%d]", i), d, &d.Tugs[i])
	}
	c.cameras(d)
	c.drives(d, carriers)
}

// carrierRings finds carriers that ride on themselves by their parents alone; rings
// over paths and drives are found when the scene is compiled.
func (c *checker) carrierRings(d *Document) {
	parent := map[string]string{}
	for i := range d.Carriers {
		// Of one that rides on a path the path's carrier decides, which may change over time.
		if d.Carriers[i].Ride == nil {
			parent[d.Carriers[i].ID] = d.ParentOf(&d.Carriers[i])
		}
	}
	for i := range d.Carriers {
		id := d.Carriers[i].ID
		// Counted, since a ring that this one only leads into never comes back to it.
		for p, n := parent[id], 0; p != "" && n <= len(parent); p, n = parent[p], n+1 {
			if p == id {
				c.say(fmt.Sprintf("carriers[%d].parent", i), "%q rides on itself: another parent is accepted", d.Carriers[i].Name)
				break
			}
		}
	}
}

func (c *checker) tug(at string, d *Document, t *Tug) {
	if w := t.Wheel; w != nil {
		k := slices.IndexFunc(d.Paths, func(p Path) bool { return p.ID == w.Path })
		switch {
		case t.On != "":
			c.say(at+".wheel", "a tug rides on a carrier or on a wheel: leave one of the two out")
		case k < 0: // said of its field
		case d.Paths[k].Shape.Wrap == nil:
			c.say(at+".wheel.path", "%q is no belt round wheels of this scene", w.Path)
		case w.Wheel < 1 || w.Wheel > len(d.Paths[k].Shape.Wrap.Wheels):
			c.say(at+".wheel.wheel", "wheel %d is not there: 1 to %d are accepted", w.Wheel, len(d.Paths[k].Shape.Wrap.Wheels))
		}
	}
	i := slices.IndexFunc(d.Paths, func(p Path) bool { return p.ID == t.Path })
	if i < 0 {
		return // said of its field
	}
	shape := &d.Paths[i].Shape
	n := shape.PointCount()
	if n == 0 {
		c.say(at+".path", "%q is a %s: a path with points of its own is accepted, a spline, bspline or polyline", d.Paths[i].Name, shape.Kind())
		return
	}
	// Other curves have no handles beside their points to be pulled.
	if t.Handle != HandleBoth && shape.Spline == nil {
		c.say(at+".handle", "only the points of a spline have handles: both is accepted here")
	}
	if len(t.Points) == 0 {
		c.say(at+".points", "is empty: at least one point is accepted")
	}
	for k, p := range t.Points {
		if p < 1 || p > n {
			c.say(fmt.Sprintf("%s.points[%d]", at, k), "point %d is not there: 1 to %d are accepted", p, n)
		}
	}
}

// PointCount is the number of points that tugs can hold.
func (s *PathShape) PointCount() int {
	switch {
	case s.Spline != nil:
		return len(s.Spline.Points)
	case s.BSpline != nil:
		return len(s.BSpline.Points)
	case s.Polyline != nil:
		return len(s.Polyline.Points)
	}
	return 0
}

// unitWords name the units in sentences.
var unitWords = map[Unit]string{Metres: "metres", Degrees: "degrees", Waves: "waves", Share: "shares", OfLens: "millimetres of a lens"}

// drives checks every value that may move, and what drives name.
func (c *checker) drives(d *Document, carriers map[string]bool) {
	slots := d.Slots()
	// By reference, since many values may follow one.
	of := make(map[string]*Slot, len(slots))
	for i := range slots {
		of[slots[i].Ref] = &slots[i]
	}
	for i := range slots {
		s := &slots[i]
		c.value(s.Address, s.Value)
		v := s.Value
		if v.Of != nil {
			c.follows(s, v.Of, of)
		}
		// A rim goes a way; what that would be in degrees depends on another radius.
		if v.RPM != nil && s.Unit != Metres {
			c.say(s.Address, "is in %s: the rim of a wheel drives values in metres only", unitWords[s.Unit])
		}
		if v.Turns != nil && s.Unit != Degrees && s.Path == "" {
			c.say(s.Address, "is no distance on a path: turns of a path drive distances and angles only")
		}
		if v.Rolls != nil {
			if !carriers[v.Rolls.Rolls] {
				c.say(s.Address+".rolls", "%q is no carrier of this scene", v.Rolls.Rolls)
			}
			if s.Unit != Metres {
				c.say(s.Address, "is in %s: the way that a carrier rolls is in metres", unitWords[s.Unit])
			}
			// On a path the side that it lies on is known from its place.
			if s.Path == "" && v.Rolls.Side == "" {
				c.say(s.Address+".side", "is missing: left, right and middle are accepted where there is no path that lies at a side")
			}
			if (v.Rolls.Side == motion.Left || v.Rolls.Side == motion.Right) && v.Rolls.Gauge == 0 {
				c.say(s.Address+".gauge", "is missing: a side of a carrier needs the metres from the left track to the right one")
			}
		}
	}
}

func (c *checker) follows(s *Slot, f *motion.Driven, of map[string]*Slot) {
	t, known := of[f.Of]
	switch {
	case !known:
		c.say(s.Address+".of", "%q is no value of this scene: rigs/ID/travel, carriers/ID/heading and the like are", f.Of)
	case t.Unit != s.Unit && f.Ratio == nil:
		c.say(s.Address+".ratio", "is missing: %s is in %s, %s in %s, so a ratio in %s/%s is needed", s.Name, s.Unit, t.Name, t.Unit, s.Unit, t.Unit)
	}
}
