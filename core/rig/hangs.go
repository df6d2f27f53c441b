package rig

import (
	"bead/core/bend"
	"bead/core/geom"
	"bead/core/machine"
)

// World is the carrier of what hangs from none.
const World = machine.World

// CameraParent is the carrier that camera i hangs from, or World.
func (s *Scene) CameraParent(i int) int { return s.cameras[i].on }

// Under is a place in the world as it is seen from a carrier. Its rotation stays on one side from frame
// to frame where those of the two do.
func (p *Picture) Under(carrier int, x Place) Place {
	if carrier == World {
		return x
	}
	// As quaternions: a product of matrices turned back into one may come out with the other sign from frame to frame.
	return p.Carriers[carrier].inverse().Mul(x)
}

func (p Place) inverse() Place {
	// The inverse of a unit quaternion is the same with its axis negated.
	out := Place{0, 0, 0, -p[3], -p[4], -p[5], p[6]}
	at := p.Rigid().Inverse().P
	out[0], out[1], out[2] = float32(at.X), float32(at.Y), float32(at.Z)
	return out
}

// PlaceUnder is where a rigid thing stands, seen from the carrier that its group hangs from.
func (g *Group) PlaceUnder(p *Picture, thing int, centred bool) [Stride]float32 {
	x := g.place(p, thing)
	if centred {
		x = g.Centred(p, thing)
	}
	if g.Carrier != World {
		at := p.Under(g.Carrier, Place(x[:7]))
		copy(x[:7], at[:])
	}
	return x
}

// SectionUnder is a section of a body, seen from the carrier that its group hangs from: its place and
// its rotation.
func (g *Group) SectionUnder(p *Picture, s *bend.Section) Place {
	m := geom.Rigid{P: s.P, X: s.S, Y: s.U, Z: s.T}
	return PlaceOf(g.fromWorld(p).Mul(m))
}

// fromWorld brings what is in the world to the axes of the group's carrier.
func (g *Group) fromWorld(p *Picture) geom.Rigid {
	if g.Carrier == World {
		return geom.Still
	}
	return p.Carriers[g.Carrier].Rigid().Inverse()
}

// VerticesUnder are copies of those of a surface and of their normals, seen from the carrier that its
// group hangs from.
func (g *Group) VerticesUnder(p *Picture, thing int) (positions, normals []float32) {
	positions, normals = g.Vertices(p, thing)
	// Copies in the world, too: who reads them may move them on.
	positions, normals = append([]float32(nil), positions...), append([]float32(nil), normals...)
	if g.Carrier == World {
		return positions, normals
	}
	m := g.fromWorld(p)
	for i := 0; i+2 < len(positions); i += 3 {
		at := m.Apply(geom.V(float64(positions[i]), float64(positions[i+1]), float64(positions[i+2])))
		n := m.Turn(geom.V(float64(normals[i]), float64(normals[i+1]), float64(normals[i+2])))
		positions[i], positions[i+1], positions[i+2] = float32(at.X), float32(at.Y), float32(at.Z)
		normals[i], normals[i+1], normals[i+2] = float32(n.X), float32(n.Y), float32(n.Z)
	}
	return positions, normals
}

// JointsUnder are those of a figure, seen from the carrier that its group hangs from.
func (g *Group) JointsUnder(p *Picture, thing int) []geom.Rigid {
	joints := g.Joints(p, thing)
	if g.Carrier == World {
		return joints
	}
	m := g.fromWorld(p)
	out := make([]geom.Rigid, len(joints))
	for i := range joints {
		out[i] = m.Mul(joints[i])
	}
	return out
}

// Flat are the groups, all in the world.
func Flat(groups []Group) []Group {
	for i := range groups {
		groups[i].Carrier = World
	}
	return groups
}

// Facts are what a delivered group tells of itself to those who go on with it.
type Facts struct {
	Kind   string // of the rig
	Rig    string // its id
	Path   string // its path's id
	Pitch  float64
	Pinned bool // its pieces are linked by pins
}

// Facts of a group; false of one that is no rig's.
func (g *Group) Facts() (Facts, bool) {
	if g.rig == nil {
		return Facts{}, false
	}
	r := g.rig.rig
	// What bends has no pins left to link, whatever its train sits on.
	return Facts{Kind: r.Kind(), Rig: r.ID, Path: r.Path, Pitch: g.rig.Layout.Pitch, Pinned: g.rig.Pinned && !g.Surfaces}, true
}

// Pins are where the pins of a piece are behind and ahead in its model's axes, and the axis about which
// its neighbours turn there. Those of a piece that is Centred are seen from its centre.
func (g *Group) Pins(thing int, centred bool) (behind, ahead, axis geom.Vec) {
	t := g.rig
	part := t.PartOf(thing)
	axes, seat := t.scene.Parts[part].Axes, t.seatOf(thing)
	middle := axes.Pivot.Mad(axes.Forward, seat.middle)
	if centred {
		middle = middle.Sub(g.Things[thing].Model.Centre())
	}
	half := t.Layout.Pitch / t.scale / 2
	return middle.Mad(axes.Forward, -half), middle.Mad(axes.Forward, half), axes.Side
}
