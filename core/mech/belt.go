// Package mech is the geometry of belts, treads and chains round wheels. Places are
// metres in the belt's plane, x forward and y up; angles are radians, counted from x
// towards y.
package mech

import (
	"errors"
	"fmt"
	"math"
	"slices"
)

// Wheel is a pulley or sprocket; R is its pitch radius, metres: that of the line on which the belt keeps its
// length.
type Wheel struct {
	X, Y, R float64
	// Back wheels touch the back of the belt: they turn the other way.
	Back bool
}

// Sense is 1 for a wheel inside the loop, which the belt goes round clockwise (forward
// on top), -1 for one that it passes with its back.
func (w *Wheel) Sense() float64 {
	if w.Back {
		return -1
	}
	return 1
}

// Contact is the arc on which the belt lies on a wheel.
type Contact struct {
	Wheel int
	// Touches is false for a wheel that the belt passes without touching it.
	Touches bool
	// Heading is the belt's direction where it arrives, Angle how far it goes round, at
	// most a whole turn.
	Heading, Angle float64
	// From and To are distances on the belt.
	From, To float64
}

// Run is the stretch of the belt between two wheels that it touches: straight, or, where A is not 0, a
// catenary of that parameter.
type Run struct {
	X0, Y0, X1, Y1 float64
	Length         float64
	A              float64
	U0, U1         float64 // of a catenary: asinh of the slope at either end
	Back           bool    // of a catenary: it runs backward
}

// Belt is a closed belt round wheels in their order.
type Belt struct {
	Wheels   []Wheel
	Contacts []Contact // as the wheels
	Runs     []Run     // Runs[k] leaves the k-th touching wheel
	Touching []int     // in the belt's order
	Length   float64
	// Begin is the distance from where the belt leaves the first wheel that it touches to where its distances
	// begin.
	Begin  float64
	sliver float64
}

// WheelError is a fault of one wheel or, where Other is not -1, of two.
type WheelError struct {
	Wheel, Other int
	Text         string
}

func (e *WheelError) Error() string { return e.Text }

// lifted is the contact angle from which a wheel may be one that the belt should not touch: an angle a little
// below 0 appears as a little below a whole turn.
const lifted = 1.5 * math.Pi

// clear reports whether the belt would not come near wheel k of its order if it ran straight
// from the wheel before to the wheel behind it: the wheel lies on its own side of that run.
// A belt that goes most of the way round a wheel comes from one side and leaves to the
// other, so that the straight run would cut into the wheel.
func clear(wheels []Wheel, touching []int, k int) bool {
	n := len(touching)
	w := &wheels[touching[k]]
	run, heading, ok := tangent(&wheels[touching[(k+n-1)%n]], &wheels[touching[(k+1)%n]])
	if !ok {
		return true // nothing is known: the angle alone decides
	}
	sin, cos := math.Sincos(heading)
	left := (w.Y-run.Y0)*cos - (w.X-run.X0)*sin
	return w.Sense()*left+w.R < 0.01*w.R+1e-9
}

// Wrap lays a belt round the wheels in their order, forward on top. Between two wheels
// it runs along their common tangent (the construction with signed radii: the tangent
// leans against the line of centres by asin of the difference of the signed radii over
// the distance). A wheel that the belt would have to go round backwards is passed by.
// Its distances begin where it leaves the first wheel that it touches.
func Wrap(wheels []Wheel) (*Belt, error) {
	if len(wheels) == 0 {
		return nil, errors.New("a belt needs a wheel")
	}
	order := make([]int, 0, len(wheels))
	for i := range wheels {
		if !(wheels[i].R > 0) {
			return nil, &WheelError{i, -1, fmt.Sprintf("a wheel of radius %g is not accepted: a radius above 0 is", wheels[i].R)}
		}
		order = append(order, i)
	}
	if len(wheels) == 1 {
		return single(wheels)
	}
	return lay(wheels, order, 1e-12)
}

