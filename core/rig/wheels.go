package rig

import (
	"crypto/sha256"
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/part"
	"bead/core/scene"
)

// WheelCount is the number of wheels of a path's shape, 0 of paths round none.
func (s *Scene) WheelCount(path int) int {
	if s.Doc.Paths[path].Shape.Wrap == nil {
		return 0
	}
	return len(s.Doc.Paths[path].Shape.Wrap.Wheels)
}

// wheelsGo reports whether the wheels of path i belong to a delivery that leaves out some rigs: those of belts
// with a delivered rig, and of belts without rigs.
func (s *Scene) wheelsGo(i int, left func(rig int) bool) bool {
	used := false
	for k := range s.Rigs {
		if s.Rigs[k].Path == i {
			if used = true; !left(k) {
				return true
			}
		}
	}
	return !used
}

// WheelMesh is the geometry of a wheel about its own x axis, and a key that is equal for wheels of equal size.
func (s *Scene) WheelMesh(path, wheel int) (key [32]byte, mesh func() *geom.Mesh) {
	b := s.Doc.Paths[path].Shape.Wrap
	w := &b.Wheels[wheel]
	r, width := w.PitchRadius(), b.WheelWidth(wheel)
	// Size, width, teeth and pitch are all that the mesh is made of.
	key = sha256.Sum256(fmt.Appendf(nil, "wheel %v %v %v %v", r, width, w.Teeth, w.Pitch))
	return key, func() *geom.Mesh {
		m, err := part.Wheel(r, width, w.Teeth, w.Pitch)
		if err != nil { // too small or large to be drawn
			return &geom.Mesh{}
		}
		return m
	}
}

// Turning is a wheel as it is in a frame.
type Turning struct {
	Place   Place // in the path's space; x is its axis
	Touches bool
	// From and To are the distances on the belt between which it lies on the wheel.
	From, To float64
}

// turning fills in the wheels of belt i, which turn without slipping on it.
func (s *Scene) turning(dst []Turning, i int, frame float64, pics []Pieces) []Turning {
	shape := s.Doc.Paths[i].Shape.Wrap
	now := s.Belt(i, frame)
	ahead, up, off := shape.Axes()
	dst = dst[:0]
	for n := range shape.Wheels {
		w := &shape.Wheels[n]
		at := geom.FromArray(w.At)
		x, y, turn := at.Dot(ahead), at.Dot(up), 0.0
		var c mech.Contact
		// A free wheel stands where it is and turns nothing.
		if k := s.WheelIndex(i, n); k >= 0 {
			x, y, c = now.Wheels[k].X, now.Wheels[k].Y, now.Contacts[k]
			turn = s.turned(i, n, now, frame, pics)
		}
		sin, cos := math.Sincos(turn)
		// Its axis is x, so that z and y are in the belt's plane.
		z, yy := ahead.Mul(cos).Mad(up, sin), ahead.Mul(-sin).Mad(up, cos)
		dst = append(dst, Turning{PlaceOf(geom.Rigid{P: off.Mad(ahead, x).Mad(up, y), X: yy.Cross(z), Y: yy, Z: z}), c.Touches, c.From, c.To})
	}
	return dst
}

// turned is the angle of a wheel of path i's shape from ahead to up. A point of the belt keeps its place on
// the rim while it lies there: with the belt's heading at a distance d round the wheel
// as h - s (d - from)/R and the same point at d + travel later, the wheel has turned by
// h + s (from - travel)/R. A sprocket keeps a gap at each pin instead.
func (s *Scene) turned(i, wheel int, now *mech.Solved, frame float64, pics []Pieces) float64 {
	shape, first := s.Doc.Paths[i].Shape.Wrap, s.RestingBelt(i)
	k := s.WheelIndex(i, wheel)
	c, rest := &now.Contacts[k], &first.Contacts[k]
	if !c.Touches {
		c = rest // it runs on as if it touched
	}
	side, r := now.Wheels[k].Sense(), now.Wheels[k].R
	t := s.carries[i]
	travel := 0.0
	if t != nil {
		travel = t.baseAt(pics[t.index].Offset+pics[t.index].Travel, frame)
	}
	// The way round from the first frame's heading: without it the turn would jump by a whole round where the heading
	// does.
	heading := rest.Heading + math.Remainder(c.Heading-rest.Heading, 2*math.Pi)
	if shape.Ends != nil {
		if shape.Ends.Drum != "" { // its free end takes what comes over it along
			travel = now.Length - first.Length
		}
		return heading + side*(c.From-travel)/r
	}
	// The round of the belt's distances that is nearest to that of the first frame, for the same reason.
	from := c.From + now.Length*math.Round((rest.From-c.From)/now.Length)
	if teeth := shape.Wheels[wheel].Teeth; teeth > 0 && t != nil {
		// By the pin at the middle of the arc: there pins lie deepest in their gaps.
		middle := (from + (c.To - c.From + from)) / 2
		pins := t.pinNumber(middle, frame, &pics[t.index])
		return heading - side*(middle-from)/r + side*2*math.Pi*pins/float64(teeth)
	}
	return heading + side*(from-travel)/r
}

// Engagement is a pin on a sprocket and how far it stands beside its gap, metres round
// the pitch circle.
type Engagement struct {
	Wheel    int // of the shape
	Off      float64
	Distance float64 // of the pin on the belt
}

// Engaged are the pins that lie on the sprockets of path i's belt in a picture of a frame.
func (s *Scene) Engaged(i int, frame float64, pic *Picture) []Engagement {
	t := s.carries[i]
	if t == nil || t.Layout.Scattered() {
		return nil
	}
	now := s.Belt(i, frame)
	p := &pic.Rigs[t.index]
	var out []Engagement
	wheels := s.Doc.Paths[i].Shape.Wrap.Wheels
	for n := range wheels {
		k := s.WheelIndex(i, n)
		w := &wheels[n]
		if k < 0 || w.Teeth == 0 || !now.Contacts[k].Touches {
			continue
		}
		c := &now.Contacts[k]
		side, r := now.Wheels[k].Sense(), now.Wheels[k].R
		turned := s.turned(i, n, now, frame, pic.Rigs)
		// The first pin at or behind the arc's beginning; numbers rise along the belt.
		number := math.Ceil(t.pinNumber(c.From, frame, p) - 1e-9)
		for {
			d := t.pinPlace(number, c.From, frame, p)
			// 1e-6 m: a pin that has just come off the arc's beginning counts still. The number bounds belts of
			// nothing but pins.
			if d > c.To+1e-9 || d < c.From-1e-6 || len(out) > 100_000 {
				break
			}
			// The gap of that number, as the sprocket has turned.
			gap := turned - side*2*math.Pi*number/float64(w.Teeth)
			at := c.Heading - side*(d-c.From)/r
			// Less or more than half a tooth: which gap it is in is no question of how far it stands beside it.
			out = append(out, Engagement{n, math.Remainder(at-gap, 2*math.Pi/float64(w.Teeth)) * r, now.Length * math.Mod(d/now.Length+1, 1)})
			number++
		}
	}
	return out
}

// belt is the shape of the belt that the rig is on, nil on other paths.
func (t *Rig) belt() *scene.WrapShape { return t.scene.Doc.Paths[t.Path].Shape.Wrap }
