package part

import (
	"fmt"
	"math"

	"bead/core/geom"
)

// CoilSize is the measure of a wound wire in metres.
type CoilSize struct {
	Radius float64 `json:"radius" form:"Radius;length;min=1e-6"` // to the wire's middle
	Pitch  float64 `json:"pitch" form:"Pitch;length;min=1e-6"`   // from turn to turn
	Turns  float64 `json:"turns" form:"Turns;plain;min=0.001"`
	Wire   float64 `json:"wire" form:"Wire radius;length;min=1e-6"` // radius of the wire
}

// Length is the coil's length along its axis between the middles of the wire's ends.
func (s *CoilSize) Length() float64 { return s.Pitch * s.Turns }

// Coil returns a wire wound to the right about the forward axis, centred on the origin. Its
// wire keeps its section when the coil is bent or drawn out.
func Coil(s CoilSize) (*geom.Mesh, error) {
	if err := positive([]string{"radius", "pitch", "turns", "wire"}, s.Radius, s.Pitch, s.Turns, s.Wire); err != nil {
		return nil, err
	}
	if s.Turns > 1000 || s.Wire > s.Radius {
		return nil, fmt.Errorf("%g turns of a wire of %g m about %g m are not accepted: up to 1000 turns of a wire thinner than their radius are", s.Turns, s.Wire, s.Radius)
	}
	var b builder
	b.wire(s.Radius, s.Pitch, s.Length(), 0, s.Wire)
	return &b.m, nil
}

// StrandsSize is the measure of a cable of strands in metres.
type StrandsSize struct {
	Length float64 `json:"length" form:"Length;length;min=1e-6"`
	Count  int     `json:"count" form:"Strands;count;min=1"`
	Radius float64 `json:"radius" form:"Cable radius;length;min=1e-6"` // of the whole cable
	Lay    float64 `json:"lay" form:"Lay, below 0: left;length"`       // of one turn of a strand along the cable; below 0: left hand
}

// Strand returns the radius of one strand and that of the helix of its middle, of n strands that
// touch one another inside a cable of radius r: a = h sin(pi/n), a + h = r.
func Strand(n int, r float64) (strand, helix float64) {
	if n < 2 {
		return r, 0
	}
	sin := math.Sin(math.Pi / float64(n))
	helix = r / (1 + sin)
	return helix * sin, helix
}

// Strands returns a laid cable about the forward axis, centred on the origin. The strands keep
// their section when the cable is bent.
func Strands(s StrandsSize) (*geom.Mesh, error) {
	if err := positive([]string{"length", "radius", "lay"}, s.Length, s.Radius, math.Abs(s.Lay)); err != nil {
		return nil, err
	}
	if s.Count < 1 || s.Count > 60 {
		return nil, fmt.Errorf("%d strands are not accepted: from 1 to 60 are", s.Count)
	}
	if n := s.Length / math.Abs(s.Lay) * float64(s.Count); n > 1000 {
		return nil, fmt.Errorf("%.0f turns of all strands are not accepted: up to 1000 are, so a longer lay, fewer strands or a shorter cable", n)
	}
	var b builder
	strand, helix := Strand(s.Count, s.Radius)
	for k := range s.Count {
		b.wire(helix, s.Lay, s.Length, 2*math.Pi*float64(k)/float64(s.Count), strand)
	}
	return &b.m, nil
}

// wire adds a wire along a helix about z: its middle at a radius, with a pitch (below 0: left
// hand), a length along z, an angle at the start. The sections are at right angles to it, and
// each is fastened at its middle.
func (b *builder) wire(radius, pitch, length, begin, wire float64) {
	sides := max(8, sidesOf/2)
	turns := length / math.Abs(pitch)
	steps := max(int(math.Ceil(turns*float64(sidesOf)*1.5)), 2)
	rate := 2 * math.Pi / pitch
	rise := geom.V(0, 0, 1)
	base := uint32(len(b.m.Positions) / 3)
	stretch := math.Hypot(1, radius*rate)
	section := func(z float64, ahead float64, cap bool) (c geom.Vec, first uint32) {
		a := rate*(z+length/2) + begin
		sin, cos := math.Sincos(a)
		out := geom.V(cos, sin, 0)
		c = out.Mul(radius).Add(geom.V(0, 0, z))
		t := geom.V(-sin, cos, 0).Mul(radius * rate).Add(rise).Unit()
		across := t.Cross(out)
		first = uint32(len(b.m.Positions) / 3)
		for k := range sides + 1 {
			s, q := math.Sincos(2 * math.Pi * float64(k%sides) / float64(sides))
			d := out.Mul(q).Mad(across, s)
			n := d
			if cap {
				n = t.Mul(ahead)
			}
			b.vertex(c.Mad(d, wire), n)
			b.m.UVs = append(b.m.UVs, float32(2*math.Pi*wire*float64(k)/float64(sides)), float32(z*stretch))
			b.m.Spine = append(b.m.Spine, float32(z))
		}
		return c, first
	}
	for i := range steps + 1 {
		section(-length/2+length*float64(i)/float64(steps), 0, false)
	}
	row := uint32(sides + 1)
	for i := range uint32(steps) {
		for k := range uint32(sides) {
			p := base + i*row + k
			b.m.Indices = append(b.m.Indices, p, p+1, p+row, p+1, p+row+1, p+row)
		}
	}
	for _, end := range [2]float64{-1, 1} {
		_, first := section(end*length/2, end, true)
		for k := uint32(1); k+1 < uint32(sides); k++ {
			if end > 0 {
				b.m.Indices = append(b.m.Indices, first, first+k, first+k+1)
			} else {
				b.m.Indices = append(b.m.Indices, first, first+k+1, first+k)
			}
		}
	}
}
