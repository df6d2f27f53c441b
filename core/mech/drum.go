package mech

import "math"

// Drum takes up rope in layers, one turn beside the other, each layer in the grooves of the one
// below it: layer k at the radius r + e/2 + k e sqrt(3)/2 (nested, common practice). Lengths in metres.
type Drum struct {
	Radius float64 // of its bare barrel
	Width  float64 // between the flanges
	Rope   float64 // diameter e
}

// Turns is how many turns a layer has.
func (d Drum) Turns() int { return max(int(math.Floor(d.Width/d.Rope*(1+1e-9))), 1) }

// LayerRadius is that of the rope's middle in layer k, from 0.
func (d Drum) LayerRadius(k int) float64 {
	return d.Radius + d.Rope/2 + float64(k)*d.Rope*math.Sqrt(3)/2
}

// LayerLength is how much rope layer k takes: turns of a helix that climbs by a diameter each.
func (d Drum) LayerLength(k int) float64 {
	return float64(d.Turns()) * math.Hypot(2*math.Pi*d.LayerRadius(k), d.Rope)
}

// Wound is a place of the rope on a drum.
type Wound struct {
	Layer  int
	Radius float64 // of the rope's middle
	Angle  float64 // from the rope's fast end, radians, over all layers
	Across float64 // from the middle of the drum; layers run to and fro
}

// At is the place of the rope at a length from its fast end.
func (d Drum) At(length float64) Wound {
	length = max(length, 0)
	turns := float64(d.Turns())
	var w Wound
	for length > d.LayerLength(w.Layer) {
		length -= d.LayerLength(w.Layer)
		w.Layer++
	}
	share := length / d.LayerLength(w.Layer)
	turn := share * turns
	w.Angle = 2 * math.Pi * (float64(w.Layer)*turns + turn)
	w.Radius = d.LayerRadius(w.Layer)
	// It climbs from layer to layer over half a turn on either side, so that none is longer for it.
	climb := d.LayerRadius(1) - d.LayerRadius(0)
	if u := turn + 0.5; w.Layer > 0 && u < 1 {
		w.Radius -= climb * (1 - u*u*(3-2*u))
	} else if u := turn - turns + 0.5; u > 0 {
		w.Radius += climb * u * u * (3 - 2*u)
	}
	half := (turns - 1) / 2 * d.Rope
	w.Across = -half + 2*half*share
	if w.Layer%2 == 1 {
		w.Across = -w.Across
	}
	return w
}

// Length is how much rope lies on the drum up to an angle from its fast end, radians.
func (d Drum) Length(angle float64) float64 {
	turns := max(angle, 0) / (2 * math.Pi)
	length, of := 0.0, float64(d.Turns())
	for k := 0; ; k++ {
		if turns <= of {
			return length + turns/of*d.LayerLength(k)
		}
		length, turns = length+d.LayerLength(k), turns-of
	}
}
