package sim

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"bead/core/geom"
)

const g = 9.80665 // standard gravity (ISO 80000-3)

// grid is a flat sheet in x and z at a height, nx by nz squares.
func grid(long, wide float64, nx, nz int) ([]geom.Vec, [][3]int32) {
	var points []geom.Vec
	var triangles [][3]int32
	for i := range nx + 1 {
		for k := range nz + 1 {
			points = append(points, geom.V(long*float64(i)/float64(nx), 0, wide*float64(k)/float64(nz)))
			if i < nx && k < nz {
				a := int32(i*(nz+1) + k)
				b, d := a+int32(nz)+1, a+1
				if (i+k)%2 == 0 {
					triangles = append(triangles, [3]int32{a, b, b + 1}, [3]int32{a, b + 1, d})
				} else {
					triangles = append(triangles, [3]int32{a, b, d}, [3]int32{b, b + 1, d})
				}
			}
		}
	}
	return points, triangles
}

// settle steps until the cloth has come to rest, at most some seconds.
func settle(t *testing.T, c *Cloth, dt, most float64, s *Surroundings) {
	t.Helper()
	for range int(most / dt) {
		c.Step(dt, s)
	}
	for i, v := range c.V {
		if v.Norm() > 1e-3 {
			t.Fatalf("point %d still goes at %g m/s", i, v.Norm())
		}
	}
}

// A strip past an edge hangs as the heavy elastica does: the angle of its chord for an overhang of
// 1, 1.5, 2 and 3 bending lengths c = (B/w)^(1/3) is 7.1003, 22.1756, 41.487 and 66.959 degrees
// (MATH 10b, computed from the elastica's equation; at 2 Peirce's 41.5 of ASTM D1388), within 1 %.
func TestStripPastAnEdge(t *testing.T) {
	for _, c := range []struct{ share, want float64 }{{1, 7.1003}, {1.5, 22.1756}, {2, 41.487}, {3, 66.959}} {
		const length, n = 0.3, 8
		weight := 0.25
		bending := length / c.share
		f := Fabric{Weight: weight, Stretch: 4000, Shear: 500, Bend: weight * g * bending * bending * bending}
		// Two rows are held, so that it leaves the edge level; the edge is half way between them.
		step := length / (n - 0.5)
		points, triangles := grid(n*step, 2*step, n, 2)
		cloth := NewCloth(points, triangles, f)
		for i := range 6 {
			cloth.Hold(i)
		}
		settle(t, cloth, 1./24000, 3, &Surroundings{Gravity: geom.V(0, -g, 0), Damping: 6})
		tip := cloth.X[len(points)-2].Sub(geom.V(step/2, 0, step))
		if got := math.Atan2(-tip.Y, tip.X) * 180 / math.Pi; math.Abs(got-c.want) > 0.01*c.want {
			t.Errorf("overhang %g bending lengths: the chord hangs by %.3f degrees, not %.3f", c.share, got, c.want)
		}
	}
}

// So does a strip of regular triangles, which has no rows, within 6 %: its bending is of edges.
func TestStripOfTriangles(t *testing.T) {
	const length, n, weight = 0.3, 10, 0.25
	bending := length / 2
	high := length / (n - 0.5)
	side := 2 * high / math.Sqrt(3)
	var points []geom.Vec
	var triangles [][3]int32
	for i := range n + 1 {
		for k := range 5 {
			points = append(points, geom.V(float64(i)*high, 0, (float64(k)+float64(i%2)/2)*side))
			if a := int32(5*i + k); i < n && k < 4 {
				b := a + 5
				if i%2 == 0 {
					triangles = append(triangles, [3]int32{a, b, a + 1}, [3]int32{a + 1, b, b + 1})
				} else {
					triangles = append(triangles, [3]int32{a, b, b + 1}, [3]int32{a, b + 1, a + 1})
				}
			}
		}
	}
	c := NewCloth(points, triangles, Fabric{Weight: weight, Stretch: 4000, Bend: weight * g * bending * bending * bending})
	for i := range 10 {
		c.Hold(i)
	}
	settle(t, c, 1./12000, 3, &Surroundings{Gravity: geom.V(0, -g, 0), Damping: 6})
	tip := c.X[len(points)-3]
	if got := math.Atan2(-tip.Y, tip.X-high/2) * 180 / math.Pi; math.Abs(got-41.487) > 0.06*41.487 {
		t.Errorf("the chord hangs by %.3f degrees, not 41.487", got)
	}
}

