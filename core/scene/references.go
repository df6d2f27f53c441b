package scene

import (
	"reflect"
	"strings"
)

// Reference is a field that names another thing of the scene by its id: a ref tag beside the field
// is the only place that says so. What becomes of it when that thing is removed:
//
//	""      the field is left out
//	thing   the thing that the field belongs to goes, too
//	whole   what holds the field goes: an optional part of a thing, or an entry of a list
//	entry   the entry of the list of ids goes, and what holds the list when that was the last
type Reference struct {
	At   string `json:"at"`   // from the document on, entries of lists as *: rigs/*/path
	Kind string `json:"kind"` // rig, path, part, fixture, carrier or material
	Gone string `json:"gone,omitempty"`
}

// References lists the fields of documents that name other things. Values that follow others name
// them as well; those are found by their form.
func References() []Reference {
	var out []Reference
	walkRefs(reflect.TypeFor[Document](), nil, &out)
	return out
}

func walkRefs(t reflect.Type, at []string, out *[]Reference) {
	switch {
	case t == valueType:
		return
	case t.Kind() == reflect.Pointer:
		walkRefs(t.Elem(), at, out)
	case t.Kind() == reflect.Slice:
		walkRefs(t.Elem(), append(at, "*"), out)
	case t.Kind() == reflect.Struct:
		for i := range t.NumField() {
			f := t.Field(i)
			key := keyOf(f)
			if key == "" || key == "-" {
				continue
			}
			here := append(at[:len(at):len(at)], key)
			if tag, is := f.Tag.Lookup("ref"); is {
				kind, gone, _ := strings.Cut(tag, ";")
				*out = append(*out, Reference{strings.Join(here, "/"), kind, gone})
				continue
			}
			walkRefs(f.Type, here, out)
		}
	}
}
