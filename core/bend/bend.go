// Package bend gives a body the form of a path. A vertex at (x side, y up, z forward) goes to
//
//	C(s) + w (x S(s) + y U(s)),   s = tail + (z - z0) k,
//
// where C, S and U are the path's place, side and up at distance s, k the stretch and w the
// scale of the section. Normals follow by the exact Jacobian of that map: with the turn tau of
// the frame about forward a metre and the curvatures ks, ku towards side and up,
//
//	dC/ds = T,  dS/ds = tau U - ks T,  dU/ds = -tau S - ku T,
//
// and a normal n goes to the cofactor matrix times n (the rule for covectors). Vertices that are
// fastened at one section (a wire's, an eye's) are carried by it without being bent.
//
// Vertices that share a forward coordinate share a section, so that a body costs one look at the
// path a ring, not one a vertex.
package bend

import (
	"math"
	"sort"

	"bead/core/geom"
)

// Axes are a body's own side, up and forward, and the point that counts as its origin.
type Axes struct{ Side, Up, Forward, Origin geom.Vec }

// Body is a mesh prepared for bending. It is immutable and safe for concurrent use.
type Body struct {
	// Stations are the forward coordinates, rising, at which the body needs sections, metres.
	Stations []float64
	// Tail and Head are the least and the greatest forward coordinate.
	Tail, Head float64
	// Half is the greatest distance of a vertex from the axis, metres.
	Half   float64
	Blends []string

	vertices []vertex
	held     []hold    // of each vertex
	runs     []run     // of vertices that follow one another
	deltas   [][]delta // of each blend
	moved    []int32   // vertices that blends move and that are bent at places of their own
	slot     []int32   // of each vertex, its place in moved, or -1; nil without blends
	edges    []Edge
}

// vertex is a vertex in the body's axes; dz is how far it lies ahead of its station, carried
// rigidly.
type vertex struct {
	x, y, dz   float32
	nx, ny, nz float32
}

// hold is what a vertex moves with: its station; it is bent there, or carried rigidly.
type hold struct {
	station int32
	rigid   bool
}

// run is a row of vertices with the same hold.
type run struct {
	hold
	n int32
}

type delta struct {
	v                   int32
	x, y, z, nx, ny, nz float32
}

// Edge is an edge of the body that spans sections: its two forward coordinates, and where its
// ends lie across the body.
type Edge struct {
	From, To       float64
	X0, Y0, X1, Y1 float64
}

// mergeShare is the share of the length below which forward coordinates are one.
const mergeShare = 1e-7

// New prepares a mesh. scale multiplies all its lengths.
func New(m *geom.Mesh, a Axes, scale float64) *Body {
	n := len(m.Positions) / 3
	b := &Body{vertices: make([]vertex, n), held: make([]hold, n), Tail: math.Inf(1), Head: math.Inf(-1)}
	at := func(list []float32, i int) geom.Vec {
		return geom.V(float64(list[3*i]), float64(list[3*i+1]), float64(list[3*i+2]))
	}
	own := func(v geom.Vec) (x, y, z float64) { return v.Dot(a.Side), v.Dot(a.Up), v.Dot(a.Forward) }
	fastened := len(m.Spine) == n && math.Abs(a.Forward.Z) == 1
	place := make([]float64, n) // forward coordinates of the stations
	for i := range n {
		x, y, z := own(at(m.Positions, i).Sub(a.Origin).Mul(scale))
		nx, ny, nz := own(at(m.Normals, i))
		b.Tail, b.Head = min(b.Tail, z), max(b.Head, z)
		b.Half = max(b.Half, math.Hypot(x, y))
		place[i] = z
		v := vertex{x: float32(x), y: float32(y), nx: float32(nx), ny: float32(ny), nz: float32(nz)}
		if fastened && m.Spine[i] == m.Spine[i] {
			place[i] = (float64(m.Spine[i]) - a.Origin.Z) * a.Forward.Z * scale
			v.dz, b.held[i].rigid = float32(z-place[i]), true
		}
		b.vertices[i] = v
	}
	order := make([]int, n)
	for i := range order {
		order[i] = i
	}
	sort.Slice(order, func(i, j int) bool { return place[order[i]] < place[order[j]] })
	near := mergeShare * max(b.Head-b.Tail, 1e-12)
	for _, i := range order {
		if k := len(b.Stations); k == 0 || place[i] > b.Stations[k-1]+near {
			b.Stations = append(b.Stations, place[i])
		}
		b.held[i].station = int32(len(b.Stations) - 1)
	}
	for _, h := range b.held {
		if k := len(b.runs); k == 0 || b.runs[k-1].hold != h {
			b.runs = append(b.runs, run{h, 0})
		}
		b.runs[len(b.runs)-1].n++
	}
	b.blends(m, own, scale)
	b.findEdges(m, place)
	return b
}

