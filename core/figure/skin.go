package figure

import (
	"fmt"
	"math"

	"bead/core/geom"
)

// Skin is a mesh whose vertices go along with up to four joints each, by their weights (glTF 2.0,
// 3.7.3.1).
type Skin struct {
	Mesh    *geom.Mesh
	Joints  [][4]uint16
	Weights [][4]float32
	Binds   []Affine // of each joint: from the mesh's axes to the joint's as it was bound
	Colour  [4]float32
}

// Affine is a motion that may scale: three columns and a place.
type Affine struct{ X, Y, Z, P geom.Vec }

// Apply brings a place along.
func (a Affine) Apply(p geom.Vec) geom.Vec { return a.P.Add(a.Turn(p)) }

// Turn brings a way along.
func (a Affine) Turn(v geom.Vec) geom.Vec { return a.X.Mul(v.X).Mad(a.Y, v.Y).Mad(a.Z, v.Z) }

// After is what a motion makes of it.
func (a Affine) After(m geom.Rigid) Affine {
	return Affine{m.Turn(a.X), m.Turn(a.Y), m.Turn(a.Z), m.Apply(a.P)}
}

// Bound is the inverse of a joint's place, as a bind.
func Bound(m geom.Rigid) Affine {
	i := m.Inverse()
	return Affine{i.X, i.Y, i.Z, i.P}
}

func (s *Skin) check(joints int) error {
	n := len(s.Mesh.Positions) / 3
	if len(s.Joints) != n || len(s.Weights) != n || len(s.Binds) != joints {
		return fmt.Errorf("the skin has weights of %d vertices of %d, and binds of %d joints of %d", len(s.Weights), n, len(s.Binds), joints)
	}
	for v := range s.Weights {
		sum := float32(0)
		for k, w := range s.Weights[v] {
			if !(w >= 0) || int(s.Joints[v][k]) >= joints {
				return fmt.Errorf("vertex %d goes along with no joint of the figure, or by a weight below 0", v)
			}
			sum += w
		}
		if math.Abs(float64(sum)-1) > 1e-3 {
			return fmt.Errorf("the weights of vertex %d sum to %.4g: a sum of 1 is accepted", v, sum)
		}
		for k := range s.Weights[v] { // what is left of rounding is shared out, and a joint stands once
			s.Weights[v][k] /= sum
			for i := range k {
				if s.Joints[v][i] == s.Joints[v][k] {
					s.Weights[v][i], s.Weights[v][k] = s.Weights[v][i]+s.Weights[v][k], 0
					break
				}
			}
		}
	}
	return nil
}

// Pose writes the skin's vertices and normals for joints in the world; binds is work space that is
// kept between calls. scale is that of the figure about its joints' places.
func (s *Skin) Pose(positions, normals []float32, joints []geom.Rigid, scale float64, binds []Affine) []Affine {
	binds = binds[:0]
	for j := range joints {
		b := s.Binds[j]
		b.X, b.Y, b.Z, b.P = b.X.Mul(scale), b.Y.Mul(scale), b.Z.Mul(scale), b.P.Mul(scale)
		binds = append(binds, b.After(joints[j]))
	}
	m := s.Mesh
	for v := range s.Weights {
		at := geom.V(float64(m.Positions[3*v]), float64(m.Positions[3*v+1]), float64(m.Positions[3*v+2]))
		way := geom.V(float64(m.Normals[3*v]), float64(m.Normals[3*v+1]), float64(m.Normals[3*v+2]))
		b := &binds[s.Joints[v][0]]
		p, n := b.Apply(at), b.Turn(way)
		if w := s.Weights[v]; w[0] < 1 {
			p, n = p.Mul(float64(w[0])), n.Mul(float64(w[0]))
			for k := 1; k < 4; k++ {
				if w[k] != 0 {
					b := &binds[s.Joints[v][k]]
					p, n = p.Mad(b.Apply(at), float64(w[k])), n.Mad(b.Turn(way), float64(w[k]))
				}
			}
		}
		n = n.Unit()
		positions[3*v], positions[3*v+1], positions[3*v+2] = float32(p.X), float32(p.Y), float32(p.Z)
		normals[3*v], normals[3*v+1], normals[3*v+2] = float32(n.X), float32(n.Y), float32(n.Z)
	}
	return binds
}

// RestMesh is the skin as it is when nothing moves it, its lengths times scale.
func (f *Figure) RestMesh(scale float64) *geom.Mesh {
	n := len(f.Skin.Mesh.Positions)
	out := &geom.Mesh{Positions: make([]float32, n), Normals: make([]float32, n), Indices: f.Skin.Mesh.Indices, UVs: f.Skin.Mesh.UVs, Tiles: f.Skin.Mesh.Tiles, Groups: f.Skin.Mesh.Groups}
	rest := f.AtRest()
	for i := range rest {
		rest[i].P = rest[i].P.Mul(scale)
	}
	f.Skin.Pose(out.Positions, out.Normals, rest, scale, nil)
	return out
}

// Bones makes a skin for a figure that has none: a slender bone from each joint to each that hangs
// from it and to its tips, with a knob at the joint.
func (f *Figure) Bones() *Skin {
	s := &Skin{Mesh: &geom.Mesh{}, Colour: [4]float32{0.62, 0.6, 0.55, 1}}
	rest := f.AtRest()
	for _, m := range rest {
		s.Binds = append(s.Binds, Bound(m))
	}
	size := 0.0
	for i, j := range f.Joints {
		if j.Parent >= 0 {
			size = max(size, rest[i].P.Sub(rest[j.Parent].P).Norm())
		}
	}
	for i, j := range f.Joints {
		if j.Parent >= 0 {
			s.bone(rest[j.Parent].P, rest[i].P, uint16(j.Parent), size)
		}
		for _, e := range j.Ends {
			s.bone(rest[i].P, rest[i].Apply(e), uint16(i), size)
		}
	}
	if len(s.Weights) == 0 { // one joint, and no tip: something is to be seen
		s.bone(rest[0].P, rest[0].P.Add(geom.V(0, 1, 0)), 0, 1)
	}
	return s
}

// bone adds a bone of eight faces, widest at a sixth of its length.
func (s *Skin) bone(a, b geom.Vec, joint uint16, size float64) {
	way := b.Sub(a)
	long := way.Norm()
	if long < 1e-9*size || long == 0 {
		return
	}
	u := geom.AnyPerpendicular(way.Unit())
	w := way.Unit().Cross(u)
	wide := min(0.09*long, 0.05*size)
	mid := a.Mad(way, 1.0/6)
	var ring [4]geom.Vec
	for k := range ring {
		sin, cos := math.Sincos(float64(k) * math.Pi / 2)
		ring[k] = mid.Mad(u, wide*cos).Mad(w, wide*sin)
	}
	face := func(p, q, r geom.Vec) {
		n := q.Sub(p).Cross(r.Sub(p)).Unit()
		for _, v := range [3]geom.Vec{p, q, r} {
			s.Mesh.Indices = append(s.Mesh.Indices, uint32(len(s.Weights)))
			s.Mesh.Positions = append(s.Mesh.Positions, float32(v.X), float32(v.Y), float32(v.Z))
			s.Mesh.Normals = append(s.Mesh.Normals, float32(n.X), float32(n.Y), float32(n.Z))
			s.Joints, s.Weights = append(s.Joints, [4]uint16{joint}), append(s.Weights, [4]float32{1})
		}
	}
	for k := range ring {
		next := ring[(k+1)%4]
		face(a, next, ring[k])
		face(b, ring[k], next)
	}
}
