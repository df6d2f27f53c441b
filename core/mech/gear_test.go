package mech_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"bead/core/mech"
)

// A crossed belt in closed form (MATH 5).
func TestCrossedBelt(t *testing.T) {
	const r, big, c = 0.3, 0.5, 2.0
	b, err := mech.Wrap([]mech.Wheel{{R: r}, {X: c, R: big, Back: true}})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "crossed", b.Length, 2*math.Sqrt(c*c-(big+r)*(big+r))+(big+r)*(math.Pi+2*math.Asin((big+r)/c)), 1e-12)
}

// polyline samples a solved belt densely, independent of the way it was measured.
func polyline(b *mech.Belt) (pts []mech.Point, kink float64) {
	var ends [][2]float64 // heading in and out at each joint
	for k, i := range b.Touching {
		r := &b.Runs[k]
		const n = 400
		if r.A == 0 {
			pts = append(pts, mech.Point{X: r.X0, Y: r.Y0}, mech.Point{X: r.X1, Y: r.Y1})
			h := math.Atan2(r.Y1-r.Y0, r.X1-r.X0)
			if r.Length > 0 {
				ends = append(ends, [2]float64{h, h})
			}
		} else {
			// y = a cosh(x/a) from slope to slope, written anew.
			side := 1.0
			if r.Back {
				side = -1
			}
			for j := range n + 1 {
				u := r.U0 + (r.U1-r.U0)*float64(j)/n
				pts = append(pts, mech.Point{X: r.X0 + side*r.A*(u-r.U0), Y: r.Y0 + r.A*(math.Cosh(u)-math.Cosh(r.U0))})
			}
			ends = append(ends, [2]float64{math.Atan2(math.Sinh(r.U0), side), math.Atan2(math.Sinh(r.U1), side)})
		}
		next := b.Touching[(k+1)%len(b.Touching)]
		w, c := &b.Wheels[next], &b.Contacts[next]
		s := 1.0
		if w.Back {
			s = -1
		}
		for j := range n + 1 {
			h := c.Heading - s*c.Angle*float64(j)/n
			pts = append(pts, mech.Point{X: w.X - s*w.R*math.Sin(h), Y: w.Y + s*w.R*math.Cos(h)})
		}
		ends = append(ends, [2]float64{c.Heading, c.Heading - s*c.Angle})
		_ = i
	}
	for k := range ends {
		kink = max(kink, math.Abs(math.Remainder(ends[(k+1)%len(ends)][0]-ends[k][1], 2*math.Pi)))
	}
	return pts, kink
}

func lengthOf(pts []mech.Point) float64 {
	sum := 0.0
	for k := range pts {
		q := pts[(k+1)%len(pts)]
		sum += math.Hypot(q.X-pts[k].X, q.Y-pts[k].Y)
	}
	return sum
}

// A thousand random wheel sets: the belt is as long as it is to be, measured by a dense
// polyline; it nowhere turns by more than a tenth of a degree at once (MATH 5); all that
// hangs has one parameter.
func TestKeptLength(t *testing.T) {
	rnd := rand.New(rand.NewPCG(5, 1))
	hung := 0
	for n := range 1000 {
		var wheels []mech.Wheel
		count := 3 + rnd.IntN(5)
		for i := range count {
			a := -2 * math.Pi * float64(i) / float64(count)
			wheels = append(wheels, mech.Wheel{X: 2.5*math.Cos(a) + 0.3*rnd.Float64(), Y: math.Sin(a) + 0.2*rnd.Float64(), R: 0.05 + 0.25*rnd.Float64()})
		}
		taut, err := mech.Wrap(wheels)
		if err != nil {
			t.Fatal(err)
		}
		g := mech.Gear{Wheels: wheels, Length: taut.Length * (1 + 0.03*rnd.Float64()), Slack: make([]bool, count)}
		for i := range g.Slack {
			g.Slack[i] = rnd.IntN(2) == 0
		}
		s, err := mech.Solve(&g)
		if err != nil {
			t.Fatalf("set %d: %v", n, err)
		}
		near(t, "spare length", s.Spare, g.Length-taut.Length, 1e-9)
		if !s.Hanging {
			continue
		}
		hung++
		pts, kink := polyline(s.Belt)
		near(t, "length kept", s.Length, g.Length, 1e-10)
		near(t, "length of the polyline", lengthOf(pts), g.Length, 2e-5*g.Length)
		if kink > 0.1*math.Pi/180 {
			t.Errorf("set %d: a kink of %g degrees", n, kink*180/math.Pi)
		}
		a := 0.0
		for _, r := range s.Runs {
			if r.A != 0 && a != 0 && r.A != a {
				t.Errorf("set %d: catenaries of %g and %g", n, r.A, a)
			}
			a = max(a, r.A)
		}
	}
	if hung < 700 {
		t.Errorf("only %d of 1000 hang", hung)
	}
}

