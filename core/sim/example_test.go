package sim_test

import (
	"fmt"
	"math"

	"bead/core/sim"
)

// A mass of one swing a second, critically damped, after a step of its target: the rest of the way is
// (1 + wt) exp(-wt), w two pi.
func ExampleFollow() {
	step := sim.Follow{Frequency: 1, Damping: 1}.Over(0.01)
	x, v := 0.0, 0.0
	for range 25 {
		x, v = step.Next(x, v, 1, 1)
	}
	w := 2 * math.Pi * 0.25
	fmt.Printf("%.6f, by the formula %.6f", x, 1-(1+w)*math.Exp(-w))
	// Output: 0.465584, by the formula 0.465584
}
