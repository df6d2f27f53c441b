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

// Keys at both ends of a repeated stretch that agree make a value without jumps,
// and a built one always is.
func TestEndsAreContinuous(t *testing.T) {
	for _, e := range []motion.Ends{motion.Hold, motion.CarryOn, motion.Build} {
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
		"":              motion.Number(math.NaN()),
		"keys[1].frame": keyed("", "", motion.Key{Frame: 5}, motion.Key{Frame: 5}),
		"keys[0].value": keyed("", "", motion.Key{Value: math.Inf(1)}),
		"keys[0].shape": keyed("", "", motion.Key{Shape: "bouncy"}),
		"after":         keyed("", "stop", motion.Key{}),
		"speed":         {Speed: &motion.Speed{PerSecond: math.Inf(-1)}},
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
		`{"keys":[{"frame":1,"value":0,"shape":"eased"},{"frame":9,"value":2}],"after":"carry on"}`} {
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
