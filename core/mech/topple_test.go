package mech_test

import (
	"errors"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/mech"
)

const gravity = 9.80665

// row is n slabs on a straight, p apart.
func row(n int, h, d, p float64) []mech.Slab {
	out := make([]mech.Slab, n)
	for i := range out {
		out[i] = mech.Slab{Height: h, Depth: d, Width: 0.5, Mass: 1, Hinge: geom.V(0, 0, float64(i)*p), Ahead: geom.V(0, 0, 1)}
	}
	return out
}

const degrees = math.Pi / 180

func going() bool { return false }

// One slab alone from rest, 12° tilted (values by quadrature of the energy's integral to 25 digits,
// outside this code): down flat, and to a tilt of 30°.
func TestOneSlab(t *testing.T) {
	for _, c := range []struct{ h, d, gap, want float64 }{{1.2, 0.2, 0, 1.20590}, {0.048, 0.0075, 0, 0.229578}, {1.2, 0.2, 0.6, 0.80043}} {
		n := 1
		if c.gap > 0 {
			n = 2
		}
		run, err := mech.NewTopple(going, row(n, c.h, c.d, c.d+c.gap), mech.Push{Tilt: 12 * degrees}, gravity)
		if err != nil {
			t.Fatal(err)
		}
		got := run.End()
		if n == 2 {
			got = run.Touches()[0]
		}
		if math.Abs(got-c.want) > 6e-6 {
			t.Errorf("%+v: %.6f s, want %g", c, got, c.want)
		}
	}
}

// A run without friction (the same source): when the first slabs are touched, the speed at which the
// front settles, and the tilt towards which those behind it tend, arccos(d/p).
func TestRunOfSlabs(t *testing.T) {
	run, err := mech.NewTopple(going, row(200, 1.2, 0.2, 0.8), mech.Push{Tilt: 12 * degrees}, gravity)
	if err != nil {
		t.Fatal(err)
	}
	touches := run.Touches()
	for i, want := range []float64{0.800429, 1.230401, 1.477125, 1.667056, 1.832605} {
		if math.Abs(touches[i]-want) > 1e-6 {
			t.Errorf("touch %d at %.6f s, want %g", i+1, touches[i], want)
		}
	}
	for _, c := range []struct{ h, d, p, want float64 }{{1.2, 0.2, 0.8, 1.687665}, {0.048, 0.0075, 0.024, 1.799045}} {
		run, err := mech.NewTopple(going, row(200, c.h, c.d, c.p), mech.Push{Tilt: 12 * degrees}, gravity)
		if err != nil {
			t.Fatal(err)
		}
		touches := run.Touches()
		speed := c.p / (touches[180] - touches[179]) / math.Sqrt(gravity*c.h)
		if math.Abs(speed-c.want) > 2e-6 {
			t.Errorf("%+v: the front settles at %.6f, want %g", c, speed, c.want)
		}
	}
	tilts := make([]float64, 200)
	run.Tilts(tilts, touches[150])
	if math.Abs(tilts[60]/degrees-75.5225) > 1e-4 {
		t.Errorf("far behind the front the tilt is %g°", tilts[60]/degrees)
	}
	if count, _, why := run.Fallen(); count != 200 || why != "" {
		t.Errorf("%d fall, %q", count, why)
	}
}

