package check_test

import (
	"fmt"
	"math"
	"testing"

	"bead/core/check"
)

func bodyDoc(path, part, more string) []byte {
	return fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":24},"paths":[{"id":"way","name":"way",%s}],
"parts":[{"id":"body","name":"body",%s}],"rigs":[{"id":"r","name":"r","kind":"bend","seat":"bent","path":"way","part":"body",%s}]}`, path, part, more)
}

const (
	ring    = `"shape":{"circle":{"centre":[0,1,0],"radius":0.5}}`
	level   = `"shape":{"line":{"from":[0,1,0],"to":[0,1,3]}}`
	outward = `"facing":{"mode":"loopside"},"travel":0`
)

// Facets are the sagitta of a chord: on the outside of a tube of radius t bent to a circle of
// radius r, edges that each turn by a stray by (r + t)(1 - cos(a/2)) (closed form). The press
// that cuts the body mends it.
func TestFacets(t *testing.T) {
	doc := bodyDoc(ring, `"segments":8,"shape":{"tube":{"length":1.6,"radius":0.05}}`, outward)
	r := results(t, doc)["facets"]
	if want := 0.55 * (1 - math.Cos(0.2/0.5/2)); r.State != check.Outside || math.Abs(r.Value-want) > 0.01*want {
		t.Fatalf("%s, %g m; the sagitta is %g", r.State, r.Value, want)
	}
	if r.Where == nil || len(r.Remedies) != 1 {
		t.Fatalf("no place or no remedy: %+v", r)
	}
	if after := results(t, apply(t, doc, r.Remedies[0].Edits))["facets"]; after.State == check.Outside {
		t.Errorf("after %q: %+v", r.Remedies[0].Label, after)
	}
}

// The outside of a bend is drawn out by half the thickness over its radius, and a body thicker than
// that folds over itself on the inside; a press makes it thinner.
func TestFoldAndStrain(t *testing.T) {
	got := results(t, bodyDoc(ring, `"segments":64,"shape":{"tube":{"length":1.6,"radius":0.1}}`, outward))
	for _, id := range []string{"fold", "strain"} { // 0.1 / 0.5; the ring's chords reach 0.4 % less far
		if r := got[id]; r.State != check.Inside || math.Abs(r.Value-20) > 0.2 {
			t.Errorf("%s: %s, %g %%, not 20", id, r.State, r.Value)
		}
	}
	doc := bodyDoc(ring, `"segments":64,"shape":{"tube":{"length":1.6,"radius":0.55}}`, outward+`,"bend":{}`)
	fold := results(t, doc)["fold"]
	if fold.State != check.Outside || fold.Word != "folds" || len(fold.Remedies) < 2 {
		t.Fatalf("%+v", fold)
	}
	thinner := fold.Remedies[len(fold.Remedies)-1]
	if after := results(t, apply(t, doc, thinner.Edits))["fold"]; after.State == check.Outside {
		t.Errorf("after %q: %+v", thinner.Label, after)
	}
}

// Ends: how far beyond an open path; stopping mends it. Floor: how deep; lifting the path mends it.
// Length: kept; a head that comes to the tail is said.
func TestEndsFloorLength(t *testing.T) {
	doc := bodyDoc(level, `"segments":8,"shape":{"tube":{"length":1,"radius":0.05}}`, `"facing":{"mode":"steady"},"travel":3.5`)
	got := results(t, doc)
	ends := got["ends"]
	if ends.State != check.Outside || math.Abs(ends.Value-1.5) > 1e-6 || ends.Word != "left the path" {
		t.Fatalf("ends: %+v", ends)
	}
	if after := results(t, apply(t, doc, ends.Remedies[0].Edits))["ends"]; after.State != check.Inside || after.Value != 0 {
		t.Errorf("after %q: %+v", ends.Remedies[0].Label, after)
	}
	if l := got["length"]; l.State != check.Inside || l.Value > 1e-9 || l.Word != "kept" {
		t.Errorf("length: %+v", l)
	}
	low := bodyDoc(`"shape":{"line":{"from":[0,0.02,0],"to":[0,0.02,3]}}`, `"segments":8,"shape":{"tube":{"length":1,"radius":0.05}}`, `"facing":{"mode":"steady"},"travel":0.5`)
	floor := results(t, low)["floor"]
	if floor.State != check.Outside || math.Abs(floor.Value-0.03) > 1e-3 {
		t.Fatalf("floor: %+v", floor)
	}
	if after := results(t, apply(t, low, floor.Remedies[0].Edits))["floor"]; after.State == check.Outside {
		t.Errorf("after %q: %+v", floor.Remedies[0].Label, after)
	}
	shut := bodyDoc(level, `"segments":8,"shape":{"tube":{"length":1,"radius":0.05}}`,
		`"facing":{"mode":"steady"},"travel":0,"bend":{"fit":"reach","tail":0.5,"head":{"keys":[{"frame":1,"value":1.5},{"frame":24,"value":0.5}]}}`)
	if l := results(t, shut)["length"]; l.State != check.Outside || l.Word != "collapsed" {
		t.Errorf("length of a body that is shut: %+v", l)
	}
}

// A guide that crosses the path turns up over between two places along the body; least twist does not.
func TestBodyFlips(t *testing.T) {
	doc := []byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":24},"paths":[{"id":"way","name":"way","shape":{"line":{"from":[0,1,0],"to":[0,1,3]}}},
{"id":"guide","name":"guide","shape":{"line":{"from":[0.5,1,0],"to":[-0.5,1,3]}}}],"parts":[{"id":"body","name":"body","segments":64,"shape":{"tube":{"length":2.8,"radius":0.03}}}],
"rigs":[{"id":"r","name":"r","kind":"bend","path":"way","part":"body","facing":{"mode":"guide","guide":"guide"},"travel":0.1}]}`)
	flips := results(t, doc)["flips"]
	if flips.State != check.Outside || flips.Value < 1 || math.Abs(flips.Where.Distance-1.5) > 0.1 {
		t.Fatalf("%+v at %+v", flips, flips.Where)
	}
	if after := results(t, apply(t, doc, flips.Remedies[0].Edits))["flips"]; after.State != check.Inside {
		t.Errorf("after %q: %+v", flips.Remedies[0].Label, after)
	}
}

