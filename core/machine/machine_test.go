package machine_test

import (
	"context"
	"fmt"
	"math"
	"testing"

	"bead/core/machine"
	"bead/core/scene"
)

// made is the machine of a document without rigs, of what its lists hold.
func made(t testing.TB, frames int, lists string) *machine.Machine {
	t.Helper()
	m, err := build(fmt.Sprintf(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":%d},"parts":[],"rigs":[],%s}`, frames, lists))
	if err != nil {
		t.Fatal(err)
	}
	return m
}

func build(doc string) (*machine.Machine, error) {
	d, err := scene.Decode([]byte(doc))
	if err != nil {
		return nil, err
	}
	ctx := context.Background()
	b := machine.Begin(ctx, d, machine.Sources{}, nil) // no path asks for a rig
	b.Make()
	b.Values()
	return b.Machine, b.End(ctx)
}

// bent is a path with steps.
func bent(t testing.TB, shape, steps string) *machine.Machine {
	t.Helper()
	return made(t, 48, fmt.Sprintf(`"paths":[{"id":"way","name":"way","shape":%s,"steps":[%s]}]`, shape, steps))
}

const along = `{"line":{"from":[0,0,0],"to":[0,0,3]}}`

func Example() {
	m, err := build(`{"bead":2,"name":"Winch","fps":24,"range":{"first":1,"last":25},"parts":[],"rigs":[],
"carriers":[{"id":"boat","name":"Boat","at":[{"speed":2},0,0]}],
"paths":[{"id":"rope","name":"Rope","carrier":"boat","shape":{"line":{"from":[0,0,0],"to":[0,0,3]}}}]}`)
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Printf("%.0f m of rope; after a second the boat is at %.0f m\n", m.Paths[0].Length(), m.PathPlace(0, 25).P.X)
	// Output: 3 m of rope; after a second the boat is at 2 m
}

// What a tug holds gives way on either side of it, on a closed path over the seam too: of a
// square held at its first corner both neighbours come half as far, the smoothstep of a half.
func TestTugReachesOverTheSeam(t *testing.T) {
	m := made(t, 2, `"paths":[{"id":"p","name":"p","shape":{"polyline":{"closed":true,"points":[[0,0,0],[0,0,1],[1,0,1],[1,0,0]]}}}],
"tugs":[{"id":"t","name":"t","path":"p","points":[1],"pull":[0,1,0],"reach":2}]`)
	c := m.CurveAt(0, 1)
	for k, want := range []float64{1, 0.5, 0, 0.5} {
		if p, _ := c.At(c.SpanStart(k)); math.Abs(p.Y-want) > 1e-9 {
			t.Errorf("corner %d comes up by %g, want %g", k+1, p.Y, want)
		}
	}
}

// A carrier that rides level has the path's heading and stays upright where the path climbs.
func TestRidesLevel(t *testing.T) {
	s := made(t, 2, `"paths":[{"id":"p","name":"p","shape":{"line":{"from":[0,0,0],"to":[3,4,3]}}}],
"carriers":[{"id":"c","name":"c","at":[0,0,0],"ride":{"path":"p","distance":1,"turning":"level"}}]`)
	m := s.CarrierPlace(0, 1)
	if math.Abs(m.Y.Y-1) > 1e-12 || math.Abs(m.Z.X-math.Sqrt(0.5)) > 1e-12 || math.Abs(m.Z.Z-math.Sqrt(0.5)) > 1e-12 {
		t.Errorf("up %v, forward %v", m.Y, m.Z)
	}
}

// A carrier that turns on and on keeps doing so when it rides on another: from key to key its
// angles never go the long way round.
func TestReparentUnwindsAngles(t *testing.T) {
	s := made(t, 96, `"paths":[],"carriers":[{"id":"body","name":"b","at":[0,0,0],"turn":{"heading":{"speed":300}}},
{"id":"barge","name":"B","at":[{"speed":0.4},0,1],"turn":{"heading":{"speed":-70}}}]`)
	moved, err := s.Reparent(machine.KindCarrier, "body", "barge", 1)
	if err != nil {
		t.Fatal(err)
	}
	keys := moved.Carriers[0].Turn.Heading.Keys
	if len(keys) != 96 {
		t.Fatalf("%d keys", len(keys))
	}
	for k := 1; k < len(keys); k++ { // 370 degrees a second seen from the barge
		if step := keys[k].Value - keys[k-1].Value; math.Abs(step-370.0/24) > 1e-6 {
			t.Fatalf("from frame %d to %d it turns by %g degrees", k, k+1, step)
		}
	}
}

// One turn of a sine of amplitude 1 is 4 sqrt(2) E(1/2) = 7.640395578 long (DLMF 19; from
// memory), and a wave on a straight line is that.
func TestWaveIsASine(t *testing.T) {
	s := bent(t, fmt.Sprintf(`{"line":{"from":[0,0,0],"to":[0,0,%v]}}`, 2*math.Pi), fmt.Sprintf(`{"wave":{"side":1,"wavelength":%v}}`, 2*math.Pi))
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
	s, err := build(`{"bead":2,"name":"t","fps":240,"range":{"first":1,"last":900},"parts":[],"rigs":[],
"carriers":[{"id":"c","name":"c","at":[{"keys":[{"frame":1,"value":0,"shape":"stepped"},{"frame":60,"value":1}]},0,0]}],
"paths":[{"id":"way","name":"way","carrier":"c","shape":{"line":{"from":[0,1,0],"to":[0,1,2]}},"steps":[{"lag":{"from":0.5,"to":1.5,"frequency":2,"damping":0.3}}]}]}`)
	if err != nil {
		t.Fatal(err)
	}
	most, last, root := 0.0, 0.0, 0.0
	for f := 1; f <= 900; f += 2 {
		curve, x := s.CurveAt(0, float64(f)), s.PathPlace(0, float64(f)).P.X
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
	s := bent(t, along, `{"wave":{"side":0.1,"wavelength":1,"phase":0.25}}`)
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
	upright := bent(t, `{"circle":{"centre":[0,0,0],"radius":1}}`, `{"wave":{"side":0.2,"wavelength":0.95}}`)
	for k := range 7 {
		c := upright.Paths[0]
		if p, _ := c.At(c.Length() * float64(k) / 7); math.Abs(p.X) > 1e-3 {
			t.Errorf("upright, wave %d begins %g beside the circle", k+1, p.X)
		}
	}
	s := bent(t, `{"circle":{"centre":[0,0,0],"radius":1,"plane":"above"}}`, `{"wave":{"side":0.2,"wavelength":0.95}}`)
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

// Beyond its last frame a lag comes to rest within one swing, and before its first nothing gives way.
func TestLagWithinFrames(t *testing.T) {
	s := made(t, 96, `"carriers":[{"id":"c","name":"c","at":[{"keys":[{"frame":1,"value":0,"shape":"eased"},{"frame":12,"value":1,"shape":"eased"},{"frame":24,"value":0}],"after":"repeat","before":"repeat"},0,0]}],
"paths":[{"id":"way","name":"way","carrier":"c","shape":{"line":{"from":[0,1,0],"to":[0,1,2]}},"steps":[{"lag":{"frequency":2,"damping":0.2,"first":30,"last":50}}]}]`)
	for f, lags := range map[int]bool{29: false, 45: true, 56: true, 63: false, 90: false} {
		c := s.CurveAt(0, float64(f))
		if end, _ := c.At(c.Length()); (math.Abs(end.X) > 1e-4) != lags {
			t.Errorf("frame %d: its end stands %g beside where it is drawn to", f, end.X)
		}
	}
}