// Its own weight lengthens a hanging strip by w g L^2 / (2 k): 11.768 mm for w 0.3, k 500, L 2 (MATH
// 10b).
func TestOwnWeight(t *testing.T) {
	points, triangles := grid(2, 0.2, 20, 2)
	for i := range points {
		points[i] = geom.V(points[i].Z, -points[i].X, 0)
	}
	c := NewCloth(points, triangles, Fabric{Weight: 0.3, Stretch: 500, Shear: 100, Bend: 1e-4})
	for i := range 3 {
		c.Hold(i)
	}
	settle(t, c, 1./8000, 3, &Surroundings{Gravity: geom.V(0, -g, 0), Damping: 4})
	if got := -c.X[len(points)-2].Y - 2; math.Abs(got-0.011768) > 0.02*0.011768 {
		t.Errorf("longer by %.3f mm, not 11.768", got*1000)
	}
}

// A row without bending hangs as a catenary: 1.2 m between ends 1 m apart sags by what a sinh(1/2a)
// = 0.6 gives (section 6), within half a per cent.
func TestHangsAsACatenary(t *testing.T) {
	points, triangles := grid(1.2, 0.06, 40, 2)
	c := NewCloth(points, triangles, Fabric{Weight: 0.3, Stretch: 40000, Shear: 50})
	for i := range 3 {
		c.Hold(i)
		c.Hold(len(points) - 1 - i)
	}
	clock := 0.0
	const dt = 1. / 6000
	s := &Surroundings{Gravity: geom.V(0, -g, 0), Damping: 3, Pins: func(x []geom.Vec) {
		clock += dt
		for i := range 3 {
			x[len(x)-1-i].X = 1.2 - 0.2*min(clock, 1)
		}
	}}
	settle(t, c, dt, 5, s)
	a := 0.5
	for range 100 { // by Newton's rule
		f := 2*a*math.Sinh(0.5/a) - 1.2
		h := 1e-7
		a -= f * h / (2*(a+h)*math.Sinh(0.5/(a+h)) - 1.2 - f)
	}
	want := a * (math.Cosh(0.5/a) - 1)
	if got := -c.X[len(points)/2].Y; math.Abs(got-want) > 0.005*want {
		t.Errorf("sags by %.4f m, a catenary by %.4f", got, want)
	}
}

// A flap on a hinge swings as a point does on a rod: 2 pi sqrt(l/g) for small swings, within 1 %;
// and it gains no energy.
func TestPendulum(t *testing.T) {
	const l, dt = 0.5, 1. / 2000
	points := []geom.Vec{{Z: -0.1}, {Z: 0.1}, {Y: -l}}
	c := NewCloth(points, [][3]int32{{0, 1, 2}}, Fabric{Weight: 0.3, Stretch: 1e5, Shear: 1})
	c.Hold(0)
	c.Hold(1)
	sin, cos := math.Sincos(0.05)
	c.X[2] = geom.V(l*sin, -l*cos, 0)
	s := &Surroundings{Gravity: geom.V(0, -g, 0)}
	began := c.Energy(g)
	var crossed []float64
	for k := range 20000 {
		was := c.X[2].X
		c.Step(dt, s)
		if now := c.X[2].X; was > 0 && now <= 0 {
			crossed = append(crossed, (float64(k)+was/(was-now))*dt)
		}
	}
	if c.Energy(g) > began+1e-6*math.Abs(began) {
		t.Errorf("its energy has grown from %g to %g J", began, c.Energy(g))
	}
	n := len(crossed) - 1
	if n < 3 {
		t.Fatalf("%d swings", n)
	}
	want := 2 * math.Pi * math.Sqrt(l/g)
	if got := (crossed[n] - crossed[0]) / float64(n); math.Abs(got-want) > 0.01*want {
		t.Errorf("a swing takes %.4f s, not %.4f", got, want)
	}
}

