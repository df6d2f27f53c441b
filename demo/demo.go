// Package demo holds the kelp station: scenes to look at and to learn from, and
// the starters a new scene begins with. All of it is embedded in the program.
package demo

import (
	"embed"
	"fmt"
	"io/fs"
	"path"
	"slices"
	"sort"
	"strconv"
	"strings"

	"bead/core/begin"
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
	ID   string `json:"id"`
	Name string `json:"name"`
	Text string `json:"text"`
	// Questions are asked before it begins; each has an answer that it begins with.
	Questions []Question `json:"questions,omitempty"`
	make      func(answers map[string]string) (*scene.Document, error)
}

// Question is one thing that a starter asks: a choice where it has options, else a number.
type Question struct {
	ID      string   `json:"id"`
	Text    string   `json:"text"`
	Answer  string   `json:"answer"` // to begin with
	Options []string `json:"options,omitempty"`
	Unit    string   `json:"unit,omitempty"` // of numbers: m, or none
}

// starters in the order they are offered; the documents of those that ask nothing are in
// starters/.
var starters = []Starter{
	{ID: "tread", Name: "Tread", Text: "Shoes round a sprocket, an idler and sprung road wheels.", Questions: []Question{
		{ID: "length", Text: "How long is it?", Answer: "5.4", Unit: "m"},
		{ID: "ground", Text: "What is it on?", Answer: "level", Options: begin.Grounds},
		{ID: "drive", Text: "What drives it?", Answer: begin.Drives[0], Options: begin.Drives},
	}, make: func(a map[string]string) (*scene.Document, error) {
		v, err := numbers(a, "length")
		if err != nil {
			return nil, err
		}
		return begin.Tread(begin.TreadSpec{Length: v[0], Ground: a["ground"], Drive: a["drive"]})
	}},
	{ID: "chain", Name: "Chain", Text: "Inner and outer links round two sprockets.", Questions: []Question{
		{ID: "pitch", Text: "What pitch has it?", Answer: "0.0127", Unit: "m"},
		{ID: "driver", Text: "How many teeth has the driver?", Answer: "17"},
		{ID: "driven", Text: "How many has the other sprocket?", Answer: "38"},
		{ID: "rpm", Text: "How many turns a minute does the driver make?", Answer: "30"},
	}, make: func(a map[string]string) (*scene.Document, error) {
		v, err := numbers(a, "pitch", "rpm")
		if err != nil {
			return nil, err
		}
		teeth, err := wholes(a, "driver", "driven")
		if err != nil {
			return nil, err
		}
		return begin.Chain(begin.ChainSpec{Pitch: v[0], Driver: teeth[0], Driven: teeth[1], RPM: v[1]})
	}},
	{ID: "cable", Name: "Cable", Text: "A hanging cable of laid strands, with clamps along it.", Questions: []Question{
		{ID: "apart", Text: "How far apart are its ends?", Answer: "4", Unit: "m"},
		{ID: "length", Text: "How long is it?", Answer: "5", Unit: "m"},
		{ID: "strands", Text: "How many strands has it?", Answer: "3"},
		{ID: "holder", Text: "What holds its end?", Answer: begin.Holders[1], Options: begin.Holders},
	}, make: func(a map[string]string) (*scene.Document, error) {
		v, err := numbers(a, "apart", "length")
		if err != nil {
			return nil, err
		}
		strands, err := wholes(a, "strands")
		if err != nil {
			return nil, err
		}
		return begin.Cable(begin.CableSpec{Apart: v[0], Length: v[1], Strands: strands[0], Holder: a["holder"]})
	}},
	{ID: "creature", Name: "Creature", Text: "An eel that takes the form of its way and swims.", Questions: []Question{
		{ID: "length", Text: "How long is it?", Answer: "1.2", Unit: "m"},
		{ID: "does", Text: "What does it do?", Answer: begin.Doings[0], Options: begin.Doings},
		{ID: "waves", Text: "How many waves run along it a second?", Answer: "1"},
	}, make: func(a map[string]string) (*scene.Document, error) {
		v, err := numbers(a, "length", "waves")
		if err != nil {
			return nil, err
		}
		return begin.Creature(begin.CreatureSpec{Length: v[0], Does: a["does"], Waves: v[1]})
	}},
	{ID: "walker", Name: "Walker", Text: "A coil that goes down terraces, turning over, on and on.", Questions: []Question{
		{ID: "stride", Text: "How far is a step?", Answer: "1", Unit: "m"},
		{ID: "down", Text: "How far is each terrace below the last?", Answer: "0.2", Unit: "m"},
		{ID: "frames", Text: "How many frames does a step take?", Answer: "36"},
		{ID: "steps", Text: "How many steps does it make?", Answer: "4"},
	}, make: func(a map[string]string) (*scene.Document, error) {
		v, err := numbers(a, "stride", "down")
		if err != nil {
			return nil, err
		}
		n, err := wholes(a, "frames", "steps")
		if err != nil {
			return nil, err
		}
		return begin.Walker(begin.WalkerSpec{Stride: v[0], Down: v[1], Frames: n[0], Steps: n[1]})
	}},
	{ID: "run", Name: "Falling run", Text: "Standing slabs that fall one after another.", Questions: []Question{
		{ID: "count", Text: "How many slabs are there?", Answer: "24"},
		{ID: "height", Text: "How high is a slab?", Answer: "1.2", Unit: "m"},
		{ID: "way", Text: "On which way do they stand?", Answer: begin.Ways[0], Options: begin.Ways},
	}, make: func(a map[string]string) (*scene.Document, error) {
		v, err := numbers(a, "height")
		if err != nil {
			return nil, err
		}
		count, err := wholes(a, "count")
		if err != nil {
			return nil, err
		}
		return begin.Falling(begin.FallingSpec{Count: count[0], Height: v[0], Way: a["way"]})
	}},
	{ID: "roll", Name: "Roll", Text: "A sheet that is laid along the ground, or wound up.", Questions: []Question{
		{ID: "length", Text: "How long is the sheet?", Answer: "8", Unit: "m"},
		{ID: "width", Text: "How wide is it?", Answer: "1.6", Unit: "m"},
		{ID: "ground", Text: "What is it on?", Answer: begin.RollGrounds[0], Options: begin.RollGrounds},
		{ID: "does", Text: "What does the roll do?", Answer: begin.RollWays[0], Options: begin.RollWays},
	}, make: func(a map[string]string) (*scene.Document, error) {
		v, err := numbers(a, "length", "width")
		if err != nil {
			return nil, err
		}
		return begin.Roll(begin.RollSpec{Length: v[0], Width: v[1], Ground: a["ground"], Does: a["does"]})
	}},
	{ID: "winch", Name: "Drum", Text: "A winch that pays a load's rope out and winds it up again.", Questions: []Question{
		{ID: "out", Text: "How far does the load go?", Answer: "6", Unit: "m"},
		{ID: "rope", Text: "How thick is the rope?", Answer: "0.04", Unit: "m"},
		{ID: "load", Text: "Where does the load go?", Answer: begin.Loads[0], Options: begin.Loads},
	}, make: func(a map[string]string) (*scene.Document, error) {
		v, err := numbers(a, "out", "rope")
		if err != nil {
			return nil, err
		}
		return begin.Winch(begin.WinchSpec{Out: v[0], Rope: v[1], Load: a["load"]})
	}},
	{ID: "cloth", Name: "Cloth", Text: "Pennants on a line, a curtain on rings, a sheet by its corners.", Questions: []Question{
		{ID: "as", Text: "How does it hang?", Answer: begin.Hangings[0], Options: begin.Hangings},
		{ID: "width", Text: "How wide is it?", Answer: "0.6", Unit: "m"},
		{ID: "drop", Text: "How far does it hang down?", Answer: "0.8", Unit: "m"},
		{ID: "fabric", Text: "What is it of?", Answer: "Sheet", Options: begin.FabricNames()},
	}, make: func(a map[string]string) (*scene.Document, error) {
		v, err := numbers(a, "width", "drop")
		if err != nil {
			return nil, err
		}
		return begin.Hanging(begin.HangingSpec{As: a["as"], Width: v[0], Drop: v[1], Fabric: a["fabric"]})
	}},
	{ID: "figure", Name: "Figure", Text: "A crab whose scuttle was made going straight, sent along an S.", Questions: []Question{
		{ID: "length", Text: "How far does it go?", Answer: "4", Unit: "m"},
		{ID: "bends", Text: "How many bends has its way?", Answer: "2"},
		{ID: "count", Text: "How many are there?", Answer: "1"},
		{ID: "ground", Text: "What is it on?", Answer: begin.FigureGrounds[0], Options: begin.FigureGrounds},
	}, make: func(a map[string]string) (*scene.Document, error) {
		spec, err := figureSpec(a)
		if err != nil {
			return nil, err
		}
		data, err := files.ReadFile("parts/crab.glb")
		if err != nil {
			return nil, err
		}
		spec.Stride, spec.Pace = crabStride, crabStride // in a second
		spec.Part = scene.Part{ID: "figure", Name: "Crab", Forward: "+x", Up: "+y", Shape: scene.PartShape{Figure: &scene.FigureShape{Asset: scene.AssetID(data)}}}
		d, err := begin.Figure(spec)
		if err != nil {
			return nil, err
		}
		return d, withAssets(d)
	}},
	{ID: "row", Name: "Row of pieces", Text: "Floats evenly along an open curve."},
	{ID: "empty", Name: "Empty scene", Text: "Draw or make a path first."},
}

