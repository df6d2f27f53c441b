// Package demo holds the kelp station: scenes to look at and to learn from, and
// the starters a new scene begins with. All of it is embedded in the program.
package demo

import (
	"embed"
	"fmt"
	"io/fs"
	"path"
	"sort"
	"strings"

	"bead/core/scene"
)

//go:embed scenes/*.json starters/*.json parts
var files embed.FS

// Names returns the demo scenes' names in order.
func Names() []string { return list("scenes") }

// Scene returns the demo scene of that name.
func Scene(name string) (*scene.Document, error) {
	return load("scenes", name, "no demo scene has the name %q: %s are there")
}

// Starter is a scene to begin with.
type Starter struct {
	ID   string          `json:"id"`
	Name string          `json:"name"`
	Text string          `json:"text"`
	Doc  *scene.Document `json:"-"`
}

// starters in the order they are offered; the documents are in starters/.
var starters = []Starter{
	{ID: "tread", Name: "Tread", Text: "Shoes that close round a slot and travel."},
	{ID: "row", Name: "Row of pieces", Text: "Floats evenly along an open curve."},
	{ID: "empty", Name: "Empty scene", Text: "Draw or make a path first."},
}

// Starters returns what a new scene can begin with.
func Starters() []Starter {
	out := append([]Starter(nil), starters...)
	for i := range out {
		d, err := load("starters", out[i].ID, "no starter has the name %q: %s are there")
		if err != nil {
			panic(err) // embedded; the tests load every one
		}
		out[i].Doc = d
	}
	return out
}

func list(dir string) []string {
	entries, err := fs.ReadDir(files, dir)
	if err != nil {
		panic(err) // embedded
	}
	var out []string
	for _, e := range entries {
		out = append(out, strings.TrimSuffix(e.Name(), ".json"))
	}
	sort.Strings(out)
	return out
}

func load(dir, name, missing string) (*scene.Document, error) {
	if strings.ContainsAny(name, "/\\.") {
		return nil, fmt.Errorf(missing, name, strings.Join(list(dir), ", "))
	}
	data, err := files.ReadFile(path.Join(dir, name+".json"))
	if err != nil {
		return nil, fmt.Errorf(missing, name, strings.Join(list(dir), ", "))
	}
	d, err := scene.Decode(data)
	if err != nil {
		return nil, err
	}
	return d, withAssets(d)
}

// withAssets gives the document the embedded files that its parts name.
func withAssets(d *scene.Document) error {
	entries, err := fs.ReadDir(files, "parts")
	if err != nil {
		return err
	}
	for _, e := range entries {
		data, err := files.ReadFile(path.Join("parts", e.Name()))
		if err != nil {
			return err
		}
		id := scene.AssetID(data)
		for i := range d.Parts {
			if f := d.Parts[i].Shape.File; f != nil && f.Asset == id {
				d.Assets = append(d.Assets, scene.Asset{ID: id, Name: e.Name(), Data: data})
				break
			}
		}
	}
	return nil
}
