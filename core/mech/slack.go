package mech

import (
	"math"
	"slices"

	"bead/core/geom"
)

// hangRuns lets the chosen runs of a taut belt hang until it is as long as asked: each
// a catenary of one and the same parameter (the belt's tension over its weight a metre),
// tangent to the wheels at both ends. Wheels from which it sags away no longer touch, and
// wheels onto which it sags do. nil where no chosen run can hang. guess is the parameter
// next to which it is looked for; 0: by the runs' widths.
func hangRuns(b *Belt, slack []bool, length, guess float64) *Belt {
	slack = append(make([]bool, 0, len(b.Wheels)), slack...)
	for len(slack) < len(b.Wheels) {
		slack = append(slack, false)
	}
	var best *Belt
	wheels := b.Wheels
	for range 2 * len(b.Wheels) {
		h := hanger{b: b, leaves: make([]float64, len(b.Runs)), arrives: make([]float64, len(b.Runs))}
		sum := 0.0
		for k, i := range b.Touching {
			r := &b.Runs[k]
			h.leaves[k] = math.Atan2(r.Y1-r.Y0, r.X1-r.X0)
			h.arrives[k] = h.leaves[k]
			if c := math.Abs(math.Cos(h.leaves[k])); slack[i] && c > steepest {
				h.runs = append(h.runs, k)
				sum += math.Pow(r.Length*c, 3) * c
			}
		}
		if len(h.runs) == 0 {
			return best
		}
		h.hung = make([]hung, len(h.runs))
		// What a parabola of that width has more than its chord: w^3/24a^2.
		spare := length - b.Length
		wide := 1.01
		if guess == 0 {
			guess, wide = math.Sqrt(sum/(24*spare)), 1.1
		}
		if !(spare > 0) || !h.solve(guess, wide, length) {
			return best
		}
		best, guess = h.out, 0
		touching := append([]int(nil), b.Touching...)
		if at := h.lifted(); at >= 0 && len(touching) > 2 {
			before := touching[(at+len(touching)-1)%len(touching)]
			slack[before] = true
			touching = append(touching[:at], touching[at+1:]...)
		} else if wheel, behind := h.sunk(); wheel >= 0 {
			if h.out.Contacts[wheel].Touches { // another run lies on it as well: it counts once more
				wheels = append(slices.Clone(wheels), wheels[wheel])
				slack = append(slack, true)
				wheel = len(wheels) - 1
			}
			slack[wheel] = true
			touching = append(touching[:behind+1], append([]int{wheel}, touching[behind+1:]...)...)
		} else {
			return best
		}
		next, err := wrap(wheels, touching, b.sliver)
		if err != nil {
			return best
		}
		// Drawn straight it would go round such a wheel backwards a little.
		for k, i := range touching {
			if c := &next.Contacts[i]; c.Angle > lifted && clear(wheels, touching, k) {
				c.Angle -= 2 * math.Pi
				next.Length -= 2 * math.Pi * next.Wheels[i].R
			}
		}
		b = next
	}
	return best
}

// sunk finds a wheel that a sagging run cuts into and does not touch yet, and its place in the belt's order;
// -1 where there is none.
func (h *hanger) sunk() (wheel, behind int) {
	for i := range h.out.Wheels {
		w := &h.out.Wheels[i]
		if w.Back || w.R == 0 || h.out.Contacts[i].Touches && h.twice(i) {
			continue
		}
		for _, k := range h.runs {
			if p, q := h.ends(k); *p == *w || *q == *w {
				continue
			}
			r := &h.out.Runs[k]
			side := 1.0
			if r.Back {
				side = -1
			}
			u := r.U0 + side*(w.X-r.X0)/r.A
			if r.Back || u <= r.U0 || u >= r.U1 {
				continue // below a lower run there is no wheel for it to rest on
			}
			// The least distance from the hub near there.
			least := math.Inf(1)
			const places = 64
			span := min(2*w.R/r.A, (r.U1-r.U0)/2)
			for j := range places + 1 {
				v := min(max(u+span*(float64(j)/places-0.5), r.U0), r.U1)
				x, y := r.X0+r.A*(v-r.U0), r.Y0+r.A*(math.Cosh(v)-math.Cosh(r.U0))
				d := math.Hypot(x-w.X, y-w.Y)
				if y < w.Y {
					d = -d
				}
				least = min(least, d)
			}
			if least < w.R-1e-7 {
				return i, k
			}
		}
	}
	return -1, 0
}

