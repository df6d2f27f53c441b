package formats

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"bead/core/rig"
	"bead/core/scene"
)

// maxSamples bounds what a bake may hold in memory at once, about 1.2 GB.
const maxSamples = 30_000_000

// Options says what to bake.
type Options struct {
	Format string      `json:"format,omitempty" jsonschema:"description=The ending of the file that is wanted."`
	Frames scene.Range `json:"-"`
	// Paths takes the paths along as lines, in formats that hold lines.
	Paths bool `json:"paths,omitempty" jsonschema:"description=The paths go along as lines."`
	// Rigs are the ids of those that are baked; none: all. Those whose part is guide
	// only are left out in any case.
	Rigs []string `json:"rigs,omitempty" jsonschema:"description=The ids of the rigs that are baked; left out: all."`
	// Single makes every piece an object with a mesh of its own, in formats where pieces else share
	// one; its origin is the part's pivot, or its centre where Centred.
	Single  bool `json:"single,omitempty" jsonschema:"description=Every piece has a mesh of its own."`
	Centred bool `json:"centred,omitempty" jsonschema:"description=With single: the origin of a piece is its centre instead of its pivot."`
	// Density, above 0, makes the pieces rigid bodies for a solver, kg/m^3, in formats that know them:
	// single pieces as they stand in the first frame, with mass and colliders.
	Density float64 `json:"density,omitempty" jsonschema:"description=Above 0: pieces as rigid bodies for a solver. kg/m³."`
	// Exact delivers bodies that bend as they are in every frame instead of as joints: in formats that
	// know both.
	Exact bool `json:"exact,omitempty" jsonschema:"description=Bodies that bend as they are in every frame instead of as joints."`
	// InPlace keeps the roots of figures where they are in the first frame, but for their height.
	InPlace bool `json:"inPlace,omitempty" jsonschema:"description=The roots of figures stay where they are in the first frame but for their height."`
	// OwnKeys gives figures keys only at the times of those of their cycle, their layers and
	// their travel, and where without more a joint would be farther than Tolerance, metres, off.
	OwnKeys   bool    `json:"ownKeys,omitempty" jsonschema:"description=Figures have keys where their cycle has them and where tolerance asks for more."`
	Tolerance float64 `json:"tolerance,omitempty" jsonschema:"description=With ownKeys: how far a joint may be off between keys. Metres."`
	// Step bakes every n-th frame, 0 or 1 every one.
	Step int `json:"step,omitempty" jsonschema:"description=Every n-th frame; 0 or 1: every one."`
	// Time says where the time of a file begins: one of Times, "" as the format has it.
	Time string `json:"time,omitempty" jsonschema:"enum=zero,enum=range,enum=frames,enum=,description=Where time begins: at the first frame that is baked or at the first of the range or so that a key's time is its frame's number."`
	// Flat puts everything into the world, in formats where it else hangs from its carriers.
	Flat bool `json:"flat,omitempty" jsonschema:"description=Everything stands in the world instead of below its carriers."`
	// PerRig makes an animation for each rig, and Instanced one node of pieces that stand still.
	PerRig    bool `json:"perRig,omitempty" jsonschema:"description=An animation for each rig instead of one of all."`
	Instanced bool `json:"instances,omitempty" jsonschema:"description=Rigid pieces as instances of one mesh."`
	// ImageSizes says the sizes of images beside them instead of in the texture coordinates.
	ImageSizes bool `json:"imageSizes,omitempty" jsonschema:"description=The sizes of images stand beside them (KHR_texture_transform) with texture coordinates in metres."`
	// Closing bakes the frame after the last, too, of a loop that is baked to its end.
	Closing bool `json:"closing,omitempty" jsonschema:"description=Of a loop that is baked to its end: the frame after the last too which is the first again."`
	// ClipMB is how large a clip may be, MB; 0: 64.
	ClipMB float64 `json:"clipMB,omitempty" jsonschema:"description=How large a file of value clips may be. MB; left out: 64."`
	// Plane is that of a drawing: one of Planes, "" side.
	Plane string `json:"plane,omitempty" jsonschema:"enum=side,enum=ahead,enum=above,enum=,description=The plane of a drawing; left out: side."`
	// Units puts units behind the names of a table's columns.
	Units bool `json:"units,omitempty" jsonschema:"description=Units stand behind the names of a table's columns."`
	// Scene and Revision name the source on a server; "" and 0 of a file.
	Scene    string `json:"-"`
	Revision int64  `json:"-"`
	// Library has the images of materials; nil: those that the document holds.
	Library *Library `json:"-"`
	// Simulated, which may be nil, is called with the number of frames simulated and in all.
	Simulated func(done, of int) `json:"-"`
	// Say, which may be nil, is called with findings on the way.
	Say func(string) `json:"-"`

	stopped func() bool // nobody waits any more
}

