package mech

import (
	"fmt"
	"math"
)

// Reeve lays a belt that has ends: from a drum, or from a place where start is of radius 0, over the wheels
// in their order, forward, to its free end, which hangs straight down behind the last of them. across is how
// far to the side of the wheels it leaves the drum, metres; length is that of the belt from where it leaves.
// The start is the last of the belt's wheels; its runs begin there, and the last one hangs.
func Reeve(start Wheel, wheels []Wheel, across, length float64) (*Belt, error) {
	b, used, err := reeve(start, wheels, across)
	if err != nil {
		return nil, err
	}
	drop := length - used
	if drop < 0 {
		return nil, fmt.Errorf("it is %.4g m too short to come over its last wheel: %.6g m from where it begins, and more, are accepted", -drop, used)
	}
	last := &wheels[len(wheels)-1]
	b.Length = length
	b.Runs = append(b.Runs, Run{X0: last.X + last.R, Y0: last.Y, X1: last.X + last.R, Y1: last.Y - drop, Length: drop})
	return b, nil
}

// ReeveTaut is how long a belt that Reeve lays is up to where it leaves its last wheel, and with which heading
// it leaves its start.
func ReeveTaut(start Wheel, wheels []Wheel, across float64) (used, heading float64, err error) {
	b, used, err := reeve(start, wheels, across)
	if err != nil {
		return 0, 0, err
	}
	return used, b.Contacts[len(wheels)].Heading, nil
}

// reeve lays a belt up to where it leaves its last wheel.
func reeve(start Wheel, wheels []Wheel, across float64) (b *Belt, used float64, err error) {
	n := len(wheels)
	if n == 0 {
		return nil, 0, fmt.Errorf("a belt with ends hangs from a wheel: at least one is accepted")
	}
	b = &Belt{Wheels: append(append([]Wheel(nil), wheels...), start), Contacts: make([]Contact, n+1)}
	from, heading := n, 0.0
	for i := range wheels {
		if !(wheels[i].R > 0) {
			return nil, 0, &WheelError{i, -1, fmt.Sprintf("a wheel of radius %g is not accepted: a radius above 0 is", wheels[i].R)}
		}
		r, h, ok := tangent(&b.Wheels[from], &wheels[i])
		if !ok {
			other := -1
			if i > 0 {
				other = i - 1
			}
			return nil, 0, &WheelError{i, other, "there is no way for the belt to it: one lies within the other, or they overlap"}
		}
		if i == 0 {
			r.Length = math.Hypot(r.Length, across)
		} else {
			b.around(i-1, heading, h)
		}
		b.Touching = append(b.Touching, from)
		b.Runs = append(b.Runs, r)
		from, heading = i, h
	}
	last := &wheels[n-1]
	if last.Back {
		return nil, 0, &WheelError{n - 1, -1, "the belt passes below it, and its end would stand up behind it: over the last wheel is accepted"}
	}
	b.Touching = append(b.Touching, n-1)
	b.around(n-1, heading, -math.Pi/2)
	for k := range b.Runs {
		used += b.Runs[k].Length
		c := &b.Contacts[b.Touching[k+1]]
		c.Wheel, c.Touches, c.From, c.To = b.Touching[k+1], true, used, used+c.Angle*b.Wheels[b.Touching[k+1]].R
		used = c.To
	}
	b.Contacts[n].Wheel, b.Contacts[n].Heading = n, b.leaves()
	return b, used, nil
}

// around lays the belt round wheel i, from one heading to another.
func (b *Belt) around(i int, from, to float64) {
	w := &b.Wheels[i]
	turn := math.Mod(w.Sense()*(from-to), 2*math.Pi)
	if turn < -1e-12 {
		turn += 2 * math.Pi
	}
	b.Contacts[i].Heading, b.Contacts[i].Angle = from, max(turn, 0)
}

// leaves is the heading of the first run.
func (b *Belt) leaves() float64 {
	r := &b.Runs[0]
	return math.Atan2(r.Y1-r.Y0, r.X1-r.X0)
}
