package rig_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
)

// randomTread is a tread of pinned shoes on four sprung road wheels, its long upper run
// sagging deep between sprocket and idler, that drives at v m/s over a hump.
func randomTread(rnd *rand.Rand) (doc string, v float64) {
	between := func(a, b float64) float64 { return a + (b-a)*rnd.Float64() }
	road := ""
	for i, z := range []float64{1.1, 0.35, -0.4, -1.1} {
		road += fmt.Sprintf(`,{"name":"Road %d","at":[0,0.27,%g],"radius":0.2,"ground":true,"spring":{"up":0.1,"down":0.1,"arm":[0,0.4,%g]}}`, i+1, z, z+0.3)
	}
	v = between(0.3, 1.2)
	links := 59 + rnd.IntN(4)
	return fmt.Sprintf(`{"bead":1,"name":"Tread","fps":24,"range":{"first":1,"last":96},
"ground":{"humps":[{"z":%g,"length":%g,"height":%g}]},
"carriers":[{"id":"hull","name":"Hull","at":[0,0,{"speed":%g,"start":%g}],"ground":{"soften":4}}],
"paths":[{"id":"belt","name":"Belt","carrier":"hull","shape":{"wrap":{"wheels":[
{"name":"Sprocket","at":[0,0.7,-1.6],"radius":0.32,"slack":true},{"name":"Idler","at":[0,0.66,1.7],"radius":0.28}%s],
"keep":{"links":%d,"pitch":0.15,"pins":true},"depth":0.05,"anchor":%d}}}],
"parts":[{"id":"shoe","name":"Shoe","shape":{"box":{"side":0.4,"height":0.03,"length":0.15}}}],
"rigs":[{"id":"tread","name":"Tread","kind":"train","path":"belt","part":"shoe","seat":"ends","spacing":{"mode":"set count","count":%d},
"facing":{"mode":"loopside"},"travel":{"rolls":"hull"}}]}`,
		between(-1, 2), between(2, 4), between(0, 0.3), v, -2*v, road, links, 3+rnd.IntN(4), links), v
}

// No shoe of a tread is thrown along the belt for a frame: whatever hump it drives over, none
// moves by more than the upper run does, twice as fast as the machine, and a little for the
// hump and the sag. (One tread in six used to fail: a road wheel lifted off the lower run and
// touched by the sagging upper run was taken for the place where distances begin.)
func TestTreadsNeverJump(t *testing.T) {
	rnd := rand.New(rand.NewPCG(7, 13))
	for n := range 24 {
		doc, v := randomTread(rnd)
		d, err := scene.Decode([]byte(doc))
		if err != nil {
			t.Fatal(err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		var last, now rig.Picture
		worst, frame, piece := 0.0, 0, 0
		s.Frame(&last, 1)
		for f := 2; f <= 96; f++ {
			s.Frame(&now, f)
			a, b := last.Rigs[0].Transforms, now.Rigs[0].Transforms
			for i := range len(a) / rig.Stride {
				o := i * rig.Stride
				p, q := geom.V(float64(a[o]), float64(a[o+1]), float64(a[o+2])), geom.V(float64(b[o]), float64(b[o+1]), float64(b[o+2]))
				if way := q.Sub(p).Norm(); way > worst {
					worst, frame, piece = way, f, i+1
				}
			}
			last, now = now, last
		}
		if most := 2.6*v/24 + 0.03; worst > most || math.IsNaN(worst) {
			t.Errorf("tread %d, %g m/s: piece %d moves by %.3f m to frame %d, at most %.3f m are explained\n%s", n, v, piece, worst, frame, most, doc)
		}
	}
}
