package check_test

import (
	"math"
	"os"
	"testing"

	"bead/core/check"
	"bead/core/rig"
	"bead/core/scene"
)

// Cloth that a simulation throws out of all bounds stands still from there on, in numbers, and a check says so. The
// document was found by mutation: pennants 45 times as large.
func TestBrokenSimulationIsSaid(t *testing.T) {
	text, err := os.ReadFile("testdata/broken-cloth.json")
	if err != nil {
		t.Fatal(err)
	}
	d, err := scene.Decode(text)
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	said := false
	for _, r := range check.All(s) {
		said = said || r.ID == "stretch" && r.State == check.Outside && r.Word == "breaks"
	}
	if !said {
		t.Error("no check says that the simulation breaks")
	}
	var p rig.Picture
	for f := d.Range.First; f <= d.Range.Last; f++ {
		s.Frame(&p, f)
		for k, v := range p.Rigs[0].Positions {
			if !(math.Abs(float64(v)) < 1e7) {
				t.Fatalf("frame %d: number %d is %g", f, k, v)
			}
		}
	}
}
