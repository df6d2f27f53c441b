package report

import (
	"math"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/rig"
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
func readWheels(scn *rig.Scene, i int, r *PathReadout) {
	shape, rest := scn.Doc.Paths[i].Shape.Wrap, scn.RestingBelt(i)
	ahead, up, off := shape.Axes()
	length := rest.Length
	for n := range shape.Wheels {
		w := &shape.Wheels[n]
		at := geom.FromArray(w.At)
		x, y, c := scn.RestingWheel(i, n)
		// Wheels are pulled where they stand before the ground and the slide move them.
		stand := off.Mad(ahead, at.Dot(ahead)).Mad(up, at.Dot(up)).Array()
		flat := off.Mad(ahead, x).Mad(up, y).Array()
		r.Wheels = append(r.Wheels, WheelReadout{At: flat, Radius: w.PitchRadius(), Width: shape.WheelWidth(n), Teeth: w.Teeth, Back: w.Back,
			Touches: c.Touches, From: c.From, To: c.To, AngleDeg: c.Angle * (180 / math.Pi)})
		r.Points = append(r.Points, PointReadout{stand, stand, stand})
	}
	if e := shape.Ends; e != nil { // its start is pulled as well
		at := geom.FromArray(e.From)
		stand := off.Mad(ahead, at.Dot(ahead)).Mad(up, at.Dot(up)).Array()
		r.Points = append(r.Points, PointReadout{stand, stand, stand})
	}
	k := &BeltReadout{Length: length, Taut: length, TakenUp: rest.TakenUp, Hanging: rest.Hanging}
	if shape.Keep != nil {
		k.Kept, k.Spare = length, rest.Spare
		if !rest.Hanging {
			k.Kept += rest.Spare
		} else {
			k.Taut -= rest.Spare
		}
	}
	r.Belt = k
	r.Chain = readChain(shape, r.Wheels)
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
