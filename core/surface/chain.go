package surface

import (
	"errors"
	"fmt"
	"math"

	"bead/core/geom"
)

// Way says how a chain of edges goes on from the edge that was chosen.
type Way string

// The ways.
const (
	Loop     Way = "loop"     // straight over the points where four edges meet, as edge loops run
	Crease   Way = "crease"   // on along the sharpest bend of the surface, until it fades or forks
	Boundary Way = "boundary" // along the rim
	Middle   Way = "middle"   // across a band: through the middles of the edges that lie opposite in its quads
)

// Chain is a run of edges, or of their middles.
type Chain struct {
	Points []geom.Vec
	Closed bool
}

// Follow returns the chain through the edge nearest to p that goes on the given
// way. Errors say what else to choose.
func (m *Mesh) Follow(p geom.Vec, way Way) (Chain, error) {
	var nearest edge
	best := math.Inf(1)
	for e, s := range m.edges {
		if s.diagonal || way == Boundary && s.face[1] >= 0 {
			continue
		}
		d := distanceToSegment(p, m.Points[e[0]], m.Points[e[1]])
		if d < best || d == best && (e[0] < nearest[0] || e[0] == nearest[0] && e[1] < nearest[1]) {
			nearest, best = e, d
		}
	}
	if math.IsInf(best, 1) {
		return Chain{}, errors.New("this mesh is closed all round and has no rim: choose a loop, a crease or the middle of a band")
	}
	switch way {
	case Middle:
		return m.band(nearest)
	case Loop, Crease, Boundary:
	default:
		return Chain{}, fmt.Errorf("unknown way %q: loop, crease, boundary and middle are accepted", way)
	}
	next := m.nextOfLoop
	switch way {
	case Boundary:
		next = m.nextOfRim
	case Crease:
		next = m.nextOfCrease
	}
	ahead, closed := m.walk(nearest, nearest[1], next)
	if closed {
		return m.chain(ahead[:len(ahead)-1], true), nil
	}
	behind, _ := m.walk(nearest, nearest[0], next)
	// behind runs from its far end back to the edge; ahead goes on from there.
	all := make([]int32, 0, len(ahead)+len(behind))
	for i := len(behind) - 1; i > 0; i-- {
		all = append(all, behind[i])
	}
	return m.chain(append(all, ahead[1:]...), false), nil
}

func (m *Mesh) chain(points []int32, closed bool) Chain {
	c := Chain{Closed: closed, Points: make([]geom.Vec, len(points))}
	for i, v := range points {
		c.Points[i] = m.Points[v]
	}
	return c
}

// walk goes on from edge e over its point v and returns the points passed, the far
// one of e first. It is closed when it comes back to e.
func (m *Mesh) walk(e edge, v int32, next func(edge, int32) (edge, bool)) (points []int32, closed bool) {
	start := e
	points = []int32{e.other(v), v}
	seen := map[edge]bool{e: true}
	for {
		n, ok := next(e, v)
		if !ok {
			return points, false
		}
		if n == start {
			return points, points[len(points)-1] == points[0]
		}
		if seen[n] {
			return points, false
		}
		seen[n] = true
		e, v = n, n.other(v)
		points = append(points, v)
	}
}

func (m *Mesh) share(a, b edge) bool {
	s, t := m.edges[a], m.edges[b]
	for _, f := range s.face {
		if f >= 0 && (f == t.face[0] || f == t.face[1]) {
			return true
		}
	}
	return false
}

// nextOfLoop is the edge at v that shares no face with e, where there is just one;
// on a rim the rim goes on.
func (m *Mesh) nextOfLoop(e edge, v int32) (edge, bool) {
	if m.edges[e].face[1] < 0 {
		return m.nextOfRim(e, v)
	}
	var found edge
	count := 0
	for _, n := range m.around[v] {
		if n != e && !m.share(e, n) && m.edges[n].face[1] >= 0 {
			found = n
			count++
		}
	}
	return found, count == 1 && len(m.around[v]) == 4
}

func (m *Mesh) nextOfRim(e edge, v int32) (edge, bool) {
	var found edge
	count := 0
	for _, n := range m.around[v] {
		if n != e && m.edges[n].face[1] < 0 {
			found = n
			count++
		}
	}
	return found, count == 1
}

// fold is the angle by which the surface bends over an edge.
func (m *Mesh) fold(e edge) float64 {
	s := m.edges[e]
	if s.face[1] < 0 {
		return math.Pi // a rim is as sharp as can be
	}
	return geom.Angle(m.faceNormal(m.faces[s.face[0]]), m.faceNormal(m.faces[s.face[1]]))
}

// nextOfCrease is the edge at v that folds most, when it folds by more than 20
// degrees, goes on within 60 degrees and no other does nearly as well.
func (m *Mesh) nextOfCrease(e edge, v int32) (edge, bool) {
	const leastFold, mostTurn = 20 * math.Pi / 180, 60 * math.Pi / 180
	in := m.Points[v].Sub(m.Points[e.other(v)])
	var found edge
	best, second := 0.0, 0.0
	for _, n := range m.around[v] {
		if n == e || geom.Angle(in, m.Points[n.other(v)].Sub(m.Points[v])) > mostTurn {
			continue
		}
		switch f := m.fold(n); {
		case f > best:
			found, best, second = n, f, best
		case f > second:
			second = f
		}
	}
	return found, best > leastFold && second < 0.8*best
}

// band walks over quads from edge e to the opposite one, both ways, and returns
// the middles.
func (m *Mesh) band(e edge) (Chain, error) {
	middle := func(e edge) geom.Vec { return m.Points[e[0]].Lerp(m.Points[e[1]], 0.5) }
	across := func(from edge, face int32) (ring []edge, closed bool) {
		at := from
		seen := map[edge]bool{from: true}
		for face >= 0 {
			f := m.faces[face]
			if len(f) != 4 {
				return ring, false
			}
			k := 0
			for k < 3 && edgeOf(f[k], f[(k+1)%4]) != at {
				k++
			}
			at = edgeOf(f[(k+2)%4], f[(k+3)%4])
			if at == from {
				return ring, true
			}
			if seen[at] {
				return ring, false
			}
			seen[at] = true
			ring = append(ring, at)
			s := m.edges[at]
			next := s.face[0]
			if next == face {
				next = s.face[1]
			}
			face = next
		}
		return ring, false
	}
	s := m.edges[e]
	ahead, closed := across(e, s.face[0])
	var out []geom.Vec
	if !closed {
		behind, _ := across(e, s.face[1])
		for i := len(behind) - 1; i >= 0; i-- {
			out = append(out, middle(behind[i]))
		}
	}
	out = append(out, middle(e))
	for _, n := range ahead {
		out = append(out, middle(n))
	}
	if len(out) < 2 {
		return Chain{}, errors.New("no band of four-sided faces crosses this edge: choose an edge that lies across a band")
	}
	return Chain{Points: out, Closed: closed}, nil
}

func distanceToSegment(p, a, b geom.Vec) float64 {
	d := b.Sub(a)
	t := 0.0
	if n := d.Norm2(); n > 0 {
		t = min(max(p.Sub(a).Dot(d)/n, 0), 1)
	}
	return p.Sub(a.Mad(d, t)).Norm()
}
