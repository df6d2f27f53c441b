package rig_test

import (
	"fmt"
	"math"
	"runtime"
	"runtime/debug"
	"slices"
	"strings"
	"sync"
	"testing"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
)

// doc builds a document around one rig: %s are path shape, part, spacing, the
// rest of the rig.
func compile(t testing.TB, shape, part, spacing, rest string) *rig.Scene {
	t.Helper()
	s, err := tryCompile(shape, part, spacing, rest)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func tryCompile(shape, part, spacing, rest string) (*rig.Scene, error) {
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[{"id":"p","name":"p","shape":%s}],"parts":[{"id":"a","name":"a",%s}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":%s,%s}]}`, shape, part, spacing, rest))
	if err != nil {
		return nil, err
	}
	return rig.Compile(d)
}

const (
	slot   = `{"slot":{"centre":[0.7,1,0],"length":3,"radius":0.5}}`
	shoe   = `"shape":{"shoe":{"length":0.19,"width":0.5,"height":0.04,"grouser":0.03,"horn":0.06}}`
	box    = `"shape":{"box":{"side":0.2,"height":0.1,"length":0.3}}`
	driven = `"facing":{"mode":"loopside","roll":{"keys":[{"frame":1,"value":0},{"frame":48,"value":30}]}},"travel":{"speed":0.37}`
)

type bits struct {
	travel float64
	d      []float64
	x      []float32
}

func take(p *rig.Picture) bits {
	r := p.Rigs[0]
	return bits{r.Travel, slices.Clone(r.Distances), slices.Clone(r.Transforms)}
}

func (a bits) same(b bits) bool {
	return a.travel == b.travel && slices.Equal(a.d, b.d) && slices.Equal(a.x, b.x)
}

// Frame 37 asked first, last, backwards or on eight goroutines is the same bytes.
func TestFramesArePure(t *testing.T) {
	s := compile(t, slot, shoe, `{"mode":"set count","count":62}`, driven)
	var pic rig.Picture
	s.Frame(&pic, 37)
	first := take(&pic)
	for n := 60; n >= 36; n-- {
		s.Frame(&pic, n)
		if n == 37 && !take(&pic).same(first) {
			t.Error("backwards, frame 37 differs")
		}
	}
	var wg sync.WaitGroup
	for g := range 8 {
		wg.Go(func() {
			var own rig.Picture
			for k := range 200 {
				n := (k*7+g*13)%48 + 1
				if s.Frame(&own, n); n == 37 && !take(&own).same(first) {
					t.Errorf("goroutine %d: frame 37 differs", g)
				}
			}
			s.Frame(&own, 37)
			if !take(&own).same(first) {
				t.Errorf("goroutine %d: frame 37 asked last differs", g)
			}
		})
	}
	wg.Wait()
	again := compile(t, slot, shoe, `{"mode":"set count","count":62}`, driven)
	again.Frame(&pic, 37)
	if !take(&pic).same(first) {
		t.Error("compiled anew, frame 37 differs")
	}
}

func TestSteadyStateAllocatesNothing(t *testing.T) {
	s := compile(t, slot, shoe, `{"mode":"set count","count":62}`, driven)
	var pic rig.Picture
	s.Frame(&pic, 1)
	n := 0
	if got := testing.AllocsPerRun(100, func() { n++; s.Frame(&pic, n) }); got != 0 {
		t.Errorf("%g allocations a frame, want 0", got)
	}
}

func pieceAt(p *rig.Picture, i int) (geom.Vec, geom.Quat) {
	x := p.Rigs[0].Transforms[i*rig.Stride:]
	return geom.V(float64(x[0]), float64(x[1]), float64(x[2])), geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
}

// Every pair of own axes puts the part's forward on the path's direction, its up
// outwards, and its pivot on the path.
func TestSeatFollowsThePartsAxes(t *testing.T) {
	for _, f := range []string{"+x", "-x", "+y", "-y", "+z", "-z"} {
		for _, u := range []string{"+x", "-x", "+y", "-y", "+z", "-z"} {
			if f[1] == u[1] {
				continue
			}
			part := fmt.Sprintf(`%s,"forward":%q,"up":%q,"pivot":[0.1,-0.2,0.3]`, box, f, u)
			s := compile(t, slot, part, `{"mode":"set count","count":24}`, `"facing":{"mode":"loopside"},"travel":0.1,"scale":2`)
			var pic rig.Picture
			s.Frame(&pic, 1)
			axes := s.Parts[0].Axes
			for i := range 24 {
				at, q := pieceAt(&pic, i)
				d := pic.Rigs[0].Distances[i]
				on, tan := s.Paths[0].At(d)
				if e := q.Apply(axes.Forward).Sub(tan).Norm(); e > 1e-6 {
					t.Fatalf("%s %s piece %d: forward is off by %g", f, u, i, e)
				}
				centre := geom.V(0.7, 1, min(max(on.Z, -1.5), 1.5))
				if e := q.Apply(axes.Up).Sub(on.Sub(centre).Unit()).Norm(); e > 1e-6 {
					t.Fatalf("%s %s piece %d: up is not outward by %g", f, u, i, e)
				}
				if e := at.Add(q.Apply(axes.Pivot.Mul(2))).Sub(on).Norm(); e > 1e-6 {
					t.Fatalf("%s %s piece %d: the pivot is %g off the path", f, u, i, e)
				}
			}
		}
	}
}

// After one pitch of travel each piece stands where the next one stood.
func TestTravelByOnePitch(t *testing.T) {
	const n = 31
	length := 6 + math.Pi
	at := func(travel float64) *rig.Picture {
		var pic rig.Picture
		compile(t, slot, shoe, `{"mode":"set count","count":31}`, fmt.Sprintf(`"facing":{"mode":"loopside"},"travel":%.17g`, travel)).Frame(&pic, 1)
		return &pic
	}
	a, b := at(0.123), at(0.123+length/n)
	for i := range n {
		got, want := b.Rigs[0].Distances[i], a.Rigs[0].Distances[(i+1)%n]
		if e := math.Abs(math.Remainder(got-want, length)); e > 1e-9*length {
			t.Errorf("piece %d is %g off the place of the next", i, e)
		}
	}
}

func TestOpenPathEnds(t *testing.T) {
	line := `{"line":{"from":[0,0,0],"to":[0,0,10]}}`
	for _, tc := range []struct {
		pastEnd string
		pitch   float64
		last    float64 // z of the last piece at frame 25, travel 1 m
	}{{"straight on", 2.5, 11}, {"come round", 2, 9}} {
		s := compile(t, line, box, `{"mode":"set count","count":5}`,
			fmt.Sprintf(`"pastEnd":%q,"facing":{"mode":"steady"},"travel":{"speed":1}`, tc.pastEnd))
		var pic rig.Picture
		s.Frame(&pic, 25)
		p, _ := pieceAt(&pic, 4)
		if s.Rigs[0].Layout.Pitch != tc.pitch || math.Abs(p.Z-tc.last) > 1e-6 {
			t.Errorf("%s: pitch %g, last piece at %g; want %g and %g", tc.pastEnd, s.Rigs[0].Layout.Pitch, p.Z, tc.pitch, tc.last)
		}
	}
}

func TestCompileFaults(t *testing.T) {
	facing := `"facing":{"mode":"loopside"},"travel":0`
	for _, tc := range []struct{ shape, part, spacing, rest, want string }{
		{`{"line":{"from":[1,1,1],"to":[1,1,1]}}`, box, `{"mode":"set count","count":3}`, facing, "paths[0].shape: the path has no length"},
		{slot, `"shape":{"box":{"side":1,"height":0,"length":1}}`, `{"mode":"set count","count":3}`, facing, "parts[0].shape.box.height: 0 is not accepted: a number from 1e-06"},
		{slot, box, `{"mode":"set count","count":1000000}`, facing, "rigs[0].spacing.count: 1e+06 is not accepted: a number from 0 to 100000"},
		{slot, box, `{"mode":"set count","count":-4}`, facing, "rigs[0].spacing.count: -4 is not accepted: a number from 0"},
		{slot, box, `{"mode":"set pitch","pitch":50}`, facing, "rigs[0].spacing.pitch: a pitch of 50 m is longer than the path"},
		{slot, box, `{"mode":"set count","count":3}`, `"facing":{"mode":"least-twist","turns":0.5},"travel":0`, "rigs[0].facing: turns 0.5"},
	} {
		if _, err := tryCompile(tc.shape, tc.part, tc.spacing, tc.rest); err == nil || !strings.Contains(err.Error(), tc.want) {
			t.Errorf("error %v, want one with %q", err, tc.want)
		}
	}
}

func BenchmarkFrame(b *testing.B) {
	var pts strings.Builder
	for i := range 12 {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / 12)
		k := 1 + 0.3*math.Sin(3*float64(i))
		fmt.Fprintf(&pts, `,{"at":[%g,%g,%g]}`, 0.2*sin*cos, k*sin, k*cos)
	}
	spline := `{"spline":{"closed":true,"points":[` + pts.String()[1:] + `]}}`
	for _, mode := range []string{"loopside", "steady", "least-twist"} {
		b.Run(mode, func(b *testing.B) {
			const n = 1000
			s := compile(b, spline, box, `{"mode":"set count","count":1000}`, fmt.Sprintf(`"facing":{"mode":%q},"travel":{"speed":0.3}`, mode))
			var pic rig.Picture
			s.Frame(&pic, 0)
			frame := 0
			b.ReportAllocs()
			for b.Loop() {
				frame++
				s.Frame(&pic, frame)
			}
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/n, "ns/piece")
		})
	}
}

