// Package core_test holds the policy of imports inside the house.
package core_test

import (
	"os/exec"
	"slices"
	"strings"
	"testing"
)

// allowed is a statement of policy, not a record: which packages of this module
// each package may import. Do not change it to fix a build.
var allowed = map[string][]string{
	"core/geom":      {},
	"core/motion":    {},
	"core/path":      {"core/geom"},
	"core/facing":    {"core/geom", "core/path"},
	"core/part":      {"core/geom"},
	"core/place":     {"core/geom"},
	"core/surface":   {"core/geom", "core/path"},
	"core/scene":     {"core/geom", "core/path", "core/facing", "core/motion", "core/part", "core/place"},
	"core/rig":       {"core/geom", "core/path", "core/facing", "core/motion", "core/part", "core/place", "core/scene", "core/surface"},
	"core/check":     {"core/geom", "core/facing", "core/rig", "core/scene"},
	"formats/svg":    {"core/geom", "core/path"},
	"formats/obj":    {"core/geom", "core/path", "core/surface"},
	"formats/csvtab": {"core/geom", "core/rig"},
	"formats/gltf":   {"core/geom", "core/path", "core/rig", "core/surface"},
	"formats":        {"core/geom", "core/path", "core/rig", "core/scene", "core/surface", "formats/csvtab", "formats/gltf", "formats/obj", "formats/svg"},
	"demo":           {"core/scene"},
	"store":          {"core/scene"},
	"web":            {},
	"browser":        {},
}

func TestImports(t *testing.T) {
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}}: {{join .Imports " "}}`, "bead/...").Output()
	if err != nil {
		t.Fatal(err)
	}
	seen := 0
	for line := range strings.Lines(string(out)) {
		pkg, imports, _ := strings.Cut(strings.TrimSpace(line), ": ")
		name := strings.TrimPrefix(pkg, "bead/")
		may, listed := allowed[name]
		if strings.HasPrefix(name, "core/") || strings.HasPrefix(name, "formats") {
			if !listed {
				t.Errorf("%s is not in the policy", name)
			}
		}
		if !listed {
			continue
		}
		seen++
		for _, im := range strings.Fields(imports) {
			own, inside := strings.CutPrefix(im, "bead/")
			switch {
			case inside && !slices.Contains(may, own):
				t.Errorf("%s must not import %s", name, own)
			case !inside && strings.HasPrefix(name, "core/") && strings.Contains(im, ".") && !strings.HasPrefix(im, "gonum.org/"):
				t.Errorf("%s must not import %s: core has the standard library and gonum alone", name, im)
			case strings.HasPrefix(name, "core/") && slices.Contains([]string{"net/http", "database/sql", "os", "time", "math/rand", "math/rand/v2"}, im):
				t.Errorf("%s must not import %s: core has no files, clock, network or chance", name, im)
			}
		}
	}
	if seen < len(allowed) {
		t.Errorf("only %d of %d packages of the policy exist", seen, len(allowed))
	}
}
