// Package delivery knows who goes on with what Bead makes: which choices suit a game engine, an offline
// renderer, a solver of rigid bodies and another animator, and the note that goes along with a file.
package delivery

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
	"slices"
	"strings"

	"bead/core/check"
	"bead/core/scene"
	"bead/formats"
)

// Destination is where a file goes, with the choices that suit it.
type Destination struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Text string `json:"text"`
	// Formats are those that the choices are for, the usual one first.
	Formats []string        `json:"formats"`
	Choices formats.Options `json:"choices"`
}

// Destinations are all, in the order in which they are offered.
var Destinations = []Destination{
	{ID: "engine", Name: "Game engine", Formats: []string{"glb", "gltf"},
		Text:    "One file that plays by itself: joints instead of exact bodies, an animation for each rig that begins at 0, loops closed by a last key.",
		Choices: formats.Options{PerRig: true, Closing: true, Time: formats.TimeZero}},
	{ID: "render", Name: "Offline render", Formats: []string{"usdz", "usda", "usd.zip"},
		Text:    "Every point as it is in every frame, on the scene's own frame numbers, with cameras and materials.",
		Choices: formats.Options{Exact: true, Time: formats.TimeFrames}},
	{ID: "solver", Name: "Solver of rigid bodies", Formats: []string{"usda", "usdz"},
		Text:    "Single pieces as they stand in the first frame, about their centres, with mass and colliders. Ground and fixtures stand still.",
		Choices: formats.Options{Single: true, Centred: true, Density: 1000}},
	{ID: "animator", Name: "Another animator", Formats: []string{"glb", "gltf", "usda", "usdz"},
		Text:    "To go on by hand: below the carriers, paths as lines, an animation for all, keys on the scene's own frame numbers.",
		Choices: formats.Options{Paths: true, Time: formats.TimeFrames}},
}

// IDs are those of all destinations.
func IDs() []string {
	var out []string
	for i := range Destinations {
		out = append(out, Destinations[i].ID)
	}
	return out
}

// Of returns a destination by its id.
func Of(id string) (*Destination, error) {
	for i := range Destinations {
		if Destinations[i].ID == id {
			return &Destinations[i], nil
		}
	}
	return nil, fmt.Errorf("there is no destination %q: %s are", id, strings.Join(IDs(), ", "))
}

// Takes says whether a format is one that the destination is for.
func (d *Destination) Takes(format string) error {
	if slices.Contains(d.Formats, format) {
		return nil
	}
	return fmt.Errorf("the choices for %s are for %s, not for %s", d.ID, strings.Join(d.Formats, ", "), format)
}

// NoteForm is the version of notes; it grows when a field changes its meaning or goes.
const NoteForm = 1

// Note goes along with a file: what it was made of, how, and what the checks say of the scene.
type Note struct {
	Version int             `json:"version"`
	Program string          `json:"program"`
	Scene   NoteScene       `json:"scene"`
	File    NoteFile        `json:"file"`
	Frames  NoteFrames      `json:"frames"`
	Choices formats.Options `json:"choices"`
	// Said is what was found out on the way, such as how near joints come.
	Said   []string      `json:"said,omitempty"`
	Checks check.Verdict `json:"checks"`
}

// NoteScene names the scene that a file was made of.
type NoteScene struct {
	Name string `json:"name"`
	// ID and Revision are those of the server that keeps it; left out of a document's file.
	ID       string `json:"id,omitempty"`
	Revision int64  `json:"revision,omitempty"`
}

// NoteFile names the file.
type NoteFile struct {
	Name   string `json:"name"`
	Format string `json:"format"`
	Bytes  int64  `json:"bytes"`
	SHA256 string `json:"sha256"`
}

// FileOf names a file by what is read of it.
func FileOf(name, format string, r io.Reader) (NoteFile, error) {
	sum := sha256.New()
	size, err := io.Copy(sum, r)
	return NoteFile{Name: name, Format: format, Bytes: size, SHA256: hex.EncodeToString(sum.Sum(nil))}, err
}

// NoteFrames are those that were baked.
type NoteFrames struct {
	First           int     `json:"first"`
	Last            int     `json:"last"`
	Step            int     `json:"step"`
	FramesPerSecond float64 `json:"framesPerSecond"`
}

// NoteOf begins the note of what was baked of a document; file and checks are still to be filled in.
func NoteOf(program string, d *scene.Document, o *formats.Options, said []string) *Note {
	return &Note{Version: NoteForm, Program: "Bead " + program, Scene: NoteScene{d.Name, o.Scene, o.Revision},
		Frames:  NoteFrames{o.Frames.First, o.Frames.Last, max(o.Step, 1), d.FPS},
		Choices: *o, Said: said}
}
