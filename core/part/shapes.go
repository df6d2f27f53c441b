package part

import (
	"fmt"
	"math"

	"bead/core/geom"
)

// positive returns an error that names the first size that is not within 1e-6
// to 1e4 metres.
func positive(names []string, sizes ...float64) error {
	for i, v := range sizes {
		if !(v >= 1e-6 && v <= 1e4) {
			return &SizeError{Field: names[i], Value: v}
		}
	}
	return nil
}

// SizeError names the size that a shape cannot be made with.
type SizeError struct {
	Field string
	Value float64
}

func (e *SizeError) Error() string {
	return fmt.Sprintf("%g m is not accepted: a size from 0.000001 to 10000 m is", e.Value)
}

// Box returns a box of the given side, height and length, centred on the origin.
func Box(side, height, length float64) (*geom.Mesh, error) {
	if err := positive([]string{"side", "height", "length"}, side, height, length); err != nil {
		return nil, err
	}
	var b builder
	b.wedge(0, 0, -height/2, side/2, length/2, height/2, side/2, length/2)
	return &b.m, nil
}

// ShoeSize is the measure of a tread shoe in metres.
type ShoeSize struct {
	Length  float64 `json:"length" form:"Length, pin to pin;length;min=1e-6"` // pin to pin
	Width   float64 `json:"width" form:"Width;length;min=1e-6"`               // across the tread
	Height  float64 `json:"height" form:"Plate height;length;min=1e-6"`       // thickness of the plate
	Grouser float64 `json:"grouser" form:"Grouser;length;min=0"`              // how far the grouser stands out of the plate
	Horn    float64 `json:"horn" form:"Guide horn;length;min=0"`              // how far the guide horn reaches inwards
}

// Shoe returns a tread shoe: a plate whose pin line is the origin's height, with
// a grouser across its outer side (up) and a guide horn on its inner side, and
// hinge barrels that mesh with the neighbours' when placed one Length apart.
// Grouser and Horn may be 0.
func Shoe(s ShoeSize) (*geom.Mesh, error) {
	if err := positive([]string{"length", "width", "height"}, s.Length, s.Width, s.Height); err != nil {
		return nil, err
	}
	for _, v := range []struct {
		name string
		v    float64
	}{{"grouser", s.Grouser}, {"horn", s.Horn}} {
		if !(v.v >= 0 && v.v <= 1e4) {
			return nil, &SizeError{Field: v.name, Value: v.v}
		}
	}
	var b builder
	half, w, h := s.Length/2, s.Width/2, s.Height/2
	r := h * 0.98 // barrels stay just inside the plate's thickness
	edge := half - 1.25*r
	bevel := min(h*0.45, edge*0.3)
	// The plate stops short of the barrels and has bevelled outer edges.
	b.prism([][2]float64{
		{-edge, -h}, {-edge, h - bevel}, {-edge + bevel, h}, {edge - bevel, h}, {edge, h - bevel}, {edge, -h},
	}, -w, w)
	if s.Grouser > 0 {
		// A bar across, a third of the plate long at its foot, with sloped flanks.
		z, foot, top := -edge*0.12, edge*0.36, edge*0.2
		b.prism([][2]float64{
			{z - foot, h}, {z - top, h + s.Grouser}, {z + top, h + s.Grouser}, {z + foot, h},
		}, -w, w)
		low := s.Grouser * 0.38
		z2, f2 := edge*0.62, edge*0.14
		b.prism([][2]float64{{z2 - f2, h}, {z2 - f2*0.5, h + low}, {z2 + f2*0.5, h + low}, {z2 + f2, h}}, -w, w)
	}
	if s.Horn > 0 {
		b.wedge(0, 0, -h, w*0.16, edge*0.62, -h-s.Horn, w*0.06, edge*0.22)
	}
	// Five bays across: three barrels behind, two in front, with a clearance.
	const bays, clear = 5, 0.06
	bay := s.Width / bays
	for i := range bays {
		x0 := -w + bay*float64(i) + bay*clear
		x1 := x0 + bay*(1-2*clear)
		z, inner := -half, -edge
		if i%2 == 1 {
			z, inner = half, edge
		}
		b.prism(round(z, r, 12), x0, x1)
		lo, hi := min(z, inner), max(z, inner)
		b.prism([][2]float64{{lo, -r * 0.7}, {lo, r * 0.7}, {hi, r * 0.7}, {hi, -r * 0.7}}, x0, x1)
	}
	return &b.m, nil
}