// lay lays a belt round some of the wheels in the order given. A wheel that it would have
// to go round backwards by less than a sliver, radians, is just touched.
func lay(wheels []Wheel, touching []int, sliver float64) (*Belt, error) {
	first := -1.0 // how often the belt goes round in the order given
	var far []int // wheels that were passed by though they lie far from the belt
	for {
		b, err := wrap(wheels, touching, sliver)
		if err != nil {
			return nil, err
		}
		if first < 0 {
			first = math.Abs(b.rounds())
		}
		at := b.backwards()
		if at >= 0 {
			if i := touching[at]; b.Contacts[i].Angle <= lifted {
				far = append(far, i)
			}
			touching = append(touching[:at:at], touching[at+1:]...)
			// A point of the ground that was met on both sides of a wheel is one.
			for k := len(touching) - 1; k > 0; k-- {
				a, b := &wheels[touching[k-1]], &wheels[touching[k]]
				if a.X == b.X && a.Y == b.Y && a.Back == b.Back {
					touching = append(touching[:k:k], touching[k+1:]...)
				}
			}
			continue
		}
		// A crossed belt goes round one way as far as the other.
		// What was passed by has to lie inside: else it is the order that is wrong.
		outside := slices.ContainsFunc(far, func(i int) bool { return !b.encloses(wheels[i].X, wheels[i].Y) })
		if rounds := b.rounds(); rounds != 1 && rounds != 0 || outside {
			return nil, fmt.Errorf("in this order the belt goes %.0f times round: an order in which it goes round once is accepted", first)
		}
		return b, nil
	}
}

// rounds is the winding number of the belt: how often its direction turns round in all.
func (b *Belt) rounds() float64 {
	turn := 0.0
	for _, i := range b.Touching {
		turn += b.Wheels[i].Sense() * b.Contacts[i].Angle
	}
	return math.Round(turn / (2 * math.Pi))
}

// encloses reports whether a point is inside the belt, by the polygon of its runs and of the middles of its
// arcs.
func (b *Belt) encloses(x, y float64) bool {
	var p []Point
	for k, i := range b.Touching {
		w, c, r := &b.Wheels[i], &b.Contacts[i], &b.Runs[k]
		s := w.Sense()
		sin, cos := math.Sincos(c.Heading - s*c.Angle/2)
		p = append(p, Point{w.X - s*w.R*sin, w.Y + s*w.R*cos}, Point{r.X0, r.Y0}, Point{r.X1, r.Y1})
	}
	turn := 0.0
	for k := range p {
		q := p[(k+1)%len(p)]
		turn += math.Remainder(math.Atan2(q.Y-y, q.X-x)-math.Atan2(p[k].Y-y, p[k].X-x), 2*math.Pi)
	}
	return math.Abs(turn) > math.Pi
}

// backwards is the place in the belt's order of the wheel that it would most clearly have to
// go round backwards, -1 where there is none. An angle below 0 comes out as a whole turn
// more: near a whole turn where the wheel is just clear of the belt, less where it lies far
// inside; then the belt turns round once too often.
func (b *Belt) backwards() int {
	if len(b.Touching) < 3 {
		return -1
	}
	rounds := b.rounds()
	worst, at := 0.0, -1
	for k, i := range b.Touching {
		a := b.Contacts[i].Angle
		tooOften := rounds > 1 && !b.Wheels[i].Back || rounds < 0 && b.Wheels[i].Back
		if a > worst && (a > lifted || tooOften) && clear(b.Wheels, b.Touching, k) {
			worst, at = a, k
		}
	}
	return at
}

func single(wheels []Wheel) (*Belt, error) {
	if wheels[0].Back {
		return nil, &WheelError{0, -1, "a belt round one wheel lies on it with its inside"}
	}
	b := &Belt{Wheels: wheels, Contacts: make([]Contact, 1), Touching: []int{0}, Runs: []Run{{}}}
	b.Contacts[0] = Contact{Touches: true, Angle: 2 * math.Pi, To: 2 * math.Pi * wheels[0].R}
	b.Length = b.Contacts[0].To
	return b, nil
}

// tangent is the run from one wheel to another and its direction.
func tangent(a, b *Wheel) (r Run, heading float64, ok bool) {
	dx, dy := b.X-a.X, b.Y-a.Y
	d := math.Hypot(dx, dy)
	lean := (a.Sense()*a.R - b.Sense()*b.R) / d
	if !(d > 0) || math.Abs(lean) >= 1 {
		return Run{}, 0, false
	}
	heading = math.Atan2(dy, dx) - math.Asin(lean)
	sin, cos := math.Sincos(heading)
	// To the left of its direction the belt has the outside of the loop.
	p, q := a.Sense()*a.R, b.Sense()*b.R
	return Run{X0: a.X - p*sin, Y0: a.Y + p*cos, X1: b.X - q*sin, Y1: b.Y + q*cos, Length: d * math.Sqrt(1-lean*lean)}, heading, true
}

