package scene_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
)

// The demo scenes as they were in version 1 are read as what they were made in version 2, which
// a program that shares no code with this one did. What is written of them is read back the same.
func TestVersion1(t *testing.T) {
	files, _ := filepath.Glob("testdata/v1/*.json")
	if len(files) != 13 {
		t.Fatalf("%d documents", len(files))
	}
	read := func(file string) *scene.Document {
		t.Helper()
		data, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		d, err := scene.Decode(data)
		if err != nil {
			t.Fatal(file, err)
		}
		return d
	}
	for _, file := range files {
		old, now := read(file), read(filepath.Join("../../demo/scenes", filepath.Base(file)))
		undress(now)
		text, err := old.Encode()
		if err != nil || !json.Valid(text) {
			t.Fatal(err)
		}
		if want, err := now.Encode(); err != nil || !bytes.Equal(text, want) {
			t.Errorf("%s is read as another scene", file)
		}
		again, err := scene.Decode(text)
		if err != nil {
			t.Fatal(file, err)
		}
		if second, err := again.Encode(); err != nil || !bytes.Equal(second, text) {
			t.Errorf("%s written and read: %v", file, err)
		}
	}
}

// undress takes off what demo scenes were given since, and version 1 did not know: looks and cameras.
func undress(d *scene.Document) {
	d.Assets = nil // the examples bring their files along now
	d.Materials, d.Cameras = nil, nil
	for i := range d.Parts {
		d.Parts[i].Material = ""
	}
	for i := range d.Rigs {
		d.Rigs[i].Tints = nil
	}
	if d.Ground != nil {
		if d.Ground.Material = ""; len(d.Ground.Points) == 0 && len(d.Ground.Humps) == 0 && d.Ground.Rough == nil {
			d.Ground = nil
		}
	}
}

// What is wrong in a document of version 1 is said where it stands in it.
func TestVersion1Faults(t *testing.T) {
	const doc = `{"bead":1,"name":"n","fps":24,"range":{"first":1,"last":9},
"paths":[{"id":"p","name":"p","shape":{"circle":{"centre":[0,1,0],"radius":1}}}],"parts":[{"id":"a","name":"a","shape":{"box":{"side":1,"height":1,"length":1}}}],
"rigs":[{"id":"r","name":"r",RIG,"path":"p","part":"a","facing":{"mode":"steady"},"travel":0}]}`
	for rig, want := range map[string]string{
		`"kind":"plane"`: "rigs[0].kind",
		`"kind":7`:       "rigs[0].kind",
		`"id2":1`:        "rigs[0].kind",
		`"kind":"train","spacing":{"mode":"set count","count":9,"offset":{"keys":[]}}`: "rigs[0].spacing.offset.keys",
		`"kind":"train","spacing":{"mode":"set count","count":"9"}`:                    "rigs[0].spacing.count",
		`"kind":"train","spacing":9`:                                                   "rigs[0].spacing",
		`"kind":"train","lead":{"rig":"r"}`:                                            "rigs[0].lead",
		`"kind":"rider","spacing":{"mode":"set count","count":2}`:                      "rigs[0].spacing",
		`"kind":"rider","seat":"ends"`:                                                 "rigs[0].seat",
		`"kind":"bend","bend":{"fit":"somehow"}`:                                       "rigs[0].bend.fit",
		`"kind":"bend","bend":{"taper":[{"at":2,"scale":1}]}`:                          "rigs[0].bend.taper[0].at",
		`"kind":"bend","spacing":9`:                                                    "rigs[0].spacing",
		`"kind":"rider","spacing":{"mode":"set count","count":1,"speed":1}`:            "rigs[0].spacing",
		`"kind":{"a":1}`:         "rigs[0].kind",
		`"kind":"bend","bend":7`: "rigs[0].bend",
		`"kind":"bend","blends":[{"name":"","amount":0}]`:                    "rigs[0].blends[0].name",
		`"kind":"bend","pastEnd":"vanish"`:                                   "rigs[0].pastEnd",
		`"kind":"train","spacing":{"mode":"set count","count":9},"train":{}`: "rigs[0].train",
	} {
		_, err := scene.Decode([]byte(strings.Replace(doc, "RIG", rig, 1)))
		var faults scene.Faults
		if !errors.As(err, &faults) {
			t.Errorf("%s: %v", rig, err)
			continue
		}
		found := false
		for _, f := range faults {
			found = found || f.Address == want
		}
		if !found {
			t.Errorf("%s: %v, want a fault at %s", rig, faults, want)
		}
	}
}

// What is found only when it is compiled is said there as well; one of version 2 has its own addresses.
func TestVersion1FaultsOfCompiling(t *testing.T) {
	data, err := os.ReadFile("testdata/v1/crawler.json")
	if err != nil {
		t.Fatal(err)
	}
	wide := bytes.Replace(bytes.Replace(data, []byte(`"pitch": 0.19`), []byte(`"pitch": 1900`), 1), []byte(`"close up"`), []byte(`"set pitch"`), 1)
	old, err := scene.Decode(wide)
	if err != nil {
		t.Fatal(err)
	}
	text, err := old.Encode()
	if err != nil {
		t.Fatal(err)
	}
	now, err := scene.Decode(text)
	if err != nil {
		t.Fatal(err)
	}
	for want, d := range map[string]*scene.Document{"rigs[0].spacing.pitch": old, "rigs[0].train.spacing.pitch": now} {
		_, err := rig.Compile(d)
		var faults scene.Faults
		if !errors.As(err, &faults) || faults[0].Address != want {
			t.Errorf("%v, want a fault at %s", err, want)
		}
	}
}
