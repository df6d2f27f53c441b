package web_test

import (
	"bufio"
	"encoding/json"
	"fmt"
	"math"
	"os"
	"os/exec"
	"regexp"
	"strings"
	"sync"
	"testing"

	"bead/core/geom"
	"bead/core/motion"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
)

// needPackages skips a test without the front end's packages; where all is tested it fails.
func needPackages(t *testing.T) {
	t.Helper()
	if _, err := os.Stat("node_modules/vite"); err != nil {
		if os.Getenv("CI") != "" {
			t.Fatal("the front end's packages are not installed: make setup")
		}
		t.Skip("the front end's packages are not installed: make setup")
	}
}

// compile reads and compiles a document.
func compile(t *testing.T, text []byte) (*scene.Document, *rig.Scene) {
	t.Helper()
	d, err := scene.Decode(text)
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return d, s
}

// core is the page's core in Node, one for all tests, which ends with them.
var core = sync.OnceValues(func() (*bufio.ReadWriter, error) {
	cmd := exec.Command("node", "tools/core.mjs")
	cmd.Stderr = os.Stderr
	in, err := cmd.StdinPipe()
	if err != nil {
		return nil, err
	}
	out, err := cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	return bufio.NewReadWriter(bufio.NewReader(out), bufio.NewWriter(in)), cmd.Start()
})

// call runs functions of the page's core in Node and returns what each gave and what
// became of its first argument.
func call(t *testing.T, calls [][]any) [][2]json.RawMessage {
	t.Helper()
	needPackages(t)
	node, err := core()
	if err != nil {
		t.Fatal(err)
	}
	text, err := json.Marshal(calls)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := node.Write(append(text, '\n')); err != nil {
		t.Fatal(err)
	}
	if err := node.Flush(); err != nil {
		t.Fatal(err)
	}
	line, err := node.ReadBytes('\n')
	if err != nil {
		t.Fatal(err)
	}
	var got [][2]json.RawMessage
	if err := json.Unmarshal(line, &got); err != nil || len(got) != len(calls) {
		t.Fatalf("%v: %s", err, line)
	}
	return got
}

// Whatever is taken out of any demo scene, what is left is a document that the server
// accepts: nothing names what has gone.
func TestRemovingLeavesWholeDocuments(t *testing.T) {
	var calls [][]any
	var names []string
	for _, name := range demo.Names() {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		d.Assets = nil
		remove := func(kind, id string) {
			calls = append(calls, []any{"remove", "remove", d, kind, id})
			names = append(names, name+" without "+kind+" "+id)
		}
		for i := range d.Rigs {
			remove("rig", d.Rigs[i].ID)
		}
		for i := range d.Paths {
			remove("path", d.Paths[i].ID)
		}
		for i := range d.Parts {
			remove("part", d.Parts[i].ID)
		}
		for i := range d.Fixtures {
			remove("fixture", d.Fixtures[i].ID)
		}
		for i := range d.Carriers {
			remove("carrier", d.Carriers[i].ID)
		}
		for i := range d.Tugs {
			remove("tug", d.Tugs[i].ID)
		}
	}
	for i, got := range call(t, calls) {
		d, err := scene.Decode(got[1])
		if err != nil {
			t.Errorf("%s: %v", names[i], err)
			continue
		}
		gone, kind := calls[i][4].(string), calls[i][3].(string)
		// A name is a value; the same word may be a key, as the shape "line" is.
		named := regexp.MustCompile(fmt.Sprintf(`%q[,}\]]|"[a-z]+/%s/`, gone, regexp.QuoteMeta(gone)))
		text, _ := json.Marshal(d)
		if kind != "part" && named.Match(text) && !strings.Contains(string(text), fmt.Sprintf(`"id":%q`, gone)) {
			t.Errorf("%s: %q is still named: %s", names[i], gone, text)
		}
	}
}

