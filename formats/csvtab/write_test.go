package csvtab_test

import (
	"bytes"
	"encoding/csv"
	"math"
	"strconv"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
	"bead/formats/csvtab"
)

// The rows of a body are its middle line: on a circle, even places of it at its radius, as far along as
// they say.
func TestMiddleLine(t *testing.T) {
	d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":2},
"paths":[{"id":"w","name":"w","shape":{"circle":{"centre":[0,0,0],"radius":2,"plane":"side"}}}],"parts":[{"id":"b","name":"b","segments":9,"shape":{"tube":{"length":3,"radius":0.1}}}],
"rigs":[{"id":"r","name":"r","kind":"bend","path":"w","part":"b","facing":{"mode":"loopside"},"travel":0.5}]}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	b, err := csvtab.NewBaker(&out, s, []bool{false}, false)
	if err != nil {
		t.Fatal(err)
	}
	var pic rig.Picture
	s.Frame(&pic, 1)
	if err := b.Frame(&pic); err != nil {
		t.Fatal(err)
	}
	if err := b.Close(); err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(&out).ReadAll()
	if err != nil || len(rows) != 1+rig.CentreSamples {
		t.Fatalf("%v, %d rows", err, len(rows))
	}
	for i, row := range rows[1:] {
		v := make([]float64, len(row))
		for k, x := range row {
			if k != 1 {
				if v[k], err = strconv.ParseFloat(x, 64); err != nil {
					t.Fatal(err)
				}
			}
		}
		// The circle starts on top and runs forward.
		want := 0.5 + 3*float64(i)/(rig.CentreSamples-1)
		sin, cos := math.Sincos(want / 2)
		if math.Abs(v[13]-want) > 1e-6 || math.Abs(v[3]) > 1e-6 || math.Abs(v[4]-2*cos) > 1e-6 || math.Abs(v[5]-2*sin) > 1e-6 {
			t.Fatalf("row %d: %v; want distance %g at (0, %g, %g)", i+1, row, want, 2*cos, 2*sin)
		}
	}
}
