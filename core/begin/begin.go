// Package begin makes working rigs of a few answers: a tread on its wheels, a chain round
// its sprockets, to be changed from there on.
package begin

import (
	"fmt"
	"math"

	"bead/core/facing"
	"bead/core/mech"
	"bead/core/motion"
	"bead/core/part"
	"bead/core/place"
	"bead/core/rig"
	"bead/core/scene"
)

// Grounds are what a tread can begin on.
var Grounds = []string{"level", "hump", "rough"}

// Drives are the ways a tread can be driven.
var Drives = []string{"rolls over the ground", "runs on the spot"}

// TreadSpec is what a tread is made of: its whole length in metres, what it stands on and
// what drives it.
type TreadSpec struct {
	Length float64
	Ground string
	Drive  string
}

// The tread that all are scaled from: its length over the shoes.
const treadLength, shoes = 5.41, 62

// Tread returns a scene with a tread of 62 shoes round a sprocket, an idler, two return
// rollers and five sprung road wheels. Errors say which answer is not accepted.
func Tread(t TreadSpec) (*scene.Document, error) {
	if !(t.Length >= 0.05 && t.Length <= 100) {
		return nil, fmt.Errorf("a tread %g m long is not accepted: from 0.05 to 100 m are", t.Length)
	}
	k := t.Length / treadLength
	pitch := 0.19 * k
	shoe := part.ShoeSize{Length: pitch, Width: 0.52 * k, Height: 0.044 * k, Grouser: 0.036 * k, Horn: 0.07 * k}
	depth := shoe.Height/2 + shoe.Grouser
	at := func(y, z float64) scene.Vec3 { return scene.Vec3{0, y * k, z * k} }
	wheels := []scene.Wheel{
		{Name: "Sprocket", At: at(0.88, -2.17), Teeth: 15, Pitch: pitch, Slack: true},
		{Name: "Return roller rear", At: at(1.13, -0.85), Radius: 0.1 * k, Slack: true},
		{Name: "Return roller front", At: at(1.13, 0.85), Radius: 0.1 * k, Slack: true},
		{Name: "Idler", At: at(0.84, 2.27), Radius: 0.36 * k},
	}
	for n, z := range []float64{1.56, 0.78, 0, -0.78, -1.56} {
		y := 0.25 + depth/k
		arm := at(y+0.16, z+0.42)
		wheels = append(wheels, scene.Wheel{Name: fmt.Sprintf("Road wheel %d", n+1), At: at(y, z), Radius: 0.25 * k,
			Ground: true, Spring: &scene.Spring{Arm: &arm, Up: 0.12 * k, Down: 0.1 * k}})
	}
	d := &scene.Document{Bead: scene.Version, Name: "New tread", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: 96},
		Carriers: []scene.Carrier{{ID: "chassis", Name: "Chassis", Ground: &scene.OnGround{Soften: 5}}},
		Paths: []scene.Path{{ID: "belt", Name: "Belt", Carrier: "chassis", Shape: scene.PathShape{Wrap: &scene.WrapShape{
			Wheels: wheels, Keep: &scene.KeptLength{Links: shoes, Pitch: pitch, Pins: true}, Depth: depth, Anchor: 5, Width: 0.16 * k}}}},
		Parts: []scene.Part{{ID: "shoe", Name: "Shoe", Shape: scene.PartShape{Shoe: &shoe}}},
		Rigs: []scene.Rig{{ID: "tread", Name: "Tread", Path: "belt", Part: "shoe", Facing: scene.Facing{Mode: facing.Loopside},
			Train: &scene.Train{Seat: scene.SeatEnds, Spacing: scene.Spacing{Mode: place.SetCount, Count: shoes}}}},
	}
	way := 4.18 * k // 44 pitches of the belt from end to end but for the ground's own rise
	switch t.Ground {
	case "level", "":
		way = 4.18 * k
	case "hump":
		way = 4.6 * k
		d.Ground = &scene.Ground{Humps: []scene.Hump{{Length: 4.4 * k, Height: 0.24 * k}}}
	case "rough":
		d.Ground = &scene.Ground{Rough: &scene.Rough{Seed: 7, Amount: 0.06 * k, Grain: 0.8 * k, From: -7 * k, To: 7 * k}}
	default:
		return nil, fmt.Errorf("%q is no ground to begin on: %v are", t.Ground, Grounds)
	}
	r := &d.Rigs[0]
	switch t.Drive {
	case Drives[0], "":
		if t.Ground == "rough" {
			d.Plays = scene.PlaysOnce // it never stands on the same ground again
		}
		r.Travel = motion.Value{Rolls: &motion.Rolling{Rolls: "chassis"}}
		if err := driveOver(d, way, pitch); err != nil {
			return nil, err
		}
	case Drives[1]:
		// Twelve shoes over the range.
		r.Travel = motion.Value{Speed: &motion.Speed{PerSecond: 12 * pitch * d.FPS / float64(d.Range.Count())}}
	default:
		return nil, fmt.Errorf("%q is no drive of a tread: %v are", t.Drive, Drives)
	}
	d.FillDefaults()
	return d, nil
}