// The same scene turned about the plumb gives the turned result; the same steps give the same bits;
// at rest nothing creeps.
func TestClothTurned(t *testing.T) {
	run := func(turn func(geom.Vec) geom.Vec) *Cloth {
		points, triangles := grid(0.6, 0.4, 12, 8)
		for i := range points {
			points[i] = turn(points[i])
		}
		c := NewCloth(points, triangles, Fabric{Weight: 0.3, Stretch: 800, Shear: 80, Bend: 1e-4})
		c.Hold(0)
		c.Hold(8)
		wind := turn(geom.V(1, 0.2, 0.5))
		s := &Surroundings{Gravity: geom.V(0, -g, 0), Damping: 2, Density: 1.2, Flow: func(geom.Vec) geom.Vec { return wind }}
		for range 600 {
			c.Step(1./1000, s)
		}
		return c
	}
	plain := run(func(p geom.Vec) geom.Vec { return p })
	again := run(func(p geom.Vec) geom.Vec { return p })
	sin, cos := math.Sincos(0.7)
	turn := func(p geom.Vec) geom.Vec { return geom.V(cos*p.X+sin*p.Z, p.Y, cos*p.Z-sin*p.X) }
	turned := run(turn)
	for i := range plain.X {
		if plain.X[i] != again.X[i] {
			t.Fatalf("point %d: %v and then %v", i, plain.X[i], again.X[i])
		}
		if d := turn(plain.X[i]).Sub(turned.X[i]).Norm(); d > 1e-6 {
			t.Fatalf("point %d is %g m off when all is turned", i, d)
		}
	}
}

// Dropped flat on a floor with friction it lies still on it; two layers of one cloth stay apart.
func TestClothTouches(t *testing.T) {
	points, triangles := grid(0.5, 0.5, 10, 10)
	f := Fabric{Weight: 0.3, Stretch: 800, Shear: 80, Bend: 1e-4}
	c := NewCloth(points, triangles, f)
	s := &Surroundings{Gravity: geom.V(0, -g, 0), Damping: 1, Friction: 0.5, Push: func(p geom.Vec) (float64, geom.Vec) {
		return -0.2 - p.Y, geom.V(0, 1, 0)
	}}
	settle(t, c, 1./1000, 2, s)
	for i, p := range c.X {
		if p.Y < -0.2-1e-6 || p.Y > -0.2+1e-4 {
			t.Fatalf("point %d lies at %g", i, p.Y)
		}
	}
	// Folded over itself, the upper half pressed down.
	c = NewCloth(points, triangles, f)
	for i, p := range points {
		if p.X > 0.25 {
			c.X[i] = geom.V(0.5-p.X, 0.06, p.Z)
		}
	}
	const apart = 0.03
	s.Push = func(p geom.Vec) (float64, geom.Vec) { return -p.Y, geom.V(0, 1, 0) }
	for range 48 {
		c.LookAround(apart, 0.02, points)
		for range 40 {
			c.Step(1./1000, s)
		}
	}
	least := math.Inf(1)
	for i := range c.X {
		for k := range i {
			if points[i].Sub(points[k]).Norm() > 1.5*apart {
				least = min(least, c.X[i].Sub(c.X[k]).Norm())
			}
		}
	}
	if least < 0.8*apart {
		t.Errorf("two layers come within %g m", least)
	}
}

// A sheet that falls flat comes to the speed at which the air's pressure carries it: half rho v^2 = w g,
// v 2.2107 m/s for 0.3 kg/m^2 in air of 1.204 kg/m^3, by steps of a quarter of a thousandth.
func TestFallsThroughAir(t *testing.T) {
	points, triangles := grid(0.4, 0.4, 4, 4)
	c := NewCloth(points, triangles, Fabric{Weight: 0.3, Stretch: 800, Shear: 80, Bend: 1e-3})
	s := &Surroundings{Gravity: geom.V(0, -g, 0), Density: 1.204, Flow: func(geom.Vec) geom.Vec { return geom.Vec{} }}
	for range 16000 {
		c.Step(1./4000, s)
	}
	want := math.Sqrt(2 * 0.3 * g / 1.204)
	for i, v := range c.V {
		if math.Abs(-v.Y-want) > 0.005*want {
			t.Fatalf("point %d falls at %g m/s, not %g", i, -v.Y, want)
		}
	}
}

