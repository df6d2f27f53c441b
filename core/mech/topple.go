package mech

import (
	"fmt"
	"math"
	"sort"

	"gonum.org/v1/gonum/integrate/quad"

	"bead/core/geom"
)

// Slab is a block of a run that falls one after another. It stands plumb and tips over the middle
// of its lower front edge, its hinge, without slipping.
type Slab struct {
	Height, Depth, Width float64  // metres; depth along the fall
	Hinge                geom.Vec // metres, y up
	Ahead                geom.Vec // the level direction in which it falls, of length 1
	Mass                 float64  // in any unit, the same for all
}

// Topple is a run of slabs that fall without friction, gravity the only force. It has one degree of
// freedom, the tilt of the front slab: those behind lean on one another. Energy is kept between two
// touches; at a touch, which is without bounce, the momentum along the new motion is kept. (Method:
// J. M. J. van Leeuwen, "The domino effect", Am. J. Phys. 78, 2010, 721, here for any heights, gaps
// and turns between neighbours.)
type Topple struct {
	slabs   []Slab
	pairs   []pair // pairs[i] is how slab i leans on slab i+1
	phases  []phase
	gravity float64
	start   float64 // tilt of the first slab, radians
	stopped string  // why the run does not reach its end; empty when it does
}

// pair is how a slab leans on the next. Its foremost upper corner lies on the back of that, told in the
// next one's own axes, z ahead of its hinge and y up; or, once the next lies lower than it leans, its
// front lies on the next one's hind lower edge, told ahead of its own hinge.
type pair struct {
	z, y float64 // of the point that touches, without what the tilt adds
	h    float64 // how far the tilt carries it
	c    float64 // and how much of that is ahead
	d    float64 // depth of the next
	edge float64 // how far ahead the next one's hinge is, at the edge's nearest end
	cos  float64 // of the turn between them
}

// phase is a time in which one slab is the front and each lies on the next in the same way.
type phase struct {
	front    int
	touch    bool    // it begins with a touch
	from, to float64 // its tilt, radians
	began    float64 // seconds
	kinetic  float64 // when it began
	first    int     // slabs before it are at rest
	height   float64 // potential energy of the others when it began
	rest     bool    // it begins at rest
	times    []float64
}

// steps of a phase; between them time is found by quadrature of order nodes.
const (
	toppleSteps = 6
	toppleNodes = 6
	looks       = 24   // at which a phase is looked at for turns
	turnShare   = 1e-9 // of a tilt before and behind a turn
	leaning     = 1e-8 // slabs that move slower than this share of the front are at rest
)

// NewTopple works out a run, the first slab tilted by so many radians and at rest. Errors say what
// would be accepted.
func NewTopple(slabs []Slab, tilt, gravity float64) (*Topple, error) {
	if len(slabs) == 0 {
		return nil, fmt.Errorf("nothing stands there: one slab or more is accepted")
	}
	for i, s := range slabs {
		if !(s.Height > 0 && s.Depth > 0 && s.Width > 0 && s.Mass > 0) || math.IsInf(s.Height*s.Depth*s.Width*s.Mass, 0) {
			return nil, fmt.Errorf("piece %d has no size that could fall: height, depth and width above 0 are accepted", i+1)
		}
	}
	if balance := slabs[0].balance(); !(tilt > balance && tilt < math.Pi/2) {
		return nil, fmt.Errorf("tilted by %.4g° the first piece does not fall: more than %.4g°, where it balances, and less than 90° is accepted", tilt*180/math.Pi, balance*180/math.Pi)
	}
	t := &Topple{slabs: slabs, gravity: gravity, start: tilt}
	for i := range slabs[:len(slabs)-1] {
		p, why := meet(&slabs[i], &slabs[i+1])
		if why != "" {
			t.stopped = fmt.Sprintf("piece %d %s", i+2, why)
			break
		}
		t.pairs = append(t.pairs, p)
	}
	t.run()
	return t, nil
}

