package mech

import (
	"math"
	"testing"
)

// MATH 9's figures, computed outside: R 0.30, r0 0.05, t 0.004 hold 68.72233929727672 m in 62.5
// turns; 20 m off, the radius is 0.2540378104 and it has turned by 72.1972386184 radians.
func TestRoll(t *testing.T) {
	r := Roll{Thickness: 0.004, Full: 0.3, Core: 0.05}
	for _, c := range []struct {
		what      string
		got, want float64
		within    float64
	}{
		{"capacity", r.Capacity(), 68.72233929727672, 1e-12},
		{"turns", r.Turns(), 62.5, 1e-12},
		{"radius after 20 m", r.Radius(20), 0.2540378104, 1e-10},
		{"turned after 20 m", r.Turned(20), 72.1972386184, 1e-9},
		{"turned when it is bare", r.Turned(r.Capacity()), 2 * math.Pi * 62.5, 1e-9},
		{"radius beyond its capacity", r.Radius(100), 0.05, 0},
		{"radius for its own length", r.FullFor(r.Capacity()), 0.3, 1e-12},
		{"thickness for its own length", r.ThicknessFor(r.Capacity()), 0.004, 1e-12},
		{"outline a turn in", r.Outline(0.2, 2*math.Pi), 0.196, 1e-12},
		{"outline of the last half turn", r.Outline(0.052, 2*math.Pi), 0.05, 0},
	} {
		if math.Abs(c.got-c.want) > c.within {
			t.Errorf("%s: %.13g, not %.13g", c.what, c.got, c.want)
		}
	}
	// The angle is the integral of ds / r: midpoint sums over the first 20 m.
	sum, n := 0.0, 20000
	for i := range n {
		sum += 20 / float64(n) / r.Radius(20*(float64(i)+0.5)/float64(n))
	}
	if math.Abs(sum-r.Turned(20)) > 1e-6 {
		t.Errorf("turned %g, the sum of ds/r is %g", r.Turned(20), sum)
	}
}
