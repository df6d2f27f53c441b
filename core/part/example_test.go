package part_test

import (
	"fmt"

	"bead/core/part"
)

// A box cut for bending: four cuts across its length add a ring of points each.
func ExampleSlice() {
	box, _ := part.Box(0.1, 0.1, 1)
	axes, _ := part.NewAxes("+z", "+y", box.Bounds().Min)
	cut := part.Slice(box, axes.Forward, 5)
	fmt.Println(len(box.Indices)/3, "triangles,", len(cut.Indices)/3, "when cut")
	// Output: 12 triangles, 76 when cut
}