// blends prepares the other shapes of the mesh.
func (b *Body) blends(m *geom.Mesh, own func(geom.Vec) (x, y, z float64), scale float64) {
	at := func(list []float32, i int) geom.Vec {
		return geom.V(float64(list[3*i]), float64(list[3*i+1]), float64(list[3*i+2]))
	}
	for _, x := range m.Blends {
		var ds []delta
		for i := range b.vertices {
			p, n := at(x.Positions, i), at(x.Normals, i)
			if p == (geom.Vec{}) && n == (geom.Vec{}) {
				continue
			}
			px, py, pz := own(p.Mul(scale))
			nx, ny, nz := own(n)
			ds = append(ds, delta{int32(i), float32(px), float32(py), float32(pz), float32(nx), float32(ny), float32(nz)})
			if b.slot == nil {
				b.slot = make([]int32, len(b.vertices))
				for k := range b.slot {
					b.slot[k] = -1
				}
			}
			if b.slot[i] < 0 {
				b.slot[i] = int32(len(b.moved))
				b.moved = append(b.moved, int32(i))
			}
		}
		b.deltas = append(b.deltas, ds)
		b.Blends = append(b.Blends, x.Name)
	}
}

// findEdges keeps, of the edges along the body between any two sections, those farthest out to either side,
// up and down: one of these strays most from a bend, whichever way it goes.
func (b *Body) findEdges(m *geom.Mesh, place []float64) {
	kept := map[[2]int32]int{} // where the four of two sections begin in b.edges
	for i := 0; i+2 < len(m.Indices); i += 3 {
		for k := range 3 {
			p, q := m.Indices[i+k], m.Indices[i+(k+1)%3]
			if b.held[p].station > b.held[q].station {
				p, q = q, p
			}
			key := [2]int32{b.held[p].station, b.held[q].station}
			if key[0] == key[1] {
				continue
			}
			u, v := &b.vertices[p], &b.vertices[q]
			e := Edge{place[p], place[q], float64(u.x), float64(u.y), float64(v.x), float64(v.y)}
			if math.Hypot(e.X1-e.X0, e.Y1-e.Y0) > e.To-e.From {
				continue // it runs across: of such a one a bend makes nothing that is seen
			}
			at, known := kept[key]
			if !known {
				kept[key] = len(b.edges)
				b.edges = append(b.edges, e, e, e, e)
				continue
			}
			for way := range 4 {
				if e.out(way) > b.edges[at+way].out(way) {
					b.edges[at+way] = e
				}
			}
		}
	}
}

// out is how far out an edge lies in one of four directions: left, right, up, down; metres.
func (e *Edge) out(way int) float64 {
	switch way {
	case 0:
		return e.X0 + e.X1
	case 1:
		return -e.X0 - e.X1
	case 2:
		return e.Y0 + e.Y1
	}
	return -e.Y0 - e.Y1
}

// Edges are the outermost edges along the body that span sections, four for each two of them,
// those between the same two behind one another.
func (b *Body) Edges() []Edge { return b.edges }

// Vertices is the number of vertices.
func (b *Body) Vertices() int { return len(b.vertices) }

// Length is from tail to head, metres.
func (b *Body) Length() float64 { return b.Head - b.Tail }

