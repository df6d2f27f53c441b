// Package surface reads the shape of meshes for paths: chains of edges to be taken
// as paths, and the nearest place on a mesh or a post, so that a path can lie on it.
//
// Lengths are metres.
package surface

import (
	"errors"
	"math"
	"slices"
	"sort"

	"bead/core/geom"
)

// Mesh is a welded polygon mesh. It is immutable and safe for concurrent use.
type Mesh struct {
	Points  []geom.Vec
	normals []geom.Vec // per point, mean of its faces'
	faces   [][]int32
	edges   map[edge]sides
	around  [][]edge // edges at each point, diagonals left out
	tree    tree
	at      []int32 // of each point as it was given, its number among Points
	blends  []blend
	dress   Dress // of its faces
}

// Dress is what the faces of a mesh say of how they look.
type Dress struct {
	// Names are those of the surfaces that the mesh tells apart, Group of each face which it is of;
	// none: it tells none apart.
	Names []string
	Group []int32
	// UVs are where the corners of each face lie on an image, from its lower left; none: nowhere.
	UVs [][][2]float32
}

// blend is another shape of the mesh: how each of its Points moves.
type blend struct {
	name string
	move []geom.Vec
}

// edge is a pair of points, the lower number first.
type edge [2]int32

func edgeOf(a, b int32) edge { return edge{min(a, b), max(a, b)} }

func (e edge) other(v int32) int32 { return e[0] + e[1] - v }

// sides are the faces beside an edge, -1 for none. Of more than two the edge keeps
// two and is crowded.
type sides struct {
	face     [2]int32
	crowded  bool
	diagonal bool // inside a quad that came as two triangles
}

// MaxPoints bounds a mesh.
const MaxPoints = 300_000

// ErrNoFaces is returned for a mesh without a face.
var ErrNoFaces = errors.New("the mesh has no faces")

// weldShare is the distance, as a share of the size, below which points are one:
// files split points where normals or textures part.
const weldShare = 1e-6

// New welds points that lie on one another and finds the edges. Faces are polygons
// of point numbers; triangles that together make a quad are taken as one, so that
// edges run on as they were modelled. Faces that name a point that is not there are
// an error.
func New(points []geom.Vec, faces [][]int32) (*Mesh, error) {
	return NewDressed(points, faces, Dress{})
}

// NewDressed is New of a mesh whose faces say how they look.
func NewDressed(points []geom.Vec, faces [][]int32, dress Dress) (*Mesh, error) {
	m := &Mesh{edges: map[edge]sides{}}
	m.dress.Names = dress.Names
	box := geom.EmptyBox()
	for _, p := range points {
		if !p.IsFinite() {
			return nil, errors.New("a point of the mesh is not a number")
		}
		box = box.Extend(p)
	}
	at := m.weld(points, box)
	m.at = at
	for i, f := range faces {
		face := make([]int32, 0, len(f))
		var uvs [][2]float32
		for k, v := range f {
			if v < 0 || int(v) >= len(points) {
				return nil, errors.New("a face names a point that is not there")
			}
			if w := at[v]; len(face) == 0 || face[len(face)-1] != w {
				face = append(face, w)
				if len(dress.UVs) > 0 {
					uvs = append(uvs, dress.UVs[i][k])
				}
			}
		}
		for len(face) > 1 && face[0] == face[len(face)-1] {
			face = face[:len(face)-1]
		}
		if len(face) > 2 {
			m.faces = append(m.faces, face)
			if len(dress.Names) > 0 {
				m.dress.Group = append(m.dress.Group, dress.Group[i])
			}
			if len(dress.UVs) > 0 {
				m.dress.UVs = append(m.dress.UVs, uvs[:len(face)])
			}
		}
	}
	if len(m.faces) == 0 {
		return nil, ErrNoFaces
	}
	m.normals = make([]geom.Vec, len(m.Points))
	for i, f := range m.faces {
		n := m.faceNormal(f)
		for k, v := range f {
			m.normals[v] = m.normals[v].Add(n)
			e := edgeOf(v, f[(k+1)%len(f)])
			s, known := m.edges[e]
			switch {
			case !known:
				s.face = [2]int32{int32(i), -1}
			case s.face[1] < 0:
				s.face[1] = int32(i)
			default:
				s.crowded = true
			}
			m.edges[e] = s
		}
	}
	for i := range m.normals {
		m.normals[i] = m.normals[i].Unit()
	}
	m.pairTriangles()
	m.around = make([][]edge, len(m.Points))
	for e, s := range m.edges {
		if !s.diagonal {
			m.around[e[0]] = append(m.around[e[0]], e)
			m.around[e[1]] = append(m.around[e[1]], e)
		}
	}
	for _, es := range m.around {
		sort.Slice(es, func(i, j int) bool { return es[i][0] < es[j][0] || es[i][0] == es[j][0] && es[i][1] < es[j][1] })
	}
	m.tree.build(m)
	return m, nil
}

