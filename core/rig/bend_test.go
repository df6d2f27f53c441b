package rig_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"
	"testing"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
)

// bending compiles a scene of one path and one body on it. path is its shape and what else it
// has, part its shape, more what the rig has besides.
func bending(t testing.TB, path, part, more string) *rig.Scene {
	t.Helper()
	return whole(t, fmt.Sprintf(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[{"id":"way","name":"way",%s}],"parts":[{"id":"body","name":"body",%s}],
"rigs":[{"id":"eel","name":"eel","kind":"bend","path":"way","part":"body",%s}]}`, path, part, more))
}

func whole(t testing.TB, doc string) *rig.Scene {
	t.Helper()
	d, err := scene.Decode([]byte(doc))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

const (
	along  = `"shape":{"line":{"from":[0,0,0],"to":[0,0,3]}}`
	bowl   = `"shape":{"spline":{"points":[{"at":[0,0.2,0]},{"at":[0.9,0.5,0.8]},{"at":[-0.4,0.3,1.7]},{"at":[0.2,1.1,2.4]}]}}`
	rod    = `"segments":60,"shape":{"tube":{"length":1.2,"radius":0.05}}`
	dense  = `"segments":400,"shape":{"tube":{"length":1.2,"radius":0.05}}`
	steady = `"facing":{"mode":"steady"}`
)

func vertex(list []float32, i int) geom.Vec {
	return geom.V(float64(list[3*i]), float64(list[3*i+1]), float64(list[3*i+2]))
}

func shot(s *rig.Scene, frame int) *rig.Picture {
	var p rig.Picture
	s.Frame(&p, frame)
	return &p
}

// On a straight path a body is its part, moved (MATH 7): here its tail stands at the travel.
func TestBendStraight(t *testing.T) {
	s := bending(t, along, rod, steady+`,"travel":0.5`)
	p := shot(s, 1).Rigs[0]
	mesh := s.Parts[0].Mesh
	for i := range len(mesh.Positions) / 3 {
		want := vertex(mesh.Positions, i).Add(geom.V(0, 0, 0.5+0.6))
		if d := vertex(p.Positions, i).Sub(want).Norm(); d > 2.5e-7 { // single precision
			t.Fatalf("vertex %d is off by %g", i, d)
		}
		if d := vertex(p.Normals, i).Sub(vertex(mesh.Normals, i)).Norm(); d > 3e-7 {
			t.Fatalf("normal %d is off by %g", i, d)
		}
	}
}

// A circle turns a box into an annular sector of exact radii, facing out of the loop: up is away
// from the centre.
func TestBendOnACircle(t *testing.T) {
	s := bending(t, `"shape":{"circle":{"centre":[0,0,0],"radius":1,"plane":"side"}}`, `"segments":90,"shape":{"box":{"side":0.2,"height":0.1,"length":2}}`,
		`"facing":{"mode":"loopside"},"travel":0.3`)
	p := shot(s, 1).Rigs[0]
	mesh := s.Parts[0].Mesh
	for i := range len(mesh.Positions) / 3 {
		own, got := vertex(mesh.Positions, i), vertex(p.Positions, i)
		if r := math.Hypot(got.Y, got.Z); math.Abs(r-(1+own.Y)) > 2e-7 || math.Abs(math.Abs(got.X)-math.Abs(own.X)) > 1e-7 {
			t.Fatalf("vertex %d: radius %.9f, not %.9f; side %g", i, r, 1+own.Y, got.X)
		}
	}
	if r := p.Reach[0]; math.Abs(r.Head-r.Tail-2) > 1e-12 || r.Tail != 0.3 {
		t.Errorf("it reaches from %g to %g", r.Tail, r.Head)
	}
}

// The path may be cut into more spans or be made of its own points anew: the body stays.
func TestBendKnowsNothingOfSpans(t *testing.T) {
	plain := shot(bending(t, bowl, rod, `"facing":{"mode":"least-twist"},"travel":0.4`), 1).Rigs[0]
	cut := shot(bending(t, bowl+`,"steps":[{"subdivide":{"parts":7}}]`, rod, `"facing":{"mode":"least-twist"},"travel":0.4`), 1).Rigs[0]
	for i := range plain.Positions {
		if d := math.Abs(float64(plain.Positions[i] - cut.Positions[i])); d > 5e-7 {
			t.Fatalf("float %d is off by %g", i, d)
		}
	}
}

// Nothing is torn for any travel from minus two to plus three lengths, on open and closed paths:
// no edge is longer than its part's is, drawn out by the tightest bend.
func TestBendIsNeverTorn(t *testing.T) {
	for name, c := range map[string]struct{ path, facing, past string }{
		"open":              {bowl, `"facing":{"mode":"least-twist"}`, "straight on"},
		"open, steady":      {bowl, steady, "straight on"},
		"stops":             {bowl, steady, "stop"},
		"closed":            {`"shape":{"slot":{"centre":[0,1,0],"length":1,"radius":0.5}}`, `"facing":{"mode":"loopside"}`, "straight on"},
		"closed in space":   {`"shape":{"spline":{"closed":true,"points":[{"at":[1,0,0]},{"at":[0,0.7,1]},{"at":[-1,0,0]},{"at":[0,0.4,-1]}]}}`, `"facing":{"mode":"least-twist","symmetry":4}`, "straight on"},
		"closed, two turns": {`"shape":{"circle":{"centre":[0,0,0],"radius":0.6}}`, `"facing":{"mode":"least-twist","turns":2}`, "straight on"},
	} {
		s := bending(t, c.path, rod, fmt.Sprintf(`%s,"pastEnd":%q,"travel":{"keys":[{"frame":1,"value":%g},{"frame":48,"value":%g}]}`,
			c.facing, c.past, -2*1.2-2*4.0, 3*4.0))
		mesh := s.Parts[0].Mesh
		for f := 1; f <= 48; f++ {
			p := shot(s, f).Rigs[0]
			for i := 0; i < len(mesh.Indices); i += 3 {
				a, b := int(mesh.Indices[i]), int(mesh.Indices[i+1])
				was, is := vertex(mesh.Positions, a).Sub(vertex(mesh.Positions, b)).Norm(), vertex(p.Positions, a).Sub(vertex(p.Positions, b)).Norm()
				if !(is <= was*1.8+1e-6) {
					t.Fatalf("%s, frame %d: an edge of %g is %g long", name, f, was, is)
				}
			}
			r := p.Reach[0]
			if c.past == "stop" && (r.Tail < -1e-12 || r.Head > s.Paths[0].Length()+1e-12) {
				t.Fatalf("%s, frame %d: from %g to %g on a path of %g", name, f, r.Tail, r.Head, s.Paths[0].Length())
			}
		}
	}
}

// The skin's normals are those of the bent skin itself, by the triangles round each vertex.
func TestBentNormals(t *testing.T) {
	s := bending(t, bowl, `"segments":400,"shape":{"tube":{"length":1.8,"radius":0.05}}`,
		`"facing":{"mode":"steady","rollAt":[{"at":0,"roll":0},{"at":2.5,"roll":500,"ease":"eased"}]},"bend":{"fit":"reach","tail":0.1,"head":2.4,"keepVolume":true,"twist":90,"taper":[{"at":0,"scale":0.3},{"at":1,"scale":1.6}]},"travel":0`)
	p := shot(s, 1).Rigs[0]
	mesh := s.Parts[0].Mesh
	sum := make([]geom.Vec, len(mesh.Positions)/3)
	caps := make([]bool, len(sum))
	for i := 0; i < len(mesh.Indices); i += 3 {
		v := [3]int{int(mesh.Indices[i]), int(mesh.Indices[i+1]), int(mesh.Indices[i+2])}
		face := vertex(p.Positions, v[1]).Sub(vertex(p.Positions, v[0])).Cross(vertex(p.Positions, v[2]).Sub(vertex(p.Positions, v[0])))
		for _, k := range v {
			sum[k] = sum[k].Add(face)
			caps[k] = caps[k] || math.Abs(float64(mesh.Positions[3*k+2])) > 0.88
		}
	}
	for i := range sum {
		if n := vertex(mesh.Normals, i); caps[i] || n.X < -0.98 || n.X > 0.98 || n.Y > 0.98 { // ends, and where the skin's texture begins
			continue
		}
		if a := geom.Angle(sum[i], vertex(p.Normals, i)); a > math.Pi/35 { // half the angle between two of its sides
			t.Fatalf("vertex %d: its normal is %.3f rad off its faces'", i, a)
		}
	}
}

// Fill covers the path whatever its length; reach what its two ends say; anchors stand at the
// travel; a body that keeps its volume is thinner by the root of its stretch.
func TestFits(t *testing.T) {
	for name, c := range map[string]struct {
		more       string
		tail, head float64
	}{
		"keep by the tail":   {`"travel":0.5`, 0.5, 1.7},
		"keep by the middle": {`"bend":{"anchor":"middle"},"travel":0.5`, -0.1, 1.1},
		"keep by the head":   {`"bend":{"anchor":"head"},"travel":0.5`, -0.7, 0.5},
		"fill":               {`"bend":{"fit":"fill path"},"travel":0`, 0, 3},
		"reach":              {`"bend":{"fit":"reach","tail":0.25,"head":{"keys":[{"frame":1,"value":2}]}},"travel":0.5`, 0.75, 2.5},
		"turned inside out":  {`"bend":{"fit":"reach","tail":0.25,"head":{"keys":[{"frame":1,"value":-2}]}},"travel":0`, 0.25, 0.25 + 1.2e-4},
		"stops at the end":   {`"pastEnd":"stop","travel":2.9`, 1.8, 3},
		"stops at the start": {`"pastEnd":"stop","travel":-1`, 0, 1.2},
	} {
		r := shot(bending(t, along, rod, steady+","+c.more), 1).Rigs[0].Reach[0]
		if math.Abs(r.Tail-c.tail) > 1e-7 || math.Abs(r.Head-c.head) > 1e-7 {
			t.Errorf("%s: from %g to %g, not %g to %g", name, r.Tail, r.Head, c.tail, c.head)
		}
	}
	p := shot(bending(t, along, rod, steady+`,"bend":{"fit":"fill path","keepVolume":true},"travel":0`), 1).Rigs[0]
	want := 0.05 / math.Sqrt(2.5)
	thick := 0.0
	for i := range len(p.Positions) / 3 {
		v := vertex(p.Positions, i)
		thick = max(thick, math.Hypot(v.X, v.Y))
	}
	if math.Abs(thick-want) > 1e-6 {
		t.Errorf("a rod drawn out two and a half times is %g thick, not %g", thick, want)
	}
}

const swimming = `,"steps":[{"wave":{"side":0.12,"up":0.03,"wavelength":0.8,"phase":{"speed":-1},"amount":[{"at":0,"share":0.4},{"at":3,"share":1}]}},
{"lag":{"from":1,"frequency":2,"damping":0.4}},{"jitter":{"seed":3,"amount":0.01,"grain":0.5,"beats":2}}]`

// A wave, a lag and a jitter leave frames pure: any order, backwards, eight at once (MATH 0).
func TestLivelyFramesArePure(t *testing.T) {
	s := bending(t, along+swimming, rod, steady+`,"travel":{"speed":0.4}`)
	var want []rig.Picture
	for f := 1; f <= 24; f++ {
		want = append(want, *shot(s, f))
	}
	again := bending(t, along+swimming, rod, steady+`,"travel":{"speed":0.4}`)
	var wait sync.WaitGroup
	for w := range 6 {
		wait.Go(func() {
			var p rig.Picture
			for k := range 24 {
				f := (k*13+w*5)%24 + 1
				if again.Frame(&p, f); !slices.Equal(p.Rigs[0].Positions, want[f-1].Rigs[0].Positions) || !slices.Equal(p.Rigs[0].Normals, want[f-1].Rigs[0].Normals) {
					t.Errorf("frame %d differs", f)
				}
			}
		})
	}
	wait.Wait()
}

// The ends of a cable go with what holds them, and its length is kept.
func TestHeldCable(t *testing.T) {
	s := whole(t, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"carriers":[{"id":"c","name":"c","at":[0,{"keys":[{"frame":1,"value":0},{"frame":48,"value":-1}]},{"keys":[{"frame":1,"value":0},{"frame":48,"value":1.2}]}],"turn":{"heading":{"keys":[{"frame":1,"value":0},{"frame":48,"value":40}]}}}],
"paths":[{"id":"way","name":"way","shape":{"hang":{"from":[0,4,0],"to":[0,2,3],"length":5.2,"toCarrier":"c"}}}],
"parts":[{"id":"b","name":"b","segments":100,"shape":{"strands":{"length":5.2,"count":3,"radius":0.04,"lay":0.6}}},{"id":"k","name":"k","shape":{"box":{"side":0.1,"height":0.1,"length":0.05}}}],
"rigs":[{"id":"r","name":"r","kind":"bend","path":"way","part":"b","facing":{"mode":"least-twist"},"travel":0},
{"id":"k","name":"k","kind":"train","path":"way","part":"k","spacing":{"mode":"set count","count":5},"facing":{"mode":"least-twist"},"travel":0}]}`)
	first := shot(s, 1).Rigs[1]
	for f := 1; f <= 48; f += 6 {
		p := shot(s, f)
		if l := p.Curves[0].Length(); math.Abs(l-5.2) > 1e-8 {
			t.Fatalf("frame %d: %g m of cable", f, l)
		}
		at := s.CarrierPlace(0, float64(f)).Apply(geom.V(0, 2, 3))
		if end, _ := p.Curves[0].At(5.2); end.Sub(at).Norm() > 1e-7 {
			t.Fatalf("frame %d: the end stands at %v, its carrier holds it at %v", f, end, at)
		}
		for i, d := range p.Rigs[1].Distances {
			if math.Abs(d-first.Distances[i]) > 1e-8 {
				t.Fatalf("frame %d: clamp %d swims from %g to %g", f, i, first.Distances[i], d)
			}
		}
	}
}

