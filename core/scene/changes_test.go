package scene

import (
	"strings"
	"testing"
)

// What differs between two documents is told with its owner, its field and its values in the
// document's unit; what came or went, and what is much, is not told value by value.
func TestChanges(t *testing.T) {
	const doc = `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":24},"paths":[{"id":"p","name":"Loop","shape":{"slot":{"centre":[0,1,0],"length":3,"radius":0.5}}},
{"id":"q","name":"Way","shape":{"spline":{"points":[{"at":[0,0,0]},{"at":[0,0,1]}]}}}],
"parts":[{"id":"a","name":"Shoe","shape":{"box":{"side":0.1,"height":0.05,"length":0.15}}}],
"rigs":[{"id":"r","name":"Row","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":50},"facing":{"mode":"loopside"},"travel":0}]}`
	read := func(text string) *Document {
		t.Helper()
		d, err := Decode([]byte(text))
		if err != nil {
			t.Fatal(err)
		}
		return d
	}
	for _, tc := range []struct{ from, to, says string }{
		{`"count":50`, `"count":51`, "Row: count 50 to 51"},
		{`"length":3,`, `"length":3.25,`, "Loop: length 3000.0 mm to 3250.0 mm"},
		{`"travel":0`, `"travel":0.2`, "Row: travel 0.0 mm to 200.0 mm"},
		{`"travel":0`, `"travel":{"speed":0.5}`, ""},
		{`"mode":"loopside"`, `"mode":"loopside","roll":30`, "Row: roll 30°"},
		{`"mode":"loopside"`, `"mode":"steady"`, "Row: mode “loopside” to “steady”"},
		{`[0,0,1]`, `[0,0.5,1]`, "Way: point 2 at 0.0 mm, 0.0 mm, 1000.0 mm to 0.0 mm, 500.0 mm, 1000.0 mm"},
		{`"name":"Row"`, `"name":"Line"`, "Line: name “Row” to “Line”"},
		{`"last":24`, `"last":48`, "Scene: last 24 to 48"},
		{`"mode":"loopside"`, `"mode":"loopside","inward":true`, "Row: inward on"},
		{`,{"at":[0,0,1]}`, `,{"at":[0,0,1]},{"at":[0,0,2]}`, ""},
	} {
		list, ok := Changes(read(doc), read(strings.Replace(doc, tc.from, tc.to, 1)))
		said := ""
		if ok && len(list) == 1 {
			said = list[0].String()
		}
		if said != tc.says {
			t.Errorf("%s -> %s: %q (%v, %v), want %q", tc.from, tc.to, said, list, ok, tc.says)
		}
	}
	if list, ok := Changes(read(doc), read(doc)); !ok || len(list) != 0 {
		t.Errorf("nothing changed: %v", list)
	}
}

// What a number is stands in the tags of its field, also within values that move.
func TestQuantities(t *testing.T) {
	for path, want := range map[string]string{
		"rigs/r/train/spacing/count": "plain", "rigs/r/train/spacing/pitch": "length", "paths/p/shape/slot/radius": "length",
		"paths/p/shape/spline/points/0/at": "length", "fixtures/f/pitch": "angle", "carriers/c/turn/pitch/keys/0/value": "angle",
		"carriers/c/at/2": "length", "rigs/r/travel/speed": "length a second", "rigs/r/facing/roll/speed": "angle a second",
		"rigs/r/travel/keys/0/frame": "plain", "rigs/r/travel/radius": "length", "rigs/r/train/fall/speed": "angle a second",
		"cameras/k/lens": "plain", "cameras/k/lens/keys/1/value": "plain", "materials/m/roughness": "plain",
		"rigs/r/drape/flow/speed": "length a second", "paths/p/steps/0/wave/phase/start": "plain", "no/such/field": "plain",
	} {
		if got := quantityAt(strings.Split(path, "/")); got != want {
			t.Errorf("%s is %s, want %s", path, got, want)
		}
	}
}
