package check_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/figure"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
)

// crabChecks are the checks of the kelp station's crab on a path, by their names.
func crabChecks(t *testing.T, shape, more string, change func(*scene.Document)) map[string]check.Result {
	t.Helper()
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":0,"last":72},
"parts":[{"id":"crab","name":"Crab","forward":"+x","up":"+y","shape":{"figure":{"asset":%q}}}],
"paths":[{"id":"p","name":"p","shape":%s}],
"rigs":[{"id":"r","name":"Crab","path":"p","part":"crab","facing":{"mode":"steady"},"travel":{"speed":0.24},"cycle":{%s}}]}`,
		strings.Repeat("0", 64), shape, more))
	if err != nil {
		t.Fatal(err)
	}
	if change != nil {
		change(d)
	}
	crab := demo.Crab()
	k := rig.Compiler{Figures: func(string) (*figure.Figure, error) { return crab, nil }}
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]check.Result{}
	for _, r := range check.All(s) {
		out[r.ID] = r
	}
	return out
}

const (
	lineWay = `{"line":{"from":[0,0,0],"to":[0,0,10]}}`
	bendWay = `{"weave":{"from":[0,0,0],"length":4,"width":0.6,"bends":2}}`
)

// With legs that reach feet stand to within a tenth of a millimetre on bends; with legs that go along
// they slide there, by centimetres, and a press lets them reach.
func TestSlide(t *testing.T) {
	reach := crabChecks(t, bendWay, "", nil)
	if r := reach["slide"]; r.State != check.Inside || r.Value > 1e-9 {
		t.Errorf("%+v", r)
	}
	for _, id := range []string{"reach", "sink", "stride", "joints"} {
		if r := reach[id]; r.State != check.Inside {
			t.Errorf("%+v", r)
		}
	}
	free := crabChecks(t, bendWay, `"legs":"free"`, nil)["slide"]
	if free.State != check.Outside || free.Value < 0.01 || len(free.Remedies) != 1 || free.Remedies[0].Edits[0].Path != "/rigs/0/cycle/legs" {
		t.Errorf("%+v", free)
	}
	if r := crabChecks(t, lineWay, `"feet":[]`, nil)["slide"]; r.Word != "no feet" || !strings.Contains(r.Text, "nothing was looked at") {
		t.Errorf("without feet: %+v", r)
	}
}

// A cycle that goes by time at half the speed of its keys slides by the other half of its stride while a
// foot stands, and its stride says so.
func TestStride(t *testing.T) {
	all := crabChecks(t, lineWay, `"pace":"time"`, func(d *scene.Document) { d.Rigs[0].Travel.Speed.PerSecond = 0.12 })
	if r := all["stride"]; r.State != check.Outside || math.Abs(r.Value+50) > 1e-6 || r.Word != "too slow" || len(r.Remedies) != 1 {
		t.Errorf("%+v", r)
	}
	// It stands for 13 keys of 24: half of what it goes meanwhile.
	if r := all["slide"]; r.State != check.Outside || math.Abs(r.Value-0.12*13/24) > 0.12*1.5/24 {
		t.Errorf("%+v", r)
	}
}

// A hump that it does not feel is above its feet by as much as it is high; felt, no foot sinks.
func TestSink(t *testing.T) {
	hump := func(d *scene.Document) {
		d.Ground = &scene.Ground{Humps: []scene.Hump{{Z: 0.4, Length: 0.8, Height: 0.05}}}
	}
	r := crabChecks(t, lineWay, "", hump)["sink"]
	if r.State != check.Outside || math.Abs(r.Value-0.05) > 0.004 || len(r.Remedies) != 1 {
		t.Errorf("%+v", r)
	}
	if r := crabChecks(t, lineWay, `"ground":true`, hump)["sink"]; r.State != check.Inside {
		t.Errorf("felt: %+v", r)
	}
}

// A joint that a layer turns by 90 degrees from one frame to the next is named with its frame.
func TestJointsJump(t *testing.T) {
	r := crabChecks(t, lineWay, `"layers":[{"name":"claw","joints":["left claw"],"heading":{"keys":[{"frame":0,"value":0,"shape":"stepped"},{"frame":30,"value":90}]}}]`, nil)["joints"]
	if r.State != check.Outside || math.Abs(r.Value-90) > 6 || r.Where.Frame != 30 || !strings.HasPrefix(r.Text, "left claw turns by") {
		t.Errorf("%+v at %+v", r, r.Where)
	}
}

// In a bend too tight for its legs the one that does not reach is named.
func TestReachOfLegs(t *testing.T) {
	r := crabChecks(t, `{"circle":{"centre":[0,0,0],"radius":0.25,"plane":"above"}}`, "", nil)["reach"]
	if r.State != check.Outside || !strings.Contains(r.Text, "leg") || r.Value < 0.002 {
		t.Errorf("%+v", r)
	}
}
