package facing_test

import (
	"fmt"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/path"
)

// On the underside of a flat loop up looks down: out of the loop.
func Example() {
	along, across, _ := path.Axes(path.PlaneSide)
	c, _ := path.New(path.Slot(geom.Vec{}, along, across, 2, 0.5), true)
	f, _ := facing.New(c, facing.Spec{Mode: facing.Loopside})
	top, below := f.Frame(1), f.Frame(1+c.Length()/2)
	fmt.Printf("up is %.0f on top and %.0f below", top.U.Y, below.U.Y)
	// Output: up is 1 on top and -1 below
}
