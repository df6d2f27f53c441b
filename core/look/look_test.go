package look

import (
	"fmt"
	"math"
	"testing"
)

// Against values of IEC 61966-2-1: its two branches meet near 0.04045, half of white is 0.2140 as light, and
// the byte 128 is 0.215861 (from memory, in every table of the function); every byte comes back.
func TestLinear(t *testing.T) {
	for colour, want := range map[string][3]float64{
		"#000000": {0, 0, 0}, "#ffffff": {1, 1, 1}, "#808080": {0.215861, 0.215861, 0.215861}, "#FF0001": {1, 0, 1 / 12.92 / 255},
	} {
		got := Linear(colour)
		for k := range want {
			if math.Abs(got[k]-want[k]) > 1e-6 {
				t.Errorf("%s: %v, want %v", colour, got, want)
			}
		}
	}
	for v := range 256 {
		c := fmt.Sprintf("#%02X%02X%02X", v, 255-v, v/2)
		if back := ColourOf(Linear(c)); back != c {
			t.Errorf("%s comes back as %s", c, back)
		}
	}
}

func TestSize(t *testing.T) {
	for _, c := range []struct{ w, l, wantW, wantL float64 }{{0, 0, 1, 1}, {0.5, 0, 0.5, 0.5}, {0, 2, 2, 2}, {0.5, 2, 0.5, 2}} {
		if w, l := (&Images{Width: c.w, Length: c.l}).Size(); w != c.wantW || l != c.wantL {
			t.Errorf("%+v: %g x %g", c, w, l)
		}
	}
}