// A cable whose ends are carried farther apart than it is long says so, where and by how much, and a
// press that lengthens it mends it.
func TestCableTooShort(t *testing.T) {
	doc := []byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":24},
"carriers":[{"id":"c","name":"c","at":[0,0,{"keys":[{"frame":1,"value":0},{"frame":24,"value":2}]}]}],
"paths":[{"id":"way","name":"way","shape":{"hang":{"from":[0,4,0],"to":[0,4,3],"length":4.5,"toCarrier":"c"}}}],
"parts":[{"id":"b","name":"b","shape":{"strands":{"length":4.5,"count":3,"radius":0.02,"lay":0.4}}}],
"rigs":[{"id":"r","name":"r","kind":"bend","path":"way","part":"b","facing":{"mode":"least-twist"},"travel":0}]}`)
	r := results(t, doc)["tension"]
	if r.State != check.Outside || math.Abs(r.Value+0.5) > 1e-9 || r.Where.Frame != 24 {
		t.Fatalf("%+v", r)
	}
	if after := results(t, apply(t, doc, r.Remedies[0].Edits))["tension"]; after.State != check.Inside {
		t.Errorf("after %q: %+v", r.Remedies[0].Label, after)
	}
}

// A body that is elsewhere at the range's end jumps by how far it is: every vertex on a straight path by
// the same.
func TestBodyJumps(t *testing.T) {
	doc := bodyDoc(level, `"segments":8,"shape":{"tube":{"length":1,"radius":0.05}}`, `"facing":{"mode":"steady"},"travel":{"keys":[{"frame":1,"value":0},{"frame":25,"value":0.75}]}`)
	if r := results(t, doc)["loop"]; r.State != check.Outside || math.Abs(r.Value-0.75) > 1e-6 {
		t.Errorf("%+v", r)
	}
}
