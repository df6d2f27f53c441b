package scene

import (
	"math"

	"bead/core/geom"
	"bead/core/path"
)

// WeaveShape is a level way that swings to the left and right of a straight line. It begins and ends
// on that line and along it.
type WeaveShape struct {
	From    Vec3    `json:"from" form:"Begins at;place"`
	Length  float64 `json:"length" form:"Length, straight;distance;min=1e-6" jsonschema:"description=Metres from its start straight to its end."`
	Width   float64 `json:"width" form:"Width;distance;min=0" jsonschema:"description=Metres from its farthest to the left to its farthest to the right."`
	Bends   int     `json:"bends" form:"Bends;count;min=1;max=1000" jsonschema:"description=How often it swings out."`
	Heading float64 `json:"heading,omitempty" form:"Heading;angle;fallback=0" jsonschema:"description=Degrees to the left of forward in which it goes."`
}

// weaveFit is the greatest distance of its spans from the true wave, as a share of its length.
const weaveFit = 1e-7

func (w *WeaveShape) about() About {
	return About{Name: "Weave", Text: "an S of so many bends", First: &WeaveShape{Length: 8, Width: 2, Bends: 2}}
}

func (w *WeaveShape) spans(func(string)) ([]path.Span, bool) {
	h := w.Heading * math.Pi / 180
	ahead, left := geom.V(math.Sin(h), 0, math.Cos(h)), geom.V(math.Cos(h), 0, -math.Sin(h))
	from := geom.FromArray(w.From)
	quarter := 0.5 / float64(w.Bends) // of a whole wave, as a share of the length
	at := func(u float64) (p, d geom.Vec) {
		s, c := math.Sincos(math.Pi * float64(w.Bends) * u)
		e, de := ease(min(u, 1-u) / quarter)
		if u > 0.5 {
			de = -de
		}
		x := w.Width / 2 * s * e
		dx := w.Width / 2 * (math.Pi*float64(w.Bends)*c*e + s*de/quarter)
		return from.Mad(ahead, w.Length*u).Mad(left, x), ahead.Mul(w.Length).Mad(left, dx)
	}
	var out []path.Span
	n := 2 * w.Bends // so that the eased ends and the wave are fitted apart
	for k := range n {
		out = path.FitTo(out, float64(k)/float64(n), float64(k+1)/float64(n), at, weaveFit*w.Length)
	}
	return out, false
}

// ease goes from 0 to 1 with no speed and no bend at either end, and how fast it does (K. Perlin,
// "Improving noise", SIGGRAPH 2002: the polynomial of fifth degree).
func ease(u float64) (y, slope float64) {
	if u >= 1 {
		return 1, 0
	}
	return u * u * u * (u*(6*u-15) + 10), 30 * u * u * (u - 1) * (u - 1)
}
