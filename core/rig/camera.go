package rig

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/machine"
	"bead/core/scene"
)

// camera is a compiled camera.
type camera struct {
	doc                  *scene.Camera
	on                   int // carrier, or -1
	ride                 *machine.Ride
	beside               *thing
	aimed                *thing // nil of a place in the world
	at, aim              [3]*machine.Signal
	heading, pitch, bank *machine.Signal
	lens                 *machine.Signal
	started              geom.Vec // where what it goes alongside was in the first frame
}

// thing is what a camera goes alongside or looks at.
type thing struct {
	rig     *Rig
	carrier int
}

func (s *Scene) whereIs(t *thing, frame float64) geom.Vec {
	if t.rig != nil {
		return t.rig.placeOf(0, frame)
	}
	return s.CarrierPlace(t.carrier, frame).P
}

// Looking is how a camera looks in a frame: where it is, looking along its own z with y up, and the
// angle that its picture takes in from top to bottom, radians.
type Looking struct {
	Place Place
	Angle float32
}

func (c *compiler) camera(i int) {
	d, k := &c.Doc.Cameras[i], &c.scene.cameras[i]
	k.doc, k.on = d, c.CarrierIndex(d.Carrier)
	get := func(field string) *machine.Signal { return c.Value("cameras/" + d.ID + "/" + field) }
	k.at = [3]*machine.Signal{get("x"), get("y"), get("z")}
	k.heading, k.pitch, k.bank, k.lens = get("heading"), get("pitch"), get("bank"), get("lens")
	if d.Ride != nil {
		k.ride = c.NewRide(d.Ride, get("distance"), fmt.Sprintf("cameras[%d].ride", i))
	}
	of := func(rig, carrier string) *thing {
		switch {
		case rig != "":
			return &thing{rig: &c.scene.Rigs[c.RigAt(rig)]}
		case carrier != "":
			return &thing{carrier: c.CarrierAt(carrier)}
		}
		return nil
	}
	if d.Beside != nil {
		k.beside = of(d.Beside.Rig, d.Beside.Carrier)
	}
	if d.Aim != nil {
		k.aim = [3]*machine.Signal{get("aim-x"), get("aim-y"), get("aim-z")}
		k.aimed = of(d.Aim.Rig, d.Aim.Carrier)
	}
	// Only a machine without faults can say where something was.
	if k.beside != nil && !c.Faulty() {
		k.started = c.scene.whereIs(k.beside, c.Clock.First)
	}
}

// Look is how camera i looks at a frame that may lie between two.
func (s *Scene) Look(i int, frame float64) Looking {
	k := &s.cameras[i]
	vec := func(v *[3]*machine.Signal) geom.Vec {
		return geom.V(v[0].At(frame, s.Clock), v[1].At(frame, s.Clock), v[2].At(frame, s.Clock))
	}
	const degree = math.Pi / 180
	bank := k.bank.At(frame, s.Clock) * degree
	// Bank counts for one that is aimed, too; heading and pitch come from where it looks then.
	m := geom.Turned(k.heading.At(frame, s.Clock)*degree, k.pitch.At(frame, s.Clock)*degree, bank)
	m.P = vec(&k.at)
	switch {
	case k.ride != nil:
		m = s.RidePlace(k.ride, frame).Mul(m)
	case k.beside != nil:
		// It moves as that has moved, and is not turned by it.
		m.P = m.P.Add(s.whereIs(k.beside, frame).Sub(k.started))
	case k.on >= 0:
		m = s.CarrierPlace(k.on, frame).Mul(m)
	}
	if k.doc.Aim != nil {
		target := vec(&k.aim)
		if k.aimed != nil {
			target = target.Add(s.whereIs(k.aimed, frame))
		}
		// On the very spot there is no way to look; it stays as it was turned.
		if to := target.Sub(m.P); to.Norm() > 1e-9 {
			at := m.P
			m = geom.Turned(math.Atan2(to.X, to.Z), math.Atan2(to.Y, math.Hypot(to.X, to.Z)), bank)
			m.P = at
		}
	}
	return Looking{PlaceOf(m), float32(k.doc.FieldOfView(k.lens.At(frame, s.Clock)))}
}

// Backward is the place for those whose cameras look along -z (glTF, USD): half a turn about y before it.
func (l *Looking) Backward() Place {
	// Half a turn about y is (0, 1, 0, 0); the product with it only moves and negates numbers, so no bit is lost.
	p := l.Place
	p[3], p[4], p[5], p[6] = -p[5], p[6], p[3], -p[4]
	return p
}