// round is a circle of radius r about (z, 0) as a prism's profile.
func round(z, r float64, n int) [][2]float64 {
	out := make([][2]float64, n)
	for i := range out {
		sin, cos := math.Sincos(2*math.Pi*float64(i)/float64(n) + math.Pi/float64(n))
		out[i] = [2]float64{z - r*cos, r * sin}
	}
	return out
}

// Float returns a net float: a barrel with rounded shoulders and a collar at each
// end, turned about the forward axis and centred on the origin. length and
// radius are its whole length and greatest radius in metres.
func Float(length, radius float64) (*geom.Mesh, error) {
	if err := positive([]string{"length", "radius"}, length, radius); err != nil {
		return nil, err
	}
	var b builder
	collar := length * 0.09
	neck := radius * 0.34
	body := length/2 - collar
	shoulder := min(radius-neck, body*0.8)
	var right []lathePoint
	// From the middle to the right end: barrel, shoulder (quarter ellipse), collar.
	bulge := radius * 0.94
	for i := range 5 {
		u := float64(i) / 4
		z := u * (body - shoulder)
		right = append(right, lathePoint{z, radius - (radius-bulge)*u*u, 2 * (radius - bulge) * u / max(body-shoulder, 1e-9), 1})
	}
	for i := range 9 {
		sin, cos := math.Sincos(math.Pi / 2 * float64(i) / 8)
		right = append(right, lathePoint{body - shoulder + shoulder*sin, neck + (bulge-neck)*cos, sin / shoulder, cos / (bulge - neck)})
	}
	right = append(right,
		lathePoint{body, neck, 0, 1}, lathePoint{length / 2, neck, 0, 1},
		lathePoint{length / 2, neck, 1, 0}, lathePoint{length / 2, 0, 1, 0})
	outline := make([]lathePoint, 0, 2*len(right))
	for i := len(right) - 1; i > 0; i-- {
		p := right[i]
		outline = append(outline, lathePoint{-p.z, p.r, -p.nz, p.nr})
	}
	outline = append(outline, right...)
	b.lathe(outline, 32)
	return &b.m, nil
}

// Post returns an upright cylinder or cone of the given radii that stands on the
// origin, 48-sided. top may be as large as radius or smaller, down to 0 for a point.
func Post(radius, top, height float64) (*geom.Mesh, error) {
	if err := positive([]string{"radius", "height"}, radius, height); err != nil {
		return nil, err
	}
	if !(top >= 0 && top <= 1e4) {
		return nil, &SizeError{Field: "topRadius", Value: top}
	}
	var b builder
	slope := radius - top // the side's normal leans up by this a height
	b.lathe([]lathePoint{
		{0, 0, -1, 0}, {0, radius, -1, 0}, {0, radius, slope, height},
		{height, top, slope, height}, {height, top, 1, 0}, {height, 0, 1, 0},
	}, 48)
	// Turned about z: stand it up, z to y, y to x, x to z.
	for _, v := range [...][]float32{b.m.Positions, b.m.Normals} {
		for i := 0; i < len(v); i += 3 {
			v[i], v[i+1], v[i+2] = v[i+1], v[i+2], v[i]
		}
	}
	return &b.m, nil
}

// LinkSize is the measure of a link of a roller chain in metres.
type LinkSize struct {
	Pitch  float64 `json:"pitch" form:"Pitch, pin to pin;length;min=1e-6"`                                             // pin to pin
	Width  float64 `json:"width" form:"Between inner plates;length;min=1e-6"`                                          // between the inner plates
	Height float64 `json:"height" form:"Plate height;length;min=1e-6"`                                                 // of the plates
	Plate  float64 `json:"plate" form:"Plate thickness;length;min=1e-6"`                                               // their thickness
	Roller float64 `json:"roller" form:"Roller radius;length;min=1e-6"`                                                // radius of the rollers
	Outer  bool    `json:"outer,omitempty" form:"Which link it is;switch;off=inner, with rollers;on=outer, with pins"` // plates outside those of its neighbours, with the pins; else inside, with the rollers
}