// Section is the path at one station of the body, and how the body lies there.
type Section struct {
	P, S, U, T geom.Vec // place, side, up, forward
	W, DW      float64  // scale of the section, and its change a metre of the body
	K          float64  // stretch: metres of path a metre of body
	Ks, Ku     float64  // curvature towards side and up, 1/m
	Tau        float64  // turn of side and up about forward, radians a metre of path
}

// At returns where the section takes (x, y, dz ahead of it).
func (s *Section) At(x, y, dz float64) geom.Vec {
	return s.P.Mad(s.S, s.W*x).Mad(s.U, s.W*y).Mad(s.T, dz)
}

// Work is scratch memory of a frame, reused from frame to frame.
type Work struct {
	// Places are the forward coordinates for which sections are asked: the body's stations, and
	// behind them those of the vertices that blends move.
	Places []float64
	moved  []vertex
	held   []hold
}

// Pose fills w.Places for the amounts of the blends; nil or 0 leaves the body as it is.
func (b *Body) Pose(w *Work, amounts []float64) {
	w.Places = append(w.Places[:0], b.Stations...)
	w.moved, w.held = w.moved[:0], w.held[:0]
	any := false
	for _, a := range amounts {
		any = any || a != 0
	}
	if !any {
		return
	}
	for _, v := range b.moved {
		w.moved, w.held = append(w.moved, b.vertices[v]), append(w.held, b.held[v])
	}
	for k, a := range amounts {
		if a == 0 || k >= len(b.deltas) {
			continue
		}
		f := float32(a)
		for _, d := range b.deltas[k] {
			v := &w.moved[b.slot[d.v]]
			v.x, v.y, v.dz = v.x+f*d.x, v.y+f*d.y, v.dz+f*d.z
			v.nx, v.ny, v.nz = v.nx+f*d.nx, v.ny+f*d.ny, v.nz+f*d.nz
		}
	}
	// What is not fastened is bent where the blend has brought it.
	for i := range w.moved {
		if v, h := &w.moved[i], &w.held[i]; !h.rigid {
			w.Places = append(w.Places, b.Stations[h.station]+float64(v.dz))
			h.station, v.dz = int32(len(w.Places)-1), 0
		}
	}
}

// Bend fills positions and normals, three floats a vertex each, with the body in the sections,
// which are those of w.Places. It allocates nothing.
func (b *Body) Bend(positions, normals []float32, w *Work, sections []Section) {
	at := 0
	for _, r := range b.runs {
		end := at + int(r.n)
		sections[r.station].bend(b.vertices[at:end], r.rigid, positions[3*at:3*end], normals[3*at:3*end])
		at = end
	}
	for i := range w.moved {
		v, h := b.moved[i], w.held[i]
		sections[h.station].bend(w.moved[i:i+1], h.rigid, positions[3*v:3*v+3], normals[3*v:3*v+3])
	}
}

// bend bends vertices of one section: their places in double precision, their normals in single, in
// two passes, so that each has its numbers at hand.
func (s *Section) bend(vertices []vertex, rigid bool, positions, normals []float32) {
	if rigid {
		s.carry(vertices, positions)
		k := *s
		k.K, k.W, k.DW, k.Ks, k.Ku, k.Tau = 1, 1, 0, 0, 0, 0
		k.normals(vertices, normals)
		return
	}
	s.places(vertices, positions)
	s.normals(vertices, normals)
}

// carry places vertices that are carried rigidly ahead of or behind the section.
func (s *Section) carry(vertices []vertex, out []float32) {
	for i := range vertices {
		v := &vertices[i]
		p := s.At(float64(v.x), float64(v.y), float64(v.dz))
		out[3*i], out[3*i+1], out[3*i+2] = float32(p.X), float32(p.Y), float32(p.Z)
	}
}

func (s *Section) places(vertices []vertex, out []float32) {
	px, py, pz := s.P.X, s.P.Y, s.P.Z
	sx, sy, sz := s.W*s.S.X, s.W*s.S.Y, s.W*s.S.Z
	ux, uy, uz := s.W*s.U.X, s.W*s.U.Y, s.W*s.U.Z
	for i := range vertices {
		v := &vertices[i]
		if len(out) < 3 {
			return
		}
		x, y := float64(v.x), float64(v.y)
		out[0], out[1], out[2] = float32(px+x*sx+y*ux), float32(py+x*sy+y*uy), float32(pz+x*sz+y*uz)
		out = out[3:]
	}
}

