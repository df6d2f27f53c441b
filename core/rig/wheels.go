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

// WheelReadout is a wheel of a wrapped path, in the path's own space.
type WheelReadout struct {
	At     scene.Vec3 `json:"at"`
	Radius float64    `json:"radius"` // at the pitch line, metres
	Width  float64    `json:"width"`  // as it is drawn
	Teeth  int        `json:"teeth"`
	Back   bool       `json:"back"`
	// Touches tells whether the belt lies on it; From and To are then distances on the
	// belt, AngleDeg how far it goes round.
	Touches  bool    `json:"touches"`
	From     float64 `json:"from"`
	To       float64 `json:"to"`
	AngleDeg float64 `json:"angleDeg"`
}

// BeltReadout is how long a belt is, in metres.
type BeltReadout struct {
	Length float64 `json:"length"`
	Taut   float64 `json:"taut"` // drawn straight from wheel to wheel
	// Kept is the length that it is to have, 0 where none is; Spare what that has more
	// than the taut belt, below 0 what it lacks.
	Kept    float64 `json:"kept"`
	Spare   float64 `json:"spare"`
	TakenUp float64 `json:"takenUp"` // the way of the wheel that takes up
	Hanging bool    `json:"hanging"` // the spare length hangs in the runs chosen for it
}

// ChainReadout is what there is to know of a chain round two sprockets of one pitch.
type ChainReadout struct {
	Pitch    float64 `json:"pitch"`
	Centres  float64 `json:"centres"`  // distance of the centres, metres
	Exact    float64 `json:"exact"`    // its length in pitches, on the pitch circles
	Handbook float64 `json:"handbook"` // by the handbooks' approximation
	Ratio    float64 `json:"ratio"`    // turns of the first for one of the second
	// Links are the whole numbers of links next to the length, with the distance of
	// centres at which each closes exactly; the even ones need no offset link.
	Links []LinksReadout `json:"links"`
	// Chordal is the variation of speed over a tooth, as a share, of either sprocket.
	Chordal [2]float64 `json:"chordal"`
}

// LinksReadout is a number of links and the distance of centres that closes with it.
type LinksReadout struct {
	Links   int     `json:"links"`
	Centres float64 `json:"centres"`
	Hangs   float64 `json:"hangs"` // the distance at which a chain's usual spare length hangs
}

// readWheels reads a wrapped path's wheels as they are in the first frame and, of two
// sprockets, its chain.
func (scn *Scene) readWheels(i int, r *PathReadout) {
	b := scn.belts[i]
	ahead, up, off := b.shape.Axes()
	length := b.rest.Length
	for n := range b.shape.Wheels {
		w := &b.shape.Wheels[n]
		at := geom.FromArray(w.At)
		x, y := at.Dot(ahead), at.Dot(up)
		var c mech.Contact
		if k := b.index[n]; k >= 0 {
			x, y, c = b.rest.Wheels[k].X, b.rest.Wheels[k].Y, b.rest.Contacts[k]
		}
		// Wheels are pulled where they stand before the ground and the slide move them.
		stand := off.Mad(ahead, at.Dot(ahead)).Mad(up, at.Dot(up)).Array()
		flat := off.Mad(ahead, x).Mad(up, y).Array()
		r.Wheels = append(r.Wheels, WheelReadout{At: flat, Radius: w.PitchRadius(), Width: b.shape.WheelWidth(n), Teeth: w.Teeth, Back: w.Back,
			Touches: c.Touches, From: c.From, To: c.To, AngleDeg: c.Angle * inDegrees})
		r.Points = append(r.Points, PointReadout{stand, stand, stand})
	}
	if e := b.shape.Ends; e != nil { // its start is pulled as well
		at := geom.FromArray(e.From)
		stand := off.Mad(ahead, at.Dot(ahead)).Mad(up, at.Dot(up)).Array()
		r.Points = append(r.Points, PointReadout{stand, stand, stand})
	}
	k := &BeltReadout{Length: length, Taut: length, TakenUp: b.rest.TakenUp, Hanging: b.rest.Hanging}
	if b.shape.Keep != nil {
		k.Kept, k.Spare = length, b.rest.Spare
		if !b.rest.Hanging {
			k.Kept += b.rest.Spare
		} else {
			k.Taut -= b.rest.Spare
		}
	}
	r.Belt = k
	r.Chain = readChain(b.shape, r.Wheels)
}

func readChain(s *scene.WrapShape, wheels []WheelReadout) *ChainReadout {
	var two []int
	for i := range wheels {
		if wheels[i].Touches {
			two = append(two, i)
		}
	}
	if len(two) != 2 || s.Ends != nil {
		return nil
	}
	a, b := &s.Wheels[two[0]], &s.Wheels[two[1]]
	if a.Teeth == 0 || b.Teeth == 0 || a.Pitch != b.Pitch || a.Back || b.Back {
		return nil
	}
	centres := geom.FromArray(wheels[two[0]].At).Sub(geom.FromArray(wheels[two[1]].At)).Norm()
	exact, err := mech.ExactLength(a.Teeth, b.Teeth, centres/a.Pitch)
	if err != nil {
		return nil
	}
	c := &ChainReadout{Pitch: a.Pitch, Centres: centres, Exact: exact,
		Handbook: mech.HandbookLength(a.Teeth, b.Teeth, centres/a.Pitch),
		Ratio:    float64(b.Teeth) / float64(a.Teeth),
		Chordal:  [2]float64{mech.ChordalVariation(a.Teeth), mech.ChordalVariation(b.Teeth)}}
	near := int(math.Round(exact))
	for n := near - 2; n <= near+2; n++ {
		at, err := mech.CentresFor(a.Teeth, b.Teeth, float64(n))
		hangs, err2 := mech.CentresFor(a.Teeth, b.Teeth, float64(n)-mech.Spare)
		if err == nil && err2 == nil {
			c.Links = append(c.Links, LinksReadout{n, at * a.Pitch, hangs * a.Pitch})
		}
	}
	return c
}

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
