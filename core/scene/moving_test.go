package scene_test

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"bead/core/motion"
	"bead/core/scene"
)

func belt(x float64) *scene.Document {
	side := motion.Value{Rolls: &motion.Rolling{Rolls: "hull", Side: motion.Left, Gauge: 1.2}}
	return &scene.Document{Bead: scene.Version, Name: "Belt", FPS: 24, Range: scene.Range{First: 1, Last: 48},
		Carriers: []scene.Carrier{{ID: "hull", Name: "Hull"}},
		Parts:    []scene.Part{{ID: "shoe", Name: "Shoe", Shape: scene.PartShape{Box: &scene.BoxShape{Side: 0.3, Height: 0.05, Length: 0.1}}}},
		Paths: []scene.Path{{ID: "left-belt", Name: "Left belt", Carrier: "hull", Shape: scene.PathShape{Wrap: &scene.WrapShape{
			Wheels: []scene.Wheel{
				{Name: "Sprocket", At: scene.Vec3{x, 0.4, 1}, Teeth: 12, Pitch: 0.1},
				{Name: "Roller", At: scene.Vec3{x, 0.3, 0}, Radius: 0.2, Ground: true, Spring: &scene.Spring{Up: 0.1, Down: 0.05, Arm: &scene.Vec3{x, 0.4, 0.2}}},
				{Name: "Idler", At: scene.Vec3{x, 0.4, -1}, Radius: 0.2, TakeUp: &scene.Sliding{Angle: 180, In: 0.1, Out: 0.1}}},
			Keep: &scene.KeptLength{Links: 54, Pitch: 0.1}}}}},
		Rigs: []scene.Rig{
			{ID: "left-tread", Name: "Left tread", Path: "left-belt", Part: "shoe", Facing: scene.Facing{Mode: "loopside", Roll: motion.Number(5)}, Travel: side, Train: &scene.Train{}},
			{ID: "lamp", Name: "Lamp", Path: "left-belt", Part: "shoe", Facing: scene.Facing{Mode: "loopside"},
				Travel: motion.Value{Of: &motion.Driven{Of: "rigs/left-tread/travel"}}, Rider: &scene.Rider{Lead: &scene.Lead{Rig: "left-tread"}}}}}
}

// A belt beside the middle gets a mirror image with its rigs, whose ties go to the other side; one
// in the middle is moved off it.
func TestOtherSide(t *testing.T) {
	for x, want := range map[float64]struct{ first, other, apart float64 }{0.6: {0.6, -0.6, 0}, -0.6: {-0.6, 0.9, 1.5}, 0: {0.75, -0.75, 1.5}} {
		d := belt(x)
		id, err := d.OtherSide("left-belt", want.apart)
		if err != nil {
			t.Fatal(err)
		}
		d.FillDefaults()
		if faults := d.Check(); len(faults) > 0 {
			t.Fatal(faults)
		}
		other := d.Paths[1]
		if other.ID != id || other.Name != "Right belt" || other.Carrier != "hull" {
			t.Errorf("the other side is %+v", other)
		}
		for i, w := range d.Paths[0].Shape.Wrap.Wheels {
			o := other.Shape.Wrap.Wheels[i]
			if math.Abs(w.At[0]-want.first) > 1e-12 || math.Abs(o.At[0]-want.other) > 1e-12 || o.At[1] != w.At[1] || o.At[2] != w.At[2] || o.Teeth != w.Teeth {
				t.Errorf("of %g: wheel %s at %v, its image at %v", x, w.Name, w.At, o.At)
			}
		}
		if arm := other.Shape.Wrap.Wheels[1].Spring.Arm; math.Abs(arm[0]-want.other) > 1e-12 {
			t.Errorf("the arm turns about %v", *arm)
		}
		tread, lamp := d.Rigs[2], d.Rigs[3]
		if tread.Name != "Right tread" || tread.Path != id || tread.Travel.Rolls.Side != motion.Right || tread.Travel.Rolls.Gauge != 1.2 || tread.Facing.Roll.Const != -5 {
			t.Errorf("the tread of the other side is %+v", tread)
		}
		if lamp.Travel.Of.Of != "rigs/"+tread.ID+"/travel" || lamp.Rider.Lead.Rig != tread.ID {
			t.Errorf("the lamp of the other side follows %+v and goes with %+v", lamp.Travel.Of, lamp.Rider.Lead)
		}
		if d.Rigs[0].Travel.Rolls.Side != motion.Left || d.Rigs[1].Rider.Lead.Rig != "left-tread" {
			t.Error("the first side was changed")
		}
	}
}

