package rig_test

import (
	"fmt"
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
