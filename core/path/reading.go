package path

import (
	"math"

	"bead/core/geom"
)

// Crossing is a place where the curve meets itself.
type Crossing struct {
	A, B float64 // distances, A < B
	At   geom.Vec
}

// readingSteps bounds the chords that readings look at.
const readingSteps = 360

// looks returns distances that follow the curve closely enough for readings.
func (c *Curve) looks() []float64 {
	tol := 1e-3 * c.length
	s := c.Stations(nil, tol, 0.35)
	for len(s) > readingSteps && tol < c.length {
		tol *= 4
		s = c.Stations(nil, tol, math.Inf(1))
	}
	return s
}

// SelfCrossings finds where the curve passes through itself, within 1e-6 of its
// length; at most most of them. Chords of about a thousandth of the length are
// compared pair by pair, and near ones narrowed down by Newton's method.
func (c *Curve) SelfCrossings(most int) []Crossing {
	s := c.looks()
	n := len(s)
	p := make([]geom.Vec, n)
	for i := range s {
		p[i], _ = c.At(s[i])
		if i == n-1 {
			p[i] = c.spans[len(c.spans)-1].End()
		}
	}
	tol := 1e-6 * c.length
	near := newReaches(p[:n-1], s)
	var out []Crossing
	for i := 1; i < n; i++ {
		if i%stopEvery == 0 && c.stop.Err() != nil {
			break
		}
		for j := near.next(i-1, i+1) + 1; j > 0; j = near.next(i-1, j) + 1 {
			if c.closed && i == 1 && j == n-1 {
				continue
			}
			a, b := p[i-1], p[j-1]
			far := (s[i] - s[i-1]) + (s[j] - s[j-1])
			x, y := nearestOfChords(a, p[i], b, p[j])
			if a.Lerp(p[i], x).Sub(b.Lerp(p[j], y)).Norm() > 0.15*far {
				continue
			}
			u, v, ok := c.narrow(s[i-1]+x*(s[i]-s[i-1]), s[j-1]+y*(s[j]-s[j-1]), tol)
			if !ok || math.Abs(u-v) < tol || c.closed && math.Abs(u-v) > c.length-tol {
				continue
			}
			known := false
			for _, k := range out {
				if math.Abs(k.A-u) < 1e3*tol && math.Abs(k.B-v) < 1e3*tol {
					known = true
				}
			}
			if known {
				continue
			}
			at, _ := c.At(u)
			if out = append(out, Crossing{u, v, at}); len(out) >= most {
				return out
			}
		}
	}
	return out
}

// narrow looks for a meeting of the curve near distances u < v.
func (c *Curve) narrow(u, v, tol float64) (float64, float64, bool) {
	for range 20 {
		p, t := c.At(u)
		q, w := c.At(v)
		d := q.Sub(p)
		if d.Norm() < tol {
			if t.Dot(w) < 0 && c.runsBack(u, v, tol) {
				return 0, 0, false
			}
			if !c.closed {
				return u, v, u >= 0 && v <= c.length
			}
			u, v = c.Wrap(u), c.Wrap(v)
			return min(u, v), max(u, v), true
		}
		// Least squares of d + w dv - t du = 0.
		tw := t.Dot(w)
		det := 1 - tw*tw
		if det < 1e-9 {
			return 0, 0, false
		}
		dt, dw := d.Dot(t), d.Dot(w)
		du, dv := (dt-tw*dw)/det, (tw*dt-dw)/det
		u, v = u+du, v+dv
	}
	return 0, 0, false
}

// runsBack reports whether the curve goes over itself the other way on either side of a meeting of
// two of its places, as from a dead end, instead of crossing there.
func (c *Curve) runsBack(u, v, tol float64) bool {
	over := func(by float64) bool {
		p, _ := c.At(u + by)
		q, _ := c.At(v - by)
		return p.Sub(q).Norm() < 4*tol
	}
	by := 1e-3 * c.length
	return over(by) || over(-by)
}

// nearestOfChords returns the parameters at which chords a-b and c-d are nearest
// (Ericson, "Real-Time Collision Detection", 5.1.9).
func nearestOfChords(a, b, c, d geom.Vec) (x, y float64) {
	u, v, w := b.Sub(a), d.Sub(c), a.Sub(c)
	uu, vv, uv, uw, vw := u.Norm2(), v.Norm2(), u.Dot(v), u.Dot(w), v.Dot(w)
	clamp := func(x float64) float64 { return min(max(x, 0), 1) }
	if uu == 0 || vv == 0 {
		return 0, 0
	}
	if det := uu*vv - uv*uv; det > 1e-12*uu*vv {
		x = clamp((uv*vw - vv*uw) / det)
	}
	y = (uv*x + vw) / vv
	if y < 0 || y > 1 {
		y = clamp(y)
		x = clamp((uv*y - uw) / uu)
	}
	return x, y
}

// Lowest returns the lowest height of the curve and a distance at which it is.
func (c *Curve) Lowest() (height, at float64) {
	height = c.Bounds().Min.Y
	best := math.Inf(1)
	for _, s := range c.looks() {
		if p, _ := c.At(min(s, c.length*(1-1e-12))); p.Y < best {
			best, at = p.Y, s
		}
	}
	return height, at
}

// Tightest returns the greatest curvature, 1/m, and the distance at which it is; 0
// where the curve is straight. Corners do not count.
func (c *Curve) Tightest() (curvature, at float64) {
	for i := range c.spans {
		if c.bends[i] <= curvature*0.7 {
			continue // what its few looks missed does not make up for that
		}
		lo, hi := c.starts[i], c.starts[i+1]
		const looks = 24
		k := func(s float64) float64 {
			e := 1e-9 * (hi - lo)
			return c.Curvature(min(max(s, lo+e), hi-e)).Norm()
		}
		best, where := greatest(k, lo, hi, looks)
		if best > curvature {
			curvature, at = best, where
		}
	}
	return curvature, at
}

// greatest is the greatest value of f over lo..hi and where it is: the best of that many looks,
// narrowed down by golden sections.
func greatest(f func(s float64) float64, lo, hi float64, looks int) (value, at float64) {
	h := (hi - lo) / float64(looks)
	value, at = math.Inf(-1), lo
	for j := range looks + 1 {
		if v := f(lo + h*float64(j)); v > value {
			value, at = v, lo+h*float64(j)
		}
	}
	const golden = 0.6180339887498949
	a, b := max(at-h, lo), min(at+h, hi)
	for range 30 {
		x, y := b-golden*(b-a), a+golden*(b-a)
		if f(x) > f(y) {
			b = y
		} else {
			a = x
		}
	}
	if v := f((a + b) / 2); v > value {
		value, at = v, (a+b)/2
	}
	return value, at
}

// ClosePoints returns the first of each two neighbouring points that lie nearer to
// one another than a thousandth of their mean step.
func ClosePoints(pts []geom.Vec, closed bool) []int {
	n := len(pts)
	steps := n
	if !closed {
		steps--
	}
	mean := 0.0
	for i := range steps {
		mean += pts[(i+1)%n].Sub(pts[i]).Norm() / float64(steps)
	}
	var out []int
	for i := range steps {
		if pts[(i+1)%n].Sub(pts[i]).Norm() < 1e-3*mean {
			out = append(out, i)
		}
	}
	return out
}