// 60 km/h on a radius of 150 m leans by 10.69 degrees (MATH 10), into the bend on either side.
func TestBank(t *testing.T) {
	for _, way := range []string{"", `,"steps":[{"reverse":{}}]`} {
		s := whole(t, fmt.Sprintf(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[{"id":"way","name":"way","shape":{"circle":{"centre":[0,0,0],"radius":150,"plane":"above"}}%s}],
"parts":[{"id":"b","name":"b","shape":{"box":{"side":1,"height":1,"length":1}}}],
"rigs":[{"id":"r","name":"r","kind":"rider","path":"way","part":"b","facing":{"mode":"steady","bank":{"share":1,"over":4}},"travel":{"speed":16.666666666666668}}]}`, way))
		x := shot(s, 7).Rigs[0].Transforms
		up := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}.Apply(geom.V(0, 1, 0))
		centre := geom.V(-float64(x[0]), 0, -float64(x[2])).Unit()
		if lean := math.Atan2(up.Dot(centre), up.Y) * 180 / math.Pi; math.Abs(lean-10.69) > 0.01 {
			t.Errorf("leans by %.3f degrees towards the centre, not 10.69", lean)
		}
	}
}

// With a lead of so many frames a rider that goes evenly leans as one without does where it will be then;
// with a limit it leans as far as that and no farther, to either side.
func TestBankAhead(t *testing.T) {
	lean := func(bank string, frame float64) float64 {
		s := whole(t, fmt.Sprintf(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":96},
"paths":[{"id":"way","name":"way","shape":{"weave":{"from":[0,0,0],"length":40,"width":6,"bends":2}}}],
"parts":[{"id":"b","name":"b","shape":{"box":{"side":1,"height":1,"length":1}}}],
"rigs":[{"id":"r","name":"r","path":"way","part":"b","facing":{"mode":"steady","bank":{"share":1,"over":0.5%s}},"travel":{"speed":6},"rider":{}}]}`, bank))
		var p rig.Picture
		s.At(&p, frame)
		x := p.Rigs[0].Transforms
		q := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
		up, ahead := q.Apply(geom.V(0, 1, 0)), q.Apply(geom.V(0, 0, 1))
		return geom.AngleAbout(ahead, geom.V(0, 1, 0), up) * 180 / math.Pi
	}
	least, most := 0.0, 0.0
	for _, frame := range []float64{20, 37.5, 51, 70} {
		plain := lean("", frame)
		least, most = min(least, plain), max(most, plain)
		if got, want := lean(`,"lead":9`, frame), lean("", frame+9); math.Abs(got-want) > 1e-3 {
			t.Errorf("frame %g: it leans %g, want %g", frame, got, want)
		}
		if got, want := lean(`,"limit":5`, frame), min(max(plain, -5), 5); math.Abs(got-want) > 1e-3 {
			t.Errorf("frame %g: limited it leans %g, want %g", frame, got, want)
		}
	}
	if least > -5 || most < 5 {
		t.Errorf("it leans from %g to %g: the limit is not looked at on both sides", least, most)
	}
}

