package check_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/geom"
	"bead/core/rig"
)

// Boxes in a row on a straight run into one another by their length less the pitch; the press
// fits the piece to the pitch, or the pitch to the piece.
func TestOverlapOnAStraight(t *testing.T) {
	for _, tc := range []struct {
		spacing string
		pitch   float64
	}{{`{"mode":"set pitch","pitch":0.19}`, 0.19}, {`{"mode":"set pitch","gap":-0.088}`, 0.432}, {`{"mode":"set pitch","gap":0.02}`, 0.54}} {
		doc := document(3, `"shape":{"line":{"from":[0,1,0],"to":[0,1,8]}}`, `"shape":{"box":{"side":0.3,"height":0.05,"length":0.52}}`,
			`"kind":"train","spacing":`+tc.spacing+`,"facing":{"mode":"steady"},"travel":0`, "")
		r := results(t, doc)["overlap"]
		want := max(0.52-tc.pitch, 0)
		if math.Abs(r.Value-want) > 1e-6 || (r.State == check.Outside) != (want > 0) {
			t.Fatalf("%s: %+v, want %g", tc.spacing, r, want)
		}
		if want > 0 && len(r.Remedies) != 2 {
			t.Fatalf("%s: %+v", tc.spacing, r.Remedies)
		}
		for _, m := range r.Remedies {
			if after := results(t, apply(t, doc, m.Edits))["overlap"]; after.State != check.Inside {
				t.Errorf("%s: after %q: %+v", tc.spacing, m.Label, after)
			}
		}
	}
}

// On rings of boxes the check finds what brute force finds: of 400,000 points thrown into a box
// the one that lies deepest in its neighbour, along that one's forward, or a little more, for
// the check looks at the faces themselves.
func TestOverlapAgainstThrownPoints(t *testing.T) {
	rnd := rand.New(rand.NewPCG(3, 8))
	for n := range 8 {
		count, radius := 8+rnd.IntN(30), 0.4+rnd.Float64()
		size := geom.V(0.1, 0.02+0.2*rnd.Float64(), 2*math.Pi*radius/float64(count)*(0.8+0.5*rnd.Float64()))
		doc := document(1, fmt.Sprintf(`"shape":{"circle":{"centre":[0,3,0],"radius":%g}}`, radius), fmt.Sprintf(`"shape":{"box":{"side":%g,"height":%g,"length":%g}}`, size.X, size.Y, size.Z),
			fmt.Sprintf(`"kind":"train","spacing":{"mode":"set count","count":%d},"facing":{"mode":"loopside"},"travel":0`, count), "")
		r := results(t, doc)["overlap"]
		var p rig.Picture
		compiled(t, doc).Frame(&p, 1)
		pose := func(i int) geom.Rigid {
			at, q := pieceOf(p.Rigs[0].Transforms[i*rig.Stride:])
			return geom.Rigid{P: at, X: q.Apply(geom.V(1, 0, 0)), Y: q.Apply(geom.V(0, 1, 0)), Z: q.Apply(geom.V(0, 0, 1))}
		}
		a, b := pose(0), pose(1)
		deepest := func(into, of geom.Rigid, side float64) float64 {
			most := 0.0
			m := into.Inverse().Mul(of)
			for range 200_000 {
				q := m.Apply(geom.V((rnd.Float64()-0.5)*size.X, (rnd.Float64()-0.5)*size.Y, (rnd.Float64()-0.5)*size.Z))
				if math.Abs(q.X) <= size.X/2 && math.Abs(q.Y) <= size.Y/2 && math.Abs(q.Z) <= size.Z/2 {
					most = max(most, size.Z/2-side*q.Z)
				}
			}
			return most
		}
		want := max(deepest(a, b, 1), deepest(b, a, -1))
		// A cell is looked at in its middle, a thrown point lies a little inside.
		if off := r.Value - want; math.Abs(off) > 0.03*size.Z {
			t.Errorf("ring %d (%d boxes, %v): %g, brute force %g", n, count, size, r.Value, want)
		}
	}
}

