package scene

import (
	"reflect"
	"strings"
	"testing"

	"bead/core/look"
)

// Every field whose description says that it is an id has a ref tag, of a kind that there is, and
// the walk finds it.
func TestReferences(t *testing.T) {
	found := map[string]Reference{}
	for _, r := range References() {
		found[r.At] = r
		if !strings.Contains("rig path part fixture carrier material", r.Kind) || !strings.Contains(" thing whole entry", r.Gone) {
			t.Errorf("%+v", r)
		}
	}
	for at, want := range map[string]string{"rigs/*/path": "path thing", "rigs/*/body/lead/rig": "rig whole", "paths/*/steps/*/join/paths": "path entry",
		"paths/*/shape/wrap/wheels/*/carrier": "carrier ", "master": "carrier ", "fixtures/*/part": "part thing"} {
		if r := found[at]; r.Kind+" "+r.Gone != want {
			t.Errorf("%s: %+v", at, r)
		}
	}
	seen := 0
	var walk func(u reflect.Type, known map[reflect.Type]bool)
	walk = func(u reflect.Type, known map[reflect.Type]bool) {
		for u.Kind() == reflect.Pointer || u.Kind() == reflect.Slice || u.Kind() == reflect.Array {
			u = u.Elem()
		}
		if u.Kind() != reflect.Struct || known[u] || u == valueType {
			return
		}
		known[u] = true
		for i := range u.NumField() {
			f := u.Field(i)
			says := strings.HasPrefix(strings.ToLower(strings.TrimPrefix(f.Tag.Get("jsonschema"), "minItems=1,")), "description=id")
			_, tagged := f.Tag.Lookup("ref")
			if says && !strings.Contains(f.Tag.Get("jsonschema"), "SHA-256") && u != reflect.TypeFor[look.Images]() {
				seen++
				if !tagged {
					t.Errorf("%s.%s has no ref tag", u.Name(), f.Name)
				}
			}
			walk(f.Type, known)
		}
	}
	walk(reflect.TypeFor[Document](), map[reflect.Type]bool{})
	if seen < 20 {
		t.Errorf("only %d ids", seen)
	}
}