func (o *Options) skip(s *rig.Scene) []bool {
	out := make([]bool, len(s.Rigs))
	for i := range out {
		out[i] = s.Doc.Parts[s.Rigs[i].Part].Guide || len(o.Rigs) > 0 && !slices.Contains(o.Rigs, s.Doc.Rigs[i].ID)
	}
	return out
}

// CheckDensity checks a density for rigid bodies, kg/m^3; 0 asks for none.
func CheckDensity(ending string, density float64) error {
	if !(density >= 0 && density <= 1e6) {
		return fmt.Errorf("a density of %g kg/m³ is not accepted: from 0 to 1e6 is", density)
	}
	if f, known := Of(ending); known && density > 0 && !f.Solver {
		return fmt.Errorf("%s knows no rigid bodies: usda and usdz do", ending)
	}
	return nil
}

// Fits reports options that the format does not have, and the formats that do.
func (o *Options) Fits() error {
	f, known := Of(o.Format)
	if !known {
		return fmt.Errorf("%q is no format: %s are accepted", o.Format, strings.Join(Endings(), ", "))
	}
	for _, x := range []struct {
		asked bool
		what  string
		holds func(*Format) bool
	}{
		{o.Paths, "lines of paths", func(f *Format) bool { return f.Lines }},
		{o.Single, "a mesh for each piece", func(f *Format) bool { return f.Single }},
		{o.Exact, "a choice between joints and exact bodies", func(f *Format) bool { return f.Exact }},
		{o.InPlace, "figures in place", func(f *Format) bool { return f.Figures }},
		{o.OwnKeys, "keys of figures fewer than frames", func(f *Format) bool { return f.Keys }},
		{o.Time != "", "a choice of where time begins", func(f *Format) bool { return f.Nested }},
		{o.Flat, "carriers that things hang from", func(f *Format) bool { return f.Nested }},
		{o.PerRig, "several animations", func(f *Format) bool { return f.Keys }},
		{o.ImageSizes, "sizes of images beside them", func(f *Format) bool { return f.Keys }},
		{o.ClipMB != 0, "clips of a size", func(f *Format) bool { return f.Clips }},
		{o.Plane != "", "a plane to draw on", func(f *Format) bool { return f.Drawn }},
		{o.Units, "units of columns", func(f *Format) bool { return f.Units }},
		{o.Instanced, "instances", func(f *Format) bool { return f.Instances }},
	} {
		if !x.asked || x.holds(f) {
			continue
		}
		var who []string
		for i := range All {
			if x.holds(&All[i]) {
				who = append(who, All[i].Ending)
			}
		}
		return fmt.Errorf("%s does not hold %s: %s do", o.Format, x.what, strings.Join(who, ", "))
	}
	if o.Centred && !o.Single {
		return errors.New("pieces are centred where each has a mesh of its own (single) only")
	}
	if o.Step < 0 || o.Step > scene.MaxFrames {
		return fmt.Errorf("every %d frames is not accepted: 1 to %d is", o.Step, scene.MaxFrames)
	}
	if o.OwnKeys && o.Step > 1 {
		return errors.New("figures have keys of their own (own keys) where every frame is baked only")
	}
	if o.Instanced && o.Single {
		return errors.New("pieces are either instances or have a mesh of their own (single)")
	}
	if !(o.ClipMB == 0 || o.ClipMB >= 0.01 && o.ClipMB <= 2000) {
		return fmt.Errorf("clips of %g MB are not accepted: 0.01 to 2000 are", o.ClipMB)
	}
	if o.Plane != "" && !slices.Contains(Planes, o.Plane) {
		return fmt.Errorf("the plane %q is not known: %s are", o.Plane, strings.Join(Planes, ", "))
	}
	if o.Time != "" && !slices.Contains(Times, o.Time) {
		return fmt.Errorf("time %q is not known: %s are", o.Time, strings.Join(Times, ", "))
	}
	return CheckDensity(o.Format, o.Density)
}

