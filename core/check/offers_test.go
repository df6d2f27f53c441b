package check_test

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"strconv"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/geom"
	"bead/core/rig"
)

// randomRunner is a scene of one to three rigs that run on a wave, a plain loop or an open path
// on which they come round, with what follows them or turns by itself.
func randomRunner(rnd *rand.Rand) []byte {
	pick := func(list ...string) string { return list[rnd.IntN(len(list))] }
	num := func(a, b float64) float64 { return a + (b-a)*rnd.Float64() }
	path := pick(
		fmt.Sprintf(`"shape":{"circle":{"centre":[0,3,0],"radius":%g}}`, num(0.5, 1.5)),
		fmt.Sprintf(`"shape":{"slot":{"centre":[0,3,0],"length":%g,"radius":%g}}`, num(0.5, 3), num(0.2, 0.6)),
		fmt.Sprintf(`"shape":{"spline":{"points":[{"at":[1.3,2,0.5]},{"at":[2.5,2.4,%g]},{"at":[5.4,2.4,0.2]},{"at":[7.8,%g,0]}]}}`, num(-1, 1), num(1.5, 3)),
		fmt.Sprintf(`"shape":{"spline":{"closed":true,"points":[{"at":[0,2,0]},{"at":[0,3,%g]},{"at":[1,3,1]},{"at":[1,%g,-1]}]}}`, num(1, 2), num(1.5, 2.5)),
	)
	if rnd.IntN(3) == 0 {
		path += fmt.Sprintf(`,"steps":[{"wave":{"side":%g,"wavelength":%g,"phase":{"speed":%g}}}]`, num(0.01, 0.1), num(0.4, 1), num(-2, 2))
	}
	mode := pick("steady", "least-twist")
	train := func(id, travel string) string {
		return fmt.Sprintf(`{"id":%q,"name":%q,"kind":"train","path":"p","part":"a","pastEnd":"come round","spacing":{"mode":"set count","count":%d},"facing":{"mode":%q%s},"travel":%s}`,
			id, id, 2+rnd.IntN(60), mode, pick("", "", fmt.Sprintf(`,"roll":{"speed":%g}`, num(-90, 90))), travel)
	}
	rigs := []string{train("r", fmt.Sprintf(`{"speed":%g}`, num(-1, 1)))}
	if rnd.IntN(2) == 0 {
		rigs = append(rigs, train("q", pick(fmt.Sprintf(`{"speed":%g}`, num(-1, 1)), `{"of":"rigs/r/travel","ratio":2}`, fmt.Sprintf(`{"rpm":%g,"radius":0.3}`, num(5, 30)),
			`{"keys":[{"frame":1,"value":0},{"frame":25,"value":0.5}],"after":"mirror"}`)))
	}
	if rnd.IntN(3) == 0 {
		rigs = append(rigs, `{"id":"lamp","name":"lamp","kind":"rider","path":"p","part":"a","pastEnd":"come round","facing":{"mode":"steady"},"travel":-0.1,"lead":{"rig":"r"}}`)
	}
	return fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":%d},"paths":[{"id":"p","name":"p",%s}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.05,"height":0.03,"length":0.04}}}],"rigs":[%s]}`, 24+rnd.IntN(100), path, strings.Join(rigs, ","))
}

// Every loop that is offered is one: of the pieces in the frame after the range each stands
// where a piece stood in the first, by comparing all with all. In the suite 20 scenes; more by
// BEAD_SCENES.
func TestOffersLoopByBruteForce(t *testing.T) {
	scenes, offered, none, said := 20, 0, 0, 0
	if n, err := strconv.Atoi(os.Getenv("BEAD_SCENES")); err == nil {
		scenes = n
	}
	rnd := rand.New(rand.NewPCG(21, 5))
	for n := range scenes {
		doc := randomRunner(rnd)
		s := compiled(t, doc)
		answer, err := check.Loops(context.Background(), s, rig.Compile, 0, s.Doc.Range.Count(), s.Doc.Rigs[0].Travel.Speed.PerSecond)
		if err != nil {
			t.Fatalf("%v\n%s", err, doc)
		}
		if len(answer.Offers) == 0 {
			if none++; answer.Note == "" {
				t.Errorf("scene %d: no offer and no reason\n%s", n, doc)
			}
		}
		for _, o := range answer.Offers {
			offered++
			// Of a rig that does not loop it is said why.
			for _, rest := range strings.Split(o.Text, " does not loop: ")[1:] {
				said++
				if !strings.HasPrefix(rest, "From frame") && !strings.HasPrefix(rest, "Frame") {
					t.Errorf("scene %d: %q says nothing of why", n, o.Text)
				}
			}
			made := compiled(t, apply(t, doc, o.Edits))
			r := made.Doc.Range
			rigs := 1
			if strings.Contains(o.Text, "all rigs loop") {
				rigs = len(made.Rigs)
			}
			for k := range rigs {
				if way, turn := apart(made, k, r.First, r.Last+1); way > 2e-4 || turn > 3e-3 {
					t.Errorf("scene %d: %q: rig %d ends %g m and %g rad from its beginning\n%s", n, o.Text, k, way, turn, doc)
				}
			}
		}
	}
	if said == 0 {
		t.Error("no scene has a rig that does not loop")
	}
	t.Logf("%d offers for %d scenes, %d scenes without", offered, scenes, none)
	if offered < 3*scenes {
		t.Errorf("only %d offers for %d scenes, %d without", offered, scenes, none)
	}
}

// apart is the greatest distance of a piece at one frame from the nearest of the rig's at another,
// and the turn between the two.
func apart(s *rig.Scene, k, from, to int) (way, turn float64) {
	var a, b rig.Picture
	s.Frame(&a, from)
	s.Frame(&b, to)
	p, q := a.Rigs[k].Transforms, b.Rigs[k].Transforms
	for i := 0; i < len(q); i += rig.Stride {
		at, rotation := pieceOf(q[i:])
		best, angle := math.Inf(1), 0.0
		for j := 0; j < len(p); j += rig.Stride {
			was, before := pieceOf(p[j:])
			if d := at.Sub(was).Norm(); d < best {
				best = d
				angle = geom.Angle(rotation.Apply(geom.V(0, 0, 1)), before.Apply(geom.V(0, 0, 1))) + geom.Angle(rotation.Apply(geom.V(0, 1, 0)), before.Apply(geom.V(0, 1, 0)))
			}
		}
		way, turn = max(way, best), max(turn, angle)
	}
	return way, turn
}
