package look_test

import (
	"fmt"

	"bead/core/look"
)

// Middle grey as screens show it reflects about a fifth of the light (the curve of sRGB, IEC 61966-2-1).
func ExampleLinear() {
	light := look.Linear("#808080")
	fmt.Printf("%.4f, back as %s", light[0], look.ColourOf(light))
	// Output: 0.2159, back as #808080
}
