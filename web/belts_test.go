package web_test

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"bead/core/check"
	"bead/core/rig"
)

// What the Add menu puts on a belt with a sprocket passes every check, driven by the sprocket:
// chains of several sizes, the menu's own belt, and one with a wheel that takes up already.
func TestTrainsOnSprocketsPassTheirChecks(t *testing.T) {
	sprockets := func(n1, n2 int, pitch, apart float64) string {
		return fmt.Sprintf(`[{"name":"a","at":[0,%g,%g],"teeth":%d,"pitch":%g},{"name":"b","at":[0,%g,%g],"teeth":%d,"pitch":%g}]`,
			60*pitch, -apart*pitch/2, n1, pitch, 60*pitch, apart*pitch/2, n2, pitch)
	}
	const menu = `[{"name":"Sprocket","at":[0,0.8,-1.2],"teeth":14,"pitch":0.19},{"name":"Idler","at":[0,0.7,1.2],"radius":0.36},
{"name":"Road wheel 1","at":[0,0.3,0.6],"radius":0.24},{"name":"Road wheel 2","at":[0,0.3,-0.6],"radius":0.24}]`
	for _, tc := range []struct {
		wheels string
		teeth  int
		pitch  float64
		slack  bool // a run hangs; else a wheel takes up
	}{
		{sprockets(17, 38, 0.0127, 30), 17, 0.0127, true},
		{sprockets(23, 23, 0.0254, 41.3), 23, 0.0254, true},
		{sprockets(40, 13, 0.009525, 35.7), 40, 0.009525, true},
		{menu, 14, 0.19, false},
	} {
		text := fmt.Sprintf(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":96},"parts":[],"rigs":[],"paths":[{"id":"belt","name":"Belt","shape":{"wrap":{"wheels":%s}}}]}`, tc.wheels)
		_, bare := compile(t, []byte(text))
		got := call(t, [][]any{{"add", "addTrain", json.RawMessage(text), "@paths/0", bare.Paths[0].Length()}})
		d, _ := compile(t, got[0][1])
		wrap := d.Paths[0].Shape.Wrap
		if wrap.Keep == nil || !wrap.Keep.Pins || wrap.Keep.Pitch != tc.pitch || d.Rigs[0].Train.Spacing.Count != wrap.Keep.Links {
			t.Fatalf("%s: keeps %+v", tc.wheels, wrap.Keep)
		}
		if tc.slack && (!wrap.Wheels[1].Slack || wrap.Keep.Links%2 != 0) || !tc.slack && wrap.Wheels[1].TakeUp == nil {
			t.Errorf("%s: %+v", tc.wheels, wrap)
		}
		// Driven by the sprocket so fast that it loops: whole pairs of links over the range.
		rpm := 60 * 24 * 2 * 6 / float64(tc.teeth) / 96
		driven, err := json.Marshal(map[string]float64{"rpm": rpm, "radius": float64(tc.teeth) * tc.pitch / (2 * math.Pi)})
		if err != nil {
			t.Fatal(err)
		}
		if err := json.Unmarshal(driven, &d.Rigs[0].Travel); err != nil {
			t.Fatal(err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		seen := 0
		for _, r := range check.All(s) {
			if seen++; r.State == check.Outside {
				t.Errorf("%s: %s %g: %s", tc.wheels, r.ID, r.Value, r.Text)
			}
		}
		if seen < 9 {
			t.Errorf("%s: only %d checks", tc.wheels, seen)
		}
	}
}