// Of makes a Mesh of triangles as they are drawn.
func Of(g *geom.Mesh) (*Mesh, error) {
	points := make([]geom.Vec, len(g.Positions)/3)
	for i := range points {
		points[i] = geom.V(float64(g.Positions[3*i]), float64(g.Positions[3*i+1]), float64(g.Positions[3*i+2]))
	}
	faces := make([][]int32, len(g.Indices)/3)
	for i := range faces {
		faces[i] = []int32{int32(g.Indices[3*i]), int32(g.Indices[3*i+1]), int32(g.Indices[3*i+2])}
	}
	return New(points, faces)
}

// weld fills Points and returns the number of each given point among them. Points
// fall into cells of the tolerance's size; neighbours in the next cell are looked for.
func (m *Mesh) weld(points []geom.Vec, box geom.Box) []int32 {
	size := box.Size().Norm()
	tol := max(size*weldShare, math.SmallestNonzeroFloat64)
	cell := 4 * tol
	type key [3]int64
	of := func(p geom.Vec) key {
		return key{int64(math.Floor((p.X - box.Min.X) / cell)), int64(math.Floor((p.Y - box.Min.Y) / cell)), int64(math.Floor((p.Z - box.Min.Z) / cell))}
	}
	seen := map[key][]int32{}
	at := make([]int32, len(points))
	for i, p := range points {
		lo, hi := of(p.Sub(geom.V(tol, tol, tol))), of(p.Add(geom.V(tol, tol, tol)))
		found := int32(-1)
		for x := lo[0]; x <= hi[0] && found < 0; x++ {
			for y := lo[1]; y <= hi[1] && found < 0; y++ {
				for z := lo[2]; z <= hi[2] && found < 0; z++ {
					for _, k := range seen[key{x, y, z}] {
						if m.Points[k].Sub(p).Norm() <= tol {
							found = k
							break
						}
					}
				}
			}
		}
		if found < 0 {
			found = int32(len(m.Points))
			m.Points = append(m.Points, p)
			seen[of(p)] = append(seen[of(p)], found)
		}
		at[i] = found
	}
	return at
}

// faceNormal is twice the area along the normal (Newell's method).
func (m *Mesh) faceNormal(f []int32) geom.Vec {
	var n geom.Vec
	o := m.Points[f[0]]
	for k := 1; k+1 < len(f); k++ {
		n = n.Add(m.Points[f[k]].Sub(o).Cross(m.Points[f[k+1]].Sub(o)))
	}
	return n
}

// pairTriangles marks the diagonals of quads that came as two triangles: an edge
// that is the longest of both its triangles, which are nearly in one plane. Longest
// edges go first, so that each triangle is paired once.
func (m *Mesh) pairTriangles() {
	const flat = 25 * math.Pi / 180
	length := func(e edge) float64 { return m.Points[e[0]].Sub(m.Points[e[1]]).Norm2() }
	longest := func(f []int32, l float64) bool {
		for k := range f {
			if length(edgeOf(f[k], f[(k+1)%3])) > l*(1+1e-9) {
				return false
			}
		}
		return true
	}
	var found []edge
	for e, s := range m.edges {
		if s.face[1] < 0 || s.crowded {
			continue
		}
		a, b := m.faces[s.face[0]], m.faces[s.face[1]]
		if !m.dress.alike(s.face, a, b, e) {
			continue
		}
		if len(a) != 3 || len(b) != 3 || geom.Angle(m.faceNormal(a), m.faceNormal(b)) > flat {
			continue
		}
		if l := length(e); longest(a, l) && longest(b, l) {
			found = append(found, e)
		}
	}
	sort.Slice(found, func(i, j int) bool {
		a, b := length(found[i]), length(found[j])
		return a > b || a == b && (found[i][0] < found[j][0] || found[i][0] == found[j][0] && found[i][1] < found[j][1])
	})
	paired := map[int32]bool{}
	for _, e := range found {
		s := m.edges[e]
		if !paired[s.face[0]] && !paired[s.face[1]] {
			paired[s.face[0]], paired[s.face[1]] = true, true
			s.diagonal = true
			m.edges[e] = s
			m.merge(e, s)
		}
	}
}

