package mech

import (
	"math"
	"slices"

	"bead/core/geom"
)

// Gear is a belt's wheels and the constraints that it has to meet.
type Gear struct {
	Wheels []Wheel
	// Ground is what the belt's lower runs lie on where they would come below it; nil
	// where there is none. Depth is from the pitch line out to the face on the ground.
	Ground Ground
	Depth  float64
	// Down is set for each wheel that stands on the ground: between two of them the belt follows the ground.
	Down []bool
	// Length is the length to keep, metres; 0: the belt is taut and as long as the wheels make it.
	Length float64
	// Slack is set for each wheel behind which the belt may sag when it is longer than the taut one.
	Slack []bool
	// TakeUp slides a wheel to hold the length; nil where none does.
	TakeUp *TakeUp
}

// TakeUp is a wheel on a slide of a direction of length 1 and the least and greatest way
// along it.
type TakeUp struct {
	Wheel       int
	X, Y        float64
	Least, Most float64
}

// Solved is a belt that meets the constraints of its gear as well as they can be met.
type Solved struct {
	*Belt
	// TakenUp is how far the tensioner has moved. Spare is how much longer the kept length is than the taut
	// belt, negative where it is too short; metres.
	TakenUp, Spare float64
	// Hanging is set where the spare length sags in the chosen runs; else the belt is taut.
	Hanging bool
	// taut is the belt before its runs hang.
	taut *Belt
	// Trouble says why the belt could not be laid in this frame; it is then that of another frame.
	Trouble string
}

// Solve lays the belt. The wheels given stand where they are (suspension is settled
// before), but for the take-up wheel.
func Solve(g *Gear) (*Solved, error) {
	b, err := g.taut(slices.Clone(g.Wheels))
	if err != nil || g.Length == 0 {
		return &Solved{Belt: b}, err
	}
	return (&Solved{Belt: b}).Keep(g), nil
}

// Keep returns the taut belt at the length of its gear: the tensioner takes up first, then the chosen runs
// sag.
func (s *Solved) Keep(g *Gear) *Solved {
	s = &Solved{Belt: s.Belt}
	if t := g.TakeUp; t != nil {
		wheels := g.Wheels
		at := wheels[t.Wheel]
		slid := func(way float64) (*Belt, error) {
			moved := slices.Clone(wheels)
			moved[t.Wheel].X, moved[t.Wheel].Y = at.X+way*t.X, at.Y+way*t.Y
			return g.taut(moved)
		}
		short := func(way float64) float64 {
			b, err := slid(way)
			if err != nil {
				return math.NaN()
			}
			return b.Length - g.Length
		}
		lo, hi := short(t.Least), short(t.Most)
		switch {
		case lo <= 0 && hi >= 0 || lo >= 0 && hi <= 0:
			s.TakenUp, _ = geom.Root(short, t.Least, t.Most, lo, hi, 1e-11*g.Length)
		case math.Abs(lo) < math.Abs(hi):
			s.TakenUp = t.Least
		case math.Abs(hi) <= math.Abs(lo):
			s.TakenUp = t.Most
		}
		if b, err := slid(s.TakenUp); err == nil {
			s.Belt = b
		} else {
			s.TakenUp = 0
		}
	}
	s.Spare = g.Length - s.Length
	if math.Abs(s.Spare) <= 1e-10*g.Length {
		s.Spare = 0
	}
	s.taut = s.Belt
	s.hang(g, 0)
	return s
}

// Longer is the same belt a little longer or shorter: only its sagging runs change. Where none sags it is
// solved anew.
func (s *Solved) Longer(g *Gear, by float64) (*Solved, error) {
	more := *g
	more.Length += by
	if !s.Hanging || s.Spare+by <= 0 {
		return Solve(&more)
	}
	out := &Solved{Belt: s.taut, taut: s.taut, TakenUp: s.TakenUp, Spare: s.Spare + by}
	guess := 0.0
	for k := range s.Runs {
		guess = max(guess, s.Runs[k].A)
	}
	out.hang(&more, guess)
	return out, nil
}

func (s *Solved) hang(g *Gear, guess float64) {
	if s.Spare > 0 {
		if hung := hangRuns(s.Belt, g.Slack, g.Length, guess); hung != nil {
			s.Belt, s.Hanging = hung, true
		}
	}
}

// taut lays the belt straight from wheel to wheel, over the ground where that is in the
// way.
func (g *Gear) taut(wheels []Wheel) (*Belt, error) {
	b, err := Wrap(wheels)
	if err != nil || len(g.Ground) == 0 || len(wheels) == 1 {
		return b, err
	}
	// A wheel may lift off when the ground carries the belt: then once more without it.
	for range 3 {
		all, order := g.overGround(b, len(wheels))
		if len(order) == len(b.Touching) && len(b.Wheels) == len(wheels) {
			return b, nil
		}
		next, err := lay(all, order, hairAngle)
		if err != nil {
			return b, nil // wedged in by the ground: as it was without, which is seen to lie below it
		}
		kept := true
		for _, i := range order {
			kept = kept && (i >= len(wheels) || next.Contacts[i].Touches)
		}
		b = next
		if kept {
			break
		}
	}
	return b, nil
}