func wrap(wheels []Wheel, touching []int, sliver float64) (*Belt, error) {
	b := &Belt{sliver: sliver, Wheels: wheels, Touching: append([]int(nil), touching...), Contacts: make([]Contact, len(wheels))}
	for i := range b.Contacts {
		b.Contacts[i].Wheel = i
	}
	n := len(touching)
	headings := make([]float64, n)
	for k, i := range touching {
		j := touching[(k+1)%n]
		r, h, ok := tangent(&wheels[i], &wheels[j])
		if !ok {
			what := "one lies within the other"
			if wheels[i].Back != wheels[j].Back {
				what = "they overlap"
			}
			return nil, &WheelError{i, j, fmt.Sprintf("there is no way for the belt from wheel %d to wheel %d: %s", i+1, j+1, what)}
		}
		b.Runs, headings[k] = append(b.Runs, r), h
	}
	b.contact(headings, headings, nil)
	return b, nil
}

// contact finds how far the belt goes round each wheel that it touches, from the
// headings with which each run leaves and arrives, and measures it. Angles are those
// next to the ones before where these are given, which may lead below 0.
func (b *Belt) contact(leaves, arrives []float64, before []Contact) {
	at := 0.0
	n := len(b.Touching)
	for k := range b.Touching {
		at += b.Runs[k].Length
		next := (k + 1) % n
		w := &b.Wheels[b.Touching[next]]
		c := &b.Contacts[b.Touching[next]]
		angle := math.Mod(w.Sense()*(arrives[k]-leaves[next]), 2*math.Pi)
		if angle < 0 {
			angle += 2 * math.Pi
		}
		if 2*math.Pi-angle < b.sliver {
			angle = 0
		}
		if before != nil {
			was := before[b.Touching[next]].Angle
			angle = was + math.Remainder(angle-was, 2*math.Pi)
		}
		c.Touches, c.Heading, c.Angle = true, arrives[k], angle
		c.From = at
		at += angle * w.R
		c.To = at
	}
	b.Length = at
}

// Begins makes the distances of a belt that was just laid begin at its place nearest to
// where a heading leads along the rim of a wheel, whether the belt lies on the wheel there,
// passes beside it, or has been lifted off it by the ground: so that distances go on from
// frame to frame while the wheel comes and goes. Only places count at which the belt goes
// about the way of the heading, so that another run of the belt, which sags onto the same
// wheel, is never taken for the one meant. A contact that holds the beginning goes on beyond
// the belt's length.
func (b *Belt) Begins(wheel int, heading float64) {
	at, on, angle, ok := b.beside(wheel, heading)
	if !ok {
		return // the belt nowhere goes that way
	}
	b.Begin = at
	for i := range b.Contacts {
		c := &b.Contacts[i]
		way := c.To - c.From
		c.From = math.Mod(c.From-b.Begin+2*b.Length, b.Length)
		if i == on && angle > 0 && c.From < b.Length/2 { // rounding at the very start
			c.From += b.Length
		}
		c.To = c.From + way
	}
}

// Beside is the distance of the belt's place nearest to where a heading leads along the rim
// of a wheel, as Begins finds it; not ok where the belt nowhere goes about that way.
func (b *Belt) Beside(wheel int, heading float64) (at float64, ok bool) {
	at, _, _, ok = b.beside(wheel, heading)
	return at, ok
}

func (b *Belt) beside(wheel int, heading float64) (at float64, on int, angle float64, ok bool) {
	w := &b.Wheels[wheel]
	sin, cos := math.Sincos(heading)
	return b.nearest(w.X-w.Sense()*w.R*sin, w.Y+w.Sense()*w.R*cos, heading)
}

// nearest is the belt's distance nearest to a point, among the places whose direction is within a right angle
// of a heading. on is the wheel there and angle how far round it, or on is -1 for a run. ok is false where
// there is none.
func (b *Belt) nearest(x, y, heading float64) (at float64, on int, angle float64, ok bool) {
	on = -1
	best := math.Inf(1)
	n := len(b.Touching)
	for k, i := range b.Touching {
		w, c := &b.Wheels[i], &b.Contacts[i]
		s := w.Sense()
		if c.Angle >= 0 {
			middle := c.Angle / 2
			there := math.Atan2(-s*(x-w.X), s*(y-w.Y)) // the belt's heading where the point is beside the rim
			a := middle + math.Remainder(s*(c.Heading-there)-middle, 2*math.Pi)
			a = min(max(a, 0), c.Angle)
			h := c.Heading - s*a
			sin, cos := math.Sincos(h)
			if d := math.Hypot(w.X-s*w.R*sin-x, w.Y+s*w.R*cos-y); d < best-1e-12 && math.Cos(h-heading) > 0 {
				best, at, on, angle = d, c.From+a*w.R, i, a
			}
		}
		r := &b.Runs[k]
		to := b.Contacts[b.Touching[(k+1)%n]].From // where the run ends
		if d, way := r.near(x, y, heading); d < best-1e-12 {
			best, at, on, angle = d, to-r.Length+way, -1, 0
		}
	}
	return at, on, angle, !math.IsInf(best, 1)
}

