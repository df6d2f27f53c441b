package scene

import (
	"math"
	"reflect"
	"strconv"
	"sync"

	"bead/core/form"
)

// holds are the fields of a type that hold structs with fields of their own to be checked.
type holds []holding

type holding struct {
	field int
	key   string
	below reflect.Type // of the struct, through pointers and lists
}

var holdsOf sync.Map // of reflect.Type to holds

// spot is a place in a document. It is put into words only where somebody asks: most places have nothing to be said of.
type spot struct {
	up    *spot
	key   string
	index int // of an entry of the list that key is; -1 of what is no entry
}

// field is the place of a field of what is at s.
func (s *spot) field(key string) spot { return spot{s, key, -1} }

// address is the place as faults name it, such as rigs[0].train.spacing.
func (s *spot) address() string {
	if s == nil {
		return ""
	}
	var room [96]byte
	return string(s.append(room[:0]))
}

func (s *spot) append(to []byte) []byte {
	if s.up != nil {
		if to = s.up.append(to); len(to) > 0 {
			to = append(to, '.')
		}
	}
	to = append(to, s.key...)
	if s.index >= 0 {
		to = append(strconv.AppendInt(append(to, '['), int64(s.index), 10), ']')
	}
	return to
}

// fields checks every field of a struct, and of all that it holds, by what its tags accept (package form). What
// depends on more than one field is checked elsewhere.
func (c *checker) fields(v reflect.Value, at *spot) {
	form.Check(v.Addr().Interface(), func(field, text string) {
		here := at.field(field)
		c.say(here.address(), "%s", text)
	})
	for _, h := range holdsIn(v.Type()) {
		x, here := v.Field(h.field), at.field(h.key)
		switch x.Kind() {
		case reflect.Slice:
			for here.index = range x.Len() {
				c.fields(reflect.Indirect(x.Index(here.index)), &here)
			}
		case reflect.Pointer:
			if !x.IsNil() {
				c.fields(x.Elem(), &here)
			}
		default:
			c.fields(x, &here)
		}
	}
}

func holdsIn(t reflect.Type) holds {
	if h, known := holdsOf.Load(t); known {
		return h.(holds)
	}
	out := holds{}
	for i := range t.NumField() {
		f := t.Field(i)
		key := keyOf(f)
		if key == "" || key == "-" {
			continue
		}
		if below, _, is := structIn(f.Type, nil); is && (len(form.Of(below)) > 0 || len(holdsIn(below)) > 0) {
			out = append(out, holding{i, key, below})
		}
	}
	holdsOf.Store(t, out)
	return out
}

// structIn is the struct that a field holds, through pointers and lists, each of which adds a * to where it is; values
// that may move are none.
func structIn(t reflect.Type, at []string) (reflect.Type, []string, bool) {
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		if t.Kind() == reflect.Slice {
			at = append(at[:len(at):len(at)], "*")
		}
		t = t.Elem()
	}
	return t, at, t.Kind() == reflect.Struct && t != valueType
}

// Limit is what a number of a document has to lie between; a side that is left out has no limit.
type Limit struct {
	Min *float64 `json:"min,omitempty"`
	Max *float64 `json:"max,omitempty"`
}

// Limits are those of the numbers that no form has: by where they are in documents, entries of lists as *, such as
// rigs/*/scale.
func Limits() map[string]Limit {
	out := map[string]Limit{}
	limitsIn(reflect.TypeFor[Document](), "", out)
	return out
}

func limitsIn(t reflect.Type, at string, out map[string]Limit) {
	for _, f := range form.Of(t) {
		if f.Label != "" || f.Kind == "choice" || f.Kind == "place" || f.Kind == "points" || f.Kind == "switch" {
			continue
		}
		var l Limit
		if lo, hi := f.Limits(); !math.IsInf(lo, 0) || !math.IsInf(hi, 0) {
			if !math.IsInf(lo, 0) {
				l.Min = &lo
			}
			if !math.IsInf(hi, 0) {
				l.Max = &hi
			}
			out[at+f.Key] = l
		}
	}
	for _, h := range holdsIn(t) {
		here := at + h.key + "/"
		if t.Field(h.field).Type.Kind() == reflect.Slice {
			here += "*/"
		}
		limitsIn(h.below, here, out)
	}
}