func pieceOf(x []float32) (geom.Vec, geom.Quat) {
	return geom.V(float64(x[0]), float64(x[1]), float64(x[2])), geom.Quat{X: float64(x[3]), Y: float64(x[4]), Z: float64(x[5]), W: float64(x[6])}
}

// Links of a chain turn on their pins and do not count as run together; a link pitch that is not
// the spacing's does.
func TestLinksOnTheirPinsAreClear(t *testing.T) {
	doc := func(pitch float64) []byte {
		return document(4, `"shape":{"slot":{"centre":[0,1,0],"length":1.2,"radius":0.3}}`, fmt.Sprintf(`"shape":{"link":{"pitch":%g,"width":0.06,"height":0.09,"plate":0.012,"roller":0.03}}`, pitch),
			`"kind":"train","seat":"ends","spacing":{"mode":"set count","count":43},"facing":{"mode":"loopside"},"travel":{"speed":0.3}`, "")
	}
	if r := results(t, doc(0.0995))["overlap"]; r.State != check.Inside {
		t.Errorf("links of the pitch: %+v", r)
	}
	if r := results(t, doc(0.25))["overlap"]; r.State != check.Outside {
		t.Errorf("links much too long: %+v", r)
	}
}

// How deep random boxes come into a hump is what their corners say, by the hump's own formula.
func TestFloorAgainstTheHump(t *testing.T) {
	rnd := rand.New(rand.NewPCG(9, 1))
	for n := range 10 {
		size := geom.V(0.3*rnd.Float64()+0.05, 0.1*rnd.Float64()+0.02, 0.4*rnd.Float64()+0.05)
		y, height := 0.3*rnd.Float64(), 0.4*rnd.Float64()
		doc := document(5, fmt.Sprintf(`"shape":{"line":{"from":[0,%g,-2],"to":[0.3,%g,2]}}`, y, y+0.2*rnd.Float64()), fmt.Sprintf(`"shape":{"box":{"side":%g,"height":%g,"length":%g}}`, size.X, size.Y, size.Z),
			`"kind":"train","spacing":{"mode":"set count","count":30},"facing":{"mode":"steady"},"travel":{"speed":0.7}`, fmt.Sprintf(`,"ground":{"humps":[{"z":0.2,"length":2.4,"height":%g}]}`, height))
		r := results(t, doc)["floor"]
		s := compiled(t, doc)
		var p rig.Picture
		want := 0.0
		for f := 1; f <= 5; f++ {
			s.Frame(&p, f)
			for i := range 30 {
				at, q := pieceOf(p.Rigs[0].Transforms[i*rig.Stride:])
				for k := range 8 {
					c := at.Add(q.Apply(geom.V(size.X*(float64(k&1)-0.5), size.Y*(float64(k>>1&1)-0.5), size.Z*(float64(k>>2)-0.5))))
					h, slope := 0.0, 0.0
					if u := (c.Z - 0.2) / 2.4; math.Abs(u) < 0.5 {
						h, slope = height*(1+math.Cos(2*math.Pi*u))/2, -height*math.Pi/2.4*math.Sin(2*math.Pi*u)
					}
					want = max(want, (h-c.Y)/math.Hypot(1, slope))
				}
			}
		}
		if math.Abs(r.Value-want) > 1e-3 || r.State == check.Outside != (want > 0.002) && math.Abs(want-0.002) > 1e-3 {
			t.Errorf("boxes %d: %g m, the hump's formula says %g (%s)", n, r.Value, want, r.State)
		}
	}
}

