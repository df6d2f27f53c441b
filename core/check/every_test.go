package check_test

import (
	"context"
	"fmt"
	"math"
	"reflect"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/rig"
	"bead/core/scene"
)

// document is a scene of one rig r on a path p, of pieces a.
func document(last int, path, part, rigFields, more string) []byte {
	return fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":%d},"paths":[{"id":"p","name":"p",%s}],
"parts":[{"id":"a","name":"a",%s}],"rigs":[{"id":"r","name":"r","path":"p","part":"a",%s}]%s}`, last, path, part, rigFields, more)
}

const dipping = `,"carriers":[{"id":"c","name":"c","at":[0,{"keys":[{"frame":1,"value":0},{"frame":50,"value":0},{"frame":53,"value":-1.2},{"frame":56,"value":0}]},0]}]`

// What happens in a single frame is seen: a body that dips into the ground by 250 mm in frame 53
// of 96, and a belt that is 400 mm short in frame 201 of 400 (closed forms: 1 m less 1.2 m less
// half of 0.1 m; a wheel moved by 0.2 m lengthens both runs by as much).
func TestEveryFrameIsLookedAt(t *testing.T) {
	body := document(96, `"carrier":"c","shape":{"line":{"from":[0,1,0],"to":[0,1,4]}}`, `"segments":8,"shape":{"box":{"side":0.1,"height":0.1,"length":2}}`,
		`"kind":"bend","seat":"bent","bend":{"fit":"keep length","anchor":"tail"},"facing":{"mode":"steady"},"travel":1`, dipping)
	r := results(t, body)["floor"]
	if r.State != check.Outside || math.Abs(r.Value-0.25) > 1e-6 || r.Where.Frame != 53 {
		t.Errorf("body: %+v", r)
	}
	rigid := document(96, `"carrier":"c","shape":{"line":{"from":[0,1,0],"to":[0,1,4]}}`, `"shape":{"box":{"side":0.1,"height":0.1,"length":0.2}}`,
		`"kind":"train","spacing":{"mode":"set count","count":9},"facing":{"mode":"steady"},"travel":0`, dipping)
	if r := results(t, rigid)["floor"]; r.State != check.Outside || math.Abs(r.Value-0.25) > 1e-6 || r.Where.Frame != 53 {
		t.Errorf("rig: %+v", r)
	}
	belt := document(400, fmt.Sprintf(`"shape":{"wrap":{"keep":{"links":59,"pitch":%.17g},"wheels":[{"name":"x","at":[0,1,-1],"radius":0.3},{"name":"y","at":[0,1,1],"radius":0.3,"carrier":"c"}]}}`, (4+0.6*math.Pi)/59),
		`"shape":{"box":{"side":0.1,"height":0.1,"length":0.09}}`, `"kind":"train","spacing":{"mode":"set count","count":59},"facing":{"mode":"loopside"},"travel":0`,
		`,"carriers":[{"id":"c","name":"c","at":[0,0,{"keys":[{"frame":199,"value":0},{"frame":201,"value":0.2},{"frame":203,"value":0}]}]}]`)
	if r := results(t, belt)["tension"]; r.State != check.Outside || math.Abs(r.Value+0.4) > 1e-6 || r.Where.Frame != 201 {
		t.Errorf("belt: %+v", r)
	}
	// A first look at a few frames misses the dip, and says at how many it has looked.
	s := compiled(t, body)
	few, err := check.Run(context.Background(), s, check.Look{Frames: check.First(s.Doc.Range, 5)})
	if err != nil || few.Seen != 5 || few.Of != 96 {
		t.Fatalf("%+v, %v", few, err)
	}
	for _, r := range few.Results {
		if strings.Contains(r.Text, "every frame") || r.ID == "floor" && !strings.Contains(r.Text, "in the 5 frames looked at") {
			t.Errorf("of 5 frames: %s: %s", r.ID, r.Text)
		}
	}
}

func compiled(t *testing.T, doc []byte) *rig.Scene {
	t.Helper()
	d, err := scene.Decode(doc)
	if err != nil {
		t.Fatalf("%v in %s", err, doc)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// However the frames are shared out, the results are the same to the bit; a look that is
// cancelled ends with the context's error and without results.
func TestSharedOutAndCancelled(t *testing.T) {
	s := compiled(t, document(48, `"shape":{"slot":{"centre":[0,0.4,0],"length":2,"radius":0.3}},"steps":[{"wave":{"side":0.05,"wavelength":0.6,"phase":{"speed":1}}}]`,
		`"shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}`, `"kind":"train","spacing":{"mode":"set count","count":40},"facing":{"mode":"loopside"},"travel":{"speed":0.6}`, ""))
	want, err := check.Run(context.Background(), s, check.Look{Workers: 1})
	if err != nil {
		t.Fatal(err)
	}
	for _, workers := range []int{2, 3, 7, 48, 100} {
		got, err := check.Run(context.Background(), s, check.Look{Workers: workers})
		if err != nil || !reflect.DeepEqual(got, want) {
			t.Errorf("%d workers: %+v\nwant %+v, %v", workers, got, want, err)
		}
	}
	ctx, cancel := context.WithCancel(context.Background())
	looked := 0
	got, err := check.Run(ctx, s, check.Look{Workers: 1, Progress: func(done int) {
		if looked = done; done == 3 {
			cancel()
		}
	}})
	if err != context.Canceled || got.Results != nil || looked != 3 {
		t.Errorf("cancelled at 3: went on to %d, %v, %d results", looked, err, len(got.Results))
	}
}

