package rig_test

import (
	"context"
	"fmt"
	"math"
	"os"
	"runtime"
	"slices"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
)

// On a way that waves twice a second, held points are on it at four times a frame, and stray from it in between
// by no more than cubics do: the height of the wave times (turn a station)^4 * 3/128, near the ends of a frame
// * 1/24 (common practice: the error of cubics through evenly spaced points).
func TestPinsOnAWayThatWaves(t *testing.T) {
	d := documentOf(t, `"paths":[{"id":"p","name":"p",`, `"paths":[{"id":"p","name":"p","steps":[{"wave":{"up":0.02,"phase":{"speed":2},"wavelength":1.1}}],`)
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	turn := 4 * math.Pi / 24 / 4
	most, went := 0.0, 0.0
	var before []geom.Vec
	for k := range 8 * 24 {
		moved, onPath := rig.Pinned(s, 1+float64(k)/24)
		for i := range moved {
			most = max(most, moved[i].Sub(onPath[i]).Norm())
			if k%6 == 0 && moved[i] != onPath[i] {
				t.Fatalf("step %d: held point %d is at %v, its place is %v", k, i, moved[i], onPath[i])
			}
			if before != nil {
				went = max(went, onPath[i].Sub(before[i]).Norm())
			}
		}
		before = onPath
	}
	if bound := 0.02 * math.Pow(turn, 4) / 24 * 2; most > bound || most == 0 || went < 0.0003 {
		t.Errorf("held points stray by %g m, by up to %g m they may, and go %g m a step", most, bound, went)
	}
}

