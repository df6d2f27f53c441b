package motion_test

import (
	"encoding/json"
	"fmt"

	"bead/core/motion"
)

// Keys that are carried on with the slope of the last two.
func ExampleValue_At() {
	var v motion.Value
	_ = json.Unmarshal([]byte(`{"keys":[{"frame":1,"value":0},{"frame":11,"value":5}],"after":"carry on"}`), &v)
	clock := motion.Clock{FPS: 24, First: 1}
	fmt.Println(v.At(6, clock), v.At(21, clock))
	// Output: 2.5 10
}
