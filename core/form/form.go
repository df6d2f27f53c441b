// Package form reads what the fields of a document say about themselves: what they are called,
// in which unit they are, what they accept. One tag beside each field is the only place where
// that stands; faults, the schema and the page's forms are made of it.
//
// The tag is form:"LABEL;KIND;OPTIONS", with options apart by semicolons:
//
//	min=0 max=1      least and greatest number that is accepted
//	or0              0 is accepted, too: it stands for "as it is said beside it"
//	unit=points      shown behind the number
//	fallback=0       what the page shows where the field is left out
//	auto=as it is    left out, or 0, Bead finds the number: what the page then says
//	like=radius      the field whose number it begins with when it is set; else the path's length
//	scaled           what a new one begins with is a share of the path's length
//	off=x on=y       the two words of a switch
//	names=a:b,c:d    the page's words for choices; what is accepted stands in the schema's enum
//
// KIND is length, distance, angle, count, plain, frame, place, points, choice, switch or moving.
// A field without a label is checked, and not in the page's form. So is one without a tag whose jsonschema tag
// has a minimum, a maximum or an enum, and every place. Of those that may be left out, 0 and "" stand for that.
package form

import (
	"fmt"
	"math"
	"reflect"
	"strconv"
	"strings"
	"sync"
)

// Field is one field of a form.
type Field struct {
	Key      string            `json:"key"`
	Label    string            `json:"label"`
	Kind     string            `json:"kind"`
	Unit     string            `json:"unit,omitempty"`
	Min      *float64          `json:"min,omitempty"`
	Max      *float64          `json:"max,omitempty"`
	Or0      bool              `json:"-"`
	Fallback any               `json:"fallback,omitempty"`
	Auto     string            `json:"auto,omitempty"`
	Like     string            `json:"like,omitempty"`
	Scaled   bool              `json:"scaled,omitempty"`
	Options  []string          `json:"options,omitempty"`
	Names    map[string]string `json:"names,omitempty"`
	Off      string            `json:"off,omitempty"`
	On       string            `json:"on,omitempty"`

	index int
	// optional is set of one that may be left out of a document.
	optional bool
	// bare is set of a field without a form tag: where its jsonschema tag has no limit there is none.
	bare bool
	// above and below are set where the limits themselves are not accepted.
	above, below bool
}

var known sync.Map // of reflect.Type to []Field

// Of lists the fields of a struct type, or of a pointer to one, that say what they accept, in their
// order. It panics where a tag cannot be read: that is a mistake of the program.
func Of(t reflect.Type) []Field {
	if t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if f, is := known.Load(t); is {
		return f.([]Field)
	}
	var out []Field
	for i := range t.NumField() {
		f := t.Field(i)
		if tag, tagged := f.Tag.Lookup("form"); tagged {
			out = append(out, read(f, i, tag))
		} else if x, limited := bare(f, i); limited {
			out = append(out, x)
		}
	}
	known.Store(t, out)
	return out
}

// bare reads a field without a form tag; limited is false where it accepts whatever can be read.
func bare(f reflect.StructField, i int) (out Field, limited bool) {
	key, how, _ := strings.Cut(f.Tag.Get("json"), ",")
	if key == "" || key == "-" {
		return out, false
	}
	t := f.Type
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	out = Field{Key: key, index: i, bare: true, optional: how == "omitempty"}
	out.Or0 = out.optional
	if t.Kind() == reflect.Array && t.Len() == 3 && t.Elem().Kind() == reflect.Float64 {
		out.Kind = "place"
		return out, true
	}
	out.schema(f.Tag)
	switch {
	case len(out.Options) > 0 && t.Kind() == reflect.String:
		out.Kind = "choice"
	case (out.Min != nil || out.Max != nil) && (t.Kind() == reflect.Float64 || t.Kind() == reflect.Int):
		out.Kind = "plain"
	}
	return out, out.Kind != ""
}

// schema takes limits and choices from a jsonschema tag.
func (f *Field) schema(tag reflect.StructTag) {
	for _, entry := range strings.Split(tag.Get("jsonschema"), ",") {
		name, value, _ := strings.Cut(entry, "=")
		if name == "enum" {
			f.Options = append(f.Options, value)
		}
		v, err := strconv.ParseFloat(value, 64)
		if err != nil {
			continue
		}
		switch name {
		case "minimum", "exclusiveMinimum":
			f.Min, f.above = &v, name == "exclusiveMinimum"
		case "maximum", "exclusiveMaximum":
			f.Max, f.below = &v, name == "exclusiveMaximum"
		}
	}
}