// numbers reads the answers that are numbers.
func numbers(answers map[string]string, ids ...string) ([]float64, error) {
	out := make([]float64, len(ids))
	for i, id := range ids {
		v, err := strconv.ParseFloat(strings.TrimSpace(answers[id]), 64)
		if err != nil {
			return nil, fmt.Errorf("%s: %q is not a number", id, answers[id])
		}
		out[i] = v
	}
	return out, nil
}

// wholes reads the answers that are whole numbers.
func wholes(answers map[string]string, ids ...string) ([]int, error) {
	out := make([]int, len(ids))
	for i, id := range ids {
		v, err := strconv.Atoi(strings.TrimSpace(answers[id]))
		if err != nil {
			return nil, fmt.Errorf("%s: %q is not a whole number", id, answers[id])
		}
		out[i] = v
	}
	return out, nil
}

// Starters returns what a new scene can begin with.
func Starters() []Starter { return append([]Starter(nil), starters...) }

// Begin makes the scene of a starter. Questions without an answer have the one that they
// begin with. Errors say what is not known or not accepted.
func Begin(id string, answers map[string]string) (*scene.Document, error) {
	var names []string
	for i := range starters {
		s := &starters[i]
		names = append(names, s.ID)
		if s.ID != id {
			continue
		}
		if s.make == nil {
			return load("starters", s.ID, "no starter has the name %q: %s are there")
		}
		all, err := s.answered(answers)
		if err != nil {
			return nil, err
		}
		return s.make(all)
	}
	return nil, fmt.Errorf("no starter has the name %q: %s are there", id, strings.Join(names, ", "))
}

