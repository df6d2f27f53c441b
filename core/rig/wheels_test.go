package rig_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/mech"
	"bead/core/report"
)

const chain84 = `{"wrap":{"wheels":[{"name":"Driver","at":[0,1,0],"teeth":17,"pitch":0.0127},{"name":"Driven","at":[0,1,%.17g],"teeth":38,"pitch":0.0127}]}}`

// A chain on 17 and 38 teeth whose centres are those that the solver gives for 84 links
// is 84 pitches long, its seam is closed, and it has no corner anywhere: the belt is
// tangent to its wheels. Its reading names what closes.
func TestChainOfEightyFour(t *testing.T) {
	c, err := mech.CentresFor(17, 38, 84)
	if err != nil {
		t.Fatal(err)
	}
	link := `"shape":{"box":{"side":0.01,"height":0.005,"length":0.0127}}`
	s := compile(t, fmt.Sprintf(chain84, -c*0.0127), link, `{"mode":"set pitch","pitch":0.0127}`, `"facing":{"mode":"loopside"},"travel":{"rpm":60,"radius":0.0346}`)
	tr := &s.Rigs[0]
	if tr.Layout.Count != 84 || math.Abs(tr.Layout.Seam) > 1e-9 || math.Abs(tr.Curve.Length()-84*0.0127) > 1e-9 {
		t.Errorf("%d links, seam %g, length %g", tr.Layout.Count, tr.Layout.Seam, tr.Curve.Length())
	}
	if corners := tr.Curve.Corners(1e-6); len(corners) > 0 {
		t.Errorf("corners %+v", corners)
	}
	r := report.Of(s).Paths[0]
	if r.Chain == nil || math.Abs(r.Chain.Exact-84) > 1e-9 || len(r.Chain.Links) != 5 || r.Chain.Links[2].Links != 84 || math.Abs(r.Chain.Links[2].Centres-c*0.0127) > 1e-12 || math.Abs(r.Chain.Ratio-38.0/17) > 1e-12 {
		t.Errorf("%+v", r.Chain)
	}
	// Both contacts lie where the curve bends, and are as long as angle times radius.
	for _, w := range r.Wheels {
		if !w.Touches || math.Abs(w.To-w.From-w.AngleDeg*math.Pi/180*w.Radius) > 1e-9 {
			t.Errorf("%+v", w)
		}
		if k := tr.Curve.Curvature(tr.Wrap((w.From + w.To) / 2)).Norm(); math.Abs(k*w.Radius-1) > 1e-9 {
			t.Errorf("half way round %+v the curvature is %g", w, k)
		}
	}
}

// Wheels in every plane, on the back, free, passed by, and what cannot be laid.
func TestWrappedPaths(t *testing.T) {
	wheel := func(name string, x, y, r float64, more string) string {
		return fmt.Sprintf(`{"name":%q,"at":[0,%g,%g],"radius":%g%s}`, name, y, x, r, more)
	}
	join := func(w ...string) string { return `{"wrap":{"wheels":[` + strings.Join(w, ",") + `]}}` }
	two := 4 + 2*math.Pi*0.5
	for _, tc := range []struct {
		name, shape string
		length      float64
		says        string
	}{
		{"two", join(wheel("a", -1, 1, 0.5, ""), wheel("b", 1, 1, 0.5, "")), two, ""},
		{"one", join(wheel("a", -1, 1, 0.5, "")), math.Pi, ""},
		{"free", join(wheel("a", -1, 1, 0.5, ""), wheel("c", 0, 1, 0.1, `,"free":true`), wheel("b", 1, 1, 0.5, "")), two, ""},
		{"passed by", join(wheel("a", -1, 1, 0.5, ""), wheel("b", 1, 1, 0.5, ""), wheel("c", 0, 0.7, 0.1, "")), two, "c does not touch"},
		{"touching along", join(wheel("a", -1, 1, 0.5, ""), wheel("b", 1, 1, 0.5, ""), wheel("c", 0, 0.7, 0.2, "")), two, ""},
	} {
		s := compile(t, tc.shape, box, `{"mode":"set count","count":12}`, `"facing":{"mode":"loopside"},"travel":0`)
		if got := s.Paths[0].Length(); math.Abs(got-tc.length) > 1e-9 {
			t.Errorf("%s: %v long, want %v", tc.name, got, tc.length)
		}
		if notes := strings.Join(report.Of(s).Paths[0].Notes, " "); !strings.Contains(notes, tc.says) || tc.says == "" && notes != "" {
			t.Errorf("%s: notes %q", tc.name, notes)
		}
	}
	for _, tc := range []struct{ name, shape, says string }{
		{"no wheels", join(), "from 1 to"},
		{"all free", join(wheel("a", 0, 1, 1, `,"free":true`)), "touches no wheel"},
		{"within", join(wheel("a", 0, 1, 1, ""), wheel("b", 0.1, 1, 0.2, "")), "no way for the belt from a to b"},
		{"no radius", join(`{"name":"a","at":[0,1,0]}`), "radius"},
		{"few teeth", join(`{"name":"a","at":[0,1,0],"teeth":2,"pitch":0.1}`), "from 4 to"},
		{"no pitch", join(`{"name":"a","at":[0,1,0],"teeth":20}`), "pitch"},
		{"wrong order", join(wheel("a", -1, 1, 0.4, ""), wheel("b", 1, 3, 0.4, ""), wheel("c", -1, 3, 0.4, ""), wheel("d", 1, 1, 0.4, "")), "round the outside: b, d, a, c"},
	} {
		if _, err := tryCompile(tc.shape, box, `{"mode":"set count","count":12}`, `"facing":{"mode":"loopside"},"travel":0`); err == nil || !strings.Contains(err.Error(), tc.says) {
			t.Errorf("%s: %v, want %q", tc.name, err, tc.says)
		}
	}
}
