package check_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/check"
)

const beltDoc = `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":24},
"paths":[{"id":"p","name":"p","shape":{"wrap":{"keep":{"links":%d,"pitch":0.1},"wheels":[{"name":"Driver","at":[0,1,0],%s},{"name":"Other","at":[0,1,2],"radius":0.3%s}]}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.02,"length":0.08}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":%d},"facing":{"mode":"loopside"},"travel":{"speed":0.4}}]}`

// Too short, too long, slack that hangs: what the check says, and that every remedy it
// offers mends it. 4 + 0.6 pi = 5.885 m taut.
func TestTension(t *testing.T) {
	for _, tc := range []struct {
		links int
		more  string
		word  string
		offer []string
	}{
		{58, "", "too short", []string{"Use 59 links", "Move Other by -42.5 mm"}},
		{70, "", "too long", []string{"Let the run after Driver sag", "Use 59 links", "Move Other by"}},
		{59, `,"takeUp":{"in":0.05,"out":0.05}`, "held", nil},
	} {
		doc := fmt.Appendf(nil, beltDoc, tc.links, `"radius":0.3`, tc.more, tc.links)
		r := results(t, doc)["tension"]
		if r.Word != tc.word || (r.State == check.Inside) != (tc.word == "held") {
			t.Errorf("%d links: %+v", tc.links, r)
		}
		if len(r.Remedies) != len(tc.offer) {
			t.Fatalf("%d links: %+v", tc.links, r.Remedies)
		}
		for i, m := range r.Remedies {
			if !strings.HasPrefix(m.Label, tc.offer[i]) {
				t.Errorf("%d links: %q, want %q", tc.links, m.Label, tc.offer[i])
			}
			after := results(t, apply(t, doc, m.Edits))["tension"]
			// A whole number of links leaves less than a pitch, which can hang then.
			if after.State == check.Outside && !(strings.HasPrefix(m.Label, "Use") && after.Value > 0 && after.Value < 0.1) {
				t.Errorf("%d links, after %s: %+v", tc.links, m.Label, after)
			}
		}
	}
}

// Pieces along the arcs of a sprocket stand beside its gaps; on their pins they do not.
func TestTeeth(t *testing.T) {
	doc := fmt.Appendf(nil, beltDoc, 62, `"teeth":12,"pitch":0.1`, `,"slack":true`, 62)
	r := results(t, doc)["teeth"]
	// The arc of a tooth is 1.15 % longer than its chord, times the two or three pins to
	// either side of the middle.
	if r.State != check.Outside || r.Word != "off the teeth" || r.Value < 0.001 && r.Value > -0.001 {
		t.Fatalf("%+v", r)
	}
	if len(r.Remedies) == 0 || r.Remedies[0].Label != "Seat the pieces on their pins" {
		t.Fatalf("%+v", r.Remedies)
	}
	if after := results(t, apply(t, doc, r.Remedies[0].Edits))["teeth"]; after.State == check.Outside {
		t.Errorf("%+v", after)
	}
	// It is shown where it is: at a piece on the sprocket, behind which the belt begins.
	if x := r.Where.Position; math.Hypot(x[1]-1, x[2]) > 0.3 {
		t.Errorf("shown at %v, the sprocket is at (0 1 0)", x)
	}
	// A pitch that is not the sprocket's is named.
	doc = []byte(strings.Replace(string(doc), `"teeth":12,"pitch":0.1`, `"teeth":12,"pitch":0.12`, 1))
	if r := results(t, doc)["teeth"]; !strings.Contains(r.Text, "pitch of 120.0 mm") {
		t.Errorf("%+v", r)
	}
}