// A sheet that slides over a floor comes to rest after v^2 / (2 mu g) (Coulomb's friction): 0.5099 m
// A flat cloth that is drawn out to s times its area and goes face on through still air is slowed by
// dv/dt = -rho |v| v s / (2 weight), so that v = v0 / (1 + v0 t rho s / (2 weight)) (by hand). Whatever the step it is never
// thrown back faster than it came: that threw cloth out of all bounds.
func TestFlowOnDrawnOutCloth(t *testing.T) {
	points, triangles := grid(0.5, 0.5, 4, 4)
	for _, spread := range []float64{1, 1.4, 2, 30, 1e4} {
		for _, dt := range []float64{1e-12, 1e-2, 10} {
			c := NewCloth(points, triangles, Fabric{Weight: 0.3, Stretch: 800})
			s := &Surroundings{Density: 1000, Flow: func(geom.Vec) geom.Vec { return geom.Vec{} }}
			for i := range c.X {
				c.X[i] = c.X[i].Mul(math.Sqrt(spread))
				c.V[i] = geom.V(0, 2, 0)
			}
			c.press(dt, s)
			want := 2 / (1 + 2*dt*1000*spread/(2*0.3))
			for i, v := range c.V {
				if math.Abs(v.Y) > 2 || dt == 1e-12 && math.Abs((2-v.Y)/(2-want)-1) > 1e-3 {
					t.Fatalf("%g times as large, %g s: point %d goes at %g m/s, want %g", spread, dt, i, v.Y, want)
				}
			}
		}
	}
}

// What could touch is found as by looking at all pairs, in the same order: also where points lie on both sides of
// the middle, far from it, in one place, or in cubes that share a row of the table.
func TestLookAroundFindsAllPairs(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	points, triangles := grid(1, 1, 9, 9)
	for n := range 40 {
		c := NewCloth(points, triangles, Fabric{Weight: 0.3, Stretch: 800})
		size := math.Pow(10, float64(n%5)-2)
		for i := range c.X {
			c.X[i] = geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64()).Mul(size)
			if i%7 == 0 && i > 0 {
				c.X[i] = c.X[i-1]
			}
		}
		c.Hold(3)
		c.Hold(9)
		const apart, reach = 0.05, 0.02
		c.LookAround(apart, reach, points)
		var want [][2]int32
		for i := range c.X {
			for k := range i {
				if c.X[i].Sub(c.X[k]).Norm() < apart+2*reach && points[i].Sub(points[k]).Norm() > 1.5*apart && c.inverse[i]+c.inverse[k] > 0 {
					want = append(want, [2]int32{int32(k), int32(i)})
				}
			}
		}
		got := slices.Clone(c.near)
		slices.SortFunc(got, func(a, b [2]int32) int { return cmp.Or(cmp.Compare(a[1], b[1]), cmp.Compare(a[0], b[0])) })
		if !slices.Equal(got, want) {
			t.Fatalf("size %g: %d pairs, %d by looking at all", size, len(got), len(want))
		}
		if !slices.IsSortedFunc(c.near, func(a, b [2]int32) int { return cmp.Compare(a[1], b[1]) }) {
			t.Fatal("not by the later point")
		}
	}
}

