package scene_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"bead/core/scene"
	"bead/demo"
)

// spots calls tell with every id in a tree of JSON at steps such as rigs, *, path: its address and a way to set it.
func spots(tree any, steps []string, at string, tell func(at string, put func(any))) {
	switch x := tree.(type) {
	case map[string]any:
		here := strings.TrimPrefix(at+"."+steps[0], ".")
		switch v := x[steps[0]].(type) {
		case string:
			tell(here, func(id any) { x[steps[0]] = id })
		case []any:
			if len(steps) == 1 { // a list of ids
				for k := range v {
					tell(fmt.Sprintf("%s[%d]", here, k), func(id any) { v[k] = id })
				}
				return
			}
			for k := range v {
				spots(v[k], steps[2:], fmt.Sprintf("%s[%d]", here, k), tell)
			}
		case map[string]any:
			spots(v, steps[1:], here, tell)
		}
	}
}

// A name of nothing is a fault at its place, whatever field it stands in, in every demo scene.
func TestNamesOfNothing(t *testing.T) {
	seen := map[string]bool{}
	for _, name := range demo.Names() {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		d.Assets = nil
		text, err := json.Marshal(d)
		if err != nil {
			t.Fatal(err)
		}
		var tree any
		if err := json.Unmarshal(text, &tree); err != nil {
			t.Fatal(err)
		}
		for _, r := range scene.References() {
			if r.At == "rigs/*/facing/guide" {
				continue // only while it is used
			}
			spots(tree, strings.Split(r.At, "/"), "", func(at string, put func(any)) {
				if seen[r.At] {
					return
				}
				seen[r.At] = true
				put("nothing-of-that-name")
				changed, _ := json.Marshal(tree)
				if err := json.Unmarshal(text, &tree); err != nil {
					t.Fatal(err)
				}
				_, err := scene.Decode(changed)
				var faults scene.Faults
				if !errors.As(err, &faults) || !slices.ContainsFunc(faults, func(f scene.Fault) bool { return f.Address == at }) {
					t.Errorf("%s, %s: %v", name, at, err)
				}
			})
		}
	}
	if len(seen) < 15 {
		t.Errorf("only %d kinds of references are in the demo scenes", len(seen))
	}
}
