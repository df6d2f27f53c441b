package schema_test

import (
	"encoding/json"
	"strings"
	"testing"

	validator "github.com/santhosh-tekuri/jsonschema/v6"

	"bead/demo"
	"bead/schema"
)

// Every property of a document says what it is called and what it is; what it begins with and what
// stands as an example is what the schema itself accepts there (by a validator of JSON Schema).
func TestEveryPropertyIsDescribed(t *testing.T) {
	examples, err := demo.Documents()
	if err != nil || len(examples) < 25 {
		t.Fatal(len(examples), err)
	}
	text, err := json.Marshal(schema.Document(examples))
	if err != nil {
		t.Fatal(err)
	}
	var whole struct {
		Defs map[string]struct {
			Properties map[string]struct {
				Title, Description, Type string
				Default                  *any
				Examples                 []any
			}
			Required []string
		} `json:"$defs"`
	}
	if err := json.Unmarshal(text, &whole); err != nil {
		t.Fatal(err)
	}
	doc, err := validator.UnmarshalJSON(strings.NewReader(string(text)))
	if err != nil {
		t.Fatal(err)
	}
	c := validator.NewCompiler()
	if err := c.AddResource("bead.json", doc); err != nil {
		t.Fatal(err)
	}
	properties, shown, begun := 0, 0, 0
	for name, def := range whole.Defs {
		needed := map[string]bool{}
		for _, key := range def.Required {
			needed[key] = true
		}
		for key, p := range def.Properties {
			at := name + "." + key
			properties++
			if p.Title == "" || len(strings.Fields(p.Description)) < 2 {
				t.Errorf("%s: title %q, description %q", at, p.Title, p.Description)
			}
			if scalar := p.Type == "number" || p.Type == "integer" || p.Type == "boolean" || p.Type == "string"; scalar && len(p.Examples) == 0 || scalar && !needed[key] && p.Default == nil && p.Type != "string" {
				t.Errorf("%s: no example, or nothing that it is where it is left out", at)
			}
			accepts, err := c.Compile("bead.json#/$defs/" + name + "/properties/" + key)
			if err != nil {
				t.Fatal(err)
			}
			for _, e := range p.Examples {
				shown++
				if err := accepts.Validate(e); err != nil {
					t.Errorf("%s: the example %v is not accepted: %v", at, e, err)
				}
			}
			if p.Default != nil {
				if begun++; accepts.Validate(*p.Default) != nil && *p.Default != 0.0 {
					t.Errorf("%s: what stands where it is left out, %v, is not accepted", at, *p.Default)
				}
			}
		}
	}
	if properties < 500 || shown < 500 || begun < 200 {
		t.Errorf("%d properties, %d examples, %d beginnings", properties, shown, begun)
	}
}
