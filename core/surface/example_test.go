package surface_test

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/surface"
)

// A rope from one side of a post to the other, a quarter round it and a metre higher: a helix, as long as the
// hypotenuse of its rise and its arc.
func ExamplePost_Over() {
	post := surface.Post{Radius: 0.5, TopRadius: 0.5, Height: 3}
	rope, err := path.New(post.Over([]geom.Vec{geom.V(0.5, 1, 0), geom.V(0, 2, 0.5)}, false, 0), false)
	if err != nil {
		panic(err)
	}
	fmt.Printf("%.4f m, by the formula %.4f m", rope.Length(), math.Hypot(1, 0.5*math.Pi/2))
	// Output: 1.2716 m, by the formula 1.2716 m
}
