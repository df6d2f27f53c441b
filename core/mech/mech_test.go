package mech_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"sort"
	"strings"
	"testing"

	"bead/core/mech"
)

func near(t *testing.T, what string, got, want, tol float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tol) {
		t.Errorf("%s: %v, want %v", what, got, want)
	}
}

// Pitch diameters of pitch 1, the handbook's and the exact length, and the chordal
// variation: MATH 4's values (computed with 25 digits from the formulas beside them).
func TestChains(t *testing.T) {
	for n, want := range map[int]float64{9: 2.9238, 11: 3.5495, 12: 3.8637, 17: 5.4422, 25: 7.9787, 40: 12.7455} {
		near(t, "pitch diameter", mech.PitchDiameter(1, n), want, 5e-5)
	}
	near(t, "handbook", mech.HandbookLength(17, 38, 300/12.7), 75.2170, 5e-5)
	exact, err := mech.ExactLength(17, 38, 300/12.7)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "exact", exact, 75.2856, 5e-5)
	for n, want := range map[int]float64{11: 0.0405, 17: 0.0170, 25: 0.0079} {
		near(t, "chordal variation", mech.ChordalVariation(n), want, 5e-5)
	}
	for _, links := range []float64{76, 84, 120} {
		c, err := mech.CentresFor(17, 38, links)
		if err != nil {
			t.Fatal(err)
		}
		got, _ := mech.ExactLength(17, 38, c)
		near(t, "links", got, links, 1e-9)
		// The same by the wrapped path.
		r1, r2 := mech.PitchDiameter(1, 17)/2, mech.PitchDiameter(1, 38)/2
		b, err := mech.Wrap([]mech.Wheel{{R: r1}, {X: c, R: r2}})
		if err != nil {
			t.Fatal(err)
		}
		near(t, "wrapped", b.Length, links, 1e-9)
	}
	if _, err := mech.CentresFor(17, 38, 20); err == nil || !strings.Contains(err.Error(), "more than") {
		t.Errorf("too short a chain: %v", err)
	}
	if _, err := mech.ExactLength(17, 38, 1); err == nil {
		t.Error("sprockets within one another are accepted")
	}
}

// Open and crossed belts in closed form (MATH 5).
func TestBeltsOfTwo(t *testing.T) {
	const r1, r2, c = 0.3, 0.5, 2.0
	a := math.Asin((r2 - r1) / c)
	open, err := mech.Wrap([]mech.Wheel{{R: r1}, {X: c, R: r2}})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "open", open.Length, 2*math.Sqrt(c*c-(r2-r1)*(r2-r1))+r1*(math.Pi-2*a)+r2*(math.Pi+2*a), 1e-12)
	// Three wheels in a row, the middle one on the back of the belt: a serpentine whose
	// contacts turn once round in all.
	s, err := mech.Wrap([]mech.Wheel{{X: -2, R: 0.5}, {Y: 0.3, R: 0.4, Back: true}, {X: 2, R: 0.5}})
	if err != nil {
		t.Fatal(err)
	}
	q := math.Asin(0.9 / math.Hypot(2, 0.3))
	near(t, "serpentine contact", s.Contacts[1].Angle, 2*(q-math.Atan2(0.3, 2)), 1e-12)
	if _, err := mech.Wrap([]mech.Wheel{{R: 1}, {X: 0.2, R: 0.3}}); err == nil || !strings.Contains(err.Error(), "within") {
		t.Errorf("a wheel within another: %v", err)
	}
	if _, err := mech.Wrap([]mech.Wheel{{R: 1}, {X: 1.5, R: 1, Back: true}, {X: 5, R: 1}}); err == nil || !strings.Contains(err.Error(), "overlap") {
		t.Errorf("a back wheel that overlaps: %v", err)
	}
	if _, err := mech.Wrap([]mech.Wheel{{R: 0}}); err == nil {
		t.Error("a wheel without a radius is accepted")
	}
}