// twice reports whether a wheel counts once more, for another run that lies on it.
func (h *hanger) twice(wheel int) bool {
	for i := range h.out.Wheels {
		if i != wheel && h.out.Wheels[i] == h.out.Wheels[wheel] {
			return true
		}
	}
	return false
}

// steepest is the cosine of a run's slope beyond which it does not hang.
const steepest = 0.05

type hanger struct {
	b               *Belt
	runs            []int
	leaves, arrives []float64
	hung            []hung // of each of runs, as they were last found
	out             *Belt
}

// hung is a catenary between two wheels: its parameter, and the asinh of its slope at either end.
type hung struct{ a, u0, u1 float64 }

func (c hung) length() float64 { return c.a * (math.Sinh(c.u1) - math.Sinh(c.u0)) }

// hang finds the catenary of run number n for a parameter, next to the one found last.
func (h *hanger) hang(n int, a float64) (c hung, back, ok bool) {
	k := h.runs[n]
	p, q := h.ends(k)
	back = math.Cos(h.leaves[k]) < 0
	was := h.hung[n]
	if was.a == 0 {
		r := &h.b.Runs[k]
		straight := math.Asinh((r.Y1 - r.Y0) / math.Abs(r.X1-r.X0))
		half := math.Abs(r.X1-r.X0) / 2
		was = hung{1, straight - half, straight + half}
	}
	middle, half := (was.u0+was.u1)/2, (was.u1-was.u0)/2*was.a/a
	c.a = a
	c.u0, c.u1, ok = catenary(p, q, a, middle-half, middle+half, back)
	if ok {
		h.hung[n] = c
	}
	return c, back, ok
}

// ends are the wheels between which run k goes.
func (h *hanger) ends(k int) (p, q *Wheel) {
	b := h.b
	return &b.Wheels[b.Touching[k]], &b.Wheels[b.Touching[(k+1)%len(b.Touching)]]
}

// long is the belt's length when its sagging runs have this catenary parameter; NaN where there is no such
// belt.
func (h *hanger) long(a float64) float64 {
	length := h.b.Length
	for n, k := range h.runs {
		c, back, ok := h.hang(n, a)
		if !ok {
			return math.NaN()
		}
		p, q := h.ends(k)
		length += c.length() - h.b.Runs[k].Length
		length += q.Sense() * q.R * math.Remainder(heading(c.u1, back)-h.arrives[k], 2*math.Pi)
		length -= p.Sense() * p.R * math.Remainder(heading(c.u0, back)-h.leaves[k], 2*math.Pi)
	}
	return length
}

// at lays the belt with a catenary's parameter; nil where there is none.
func (h *hanger) at(a float64) *Belt {
	b := *h.b
	b.Runs, b.Contacts = slices.Clone(h.b.Runs), slices.Clone(h.b.Contacts)
	leaves, arrives := slices.Clone(h.leaves), slices.Clone(h.arrives)
	for n, k := range h.runs {
		c, back, ok := h.hang(n, a)
		if !ok {
			return nil
		}
		p, q := h.ends(k)
		x0, y0 := touch(p, c.u0, back)
		x1, y1 := touch(q, c.u1, back)
		b.Runs[k] = Run{x0, y0, x1, y1, c.length(), a, c.u0, c.u1, back}
		leaves[k], arrives[k] = heading(c.u0, back), heading(c.u1, back)
	}
	b.contact(leaves, arrives, h.b.Contacts)
	return &b
}

