package place_test

import (
	"errors"
	"math"
	"math/rand/v2"
	"reflect"
	"testing"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/place"
)

func TestSolve(t *testing.T) {
	for _, tc := range []struct {
		name   string
		length float64
		round  bool
		spec   place.Spec
		part   float64
		want   place.Layout
	}{
		{"count on a loop has as many pitches", 12, true, place.Spec{Mode: place.SetCount, Count: 6}, 1, place.Layout{Count: 6, Pitch: 2}},
		{"count from end to end has one fewer", 12, false, place.Spec{Mode: place.SetCount, Count: 7}, 1, place.Layout{Count: 7, Pitch: 2}},
		{"one piece on an open path", 12, false, place.Spec{Mode: place.SetCount, Count: 1}, 1, place.Layout{Count: 1, Pitch: 12, Seam: 12}},
		{"pitch leaves the rest open", 12, true, place.Spec{Mode: place.SetPitch, Pitch: 5}, 1, place.Layout{Count: 2, Pitch: 5, Asked: 5, Seam: 2}},
		{"pitch on an open path has a piece at both ends", 12, false, place.Spec{Mode: place.SetPitch, Pitch: 4}, 1, place.Layout{Count: 4, Pitch: 4, Asked: 4}},
		{"no pitch: the part's length and the gap", 12, true, place.Spec{Mode: place.SetPitch, Gap: 0.5}, 2.5, place.Layout{Count: 4, Pitch: 3, Asked: 3}},
		{"close up goes to the nearest count", 12, true, place.Spec{Mode: place.CloseUp, Pitch: 5}, 1, place.Layout{Count: 2, Pitch: 6, Asked: 5}},
		{"and up too", 12, true, place.Spec{Mode: place.CloseUp, Pitch: 4.5}, 1, place.Layout{Count: 3, Pitch: 4, Asked: 4.5}},
		{"a path shorter than the pitch keeps one", 1, true, place.Spec{Mode: place.CloseUp, Pitch: 5}, 1, place.Layout{Count: 1, Pitch: 1, Asked: 5}},
		{"slack keeps the pitch", 12, true, place.Spec{Mode: place.CloseUp, Pitch: 5, Rest: place.RestSlack}, 1, place.Layout{Count: 2, Pitch: 5, Asked: 5, Seam: 2}},
		{"62 shoes of 190 mm close but for rounding", 62 * 0.19, true, place.Spec{Mode: place.SetPitch, Pitch: 0.19}, 1, place.Layout{Count: 62, Pitch: 0.19, Asked: 0.19}},
	} {
		got, err := place.Solve(tc.length, tc.round, tc.spec, tc.part)
		if err != nil || !reflect.DeepEqual(got, tc.want) {
			t.Errorf("%s: %+v, %v; want %+v", tc.name, got, err, tc.want)
		}
	}
	for _, tc := range []struct {
		field string
		spec  place.Spec
	}{
		{"count", place.Spec{Mode: place.SetCount, Count: -3}}, {"count", place.Spec{Mode: place.SetCount, Count: 1_000_000}},
		{"count", place.Spec{Mode: place.Scatter, Count: 13}}, {"count", place.Spec{Mode: place.Scatter, Count: 6, Gap: 1.5}},
		{"pitch", place.Spec{Mode: place.SetPitch, Pitch: -1}}, {"gap", place.Spec{Mode: place.SetPitch, Pitch: 1, Gap: -2}},
		{"pitch", place.Spec{Mode: place.CloseUp, Pitch: math.NaN()}}, {"pitch", place.Spec{Mode: place.SetPitch, Pitch: 1e-7}},
		{"pitch", place.Spec{Mode: place.SetPitch, Pitch: 99}}, {"mode", place.Spec{Mode: "guess", Pitch: 1}},
		{"rest", place.Spec{Mode: place.CloseUp, Pitch: 1, Rest: "thirds"}},
	} {
		_, err := place.Solve(12, true, tc.spec, 1)
		var fe *place.FieldError
		if !errors.As(err, &fe) || fe.Field != tc.field {
			t.Errorf("%+v: error %v, want one about %s", tc.spec, err, tc.field)
		}
	}
}

var along, across = geom.V(0, 0, 1), geom.V(0, 1, 0)

