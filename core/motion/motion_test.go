package motion_test

import (
	"encoding/json"
	"math"
	"testing"

	"bead/core/motion"
)

var clock = motion.Clock{FPS: 24, First: 1}

func keyed(before, after motion.Ends, keys ...motion.Key) motion.Value {
	return motion.Value{Keys: keys, Before: before, After: after}
}

func TestAt(t *testing.T) {
	ramp := []motion.Key{{Frame: 10, Value: 1}, {Frame: 20, Value: 3}}
	bend := []motion.Key{{Frame: 10, Value: 1, Shape: motion.Eased}, {Frame: 20, Value: 3, Shape: motion.Stepped}, {Frame: 40, Value: 4}}
	for _, tc := range []struct {
		name  string
		v     motion.Value
		frame float64
		want  float64
	}{
		{"constant", motion.Number(7), -1e6, 7},
		{"speed", motion.Value{Speed: &motion.Speed{PerSecond: 0.5, Start: 2}}, 49, 3},
		{"speed backwards, before the first frame", motion.Value{Speed: &motion.Speed{PerSecond: -0.5}}, -23, 0.5},
		{"one key", keyed(motion.Build, motion.CarryOn, ramp[0]), 99, 1},
		{"straight", keyed("", "", ramp...), 12.5, 1.5},
		{"on a key", keyed("", "", ramp...), 20, 3},
		{"hold before", keyed(motion.Hold, "", ramp...), -5, 1},
		{"hold after", keyed("", motion.Hold, ramp...), 999, 3},
		{"carry on after", keyed("", motion.CarryOn, ramp...), 30, 5},
		{"carry on before", keyed(motion.CarryOn, "", ramp...), 0, -1},
		{"repeat after", keyed("", motion.Repeat, ramp...), 35, 2},
		{"repeat far after", keyed("", motion.Repeat, ramp...), 100_015, 2},
		{"repeat before", keyed(motion.Repeat, "", ramp...), -5, 2},
		{"build after", keyed("", motion.Build, ramp...), 35, 6},
		{"build meets the last key", keyed("", motion.Build, ramp...), 30, 5},
		{"build far after", keyed("", motion.Build, ramp...), 100_015, 20_002},
		{"build before", keyed(motion.Build, "", ramp...), -5, -2},
		{"eased middle", keyed("", "", bend...), 15, 2},
		{"eased quarter 3u^2-2u^3", keyed("", "", bend...), 12.5, 1 + 2*(3.0/16-2.0/64)},
		{"stepped", keyed("", "", bend...), 39.9, 3},
		{"eased carries on at rest", keyed(motion.CarryOn, "", bend...), 0, 1},
	} {
		if got := tc.v.At(tc.frame, clock); math.Abs(got-tc.want) > 1e-12*max(1, math.Abs(tc.want)) {
			t.Errorf("%s: %.15g, want %.15g", tc.name, got, tc.want)
		}
	}
}

// A free stretch against forms known otherwise: handles on the straight line make
// it straight; level handles of a third are the eased cubic; upright ones of the
// full length are the cubic whose frame is 3u^2-2u^3, so that its middle is the
// middle; the slope at a key is that of its handle, and ends carry it on.
func TestFree(t *testing.T) {
	h := func(f, v float64) *[2]float64 { return &[2]float64{f, v} }
	stretch := func(out, in *[2]float64) motion.Value {
		return keyed(motion.CarryOn, motion.CarryOn, motion.Key{Frame: 10, Value: 1, Shape: motion.Free, Out: out}, motion.Key{Frame: 22, Value: 5, In: in})
	}
	eased := keyed("", "", motion.Key{Frame: 10, Value: 1, Shape: motion.Eased}, motion.Key{Frame: 22, Value: 5})
	plain, level := stretch(nil, nil), stretch(h(4, 0), h(-4, 0))
	for f := 10.0; f <= 22; f += 0.3 {
		if got, want := plain.At(f, clock), 1+(f-10)/3; math.Abs(got-want) > 1e-12 {
			t.Errorf("without handles %g at %g, want %g", got, f, want)
		}
		if got, want := level.At(f, clock), eased.At(f, clock); math.Abs(got-want) > 1e-12 {
			t.Errorf("level handles give %g at %g, eased %g", got, f, want)
		}
	}
	steep := stretch(h(2, 3), h(-3, -1))
	for _, tc := range []struct{ frame, want float64 }{{4, 1 - 9}, {28, 5 + 2}} {
		if got := steep.At(tc.frame, clock); math.Abs(got-tc.want) > 1e-12 {
			t.Errorf("carried on to %g: %g, want %g", tc.frame, got, tc.want)
		}
	}
	const d = 1e-6
	if slope := (steep.At(10+d, clock) - steep.At(10, clock)) / d; math.Abs(slope-1.5) > 1e-4 {
		t.Errorf("slope %g at the key, its handle has 1.5", slope)
	}
	// However far handles reach, there is one value a frame and no jump.
	wild := stretch(h(500, 90), h(-900, 3))
	for f := 10.0; f < 22; f += 0.01 {
		if jump := math.Abs(wild.At(f+0.01, clock) - wild.At(f, clock)); !(jump < 3) {
			t.Fatalf("jumps by %g at %g", jump, f)
		}
	}
	if v := stretch(h(0, 2), h(0, -2)); math.Abs(v.At(16, clock)-3) > 1e-9 {
		t.Errorf("upright handles: %g in the middle", v.At(16, clock))
	}
}