// alike tells whether two triangles beside an edge are of one surface, and of one piece of an image.
func (d *Dress) alike(face [2]int32, a, b []int32, e edge) bool {
	if len(d.Names) > 0 && d.Group[face[0]] != d.Group[face[1]] {
		return false
	}
	if len(d.UVs) == 0 {
		return true
	}
	for _, v := range e {
		if d.UVs[face[0]][slices.Index(a, v)] != d.UVs[face[1]][slices.Index(b, v)] {
			return false
		}
	}
	return true
}

// merge makes one quad of the two triangles beside a diagonal; it takes the place
// of the first, and the second is left empty.
func (m *Mesh) merge(e edge, s sides) {
	a, b := m.faces[s.face[0]], m.faces[s.face[1]]
	apex := func(f []int32) int32 {
		for _, v := range f {
			if v != e[0] && v != e[1] {
				return v
			}
		}
		return f[0]
	}
	k := 0
	for a[k] != apex(a) {
		k++
	}
	quad := []int32{a[k], a[(k+1)%3], apex(b), a[(k+2)%3]}
	if uvs := m.dress.UVs; len(uvs) > 0 {
		p := uvs[s.face[0]]
		uvs[s.face[0]], uvs[s.face[1]] = [][2]float32{p[k], p[(k+1)%3], uvs[s.face[1]][slices.Index(b, apex(b))], p[(k+2)%3]}, nil
	}
	for _, f := range [...]edge{edgeOf(b[0], b[1]), edgeOf(b[1], b[2]), edgeOf(b[2], b[0])} {
		if f == e {
			continue
		}
		t := m.edges[f]
		for i := range t.face {
			if t.face[i] == s.face[1] {
				t.face[i] = s.face[0]
			}
		}
		m.edges[f] = t
	}
	m.faces[s.face[0]], m.faces[s.face[1]] = quad, nil
}