// solve finds the parameter at which the belt is as long as asked, from the taut side.
func (h *hanger) solve(a, wide, length float64) bool {
	// In z = 1/a^2 the length is almost straight: a shallow catenary has w^3/24a^2 to spare.
	long := func(z float64) float64 { return h.long(1/math.Sqrt(z)) - length }
	tight := 1 / (a * a)
	loose := tight
	short := long(tight)
	over := short
	for range 60 {
		if over < 0 {
			tight, short = loose, over
			loose *= wide
			over = long(loose)
		} else if short > 0 {
			loose, over = tight, short
			tight /= wide
			short = long(tight)
		} else {
			break
		}
		wide = min(wide*wide, 2.25)
	}
	if !(over >= 0 && short <= 0) {
		return false
	}
	z := tight
	if over == 0 {
		z = loose
	} else if short != 0 {
		var ok bool
		if z, ok = geom.Root(long, tight, loose, short, over, 1e-12*length); !ok {
			return false
		}
	}
	h.out = h.at(1 / math.Sqrt(z))
	return h.out != nil
}

// lifted is the touching wheel from which the hanging belt would come away, or -1.
func (h *hanger) lifted() int {
	for k, i := range h.out.Touching {
		if h.out.Contacts[i].Angle < -1e-9 {
			return k
		}
	}
	return -1
}

// touch is where a belt of the slope sinh u lies on a wheel.
func touch(w *Wheel, u float64, back bool) (x, y float64) {
	side := 1.0
	if back {
		side = -1
	}
	r := w.Sense() * w.R
	return w.X - r*math.Tanh(u), w.Y + side*r/math.Cosh(u)
}

func heading(u float64, back bool) float64 {
	e := math.Atan(math.Sinh(u))
	if back {
		return math.Pi - e
	}
	return e
}

// catenary finds the slopes (as their asinh) at which a catenary of parameter a leaves
// one wheel and arrives at the other, by Newton's method from a first guess.
func catenary(p, q *Wheel, a, u0, u1 float64, back bool) (float64, float64, bool) {
	side := 1.0
	if back {
		side = -1
	}
	rp, rq := side*p.Sense()*p.R, side*q.Sense()*q.R
	scale := math.Hypot(q.X-p.X, q.Y-p.Y)
	for range 40 {
		ch0, ch1, th0, th1 := math.Cosh(u0), math.Cosh(u1), math.Tanh(u0), math.Tanh(u1)
		f1 := side*(q.X-p.X) - rq*th1 + rp*th0 - a*(u1-u0)
		// cosh u1 - cosh u0, written so that it keeps its digits where the belt is taut.
		f2 := q.Y - p.Y + rq/ch1 - rp/ch0 - 2*a*math.Sinh((u1+u0)/2)*math.Sinh((u1-u0)/2)
		a11, a10 := -rq/(ch1*ch1)-a, rp/(ch0*ch0)+a
		a21, a20 := -rq*th1/ch1-a*math.Sinh(u1), rp*th0/ch0+a*math.Sinh(u0)
		det := a11*a20 - a10*a21
		d1, d0 := (f1*a20-f2*a10)/det, (a11*f2-a21*f1)/det
		if m := max(math.Abs(d0), math.Abs(d1)); !(m <= 1) { // not farther than Newton's step can be trusted
			if math.IsNaN(m) {
				return 0, 0, false
			}
			d0, d1 = d0/m, d1/m
		}
		u0, u1 = u0-d0, u1-d1
		// The rounding error of the two equations.
		noise := 1e-15 * (scale + a*(math.Abs(u0)+math.Abs(u1)+math.Cosh(u1)))
		if max(math.Abs(f1), math.Abs(f2)) <= max(noise, 1e-14*scale) && max(math.Abs(d0), math.Abs(d1)) < 1e-9 {
			return u0, u1, u1 > u0 && max(math.Abs(u0), math.Abs(u1)) < 6
		}
	}
	return 0, 0, false
}
