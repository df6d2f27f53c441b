package geom_test

import (
	"fmt"

	"bead/core/geom"
)

// A quarter turn about up brings forward to the left side, +x.
func ExampleRotateAbout() {
	v := geom.RotateAbout(geom.V(0, 0, 1), geom.V(0, 1, 0), 1.5707963267948966)
	fmt.Printf("%.0f %.0f %.0f", v.X, v.Y, v.Z)
	// Output: 1 0 0
}
