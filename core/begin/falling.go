package begin

import (
	"fmt"
	"math"
	"slices"

	"bead/core/facing"
	"bead/core/place"
	"bead/core/rig"
	"bead/core/scene"
)

// Ways are the ways on which a falling run can begin.
var Ways = []string{"on an S", "straight", "down a slope", "up a slope"}

// slope is how steep those slopes are, degrees.
const slope = 4

// FallingSpec is what a falling run is made of: how many slabs, how high each is in metres, and
// the way on which they stand.
type FallingSpec struct {
	Count  int
	Height float64
	Way    string
}

// Falling returns a scene with slabs that fall one after another, half a height apart, over a range
// that lasts until the last lies. Errors say which answer is not accepted.
func Falling(f FallingSpec) (*scene.Document, error) {
	if f.Count < 2 || f.Count > 2000 {
		return nil, fmt.Errorf("%d slabs are not accepted: from 2 to 2000 are", f.Count)
	}
	if !(f.Height >= 0.005 && f.Height <= 50) {
		return nil, fmt.Errorf("a slab %g m high is not accepted: from 0.005 to 50 m are", f.Height)
	}
	if f.Way == "" {
		f.Way = Ways[0]
	}
	if !slices.Contains(Ways, f.Way) {
		return nil, fmt.Errorf("%q is no way of a falling run: %v are", f.Way, Ways)
	}
	h := f.Height
	pitch, long := h/2, float64(f.Count-1)*h/2
	shape := scene.PathShape{Line: &scene.LineShape{From: scene.Vec3{0, 0, -long / 2}, To: scene.Vec3{0, 0, long / 2}}}
	var ground *scene.Ground
	if climb := map[string]float64{Ways[2]: -1, Ways[3]: 1}[f.Way] * math.Tan(slope*math.Pi/180); climb != 0 {
		at := func(z float64) scene.GroundPoint { return scene.GroundPoint{Z: z, Height: climb * z} }
		ground = &scene.Ground{Points: []scene.GroundPoint{at(-long/2 - 2*h), at(long/2 + 2*h)}}
		l := shape.Line
		l.From[1], l.To[1] = climb*l.From[2], climb*l.To[2]
	}
	if f.Way == Ways[0] {
		// Bends of four heights or wider: a run follows them.
		swing := long / 12
		shape = scene.PathShape{Spline: &scene.SplineShape{Points: []scene.Point{
			{At: scene.Vec3{0, 0, -long / 2}}, {At: scene.Vec3{swing, 0, -long / 6}},
			{At: scene.Vec3{-swing, 0, long / 6}}, {At: scene.Vec3{0, 0, long / 2}}}}}
	}
	d := &scene.Document{Bead: scene.Version, Ground: ground, Name: "New falling run", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: 96},
		Paths: []scene.Path{{ID: "way", Name: "Way", Shape: shape}},
		Parts: []scene.Part{{ID: "slab", Name: "Slab", Shape: scene.PartShape{Box: &scene.BoxShape{Side: h / 2, Height: h, Length: h * 0.15}}, Pivot: scene.Vec3{0, -h / 2, 0}}},
		Rigs: []scene.Rig{{ID: "slabs", Name: "Slabs", Path: "way", Part: "slab", Facing: scene.Facing{Mode: facing.Steady},
			Train: &scene.Train{Spacing: scene.Spacing{Mode: place.SetCount, Count: f.Count, Pitch: pitch}, Fall: &scene.Fall{First: 13, Push: 8}}}}}
	d.FillDefaults()
	s, err := rig.Compile(d)
	if err != nil {
		return nil, err
	}
	d.Range.Last = int(math.Ceil(s.Rigs[0].Falls().Ends)) + 12
	return d, nil
}
