package mech_test

import (
	"fmt"

	"bead/core/mech"
)

// A half-inch chain of 17 and 38 teeth: its length in pitches along the pitch circles, 29 pitches between the
// centres, what handbooks say, and the centres at which 86 links close.
func Example() {
	exact, _ := mech.ExactLength(17, 38, 29)
	centres, _ := mech.CentresFor(17, 38, 86)
	fmt.Printf("%.3f exact, %.3f by the handbook; 86 links at %.3f", exact, mech.HandbookLength(17, 38, 29), centres)
	// Output: 85.954 exact, 85.885 by the handbook; 86 links at 29.023
}