// Only whole words are turned round: a support is no starboard.
func TestNamesOfTheOtherSide(t *testing.T) {
	for name, want := range map[string]string{"Left belt": "Right belt", "Support rail": "Support rail right", "Port": "Starboard", "belt, right": "belt, left"} {
		d := belt(0.6)
		d.Paths[0].Name = name
		if _, err := d.OtherSide("left-belt", 0); err != nil || d.Paths[1].Name != want {
			t.Errorf("the other side of %q is %q, %v", name, d.Paths[1].Name, err)
		}
	}
}

func TestOtherSideSaysWhatItCannot(t *testing.T) {
	helix := belt(0.6)
	helix.Paths[0].Shape = scene.PathShape{Helix: &scene.HelixShape{Radius: 1, Rise: 1, Turns: 2}}
	ahead := belt(0.6)
	ahead.Paths[0].Shape.Wrap.Plane = "ahead"
	offset := belt(0.6)
	offset.Paths[0].Steps = []scene.Step{{Offset: &scene.OffsetStep{Distance: 0.1}}}
	for _, c := range []struct {
		d     *scene.Document
		path  string
		apart float64
		want  string
	}{
		{belt(0), "left-belt", 0, "say how many metres"}, {belt(0), "right-belt", 0, "no path"}, {belt(0), "left-belt", math.NaN(), "not accepted"},
		{helix, "left-belt", 0, "helix has no other side"}, {ahead, "left-belt", 0, "plane side"}, {offset, "left-belt", 0, "turn the path with its steps"},
	} {
		before, _ := json.Marshal(c.d)
		if _, err := c.d.OtherSide(c.path, c.apart); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%v does not say %q", err, c.want)
		}
		if after, _ := json.Marshal(c.d); string(after) != string(before) {
			t.Errorf("%s was changed all the same", c.want)
		}
	}
}

// Every length of a path grows by the same factor, whatever its shape: its size as JSON tells.
func TestResize(t *testing.T) {
	d := belt(0.5)
	p := &d.Paths[0]
	p.Steps = []scene.Step{{Trim: &scene.TrimStep{From: 0.1, To: 2}}, {Wave: &scene.WaveStep{Side: motion.Number(0.2), Wavelength: 3}}}
	if err := p.Resize(2, scene.Vec3{0.5, 0, 0}); err != nil {
		t.Fatal(err)
	}
	got, _ := json.Marshal(p)
	for _, want := range []string{`"at":[0.5,0.8,2],"teeth":12,"pitch":0.2`, `"at":[0.5,0.6,0],"radius":0.4`, `"arm":[0.5,0.8,0.4],"up":0.2,"down":0.1`,
		`"angle":180,"in":0.2,"out":0.2`, `"links":54,"pitch":0.2`, `"from":0.2,"to":4`, `"side":0.4,"wavelength":6`} {
		if !strings.Contains(string(got), want) {
			t.Errorf("%s lacks %s", got, want)
		}
	}
	s := scene.Path{Shape: scene.PathShape{Spline: &scene.SplineShape{Points: []scene.Point{{At: scene.Vec3{1, 0, 0}, Out: &scene.Vec3{0, 0, 1}}, {At: scene.Vec3{3, 0, 0}}}}}}
	if err := s.Resize(0.5, scene.Vec3{1, 1, 0}); err != nil {
		t.Fatal(err)
	}
	if pts := s.Shape.Spline.Points; pts[0].At != (scene.Vec3{1, 0.5, 0}) || *pts[0].Out != (scene.Vec3{0, 0, 0.5}) || pts[1].At != (scene.Vec3{2, 0.5, 0}) {
		t.Errorf("points %+v", pts)
	}
	for _, times := range []float64{0, -1, math.NaN(), math.Inf(1)} {
		if s.Resize(times, scene.Vec3{}) == nil {
			t.Errorf("%g times is accepted", times)
		}
	}
}
