// Package figure holds figures of joints: their motion as it was made, the cycle that it is and where
// its feet stand, legs that reach for places, and the skin about the joints.
//
// The form is that of the open formats: joints hang from one another, each turned and moved in the
// axes of the one before (BVH; glTF 2.0, 3.7.3).
package figure

import (
	"errors"
	"fmt"
	"math"
	"sort"

	"bead/core/geom"
)

// Joint is one of a figure. A figure's joints stand after those that they hang from.
type Joint struct {
	Name   string
	Parent int        // -1 of the root
	Rest   geom.Rigid // in the axes of its parent
	// Ends are the tips of what hangs from it and has no joint of its own, in its own axes.
	Ends []geom.Vec
	// Order is the order of its turns in a file of Euler angles, "ZXY" or another; "" of none.
	Order string
	// Moves is set of a joint that is also moved in the axes of its parent.
	Moves bool
}

// Figure is joints with their motion and, where it has one, a skin.
type Figure struct {
	Joints []Joint
	// Times are those of the keys in seconds, rising from the first; Turns and Shifts, by key and
	// joint, what each joint is turned by and where it is in the axes of its parent.
	Times  []float64
	Turns  [][]geom.Quat
	Shifts [][]geom.Vec
	Skin   *Skin
}

// What a figure may have at most.
const (
	MaxJoints = 500
	MaxKeys   = 20_000
	MaxPlaces = 4_000_000 // joints times keys
	maxPlace  = 1e7
)

// Check reports what makes a figure unusable; code after it relies on it.
func (f *Figure) Check() error {
	switch n := len(f.Joints); {
	case n == 0:
		return errors.New("it has no joints")
	case n > MaxJoints:
		return fmt.Errorf("it has %d joints: up to %d are read", n, MaxJoints)
	case len(f.Times) == 0:
		return errors.New("it has no keys: one or more are accepted")
	case len(f.Times) > MaxKeys || len(f.Times)*n > MaxPlaces:
		return fmt.Errorf("it has %d keys of %d joints: up to %d keys, and %d places in all, are read", len(f.Times), n, MaxKeys, MaxPlaces)
	}
	for i, j := range f.Joints {
		if (i == 0) != (j.Parent < 0) {
			if i == 0 {
				return fmt.Errorf("joint %q stands first and hangs from another", j.Name)
			}
			return fmt.Errorf("%q is a second root beside %q: a figure with one root is accepted", j.Name, f.Joints[0].Name)
		}
		if j.Parent >= i {
			return fmt.Errorf("joint %q stands before the one that it hangs from", j.Name)
		}
		if !within(j.Rest.P) {
			return fmt.Errorf("joint %q is at no place within ±%g", j.Name, maxPlace)
		}
		for _, e := range j.Ends {
			if !within(e) {
				return fmt.Errorf("a tip of joint %q is at no place within ±%g", j.Name, maxPlace)
			}
		}
	}
	for k, t := range f.Times {
		if k > 0 && !(t > f.Times[k-1]) || math.IsInf(t, 0) || math.IsNaN(t) {
			return fmt.Errorf("key %d is not after the one before: rising times are accepted", k+1)
		}
		for i := range f.Joints {
			q := f.Turns[k][i]
			if n := q.X*q.X + q.Y*q.Y + q.Z*q.Z + q.W*q.W; !(math.Abs(n-1) < 1e-6) || !within(f.Shifts[k][i]) {
				return fmt.Errorf("key %d of joint %q is no turn and place", k+1, f.Joints[i].Name)
			}
		}
	}
	if f.Skin != nil {
		return f.Skin.check(len(f.Joints))
	}
	return nil
}

func within(v geom.Vec) bool {
	return v.IsFinite() && max(math.Abs(v.X), math.Abs(v.Y), math.Abs(v.Z)) <= maxPlace
}

// Duration is the time from the first key to the last, seconds.
func (f *Figure) Duration() float64 { return f.Times[len(f.Times)-1] - f.Times[0] }

// Find is the joint with a name, -1 of none.
func (f *Figure) Find(name string) int {
	for i := range f.Joints {
		if f.Joints[i].Name == name {
			return i
		}
	}
	return -1
}

// Locals fills what each joint is turned by and where it is in its parent's axes at a time, in
// seconds from the first key: places on straight lines between keys, turns evenly. Before the first
// key and after the last it stands.
func (f *Figure) Locals(dst []geom.Rigid, t float64) []geom.Rigid {
	t += f.Times[0]
	b := sort.SearchFloat64s(f.Times, t)
	b = min(b, len(f.Times)-1)
	a := max(b-1, 0)
	u := 1.0
	if b > a {
		u = min(max((t-f.Times[a])/(f.Times[b]-f.Times[a]), 0), 1)
	}
	return f.Between(dst, a, b, u)
}

// Between fills the joints at a share of the way from one key to another.
func (f *Figure) Between(dst []geom.Rigid, a, b int, u float64) []geom.Rigid {
	dst = dst[:0]
	for i := range f.Joints {
		q := f.Turns[b][i]
		if u != 1 {
			q = f.Turns[a][i].Slerp(q, u)
		}
		dst = append(dst, q.At(f.Shifts[a][i].Lerp(f.Shifts[b][i], u)))
	}
	return dst
}

// Globals fills where the joints are in the figure's own axes.
func (f *Figure) Globals(dst, locals []geom.Rigid) []geom.Rigid {
	dst = dst[:0]
	for i, l := range locals {
		if p := f.Joints[i].Parent; p >= 0 {
			l = dst[p].Mul(l)
		}
		dst = append(dst, l)
	}
	return dst
}

// AtRest is where the joints are when nothing moves them.
func (f *Figure) AtRest() []geom.Rigid {
	locals := make([]geom.Rigid, len(f.Joints))
	for i := range locals {
		locals[i] = f.Joints[i].Rest
	}
	return f.Globals(nil, locals)
}

// Children are the joints that hang from each.
func (f *Figure) Children() [][]int {
	out := make([][]int, len(f.Joints))
	for i, j := range f.Joints {
		if j.Parent >= 0 {
			out[j.Parent] = append(out[j.Parent], i)
		}
	}
	return out
}

// Moving reports, for each joint, whether it is moved in its parent's axes, by its form or by its keys; the
// root always is.
func (f *Figure) Moving() []bool {
	out := make([]bool, len(f.Joints))
	for i := range f.Joints {
		out[i] = i == 0 || f.Joints[i].Moves
		for k := 0; k < len(f.Times) && !out[i]; k++ {
			out[i] = f.Shifts[k][i].Sub(f.Joints[i].Rest.P).Norm() > 1e-9*(1+f.Joints[i].Rest.P.Norm())
		}
	}
	return out
}

// DepthFirst are the joints in the order in which they hang from one another.
func (f *Figure) DepthFirst() []int {
	kids := f.Children()
	out := make([]int, 0, len(f.Joints))
	var visit func(i int)
	visit = func(i int) {
		out = append(out, i)
		for _, k := range kids[i] {
			visit(k)
		}
	}
	visit(0)
	return out
}
