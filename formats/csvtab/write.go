package csvtab

import (
	"encoding/csv"
	"io"
	"slices"
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
	w      *csv.Writer
	row    []string
	groups []rig.Group
}

// NewBaker writes the header and returns a writer for the scene's pictures, but for
// the rigs that are skipped. With units these stand behind the names of lengths.
func NewBaker(w io.Writer, s *rig.Scene, skip []bool, units bool) (*Baker, error) {
	b := &Baker{w: csv.NewWriter(w), row: make([]string, len(BakeHeader)), groups: s.Groups(skip)}
	head := slices.Clone(BakeHeader)
	if units {
		for _, k := range []int{3, 4, 5, 13} {
			head[k] += " (m)"
		}
	}
	return b, b.w.Write(head)
}

// Frame writes one picture. Numbers have the shortest form that reads back to
// the same float32 (transforms) or float64 (distances).
func (b *Baker) Frame(p *rig.Picture) error {
	b.row[0] = strconv.FormatFloat(p.Frame, 'f', -1, 64)
	for i := range b.groups {
		g := &b.groups[i]
		if g.ID == "" {
			continue
		}
		b.row[1] = g.ID
		if g.Surfaces && !g.Skeletal {
			continue // told by the thing they belong to
		}
		for k := range g.Things {
			sections, distances, told := g.Middle(p, k)
			if !told {
				if err := b.write(k, g.Place(p, k), g.Distance(p, k)); err != nil {
					return err
				}
				continue
			}
			for n := range sections {
				s := &sections[n]
				q := turn(s)
				place := [rig.Stride]float32{float32(s.P.X), float32(s.P.Y), float32(s.P.Z), q[0], q[1], q[2], q[3], float32(s.W), float32(s.W), float32(s.K)}
				if err := b.write(k*rig.CentreSamples+n, place, distances[n]); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// write writes a row of a piece, counted from 0.
func (b *Baker) write(piece int, place [rig.Stride]float32, distance float64) error {
	b.row[2] = strconv.Itoa(piece + 1)
	for j, x := range place {
		b.row[3+j] = strconv.FormatFloat(float64(x), 'g', -1, 32)
	}
	b.row[13] = strconv.FormatFloat(distance, 'g', -1, 64)
	return b.w.Write(b.row)
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
