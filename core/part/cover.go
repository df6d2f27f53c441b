package part

import (
	"math"

	"bead/core/geom"
)

// Cover gives a mesh without texture coordinates some in metres: each triangle is seen along the one of
// the three axes that it faces most, so that an image keeps its size on it (a projection from six
// sides, common practice). Vertices where triangles of different sides meet are parted; a mesh that
// has coordinates in metres stays as it is.
func Cover(m *geom.Mesh) *geom.Mesh {
	if len(m.UVs) > 0 && !m.Tiles {
		return m
	}
	type key struct {
		vertex uint32
		side   uint8
	}
	out := &geom.Mesh{Groups: m.Groups, Indices: make([]uint32, 0, len(m.Indices))}
	for _, b := range m.Blends {
		out.Blends = append(out.Blends, geom.Blend{Name: b.Name})
	}
	at := func(v uint32) geom.Vec {
		return geom.V(float64(m.Positions[3*v]), float64(m.Positions[3*v+1]), float64(m.Positions[3*v+2]))
	}
	made := map[key]uint32{}
	add := func(v uint32, side uint8) uint32 {
		k := key{v, side}
		if n, known := made[k]; known {
			return n
		}
		n := uint32(len(out.Positions) / 3)
		made[k] = n
		out.Positions = append(out.Positions, m.Positions[3*v:3*v+3]...)
		out.Normals = append(out.Normals, m.Normals[3*v:3*v+3]...)
		if len(m.Spine) > 0 {
			out.Spine = append(out.Spine, m.Spine[v])
		}
		for i := range m.Blends {
			out.Blends[i].Positions = append(out.Blends[i].Positions, m.Blends[i].Positions[3*v:3*v+3]...)
			out.Blends[i].Normals = append(out.Blends[i].Normals, m.Blends[i].Normals[3*v:3*v+3]...)
		}
		p := at(v)
		sign := 1.0
		if side >= 3 {
			sign = -1
		}
		switch side % 3 { // across and along; z is along wherever it is seen
		case 0:
			out.UVs = append(out.UVs, float32(sign*p.Y), float32(p.Z))
		case 1:
			out.UVs = append(out.UVs, float32(-sign*p.X), float32(p.Z))
		default:
			out.UVs = append(out.UVs, float32(sign*p.X), float32(p.Y))
		}
		return n
	}
	for i := 0; i+2 < len(m.Indices); i += 3 {
		a, b, c := m.Indices[i], m.Indices[i+1], m.Indices[i+2]
		n := at(b).Sub(at(a)).Cross(at(c).Sub(at(a))).Array()
		side := uint8(0)
		for k := range n {
			if math.Abs(n[k]) > math.Abs(n[side])*(1+1e-6) {
				side = uint8(k)
			}
		}
		if n[side] < 0 {
			side += 3
		}
		out.Indices = append(out.Indices, add(a, side), add(b, side), add(c, side))
	}
	return out
}

// Lowness is, for each vertex, how low it is: 1 at the bottom, 0 from the middle up, smooth between.
func Lowness(m *geom.Mesh, up geom.Vec) []float64 {
	out := make([]float64, len(m.Positions)/3)
	least, most := math.Inf(1), math.Inf(-1)
	for i := range out {
		out[i] = geom.V(float64(m.Positions[3*i]), float64(m.Positions[3*i+1]), float64(m.Positions[3*i+2])).Dot(up)
		least, most = min(least, out[i]), max(most, out[i])
	}
	for i, h := range out {
		t := min(max((0.5-(h-least)/max(most-least, 1e-9))/0.3, 0), 1)
		out[i] = t * t * (3 - 2*t)
	}
	return out
}
