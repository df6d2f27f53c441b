package rig_test

import (
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
)

// scenePaths compiles a document of paths, fixtures and one rig on the first path.
func scenePaths(t testing.TB, paths, more string) (*rig.Scene, error) {
	t.Helper()
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},
"paths":[%s],"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}},
{"id":"post","name":"Post","shape":{"post":{"radius":0.3,"height":2}}}]%s}`, paths, more))
	if err != nil {
		return nil, err
	}
	return rig.Compile(d)
}

const onFirst = `,"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":10},"facing":{"mode":"least-twist"},"travel":0}]`

// Each step through the document: what it does to a length known in closed form.
func TestStepsOfADocument(t *testing.T) {
	const loop, line = `{"circle":{"centre":[0,2,0],"radius":1}}`, `{"line":{"from":[0,0.5,0],"to":[0,0.5,4]}}`
	const angle = `{"polyline":{"points":[[0,0,0],[0,0,2],[2,0,2]]}}`
	for name, tc := range map[string]struct {
		shape, steps string
		length       float64
		closed       bool
		note         string
	}{
		"reverse":           {loop, `{"reverse":{}}`, 2 * math.Pi, true, ""},
		"start at":          {loop, `{"startAt":{"distance":100}}`, 2 * math.Pi, true, ""},
		"open with a gap":   {loop, `{"open":{"gap":0.5}}`, 2*math.Pi - 0.5, false, ""},
		"open and close":    {loop, `{"open":{}},{"close":{}}`, 2 * math.Pi, true, ""},
		"close straight":    {angle, `{"close":{}}`, 4 + 2*math.Sqrt2, true, ""},
		"extend":            {line, `{"extend":{"before":0.25,"after":1}}`, 5.25, false, ""},
		"trim":              {line, `{"trim":{"from":1,"to":3.5}}`, 2.5, false, ""},
		"trim past the end": {line, `{"trim":{"from":1,"to":9}}`, 3, false, "ends at 4"},
		"subdivide":         {loop, `{"subdivide":{"parts":3}}`, 2 * math.Pi, true, ""},
		"resample straight": {loop, `{"resample":{"count":6,"straight":true}}`, 6, true, ""},
		"round":             {angle, `{"round":{"radius":0.5}}`, 4 - (2-math.Pi/2)*0.5, false, ""},
		"round nothing":     {loop, `{"round":{"radius":0.5}}`, 2 * math.Pi, true, "no corners"},
		"offset outward":    {loop, `{"offset":{"distance":0.5}}`, 3 * math.Pi, true, ""},
		"offset inward":     {loop, `{"offset":{"distance":-0.5}}`, math.Pi, true, ""},
		"offset too far":    {loop, `{"offset":{"distance":-1.5}}`, math.Pi, true, "folds"},
		"offset reversed":   {loop, `{"reverse":{}},{"offset":{"distance":0.5}}`, 3 * math.Pi, true, ""},
		"offset left":       {angle, `{"offset":{"distance":1}}`, 2, false, ""}, // inside the corner
		"offset right":      {angle, `{"offset":{"distance":-1}}`, 4 + math.Pi/2, false, ""},
		"mirror":            {line, `{"mirror":{"axis":"z","at":1}}`, 4, false, ""},
		"drop":              {loop, `{"drop":{"clearance":0.1}}`, 2 * math.Pi, true, "-900.0 mm"},
		"off":               {line, `{"off":true,"trim":{"from":1,"to":3.5}}`, 4, false, ""},
		"in order":          {line, `{"trim":{"from":0,"to":2}},{"extend":{"after":1}}`, 3, false, ""},
		"the other order":   {line, `{"extend":{"after":1}},{"trim":{"from":0,"to":2}}`, 2, false, ""},
	} {
		s, err := scenePaths(t, fmt.Sprintf(`{"id":"p","name":"p","shape":%s,"steps":[%s]}`, tc.shape, tc.steps), `,"rigs":[]`)
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		steps := report.Of(s).Paths[0].Steps
		last := steps[len(steps)-1]
		if c := s.Paths[0]; math.Abs(c.Length()-tc.length) > 1e-6 || c.Closed() != tc.closed || math.Abs(last.Length-c.Length()) > 1e-12 {
			t.Errorf("%s: %.9g long, closed %v; want %.9g, %v (said %g)", name, c.Length(), c.Closed(), tc.length, tc.closed, last.Length)
		}
		if !strings.Contains(last.Note, tc.note) {
			t.Errorf("%s: note %q, want one with %q", name, last.Note, tc.note)
		}
	}
	// Dropped, the lowest point touches; laid flat, every point does.
	s, err := scenePaths(t, `{"id":"p","name":"p","shape":{"circle":{"centre":[0,2,0],"radius":1}},"steps":[{"drop":{"clearance":0.1,"flat":true}}]}`, `,"rigs":[]`)
	if err != nil {
		t.Fatal(err)
	}
	if b := s.Paths[0].Bounds(); b.Min.Y != 0.1 || b.Max.Y != 0.1 {
		t.Errorf("laid flat it is at %v", b)
	}
}

// What a path needs is made first, wherever it stands in the document, and rings of
// need are named.
func TestPathsThatNeedOthers(t *testing.T) {
	const a = `{"id":"p","name":"First","shape":{"line":{"from":[0,0,0],"to":[0,0,1]}},"steps":[{"join":{"paths":["q"]}}]}`
	const b = `{"id":"q","name":"Second","shape":{"line":{"from":[0,0,3],"to":[0,0,1.5]}},"steps":[{"trim":{"from":0,"to":1.25}}]}`
	s, err := scenePaths(t, a+","+b, `,"rigs":[]`)
	if err != nil {
		t.Fatal(err)
	}
	// 1, a gap of 0.75 bridged, and 1.25 turned round.
	if got := s.Paths[0].Length(); math.Abs(got-3) > 1e-12 {
		t.Errorf("joined: %g", got)
	}
	if n := report.Of(s).Paths[0].Steps[0].Note; n != "2 paths joined, 1 turned round, 1 gap bridged." {
		t.Errorf("note %q", n)
	}
	ring := strings.Replace(b, `{"trim":{"from":0,"to":1.25}}`, `{"join":{"paths":["p"]}}`, 1)
	const track = `{"id":"p","name":"First","shape":{"track":{"rig":"r"}}}`
	for name, tc := range map[string]struct{ paths, rest, says string }{
		"joins":  {a + "," + ring, `,"rigs":[]`, "ring: First needs Second, which needs First"},
		"tracks": {track, onFirst, "ring: First needs r, which needs First"},
	} {
		_, err := scenePaths(t, tc.paths, tc.rest)
		var faults scene.Faults
		if !errors.As(err, &faults) || faults[0].Address != "paths[0]" && !strings.HasPrefix(faults[0].Address, "paths[0]") || !strings.Contains(err.Error(), tc.says) {
			t.Errorf("%s: %v, want %q", name, err, tc.says)
		}
	}
}

// A path on a post stands with it: moved and turned, it keeps its clearance.
func TestPathOverAFixture(t *testing.T) {
	over := `{"id":"p","name":"p","shape":{"over":{"fixture":"f","clearance":0.05,"points":[[0,0.2,0.3],[0.3,0.6,0],[0,1,-0.3]]}}}`
	s, err := scenePaths(t, over, `,"fixtures":[{"id":"f","name":"F","part":"post","at":[5,1,-2],"heading":30}],"rigs":[]`)
	if err != nil {
		t.Fatal(err)
	}
	c := s.Paths[0]
	for i := range 100 {
		p, _ := c.At(c.Length() * float64(i) / 99)
		if r := math.Hypot(p.X-5, p.Z+2); math.Abs(r-0.35) > 1e-6 {
			t.Fatalf("%g from the post's axis", r)
		}
	}
	// Heading 30 degrees about up turns +z towards +x.
	if p, _ := c.At(0); p.Sub(geom.V(5+0.35*0.5, 1.2, -2+0.35*math.Sqrt(3)/2)).Norm() > 1e-9 {
		t.Errorf("it starts at %v", p)
	}
	if own := s.Fixtures[0].ToOwn(s.Fixtures[0].ToWorld(geom.V(1, 2, 3))); own.Sub(geom.V(1, 2, 3)).Norm() > 1e-12 {
		t.Errorf("there and back: %v", own)
	}
	if pts := report.Of(s).Paths[0].Points; len(pts) != 3 || math.Abs(pts[0].At[1]-1.2) > 1e-12 {
		t.Errorf("points %+v", pts)
	}
	// The same over its mesh, with the post's own facets between.
	box := strings.Replace(over, `"fixture":"f"`, `"fixture":"g"`, 1)
	if _, err := scenePaths(t, box, `,"fixtures":[{"id":"g","name":"G","part":"a","at":[0,0,0]}],"rigs":[]`); err != nil {
		t.Errorf("over a box: %v", err)
	}
}

// The track of a piece that goes once round a circle is that circle.
func TestTrackOfAPiece(t *testing.T) {
	const round = `{"id":"p","name":"p","shape":{"circle":{"centre":[0,1,0],"radius":1}}},{"id":"t","name":"t","shape":{"track":{"rig":"r","piece":3,"closed":true}}}`
	rest := strings.Replace(onFirst, `"travel":0`, fmt.Sprintf(`"travel":{"speed":%.17g}`, math.Pi), 1) // 48 frames at 24 a second
	s, err := scenePaths(t, round, rest)
	if err != nil {
		t.Fatal(err)
	}
	if l := s.Paths[1].Length(); math.Abs(l-2*math.Pi) > 1e-5 || !s.Paths[1].Closed() {
		t.Errorf("%g round, closed %v", l, s.Paths[1].Closed())
	}
	start, _ := s.Paths[1].At(0)
	if want, _ := s.Paths[0].At(2 * math.Pi * 0.2); start.Sub(want).Norm() > 1e-9 {
		t.Errorf("it starts at %v, piece 3 stood at %v", start, want)
	}
	if _, err := scenePaths(t, strings.Replace(round, `"piece":3`, `"piece":30`, 1), rest); err == nil || !strings.Contains(err.Error(), "the rig has 10") {
		t.Errorf("piece 30: %v", err)
	}
	if _, err := scenePaths(t, round, onFirst); err == nil || !strings.Contains(err.Error(), "no length") {
		t.Errorf("the track of what stands still: %v", err)
	}
}

// Beads of roll turn pieces by what they say at their distance, over the seam of a
// loop without a jump; the twist that the strip shows is their slope.
func TestRollByDistance(t *testing.T) {
	rest := func(beads string) string {
		return strings.Replace(onFirst, `"mode":"least-twist"`, `"mode":"loopside","rollAt":[`+beads+`]`, 1)
	}
	const slot = `{"id":"p","name":"p","shape":{"slot":{"centre":[0,1,0],"length":3,"radius":0.5}}}`
	s, err := scenePaths(t, slot, rest(`{"at":1,"roll":90},{"at":2,"roll":0,"ease":"eased"},{"at":9,"roll":5}`))
	if err != nil {
		t.Fatal(err)
	}
	l := 6 + math.Pi
	if s.Paths[0].Length()-l > 1e-9 {
		t.Fatal("another length")
	}
	r := report.Of(s).Rigs[0]
	for i, v := range r.Roll {
		at, want := l*float64(i)/float64(len(r.Roll)-1), 0.0
		switch {
		case at >= 1 && at <= 2:
			want = 90 * (2 - at)
		case at > 2 && at < 9:
			u := (at - 2) / 7
			want = 5 * u * u * (3 - 2*u)
		case at >= 9:
			want = 5 + 85*(at-9)/(l-8)
		default:
			want = 5 + 85*(at+l-9)/(l-8)
		}
		if math.Abs(float64(v)-want) > 1e-4 {
			t.Fatalf("roll %g at %g, want %g", v, at, want)
		}
	}
	// On the straight from 1 to 2 m the twist is the slope of the roll alone.
	k := int(1.5 / l * float64(len(r.Twist)))
	if math.Abs(float64(r.Twist[k])+90) > 0.01 {
		t.Errorf("twist %g deg/m on the straight, want -90", r.Twist[k])
	}
	// A piece stands as the facing says, turned by the bead.
	var pic rig.Picture
	s.Frame(&pic, 1)
	for i, d := range pic.Rigs[0].Distances {
		x := pic.Rigs[0].Transforms[i*rig.Stride:]
		q := geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
		f := s.Rigs[0].Field.Frame(d)
		turn := geom.AngleAbout(f.T, f.U, q.Apply(geom.V(0, 1, 0))) * 180 / math.Pi
		want := float64(r.Roll[int(math.Round(d/l*float64(len(r.Roll)-1)))])
		if math.Abs(turn-want) > 4 {
			t.Errorf("piece %d at %g is turned by %g, the line says %g", i, d, turn, want)
		}
	}
	// Beads beyond the end wait, and are told of.
	s, err = scenePaths(t, slot, rest(`{"at":1,"roll":90},{"at":99,"roll":0}`))
	if err != nil || len(report.Of(s).Rigs[0].Notes) != 1 {
		t.Errorf("a bead beyond the end: %v, notes %v", err, report.Of(s).Rigs[0].Notes)
	}
}

// While one point is dragged the picture comes from a cache and is the same.
func TestCachedCompileIsTheSame(t *testing.T) {
	k := rig.Compiler{Memo: new(rig.Memo)}
	for _, y := range []string{"0.1", "0.2", "0.3"} {
		text := `{"id":"p","name":"p","shape":{"spline":{"closed":true,"points":[{"at":[0,` + y + `,0]},{"at":[1,0.5,0]},{"at":[1,0.2,2]},{"at":[-1,0.1,1]}]}},"steps":[{"subdivide":{"parts":2}}]}`
		plain, err := scenePaths(t, text, onFirst)
		if err != nil {
			t.Fatal(err)
		}
		cached, err := k.Compile(plain.Doc)
		if err != nil {
			t.Fatal(err)
		}
		var a, b rig.Picture
		plain.Frame(&a, 7)
		cached.Frame(&b, 7)
		if !take(&a).same(take(&b)) {
			t.Errorf("y %s: the cached picture differs", y)
		}
	}
}

func TestMissingMeshIsNamed(t *testing.T) {
	d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":2},"paths":[],"rigs":[],
"parts":[{"id":"h","name":"h","shape":{"file":{"asset":"` + strings.Repeat("ab", 32) + `"}}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	var faults scene.Faults
	if _, err := rig.Compile(d); !errors.As(err, &faults) || faults[0].Address != "parts[0].shape.file" {
		t.Errorf("%v", err)
	}
}

// Steps that have to do with the ground follow its profile, in the world: also for a path whose
// carrier stands elsewhere, turned and leaning.
func TestStepsOverTheGround(t *testing.T) {
	const ground = `,"ground":{"humps":[{"z":0,"length":4,"height":0.5}]},
