package figure_test

import (
	"fmt"
	"math"

	"bead/core/figure"
	"bead/core/geom"
)

// A leg of bones 3 and 4 m long reaches a goal 5 m away: its knee is a right angle.
func ExampleReach() {
	at := func(y, z float64) geom.Rigid {
		r := geom.Still
		r.P = geom.V(0, y, z)
		return r
	}
	joints := []geom.Rigid{at(7, 0), at(4, 0.1)} // hip and knee, bent a little ahead
	short := figure.Reach(joints, []int{0, 1}, geom.V(0, 0, 0), geom.V(0, 2, 0))
	hip, knee, foot := joints[0].P, joints[1].P, geom.V(0, 2, 0)
	fmt.Printf("%.0f°, short by %.0f m", geom.Angle(hip.Sub(knee), foot.Sub(knee))*180/math.Pi, short)
	// Output: 90°, short by 0 m
}
