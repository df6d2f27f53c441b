package rig_test

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
)

// What a machine rolls while it turns and drives at once, by the integral of its speed along its
// forward, v/w sin(w t), and what its turn makes at the sides; also before and behind the table
// that is kept for the range.
func TestRolledWhileTurningAndMoving(t *testing.T) {
	const v, w, b = 0.8, 36 * math.Pi / 180, 0.7
	s := moving(t, `"at":[0,0,{"speed":0.8}],"turn":{"heading":{"speed":36}}`, rolls, "")
	for _, f := range []float64{-400, -30.5, 1, 20, 96, 150, 700} {
		seconds := (f - 1) / 24
		middle := v / w * math.Sin(w*seconds)
		for side, want := range []float64{middle - b*w*seconds, middle + b*w*seconds} {
			if got := s.Rigs[side].Travel(f); math.Abs(got-want) > 1e-6 {
				t.Errorf("side %d at frame %g: %v, want %v", side, f, got, want)
			}
		}
	}
}

// By distance the piece with the longest way sets out first: from the path's end that is the
// first of them.
func TestArrivalsByDistanceFromTheEnd(t *testing.T) {
	for end, first := range map[string]int{"start": 9, "end": 0} {
		s := compile(t, `{"line":{"from":[0,0,0],"to":[0,0,9]}}`, box, `{"mode":"set count","count":10}`,
			`"facing":{"mode":"steady"},"travel":0,"arrive":{"first":5,"delay":3,"takes":10,"order":"by distance","end":"`+end+`"}`)
		var p rig.Picture
		s.Frame(&p, 5)
		for i := range 10 {
			if shown := p.Rigs[0].Transforms[i*rig.Stride+7] != 0; shown != (i == first) {
				t.Errorf("from the %s: piece %d shown: %v", end, i+1, shown)
			}
		}
	}
}