// Two equal wheels level with each other: the upper run hangs as the catenary of MATH 6
// between the places where it leaves them. Width and extra length by that formula.
func TestSlackOfTwo(t *testing.T) {
	wheels := []mech.Wheel{{R: 0.2}, {X: 4, R: 0.2}}
	s, err := mech.Solve(&mech.Gear{Wheels: wheels, Length: 8 + 0.4*math.Pi + 0.1, Slack: []bool{true, false}})
	if err != nil || !s.Hanging {
		t.Fatal(err, s)
	}
	r := &s.Runs[0]
	w := r.X1 - r.X0
	near(t, "level", r.Y0, r.Y1, 1e-12)
	near(t, "as long as a catenary of that width", r.Length, 2*r.A*math.Sinh(w/2/r.A), 1e-12)
	near(t, "whole length", r.Length+s.Runs[1].Length+0.2*(s.Contacts[0].Angle+s.Contacts[1].Angle), 8+0.4*math.Pi+0.1, 1e-11)
	// Too short by 50 mm, and a take-up wheel that makes up for 60 mm of slide, of which
	// each metre takes two of belt.
	g := mech.Gear{Wheels: wheels, Length: 8 + 0.4*math.Pi - 0.05}
	if s, err = mech.Solve(&g); err != nil {
		t.Fatal(err)
	}
	near(t, "lacks", s.Spare, -0.05, 1e-12)
	g.TakeUp = &mech.TakeUp{Wheel: 1, X: 1, Least: -0.06, Most: 0.06}
	if s, err = mech.Solve(&g); err != nil {
		t.Fatal(err)
	}
	near(t, "taken up", s.TakenUp, -0.025, 1e-9)
	near(t, "nothing to spare", s.Spare, 0, 1e-9)
	g.TakeUp.Least = -0.01
	if s, err = mech.Solve(&g); err != nil {
		t.Fatal(err)
	}
	near(t, "lacks at the end of the slide", s.Spare, -0.03, 1e-9)
}

// Circles on profiles whose answers are plain: level, a slope, a step's corner, a valley.
func TestGroundRest(t *testing.T) {
	slope := math.Tan(0.2)
	g := mech.Ground{{X: 0, Y: 0}, {X: 5, Y: 5 * slope}, {X: 10, Y: 0}}
	for _, c := range []struct{ x, r, want, at float64 }{
		{-3, 0.4, 0.4, -3},
		{2, 0.4, 2*slope + 0.4/math.Cos(0.2), 2 + 0.4*math.Sin(0.2)},
		{5, 0.4, 5*slope + 0.4, 5},
		{8, 0.4, 2*slope + 0.4/math.Cos(0.2), 8 - 0.4*math.Sin(0.2)},
		{30, 1, 1, 30},
	} {
		y, touch := g.Rest(c.x, c.r)
		near(t, "height of the hub", y, c.want, 1e-12)
		near(t, "place of contact", touch.X, c.at, 1e-12)
	}
	near(t, "way over the hill", 13*g.Stretch(-1, 12, 1), 3+10/math.Cos(0.2), 1e-12)
	near(t, "the way back", 13*g.Stretch(12, -1, 1), 3+10/math.Cos(0.2), 1e-12)
	// Straight across, the same slope is half as steep at 60 degrees to it.
	flat := math.Atan(slope / 2)
	y, touch := g.RestAcross(2, 0.4, 0.5)
	near(t, "height of the hub at an angle", y, 2*slope+0.4/math.Cos(flat), 1e-12)
	near(t, "place of contact at an angle", touch.X, 2+0.4*math.Sin(flat)/2, 1e-12)
	// On an arm of 1 m the hub comes to rest by its limits or by the ground.
	arm := mech.Hanger{Arm: true, PX: -1, Down: 0.2, Up: 0.3}
	_, hub := arm.Settle(mech.Ground{{X: -9, Y: -0.1}, {X: 9, Y: -0.1}}, mech.Point{}, 0.25)
	near(t, "hub", hub.Y, 0.15, 1e-9)
	near(t, "on its arm", math.Hypot(hub.X+1, hub.Y), 1, 1e-12)
	if way, _ := arm.Settle(mech.Ground{{X: -9, Y: -9}, {X: 9, Y: -9}}, mech.Point{}, 0.25); way != -0.2 {
		t.Errorf("off the ground it hangs at %g, want -0.2", way)
	}
}

