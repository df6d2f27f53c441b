// Package core_test holds the policies of the house: what imports what, and how long files and functions are.
package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
)

// allowed is a statement of policy, not a record: which packages of this module each
// package may import. Do not change it to fix a build: a line follows from the house's
// directions (rig and check may use the scene and all below it, leaves only geom and what
// they are about, begin and demo stand above the core), and a new package brings its own.
var allowed = map[string][]string{
	"core/geom":      {},
	"core/motion":    {},
	"core/mech":      {"core/geom"},
	"core/path":      {"core/geom"},
	"core/facing":    {"core/geom", "core/path"},
	"core/part":      {"core/geom"},
	"core/place":     {"core/geom"},
	"core/bend":      {"core/geom"},
	"core/sim":       {"core/geom"},
	"core/surface":   {"core/geom", "core/path"},
	"core/figure":    {"core/geom"},
	"core/form":      {},
	"core/look":      {},
	"core/scene":     {"core/form", "core/geom", "core/look", "core/path", "core/facing", "core/mech", "core/motion", "core/part", "core/place"},
	"core/machine":   {"core/facing", "core/figure", "core/geom", "core/look", "core/mech", "core/motion", "core/part", "core/path", "core/place", "core/scene", "core/sim", "core/surface"},
	"core/rig":       {"core/machine", "core/bend", "core/figure", "core/sim", "core/geom", "core/look", "core/path", "core/facing", "core/mech", "core/motion", "core/part", "core/place", "core/scene", "core/surface"},
	"core/check":     {"core/machine", "core/bend", "core/geom", "core/facing", "core/motion", "core/part", "core/path", "core/place", "core/rig", "core/scene"}, // what it offers to press are values
	"core/report":    {"core/facing", "core/geom", "core/look", "core/machine", "core/mech", "core/path", "core/rig", "core/scene"},
	"core/begin":     {"core/facing", "core/mech", "core/motion", "core/part", "core/place", "core/rig", "core/scene"},
	"formats/svg":    {"core/geom", "core/path"},
	"formats/obj":    {"core/geom", "core/look", "core/path", "core/rig", "core/surface"},
	"formats/csvtab": {"core/bend", "core/geom", "core/rig"},
	"formats/bones":  {"core/bend", "core/geom", "core/rig"},
	"formats/usda":   {"core/figure", "core/geom", "core/look", "core/path", "core/rig", "formats/bones"},
	"formats/still":  {"core/geom", "core/look", "core/part", "core/rig"},
	"formats/bvh":    {"core/figure", "core/geom"},
	"formats/gltf":   {"core/figure", "core/geom", "core/look", "core/machine", "core/path", "core/rig", "core/surface", "formats/bones"},
	"formats":        {"core/figure", "core/geom", "core/look", "core/path", "core/rig", "core/scene", "core/surface", "formats/bones", "formats/bvh", "formats/csvtab", "formats/gltf", "formats/obj", "formats/svg", "formats/usda"},
	"demo":           {"core/begin", "core/figure", "core/geom", "core/scene"}, // its crab is made here
	"store":          {"core/scene"},
	"web":            {},
	"browser":        {},
}

// eachFile calls fn with each Go file of the module that is no test.
func eachFile(t *testing.T, fn func(file string) error) {
	err := filepath.WalkDir("..", func(file string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return err
		case d.IsDir() && (d.Name() == "node_modules" || d.Name() == ".git"):
			return filepath.SkipDir
		case d.IsDir() || !strings.HasSuffix(file, ".go") || strings.HasSuffix(file, "_test.go"):
			return nil
		}
		return fn(file)
	})
	if err != nil {
		t.Fatal(err)
	}
}

func TestImports(t *testing.T) {
	seen := map[string]bool{}
	// The files are read here and not by "go list", for the test's cache knows only of what
	// the test itself opened: behind a command it stayed green while the imports changed.
	eachFile(t, func(file string) error {
		name := strings.TrimPrefix(filepath.ToSlash(filepath.Dir(file)), "../")
		may, listed := allowed[name]
		if !listed {
			if strings.HasPrefix(name, "core/") || strings.HasPrefix(name, "formats") {
				t.Errorf("%s is not in the policy", name)
			}
			return nil
		}
		seen[name] = true
		parsed, err := parser.ParseFile(token.NewFileSet(), file, nil, parser.ImportsOnly)
		if err != nil {
			return err
		}
		for _, spec := range parsed.Imports {
			im, err := strconv.Unquote(spec.Path.Value)
			if err != nil {
				return err
			}
			own, inside := strings.CutPrefix(im, "bead/")
			switch {
			case inside && !slices.Contains(may, own):
				t.Errorf("%s must not import %s", file, own)
			case !inside && strings.HasPrefix(name, "core/") && strings.Contains(im, ".") && !strings.HasPrefix(im, "gonum.org/"):
				t.Errorf("%s must not import %s: core has the standard library and gonum alone", file, im)
			case strings.HasPrefix(name, "core/") && slices.Contains([]string{"net/http", "database/sql", "os", "time", "math/rand", "math/rand/v2"}, im):
				t.Errorf("%s must not import %s: core has no files, clock, network or chance", file, im)
			}
		}
		return nil
	})
	if len(seen) < len(allowed) {
		t.Errorf("only %d of %d packages of the policy exist", len(seen), len(allowed))
	}
}

// TestSizes holds files to 500 lines and functions to 80, tests aside. The page's own are held by its linter.
func TestSizes(t *testing.T) {
	eachFile(t, func(file string) error {
		set := token.NewFileSet()
		parsed, err := parser.ParseFile(set, file, nil, 0)
		if err != nil {
			return err
		}
		if n := set.Position(parsed.End()).Line; n > 500 {
			t.Errorf("%s has %d lines, more than 500", file, n)
		}
		for _, d := range parsed.Decls {
			if fn, ok := d.(*ast.FuncDecl); ok {
				if n := set.Position(fn.End()).Line - set.Position(fn.Pos()).Line; n > 80 {
					t.Errorf("%s: %s has %d lines, more than 80", file, fn.Name.Name, n)
				}
			}
		}
		return nil
	})
}
