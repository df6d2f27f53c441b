package path_test

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/integrate/quad"

	"bead/core/geom"
	"bead/core/path"
)

// Ground in waves of 0.2 m: a line laid on it is as long as the sine's arc (by gonum's
// quadrature), a line over it is nearest to the crest, and what is lowered touches there.
func TestOnUnevenGround(t *testing.T) {
	land := func(z float64) (float64, float64) { return 0.2 * math.Sin(z), 0.2 * math.Cos(z) }
	line := must(t, []path.Span{path.LineSpan(geom.V(1, 3, 0), geom.V(1, 3, 7))}, false)
	if y, at := line.Above(land, nil); math.Abs(y-2.8) > 1e-12 || math.Abs(at-math.Pi/2) > 1e-5 {
		t.Errorf("%g above the ground at %g, want 2.8 at pi/2", y, at)
	}
	down := must(t, line.Lower(0.1, land), false)
	if p, _ := down.At(math.Pi / 2); math.Abs(p.Y-0.3) > 1e-9 || down.Length() != line.Length() {
		t.Errorf("lowered to %v", p)
	}
	laid := must(t, line.Drape(0.1, land), false)
	want := quad.Fixed(func(z float64) float64 { return math.Hypot(1, 0.2*math.Cos(z)) }, 0, 7, 60, nil, 0)
	if math.Abs(laid.Length()-want) > 1e-5 {
		t.Errorf("laid on the ground it is %.9g long, want %.9g", laid.Length(), want)
	}
	for i := range 500 {
		p, tan := laid.At(laid.Length() * float64(i) / 500)
		y, slope := land(p.Z)
		if math.Abs(p.Y-y-0.1) > 7e-6 || math.Abs(tan.Y-slope*tan.Z) > 1e-3 {
			t.Fatalf("at z %g it lies %g above the ground", p.Z, p.Y-y)
		}
	}
	j := path.Jittering{Seed: 3, Amount: 0.3, Grain: 0.5, Direction: path.JitterAll, Floor: true, Land: land}
	pushed := must(t, must(t, line.Drape(0.02, land), false).Jitter(j), false)
	touches := 0
	for i := range 4000 {
		p, _ := pushed.At(pushed.Length() * float64(i) / 4000)
		y, _ := land(p.Z)
		if p.Y < y {
			t.Fatalf("%g below the ground at z %g", y-p.Y, p.Z)
		}
		if p.Y < y+1e-3 {
			touches++
		}
	}
	if touches < 40 {
		t.Errorf("of 4000 places only %d lie on the ground", touches)
	}
}