// answered are the answers to all questions of a starter: those given, and else its own.
func (s *Starter) answered(given map[string]string) (map[string]string, error) {
	all := map[string]string{}
	var ids []string
	for _, q := range s.Questions {
		all[q.ID] = q.Answer
		ids = append(ids, q.ID)
	}
	for k, v := range given {
		if _, asked := all[k]; !asked {
			return nil, fmt.Errorf("%s does not ask for %q: %s are asked", s.ID, k, strings.Join(ids, ", "))
		}
		all[k] = v
	}
	return all, nil
}

// FigureAnswers is what the answers to the questions of the starter figure ask for, without a part.
func FigureAnswers(given map[string]string) (begin.FigureSpec, error) {
	k := slices.IndexFunc(starters, func(s Starter) bool { return s.ID == "figure" })
	all, err := starters[k].answered(given)
	if err != nil {
		return begin.FigureSpec{}, err
	}
	return figureSpec(all)
}

func figureSpec(a map[string]string) (begin.FigureSpec, error) {
	v, err := numbers(a, "length")
	if err != nil {
		return begin.FigureSpec{}, err
	}
	n, err := wholes(a, "bends", "count")
	if err != nil {
		return begin.FigureSpec{}, err
	}
	return begin.FigureSpec{Length: v[0], Bends: n[0], Count: n[1], Ground: a["ground"]}, nil
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
		if slices.ContainsFunc(d.Assets, func(a scene.Asset) bool { return a.ID == id }) {
			continue // it brings the file along
		}
		if slices.ContainsFunc(d.AssetsUsed(), func(u scene.AssetUse) bool { return u.ID == id }) {
			d.Assets = append(d.Assets, scene.Asset{ID: id, Name: e.Name(), Data: data})
		}
	}
	return nil
}

// Documents are all scenes and what all starters begin, as they answer their own questions.
func Documents() ([]*scene.Document, error) {
	var out []*scene.Document
	for _, name := range Names() {
		d, err := Scene(name)
		if err != nil {
			return nil, err
		}
		out = append(out, d)
	}
	for _, s := range Starters() {
		d, err := Begin(s.ID, nil)
		if err != nil {
			continue // one that wants a file or an answer
		}
		out = append(out, d)
	}
	return out, nil
}