const carried = `,"carriers":[{"id":"c","name":"Hull","at":[0,0,{"speed":%g}]}]`

// A tread at half its carrier's speed slides at half of it, one that runs backwards at twice,
// whatever drives it; one under the floor is seen. The press mends the slip.
func TestSlipWhateverDrives(t *testing.T) {
	// The lower run lies at 0.06 m; shoes 0.12 m high reach the ground.
	slot := `"carrier":"c","shape":{"slot":{"centre":[0,0.36,0],"length":2,"radius":0.3}}`
	shoe := `"shape":{"box":{"side":0.1,"height":0.12,"length":0.1}}`
	doc := func(travel string) []byte {
		return document(24, slot, shoe, `"kind":"train","spacing":{"mode":"set count","count":58},"facing":{"mode":"loopside"},"travel":`+travel, fmt.Sprintf(carried, 1.0))
	}
	for _, tc := range []struct {
		speed, slips float64
	}{{1, 0}, {0.5, 50}, {-1, 200}, {0, 100}} {
		d := doc(fmt.Sprintf(`{"speed":%g}`, tc.speed))
		r, ok := results(t, d)["slip"]
		if !ok || math.Abs(r.Value-tc.slips) > 0.01 || (r.State == check.Outside) != (tc.slips > 0) {
			t.Errorf("%g m/s: %+v", tc.speed, r)
		}
		if tc.slips == 0 {
			continue
		}
		if len(r.Remedies) != 1 || r.Remedies[0].Label != "Roll with Hull" {
			t.Fatalf("%g m/s: %+v", tc.speed, r.Remedies)
		}
		if after := results(t, apply(t, d, r.Remedies[0].Edits))["slip"]; after.State == check.Outside {
			t.Errorf("%g m/s, after: %+v", tc.speed, after)
		}
	}
	// A chain in the air on the same carrier has nothing to slip on.
	high := document(24, strings.Replace(slot, "0.36", "1.36", 1), shoe, `"kind":"train","spacing":{"mode":"set count","count":58},"facing":{"mode":"loopside"},"travel":0`, fmt.Sprintf(carried, 1.0))
	if r, ok := results(t, high)["slip"]; ok {
		t.Errorf("in the air: %+v", r)
	}
	ring := document(24, `"shape":{"circle":{"centre":[0,0.5,0],"radius":1}}`, `"shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}`,
		`"kind":"train","spacing":{"mode":"set count","count":62},"facing":{"mode":"loopside"},"travel":0`, "")
	if r := results(t, ring)["floor"]; r.State != check.Outside || math.Abs(r.Value-0.55) > 1e-3 {
		t.Errorf("half under the floor: %+v", r)
	}
}

// The strain of an open jaw is that of the open jaw: as Body.Strains has it with the amounts, and
// twice what the shut one has.
func TestStrainCountsBlends(t *testing.T) {
	eel := func(jaw string) []byte {
		return document(2, `"shape":{"circle":{"centre":[0,2,0],"radius":0.8}}`, `"segments":40,"shape":{"eel":{"length":1.2,"girth":0.1}}`,
			`"kind":"bend","seat":"bent","facing":{"mode":"loopside"},"travel":0.1,"blends":[{"name":"jaw","amount":`+jaw+`}]`, "")
	}
	shut, open := results(t, eel("0"))["strain"], results(t, eel("3"))["strain"]
	s := compiled(t, eel("3"))
	var p rig.Pieces
	s.RigAt(&p, 0, 1)
	tr := &s.Rigs[0]
	// From outside: the vertices as they are drawn, by how far from the centre of the circle. What
	// runs along the path there is r/R as long as the middle.
	most := 0.0
	for v := 0; v < len(p.Positions); v += 3 {
		r := math.Hypot(float64(p.Positions[v+1])-2, float64(p.Positions[v+2]))
		most = max(most, math.Abs(r/0.8-1))
	}
	if math.Abs(open.Value/100-most) > 1e-3 || open.Value < 1.2*shut.Value {
		t.Errorf("jaw shut %.2f %%, open %.2f %%; the vertices say %.2f %%", shut.Value, open.Value, 100*most)
	}
	_ = tr
}