// A box on its path dips into the ground by what is measured at right angles to a slope, and is
// near its tolerance of 2 mm from two thirds of it on.
func TestDipOnASlope(t *testing.T) {
	for _, tc := range []struct {
		dip   float64
		state check.State
	}{{0.0012, check.Inside}, {0.0014, check.Near}, {0.0021, check.Outside}} {
		up := (0.025 - tc.dip) * math.Sqrt2
		s := whole(t, fmt.Sprintf(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":2},"ground":{"points":[{"z":-9,"height":-9},{"z":9,"height":9}]},
"paths":[{"id":"p","name":"p","shape":{"line":{"from":[0,%g,-3],"to":[0,%g,3]}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.05,"length":0.05}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":50},"facing":{"mode":"steady"},"travel":0}]}`, up-3, up+3))
		for _, r := range check.All(s) {
			if r.ID == "floor" && (math.Abs(r.Value-tc.dip) > 1e-6 || r.State != tc.state) {
				t.Errorf("a dip of %g is measured as %g, %s", tc.dip, r.Value, r.State)
			}
		}
	}
}

// Of a closed train pieces are alike again only after a part of the whole round: of six with
// every fourth another one, after all six.
func TestPatternDividesTheRound(t *testing.T) {
	for every, want := range map[int]int{2: 2, 3: 3, 4: 6} {
		s := whole(t, fmt.Sprintf(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":2},"paths":[{"id":"p","name":"p","shape":{"circle":{"centre":[0,2,0],"radius":1}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}},{"id":"b","name":"b","shape":{"box":{"side":0.2,"height":0.1,"length":0.1}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":6},"facing":{"mode":"loopside"},"travel":0,"others":[{"part":"b","every":%d}]}]}`, every))
		if got := s.Rigs[0].Pattern(); got != want {
			t.Errorf("every %d: alike after %d, want %d", every, got, want)
		}
	}
}

// Beads of a wave that go along with a rig on a loop are counted the shorter way: it swings as
// far ahead of the rig as behind it, also across the seam.
func TestWaveGoesAlongOverTheSeam(t *testing.T) {
	s := whole(t, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[{"id":"way","name":"way","shape":{"circle":{"centre":[0,0,0],"radius":10,"plane":"above"}},"steps":[{"wave":{"side":0.1,"wavelength":0.5,"with":"eel","amount":[{"at":-3,"share":0},{"at":-1,"share":1},{"at":1,"share":1},{"at":3,"share":0}]}}]}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"rigs":[{"id":"eel","name":"eel","kind":"rider","path":"way","part":"a","facing":{"mode":"steady"},"travel":0}]}`)
	c := s.Paths[0]
	swing := func(from, to float64) (most float64) { // off the circle, by the angle from the start
		for d := 0.0; d < c.Length(); d += 0.01 {
			p, _ := c.At(d)
			q, _ := c.At(0)
			if a := 10 * math.Atan2(q.Cross(p).Y, q.Dot(p)); a > from && a < to {
				most = max(most, math.Abs(math.Hypot(p.X, p.Z)-10))
			}
		}
		return most
	}
	for _, stretch := range [][2]float64{{0, 1}, {-1, 0}} {
		if got := swing(stretch[0], stretch[1]); math.Abs(got-0.1) > 0.005 {
			t.Errorf("from %g to %g m of the rig it swings by %g, want 0.1", stretch[0], stretch[1], got)
		}
	}
	if got := swing(4, 28); got > 1e-3 {
		t.Errorf("far from the rig it swings by %g", got)
	}
}

// Least twist on a loop that changes its shape is followed from frame to frame: where what is
// left at the seam passes half of what the part's symmetry lets go, no piece springs round.
func TestLeastTwistIsFollowed(t *testing.T) {
	s := whole(t, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":49},
"paths":[{"id":"p","name":"p","shape":{"spline":{"closed":true,"points":[{"at":[0,0,0]},{"at":[0,0,2]},{"at":[1.5,0,3]},{"at":[3,0,2]},{"at":[3,0,0]}]}}}],
"tugs":[{"id":"a","name":"a","path":"p","points":[2],"pull":[0,{"keys":[{"frame":1,"value":0},{"frame":49,"value":1.6}]},0]},{"id":"b","name":"b","path":"p","points":[3],"pull":[{"keys":[{"frame":1,"value":0},{"frame":49,"value":-1}]},0,0]}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":12},"facing":{"mode":"least-twist","symmetry":36},"travel":0}]}`)
	up := func(p *rig.Picture, i int) geom.Vec {
		x := p.Rigs[0].Transforms[i*rig.Stride:]
		return geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}.Apply(geom.V(0, 1, 0))
	}
	var before [12]float64
	for f := 2; f <= 49; f++ {
		a, b := shot(s, f-1), shot(s, f)
		for i := range 12 {
			turn := geom.Angle(up(a, i), up(b, i)) * 180 / math.Pi
			if f > 2 && math.Abs(turn-before[i]) > 1.5 {
				t.Fatalf("piece %d turns by %.1f degrees up to frame %d and by %.1f in the frame before", i+1, turn, f, before[i])
			}
			before[i] = turn
		}
	}
}

// Equal chords round an ellipse with half axes of 2 and 0.5 do not close at every place: by how
// much is told, and a circle's close everywhere. (12 chords: their closing length lies between
// that of chords with a corner at the tip and that of chords with a corner beside it; brute
// force here, by walking round from 64 places.)
func TestUnavoidableSpread(t *testing.T) {
	pins := func(shape string, n int) (least float64) {
		s := compile(t, shape, box, fmt.Sprintf(`{"mode":"set count","count":%d}`, n), `"seat":"ends","facing":{"mode":"loopside"},"travel":0`)
		return s.Rigs[0].Unavoidable()
	}
	for _, n := range []int{12, 40} {
		if got := pins(`{"circle":{"centre":[0,2,0],"radius":1}}`, n); got > 1e-9 {
			t.Errorf("%d chords round a circle: %g", n, got)
		}
		// Walked round on the ellipse itself, by its parameter.
		at := func(a float64) (x, y float64) { return 2 * math.Cos(a), 0.5 * math.Sin(a) }
		end := func(from, chord float64) float64 { // the parameter after n chords
			a := from
			for range n {
				x, y := at(a)
				lo, hi := a, a+1.5
				for range 60 {
					mid := (lo + hi) / 2
					if u, v := at(mid); math.Hypot(u-x, v-y) < chord {
						lo = mid
					} else {
						hi = mid
					}
				}
				a = lo
			}
			return a - from
		}
		least, most := math.Inf(1), 0.0
		for k := range 64 {
			from := 2 * math.Pi * float64(k) / 64
			lo, hi := 0.05, 0.9
			for range 50 {
				if mid := (lo + hi) / 2; end(from, mid) < 2*math.Pi {
					lo = mid
				} else {
					hi = mid
				}
			}
			least, most = min(least, lo), max(most, lo)
		}
		got := pins(`{"ellipse":{"centre":[0,2,0],"along":2,"across":0.5}}`, n)
		if want := most - least; math.Abs(got-want) > 0.05*want {
			t.Errorf("%d chords: %g, brute force %g", n, got, want)
		}
	}
}

// What is large may dip into the ground by a hundredth of its pitch; of what is small 2 mm remain
// the bound, and the state follows the two alike.
func TestTolerancesGoWithSize(t *testing.T) {
	for _, tc := range []struct {
		size, dip, tolerance float64
		state                check.State
	}{
		{0.1, 0.0012, 0.002, check.Inside},
		{0.1, 0.0021, 0.002, check.Outside},
		{1, 0.006, 0.01, check.Inside},
		{1, 0.009, 0.01, check.Near},
		{1, 0.011, 0.01, check.Outside},
		{8, 0.05, 0.08, check.Inside},
		{8, 0.081, 0.08, check.Outside},
	} {
		up := tc.size/4 - tc.dip
		s := whole(t, fmt.Sprintf(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":4},
"paths":[{"id":"p","name":"p","shape":{"line":{"from":[0,%g,0],"to":[0,%g,%g]}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":%g,"height":%g,"length":%g}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":5},"facing":{"mode":"steady"},"travel":0}]}`,
			up, up, 4*tc.size, tc.size/2, tc.size/2, tc.size/2))
		found := false
		for _, r := range check.All(s) {
			if r.ID != "floor" {
				continue
			}
			found = true
			if math.Abs(r.Tolerance-tc.tolerance) > 1e-9 || math.Abs(r.Value-tc.dip) > 1e-6 || r.State != tc.state {
				t.Errorf("boxes every %g m, %g m deep: %g of %g, %s", tc.size, tc.dip, r.Value, r.Tolerance, r.State)
			}
		}
		if !found {
			t.Errorf("boxes every %g m: the floor is not looked at", tc.size)
		}
	}
}

// The period of a list, against trying each from 1 on.
func TestPeriod(t *testing.T) {
	try := func(list []int, round bool) int {
	next:
		for m := 1; m < len(list); m++ {
			for i := range list {
				j := i + m
				if j >= len(list) {
					if !round {
						break
					}
					j %= len(list)
				}
				if list[i] != list[j] {
					continue next
				}
			}
			return m
		}
		return max(len(list), 1)
	}
	rng := rand.New(rand.NewPCG(3, 5))
	for range 3000 {
		list := make([]int, rng.IntN(24))
		for i := range list {
			list[i] = rng.IntN(2)
			if every := 1 + rng.IntN(6); i >= every && rng.IntN(12) > 0 {
				list[i] = list[i-every]
			}
		}
		for _, round := range []bool{true, false} {
			if got, want := rig.Period(list, round), try(list, round); got != want {
				t.Fatalf("%v, round %v: %d, want %d", list, round, got, want)
			}
		}
	}
}

// Who is in a ring is named with its place, each from itself on.
func TestRingsNameAllPlaces(t *testing.T) {
	d, err := scene.Decode([]byte(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":9},"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"paths":[{"id":"p","name":"p","shape":{"circle":{"centre":[0,1,0],"radius":1}}}],
"rigs":[{"id":"r","name":"R","path":"p","part":"a","train":{"spacing":{"mode":"set count","count":7}},"facing":{"mode":"loopside"},"travel":{"of":"rigs/s/travel"}},
{"id":"s","name":"S","path":"p","part":"a","train":{"spacing":{"mode":"set count","count":7}},"facing":{"mode":"loopside"},"travel":{"of":"rigs/u/travel"}},
{"id":"u","name":"U","path":"p","part":"a","train":{"spacing":{"mode":"set count","count":7}},"facing":{"mode":"loopside"},"travel":{"of":"rigs/r/travel"}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	_, err = rig.Compile(d)
	var faults scene.Faults
	if !errors.As(err, &faults) || len(faults) != 3 {
		t.Fatalf("%v", err)
	}
	for k, want := range []string{"R travel needs S travel, which needs U travel, which needs R travel", "S travel needs U", "U travel needs R"} {
		if f := faults[k]; f.Address != fmt.Sprintf("rigs[%d].travel", k) || !strings.Contains(f.Message, want) {
			t.Errorf("%s: %s", f.Address, f.Message)
		}
	}
}
