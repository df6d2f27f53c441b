package main

import (
	"bytes"
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"bead/core/scene"
	"bead/demo"
)

var fenced = regexp.MustCompile("(?ms)^```(sh|json)\n(.*?)^```$")

// Every command that the pages show is run, page by page in a directory of its own, and every document that they
// show is read; the examples in demo/scenes open as files, with all that they need inside.
func TestWhatThePagesShow(t *testing.T) {
	program := filepath.Join(t.TempDir(), "bead")
	if out, err := exec.Command("go", "build", "-o", program, ".").CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	pages := append(glob(t, "../../docs/*.md"), glob(t, "../../docs/guide/*.md")...)
	commands, documents := 0, 0
	for _, page := range append(pages, "../../README.md") {
		text, err := os.ReadFile(page)
		if err != nil {
			t.Fatal(err)
		}
		dir := t.TempDir()
		for _, block := range fenced.FindAllStringSubmatch(string(text), -1) {
			if block[1] == "json" {
				documents++
				d, err := scene.Decode([]byte(block[2]))
				if err != nil {
					t.Errorf("%s: %v in %.80s", page, err, block[2])
					continue
				}
				name := "scene.json"
				if d.Name == "Buoys round a pool" {
					name = "buoys.json"
				}
				if err := os.WriteFile(filepath.Join(dir, name), []byte(block[2]), 0o600); err != nil {
					t.Fatal(err)
				}
				continue
			}
			commands += strings.Count(block[2], "bead ")
			c := exec.Command("bash", "-euo", "pipefail", "-c", block[2])
			c.Dir = dir
			c.Env = append(os.Environ(), "PATH="+filepath.Dir(program)+":"+os.Getenv("PATH"))
			var errs bytes.Buffer
			c.Stderr = &errs
			if out, err := c.Output(); err != nil {
				t.Errorf("%s: %v\n%s%s\nin %s", page, err, out, errs.String(), block[2])
			}
		}
	}
	if commands < 15 || documents < 1 {
		t.Errorf("%d commands and %d documents: nothing is shown by this", commands, documents)
	}
	for _, name := range demo.Names() {
		d, err := os.ReadFile("../../demo/scenes/" + name + ".json")
		if err != nil {
			t.Fatal(err)
		}
		var of struct{ Assets []scene.Asset }
		if err := json.Unmarshal(d, &of); err != nil {
			t.Fatal(err)
		}
		if code, _, errs := bead("path", "measure", "../../demo/scenes/"+name+".json"); code != 0 {
			t.Errorf("%s does not open as a file: %s", name, errs)
		}
	}
}

func glob(t *testing.T, pattern string) []string {
	t.Helper()
	out, err := filepath.Glob(pattern)
	if err != nil || len(out) == 0 {
		t.Fatalf("%s: %d files, %v", pattern, len(out), err)
	}
	return out
}

var (
	slanted = regexp.MustCompile(`\*([A-Z][^*\n]+)\*`)
	bold    = regexp.MustCompile(`\*\*([^*]+)\*\*`)
	links   = regexp.MustCompile(`\]\(([^)#:]+)(#[^)]*)?\)`)
	program = []string{"../../web/src/*.ts*", "../../web/src/*/*.ts*", "../../web/src/*/*/*.ts*", "../../web/src/core/forms.json", "../../demo/*.go", "../../core/check/*.go", "../../core/scene/*.go", "../../core/begin/*.go"}
)

// What the guide prints in bold or slanted to be pressed or looked at stands in the program under that name, and what pages
// link to is there.
func TestTheGuideNamesWhatIsThere(t *testing.T) {
	var all strings.Builder
	for _, pattern := range program {
		for _, file := range glob(t, pattern) {
			text, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			all.Write(text)
		}
	}
	source := strings.ToLower(all.String())
	// Names of places on the bench, not of something to press.
	places := map[string]bool{"view": true, "length strip": true, "time strip": true, "recipe": true, "to let it loop": true}
	labels := 0
	for _, page := range append(glob(t, "../../docs/guide/*.md"), "../../docs/guide.md") {
		text, err := os.ReadFile(page)
		if err != nil {
			t.Fatal(err)
		}
		named := bold.FindAllStringSubmatch(string(text), -1)
		named = append(named, slanted.FindAllStringSubmatch(bold.ReplaceAllString(string(text), ""), -1)...)
		for _, m := range named {
			label := strings.ToLower(strings.TrimSuffix(m[1], "."))
			labels++
			if !places[label] && !strings.Contains(source, label) {
				t.Errorf("%s names %q, which is nowhere in the program", page, m[1])
			}
		}
	}
	if labels < 120 {
		t.Errorf("%d labels: nothing is shown by this", labels)
	}
	for _, page := range append(append(glob(t, "../../docs/*.md"), glob(t, "../../docs/guide/*.md")...), "../../README.md") {
		text, err := os.ReadFile(page)
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range links.FindAllStringSubmatch(string(text), -1) {
			if _, err := os.Stat(filepath.Join(filepath.Dir(page), m[1])); err != nil {
				t.Errorf("%s links to %s, which is not there", page, m[1])
			}
		}
	}
}
