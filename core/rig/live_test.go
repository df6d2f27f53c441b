package rig_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/rig"
)

// A path that moves is, at any frame, the path that stands as it does then: its steps before the wave, which
// stand still and are taken once, and those after it.
func TestMovingPathIsTheOneThatStands(t *testing.T) {
	at := func(phase, up string) *rig.Scene {
		steps := `,"steps":[{"offset":{"distance":0.02,"plane":"above"}},{"join":{"paths":["v"],"snap":0.01,"smooth":true}},{"resample":{"count":12}},
			{"wave":{"side":0.05,"up":` + up + `,"wavelength":0.4,"phase":` + phase + `}},{"extend":{"before":0.1,"after":0.1}}]`
		return whole(t, large(40, wavy("w", 4, steps)+","+strings.ReplaceAll(wavy("v", 5, ""), `[0,0,0]`, `[0,0,-0.4]`), train("r", 3, ""), ""))
	}
	moving := at(`{"speed":2}`, `{"keys":[{"frame":1,"value":0},{"frame":41,"value":0.04}]}`)
	var pic rig.Picture
	for _, f := range []float64{1, 7.5, 40} {
		stands := at(fmt.Sprint(2*(f-1)/24), fmt.Sprint(0.04*(f-1)/40)).Paths[0]
		moving.At(&pic, f)
		got := pic.Curves[0]
		if got.Length() != stands.Length() {
			t.Fatalf("frame %g: %.17g m, want %.17g m", f, got.Length(), stands.Length())
		}
		for k := range 50 {
			s := stands.Length() * float64(k) / 49
			p, _ := got.At(s)
			q, _ := stands.At(s)
			if p != q {
				t.Fatalf("frame %g at %g m: %v, want %v", f, s, p, q)
			}
		}
	}
}

// Whole waves over the range: what swims on the spot is after the loop as it was before it, and
// the body keeps its length in every frame.
func TestWaveLoops(t *testing.T) {
	s := bending(t, along+`,"steps":[{"wave":{"side":0.12,"up":0.05,"wavelength":0.8,"phase":{"speed":-1.5}}}]`, rod, steady+`,"travel":0.7`)
	a, b, c := shot(s, 1), shot(s, 49), shot(s, 20)
	far := 0.0
	for i := range a.Rigs[0].Positions {
		if d := math.Abs(float64(a.Rigs[0].Positions[i] - b.Rigs[0].Positions[i])); d > 2e-6 {
			t.Fatalf("float %d jumps by %g", i, d)
		}
		far = max(far, math.Abs(float64(a.Rigs[0].Positions[i]-c.Rigs[0].Positions[i])))
	}
	if far < 0.05 {
		t.Errorf("the wave moves nothing by more than %g", far)
	}
	for f := 1; f <= 48; f++ {
		curve := shot(s, f).Curves[0]
		// A wave does not change which way it goes on the whole, only how long it is.
		if l := curve.Between(0, curve.Length()); math.Abs(l-curve.Length()) > 1e-9*l {
			t.Fatalf("frame %d: %g measured as %g", f, l, curve.Length())
		}
		if r := shot(s, f).Rigs[0].Reach[0]; math.Abs(r.Head-r.Tail-1.2) > 1e-7 {
			t.Fatalf("frame %d: the body is %g long", f, r.Head-r.Tail)
		}
	}
}

// One turn of a sine of amplitude 1 is 4 sqrt(2) E(1/2) = 7.640395578 long (DLMF 19; from
// memory), and a wave on a straight line is that.
func TestWaveIsASine(t *testing.T) {
	s := bending(t, fmt.Sprintf(`"shape":{"line":{"from":[0,0,0],"to":[0,0,%v]}},"steps":[{"wave":{"side":1,"wavelength":%v}}]`, 2*math.Pi, 2*math.Pi), rod, steady+`,"travel":0`)
	if got := s.Paths[0].Length(); math.Abs(got-7.640395578) > 1e-4*7.64 { // within the chord error of a wave
		t.Errorf("%.9f long, not 7.640395578", got)
	}
	p, _ := s.Paths[0].At(s.Paths[0].Length() / 4)
	if math.Abs(p.X-1) > 3e-4 {
		t.Errorf("a quarter along it stands %g to the side", p.X)
	}
}

// What lags comes to rest where it is drawn to, and overshoots on the way as a second-order
// follow does: 37.23 % at a damping of 0.3 (MATH 10).
func TestLagOvershoots(t *testing.T) {
	s := whole(t, `{"bead":1,"name":"t","fps":240,"range":{"first":1,"last":900},
"carriers":[{"id":"c","name":"c","at":[{"keys":[{"frame":1,"value":0,"shape":"stepped"},{"frame":60,"value":1}]},0,0]}],
"paths":[{"id":"way","name":"way","carrier":"c","shape":{"line":{"from":[0,1,0],"to":[0,1,2]}},"steps":[{"lag":{"from":0.5,"to":1.5,"frequency":2,"damping":0.3}}]}],
"parts":[{"id":"b","name":"b","shape":{"tube":{"length":1,"radius":0.02}}}],
"rigs":[{"id":"r","name":"r","kind":"bend","path":"way","part":"b","facing":{"mode":"steady"},"travel":0}]}`)
	most, last, root := 0.0, 0.0, 0.0
	for f := 1; f <= 900; f += 2 {
		p := shot(s, f)
		curve := p.Curves[0]
		x := float64(p.Paths[0][0])
		end, _ := curve.At(curve.Length())
		begin, _ := curve.At(0)
		most, last = max(most, x+end.X-1), x+end.X
		root = max(root, math.Abs(begin.X))
	}
	if math.Abs(most-0.3723) > 2e-3 {
		t.Errorf("overshoots by %.4f, not 0.3723", most)
	}
	if math.Abs(last-1) > 1e-3 || root > 1e-12 {
		t.Errorf("comes to rest at %g, and its held end strays by %g", last, root)
	}
}

