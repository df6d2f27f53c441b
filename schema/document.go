package schema

import (
	"bytes"
	"encoding/json"
	"reflect"
	"slices"
	"strings"
	"unicode"

	"github.com/invopop/jsonschema"

	"bead/core/form"
	"bead/core/motion"
	"bead/core/scene"
)

// Document is the schema of scene documents. Titles, units and defaults are those of the page's forms;
// what stands as examples are values of the documents that are given.
func Document(examples []*scene.Document) *jsonschema.Schema {
	s := Of(&scene.Document{})
	s.ID = "urn:bead:scene:2"
	s.Title, s.Description = "Bead scene", "A scene of Bead: paths, parts, rigs, and what they ride on. Right-handed, y up, forward z, metres, degrees, frames."
	strict(s)
	shared(s)
	types := map[string]reflect.Type{}
	gather(types, reflect.TypeFor[scene.Document]())
	found := map[string][]any{}
	for _, d := range examples {
		harvest(found, reflect.ValueOf(d))
	}
	for name, t := range types {
		def := s.Definitions[name]
		if def == nil || def.Properties == nil {
			continue
		}
		if def.Title == "" {
			def.Title = human(name)
		}
		for i := range t.NumField() {
			f := t.Field(i)
			key, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			if p, is := def.Properties.Get(key); is {
				describe(p, name, key, t, slices.Contains(def.Required, key))
				if p.Examples = exampled(p, found[name+"."+key]); p.Examples == nil {
					p.Examples = begun(t, key)
				}
			}
		}
	}
	return s
}

// shared makes a definition of a value that may move, which is long and stands in many places.
func shared(s *jsonschema.Schema) {
	var value *jsonschema.Schema
	var swap func(p *jsonschema.Schema)
	swap = func(p *jsonschema.Schema) {
		if len(p.OneOf) == len(motion.Forms)+1 && p.OneOf[0].Type == "number" {
			if value == nil {
				value = &jsonschema.Schema{OneOf: p.OneOf, Title: "Value", Description: "A value that may move: a number, or one of the forms in which it does."}
				for _, f := range p.OneOf[1:] {
					name := f.Title
					for q := f.Properties.Oldest(); q != nil; q = q.Next() {
						word(q.Value, name, q.Key)
					}
				}
			}
			p.OneOf, p.Ref = nil, "#/$defs/Value"
		}
		if p.Items != nil {
			swap(p.Items)
		}
	}
	for _, d := range s.Definitions {
		if d.Properties == nil {
			continue
		}
		for p := d.Properties.Oldest(); p != nil; p = p.Next() {
			swap(p.Value)
		}
	}
	if value != nil {
		s.Definitions["Value"] = value
	}
}

// gather finds the struct types below one, by their names.
func gather(out map[string]reflect.Type, t reflect.Type) {
	switch t.Kind() {
	case reflect.Pointer, reflect.Slice, reflect.Array:
		gather(out, t.Elem())
	case reflect.Struct:
		if out[t.Name()] != nil || t == reflect.TypeFor[motion.Value]() {
			return
		}
		out[t.Name()] = t
		for i := range t.NumField() {
			gather(out, t.Field(i).Type)
		}
	}
}

const (
	mostExamples  = 2
	exampleLength = 400 // bytes
)

// harvest takes examples of all fields from a document.
func harvest(found map[string][]any, v reflect.Value) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			harvest(found, v.Elem())
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			harvest(found, v.Index(i))
		}
	case reflect.Struct:
		t := v.Type()
		if t == reflect.TypeFor[motion.Value]() {
			return
		}
		for i := range t.NumField() {
			f := v.Field(i)
			key, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
			if name := t.Name() + "." + key; key != "" && key != "-" && !f.IsZero() && len(found[name]) < mostExamples {
				note(found, name, f.Interface())
			}
			harvest(found, f)
		}
	}
}

// note keeps an example that is short and not there yet.
func note(found map[string][]any, name string, v any) {
	text, err := json.Marshal(v)
	if err != nil || len(text) > exampleLength {
		return
	}
	for _, have := range found[name] {
		if bytes.Equal(have.(json.RawMessage), text) {
			return
		}
	}
	found[name] = append(found[name], json.RawMessage(text))
}

