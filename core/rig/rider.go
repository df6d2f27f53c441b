package rig

import (
	"bead/core/scene"
)

// rider is one thing that the path carries.
type rider struct {
	carried
	doc *scene.Rider
}

func (x *rider) ready(*compiler) (string, error) { return "", nil }

func (x *rider) at(piece int, frame float64) float64 { return x.evenly(piece, frame) }

func (x *rider) ends(frame float64) (tail, head float64) {
	at := x.base(frame)
	return at, at
}

func (x *rider) reach(int, float64) Reach { return Reach{} } // it does not bend

func (x *rider) stand(dst *Pieces, m *moment) {
	// Rolling is a radius, metres: it turns by the way over it, without slipping.
	rolled := 0.0
	if x.doc.Rolling > 0 {
		rolled = m.base / x.doc.Rolling
	}
	x.put(dst, m, 0, x.wrap(m.Curve, m.base), float32(x.scale), rolled)
}
