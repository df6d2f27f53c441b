package mech

import (
	"errors"
	"fmt"
	"math"
	"sort"

	"gonum.org/v1/gonum/integrate/quad"

	"bead/core/geom"
)

// Slab is a block of a run that falls one after another. It stands on its ground, level or sloping, and
// tips over the middle of its lower front edge, its hinge, without slipping.
type Slab struct {
	Height, Depth, Width float64  // metres; depth along the fall
	Hinge                geom.Vec // metres, y up
	Ahead                geom.Vec // the level direction in which it falls, of length 1
	Mass                 float64  // in any unit, the same for all
	Rest                 float64  // radians that it leans ahead from plumb as it stands: down a slope above 0
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
	start   float64 // tilt of the first slab, radians from plumb
	stopped string  // why the run does not reach its end: what the slab stopsAt does; empty when it does
	stopsAt int     // counted from 1
}

// pair is how a slab leans on the next, in one of four ways: its foremost upper corner lies on the
// back of that, or its upper edge on a side of that back; or, once the next lies lower than it leans,
// its front lies on an end of the next one's hind lower edge, or a side of its front on that edge.
type pair struct {
	z, y   float64 // its hinge from the next one's: ahead, and up
	h, d   float64 // its height, and the depth of the next
	corner [2]term // how far ahead of the next one's hinge its upper edge touches, for the sine of its tilt
	hind   [2]term // how far ahead of its hinge the next one's hind edge is, for the depth that is left
}

// term is a linear function: base plus slope times another number.
type term struct{ base, slope float64 }

func (t term) at(x float64) float64 { return t.base + t.slope*x }

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

const (
	beyondBalance = 2 // degrees

	// Steps of a phase; between them time is found by quadrature with so many nodes.
	toppleSteps = 6
	toppleNodes = 6
	looks       = 24    // at which a phase is looked at for turns
	turnShare   = 1e-9  // of a tilt before and behind a turn
	alike       = 1e-12 // radians by which a way has to lead, so that rounding does not choose among equal ones
	mostPhases  = 60    // of a slab, in the mean
	leaning     = 1e-8  // slabs that move slower than this share of the front are at rest
)

// ErrStopped says that a run was given up.
var ErrStopped = errors.New("the run was given up")

// Push is how the first slab starts. Tilt: at rest, tilted by so many radians; 0 stands for two degrees beyond
// its balance, or half way from there to the next slab where that is less. Speed, where above 0: upright,
// tipping at so many radians a second.
type Push struct{ Tilt, Speed float64 }

// NewTopple works out a run. Errors say what would be accepted; ErrStopped where nobody waits for it
// any more.
func NewTopple(stopped func() bool, slabs []Slab, push Push, gravity float64) (*Topple, error) {
	if len(slabs) == 0 {
		return nil, fmt.Errorf("nothing stands there: one slab or more is accepted")
	}
	for i, s := range slabs {
		if !(s.Height > 0 && s.Depth > 0 && s.Width > 0 && s.Mass > 0) || math.IsInf(s.Height*s.Depth*s.Width*s.Mass, 0) {
			return nil, fmt.Errorf("piece %d has no size that could fall: height, depth and width above 0 are accepted", i+1)
		}
		if !(s.Rest < s.balance() && s.Rest > -math.Pi/4) {
			return nil, fmt.Errorf("piece %d stands on a slope of %.3g°, on which it falls by itself: less than %.3g° down is accepted, and 45° up", i+1, s.Rest*180/math.Pi, s.balance()*180/math.Pi)
		}
	}
	t := &Topple{slabs: slabs, gravity: gravity}
	for i := range slabs[:len(slabs)-1] {
		p, why := meet(&slabs[i], &slabs[i+1])
		if why != "" {
			t.stopped, t.stopsAt = why, i+2
			break
		}
		t.pairs = append(t.pairs, p)
	}
	if push.Speed > 0 {
		if least := slabs[0].LeastSpeed(gravity); !(push.Speed > least) {
			return nil, fmt.Errorf("the first piece is pushed to %.4g° a second and comes to a stop before it balances: more than %.4g° a second is accepted", push.Speed*180/math.Pi, least*180/math.Pi)
		}
		t.start = slabs[0].Rest
		return t, t.run(phase{from: t.start, kinetic: slabs[0].inertia() * push.Speed * push.Speed / 2}, stopped)
	}
	if err := t.begin(push.Tilt); err != nil {
		return nil, err
	}
	return t, t.run(phase{from: t.start, rest: true}, stopped)
}

// LeastSpeed is the speed at which a slab tips just up to its balance from where it stands, radians a
// second.
func (s *Slab) LeastSpeed(gravity float64) float64 {
	return math.Sqrt(2 * (s.weight(s.balance(), gravity) - s.weight(s.Rest, gravity)) / s.inertia())
}

