package gltf

import "bead/core/geom"

// affine is a node's place: columns x, y, z and the offset.
type affine struct{ x, y, z, o geom.Vec }

func (a affine) point(p geom.Vec) geom.Vec { return a.o.Add(a.vector(p)) }
func (a affine) vector(p geom.Vec) geom.Vec {
	return a.x.Mul(p.X).Mad(a.y, p.Y).Mad(a.z, p.Z)
}

func (a affine) times(b affine) affine {
	return affine{a.vector(b.x), a.vector(b.y), a.vector(b.z), a.point(b.o)}
}

func (n *sourceNode) place() affine {
	if m := n.Matrix; m != nil {
		return affine{geom.V(m[0], m[1], m[2]), geom.V(m[4], m[5], m[6]), geom.V(m[8], m[9], m[10]), geom.V(m[12], m[13], m[14])}
	}
	a := affine{x: geom.V(1, 0, 0), y: geom.V(0, 1, 0), z: geom.V(0, 0, 1)}
	if q := n.Rotation; q != nil {
		r := geom.Quat{X: q[0], Y: q[1], Z: q[2], W: q[3]}
		a.x, a.y, a.z = r.Apply(a.x), r.Apply(a.y), r.Apply(a.z)
	}
	if s := n.Scale; s != nil {
		a.x, a.y, a.z = a.x.Mul(s[0]), a.y.Mul(s[1]), a.z.Mul(s[2])
	}
	if t := n.Translation; t != nil {
		a.o = geom.FromArray(*t)
	}
	return a
}
