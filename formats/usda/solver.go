package usda

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/rig"
)

// For those who go on in a solver of rigid bodies: the pieces as they stand in the first frame, each a
// rigid body with its mass and the hull of its mesh as collider; fixtures and the ground stand still.
// The names are those of the UsdPhysics schema (USD's documentation, "Rigid Body Physics in USD").

// gravity is the standard acceleration of free fall, m/s^2 (ISO 80000-3).
const gravity = 9.80665

// farGround is how far the level ground reaches from the middle, metres.
const farGround = 100

const (
	bodyAPIs  = "    prepend apiSchemas = [\"PhysicsRigidBodyAPI\", \"PhysicsMassAPI\"]\n"
	hullAPIs  = "    prepend apiSchemas = [\"PhysicsCollisionAPI\", \"PhysicsMeshCollisionAPI\", \"MaterialBindingAPI\"]\n"
	convex    = `uniform token physics:approximation = "convexHull"`
	asItIs    = `uniform token physics:approximation = "none"`
	noDensity = 1e-9
)

// physics writes the scene that all bodies are in, and the ground.
func (b *Baker) physics(w *writer) {
	w.open("PhysicsScene", "Physics", "")
	w.line("vector3f physics:gravityDirection = (0, -1, 0)")
	w.line(fmt.Sprintf("float physics:gravityMagnitude = %g", gravity))
	w.close()
	profile := b.scene.Ground()
	at := [][2]float64{{-farGround, 0}, {farGround, 0}}
	if n := len(profile); n > 0 {
		at = [][2]float64{{profile[0].X - farGround, profile[0].Y}}
		for _, p := range profile {
			at = append(at, [2]float64{p.X, p.Y})
		}
		at = append(at, [2]float64{profile[n-1].X + farGround, profile[n-1].Y})
	}
	var m geom.Mesh
	for k, p := range at {
		for _, x := range [2]float32{-farGround, farGround} {
			m.Positions = append(m.Positions, x, float32(p[1]), float32(p[0]))
			m.Normals = append(m.Normals, 0, 1, 0)
		}
		if k > 0 {
			a := uint32(2*k - 2)
			m.Indices = append(m.Indices, a, a+2, a+3, a, a+3, a+1)
		}
	}
	w.collider("Ground", nil, &m, asItIs)
}

// collider writes a mesh that bodies touch.
func (w *writer) collider(name string, of *rig.Thing, m *geom.Mesh, as string) {
	w.openWith("Mesh", name, "", hullAPIs)
	w.line(as)
	w.surface(m)
	if of != nil {
		w.bound(of, m)
	}
	w.close()
}

// body writes a piece as a rigid body that begins where its track does.
func (b *Baker) body(w *writer, of *rig.Thing, t track) {
	mesh := of.Model.Mesh()
	if b.Centred {
		mesh = of.Model.CentredMesh()
	}
	if t[7] == 0 {
		return // it has not come yet
	}
	scale := float64(t[7])
	w.openWith("Xform", of.Short, of.Short, bodyAPIs)
	w.line(fmt.Sprintf("float physics:mass = %g", max(b.Density*volume(mesh)*scale*scale*scale, noDensity)))
	b.still(w, t)
	w.collider("mesh", of, mesh, convex)
	w.close()
}

// still writes the first place of a track alone.
func (b *Baker) still(w *writer, t track) {
	first := *b
	first.Frames = 1
	first.moves(w, t[:rig.Stride])
}

// volume is that within a mesh, by the divergence theorem; of its box where it is not closed.
func volume(m *geom.Mesh) float64 {
	at := func(i uint32) geom.Vec {
		return geom.V(float64(m.Positions[3*i]), float64(m.Positions[3*i+1]), float64(m.Positions[3*i+2]))
	}
	v := 0.0
	for i := 0; i+2 < len(m.Indices); i += 3 {
		v += at(m.Indices[i]).Dot(at(m.Indices[i+1]).Cross(at(m.Indices[i+2]))) / 6
	}
	size := m.Bounds().Size()
	if box := size.X * size.Y * size.Z; !(v > 1e-6*box) || v > box*(1+1e-6) {
		return math.Abs(box)
	}
	return v
}