func loop(t testing.TB, spans []path.Span, closed bool) *path.Curve {
	t.Helper()
	c, err := path.New(spans, closed)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

// Pins on a circle of radius 1: the chord of N pins is 2 sin(pi/N); for N = 40
// 0.1569181914556899 (worked out outside this code).
func TestPinsOnACircle(t *testing.T) {
	c := loop(t, path.Circle(geom.Vec{}, along, across, 1), true)
	for n, want := range map[int]float64{3: math.Sqrt(3), 4: math.Sqrt2, 40: 0.1569181914556899, 1000: 2 * math.Sin(math.Pi/1000)} {
		pins, chord, err := place.EvenPins(c, n)
		if err != nil || math.Abs(chord-want) > 1e-12 {
			t.Errorf("%d pins: chord %.16g, %v; want %.16g", n, chord, err, want)
			continue
		}
		for i, s := range pins {
			if math.Abs(s-c.Length()*float64(i)/float64(n)) > 1e-10 {
				t.Fatalf("%d pins: pin %d at %g", n, i, s)
			}
		}
	}
}

// On any path: consecutive pins lie one chord apart, no nearer point ahead does,
// the loop closes, and after one chord each pin stands where the next one stood.
func TestPinsOnAnyPath(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	for trial := range 20 {
		pts := make([]path.Point, 8)
		for i := range pts {
			sin, cos := math.Sincos(2 * math.Pi * float64(i) / 8)
			k := 1 + 0.3*r.Float64()
			pts[i] = path.Point{At: geom.V(0.1*r.NormFloat64(), k*sin, k*cos), Handles: path.Smooth}
		}
		closed := trial%2 == 0
		c := loop(t, path.Spline(path.Resolve(pts, closed), closed), closed)
		const n = 31
		pins, chord, err := place.EvenPins(c, n)
		if err != nil {
			t.Fatal(err)
		}
		last := pins[n-1]
		if closed {
			if last, err = place.NextPin(c, pins[n-1], chord); err != nil {
				t.Fatal(err)
			}
		}
		if math.Abs(last-c.Length()) > 1e-9*c.Length() {
			t.Errorf("trial %d: the last pin stands %g off the end", trial, last-c.Length())
		}
		for i := 1; i < n; i++ {
			a, _ := c.At(pins[i-1])
			b, _ := c.At(pins[i])
			if d := b.Sub(a).Norm(); math.Abs(d-chord) > 1e-11 {
				t.Fatalf("trial %d: pins %d and %d are %g apart, chord %g", trial, i-1, i, d, chord)
			}
			m, _ := c.At((pins[i-1] + pins[i]) / 2)
			if m.Sub(a).Norm() >= chord {
				t.Fatalf("trial %d: a nearer point ahead of pin %d is as far", trial, i-1)
			}
		}
		moved, err := place.MarchPins(nil, c, pins[1], chord, n-2)
		if err != nil {
			t.Fatal(err)
		}
		for i, s := range moved {
			if math.Abs(s-pins[i+1]) > 1e-9*c.Length() {
				t.Fatalf("trial %d: after one pitch pin %d stands at %g, want %g", trial, i, s, pins[i+1])
			}
		}
	}
	if _, err := place.NextPin(loop(t, path.Circle(geom.Vec{}, along, across, 1), true), 0, 2.1); !errors.Is(err, place.ErrNoPin) {
		t.Errorf("a chord longer than the diameter: %v", err)
	}
}

// Whatever is asked for, the pitches and the seam together are the length, the
// count is a whole number of pieces that fit, and closing up is never more than
// half a pitch away from what was asked.
func TestLayoutsAddUp(t *testing.T) {
	r := rand.New(rand.NewPCG(12, 7))
	for range 5000 {
		length := math.Exp(8*r.Float64() - 4)
		s := place.Spec{
			Mode:  []place.Mode{place.SetCount, place.SetPitch, place.CloseUp}[r.IntN(3)],
			Count: 1 + r.IntN(500), Pitch: length * math.Exp(-6*r.Float64()), Gap: length * 0.01 * r.Float64(),
			Rest: []place.Rest{place.RestPitch, place.RestSlack}[r.IntN(2)],
		}
		round := r.IntN(2) == 0
		l, err := place.Solve(length, round, s, 1)
		if err != nil {
			if s.Mode != place.SetCount && s.Pitch+s.Gap > length {
				continue // not one piece fits
			}
			t.Fatalf("%+v on %g: %v", s, length, err)
		}
		pitches := float64(l.Count)
		if !round {
			pitches--
		}
		if e := math.Abs(pitches*l.Pitch + l.Seam - length); e > 1e-9*length {
			t.Fatalf("%+v on %g: %+v leaves %g unaccounted for", s, length, l, e)
		}
		switch {
		case s.Mode == place.SetCount && l.Count != s.Count:
			t.Fatalf("%+v: %d pieces", s, l.Count)
		case s.Mode == place.CloseUp && s.Rest == place.RestPitch && (math.Abs(l.Seam) > 0 || math.Abs(pitches-length/l.Asked) > 0.5+1e-9 && pitches > 1):
			t.Fatalf("%+v on %g: %+v is not the nearest that closes", s, length, l)
		case (s.Mode == place.SetPitch || s.Rest == place.RestSlack) && s.Mode != place.SetCount && (l.Seam < 0 || l.Seam >= l.Pitch*(1+1e-9)):
			t.Fatalf("%+v on %g: %+v has room for one more, or one too many", s, length, l)
		}
	}
}

// Marks by distance: their values at their places, the mean half way when straight
// or eased, and on a loop over the seam; the slope is the value's difference quotient.
func TestByDistance(t *testing.T) {
	marks := []place.Mark{{At: 1, Value: 10, Ease: place.Straight}, {At: 3, Value: 30, Ease: place.Eased}, {At: 7, Value: -10, Ease: place.Straight}}
	for _, tc := range []struct {
		s      float64
		closed bool
		want   float64
	}{
		{1, false, 10}, {3, false, 30}, {7, false, -10}, {2, false, 20}, {5, false, 10},
		{0, false, 10}, {9, false, -10}, // held at open ends
		{9, true, 0}, {0, true, 5}, {10, true, 5}, {8, true, -5}, // 4 m from 7 over the seam to 11
	} {
		if got, _ := place.ByDistance(marks, tc.s, 10, tc.closed); math.Abs(got-tc.want) > 1e-12 {
			t.Errorf("at %g, closed %v: %g, want %g", tc.s, tc.closed, got, tc.want)
		}
	}
	const h = 1e-6
	for s := 0.1; s < 10; s += 0.37 {
		a, _ := place.ByDistance(marks, s-h, 10, true)
		b, _ := place.ByDistance(marks, s+h, 10, true)
		if _, slope := place.ByDistance(marks, s, 10, true); math.Abs(slope-(b-a)/(2*h)) > 1e-5 {
			t.Errorf("slope %g at %g, want %g", slope, s, (b-a)/(2*h))
		}
	}
	if v, _ := place.ByDistance(nil, 3, 10, true); v != 0 {
		t.Error("no marks give something")
	}
}

// Scattered pieces keep their least distance, close the loop, are the same for the same seed and
// even where told so; a gap beyond the least is longer than a share x of what is free with the
// chance (1-x)^(n-1), that of places thrown uniformly (order statistics).
func TestScatter(t *testing.T) {
	const n, length, part, gap = 8, 12.0, 0.5, 0.25
	spec := place.Spec{Mode: place.Scatter, Count: n, Gap: gap}
	solve := func(spec place.Spec, round bool) place.Layout {
		t.Helper()
		l, err := place.Solve(length, round, spec, part)
		if err != nil {
			t.Fatal(err)
		}
		return l
	}
	longer := [3]int{}
	shares := [3]float64{0.05, 0.15, 0.3}
	const seeds = 4000
	for seed := range int64(seeds) {
		spec.Seed = seed
		l := solve(spec, true)
		sum := 0.0
		for i := range n {
			g := l.Closing()
			if i+1 < n {
				g = l.At(i+1) - l.At(i)
			}
			if sum += g; g < part+gap-1e-12 {
				t.Fatalf("seed %d: %g from piece %d to the next", seed, g, i+1)
			}
			for k, x := range shares {
				if i == 3 && g-part-gap > x*(length-n*(part+gap)) {
					longer[k]++
				}
			}
		}
		if math.Abs(sum-length) > 1e-12 || l.At(0) != 0 {
			t.Fatalf("seed %d: all gaps are %g", seed, sum)
		}
	}
	for k, x := range shares {
		if got, want := float64(longer[k])/seeds, math.Pow(1-x, n-1); math.Abs(got-want) > 0.025 {
			t.Errorf("longer than %g of what is free: %.3f, want %.3f", x, got, want)
		}
	}
	a, again := solve(spec, true), solve(spec, true)
	spec.Seed++
	if b := solve(spec, true); !reflect.DeepEqual(a, again) || reflect.DeepEqual(a, b) {
		t.Error("the same seed gave other places, or another the same")
	}
	open := solve(spec, false)
	if last := open.At(n - 1); math.Abs(last-length) > 1e-12 {
		t.Errorf("from end to end the last stands at %g", last)
	}
	spec.Even = 1
	if even := solve(spec, true); math.Abs(even.At(5)-5*length/n) > 1e-12 {
		t.Errorf("evenly, piece 6 stands at %g", even.At(5))
	}
}

// Where the path bends the other way within a chord, pins are as exact as elsewhere.
func TestPinsOverAnInflection(t *testing.T) {
	side := func(turn float64) path.Span {
		return path.ArcSpan(geom.V(-turn, 0, 0), geom.V(turn, 0, 0), geom.V(0, 0, 1), 0, 2)
	}
	back := path.Reverse([]path.Span{side(-1)})
	c := loop(t, append(back, side(1)), false)
	for i := range 400 {
		s := 0.3 + 3*float64(i)/400
		const chord = 0.55
		next, err := place.NextPin(c, s, chord)
		if err != nil {
			t.Fatal(err)
		}
		a, _ := c.At(s)
		b, _ := c.At(next)
		if d := b.Sub(a).Norm(); math.Abs(d-chord) > 1e-13 {
			t.Fatalf("from %g the next pin is %g away, off by %g", s, d, d-chord)
		}
	}
}
