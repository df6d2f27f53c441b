package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"bead/core/check"
	"bead/core/form"
	"bead/core/scene"
	"bead/demo"
)

func bead(args ...string) (code int, stdout, stderr string) {
	var out, err bytes.Buffer
	code = runWith(context.Background(), args, nil, &out, &err)
	return code, out.String(), err.String()
}

func file(t *testing.T, name, text string) string {
	t.Helper()
	f := filepath.Join(t.TempDir(), name)
	if err := os.WriteFile(f, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	return f
}

func TestPathMeasure(t *testing.T) {
	f := file(t, "a.svg", `<svg><path id="p" d="M0 0C1 2 3 2 4 0"/><circle cx="5" cy="6" r="2"/></svg>`)
	code, out, _ := bead("path", "measure", f, "--json")
	var got struct {
		Paths []struct {
			Name   string
			Closed bool
			Length float64
			Spans  int
			Bounds struct{ Min, Max [3]float64 }
		}
	}
	if err := json.Unmarshal([]byte(out), &got); err != nil || code != 0 || len(got.Paths) != 2 {
		t.Fatalf("%d %v %s", code, err, out)
	}
	p, c := got.Paths[0], got.Paths[1]
	if p.Name != "p" || p.Closed || p.Spans != 1 || math.Abs(p.Length-5.268365543018514) > 1e-12 || p.Bounds.Max != [3]float64{4, 1.5, 0} {
		t.Errorf("%+v", p)
	}
	if !c.Closed || math.Abs(c.Length-4*math.Pi) > 1e-12 || c.Bounds.Min != [3]float64{3, 4, 0} {
		t.Errorf("%+v", c)
	}
}

type sample struct {
	Distance              float64
	Position, Forward, Up [3]float64
}

func samples(t *testing.T, args ...string) []sample {
	t.Helper()
	code, out, errs := bead(append([]string{"path", "sample", "--json"}, args...)...)
	var got struct{ Samples []sample }
	if err := json.Unmarshal([]byte(out), &got); err != nil || code != 0 {
		t.Fatalf("%d %v %s %s", code, err, out, errs)
	}
	return got.Samples
}

func TestPathSample(t *testing.T) {
	open := file(t, "a.csv", "x,y,z\n0,0,0\n3,0,0\n3,0,4\n")
	s := samples(t, open, "--count", "8")
	if len(s) != 8 || s[0].Distance != 0 || s[7].Distance != 7 || s[7].Position != [3]float64{3, 0, 4} || s[1].Distance != 1 {
		t.Errorf("open: %+v", s)
	}
	closed := file(t, "b.csv", "0,0\n2,0\n2,2\n0,2\n0,0\n")
	s = samples(t, closed, "--count", "16", "--facing", "loopside")
	if len(s) != 16 || s[15].Distance != 7.5 || math.Abs(s[1].Up[1]+1) > 1e-12 {
		t.Errorf("closed: %+v", s)
	}
	if s = samples(t, closed, "--pitch", "0.5", "--facing", "steady"); len(s) != 16 {
		t.Errorf("pitch: %d samples", len(s))
	}
	ring := file(t, "c.svg", `<svg><circle r="1"/></svg>`)
	s = samples(t, ring, "--count", "40", "--spacing", "pin")
	// Circle of radius 1, 40 pins: 2 sin(pi/40) (MATH 3).
	a, b := s[0].Position, s[1].Position
	if d := math.Hypot(b[0]-a[0], b[1]-a[1]); math.Abs(d-0.1569181914556899) > 1e-12 {
		t.Errorf("pins are %.16g apart", d)
	}
	smooth := samples(t, closed, "--count", "4", "--smooth")
	if straight := samples(t, closed, "--count", "4"); smooth[1].Distance >= straight[1].Distance && smooth[1].Distance == straight[1].Distance {
		t.Error("--smooth changes nothing")
	}
}

func TestExitCodesAndMessages(t *testing.T) {
	good, err := demo.Scene("crawler")
	if err != nil {
		t.Fatal(err)
	}
	text, _ := good.Encode()
	open := file(t, "open.json", strings.Replace(string(text), `"close up"`, `"set pitch"`, 1))
	open2 := strings.Replace(string(text), `"pitch": 0.19`, `"pitch": 0.2`, 1)
	broken := file(t, "broken.json", strings.Replace(open2, `"close up"`, `"set pitch"`, 1))
	unknown := file(t, "unknown.json", strings.Replace(string(text), `"fps"`, `"fsp"`, 1))
	dir := t.TempDir()
	for _, tc := range []struct {
		args []string
		code int
		says string
	}{
		{[]string{"check", "demo:crawler"}, 0, ""},
		{[]string{"check", open, "--json"}, 0, ""},
		{[]string{"check", broken}, 1, ""},
		{[]string{"check", unknown}, 2, "fsp"},
		{[]string{"check", "demo:nautilus"}, 2, "breakwater, bucket-ladder, crab-patrol, crawler, davit, eel"},
		{[]string{"check", filepath.Join(dir, "missing.json")}, 2, "demo:NAME"},
		{[]string{"check"}, 2, "accepts 1 arg"},
		{[]string{"frobnicate"}, 2, "unknown command"},
		{[]string{"bake", "demo:crawler", "--to", filepath.Join(dir, "a.doc")}, 2, ".glb, .gltf, .usda"},
		{[]string{"bake", "demo:crawler"}, 2, `"to"`},
		{[]string{"bake", "demo:crawler", "--to", filepath.Join(dir, "a.csv"), "--frames", "9-3"}, 2, "ends before"},
		{[]string{"bake", "demo:crawler", "--to", filepath.Join(dir, "a.csv"), "--frames", "now"}, 2, "A-B"},
		{[]string{"bake", "demo:ballast", "--to", filepath.Join(dir, "a.csv"), "--density", "2400"}, 2, "usda and usdz do"},
		{[]string{"bake", "demo:ballast", "--to", filepath.Join(dir, "a.usda"), "--density", "-1"}, 2, "is not accepted"},
		{[]string{"bake", "demo:crawler", "--to", filepath.Join(dir, "no", "a.csv")}, 2, "--to"},
		{[]string{"path", "measure", file(t, "x.svg", "<svg><path d='M0 0 1'/></svg>")}, 2, "character 7"},
		{[]string{"path", "measure", file(t, "x.csv", "1,2\n1,2\n")}, 2, "no length"},
		{[]string{"path", "sample", file(t, "y.csv", "1,2\n3,4\n"), "--count", "0"}, 2, "--count 0"},
		{[]string{"path", "sample", file(t, "y.csv", "1,2\n3,4\n"), "--count", "3", "--facing", "up"}, 2, "steady, loopside"},
		{[]string{"path", "sample", file(t, "y.csv", "1,2\n3,4\n"), "--count", "3", "--spacing", "odd"}, 2, "arc and pin"},
		{[]string{"path", "sample", file(t, "y.csv", "1,2\n3,4\n")}, 2, "count"},
		{[]string{"version"}, 0, ""},
		{[]string{"demo", "--list"}, 0, ""},
	} {
		code, out, errs := bead(tc.args...)
		if code != tc.code || !strings.Contains(errs, tc.says) {
			t.Errorf("bead %v: exit %d, %q; want %d and %q", tc.args, code, errs, tc.code, tc.says)
		}
		if code == 2 && out != "" {
			t.Errorf("bead %v writes to standard output: %q", tc.args, out)
		}
	}
	if left, _ := os.ReadDir(dir); len(left) != 0 {
		t.Errorf("failed bakes leave %v", left)
	}
}

func TestBakeFramesEqualTheWhole(t *testing.T) {
	dir := t.TempDir()
	for _, args := range [][]string{{"whole.csv"}, {"some.csv", "--frames", "10-12"}} {
		if code, _, errs := bead(append([]string{"bake", "demo:crawler", "--to", filepath.Join(dir, args[0])}, args[1:]...)...); code != 0 {
			t.Fatal(errs)
		}
	}
	whole, _ := os.ReadFile(filepath.Join(dir, "whole.csv"))
	some, _ := os.ReadFile(filepath.Join(dir, "some.csv"))
	_, rows, _ := bytes.Cut(some, []byte("\n"))
	if len(rows) == 0 || !bytes.Contains(whole, rows) {
		t.Error("frames 10-12 differ from those of the whole bake")
	}
}

// published is the schema as another program reads it (github.com/santhosh-tekuri/jsonschema).
func published(t *testing.T) func(text string) error {
	t.Helper()
	_, out, _ := bead("schema")
	doc, err := jsonschema.UnmarshalJSON(strings.NewReader(out))
	if err != nil {
		t.Fatal(err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("bead.json", doc); err != nil {
		t.Fatal(err)
	}
	schema, err := c.Compile("bead.json")
	if err != nil {
		t.Fatal(err)
	}
	return func(text string) error {
		v, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
		if err != nil {
			t.Fatal(err)
		}
		return schema.Validate(v)
	}
}

// What fields say that they accept is what the published schema and reading a document accept:
// at each limit, and a little beyond it.
func TestSchemaLimits(t *testing.T) {
	validate := published(t)
	const path = `{"bead":2,"name":"n","fps":24,"range":{"first":1,"last":9},"parts":[],"rigs":[],"paths":[{"id":"q","name":"q","shape":{"line":{"from":[0,0,5],"to":[0,0,9]}}},{"id":"p","name":"p","shape":%s,"steps":[%s]}]}`
	const part = `{"bead":2,"name":"n","fps":24,"range":{"first":1,"last":9},"paths":[],"rigs":[],"parts":[{"id":"a","name":"a","shape":%s}]}`
	line := `{"line":{"from":[0,0,0],"to":[0,0,4]}}`
	tried := 0
	try := func(key string, first any, fields []form.Field, document func(thing string) string) {
		var base map[string]any
		text, _ := json.Marshal(first)
		_ = json.Unmarshal(text, &base)
		for _, f := range fields {
			if slices.Contains([]string{"place", "points", "choice", "switch", "moving"}, f.Kind) {
				continue
			}
			lo, hi := f.Limits()
			past := func(v, way float64) float64 {
				if f.Kind == "count" || f.Kind == "frame" {
					return v + way*max(1, math.Abs(v)*1e-12)
				}
				return v + way*max(math.Abs(v)*1e-6, 1e-12)
			}
			for v, accepted := range map[float64]bool{lo: true, hi: true, past(lo, -1): false, past(hi, 1): false} {
				if f.Or0 && !accepted && v >= 0 && v < lo {
					continue // the schema cannot say "0, or from there on"
				}
				tried++
				base[f.Key] = v
				thing, _ := json.Marshal(map[string]any{key: base})
				doc := document(strings.Replace(string(thing), `"paths":[]`, `"paths":["q"]`, 1))
				if err := validate(doc); (err == nil) != accepted {
					t.Errorf("%s.%s of %g: the schema says %v", key, f.Key, v, err)
				}
				_, err := scene.Decode([]byte(doc))
				limited := err != nil && strings.Contains(err.Error(), fmt.Sprintf("%s.%s: %g is not accepted: a number from", key, f.Key, v))
				if limited == accepted && !(accepted && err != nil) { // what hangs together may say more
					t.Errorf("%s.%s of %g: reading says %v", key, f.Key, v, err)
				}
			}
			delete(base, f.Key)
			_ = json.Unmarshal(text, &base)
		}
	}
	forms := scene.AllForms()
	for _, k := range forms.Shapes {
		if k.First != nil {
			try(k.Key, k.First, k.Fields, func(x string) string { return fmt.Sprintf(path, x, "") })
		}
	}
	for _, k := range forms.Steps {
		try(k.Key, k.First, k.Fields, func(x string) string { return fmt.Sprintf(path, line, x) })
	}
	for _, k := range forms.Parts {
		for _, n := range forms.NewParts {
			if n.Shape.Kind() == k.Key {
				var all map[string]json.RawMessage
				text, _ := json.Marshal(n.Shape)
				_ = json.Unmarshal(text, &all)
				try(k.Key, all[k.Key], k.Fields, func(x string) string { return fmt.Sprintf(part, x) })
			}
		}
	}
	if tried < 300 {
		t.Errorf("%d limits were tried", tried)
	}
}

// The published schema accepts what Bead writes and refuses what it refuses.
func TestSchema(t *testing.T) {
	validate := published(t)
	for _, name := range demo.Names() {
		d, _ := demo.Scene(name)
		text, _ := d.Encode()
		if err := validate(string(text)); err != nil {
			t.Errorf("%s: %v", name, err)
		}
		for _, bad := range [][2]string{{`"fps"`, `"fsp"`}, {`"bead": 2`, `"bead": 1`}, {`"train": {`, `"plane": {`}, {`"speed"`, `"sped"`}, {`"turns"`, `"turms"`}, {`"rolls"`, `"rols"`}, {`"takes"`, `"take"`}} {
			if !strings.Contains(string(text), bad[0]) {
				continue
			}
			if broken := strings.Replace(string(text), bad[0], bad[1], 1); validate(broken) == nil {
				t.Errorf("%s with %s passes the schema", name, bad[1])
			}
		}
	}
}

// The front end's types and forms are made from committed files: these must be the present ones.
func TestReferenceIsFresh(t *testing.T) {
	for _, name := range []string{"BEAD_LISTEN", "BEAD_DATA"} {
		t.Setenv(name, "")
	}
	for file, args := range map[string][]string{"commands.md": {"reference"}, "checks.md": {"reference", "checks"}} {
		_, want, _ := bead(args...)
		if have, err := os.ReadFile("../../docs/" + file); err != nil || string(have) != want {
			t.Errorf("docs/%s is not what the program says: make types", file)
		}
	}
	entries := check.Reference()
	for _, id := range check.IDs() {
		if e := entries[id]; e.Allows == "" || e.Causes == "" || e.Helps == "" {
			t.Errorf("the reference says nothing of the check %s", id)
		}
	}
}

func TestPageSchemaIsFresh(t *testing.T) {
	for flag, file := range map[string]string{"--page": "page.schema.json", "--forms": "forms.json"} {
		_, out, _ := bead("schema", flag)
		have, err := os.ReadFile("../../web/src/core/" + file)
		if err != nil {
			t.Fatal(err)
		}
		if string(have) != out {
			t.Errorf("web/src/core/%s is not what 'bead schema %s' prints: run make types", file, flag)
		}
	}
}

// A path is taken from a mesh's edges, rebuilt, and read back by path measure.
func TestPathEdges(t *testing.T) {
	d, err := demo.Scene("hull-rail")
	if err != nil {
		t.Fatal(err)
	}
	hull := file(t, "hull.obj", string(d.Assets[0].Data))
	code, out, _ := bead("path", "edges", hull, "--near", "0.62,0.8,0", "--way", "boundary", "--json")
	var got struct {
		Closed bool
		Length float64
		Points [][3]float64
		Off    float64
	}
	if err := json.Unmarshal([]byte(out), &got); err != nil || code != 0 || !got.Closed || len(got.Points) != 34 || got.Off != 0 {
		t.Fatalf("%d %v %+v", code, err, got)
	}
	code, table, said := bead("path", "edges", hull, "--near", "0.62,0.8,0", "--way", "boundary", "--tolerance", "0.02")
	if code != 0 || strings.Count(table, "\n") >= 34 || !strings.Contains(said, "instead of 34") {
		t.Errorf("%d %q %d rows", code, said, strings.Count(table, "\n"))
	}
	code, measured, _ := bead("path", "measure", file(t, "rim.csv", table), "--smooth", "--json")
	var m struct {
		Paths []struct {
			Closed bool
			Length float64
		}
	}
	if err := json.Unmarshal([]byte(measured), &m); err != nil || code != 0 || !m.Paths[0].Closed || math.Abs(m.Paths[0].Length/got.Length-1) > 0.02 {
		t.Errorf("%d %v %s, the rim is %g", code, err, measured, got.Length)
	}
	for _, args := range [][]string{{"--near", "1,2"}, {"--near", "1,2,x"}, {"--near", "0,0,0", "--way", "up"}} {
		if code, _, said := bead(append([]string{"path", "edges", hull}, args...)...); code != 2 || said == "" {
			t.Errorf("%v: %d %q", args, code, said)
		}
	}
}

// A scene's paths are measured and sampled with their steps taken, also towards a guide.
func TestScenePaths(t *testing.T) {
	code, out, _ := bead("path", "measure", "demo:terraces", "--json")
	// Four arches of 0.5 + 2 0.75 - (4-pi) 0.25, each less the 0.3 m that stand below
	// its terrace; three gaps of 0.5; six right corners of 0.06 rounded.
	arch := 2 - (4-math.Pi)*0.25 - 0.3
	want := 4*arch + 3*0.5 - 6*(2-math.Pi/2)*0.06
	var m struct {
		Paths []struct {
			Name   string
			Length float64
		}
	}
	if err := json.Unmarshal([]byte(out), &m); err != nil || code != 0 || m.Paths[0].Name != "Way down" || math.Abs(m.Paths[0].Length-want) > 1e-9 {
		t.Errorf("%d %v %+v, want %g", code, err, m.Paths, want)
	}
	code, out, said := bead("path", "sample", "demo:mooring-post", "--count", "9", "--facing", "guide", "--guide", "Post axis", "--json")
	var s struct{ Samples []sample }
	if err := json.Unmarshal([]byte(out), &s); err != nil || code != 0 || len(s.Samples) != 9 {
		t.Fatalf("%d %v %s", code, err, said)
	}
	for _, x := range s.Samples[2:7] { // between the straight ends up points at the axis
		inward := -(x.Position[0]*x.Up[0] + x.Position[2]*x.Up[2]) / math.Hypot(x.Position[0], x.Position[2])
		if inward < 0.8 {
			t.Errorf("up %v at %v does not point at the post", x.Up, x.Position)
		}
	}
	if code, _, said := bead("path", "sample", "demo:mooring-post", "--count", "9", "--facing", "guide"); code != 2 || !strings.Contains(said, "--guide") {
		t.Errorf("%d %q", code, said)
	}
}

// The loop solver on the command line, as text and as JSON.
func TestLoop(t *testing.T) {
	code, out, _ := bead("loop", "demo:crawler", "--rig", "Port tread", "--frames", "100", "--json")
	var offers []struct {
		Frames int
		Speed  float64
		Error  float64
	}
	if err := json.Unmarshal([]byte(out), &offers); err != nil || code != 0 || len(offers) == 0 {
		t.Fatalf("%d %v %s", code, err, out)
	}
	// Both treads run at one speed: the lengths at which this one closes close the other.
	if o := offers[0]; o.Error > 1e-9 || math.Abs(o.Speed-0.76) > 1e-9 || math.Abs(float64(o.Frames)-100) > 6 {
		t.Errorf("%+v", o)
	}
	if code, out, _ = bead("loop", "demo:crawler", "--rig", "port-tread"); code != 0 || !strings.HasPrefix(out, "96 frames, 760.0 mm/s") {
		t.Errorf("%d %s", code, out)
	}
	if code, _, msg := bead("loop", "demo:crawler", "--rig", "nobody"); code != 2 || !strings.Contains(msg, "no rig") {
		t.Errorf("%d %s", code, msg)
	}
}

// A watched scene is baked again when its file changes; a fault is said and the next change waited
// for; what never changes cannot be watched.
func TestBakeWatches(t *testing.T) {
	_, text, _ := bead("begin", "row")
	scene, to := file(t, "row.json", text), filepath.Join(t.TempDir(), "row.csv")
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	var out bytes.Buffer
	said, log := io.Pipe()
	done := make(chan int, 1)
	go func() {
		done <- runWith(ctx, []string{"bake", scene, "--to", to, "--watch"}, nil, &out, log)
		log.Close()
	}()
	lines := make(chan string, 100)
	go func() {
		for r := bufio.NewScanner(said); r.Scan(); {
			lines <- r.Text()
		}
		close(lines)
	}()
	waitFor := func(word string) {
		t.Helper()
		for {
			select {
			case l, open := <-lines:
				if strings.Contains(l, word) {
					return
				}
				if !open {
					t.Fatalf("%q was not said", word)
				}
			case <-time.After(20 * time.Second):
				t.Fatalf("%q was not said in 20 s", word)
			}
		}
	}
	rows := func() int {
		data, err := os.ReadFile(to)
		if err != nil {
			t.Fatal(err)
		}
		return bytes.Count(data, []byte("\n"))
	}
	waitFor("baked")
	before := rows()
	for _, step := range []struct{ text, said string }{{"{", "row.json"}, {strings.Replace(text, `"last": 96`, `"last": 48`, 1), "baked"}} {
		if err := os.WriteFile(scene, []byte(step.text), 0o600); err != nil {
			t.Fatal(err)
		}
		waitFor(step.said)
	}
	if after := rows(); after*2 > before+2 || after == 0 {
		t.Errorf("%d rows before, %d of half the frames", before, after)
	}
	stop()
	if code := <-done; code != 0 {
		t.Errorf("stopped with %d", code)
	}
	if code, _, errs := bead("bake", "demo:crawler", "--to", to, "--watch"); code != 2 || !strings.Contains(errs, "does not change") {
		t.Errorf("%d %s", code, errs)
	}
}