// Scaled returns the mesh with all lengths times k.
func (m *Mesh) Scaled(k float64) (*Mesh, error) {
	if k == 1 {
		return m, nil
	}
	points := make([]geom.Vec, len(m.Points))
	for i, p := range m.Points {
		points[i] = p.Mul(k)
	}
	var faces [][]int32
	dress := Dress{Names: m.dress.Names}
	for i, f := range m.faces {
		if f != nil {
			faces = append(faces, f)
			if len(dress.Names) > 0 {
				dress.Group = append(dress.Group, m.dress.Group[i])
			}
			if len(m.dress.UVs) > 0 {
				dress.UVs = append(dress.UVs, m.dress.UVs[i])
			}
		}
	}
	out, err := NewDressed(points, faces, dress)
	if err != nil {
		return nil, err
	}
	for _, b := range m.blends {
		move := make([]geom.Vec, len(b.move))
		for i, v := range b.move {
			move[i] = v.Mul(k)
		}
		if err := out.AddBlend(b.name, move); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Drawn returns the mesh as triangles with normals: smooth over edges that bend by
// less than 35 degrees, flat over others. Its blends come along.
func (m *Mesh) Drawn() *geom.Mesh {
	out := &geom.Mesh{}
	at := m.facesAt()
	flat := m.flats(m.Points)
	names := m.dress.Names
	indices := make([][]uint32, max(len(names), 1))
	out.Tiles = len(m.dress.UVs) > 0
	for i, f := range m.faces {
		g := int32(0)
		if len(names) > 0 {
			g = m.dress.Group[i]
		}
		if f == nil {
			continue
		}
		first := uint32(len(out.Positions) / 3)
		for _, v := range f {
			p := m.Points[v]
			out.Positions = append(out.Positions, float32(p.X), float32(p.Y), float32(p.Z))
		}
		if out.Tiles {
			for _, uv := range m.dress.UVs[i] {
				out.UVs = append(out.UVs, uv[:]...)
			}
		}
		for k := uint32(2); k < uint32(len(f)); k++ {
			indices[g] = append(indices[g], first, first+k-1, first+k)
		}
	}
	for g, list := range indices {
		if len(names) > 0 && len(list) > 0 {
			out.Groups = append(out.Groups, geom.Group{Name: names[g], First: len(out.Indices), Count: len(list)})
		}
		out.Indices = append(out.Indices, list...)
	}
	out.Normals = m.shaded(flat, flat, at)
	for _, b := range m.blends {
		moved := make([]geom.Vec, len(m.Points))
		for i := range moved {
			moved[i] = m.Points[i].Add(b.move[i])
		}
		d := geom.Blend{Name: b.name, Normals: m.shaded(m.flats(moved), flat, at)}
		for i := range d.Normals {
			d.Normals[i] -= out.Normals[i]
		}
		for _, f := range m.faces {
			for _, v := range f {
				p := b.move[v]
				d.Positions = append(d.Positions, float32(p.X), float32(p.Y), float32(p.Z))
			}
		}
		out.Blends = append(out.Blends, d)
	}
	return out
}

// facesAt are the faces at each point.
func (m *Mesh) facesAt() [][]int32 {
	at := make([][]int32, len(m.Points))
	for i, f := range m.faces {
		for _, v := range f {
			at[v] = append(at[v], int32(i))
		}
	}
	return at
}

// flats are the normals of the faces, as long as their areas, where the points are given.
func (m *Mesh) flats(points []geom.Vec) []geom.Vec {
	moved := Mesh{Points: points}
	out := make([]geom.Vec, len(m.faces))
	for i, f := range m.faces {
		if f != nil {
			out[i] = moved.faceNormal(f)
		}
	}
	return out
}

// shaded are the normals of the faces' corners by the faces' normals; which faces are smooth with one
// another is said by those at rest.
func (m *Mesh) shaded(normal, rest []geom.Vec, at [][]int32) []float32 {
	const crease = 35 * math.Pi / 180
	cos := math.Cos(crease)
	var out []float32
	for i, f := range m.faces {
		unit := rest[i].Unit()
		for _, v := range f {
			var n geom.Vec
			for _, k := range at[v] {
				if rest[k].Unit().Dot(unit) > cos {
					n = n.Add(normal[k])
				}
			}
			if n = n.Unit(); n == (geom.Vec{}) {
				n = geom.V(0, 1, 0) // a face without area shows nothing
			}
			out = append(out, float32(n.X), float32(n.Y), float32(n.Z))
		}
	}
	return out
}

// AddBlend gives the mesh another shape: by how much each point, as they were given to New, moves.
// It is for those who make the mesh; a blend for another number of points is an error.
func (m *Mesh) AddBlend(name string, move []geom.Vec) error {
	if len(move) != len(m.at) {
		return errors.New("a blend moves another number of points than the mesh has")
	}
	b := blend{name, make([]geom.Vec, len(m.Points))}
	for i, v := range move {
		if !v.IsFinite() {
			return errors.New("a blend moves a point to nowhere")
		}
		b.move[m.at[i]] = v
	}
	m.blends = append(m.blends, b)
	return nil
}

// Wire returns the ends of every edge but the diagonals of quads, in order.
func (m *Mesh) Wire() []geom.Vec {
	list := make([]edge, 0, len(m.edges))
	for e, s := range m.edges {
		if !s.diagonal {
			list = append(list, e)
		}
	}
	sort.Slice(list, func(i, j int) bool {
		return list[i][0] < list[j][0] || list[i][0] == list[j][0] && list[i][1] < list[j][1]
	})
	out := make([]geom.Vec, 0, 2*len(list))
	for _, e := range list {
		out = append(out, m.Points[e[0]], m.Points[e[1]])
	}
	return out
}
