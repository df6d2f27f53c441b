package mech

import (
	"fmt"
	"math"
)

// PitchDiameter is the diameter of the circle on which the pins of a chain lie on a
// sprocket (ISO 606, ASME B29.1): pitch / sin(pi / teeth).
func PitchDiameter(pitch float64, teeth int) float64 {
	return pitch / math.Sin(math.Pi/float64(teeth))
}

// ChordalVariation is the share by which a chain's speed varies over a tooth of the
// driving sprocket: 1 - cos(pi / teeth).
func ChordalVariation(teeth int) float64 { return 1 - math.Cos(math.Pi/float64(teeth)) }

// HandbookLength is the number of pitches of a chain round two sprockets by the
// handbooks' approximation, for a distance of centres in pitches:
// 2C + (N1 + N2)/2 + ((N2 - N1)/2pi)^2 / C.
func HandbookLength(n1, n2 int, centres float64) float64 {
	d := float64(n2-n1) / (2 * math.Pi)
	return 2*centres + float64(n1+n2)/2 + d*d/centres
}

// ExactLength is the number of pitches of a chain that lies on the pitch circles of two
// sprockets, for a distance of centres in pitches.
func ExactLength(n1, n2 int, centres float64) (float64, error) {
	r1, r2 := PitchDiameter(1, n1)/2, PitchDiameter(1, n2)/2
	if r1 > r2 {
		r1, r2 = r2, r1
	}
	if centres <= r2-r1 {
		return 0, fmt.Errorf("sprockets of %d and %d teeth %g pitches apart lie within one another", n1, n2, centres)
	}
	a := math.Asin((r2 - r1) / centres)
	return 2*math.Sqrt(centres*centres-(r2-r1)*(r2-r1)) + r1*(math.Pi-2*a) + r2*(math.Pi+2*a), nil
}

// Spare is what a chain is given to hang with, in pitches, so that one of its runs is slack
// (common practice: a chain is never drawn tight).
const Spare = 0.1

// CentresFor is the distance of centres in pitches at which a chain of that many links
// closes exactly round two sprockets.
func CentresFor(n1, n2 int, links float64) (float64, error) {
	least := math.Abs(PitchDiameter(1, n1)-PitchDiameter(1, n2))/2 + 1e-9
	if short, err := ExactLength(n1, n2, least); err != nil || links <= short {
		return 0, fmt.Errorf("%g links are too short for sprockets of %d and %d teeth: more than %.2f are accepted", links, n1, n2, short)
	}
	lo, hi := least, links/2+least
	for range 200 { // the length grows with the distance
		mid := (lo + hi) / 2
		if l, _ := ExactLength(n1, n2, mid); l < links {
			lo = mid
		} else {
			hi = mid
		}
	}
	return (lo + hi) / 2, nil
}

// PinExcess is how much longer a belt is than its pins are apart, added up in straight
// lines of one pitch round it: what the arcs have more than their chords, an arc that is
// shorter than a pitch with the straights on either side.
func PinExcess(b *Belt, pitch float64) float64 {
	sum := 0.0
	for _, i := range b.Touching {
		w, c := &b.Wheels[i], &b.Contacts[i]
		if c.Angle == 0 || w.R <= pitch/2 {
			continue
		}
		arc := 2 * w.R * math.Asin(pitch/(2*w.R))
		// A pitch of which only a part lies on the arc has less: on average over all ways to
		// begin, two half ones have a fifth less than one on the arc (by series).
		sum += max(w.R*c.Angle/arc-0.2, 0) * (arc - pitch)
	}
	return sum
}
