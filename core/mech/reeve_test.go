package mech_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"bead/core/mech"
)

// From a place 4 m before and 3 m below a wheel of radius 1.4 m: the tangent is sqrt(25 - 1.96) = 4.8 m long and
// leaves above the line of centres by asin(1.4/5); it goes round from there
// to straight down, and what is left hangs.
func TestReeveOverOneWheel(t *testing.T) {
	b, err := mech.Reeve(mech.Wheel{X: -4, Y: -3}, []mech.Wheel{{R: 1.4}}, 0, 12)
	if err != nil {
		t.Fatal(err)
	}
	heading := math.Atan2(3, 4) + math.Asin(1.4/5)
	arc := 1.4 * (heading + math.Pi/2)
	c := b.Contacts[0]
	if math.Abs(b.Runs[0].Length-4.8) > 1e-12 || math.Abs(c.Heading-heading) > 1e-12 || math.Abs(c.Angle*1.4-arc) > 1e-12 || math.Abs(b.Runs[1].Length-(12-4.8-arc)) > 1e-12 {
		t.Errorf("%+v, contact %+v, hangs %g", b.Runs[0], c, b.Runs[1].Length)
	}
	if end := b.Runs[1]; end.X1 != 1.4 || math.Abs(end.Y1+12-4.8-arc) > 1e-12 {
		t.Errorf("its end is at %g, %g", end.X1, end.Y1)
	}
}

// Over any wheels the belt is as long as it is said to be, run by run and arc by arc, each run is a tangent of the
// wheels at its ends, and the last hangs straight down.
func TestReeveIsTangent(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 8))
	laid := 0
	for range 400 {
		start := mech.Wheel{X: -2 - r.Float64(), Y: r.Float64() - 2, R: r.Float64() * 0.4, Back: r.IntN(3) == 0}
		wheels := []mech.Wheel{{X: 0, Y: r.Float64(), R: 0.1 + r.Float64()*0.4}, {X: 2, Y: r.Float64() * 2, R: 0.1 + r.Float64()*0.4, Back: r.IntN(2) == 0}, {X: 4, Y: r.Float64() * 2, R: 0.1 + r.Float64()*0.4}}
		across := r.Float64() - 0.5
		b, err := mech.Reeve(start, wheels, across, 30)
		if err != nil {
			continue
		}
		laid++
		sum := 0.0
		for k, run := range b.Runs {
			flat := math.Hypot(run.X1-run.X0, run.Y1-run.Y0)
			if k == 0 {
				flat = math.Hypot(flat, across)
			}
			if math.Abs(flat-run.Length) > 1e-9 {
				t.Fatalf("run %d is %g m long and %g from end to end", k, run.Length, flat)
			}
			w := b.Wheels[b.Touching[k]]
			dx, dy := run.X1-run.X0, run.Y1-run.Y0
			if off := (run.X0-w.X)*dx + (run.Y0-w.Y)*dy; math.Abs(off) > 1e-9*math.Hypot(dx, dy) || math.Abs(math.Hypot(run.X0-w.X, run.Y0-w.Y)-w.R) > 1e-9 {
				t.Fatalf("run %d does not leave wheel %d on its tangent", k, b.Touching[k])
			}
			sum += run.Length
		}
		for k, c := range b.Contacts[:3] {
			if c.Angle < 0 || c.Angle > 2*math.Pi || math.Abs(c.To-c.From-c.Angle*wheels[k].R) > 1e-9 {
				t.Fatalf("wheel %d: %+v", k, c)
			}
			sum += c.Angle * wheels[k].R
		}
		if math.Abs(sum-30) > 1e-9 {
			t.Fatalf("%g m in all", sum)
		}
	}
	if laid < 200 {
		t.Errorf("only %d of 400 could be laid", laid)
	}
}

func TestReeveRefuses(t *testing.T) {
	for want, c := range map[string]struct {
		wheels []mech.Wheel
		length float64
	}{
		"too short to come over its last wheel": {[]mech.Wheel{{R: 1}}, 5},
		"would stand up behind it":              {[]mech.Wheel{{R: 1, Back: true}}, 50},
		"a radius above 0":                      {[]mech.Wheel{{R: 0}}, 50},
		"one lies within the other":             {[]mech.Wheel{{R: 1}, {X: 0.1, R: 2}}, 50},
		"at least one is accepted":              {nil, 50},
	} {
		if _, err := mech.Reeve(mech.Wheel{X: -4, Y: -3}, c.wheels, 0, c.length); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
}
