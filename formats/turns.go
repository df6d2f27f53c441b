package formats

import (
	"bead/core/geom"
	"bead/core/rig"
)

// turns keeps the rotations of a bake on one sign: q and -q are one rotation, and what plays
// keys goes the long way round from one to the other. Each is turned to the side of the one in
// the frame before, from the scene's first frame on, so that a slice of a bake has the signs of
// the whole.
type turns struct{ last []geom.Turns }

// next takes the pictures of frames that follow one another.
func (t *turns) next(p *rig.Picture) {
	row := 0
	of := func() *geom.Turns {
		if row++; row > len(t.last) {
			t.last = append(t.last, geom.Turns{})
		}
		return &t.last[row-1]
	}
	for i := range p.Rigs {
		last, x := of(), p.Rigs[i].Transforms
		for k := range len(x) / rig.Stride {
			last.Steady(k, x[k*rig.Stride+3:k*rig.Stride+7])
		}
	}
	for _, list := range [][]rig.Place{p.Paths, p.Fixtures, p.Carriers} {
		last := of()
		for k := range list {
			last.Steady(k, list[k][3:7])
		}
	}
	last := of()
	for k := range p.Cameras {
		last.Steady(k, p.Cameras[k].Place[3:7])
	}
	for i := range p.Wheels {
		last := of()
		for k := range p.Wheels[i] {
			last.Steady(k, p.Wheels[i][k].Place[3:7])
		}
	}
}
