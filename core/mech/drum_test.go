package mech

import (
	"math"
	"testing"
)

// MATH 9's figures, computed outside: rope 0.02 on a drum of radius 0.15 and width 0.4 lies in layers at
// 0.16, 0.1773205 and 0.1946410, 20 turns of each take 20.110171, 22.286342 and 24.462582 m.
func TestDrum(t *testing.T) {
	d := Drum{Radius: 0.15, Width: 0.4, Rope: 0.02}
	if d.Turns() != 20 {
		t.Fatalf("%d turns", d.Turns())
	}
	for k, want := range [][2]float64{{0.16, 20.110171}, {0.1773205, 22.286342}, {0.1946410, 24.462582}} {
		if r, l := d.LayerRadius(k), d.LayerLength(k); math.Abs(r-want[0]) > 1e-7 || math.Abs(l-want[1]) > 1e-6 {
			t.Errorf("layer %d: radius %.7f, length %.6f, not %v", k, r, l, want)
		}
	}
	// Angle and length are each other's inverse; nothing jumps from layer to layer; it stays between
	// the flanges.
	was := d.At(0)
	for l := 0.0; l < 60; l += 0.01 {
		w := d.At(l)
		if math.Abs(d.Length(w.Angle)-l) > 1e-9 {
			t.Fatalf("%g m lie at %g rad, up to which there are %g m", l, w.Angle, d.Length(w.Angle))
		}
		if math.Abs(w.Radius-was.Radius) > 5e-4 || math.Abs(w.Across-was.Across) > 5e-4 || math.Abs(w.Across) > 0.19+1e-9 {
			t.Fatalf("at %g m it goes from %+v to %+v", l, was, w)
		}
		was = w
	}
	if math.Abs(d.At(20.110171+1).Angle-2*math.Pi*(20+20/22.286342)) > 1e-5 {
		t.Errorf("a metre into the second layer: %+v", d.At(21.110171))
	}
}