// near is the least distance of a run from a point, among the places whose direction is within a right angle
// of a heading, and how far along the run that is; infinity where there is none.
func (r *Run) near(x, y, heading float64) (best, way float64) {
	best = math.Inf(1)
	if r.Length <= 0 {
		return best, 0
	}
	if r.A == 0 {
		tx, ty := (r.X1-r.X0)/r.Length, (r.Y1-r.Y0)/r.Length
		if math.Cos(heading)*tx+math.Sin(heading)*ty <= 0 {
			return best, 0
		}
		way = min(max((x-r.X0)*tx+(y-r.Y0)*ty, 0), r.Length)
		return math.Hypot(r.X0+way*tx-x, r.Y0+way*ty-y), way
	}
	side := 1.0
	if r.Back {
		side = -1
	}
	if side*math.Cos(heading) <= 0 { // a hanging run goes ahead or back, and never steeply
		return best, 0
	}
	at := func(u float64) float64 {
		return math.Hypot(r.X0+side*r.A*(u-r.U0)-x, r.Y0+r.A*(math.Cosh(u)-math.Cosh(r.U0))-y)
	}
	// A run is so shallow that the nearest place is found between two of a few.
	const places = 16
	step := (r.U1 - r.U0) / places
	u := r.U0
	for k := range places + 1 {
		if v := r.U0 + step*float64(k); at(v) < at(u) {
			u = v
		}
	}
	lo, hi := max(u-step, r.U0), min(u+step, r.U1)
	for range 60 { // thirds: the distance has one least there
		if a, b := lo+(hi-lo)/3, hi-(hi-lo)/3; at(a) < at(b) {
			hi = b
		} else {
			lo = a
		}
	}
	u = (lo + hi) / 2
	return at(u), r.A * (math.Sinh(u) - math.Sinh(r.U0))
}

// Outline returns the wheels, in order, that a belt round the outside of all of them
// touches, forward on top: a walk round them from the one that reaches highest, always
// to the one that the belt comes to first. A large wheel between small ones may come more
// than once. The others lie inside.
func Outline(wheels []Wheel) []int {
	n := len(wheels)
	if n == 0 {
		return nil
	}
	top := 0
	for i := range wheels {
		if wheels[i].Y+wheels[i].R > wheels[top].Y+wheels[top].R {
			top = i
		}
	}
	var out []int
	heading := 0.0
	for at := top; len(out) <= 4*n; {
		out = append(out, at)
		best, least, far := -1, math.Inf(1), 0.0
		for j := range wheels {
			a, b := wheels[at], wheels[j]
			a.Back, b.Back = false, false
			r, h, ok := tangent(&a, &b)
			if j == at || !ok {
				continue
			}
			turn := math.Mod(heading-h+4*math.Pi, 2*math.Pi)
			if turn > 2*math.Pi-1e-9 {
				turn = 0
			}
			// Of wheels on one straight the nearest comes first.
			if turn < least-1e-9 || turn < least+1e-9 && r.Length < far {
				best, least, far = j, turn, r.Length
			}
		}
		if best < 0 || heading-least <= -2*math.Pi+1e-9 {
			break // round once: the first wheel's top is passed before the next is reached
		}
		heading -= least
		at = best
	}
	if len(out) > 1 && out[len(out)-1] == top {
		out = out[:len(out)-1]
	}
	return out
}

// Order is the order of a belt round the outside of all wheels: its outline, in which each
// comes once, with those that lie inside put where the belt passes nearest to them.
func Order(wheels []Wheel) []int {
	var order []int
	in := make([]bool, len(wheels))
	for _, i := range Outline(wheels) {
		if !in[i] {
			in[i] = true
			order = append(order, i)
		}
	}
	for i := range wheels {
		if in[i] || len(order) < 2 {
			continue
		}
		w := &wheels[i]
		best, at := math.Inf(1), 0
		for k := range order {
			a, b := wheels[order[k]], wheels[order[(k+1)%len(order)]]
			a.Back, b.Back = false, false
			r, _, ok := tangent(&a, &b)
			if !ok {
				continue
			}
			u := 0.0
			if r.Length > 0 {
				u = min(max(((w.X-r.X0)*(r.X1-r.X0)+(w.Y-r.Y0)*(r.Y1-r.Y0))/(r.Length*r.Length), 0), 1)
			}
			if d := math.Hypot(w.X-r.X0-u*(r.X1-r.X0), w.Y-r.Y0-u*(r.Y1-r.Y0)) - w.R; d < best-1e-12 {
				best, at = d, k+1
			}
		}
		order = append(order[:at], append([]int{i}, order[at:]...)...)
		in[i] = true
	}
	return order
}
