package begin

import (
	"fmt"
	"math"
	"slices"

	"bead/core/facing"
	"bead/core/mech"
	"bead/core/motion"
	"bead/core/part"
	"bead/core/scene"
)

// What a roll can begin on, and what it can do.
var (
	RollGrounds = []string{"humps", "level"}
	RollWays    = []string{"lays it out", "winds it up"}
)

// RollSpec is what a roll is made of: how long and how wide its sheet is in metres, what it is on,
// and what it does.
type RollSpec struct {
	Length, Width float64
	Ground, Does  string
}

// Roll returns a scene with a roll that lays out its sheet in four seconds and rolls away, or winds
// it up. Errors say which answer is not accepted.
func Roll(r RollSpec) (*scene.Document, error) {
	for _, x := range []struct {
		what string
		v    float64
	}{{"long", r.Length}, {"wide", r.Width}} {
		if !(x.v >= 0.01 && x.v <= 500) {
			return nil, fmt.Errorf("a sheet %g m %s is not accepted: from 0.01 to 500 m are", x.v, x.what)
		}
	}
	if r.Ground == "" {
		r.Ground = RollGrounds[0]
	}
	if r.Does == "" {
		r.Does = RollWays[0]
	}
	if !slices.Contains(RollGrounds, r.Ground) {
		return nil, fmt.Errorf("%q is no ground of a roll: %v are", r.Ground, RollGrounds)
	}
	if !slices.Contains(RollWays, r.Does) {
		return nil, fmt.Errorf("%q is nothing that a roll does: %v are", r.Does, RollWays)
	}
	nice := func(v float64) float64 { return math.Round(v*1e4) / 1e4 }
	core := max(nice(0.012*r.Length), 1e-4)
	sheet := mech.Roll{Thickness: max(nice(0.0012*r.Length), 1e-5), Core: core}
	full := sheet.FullFor(r.Length)
	away := 6 * full
	d := &scene.Document{Bead: scene.Version, Name: "New roll", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: 132}, Plays: scene.PlaysOnce,
		Paths: []scene.Path{{ID: "way", Name: "Way", Shape: scene.PathShape{Line: &scene.LineShape{To: scene.Vec3{0, 0, r.Length + away}}}}},
		Parts: []scene.Part{{ID: "core", Name: "Core", Forward: "+x", Shape: scene.PartShape{Tube: &part.TubeSize{Length: r.Width * 1.04, Radius: core, Bore: core * 0.7}}}},
		Rigs: []scene.Rig{{ID: "roll", Name: "Roll", Path: "way", Part: "core", Facing: scene.Facing{Mode: facing.Steady},
			Payout: &scene.Payout{Width: r.Width, Thickness: sheet.Thickness, Radius: full, Core: core, Winds: r.Does == RollWays[1]}}}}
	if r.Ground == RollGrounds[0] {
		d.Ground = &scene.Ground{}
		for _, at := range []float64{0.25, 0.55, 0.85} {
			d.Ground.Humps = append(d.Ground.Humps, scene.Hump{Z: at * r.Length, Length: r.Length / 4, Height: r.Length / 80})
		}
		d.Paths[0].Steps = []scene.Step{{Drop: &scene.DropStep{Flat: true}}}
	}
	rig := &d.Rigs[0]
	const first, out, last = 1, 97, 126
	speed := r.Length / (out - first)
	rig.Travel = motion.Value{Keys: []motion.Key{{Frame: first, Shape: motion.Straight}, {Frame: out, Value: r.Length}}, After: motion.CarryOn}
	// It goes on as fast as it came and slows down.
	rig.Payout.Away = motion.Value{Keys: []motion.Key{
		{Frame: out, Shape: motion.Free, Out: &[2]float64{(last - out) / 3., speed * (last - out) / 3}},
		{Frame: last, Value: min(away/2, speed*(last-out)*0.6), In: &[2]float64{-(last - out) / 3., 0}}}}
	d.FillDefaults()
	return d, nil
}
