package scene

import (
	"reflect"
	"strings"
	"sync"
)

// Reference is a field that names another thing of the scene by its id: a ref tag beside the field
// is the only place that says so, such as `ref:"path;thing"`. What becomes of it when that thing is removed:
//
//	""      the field is left out
//	thing   the thing that the field belongs to goes, too
//	whole   what holds the field goes: an optional part of a thing, or an entry of a list
//	entry   the entry of the list of ids goes, and what holds the list when that was the last
//
// A third word of the tag may be other (the thing cannot name itself) or idle (what it names need not be there
// while the field is not used; who uses it checks it).
type Reference struct {
	At   string `json:"at"`   // from the document on, entries of lists as *: rigs/*/path
	Kind string `json:"kind"` // rig, path, part, fixture, carrier or material
	Gone string `json:"gone,omitempty"`
}

// refs are the fields of a type that name things, and those that hold such.
type refs []refField

type refField struct {
	field    int
	key      string
	of       *Reference // set of one that names
	more     string     // the third word of its tag
	optional bool
	below    refs
}

// documentRefs are those of documents.
var documentRefs = sync.OnceValue(func() refs { return refsIn(reflect.TypeFor[Document](), nil) })

// References lists the fields of documents that name other things. Values that follow others name
// them as well; those are found by their form.
func References() []Reference {
	var out []Reference
	documentRefs().list(&out)
	return out
}

func (r refs) list(out *[]Reference) {
	for i := range r {
		if r[i].of != nil {
			*out = append(*out, *r[i].of)
		}
		r[i].below.list(out)
	}
}

func refsIn(t reflect.Type, at []string) (out refs) {
	t, at, is := structIn(t, at)
	if !is {
		return nil
	}
	for i := range t.NumField() {
		f := t.Field(i)
		key, how, _ := strings.Cut(f.Tag.Get("json"), ",")
		if key == "" || key == "-" {
			continue
		}
		here := append(at[:len(at):len(at)], key)
		x := refField{field: i, key: key, optional: how == "omitempty"}
		if tag, is := f.Tag.Lookup("ref"); is {
			words := append(strings.Split(tag, ";"), "", "")
			x.of, x.more = &Reference{strings.Join(here, "/"), words[0], words[1]}, words[2]
		} else if x.below = refsIn(f.Type, here); x.below == nil {
			continue
		}
		out = append(out, x)
	}
	return out
}

// named calls tell with every id that a struct names, where it stands and which thing of the document names it;
// also with those that are empty.
func (r refs) named(v reflect.Value, at *spot, owner string, tell func(at *spot, owner string, f *refField, id string)) {
	for i := range r {
		f := &r[i]
		x, here := v.Field(f.field), at.field(f.key)
		switch {
		case x.Kind() == reflect.Pointer && x.IsNil():
		case f.of != nil && x.Kind() == reflect.String:
			tell(&here, owner, f, x.String())
		case x.Kind() == reflect.Slice:
			for here.index = range x.Len() {
				entry := x.Index(here.index)
				switch {
				case f.of != nil:
					tell(&here, owner, f, entry.String())
				case at == nil: // a list of the document
					f.below.named(entry, &here, entry.FieldByName("ID").String(), tell)
				default:
					f.below.named(entry, &here, owner, tell)
				}
			}
		default:
			f.below.named(reflect.Indirect(x), &here, owner, tell)
		}
	}
}

// references checks that all things that are named are there; ids are those of each kind.
func (c *checker) references(d *Document, ids map[string]map[string]bool) {
	documentRefs().named(reflect.ValueOf(d).Elem(), nil, "", func(at *spot, owner string, f *refField, id string) {
		switch {
		case id == "" && f.optional || f.more == "idle":
		case f.more == "other" && id == owner:
			c.say(at.address(), "%q is this %s itself: another one of this scene is accepted", id, f.of.Kind)
		case !ids[f.of.Kind][id]:
			c.say(at.address(), "%q is no %s of this scene", id, f.of.Kind)
		}
	})
}