// Shoes have their grousers outside: with the part's up turned round, facing inward or rolled
// over they look inside, and the press turns them.
func TestOutward(t *testing.T) {
	shoe := `"shape":{"shoe":{"length":0.1,"width":0.2,"height":0.03,"grouser":0.02,"horn":0.03}}`
	for _, tc := range []struct{ part, facing string }{
		{shoe, `{"mode":"loopside"}`}, {shoe + `,"up":"-y"`, `{"mode":"loopside"}`}, {shoe, `{"mode":"loopside","inward":true}`}, {shoe, `{"mode":"loopside","roll":180}`},
		{shoe + `,"up":"-y"`, `{"mode":"loopside","inward":true}`},
	} {
		doc := document(3, `"shape":{"slot":{"centre":[0,1,0],"length":2,"radius":0.3}}`, tc.part, `"kind":"train","spacing":{"mode":"set count","count":58},"facing":`+tc.facing+`,"travel":{"speed":0.4}`, "")
		r := results(t, doc)["outward"]
		wrong := (strings.Contains(tc.part, "-y") != strings.Contains(tc.facing, "inward")) || strings.Contains(tc.facing, "180")
		if (r.State == check.Outside) != wrong || wrong && r.Value != 58 {
			t.Errorf("%s: %+v", tc.facing, r)
		}
		for _, m := range r.Remedies {
			if after := results(t, apply(t, doc, m.Edits))["outward"]; after.State != check.Inside {
				t.Errorf("%s: after %q: %+v", tc.facing, m.Label, after)
			}
		}
	}
}

// A jump is found to the millimetre wherever it is and whatever it is of; quick motion, stepped
// keys and what comes round are no jumps.
func TestJumps(t *testing.T) {
	line := `"shape":{"line":{"from":[0,1,0],"to":[0,1,8]}}`
	box := `"shape":{"box":{"side":0.1,"height":0.05,"length":0.15}}`
	train := `"kind":"train","spacing":{"mode":"set count","count":5},"facing":{"mode":"steady"},`
	stepped := `"travel":{"keys":[{"frame":1,"value":0,"shape":"stepped"},{"frame":20,"value":1},{"frame":40,"value":1}]}`
	for _, tc := range []struct {
		name, path, rig, more string
		jumps                 float64
		cause                 string
	}{
		{"still", line, train + `"travel":0`, "", 0, ""},
		{"quick, from rest", line, train + `"travel":{"keys":[{"frame":10,"value":0},{"frame":11,"value":3}]}`, "", 0, ""},
		{"stepped", line, train + stepped, "", 0, ""},
		{"comes round", line, train + `"pastEnd":"come round","travel":{"speed":5}`, "", 0, ""},
		{"repeats from its end", line, train + `"travel":{"keys":[{"frame":1,"value":0},{"frame":20.5,"value":1}],"after":"repeat"}`, "", 1, "its travel jumps"},
		{"beside a camera that steps", line, train + `"travel":{"keys":[{"frame":1,"value":0},{"frame":20.5,"value":1}],"after":"repeat"}`, `,"cameras":[{"id":"k","name":"k","at":[0,0,{"keys":[{"frame":1,"value":0,"shape":"stepped"},{"frame":20.5,"value":1,"shape":"stepped"},{"frame":40,"value":0}]}]}]`, 1, "its travel jumps"},
		{"a carrier that repeats", `"carrier":"c",` + line, train + `"travel":0`, `,"carriers":[{"id":"c","name":"Sled","at":[{"keys":[{"frame":1,"value":0},{"frame":24,"value":0.4}],"after":"repeat"},0,0]}]`, 0.4, "Sled jumps"},
		{"a corner", `"shape":{"polyline":{"points":[[0,1,0],[0,1,4],[0,5,4]]}}`, train + `"travel":{"speed":1.1}`, "", 0.075 * math.Sqrt2, "the path has a corner"},
	} {
		doc := document(48, tc.path, box, tc.rig, tc.more)
		r := results(t, doc)["jumps"]
		if math.Abs(r.Value-tc.jumps) > 1e-3 || (r.State == check.Outside) != (tc.jumps > 0) || !strings.Contains(r.Text, tc.cause) {
			t.Errorf("%s: %+v, want %g m", tc.name, r, tc.jumps)
		}
		for _, m := range r.Remedies {
			if after := results(t, apply(t, doc, m.Edits))["jumps"]; after.State == check.Outside {
				t.Errorf("%s: after %q: %+v", tc.name, m.Label, after)
			}
		}
	}
}
