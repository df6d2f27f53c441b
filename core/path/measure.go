package path

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/integrate/quad"
	"gonum.org/v1/gonum/mat"
)

// Measuring cuts each span into leaves on which both the length integral and
// its inverse are known to high accuracy. The inverse (distance to parameter) is
// a polynomial through Chebyshev-Lobatto points of the leaf, found by Newton's
// method when the curve is measured and checked against the integral between
// them, so a query needs no iteration. Leaves that no polynomial fits, next to
// cusps, fall back on safeguarded Newton steps over the integral at query time.
// (MATH 1 asks for table and Newton throughout; moving the iteration to the
// compile makes a query about five times quicker at a tighter bound.)

const (
	// integralTol is the agreement of the two orders, relative to the span's size.
	integralTol = 1e-12
	// inverseTol bounds |distance(t(s)) - s| relative to the span's size. It is ten
	// times tighter than the 1e-9 of the whole path that the product promises.
	inverseTol = 1e-10
	// maxHalvings ends the subdivision; a leaf is then 2^-40 of its span.
	maxHalvings = 40
	quadOrder   = 12
	// degree of the inverse: 7 and 11 make leaves that cost more to measure a span.
	degree = 9
)

type leafMode uint8

const (
	leafEven leafMode = iota // t is linear in the distance
	leafPoly
	leafNewton
)

// leaf covers parameters t0..t1 of one span and distances s0..s1 of the curve.
type leaf struct {
	s0, s1, inv float64 // inv is 1/(s1-s0)
	t0, t1      float64
	c           [degree + 1]float64 // t = sum of c[k] w^k, w = 2(s-s0)*inv - 1
	span        int32
	mode        leafMode
}

// rule is a quadrature rule on 0..1.
type rule struct{ x, w []float64 }

func gauss(order int) rule {
	r := rule{make([]float64, order), make([]float64, order)}
	quad.Legendre{}.FixedLocations(r.x, r.w, 0, 1)
	return r
}

var (
	wide   = gauss(quadOrder)
	narrow = gauss(6) // for steps between neighbouring points of one leaf
	short  = gauss(3) // for corrections of such steps
	// lobatto are the points cos(pi k/degree), ascending; fitMatrix takes values
	// there to the coefficients of the polynomial through them.
	lobatto, fitMatrix = func() (w [degree + 1]float64, inv [degree + 1][degree + 1]float64) {
		v := mat.NewDense(degree+1, degree+1, nil)
		for i := range w {
			w[i] = -math.Cos(math.Pi * float64(i) / degree)
			for k := range w {
				v.Set(i, k, math.Pow(w[i], float64(k)))
			}
		}
		if err := v.Inverse(v); err != nil {
			panic(err) // the points are fixed and distinct
		}
		for i := range w {
			for k := range w {
				inv[i][k] = v.At(i, k)
			}
		}
		return
	}()
)

// speed is |c'(t)| of a span, for cubics by the quartic that its square is.
type speed struct {
	span *Span
	q    [5]float64
}

func speedOf(s *Span) speed {
	v := speed{span: s}
	if s.Kind == Cubic {
		a := s.Deriv(0)
		b := s.Deriv2(0)
		c := s.Deriv2(1).Sub(b).Mul(0.5)
		v.q = [5]float64{a.Dot(a), 2 * a.Dot(b), b.Dot(b) + 2*a.Dot(c), 2 * b.Dot(c), c.Dot(c)}
	}
	return v
}

func (v *speed) at(t float64) float64 {
	if v.span.Kind == Cubic {
		q := &v.q
		return math.Sqrt(max(q[0]+t*(q[1]+t*(q[2]+t*(q[3]+t*q[4]))), 0))
	}
	return v.span.Deriv(t).Norm()
}

// withSlope returns the speed and its derivative; of spans other than cubics the
// derivative is left out, which costs a step or two.
func (v *speed) withSlope(t float64) (speed, slope float64) {
	speed = v.at(t)
	if v.span.Kind == Cubic && speed > 0 {
		q := &v.q
		slope = (q[1] + t*(2*q[2]+t*(3*q[3]+t*4*q[4]))) / (2 * speed)
	}
	return speed, slope
}

// length integrates the speed over a..b by one Gauss-Legendre rule.
func (v *speed) length(r *rule, a, b float64) float64 {
	h, sum := b-a, 0.0
	w := r.w[:len(r.x)]
	if v.span.Kind != Cubic {
		for i, x := range r.x {
			sum += w[i] * v.at(a+h*x)
		}
		return h * sum
	}
	q0, q1, q2, q3, q4 := v.q[0], v.q[1], v.q[2], v.q[3], v.q[4]
	for i, x := range r.x {
		t := a + h*x
		t2 := t * t
		if q := (q0 + t*q1) + t2*((q2+t*q3)+t2*q4); q > 0 { // a comparison is quicker than max
			sum += w[i] * math.Sqrt(q)
		}
	}
	return h * sum
}