// Copies each start a round later and a stride further on, and show only in their own round.
func TestRounds(t *testing.T) {
	s := bending(t, along, rod, steady+`,"bend":{"fit":"reach","tail":{"keys":[{"frame":1,"value":0},{"frame":13,"value":0.5}]},"head":{"keys":[{"frame":1,"value":1},{"frame":13,"value":1.5}]},"rounds":{"count":4,"frames":12,"stride":0.5}},"travel":0`)
	for f := 1; f <= 48; f++ {
		p := shot(s, f).Rigs[0]
		shown := 0
		for i, r := range p.Reach {
			if !r.Shown {
				continue
			}
			shown++
			if want := 0.5 * float64(f-1) / 12; math.Abs(r.Tail-want) > 1e-12 || i != (f-1)/12 {
				t.Fatalf("frame %d: copy %d stands at %g, not %g", f, i+1, r.Tail, want)
			}
		}
		if !slices.Equal(p.Positions, shot(s, f+48).Rigs[0].Positions) { // after the last round the first
			t.Fatalf("frame %d is not shown again 48 frames later", f)
		}
		if shown != 1 {
			t.Fatalf("frame %d: %d copies are shown", f, shown)
		}
	}
}

// A train's pieces bend about their own places: those of a line are rigid, and a rider that goes
// along with a body stands at its head.
func TestBentTrainAndLead(t *testing.T) {
	doc := `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[{"id":"way","name":"way",%s}],
"parts":[{"id":"b","name":"b","segments":20,"shape":{"plank":{"length":0.4,"width":0.1,"thickness":0.02}}}],
"rigs":[{"id":"r","name":"r","kind":"train","seat":%q,"path":"way","part":"b","spacing":{"mode":"set count","count":5},"facing":{"mode":"steady"},"travel":0.1},
{"id":"eel","name":"eel","kind":"bend","path":"way","part":"b","facing":{"mode":"steady"},"travel":{"speed":0.5}},
{"id":"lamp","name":"lamp","kind":"rider","path":"way","part":"b","lead":{"rig":"eel","at":"head"},"facing":{"mode":"steady"},"travel":0.05}]}`
	bent := whole(t, fmt.Sprintf(doc, along, "bent"))
	p := shot(bent, 13)
	mesh := bent.Parts[0].Mesh
	n := len(mesh.Positions) / 3
	for i, d := range p.Rigs[0].Distances {
		for k := range n {
			want := vertex(mesh.Positions, k).Add(geom.V(0, 0, d))
			if off := vertex(p.Rigs[0].Positions, i*n+k).Sub(want).Norm(); off > 1e-6 {
				t.Fatalf("piece %d, vertex %d: off by %g", i+1, k, off)
			}
		}
	}
	if got := p.Rigs[2].Distances[0]; math.Abs(got-(0.25+0.4+0.05)) > 1e-7 {
		t.Errorf("the lamp stands at %g", got)
	}
}