// Tilts follow one another in order and never go back, but for the hair by which a slab that lies on
// the next one's rising edge is lifted round a bend; energy never grows.
func TestToppleNeverGains(t *testing.T) {
	slabs := row(40, 1.2, 0.2, 0.7)
	for i := range slabs {
		a := 0.12 * float64(i) // round a bend
		r := 0.7 / 0.12
		slabs[i].Hinge, slabs[i].Ahead = geom.V(r*(1-math.Cos(a)), 0, r*math.Sin(a)), geom.V(math.Sin(a), 0, math.Cos(a))
		slabs[i].Height *= 1 + 0.03*math.Sin(float64(i))
		slabs[i].Mass *= slabs[i].Height
	}
	run, err := mech.NewTopple(going, slabs, mech.Push{Tilt: 15 * degrees}, gravity)
	if err != nil {
		t.Fatal(err)
	}
	if count, _, why := run.Fallen(); count != 40 {
		t.Fatalf("%d fall: %s", count, why)
	}
	const dt = 1e-3
	energy := func(at float64) float64 {
		a, b := make([]float64, 40), make([]float64, 40)
		run.Tilts(a, at-dt/2)
		run.Tilts(b, at+dt/2)
		sum := 0.0
		for i, s := range slabs {
			w := (b[i] - a[i]) / dt
			r := math.Hypot(s.Height, s.Depth) / 2
			sum += s.Mass * (2*r*r/3*w*w + gravity*r*math.Cos((a[i]+b[i])/2-math.Atan2(s.Depth, s.Height)))
		}
		return sum
	}
	before, last := make([]float64, 40), math.Inf(1)
	for at := dt; at < run.End(); at += 5 * dt {
		now := make([]float64, 40)
		run.Tilts(now, at)
		for i := range now {
			if now[i] < before[i]-1e-5 || i > 0 && now[i] > now[i-1]+0.3 {
				t.Fatalf("at %g s slab %d tilts from %g to %g, the one behind %g", at, i, before[i], now[i], now[max(i-1, 0)])
			}
		}
		before = now
		near := false
		for _, touch := range run.Touches() {
			near = near || math.Abs(touch-at) < 2*dt
		}
		if near {
			continue
		}
		e := energy(at)
		if e > last*(1+2e-4) {
			t.Fatalf("at %g s the energy grows from %g to %g", at, last, e)
		}
		last = e
	}
}

// What does not fall is named, with the reason.
func TestToppleStops(t *testing.T) {
	far, aside, low, wide := row(5, 1.2, 0.2, 0.8), row(5, 1.2, 0.2, 0.8), row(5, 1.2, 0.2, 0.8), row(5, 1.2, 0.2, 0.8)
	wide[3].Hinge.Z -= 0.55 // 5 cm off, turned: a corner of the one before stands in its back
	wide[3].Width, wide[3].Ahead = 50, geom.V(math.Sin(0.3), 0, math.Cos(0.3))
	for i := 3; i < 5; i++ {
		far[i].Hinge.Z += 2
		aside[i].Hinge.X += 0.6
	}
	low[3].Height = 0.3
	for _, c := range []struct {
		slabs []mech.Slab
		want  string
	}{{far, "stands out of reach"}, {aside, "stands beside"}, {low, "is lower"}, {wide, "stands into"}} {
		run, err := mech.NewTopple(going, c.slabs, mech.Push{Tilt: 12 * degrees}, gravity)
		if err != nil {
			t.Fatal(err)
		}
		if count, stops, why := run.Fallen(); count != 3 || stops != 4 || !strings.HasPrefix(why, c.want) {
			t.Errorf("%d fall, %q, want %q", count, why, c.want)
		}
		tilts := make([]float64, 5)
		run.Tilts(tilts, 1e3)
		if tilts[3] != 0 || math.Abs(tilts[2]-math.Pi/2) > 1e-12 {
			t.Errorf("in the end %v", tilts)
		}
	}
	if _, err := mech.NewTopple(going, row(3, 1.2, 0.2, 0.3), mech.Push{}, gravity); err == nil || !strings.Contains(err.Error(), "pieces farther apart") {
		t.Errorf("too near: %v", err)
	}
	if near, err := mech.NewTopple(going, row(3, 1.2, 0.2, 0.41), mech.Push{}, gravity); err != nil || !(near.Start() > 9.462*degrees && near.Start() < math.Asin(0.21/1.2)) {
		t.Errorf("near: %v", err)
	}
	for _, tilt := range []float64{-1, 5 * degrees, 31 * degrees, math.Pi, math.NaN()} {
		if _, err := mech.NewTopple(going, row(3, 1.2, 0.2, 0.8), mech.Push{Tilt: tilt}, gravity); err == nil || !strings.Contains(err.Error(), "more than 9.462°") {
			t.Errorf("a tilt of %g: %v", tilt, err)
		}
	}
	thick := row(30, 1, 0.9, 1.6) // each touch takes more than the fall gives
	if run, err := mech.NewTopple(going, thick, mech.Push{Tilt: 43 * degrees}, gravity); err != nil {
		t.Error(err)
	} else if count, _, why := run.Fallen(); count == 30 || !strings.Contains(why, "not pushed hard enough") {
		t.Errorf("%d fall, %q", count, why)
	} else if end := run.End(); !(end > 0) || math.IsInf(end, 0) {
		t.Errorf("it ends after %g s", end)
	}
}

