package main

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"bead/demo"
)

// What goes through pipes is what goes to files; what does not fit is refused; output that is lost is no success.
func TestPipesAndTerms(t *testing.T) {
	dir := t.TempDir()
	text, err := os.ReadFile("../../demo/scenes/ballast.json")
	if err != nil {
		t.Fatal(err)
	}
	with := func(in []byte, out io.Writer, args ...string) (int, string) {
		var errs bytes.Buffer
		return runWith(context.Background(), args, bytes.NewReader(in), out, &errs), errs.String()
	}
	files := map[string]string{"glb": filepath.Join(dir, "a.glb"), "csv": filepath.Join(dir, "a.csv")}
	if code, _, errs := bead("bake", "demo:ballast", "--frames", "3", "--to", files["glb"], "--to", files["csv"], "--quiet"); code != 0 || errs != "" {
		t.Fatal(code, errs)
	}
	for format, file := range files {
		want, err := os.ReadFile(file)
		var got bytes.Buffer
		if code, errs := with(text, &got, "bake", "-", "--to", "-", "--format", format, "--frames", "3-3"); err != nil || code != 0 || !bytes.Equal(got.Bytes(), want) {
			t.Errorf("%s: exit %d, %q, %d bytes through the pipe and %d in the file", format, code, errs, got.Len(), len(want))
		}
	}
	rows := func(args ...string) int {
		code, out, errs := bead(append([]string{"bake", "--to", "-", "--format", "csv", "--frames", "1"}, args...)...)
		if code != 0 {
			t.Fatal(errs)
		}
		return strings.Count(out, "\n")
	}
	if all, one := rows("demo:hull-plates"), rows("demo:hull-plates", "--rigs", "Lower plates"); one >= all || one != rows("demo:hull-plates", "--rigs", "lower") {
		t.Errorf("%d rows of all rigs, %d of one", all, one)
	}
	for _, x := range []struct{ args, says string }{
		{"bake demo:ballast --to - --format csv --single", "does not hold a mesh for each piece: glb, gltf, usda, usdz, usd.zip do"},
		{"bake demo:ballast --to - --format obj.zip --own-keys", "glb, gltf do"},
		{"bake demo:ballast --to - --format csv --exact", "glb, gltf, usda, usdz, usd.zip do"},
		{"bake demo:ballast --to - --format glb --centred", "single"},
		{"bake demo:ballast --to -", "say with --format"},
		{"bake demo:ballast --to a.glb --format glb", "is for --to -"},
		{"bake demo:ballast --to - --to - --format csv", "only one file"},
		{"bake demo:ballast --to - --format csv --rigs hull", "slabs are"},
		{"check demo:ballast --only glue", "spacing, seam"},
		{"check demo:ballast --tolerance seam", "seam=1mm"},
	} {
		if code, out, errs := bead(strings.Fields(x.args)...); code != 2 || out != "" || !strings.Contains(errs, x.says) {
			t.Errorf("bead %s: exit %d, %q, want %q", x.args, code, errs, x.says)
		}
	}
	full, err := os.OpenFile("/dev/full", os.O_WRONLY, 0)
	if err != nil {
		t.Skip("no device is full here")
	}
	defer full.Close()
	for _, args := range [][]string{{"schema"}, {"version"}, {"--version"}, {"demo", "--list"}, {"check", "demo:ballast", "--json"}, {"check", "demo:ballast"},
		{"path", "measure", "demo:ballast"}, {"bake", "demo:ballast", "--frames", "1", "--to", "-", "--format", "csv"}, {"begin", "row"}, {"--help"}} {
		if code, errs := with(nil, full, args...); code != 3 || !strings.Contains(errs, "no space left") {
			t.Errorf("bead %v to a full device: exit %d, %q", args, code, errs)
		}
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	var errs bytes.Buffer
	if code := runWith(gone, []string{"check", "demo:crawler"}, nil, io.Discard, &errs); code != 130 {
		t.Errorf("interrupted: exit %d, %q", code, errs.String())
	}
}

// A looser tolerance lets a scene pass, and the results say what was allowed.
func TestCheckTerms(t *testing.T) {
	good, _ := demo.Scene("crawler")
	text, _ := good.Encode()
	broken := strings.Replace(strings.Replace(string(text), `"pitch": 0.19`, `"pitch": 0.2`, 1), `"close up"`, `"set pitch"`, 1)
	f := file(t, "broken.json", broken)
	code, out, _ := bead("check", f, "--json")
	var got struct {
		Version int
		Passed  bool
		Results []struct {
			ID, State        string
			Value, Tolerance float64
		}
	}
	if err := json.Unmarshal([]byte(out), &got); err != nil || code != 1 || got.Version != 1 || got.Passed {
		t.Fatalf("%d %v %s", code, err, out)
	}
	skip := []string{}
	for _, r := range got.Results {
		if r.State == "outside" && !slices.Contains(skip, r.ID) {
			skip = append(skip, r.ID)
		}
	}
	if code, _, errs := bead("check", f, "--skip", strings.Join(skip, ",")); code != 0 {
		t.Errorf("without %v: exit %d, %s", skip, code, errs)
	}
	if code, out, _ := bead("check", f, "--only", "seam"); code != 1 || !slices.Equal(strings.Fields(out)[:3], []string{"fail", "port-tread", "seam"}) {
		t.Errorf("exit %d: %s", code, out)
	}
	if code, out, _ := bead("check", f, "--only", "seam", "--tolerance", "seam=0.5m"); code != 0 || !strings.HasPrefix(out, "pass ") || !strings.Contains(out, "max 500") {
		t.Errorf("exit %d: %s", code, out)
	}
}
