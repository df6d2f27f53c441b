package formats_test

import (
	"bytes"
	"context"
	"regexp"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
)

func demoScene(t *testing.T, name string) *rig.Scene {
	t.Helper()
	d, err := demo.Scene(name)
	if err != nil {
		t.Fatal(err)
	}
	k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh, Figures: formats.LibraryOf(d).Figure}
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// A slice of a bake has the signs of the whole: of treads that turn over at their ends, of an eel
// that spirals, in CSV and in USD.
func TestRotationsKeepTheirSigns(t *testing.T) {
	for _, name := range []string{"hump", "eel", "skid-steer"} {
		s := demoScene(t, name)
		bake := func(format string, first, last int) string {
			var out bytes.Buffer
			if err := formats.Bake(context.Background(), &out, s, formats.Options{Format: format, Frames: scene.Range{First: first, Last: last}}, nil); err != nil {
				t.Fatal(err)
			}
			return out.String()
		}
		all := bake("csv", 1, 90)
		_, slice, _ := strings.Cut(bake("csv", 60, 64), "\n")
		if !strings.Contains(all, slice) {
			t.Errorf("%s: frames 60 to 64 as CSV are not those of the whole", name)
		}
		if name == "eel" { // its vertices in every frame are much text
			continue
		}
		// Each line of a frame of the slice is a line of the whole.
		sample := regexp.MustCompile(`(?m)^\s+6[0-4]: .*$`)
		whole := map[string]bool{}
		for _, l := range sample.FindAllString(bake("usda", 55, 66), -1) {
			whole[strings.TrimSpace(l)] = true
		}
		lines := sample.FindAllString(bake("usda", 60, 64), -1)
		for _, l := range lines {
			if !whole[strings.TrimSpace(l)] {
				t.Fatalf("%s: not in the whole: %s", name, l)
			}
		}
		if len(lines) < 100 {
			t.Errorf("%s: only %d samples", name, len(lines))
		}
	}
}
