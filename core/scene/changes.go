package scene

import (
	"encoding/json"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// Change is one value of a document that differs from another's.
type Change struct {
	// Address is where it stands, such as rigs/r/spacing/count: things of a list by their id.
	Address string
	Owner   string // name of the thing that it belongs to
	Field   string // in words
	Was     string // with unit, as it is shown; "" where it was not there
	Is      string
}

// What names the value that has changed and its owner: "Row: count"; "" where nothing has.
func (c Change) What() string {
	if c.Owner == "" {
		return c.Field
	}
	return c.Owner + ": " + c.Field
}

// String says the change in a few words: "Row: count 50 to 51".
func (c Change) String() string {
	what := c.What()
	switch {
	case c.Was == "":
		return what + " " + c.Is
	case c.Is == "":
		return what + " taken out, was " + c.Was
	}
	return fmt.Sprintf("%s %s to %s", what, c.Was, c.Is)
}

// manyChanges is the number of values beyond which a change is not told value by value.
const manyChanges = 8

// Changes lists the values that differ between two documents, in the order of the fields; more
// than a few are cut off. Things that came or went are not values: ok is false then.
func Changes(was, is *Document) (list []Change, ok bool) {
	a, b := tree(was), tree(is)
	d := differ{units: is.Units}
	d.compare(a, b, nil, "Scene")
	return d.list, !d.more && len(d.list) <= manyChanges
}

func tree(d *Document) any {
	bare := *d
	bare.Assets = nil
	text, err := json.Marshal(&bare)
	var out any
	if err != nil || json.Unmarshal(text, &out) != nil {
		return nil
	}
	return out
}

type differ struct {
	units Units
	list  []Change
	more  bool // something came or went
}

func (d *differ) compare(a, b any, path []string, owner string) {
	if d.more || len(d.list) > manyChanges || reflect.DeepEqual(a, b) {
		return
	}
	if x, isMap := b.(map[string]any); isMap {
		if name, has := x["name"].(string); has && len(path) > 0 {
			owner = name
		}
		if y, both := a.(map[string]any); both {
			keys := make([]string, 0, len(x))
			for k := range x {
				keys = append(keys, k)
			}
			for k := range y {
				if _, there := x[k]; !there {
					keys = append(keys, k)
				}
			}
			slices.Sort(keys)
			for _, k := range keys {
				d.compare(y[k], x[k], append(slices.Clone(path), k), owner)
			}
			return
		}
	}
	if y, isList := a.([]any); isList && !numbers(y) {
		x, both := b.([]any)
		if !both || len(x) != len(y) {
			d.more = true
			return
		}
		for i := range x {
			key := strconv.Itoa(i)
			if m, named := x[i].(map[string]any); named {
				if id, has := m["id"].(string); has {
					if key = id; y[i].(map[string]any)["id"] != m["id"] {
						d.more = true // put in another order
						return
					}
				}
			}
			d.compare(y[i], x[i], append(slices.Clone(path), key), owner)
		}
		return
	}
	was, told := d.show(a, path)
	is, told2 := d.show(b, path)
	if !told || !told2 {
		d.more = true
		return
	}
	d.list = append(d.list, Change{strings.Join(path, "/"), owner, fieldWords(path), was, is})
}

// numbers reports whether a list is a place or another short row of numbers.
func numbers(list []any) bool {
	for _, v := range list {
		if _, is := v.(float64); !is {
			return false
		}
	}
	return len(list) > 0 && len(list) <= 4
}

// show writes a value at a path as text; told is false where it has parts.
func (d *differ) show(v any, path []string) (text string, told bool) {
	switch x := v.(type) {
	case nil:
		return "", true
	case bool:
		return map[bool]string{true: "on", false: "off"}[x], true
	case string:
		if len(x) > 40 {
			x = x[:40] + "…"
		}
		return "“" + x + "”", true
	case float64:
		return d.number(x, path), true
	case []any:
		if numbers(x) {
			parts := make([]string, len(x))
			for i := range x {
				parts[i] = d.number(x[i].(float64), path)
			}
			return strings.Join(parts, ", "), true
		}
	}
	return "", false
}

func (d *differ) number(v float64, path []string) string {
	round := func(to float64) string { return strconv.FormatFloat(math.Round(v*to)/to, 'g', -1, 64) }
	switch quantityAt(path) {
	case "length":
		return d.units.Length(v)
	case "length a second":
		return d.units.Speed(v)
	case "angle":
		return round(1e4) + "°"
	case "angle a second":
		return round(1e4) + "° a second"
	}
	return round(1e6)
}

// quantityAt is what the number at a path of a document is, by the tags of its field: length or angle, or either a
// second; else plain.
func quantityAt(path []string) string {
	t, quantity := reflect.TypeFor[Document](), "plain"
	for i, step := range path {
		for t.Kind() == reflect.Pointer {
			t = t.Elem()
		}
		switch {
		case t == valueType:
			return quantityInValue(quantity, path[i:])
		case t.Kind() == reflect.Slice || t.Kind() == reflect.Array:
			t = t.Elem()
		case t.Kind() != reflect.Struct:
			return quantity
		default:
			k := fieldKeyed(t, step)
			if k == nil {
				return "plain"
			}
			f := t.FieldByIndex(k)
			quantity, t = quantityOf(&f), f.Type
		}
	}
	return quantity
}

// quantityInValue is that of a number within a value that may move, whose own is given.
func quantityInValue(own string, path []string) string {
	switch path[len(path)-1] {
	case "speed":
		return own + " a second"
	case "value", "start", "offset":
		return own
	case "radius", "gauge":
		return "length"
	}
	return "plain"
}

// quantityOf is that of a field, by what its tags say of it.
func quantityOf(f *reflect.StructField) string {
	kind := ""
	if _, moves, has := strings.Cut(f.Tag.Get("move"), ";"); has {
		kind, _, _ = strings.Cut(moves, ";")
	} else if _, says, has := strings.Cut(f.Tag.Get("form"), ";"); has {
		kind, _, _ = strings.Cut(says, ";")
	}
	_, says, _ := strings.Cut(f.Tag.Get("jsonschema"), "description=")
	switch {
	case strings.HasPrefix(says, "Metres a second"):
		return "length a second"
	case kind == "length" || kind == "distance" || kind == "place" || kind == "points" || strings.HasPrefix(says, "Metres"):
		return "length"
	case strings.HasPrefix(says, "Degrees a second"):
		return "angle a second"
	case kind == "angle" || strings.HasPrefix(says, "Degrees"):
		return "angle"
	}
	t := f.Type
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	if t == reflect.TypeFor[Vec3]() {
		return "length"
	}
	return "plain"
}

// fieldWords are the words of a field: its key, with that of the list that it is in, such as
// point 2 at.
func fieldWords(path []string) string {
	n := len(path)
	if n == 0 {
		return ""
	}
	number := func(k int) (int, bool) {
		if k < 1 {
			return 0, false
		}
		v, err := strconv.Atoi(path[k])
		return v + 1, err == nil
	}
	one := func(k int) string { return strings.TrimSuffix(spaced(path[k]), "s") }
	if v, is := number(n - 1); is {
		return fmt.Sprintf("%s %d", one(n-2), v)
	}
	if v, is := number(n - 2); is {
		return fmt.Sprintf("%s %d %s", one(n-3), v, spaced(path[n-1]))
	}
	return spaced(path[n-1])
}

// spaced is a key of the document as words: topRadius is top radius.
func spaced(key string) string {
	var b strings.Builder
	for _, r := range key {
		if unicode.IsUpper(r) {
			b.WriteByte(' ')
			r = unicode.ToLower(r)
		}
		b.WriteRune(r)
	}
	return b.String()
}
