package server

import (
	"encoding/json"

	"bead/core/scene"
	"bead/core/surface"
	"bead/formats"
)

// What requests bring. Where a request has a document, it is one of any version.

// NewScene asks for a scene that a starter begins.
type NewScene struct {
	Starter string            `json:"starter" jsonschema:"description=The id of a starter as /about lists them."`
	Answers map[string]string `json:"answers,omitempty" jsonschema:"description=Answers to its questions by their ids."`
}

// SaveScene saves a document over the revision that it was made of.
type SaveScene struct {
	Revision int64           `json:"revision"`
	Label    string          `json:"label,omitempty" jsonschema:"description=What was done; it stands in the history."`
	Doc      json.RawMessage `json:"doc"`
}

// PatchScene saves what has changed since a revision.
type PatchScene struct {
	Revision int64           `json:"revision"`
	Label    string          `json:"label,omitempty"`
	Patch    json.RawMessage `json:"patch" jsonschema:"description=A JSON Patch (RFC 6902)."`
}

// AtRevision is what changes a scene without a document.
type AtRevision struct {
	Revision int64 `json:"revision"`
}

// KeepScene says whether a scene is kept as a beginning.
type KeepScene struct {
	Beginning bool `json:"beginning"`
}

// OfDocument is a document alone.
type OfDocument struct {
	Doc json.RawMessage `json:"doc"`
}

// OfPath names a path of a document.
type OfPath struct {
	Doc  json.RawMessage `json:"doc"`
	Path string          `json:"path" jsonschema:"description=The path's id."`
}

// ChangePath changes a path of a document by a number.
type ChangePath struct {
	Doc  json.RawMessage `json:"doc"`
	Path string          `json:"path" jsonschema:"description=The path's id."`
	By   float64         `json:"by"`
}

// ShapeRequest names a shape to be worked on.
type ShapeRequest struct {
	Shape scene.PathShape `json:"shape"`
	After int             `json:"after,omitempty" jsonschema:"description=The point behind which one is put in."`
}

// AskLoops asks for loops near a wish.
type AskLoops struct {
	Doc    json.RawMessage `json:"doc"`
	Rig    string          `json:"rig" jsonschema:"description=The rig's id."`
	Frames int             `json:"frames"`
	Speed  float64         `json:"speed" jsonschema:"description=Metres a second."`
}

// MoveTo lets a thing ride elsewhere and stay in its place.
type MoveTo struct {
	Doc     json.RawMessage `json:"doc"`
	Kind    string          `json:"kind" jsonschema:"enum=carrier,enum=path,enum=fixture"`
	ID      string          `json:"id"`
	Carrier string          `json:"carrier" jsonschema:"description=Its id; empty for none."`
	Frame   int             `json:"frame"`
}

// AskPictures asks for pictures of frames, which may lie between two.
type AskPictures struct {
	Doc    json.RawMessage `json:"doc"`
	Frames []float64       `json:"frames"`
}

// AskWire asks for the edges of a part.
type AskWire struct {
	Part scene.Part `json:"part"`
}

// AskEdges asks for the chain of edges nearest to a place in the world.
type AskEdges struct {
	Part    scene.Part    `json:"part"`
	Fixture scene.Fixture `json:"fixture"`
	At      scene.Vec3    `json:"at"`
	Way     surface.Way   `json:"way" jsonschema:"enum=loop,enum=crease,enum=boundary,enum=middle"`
}

// OfScene names a scene of the server, or brings a document.
type OfScene struct {
	Scene    string          `json:"scene,omitempty" jsonschema:"description=The id of a scene that the server keeps; or else a doc."`
	Revision int64           `json:"revision,omitempty" jsonschema:"description=With a scene: the revision that is meant; left out: the newest."`
	Doc      json.RawMessage `json:"doc,omitempty" jsonschema:"description=A scene document; or else a scene."`
}

// AskBake asks for a file of a scene.
type AskBake struct {
	OfScene
	First *int `json:"first,omitempty" jsonschema:"description=The first frame; left out: the range's."`
	Last  *int `json:"last,omitempty" jsonschema:"description=The last frame; left out: the range's."`
	formats.Options
}

// AskChecks asks for the checks of a scene.
type AskChecks struct {
	OfScene
	Only       []string `json:"only,omitempty" jsonschema:"description=The checks that count; left out: all."`
	Skip       []string `json:"skip,omitempty" jsonschema:"description=Checks that do not count."`
	Tolerances []string `json:"tolerances,omitempty" jsonschema:"description=Other tolerances: CHECK=VALUE such as seam=1mm."`
}