// balance is the tilt at which a slab stands on its edge.
func (s *Slab) balance() float64 { return math.Atan2(s.Depth, s.Height) }

func (s *Slab) inertia() float64 { return s.Mass * (s.Height*s.Height + s.Depth*s.Depth) / 3 }

// weight is its potential energy at a tilt.
func (s *Slab) weight(tilt, gravity float64) float64 {
	return s.Mass * gravity * math.Hypot(s.Height, s.Depth) / 2 * math.Cos(tilt-s.balance())
}

// meet finds where a slab touches the next, or why it does not.
func meet(s, next *Slab) (pair, string) {
	away := s.Hinge.Sub(next.Hinge)
	side := geom.V(0, 1, 0).Cross(next.Ahead) // to the left
	x, z := away.Dot(side), away.Dot(next.Ahead)
	sin, cos := s.Ahead.Dot(side), s.Ahead.Dot(next.Ahead)
	if cos < 0.1 {
		return pair{}, "stands turned too far from the one before"
	}
	// The foremost corner of the upper edge: on the side away from which it turns.
	p := pair{z + s.Width/2*math.Abs(sin), away.Y, s.Height, cos, next.Depth, -x*sin - z*cos - next.Width/2*math.Abs(sin), cos}
	half := next.Width / 2
	at := func() (tilt float64, ok bool) { return p.tilt(0) }
	tilt, ok := at()
	if ok {
		edge := x + s.Height*math.Sin(tilt)*sin
		corner := edge - math.Copysign(s.Width/2*cos, sin)
		switch {
		case math.Abs(sin) < 1e-12:
			if math.Abs(edge) >= half+s.Width/2 {
				return pair{}, "stands beside the fall of the one before"
			}
		case math.Abs(corner) > half:
			// The edge meets the side of the next one's back.
			if corner*edge > 0 && math.Abs(edge) > half && math.Abs(corner) > half && math.Abs(edge) > half+s.Width/2*cos {
				return pair{}, "stands beside the fall of the one before"
			}
			bound := math.Copysign(half, corner)
			p.z, p.c = z-(bound-x)*sin/cos, 1/cos
			tilt, ok = at()
		}
	}
	switch {
	case z >= -next.Depth, ok && tilt <= 1e-9: // round a bend wide ones stand into one another at their ends
		return pair{}, "stands into the one before"
	case !ok:
		return pair{}, "stands out of reach of the one before"
	case p.y+s.Height*math.Cos(tilt) > next.Height:
		return pair{}, "is lower than where the one before would touch it"
	}
	return p, ""
}

// tilt is that of a slab which leans on the next, tilted by b; false where it does not reach it.
func (p *pair) tilt(b float64) (float64, bool) {
	along, across := p.h*p.c*math.Cos(b), p.h*math.Sin(b)
	k := (-p.d - p.z*math.Cos(b) + p.y*math.Sin(b)) / math.Hypot(along, across)
	if !(k > -1 && k < 1) {
		return 0, false
	}
	return min(math.Atan2(across, along)+math.Asin(k), p.onEdge(b)), true
}

// onEdge is the tilt at which a slab's front lies on the hind edge of the next, tilted by b.
func (p *pair) onEdge(b float64) float64 {
	return math.Atan2(p.edge-p.d*p.cos*math.Cos(b), p.d*math.Sin(b)-p.y)
}

// rate is how fast a slab tilts that leans, for each radian a second of the next.
func (p *pair) rate(a, b float64) float64 {
	if a == p.onEdge(b) {
		ahead, up := p.edge-p.d*p.cos*math.Cos(b), p.d*math.Sin(b)-p.y
		return (p.d*p.cos*math.Sin(b)*up - ahead*p.d*math.Cos(b)) / (ahead*ahead + up*up)
	}
	z := p.z + p.h*p.c*math.Sin(a)
	y := p.y + p.h*math.Cos(a)
	by := p.h*p.c*math.Cos(a)*math.Cos(b) + p.h*math.Sin(a)*math.Sin(b)
	return (z*math.Sin(b) + y*math.Cos(b)) / by
}

