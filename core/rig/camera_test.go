package rig

import (
	"fmt"
	"math"
	"testing"

	"bead/core/geom"
	"bead/core/scene"
)

const filmed = `{"bead":2,"name":"a","fps":24,"range":{"first":1,"last":24},
"carriers":[{"id":"hull","name":"hull","at":[0,0,{"keys":[{"frame":1,"value":0},{"frame":25,"value":6}]}],"turn":{"heading":{"keys":[{"frame":1,"value":0},{"frame":25,"value":90}]}}}],
"paths":[{"id":"c","name":"c","shape":{"circle":{"centre":[0,2,0],"radius":2,"plane":"above"}}}],
"parts":[{"id":"b","name":"b","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"rigs":[{"id":"r","name":"r","path":"c","part":"b","facing":{"mode":"steady"},"travel":{"turns":1},"train":{"seat":"pivot","spacing":{"mode":"set count","count":1}}}],
"cameras":[
 {"id":"stands","name":"stands","at":[3,4,5],"turn":{"heading":30,"pitch":-20,"bank":10}},
 {"id":"rides","name":"rides","at":[0,1,-2],"carrier":"hull","lens":50},
 {"id":"along","name":"along","at":[0,0.5,0],"ride":{"path":"c","distance":1},"aim":{"at":[0,2.5,0]}},
 {"id":"beside","name":"beside","at":[5,3,0],"beside":{"rig":"r"},"aim":{"rig":"r"},"width":1080,"height":1080},
 {"id":"zooms","name":"zooms","at":[0,0,0],"lens":{"keys":[{"frame":1,"value":24},{"frame":25,"value":48}]}}]}`

// Cameras by closed forms: the angle of a 35 mm lens at 16:9 is 32.27 degrees (2 atan(20.25 / 70)); one on a
// carrier is where that carries it; one on a path has its distance; one alongside moves as its rig does.
func TestCameras(t *testing.T) {
	d, err := scene.Decode([]byte(filmed))
	if err != nil {
		t.Fatal(err)
	}
	s, err := Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	degrees := func(i int, frame float64) float64 { return float64(s.Look(i, frame).Angle) * 180 / math.Pi }
	for _, c := range []struct {
		camera      int
		frame, want float64
	}{{0, 1, 32.2688}, {1, 1, 2 * math.Atan(20.25/100) * 180 / math.Pi}, {3, 1, 2 * math.Atan(36.0/70) * 180 / math.Pi}, {4, 13, 2 * math.Atan(20.25/72) * 180 / math.Pi}} {
		if got := degrees(c.camera, c.frame); math.Abs(got-c.want) > 1e-4 {
			t.Errorf("camera %d at %g: %g degrees, want %g", c.camera, c.frame, got, c.want)
		}
	}
	near := func(what string, got, want geom.Vec) {
		t.Helper()
		if got.Sub(want).Norm() > 1e-6 {
			t.Errorf("%s: %v, want %v", what, got, want)
		}
	}
	var p Picture
	for _, frame := range []float64{1, 7.5, 19} {
		s.At(&p, frame)
		at := func(i int) geom.Rigid { return p.Cameras[i].Place.Rigid() }
		near("stands", at(0).P, geom.V(3, 4, 5))
		// Heading to the left, nose down by 20 degrees.
		sin, cos := math.Sincos(30 * math.Pi / 180)
		near("looks", at(0).Z, geom.V(sin*math.Cos(20*math.Pi/180), -math.Sin(20*math.Pi/180), cos*math.Cos(20*math.Pi/180)))

		u := (frame - 1) / 24
		sin, cos = math.Sincos(u * math.Pi / 2)
		near("rides", at(1).P, geom.V(-2*sin, 1, 6*u-2*cos))
		near("turns with it", at(1).Z, geom.V(sin, 0, cos))

		place := s.Rigs[0].placeOf(0, frame)
		first := s.Rigs[0].placeOf(0, 1)
		near("beside", at(3).P, geom.V(5, 3, 0).Add(place.Sub(first)))
		near("looks at it", at(3).Z, place.Sub(at(3).P).Unit())
		if at(3).X.Y > 1e-6 || at(3).X.Y < -1e-6 {
			t.Errorf("its horizon leans: %v", at(3).X)
		}
		q, _ := s.Paths[0].At(1)
		near("along", at(2).P, q.Add(geom.V(0, 0.5, 0)))
		near("aimed", at(2).Z, geom.V(0, 2.5, 0).Sub(at(2).P).Unit())
	}
}

func TestCameraFaults(t *testing.T) {
	for text, at := range map[string]string{
		`"carrier":"hull","beside":{"rig":"r"}`:           "cameras[0]",
		`"carrier":"no"`:                                  "cameras[0].carrier",
		`"beside":{}`:                                     "cameras[0].beside",
		`"beside":{"rig":"no"}`:                           "cameras[0].beside.rig",
		`"aim":{"rig":"r","carrier":"hull"}`:              "cameras[0].aim",
		`"ride":{"path":"no","distance":0}`:               "cameras[0].ride.path",
		`"lens":1`:                                        "cameras[0].lens",
		`"width":9000`:                                    "cameras[0].width",
		`"turn":{"heading":{"of":"cameras/stands/lens"}}`: "cameras[0].turn.heading.ratio",
		`"lens":{"rolls":"hull","side":"middle"}`:         "cameras[0].lens",
	} {
		doc := `{"bead":2,"name":"a","fps":24,"range":{"first":1,"last":2},"carriers":[{"id":"hull","name":"hull","at":[0,0,0]}],
"paths":[{"id":"c","name":"c","shape":{"circle":{"centre":[0,2,0],"radius":2,"plane":"above"}}}],"parts":[{"id":"b","name":"b","shape":{"box":{"side":1,"height":1,"length":1}}}],
"rigs":[{"id":"r","name":"r","path":"c","part":"b","facing":{"mode":"steady"},"travel":0,"train":{"seat":"pivot","spacing":{"mode":"set count","count":1}}}],
"cameras":[{"id":"stands","name":"a","at":[0,0,0],` + text + `}]}`
		_, err := scene.Decode([]byte(doc))
		faults, is := err.(scene.Faults)
		if !is || faults[0].Address != at {
			t.Errorf("%s: %v, want a fault at %s", text, err, at)
		}
	}
}

// A tread of which every third shoe is tinted shows the same again after three pitches, not after one: of nine
// shoes every third, of eight none before all have come round.
func TestTintsRepeat(t *testing.T) {
	for _, c := range []struct{ count, every, want int }{{9, 3, 3}, {8, 3, 8}, {8, 2, 2}, {6, 0, 6}} {
		d, err := scene.Decode([]byte(fmt.Sprintf(`{"bead":2,"name":"a","fps":24,"range":{"first":1,"last":2},
"paths":[{"id":"c","name":"c","shape":{"circle":{"centre":[0,2,0],"radius":2,"plane":"side"}}}],"parts":[{"id":"b","name":"b","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"rigs":[{"id":"r","name":"r","path":"c","part":"b","facing":{"mode":"loopside"},"travel":0,"tints":[{"colour":"#FF0000","every":%d}],"train":{"seat":"pivot","spacing":{"mode":"set count","count":%d}}}]}`, c.every, c.count)))
		if err != nil {
			t.Fatal(err)
		}
		s, err := Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		if got := s.Rigs[0].Pattern(); got != c.want {
			t.Errorf("%d pieces, every %d: repeats after %d, want %d", c.count, c.every, got, c.want)
		}
	}
}