// Wherever a belt's distances begin, what lies on the ground stands still; the wrong way
// round it slips, which a press mends. A belt laid too low comes into the floor, and is laid
// higher.
func TestGroundChecks(t *testing.T) {
	doc := []byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":24},"ground":{"humps":[{"z":2,"length":2,"height":0.2}]},
"carriers":[{"id":"c","name":"c","at":[0,0,{"speed":1.5}],"ground":{}}],
"paths":[{"id":"p","name":"p","carrier":"c","shape":{"wrap":{"depth":0.01,"keep":{"links":76,"pitch":0.1},"wheels":[
{"name":"Rear","at":[0,0.9,-1.2],"radius":0.3,"slack":true},{"name":"Front","at":[0,0.9,1.2],"radius":0.3},
{"name":"Road 1","at":[0,0.31,0.8],"radius":0.3,"ground":true,"spring":{"up":0.2,"down":0.2}},{"name":"Road 2","at":[0,0.31,-0.8],"radius":0.3,"ground":true,"spring":{"up":0.2,"down":0.2}}]}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.06,"length":0.09}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":76},"facing":{"mode":"loopside"},"travel":{"rolls":"c"}}]}`)
	all := results(t, doc)
	slip, floor := all["slip"], all["floor"]
	if slip.State != check.Inside || !strings.Contains(slip.Text, "pieces on the ground stand still") {
		t.Errorf("%+v", slip)
	}
	turned := []byte(strings.Replace(string(doc), `{"rolls":"c"}`, `{"rolls":"c","flip":true}`, 1))
	slip = results(t, turned)["slip"]
	if slip.State != check.Outside || len(slip.Remedies) != 1 {
		t.Fatalf("%+v", slip)
	}
	if after := results(t, apply(t, turned, slip.Remedies[0].Edits))["slip"]; after.State == check.Outside {
		t.Errorf("%+v", after)
	}
	if floor.State != check.Outside || floor.Word != "below" || len(floor.Remedies) != 1 {
		t.Fatalf("%+v", floor)
	}
	if after := results(t, apply(t, doc, floor.Remedies[0].Edits))["floor"]; after.Value > floor.Value/2 {
		t.Errorf("%+v, before %g", after, floor.Value)
	}
}

// A wheel that a carrier drives into another: the frame is named, and what it is.
func TestNoWayForTheBelt(t *testing.T) {
	doc := []byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":24},
"carriers":[{"id":"c","name":"c","at":[0,0,{"keys":[{"frame":1,"value":0},{"frame":24,"value":-2}]}]}],
"paths":[{"id":"p","name":"p","shape":{"wrap":{"wheels":[{"name":"Left","at":[0,1,0],"radius":0.5},{"name":"Right","at":[0,1,2],"radius":0.3,"carrier":"c"}]}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.02,"length":0.08}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":40},"facing":{"mode":"loopside"},"travel":0}]}`)
	r := results(t, doc)["tension"]
	if r.State != check.Outside || r.Word != "no way" || !strings.Contains(r.Text, "no way for the belt from Left to Right") || r.Where.Frame != 22 {
		t.Errorf("%+v", r)
	}
}

// Links on their pins that a belt too short draws apart: the straight distance says so, and
// the seam of a set pitch that does not close.
func TestPins(t *testing.T) {
	doc := fmt.Appendf(nil, beltDoc, 50, `"radius":0.3`, "", 50)
	pinned := strings.NewReplacer(`"part":"a",`, `"part":"a","seat":"ends",`, `"pitch":0.1}`, `"pitch":0.1,"pins":true}`)
	short := []byte(pinned.Replace(string(doc)))
	if r := results(t, short)["spacing"]; r.State != check.Outside || r.Word != "uneven" || r.Value < 0.01 {
		t.Errorf("%+v", r)
	}
	open := []byte(strings.NewReplacer(`"keep":{"links":50,"pitch":0.1,"pins":true},`, "", `"set count","count":50`, `"set pitch","pitch":0.11`).Replace(string(short)))
	if r := results(t, open)["seam"]; r.State != check.Outside || r.Word != "open" {
		t.Errorf("%+v", r)
	}
}
