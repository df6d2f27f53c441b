package sim

import (
	"math"
	"testing"
)

// The first overshoot after a jump is exp(-pi z / sqrt(1-z^2)): 37.23 %, 16.30 %, 4.60 % (MATH
// 10, computed; control-theory textbooks), at half a damped period.
func TestOvershoot(t *testing.T) {
	for _, c := range []struct{ z, want float64 }{{0.3, 0.3723}, {0.5, 0.1630}, {0.7, 0.0460}} {
		f := Follow{Frequency: 1.5, Damping: c.z}
		half := 0.5 / (1.5 * math.Sqrt(1-c.z*c.z))
		s := f.Over(half / 200)
		x, v, most := 0.0, 0.0, 0.0
		for range 1000 {
			x, v = s.Next(x, v, 1, 1)
			most = max(most, x)
		}
		if math.Abs(most-1-c.want) > 5e-5 {
			t.Errorf("damping %g: overshoots by %.4f, not %.4f", c.z, most-1, c.want)
		}
	}
}

// One long step is many short ones, for every kind of damping and a target that moves.
func TestStepLength(t *testing.T) {
	for _, z := range []float64{0, 0.2, 1 - 1e-12, 1, 3} {
		f := Follow{Frequency: 2, Damping: z}
		long, short := f.Over(0.4), f.Over(0.004)
		x, v := long.Next(0.3, -1, 0.1, 0.9)
		y, u := 0.3, -1.0
		for k := range 100 {
			y, u = short.Next(y, u, 0.1+0.008*float64(k), 0.1+0.008*float64(k+1))
		}
		if math.Abs(x-y) > 1e-9 || math.Abs(u-v) > 1e-8 {
			t.Errorf("damping %g: %g %g in one step, %g %g in a hundred", z, x, v, y, u)
		}
	}
}

// Behind an even target it settles 2 z / w times the speed behind (from the equation at rest).
func TestLagBehind(t *testing.T) {
	f := Follow{Frequency: 1, Damping: 0.8}
	s := f.Over(0.05)
	x, v := 0.0, 0.0
	for k := range 400 {
		x, v = s.Next(x, v, 0.1*float64(k), 0.1*float64(k+1))
	}
	if want := 40 - 2*2*0.8/(2*math.Pi); math.Abs(x-want) > 1e-9 || math.Abs(v-2) > 1e-9 {
		t.Errorf("at %g with speed %g, not %g and 2", x, v, want)
	}
}