// chain is the inertia of all slabs from first to front as the front one feels it, their potential
// energy, and how fast each tilts for a radian a second of it, told to each from the front back.
func (t *Topple) chain(first, front int, tilt float64, each func(i int, tilt, rate float64)) (inertia, potential float64) {
	rate := 1.0
	for i := front; i >= first; i-- {
		if i < front {
			b := tilt
			tilt, _ = t.pairs[i].tilt(b)
			rate *= t.pairs[i].rate(tilt, b)
		}
		inertia += t.slabs[i].inertia() * rate * rate
		potential += t.slabs[i].weight(tilt, t.gravity)
		if each != nil {
			each(i, tilt, rate)
		}
	}
	return inertia, potential
}

// run works out the phases. One ends where the front slab touches the next, or where a slab comes to
// lie on another in another way: there, too, the momentum along the new motion is kept.
func (t *Topple) run() {
	p := phase{from: t.start, rest: true}
	for {
		end, last := math.Pi/2, p.front == len(t.pairs)
		if !last {
			end, _ = t.pairs[p.front].tilt(0)
		}
		p.to = max(end, p.from)
		turn := t.turned(&p) // then it goes on with the same front
		_, p.height = t.chain(p.first, p.front, p.from, nil)
		if !t.time(&p) {
			p.to, p.times = p.from, []float64{0}
			t.stopped = fmt.Sprintf("piece %d is not pushed hard enough to tip", p.front+1)
			t.phases = append(t.phases, p)
			return
		}
		t.phases = append(t.phases, p)
		if last && !turn {
			return
		}
		p = t.next(&p, turn)
	}
}

// next is the phase that follows one.
func (t *Topple) next(p *phase, turn bool) phase {
	next := phase{front: p.front, from: p.to, began: p.began + p.times[len(p.times)-1], first: p.first}
	rates := make([]float64, p.front-p.first+1)
	inertia, height := t.chain(p.first, p.front, p.to*(1-turnShare), func(i int, _, rate float64) { rates[i-p.first] = rate })
	moving := p.kinetic + p.height - height
	// The momentum along the new motion, over the square root of its inertia.
	along, own := 0.0, 0.0
	add := func(i int, was, is float64) {
		along += t.slabs[i].inertia() * was * is
		own += t.slabs[i].inertia() * is * is
	}
	if turn {
		t.chain(p.first, p.front, p.to*(1+turnShare), func(i int, _, rate float64) { add(i, rates[i-p.first], rate) })
	} else {
		r := t.pairs[p.front].rate(p.to, 0)
		for i, rate := range rates {
			add(p.first+i, rate, rate*r)
			if math.Abs(rate) < leaning {
				next.first = max(next.first, p.first+i+1)
			}
		}
		next.front, next.from, next.touch = p.front+1, 0, true
		add(next.front, 0, 1)
	}
	next.kinetic = moving / inertia * along * along / own
	return next
}

// turned shortens a phase to the tilt at which one slab begins to lie on another in another way;
// false where none does.
func (t *Topple) turned(p *phase) bool {
	from, to := p.from+(p.to-p.from)*1e-6, p.to-(p.to-p.from)*1e-6
	was := t.ways(p, from)
	for k := 1; k <= looks; k++ {
		lo, hi := from+(to-from)*float64(k-1)/looks, from+(to-from)*float64(k)/looks
		if t.ways(p, hi) == was {
			continue
		}
		for range 50 {
			if mid := (lo + hi) / 2; t.ways(p, mid) == was {
				lo = mid
			} else {
				hi = mid
			}
		}
		if hi < p.to*(1-2*turnShare) && hi > p.from+1e-9 {
			p.to = hi
			return true
		}
	}
	return false
}

