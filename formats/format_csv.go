package formats

import (
	"io"

	"bead/core/rig"
	"bead/formats/csvtab"
)

var csvTable = Format{Ending: "csv", Name: "csv", Text: "A table with a row for each frame and piece: place, rotation, scale, distance; of bodies their middle lines.",
	Media: "text/csv; charset=utf-8", rows: true,
	bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
		return csvtab.NewBaker(w, s, o.skip(s))
	}}
