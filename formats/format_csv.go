package formats

import (
	"bytes"
	"io"

	"bead/core/rig"
	"bead/formats/csvtab"
)

var csvTable = Format{Ending: "csv", Group: "Tables", Name: "csv", Text: "A table with a row for each frame and piece: place, rotation, scale, distance; of bodies their middle lines.",
	Media: "text/csv; charset=utf-8", rows: true, Units: true, join: joinTables,
	bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
		return csvtab.NewBaker(w, s, o.skip(s), o.Units)
	}}

// joinTables writes tables one after another under the first one's header.
func joinTables(w io.Writer, _ *rig.Scene, _ *Options, parts [][]byte) error {
	for k, t := range parts {
		if k > 0 {
			_, t, _ = bytes.Cut(t, []byte("\n"))
		}
		if _, err := w.Write(t); err != nil {
			return err
		}
	}
	return nil
}
