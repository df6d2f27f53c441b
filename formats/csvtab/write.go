package csvtab

import (
	"encoding/csv"
	"io"
	"strconv"

	"bead/core/rig"
)

// BakeHeader is the first line of a baked table: one row a frame and piece, the
// pieces counted from 1, positions and distances in metres, rotations as unit
// quaternions.
var BakeHeader = []string{"frame", "rig", "piece", "x", "y", "z", "qx", "qy", "qz", "qw", "sx", "sy", "sz", "distance"}

// Baker writes pictures as rows.
type Baker struct {
	w   *csv.Writer
	ids []string
	row []string
}

// NewBaker writes the header and returns a writer for the scene's pictures.
func NewBaker(w io.Writer, s *rig.Scene) (*Baker, error) {
	b := &Baker{w: csv.NewWriter(w), row: make([]string, len(BakeHeader))}
	for i := range s.Doc.Rigs {
		b.ids = append(b.ids, s.Doc.Rigs[i].ID)
	}
	return b, b.w.Write(BakeHeader)
}

// Frame writes one picture. Numbers have the shortest form that reads back to
// the same float32 (transforms) or float64 (distances).
func (b *Baker) Frame(p *rig.Picture) error {
	b.row[0] = strconv.Itoa(p.Frame)
	for i := range p.Rigs {
		r := &p.Rigs[i]
		b.row[1] = b.ids[i]
		for k, d := range r.Distances {
			b.row[2] = strconv.Itoa(k + 1)
			for j, x := range r.Transforms[k*rig.Stride : (k+1)*rig.Stride] {
				b.row[3+j] = strconv.FormatFloat(float64(x), 'g', -1, 32)
			}
			b.row[13] = strconv.FormatFloat(d, 'g', -1, 64)
			if err := b.w.Write(b.row); err != nil {
				return err
			}
		}
	}
	return nil
}

// Close flushes the table.
func (b *Baker) Close() error {
	b.w.Flush()
	return b.w.Error()
}
