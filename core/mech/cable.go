package mech

import (
	"fmt"
	"math"

	"bead/core/geom"
)

// Cable is a cable that hangs between two ends: the catenary y = a cosh(x/a), from the
// asinh U0 of its slope at one end to U1 at the other.
type Cable struct{ A, U0, U1 float64 }

// Hang hangs a cable between ends that are span apart sideways, the second rise above the
// first: sqrt(length^2 - rise^2) = 2 a sinh(span/2a) (MATH 6; any textbook of statics).
// Errors: a cable that does not reach, ends one above the other.
func Hang(span, rise, length float64) (Cable, error) {
	if straight := math.Hypot(span, rise); !(length > straight*(1+1e-12)) {
		return Cable{}, fmt.Errorf("a cable %.6g m long does not hang between ends %.6g m apart: more than that is accepted", length, straight)
	}
	if !(span > 1e-9*length) {
		return Cable{}, fmt.Errorf("the ends stand one above the other: ends that are apart sideways are accepted")
	}
	// sinh(x)/x = k for x = span/2a, in logarithms, since a long cable's sinh has no number.
	k := math.Log(math.Sqrt((length-rise)*(length+rise)) / span)
	over := func(x float64) float64 { return x + math.Log1p(-math.Exp(-2*x)) - math.Ln2 - math.Log(x) - k }
	lo, hi := 1e-9, 1.0
	for over(hi) < 0 {
		hi *= 2
	}
	for over(lo) > 0 && lo > 1e-300 {
		lo /= 1e3
	}
	x, _ := geom.Root(over, lo, hi, over(lo), over(hi), 1e-15)
	// Half way along, in slopes, the cable goes as the whole of it rises.
	middle := math.Atanh(rise / length)
	return Cable{span / (2 * x), middle - x, middle + x}, nil
}
