// Package schema makes JSON Schemas of Go types: that of documents, with all that reading them refuses,
// and those of what the API takes and answers.
package schema

import (
	"encoding/json"
	"reflect"
	"strconv"
	"sync"

	"github.com/invopop/jsonschema"

	"bead/core/check"
	"bead/core/form"
	"bead/core/motion"
	"bead/core/scene"
)

// Of is the JSON Schema of a Go type. A value that may move is one of its forms.
func Of(v any) *jsonschema.Schema {
	r := &jsonschema.Reflector{Anonymous: true, AllowAdditionalProperties: false}
	plain := &jsonschema.Reflector{Anonymous: true, DoNotReference: true}
	r.Mapper = func(t reflect.Type) *jsonschema.Schema {
		if t != reflect.TypeFor[motion.Value]() {
			return nil
		}
		forms := []*jsonschema.Schema{{Type: "number"}}
		for _, f := range motion.Forms {
			x := plain.Reflect(f.Type)
			x.Version, x.Title = "", reflect.TypeOf(f.Type).Name()
			forms = append(forms, x)
		}
		return &jsonschema.Schema{OneOf: forms}
	}
	out := r.Reflect(v)
	if d := out.Definitions[reflect.TypeFor[check.Edit]().Name()]; d != nil { // it writes what is to be done, too
		d.Properties.Set("op", &jsonschema.Schema{Type: "string", Enum: []any{"add", "replace"}})
		d.Required = append(d.Required, "op")
	}
	for name, t := range limited() {
		d, known := out.Definitions[name]
		if !known {
			continue
		}
		for _, field := range form.Of(t) {
			if _, tagged := t.FieldByIndex(field.Index()).Tag.Lookup("form"); tagged {
				limit(d, field)
			}
		}
	}
	return out
}

// limited are the types of documents, whose fields say what they accept. What jsonschema tags say is in the schema
// already.
var limited = sync.OnceValue(func() map[string]reflect.Type {
	types := map[string]reflect.Type{}
	gather(types, reflect.TypeFor[scene.Document]())
	return types
})

// limit puts into the schema what a field's form tag says that it accepts.
func limit(d *jsonschema.Schema, f form.Field) {
	p, known := d.Properties.Get(f.Key)
	if known && f.Kind == "points" {
		least := uint64(form.MinPoints)
		p.MinItems = &least
	}
	if !known || p.Type != "number" && p.Type != "integer" {
		return
	}
	lo, hi := f.Limits()
	if f.Or0 && lo > 0 {
		lo = 0 // the schema cannot say "0, or from there on"
	}
	p.Minimum = json.Number(strconv.FormatFloat(lo, 'g', -1, 64))
	p.Maximum = json.Number(strconv.FormatFloat(hi, 'g', -1, 64))
}