// A belt that goes most of the way round a wheel stays on it, and a wheel far inside drops
// out: lengths from the tangents in closed form, computed outside this code (MATH 8).
func TestFarRoundAndFarInside(t *testing.T) {
	round := func(y float64) []mech.Wheel {
		return []mech.Wheel{{R: 1}, {X: 1.25, Y: y, R: 0.2, Back: true}, {X: 4, R: 0.3}, {X: 1.25, Y: -y, R: 0.2, Back: true}}
	}
	for _, tc := range []struct{ y, length float64 }{{0.4, 12.676665363699803}, {0.35, 12.757990919325538}} {
		b, err := mech.Wrap(round(tc.y))
		if err != nil {
			t.Fatal(err)
		}
		near(t, "far round", b.Length, tc.length, 1e-9)
		if tc.y == 0.4 {
			near(t, "contact", b.Contacts[0].Angle*180/math.Pi, 276.7, 0.05)
		}
	}
	for _, dy := range []float64{0.3, 1, 2, 2.9} {
		b, err := mech.Wrap([]mech.Wheel{{X: -2, R: 0.2}, {X: -0.9, Y: 3, R: 0.2}, {Y: 3.2 - dy, R: 0.1}, {X: 0.9, Y: 3, R: 0.2}, {X: 2, R: 0.2}})
		if err != nil {
			t.Fatalf("%g m inside: %v", dy, err)
		}
		near(t, "far inside", b.Length, 13.447255184904101, 1e-9)
	}
	// The same wheel outside is in the wrong place of the order, not inside.
	if b, err := mech.Wrap([]mech.Wheel{{X: -2, R: 0.2}, {X: -0.9, Y: 3, R: 0.2}, {Y: -3, R: 0.1}, {X: 0.9, Y: 3, R: 0.2}, {X: 2, R: 0.2}}); err == nil || !strings.Contains(err.Error(), "2 times round") {
		t.Errorf("a wheel beyond the belt: %v, %v", b, err)
	}
}

// hullLength is the length of the convex hull of many points on all circles: brute
// force by Andrew's monotone chain, short of the true length by the chords.
func hullLength(wheels []mech.Wheel) float64 {
	const points = 4000
	var p [][2]float64
	for _, w := range wheels {
		for k := range points {
			s, c := math.Sincos(2 * math.Pi * float64(k) / points)
			p = append(p, [2]float64{w.X + w.R*c, w.Y + w.R*s})
		}
	}
	sort.Slice(p, func(a, b int) bool { return p[a][0] < p[b][0] || p[a][0] == p[b][0] && p[a][1] < p[b][1] })
	half := func(step int) (length float64) {
		var h [][2]float64
		for i := range p {
			if step < 0 {
				i = len(p) - 1 - i
			}
			for len(h) > 1 {
				a, b := h[len(h)-2], h[len(h)-1]
				if (b[0]-a[0])*(p[i][1]-a[1])-(b[1]-a[1])*(p[i][0]-a[0]) > 0 {
					break
				}
				h = h[:len(h)-1]
			}
			h = append(h, p[i])
		}
		for i := 1; i < len(h); i++ {
			length += math.Hypot(h[i][0]-h[i-1][0], h[i][1]-h[i-1][1])
		}
		return length
	}
	return half(1) + half(-1)
}

// Over 300 random sets of wheels the belt round the outline is the hull of the circles,
// and lies on each wheel that it touches by its angle times its radius.
func TestBeltIsTheHull(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 7))
	passed := 0
	for range 300 {
		n := 2 + r.IntN(7)
		wheels := make([]mech.Wheel, n)
		for i := range wheels {
			wheels[i] = mech.Wheel{X: 4 * r.Float64(), Y: 2 * r.Float64(), R: 0.05 + 0.3*r.Float64()}
		}
		var ordered []mech.Wheel
		for _, i := range mech.Outline(wheels) {
			ordered = append(ordered, wheels[i])
		}
		b, err := mech.Wrap(ordered)
		if err != nil {
			t.Errorf("%+v: %v", ordered, err)
			continue
		}
		if len(b.Touching) > 1 {
			passed++
		}
		near(t, "length", b.Length, hullLength(wheels), 3e-6)
		for i := range ordered {
			c := &b.Contacts[i]
			if c.Touches && math.Abs(c.To-c.From-c.Angle*ordered[i].R) > 1e-12 {
				t.Errorf("contact %+v is not its angle times its radius", c)
			}
		}
	}
	if passed < 200 {
		t.Errorf("only %d of 300 sets made a belt round several wheels", passed)
	}
}

// The order round the outside finds every wheel of a tread again, however they are given,
// and the belt in that order is as long as the dense hull's: return rollers inside come
// between the wheels below whose run they stand.
func TestOrder(t *testing.T) {
	tread := []mech.Wheel{{X: -2.25, Y: 0.86, R: 0.4}, {X: -0.85, Y: 1.1, R: 0.1}, {X: 0.85, Y: 1.1, R: 0.1}, {X: 2.25, Y: 0.84, R: 0.36},
		{X: 1.5, Y: 0.3, R: 0.25}, {X: 0, Y: 0.3, R: 0.25}, {X: -1.5, Y: 0.3, R: 0.25}}
	rnd := rand.New(rand.NewPCG(3, 3))
	for range 50 {
		mixed := append([]mech.Wheel(nil), tread...)
		rnd.Shuffle(len(mixed), func(i, j int) { mixed[i], mixed[j] = mixed[j], mixed[i] })
		order := mech.Order(mixed)
		var found []mech.Wheel
		for _, i := range order {
			found = append(found, mixed[i])
		}
		for len(found) > 0 && found[0] != tread[0] {
			found = append(found[1:], found[0])
		}
		if fmt.Sprint(found) != fmt.Sprint(tread) {
			t.Fatalf("%v, want %v", found, tread)
		}
	}
}