// measureSpan measures a span from its own start. Its leaves are appended to room, which is returned as well.
func measureSpan(room []leaf, span *Span) (measured, []leaf) {
	from := len(room)
	if span.evenSpeed() {
		l := span.size()
		room = append(room, leaf{s1: l, inv: 1 / l, t1: 1, c: [degree + 1]float64{0.5, 0.5}})
		m := measured{leaves: room[from:], length: l}
		switch span.Kind {
		case Arc:
			m.bend = span.curvature(0.5).Norm()
		case Hang: // greatest where it is nearest to level
			m.bend = span.curvature(min(max(-span.From/span.Sweep, 0), 1)).Norm()
		}
		return m, room
	}
	m := measurer{leaves: slices.Grow(room, 6), speed: speedOf(span), scale: span.size()}
	var cuts [5]float64
	ends := slowPoints(append(cuts[:0], 0), span)
	for k := 1; k < len(ends); k++ {
		m.cut(ends[k-1], ends[k], m.speed.length(&wide, ends[k-1], ends[k]), 0)
	}
	bend := 0.0
	// A few inner places are enough for cubics, whose curvature has few extremes.
	const looks = 16
	for j := range looks {
		bend = max(bend, span.curvature((float64(j)+0.5)/looks).Norm2())
	}
	return measured{m.leaves[from:], m.s, math.Sqrt(bend)}, m.leaves
}

// slowPoints appends the inner parameters at which a cubic's speed has a deep
// minimum, then 1. At a cusp the speed has a kink there, and a rule that straddles
// a kink can agree with its halves by chance: seen at 4e-7 of the length.
func slowPoints(dst []float64, s *Span) []float64 {
	if s.Kind == Cubic {
		// c' = a + bt + ct^2; half the slope of |c'|^2 is k0 + k1 t + k2 t^2 + k3 t^3.
		a := s.Deriv(0)
		b := s.Deriv2(0)
		c := s.Deriv2(1).Sub(b).Mul(0.5)
		k0, k1, k2, k3 := a.Dot(b), b.Dot(b)+2*a.Dot(c), 3*b.Dot(c), 2*c.Dot(c)
		f := func(t float64) float64 { return k0 + t*(k1+t*(k2+t*k3)) }
		// Between its own turning points the slope has at most one root.
		turn := quadraticRoots(3*k3, 2*k2, k1)
		if turn[0] > turn[1] {
			turn[0], turn[1] = turn[1], turn[0]
		}
		lo := 0.0
		for _, hi := range [...]float64{turn[0], turn[1], 1} {
			if !(hi > lo && hi <= 1) {
				continue
			}
			if f(lo) < 0 && f(hi) > 0 { // rising through 0: a minimum
				p, q := lo, hi
				for range 60 {
					if m := (p + q) / 2; f(m) < 0 {
						p = m
					} else {
						q = m
					}
				}
				if p > 0 && s.Deriv(p).Norm() < 0.1*s.size() {
					dst = append(dst, p)
				}
			}
			lo = hi
		}
	}
	return append(dst, 1)
}

type measurer struct {
	leaves []leaf
	speed  speed
	scale  float64
	s      float64
}

// cut adds leaves for a..b whose length by one rule is whole.
func (m *measurer) cut(a, b, whole float64, depth int) {
	mid := (a + b) / 2
	left, right := m.speed.length(&wide, a, mid), m.speed.length(&wide, mid, b)
	exact := left + right
	tiny := exact < 1e-13*m.scale // too short for its inside to matter
	last := depth >= maxHalvings || tiny
	if last || math.Abs(exact-whole) <= integralTol*m.scale {
		l := leaf{s0: m.s, s1: m.s + exact, t0: a, t1: b, mode: leafPoly}
		if exact > 0 {
			l.inv = 1 / exact
		}
		fits := !tiny && m.fit(&l, exact)
		switch {
		case tiny:
			l.mode, l.c = leafEven, [degree + 1]float64{mid, (b - a) / 2}
		case !fits && last:
			l.mode = leafNewton
		}
		if fits || last {
			m.leaves = append(m.leaves, l)
			m.s += exact
			return
		}
	}
	m.cut(a, mid, left, depth+1)
	m.cut(mid, b, right, depth+1)
}

