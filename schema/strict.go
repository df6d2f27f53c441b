package schema

import (
	"encoding/json"
	"slices"
	"strconv"

	"github.com/invopop/jsonschema"

	"bead/core/form"
	"bead/core/motion"
	"bead/core/scene"
)

// strict says in the schema of documents what reading them says of all numbers, ids and names alike.
func strict(s *jsonschema.Schema) {
	for p := s.Definitions["Range"].Properties.Oldest(); p != nil; p = p.Next() {
		within(p.Value, scene.FarthestFrame)
	}
	for p := s.Definitions["GroundPoint"].Properties.Oldest(); p != nil; p = p.Next() {
		within(p.Value, form.MaxPosition)
	}
	for _, d := range s.Definitions {
		stricter(d)
	}
	s.Definitions["Document"].Properties.Set("$schema", &jsonschema.Schema{Type: "string", Title: "Schema", Description: "For editors; it says nothing of the scene.", Default: "", Examples: []any{"bead-scene.schema.json"}})
}

func stricter(s *jsonschema.Schema) {
	switch s.Type {
	case "number", "integer":
		within(s, motion.Farthest)
	case "array":
		if s.Items != nil && s.Items.Type == "number" && s.MaxItems != nil && *s.MaxItems == 3 { // a place
			within(s.Items, form.MaxPosition)
		}
	}
	for _, list := range [][]*jsonschema.Schema{s.OneOf, s.AnyOf, s.AllOf} {
		for _, x := range list {
			stricter(x)
		}
	}
	if s.Items != nil {
		stricter(s.Items)
	}
	if s.Properties == nil {
		return
	}
	for p := s.Properties.Oldest(); p != nil; p = p.Next() {
		needed := slices.Contains(s.Required, p.Key)
		switch {
		case p.Key == "id" && needed && p.Value.Type == "string":
			p.Value.Pattern = scene.IDForm
		case p.Key == "name" && needed && p.Value.Type == "string":
			least, most := uint64(1), uint64(scene.MaxName)
			p.Value.MinLength, p.Value.MaxLength = &least, &most
		case !needed && p.Value.Type == "string" && len(p.Value.Enum) > 0: // as left out
			p.Value.Enum = append(p.Value.Enum, "")
		}
		stricter(p.Value)
	}
}

// within keeps a number that has no limits of its own from going farther than any is accepted.
func within(s *jsonschema.Schema, far float64) {
	if s.Minimum == "" && s.ExclusiveMinimum == "" {
		s.Minimum = json.Number(strconv.FormatFloat(-far, 'f', -1, 64))
	}
	if s.Maximum == "" && s.ExclusiveMaximum == "" {
		s.Maximum = json.Number(strconv.FormatFloat(far, 'f', -1, 64))
	}
}
