package begin_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/begin"
	"bead/core/check"
	"bead/core/rig"
	"bead/core/scene"
)

// passes compiles what was begun and checks it in every frame.
func passes(t *testing.T, what string, d *scene.Document) {
	t.Helper()
	if faults := d.Check(); len(faults) > 0 {
		t.Fatalf("%s: %v", what, faults)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatalf("%s: %v", what, err)
	}
	for _, r := range check.All(s) {
		if r.State == check.Outside {
			t.Errorf("%s: %s %g %s", what, r.ID, r.Value, r.Text)
		}
	}
}

// Every answer makes a rig that passes its own checks, at any size.
func TestTreads(t *testing.T) {
	t.Parallel()
	for i, length := range []float64{0.1, 50} {
		for j, ground := range begin.Grounds {
			for k, drive := range begin.Drives {
				if (i+j+k)%2 != 0 {
					continue // every second combination: each pair of answers once
				}
				d, err := begin.Tread(begin.TreadSpec{Length: length, Ground: ground, Drive: drive})
				if err != nil {
					t.Fatal(err)
				}
				passes(t, fmt.Sprintf("%g m, %s, %s", length, ground, drive), d)
			}
		}
	}
	for _, bad := range []begin.TreadSpec{{Length: math.NaN()}, {Length: -1}, {Length: 2, Ground: "mud"}, {Length: 2, Drive: "sails"}} {
		if _, err := begin.Tread(bad); err == nil {
			t.Errorf("%+v is accepted", bad)
		}
	}
}

func TestChains(t *testing.T) {
	t.Parallel()
	for i, pitch := range []float64{0.0127, 0.5} {
		for j, teeth := range [][2]int{{6, 6}, {17, 38}, {120, 7}} {
			for k, rpm := range []float64{-10, 0, 400} {
				if (i+j+k)%2 != 0 {
					continue
				}
				c := begin.ChainSpec{Pitch: pitch, Driver: teeth[0], Driven: teeth[1], RPM: rpm}
				d, err := begin.Chain(c)
				if err != nil {
					t.Fatal(err)
				}
				if n := d.Rigs[0].Train.Spacing.Count; n%2 != 0 {
					t.Errorf("%+v: %d links", c, n)
				}
				passes(t, fmt.Sprintf("chain %+v", c), d)
			}
		}
	}
	for _, bad := range []begin.ChainSpec{{0, 17, 38, 30}, {0.0127, 3, 38, 30}, {0.0127, 17, 9999, 30}, {0.0127, 17, 38, math.Inf(1)}} {
		if _, err := begin.Chain(bad); err == nil {
			t.Errorf("%+v is accepted", bad)
		}
	}
}

