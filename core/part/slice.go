package part

import (
	"cmp"
	"math"
	"slices"

	"bead/core/geom"
)

// Slice cuts every triangle of a mesh at planes across the forward direction that lie evenly
// between its ends, so that it can bend: n stretches from end to end. The shape, its normals,
// textures and blends stay as they are. What is
// fastened to the spine as one stays whole.
func Slice(m *geom.Mesh, forward geom.Vec, n int) *geom.Mesh {
	if n < 2 {
		return m
	}
	vertices := len(m.Positions) / 3
	along := make([]float64, vertices)
	lo, hi := math.Inf(1), math.Inf(-1)
	for i := range along {
		along[i] = geom.V(float64(m.Positions[3*i]), float64(m.Positions[3*i+1]), float64(m.Positions[3*i+2])).Dot(forward)
		lo, hi = min(lo, along[i]), max(hi, along[i])
	}
	if !(hi > lo) {
		return m
	}
	s := slicer{m: m, along: along, at: make([]float64, n+1), made: map[cut]uint32{}}
	for k := range s.at {
		s.at[k] = lo + (hi-lo)*float64(k)/float64(n)
	}
	s.near = 1e-6 * (hi - lo)
	s.out = geom.Mesh{
		Positions: append([]float32(nil), m.Positions...), Normals: append([]float32(nil), m.Normals...),
		UVs: append([]float32(nil), m.UVs...), Tiles: m.Tiles, Spine: append([]float32(nil), m.Spine...), Blends: make([]geom.Blend, len(m.Blends)),
	}
	for k := range m.Blends {
		b := &m.Blends[k]
		s.out.Blends[k] = geom.Blend{Name: b.Name, Positions: append([]float32(nil), b.Positions...), Normals: append([]float32(nil), b.Normals...)}
	}
	groups := m.Groups
	if len(groups) == 0 {
		groups = []geom.Group{{Count: len(m.Indices)}}
	}
	for _, g := range groups {
		from := len(s.out.Indices)
		for i := g.First; i+2 < g.First+g.Count; i += 3 {
			s.triangle([3]uint32(m.Indices[i : i+3]))
		}
		if len(m.Groups) > 0 {
			s.out.Groups = append(s.out.Groups, geom.Group{Name: g.Name, First: from, Count: len(s.out.Indices) - from})
		}
	}
	return inOrder(&s.out, forward)
}

// inOrder numbers the vertices from tail to head, so that those of one section lie together:
// bending goes from section to section.
func inOrder(m *geom.Mesh, forward geom.Vec) *geom.Mesh {
	n := len(m.Positions) / 3
	along, order, now := make([]float64, n), make([]int, n), make([]uint32, n)
	for i := range order {
		along[i] = geom.V(float64(m.Positions[3*i]), float64(m.Positions[3*i+1]), float64(m.Positions[3*i+2])).Dot(forward)
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(along[a], along[b]) })
	for i, k := range order {
		now[k] = uint32(i)
	}
	take := func(list []float32, width int) []float32 {
		if len(list) == 0 {
			return nil
		}
		out := make([]float32, 0, len(list))
		for _, k := range order {
			out = append(out, list[k*width:(k+1)*width]...)
		}
		return out
	}
	out := &geom.Mesh{Positions: take(m.Positions, 3), Normals: take(m.Normals, 3), UVs: take(m.UVs, 2), Spine: take(m.Spine, 1), Indices: m.Indices, Groups: m.Groups, Tiles: m.Tiles}
	for i, v := range out.Indices {
		out.Indices[i] = now[v]
	}
	for _, b := range m.Blends {
		out.Blends = append(out.Blends, geom.Blend{Name: b.Name, Positions: take(b.Positions, 3), Normals: take(b.Normals, 3)})
	}
	return out
}

