package figure

import (
	"errors"
	"math"
	"sort"

	"bead/core/geom"
)

// Track gathers the motion of a figure from where its joints are in the world, metres: as keys on its
// own joints, with lengths in metres.
type Track struct{ f *Figure }

// NewTrack begins one; scale is metres a unit of the figure.
func NewTrack(f *Figure, scale float64) *Track {
	out := &Figure{Joints: append([]Joint(nil), f.Joints...)}
	for i := range out.Joints {
		j := &out.Joints[i]
		j.Rest.P = j.Rest.P.Mul(scale)
		j.Ends = append([]geom.Vec(nil), j.Ends...)
		for k := range j.Ends {
			j.Ends[k] = j.Ends[k].Mul(scale)
		}
	}
	if s := f.Skin; s != nil {
		skin := *s
		skin.Binds = append([]Affine(nil), s.Binds...)
		for i := range skin.Binds {
			b := &skin.Binds[i]
			b.X, b.Y, b.Z, b.P = b.X.Mul(scale), b.Y.Mul(scale), b.Z.Mul(scale), b.P.Mul(scale)
		}
		out.Skin = &skin
	}
	return &Track{out}
}

// Add takes the joints at a time in seconds.
func (t *Track) Add(seconds float64, joints []geom.Rigid) {
	f := t.f
	turns, shifts := make([]geom.Quat, len(joints)), make([]geom.Vec, len(joints))
	for i, m := range joints {
		if p := f.Joints[i].Parent; p >= 0 {
			m = joints[p].Inverse().Mul(m)
		}
		turns[i], shifts[i] = m.Quat().Unit(), m.P
		if i > 0 && m.P.Sub(f.Joints[i].Rest.P).Norm() < 1e-9*(1+m.P.Norm()) {
			shifts[i] = f.Joints[i].Rest.P // it only turns
		}
	}
	f.push(seconds, turns, shifts)
}

// push adds a key; its rotations go the shorter way from those of the last.
func (f *Figure) push(seconds float64, turns []geom.Quat, shifts []geom.Vec) {
	for i := range turns {
		q := &turns[i]
		if n := len(f.Times); n > 0 {
			if last := f.Turns[n-1][i]; last.X*q.X+last.Y*q.Y+last.Z*q.Z+last.W*q.W < 0 {
				*q = geom.Quat{X: -q.X, Y: -q.Y, Z: -q.Z, W: -q.W}
			}
		}
	}
	f.Times, f.Turns, f.Shifts = append(f.Times, seconds), append(f.Turns, turns), append(f.Shifts, shifts)
}

// same is how near to a key a time is that of it, as a share of the step from key to key.
const same = 1e-6

// Fill puts keys at further times, seconds in rising order, between those there are; at tells the joints at
// one of them. It returns the numbers that they have then. A time at which there is a key is that key's.
func (t *Track) Fill(seconds []float64, at func(k int) []geom.Rigid) []int {
	was := *t.f
	n := len(was.Times)
	near := same * (was.Times[n-1] - was.Times[0]) / float64(max(n-1, 1))
	t.f.Times, t.f.Turns, t.f.Shifts = nil, nil, nil
	var out []int
	k := 0
	for i, old := range was.Times {
		for ; k < len(seconds) && seconds[k] < old-near; k++ {
			out = append(out, len(t.f.Times))
			t.Add(seconds[k], at(k))
		}
		for ; k < len(seconds) && seconds[k] <= old+near; k++ {
			out = append(out, len(t.f.Times))
		}
		t.f.push(old, was.Turns[i], was.Shifts[i])
	}
	return out
}

// Motion is what a track has gathered, to be gone on with elsewhere: the turns and places of all joints at
// each key.
type Motion struct {
	Turns  [][]geom.Quat
	Shifts [][]geom.Vec
}

// Motion is what has been gathered so far.
func (t *Track) Motion() Motion { return Motion{t.f.Turns, t.f.Shifts} }

// Motions are those of tracks.
func Motions(of [][]*Track) [][]Motion {
	var out [][]Motion
	for _, list := range of {
		var motions []Motion
		for _, t := range list {
			motions = append(motions, t.Motion())
		}
		out = append(out, motions)
	}
	return out
}

// Append goes on with what another track of the same figure has gathered; time is that of a key by its
// number, seconds. Its rotations are brought to the side of those before, as if all had been gathered
// here.
func (t *Track) Append(m Motion, time func(key int) float64) error {
	f := t.f
	if len(m.Turns) != len(m.Shifts) {
		return errDamaged
	}
	flip := make([]bool, len(f.Joints))
	for k := range m.Turns {
		if len(m.Turns[k]) != len(f.Joints) || len(m.Shifts[k]) != len(f.Joints) {
			return errDamaged
		}
		for i := range f.Joints {
			q := &m.Turns[k][i]
			if n := len(f.Times); k == 0 && n > 0 {
				last := f.Turns[n-1][i]
				flip[i] = last.X*q.X+last.Y*q.Y+last.Z*q.Z+last.W*q.W < 0
			}
			if flip[i] {
				*q = geom.Quat{X: -q.X, Y: -q.Y, Z: -q.Z, W: -q.W}
			}
		}
		f.Times = append(f.Times, time(len(f.Times)))
		f.Turns, f.Shifts = append(f.Turns, m.Turns[k]), append(f.Shifts, m.Shifts[k])
	}
	return nil
}

var errDamaged = errors.New("the motion of a figure is damaged")

// Figure is what has been gathered.
func (t *Track) Figure() *Figure { return t.f }

// InPlace takes the way of the root out of a figure's motion, but for its height: it stays where it is
// at the first key.
func (f *Figure) InPlace() {
	for k := range f.Shifts {
		at := f.Shifts[0][0]
		f.Shifts[k][0].X, f.Shifts[k][0].Z = at.X, at.Z
	}
}

// Fewer keeps of a figure's keys those that are wanted, the first and the last, and as many more as
// bring each joint to within tol of where all keys put it, at every key; off is by how much it is not
// at most.
func (f *Figure) Fewer(wanted []int, tol float64) (out *Figure, off float64) {
	n := len(f.Times)
	keep := make([]bool, n)
	keep[0], keep[n-1] = true, true
	for _, k := range wanted {
		if k >= 0 && k < n {
			keep[k] = true
		}
	}
	at := make([][]geom.Rigid, n)
	for k := range at {
		at[k] = f.Globals(nil, f.Between(nil, k, k, 1))
	}
	var locals, joints []geom.Rigid
	for {
		off = 0
		added := false
		for a := 0; a < n-1; {
			b := a + 1
			for !keep[b] {
				b++
			}
			worst, most := -1, 0.0
			for k := a + 1; k < b; k++ {
				locals = f.Between(locals, a, b, (f.Times[k]-f.Times[a])/(f.Times[b]-f.Times[a]))
				joints = f.Globals(joints, locals)
				for i := range joints {
					if d := joints[i].P.Sub(at[k][i].P).Norm(); d > most {
						worst, most = k, d
					}
				}
			}
			if off = math.Max(off, most); most > tol {
				keep[worst], added = true, true
			}
			a = b
		}
		if !added {
			break
		}
	}
	out = &Figure{Joints: f.Joints, Skin: f.Skin}
	for k := range keep {
		if keep[k] {
			out.Times, out.Turns, out.Shifts = append(out.Times, f.Times[k]), append(out.Turns, f.Turns[k]), append(out.Shifts, f.Shifts[k])
		}
	}
	sort.Float64s(out.Times)
	return out, off
}
