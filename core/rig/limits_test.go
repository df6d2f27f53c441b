package rig_test

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
)

// large makes documents of many things by repetition.
func large(frames int, paths, rigs, more string) string {
	return fmt.Sprintf(`{"bead":1,"name":"large","fps":24,"range":{"first":1,"last":%d},"paths":[%s],"rigs":[%s],%s
		"parts":[{"id":"a","name":"Box","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}]}`,
		frames, paths, rigs, more)
}

func repeat(n int, one func(i int) string) string {
	all := make([]string, n)
	for i := range all {
		all[i] = one(i)
	}
	return strings.Join(all, ",")
}

// wavy is a path of n points.
func wavy(id string, n int, more string) string {
	return fmt.Sprintf(`{"id":%q,"name":%q,"shape":{"spline":{"points":[%s]}}%s}`, id, id,
		repeat(n, func(i int) string { return fmt.Sprintf(`{"at":[%g,0,%g]}`, float64(i%2)/10, float64(i)/10) }), more)
}

func train(id string, count int, more string) string {
	if !strings.Contains(more, `"travel"`) {
		more += `,"travel":0`
	}
	return fmt.Sprintf(`{"id":%q,"name":%q,"kind":"train","path":"w","part":"a","spacing":{"mode":"set count","count":%d},"facing":{"mode":"steady"}%s}`, id, id, count, more)
}

// Small documents that ask for memory or time without end are refused where they ask for it, with
// the limit and what would be accepted, and soon.
func TestLimits(t *testing.T) {
	plain := wavy("w", 4, "")
	waving := `{"wave":{"side":0.1,"wavelength":0.2,"phase":{"speed":1}}}`
	swings := `{"lag":{"frequency":1,"damping":0.3}}`
	for name, tc := range map[string]struct{ doc, at, says string }{
		"joins of joins": {large(1, wavy("w0", 12, "")+","+repeat(5, func(i int) string {
			return wavy(fmt.Sprintf("w%d", i+1), 2, fmt.Sprintf(`,"steps":[{"join":{"paths":[%s]}}]`, repeat(20, func(int) string { return fmt.Sprintf(`"w%d"`, i) })))
		}), "", ""), "paths[3].steps[0].join", "up to 50000"},
		"steps over and over": {large(1, wavy("w", 5000, `,"steps":[`+repeat(100, func(int) string { return `{"reverse":{}}` })+`]`), "", ""), "paths[0].steps[60]", "300000 spans after steps"},
		"points":              {large(1, repeat(12, func(i int) string { return wavy(fmt.Sprintf("w%d", i), 9000, "") }), "", ""), "paths[11]", "100000 spans"},
		"moving paths":        {large(9, repeat(40, func(i int) string { return wavy(fmt.Sprintf("w%d", i), 30, `,"steps":[`+waving+`]`) }), "", ""), "paths[19]", "more than 10000 spans of paths that move"},
		"a moving path":       {large(9, wavy("w", 60, `,"steps":[`+waving+`,{"subdivide":{"parts":4}}]`), "", ""), "paths[0].steps[1]", "up to 3000"},
		"pieces":              {large(1, plain, repeat(1500, func(i int) string { return train(fmt.Sprintf("r%d", i), 100_000, "") }), ""), "rigs[2].spacing", "200000 pieces"},
		"facings": {large(1, wavy("w", 9000, ""), repeat(40, func(i int) string {
			return strings.Replace(train(fmt.Sprintf("r%d", i), 1, ""), `"steady"`, fmt.Sprintf(`"least-twist","turns":%d`, i), 1)
		}), ""), "rigs[11].facing", "100000 spans"},
		"bodies": {large(1, plain, repeat(200, func(i int) string {
			return train(fmt.Sprintf("r%d", i), 10_000, `,"seat":"bent"`)
		}), ""), "rigs[16].part", "4000000 vertices of pieces"},
		"a lag from long ago": {large(9, wavy("w", 4, `,"steps":[`+waving+`,{"lag":{"frequency":1,"damping":0.3,"first":-1000000}}]`), "", ""), "paths[0].steps[1].lag", "20000 frames of lags"},
		"lags on lags":        {large(9, wavy("w", 4, `,"steps":[`+waving+","+swings+","+swings+","+swings+`]`), "", ""), "paths[0].steps[3].lag", "up to 2"},
		"a chain of values": {large(9, plain, repeat(1500, func(i int) string {
			if i == 0 {
				return train("r0", 3, `,"travel":{"speed":1}`)
			}
			return train(fmt.Sprintf("r%d", i), 3, fmt.Sprintf(`,"travel":{"of":"rigs/r%d/travel"}`, i-1))
		}), ""), "rigs[64].travel.of", "more than 63"},
		"a row of carriers": {large(9, plain, "", `"carriers":[`+repeat(1500, func(i int) string {
			if i == 0 {
				return `{"id":"c0","name":"c","at":[0,0,0]}`
			}
			return fmt.Sprintf(`{"id":"c%d","name":"c","at":[0,0,0],"parent":"c%d"}`, i, i-1)
		})+`],`), "carriers[64]", "more than 63"},
		"a row of riders": {large(9, plain, repeat(1500, func(i int) string {
			r := strings.Replace(train(fmt.Sprintf("r%d", i), 1, ""), `"train"`, `"rider"`, 1)
			if i == 0 {
				return r
			}
			return strings.Replace(r, `"steady"}`, fmt.Sprintf(`"steady"},"lead":{"rig":"r%d","at":"head"}`, i-1), 1)
		}), ""), "rigs[64].lead", "more than 63"},
		"wavers": {large(1, wavy("w", 200, `,"steps":[{"jitter":{"amount":0.01,"grain":0.001,"seed":1,"direction":"all"}}]`), "", ""), "paths[0].steps[0].jitter", "at least"},
	} {
		t.Run(name, func(t *testing.T) {
			d, err := scene.Decode([]byte(tc.doc))
			if err != nil {
				t.Fatal(err)
			}
			_, err = rig.Compile(d)
			var faults scene.Faults
			if !errors.As(err, &faults) || !strings.HasPrefix(faults[0].Address, tc.at) || !strings.Contains(faults[0].Message, tc.says) {
				t.Errorf("%v; want %q at %s", err, tc.says, tc.at)
			}
		})
	}
}

