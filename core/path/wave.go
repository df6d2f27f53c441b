package path

import (
	"math"

	"bead/core/geom"
)

// Waving is a wave that runs along a curve at one moment. Lengths are metres.
type Waving struct {
	Side, Up   float64 // how far it swings
	Wavelength float64
	Phase      float64                  // waves that have run by
	Amount     func(s float64) float64  // share of the swing at a distance
	Above      func(s float64) geom.Vec // the up there: unit, at right angles to the curve
}

// Wave returns the curve swung by a (sin q) sideways and by a (-cos q) upwards, q = 2 pi (s /
// wavelength - phase) and a the amount at s. On a closed curve the number of waves is the nearest
// whole one, so that it closes.
func (c *Curve) Wave(w Waving) []Span {
	rate := 2 * math.Pi / w.Wavelength
	if c.closed {
		rate = 2 * math.Pi * max(math.Round(c.length/w.Wavelength), 1) / c.length
	}
	// Twenty-four places a wave: within 2e-5 of its swing.
	n := int(min(max(math.Ceil(c.length*rate/(2*math.Pi)*24), 200), 40_000))
	return c.Displaced(n, func(s float64, p, t geom.Vec) geom.Vec {
		up := w.Above(s)
		a := w.Amount(s)
		sin, cos := math.Sincos(rate*s - 2*math.Pi*w.Phase)
		return p.Mad(up.Cross(t), w.Side*a*sin).Mad(up, -w.Up*a*cos)
	})
}

// settle is the number of places over which the end of a spline of evenly spaced places is felt: its
// influence falls by 2 - sqrt 3 from one to the next (the decay of cubic splines, textbooks).
const settle = 24

// Displaced returns the cubic spline with steady curvature through n+1 even places of the curve as
// to moves them. A wave or a lag turns the steps of curvature that most paths have into kinks; a
// spline of the places has none. Corners of the curve are rounded over a place or two.
func (c *Curve) Displaced(n int, to func(s float64, p, t geom.Vec) geom.Vec) []Span {
	n = max(n, 4)
	h := c.length / float64(n)
	place := func(i int) geom.Vec {
		s := h * float64(i)
		if i == n && !c.closed {
			s = c.length
		}
		p, t := c.At(s)
		return to(min(s, c.length), p, t)
	}
	pts := make([]geom.Vec, n+1)
	for i := range pts {
		pts[i] = place(i)
	}
	if c.closed {
		pts[n] = pts[0]
		// The places come round on either side, until where they begin is no longer felt.
		k := min(settle, n)
		long := append(append(append([]geom.Vec(nil), pts[n-k:n]...), pts[:n]...), pts[:k+1]...)
		return hermite(pts, slopes(long)[k:k+n+1])
	}
	return hermite(pts, slopes(pts))
}

// slopes are the derivatives, a step, of the cubic spline with steady second derivative through
// places, with none at its ends (natural): m[i-1] + 4 m[i] + m[i+1] = 3 (p[i+1] - p[i-1]).
func slopes(p []geom.Vec) []geom.Vec {
	n := len(p)
	m, c := make([]geom.Vec, n), make([]float64, n)
	// Thomas' elimination; the first and last rows are 2 m0 + m1 = 3 (p1 - p0).
	c[0] = 0.5
	m[0] = p[1].Sub(p[0]).Mul(1.5)
	for i := 1; i < n; i++ {
		d, r := 4.0, geom.Vec{}
		if i == n-1 {
			d, r = 2, p[i].Sub(p[i-1]).Mul(3)
		} else {
			r = p[i+1].Sub(p[i-1]).Mul(3)
		}
		k := 1 / (d - c[i-1])
		c[i] = k
		m[i] = r.Sub(m[i-1]).Mul(k)
	}
	for i := n - 2; i >= 0; i-- {
		m[i] = m[i].Mad(m[i+1], -c[i])
	}
	return m
}

// hermite is a span from each place to the next with the derivatives given.
func hermite(p, m []geom.Vec) []Span {
	out := make([]Span, 0, len(p)-1)
	for i := 1; i < len(p); i++ {
		out = append(out, CubicSpan(p[i-1], p[i-1].Mad(m[i-1], 1.0/3), p[i].Mad(m[i], -1.0/3), p[i]))
	}
	return out
}

// Beads is the value at x of beads that rise in at, eased between them and steady beyond them,
// and its slope; none where there are no beads.
func Beads(n int, bead func(i int) (at, v float64), x, none float64) (v, slope float64) {
	if n == 0 {
		return none, 0
	}
	a0, v0 := bead(0)
	if x <= a0 {
		return v0, 0
	}
	for i := 1; i < n; i++ {
		a1, v1 := bead(i)
		if x < a1 {
			u := (x - a0) / (a1 - a0)
			return v0 + (v1-v0)*u*u*(3-2*u), (v1 - v0) * 6 * u * (1 - u) / (a1 - a0)
		}
		a0, v0 = a1, v1
	}
	return v0, 0
}