// hair is the clearance in metres left between a wheel and a point of the ground that it touches, and
// hairAngle a bound of the belt's slant in it, radians.
const hair, hairAngle = 1e-12, 1e-5

// overGround puts, into the order of a belt's wheels, those points of the ground over
// which its runs are drawn: circles of the belt's depth that touch its back.
func (g *Gear) overGround(b *Belt, wheels int) (all []Wheel, order []int) {
	all = append([]Wheel(nil), b.Wheels[:wheels]...)
	var round []int // the wheels alone; those that stand on the ground press the belt to it
	for i := range wheels {
		if b.Contacts[i].Touches || i < len(g.Down) && g.Down[i] {
			round = append(round, i)
		}
	}
	for k, i := range round {
		order = append(order, i)
		next := round[(k+1)%len(round)]
		if i < len(g.Down) && next < len(g.Down) && g.Down[i] && g.Down[next] && all[next].X < all[i].X {
			first := len(all)
			all = g.lying(all, i, next)
			for n := first; n < len(all); n++ {
				order = append(order, n)
			}
			continue
		}
		p, q := &all[i], &all[next]
		run, heading, ok := tangent(p, q)
		if !ok || math.Cos(heading) > -1e-3 || p.Back || q.Back {
			continue
		}
		sin, cos := math.Sincos(heading)
		in := false
		var over []int
		first := len(all)
		for v := g.Ground.beyond(p.X); v > 0; v-- {
			pt := g.Ground[v-1]
			if pt.X < q.X-q.R/10 { // farther on it is in the way of the next run
				break
			}
			// A wheel that rests on the point touches its circle: a hair of room lets the
			// belt in between.
			r := min(g.Depth, math.Hypot(pt.X-p.X, pt.Y-p.Y)-p.R-hair, math.Hypot(pt.X-q.X, pt.Y-q.Y)-q.R-hair)
			if r < 0 {
				continue
			}
			along := (pt.X-run.X0)*cos + (pt.Y-run.Y0)*sin
			in = in || along >= 0 && along <= run.Length && (pt.Y-run.Y0)*cos-(pt.X-run.X0)*sin < g.Depth-1e-9
			all = append(all, Wheel{pt.X, pt.Y, r, true})
			over = append(over, len(all)-1)
		}
		if !in {
			all = all[:first]
			continue
		}
		order = append(order, stretched(all, i, over, next)...)
	}
	return all, order
}

// lying appends the ground points that the belt lies on from one wheel back to another: round the outside of
// crests at its depth, and into hollows to where the two straights above their sides meet.
func (g *Gear) lying(all []Wheel, from, to int) []Wheel {
	p, q := all[from], all[to]
	_, a := g.Ground.Rest(p.X, p.R+g.Depth)
	_, b := g.Ground.Rest(q.X, q.R+g.Depth)
	for v := g.Ground.beyond(a.X); v > 0; v-- {
		k := v - 1
		pt := g.Ground[k]
		if pt.X < b.X {
			break
		}
		if pt.X > a.X || k == 0 || k+1 == len(g.Ground) {
			continue
		}
		// Out of the ground on either side of the point.
		out := func(c, d Point) Point {
			h := math.Hypot(d.X-c.X, d.Y-c.Y)
			return Point{(c.Y - d.Y) / h, (d.X - c.X) / h}
		}
		m, n := out(g.Ground[k-1], pt), out(pt, g.Ground[k+1])
		if m.X*n.Y-m.Y*n.X < 0 { // a crest
			if r := min(g.Depth, math.Hypot(pt.X-p.X, pt.Y-p.Y)-p.R-hair, math.Hypot(pt.X-q.X, pt.Y-q.Y)-q.R-hair); r >= 0 {
				all = append(all, Wheel{pt.X, pt.Y, r, true})
			}
			continue
		}
		s := g.Depth / (1 + m.X*n.X + m.Y*n.Y)
		w := Wheel{pt.X + s*(m.X+n.X), pt.Y + s*(m.Y+n.Y), 0, false}
		if math.Hypot(w.X-p.X, w.Y-p.Y) > p.R+hair && math.Hypot(w.X-q.X, w.Y-q.Y) > q.R+hair {
			all = append(all, w)
		}
	}
	return all
}

// stretched are the circles that a taut string from one wheel to another touches, among those below it
// (Graham's scan, Inf. Proc. Letters 1(4), 1972, with circles for points).
func stretched(all []Wheel, from int, over []int, to int) []int {
	type held struct {
		at      int
		heading float64 // with which the string comes here
	}
	stack := []held{{at: from}}
	for n := range len(over) + 1 {
		at := to
		if n < len(over) {
			at = over[n]
		}
		for {
			top := stack[len(stack)-1]
			_, h, ok := tangent(&all[top.at], &all[at])
			if len(stack) == 1 {
				if ok || n == len(over) {
					stack = append(stack, held{at, h})
				}
				break
			}
			if ok && math.Remainder(h-top.heading, 2*math.Pi) >= 0 { // round the back of a circle it turns left
				stack = append(stack, held{at, h})
				break
			}
			stack = stack[:len(stack)-1]
		}
	}
	var out []int
	for _, h := range stack[1 : len(stack)-1] {
		out = append(out, h.at)
	}
	return out
}
