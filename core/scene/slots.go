package scene

import (
	"cmp"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"

	"bead/core/motion"
)

// Unit is the unit of a value.
type Unit string

// The units of values.
const (
	Metres  Unit = "m"
	Degrees Unit = "°"
	Waves   Unit = "waves"
	Share   Unit = "×"
	OfLens  Unit = "mm"
)

// unitOf are the units of quantities.
var unitOf = map[string]Unit{"distance": Metres, "length": Metres, "angle": Degrees, "waves": Waves, "plain": Share}

// Slot is a value of the document that may move.
type Slot struct {
	Ref     string // by which drives name it: rigs/port/travel
	Address string // rigs[0].travel
	Name    string // of its owner and itself, for people
	Unit    Unit
	Path    string // id of the path that it is a distance on, or ""
	Value   *motion.Value
}

// Moving is a field of documents that may move: a move tag beside the field is the only place that says so, such
// as `move:"layer#-pitch;angle;word=@ pitch"`. In it stand the key, the quantity, and what else there is to say:
//
//	along         it is a distance on the path that is named beside it, or further out
//	word=...      what it is called, where that is not its key
//	when=fit:reach  it is there only where the field beside it has that word
//	else=35       what it is where it is left out, if not 0
//	unit=mm       its unit, if not that of its quantity
//
// In key and word, * is the axis of a place of three values, # the number of the entry of a list that it is in, from
// 1, among those that have such a value (nothing in the word of the first), @ the name of that entry.
type Moving struct {
	// At is where it is, from the document on: entries of lists as *, the axes of a place as xyz, what may be left
	// out, and then has no such value, with a ?: carriers/*/ride?/distance.
	At       string  `json:"at"`
	Key      string  `json:"key"`
	Quantity string  `json:"quantity"`
	Word     string  `json:"word,omitempty"`
	When     string  `json:"when,omitempty"`
	Else     float64 `json:"else,omitempty"`

	along bool
	unit  Unit
	plain bool // key and word are as they stand
}

// moves is what of a type may move.
type moves struct {
	path   []int // the field that names the path of what it holds, nil without one
	name   []int // the field that names it
	fields []movable
}

// movable is a field that may move, or that holds something that may.
type movable struct {
	key   string
	field int
	of    *Moving // set of the first
	when  []int   // the field beside it that has to have a word
	word  string
	below *moves
}

// listed is the order in which values are listed: what is looked at most comes first, for pictures and graphs hold a
// limited number.
var listed = []string{"rigs", "paths", "carriers", "tugs", "cameras"}

// movesOf are those of the document.
var movesOf = sync.OnceValue(func() *moves {
	m := movesIn(reflect.TypeFor[Document](), nil)
	slices.SortStableFunc(m.fields, func(a, b movable) int { return slices.Index(listed, a.key) - slices.Index(listed, b.key) })
	return m
})

// Movings lists the fields of documents that may move.
func Movings() []Moving {
	var out []Moving
	movesOf().list(&out)
	return out
}

func (m *moves) list(out *[]Moving) {
	for i := range m.fields {
		if f := &m.fields[i]; f.of != nil {
			*out = append(*out, *f.of)
		} else {
			f.below.list(out)
		}
	}
}

// movesIn finds what may move in a struct, a list of them, or what points to one; nil where nothing does.
func movesIn(t reflect.Type, at []string) *moves {
	t, at, is := structIn(t, at)
	if !is {
		return nil
	}
	m := &moves{}
	if f, has := t.FieldByName("Path"); has && f.Type.Kind() == reflect.String {
		m.path = f.Index
	}
	if f, has := t.FieldByName("Name"); has {
		m.name = f.Index
	}
	for i := range t.NumField() {
		f := t.Field(i)
		key := keyOf(f)
		if key == "" || key == "-" {
			continue
		}
		x := movable{key: key, field: i}
		if f.Type.Kind() == reflect.Pointer {
			key += "?"
		}
		here := append(at[:len(at):len(at)], key)
		if tag, is := f.Tag.Lookup("move"); is {
			if f.Type.Kind() == reflect.Array {
				here = append(here, "xyz")
			}
			x.of = movingOf(tag, strings.Join(here, "/"))
			if beside, word, has := strings.Cut(x.of.When, ":"); has {
				x.when, x.word = fieldKeyed(t, beside), word
			}
		} else if x.below = movesIn(f.Type, here); x.below == nil {
			continue
		}
		m.fields = append(m.fields, x)
	}
	if len(m.fields) == 0 {
		return nil
	}
	// A thing's own values come before those of what it holds: the travel of a rig before its roll.
	slices.SortStableFunc(m.fields, func(a, b movable) int { return cmp.Compare(rank(&a), rank(&b)) })
	return m
}