// driveOver drives the chassis evenly from one side of the ground to the other, about as
// far as asked: so far that the tread moves on by whole shoes and the loop meets.
func driveOver(d *scene.Document, way, pitch float64) error {
	first, last := float64(d.Range.First), float64(d.Range.Last+1)
	for range 4 {
		d.Carriers[0].At[2] = motion.Value{Keys: []motion.Key{{Frame: first, Value: -way, Shape: motion.Straight}, {Frame: last, Value: way}}, After: motion.CarryOn, Before: motion.CarryOn}
		d.FillDefaults()
		s, err := rig.Compile(d)
		if err != nil {
			return err
		}
		moved := s.Rigs[0].Travel(last) - s.Rigs[0].Travel(first)
		off := math.Remainder(moved, pitch)
		if math.Abs(off) < 1e-9*pitch {
			break
		}
		way -= off / 2
	}
	return nil
}

// Pitches are the common pitches of roller chains in metres (from memory: ISO 606's).
var Pitches = []float64{0.009525, 0.0127, 0.015875, 0.01905, 0.0254}

// ChainSpec is what a chain is made of: its pitch in metres, the teeth of its sprockets
// and the turns a minute of the driver.
type ChainSpec struct {
	Pitch          float64
	Driver, Driven int
	RPM            float64
}

// Chain returns a scene with a roller chain of inner and outer links round two sprockets,
// an even number of links whose lower run hangs a little. Errors say which answer is not
// accepted.
func Chain(c ChainSpec) (*scene.Document, error) {
	if !(c.Pitch >= 1e-4 && c.Pitch <= 10) {
		return nil, fmt.Errorf("a pitch of %g m is not accepted: from 0.0001 to 10 m are", c.Pitch)
	}
	for _, n := range []int{c.Driver, c.Driven} {
		if n < 6 || n > 400 {
			return nil, fmt.Errorf("a sprocket of %d teeth is not accepted: from 6 to 400 are", n)
		}
	}
	if !(math.Abs(c.RPM) <= 1e5) {
		return nil, fmt.Errorf("%g turns a minute are not accepted: up to 100000 are", c.RPM)
	}
	// About thirty pitches apart, or clear of one another by eight (common practice: 30 to 50).
	r1, r2 := mech.PitchDiameter(1, c.Driver)/2, mech.PitchDiameter(1, c.Driven)/2
	wished, err := mech.ExactLength(c.Driver, c.Driven, max(25, r1+r2+8))
	if err != nil {
		return nil, err
	}
	links := 2 * int(math.Ceil(wished/2))
	centres, err := mech.CentresFor(c.Driver, c.Driven, float64(links)-mech.Spare)
	if err != nil {
		return nil, err
	}
	p := c.Pitch
	y := (max(r1, r2) + 4) * p
	size := part.LinkSize{Pitch: p, Width: 0.61 * p, Height: 0.92 * p, Plate: 0.13 * p, Roller: 0.33 * p}
	outer := size
	outer.Outer = true
	d := &scene.Document{Bead: scene.Version, Name: "New chain", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: 96},
		Paths: []scene.Path{{ID: "chain-line", Name: "Chain line", Shape: scene.PathShape{Wrap: &scene.WrapShape{
			Wheels: []scene.Wheel{
				{Name: "Driver", At: scene.Vec3{0, y, -centres * p / 2}, Teeth: c.Driver, Pitch: p},
				{Name: "Driven", At: scene.Vec3{0, y, centres * p / 2}, Teeth: c.Driven, Pitch: p, Slack: true},
			},
			Keep: &scene.KeptLength{Links: links, Pitch: p, Pins: true}, Anchor: 1, Width: 0.55 * p}}}},
		Parts: []scene.Part{{ID: "inner-link", Name: "Inner link", Shape: scene.PartShape{Link: &size}},
			{ID: "outer-link", Name: "Outer link", Shape: scene.PartShape{Link: &outer}}},
		Rigs: []scene.Rig{{ID: "chain", Name: "Chain", Path: "chain-line", Part: "inner-link", Facing: scene.Facing{Mode: facing.Loopside},
			Train: &scene.Train{Seat: scene.SeatEnds, Spacing: scene.Spacing{Mode: place.SetCount, Count: links},
				Others: []scene.Others{{Part: "outer-link", Every: 2}}},
			Travel: motion.Value{RPM: &motion.Spun{RPM: c.RPM, Radius: float64(c.Driver) * p / (2 * math.Pi)}}}},
	}
	if frames, ok := wholePitches(c, d.FPS, d.Range.Count()); ok {
		d.Range.Last = d.Range.First + frames - 1
	} else {
		d.Plays = scene.PlaysOnce
	}
	d.FillDefaults()
	return d, nil
}

// wholePitches is the number of frames nearest to the one asked for over which the chain goes
// on by whole pairs of pitches, from 24 to 960, so that inner links come to inner ones.
func wholePitches(c ChainSpec, fps float64, asked int) (frames int, ok bool) {
	pairs := float64(c.Driver) * math.Abs(c.RPM) / 60 / fps / 2 // a frame
	for n := 24; n <= 960; n++ {
		off := float64(n)*pairs - math.Round(float64(n)*pairs)
		if math.Abs(off) > 1e-9*max(1, float64(n)*pairs) || pairs > 0 && float64(n)*pairs < 0.5 {
			continue
		}
		if d := n - asked; !ok || max(d, -d) < max(frames-asked, asked-frames) {
			frames, ok = n, true
		}
	}
	return frames, ok
}
