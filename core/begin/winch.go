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

// Loads are the ways of a winch's load.
var Loads = []string{"down a slope and up again", "away over the ground and back", "hangs over a wheel"}

// WinchSpec is what a winch is made of: how far its load goes and how thick the rope is, in metres,
// and which way the load goes.
type WinchSpec struct {
	Out, Rope float64
	Load      string
}

// Winch returns a scene with a drum on legs that pays a load's rope out over two seconds and a half and
// winds it up again. Errors say which answer is not accepted.
func Winch(w WinchSpec) (*scene.Document, error) {
	if !(w.Out >= 0.1 && w.Out <= 200) {
		return nil, fmt.Errorf("%g m are not accepted: from 0.1 to 200 m are", w.Out)
	}
	if most := w.Out / 60; !(w.Rope >= w.Out/4000 && w.Rope <= most) {
		return nil, fmt.Errorf("a rope %g m thick is not accepted for %g m: from %.3g to %.3g m are", w.Rope, w.Out, w.Out/4000, most)
	}
	if w.Load == "" {
		w.Load = Loads[0]
	}
	if !slices.Contains(Loads, w.Load) {
		return nil, fmt.Errorf("%q is no way of a load: %v are", w.Load, Loads)
	}
	// A drum of four ropes' radius, with two layers of rope on it when all is wound up.
	radius := 4 * w.Rope
	wide := math.Ceil(w.Out*1.3/2/(2*math.Pi*radius*1.2)+1) * w.Rope
	out, first := w.Out, w.Out/4
	wound := out * 1.15
	var hub, near, far scene.Vec3
	const slack = 1.005
	if w.Load == Loads[0] {
		hub = scene.Vec3{0, (out+first)*0.6 + out/10, 0}
		near, far = scene.Vec3{0, hub[1] - first*0.6, first * 0.8}, scene.Vec3{0, hub[1] - (first+out)*0.6, (first + out) * 0.8}
	} else {
		hub = scene.Vec3{0, out/4 + radius, 0}
		near, far = scene.Vec3{0, out / 20, first + out/4}, scene.Vec3{0, out / 20, first + out/4 + out}
	}
	drum := mech.Drum{Radius: radius, Width: wide, Rope: w.Rope}
	if w.Load == Loads[2] {
		return hoist(w, drum, wound)
	}
	// What is off the drum from its top on, drawn tight: over the drum down to where it leaves it, and on.
	tight := func(to scene.Vec3, wound float64) float64 {
		r := drum.At(wound).Radius
		d := math.Hypot(to[1]-hub[1], to[2])
		return math.Sqrt(d*d-r*r) + r*(math.Atan2(hub[1]-to[1], to[2])+math.Asin(r/d))
	}
	length := tight(near, wound) * slack
	paid := tight(far, wound-out)*slack - length
	d := &scene.Document{Bead: scene.Version, Name: "New winch", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: 120}, Plays: scene.PlaysLoops,
		Parts: []scene.Part{
			{ID: "drum", Name: "Drum", Forward: "+x", Shape: scene.PartShape{Tube: &part.TubeSize{Length: wide * 1.1, Radius: radius, Bore: radius / 2}}},
			{ID: "rope", Name: "Rope", Shape: scene.PartShape{Tube: &part.TubeSize{Length: w.Out, Radius: w.Rope / 2}}, Segments: 160},
			{ID: "load", Name: "Load", Shape: scene.PartShape{Box: &scene.BoxShape{Side: out / 12, Height: out / 12, Length: out / 8}}},
			{ID: "leg", Name: "Leg", Shape: scene.PartShape{Post: &scene.PostShape{Radius: radius / 2, Height: hub[1]}}}},
		Paths: []scene.Path{{ID: "line", Name: "Rope line", Shape: scene.PathShape{Hang: &scene.HangShape{From: hub, To: near, Length: length, ToOn: "load", Drum: "drum"}}}},
		Rigs: []scene.Rig{
			{ID: "drum", Name: "Drum", Path: "line", Part: "drum", Facing: scene.Facing{Mode: facing.Steady}, Travel: between(0, paid),
				Drum: &scene.Drum{Radius: radius, Width: wide, Rope: w.Rope, Wound: wound}},
			{ID: "rope", Name: "Rope", Path: "line", Part: "rope", Facing: scene.Facing{Mode: facing.LeastTwist}, Body: &scene.Body{Fit: scene.FitWhole}}}}
	load := scene.Carrier{ID: "load", Name: "Load", At: [3]motion.Value{{}, between(near[1], far[1]), between(near[2], far[2])}}
	d.Carriers = []scene.Carrier{load}
	d.Fixtures = []scene.Fixture{{ID: "load", Name: "Load", Part: "load", Carrier: "load", At: scene.Vec3{0, -out / 24, 0}}}
	for i, side := range []float64{-1, 1} {
		d.Fixtures = append(d.Fixtures, scene.Fixture{ID: fmt.Sprintf("leg-%d", i+1), Name: []string{"Leg starboard", "Leg port"}[i], Part: "leg",
			At: scene.Vec3{side * (wide*0.55 + radius/2), 0, 0}})
	}
	d.FillDefaults()
	return d, nil
}