// Cuts is at least the number of vertices that Slice adds: each plane cuts two edges of each triangle
// that it cuts, and neighbours share them.
func Cuts(m *geom.Mesh, forward geom.Vec, n int) int {
	if n < 2 {
		return 0
	}
	at := func(v uint32) float64 {
		return geom.V(float64(m.Positions[3*v]), float64(m.Positions[3*v+1]), float64(m.Positions[3*v+2])).Dot(forward)
	}
	size := math.Abs(m.Bounds().Size().Dot(forward))
	sum := 0.0
	for i := 0; i+2 < len(m.Indices); i += 3 {
		a, b, c := at(m.Indices[i]), at(m.Indices[i+1]), at(m.Indices[i+2])
		sum += max(a, b, c) - min(a, b, c)
	}
	return int(2 * sum / max(size, 1e-300) * float64(n))
}

// slicer cuts triangles; made are the vertices that lie on cut edges.
type slicer struct {
	m     *geom.Mesh
	out   geom.Mesh
	along []float64
	at    []float64 // planes
	near  float64
	made  map[cut]uint32
}

type cut struct {
	a, b  uint32 // the edge, the lower number first
	plane int
}

// triangle adds what of it lies between each two planes.
func (s *slicer) triangle(t [3]uint32) {
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, v := range t {
		if len(s.m.Spine) > 0 && s.m.Spine[v] == s.m.Spine[v] {
			s.out.Indices = append(s.out.Indices, t[:]...) // it is fastened as one
			return
		}
		lo, hi = min(lo, s.along[v]), max(hi, s.along[v])
	}
	if hi-lo < s.near { // across: no plane cuts it
		s.out.Indices = append(s.out.Indices, t[:]...)
		return
	}
	step := s.at[1] - s.at[0]
	first := max(int((lo-s.at[0])/step)-1, 0)
	// The vertices round the triangle with those that planes make on its edges.
	for k := first; k < len(s.at)-1 && s.at[k] < hi-s.near || k == first; k++ {
		if s.at[k+1] < lo+s.near && k+1 < len(s.at)-1 {
			continue
		}
		var poly []uint32
		add := func(v uint32) {
			if n := len(poly); n == 0 || poly[n-1] != v && poly[0] != v {
				poly = append(poly, v)
			}
		}
		for i := range 3 {
			a, b := t[i], t[(i+1)%3]
			za, zb := s.along[a], s.along[b]
			if za >= s.at[k]-s.near && za <= s.at[k+1]+s.near {
				add(a)
			}
			p, q := k, k+1
			if zb < za {
				p, q = q, p
			}
			for _, plane := range [2]int{p, q} {
				if z := s.at[plane]; (za < z-s.near && zb > z+s.near) || (za > z+s.near && zb < z-s.near) {
					add(s.on(a, b, plane))
				}
			}
		}
		for i := 2; i < len(poly); i++ {
			s.out.Indices = append(s.out.Indices, poly[0], poly[i-1], poly[i])
		}
	}
}

// on is the vertex where a plane cuts an edge.
func (s *slicer) on(a, b uint32, plane int) uint32 {
	key := cut{min(a, b), max(a, b), plane}
	if v, known := s.made[key]; known {
		return v
	}
	a, b = key.a, key.b
	u := (s.at[plane] - s.along[a]) / (s.along[b] - s.along[a])
	v := uint32(len(s.out.Positions) / 3)
	mix := func(list []float32, width int) []float32 {
		if len(list) == 0 {
			return list
		}
		for c := range width {
			p, q := float64(list[int(a)*width+c]), float64(list[int(b)*width+c])
			list = append(list, float32(p+(q-p)*u))
		}
		return list
	}
	unit := func(list []float32) {
		n := list[len(list)-3:]
		w := geom.V(float64(n[0]), float64(n[1]), float64(n[2])).Unit()
		n[0], n[1], n[2] = float32(w.X), float32(w.Y), float32(w.Z)
	}
	s.out.Positions, s.out.Normals = mix(s.out.Positions, 3), mix(s.out.Normals, 3)
	unit(s.out.Normals)
	s.out.UVs, s.out.Spine = mix(s.out.UVs, 2), mix(s.out.Spine, 1)
	for k := range s.out.Blends {
		x := &s.out.Blends[k]
		x.Positions, x.Normals = mix(x.Positions, 3), mix(x.Normals, 3)
	}
	s.made[key] = v
	return v
}
