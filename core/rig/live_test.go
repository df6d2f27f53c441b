package rig_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/rig"
)

// A path that moves is, at any frame, the path that stands as it does then: its steps before the wave, which
// stand still and are taken once, and those after it.
func TestMovingPathIsTheOneThatStands(t *testing.T) {
	at := func(phase, up string) *rig.Scene {
		steps := `,"steps":[{"offset":{"distance":0.02,"plane":"above"}},{"join":{"paths":["v"],"snap":0.01,"smooth":true}},{"resample":{"count":12}},
			{"wave":{"side":0.05,"up":` + up + `,"wavelength":0.4,"phase":` + phase + `}},{"extend":{"before":0.1,"after":0.1}}]`
		return whole(t, large(40, wavy("w", 4, steps)+","+strings.ReplaceAll(wavy("v", 5, ""), `[0,0,0]`, `[0,0,-0.4]`), train("r", 3, ""), ""))
	}
	moving := at(`{"speed":2}`, `{"keys":[{"frame":1,"value":0},{"frame":41,"value":0.04}]}`)
	var pic rig.Picture
	for _, f := range []float64{1, 7.5, 40} {
		stands := at(fmt.Sprint(2*(f-1)/24), fmt.Sprint(0.04*(f-1)/40)).Paths[0]
		moving.At(&pic, f)
		got := pic.Curves[0]
		if got.Length() != stands.Length() {
			t.Fatalf("frame %g: %.17g m, want %.17g m", f, got.Length(), stands.Length())
		}
		for k := range 50 {
			s := stands.Length() * float64(k) / 49
			p, _ := got.At(s)
			q, _ := stands.At(s)
			if p != q {
				t.Fatalf("frame %g at %g m: %v, want %v", f, s, p, q)
			}
		}
	}
}

// Whole waves over the range: what swims on the spot is after the loop as it was before it, and
// the body keeps its length in every frame.
func TestWaveLoops(t *testing.T) {
	s := bending(t, along+`,"steps":[{"wave":{"side":0.12,"up":0.05,"wavelength":0.8,"phase":{"speed":-1.5}}}]`, rod, steady+`,"travel":0.7`)
	a, b, c := shot(s, 1), shot(s, 49), shot(s, 20)
	far := 0.0
	for i := range a.Rigs[0].Positions {
		if d := math.Abs(float64(a.Rigs[0].Positions[i] - b.Rigs[0].Positions[i])); d > 2e-6 {
			t.Fatalf("float %d jumps by %g", i, d)
		}
		far = max(far, math.Abs(float64(a.Rigs[0].Positions[i]-c.Rigs[0].Positions[i])))
	}
	if far < 0.05 {
		t.Errorf("the wave moves nothing by more than %g", far)
	}
	for f := 1; f <= 48; f++ {
		curve := shot(s, f).Curves[0]
		// A wave does not change which way it goes on the whole, only how long it is.
		if l := curve.Between(0, curve.Length()); math.Abs(l-curve.Length()) > 1e-9*l {
			t.Fatalf("frame %d: %g measured as %g", f, l, curve.Length())
		}
		if r := shot(s, f).Rigs[0].Reach[0]; math.Abs(r.Head-r.Tail-1.2) > 1e-7 {
			t.Fatalf("frame %d: the body is %g long", f, r.Head-r.Tail)
		}
	}
}

// A jitter with beats moves and comes back with the range.
func TestJitterComesRound(t *testing.T) {
	s := bending(t, along+`,"steps":[{"jitter":{"seed":3,"amount":0.05,"grain":0.6,"beats":2}}]`, rod, steady+`,"travel":0.5`)
	first, half, again := shot(s, 1).Rigs[0].Positions, shot(s, 10).Rigs[0].Positions, shot(s, 49).Rigs[0].Positions
	moved, back := 0.0, 0.0
	for i := range first {
		moved, back = max(moved, math.Abs(float64(first[i]-half[i]))), max(back, math.Abs(float64(first[i]-again[i])))
	}
	if moved < 0.01 || back > 1e-6 {
		t.Errorf("it moves by %g and is off by %g after the range", moved, back)
	}
}
