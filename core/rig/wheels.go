package rig

import (
	"crypto/sha256"
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/part"
)

// WheelCount is the number of wheels of a path's shape, 0 of paths round none.
func (s *Scene) WheelCount(path int) int {
	if s.belts[path] == nil {
		return 0
	}
	return len(s.belts[path].shape.Wheels)
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
	b := s.belts[path].shape
	w := &b.Wheels[wheel]
	r, width := w.PitchRadius(), b.WheelWidth(wheel)
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
	b := s.belts[i]
	now := s.Belt(i, frame)
	ahead, up, off := b.shape.Axes()
	dst = dst[:0]
	for n := range b.shape.Wheels {
		w := &b.shape.Wheels[n]
		at := geom.FromArray(w.At)
		x, y, turn := at.Dot(ahead), at.Dot(up), 0.0
		var c mech.Contact
		if k := b.index[n]; k >= 0 {
			x, y, c = now.Wheels[k].X, now.Wheels[k].Y, now.Contacts[k]
			turn = s.turned(b, now, k, frame, pics)
		}
		sin, cos := math.Sincos(turn)
		z, yy := ahead.Mul(cos).Mad(up, sin), ahead.Mul(-sin).Mad(up, cos)
		dst = append(dst, Turning{PlaceOf(geom.Rigid{P: off.Mad(ahead, x).Mad(up, y), X: yy.Cross(z), Y: yy, Z: z}), c.Touches, c.From, c.To})
	}
	return dst
}

// turned is the angle of wheel k from ahead to up. A point of the belt keeps its place on
// the rim while it lies there: with the belt's heading at a distance d round the wheel
// as h - s (d - from)/R and the same point at d + travel later, the wheel has turned by
// h + s (from - travel)/R. A sprocket keeps a gap at each pin instead.
func (s *Scene) turned(b *belt, now *mech.Solved, k int, frame float64, pics []Pieces) float64 {
	c, rest := &now.Contacts[k], &b.rest.Contacts[k]
	if !c.Touches {
		c = rest // it runs on as if it touched
	}
	w := &b.shape.Wheels[b.of[k]]
	side, r := sense(w.Back), now.Wheels[k].R
	t := b.carries
	travel := 0.0
	if t != nil {
		travel = t.baseAt(pics[t.index].Offset+pics[t.index].Travel, frame)
	}
	heading := rest.Heading + math.Remainder(c.Heading-rest.Heading, 2*math.Pi)
	if b.shape.Ends != nil {
		if b.shape.Ends.Drum != "" { // its free end takes what comes over it along
			travel = now.Length - b.rest.Length
		}
		return heading + side*(c.From-travel)/r
	}
	from := c.From + now.Length*math.Round((rest.From-c.From)/now.Length)
	if w.Teeth > 0 && t != nil {
		middle := (from + (c.To - c.From + from)) / 2
		pins := t.pinNumber(middle, frame, &pics[t.index])
		return heading - side*(middle-from)/r + side*2*math.Pi*pins/float64(w.Teeth)
	}
	return heading + side*(from-travel)/r
}
