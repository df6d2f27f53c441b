package bend_test

import (
	"fmt"
	"math"

	"bead/core/bend"
	"bead/core/geom"
	"bead/core/part"
)

// A strip 2 m long on a circle of radius 1 m: its last vertices, at most 0.05 m beside the middle line, lie two
// radians round.
func ExampleBody_Bend() {
	strip, _ := part.Strip(part.StripSize{Length: 2, Width: 0.1, Thickness: 0.01})
	body := bend.New(part.Slice(strip, geom.V(0, 0, 1), 40), bend.Axes{Side: geom.V(1, 0, 0), Up: geom.V(0, 1, 0), Forward: geom.V(0, 0, 1)}, 1)
	var work bend.Work
	body.Pose(&work, nil)
	sections := make([]bend.Section, len(work.Places))
	for i, z := range work.Places {
		s := z - body.Tail
		sin, cos := math.Sincos(s)
		side := geom.V(cos, 0, -sin)
		sections[i] = bend.Section{P: geom.V(1-cos, 0, sin), S: side, U: geom.V(0, 1, 0), T: geom.V(sin, 0, cos), W: 1, K: 1, Ks: 1}
	}
	positions, normals := make([]float32, 3*body.Vertices()), make([]float32, 3*body.Vertices())
	body.Bend(positions, normals, &work, sections)
	round := 0.0
	for i := 0; i < len(positions); i += 3 {
		round = max(round, math.Atan2(float64(positions[i+2]), 1-float64(positions[i])))
	}
	fmt.Printf("%.3f", round)
	// Output: 2.000
}
