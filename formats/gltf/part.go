package gltf

import (
	"errors"

	"bead/core/figure"
)

// Gathered is what a baker has taken in, to be gone on with by another of the same scene and options.
type Gathered struct {
	Rigid          [][]track
	Bodies         [][]bodyTrack
	Figures        [][]figure.Motion
	Lines, Bearers []track
	Cameras        []cameraTrack
	Taken          int
}

// Gathered is what has been taken in so far.
func (b *Baker) Gathered() *Gathered {
	return &Gathered{Rigid: b.rigid, Bodies: b.bodies, Lines: b.lines, Bearers: b.bearers, Cameras: b.cameras, Taken: b.taken, Figures: figure.Motions(b.figures)}
}

var errDamaged = errors.New("the part is damaged, or of another scene")

// Append goes on with what another has gathered of the frames that follow.
func (b *Baker) Append(g *Gathered) error {
	if g.Taken < 1 || len(g.Rigid) != len(b.rigid) || len(g.Bodies) != len(b.bodies) || len(g.Figures) != len(b.figures) ||
		!follow(b.lines, g.Lines, g.Taken) || !follow(b.bearers, g.Bearers, g.Taken) || b.cameras != nil && len(g.Cameras) != len(b.cameras) || len(g.Cameras) != len(b.scene.Doc.Cameras) {
		return errDamaged
	}
	for i := range b.groups {
		if !follow(b.rigid[i], g.Rigid[i], g.Taken) || len(g.Bodies[i]) != len(b.bodies[i]) || len(g.Figures[i]) != len(b.figures[i]) {
			return errDamaged
		}
		for k := range g.Bodies[i] {
			if !b.bodies[i][k].follow(&g.Bodies[i][k], g.Taken, b.bodies[i][k].Samples) {
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
	}
	if b.cameras == nil {
		b.cameras = make([]cameraTrack, len(g.Cameras))
	}
	for i := range g.Cameras {
		c, more := &b.cameras[i], &g.Cameras[i]
		if b.taken == 0 {
			c.First, c.Least, c.Most = more.First, more.Least, more.Most
		}
		c.Least, c.Most = min(c.Least, more.Least), max(c.Most, more.Most)
		if !c.Track.follow(&more.Track, g.Taken) {
			return errDamaged
		}
	}
	b.taken += g.Taken
	return nil
}

// follow appends tracks of so many frames to those before; false where they do not match.
func follow(to, more []track, frames int) bool {
	if len(to) != len(more) {
		return false
	}
	for k := range more {
		if !to[k].follow(&more[k], frames) {
			return false
		}
	}
	return true
}

func (t *track) follow(more *track, frames int) bool {
	if len(more.Translation) != 3*frames || len(more.Rotation) != 4*frames || len(more.Scale) != 0 && len(more.Scale) != 3*frames {
		return false
	}
	t.Translation, t.Rotation, t.Scale = append(t.Translation, more.Translation...), append(t.Rotation, more.Rotation...), append(t.Scale, more.Scale...)
	return true
}

func (o *bodyTrack) follow(more *bodyTrack, frames int, before [][]float32) bool {
	if !o.Track.Append(&more.Track, frames) {
		return false
	}
	if len(more.Joints) == 0 && len(more.Samples) != frames {
		return false
	}
	for _, x := range more.Samples {
		if len(x)%6 != 0 || len(before) > 0 && len(x) != len(before[0]) {
			return false
		}
	}
	o.Samples = append(o.Samples, more.Samples...)
	return true
}
