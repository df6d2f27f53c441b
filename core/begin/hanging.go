package begin

import (
	"fmt"
	"math"
	"slices"

	"bead/core/facing"
	"bead/core/motion"
	"bead/core/part"
	"bead/core/scene"
)

// Hangings are what cloth can begin as.
var Hangings = []string{"pennants on a line", "curtain on rings", "sheet by two corners"}

// HangingSpec is what a cloth is made of: how it hangs, how wide and how high it is in metres, and
// its fabric.
type HangingSpec struct {
	As          string
	Width, Drop float64
	Fabric      string
}

// FabricNames are the names of the fabrics that cloth can begin with.
func FabricNames() []string {
	var out []string
	for _, f := range scene.Fabrics {
		out = append(out, f.Name)
	}
	return out
}

// Hanging returns a scene with cloth on a line, in a breeze or drawn open and shut. Errors say which
// answer is not accepted.
func Hanging(h HangingSpec) (*scene.Document, error) {
	for _, x := range []struct {
		what string
		v    float64
	}{{"wide", h.Width}, {"high", h.Drop}} {
		if !(x.v >= 0.02 && x.v <= 200) {
			return nil, fmt.Errorf("a cloth %g m %s is not accepted: from 0.02 to 200 m are", x.v, x.what)
		}
	}
	if h.As == "" {
		h.As = Hangings[0]
	}
	if !slices.Contains(Hangings, h.As) {
		return nil, fmt.Errorf("%q is no way for cloth to hang: %v are", h.As, Hangings)
	}
	k := slices.IndexFunc(scene.Fabrics, func(f scene.NamedFabric) bool { return f.Name == h.Fabric })
	if h.Fabric == "" {
		k = 0
	}
	if k < 0 {
		return nil, fmt.Errorf("%q is no fabric: %v are", h.Fabric, FabricNames())
	}
	squares := func(long, of float64, most int) int { return min(max(int(math.Round(long/of)), 3), most) }
	high := h.Drop * 1.35
	drape := &scene.Drape{Fabric: scene.Fabrics[k].Fabric, Damping: 1, Friction: 0.3, Settle: 1, Rounds: 1, Ease: 24, Wrinkle: h.Drop / 400, Seed: 5}
	sheet := part.SheetSize{Length: h.Width, Drop: h.Drop}
	d := &scene.Document{Bead: scene.Version, Name: "New cloth", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: 96},
		Rigs: []scene.Rig{{ID: "cloth", Name: "Cloth", Path: "line", Part: "sheet", Facing: scene.Facing{Mode: facing.Steady}, Drape: drape}}}
	line := h.Width * 1.1
	switch h.As {
	case Hangings[0]:
		// Six of them, a third of their width apart.
		const count = 6
		sheet.Foot = 0.12
		cell := math.Max(h.Width, h.Drop) / 9
		sheet.Along, sheet.Down = squares(h.Width, cell, 12), squares(h.Drop, cell, 12)
		drape.Count, drape.Pitch = count, h.Width*1.33
		line = drape.Pitch*count - 0.33*h.Width
		drape.Air = scene.Flow{Medium: scene.MediumAir, Speed: scene.Vec3{2.5, 0, 0.6}, Gusts: 0.7}
	case Hangings[1]:
		// Twelve rings; drawn to half its width and back.
		const rings = 12
		sheet.Along, sheet.Down = 4*rings, squares(h.Drop, h.Width/(4*rings), 60)
		drape.Hang, drape.Every, drape.Fit = scene.HangEvery, 4, scene.FitReach
		drape.Head = motion.Value{Keys: []motion.Key{{Frame: 1, Value: h.Width * 0.98, Shape: motion.Eased}, {Frame: 49, Value: h.Width * 0.5, Shape: motion.Eased}, {Frame: 97, Value: h.Width * 0.98}}}
		drape.Damping, drape.Rounds, drape.Ease = 2, 3, 6
	default:
		cell := math.Max(h.Width, h.Drop) / 24
		sheet.Along, sheet.Down = squares(h.Width, cell, 24), squares(h.Drop, cell, 24)
		drape.Hang = scene.HangCorners
		drape.Air = scene.Flow{Medium: scene.MediumAir, Speed: scene.Vec3{1.5, 0, 0}, Gusts: 0.6}
		line = h.Width
	}
	d.Parts = []scene.Part{{ID: "sheet", Name: "Sheet", Shape: scene.PartShape{Sheet: &sheet}}}
	d.Paths = []scene.Path{{ID: "line", Name: "Line", Shape: scene.PathShape{Line: &scene.LineShape{From: scene.Vec3{0, high, -line / 2}, To: scene.Vec3{0, high, line / 2}}}}}
	d.FillDefaults()
	return d, nil
}