// On a straight no slab goes back, and none lies in another: the corner of each stays behind the
// back of the next, and the hind edge of the next before its front.
func TestSlabsLieOnOneAnother(t *testing.T) {
	const n, h, d, p = 12, 1.2, 0.16, 0.6
	run, err := mech.NewTopple(going, row(n, h, d, p), mech.Push{Tilt: 12 * degrees}, gravity)
	if err != nil {
		t.Fatal(err)
	}
	before, now := make([]float64, n), make([]float64, n)
	for at := 0.0; at < run.End()+0.1; at += 0.004 {
		run.Tilts(now, at)
		for i := range n - 1 {
			a, b := now[i], now[i+1]
			if a < before[i]-1e-12 {
				t.Fatalf("at %g s slab %d goes back from %g to %g", at, i, before[i], a)
			}
			if corner := (-p+h*math.Sin(a))*math.Cos(b) - h*math.Cos(a)*math.Sin(b); corner > -d+1e-12 {
				t.Fatalf("at %g s the corner of slab %d is %g into the next", at, i, corner+d)
			}
			if edge := (p-d*math.Cos(b))*math.Cos(a) - d*math.Sin(b)*math.Sin(a); edge < -1e-12 {
				t.Fatalf("at %g s the edge of slab %d is %g into the one behind", at, i+1, -edge)
			}
		}
		copy(before, now)
	}
	if flat := now[n-1]; math.Abs(flat-math.Pi/2) > 1e-12 || math.Abs(math.Tan(now[n-2])-p/d) > 1e-9 {
		t.Errorf("in the end %v", now)
	}
}

// apart is how far two boxes are from one another along the best of the fifteen axes on which boxes
// can be told apart (separating axes of convex bodies: common practice); below 0 they lie in one another.
func apart(a, b [8]geom.Vec, axes []geom.Vec) float64 {
	best := math.Inf(-1)
	for _, n := range axes {
		if n.Norm() < 1e-9 {
			continue
		}
		n = n.Unit()
		span := func(p [8]geom.Vec) (lo, hi float64) {
			lo, hi = math.Inf(1), math.Inf(-1)
			for _, v := range p {
				lo, hi = min(lo, v.Dot(n)), max(hi, v.Dot(n))
			}
			return lo, hi
		}
		alo, ahi := span(a)
		blo, bhi := span(b)
		best = max(best, blo-ahi, alo-bhi)
	}
	return best
}

// box is a tilted slab: its corners and its three directions.
func box(s mech.Slab, tilt float64) (corners [8]geom.Vec, ways [3]geom.Vec) {
	up, side := geom.V(0, 1, 0), geom.V(0, 1, 0).Cross(s.Ahead)
	ways = [3]geom.Vec{side, up.Mul(math.Cos(tilt)).Add(s.Ahead.Mul(math.Sin(tilt))), s.Ahead.Mul(math.Cos(tilt)).Sub(up.Mul(math.Sin(tilt)))}
	for k := range corners {
		x, y, z := -s.Width/2, 0.0, 0.0
		if k&1 != 0 {
			x = s.Width / 2
		}
		if k&2 != 0 {
			y = s.Height
		}
		if k&4 != 0 {
			z = -s.Depth
		}
		corners[k] = s.Hinge.Mad(ways[0], x).Mad(ways[1], y).Mad(ways[2], z)
	}
	return corners, ways
}

// A run that nobody waits for is given up.
func TestToppleIsGivenUp(t *testing.T) {
	left := 3
	_, err := mech.NewTopple(func() bool { left--; return left < 0 }, row(50, 1.2, 0.2, 0.8), mech.Push{}, gravity)
	if !errors.Is(err, mech.ErrStopped) || left != -1 {
		t.Errorf("%v, asked %d times more", err, left)
	}
}

