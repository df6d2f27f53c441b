package report_test

import (
	"math"
	"testing"

	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
)

func compiled(t *testing.T, lists string) *rig.Scene {
	t.Helper()
	d, err := scene.Decode([]byte(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":24},` + lists + `}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// What is told of a slot with a train on it is what its closed forms say.
func TestOfASlot(t *testing.T) {
	r := report.Of(compiled(t, `"parts":[{"id":"shoe","name":"Shoe","shape":{"shoe":{"length":0.19,"width":0.5,"height":0.04,"grouser":0.03,"horn":0.06}}}],
"paths":[{"id":"p","name":"p","shape":{"slot":{"centre":[0,1,0],"length":3,"radius":0.5}}}],
"rigs":[{"id":"r","name":"r","path":"p","part":"shoe","facing":{"mode":"loopside"},"travel":{"speed":0.2},"train":{"spacing":{"mode":"close up","pitch":0.19}}}]`))
	p, g := r.Paths[0], r.Rigs[0]
	if math.Abs(p.Length-6-math.Pi) > 1e-12 || math.Abs(p.TightestRadius-0.5) > 1e-9 || p.OffPlane > 1e-12 || !p.Closed {
		t.Errorf("path readout %+v", p)
	}
	if g.Count != 48 || math.Abs(g.Gap-(p.Length/48-0.19)) > 1e-12 || g.Asked != 0.19 || !g.Row || g.Jointed {
		t.Errorf("rig readout %+v", g)
	}
	// Curvature is 0 on straights and +1/r on the bends, which turn with the loop.
	for i, k := range p.Curvature {
		if math.Abs(k) > 1e-9 && math.Abs(k-2) > 1e-9 {
			t.Fatalf("curvature sample %d is %g, want 0 or 2", i, k)
		}
	}
}

// A chain's usual spare length hangs where the centres are so near that the exact length round
// its pitch circles is a tenth of a pitch short of the links.
func TestCentresOfAHangingChain(t *testing.T) {
	s := compiled(t, `"parts":[],"rigs":[],
"paths":[{"id":"c","name":"c","shape":{"wrap":{"wheels":[{"name":"a","at":[0,1,0],"teeth":17,"pitch":0.0127},{"name":"b","at":[0,1,0.36],"teeth":38,"pitch":0.0127}]}}}]`)
	c := report.Of(s).Paths[0].Chain
	if c == nil || len(c.Links) != 5 {
		t.Fatalf("%+v", c)
	}
	r := func(teeth float64) float64 { return 0.0127 / 2 / math.Sin(math.Pi/teeth) }
	for _, l := range c.Links {
		for _, at := range []struct{ centres, links float64 }{{l.Centres, float64(l.Links)}, {l.Hangs, float64(l.Links) - 0.1}} {
			// Two tangents and two arcs, each arc counted in the pitches that its teeth take.
			lean := math.Asin((r(38) - r(17)) / at.centres)
			length := 2*at.centres*math.Cos(lean)/0.0127 + 17*(math.Pi-2*lean)/(2*math.Pi)*arcOf(17) + 38*(math.Pi+2*lean)/(2*math.Pi)*arcOf(38)
			if math.Abs(length-at.links) > 1e-9*length {
				t.Errorf("%d links at %g m: %g pitches, want %g", l.Links, at.centres, length, at.links)
			}
		}
	}
}

// arcOf is the arc of a tooth on its pitch circle, in pitches.
func arcOf(teeth float64) float64 { return math.Pi / teeth / math.Sin(math.Pi/teeth) }
