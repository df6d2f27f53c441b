package check_test

import (
	"context"
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/rig"
	"bead/core/scene"
)

// two compiles a scene with a turning chassis and two rigs with the given travels on
// loops of one length.
func two(t *testing.T, a, b string) []byte {
	t.Helper()
	return fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":97},
"carriers":[{"id":"body","name":"Body","at":[0,0,{"keys":[{"frame":1,"value":0},{"frame":97,"value":4}]}],"turn":{"heading":{"keys":[{"frame":1,"value":0},{"frame":97,"value":200}]}}}],
"paths":[{"id":"p","name":"p","carrier":"body","shape":{"slot":{"centre":[0.7,0.5,0],"length":3,"radius":0.5}}},{"id":"q","name":"q","shape":{"slot":{"centre":[-0.7,0.5,0],"length":3,"radius":0.5}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.2,"height":0.1,"length":0.19}}}],
"rigs":[{"id":"r","name":"Mine","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":40},"facing":{"mode":"loopside"},"travel":%s},
{"id":"o","name":"Theirs","kind":"train","path":"q","part":"a","spacing":{"mode":"set count","count":40},"facing":{"mode":"loopside"},"travel":%s}]}`, a, b)
}

// free takes the first path off its carrier.
func free(doc []byte) []byte { return []byte(strings.Replace(string(doc), `"carrier":"body",`, ``, 1)) }

func scenes(t *testing.T, doc []byte) *rig.Scene {
	t.Helper()
	d, err := scene.Decode(doc)
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// A tread that rolls where it lies grips; with a wrong gauge, at the middle, or the
// other way it slips, by what the geometry says, and the remedy mends it.
func TestSlip(t *testing.T) {
	for _, tc := range []struct {
		travel string
		slips  float64 // percent of the greatest speed rolled
	}{
		{`{"rolls":"body"}`, 0},
		{`{"rolls":"body","side":"left","gauge":1.4}`, 0},
		// The body goes 4 m and turns 200 degrees: the left side rolls 4 m less 0.7 times the turn,
		// the middle 4 m; the difference slides.
		{`{"rolls":"body","side":"middle"}`, 100 * 0.7 * 200 * math.Pi / 180 / 4},
		{`{"rolls":"body","flip":true}`, 200},
	} {
		doc := two(t, tc.travel, `0`)
		r := results(t, doc)["slip"]
		if math.Abs(math.Abs(r.Value)-tc.slips) > 0.5 || (r.State == check.Outside) != (tc.slips > 0) {
			t.Errorf("%s: %+v, want %g %%", tc.travel, r, tc.slips)
		}
		for _, remedy := range r.Remedies {
			if after := results(t, apply(t, doc, remedy.Edits))["slip"]; after.State != check.Inside {
				t.Errorf("%s: after %q %+v", tc.travel, remedy.Label, after)
			}
		}
		if tc.slips > 0 && len(r.Remedies) == 0 {
			t.Errorf("%s: nothing to press", tc.travel)
		}
	}
}

// Eased against straight over 97 frames and 3 m differs most by 3 sqrt(3)/18 m, where
// u is 1/2 -+ sqrt(3)/6 (the extremes of u^2(3-2u) - u); shifted keys differ by the
// shift; and every remedy brings them into step.
func TestStep(t *testing.T) {
	straight := `{"keys":[{"frame":1,"value":0.5},{"frame":97,"value":3.5}]}`
	for _, tc := range []struct {
		mine   string
		value  float64
		frame  int
		offers string
	}{
		{straight, 0, 1, ""},
		{strings.Replace(straight, `0.5`, `0.5,"shape":"eased"`, 1), -3 * math.Sqrt(3) / 18, 21, "Take the key shapes of Theirs"},
		{`{"keys":[{"frame":13,"value":0},{"frame":109,"value":3}],"before":"carry on","after":"carry on"}`, 0, 1, ""},
		{`{"keys":[{"frame":13,"value":0},{"frame":97,"value":2.625}]}`, -0.375, 13, "Move as Theirs does"},
	} {
		doc := two(t, tc.mine[:len(tc.mine)-1]+`},"inStep":"o","pastEnd":"straight on"`+"", straight)
		doc = []byte(strings.Replace(string(doc), `]}},"inStep"`, `]},"inStep"`, 1))
		r := results(t, doc)["step"]
		if math.Abs(r.Value-tc.value) > 2e-4 || tc.value != 0 && r.Where.Frame != tc.frame {
			t.Errorf("%s: %+v, want %g at frame %d", tc.mine, r, tc.value, tc.frame)
			continue
		}
		offered := ""
		for _, remedy := range r.Remedies {
			offered += remedy.Label + "\n"
			after := results(t, apply(t, doc, remedy.Edits))["step"]
			if strings.HasSuffix(remedy.Label, "left") && math.Abs(after.Value) <= math.Abs(r.Value)/2 {
				continue // it says what it leaves
			}
			if after.State == check.Outside {
				t.Errorf("%s: after %q %+v", tc.mine, remedy.Label, after)
			}
		}
		if !strings.Contains(offered, tc.offers) {
			t.Errorf("%s: offers %q, want %q", tc.mine, offered, tc.offers)
		}
	}
}

// A loop whose pieces are back in place at another speed jolts, and the remedy runs
// evenly; offers of the solver close exactly what they say they close.
func TestLoopSpeedsAndOffers(t *testing.T) {
	pitch := (6 + math.Pi) / 40
	keys := fmt.Sprintf(`{"keys":[{"frame":1,"value":0,"shape":"eased"},{"frame":98,"value":%.17g}],"after":"carry on"}`, 5*pitch)
	loop := func(doc []byte) check.Result {
		t.Helper()
		for _, r := range check.All(scenes(t, doc)) {
			if r.ID == "loop" {
				return r
			}
		}
		t.Fatal("no loop check")
		return check.Result{}
	}
	if r := loop(free(two(t, keys, `0`))); r.State != check.Inside {
		t.Errorf("eased from rest to rest: %+v", r)
	}
	keys = fmt.Sprintf(`{"keys":[{"frame":1,"value":0},{"frame":50,"value":%.17g},{"frame":98,"value":%.17g}],"after":"carry on"}`, pitch, 5*pitch)
	doc := free(two(t, keys, `0`))
	r := loop(doc)
	if r.Word != "jolts" || len(r.Remedies) != 1 {
		t.Fatalf("slow, then fast: %+v", r)
	}
	if after := loop(apply(t, doc, r.Remedies[0].Edits)); after.State != check.Inside {
		t.Errorf("after %q: %+v", r.Remedies[0].Label, after)
	}
	doc = free(two(t, `{"speed":0.4}`, `{"of":"rigs/r/travel","ratio":2}`))
	s := scenes(t, doc)
	answer, err := check.Loops(context.Background(), s, rig.Compile, 0, 60, 0.4)
	if err != nil || len(answer.Offers) < 3 {
		t.Fatal(answer, err)
	}
	for _, o := range answer.Offers {
		if o.Error > 1e-9 { // what follows at twice the speed closes when this does
			t.Errorf("%+v", o)
		}
		mended := apply(t, doc, o.Edits)
		if a, b := loop(mended), results(t, mended)["loop"]; a.State != check.Inside || b.State != check.Inside {
			t.Errorf("%s: %+v, %+v", o.Text, a, b)
		}
	}
	for _, bad := range []int{0, -5, 1 << 30} {
		if _, err := check.Loops(context.Background(), s, rig.Compile, 0, bad, 0.4); err == nil {
			t.Errorf("a loop of %d frames is accepted", bad)
		}
	}
	if _, err := check.Loops(context.Background(), s, rig.Compile, 0, 60, math.NaN()); err == nil {
		t.Error("a speed that is no number is accepted")
	}
}
