package begin

import (
	"fmt"
	"math"

	"bead/core/facing"
	"bead/core/motion"
	"bead/core/part"
	"bead/core/place"
	"bead/core/scene"
)

// Holders are what can hold the end of a cable.
var Holders = []string{"nothing that moves", "a carrier"}

// CableSpec is what a cable is made of: the distance of its ends and its length in metres, its
// strands, and what holds its end.
type CableSpec struct {
	Apart, Length float64
	Strands       int
	Holder        string
}

// clamps is the number of clamps that a cable begins with.
const clamps = 7

// Cable returns a scene with a cable that hangs between two ends and keeps its length as they
// move: laid strands that do not swim, and clamps evenly along them. Errors say which answer is
// not accepted.
func Cable(c CableSpec) (*scene.Document, error) {
	if !(c.Apart >= 0.05 && c.Apart <= 1000) {
		return nil, fmt.Errorf("ends %g m apart are not accepted: from 0.05 to 1000 m are", c.Apart)
	}
	if !(c.Length > c.Apart*1.0001 && c.Length <= 20*c.Apart) {
		return nil, fmt.Errorf("a cable %g m long does not hang between ends %g m apart: more than that and up to %g m are accepted", c.Length, c.Apart, 20*c.Apart)
	}
	if c.Strands < 1 || c.Strands > 12 {
		return nil, fmt.Errorf("%d strands are not accepted: from 1 to 12 are", c.Strands)
	}
	if c.Holder != Holders[0] && c.Holder != Holders[1] {
		return nil, fmt.Errorf("%q holds no cable: %s and %s are accepted", c.Holder, Holders[0], Holders[1])
	}
	radius := c.Length * 0.006
	high := c.Length*0.5 + 4*radius
	hang := &scene.HangShape{From: scene.Vec3{0, high, -c.Apart / 2}, To: scene.Vec3{0, high, c.Apart / 2}, Length: c.Length}
	d := &scene.Document{Bead: scene.Version, Name: "New cable", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: 96},
		Paths: []scene.Path{{ID: "cable-line", Name: "Cable line", Shape: scene.PathShape{Hang: hang}}},
		Parts: []scene.Part{
			{ID: "strands", Name: "Strands", Shape: scene.PartShape{Strands: &part.StrandsSize{Length: c.Length, Count: c.Strands, Radius: radius, Lay: 14 * radius}}},
			{ID: "clamp", Name: "Clamp", Shape: scene.PartShape{Tube: &part.TubeSize{Length: 2.4 * radius, Radius: 1.45 * radius, Bore: 1.02 * radius}}}},
		Rigs: []scene.Rig{
			{ID: "cable", Name: "Cable", Path: "cable-line", Part: "strands", Facing: scene.Facing{Mode: facing.LeastTwist}, Body: &scene.Body{}},
			{ID: "clamps", Name: "Clamps", Path: "cable-line", Part: "clamp", Facing: scene.Facing{Mode: facing.LeastTwist},
				Offset: constant(c.Length / (clamps - 0.5) / 4),
				Train:  &scene.Train{Spacing: scene.Spacing{Mode: place.SetPitch, Count: clamps, Pitch: c.Length / (clamps - 0.5), Rest: place.RestSlack}}}},
	}
	if c.Holder == Holders[1] {
		hang.ToOn = "holder"
		by := min(0.25*(c.Length-c.Apart), 0.2*c.Apart)
		swing := func(a float64) motion.Value {
			return motion.Value{Keys: []motion.Key{{Frame: 1, Shape: motion.Eased}, {Frame: 49, Value: a, Shape: motion.Eased}, {Frame: 97}}, Before: motion.Repeat, After: motion.Repeat}
		}
		d.Carriers = []scene.Carrier{{ID: "holder", Name: "Holder", At: [3]motion.Value{constant(0), swing(by), swing(by / 2)}}}
	}
	d.FillDefaults()
	return d, nil
}

// Doings are what a creature can do.
var Doings = []string{"swims", "glides"}

// CreatureSpec is what a creature is made of: its length in metres, what it does, and how many
// waves run along it a second.
type CreatureSpec struct {
	Length float64
	Does   string
	Waves  float64
}

// Creature returns a scene with an eel on a loop with S bends above the ground: swimming, with whole
// waves over the range, or gliding. Errors say which answer is not
// accepted.
func Creature(c CreatureSpec) (*scene.Document, error) {
	if !(c.Length >= 0.01 && c.Length <= 100) {
		return nil, fmt.Errorf("a creature %g m long is not accepted: from 0.01 to 100 m are", c.Length)
	}
	if !(c.Waves >= 0 && c.Waves <= 10) {
		return nil, fmt.Errorf("%g waves a second are not accepted: from 0 to 10 are", c.Waves)
	}
	if c.Does != Doings[0] && c.Does != Doings[1] {
		return nil, fmt.Errorf("%q is not known: %s and %s are", c.Does, Doings[0], Doings[1])
	}
	l := c.Length
	const frames, fps = 192, 24
	seconds := float64(frames) / fps
	point := func(x, z float64) scene.Point { return scene.Point{At: scene.Vec3{x * l, 0.35 * l, z * l}} }
	d := &scene.Document{Bead: scene.Version, Name: "New creature", Units: "mm", FPS: fps, Range: scene.Range{First: 1, Last: frames},
		Paths: []scene.Path{{ID: "way", Name: "Way", Shape: scene.PathShape{Spline: &scene.SplineShape{Closed: true, Points: []scene.Point{
			point(-1, -1.4), point(0.5, -1.5), point(0.55, 0), point(1, 1.4), point(-0.5, 1.5), point(-0.55, 0)}}}}},
		Parts: []scene.Part{{ID: "eel", Name: "Eel", Shape: scene.PartShape{Eel: &part.EelSize{Length: l, Girth: 0.11 * l}}}},
		Rigs: []scene.Rig{{ID: "creature", Name: "Creature", Path: "way", Part: "eel", Facing: scene.Facing{Mode: facing.Steady},
			Travel: motion.Value{Turns: &motion.Turning{Turns: 1}},
			Body:   &scene.Body{Anchor: scene.AtHead, Blends: []scene.BlendAmount{{Name: part.JawBlend}}}}},
	}
	if c.Does == Doings[0] {
		waves := math.Round(c.Waves*seconds) / seconds // whole ones over the range
		d.Paths[0].Steps = []scene.Step{{Wave: &scene.WaveStep{Side: constant(0.06 * l), Wavelength: 0.8 * l,
			Phase: motion.Value{Speed: &motion.Speed{PerSecond: -waves}}}}}
	}
	d.FillDefaults()
	return d, nil
}

func constant(v float64) motion.Value { return motion.Value{Const: v} }
