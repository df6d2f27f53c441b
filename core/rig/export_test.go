package rig

import (
	"math"
	"testing"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// pair is a made-up kind: two things on opposite places of the path.
type pair struct{ *Rig }

func (*pair) nature() Nature         { return Nature{} }
func (*pair) prepare(*compiler) bool { return true }
func (p *pair) layOut(c *path.Curve) (place.Layout, string, error) {
	return place.Layout{Count: 2, Pitch: c.Length() / 2}, "pair", nil
}
func (*pair) ready(*compiler) (string, error)         { return "", nil }
func (*pair) form(float64) form                       { return form{} }
func (p *pair) on(c *path.Curve) place.Layout         { return place.Layout{Count: 2, Pitch: c.Length() / 2} }
func (p *pair) at(piece int, frame float64) float64   { return p.evenly(piece, frame) }
func (p *pair) ends(frame float64) (float64, float64) { return p.at(0, frame), p.at(1, frame) }
func (*pair) reach(int, float64) Reach                { return Reach{} }
func (p *pair) stand(dst *Pieces, m *moment) {
	for i := range 2 {
		p.put(dst, m, i, p.wrap(m.Curve, m.base+m.Layout.At(i)), float32(p.scale), 0)
	}
}

// Pairs makes riders a made-up kind while a test runs.
func Pairs(t *testing.T) {
	before := kinds[scene.KindRider]
	t.Cleanup(func() { kinds[scene.KindRider] = before })
	kinds[scene.KindRider] = func(r *Rig) kind { return &pair{Rig: r} }
}

// Throw gives the first cloth of a scene a speed that is no number.
func Throw(s *Scene) { s.Rigs[0].simulation().cloth.V[8].Y = math.NaN() }

// Pinned are the held points of the first cloth at a frame: as the simulation moves them, and on their path.
func Pinned(s *Scene, frame float64) (moved, onPath []geom.Vec) {
	r := s.Rigs[0].simulation()
	r.now = frame
	x := make([]geom.Vec, len(r.cloth.X))
	r.pin(x)
	for i := range r.pins {
		moved = append(moved, x[r.pins[i].point])
	}
	return moved, r.heldAt(nil, frame)
}