func (s *Section) normals(vertices []vertex, out []float32) {
	sx, sy, sz := float32(s.S.X), float32(s.S.Y), float32(s.S.Z)
	ux, uy, uz := float32(s.U.X), float32(s.U.Y), float32(s.U.Z)
	tx, ty, tz := float32(s.T.X), float32(s.T.Y), float32(s.T.Z)
	w, dw, k := float32(s.W), float32(s.DW), float32(s.K)
	tau, ks, ku := float32(s.K*s.Tau*s.W), float32(s.K*s.Ks*s.W), float32(s.K*s.Ku*s.W)
	for i := range vertices {
		v := &vertices[i]
		if len(out) < 3 {
			return
		}
		// The columns of the Jacobian in (S, U, T) are (w, 0, 0), (0, w, 0) and (a, b, c).
		c := k - v.x*ks - v.y*ku
		nx, ny, nz := c*v.nx, c*v.ny, w*v.nz-(dw*v.x-tau*v.y)*v.nx-(dw*v.y+tau*v.x)*v.ny
		// S, U and T are at right angles and of length 1: the length is that of the three numbers.
		q := nx*nx + ny*ny + nz*nz
		if q == 0 { // drawn together to nothing: any direction is as right as another
			ny, q = 1, 1
		}
		q = 1 / float32(math.Sqrt(float64(q)))
		x, y, z := nx*sx+ny*ux+nz*tx, nx*sy+ny*uy+nz*ty, nx*sz+ny*uz+nz*tz
		out[0], out[1], out[2] = q*x, q*y, q*z
		out = out[3:]
	}
}

// Extreme is the vertex with the greatest compression or extension of a body, and its place.
type Extreme struct {
	Strain float64 // of what lies along the path there, beside the axis's: -1 where it folds
	Vertex int
}

// Strains returns where the bent body is pressed together most and drawn out most, as the share by
// which what runs along it there is longer than at the axis: -(x ks + y ku). Vertices that are
// carried rigidly have none.
func (b *Body) Strains(w *Work, sections []Section) (pressed, drawn Extreme) {
	at := func(v *vertex, h hold, i int) {
		if h.rigid {
			return
		}
		s := &sections[h.station]
		e := -s.W * (float64(v.x)*s.Ks + float64(v.y)*s.Ku)
		if e < pressed.Strain {
			pressed = Extreme{e, i}
		}
		if e > drawn.Strain {
			drawn = Extreme{e, i}
		}
	}
	for i := range b.vertices {
		if b.slot == nil || len(w.moved) == 0 || b.slot[i] < 0 {
			at(&b.vertices[i], b.held[i], i)
		}
	}
	for i := range w.moved {
		at(&w.moved[i], w.held[i], int(b.moved[i]))
	}
	return pressed, drawn
}

// Rest fills positions and normals, three floats a vertex each, with the body at rest in its own
// axes (side, up, forward), from its origin and scaled.
func (b *Body) Rest(positions, normals []float32) {
	for i := range b.vertices {
		v := &b.vertices[i]
		z := float32(b.Stations[b.held[i].station]) + v.dz
		copy(positions[3*i:], []float32{v.x, v.y, z})
		copy(normals[3*i:], []float32{v.nx, v.ny, v.nz})
	}
}

// Blend fills positions and normals with what blend k adds, in the body's axes.
func (b *Body) Blend(k int, positions, normals []float32) {
	clear(positions)
	clear(normals)
	for _, d := range b.deltas[k] {
		copy(positions[3*d.v:], []float32{d.x, d.y, d.z})
		copy(normals[3*d.v:], []float32{d.nx, d.ny, d.nz})
	}
}

// Place is the forward coordinate at which a vertex is fastened.
func (b *Body) Place(vertex int) float64 { return b.Stations[b.held[vertex].station] }