// A belt over random ground is nowhere below it, and is no longer than what a string
// pulled tight over that ground takes: the upper hull of ground and wheels, by brute force.
func TestBeltOverGround(t *testing.T) {
	rnd := rand.New(rand.NewPCG(7, 1))
	const depth = 0.03
	for n := range 200 {
		var g mech.Ground
		for x := -4.0; x < 4; x += 0.05 + 0.2*rnd.Float64() {
			g = append(g, mech.Point{X: x, Y: 0.12 * rnd.Float64()})
		}
		var wheels []mech.Wheel
		for _, x := range []float64{-1.2, -0.4, 0.4, 1.2} {
			y, _ := g.Rest(x, 0.25+depth)
			wheels = append(wheels, mech.Wheel{X: x, Y: y, R: 0.25})
		}
		wheels = []mech.Wheel{wheels[0], {X: -1.9, Y: 1, R: 0.3}, {X: 1.9, Y: 1, R: 0.3}, wheels[3], wheels[2], wheels[1]}
		s, err := mech.Solve(&mech.Gear{Wheels: wheels, Ground: g, Depth: depth})
		if err != nil {
			t.Fatal(err)
		}
		pts, kink := polyline(s.Belt)
		if kink > 1e-9 {
			t.Errorf("ground %d: a kink of %g", n, kink)
		}
		near(t, "length", lengthOf(pts), s.Length, 1e-4*s.Length)
		for _, p := range g {
			// No point of the ground comes nearer than the belt's depth, from outside.
			least := math.Inf(1)
			for k := range pts {
				a, b := pts[k], pts[(k+1)%len(pts)]
				l2 := (b.X-a.X)*(b.X-a.X) + (b.Y-a.Y)*(b.Y-a.Y)
				u := 0.0
				if l2 > 0 {
					u = min(max(((p.X-a.X)*(b.X-a.X)+(p.Y-a.Y)*(b.Y-a.Y))/l2, 0), 1)
				}
				least = min(least, math.Hypot(p.X-a.X-u*(b.X-a.X), p.Y-a.Y-u*(b.Y-a.Y)))
			}
			if least < depth-2e-5 {
				t.Fatalf("ground %d: the belt comes within %g of a point, %g is its depth", n, least, depth)
			}
		}
	}
}

// A roller a little below the taut run: slack comes down on it, and what hangs on either
// side is as long as is kept; a roller far below stays free.
func TestSlackComesDown(t *testing.T) {
	for _, tc := range []struct {
		y       float64
		touches bool
	}{{0.39, true}, {0.1, false}} {
		g := mech.Gear{Wheels: []mech.Wheel{{X: -2, R: 0.5}, {X: 0.2, Y: tc.y, R: 0.1}, {X: 2, R: 0.5}}, Length: 8 + math.Pi + 0.05, Slack: []bool{true, true, false}}
		s, err := mech.Solve(&g)
		if err != nil || !s.Hanging {
			t.Fatal(err, s)
		}
		if c := s.Contacts[1]; c.Touches != tc.touches || c.Angle < 0 {
			t.Errorf("roller at %g: %+v", tc.y, c)
		}
		pts, kink := polyline(s.Belt)
		near(t, "length kept", lengthOf(pts), g.Length, 1e-4)
		if kink > 1e-6 {
			t.Errorf("a kink of %g", kink)
		}
		for _, p := range pts {
			if d := math.Hypot(p.X-0.2, p.Y-tc.y); d < 0.1-1e-6 {
				t.Fatalf("roller at %g: the belt passes %g from its hub", tc.y, d)
			}
		}
	}
}