// draped is a scene with a sheet that hangs from a way, and what else its drape says.
func draped(t *testing.T, drape, travel, more string) (*rig.Scene, error) {
	t.Helper()
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":12},
"parts":[{"id":"sheet","name":"Sheet","shape":{"sheet":{"length":1,"drop":0.6,"along":10,"down":6}}},{"id":"post","name":"Post","shape":{"post":{"radius":0.2,"height":2}}}],
"paths":[{"id":"p","name":"p","shape":{"spline":{"points":[{"at":[0,1.5,0]},{"at":[0.3,1.5,2]},{"at":[0,1.5,4]}]}}}],
"rigs":[{"id":"r","name":"Cloth","path":"p","part":"sheet","facing":{"mode":"steady"},"travel":%s,
"drape":{"fabric":{"weight":0.3,"stretch":2000,"shear":100,"bending":0.02}%s}}]%s}`, travel, drape, more))
	if err != nil {
		return nil, err
	}
	return rig.Compile(d)
}

func simulated(t *testing.T, drape, travel, more string) *rig.Scene {
	t.Helper()
	s, err := draped(t, drape, travel, more)
	if err == nil {
		err = s.Simulate(context.Background(), nil)
	}
	if err != nil {
		t.Fatal(err)
	}
	return s
}

const drawn = `{"keys":[{"frame":1,"value":0,"shape":"straight"},{"frame":12,"value":1}]}`

// Held points are on the path in every frame and between two, as the cloth that follows it has them;
// what hangs below them hangs by its own weight; nothing goes into the ground.
func TestDrapeHangs(t *testing.T) {
	s := simulated(t, `,"hang":"every","every":5,"damping":1,"settle":0.5`, drawn, "")
	flat, err := draped(t, `,"hang":"every","every":5,"damping":1,"settle":0.5`, drawn, "")
	if err != nil {
		t.Fatal(err)
	}
	var p, q rig.Picture
	for f := 1.0; f <= 13; f += 0.5 {
		s.At(&p, f)
		flat.At(&q, f)
		if p.Rigs[0].Waits || !q.Rigs[0].Waits {
			t.Fatal("what has been simulated is not told from what has not")
		}
		for _, v := range []int{0, 5, 10} { // of the upper edge, the first side
			if d := vec(p.Rigs[0].Positions, v).Sub(vec(q.Rigs[0].Positions, v)).Norm(); d > 1e-6 {
				t.Fatalf("frame %g: held point %d is %g m off", f, v, d)
			}
		}
		for v := range len(p.Rigs[0].Positions) / 3 {
			at, n := vec(p.Rigs[0].Positions, v), vec(p.Rigs[0].Normals, v)
			if !at.IsFinite() || at.Y < -1e-6 || at.Y > 1.6 || math.Abs(n.Norm()-1) > 1e-5 {
				t.Fatalf("frame %g: vertex %d at %v, normal %v", f, v, at, n)
			}
		}
	}
	if most, _, _ := s.Rigs[0].ClothStretch(&p.Rigs[0]); most > 0.1 {
		t.Errorf("it is stretched by %g", most)
	}
}

// The same bits come whatever the number of workers, and whichever frame is asked for first; and from
// a memo's run when what does not touch the cloth has changed.
func TestDrapeIsTheSame(t *testing.T) {
	drape := `,"hang":"corners","wrinkle":0.01,"seed":3,"flow":{"medium":"air","speed":[3,0,0],"gusts":0.5},"rounds":1,"ease":4`
	var first []float32
	for _, workers := range []int{1, 2, 8} {
		was := runtime.GOMAXPROCS(workers)
		s := simulated(t, drape, "0.5", "")
		runtime.GOMAXPROCS(was)
		var p rig.Picture
		for _, f := range []int{9, 3} {
			s.Frame(&p, f)
		}
		if first == nil {
			first = append(first, p.Rigs[0].Positions...)
			continue
		}
		for i, v := range p.Rigs[0].Positions {
			if v != first[i] {
				t.Fatalf("with %d workers number %d is %g, not %g", workers, i, v, first[i])
			}
		}
	}
	s := simulated(t, drape, "0.5", "")
	// Eased into the first: the frame after the range is the first.
	var a, b rig.Picture
	s.Frame(&a, 1)
	s.Frame(&b, 13)
	for v := range len(a.Rigs[0].Positions) / 3 {
		if d := vec(a.Rigs[0].Positions, v).Sub(vec(b.Rigs[0].Positions, v)).Norm(); d > 1e-6 {
			t.Fatalf("vertex %d jumps by %g m", v, d)
		}
	}
}

// A compile with a memo goes on with a simulation that an edit does not touch, and not with another.
func TestDrapeIsKept(t *testing.T) {
	k := rig.Compiler{Memo: new(rig.Memo)}
	load := func(from, to string) *rig.Scene {
		d := documentOf(t, from, to)
		s, err := k.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		return s
	}
	s := load("", "")
	if err := s.Simulate(context.Background(), nil); err != nil {
		t.Fatal(err)
	}
	for _, seen := range [][2]string{
		{`"name":"Cloth"`, `"name":"Other"`}, {`"name":"p"`, `"name":"Other"`},
		{`"name":"s"`, `"name":"s","material":"red"`}, {`"rigs":[`, `"light":{"heading":30,"height":40,"strength":1},"rigs":[`},
		{`"rigs":[`, `"ground":{"material":"red"},"rigs":[`}, {`"rigs":[`, `"cameras":[{"id":"c","name":"c","at":[0,1,{"speed":1}]}],"rigs":[`},
	} {
		if done, of := load(seen[0], seen[1]).Simulated(); done != of {
			t.Errorf("with %s %d of %d frames are there", seen[1], done, of)
		}
	}
	if done, _ := load(`"rigs":[{"id":"r","name":"Cloth","path":"p","part":"s","facing":{"mode":"steady"},"travel":0`,
		`"cameras":[{"id":"c","name":"c","at":[0,1,{"speed":1}]}],"rigs":[{"id":"r","name":"Cloth","path":"p","part":"s","facing":{"mode":"steady"},"travel":{"of":"cameras/c/z"}`).Simulated(); done > 1 {
		t.Errorf("drawn along by a camera %d frames are there", done)
	}
	if done, _ := load(`"bending":0.02`, `"bending":0.03`).Simulated(); done > 1 {
		t.Errorf("of another fabric %d frames are there", done)
	}
}

// keeper keeps frames in memory.
type keeper map[string][]byte

func (k keeper) Get(key string) ([]byte, bool) { d, there := k[key]; return d, there }
func (k keeper) Put(key string, data []byte)   { k[key] = data }

// Frames that were kept are taken for those of the same simulation, to the bit, and nothing that is
// not whole.
func TestDrapeIsKeptOutside(t *testing.T) {
	kept := keeper{}
	k := rig.Compiler{Kept: kept}
	load := func() *rig.Scene {
		s, err := k.Compile(documentOf(t, "", ""))
		if err != nil {
			t.Fatal(err)
		}
		return s
	}
	first := load()
	if err := first.Simulate(context.Background(), nil); err != nil {
		t.Fatal(err)
	}
	second := load()
	if done, of := second.Simulated(); done != of || len(kept) != 1 {
		t.Fatalf("%d of %d frames of %d kept", done, of, len(kept))
	}
	var a, b rig.Picture
	first.At(&a, 3.5)
	second.At(&b, 3.5)
	for i, v := range a.Rigs[0].Positions {
		if b.Rigs[0].Positions[i] != v {
			t.Fatalf("number %d is %g, not %g", i, b.Rigs[0].Positions[i], v)
		}
	}
	for key, data := range kept {
		kept[key] = data[:len(data)-4]
	}
	if done, of := load().Simulated(); done == of {
		t.Error("what is cut short is taken for whole")
	}
}

// What moves a cloth through another rig starts it anew: a drum that its cable leaves, a travel that
// it follows. A rig that it has nothing to do with does not.
func TestDrapeGoesByOthers(t *testing.T) {
	text := `{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":4},"parts":[{"id":"s","name":"s","shape":{"sheet":{"length":1,"drop":0.5,"along":4,"down":2}}}],
"paths":[{"id":"p","name":"p","shape":{"hang":{"from":[0,3,0],"to":[0,2,4],"length":5,"drum":"w"}}},{"id":"q","name":"q","shape":{"line":{"from":[0,1,0],"to":[0,1,2]}}}],
"rigs":[{"id":"w","name":"Winch","path":"p","part":"s","facing":{"mode":"steady"},"travel":0,"drum":{"radius":0.1,"width":0.3,"rope":0.02,"wound":9}},
{"id":"a","name":"A","path":"q","part":"s","facing":{"mode":"steady"},"travel":0.25,"rider":{}},{"id":"b","name":"B","path":"q","part":"s","facing":{"mode":"steady"},"travel":0.125,"rider":{}},
{"id":"r","name":"Cloth","path":"PATH","part":"s","facing":{"mode":"steady"},"travel":{"of":"rigs/a/travel"},"drape":{"fabric":{"weight":0.3,"stretch":900,"bending":0.02}}}]}`
	for _, c := range []struct {
		path, from, to string
		kept           bool
	}{
		{"p", `"travel":0,"drum"`, `"travel":0.5,"drum"`, false},
		{"q", `"travel":0.25`, `"travel":0.5`, false},
		{"q", `"part":"s","facing":{"mode":"steady"},"travel":0,"drum"`, `"part":"s","facing":{"mode":"steady"},"travel":0.5,"drum"`, false}, // all or none of them count
	} {
		k := rig.Compiler{Memo: new(rig.Memo)}
		whole := func(from, to string) bool {
			d, err := scene.Decode([]byte(strings.Replace(strings.Replace(text, "PATH", c.path, 1), from, to, 1)))
			if err != nil {
				t.Fatal(err)
			}
			s, err := k.Compile(d)
			if err != nil {
				t.Fatal(err)
			}
			done, of := s.Simulated()
			if done == of {
				return true
			}
			if err := s.Simulate(context.Background(), nil); err != nil {
				t.Fatal(err)
			}
			return false
		}
		whole("", "")
		if got := whole(c.from, c.to); got != c.kept {
			t.Errorf("on %s, %s for %s: its frames are kept: %v", c.path, c.to, c.from, got)
		}
	}
}

func documentOf(t *testing.T, from, to string) *scene.Document {
	t.Helper()
	text := `{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":4},"parts":[{"id":"s","name":"s","shape":{"sheet":{"length":1,"drop":0.5,"along":4,"down":2}}}],
"materials":[{"id":"red","name":"Red","colour":"#aa2211","roughness":0.5}],"paths":[{"id":"p","name":"p","shape":{"line":{"from":[0,1,0],"to":[0,1,2]}}}],
"rigs":[{"id":"r","name":"Cloth","path":"p","part":"s","facing":{"mode":"steady"},"travel":0,"drape":{"fabric":{"weight":0.3,"stretch":900,"bending":0.02}}}]}`
	d, err := scene.Decode([]byte(strings.Replace(text, from, to, 1)))
	if err != nil {
		t.Fatal(err)
	}
	return d
}

// Rings that are drawn together gather the cloth into folds, and no edge is drawn out by it; a post
// keeps what hangs on it out; a stopped simulation goes on where it was.
func TestDrapeGathers(t *testing.T) {
	reach := `,"hang":"every","every":2,"fit":"reach","tail":0.5,"head":{"keys":[{"frame":1,"value":1.5},{"frame":12,"value":1}]},"damping":2,"settle":0.3`
	s := simulated(t, reach, "0", "")
	var p rig.Picture
	s.Frame(&p, 12)
	box := geom.EmptyBox()
	for v := range len(p.Rigs[0].Positions) / 3 {
		box = box.Extend(vec(p.Rigs[0].Positions, v))
	}
	if thick := box.Size().X; thick < 0.05 {
		t.Errorf("gathered to half its length it is %g m thick", thick)
	}
	if most, _, _ := s.Rigs[0].ClothStretch(&p.Rigs[0]); most > 0.1 {
		t.Errorf("it is stretched by %g", most)
	}

	post := `,"fixtures":[{"id":"f","name":"Post","part":"post","at":[0.12,0,0.9]}]`
	s, err := draped(t, `,"hang":"edge","thickness":0.01,"damping":2,"settle":0.5`, "0.4", post)
	if err != nil {
		t.Fatal(err)
	}
	ctx, cancel := context.WithCancel(context.Background())
	steps := 0
	err = s.Simulate(ctx, func(done, of int) {
		if steps++; steps == 3 {
			cancel()
		}
	})
	if done, of := s.Simulated(); err == nil || done >= of || done < 3 {
		t.Errorf("stopped with %v after %d of %d frames", err, done, of)
	}
	if err := s.Simulate(context.Background(), nil); err != nil {
		t.Fatal(err)
	}
	s.Frame(&p, 12)
	touched := false
	for v := range len(p.Rigs[0].Positions) / 3 {
		at := vec(p.Rigs[0].Positions, v)
		far := math.Hypot(at.X-0.12, at.Z-0.9)
		if at.Y < 1.45 && far < 0.2*math.Cos(math.Pi/20) { // the post is of straights
			t.Fatalf("vertex %d at %v is %g m from the middle of the post", v, at, far)
		}
		touched = touched || far < 0.22
	}
	if !touched {
		t.Error("it does not touch the post")
	}
}

// A frame can be simulated without those after it: it and what is before come out the same, to the bit.
func TestSimulatedSoFar(t *testing.T) {
	const drape = `,"hang":"edge","damping":1,"settle":0.2,"rounds":1,"ease":3`
	whole := simulated(t, drape, drawn, "")
	part, err := draped(t, drape, drawn, "")
	if err != nil {
		t.Fatal(err)
	}
	last := 0
	if err := part.SimulateTo(context.Background(), 5, func(done, of int) { last = of - done }); err != nil || last != 0 {
		t.Fatalf("%v, with %d frames left", err, last)
	}
	for f := 1; f <= 6; f++ {
		var p, q rig.Picture
		whole.Frame(&p, f)
		part.Frame(&q, f)
		if q.Rigs[0].Waits != (f == 6) || f < 6 && !slices.Equal(p.Rigs[0].Positions, q.Rigs[0].Positions) {
			t.Errorf("frame %d waits: %v", f, q.Rigs[0].Waits)
		}
	}
}

// What cannot be cloth is said, at its place.
func TestDrapeRefused(t *testing.T) {
	for _, c := range []struct{ drape, part, says string }{
		{`,"hang":"points","points":[500]`, "", "the cloth has no point 500"},
		{`,"hang":"points"`, "", "nothing holds the cloth"},
		{`,"hang":"every"`, "", "1 or more is"},
		{`,"ease":4`, "", "1 or more rounds"},
		{`,"ease":40,"rounds":1`, "", "the range's"},
		{`,"count":3`, "", "copies lie on one another"},
		{`,"friction":-1`, "", "is not accepted"},
		{`,"count":900,"pitch":1`, "", "points is not accepted"},
	} {
		if _, err := draped(t, c.drape, "0", ""); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v, not %q", c.drape, err, c.says)
		}
	}
	flat, err := draped(t, "", "0", "")
	if err != nil {
		t.Fatal(err)
	}
	flat.Doc.Parts[0].Forward = "+x"
	if _, err := rig.Compile(flat.Doc); err == nil || !strings.Contains(err.Error(), "rigs[0].part: \"Sheet\" has no length along its forward +x") {
		t.Errorf("a sheet with its flat side along the path: %v", err)
	}
	if _, err := draped(t, `,"flow":{"medium":"soup"}`, "0", ""); err == nil {
		t.Error("a flow of soup is accepted")
	}
}

// Pennants 45 times as large, which begin deep in the ground and are drawn out in water, were thrown to places that are
// no numbers (found by mutation). And should a simulation break all the same, what it throws away stands still where it
// was, in numbers, and a check says so.
func TestClothStaysInNumbers(t *testing.T) {
	text, err := os.ReadFile("testdata/large-pennants.json")
	if err != nil {
		t.Fatal(err)
	}
	for _, thrown := range []bool{false, true} {
		s := whole(t, string(text))
		if thrown {
			rig.Throw(s)
		}
		said := slices.ContainsFunc(check.All(s), func(r check.Result) bool { return r.Word == "breaks" && r.State == check.Outside })
		if said != thrown {
			t.Errorf("thrown %v, said %v", thrown, said)
		}
		var p rig.Picture
		for f := s.Doc.Range.First; f <= s.Doc.Range.Last; f++ {
			s.Frame(&p, f)
			for _, list := range [][]float32{p.Rigs[0].Positions, p.Rigs[0].Normals} {
				for k, v := range list {
					if !(math.Abs(float64(v)) < 1e4) {
						t.Fatalf("thrown %v, frame %d: number %d is %g", thrown, f, k, v)
					}
				}
			}
		}
	}
}
