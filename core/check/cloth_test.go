package check_test

import (
	"fmt"
	"strings"
	"testing"

	"bead/core/check"
)

// clothChecks measures a sheet that hangs 1 m over the ground.
func clothChecks(t *testing.T, plays, drape, more string) map[string]check.Result {
	t.Helper()
	return results(t, fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":12},"plays":%q,
"parts":[{"id":"s","name":"s","shape":{"sheet":{"length":1,"drop":0.6,"along":10,"down":6}}}],
"paths":[{"id":"p","name":"p","shape":{"line":{"from":[0,1,0],"to":[0,1,2]}}}],
"rigs":[{"id":"r","name":"Cloth","path":"p","part":"s","facing":{"mode":"steady"},"travel":0,
"drape":{"fabric":{"weight":0.3,"stretch":2000,"shear":100,"bending":0.02}%s}}]%s}`, plays, drape, more))
}

// Each figure of a cloth is inside where it should be, and outside where what it measures is wrong:
// too few steps stretch it, ground that rises through it is found, a cloth that is dropped does not
// repeat, and is offered an eased end that does.
func TestClothChecks(t *testing.T) {
	well := clothChecks(t, "once", `,"damping":4,"settle":3`, "")
	for _, id := range []string{"stretch", "through", "itself", "rest"} {
		if r := well[id]; r.ID == "" || r.State != check.Inside {
			t.Errorf("at rest: %s %+v", id, r)
		}
	}
	if r := clothChecks(t, "once", `,"hang":"corners","substeps":2`, "")["stretch"]; r.State != check.Outside || len(r.Remedies) != 1 {
		t.Errorf("of 2 steps a frame: %+v", r)
	}
	// It settles on flat ground; the ground is no surface that pushes held points.
	if r := clothChecks(t, "once", `,"settle":2,"damping":4`, `,"ground":{"points":[{"z":-1,"height":1.05},{"z":3,"height":1.05}]}`)["through"]; r.State != check.Outside || r.Value < 0.04 || r.Value > 0.06 {
		t.Errorf("held 5 cm under the ground: %+v", r)
	}
	drop := clothChecks(t, "loops", `,"hang":"corners","damping":2`, "")["loop"]
	if drop.State != check.Outside || len(drop.Remedies) != 1 || !strings.HasPrefix(drop.Remedies[0].Label, "Ease") {
		t.Fatalf("dropped: %+v", drop)
	}
	eased := clothChecks(t, "loops", `,"hang":"corners","damping":2,"ease":3,"rounds":1`, "")["loop"]
	if eased.Unit == "m" && eased.Value > 1e-4 {
		t.Errorf("eased into its first frame: %+v", eased)
	}
	if r := clothChecks(t, "once", `,"through":true`, ""); r["itself"].ID != "" {
		t.Errorf("what may pass through itself is measured: %+v", r["itself"])
	}
}
