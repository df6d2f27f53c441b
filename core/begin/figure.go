package begin

import (
	"fmt"
	"math"
	"slices"

	"bead/core/facing"
	"bead/core/motion"
	"bead/core/scene"
)

// FigureGrounds are the grounds on which a figure can begin.
var FigureGrounds = []string{"level", "humps"}

// FigureSpec is what a figure's scene is made of: its part, how far its cycle goes in a round, which may be
// told where its keys do not go, and how fast by its keys (m and m/s); how long its way is straight, in how
// many bends it goes, how many figures there are, and what they are on.
type FigureSpec struct {
	Part         scene.Part
	Stride, Pace float64
	Told         bool
	Length       float64
	Bends, Count int
	Ground       string
}

// Figure returns a scene in which figures go along an S at their own pace, over a range that lasts until
// the first comes to its end. Errors say which answer is not accepted.
func Figure(f FigureSpec) (*scene.Document, error) {
	if !(f.Length >= 4*f.Stride && f.Length <= 1000*f.Stride) {
		return nil, fmt.Errorf("a way of %g m is not accepted: from %.3g to %.3g m are", f.Length, 4*f.Stride, 1000*f.Stride)
	}
	most := max(int(f.Length/(8*f.Stride)), 1)
	if f.Bends < 0 || f.Bends > most {
		return nil, fmt.Errorf("%d bends are not accepted on %g m: from 0 to %d are", f.Bends, f.Length, most)
	}
	if f.Count < 1 || f.Count > 100 {
		return nil, fmt.Errorf("%d figures are not accepted: from 1 to 100 are", f.Count)
	}
	if f.Ground == "" {
		f.Ground = FigureGrounds[0]
	}
	if !slices.Contains(FigureGrounds, f.Ground) {
		return nil, fmt.Errorf("%q is no ground of a figure: %v are", f.Ground, FigureGrounds)
	}
	way := scene.PathShape{Line: &scene.LineShape{To: scene.Vec3{0, 0, f.Length}}}
	if f.Bends > 0 {
		way = scene.PathShape{Weave: &scene.WeaveShape{Length: f.Length, Width: f.Length / float64(f.Bends) / 10, Bends: f.Bends}}
	}
	pitch := 3 * f.Stride
	from := f.Stride
	frames := int(math.Ceil((f.Length-2*f.Stride)/f.Pace*24)) + 1
	d := &scene.Document{Bead: scene.Version, Name: "New figure", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: min(frames, scene.MaxFrames)}, Plays: scene.PlaysOnce,
		Paths: []scene.Path{{ID: "way", Name: "Way", Shape: way}},
		Parts: []scene.Part{f.Part},
		Rigs: []scene.Rig{{ID: "figure", Name: f.Part.Name, Path: "way", Part: f.Part.ID, Facing: scene.Facing{Mode: facing.Steady, Bank: &scene.Bank{Share: 1, Limit: 10, Lead: 2}},
			Travel: motion.Value{Speed: &motion.Speed{PerSecond: f.Pace, Start: from}}, Cycle: &scene.Cycle{Count: f.Count, Pitch: pitch, Phase: 0.3}}}}
	if f.Told {
		d.Rigs[0].Cycle.Stride = f.Stride
	}
	if f.Count == 1 {
		d.Rigs[0].Cycle.Pitch, d.Rigs[0].Cycle.Phase = 0, 0
	}
	if f.Ground == FigureGrounds[1] {
		d.Ground = &scene.Ground{}
		for at := f.Length / 6; at < f.Length; at += f.Length / 4 {
			d.Ground.Humps = append(d.Ground.Humps, scene.Hump{Z: at, Length: f.Length / 5, Height: min(f.Stride/5, f.Length/100)})
		}
		d.Rigs[0].Cycle.Ground = true
	}
	d.FillDefaults()
	return d, nil
}