// Cables, creatures and walkers pass their own checks and loop, at any size; wrong answers are named.
func TestBodies(t *testing.T) {
	t.Parallel()
	for i, holder := range begin.Holders {
		for j, k := range []float64{0.1, 30} { // each of two slacks and strands with each holder once
			slack, strands := []float64{1.02, 2}[(i+j)%2], []int{1, 7}[j]
			d, err := begin.Cable(begin.CableSpec{Apart: 4 * k, Length: 4 * k * slack, Strands: strands, Holder: holder})
			if err != nil {
				t.Fatal(err)
			}
			passes(t, fmt.Sprintf("cable of %g m over %g m, %d strands, %s", 4*k*slack, 4*k, strands, holder), d)
		}
	}
	for k, length := range []float64{0.1, 40} {
		for _, does := range begin.Doings {
			waves := []float64{0.6, 2}[k]
			if does == begin.Doings[1] {
				waves = 0 // it glides: whatever is asked for
			}
			d, err := begin.Creature(begin.CreatureSpec{Length: length, Does: does, Waves: waves})
			if err != nil {
				t.Fatal(err)
			}
			passes(t, fmt.Sprintf("creature of %g m that %s, %g waves", length, does, waves), d)
		}
	}
	for _, w := range []begin.WalkerSpec{{1, 0.2, 36, 4}, {0.05, 0, 24, 7}, {20, 5.6, 48, 1}} {
		d, err := begin.Walker(w)
		if err != nil {
			t.Fatal(err)
		}
		passes(t, fmt.Sprintf("walker %v", w), d)
		// Its way goes from terrace to terrace: each copy ends and the next begins on the ground.
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		way, stride := s.Paths[0], d.Rigs[0].Body.Rounds.Stride
		if got := way.Length(); math.Abs(got-float64(w.Steps)*stride) > 1e-9*got {
			t.Errorf("%v: the way is %g m, its steps are %g m", w, got, float64(w.Steps)*stride)
		}
		for n := range w.Steps + 1 {
			p, _ := way.At(float64(n) * stride)
			want := float64(w.Steps+1-n)*w.Down + 0.021*w.Stride // on the wire's own thickness
			if math.Abs(p.Z-(float64(n)-float64(w.Steps)/2)*w.Stride) > 1e-9*w.Stride || math.Abs(p.Y-want) > 1e-9*w.Stride {
				t.Errorf("%v: step %d ends at %v", w, n, p)
			}
		}
	}
	for _, f := range []begin.FallingSpec{{24, 1.2, begin.Ways[0]}, {2, 0.05, begin.Ways[1]}, {60, 3, begin.Ways[0]}, {150, 0.048, begin.Ways[1]}, {24, 1.2, begin.Ways[2]}, {24, 1.2, begin.Ways[3]}} {
		d, err := begin.Falling(f)
		if err != nil {
			t.Fatal(err)
		}
		passes(t, fmt.Sprintf("falling run %v", f), d)
	}
	for _, h := range []begin.HangingSpec{{"", 0.6, 0.8, ""}, {begin.Hangings[1], 6, 2, "Sheet"}, {begin.Hangings[2], 1.2, 0.9, "Net"}} {
		d, err := begin.Hanging(h)
		if err != nil {
			t.Fatal(err)
		}
		passes(t, fmt.Sprintf("cloth %v", h), d)
	}
	for _, r := range []begin.RollSpec{{8, 1.6, "", ""}, {8, 1.6, "humps", "winds it up"}, {0.3, 0.1, "level", "lays it out"}, {120, 4, "humps", ""}} {
		d, err := begin.Roll(r)
		if err != nil {
			t.Fatal(err)
		}
		passes(t, fmt.Sprintf("roll %v", r), d)
	}
	for _, w := range []begin.WinchSpec{{6, 0.04, ""}, {0.3, 0.002, begin.Loads[1]}, {6, 0.04, begin.Loads[2]}, {40, 0.05, begin.Loads[2]}} {
		d, err := begin.Winch(w)
		if err != nil {
			t.Fatal(err)
		}
		passes(t, fmt.Sprintf("winch %v", w), d)
	}
	for _, err := range []error{
		second(begin.Hanging(begin.HangingSpec{"", 0, 1, ""})),
		second(begin.Hanging(begin.HangingSpec{"upside down", 1, 1, ""})),
		second(begin.Hanging(begin.HangingSpec{"", 1, 1, "lead"})),
		second(begin.Roll(begin.RollSpec{0, 1, "", ""})),
		second(begin.Roll(begin.RollSpec{1, math.NaN(), "", ""})),
		second(begin.Roll(begin.RollSpec{1, 1, "mud", ""})),
		second(begin.Roll(begin.RollSpec{1, 1, "", "flies"})),
		second(begin.Falling(begin.FallingSpec{1, 1, ""})),
		second(begin.Falling(begin.FallingSpec{10, math.NaN(), ""})),
		second(begin.Falling(begin.FallingSpec{10, 1, "up"})),
		second(begin.Walker(begin.WalkerSpec{0, 0, 36, 4})),
		second(begin.Walker(begin.WalkerSpec{1, 0.3, 36, 4})),
		second(begin.Walker(begin.WalkerSpec{1, 0.2, 3, 4})),
		second(begin.Walker(begin.WalkerSpec{1, 0.2, 36, 0})),
		second(begin.Winch(begin.WinchSpec{0, 0.04, ""})),
		second(begin.Winch(begin.WinchSpec{6, 1, ""})),
		second(begin.Winch(begin.WinchSpec{6, 0.04, "sinks"})),
		second(begin.Cable(begin.CableSpec{Apart: 4, Length: 4, Strands: 3, Holder: begin.Holders[0]})),
		second(begin.Cable(begin.CableSpec{Apart: 4, Length: 5, Strands: 0, Holder: begin.Holders[0]})),
		second(begin.Cable(begin.CableSpec{Apart: 4, Length: 5, Strands: 3, Holder: "hope"})),
		second(begin.Creature(begin.CreatureSpec{Length: 0, Does: begin.Doings[0]})),
		second(begin.Creature(begin.CreatureSpec{Length: 1, Does: "flies"})),
		second(begin.Creature(begin.CreatureSpec{Length: 1, Does: begin.Doings[0], Waves: 99})),
	} {
		if err == nil || !strings.Contains(err.Error(), "are") {
			t.Errorf("said %v", err)
		}
	}
}

func second(_ *scene.Document, err error) error { return err }
