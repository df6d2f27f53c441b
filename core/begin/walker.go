package begin

import (
	"fmt"
	"math"

	"bead/core/facing"
	"bead/core/motion"
	"bead/core/part"
	"bead/core/scene"
)

// WalkerSpec is what a walker is made of: the stride from foot to foot and how far each terrace
// lies below the one before, in metres, the frames that a step takes, and how many it makes.
type WalkerSpec struct {
	Stride, Down  float64
	Frames, Steps int
}

// Proportions of a walker for a stride of 1: its arches' height, and its coil.
const (
	archHeight = 0.85
	coilRadius = 0.15
	coilTurns  = 14
	coilPitch  = 0.024
	coilWire   = 0.0105
)

// mostSteps is how many a walker makes at most.
const mostSteps = 100

// Walker returns a scene with a coil that goes down terraces, turning over at each: its head reaches
// ahead along an arch, its tail follows and overshoots, and the next copy goes on where it stands,
// each shown in its own round, so that the picture repeats. Errors say which answer is not accepted.
func Walker(w WalkerSpec) (*scene.Document, error) {
	if !(w.Stride >= 0.01 && w.Stride <= 100) {
		return nil, fmt.Errorf("a stride of %g m is not accepted: from 0.01 to 100 m are", w.Stride)
	}
	k := w.Stride
	legs := (archHeight - 0.5) * k // an arch's corners have half its width as radius
	if most := 0.8 * legs; !(w.Down >= 0 && w.Down <= most) {
		return nil, fmt.Errorf("a terrace %g m down is not accepted with a stride of %g m: from 0 to %.3g m are", w.Down, k, most)
	}
	if w.Frames < 12 || w.Frames > 240 {
		return nil, fmt.Errorf("%d frames a step are not accepted: from 12 to 240 are", w.Frames)
	}
	walkerSteps := w.Steps
	if walkerSteps < 1 || walkerSteps > mostSteps {
		return nil, fmt.Errorf("%d steps are not accepted: from 1 to %d are", walkerSteps, mostSteps)
	}
	middle := float64(walkerSteps) / 2
	d := &scene.Document{Bead: scene.Version, Name: "New walker", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: walkerSteps * w.Frames},
		Parts: []scene.Part{{ID: "coil", Name: "Coil", Shape: scene.PartShape{Coil: &part.CoilSize{Radius: coilRadius * k, Wire: coilWire * k, Turns: coilTurns, Pitch: coilPitch * k}}}}}
	const lift = 2 * coilWire
	top := func(n int) float64 { return w.Down*float64(walkerSteps+1-n) + lift*k }
	var joined []string
	for n := range walkerSteps {
		// Each arch stands on the terrace to which it leads; its first leg is cut off at its own.
		p := scene.Path{ID: fmt.Sprintf("arch-%d", n+1), Name: fmt.Sprintf("Arch %d", n+1), Shape: scene.PathShape{Arch: &scene.ArchShape{
			Base: scene.Vec3{0, top(n + 1), (float64(n) + 0.5 - middle) * k}, Width: k, Height: archHeight * k, Radius: 0.5 * k, Plane: "side"}}}
		if w.Down > 0 {
			p.Steps = []scene.Step{{Trim: &scene.TrimStep{From: w.Down}}}
		}
		if n == 0 {
			p.ID, p.Name = "way", "Way"
		} else {
			joined = append(joined, p.ID)
		}
		d.Paths = append(d.Paths, p)
	}
	if joined != nil {
		d.Paths[0].Steps = append(d.Paths[0].Steps, scene.Step{Join: &scene.JoinStep{Paths: joined, Keep: true, Snap: 1e-6 * k}})
	}
	if w.Down > 0 {
		d.Parts = append(d.Parts, scene.Part{ID: "terrace", Name: "Terrace", Shape: scene.PartShape{Box: &scene.BoxShape{Side: k, Height: w.Down, Length: k}}})
		for n := range walkerSteps + 1 {
			d.Fixtures = append(d.Fixtures, scene.Fixture{ID: fmt.Sprintf("terrace-%d", n+1), Name: fmt.Sprintf("Terrace %d", n+1), Part: "terrace",
				At: scene.Vec3{0, top(n) - lift*k - w.Down/2, (float64(n) - middle) * k}})
		}
	}
	arch := 2*legs + math.Pi*k/2 - w.Down // along the way, from foot to foot
	coil := coilTurns * coilPitch * k
	at := func(share, value float64) motion.Key {
		return motion.Key{Frame: 1 + math.Round(share*float64(w.Frames)), Value: value, Shape: motion.Eased}
	}
	d.Rigs = []scene.Rig{{ID: "walker", Name: "Walker", Path: "way", Part: "coil", Facing: scene.Facing{Mode: facing.Steady, Up: &scene.Vec3{1, 0, 0}},
		Body: &scene.Body{Fit: scene.FitReach,
			// The tail comes down past its place, is pressed together, and swings back.
			Tail:   motion.Value{Keys: []motion.Key{at(0, 0), at(0.36, 0), at(0.78, arch-0.91*coil), at(0.89, arch-1.02*coil), at(1, arch-coil)}},
			Head:   motion.Value{Keys: []motion.Key{at(0, coil), at(0.08, 0.85*coil), at(0.56, arch), at(1, arch)}},
			Rounds: &scene.Rounds{Count: walkerSteps, Frames: float64(w.Frames), Stride: arch}}}}
	d.FillDefaults()
	return d, nil
}
