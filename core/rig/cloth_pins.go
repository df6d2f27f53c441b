package rig

import (
	"math"

	"bead/core/geom"
)

// clothPin is a point that is held: its copy and its place on the flat cloth, metres.
type clothPin struct {
	point   int32
	piece   int
	x, y, z float64
}

// pinStations is in how many parts a frame is divided on a path that changes its shape. To make the path anew in
// every step would take far longer than all of the cloth.
const pinStations = 4

// pinWay is where the held points are in the course of one frame.
type pinWay struct {
	frame float64
	at    [pinStations + 1][]geom.Vec // nil until it is known
}

// pin puts the held points on the path at the present frame. On a path that changes its shape they are on it at
// four times a frame, and go from one to the next on cubics (Lagrange's, through four of them).
func (r *clothRun) pin(x []geom.Vec) {
	frame := math.Floor(r.now)
	if !r.t.deforms || frame == r.now {
		m := r.t.momentOf(r.now)
		for i := range r.pins {
			x[r.pins[i].point] = r.t.held(&m, &r.pins[i])
		}
		return
	}
	w := &r.way
	// All five stations of a frame are worked out by the first step that asks.
	if w.at[0] == nil || w.frame != frame {
		w.frame = frame
		for k := range w.at {
			w.at[k] = r.heldAt(w.at[k][:0], frame+float64(k)/pinStations)
		}
	}
	u := (r.now - frame) * pinStations
	// Four of the five around the moment: the two before and the two behind, where there are.
	from := min(max(int(u)-1, 0), pinStations-3)
	a, b, c, d := w.at[from], w.at[from+1], w.at[from+2], w.at[from+3]
	u -= float64(from)
	ka, kb, kc, kd := -(u-1)*(u-2)*(u-3)/6, u*(u-2)*(u-3)/2, -u*(u-1)*(u-3)/2, u*(u-1)*(u-2)/6
	for i := range r.pins {
		x[r.pins[i].point] = a[i].Mul(ka).Mad(b[i], kb).Mad(c[i], kc).Mad(d[i], kd)
	}
}

// heldAt appends the places of the held points at a frame.
func (r *clothRun) heldAt(to []geom.Vec, frame float64) []geom.Vec {
	m := r.t.momentOf(frame)
	for i := range r.pins {
		to = append(to, r.t.held(&m, &r.pins[i]))
	}
	return to
}

// momentOf is the state at a frame that all points of the cloth share.
func (t *drape) momentOf(frame float64) moment {
	m := moment{Posed: t.At(frame), frame: frame, pose: t.scene.PathPlace(t.Path, frame), speed: t.speed(frame)}
	// A cloth keeps no picture of its own: the moment is made up as Rig.frame does it.
	m.moved, m.base, m.roll = m.pose != geom.Still, t.base(frame), t.Roll(frame)*math.Pi/180
	return m
}

// held is where a held point is.
func (t *drape) held(m *moment, p *clothPin) geom.Vec {
	r := t.reachOf(0, m.base+float64(p.piece)*t.drape.Pitch, m.frame)
	f := t.worldFrame(m, r.Tail+(p.z-t.Body(0).Tail)*r.Stretch)
	return f.P.Mad(f.Side(), p.x).Mad(f.U, p.y)
}