// Round bends of either hand, up and down slopes and over a hump, each slab behind the front touches the next as a box in space: by
// brute force, at many times of the run.
func TestSlabsTouchAsBoxes(t *testing.T) {
	for _, x := range []struct{ bend, climb float64 }{{0, 0}, {0.05, 0}, {0.12, 0}, {-0.2, 0}, {0, 0.08}, {0, -0.1}, {0, 0.05}, {0.1, 0.06}, {-0.1, -0.08}, {0, math.NaN()}} {
		bend := x.bend
		slabs := row(14, 1.2, 0.16, 0.6)
		height := 0.0
		for i := range slabs {
			climb := x.climb
			if math.IsNaN(climb) { // over a hump
				climb = 0.08 * math.Cos(float64(i)/4)
			}
			if i > 0 {
				height += 0.6 * math.Tan(climb)
			}
			slabs[i].Rest, slabs[i].Hinge.Y = -climb, height
			if a := bend * float64(i); bend != 0 {
				r := 0.6 / bend
				slabs[i].Hinge, slabs[i].Ahead = geom.V(r*(1-math.Cos(a)), height, r*math.Sin(a)), geom.V(math.Sin(a), 0, math.Cos(a))
			}
		}
		run, err := mech.NewTopple(going, slabs, mech.Push{}, gravity)
		if err != nil {
			t.Fatal(err)
		}
		if count, _, why := run.Fallen(); count != len(slabs) {
			t.Fatalf("bend %g, climb %g: %d fall, %s", bend, x.climb, count, why)
		}
		touches, tilts := run.Touches(), make([]float64, len(slabs))
		low, high := 0.0, 0.0
		for at := 0.0; at < run.End(); at += 0.01 {
			run.Tilts(tilts, at)
			for i := range len(slabs) - 1 {
				p, u := box(slabs[i], slabs[i].Rest+tilts[i])
				q, v := box(slabs[i+1], slabs[i+1].Rest+tilts[i+1])
				axes := append(append([]geom.Vec{}, u[:]...), v[:]...)
				for _, a := range u {
					for _, b := range v {
						axes = append(axes, a.Cross(b))
					}
				}
				gap := apart(p, q, axes)
				low = min(low, gap)
				if at > touches[i] {
					high = max(high, gap)
				}
			}
		}
		t.Logf("bend %g, climb %g: from %g to %g m", bend, x.climb, low, high)
		if low < -1e-9 || high > 1e-9 {
			t.Errorf("bend %g, climb %g: slabs lie %g m in one another and %g m off one another", bend, x.climb, -low, high)
		}
		if run.Tilts(tilts, run.End()+1); math.Abs(tilts[13]-math.Pi/2) > 1e-12 {
			t.Errorf("bend %g, climb %g: the last one lies at %g from where it stood", bend, x.climb, tilts[13])
		}
	}
}

// A plumb slab that is pushed by a speed falls as its energy says, w^2 = w0^2 + 2 m g R (cos b -
// cos(a - b)) / I (MATH's formula of one block), here summed by Simpson's rule; at the least speed it
// does not get over its balance.
func TestPushedByASpeed(t *testing.T) {
	const h, d, w0 = 1.2, 0.2, 1.5
	run, err := mech.NewTopple(going, row(1, h, d, 1), mech.Push{Speed: w0}, gravity)
	if err != nil {
		t.Fatal(err)
	}
	r, b, inertia := math.Hypot(h, d)/2, math.Atan2(d, h), (h*h+d*d)/3
	time := func(until float64) float64 {
		const n = 20000
		slowness := func(a float64) float64 {
			return 1 / math.Sqrt(w0*w0+2*gravity*r*(math.Cos(b)-math.Cos(a-b))/inertia)
		}
		sum := slowness(0) + slowness(until)
		for i := 1; i < n; i++ {
			sum += float64(2+2*(i%2)) * slowness(until*float64(i)/n)
		}
		return sum * until / n / 3
	}
	if want := time(math.Pi / 2); math.Abs(run.End()-want) > 1e-5 || run.Start() != 0 {
		t.Errorf("flat after %.7f s, want %.7f", run.End(), want)
	}
	tilts := make([]float64, 1)
	if run.Tilts(tilts, time(0.5)); math.Abs(tilts[0]-0.5) > 1e-5 {
		t.Errorf("tilted by %g, want 0.5", tilts[0])
	}
	least := math.Sqrt(2 * gravity * (r - h/2) / inertia)
	slab := row(1, h, d, 1)[0]
	if got := slab.LeastSpeed(gravity); math.Abs(got-least) > 1e-12 {
		t.Errorf("least speed %g, want %g", got, least)
	}
	if _, err := mech.NewTopple(going, row(3, h, d, 0.8), mech.Push{Speed: least * 0.999}, gravity); err == nil || !strings.Contains(err.Error(), "before it balances") {
		t.Errorf("too slow: %v", err)
	}
}

