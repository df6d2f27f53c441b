package scene

import (
	"math"
	"strconv"
)

// Units is a unit for showing small lengths.
type Units string

// The units.
const (
	Millimetres Units = "mm"
	Centimetres Units = "cm"
	UnitMetres  Units = "m"
	Inches      Units = "in"
)

// perMetre is how many of a unit a metre is, and the decimals that it is shown with.
func (u Units) perMetre() (per float64, decimals int) {
	switch u {
	case Centimetres:
		return 100, 2
	case UnitMetres:
		return 1, 3
	case Inches:
		return 1 / 0.0254, 3
	}
	return 1000, 1
}

func (u Units) name() string {
	if u == "" {
		return string(Millimetres)
	}
	return string(u)
}

// Length shows a small length of v metres, with as many digits as it needs to be told from 0.
func (u Units) Length(v float64) string {
	per, decimals := u.perMetre()
	return shown(v*per, decimals) + " " + u.name()
}

// Distance shows a length along a path of v metres: in metres, of inches in feet.
func (u Units) Distance(v float64) string {
	if u == Inches {
		return shown(v/0.3048, 3) + " ft"
	}
	return shown(v, 3) + " m"
}

// Speed shows a speed of v metres a second.
func (u Units) Speed(v float64) string {
	per, decimals := u.perMetre()
	if u == Centimetres { // as the fields of the page
		per, decimals = 1000, 1
		return shown(v*per, decimals) + " mm/s"
	}
	return shown(v*per, decimals) + " " + u.name() + "/s"
}

func shown(v float64, decimals int) string {
	if math.Abs(v) < 1e-3*math.Pow10(-decimals) { // rounding
		return strconv.FormatFloat(0, 'f', decimals, 64)
	}
	if math.Abs(v) < 5*math.Pow10(-decimals) {
		return strconv.FormatFloat(v, 'g', 2, 64)
	}
	return strconv.FormatFloat(v, 'f', decimals, 64)
}
