package gltf

import (
	"context"
	"fmt"
	"math"
	"slices"
	"sort"

	"bead/core/figure"
	"bead/core/geom"
)

// curve is the keys of one value of a joint.
type curve struct {
	times  []float64
	values [][]float64
	form   string
}

// keys reads the first animation at all times at which a joint has a key.
func (b *boned) keys(ctx context.Context) error {
	turns, shifts := map[int]curve{}, map[int]curve{}
	all := []float64{}
	if len(b.src.Animations) > 0 {
		a := &b.src.Animations[0]
		for i := range a.Channels {
			c := &a.Channels[i]
			if c.Target.Node == nil {
				continue
			}
			joint, is := b.at[*c.Target.Node]
			if !is || c.Target.Path == "weights" {
				continue
			}
			if c.Sampler < 0 || c.Sampler >= len(a.Samplers) {
				return fmt.Errorf("channel %d names sampler %d, which is not there", i, c.Sampler)
			}
			s := &a.Samplers[c.Sampler]
			width, kind := 3, "VEC3"
			if c.Target.Path == "rotation" {
				width, kind = 4, "VEC4"
			}
			read, err := b.curve(s.Input, s.Output, width, kind, s.Interpolation)
			if err != nil {
				return fmt.Errorf("channel %d: %w", i, err)
			}
			switch c.Target.Path {
			case "rotation":
				turns[joint] = read
			case "translation":
				shifts[joint] = read
			case "scale":
				for _, v := range read.values {
					if max(math.Abs(v[0]-1), math.Abs(v[1]-1), math.Abs(v[2]-1)) > 1e-3 {
						return fmt.Errorf("joint %q changes its size: joints that keep it are read", b.f.Joints[joint].Name)
					}
				}
			}
			all = append(all, read.times...)
			if len(all) > figure.MaxPlaces {
				return fmt.Errorf("more than %d keys: up to so many are read", figure.MaxPlaces)
			}
		}
	}
	sort.Float64s(all)
	times := slices.CompactFunc(all, func(a, b float64) bool { return math.Abs(a-b) < 1e-6 })
	if len(times) == 0 {
		times = []float64{0}
	}
	f := b.f
	if len(times) > figure.MaxKeys || len(times)*len(f.Joints) > figure.MaxPlaces {
		return fmt.Errorf("%d keys of %d joints are not accepted: up to %d keys, and %d places in all, are", len(times), len(f.Joints), figure.MaxKeys, figure.MaxPlaces)
	}
	for k, t := range times {
		if k&63 == 0 && ctx.Err() != nil {
			return ctx.Err()
		}
		qs, ps := make([]geom.Quat, len(f.Joints)), make([]geom.Vec, len(f.Joints))
		for i := range f.Joints {
			qs[i], ps[i] = f.Joints[i].Rest.Quat(), f.Joints[i].Rest.P
			if c, is := turns[i]; is {
				v := c.at(t, true)
				qs[i] = geom.Quat{X: v[0], Y: v[1], Z: v[2], W: v[3]}.Unit()
			}
			if c, is := shifts[i]; is {
				v := c.at(t, false)
				ps[i] = geom.V(v[0], v[1], v[2])
			}
		}
		f.Times, f.Turns, f.Shifts = append(f.Times, t), append(f.Turns, qs), append(f.Shifts, ps)
	}
	return nil
}

func (b *boned) curve(input, output, width int, kind, form string) (curve, error) {
	times, err := b.values(input, 1, "SCALAR")
	if err != nil {
		return curve{}, err
	}
	values, err := b.values(output, width, kind)
	if err != nil {
		return curve{}, err
	}
	a := 1
	if form == "CUBICSPLINE" {
		a = 3
	}
	if len(values) != a*width*len(times) {
		return curve{}, fmt.Errorf("%d keys have %d values", len(times), len(values)/width)
	}
	c := curve{times: times, form: form}
	for i, t := range times {
		if math.IsNaN(t) || math.Abs(t) > 1e7 || i > 0 && !(t > times[i-1]) {
			return curve{}, fmt.Errorf("key %d is not after the one before", i+1)
		}
		v := values[i*a*width : (i+1)*a*width]
		for _, x := range v {
			if math.IsNaN(x) || math.Abs(x) > 1e9 {
				return curve{}, fmt.Errorf("key %d holds no number within ±1e9", i+1)
			}
		}
		c.values = append(c.values, v)
	}
	return c, nil
}

// at is the value at a time (glTF 2.0, appendix C).
func (c *curve) at(t float64, turns bool) []float64 {
	n := len(c.times)
	k := sort.SearchFloat64s(c.times, t+1e-7) - 1
	cubic := c.form == "CUBICSPLINE"
	w := len(c.values[0])
	own := func(i int) []float64 {
		if cubic {
			return c.values[i][w/3 : 2*w/3]
		}
		return c.values[i]
	}
	switch {
	case k < 0:
		return own(0)
	case k >= n-1:
		return own(n - 1)
	}
	long := c.times[k+1] - c.times[k]
	u := min(max((t-c.times[k])/long, 0), 1)
	a, b := own(k), own(k+1)
	if c.form == "STEP" || u < 1e-9 {
		return a
	}
	out := make([]float64, len(a))
	switch {
	case cubic:
		for i := range out {
			out[i], _ = geom.Hermite(a[i], b[i], c.values[k][2*w/3+i]*long, c.values[k+1][i]*long, 1, u)
		}
	case turns:
		q := geom.Quat{X: a[0], Y: a[1], Z: a[2], W: a[3]}.Unit().Slerp(geom.Quat{X: b[0], Y: b[1], Z: b[2], W: b[3]}.Unit(), u)
		copy(out, []float64{q.X, q.Y, q.Z, q.W})
	default:
		for i := range out {
			out[i] = a[i] + (b[i]-a[i])*u
		}
	}
	return out
}
