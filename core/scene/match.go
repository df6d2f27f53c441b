package scene

import (
	"encoding/base64"
	"encoding/json"
	"reflect"
	"sort"
	"strings"

	"bead/core/motion"
)

var valueType = reflect.TypeFor[motion.Value]()

// match holds one node of the tree against the type it will be read into.
func (w *walker) match(node any, t reflect.Type) {
	if w.values++; w.values%lookUpEvery == 0 && w.ctx.Err() != nil {
		w.ended = true
	}
	// A document of a million wrong things is not gone through to its end for faults that nobody will be shown.
	if w.full() || w.ended {
		return
	}
	// A value has many forms and reads itself, so the fields of its Go type say nothing of them.
	if t == valueType {
		w.matchValue(node)
		return
	}
	if t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if node == nil {
		// Go leaves what null is read into as it was, so null would mean now this and now that.
		w.say("is null: leave the field out instead")
		return
	}
	switch t.Kind() {
	case reflect.Struct:
		obj, ok := node.(map[string]any)
		if !ok {
			w.say("is %s: an object is accepted", kindOf(node))
			return
		}
		w.matchFields(obj, t)
	case reflect.Slice, reflect.Array:
		// Bytes are written as text in JSON, not as a list of numbers.
		if t.Elem().Kind() == reflect.Uint8 {
			text, ok := node.(string)
			if _, err := base64.StdEncoding.DecodeString(text); !ok || err != nil {
				w.say("is not base64 text")
			}
			return
		}
		list, ok := node.([]any)
		if !ok {
			w.say("is %s: a list is accepted", kindOf(node))
			return
		}
		// Go would fill up a short list with zeros and drop the end of a long one without a word.
		if t.Kind() == reflect.Array && len(list) != t.Len() {
			w.say("has %d numbers: %d are accepted", len(list), t.Len())
			return
		}
		for i, v := range list {
			w.in("", i, func() { w.match(v, t.Elem()) })
		}
	case reflect.Float64, reflect.Int, reflect.Int64:
		n, ok := node.(json.Number)
		if !ok {
			w.say("is %s: a number is accepted", kindOf(node))
			return
		}
		// Read as float64 it would be infinite.
		if _, err := n.Float64(); err != nil {
			w.say("%s is too large a number", n)
		} else if _, err := n.Int64(); t.Kind() != reflect.Float64 && err != nil {
			// 96.0 is a whole number to people and to other programs; Go's decoder refuses it.
			if _, is := pointless(n); is {
				w.rewrite = true
				return
			}
			w.say("%s is not a whole number", n)
		}
	case reflect.String:
		if _, ok := node.(string); !ok {
			w.say("is %s: a text is accepted", kindOf(node))
		}
	case reflect.Bool:
		if _, ok := node.(bool); !ok {
			w.say("is %s: true or false is accepted", kindOf(node))
		}
	}
}

func (w *walker) matchFields(obj map[string]any, t reflect.Type) {
	// By their names in JSON: those are what people write and what faults name.
	fields := map[string]reflect.StructField{}
	var names, missing []string
	for i := range t.NumField() {
		// What is worked out while reading is no field of the document.
		if !t.Field(i).IsExported() {
			continue
		}
		name, options, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
		fields[name] = t.Field(i)
		names = append(names, name)
		if _, given := obj[name]; !given && !strings.HasPrefix(options, "omit") {
			missing = append(missing, name)
		}
	}
	given := make([]string, 0, len(obj))
	for name := range obj {
		given = append(given, name)
	}
	sort.Strings(given) // so that the same document gives the same faults
	for _, name := range given {
		f, known := fields[name]
		// A misspelt field would otherwise be passed over, and what it was to say left at its default.
		if !known {
			w.in(name, -1, func() { w.say("is not a field here: %s are", strings.Join(names, ", ")) })
			continue
		}
		w.in(name, -1, func() { w.match(obj[name], f.Type) })
	}
	// Report wrong fields before missing ones: they say more.
	for _, name := range missing {
		w.in(name, -1, func() { w.say("is missing") })
	}
}

// matchValue accepts the forms of a value.
func (w *walker) matchValue(node any) {
	obj, ok := node.(map[string]any)
	if !ok {
		// A plain number is the commonest form: a value that stays.
		if _, isNumber := node.(json.Number); !isNumber {
			w.say(`is %s: a number, {"keys": [...]}, {"speed": ...} or a drive, {"of": ...}, {"rpm": ...}, {"turns": ...}, {"rolls": ...}, is accepted`, kindOf(node))
			return
		}
		w.match(node, reflect.TypeFor[float64]())
		return
	}
	// The first form is that of keys: a value that has none of the fields of the others is told what keys have.
	form := motion.Forms[0]
	for _, f := range motion.Forms[1:] {
		if _, given := obj[f.Field]; given {
			form = f
			break
		}
	}
	w.match(node, reflect.TypeOf(form.Type))
	// Without a key the value would have no number at any frame.
	if list, ok := obj["keys"].([]any); ok && len(list) == 0 {
		w.in("keys", -1, func() { w.say("is empty: at least one key is accepted, or a plain number") })
	}
}

func kindOf(node any) string {
	switch node.(type) {
	case nil:
		return "null"
	case map[string]any:
		return "an object"
	case []any:
		return "a list"
	case json.Number:
		return "a number"
	case string:
		return "a text"
	}
	return "true or false"
}