// Mirror goes to and fro: a triangle wave, even about both keys. Within stands still
// outside its frames.
func TestMirrorAndWithin(t *testing.T) {
	v := keyed(motion.Mirror, motion.Mirror, motion.Key{Frame: 3, Value: 0}, motion.Key{Frame: 13, Value: 5})
	for f := -95.0; f < 120; f += 0.7 {
		phase := math.Abs(math.Remainder(f-3, 20))
		if got := v.At(f, clock); math.Abs(got-phase/2) > 1e-12 {
			t.Fatalf("%g at %g, want %g", got, f, phase/2)
		}
	}
	w := keyed(motion.CarryOn, motion.CarryOn, motion.Key{Frame: 3, Value: 0}, motion.Key{Frame: 13, Value: 5})
	w.Within = &[2]float64{0, 20}
	for f, want := range map[float64]float64{-50: -1.5, 0: -1.5, 5: 1, 20: 8.5, 700: 8.5} {
		if got := w.At(f, clock); math.Abs(got-want) > 1e-12 {
			t.Errorf("within 0..20: %g at %g, want %g", got, f, want)
		}
	}
}

// Keys at both ends of a repeated stretch that agree make a value without jumps,
// and a built one always is.
func TestEndsAreContinuous(t *testing.T) {
	for _, e := range []motion.Ends{motion.Hold, motion.CarryOn, motion.Build, motion.Mirror} {
		v := keyed(e, e, motion.Key{Frame: 3, Value: -1, Shape: motion.Eased}, motion.Key{Frame: 8, Value: 4}, motion.Key{Frame: 9, Value: 2})
		for f := -40.0; f < 60; f += 0.25 {
			if jump := math.Abs(v.At(f+1e-7, clock) - v.At(f, clock)); jump > 1e-6 {
				t.Fatalf("%s jumps by %g at frame %g", e, jump, f)
			}
		}
	}
}

func TestCheck(t *testing.T) {
	for field, v := range map[string]motion.Value{
		"":               motion.Number(math.NaN()),
		"keys[1].frame":  keyed("", "", motion.Key{Frame: 5}, motion.Key{Frame: 5}),
		"keys[0].value":  keyed("", "", motion.Key{Value: math.Inf(1)}),
		"keys[0].shape":  keyed("", "", motion.Key{Shape: "bouncy"}),
		"after":          keyed("", "stop", motion.Key{}),
		"keys[0].out[0]": keyed("", "", motion.Key{Out: &[2]float64{-1, 0}}),
		"keys[0].in[1]":  keyed("", "", motion.Key{In: &[2]float64{-1, math.NaN()}}),
		"within":         {Keys: []motion.Key{{}}, Within: &[2]float64{5, 4}},
		"speed":          {Speed: &motion.Speed{PerSecond: math.Inf(-1)}},
	} {
		p := v.Check()
		if len(p) != 1 || p[0].Field != field {
			t.Errorf("want one problem at %q, got %v", field, p)
		}
	}
	if v := keyed(motion.Build, motion.Repeat, motion.Key{Frame: -1}, motion.Key{Frame: 2, Shape: motion.Eased}); len(v.Check()) != 0 {
		t.Errorf("a good value is refused: %v", v.Check())
	}
}

func TestJSONRoundTrip(t *testing.T) {
	for _, text := range []string{`3.5`, `{"speed":-0.25}`, `{"speed":1,"start":2}`,
		`{"keys":[{"frame":1,"value":0,"shape":"eased"},{"frame":9,"value":2}],"after":"carry on"}`,
		`{"keys":[{"frame":1,"value":0,"shape":"free","out":[2,0.5]},{"frame":9,"value":2,"in":[-3,0]}],"before":"mirror","within":[1,40]}`} {
		var v motion.Value
		if err := json.Unmarshal([]byte(text), &v); err != nil {
			t.Fatal(err)
		}
		if got, err := json.Marshal(v); err != nil || string(got) != text {
			t.Errorf("%s comes back as %s, %v", text, got, err)
		}
	}
}