func TestBendAllocatesNothing(t *testing.T) {
	s := bending(t, bowl, `"segments":60,"shape":{"eel":{"length":1.2,"girth":0.14}}`, steady+`,"blends":[{"name":"jaw","amount":0.4}],"travel":{"speed":0.4}`)
	var p rig.Picture
	s.Frame(&p, 1)
	f := 1
	if n := testing.AllocsPerRun(40, func() { f = f%48 + 1; s.Frame(&p, f) }); n > 0 {
		t.Errorf("%g allocations a frame", n)
	}
}

func TestBendFaults(t *testing.T) {
	try := func(path, more string) error {
		rod := rod
		if strings.Contains(more, "rounds") {
			rod = dense
		}
		d, err := scene.Decode(fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[{"id":"way","name":"way",%s}],"parts":[{"id":"body","name":"body",%s}],
"rigs":[{"id":"eel","name":"eel","kind":"bend","path":"way","part":"body",%s}]}`, path, rod, more))
		if err == nil {
			_, err = rig.Compile(d)
		}
		return err
	}
	for name, c := range map[string]struct{ path, more, want string }{
		"a blend that is not there": {along, steady + `,"travel":0,"blends":[{"name":"jaw","amount":1}]`, `rigs[0].blends[0].name: "jaw" is no blend of this part`},
		"torn":                      {along, steady + `,"travel":0,"pastEnd":"come round"`, "rigs[0].pastEnd: a body that comes round"},
		"no fit":                    {along, steady + `,"travel":0,"bend":{"fit":"somehow"}`, "rigs[0].bend.fit"},
		"head behind tail":          {along, steady + `,"travel":0,"bend":{"fit":"reach","tail":2,"head":1}`, "rigs[0].bend.head: the head lies at or behind"},
		"waves too short":           {along + `,"steps":[{"wave":{"side":0.1,"wavelength":0.0001}}]`, steady + `,"travel":0`, "paths[0].steps[0].wave: a wavelength"},
		"a ring of waves":           {along + `,"steps":[{"wave":{"side":0.1,"wavelength":1,"with":"eel"}}]`, steady + `,"travel":{"turns":1}`, "ring"},
		"falling taper":             {along, steady + `,"travel":0,"bend":{"taper":[{"at":0.5,"scale":1},{"at":0.2,"scale":1}]}`, "rigs[0].bend.taper[1].at"},
		"too many vertices":         {along, steady + `,"travel":0,"bend":{"rounds":{"count":1000,"frames":4,"stride":1}}`, "vertices of pieces that bend"},
		"a lag of a loop":           {`"shape":{"circle":{"centre":[0,0,0],"radius":1}},"steps":[{"lag":{"frequency":1,"damping":1}}]`, steady + `,"travel":0`, "paths[0].steps[0].lag: the path is closed"},
		"a lag without swing":       {along + `,"steps":[{"lag":{"frequency":0,"damping":1}}]`, steady + `,"travel":0`, "paths[0].steps[0].lag.frequency"},
	} {
		err := try(c.path, c.more)
		if err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v; want %q", name, err, c.want)
		}
	}
}

// On a circle of radius r a rigid plank of length l strays at its ends, where the bent one goes on: by
// the distance of the tangent's end from the arc's (closed form), for a flat part without width.
func TestDeviation(t *testing.T) {
	s := whole(t, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":4},"paths":[{"id":"w","name":"w","shape":{"circle":{"centre":[0,0,0],"radius":1,"plane":"side"}}}],
"parts":[{"id":"b","name":"b","shape":{"box":{"side":0.000001,"height":0.000001,"length":0.4}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"w","part":"b","spacing":{"mode":"set count","count":9},"facing":{"mode":"loopside"},"travel":0.3}]}`)
	got, _ := s.Rigs[0].Deviation()
	if want := math.Hypot(0.2-math.Sin(0.2), 1-math.Cos(0.2)); math.Abs(got-want) > 2e-6 {
		t.Errorf("%.9f, not %.9f", got, want)
	}
}