// On a path that is made anew in every frame, what is allocated goes with the path alone: as much for ten
// pieces, rigid or bent, as for four hundred.
func TestMovingPathsAllocateNothingAPiece(t *testing.T) {
	// What is used again is kept by each processor, and a collection empties it.
	defer debug.SetGCPercent(debug.SetGCPercent(-1))
	defer runtime.GOMAXPROCS(runtime.GOMAXPROCS(1))
	waving := wavy("w", 3, `,"steps":[{"wave":{"side":0.1,"wavelength":9,"phase":{"speed":1}}}]`)
	for name, seat := range map[string]string{"rigid": "", "bent": `,"seat":"bent"`, "on pins": `,"seat":"ends"`} {
		var size [2]float64
		for k, n := range []int{10, 400} {
			d, err := scene.Decode([]byte(large(20000, waving, train("r", n, seat), "")))
			if err != nil {
				t.Fatal(err)
			}
			s, err := rig.Compile(d)
			if err != nil {
				t.Fatal(err)
			}
			var pic rig.Picture
			f := 0
			next := func() { f++; s.Frame(&pic, f) }
			for range 40 {
				next()
			}
			var before, after runtime.MemStats
			runtime.ReadMemStats(&before)
			for range 40 {
				next()
			}
			runtime.ReadMemStats(&after)
			size[k] = float64(after.TotalAlloc-before.TotalAlloc) / 40
		}
		t.Logf("%s: %.0f and %.0f bytes a frame", name, size[0], size[1])
		if size[1]-size[0] > 390 { // not a byte a piece
			t.Errorf("%s: %.0f bytes a frame for ten pieces, %.0f for four hundred", name, size[0], size[1])
		}
	}
}
