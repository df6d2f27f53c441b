package place_test

import (
	"fmt"

	"bead/core/place"
)

// As many pieces of 0.19 m as fit round 11.78 m, with nothing left over.
func ExampleSolve() {
	l, _ := place.Solve(11.78, true, place.Spec{Mode: place.CloseUp, Rest: place.RestPitch}, 0.19)
	fmt.Printf("%d pieces, %.4f m apart, %.1f m left", l.Count, l.Pitch, l.Seam)
	// Output: 62 pieces, 0.1900 m apart, 0.0 m left
}
