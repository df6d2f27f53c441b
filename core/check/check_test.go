package check_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/rig"
	"bead/core/scene"
)

func measure(t *testing.T, shape, spacing, rest string) map[string]check.Result {
	t.Helper()
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[{"id":"p","name":"p","shape":%s}],"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.2,"height":0.1,"length":0.19}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":%s,%s}]}`, shape, spacing, rest))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]check.Result{}
	for _, r := range check.All(s) {
		if math.IsNaN(r.Value) || r.Text == "" || r.Word == "" || r.Where == nil || r.Rig != "r" {
			t.Errorf("incomplete result %+v", r)
		}
		out[r.ID] = r
	}
	return out
}

const slot = `{"slot":{"centre":[0,1,0],"length":3,"radius":0.5}}` // 6 + pi long

func TestAllIsWell(t *testing.T) {
	length := 6 + math.Pi
	// 16 pitches in 48 frames of a 24th of a second: half a second a pitch less.
	speed := length / 48 * 16 / 2
	r := measure(t, slot, `{"mode":"close up","pitch":0.19}`, fmt.Sprintf(`"facing":{"mode":"loopside"},"travel":{"speed":%.17g}`, speed))
	for _, id := range []string{"spacing", "seam", "flips", "loop"} {
		if r[id].State != check.Inside || len(r[id].Remedies) != 0 {
			t.Errorf("%s: %+v", id, r[id])
		}
	}
	if !strings.Contains(r["loop"].Text, "16 pitches") {
		t.Errorf("loop says %q", r["loop"].Text)
	}
}

// The seam's error is what is left of the length, and its remedies mend it.
func TestOpenSeam(t *testing.T) {
	left := math.Mod(6+math.Pi, 0.19)
	r := measure(t, slot, `{"mode":"set pitch","pitch":0.19}`, `"facing":{"mode":"loopside"},"travel":0`)["seam"]
	if r.State != check.Outside || r.Word != "open" || math.Abs(r.Value-left) > 1e-9 {
		t.Fatalf("seam %+v, want %g open", r, left)
	}
	if len(r.Remedies) != 2 {
		t.Fatalf("remedies %+v", r.Remedies)
	}
	to := r.Remedies[1].Edits[0].Value.(float64)
	mended := measure(t, fmt.Sprintf(`{"slot":{"centre":[0,1,0],"length":%.17g,"radius":0.5}}`, to),
		`{"mode":"set pitch","pitch":0.19}`, `"facing":{"mode":"loopside"},"travel":0`)["seam"]
	if mended.State != check.Inside {
		t.Errorf("after %q the seam is %+v", r.Remedies[1].Label, mended)
	}
}

func TestLoopJumpsAndIsMended(t *testing.T) {
	for _, spacing := range []string{`{"mode":"set count","count":40}`, `{"mode":"set pitch","pitch":0.19}`} {
		r := measure(t, slot, spacing, `"facing":{"mode":"loopside"},"travel":{"speed":0.5}`)["loop"]
		if r.State != check.Outside || r.Word != "jumps" || len(r.Remedies) != 1 {
			t.Fatalf("loop %+v", r)
		}
		speed := r.Remedies[0].Edits[0].Value.(float64)
		r = measure(t, slot, spacing, fmt.Sprintf(`"facing":{"mode":"loopside"},"travel":{"speed":%.17g}`, speed))["loop"]
		if r.State != check.Inside {
			t.Errorf("%s: at the offered speed %g the loop still %s: %s", spacing, speed, r.Word, r.Text)
		}
	}
	// Keys are stretched, whatever their ends.
	for _, after := range []string{"hold", "carry on", "build"} {
		keys := `{"keys":[{"frame":1,"value":0.2},{"frame":20,"value":%.17g},{"frame":48,"value":%.17g}],"after":"` + after + `"}`
		rest := `"facing":{"mode":"loopside"},"travel":` + keys
		r := measure(t, slot, `{"mode":"set count","count":40}`, fmt.Sprintf(rest, 0.9, 1.3))["loop"]
		if r.State != check.Outside || len(r.Remedies) != 1 || len(r.Remedies[0].Edits) != 2 {
			t.Fatalf("%s: loop %+v", after, r)
		}
		e := r.Remedies[0].Edits
		r = measure(t, slot, `{"mode":"set count","count":40}`, fmt.Sprintf(rest, e[0].Value, e[1].Value))["loop"]
		// The stretched keys meet; only where they go on at the speed they began with do they run through.
		if want := map[string]string{"hold": "jolts", "carry on": "jolts", "build": "meets"}[after]; r.Word != want || (r.Value > r.Tolerance) != (want == "jolts") {
			t.Errorf("%s: stretched keys %s, want that it %s: %s", after, r.Word, want, r.Text)
		}
	}
	// A roll that does not come back is a jump, too.
	r := measure(t, slot, `{"mode":"set count","count":40}`, `"travel":0,"facing":{"mode":"loopside","roll":{"keys":[{"frame":1,"value":0},{"frame":49,"value":30}]}}`)["loop"]
	if r.State != check.Outside || !strings.Contains(r.Text, "30.0°") {
		t.Errorf("rolling loop: %+v", r)
	}
}

func TestFlips(t *testing.T) {
	// A steady up on an upright ring turns over at both sides.
	ring := `{"circle":{"centre":[0,1,0],"radius":1}}`
	for _, n := range []int{12, 62, 1000} {
		r := measure(t, ring, fmt.Sprintf(`{"mode":"set count","count":%d}`, n), `"facing":{"mode":"steady"},"travel":0`)["flips"]
		if r.State != check.Outside || r.Value < 2 || r.Of != n || len(r.Remedies) != 1 || r.Remedies[0].Edits[0].Value != "loopside" {
			t.Errorf("%d pieces: %+v", n, r)
		}
	}
	// Extra turns are wished for and no flips.
	for _, facing := range []string{`{"mode":"loopside"}`, `{"mode":"least-twist","turns":4}`, `{"mode":"least-twist"}`} {
		if r := measure(t, ring, `{"mode":"set count","count":62}`, `"travel":0,"facing":`+facing)["flips"]; r.State != check.Inside {
			t.Errorf("%s: %+v", facing, r)
		}
	}
}

func TestOpenPathHasNoSeam(t *testing.T) {
	r := measure(t, `{"line":{"from":[0,1,0],"to":[0,1,10]}}`, `{"mode":"set count","count":5}`, `"facing":{"mode":"steady"},"travel":0`)
	if _, has := r["seam"]; has || len(r) != 6 {
		t.Errorf("results %v", r)
	}
}

// Scattered pieces are no fault: their spacing is said, the loop closes, and meets only when each
// piece has come back to its own place, for which there is a press.
func TestScattered(t *testing.T) {
	const scatter = `{"mode":"scatter","count":20,"seed":5,"gap":0.05}`
	length := 6 + math.Pi
	for turns, want := range map[float64]check.State{0.5: check.Outside, 1: check.Inside, 2: check.Inside} {
		r := measure(t, slot, scatter, fmt.Sprintf(`"facing":{"mode":"loopside"},"travel":{"speed":%.17g}`, turns*length/2))
		for _, id := range []string{"spacing", "seam", "flips"} {
			if r[id].State != check.Inside {
				t.Errorf("%s: %+v", id, r[id])
			}
		}
		if r["spacing"].Word != "scattered" || !strings.Contains(r["spacing"].Text, "from 2") {
			t.Errorf("spacing says %q: %s", r["spacing"].Word, r["spacing"].Text)
		}
		if r["loop"].State != want {
			t.Errorf("%g turns: %+v", turns, r["loop"])
		}
		if want == check.Outside && (len(r["loop"].Remedies) != 1 || !strings.Contains(r["loop"].Remedies[0].Label, "1 round of 20 pieces")) {
			t.Errorf("%g turns: %+v", turns, r["loop"].Remedies)
		}
	}
	if _, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[{"id":"p","name":"p","shape":` + slot + `}],"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.2,"height":0.1,"length":0.19}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","seat":"ends","spacing":` + scatter + `,"facing":{"mode":"loopside"},"travel":0}]}`)); err == nil || !strings.Contains(err.Error(), "not scattered") {
		t.Errorf("on pins: %v", err)
	}
}