// A roll by distance that turns over within a millimetre flips; one that is spread over the way
// does not, on trains and on bodies. The press mends it.
func TestRollThatJumps(t *testing.T) {
	for _, kind := range []string{
		`"kind":"train","spacing":{"mode":"set count","count":20},`, `"kind":"bend","seat":"bent",`,
	} {
		doc := func(at float64) []byte {
			return document(2, `"shape":{"line":{"from":[0,1,0],"to":[0,1,4]}}`, `"segments":20,"shape":{"box":{"side":0.1,"height":0.05,"length":0.15}}`,
				kind+fmt.Sprintf(`"travel":{"keys":[{"frame":1,"value":0},{"frame":2,"value":2}]},"facing":{"mode":"steady","rollAt":[{"at":0,"roll":0},{"at":2,"roll":0},{"at":%g,"roll":180},{"at":4,"roll":180}]}`, at), "")
		}
		for at, flips := range map[float64]bool{2.001: true, 3.9: false} {
			d := doc(at)
			if strings.Contains(kind, "bend") {
				d = []byte(strings.Replace(string(d), `"length":0.15`, `"length":1.5`, 1))
			}
			r := results(t, d)["flips"]
			if (r.State == check.Outside) != flips {
				t.Errorf("%s roll within %g m: %+v", kind, at-2, r)
			}
			if !flips {
				continue
			}
			mended := false
			for _, m := range r.Remedies {
				mended = mended || results(t, apply(t, d, m.Edits))["flips"].State == check.Inside
			}
			if !mended {
				t.Errorf("%s: nothing offered mends it: %+v", kind, r.Remedies)
			}
		}
	}
}

// What plays once has no loop check: when it says so, and by default when something arrives.
func TestPlaysOnce(t *testing.T) {
	row := func(more, plays string) []byte {
		return document(24, `"shape":{"line":{"from":[0,1,0],"to":[0,1,4]}}`, `"shape":{"box":{"side":0.1,"height":0.05,"length":0.15}}`,
			`"kind":"train","spacing":{"mode":"set count","count":5},"facing":{"mode":"steady"},"travel":{"speed":0.3}`+more, plays)
	}
	const arrive = `,"arrive":{"first":1,"takes":5,"delay":1}`
	for _, tc := range []struct {
		more, plays string
		loops       bool
	}{{"", "", true}, {"", `,"plays":"once"`, false}, {"", `,"plays":"loops"`, true}, {arrive, "", false}, {arrive, `,"plays":"loops"`, true}} {
		if _, has := results(t, row(tc.more, tc.plays))["loop"]; has != tc.loops {
			t.Errorf("%q %q: loop check %v", tc.more, tc.plays, has)
		}
	}
	if _, err := scene.Decode(row("", `,"plays":"twice"`)); err == nil || !strings.Contains(err.Error(), "plays") {
		t.Errorf("plays twice: %v", err)
	}
}

// Sentences are in the document's unit, as the figure beside them.
func TestUnitsOfSentences(t *testing.T) {
	doc := string(document(24, `"shape":{"slot":{"centre":[0,1,0],"length":3,"radius":0.5}}`, `"shape":{"box":{"side":0.1,"height":0.05,"length":0.15}}`,
		`"kind":"train","spacing":{"mode":"set pitch","pitch":0.19},"facing":{"mode":"loopside"},"travel":0`, ""))
	left := math.Mod(6+math.Pi, 0.19)
	for unit, says := range map[string]string{"mm": fmt.Sprintf("%.1f mm are", left*1e3), "cm": fmt.Sprintf("%.2f cm are", left*1e2), "m": fmt.Sprintf("%.3f m are", left), "in": fmt.Sprintf("%.3f in are", left/0.0254)} {
		if r := results(t, []byte(strings.Replace(doc, `"fps"`, `"units":"`+unit+`","fps"`, 1)))["seam"]; !strings.HasPrefix(r.Text, says) {
			t.Errorf("%s: %q, want %q", unit, r.Text, says)
		}
	}
}