// Moving all keys in time moves the value in time; scaling their values scales
// it; and a repeated value has the period of its keys, far out and before zero.
func TestShiftScalePeriod(t *testing.T) {
	keys := []motion.Key{{Frame: -3, Value: 1, Shape: motion.Eased}, {Frame: 4, Value: -2}, {Frame: 9, Value: 3, Shape: motion.Stepped}, {Frame: 12, Value: 1}}
	for _, e := range []motion.Ends{motion.Hold, motion.CarryOn, motion.Repeat, motion.Build} {
		v := keyed(e, e, keys...)
		later, larger := v, v
		later.Keys, larger.Keys = nil, nil
		for _, k := range keys {
			later.Keys = append(later.Keys, motion.Key{Frame: k.Frame + 100, Value: k.Value, Shape: k.Shape})
			larger.Keys = append(larger.Keys, motion.Key{Frame: k.Frame, Value: 3 * k.Value, Shape: k.Shape})
		}
		for f := -80.0; f < 90; f += 0.5 {
			x := v.At(f, clock)
			if got := later.At(f+100, clock); math.Abs(got-x) > 1e-9 {
				t.Fatalf("%s at %g: 100 frames later %g, want %g", e, f, got, x)
			}
			if got := larger.At(f, clock); math.Abs(got-3*x) > 1e-9 {
				t.Fatalf("%s at %g: three times as large %g, want %g", e, f, got, 3*x)
			}
			// The keys end where they began, so build gains nothing a round.
			if e == motion.Repeat || e == motion.Build {
				if got := v.At(f+15*1000, clock); math.Abs(got-x) > 1e-6 {
					t.Fatalf("%s at %g: a thousand rounds later %g, want %g", e, f, got, x)
				}
			}
		}
	}
}

// Evaluating a value allocates nothing, however it moves.
func TestAtAllocatesNothing(t *testing.T) {
	values := []motion.Value{motion.Number(1), {Speed: &motion.Speed{PerSecond: 1}}, keyed(motion.Build, motion.Repeat, motion.Key{Frame: 1}, motion.Key{Frame: 5, Value: 2}, motion.Key{Frame: 9})}
	sum := 0.0
	if n := testing.AllocsPerRun(200, func() {
		for i := range values {
			for f := -20.0; f < 30; f += 7 {
				sum += values[i].At(f, clock)
			}
		}
	}); n != 0 {
		t.Errorf("%g allocations (sum %g)", n, sum)
	}
}

// A thousand keyed values take under 100 microseconds: a third of the keys free, far
// outside the keys.
func BenchmarkThousandValues(b *testing.B) {
	v := motion.Value{After: motion.Build, Keys: []motion.Key{{Frame: 1, Shape: motion.Eased}, {Frame: 30, Value: 2}, {Frame: 60, Value: 1, Shape: motion.Free}, {Frame: 96, Value: 3}}}
	clock := motion.Clock{FPS: 24, First: 1}
	f, sum := 0.0, 0.0
	for b.Loop() {
		for range 1000 {
			f += 0.7
			sum += v.At(f, clock)
		}
	}
	if math.IsNaN(sum) {
		b.Fatal("not a number")
	}
	b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/100_000, "ratio-to-aim")
}

// The solver's offers close by brute force: after that many frames at that rate every
// thing has gone a whole number of its periods, or misses by what is said; and no
// other length within reach does better.
func TestSolveLoop(t *testing.T) {
	others := []motion.Period{{Every: 0.25, Rate: 0.0125}, {Every: 360, Rate: -7.5}}
	got := motion.SolveLoop(0.19, 0.02, 100, others, []float64{12}, 5)
	if len(got) != 4 || got[0].Frames != 96 {
		t.Fatalf("%+v", got)
	}
	miss := func(n int) float64 {
		return max(math.Abs(others[0].Left(float64(n))), math.Abs(others[1].Left(float64(n))))
	}
	best := math.Inf(1)
	for n := 75; n <= 125; n++ {
		if n%12 == 0 {
			best = min(best, miss(n))
		}
	}
	for i, c := range got {
		if rounds := c.Rate * float64(c.Frames) / 0.19; math.Abs(rounds-float64(c.Rounds)) > 1e-9 || c.Frames%12 != 0 {
			t.Errorf("%+v goes %v rounds", c, rounds)
		}
		if math.Abs(c.Error-miss(c.Frames)) > 1e-12 || i == 0 && c.Error > best+1e-12 {
			t.Errorf("%+v misses by %v, the best by %v", c, miss(c.Frames), best)
		}
	}
	for _, bad := range []float64{0, -1, math.NaN()} {
		if got := motion.SolveLoop(bad, 1, 10, nil, nil, 5); got != nil {
			t.Errorf("a period of %g: %+v", bad, got)
		}
	}
}
