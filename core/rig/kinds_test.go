package rig_test

import (
	"bytes"
	"context"
	"encoding/csv"
	"math"
	"strconv"
	"testing"

	"bead/core/check"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
	"bead/formats"
)

// A made-up kind is a type and a line in the table: it is compiled, drawn, told on the strip, led
// by and leading, measured by the checks and baked, and nobody else asks what it is.
func TestOneMoreKind(t *testing.T) {
	rig.Pairs(t)
	d, err := scene.Decode([]byte(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":24},"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"paths":[{"id":"p","name":"p","shape":{"circle":{"centre":[0,1,0],"radius":0.5}}}],
"rigs":[{"id":"r","name":"r","path":"p","part":"a","rider":{},"facing":{"mode":"loopside"},"travel":{"turns":1}},
{"id":"b","name":"b","path":"p","part":"a","body":{"lead":{"rig":"r","at":"tail"}},"facing":{"mode":"loopside"},"travel":0}]}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	var p rig.Picture
	s.Frame(&p, 7)
	x := p.Rigs[0].Transforms
	// Opposite places of a circle of radius 0.5 about (0, 1, 0).
	if len(p.Rigs[0].Distances) != 2 {
		t.Fatalf("%d pieces", len(p.Rigs[0].Distances))
	}
	for k, centre := range []float32{0, 1, 0} {
		if mid := (x[k] + x[rig.Stride+k]) / 2; math.Abs(float64(mid-centre)) > 1e-6 {
			t.Errorf("the middle of the two is at %g on axis %d", mid, k)
		}
	}
	if at := s.Rigs[1].ReachOf(0, 7).Tail; math.Abs(at-s.Rigs[0].Distance(0, 7)) > 1e-12 {
		t.Errorf("what it leads is at %g", at)
	}
	out := report.Of(s)
	if r := out.Rigs[0]; r.Count != 2 || math.Abs(r.Pitch-math.Pi/2) > 1e-6 || len(r.Comb) == 0 || r.Body != nil {
		t.Errorf("the strip is told %d pieces %g m apart", r.Count, r.Pitch)
	}
	g := s.Groups(nil)
	if g[0].ID != "r" || len(g[0].Things) != 2 || g[0].Surfaces {
		t.Errorf("%+v", g[0])
	}
	measured := map[string]check.Result{}
	for _, r := range check.All(s) {
		if r.Rig == "r" {
			measured[r.ID] = r
		}
	}
	if r, there := measured["loop"]; !there || r.State != check.Inside {
		t.Errorf("its loop: %+v", r)
	}
	for _, f := range formats.All {
		if f.Only {
			continue // figures
		}
		var text bytes.Buffer
		if err := formats.Bake(context.Background(), &text, s, formats.Options{Format: f.Ending, Frames: scene.Range{First: 1, Last: 3}}, nil); err != nil || text.Len() == 0 {
			t.Errorf("%s: %v", f.Ending, err)
		}
		if f.Ending != "csv" {
			continue
		}
		rows, err := csv.NewReader(&text).ReadAll()
		if err != nil {
			t.Fatal(err)
		}
		y := 0.0
		for _, row := range rows {
			if row[0] == "2" && row[1] == "r" {
				v, _ := strconv.ParseFloat(row[4], 64)
				y += v / 2
			}
		}
		if math.Abs(y-1) > 1e-6 {
			t.Errorf("the table's two are at %g on the average", y)
		}
	}
}
