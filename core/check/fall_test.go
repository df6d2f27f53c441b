package check_test

import (
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/place"
	"bead/core/rig"
	"bead/core/scene"
)

// A run that stops names the piece that stays, from either end; one that the range cuts short offers
// the range that fits, which then is inside.
func TestFall(t *testing.T) {
	fall := func(from string, last int, far bool) (*scene.Document, check.Result) {
		line := scene.PathShape{Line: &scene.LineShape{To: scene.Vec3{0, 0, 7.2}}}
		d := &scene.Document{Bead: scene.Version, Name: "Run", FPS: 24, Range: scene.Range{First: 1, Last: last},
			Paths: []scene.Path{{ID: "way", Name: "Way", Shape: line}},
			Parts: []scene.Part{{ID: "slab", Name: "Slab", Shape: scene.PartShape{Box: &scene.BoxShape{Side: 0.5, Height: 1.2, Length: 0.2}}, Pivot: scene.Vec3{0, -0.6, 0}},
				{ID: "low", Name: "Low", Shape: scene.PartShape{Box: &scene.BoxShape{Side: 0.5, Height: 0.3, Length: 0.2}}, Pivot: scene.Vec3{0, -0.15, 0}}},
			Rigs: []scene.Rig{{ID: "run", Name: "Run", Path: "way", Part: "slab", Facing: scene.Facing{Mode: "steady"},
				Train: &scene.Train{Spacing: scene.Spacing{Mode: place.SetCount, Count: 10}, Fall: &scene.Fall{First: 5, From: from}}}}}
		if far {
			d.Rigs[0].Train.Others = []scene.Others{{Part: "low", Pieces: []int{4}}}
		}
		d.FillDefaults()
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		for _, r := range check.All(s) {
			if r.ID == "fall" {
				return d, r
			}
		}
		t.Fatal("no fall check")
		return nil, check.Result{}
	}
	if _, r := fall(scene.FromStart, 120, false); r.State != check.Inside || r.Value != 0 || r.Of != 10 {
		t.Errorf("%+v", r)
	}
	for from, want := range map[string]struct{ fallen, piece int }{scene.FromStart: {3, 4}, scene.FromEnd: {6, 4}} {
		if _, r := fall(from, 120, true); r.State != check.Outside || r.Value != float64(10-want.fallen) || r.Where.Piece != want.piece || !strings.Contains(r.Text, "is lower than") {
			t.Errorf("from the %s: %+v", from, r)
		}
	}
	_, r := fall(scene.FromStart, 12, false)
	if r.State != check.Near || len(r.Remedies) != 1 || r.Remedies[0].Edits[0].Path != "/range/last" {
		t.Fatalf("%+v", r)
	}
	if _, r := fall(scene.FromStart, r.Remedies[0].Edits[0].Value.(int), false); r.State != check.Inside {
		t.Errorf("with its remedy: %+v", r)
	}
}