// On a slope a slab falls as its energy says, from where it stands to where it lies on the slope: the same
// integral as on the level between other bounds, by Simpson's rule. Down a slope it balances sooner, up one
// later, by the slope itself; on one as steep as its balance it does not stand.
func TestASlabOnASlope(t *testing.T) {
	const h, d, w0 = 1.2, 0.2, 1.5
	r, b, inertia := math.Hypot(h, d)/2, math.Atan2(d, h), (h*h+d*d)/3
	for _, rest := range []float64{-0.3, -0.05, 0.04, 0.12} {
		slab := row(1, h, d, 1)
		slab[0].Rest = rest
		least := math.Sqrt(2 * gravity * r * (1 - math.Cos(rest-b)) / inertia)
		if got := slab[0].LeastSpeed(gravity); math.Abs(got-least) > 1e-12 {
			t.Errorf("leaning by %g: least speed %g, want %g", rest, got, least)
		}
		run, err := mech.NewTopple(going, slab, mech.Push{Speed: least + w0}, gravity)
		if err != nil {
			t.Fatal(err)
		}
		slowness := func(a float64) float64 {
			return 1 / math.Sqrt((least+w0)*(least+w0)+2*gravity*r*(math.Cos(rest-b)-math.Cos(a-b))/inertia)
		}
		const n = 20000
		sum := slowness(rest) + slowness(rest+math.Pi/2)
		for i := 1; i < n; i++ {
			sum += float64(2+2*(i%2)) * slowness(rest+math.Pi/2*float64(i)/n)
		}
		if want := sum * math.Pi / 2 / n / 3; math.Abs(run.End()-want) > 1e-5 || run.Start() != 0 {
			t.Errorf("leaning by %g: flat after %.7f s, want %.7f", rest, run.End(), want)
		}
		// Let go from a tilt: a hair short of its balance it is refused, a hair beyond it falls.
		if _, err := mech.NewTopple(going, slab, mech.Push{Tilt: b - rest - 1e-6}, gravity); err == nil {
			t.Errorf("leaning by %g: it falls before it balances", rest)
		}
		if _, err := mech.NewTopple(going, slab, mech.Push{Tilt: b - rest + 1e-6}, gravity); err != nil {
			t.Errorf("leaning by %g: %v", rest, err)
		}
	}
	steep := row(2, h, d, 0.8)
	steep[1].Rest = b + 1e-9
	if _, err := mech.NewTopple(going, steep, mech.Push{}, gravity); err == nil || !strings.Contains(err.Error(), "piece 2 stands on a slope") {
		t.Errorf("too steep: %v", err)
	}
}

// Slabs that stand turned by hardly more than rounding lie on one another in ways that are hardly apart: such a run
// ends, and at the time of a straight one.
func TestHardlyTurned(t *testing.T) {
	straight, err := mech.NewTopple(going, row(26, 1.2, 0.16, 0.5), mech.Push{}, gravity)
	if err != nil {
		t.Fatal(err)
	}
	chance := rand.New(rand.NewPCG(3, 1))
	for k := 17.0; k >= 4; k-- {
		slabs := row(26, 1.2, 0.16, 0.5)
		for i := range slabs {
			a := (chance.Float64() - 0.5) * math.Pow(10, -k)
			slabs[i].Ahead = geom.V(math.Sin(a), 0, math.Cos(a))
			slabs[i].Hinge.X += (chance.Float64() - 0.5) * math.Pow(10, -k)
		}
		asked := 0
		run, err := mech.NewTopple(func() bool { asked++; return asked > 2000 }, slabs, mech.Push{}, gravity)
		if err != nil {
			t.Fatalf("turned by 1e-%g: %v after %d phases", k, err, asked)
		}
		if off := math.Abs(run.End() - straight.End()); off > 20*math.Pow(10, -k)+1e-9 {
			t.Errorf("turned by 1e-%g: %g s off", k, off)
		}
	}
}