// Keys that the page moves, pastes, takes out and sets are keys that the core accepts,
// with the values that are meant.
func TestKeysOfThePage(t *testing.T) {
	type key = map[string]any
	k := func(f, v float64) key { return key{"frame": f, "value": v} }
	keyed := func(keys ...key) map[string]any { return map[string]any{"keys": keys, "after": "hold"} }
	v := keyed(k(1, 0), k(11, 5), k(21, 3))
	driven := map[string]any{"of": "rigs/a/travel", "ratio": 2}
	got := call(t, [][]any{
		{"keys", "pasted", v, []key{k(40, 9), k(50, 8)}, 11},
		{"keys", "without", v, []float64{11}, 7},
		{"keys", "without", v, []float64{1, 11, 21}, 7},
		{"value", "withKey", v, 6, 2.5},
		{"value", "withKey", 4, 6, 2.5},
		{"value", "withoutKey", v, 21},
		{"value", "shifted", v, 2, 11, 5},
		{"value", "shifted", driven, 0.25, 11, 5},
		{"value", "shifted", map[string]any{"rolls": "body"}, 0.25, 11, 5},
		{"value", "shifted", 3, 0.25, 11, 5},
		{"keys", "pasted", 3, []key{k(2, 9)}, 5},
	})
	for i, want := range []string{
		"1:0 11:9 21:8", "1:0 21:3", "const 7", "1:0 6:2.5 11:5 21:3", "6:2.5", "1:0 11:5", "1:0 11:7 21:3",
		"of rigs/a/travel 2 0.25", "rolls body 0.25", "const 3.25", "5:9",
	} {
		var m motion.Value
		if err := json.Unmarshal(got[i][0], &m); err != nil {
			t.Fatal(i, err)
		}
		if p := m.Check(); len(p) > 0 {
			t.Errorf("%d: %v", i, p)
		}
		said := ""
		switch {
		case m.Of != nil:
			said = fmt.Sprintf("of %s %g %g", m.Of.Of, m.Of.Times(), m.Of.Offset)
		case m.Rolls != nil:
			said = fmt.Sprintf("rolls %s %g", m.Rolls.Rolls, m.Rolls.Start)
		case len(m.Keys) == 0:
			said = fmt.Sprintf("const %g", m.Const)
		}
		for _, k := range m.Keys {
			said += fmt.Sprintf("%g:%g ", k.Frame, k.Value)
		}
		if said = strings.TrimSpace(said); said != want {
			t.Errorf("%d: %s, want %s", i, said, want)
		}
	}
}

// Every value that the page finds in a scene has the name by which the core knows it.
func TestSlotsAreTheCores(t *testing.T) {
	var calls [][]any
	var docs []*scene.Document
	for _, name := range demo.Names() {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		d.Assets = nil
		calls, docs = append(calls, []any{"slots", "allSlots", d}), append(docs, d)
	}
	// What no demo scene has: a second wave, a body that reaches, handles, a camera that is aimed.
	more, err := demo.Scene("eel")
	if err != nil {
		t.Fatal(err)
	}
	more.Assets = nil
	more.Paths[0].Steps = append(more.Paths[0].Steps, scene.Step{Smooth: &scene.SmoothStep{}}, scene.Step{Wave: &scene.WaveStep{}})
	more.Rigs[0].Body.Fit = scene.FitReach
	more.Tugs = []scene.Tug{{ID: "t", Name: "Tug"}}
	more.Cameras = append(more.Cameras, scene.Camera{ID: "c", Name: "Rides", Ride: &scene.Ride{}, Aim: &scene.Aim{}})
	calls, docs = append(calls, []any{"slots", "allSlots", more}), append(docs, more)
	for i, answer := range call(t, calls) {
		d, name := docs[i], docs[i].Name
		var got []struct{ Ref, Name, Quantity string }
		if err := json.Unmarshal(answer[0], &got); err != nil {
			t.Fatal(err)
		}
		type told struct{ name, quantity string }
		found := map[string]told{}
		for _, s := range got {
			found[s.Ref] = told{s.Name, s.Quantity}
		}
		slots := d.Slots()
		if len(found) != len(slots) {
			t.Errorf("%s: the page finds %d values, the core %d", name, len(found), len(slots))
		}
		for _, s := range slots {
			if in := found[s.Ref]; in.name != s.Name || (in.quantity == "angle") != (s.Unit == scene.Degrees) {
				t.Errorf("%s: %s is %+v in the page, %s in %s in the core", name, s.Ref, in, s.Name, s.Unit)
			}
		}
	}
}

