package main

import (
	"encoding/json"
	"reflect"

	"github.com/invopop/jsonschema"
	"github.com/spf13/cobra"

	"bead/core/motion"
	"bead/core/scene"
	"bead/server"
)

// page is everything that passes between the page and the server, so that the
// front end's types can be made from one schema.
type page struct {
	Document   scene.Document     `json:"document"`
	State      server.SceneState  `json:"state"`
	Card       server.SceneCard   `json:"card"`
	About      server.About       `json:"about"`
	Problem    server.Problem     `json:"problem"`
	Live       server.LiveRequest `json:"live"`
	Readout    server.Readout     `json:"readout"`
	Checks     server.Checks      `json:"checks"`
	Refusal    server.Refusal     `json:"refusal"`
	Moved      server.Moved       `json:"moved"`
	ReadPath   server.ReadPath    `json:"readPath"`
	ReadMesh   server.ReadMesh    `json:"readMesh"`
	EdgeChain  server.EdgeChain   `json:"edgeChain"`
	Bake       server.BakeState   `json:"bake"`
	HistoryRow server.HistoryStep `json:"historyRow"`
	Loops      server.Loops       `json:"loops"`
}

func schemaCommand() *cobra.Command {
	var forPage bool
	c := &cobra.Command{Use: "schema", Short: "Print the JSON schema of scene documents", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			enc := json.NewEncoder(c.OutOrStdout())
			enc.SetIndent("", "  ")
			if forPage {
				s := schemaOf(&page{})
				relax(s)
				return enc.Encode(s)
			}
			s := schemaOf(&scene.Document{})
			s.ID = "urn:bead:scene:1"
			s.Title = "Bead scene"
			return enc.Encode(s)
		}}
	c.Flags().BoolVar(&forPage, "page", false, "print the schema of everything that passes between the page and the server")
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
	return r.Reflect(v)
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
