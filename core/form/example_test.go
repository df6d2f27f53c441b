package form_test

import (
	"fmt"

	"bead/core/form"
)

// One tag says what a field accepts and is called.
func ExampleCheck() {
	type knot struct {
		Radius float64 `json:"radius" form:"Radius;length;min=0.01;max=2"`
	}
	form.Check(&knot{Radius: 5}, func(field, text string) { fmt.Println(field, text) })
	// Output: radius 5 is not accepted: a number from 0.01 to 2 is
}
