package rig

import (
	"math"

	"bead/core/geom"
)

// span is the pair of computed frames, from 0, around a frame, and how far it is from the first to the second.
func (r *clothRun) span(frame float64) (lo, hi int, u float64) {
	at := min(max(frame-r.t.scene.Clock.First, 0), float64(r.count-1))
	lo = int(at)
	u = at - float64(lo)
	if hi = lo; u > 0 {
		hi++
	}
	return lo, hi, u
}

func (r *clothRun) has(frame float64) bool {
	_, hi, _ := r.span(frame)
	return hi < r.done()
}

// fill writes the simulated cloth into dst; false where it has not been computed yet. It interpolates linearly
// between frames and is constant before and after the range. Held points are on the path in any case.
func (r *clothRun) fill(dst *Pieces, t *drape, m *moment) bool {
	lo, hi, u := r.span(m.frame)
	if hi >= r.done() {
		return false
	}
	a, b, w := r.frames[lo], r.frames[hi], float32(u)
	per := len(r.of)
	for k := range t.drape.Count {
		for v, at := range r.of {
			i, q := 3*(k*per+v), k*r.perPiece+int(at)
			// Between two frames a held point goes along the path, where points of the simulation go straight.
			if p := r.pinOf[q]; p >= 0 {
				h := t.held(m, &r.pins[p])
				dst.Positions[i], dst.Positions[i+1], dst.Positions[i+2] = float32(h.X), float32(h.Y), float32(h.Z)
				continue
			}
			for x := range 3 {
				dst.Positions[i+x] = a[3*q+x] + (b[3*q+x]-a[3*q+x])*w
			}
		}
	}
	clear(dst.Normals)
	for k := range t.drape.Count {
		r.shade(dst.Positions[3*k*per:3*(k+1)*per], dst.Normals[3*k*per:3*(k+1)*per])
	}
	return true
}

// shade computes vertex normals, the mean of the adjacent faces weighted by area.
func (r *clothRun) shade(at, normals []float32) {
	for _, t := range r.triangle {
		a, b, c := 3*t[0], 3*t[1], 3*t[2]
		ux, uy, uz := at[b]-at[a], at[b+1]-at[a+1], at[b+2]-at[a+2]
		vx, vy, vz := at[c]-at[a], at[c+1]-at[a+1], at[c+2]-at[a+2]
		nx, ny, nz := uy*vz-uz*vy, uz*vx-ux*vz, ux*vy-uy*vx
		for _, i := range [3]int32{a, b, c} {
			normals[i], normals[i+1], normals[i+2] = normals[i]+nx, normals[i+1]+ny, normals[i+2]+nz
		}
	}
	for i := 0; i+2 < len(normals); i += 3 {
		n := float32(math.Sqrt(float64(normals[i]*normals[i] + normals[i+1]*normals[i+1] + normals[i+2]*normals[i+2])))
		// A vertex whose faces have no area has no direction: up is as good as any, and is a number.
		if n < 1e-20 {
			normals[i+1], n = 1, 1
		}
		normals[i], normals[i+1], normals[i+2] = normals[i]/n, normals[i+1]/n, normals[i+2]/n
	}
}

// points are those of the cloth in a picture.
func (r *clothRun) points(p *Pieces) []geom.Vec {
	out := make([]geom.Vec, len(r.cloth.Mass))
	per := len(r.of)
	for k := range r.t.drape.Count {
		for v, at := range r.of {
			i := 3 * (k*per + v)
			out[k*r.perPiece+int(at)] = geom.V(float64(p.Positions[i]), float64(p.Positions[i+1]), float64(p.Positions[i+2]))
		}
	}
	return out
}
