package part

import (
	"fmt"
	"math"

	"bead/core/geom"
)

// SheetSize is the measure of a sheet of cloth in metres, and into how many squares it is cut.
type SheetSize struct {
	Length float64 `json:"length" form:"Length;length;min=1e-6"`
	Drop   float64 `json:"drop" form:"Drop;length;min=1e-6"`
	Foot   float64 `json:"foot,omitempty" form:"Foot, of its length;plain;min=0;max=2;fallback=1" jsonschema:"description=How long its lower edge is of the upper; 1 where left out or 0; a fortieth: a pennant."`
	Along  int     `json:"along" form:"Squares along;count;min=1;max=400"`
	Down   int     `json:"down" form:"Squares down;count;min=1;max=400"`
}

// leastFoot is the least length of the lower edge, as a share of the upper one.
const leastFoot = 0.02

// Sheet returns a flat sheet that hangs down from the forward axis, with both of its sides.
func Sheet(s SheetSize) (*geom.Mesh, error) {
	if err := positive([]string{"length", "drop"}, s.Length, s.Drop); err != nil {
		return nil, err
	}
	for _, n := range []int{s.Along, s.Down} {
		if n < 1 || n > 400 {
			return nil, fmt.Errorf("%d squares are not accepted: from 1 to 400 are", n)
		}
	}
	foot := s.Foot
	if foot == 0 {
		foot = 1
	}
	foot = max(foot, leastFoot)
	var m geom.Mesh
	for side := range 2 {
		// Where it narrows a row has fewer squares, so that they stay about as large.
		var rows [][]uint32
		for j := range s.Down + 1 {
			v := float64(j) / float64(s.Down)
			share := 1 - (1-foot)*v
			n := max(min(int(math.Ceil(float64(s.Along)*share-1e-9)), s.Along), 1)
			if foot >= 1 {
				n = s.Along
			}
			var row []uint32
			for i := range n + 1 {
				z := s.Length * (float64(i)/float64(n) - 0.5) * share
				row = append(row, uint32(len(m.Positions)/3))
				m.Positions = append(m.Positions, 0, float32(-s.Drop*v), float32(z))
				m.Normals = append(m.Normals, float32(1-2*side), 0, 0)
				m.UVs = append(m.UVs, float32(z), float32(s.Drop*v))
			}
			rows = append(rows, row)
		}
		face := func(a, b, c uint32) { // clockwise seen from the side
			if side == 1 {
				b, c = c, b
			}
			m.Indices = append(m.Indices, a, b, c)
		}
		for j := range s.Down {
			stitch(rows[j], rows[j+1], j, face)
		}
	}
	return &m, nil
}

// stitch fills between two rows of points, one below the other: squares where they have as many,
// their diagonals by turns.
func stitch(up, down []uint32, row int, face func(a, b, c uint32)) {
	if len(up) == len(down) {
		for i := range len(up) - 1 {
			a, b, c, d := up[i], up[i+1], down[i+1], down[i]
			if (i+row)%2 == 0 {
				face(a, c, b)
				face(a, d, c)
			} else {
				face(a, d, b)
				face(b, d, c)
			}
		}
		return
	}
	i, k := 0, 0
	for i < len(up)-1 || k < len(down)-1 {
		// On along the row whose next point comes first.
		if k == len(down)-1 || i < len(up)-1 && (i+1)*(len(down)-1) <= (k+1)*(len(up)-1) {
			face(up[i], down[k], up[i+1])
			i++
		} else {
			face(up[i], down[k], down[k+1])
			k++
		}
	}
}
