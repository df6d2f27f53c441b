package scene

import (
	"reflect"
	"slices"
	"strings"

	"bead/core/motion"
)

// Resize scales a path and the paths that are joined to it about a place of the path's own space, as
// Path.Resize does.
func (d *Document) Resize(path int, times float64, about Vec3) error {
	for _, i := range d.joined(path, nil) {
		if err := d.Paths[i].Resize(times, about); err != nil {
			return err
		}
	}
	return nil
}

// joined is a path and those that are joined to it, each once.
func (d *Document) joined(path int, known []int) []int {
	if slices.Contains(known, path) {
		return known
	}
	known = append(known, path)
	for _, s := range d.Paths[path].Steps {
		if s.Join == nil {
			continue
		}
		for _, id := range s.Join.Paths {
			if i := slices.IndexFunc(d.Paths, func(p Path) bool { return p.ID == id }); i >= 0 {
				known = d.joined(i, known)
			}
		}
	}
	return known
}

// ResizeWithRigs is Resize with the rigs on the paths: it scales pieces, spacing, travel, and all distances
// along the paths, also those of carriers and cameras that ride along them, and the tugs that pull them.
// Wheels keep their rpm. A value that rolls with a carrier or follows another value keeps its way. Gravity is
// not scaled: leaning, toppling, cloth and lags change with the size.
func (d *Document) ResizeWithRigs(path int, times float64, about Vec3) error {
	if err := d.Resize(path, times, about); err != nil {
		return err
	}
	paths, rigs := map[string]bool{}, map[string]bool{} // rigs by what their values begin with
	for _, i := range d.joined(path, nil) {
		paths[d.Paths[i].ID] = true
	}
	for i := range d.Rigs {
		if r := &d.Rigs[i]; paths[r.Path] {
			r.Scale *= times
			r.resize(times)
			rigs["rigs/"+r.ID] = true
		}
	}
	for _, s := range d.Slots() {
		if paths[s.Path] || s.Unit == Metres && rigs[s.Ref[:strings.LastIndexByte(s.Ref, '/')]] {
			resizeWay(s.Value, times)
		}
	}
	for i := range d.Tugs {
		if t := &d.Tugs[i]; paths[t.Path] {
			t.Reach *= times
			for k := range t.Pull {
				t.Pull[k].Times(times)
			}
		}
	}
	return nil
}

// resize scales the lengths of a rig, except values that move.
func (r *Rig) resize(times float64) {
	each(reflect.ValueOf(r), func(v reflect.Value) bool {
		switch x := v.Addr().Interface().(type) {
		case *motion.Value, *Fabric: // what cloth is made of stays
			return true
		case *Spacing:
			x.Pitch, x.Gap = x.Pitch*times, x.Gap*times
		case *RollBead:
			x.At *= times
		case *Bank:
			x.Over *= times
		case *Rounds:
			x.Stride *= times
		case *Rider:
			x.Rolling *= times
		case *Layer:
			x.Looks *= times
		}
		ownLengths(v, func(x *float64) { *x *= times })
		return false
	})
}

// resizeWay scales a distance along a path, whatever its form. Turns of a wheel and rounds of a path stay.
func resizeWay(v *motion.Value, times float64) {
	switch {
	case v.Of != nil:
		v.Of.Offset *= times
	case v.RPM != nil:
		v.RPM.Radius, v.RPM.Start = v.RPM.Radius*times, v.RPM.Start*times
	case v.Turns != nil:
		v.Turns.Start *= times
	case v.Rolls != nil:
		v.Rolls.Start *= times
	default:
		v.Times(times)
	}
}
