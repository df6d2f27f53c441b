package usda

import (
	"errors"

	"bead/core/figure"
	"bead/core/rig"
	"bead/formats/bones"
)

// Gathered is what a baker has taken in, to be gone on with by another of the same scene and options.
type Gathered struct {
	Rigid           [][]track
	Surfaces        [][][]frame
	Bent            [][]bones.Track
	Figures         [][]figure.Motion
	Lines, Carriers []track
	Cameras         []lens
	Curves          [][][]float32
	Taken           int
}

// Gathered is what has been taken in so far.
func (b *Baker) Gathered() *Gathered {
	return &Gathered{Rigid: b.rigid, Surfaces: b.surfaces, Bent: b.bent, Lines: b.lines, Carriers: b.carriers, Cameras: b.cameras, Curves: b.curves, Taken: b.taken, Figures: figure.Motions(b.figures)}
}

var errDamaged = errors.New("the part is damaged, or of another scene")

// Append goes on with what another has gathered of the frames that follow.
func (b *Baker) Append(g *Gathered) error {
	groups := len(b.groups)
	if g.Taken < 1 || len(g.Rigid) != groups || len(g.Surfaces) != groups || len(g.Bent) != groups || len(g.Figures) != groups ||
		!follow(b.carriers, g.Carriers, g.Taken) || len(g.Cameras) != len(b.scene.Doc.Cameras) || len(g.Lines) != len(b.lines) || len(g.Curves) != len(b.curves) {
		return errDamaged
	}
	for i := range b.groups {
		if err := b.appendGroup(i, g); err != nil {
			return err
		}
	}
	if b.cameras == nil {
		b.cameras = make([]lens, len(g.Cameras))
	}
	for i := range g.Cameras {
		c, more := &b.cameras[i], &g.Cameras[i]
		if len(more.Focal) != g.Taken || len(more.Track) != g.Taken*rig.Stride {
			return errDamaged
		}
		c.Track, c.Focal = append(c.Track, more.Track...), append(c.Focal, more.Focal...)
	}
	if b.Paths {
		if !follow(b.lines, g.Lines, g.Taken) {
			return errDamaged
		}
		for i, more := range g.Curves {
			if len(more) != 1 && len(more) != g.Taken {
				return errDamaged
			}
			for _, points := range more {
				if len(points)%3 != 0 || len(b.curves[i]) > 0 && len(points) != len(b.curves[i][0]) {
					return errDamaged
				}
			}
			if len(b.curves[i]) == 0 || b.scene.Deforms(i) {
				b.curves[i] = append(b.curves[i], more...)
			}
		}
	}
	b.taken += g.Taken
	return nil
}

func (b *Baker) appendGroup(i int, g *Gathered) error {
	group := &b.groups[i]
	things := len(group.Things)
	if len(g.Rigid[i]) != things || len(g.Surfaces[i]) != things || len(g.Bent[i]) != len(b.bent[i]) || len(g.Figures[i]) != len(b.figures[i]) ||
		!group.Surfaces && !follow(b.rigid[i], g.Rigid[i], g.Taken) {
		return errDamaged
	}
	for k, more := range g.Surfaces[i] {
		if want := g.Taken; len(more) != want && (group.Surfaces && !group.Jointed && b.exact(group)) {
			return errDamaged
		}
		n := len(group.Things[k].Model.Mesh().Positions)
		for _, f := range more {
			if len(f.Positions) != n || len(f.Normals) != n {
				return errDamaged
			}
		}
		b.surfaces[i][k] = append(b.surfaces[i][k], more...)
	}
	for k := range g.Bent[i] {
		if !b.bent[i][k].Append(&g.Bent[i][k], g.Taken) {
			return errDamaged
		}
	}
	for k, m := range g.Figures[i] {
		if len(m.Turns) != g.Taken {
			return errDamaged
		}
		if err := b.figures[i][k].Append(m, b.time); err != nil {
			return err
		}
	}
	return nil
}

// follow appends tracks of so many frames to those before; false where they do not match.
func follow(to, more []track, frames int) bool {
	if len(to) != len(more) {
		return false
	}
	for k := range more {
		if len(more[k]) != frames*rig.Stride {
			return false
		}
		to[k] = append(to[k], more[k]...)
	}
	return true
}