// Riders one before another are placed by one walk along the row, not by one that doubles with each.
func TestRowOfBodies(t *testing.T) {
	body := func(i int) string {
		lead := ""
		if i > 0 {
			lead = fmt.Sprintf(`"lead":{"rig":"r%d","at":"middle"},`, i-1)
		}
		return fmt.Sprintf(`{"id":"r%d","name":"r","kind":"bend","path":"w","part":"a","seat":"bent",%s"facing":{"mode":"steady"},"travel":{"speed":0.1},"bend":{"rounds":{"count":2,"frames":4,"stride":0.1}}}`, i, lead)
	}
	d, err := scene.Decode([]byte(large(9, wavy("w", 40, ""), repeat(60, body), "")))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	done := make(chan struct{})
	go func() {
		var p rig.Picture
		s.Frame(&p, 3)
		close(done)
	}()
	select {
	case <-done:
	case <-time.After(time.Minute):
		t.Fatal("one frame of 60 bodies takes more than a minute")
	}
}

// A context that ends while a scene is compiled, read or settled ends that with its error.
func TestCompilingEnds(t *testing.T) {
	d, err := scene.Decode([]byte(large(4000, wavy("w", 4, `,"steps":[{"wave":{"side":0.1,"wavelength":0.2,"phase":{"speed":1}}},{"lag":{"frequency":1,"damping":0.3}}]`), train("r", 5, ""), "")))
	if err != nil {
		t.Fatal(err)
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := new(rig.Compiler).CompileContext(gone, d); !errors.Is(err, context.Canceled) {
		t.Errorf("compiling: %v", err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := report.OfContext(gone, s); !errors.Is(err, context.Canceled) {
		t.Errorf("reading: %v", err)
	}
	if err := s.Settle(gone, 3000); !errors.Is(err, context.Canceled) {
		t.Errorf("settling: %v", err)
	}
	// What was ended goes on where it was, and gives what it would have given.
	if err := s.Settle(context.Background(), 3); err != nil {
		t.Fatal(err)
	}
	again, _ := rig.Compile(d)
	var p, q rig.Picture
	s.Frame(&p, 3)
	again.Frame(&q, 3)
	if p.Rigs[0].Transforms[0] != q.Rigs[0].Transforms[0] || p.Curves[0].Length() != q.Curves[0].Length() {
		t.Errorf("settled and not: %v and %v", p.Rigs[0].Transforms[:3], q.Rigs[0].Transforms[:3])
	}
}

// asked is a context that ends when it has been asked so often whether it has.
type asked struct {
	context.Context
	left int
}

func (a *asked) Err() error {
	if a.left--; a.left < 0 {
		return context.Canceled
	}
	return nil
}

// A frame is given up on the way, between the pieces of every kind of rig that has many, and is whole
// when it is asked for again with the same picture.
func TestFramesAreGivenUp(t *testing.T) {
	for name, c := range map[string]struct {
		pieces, least int
		more          string
	}{
		"pieces": {2000, 2000 / 256, ""}, "pieces on pins": {1000, 1000 / 256, `,"seat":"ends"`}, "pieces that bend": {30, 30, `,"seat":"bent"`},
	} {
		d, err := scene.Decode([]byte(large(9, wavy("w", 4, ""), train("r", c.pieces, c.more), "")))
		if err != nil {
			t.Fatal(name, err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(name, err)
		}
		var whole, pic rig.Picture
		s.Frame(&whole, 5)
		most := 1 << 20
		patient := asked{context.Background(), most}
		if err := s.FrameContext(&patient, &pic, 5); err != nil {
			t.Fatal(name, err)
		}
		if n := most - patient.left; n < c.least {
			t.Errorf("%s: asked %d times", name, n)
		}
		for n := range most - patient.left {
			if err := s.FrameContext(&asked{context.Background(), n}, &pic, 5); !errors.Is(err, context.Canceled) {
				t.Fatalf("%s: given up after %d: %v", name, n, err)
			}
		}
		if s.Frame(&pic, 5); !slices.Equal(pic.Rigs[0].Transforms, whole.Rigs[0].Transforms) || !slices.Equal(pic.Rigs[0].Positions, whole.Rigs[0].Positions) {
			t.Errorf("%s: not whole after it was given up", name)
		}
	}
}
