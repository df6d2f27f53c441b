package scene_test

import (
	"bytes"
	"errors"
	"os"
	"strings"
	"testing"

	"bead/core/scene"
)

const good = `{"bead":1,"name":"Test","fps":24,"range":{"first":1,"last":96},
"paths":[{"id":"loop","name":"Loop","shape":{"slot":{"centre":[0,0.5,0],"length":2,"radius":0.4}}},
 {"id":"line","name":"Line","shape":{"spline":{"points":[{"at":[0,0,0]},{"at":[1,0,0],"out":[1,0,0]}]}}}],
"parts":[{"id":"shoe","name":"Shoe","shape":{"box":{"side":1,"height":1,"length":1}}}],
"rigs":[{"id":"tread","name":"Tread","kind":"train","path":"loop","part":"shoe",
 "spacing":{"mode":"set count","count":10},"facing":{"mode":"loopside"},"travel":{"speed":0.5}}]}`

// 96.0 is a whole number, and a document may name its schema: it is read as without.
func TestAsOthersWriteIt(t *testing.T) {
	const text = `{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":96},"paths":[{"id":"p","name":"P","shape":{"line":{"from":[0,0,0],"to":[0,0,2]}}}],"parts":[],"rigs":[]}`
	want, err := scene.Decode([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	for _, odd := range []string{strings.Replace(text, `96`, `96.0`, 1), strings.Replace(text, `96`, `9.6e1`, 1), strings.Replace(text, `{`, `{"$schema":"urn:bead:scene:2",`, 1), strings.Replace(text, `2]`, `2.0]`, 1)} {
		got, err := scene.Decode([]byte(odd))
		if err != nil {
			t.Errorf("%s: %v", odd, err)
			continue
		}
		a, _ := want.Encode()
		if b, _ := got.Encode(); !bytes.Equal(a, b) {
			t.Errorf("%s is read as %s", odd, b)
		}
	}
}

func TestDecodeFillsDefaults(t *testing.T) {
	d, err := scene.Decode([]byte(good))
	if err != nil {
		t.Fatal(err)
	}
	r := d.Rigs[0]
	if d.Units != "mm" || r.Traits().Seat != "pivot" || r.Scale != 1 || r.Traits().PastEnd != "straight on" || d.Parts[0].Forward != "+z" ||
		d.Paths[0].Shape.Slot.Plane != "side" || d.Paths[1].Shape.Spline.Points[0].Handles != "smooth" ||
		d.Paths[1].Shape.Spline.Points[1].Handles != "aligned" {
		t.Errorf("defaults are not filled in: %+v", d)
	}
	first, err := d.Encode()
	if err != nil {
		t.Fatal(err)
	}
	again, err := scene.Decode(first)
	if err != nil {
		t.Fatal(err)
	}
	if second, _ := again.Encode(); !bytes.Equal(first, second) {
		t.Errorf("a document changes when written and read:\n%s\n%s", first, second)
	}
}

// Each fault names its address and what would be accepted.
func TestFaultsHaveAddresses(t *testing.T) {
	for _, tc := range []struct{ name, old, new, address, says string }{
		{"unknown field", `"count":10`, `"count":10,"cuont":3`, "rigs[0].spacing.cuont", "not a field"},
		{"unknown field at the top", `"bead":1`, `"bead":1,"colour":"red"`, "colour", "not a field"},
		{"wrong type", `"count":10`, `"count":"ten"`, "rigs[0].spacing.count", "a number is accepted"},
		{"fraction", `"count":10`, `"count":2.5`, "rigs[0].spacing.count", "whole number"},
		{"missing", `"path":"loop",`, ``, "rigs[0].path", "missing"},
		{"null", `"fps":24`, `"fps":null`, "fps", "null"},
		{"given twice", `"fps":24`, `"fps":24,"fps":25`, "fps", "twice"},
		{"short vector", `[0,0.5,0]`, `[0,0.5]`, "paths[0].shape.slot.centre", "3 are accepted"},
		{"NaN", `"fps":24`, `"fps":NaN`, "", "line 1, column"},
		{"cut off", `"travel":{"speed":0.5}}]}`, ``, "", "ends in the middle"},
		{"trailing text", `0.5}}]}`, `0.5}}]} x`, "", "after the document's end"},
		{"half a frame", `"first":1`, `"first":1.5`, "range.first", "not a whole number"},
		{"no whole number", `"first":1`, `"first":1e300`, "range.first", "not a whole number"},
		{"schema of another kind", `"fps":24`, `"$schema":3,"fps":24`, "$schema", "not a field"},
		{"huge number", `"radius":0.4`, `"radius":1e999`, "paths[0].shape.slot.radius", "too large"},
		{"dangling id", `"path":"loop"`, `"path":"lop"`, "rigs[0].path", "no path of this scene"},
		{"id twice", `"id":"line"`, `"id":"loop"`, "paths[1].id", "taken"},
		{"bad id", `"id":"line"`, `"id":"../line"`, "paths[1].id", "not an id"},
		{"two shapes", `"slot":{`, `"circle":{"centre":[0,0,0],"radius":1},"slot":{`, "paths[0].shape", "exactly one"},
		{"one point", `{"at":[0,0,0]},`, ``, "paths[1].shape.spline.points", "from 2"},
		{"negative radius", `"radius":0.4`, `"radius":-1`, "paths[0].shape.slot.radius", "is not accepted"},
		{"backward range", `"last":96`, `"last":-1`, "range", "before it starts"},
		{"endless range", `"last":96`, `"last":9000000`, "range", "up to 100000"},
		{"zero rate", `"fps":24`, `"fps":0`, "fps", "above 0"},
		{"newer version", `"bead":1`, `"bead":3`, "bead", "1 to 2 are accepted"},
		{"empty keys", `{"speed":0.5}`, `{"keys":[]}`, "rigs[0].travel.keys", "at least one key"},
		{"keys out of order", `{"speed":0.5}`, `{"keys":[{"frame":2,"value":0},{"frame":2,"value":1}]}`, "rigs[0].travel.keys[1].frame", "in order"},
		{"speed and keys", `{"speed":0.5}`, `{"speed":1,"keys":[]}`, "rigs[0].travel.keys", "not a field"},
		{"up without direction", `"mode":"loopside"`, `"mode":"steady","up":[0,0,0]`, "rigs[0].facing.up", "no direction"},
		{"unknown kind", `"kind":"train"`, `"kind":"plane"`, "rigs[0].kind", "train, rider and bend are"},
	} {
		text := strings.Replace(good, tc.old, tc.new, 1)
		if text == good {
			t.Fatalf("%s: nothing to replace", tc.name)
		}
		_, err := scene.Decode([]byte(text))
		var faults scene.Faults
		if !errors.As(err, &faults) {
			t.Errorf("%s: accepted", tc.name)
			continue
		}
		if faults[0].Address != tc.address || !strings.Contains(faults[0].Message, tc.says) {
			t.Errorf("%s: %q: %q; want address %q and a message with %q", tc.name, faults[0].Address, faults[0].Message, tc.address, tc.says)
		}
	}
	deep := strings.Repeat("[", 100_000)
	if _, err := scene.Decode([]byte(deep)); err == nil || !strings.Contains(err.Error(), "deep") {
		t.Errorf("100,000 brackets: %v", err)
	}
}

// Any bytes give a document that can be written and read again, or an error.
func FuzzDecode(f *testing.F) {
	f.Add([]byte(good))
	f.Add([]byte(`{"bead":1,"rigs":[{"travel":{"keys":[{"frame":1e308,"value":-0}]}}]}`))
	f.Add([]byte(`[[[[`))
	if demo, err := os.ReadFile("../../demo/scenes/crawler.json"); err == nil {
		f.Add(demo)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := scene.Decode(data)
		if err != nil {
			return
		}
		out, err := d.Encode()
		if err != nil {
			t.Fatal(err)
		}
		again, err := scene.Decode(out)
		if err != nil {
			t.Fatalf("%v\n%s", err, out)
		}
		if second, _ := again.Encode(); !bytes.Equal(out, second) {
			t.Fatalf("not stable:\n%s\n%s", out, second)
		}
	})
}
