package rig

import (
	"math"

	"bead/core/geom"
	"bead/core/sim"
)

// surround prepares the forces and contacts of the cloth.
func (r *clothRun) surround() {
	d := r.t.drape
	r.around = sim.Surroundings{Gravity: geom.V(0, -gravity*(1-d.Buoyancy), 0), Damping: d.Damping, Friction: d.Friction, Pins: r.pin}
	speed := geom.FromArray(d.Air.Speed)
	r.around.Density = densities[d.Air.Medium]
	if r.around.Density > 0 {
		r.around.Flow = func(geom.Vec) geom.Vec { return speed }
		if d.Air.Gusts > 0 && speed != (geom.Vec{}) {
			r.around.Flow = r.gusts(speed)
		}
	}
	r.around.Push = func(at geom.Vec) (float64, geom.Vec) { return pushed(r.t.scene, r.solids, at, d.Thickness) }
}

// gusts is the flow with gusts: a seeded sum of waves that travel with the flow and repeat with the range.
func (r *clothRun) gusts(speed geom.Vec) func(geom.Vec) geom.Vec {
	d, rg := r.t.drape, r.t.scene.Doc.Range
	// Any odd multiplier: seeds next to each other must not give phases next to each other.
	chance := geom.Chance(uint64(d.Seed)*2654435761 + 97)
	var size, phase [gustHarmonics]float64
	sum := 0.0
	for k := range size {
		// The k-th wave has a k-th of the size of the first: gusts are made of few large and many small ones.
		size[k], phase[k] = 1/float64(k+1), 2*math.Pi*chance.Next()
		sum += size[k]
	}
	ahead := speed.Unit()
	// Every other wave is uniform in space; the rest travel: sin(a - x) = sin a cos x - cos a sin x.
	// Worked out once a step and not once a point: only the wave's place along the flow differs from point to point.
	now, all, sines, cosines := math.NaN(), 0.0, 0.0, 0.0
	return func(at geom.Vec) geom.Vec {
		if r.now != now {
			now, all, sines, cosines = r.now, 0, 0, 0
			turn := 2 * math.Pi * (now - float64(rg.First)) / float64(rg.Count())
			for k := range size {
				sin, cos := math.Sincos(float64(k+1)*turn + phase[k])
				if k%2 == 0 {
					all += size[k] * sin
				} else {
					sines, cosines = sines+size[k]*sin, cosines+size[k]*cos
				}
			}
		}
		sin, cos := math.Sincos(2 * math.Pi * at.Dot(ahead) / gustLength)
		// The waves hardly ever all add up: half of the greatest sum that they could reach counts as a whole gust.
		return speed.Mul(1 + d.Air.Gusts*(all+sines*cos-cosines*sin)/sum*2)
	}
}

// pushed is the depth of a point in the ground or in a fixture grown by thick, metres, and the direction out.
func pushed(s *Scene, solids []clothSolid, at geom.Vec, thick float64) (depth float64, normal geom.Vec) {
	height, slope := s.Ground().Height(at.Z)
	// On a slope a point is within thick of the ground from farther above it.
	if at.Y-height < thick*(1+math.Abs(slope)) {
		long := math.Hypot(1, slope)
		if deep := (height-at.Y)/long + thick; deep > 0 {
			depth, normal = deep, geom.V(0, 1/long, -slope/long)
		}
	}
	for i := range solids {
		f := &solids[i]
		p := f.back.Apply(at)
		// The box first: most points are near no fixture.
		if p.X < f.box.Min.X-thick || p.X > f.box.Max.X+thick || p.Y < f.box.Min.Y-thick || p.Y > f.box.Max.Y+thick || p.Z < f.box.Min.Z-thick || p.Z > f.box.Max.Z+thick {
			continue
		}
		q, n := f.mesh.Nearest(p)
		// Below 0 it is outside: n points out of the fixture at the nearest place of its surface.
		if deep := thick - p.Sub(q).Dot(n); deep > depth {
			depth, normal = deep, f.pose.Turn(n)
		}
	}
	return depth, normal
}

// placed puts fixtures where they are at a frame.
func placed(s *Scene, solids []clothSolid, frame float64) {
	for i := range solids {
		f := &s.Fixtures[solids[i].fixture]
		solids[i].pose = s.CarrierPlace(f.Carrier, frame).Mul(f.Rest)
		solids[i].back = solids[i].pose.Inverse()
	}
}
