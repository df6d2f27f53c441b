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

// passes compiles what was begun and checks it. On rough ground the machine does not stand
// at the end as it stood at the beginning, and a chain's turns are as many as asked.
func passes(t *testing.T, what string, d *scene.Document, loop bool) {
	t.Helper()
	if faults := d.Check(); len(faults) > 0 {
		t.Fatalf("%s: %v", what, faults)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatalf("%s: %v", what, err)
	}
	for _, r := range check.All(s) {
		if r.State == check.Outside && (r.ID != "loop" || loop) {
			t.Errorf("%s: %s %g %s", what, r.ID, r.Value, r.Text)
		}
	}
}

// Every answer makes a rig that passes its own checks, at any size.
func TestTreads(t *testing.T) {
	for _, length := range []float64{0.3, 5.41, 20} {
		for _, ground := range begin.Grounds {
			for _, drive := range begin.Drives {
				if ground != "level" && length != 5.41 {
					continue
				}
				d, err := begin.Tread(begin.TreadSpec{Length: length, Ground: ground, Drive: drive})
				if err != nil {
					t.Fatal(err)
				}
				passes(t, ground+", "+drive, d, ground != "rough")
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
	for _, c := range []begin.ChainSpec{{0.0127, 17, 38, 30}, {0.0254, 11, 11, -10}, {0.009525, 40, 13, 0}, {0.5, 6, 60, 2}} {
		d, err := begin.Chain(c)
		if err != nil {
			t.Fatal(err)
		}
		if n := d.Rigs[0].Spacing.Count; n%2 != 0 {
			t.Errorf("%+v: %d links", c, n)
		}
		passes(t, "chain", d, false)
	}
	for _, bad := range []begin.ChainSpec{{0, 17, 38, 30}, {0.0127, 3, 38, 30}, {0.0127, 17, 9999, 30}, {0.0127, 17, 38, math.Inf(1)}} {
		if _, err := begin.Chain(bad); err == nil {
			t.Errorf("%+v is accepted", bad)
		}
	}
}

// Cables, creatures and walkers pass their own checks and loop, at any size; wrong answers are named.
func TestBodies(t *testing.T) {
	for _, k := range []float64{0.1, 1, 30} {
		for _, holder := range begin.Holders {
			d, err := begin.Cable(begin.CableSpec{Apart: 4 * k, Length: 5 * k, Strands: 3, Holder: holder})
			if err != nil {
				t.Fatal(err)
			}
			passes(t, fmt.Sprintf("cable of %g m, %s", 5*k, holder), d, true)
		}
	}
	for _, does := range begin.Doings {
		d, err := begin.Creature(begin.CreatureSpec{Length: 1.2, Does: does, Waves: 1.1})
		if err != nil {
			t.Fatal(err)
		}
		passes(t, "creature that "+does, d, true)
	}
	for _, w := range []begin.WalkerSpec{{1, 0.2, 36}, {0.05, 0, 24}, {20, 5.6, 48}} {
		d, err := begin.Walker(w)
		if err != nil {
			t.Fatal(err)
		}
		passes(t, fmt.Sprintf("walker %v", w), d, true)
		// Its way goes from terrace to terrace: each copy ends and the next begins on the ground.
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		way, stride := s.Paths[0], d.Rigs[0].Bend.Rounds.Stride
		if got := way.Length(); math.Abs(got-4*stride) > 1e-9*got {
			t.Errorf("%v: the way is %g m, four steps are %g m", w, got, 4*stride)
		}
		for n := range 5 {
			p, _ := way.At(float64(n) * stride)
			want := float64(5-n)*w.Down + 0.021*w.Stride // on the wire's own thickness
			if math.Abs(p.Z-(float64(n)-2)*w.Stride) > 1e-9*w.Stride || math.Abs(p.Y-want) > 1e-9*w.Stride {
				t.Errorf("%v: step %d ends at %v", w, n, p)
			}
		}
	}
	for _, err := range []error{
		second(begin.Walker(begin.WalkerSpec{0, 0, 36})),
		second(begin.Walker(begin.WalkerSpec{1, 0.3, 36})),
		second(begin.Walker(begin.WalkerSpec{1, 0.2, 3})),
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
