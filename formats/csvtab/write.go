package csvtab

import (
	"encoding/csv"
	"io"
	"strconv"

	"bead/core/bend"
	"bead/core/geom"
	"bead/core/rig"
)

// BakeHeader is the first line of a baked table: one row a frame and piece, the
// pieces counted from 1, positions and distances in metres, rotations as unit
// quaternions. Of a body that bends a row is a place of its middle line, evenly from tail to head:
// rig.CentreSamples of each body, counted on and on as pieces.
var BakeHeader = []string{"frame", "rig", "piece", "x", "y", "z", "qx", "qy", "qz", "qw", "sx", "sy", "sz", "distance"}

// Baker writes pictures as rows.
type Baker struct {
	w    *csv.Writer
	ids  []string
	row  []string
	skip []bool

	scene *rig.Scene
}

// NewBaker writes the header and returns a writer for the scene's pictures, but for
// the rigs that are skipped.
func NewBaker(w io.Writer, s *rig.Scene, skip []bool) (*Baker, error) {
	b := &Baker{w: csv.NewWriter(w), skip: skip, scene: s, row: make([]string, len(BakeHeader))}
	for i := range s.Doc.Rigs {
		b.ids = append(b.ids, s.Doc.Rigs[i].ID)
	}
	return b, b.w.Write(BakeHeader)
}

// Frame writes one picture. Numbers have the shortest form that reads back to
// the same float32 (transforms) or float64 (distances).
func (b *Baker) Frame(p *rig.Picture) error {
	b.row[0] = strconv.FormatFloat(p.Frame, 'f', -1, 64)
	for i := range p.Rigs {
		if b.skip[i] {
			continue
		}
		r := &p.Rigs[i]
		b.row[1] = b.ids[i]
		if t := &b.scene.Trains[i]; t.Rig().Body != nil {
			if err := b.middle(t, r, p.Frame); err != nil {
				return err
			}
			continue
		}
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

// middle writes the middle lines of the bodies of a rig.
func (b *Baker) middle(t *rig.Train, r *rig.Pieces, frame float64) error {
	for k := range r.Reach {
		sections, distances := t.CentreLine(r, k, frame)
		for n := range sections {
			s := &sections[n]
			q := turn(s)
			b.row[2] = strconv.Itoa(k*rig.CentreSamples + n + 1)
			for j, x := range [...]float32{float32(s.P.X), float32(s.P.Y), float32(s.P.Z), q[0], q[1], q[2], q[3], float32(s.W), float32(s.W), float32(s.K)} {
				b.row[3+j] = strconv.FormatFloat(float64(x), 'g', -1, 32)
			}
			b.row[13] = strconv.FormatFloat(distances[n], 'g', -1, 64)
			if err := b.w.Write(b.row); err != nil {
				return err
			}
		}
	}
	return nil
}

// turn is the rotation of a section of a rig's bodies.
func turn(s *bend.Section) [4]float32 {
	q := geom.FromBasis(s.S, s.U, s.T)
	return [4]float32{float32(q.X), float32(q.Y), float32(q.Z), float32(q.W)}
}

// Prime does nothing: each row stands for itself.
func (b *Baker) Prime(*rig.Picture) {}

// Close flushes the table.
func (b *Baker) Close() error {
	b.w.Flush()
	return b.w.Error()
}
