package check_test

import (
	"strings"
	"testing"

	"bead/core/check"
)

// Terms choose checks and grade anew: inside, near from two thirds on, outside; a fault that is not the figure's stays.
func TestTerms(t *testing.T) {
	results := []check.Result{
		{ID: "seam", Rig: "a", Unit: "m", Value: 0.0008, Tolerance: 0.0005, State: check.Outside},
		{ID: "slip", Rig: "a", Unit: "%", Value: 0.05, Tolerance: 0.1, State: check.Inside},
		{ID: "loop", Rig: "a", Unit: "m", Value: 0, Tolerance: 0.0005, State: check.Outside},
		{ID: "jumps", Rig: "a", Unit: "m/frame", Value: 0.002, Tolerance: 0.001, State: check.Outside},
	}
	for _, x := range []struct {
		tolerances []string
		only, skip []string
		want       string
	}{
		{nil, nil, nil, "seam outside, slip inside, loop outside, jumps outside"},
		{[]string{"seam=1mm", "slip=0.01%", "loop=1m", "jumps=0.3 cm"}, nil, nil, "seam near, slip outside, loop outside, jumps inside"},
		{[]string{"seam=2mm"}, []string{"seam", "slip"}, []string{"slip"}, "seam inside"},
		{[]string{"seam=0.0009"}, nil, []string{"loop", "jumps"}, "seam near, slip inside"},
	} {
		terms := check.Terms{Only: x.only, Skip: x.skip}
		for _, text := range x.tolerances {
			if err := terms.Tolerate(text); err != nil {
				t.Fatal(err)
			}
		}
		got, err := terms.Judge(results)
		var words []string
		for _, r := range got {
			words = append(words, r.ID+" "+string(r.State))
		}
		if said := strings.Join(words, ", "); err != nil || said != x.want {
			t.Errorf("%v, only %v, without %v: %s, want %s (%v)", x.tolerances, x.only, x.skip, said, x.want, err)
		}
	}
	for text, says := range map[string]string{"seam": "seam=1mm", "glue=1": "spacing, seam", "seam=-1": "from 0 up", "seam=NaN": "from 0 up", "seam=1 inch": "from 0 up"} {
		if err := new(check.Terms).Tolerate(text); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v", text, err)
		}
	}
	var wrong check.Terms
	_ = wrong.Tolerate("slip=1mm")
	if _, err := wrong.Judge(results); err == nil || !strings.Contains(err.Error(), "measured in %") {
		t.Error(err)
	}
	if err := (&check.Terms{Skip: []string{"glue"}}).Check(); err == nil {
		t.Error("an unknown check is skipped in silence")
	}
}
