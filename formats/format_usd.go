package formats

import (
	"io"

	"bead/core/rig"
	"bead/formats/usda"
)

// usdText holds bodies in every frame, about 60 bytes a vertex.
var usdText = Format{Ending: "usda", Name: "usda", Text: "USD as text: pieces that refer to their parts, bodies with their points in each frame, figures as skeletons.",
	Media: "model/vnd.usda", Lines: true, Single: true, Solver: true, Figures: true, holds: true, vertices: 8_000_000,
	bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
		b := usda.NewBaker(s, usda.Options{First: o.Frames.First, Frames: o.Frames.Count(), Paths: o.Paths, Skip: o.skip(s), Single: o.Single || o.Density > 0, Centred: o.Centred, InPlace: o.InPlace, Density: o.Density})
		return gathered{frame: b.Frame, close: func() error { return b.Close(w) }}, nil
	}}