// between is a value that goes from one to another in two seconds and a half, and back.
func between(a, b float64) motion.Value {
	if a == b {
		return motion.Value{Const: a}
	}
	return motion.Value{Keys: []motion.Key{{Frame: 1, Value: a, Shape: motion.Eased}, {Frame: 61, Value: b, Shape: motion.Eased}, {Frame: 121, Value: a}}}
}

// hoist is a winch whose rope goes up over a wheel and hangs down from it, with the load at its free end.
func hoist(w WinchSpec, drum mech.Drum, wound float64) (*scene.Document, error) {
	out, radius := w.Out, drum.Radius
	wheel := max(2*radius, out/20)
	line := &scene.WrapShape{Plane: "side", Width: wheel / 2, Wheels: []scene.Wheel{{Name: "Wheel", At: scene.Vec3{0, 1.4*out + 2*radius, out / 3}, Radius: wheel}},
		Ends: &scene.BeltEnds{From: scene.Vec3{0, 3 * radius, 0}, Drum: "drum"}}
	wheels, _ := line.Circles()
	at := drum.At(wound)
	used, heading, err := mech.ReeveTaut(line.Start(at.Radius, false), wheels, at.Across)
	if err != nil {
		return nil, err
	}
	// What is off the drum from its top on: up to the wheel, and a tenth of the load's way behind it.
	line.Ends.Length = math.Ceil((used-at.Radius*heading+out/10)*1000) / 1000
	// Chords of 0.3 mm over the wheel, when it is longest.
	segments := int(min(max(math.Ceil((line.Ends.Length+out)/math.Sqrt(8*wheel*0.0003)), 160), 5000))
	d := &scene.Document{Bead: scene.Version, Name: "New winch", Units: "mm", FPS: 24, Range: scene.Range{First: 1, Last: 120}, Plays: scene.PlaysLoops,
		Parts: []scene.Part{
			{ID: "drum", Name: "Drum", Forward: "+x", Shape: scene.PartShape{Tube: &part.TubeSize{Length: drum.Width * 1.1, Radius: radius, Bore: radius / 2}}},
			{ID: "rope", Name: "Rope", Shape: scene.PartShape{Tube: &part.TubeSize{Length: line.Ends.Length + out, Radius: w.Rope / 2}}, Segments: segments},
			{ID: "load", Name: "Load", Pivot: scene.Vec3{0, 0, -out / 20}, Shape: scene.PartShape{Box: &scene.BoxShape{Side: out / 18, Height: out / 18, Length: out / 10}}},
			{ID: "leg", Name: "Leg", Shape: scene.PartShape{Post: &scene.PostShape{Radius: radius / 2, Height: 3 * radius}}},
			{ID: "mast", Name: "Mast", Shape: scene.PartShape{Post: &scene.PostShape{Radius: radius / 2, Height: line.Wheels[0].At[1]}}}},
		Paths: []scene.Path{{ID: "line", Name: "Rope line", Shape: scene.PathShape{Wrap: line}}},
		Rigs: []scene.Rig{
			{ID: "drum", Name: "Drum", Path: "line", Part: "drum", Facing: scene.Facing{Mode: facing.Steady}, Travel: between(0, out),
				Drum: &scene.Drum{Radius: radius, Width: drum.Width, Rope: w.Rope, Wound: wound}},
			{ID: "rope", Name: "Rope", Path: "line", Part: "rope", Facing: scene.Facing{Mode: facing.LeastTwist}, Body: &scene.Body{Fit: scene.FitWhole}},
			{ID: "load", Name: "Load", Path: "line", Part: "load", Facing: scene.Facing{Mode: facing.LeastTwist}, Rider: &scene.Rider{Lead: &scene.Lead{Rig: "rope", At: scene.AtHead}}}}}
	side := drum.Width*0.55 + radius/2
	for i, x := range []float64{-side, side} {
		d.Fixtures = append(d.Fixtures, scene.Fixture{ID: fmt.Sprintf("leg-%d", i+1), Name: []string{"Leg starboard", "Leg port"}[i], Part: "leg", At: scene.Vec3{x, 0, 0}},
			scene.Fixture{ID: fmt.Sprintf("mast-%d", i+1), Name: []string{"Mast starboard", "Mast port"}[i], Part: "mast", At: scene.Vec3{x / math.Abs(x) * (line.Width/2 + radius*0.7), 0, line.Wheels[0].At[2]}})
	}
	d.FillDefaults()
	return d, nil
}
