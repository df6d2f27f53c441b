package main

import (
	"encoding/json"

	"github.com/invopop/jsonschema"
	"github.com/spf13/cobra"

	"bead/core/check"
	"bead/core/scene"
	"bead/demo"
	"bead/schema"
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
	AskBake      server.AskBake      `json:"askBake"`
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
				s := schema.Of(&page{})
				relax(s)
				return enc.Encode(s)
			}
			examples, err := demo.Documents()
			if err != nil {
				return err
			}
			return enc.Encode(schema.Document(examples))
		}}
	c.Flags().BoolVar(&forPage, "page", false, "print the schema of everything that passes between the page and the server")
	c.Flags().BoolVar(&forms, "forms", false, "print what can be made, with the fields of all kinds, their labels, units and limits")
	return c
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
