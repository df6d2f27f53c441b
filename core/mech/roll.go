package mech

import "math"

// Roll is a sheet wound on a core. Lengths in metres. Its area from the end is that of the sheet's
// edge: pi (r^2 - core^2) = length thickness (common practice for rolls of paper and cloth).
type Roll struct {
	Thickness float64 // of the sheet
	Full      float64 // radius with all of the sheet on it
	Core      float64 // radius without
}

// Capacity is how much sheet is on the full roll.
func (r Roll) Capacity() float64 { return math.Pi * (r.Full*r.Full - r.Core*r.Core) / r.Thickness }

// Turns is how often it goes round the core.
func (r Roll) Turns() float64 { return (r.Full - r.Core) / r.Thickness }

// Radius is that of a roll off which some of the sheet has been laid.
func (r Roll) Radius(laid float64) float64 {
	return math.Sqrt(max(r.Full*r.Full-laid*r.Thickness/math.Pi, r.Core*r.Core))
}

// Turned is how far it has turned when that much has been laid, radians: the integral of the way
// over the radius.
func (r Roll) Turned(laid float64) float64 {
	return 2 * math.Pi * (r.Full - r.Radius(laid)) / r.Thickness
}

// FullFor is the full radius that holds a length of the sheet, ThicknessFor the thickness with
// which it does.
func (r Roll) FullFor(length float64) float64 {
	return math.Sqrt(r.Core*r.Core + length*r.Thickness/math.Pi)
}

// ThicknessFor is the thickness with which the full roll holds a length.
func (r Roll) ThicknessFor(length float64) float64 {
	return math.Pi * (r.Full*r.Full - r.Core*r.Core) / length
}

// Outline is the radius of a roll of radius r at an angle round it from where the sheet leaves it,
// in the direction in which the sheet goes on: each turn lies a thickness further in.
func (r Roll) Outline(radius, angle float64) float64 {
	return max(radius-r.Thickness*angle/(2*math.Pi), r.Core)
}