// for 2 m/s and 0.4. And a held point is where it is put after every step, to the bit.
func TestSlidesToRest(t *testing.T) {
	points, triangles := grid(0.3, 0.3, 3, 3)
	f := Fabric{Weight: 0.3, Stretch: 800, Shear: 80, Bend: 1e-3}
	c := NewCloth(points, triangles, f)
	for i := range c.V {
		c.V[i] = geom.V(2, 0, 0)
	}
	s := &Surroundings{Gravity: geom.V(0, -g, 0), Friction: 0.4, Push: func(p geom.Vec) (float64, geom.Vec) { return -p.Y, geom.V(0, 1, 0) }}
	for range 3000 {
		c.Step(1./2000, s)
	}
	want := 4 / (2 * 0.4 * g)
	for i, p := range c.X {
		if math.Abs(p.X-points[i].X-want) > 0.01*want || c.V[i].Norm() > 1e-6 {
			t.Fatalf("point %d has slid by %g m, not %g, and goes at %g m/s", i, p.X-points[i].X, want, c.V[i].Norm())
		}
	}
	c = NewCloth(points, triangles, f)
	c.Hold(5)
	k := 0.0
	s.Pins = func(x []geom.Vec) { x[5] = geom.V(0.1+k/3, 0.2-k/7, k) }
	for range 500 {
		k += 1e-3
		c.LookAround(0.09, 0.01, points)
		if c.Step(1./1000, s); c.X[5] != geom.V(0.1+k/3, 0.2-k/7, k) {
			t.Fatalf("the held point is at %v", c.X[5])
		}
	}
}

// What holds points together stands in groups in which no point comes twice, also at a hub with more edges than groups.
func TestSpread(t *testing.T) {
	points, triangles := grid(1, 1, 40, 40)
	c := NewCloth(points, triangles, Fabric{Weight: 0.3, Stretch: 800, Shear: 80, Bend: 1e-4})
	seen := map[int32]bool{}
	for _, s := range c.springs[:400] {
		if seen[s.a] || seen[s.b] {
			t.Fatalf("points %d and %d come again among the first 400", s.a, s.b)
		}
		seen[s.a], seen[s.b] = true, true
	}
	points, triangles = []geom.Vec{{}}, nil
	for k := range int32(200) {
		sin, cos := math.Sincos(2 * math.Pi * float64(k) / 200)
		points, triangles = append(points, geom.V(cos, sin, 0)), append(triangles, [3]int32{0, 1 + k, 1 + (k+1)%200})
	}
	if hub := NewCloth(points, triangles, Fabric{Weight: 0.3, Stretch: 800}); len(hub.springs) != 400 {
		t.Errorf("%d of 400 springs are left", len(hub.springs))
	}
}

// BenchmarkCloth steps 100 by 100 points 20 times a frame, and beside it a plain loop over as many
// springs, folds and squares of the same arithmetic whose points lie one behind the other: the ratio
// of the two is what finding the points costs.
func BenchmarkCloth(b *testing.B) {
	b.Run("plain", func(b *testing.B) {
		const n = 10_000
		var x [n + 3]geom.Vec
		for i := range x {
			x[i] = geom.V(float64(i), float64(i%7), 0.1)
		}
		for b.Loop() {
			for range 20 {
				for range 2 { // springs, squares and rows: two of each a point
					for i := range n {
						d := x[i+1].Sub(x[i])
						long := d.Norm()
						m := (long - 1) / (long * 3)
						x[i], x[i+1] = x[i].Mad(d, m*1e-3), x[i+1].Mad(d, -m*1e-3)
						u, v := x[i+2].Sub(x[i]), x[i+3].Sub(x[i+1])
						k := (u.Norm2() - v.Norm2()) * 1e-6
						x[i], x[i+2] = x[i].Mad(u, k), x[i+2].Mad(u, -k)
						x[i+1], x[i+3] = x[i+1].Mad(v, -k), x[i+3].Mad(v, k)
						sum := x[i].Add(x[i+2]).Mad(x[i+1], -2)
						x[i], x[i+1], x[i+2] = x[i].Mad(sum, -1e-4), x[i+1].Mad(sum, 2e-4), x[i+2].Mad(sum, -1e-4)
					}
				}
			}
		}
	})
	b.Run("cloth", benchmarkCloth)
}

func benchmarkCloth(b *testing.B) {
	points, triangles := grid(2, 2, 99, 99)
	c := NewCloth(points, triangles, Fabric{Weight: 0.3, Stretch: 800, Shear: 80, Bend: 1e-4})
	for i := range 100 {
		c.Hold(i)
	}
	s := &Surroundings{Gravity: geom.V(0, -g, 0), Damping: 1}
	for b.Loop() {
		for range 20 {
			c.Step(1./480, s)
		}
	}
}