func rank(f *movable) int {
	if f.of != nil {
		return 0
	}
	return 1
}

// fieldKeyed is the field of a struct by its word in documents, nil where there is none.
func fieldKeyed(t reflect.Type, key string) []int {
	for i := range t.NumField() {
		if keyOf(t.Field(i)) == key {
			return []int{i}
		}
	}
	return nil
}

func movingOf(tag, at string) *Moving {
	parts := strings.Split(tag, ";")
	m := &Moving{At: at, Key: parts[0], Quantity: parts[1], unit: unitOf[parts[1]]}
	for _, p := range parts[2:] {
		switch key, v, _ := strings.Cut(p, "="); key {
		case "along":
			m.along = true
		case "unit":
			m.unit = Unit(v)
		case "word":
			m.Word = v
		case "when":
			m.When = v
		case "else":
			m.Else, _ = strconv.ParseFloat(v, 64)
		default:
			panic(p + " is no word of a move tag")
		}
	}
	m.plain = !strings.ContainsAny(m.Key+m.Word, "#*@")
	return m
}

// Slots lists every value of the document that may move.
func (d *Document) Slots() []Slot {
	w := slotWalk{}
	w.in(reflect.ValueOf(d).Elem(), movesOf(), where{})
	return w.out
}

// slotWalk goes through a document.
type slotWalk struct{ out []Slot }

// where is a place in a document.
type where struct {
	owner  string // rigs/port/
	name   string // of the owner
	at     *spot
	path   string // id of the nearest path that is named
	entry  string // name of the innermost entry of a list
	number int    // of the entry
}

// in goes through a struct.
func (w *slotWalk) in(v reflect.Value, m *moves, at where) {
	if m.path != nil {
		at.path = v.FieldByIndex(m.path).String()
	}
	for i := range m.fields {
		f := &m.fields[i]
		x, here := v.Field(f.field), at.at.field(f.key)
		inside := at
		inside.at = &here
		switch {
		case f.of == nil:
			w.below(x, f, inside, at.at == nil)
		case f.when != nil && v.FieldByIndex(f.when).String() != f.word:
		case x.Kind() == reflect.Array:
			for here.index = range x.Len() {
				w.add(f.of, x.Index(here.index), &inside, "xyz"[here.index:here.index+1])
			}
		default:
			w.add(f.of, x, &inside, "")
		}
	}
}

// below goes into a field that holds something that may move; listed is set of a list of the document.
func (w *slotWalk) below(x reflect.Value, f *movable, at where, listed bool) {
	switch x.Kind() {
	case reflect.Pointer:
		if !x.IsNil() {
			w.in(x.Elem(), f.below, at)
		}
	case reflect.Slice:
		number := 0
		for at.at.index = range x.Len() {
			entry, inside := x.Index(at.at.index), at
			inside.number = number + 1
			if f.below.name != nil {
				inside.entry = entry.FieldByIndex(f.below.name).String()
			}
			if listed {
				inside.owner, inside.name = f.key+"/"+entry.FieldByName("ID").String()+"/", inside.entry
			}
			before := len(w.out)
			if w.in(entry, f.below, inside); len(w.out) > before {
				number++
			}
		}
	default:
		w.in(x, f.below, at)
	}
}

func (w *slotWalk) add(m *Moving, x reflect.Value, at *where, axis string) {
	key, word := m.Key, m.Word
	if word == "" {
		word = key
	}
	if !m.plain {
		number := ""
		if at.number > 1 {
			number = strconv.Itoa(at.number) + " "
		}
		key = strings.NewReplacer("#", strconv.Itoa(at.number), "*", axis).Replace(key)
		word = strings.NewReplacer("# ", number, "*", axis, "@", at.entry).Replace(word)
	}
	out := Slot{Ref: at.owner + key, Address: at.at.address(), Name: at.name + " " + word, Unit: m.unit, Value: x.Addr().Interface().(*motion.Value)}
	if m.along {
		out.Path = at.path
	}
	w.out = append(w.out, out)
}