// begin tilts the first slab: beyond its balance, and not so far that it lies against the next. Tilts
// that are asked for and said are from where it stands.
func (t *Topple) begin(tilt float64) error {
	const degrees = 180 / math.Pi
	s := &t.slabs[0]
	balance, most, until := s.balance()-s.Rest, math.Pi/2, "lies flat"
	if len(t.pairs) > 0 {
		touch, _, _ := t.pairs[0].lean(t.slabs[1].Rest)
		most, until = touch-s.Rest, "touches the next"
	}
	if !(balance < most) {
		return fmt.Errorf("the first piece touches the next at %.4g°, before it falls by itself at %.4g°: pieces farther apart are accepted", most*degrees, balance*degrees)
	}
	if tilt == 0 {
		tilt = min(balance+beyondBalance/degrees, (balance+most)/2)
	}
	if !(tilt > balance && tilt < most) {
		return fmt.Errorf("the first piece is tilted by %.4g°: more than %.4g°, where it balances, and less than %.4g°, where it %s, is accepted", tilt*degrees, balance*degrees, most*degrees, until)
	}
	t.start = s.Rest + tilt
	return nil
}

// Start is the tilt of the first slab when it is let go, radians from where it stands; 0 where it is
// pushed by a speed.
func (t *Topple) Start() float64 { return t.start - t.slabs[0].Rest }

// balance is the tilt at which a slab stands on its edge.
func (s *Slab) balance() float64 { return math.Atan2(s.Depth, s.Height) }

func (s *Slab) inertia() float64 { return s.Mass * (s.Height*s.Height + s.Depth*s.Depth) / 3 }

// weight is the potential energy of a slab at a tilt, joules.
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
	turn, tan := math.Abs(sin), math.Abs(sin)/cos
	p := pair{z: z, y: away.Y, h: s.Height, d: next.Depth,
		corner: [2]term{{z + s.Width/2*turn, cos}, {z + x*sin/cos + next.Width/2*tan, 1 / cos}},
		hind:   [2]term{{-x*sin - next.Width/2*turn, cos}, {-s.Width / 2 * tan, 1 / cos}}}
	down, level := math.Sincos(next.Rest)
	tilt, way, ok := p.lean(next.Rest)
	// How high on its back the next is touched.
	z0, y0 := p.corner[way&1].at(p.h*math.Sin(tilt)), p.y+p.h*math.Cos(tilt)
	high := z0*down + y0*level
	switch {
	case z >= -next.Depth*level, ok && tilt <= s.Rest+1e-9: // round a bend wide ones stand into one another at their ends
		return pair{}, "stands into the one before"
	case !ok || next.Rest != 0 && high < 0:
		return pair{}, "stands out of reach of the one before"
	case math.Abs(x+s.Height*math.Sin(tilt)*sin) >= next.Width/2+s.Width/2*cos:
		return pair{}, "stands beside the fall of the one before"
	case high > next.Height:
		return pair{}, "is lower than where the one before would touch it"
	}
	return p, ""
}

// lean is the tilt of a slab that leans on the next, tilted by b, and in which of the four ways; false
// where it does not reach it.
func (p *pair) lean(b float64) (tilt float64, way int, ok bool) {
	sin, cos := math.Sincos(b)
	// Of the two contacts the one that lies less far ahead counts: it needs the greater tilt.
	for i, c := range p.corner {
		along, across := p.h*c.slope*cos, p.h*sin
		k := (-p.d - c.base*cos + p.y*sin) / math.Hypot(along, across)
		if !(k < 1) {
			return 0, 0, false
		}
		if a := math.Atan2(across, along) + math.Asin(max(k, -1)); i == 0 || a > tilt+alike {
			tilt, way = a, i
		}
	}
	edge, on := math.Inf(-1), 0
	for i, h := range p.hind {
		if a := math.Atan2(h.at(-p.z-p.d*cos), p.d*sin-p.y); i == 0 || a > edge+alike {
			edge, on = a, 2+i
		}
	}
	if edge < tilt-alike {
		tilt, way = edge, on
	}
	return tilt, way, true
}

// rate is the ratio of the tilt speeds of a slab and the next, which it leans on in a way.
func (p *pair) rate(a, b float64, way int) float64 {
	if way >= 2 {
		h := p.hind[way-2]
		ahead, up := h.at(-p.z-p.d*math.Cos(b)), p.d*math.Sin(b)-p.y
		return (h.slope*p.d*math.Sin(b)*up - ahead*p.d*math.Cos(b)) / (ahead*ahead + up*up)
	}
	c := p.corner[way]
	z, y := c.at(p.h*math.Sin(a)), p.y+p.h*math.Cos(a)
	by := p.h*c.slope*math.Cos(a)*math.Cos(b) + p.h*math.Sin(a)*math.Sin(b)
	return (z*math.Sin(b) + y*math.Cos(b)) / by
}