"carriers":[{"id":"c","name":"c","at":[0.3,2,0.4],"turn":{"heading":20,"pitch":10}}]`
	const line = `"shape":{"line":{"from":[0,1,-3],"to":[0,1,3]}}`
	for name, tc := range map[string]struct{ path, step string }{
		"draped":            {``, `{"drop":{"flat":true,"clearance":0.05}}`},
		"lowered":           {``, `{"drop":{"clearance":0.05}}`},
		"draped, carried":   {`,"carrier":"c"`, `{"drop":{"flat":true,"clearance":0.05}}`},
		"lowered, carried":  {`,"carrier":"c"`, `{"drop":{"clearance":0.05}}`},
		"jittered, carried": {`,"carrier":"c"`, `{"drop":{"flat":true,"clearance":0.05}},{"jitter":{"seed":1,"amount":0.4,"grain":0.5,"floor":true}}`},
	} {
		s, err := scenePaths(t, fmt.Sprintf(`{"id":"p","name":"p"%s,%s,"steps":[%s]}`, tc.path, line, tc.step), ground+onFirst)
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		var pic rig.Picture
		s.Frame(&pic, 1)
		c, pose := s.Paths[0], pic.Paths[0].Rigid()
		least, most := math.Inf(1), math.Inf(-1)
		for i := range 3000 {
			p, _ := c.At(c.Length() * float64(i) / 3000)
			p = pose.Apply(p)
			y := 0.0
			if math.Abs(p.Z) < 2 { // a hump is a raised cosine (docs/formats.md)
				y = 0.25 * (1 + math.Cos(math.Pi*p.Z/2))
			}
			least, most = min(least, p.Y-y), max(most, p.Y-y)
		}
		want := 0.05
		if strings.HasPrefix(name, "jittered") {
			want = 0
		}
		// The compiled profile is within a tenth of a millimetre of the raised cosine.
		if math.Abs(least-want) > 2e-4 {
			t.Errorf("%s: it comes within %g m of the ground, want %g", name, least, want)
		}
		if strings.HasPrefix(name, "draped") != (most < want+2e-4) {
			t.Errorf("%s: it rises to %g m over the ground", name, most)
		}
		if got, _ := s.LowestOf(0); math.Abs(got-least) > 2e-4 {
			t.Errorf("%s: it reads %g m above the ground, and is %g", name, got, least)
		}
	}
}