// ways tells of the last slabs how each lies on the next: a bit each.
func (t *Topple) ways(p *phase, tilt float64) (bits uint64) {
	next := 0.0 // tilt of the slab that was told last
	t.chain(p.first, p.front, tilt, func(i int, tilt, rate float64) {
		if i < p.front && i >= p.front-60 && math.Abs(rate) > 1e-5 && tilt == t.pairs[i].onEdge(next) {
			bits |= 1 << (p.front - 1 - i)
		}
		next = tilt
	})
	return bits
}

// time fills the times of a phase; false where its energy does not carry it through.
func (t *Topple) time(p *phase) bool {
	p.times = make([]float64, toppleSteps+1)
	for i := 1; i <= toppleSteps; i++ {
		took := t.took(p, float64(i-1)/toppleSteps, float64(i)/toppleSteps)
		if math.IsNaN(took) || math.IsInf(took, 0) {
			return false
		}
		p.times[i] = p.times[i-1] + took
	}
	return true
}

// took is the time from one share of a phase's way to another; NaN where it comes to a stop.
func (t *Topple) took(p *phase, a, b float64) float64 {
	if p.to == p.from || a == b {
		return 0
	}
	return quad.Fixed(func(u float64) float64 {
		tilt, slope := p.tilt(u)
		inertia, now := t.chain(p.first, p.front, tilt, nil)
		return slope * math.Sqrt(inertia/(2*(p.kinetic+p.height-now)))
	}, a, b, toppleNodes, nil, 0)
}

// tilt is that of the front slab at a share of the way, and how fast it grows with the share. From
// rest it sets out slowly, so that time stays smooth in the share.
func (p *phase) tilt(u float64) (tilt, slope float64) {
	if p.rest {
		return p.from + (p.to-p.from)*u*u, 2 * (p.to - p.from) * u
	}
	return p.from + (p.to-p.from)*u, p.to - p.from
}

// Touches are the seconds at which slabs are touched, from the second one on.
func (t *Topple) Touches() []float64 {
	out := make([]float64, 0, len(t.phases))
	for _, p := range t.phases {
		if p.touch {
			out = append(out, p.began)
		}
	}
	return out
}

// End is when the last slab that falls has come to rest, seconds.
func (t *Topple) End() float64 {
	p := t.phases[len(t.phases)-1]
	return p.began + p.times[len(p.times)-1]
}

// Fallen is how many slabs fall, and why the next one does not: empty when all do.
func (t *Topple) Fallen() (count int, why string) {
	p := &t.phases[len(t.phases)-1]
	count = p.front + 1
	if p.to == p.from && t.stopped != "" && count > 1 {
		count--
	}
	return count, t.stopped
}

// Tilts fills the tilt of every slab at a time, radians; dst is as long as the run.
func (t *Topple) Tilts(dst []float64, seconds float64) {
	for i := range dst {
		dst[i] = 0
	}
	if !(seconds > 0) {
		dst[0] = t.start
		seconds = 0
	}
	p := &t.phases[sort.Search(len(t.phases), func(i int) bool { return t.phases[i].began > seconds })-1]
	t.chain(0, p.front, p.at(t, seconds-p.began), func(i int, tilt, _ float64) { dst[i] = tilt })
}

// at is the front slab's tilt so many seconds after a phase began.
func (p *phase) at(t *Topple, after float64) float64 {
	last := len(p.times) - 1
	if p.to == p.from || after >= p.times[last] {
		return p.to
	}
	k := max(sort.SearchFloat64s(p.times, after)-1, 0)
	lo, hi := float64(k)/toppleSteps, float64(k+1)/toppleSteps
	left := after - p.times[k]
	u := lo + (hi-lo)*left/(p.times[k+1]-p.times[k])
	for range 12 {
		miss := left - t.took(p, lo, u)
		h := (hi - lo) * 1e-4
		slope := t.took(p, max(u-h, lo), u+h) / (u + h - max(u-h, lo))
		step := miss / slope
		u = min(max(u+step, lo), hi)
		if math.Abs(step) < 1e-13 {
			break
		}
	}
	tilt, _ := p.tilt(u)
	return tilt
}
