package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"math/rand/v2"
	"regexp"
	"slices"
	"testing"

	"bead/core/scene"
	"bead/demo"
)

// local are the faults that one place has by itself; others are of places that do not go together, which
// a schema cannot tell.
var local = regexp.MustCompile(`is not accepted: a number |is not accepted: a number$|is not a field here|is not an id|(an object|a list|a number|text|true or false) is accepted|a name has from|is not a whole number`)

// The schema and reading a document agree on 2,000 demo documents with one place changed: what is read the schema
// accepts, and what is refused for that place alone it refuses.
func TestSchemaAgrees(t *testing.T) {
	validate := published(t)
	r := rand.New(rand.NewPCG(7, 11))
	var texts []string
	for _, name := range demo.Names() {
		d, _ := demo.Scene(name)
		d.Assets = nil
		text, _ := d.Encode()
		texts = append(texts, string(text))
	}
	odd := []any{nil, 0.0, -1.0, 1e9, 1.0000001e9, 1.5, -1e-3, "", "x", "a b", true, []any{}, map[string]any{}, []any{1.0}, map[string]any{"speed": 1.0}, 96.0, 1e308, -2e6}
	refused, accepted := 0, 0
	for i := range 2000 {
		var doc any
		_ = json.Unmarshal([]byte(texts[i%len(texts)]), &doc)
		where, what := oneChanged(r, doc, odd)
		text, err := json.Marshal(doc)
		if err != nil {
			t.Fatal(err)
		}
		_, err = scene.Decode(text)
		said := validate(string(text))
		var faults scene.Faults
		switch {
		case err == nil:
			if accepted++; said != nil {
				t.Errorf("%s %s is read, and the schema says %v", where, what, said)
			}
		case errors.As(err, &faults) && len(faults) == 1 && where == "."+faults[0].Address && local.MatchString(faults[0].Message):
			// Of a lens and a wheel 0 stands for what is left out, or is refused for what else is there.
			if refused++; said == nil && !regexp.MustCompile(`\.(lens|radius|wheels\[\d+\]\.pitch)$`).MatchString(where) {
				t.Errorf("%s %s is accepted by the schema and refused: %v", where, what, err)
			}
		}
	}
	if refused < 1000 || accepted < 250 {
		t.Errorf("%d were read, %d refused for one place", accepted, refused)
	}
}

// oneChanged puts something odd into one place of a document, or takes the place away.
func oneChanged(r *rand.Rand, doc any, odd []any) (where, what string) {
	type place struct {
		at  string
		set func(any)
		del func()
	}
	var all []place
	var walk func(node any, at string)
	walk = func(node any, at string) {
		switch x := node.(type) {
		case map[string]any:
			for _, k := range slices.Sorted(maps.Keys(x)) {
				all = append(all, place{at + "." + k, func(v any) { x[k] = v }, func() { delete(x, k) }})
				walk(x[k], at+"."+k)
			}
		case []any:
			for i := range x {
				here := fmt.Sprintf("%s[%d]", at, i)
				all = append(all, place{here, func(v any) { x[i] = v }, func() { x[i] = nil }})
				walk(x[i], here)
			}
		}
	}
	walk(doc, "")
	p := all[r.IntN(len(all))]
	if r.IntN(5) == 0 {
		p.del()
		return p.at, "taken away"
	}
	v := odd[r.IntN(len(odd))]
	p.set(v)
	return p.at, fmt.Sprintf("as %T %v", v, v)
}