func read(f reflect.StructField, i int, tag string) Field {
	key, how, _ := strings.Cut(f.Tag.Get("json"), ",")
	parts := strings.Split(tag, ";")
	if len(parts) < 2 {
		panic(fmt.Sprintf("form: %s: %q has no kind", f.Name, tag))
	}
	out := Field{Key: key, Label: parts[0], Kind: parts[1], index: i, optional: how == "omitempty"}
	out.schema(f.Tag)
	for _, option := range parts[2:] {
		name, value, _ := strings.Cut(option, "=")
		number := func() *float64 {
			v, err := strconv.ParseFloat(value, 64)
			if err != nil {
				panic(fmt.Sprintf("form: %s: %q is no number", f.Name, option))
			}
			return &v
		}
		switch name {
		case "min":
			out.Min, out.above = number(), false
		case "max":
			out.Max, out.below = number(), false
		case "or0":
			out.Or0 = true
		case "unit":
			out.Unit = value
		case "fallback":
			out.Fallback = value
			if out.Kind != "choice" {
				out.Fallback = *number()
			}
		case "auto":
			out.Auto, out.Or0 = value, true
		case "like":
			out.Like = value
		case "scaled":
			out.Scaled = true
		case "off":
			out.Off = value
		case "on":
			out.On = value
		case "names":
			out.Names = map[string]string{}
			for _, pair := range strings.Split(value, ",") {
				word, shown, _ := strings.Cut(pair, ":")
				out.Names[word] = shown
			}
		default:
			panic(fmt.Sprintf("form: %s: %q is not known", f.Name, option))
		}
	}
	if _, blank := out.Names[""]; blank { // left out is one of the choices
		out.Options = append([]string{""}, out.Options...)
	}
	return out
}

// MaxPosition is how far from 0 a place may lie, metres along each axis.
const MaxPosition = 1e6

// Most points of one list, and least.
const (
	MaxPoints = 20_000
	MinPoints = 2
)

// Check tells of every field of a struct, given by a pointer, whose value its tag does not accept.
// Fields are named as documents name them, points with their numbers, such as points[3][0].
func Check(of any, say func(field, text string)) {
	v := reflect.ValueOf(of).Elem()
	for _, f := range Of(v.Type()) {
		f.check(v.Field(f.index), say)
	}
}

func (f *Field) check(v reflect.Value, say func(field, text string)) {
	if v.Kind() == reflect.Pointer {
		if v.IsNil() {
			return
		}
		v = v.Elem()
	}
	switch f.Kind {
	case "moving", "switch":
	case "choice":
		if word := v.String(); word != "" || !f.optional {
			f.word(word, say)
		}
	case "place":
		place(f.Key, v, say)
	case "points":
		n := v.Len()
		if n < MinPoints || n > MaxPoints {
			say(f.Key, fmt.Sprintf("%d points are not accepted: from %d to %d are", n, MinPoints, MaxPoints))
		}
		for i := range min(n, MaxPoints) {
			place(fmt.Sprintf("%s[%d]", f.Key, i), v.Index(i), say)
		}
	default:
		f.number(v, say)
	}
}

// Index is where the field stands in its struct, as reflect has it.
func (f *Field) Index() []int { return []int{f.index} }

// In is the field in a value of the struct that it is a field of.
func (f *Field) In(v reflect.Value) reflect.Value { return v.Field(f.index) }

func (f *Field) number(v reflect.Value, say func(field, text string)) {
	x := 0.0
	switch {
	case v.CanInt():
		x = float64(v.Int())
	case v.CanFloat():
		x = v.Float()
	}
	if x == 0 && f.Or0 {
		return
	}
	lo, hi := f.Limits()
	if x > lo && x < hi || x == lo && !f.above || x == hi && !f.below {
		return
	}
	from, to := fmt.Sprintf("from %g", lo), fmt.Sprintf(" to %g", hi)
	if f.above {
		from, to = fmt.Sprintf("above %g", lo), fmt.Sprintf(" and up to %g", hi)
	}
	if f.below {
		to = fmt.Sprintf(" to less than %g", hi)
	}
	switch {
	case math.IsInf(hi, 1):
		to = " up"
	case math.IsInf(lo, -1):
		from, to = "", fmt.Sprintf("up to %g", hi)
	}
	say(f.Key, fmt.Sprintf("%g is not accepted: a number %s%s is", x, from, to))
}

// Limits are the least and the greatest number that a field accepts; infinite where it has no such limit.
func (f *Field) Limits() (lo, hi float64) {
	lo, hi = -MaxPosition, MaxPosition
	if f.bare {
		lo, hi = math.Inf(-1), math.Inf(1)
	}
	if f.Min != nil {
		lo = *f.Min
	}
	if f.Max != nil {
		hi = *f.Max
	}
	return lo, hi
}

func (f *Field) word(got string, say func(field, text string)) {
	var list []string
	for _, o := range f.Options {
		if o == got {
			return
		}
		if o != "" {
			list = append(list, o)
		}
	}
	say(f.Key, NotAccepted(got, list))
}

// NotAccepted says that a word is not one of those that are.
func NotAccepted(got string, accepted []string) string {
	verb := "are"
	if len(accepted) == 1 {
		verb = "is"
	}
	return fmt.Sprintf("%q is not accepted: %s %s", got, And(accepted), verb)
}

// And is a list in words: a, b and c.
func And(list []string) string {
	if len(list) < 2 {
		return strings.Join(list, "")
	}
	return strings.Join(list[:len(list)-1], ", ") + " and " + list[len(list)-1]
}

func place(key string, v reflect.Value, say func(field, text string)) {
	for i := range v.Len() {
		if x := v.Index(i).Float(); !(math.Abs(x) <= MaxPosition) {
			say(fmt.Sprintf("%s[%d]", key, i), fmt.Sprintf("%g is not accepted: a number within ±%g m is", x, MaxPosition))
		}
	}
}
