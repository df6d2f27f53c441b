package begin

import (
	"math"
	"testing"
)

// The range of a chain is the length nearest to the one asked for over which the driver's teeth
// bring whole pairs of links round, counted out tooth by tooth in whole numbers; where no length
// up to 960 frames does, there is none.
func TestWholePitches(t *testing.T) {
	const fps, asked = 24, 96
	for _, teeth := range []int{6, 11, 17, 23, 38, 120} {
		for _, rpm := range []int{-400, -33, -10, 1, 7, 12, 30, 45, 60, 90, 2000} {
			turns := max(rpm, -rpm)
			best, found := 0, false
			for n := 24; n <= 960; n++ {
				// teeth * turns * n / (60 * fps) pitches, an even number of them and not none.
				if whole := 2 * 60 * fps; teeth*turns*n%whole == 0 && teeth*turns*n >= whole {
					if !found || max(n-asked, asked-n) < max(best-asked, asked-best) {
						best, found = n, true
					}
				}
			}
			got, ok := wholePitches(ChainSpec{Pitch: 0.0127, Driver: teeth, Driven: 20, RPM: float64(rpm)}, fps, asked)
			if ok != found || ok && got != best {
				t.Errorf("%d teeth at %d rpm: %d frames (%v), counted %d (%v)", teeth, rpm, got, ok, best, found)
			}
		}
	}
	// What stands still loops over any length; a speed that meets no frame, over none.
	if n, ok := wholePitches(ChainSpec{Driver: 17}, fps, asked); n != asked || !ok {
		t.Errorf("standing still: %d frames, %v", n, ok)
	}
	if n, ok := wholePitches(ChainSpec{Driver: 17, RPM: 10 * math.Sqrt2}, fps, asked); ok {
		t.Errorf("an irrational speed loops over %d frames", n)
	}
}