// Waves run with the path as their phase grows: a quarter of a wave on, the crest stands half a wave from
// the start and no longer a quarter.
func TestWavesRunAhead(t *testing.T) {
	s := bending(t, along+`,"steps":[{"wave":{"side":0.1,"wavelength":1,"phase":0.25}}]`, rod, steady+`,"travel":0`)
	best, at := 0.0, 0.0
	for d := 0.0; d < 0.9; d += 0.002 {
		if p, _ := s.Paths[0].At(d); p.X > best {
			best, at = p.X, p.Z
		}
	}
	if math.Abs(best-0.1) > 1e-4 || math.Abs(at-0.5) > 0.01 {
		t.Errorf("a crest of %g stands at %g", best, at)
	}
}

// On a closed path the waves are a whole number, whatever their wish: it goes on over the seam.
func TestWavesCloseOnALoop(t *testing.T) {
	// An upright one, too: where it runs straight up the wave does not change sides.
	upright := bending(t, `"shape":{"circle":{"centre":[0,0,0],"radius":1}},"steps":[{"wave":{"side":0.2,"wavelength":0.95}}]`, rod, `"facing":{"mode":"least-twist"},"travel":0`)
	for k := range 7 {
		c := upright.Paths[0]
		if p, _ := c.At(c.Length() * float64(k) / 7); math.Abs(p.X) > 1e-3 {
			t.Errorf("upright, wave %d begins %g beside the circle", k+1, p.X)
		}
	}
	s := bending(t, `"shape":{"circle":{"centre":[0,0,0],"radius":1,"plane":"above"}},"steps":[{"wave":{"side":0.2,"wavelength":0.95}}]`, rod, `"facing":{"mode":"least-twist"},"travel":0`)
	c := s.Paths[0]
	p, u := c.At(1e-6)
	q, v := c.At(c.Length() - 1e-6)
	if p.Sub(q).Norm() > 1e-5 || u.Sub(v).Norm() > 1e-3 {
		t.Errorf("the seam opens by %g and turns by %g", p.Sub(q).Norm(), u.Sub(v).Norm())
	}
	for k := range 7 { // each wave is a seventh of the loop, and begins on the circle
		if p, _ := c.At(c.Length() * float64(k) / 7); math.Abs(p.Norm()-1) > 1e-3 {
			t.Errorf("wave %d begins at radius %g", k+1, p.Norm())
		}
	}
}

// A jitter with beats moves and comes back with the range.
func TestJitterComesRound(t *testing.T) {
	s := bending(t, along+`,"steps":[{"jitter":{"seed":3,"amount":0.05,"grain":0.6,"beats":2}}]`, rod, steady+`,"travel":0.5`)
	first, half, again := shot(s, 1).Rigs[0].Positions, shot(s, 10).Rigs[0].Positions, shot(s, 49).Rigs[0].Positions
	moved, back := 0.0, 0.0
	for i := range first {
		moved, back = max(moved, math.Abs(float64(first[i]-half[i]))), max(back, math.Abs(float64(first[i]-again[i])))
	}
	if moved < 0.01 || back > 1e-6 {
		t.Errorf("it moves by %g and is off by %g after the range", moved, back)
	}
}

// Beyond its last frame a lag comes to rest within one swing, and before its first nothing gives way.
func TestLagWithinFrames(t *testing.T) {
	s := whole(t, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":96},
"carriers":[{"id":"c","name":"c","at":[{"keys":[{"frame":1,"value":0,"shape":"eased"},{"frame":12,"value":1,"shape":"eased"},{"frame":24,"value":0}],"after":"repeat","before":"repeat"},0,0]}],
"paths":[{"id":"way","name":"way","carrier":"c","shape":{"line":{"from":[0,1,0],"to":[0,1,2]}},"steps":[{"lag":{"frequency":2,"damping":0.2,"first":30,"last":50}}]}],
"parts":[{"id":"b","name":"b","shape":{"tube":{"length":1,"radius":0.02}}}],
"rigs":[{"id":"r","name":"r","kind":"bend","path":"way","part":"b","facing":{"mode":"steady"},"travel":0}]}`)
	for f, lags := range map[int]bool{29: false, 45: true, 56: true, 63: false, 90: false} {
		c := shot(s, f).Curves[0]
		if end, _ := c.At(c.Length()); (math.Abs(end.X) > 1e-4) != lags {
			t.Errorf("frame %d: its end stands %g beside where it is drawn to", f, end.X)
		}
	}
}