// checkTime says where a file would need times that it cannot hold.
func (o *Options) checkTime(s *rig.Scene) error {
	if f, _ := Of(o.Format); f != nil && f.Keys && o.start(s, TimeZero) < 0 {
		return fmt.Errorf("frame %d would have a time below 0, which %s does not hold: let time begin at the first frame that is baked (zero)", o.Frames.First, o.Format)
	}
	return nil
}

// CheckRigs says which of the rigs to bake the scene does not have.
func (o *Options) CheckRigs(s *rig.Scene) error {
	for _, id := range o.Rigs {
		if !slices.ContainsFunc(s.Doc.Rigs, func(r scene.Rig) bool { return r.ID == id }) {
			return fmt.Errorf("the scene has no rig %q", id)
		}
	}
	return nil
}

// CheckFrames checks a range of frames to bake.
func CheckFrames(r scene.Range) error {
	far := max(r.First, -r.First, r.Last, -r.Last)
	if far < 0 || far > scene.FarthestFrame || r.Count() < 1 || r.Count() > scene.MaxFrames {
		return fmt.Errorf("frames %d-%d: from 1 to %d frames within ±%d are accepted", r.First, r.Last, scene.MaxFrames, scene.FarthestFrame)
	}
	return nil
}

// Where the time of a file may begin: at the first frame that is baked, at the first of the scene's
// range, or so that a key's time is its frame's number.
const (
	TimeZero   = "zero"
	TimeRange  = "range"
	TimeFrames = "frames"
)

// Times are the choices of where time begins.
var Times = []string{TimeZero, TimeRange, TimeFrames}

// start is the time of the first key, seconds; usual is what the format does unasked.
func (o *Options) start(s *rig.Scene, usual string) float64 {
	time := o.Time
	if time == "" {
		time = usual
	}
	first := o.Frames.First
	switch time {
	case TimeZero:
		first = 0
	case TimeRange:
		first -= s.Doc.Range.First
	}
	return float64(first) / s.Clock.FPS
}

// Count is the number of frames that are baked.
func (o *Options) Count() int { return (o.Frames.Count()-1)/max(o.Step, 1) + 1 }

// facts are what a file says about the scene that it was made from.
func (o *Options) facts(s *rig.Scene) map[string]any {
	out := map[string]any{"framesPerSecond": s.Clock.FPS, "firstFrame": o.Frames.First, "lastFrame": o.Frames.Last, "plays": scene.PlaysLoops}
	if s.Doc.PlaysOnce() {
		out["plays"] = scene.PlaysOnce
	}
	if o.Step > 1 {
		out["step"] = o.Step
	}
	if o.Scene != "" {
		out["scene"], out["revision"] = o.Scene, o.Revision
	}
	return out
}

// TakeClosing takes the closing frame in, where it was asked for and the scene is a loop that is baked to its
// end.
func (o *Options) TakeClosing(d *scene.Document) {
	if o.Closing && !d.PlaysOnce() && o.Frames.Last == d.Range.Last && o.Frames.First < o.Frames.Last {
		o.Frames.Last++
	}
}