// MATH 6's cables (computed there with 25 digits from the formula), the ends of the curve
// that comes of them, and what is not accepted.
func TestHangingCables(t *testing.T) {
	for _, tc := range []struct{ span, rise, length, a, sag float64 }{
		{10, 0, 11, 6.549639476, 2.003007907}, {8, 3, 10, 3.825677018, math.NaN()}, {5, -2, 5.5, math.NaN(), math.NaN()},
		{1, 0, 400, math.NaN(), math.NaN()}, {10, 0, 10.0000001, math.NaN(), math.NaN()},
	} {
		c, err := mech.Hang(tc.span, tc.rise, tc.length)
		if err != nil {
			t.Fatal(err)
		}
		if !math.IsNaN(tc.a) {
			near(t, "parameter", c.A, tc.a, 1e-9)
		}
		if !math.IsNaN(tc.sag) {
			near(t, "sag", c.A*(math.Cosh(c.U0)-1), tc.sag, 1e-9) // level ends: lowest in the middle
		}
		near(t, "span", c.A*(c.U1-c.U0), tc.span, 1e-9*tc.length)
		near(t, "rise", c.A*2*math.Sinh((c.U1+c.U0)/2)*math.Sinh((c.U1-c.U0)/2), tc.rise, 1e-9*tc.length)
		near(t, "length", c.A*(math.Sinh(c.U1)-math.Sinh(c.U0)), tc.length, 1e-9*tc.length)
	}
	for _, bad := range [][3]float64{{10, 0, 10}, {3, 4, 4.9}, {0, 1, 5}, {1, 0, math.NaN()}} {
		if _, err := mech.Hang(bad[0], bad[1], bad[2]); err == nil {
			t.Errorf("%v is accepted", bad)
		}
	}
}

// The smooth profile goes through its points, is the parabola where they lie on one, keeps the
// corners of a ramp, and its slope is its height's.
func TestSmoothProfile(t *testing.T) {
	var bowl mech.Ground
	for i := range 81 {
		x := -1 + float64(i)/40
		if i%3 == 1 { // not evenly
			x += 0.01
		}
		bowl = append(bowl, mech.Point{x, x * x})
	}
	for i := range 200 {
		x := -0.9 + 1.8*float64(i)/199
		if y, m := bowl.Smooth(x); math.Abs(y-x*x) > 1e-14 || math.Abs(m-2*x) > 1e-12 {
			t.Fatalf("at %g: %g, slope %g", x, y, m)
		}
	}
	for _, p := range bowl {
		if y, _ := bowl.Smooth(p.X); math.Abs(y-p.Y) > 1e-14 {
			t.Errorf("at the point %g it is %g high", p.X, y)
		}
	}
	ramp := mech.Ground{{X: 0, Y: 0}, {1, 1}, {2, 1}}
	for _, x := range []float64{-1, 0, 0.25, 0.999, 1, 1.5, 3} {
		want, slope := ramp.Height(x)
		if y, m := ramp.Smooth(x); math.Abs(y-want) > 1e-15 || math.Abs(m-slope) > 1e-12 {
			t.Errorf("ramp at %g: %g, slope %g; want %g, %g", x, y, m, want, slope)
		}
	}
	gentle := mech.Ground{{0, 0}, {1, 0.02}, {2.5, 0.03}, {3, 0.06}}
	for i := range 100 {
		x := -0.2 + 3.4*(float64(i)+0.5)/100
		const h = 1e-6
		a, _ := gentle.Smooth(x - h)
		b, _ := gentle.Smooth(x + h)
		if _, m := gentle.Smooth(x); math.Abs((b-a)/(2*h)-m) > 1e-7 {
			t.Errorf("at %g the slope is %g, by differences %g", x, m, (b-a)/(2*h))
		}
	}
}
