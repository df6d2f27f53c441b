package check_test

import (
	"fmt"
	"testing"

	"bead/core/check"
)

// payoutChecks measures a roll 2 m wide on a way.
func payoutChecks(t *testing.T, shape, more string) map[string]check.Result {
	t.Helper()
	return results(t, fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":0,"last":40},"plays":"once",
"parts":[{"id":"core","name":"Core","forward":"+x","shape":{"tube":{"length":2,"radius":0.1}}}],
"paths":[{"id":"p","name":"p","shape":%s}],
"rigs":[{"id":"r","name":"Mat","path":"p","part":"core","payout":{"width":2,"thickness":0.01,"radius":0.3,"core":0.1%s},"facing":{"mode":"steady"},
"travel":{"keys":[{"frame":0,"value":0,"shape":"straight"},{"frame":40,"value":6}]}}]}`, shape, more))
}

// Each figure of a roll against what it must be by geometry: a level straight has none; on a V of
// 90 degrees the sheet stays up to two radii behind and springs over; on a bend of 10 m the edge of
// a sheet 2 m wide is a tenth longer than its middle; a way 5 cm under the ground is 5 cm under it.
func TestPayoutChecks(t *testing.T) {
	for _, winds := range []string{"", `,"winds":true`} {
		got := payoutChecks(t, `{"line":{"from":[0,0,0],"to":[0,0,9]}}`, winds)
		for _, id := range []string{"contact", "dips", "strain", "floor"} {
			if r := got[id]; r.ID == "" || r.State != check.Inside {
				t.Errorf("level: %s %+v", id, r)
			}
		}
		if word := got["strain"].Word; word != "none" {
			t.Errorf("level: a strain of 0 is %q", word)
		}
	}
	dip := payoutChecks(t, `{"polyline":{"points":[[0,3,0],[0,0,3],[0,3,6]]}}`, "")["dips"]
	if dip.State != check.Outside || dip.Value < 0.4 || dip.Value > 0.6 || len(dip.Remedies) != 1 {
		t.Errorf("in a fold: %+v", dip)
	}
	side := payoutChecks(t, `{"circle":{"centre":[0,0,0],"radius":10,"plane":"above"}}`, "")["strain"]
	if side.State != check.Outside || side.Value < 9.99 || side.Value > 10.01 || len(side.Remedies) != 1 {
		t.Errorf("on a bend: %+v", side)
	}
	low := payoutChecks(t, `{"line":{"from":[0,-0.05,0],"to":[0,-0.05,9]}}`, "")["floor"]
	if low.State != check.Outside || low.Value < 0.0499 || low.Value > 0.0501 || len(low.Remedies) != 1 {
		t.Errorf("under the ground: %+v", low)
	}
}
