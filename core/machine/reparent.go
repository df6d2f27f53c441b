package machine

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"

	"bead/core/geom"
	"bead/core/motion"
	"bead/core/scene"
)

// Kinds of things that ride on carriers.
const (
	KindCarrier = "carrier"
	KindPath    = "path"
	KindFixture = "fixture"
)

// Reparent returns the document with a carrier, path or fixture riding on another
// carrier ("" for the master or the world) and staying where it is in the world: a
// path or fixture as it is at a frame, a carrier as it is in every frame of the
// range. A moving carrier keeps its keys where the two parents only stand apart;
// else it gets a key on every frame.
func (s *Machine) Reparent(kind, id, to string, frame float64) (*scene.Document, error) {
	d, err := copied(s.Doc)
	if err != nil {
		return nil, err
	}
	parent := slices.IndexFunc(d.Carriers, func(c scene.Carrier) bool { return c.ID == d.Parent(to) })
	if parent < 0 && to != "" {
		return nil, fmt.Errorf("%q is no carrier of this scene", to)
	}
	switch kind {
	case KindPath:
		i := slices.IndexFunc(d.Paths, func(p scene.Path) bool { return p.ID == id })
		if i < 0 || d.Paths[i].Shape.Track != nil {
			return nil, fmt.Errorf("%q is no path that can ride on a carrier", id)
		}
		stand := s.CarrierPlace(parent, frame).Inverse().Mul(s.PathPlace(i, frame))
		d.Paths[i].Carrier, d.Paths[i].Rest = to, scene.StandOf(rounded(stand))
	case KindFixture:
		i := slices.IndexFunc(d.Fixtures, func(f scene.Fixture) bool { return f.ID == id })
		if i < 0 {
			return nil, fmt.Errorf("%q is no fixture of this scene", id)
		}
		f := &d.Fixtures[i]
		was := f.Stand()
		now := rounded(s.CarrierPlace(parent, frame).Inverse().Mul(s.CarrierPlace(s.Fixtures[i].Carrier, frame)).Mul(was))
		h, p, b := now.Turns()
		f.Carrier, f.At, f.Heading, f.Pitch, f.Bank = to, now.P.Array(), h*inDegrees, p*inDegrees, b*inDegrees
	case KindCarrier:
		i := slices.IndexFunc(d.Carriers, func(c scene.Carrier) bool { return c.ID == id })
		if i < 0 || d.Carriers[i].Ride != nil {
			return nil, fmt.Errorf("%q is no carrier that can ride on another: one on a path rides on the path's carrier", id)
		}
		if d.Carriers[i].Parent = to; to == "" && id == d.Master {
			parent = -1
		}
		s.stay(&d.Carriers[i], i, parent)
	default:
		return nil, fmt.Errorf("%q does not ride on carriers: %s, %s and %s do", kind, KindCarrier, KindPath, KindFixture)
	}
	return checked(d, nil)
}

const inDegrees = 180 / math.Pi

func copied(d *scene.Document) (*scene.Document, error) {
	data, err := json.Marshal(d)
	if err != nil {
		return nil, err
	}
	var out scene.Document
	return &out, json.Unmarshal(data, &out)
}

// rounded removes rounding from a motion that moves nothing, so that moving there and back leaves a document
// as it was.
func rounded(m geom.Rigid) geom.Rigid {
	for _, v := range []*geom.Vec{&m.P, &m.X, &m.Y, &m.Z} {
		for _, x := range []*float64{&v.X, &v.Y, &v.Z} {
			if r := math.Round(*x*1e6) / 1e6; math.Abs(*x-r) < 1e-14 {
				*x = r
			}
		}
	}
	return m
}

// stay gives carrier i values that keep it in place under another parent.
func (s *Machine) stay(c *scene.Carrier, i, parent int) {
	r := s.Doc.Range
	own := func(f float64) geom.Rigid { return s.CarrierPlace(parent, f).Inverse().Mul(s.CarrierPlace(i, f)) }
	// How the two parents stand to each other.
	between := func(f float64) geom.Rigid {
		return rounded(s.CarrierPlace(parent, f).Inverse().Mul(s.CarrierPlace(s.carriers[i].parent, f)))
	}
	values := []*motion.Value{&c.At[0], &c.At[1], &c.At[2], &c.Turn.Heading, &c.Turn.Pitch, &c.Turn.Bank}
	// Where they keep apart by the same, keys can be kept and shifted; else every frame needs one.
	apart, still := between(s.Clock.First), true
	for f := r.First; f <= r.Last; f++ {
		still = still && between(float64(f)) == apart
	}
	moves := slices.ContainsFunc(values, func(v *motion.Value) bool { return v.Moves() })
	six := func(m geom.Rigid) [6]float64 {
		h, p, b := m.Turns()
		return [6]float64{m.P.X, m.P.Y, m.P.Z, h * inDegrees, p * inDegrees, b * inDegrees}
	}
	switch {
	case still && !moves:
		for k, v := range six(rounded(own(s.Clock.First))) {
			*values[k] = motion.Number(v)
		}
	// Not turned against each other: shifting the values is all, in whatever way they are keyed.
	case still && apart.X == geom.Still.X && apart.Y == geom.Still.Y:
		for k, by := range apart.P.Array() {
			values[k].Shift(by)
		}
	default:
		keys := make([][]motion.Key, 6)
		for f := r.First; f <= r.Last; f++ {
			for k, v := range six(own(float64(f))) {
				if n := len(keys[k]); k > 2 && n > 0 { // angles go on from where they were
					v += 360 * math.Round((keys[k][n-1].Value-v)/360)
				}
				keys[k] = append(keys[k], motion.Key{Frame: float64(f), Value: v})
			}
		}
		for k := range values {
			*values[k] = motion.Value{Keys: keys[k], Before: motion.CarryOn, After: motion.CarryOn}
		}
	}
}
