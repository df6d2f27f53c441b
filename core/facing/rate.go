package facing

import (
	"math"

	"bead/core/geom"
)

// Rate returns the turn of up about forward a metre at distance s beyond least twist, radians,
// where the field gives frame f and the path the curvature k: what normals of bodies need.
func (f *Field) Rate(s float64, fr geom.Frame, k geom.Vec) float64 {
	c := f.curve
	if c.Closed() {
		s = c.Wrap(s)
	} else if s < 0 || s > c.Length() {
		return 0 // straight on beyond the end, as the end faces
	}
	if f.whole != nil {
		return f.twist
	}
	for i := range f.bridges {
		b := &f.bridges[i]
		q := s
		if q > b.to && c.Closed() {
			q -= c.Length()
		}
		if q >= b.from && q <= b.to {
			return b.rate + f.twist
		}
	}
	switch f.spec.Mode {
	case Steady:
		// Up is r - (r.t) t made a unit; along side its change is that of -(r.t) k.
		along := f.ref.Dot(fr.T)
		says := math.Sqrt(max(1-along*along, 1e-12))
		side := fr.Side()
		if f.twist != 0 { // of the up before the twist
			side = geom.RotateAbout(side, fr.T, -f.twist*s)
		}
		return f.twist + along*k.Dot(side)/says
	case Loopside:
		n := fr.T.Cross(f.ref)
		says := n.Norm2()
		if says == 0 {
			return f.twist
		}
		// d(t x r)/ds = k x r; its part along side U x T, over |t x r|.
		u := n.Mul(f.sign / math.Sqrt(says))
		side := u.Cross(fr.T)
		return f.twist - k.Cross(f.ref).Mul(f.sign/math.Sqrt(says)).Dot(side)
	}
	// Guides and bends: by the difference of two frames.
	h := 1e-5 * c.Length()
	if !c.Closed() {
		h = min(h, s, c.Length()-s)
	}
	if h <= 0 {
		return f.twist
	}
	a, b := f.Frame(s-h), f.Frame(s+h)
	return -b.U.Sub(a.U).Dot(fr.Side()) / (2 * h)
}