// exampled are examples of a property: of documents, or else what it accepts.
func exampled(p *jsonschema.Schema, found []any) []any {
	switch {
	case len(found) > 0:
		return found
	case len(p.Enum) > 0:
		return p.Enum[:1]
	case p.Type == "boolean":
		return []any{true}
	case p.Type == "number", p.Type == "integer":
		if p.Minimum != "" && p.Minimum[0] != '-' && p.Minimum != "0" {
			return []any{p.Minimum}
		}
		return []any{1}
	case p.Ref == "#/$defs/Value":
		return []any{0.5}
	case p.Type == "string" && strings.HasPrefix(p.Pattern, "^#"):
		return []any{"#336699"}
	case p.Type == "string" && p.Pattern == "":
		return []any{"hull"}
	}
	return nil
}

// begun is what a kind of a type begins with.
func begun(t reflect.Type, key string) []any {
	for _, k := range kindsOf(t) {
		if k.Key == key && k.First != nil {
			return []any{k.First}
		}
	}
	return nil
}

// describe says of a property what it is called, what it is, in which unit, and what it is where it is
// left out.
func describe(p *jsonschema.Schema, of, key string, t reflect.Type, needed bool) {
	var field form.Field
	for _, f := range form.Of(t) {
		if f.Key == key {
			field = f
		}
	}
	p.Title = field.Label
	for _, k := range kindsOf(t) {
		if k.Key == key {
			p.Title = k.Name
			if p.Description == "" && k.Text != "" {
				p.Description = capital(k.Text) + "."
			}
		}
	}
	word(p, of, key)
	if unit := unitOf(&field); unit != "" && !strings.Contains(p.Description, unit) {
		p.Description += " In " + unit + "."
	}
	if field.Auto != "" {
		p.Description += " Left out or 0: " + field.Auto + "."
	}
	if needed || p.Const != nil {
		return
	}
	switch {
	case field.Fallback != nil:
		p.Default = field.Fallback
	case p.Type == "number", p.Type == "integer", p.Ref == "#/$defs/Value":
		p.Default = 0
	case p.Type == "boolean":
		p.Default = false
	case p.Type == "string" && p.Pattern == "":
		p.Default = ""
	case p.Type == "array" && (p.MinItems == nil || *p.MinItems == 0):
		p.Default = []any{}
	}
	if word, is := p.Default.(string); is && p.Type == "string" && p.MinLength != nil && len(word) < int(*p.MinLength) {
		p.Default = nil
	}
}

// word gives a property a title and a description where it has none.
func word(p *jsonschema.Schema, of, key string) {
	if p.Title == "" {
		p.Title = human(key)
	}
	if p.Description != "" {
		if !strings.Contains(p.Description, " ") { // a unit alone
			p.Description = p.Title + ", " + strings.ToLower(p.Description)
		}
		return
	}
	for _, name := range []string{of + "." + key, key} {
		if text, is := texts[name]; is {
			p.Description = text
			return
		}
	}
	title, more, _ := strings.Cut(p.Title, ",")
	switch of {
	case "PathShape", "PartShape":
		p.Description = "Its shape is this one: " + strings.ToLower(title) + "."
	default:
		for _, end := range []string{"Shape", "Size", "Step"} {
			of = strings.TrimSuffix(of, end)
		}
		p.Description = title + " of the " + strings.ToLower(human(of))
		if more != "" {
			p.Description += "," + more
		}
		p.Description += "."
	}
}

// kindsOf are the kinds that the fields of a type choose between.
func kindsOf(t reflect.Type) []scene.Kind {
	forms := scene.AllForms()
	switch t {
	case reflect.TypeFor[scene.PathShape]():
		return forms.Shapes
	case reflect.TypeFor[scene.Step]():
		return forms.Steps
	}
	return nil
}

func unitOf(f *form.Field) string {
	switch f.Kind {
	case "length", "distance", "place", "points":
		return "metres"
	case "angle":
		return "degrees"
	case "frame":
		return "frames"
	}
	return f.Unit
}

// human is a name in words: chordError is Chord error.
func human(name string) string {
	var out strings.Builder
	for i, r := range name {
		switch {
		case i == 0:
			out.WriteRune(unicode.ToUpper(r))
		case unicode.IsUpper(r):
			out.WriteRune(' ')
			out.WriteRune(unicode.ToLower(r))
		default:
			out.WriteRune(r)
		}
	}
	return out.String()
}

func capital(text string) string { return strings.ToUpper(text[:1]) + text[1:] }