// The sections turn as they say: their turn a metre against the difference of their ups, with roll by
// distance, twist and a facing that turns by itself, drawn out.
func TestSectionsTurnAsTheySay(t *testing.T) {
	for _, more := range []string{
		`"facing":{"mode":"least-twist","turns":0.5,"rollAt":[{"at":0,"roll":0},{"at":3,"roll":200,"ease":"eased"}]},"bend":{"fit":"reach","tail":0.2,"head":2.1,"twist":120},"travel":0`,
		`"facing":{"mode":"steady","bank":{"share":1,"over":0.2}},"travel":{"speed":3}`, // it leans more where it bends more
	} {
		s := bending(t, bowl, rod, more)
		train := &s.Rigs[0]
		p := shot(s, 6).Rigs[0]
		const h = 1e-3
		for _, z := range []float64{-0.4, 0.05, 0.33} {
			x := train.Sections(&p, 0, 6, []float64{z - h, z, z + h})
			want := -x[2].U.Sub(x[0].U).Dot(x[1].S) / (2 * h)
			if got := x[1].Tau * x[1].K; math.Abs(got-want) > 2e-3*(1+math.Abs(want)) {
				t.Errorf("%s at %g: %g a metre of body, differences say %g", more, z, got, want)
			}
		}
	}
}