// Link returns a chain link whose pins lie half a pitch ahead of and behind the origin.
// Inner links hold the rollers, outer links lie outside them and hold the pins, which
// end in the same two places.
func Link(s LinkSize) (*geom.Mesh, error) {
	if err := positive([]string{"pitch", "width", "height", "plate", "roller"}, s.Pitch, s.Width, s.Height, s.Plate, s.Roller); err != nil {
		return nil, err
	}
	var b builder
	half, r := s.Pitch/2, s.Height/2
	gap := s.Plate * 0.12
	inner := s.Width / 2
	if s.Outer {
		inner += s.Plate + gap
	}
	// A plate is a long round: two half circles and the straights between them.
	const n = 10
	var plate [][2]float64
	for i := range 2 * (n + 1) {
		z, a := -half, -math.Pi/2-math.Pi*float64(i)/n
		if i > n {
			z, a = half, math.Pi/2-math.Pi*float64(i-n-1)/n
		}
		plate = append(plate, [2]float64{z + r*math.Cos(a), r * math.Sin(a)})
	}
	b.prism(plate, -inner-s.Plate, -inner)
	b.prism(plate, inner, inner+s.Plate)
	for _, z := range [...]float64{-half, half} {
		if s.Outer {
			reach := inner + s.Plate*1.3
			b.prism(round(z, s.Roller*0.5, 14), -reach, reach)
		} else {
			b.prism(round(z, s.Roller, 16), -s.Width/2, s.Width/2)
		}
	}
	return &b.m, nil
}

// Wheel returns a wheel about the x axis: a rim whose face lies a little below radius, or
// teeth with gaps about the places of the pins, a hub, and five spokes of which the one
// straight up (y) is broad, so that turning shows. teeth 0: a plain wheel. The first gap
// is straight up.
func Wheel(radius, width float64, teeth int, pitch float64) (*geom.Mesh, error) {
	if err := positive([]string{"radius", "width"}, radius, width); err != nil {
		return nil, err
	}
	var b builder
	var outer []float64 // radius at even angles from straight up
	rim := radius * 0.8
	if teeth == 0 {
		for range 60 {
			outer = append(outer, radius*0.97)
		}
	} else {
		rim = max(radius-pitch*0.55, radius*0.3) * 0.9
		const parts = 8 // a tooth
		tip, root := radius+pitch*0.26, radius-pitch*0.3
		for i := range parts * teeth {
			u := math.Abs(float64(i%parts)/parts-0.5) * 2 // 1 in the gap, 0 at the tooth
			k := min(max((u-0.3)/0.4, 0), 1)
			outer = append(outer, tip+(root-tip)*k*k*(3-2*k))
		}
	}
	b.ring(outer, rim, width)
	hub := make([]float64, 24)
	for i := range hub {
		hub[i] = radius * 0.2
	}
	b.ring(hub, radius*0.07, width*1.15)
	for i := range 5 {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / 5)
		w := radius * 0.05
		if i == 0 {
			w = radius * 0.12
		}
		at := func(r, side float64) [2]float64 { return [2]float64{r*sin + side*w*cos, r*cos - side*w*sin} }
		b.prism([][2]float64{at(radius*0.17, -1), at(rim*1.02, -1), at(rim*1.02, 1), at(radius*0.17, 1)}, -width*0.3, width*0.3)
	}
	return &b.m, nil
}

// ring adds a ring about the x axis whose outer face lies at the radii given, evenly from
// straight up (y) towards z.
func (b *builder) ring(outer []float64, inner, width float64) {
	n := len(outer)
	at := func(i int, r, x float64) geom.Vec {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / float64(n))
		return geom.V(x, r*cos, r*sin)
	}
	for i := range n {
		j := (i + 1) % n
		p, q, x := outer[i], outer[j], width/2
		b.face(at(i, p, -x), at(i, p, x), at(j, q, x), at(j, q, -x))
		b.face(at(i, inner, x), at(i, inner, -x), at(j, inner, -x), at(j, inner, x))
		b.face(at(i, p, x), at(i, inner, x), at(j, inner, x), at(j, q, x))
		b.face(at(i, inner, -x), at(i, p, -x), at(j, q, -x), at(j, inner, -x))
	}
}