// Numbers are read with units and arithmetic, as the rules of arithmetic say, and what
// is shown reads back to what is shown.
func TestNumbersAsTheyAreTyped(t *testing.T) {
	type tc struct {
		text, quantity, units string
		want                  float64
	}
	cases := []tc{
		{"62*190 mm", "length", "mm", 11.78}, {"1/4 in", "length", "mm", 0.00635}, {"(3+5) cm", "length", "mm", 0.08},
		{"2 turns", "angle", "mm", 720}, {"-3", "length", "mm", -0.003}, {"1.5", "distance", "mm", 1.5}, {"12", "length", "in", 0.3048},
		{"36 km/h", "speed", "mm", 10}, {"2+3*4", "plain", "mm", 14}, {"(2+3)*4", "plain", "mm", 20}, {"1e3", "plain", "mm", 1000},
		{"7-2-1", "plain", "mm", 4}, {"3*1.5 mm", "length", "mm", 0.0045}, {"(3+5) mm / 2", "length", "mm", 0.004}, {"0.5 cm + 1 mm", "length", "mm", 0.006}, {"0,5 cm", "length", "mm", 0.005}, {"1e-3 m", "length", "mm", 0.001}, {"8/4/2", "plain", "mm", 1}, {"-(2-5)", "plain", "mm", 3},
	}
	var calls [][]any
	for _, c := range cases {
		calls = append(calls, []any{"units", "readNumber", c.text, c.quantity, c.units})
	}
	bad := []string{"", "abc", "3 parsec", "1/0", "2+", "(1", "1 2", "NaN", "Infinity", "1e999", "2 mm + 3", "2 mm * 3 mm"}
	said := map[string]string{"2 mm + 3": "or neither", "2 mm * 3 mm": "Only one factor", "(1": "not finished", "1/0": "finite", "abc": "“abc” is not understood"}
	for _, text := range bad {
		calls = append(calls, []any{"units", "readNumber", text, "length", "mm"})
	}
	got := call(t, calls)
	for i, c := range cases {
		var v float64
		if err := json.Unmarshal(got[i][0], &v); err != nil || math.Abs(v-c.want) > 1e-12*max(1, math.Abs(c.want)) {
			t.Errorf("%q: %s, want %g", c.text, got[i][0], c.want)
		}
	}
	for i, text := range bad {
		if s := string(got[len(cases)+i][0]); !strings.Contains(s, "thrown") || !strings.Contains(s, said[text]) {
			t.Errorf("%q is read as %s", text, s)
		}
	}
}

// begun is a scene with one path.
func begun(t *testing.T, shape any, steps ...json.RawMessage) *scene.Document {
	t.Helper()
	text, err := json.Marshal(map[string]any{"bead": scene.Version, "name": "n", "fps": 24, "range": map[string]int{"first": 1, "last": 24},
		"parts": []any{}, "rigs": []any{}, "paths": []any{map[string]any{"id": "p", "name": "Way", "shape": shape, "steps": append([]json.RawMessage{}, steps...)}}})
	if err != nil {
		t.Fatal(err)
	}
	d, err := scene.Decode(text)
	if err != nil {
		t.Fatalf("%v: %s", err, text)
	}
	return d
}

// What the page's menus begin is accepted and can be shown, on paths of any size: each shaping step
// on a line or a ring, and a train, a body and a rider on each kind of path.
func TestWhatMenusBegin(t *testing.T) {
	forms := scene.AllForms()
	var calls [][]any
	var steps []string
	lengths := []float64{0.03, 5.781, 1200}
	for _, k := range forms.Steps {
		if k.Key == "join" {
			continue // it takes the paths that a person chooses
		}
		for _, l := range lengths {
			calls, steps = append(calls, []any{"forms", "firstStep", k.Key, l}), append(steps, k.Key)
		}
	}
	for i, got := range call(t, calls) {
		l := lengths[i%len(lengths)]
		var shape any = map[string]any{"line": map[string]any{"from": []float64{0, 1, 0}, "to": []float64{0, 1, l}}}
		if steps[i] == "startAt" || steps[i] == "open" {
			shape = map[string]any{"circle": map[string]any{"centre": []float64{0, 1, 0}, "radius": l / (2 * math.Pi)}}
		}
		if _, err := rig.Compile(begun(t, shape, got[0])); err != nil {
			t.Errorf("%s on %g m: %v", got[0], l, err)
		}
	}
	calls, steps = nil, nil
	for _, k := range forms.Shapes {
		if k.First == nil {
			continue // on a surface, a track: begun elsewhere in the page
		}
		for _, add := range []string{"addTrain", "addBody", "addRider"} {
			d := begun(t, map[string]any{k.Key: k.First})
			calls, steps = append(calls, []any{"add", add, d, "@paths/0"}), append(steps, add+" on "+k.Key)
		}
	}
	for i, got := range call(t, calls) {
		d, err := scene.Decode(got[1])
		if err != nil {
			t.Errorf("%s: %v", steps[i], err)
			continue
		}
		if _, err := rig.Compile(d); err != nil || len(d.Rigs) != 1 {
			t.Errorf("%s: %d rigs, %v", steps[i], len(d.Rigs), err)
		}
	}
}