// chain adds up the slabs from first to front: their inertia as seen by the front slab's tilt, and their
// potential energy. each is called from the front back with the way a slab leans on the next, its tilt, and
// its tilt speed for 1 rad/s of the front.
func (t *Topple) chain(first, front int, tilt float64, each func(i, way int, tilt, rate float64)) (inertia, potential float64) {
	rate, way := 1.0, 0
	for i := front; i >= first; i-- {
		if i < front {
			b := tilt
			tilt, way, _ = t.pairs[i].lean(b)
			rate *= t.pairs[i].rate(tilt, b, way)
		}
		inertia += t.slabs[i].inertia() * rate * rate
		potential += t.slabs[i].weight(tilt, t.gravity)
		if each != nil {
			each(i, way, tilt, rate)
		}
	}
	return inertia, potential
}

// run works out the phases. One ends where the front slab touches the next, or where a slab comes to
// lie on another in another way: there, too, the momentum along the new motion is kept.
func (t *Topple) run(p phase, stopped func() bool) error {
	for {
		if stopped() {
			return ErrStopped
		}
		if len(t.phases) > mostPhases*(len(t.slabs)+10) {
			return fmt.Errorf("piece %d comes to lie on the next in too many ways: pieces of even widths, or on wider bends, are accepted", p.front+1)
		}
		end, last := math.Pi/2+t.slabs[p.front].Rest, p.front == len(t.pairs)
		if !last {
			end, _, _ = t.pairs[p.front].lean(t.slabs[p.front+1].Rest)
		}
		p.to = end
		turn := t.turned(&p) // then it goes on with the same front
		_, p.height = t.chain(p.first, p.front, p.from, nil)
		if !t.time(&p) {
			p.to, p.times = p.from, []float64{0}
			t.stopped, t.stopsAt = "is not pushed hard enough to tip", p.front+1
			t.phases = append(t.phases, p)
			return nil
		}
		t.phases = append(t.phases, p)
		if last && !turn {
			return nil
		}
		p = t.next(&p, turn)
	}
}

// next is the phase that follows one.
func (t *Topple) next(p *phase, turn bool) phase {
	next := phase{front: p.front, from: p.to, began: p.began + p.times[len(p.times)-1], first: p.first}
	rates := make([]float64, p.front-p.first+1)
	inertia, height := t.chain(p.first, p.front, before(p.to, turnShare), func(i, _ int, _, rate float64) { rates[i-p.first] = rate })
	moving := p.kinetic + p.height - height
	// The momentum along the new motion, over the square root of its inertia.
	along, own := 0.0, 0.0
	add := func(i int, was, is float64) {
		along += t.slabs[i].inertia() * was * is
		own += t.slabs[i].inertia() * is * is
	}
	if turn {
		t.chain(p.first, p.front, before(p.to, -turnShare), func(i, _ int, _, rate float64) { add(i, rates[i-p.first], rate) })
	} else {
		rest := t.slabs[p.front+1].Rest
		_, way, _ := t.pairs[p.front].lean(rest)
		r := t.pairs[p.front].rate(p.to, rest, way)
		for i, rate := range rates {
			add(p.first+i, rate, rate*r)
			if math.Abs(rate) < leaning {
				next.first = max(next.first, p.first+i+1)
			}
		}
		next.front, next.from, next.touch = p.front+1, rest, true
		add(next.front, 0, 1)
	}
	next.kinetic = moving / inertia * along * along / own
	return next
}

// before is a tilt reduced by a share of itself.
func before(tilt, share float64) float64 {
	if tilt < 0 {
		share = -share
	}
	return tilt * (1 - share)
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
		if hi < before(p.to, 2*turnShare) && hi > p.from+1e-9 {
			p.to = hi
			return true
		}
	}
	return false
}

// ways tells of the last slabs how each lies on the next: two bits each.
func (t *Topple) ways(p *phase, tilt float64) (bits uint64) {
	t.chain(p.first, p.front, tilt, func(i, way int, _, rate float64) {
		if back := p.front - 1 - i; back >= 0 && back < 32 && math.Abs(rate) > 1e-5 {
			bits |= uint64(way) << (2 * back)
		}
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

// tilt is the front slab's tilt at a share of the phase, and its derivative. The share is chosen so that time
// stays smooth in it when the slab starts from rest.
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

// Fallen is how many slabs fall; stops is the first that does not, counted from 1, and why says the reason; 0
// and empty when all fall.
func (t *Topple) Fallen() (count, stops int, why string) {
	p := &t.phases[len(t.phases)-1]
	count = p.front + 1
	if p.to == p.from && t.stopped != "" && count > 1 {
		count--
	}
	return count, t.stopsAt, t.stopped
}

// Tilts fills the tilt of every slab at a time, radians from where it stands; dst is as long as the run.
func (t *Topple) Tilts(dst []float64, seconds float64) {
	for i := range dst {
		dst[i] = 0
	}
	if !(seconds > 0) {
		dst[0] = t.Start()
		seconds = 0
	}
	p := &t.phases[sort.Search(len(t.phases), func(i int) bool { return t.phases[i].began > seconds })-1]
	t.chain(0, p.front, p.at(t, seconds-p.began), func(i, _ int, tilt, _ float64) { dst[i] = tilt - t.slabs[i].Rest })
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
