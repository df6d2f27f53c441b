package check_test

import (
	"encoding/json"
	"fmt"
	"testing"

	jsonpatch "github.com/evanphx/json-patch/v5"

	"bead/core/check"
	"bead/core/rig"
	"bead/core/scene"
)

// apply does what a remedy says as any client would: as a JSON Patch (RFC 6902), by a library that
// is not Bead's, on a document as it is sent to clients.
func apply(t *testing.T, doc []byte, edits []check.Edit) []byte {
	t.Helper()
	d, err := scene.Decode(doc)
	if err != nil {
		t.Fatal(err)
	}
	if doc, err = d.Encode(); err != nil {
		t.Fatal(err)
	}
	text, err := json.Marshal(edits)
	if err != nil {
		t.Fatal(err)
	}
	patch, err := jsonpatch.DecodePatch(text)
	if err != nil {
		t.Fatalf("%v in %s", err, text)
	}
	out, err := patch.Apply(doc)
	if err != nil {
		t.Fatalf("%v: %s", err, text)
	}
	return out
}

func results(t *testing.T, doc []byte) map[string]check.Result {
	t.Helper()
	d, err := scene.Decode(doc)
	if err != nil {
		t.Fatalf("%v in %s", err, doc)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]check.Result{}
	for _, r := range check.All(s) {
		out[r.ID] = r
	}
	return out
}

// Every remedy that is offered brings its check inside its tolerance, and leaves
// a document that is right.
func TestEveryRemedyMends(t *testing.T) {
	shapes := map[string]string{
		"slot":   slot,
		"circle": `{"circle":{"centre":[0,1,0],"radius":0.9}}`,
		"spline": `{"spline":{"closed":true,"points":[{"at":[0,0,0]},{"at":[0,1,2]},{"at":[0.3,2,0]},{"at":[0,1,-2]}]}}`,
	}
	spacings := []string{`{"mode":"set pitch","pitch":0.19}`, `{"mode":"set pitch","pitch":0.5,"gap":0.013}`, `{"mode":"close up","pitch":0.21,"rest":"slack"}`, `{"mode":"set count","count":23}`}
	travels := []string{`0`, `{"speed":0.31}`, `{"speed":-0.02}`, `{"keys":[{"frame":1,"value":0,"shape":"eased"},{"frame":40,"value":1.234}],"after":"build"}`}
	facings := []string{"steady", "loopside", "least-twist"}
	offered := map[string]int{}
	for name, shape := range shapes {
		for _, spacing := range spacings {
			for _, travel := range travels {
				for _, facing := range facings {
					doc := fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[{"id":"p","name":"p","shape":%s}],"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.2,"height":0.1,"length":0.19}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":%s,"facing":{"mode":%q},"travel":%s}]}`, shape, spacing, facing, travel)
					for id, r := range results(t, doc) {
						for _, remedy := range r.Remedies {
							offered[id]++
							mended := apply(t, doc, remedy.Edits)
							after := results(t, mended)[id]
							if after.Word == "jolts" { // in place again, but not yet in speed: that has its own
								after = results(t, apply(t, mended, after.Remedies[0].Edits))[id]
							}
							if after.State == check.Outside {
								t.Errorf("%s, %s, %s, %s: after %q %s is still outside: %s", name, spacing, travel, facing, remedy.Label, id, after.Text)
							}
						}
						if r.State != check.Outside && len(r.Remedies) > 0 {
							t.Errorf("%s is inside and still offers %q", id, r.Remedies[0].Label)
						}
					}
				}
			}
		}
	}
	for _, id := range []string{"seam", "flips", "loop"} {
		if offered[id] == 0 {
			t.Errorf("no remedy for %s was ever offered", id)
		}
	}
}