// The page's height of the ground is that of the core, on bumps, between their points and beyond their ends.
func TestHeightsOfTheGround(t *testing.T) {
	d, err := demo.Scene("hump")
	if err != nil {
		t.Fatal(err)
	}
	ground := d.Ground.Profile()
	var profile []float64
	for _, p := range ground {
		profile = append(profile, p.X, p.Y)
	}
	var calls [][]any
	var want []float64
	for k := range 80 {
		z := ground[0].X - 1 + (ground[len(ground)-1].X-ground[0].X+2)*float64(k)/79
		y, _ := ground.Height(z)
		calls, want = append(calls, []any{"ground", "groundAt", profile, z}), append(want, y)
	}
	high := 0.0
	for k, got := range call(t, calls) {
		var y float64
		if err := json.Unmarshal(got[0], &y); err != nil || math.Abs(y-want[k]) > 1e-12 {
			t.Errorf("at %v: %s, want %g", calls[k][3], got[0], want[k])
		}
		high = max(high, y)
	}
	if high < 0.01 {
		t.Errorf("the ground is level: up to %g m", high)
	}
}

// Of an open belt the start is pulled as its wheels are, behind them, where the core tells it; of a closed one there
// is none.
func TestHandlesOfBelts(t *testing.T) {
	for _, name := range []string{"davit", "hump"} {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh}
		s, err := k.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		shape := &d.Paths[0].Shape
		last := len(shape.Wrap.Wheels)
		got := call(t, [][]any{{"forms", "handlesOf", shape}, {"forms", "putPoint", shape, last - 1, []float64{1, 2, 3}}})
		var handles []scene.Vec3
		if err := json.Unmarshal(got[0][0], &handles); err != nil {
			t.Fatal(err)
		}
		told := report.Of(s).Paths[0].Points
		open := shape.Wrap.Ends != nil
		if want := last; len(handles) != len(told) || (open && len(told) != want+1) || (!open && len(told) != want) {
			t.Fatalf("%s: %d handles, the core tells %d, of %d wheels", name, len(handles), len(told), last)
		}
		for i := range handles {
			if told[i].At != handles[i] {
				t.Errorf("%s: handle %d is at %v, the core has it at %v", name, i+1, handles[i], told[i].At)
			}
		}
		if !open {
			continue
		}
		var put scene.PathShape
		if err := json.Unmarshal(call(t, [][]any{{"forms", "putPoint", shape, last, []float64{0, 2, 3}}})[0][1], &put); err != nil || put.Wrap.Ends.From != (scene.Vec3{0, 2, 3}) || put.Wrap.Wheels[last-1].At != shape.Wrap.Wheels[last-1].At {
			t.Errorf("%v: its start is put at %v", err, put.Wrap.Ends.From)
		}
	}
}

// A part that is made larger has a box that is larger by the same factor, whatever its shape; its pivot goes along.
func TestPartsAreResized(t *testing.T) {
	var calls [][]any
	for _, p := range scene.AllForms().NewParts {
		calls = append(calls, []any{"resize", "resizePart", map[string]any{"id": "p", "name": p.Name, "shape": p.Shape, "pivot": []float64{0.1, -0.2, 0.3}}, 2.5})
	}
	size := func(part any) geom.Vec {
		text, err := json.Marshal(map[string]any{"bead": 2, "name": "t", "fps": 24, "range": map[string]int{"first": 1, "last": 2}, "paths": []any{}, "rigs": []any{}, "parts": []any{part}})
		if err != nil {
			t.Fatal(err)
		}
		_, s := compile(t, text)
		b := s.Parts[0].Bounds
		return b.Max.Sub(b.Min)
	}
	for i, got := range call(t, calls) {
		a, b := size(calls[i][2]), size(got[1])
		var pivot struct{ Pivot [3]float64 }
		if err := json.Unmarshal(got[1], &pivot); err != nil {
			t.Fatal(err)
		}
		if off := b.Sub(a.Mul(2.5)).Norm() / b.Norm(); off > 1e-6 || pivot.Pivot != [3]float64{0.25, -0.5, 0.75} {
			t.Errorf("%s: from %v to %v, pivot %v", calls[i][2].(map[string]any)["name"], a, b, pivot.Pivot)
		}
	}
}

