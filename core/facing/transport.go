package facing

import (
	"math"
	"sort"
	"sync"

	"bead/core/geom"
	"bead/core/path"
)

// transport holds frames of least twist at stations along a stretch. Between
// stations one more step of the same method gives the frame.
type transport struct {
	s       []float64 // increasing
	p, t, u []geom.Vec
	last    geom.Vec // the up where the stretch was carried to
	first   []int32  // first station of each even part, for quick look-up
	perS    float64
}

const (
	// carryTol is the angle in radians to which halving all steps must agree.
	carryTol    = 1e-9
	maxStations = 1 << 16
	// shareStations is the number of stations from which two cores find their places.
	shareStations = 512
)

// carry transports up u from distance a to b (b may be less than a), refining
// the stations until the method, which is of fourth order, has converged to
// carryTol by Richardson's estimate.
func carry(c *path.Curve, a, b float64, u geom.Vec) *transport {
	lo, hi := min(a, b), max(a, b)
	s := stationsBetween(c, lo, hi)
	tr := newTransport(c, s, u, b < a, nil)
	for 2*len(s) < maxStations {
		s = halve(s)
		finer := newTransport(c, s, u, b < a, tr)
		change := geom.Angle(tr.end(), finer.end())
		tr = finer
		if change/15 < carryTol {
			break
		}
	}
	tr.index()
	return tr
}

// stationsBetween returns lo, hi and the curve's own stations between them,
// where lo may be negative on a closed curve.
func stationsBetween(c *path.Curve, lo, hi float64) []float64 {
	const maxTurn = 0.05 // radians a step; refined by carry where that is not enough
	all := c.Stations(nil, c.Length(), maxTurn)
	out := []float64{lo}
	for _, shift := range [...]float64{-c.Length(), 0} {
		for _, s := range all {
			if q := s + shift; q > out[len(out)-1] && q < hi {
				out = append(out, q)
			}
		}
	}
	return append(out, hi)
}

func halve(s []float64) []float64 {
	out := make([]float64, 0, 2*len(s))
	for i := 1; i < len(s); i++ {
		out = append(out, s[i-1], (s[i-1]+s[i])/2)
	}
	return append(out, s[len(s)-1])
}

// newTransport carries u over the stations s. Where they are the halved ones of a
// coarser transport its places are used again.
func newTransport(c *path.Curve, s []float64, u geom.Vec, backward bool, coarse *transport) *transport {
	n := len(s)
	vec := make([]geom.Vec, 3*n)
	tr := &transport{s: s, p: vec[:n], t: vec[n : 2*n], u: vec[2*n:]}
	place := func(from, to int) {
		for i := from; i < to; i++ {
			if coarse != nil && i%2 == 0 {
				tr.p[i], tr.t[i] = coarse.p[i/2], coarse.t[i/2]
				continue
			}
			d := s[i]
			if i == n-1 && c.Closed() && d >= c.Length() {
				// The end, not the start it wraps to: the two may differ by a corner.
				d -= 1e-12 * c.Length()
			}
			tr.p[i], tr.t[i] = c.At(d)
		}
	}
	var wait sync.WaitGroup
	if n > shareStations {
		wait.Go(func() { place(0, n/2) })
		place(n/2, n)
		wait.Wait()
	} else {
		place(0, n)
	}
	if backward {
		tr.u[n-1] = u
		for i := n - 2; i >= 0; i-- {
			tr.u[i] = step(tr.p[i+1], tr.t[i+1], tr.u[i+1], tr.p[i], tr.t[i])
		}
		tr.last = tr.u[0]
		return tr
	}
	tr.u[0] = u
	for i := 1; i < n; i++ {
		tr.u[i] = step(tr.p[i-1], tr.t[i-1], tr.u[i-1], tr.p[i], tr.t[i])
	}
	tr.last = tr.u[n-1]
	return tr
}

func (tr *transport) end() geom.Vec { return tr.last }

func (tr *transport) index() {
	n := len(tr.s)
	lo := tr.s[0]
	span := tr.s[n-1] - lo
	tr.first = make([]int32, n+1)
	tr.perS = float64(n) / span
	for b := range tr.first {
		d := lo + float64(b)/tr.perS
		tr.first[b] = int32(max(sort.SearchFloat64s(tr.s, d)-1, 0))
	}
}

// at returns the up at distance s, where the curve has position p and tangent t.
func (tr *transport) at(s float64, p, t geom.Vec) geom.Vec {
	b := int((s - tr.s[0]) * tr.perS)
	k := int(tr.first[min(max(b, 0), len(tr.first)-1)])
	for k+1 < len(tr.s) && tr.s[k+1] <= s {
		k++
	}
	return step(tr.p[k], tr.t[k], tr.u[k], p, t)
}

// Carry returns the up that least twist makes of up u, carried from distance a to
// b in a few even steps. It serves checks, which need a second opinion on frames
// made otherwise; its error is about 1e-4 of the angle the path turns by.
func Carry(c *path.Curve, a, b float64, u geom.Vec) geom.Vec {
	const steps = 8
	p0, t0 := c.At(a)
	for i := 1; i <= steps; i++ {
		p1, t1 := c.At(a + (b-a)*float64(i)/steps)
		u = step(p0, t0, u, p1, t1)
		p0, t0 = p1, t1
	}
	return u
}

// step carries up u0 from (p0, t0) to (p1, t1) by double reflection (Wang,
// Juettler, Zheng, Liu, "Computation of rotation minimizing frames", ACM Trans.
// Graphics 27(1), 2008): first in the plane between the points, then in the
// plane between the reflected and the true tangent. Where a plane is not defined
// the least rotation between the tangents is used.
func step(p0, t0, u0, p1, t1 geom.Vec) geom.Vec {
	v1 := p1.Sub(p0)
	c1 := v1.Norm2()
	if c1 < math.SmallestNonzeroFloat64*1e20 || c1 <= 1e-28*p1.Norm2() {
		return geom.TurnTo(u0, t0, t1)
	}
	k := 2 / c1
	uL := u0.Mad(v1, -k*v1.Dot(u0))
	tL := t0.Mad(v1, -k*v1.Dot(t0))
	v2 := t1.Sub(tL)
	c2 := v2.Norm2()
	if c2 < 1e-28 {
		return geom.TurnTo(u0, t0, t1)
	}
	u := uL.Mad(v2, -2/c2*v2.Dot(uL))
	// Against drift over many steps.
	return u.Sub(t1.Mul(u.Dot(t1))).Unit()
}
