package figure_test

import (
	"math"
	"reflect"
	"testing"

	"bead/core/figure"
	"bead/core/geom"
)

// A joint that goes round and round comes to the far side of all rotations: what is gathered in parts and
// put together is what is gathered at once, and each key is on the side of the one before.
func TestMotionsFollow(t *testing.T) {
	f := &figure.Figure{Joints: []figure.Joint{{Name: "root", Parent: -1, Rest: geom.Still}, {Name: "arm", Parent: 0, Rest: geom.Still}}}
	at := func(k int) []geom.Rigid {
		root := geom.Turned(0.4*float64(k), 0, 0)
		root.P = geom.V(0, 0, float64(k))
		return []geom.Rigid{root, root.Mul(geom.Turned(0, -0.7*float64(k), 0))}
	}
	time := func(k int) float64 { return float64(k) / 24 }
	gather := func(from, to int) *figure.Track {
		out := figure.NewTrack(f, 1)
		for k := from; k < to; k++ {
			out.Add(time(k-from), at(k))
		}
		return out
	}
	whole, joined := gather(0, 40), gather(0, 13)
	for _, part := range [][2]int{{13, 14}, {14, 31}, {31, 40}} {
		if err := joined.Append(gather(part[0], part[1]).Motion(), time); err != nil {
			t.Fatal(err)
		}
	}
	if !reflect.DeepEqual(whole.Figure(), joined.Figure()) {
		t.Error("what was put together differs from what was gathered at once")
	}
	far := 0.0
	for _, q := range joined.Figure().Turns {
		far = math.Min(far, q[0].W)
	}
	if far > -0.9 {
		t.Error("no rotation came to the far side: nothing is shown by this")
	}
	if joined.Append(figure.Motion{Turns: [][]geom.Quat{{}}, Shifts: [][]geom.Vec{{}}}, time) == nil {
		t.Error("keys of other joints are accepted")
	}
}