// fit sets the inverse of leaf l of the given length and reports whether it
// holds to inverseTol between its points.
func (m *measurer) fit(l *leaf, length float64) bool {
	var ts [degree + 1]float64
	ts[0], ts[degree] = l.t0, l.t1
	t, s := l.t0, 0.0
	for k := 1; k < degree; k++ {
		target := length * (lobatto[k] + 1) / 2
		// Newton's method with the second term of the inverse's series (cubic
		// convergence), which keeps its place: each step integrates only what it
		// adds, the first over the widest stretch.
		for try, r := 0, &narrow; math.Abs(target-s) > 1e-14*m.scale; try, r = try+1, &short {
			v, slope := m.speed.withSlope(t)
			d := (target - s) / v
			next := t + d*(1-d*slope/(2*v))
			if !(next > ts[k-1] && next < l.t1) || try == 8 {
				return false // the speed changes too much over the leaf: halve it
			}
			s += m.speed.length(r, t, next)
			t = next
		}
		ts[k] = t
	}
	// Fitting what is left beside the straight line keeps the ends exact.
	mid, half := (l.t0+l.t1)/2, (l.t1-l.t0)/2
	for k := range l.c {
		sum := 0.0
		for i, x := range ts[1:degree] {
			sum += fitMatrix[k][i+1] * (x - mid - half*lobatto[i+1])
		}
		l.c[k] = sum
	}
	l.c[0] += mid
	l.c[1] += half
	// Half way between points, where a polynomial strays most.
	for _, k := range [...]int{0, degree / 2, degree - 1} {
		w := (lobatto[k] + lobatto[k+1]) / 2
		got := l.poly(w)
		want := length * (w - lobatto[k]) / 2
		if !(got > ts[k] && got < ts[k+1]) || math.Abs(m.speed.length(&narrow, ts[k], got)-want) > inverseTol*m.scale {
			return false
		}
	}
	return true
}

func (l *leaf) poly(w float64) float64 {
	c := &l.c
	// Estrin's scheme: pairs are independent of one another, so that a query does
	// not wait for nine products in a row.
	w2 := w * w
	w4 := w2 * w2
	lo := (c[0] + c[1]*w) + (c[2]+c[3]*w)*w2
	mid := (c[4] + c[5]*w) + (c[6]+c[7]*w)*w2
	return lo + w4*(mid+w4*(c[8]+c[9]*w))
}

// at returns the parameter at distance s inside the leaf.
func (l *leaf) at(spans []Span, s float64) float64 {
	switch w := 2*(s-l.s0)*l.inv - 1; l.mode {
	case leafEven:
		return min(l.c[0]+l.c[1]*w, 1)
	case leafPoly:
		return min(max(l.poly(w), l.t0), l.t1)
	}
	return l.newton(&spans[l.span], s)
}

// newton returns the parameter at distance s inside the leaf by Newton steps
// kept inside a shrinking bracket.
func (l *leaf) newton(span *Span, s float64) float64 {
	v := speedOf(span)
	lo, hi := l.t0, l.t1
	t := lo + (hi-lo)*(s-l.s0)*l.inv
	for range 60 {
		f := v.length(&wide, l.t0, t) - (s - l.s0)
		if f > 0 {
			hi = t
		} else {
			lo = t
		}
		next := t - f/v.at(t)
		if !(next > lo && next < hi) {
			next = (lo + hi) / 2
		}
		if math.Abs(next-t) <= 1e-15 {
			return next
		}
		t = next
	}
	return t
}

// Between returns the length along the curve between two distances within it,
// a <= b, by integrating the spans anew. It is for checking placements, which
// come from the tables, by another way.
func (c *Curve) Between(a, b float64) float64 {
	i, t := c.Locate(a)
	j, u := c.Locate(b)
	sum := 0.0
	for k := i; k <= j; k++ {
		from, to := 0.0, 1.0
		if k == i {
			from = t
		}
		if k == j {
			to = u
		}
		v := speedOf(&c.spans[k])
		var cuts [5]float64
		for _, cut := range slowPoints(cuts[:0], &c.spans[k]) {
			if cut = min(cut, to); cut > from {
				sum += v.adaptive(from, cut, v.length(&wide, from, cut), 0)
				from = cut
			}
		}
	}
	return sum
}

func (v *speed) adaptive(a, b, whole float64, depth int) float64 {
	mid := (a + b) / 2
	l, r := v.length(&wide, a, mid), v.length(&wide, mid, b)
	if depth >= maxHalvings || math.Abs(l+r-whole) <= integralTol*v.span.size() {
		return l + r
	}
	return v.adaptive(a, mid, l, depth+1) + v.adaptive(mid, b, r, depth+1)
}