// Labels of what is within a view are whole and clear of its buttons; those of what is outside stay with it.
func TestPlacesOfLabels(t *testing.T) {
	label := map[string]float64{"left": -30, "right": 30, "top": -24}
	buttons := map[string]float64{"right": 300, "bottom": 48}
	cases := []struct{ at, want [2]float64 }{
		{[2]float64{400, 200}, [2]float64{400, 200}},
		{[2]float64{10, 200}, [2]float64{34, 200}},
		{[2]float64{795, 200}, [2]float64{766, 200}},
		{[2]float64{-5, 200}, [2]float64{-5, 200}},
		{[2]float64{805, 200}, [2]float64{805, 200}},
		{[2]float64{200, 60}, [2]float64{200, 72}},
		{[2]float64{500, 60}, [2]float64{500, 60}}, // beside the buttons
		{[2]float64{200, -3}, [2]float64{200, -3}},
	}
	var calls [][]any
	for _, c := range cases {
		calls = append(calls, []any{"labels", "labelPlace", c.at, label, 800, buttons})
	}
	for i, got := range call(t, calls) {
		var at [2]float64
		if err := json.Unmarshal(got[0], &at); err != nil || at != cases[i].want {
			t.Errorf("%v goes to %v, not %v (%v)", cases[i].at, at, cases[i].want, err)
		}
	}
}

// Of names those last words are left out that all share; something of each stays.
func TestNamesWithoutTheirEnding(t *testing.T) {
	cases := [][2][]string{
		{{"left leg 1 lower", "right leg 1 lower"}, {"left", "right"}},
		{{"left leg 1 lower", "right leg 2 lower"}, {"left leg 1", "right leg 2"}},
		{{"leg", "left_leg"}, {"leg", "left_leg"}},
		{{"foot", "foot"}, {"foot", "foot"}},
		{{"a foot"}, {"a foot"}},
		{{}, {}},
	}
	var calls [][]any
	for _, c := range cases {
		calls = append(calls, []any{"plants", "withoutEnding", c[0]})
	}
	for i, got := range call(t, calls) {
		if want, _ := json.Marshal(cases[i][1]); string(got[0]) != string(want) {
			t.Errorf("%v: %s, not %s", cases[i][0], got[0], want)
		}
	}
}

// What the checks found is said in a line, and nothing of what has not been looked at.
func TestChecksInShort(t *testing.T) {
	result := func(state string) map[string]any { return map[string]any{"id": "seam", "state": state, "word": "open"} }
	seen := func(n int) map[string]any { return map[string]any{"seen": n, "of": 96} }
	cases := []struct {
		results []map[string]any
		checked map[string]any
		waits   bool
		want    string
	}{
		{nil, seen(96), true, "Measured when it is simulated"},
		{nil, seen(0), false, "Being measured"},
		{[]map[string]any{result("inside")}, seen(96), false, "1 check, all inside"},
		{[]map[string]any{result("inside"), result("inside")}, seen(9), false, "2 checks, inside so far"},
		{[]map[string]any{result("near"), result("near"), result("inside")}, seen(96), false, "3 checks, 2 near: seam"},
		{[]map[string]any{result("near"), result("outside")}, seen(9), false, "2 checks, 1 outside: seam open"},
	}
	var calls [][]any
	for _, c := range cases {
		calls = append(calls, []any{"checks", "inShort", append([]map[string]any{}, c.results...), c.checked, c.waits})
	}
	for i, got := range call(t, calls) {
		if want, _ := json.Marshal(cases[i].want); string(got[0]) != string(want) {
			t.Errorf("%s, not %s", got[0], want)
		}
	}
}
