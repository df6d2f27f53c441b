package main

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"bead/delivery"
	"bead/formats"
)

// For whoever goes on with it: the choices of a destination stand where they are not set beside it, each fits
// all formats that it is for, and the note says what was baked, how, and what the checks say.
func TestForWhoGoesOn(t *testing.T) {
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	for i := range delivery.Destinations {
		d := &delivery.Destinations[i]
		for _, f := range d.Formats {
			o := d.Choices
			if o.Format = f; o.Fits() != nil {
				t.Errorf("%s does not fit %s: %v", d.ID, f, o.Fits())
			}
		}
		if code, _, errs := bead("bake", "demo:hump", "--frames", "3-5", "--for", d.ID, "--to", at(d.ID+"."+d.Formats[0])); code != 0 {
			t.Errorf("--for %s: %s", d.ID, errs)
		}
		if code, _, errs := bead("bake", "demo:hump", "--for", d.ID, "--to", at("a.csv")); code != 2 || !strings.Contains(errs, d.Formats[0]) {
			t.Errorf("--for %s to a table: %d %s", d.ID, code, errs)
		}
	}
	if code, _, errs := bead("bake", "demo:hump", "--frames", "2-9", "--step", "3", "--for", "animator", "--paths=false", "--to", at("b.glb"), "--note"); code != 0 {
		t.Fatal(errs)
	}
	text, err := os.ReadFile(at("b.glb.note.json"))
	if err != nil {
		t.Fatal(err)
	}
	var n delivery.Note
	if err := json.Unmarshal(text, &n); err != nil {
		t.Fatal(err)
	}
	file, err := os.ReadFile(at("b.glb"))
	if err != nil {
		t.Fatal(err)
	}
	sum := sha256.Sum256(file)
	if n.Choices.Time != formats.TimeFrames || n.Choices.Paths || n.Frames != (delivery.NoteFrames{First: 2, Last: 9, Step: 3, FramesPerSecond: 24}) ||
		n.File.SHA256 != hex.EncodeToString(sum[:]) || n.File.Bytes != int64(len(file)) || !n.Checks.Passed || len(n.Checks.Results) < 5 || n.Version != 1 {
		t.Errorf("%+v", n)
	}
	// A slice starts where it belongs in the scene's range.
	if code, _, errs := bead("bake", "demo:hump", "--frames", "5-9", "--time", "range", "--to", at("c.gltf")); code != 0 {
		t.Fatal(errs)
	}
	if slice, err := os.ReadFile(at("c.gltf")); err != nil || !regexp.MustCompile(`"count": 5,\s+"type": "SCALAR",\s+"min": \[\s+0.16666667\s+\]`).Match(slice) {
		t.Errorf("%v: frames 5 to 9 of a range from 1 do not begin at 4/24 s", err)
	}
	// The keys stand at the frames' own numbers, three apart.
	var doc struct {
		Accessors []struct {
			Count    int
			Min, Max []float64
		}
		Animations []struct{ Samplers []struct{ Input int } }
		Scenes     []struct{ Extras map[string]any }
	}
	if err := json.Unmarshal(file[20:20+int(file[12])+int(file[13])<<8+int(file[14])<<16], &doc); err != nil {
		t.Fatal(err)
	}
	times := doc.Accessors[doc.Animations[0].Samplers[0].Input]
	if times.Count != 3 || math.Abs(times.Min[0]-2.0/24) > 1e-7 || math.Abs(times.Max[0]-8.0/24) > 1e-7 {
		t.Errorf("keys %+v", times)
	}
	if e := doc.Scenes[0].Extras; e["firstFrame"] != 2.0 || e["framesPerSecond"] != 24.0 || e["plays"] != "loops" || e["step"] != 3.0 {
		t.Errorf("the scene tells %v", e)
	}
}

// Parts are joined to the whole; what cannot be is refused; with --log json standard error is JSON, a line
// each.
func TestPartsAndLog(t *testing.T) {
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	if code, _, errs := bead("bake", "demo:ballast", "--frames", "5-12", "--to", at("whole.usda")); code != 0 {
		t.Fatal(errs)
	}
	for _, r := range []string{"5-7", "8-12"} {
		if code, _, errs := bead("bake", "demo:ballast", "--frames", r, "--to", at(r+".usda.part")); code != 0 {
			t.Fatal(errs)
		}
	}
	if code, _, errs := bead("join", at("8-12.usda.part"), at("5-7.usda.part"), "--to", at("joined.usda")); code != 0 {
		t.Fatal(errs)
	}
	whole, err := os.ReadFile(at("whole.usda"))
	if err != nil {
		t.Fatal(err)
	}
	if joined, err := os.ReadFile(at("joined.usda")); err != nil || !bytes.Equal(joined, whole) {
		t.Errorf("%v: the joined file is another", err)
	}
	for _, x := range []struct{ args, says string }{
		{"join " + at("5-7.usda.part") + " --to " + at("x.csv"), ".usda is accepted"},
		{"join " + at("whole.usda") + " --to " + at("x.usda"), "no part of a bake"},
		{"join " + at("nothing.part") + " --to " + at("x.usda"), "no such file"},
		{"bake demo:ballast --to " + at("x.glb.part") + " --note", "beside a file"},
		{"bake demo:ballast --to - --format csv --note", "beside a file"},
		{"check demo:ballast --log yaml", "text and json are"},
	} {
		if code, _, errs := bead(strings.Fields(x.args)...); code != 2 || !strings.Contains(errs, x.says) {
			t.Errorf("%s: %d %q, want %q", x.args, code, errs, x.says)
		}
	}
	_, _, errs := bead("bake", "demo:sounding-dart", "--frames", "1-3", "--to", at("d.glb"), "--log", "json")
	_, _, more := bead("bake", "demo:nobody", "--to", at("d.glb"), "--log", "json")
	said := map[string]bool{}
	for _, line := range strings.Split(strings.TrimSpace(errs+more), "\n") {
		var x struct {
			Level, Msg     string
			Done, Of, Exit int
		}
		if err := json.Unmarshal([]byte(line), &x); err != nil {
			t.Errorf("%v in %q", err, line)
		}
		said[x.Level] = true
		if x.Msg == "baking" && x.Done == 3 && x.Of == 3 {
			said["done"] = true
		}
		if x.Exit == 2 {
			said["exit"] = true
		}
	}
	if !said["INFO"] || !said["ERROR"] || !said["done"] || !said["exit"] {
		t.Errorf("%v of %s%s", said, errs, more)
	}
}
