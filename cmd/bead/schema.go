package main

import (
	"encoding/json"
	"reflect"
	"strconv"

	"github.com/invopop/jsonschema"
	"github.com/spf13/cobra"

	"bead/core/check"
	"bead/core/form"
	"bead/core/motion"
	"bead/core/scene"
	"bead/server"
)

// page is everything that passes between the page and the server, so that the
// front end's types can be made from one schema.
type page struct {
	Document     scene.Document      `json:"document"`
	State        server.SceneState   `json:"state"`
	Kept         server.Kept         `json:"kept"`
	Card         server.SceneCard    `json:"card"`
	About        server.About        `json:"about"`
	Problem      server.Problem      `json:"problem"`
	Live         server.LiveRequest  `json:"live"`
	Readout      server.Readout      `json:"readout"`
	Checks       server.Checks       `json:"checks"`
	Refusal      server.Refusal      `json:"refusal"`
	Moved        server.Moved        `json:"moved"`
	Simulating   server.Simulating   `json:"simulating"`
	ReadPath     server.ReadPath     `json:"readPath"`
	ReadMesh     server.ReadMesh     `json:"readMesh"`
	ReadImage    server.ReadImage    `json:"readImage"`
	ReadMaterial server.ReadMaterial `json:"readMaterial"`
	ReadFigure   server.ReadFigure   `json:"readFigure"`
	EdgeChain    server.EdgeChain    `json:"edgeChain"`
	Bake         server.BakeState    `json:"bake"`
	HistoryRow   server.HistoryStep  `json:"historyRow"`
	Loops        server.Loops        `json:"loops"`
}

func schemaCommand() *cobra.Command {
	var forPage, forms bool
	c := &cobra.Command{Use: "schema", Short: "Print the JSON schema of scene documents", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			enc := json.NewEncoder(c.OutOrStdout())
			enc.SetIndent("", "  ")
			if forms {
				return enc.Encode(struct {
					scene.Forms
					Checks []check.Words `json:"checks"`
				}{scene.AllForms(), check.Vocabulary()})
			}
			if forPage {
				s := schemaOf(&page{})
				relax(s)
				return enc.Encode(s)
			}
			s := schemaOf(&scene.Document{})
			s.ID = "urn:bead:scene:2"
			s.Title = "Bead scene"
			strict(s)
			return enc.Encode(s)
		}}
	c.Flags().BoolVar(&forPage, "page", false, "print the schema of everything that passes between the page and the server")
	c.Flags().BoolVar(&forms, "forms", false, "print what can be made, with the fields of all kinds, their labels, units and limits")
	return c
}

// schemaOf reflects a Go type. A value that may move is one of its forms.
func schemaOf(v any) *jsonschema.Schema {
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
	for _, f := range limited {
		d, known := out.Definitions[f.Name()]
		if !known {
			continue
		}
		for _, field := range form.Of(f) {
			limit(d, field)
		}
	}
	return out
}

// limited are the types whose fields say what they accept.
var limited = scene.Formed()

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

// relax takes out of the page's schema what TypeScript's types would only be in
// the way of: "exactly one of" and least lengths of lists. Tuples stay.
func relax(s *jsonschema.Schema) {
	for _, d := range s.Definitions {
		if d.Properties == nil {
			continue
		}
		d.OneOf = nil
		for p := d.Properties.Oldest(); p != nil; p = p.Next() {
			relaxList(p.Value)
			forms := p.Value.OneOf
			if p.Value.Items != nil {
				forms = append(forms, p.Value.Items.OneOf...)
			}
			for _, form := range forms {
				if form.Properties != nil {
					for q := form.Properties.Oldest(); q != nil; q = q.Next() {
						relaxList(q.Value)
					}
				}
			}
		}
	}
}

func relaxList(s *jsonschema.Schema) {
	if s.MaxItems == nil {
		s.MinItems = nil
	}
}
