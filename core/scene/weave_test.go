package scene_test

import (
	"math"
	"testing"

	"bead/core/path"
	"bead/core/scene"
)

// A weave begins and ends on its straight line and along it, swings out as often as it says, to half its
// width where it is not eased, and never farther; at each place it is where its wave is, by the closed form
// of a sine under the fifth-degree ease, and its spans go on in one another's way and bend.
func TestWeave(t *testing.T) {
	for _, bends := range []int{1, 2, 3, 7} {
		const length, width = 12.0, 2.4
		shape := scene.PathShape{Weave: &scene.WeaveShape{From: scene.Vec3{1, 0.5, -2}, Length: length, Width: width, Bends: bends}}
		d, closed := shape.Spans(nil)
		if closed {
			t.Fatal("it is closed")
		}
		c, err := path.New(d, false)
		if err != nil {
			t.Fatal(err)
		}
		for _, end := range []struct{ s, z float64 }{{0, -2}, {c.Length(), -2 + length}} {
			p, way := c.At(end.s)
			if math.Abs(p.X-1)+math.Abs(p.Y-0.5)+math.Abs(p.Z-end.z) > 1e-9 || math.Hypot(way.X, way.Y) > 1e-9 {
				t.Errorf("%d bends: at %g it is at %v, its way %v", bends, end.s, p, way)
			}
		}
		crossings, most, was := 0, 0.0, 0.0
		for k := range 4001 {
			p, _ := c.At(c.Length() * float64(k) / 4000)
			u, x := (p.Z+2)/length, p.X-1
			e := min(min(u, 1-u)*2*float64(bends), 1)
			want := width / 2 * math.Sin(math.Pi*float64(bends)*u) * (6*math.Pow(e, 5) - 15*math.Pow(e, 4) + 10*math.Pow(e, 3))
			if math.Abs(x-want) > 2e-6*length {
				t.Fatalf("%d bends, %g of the way: %g aside, want %g", bends, u, x, want)
			}
			if x*was < 0 && math.Abs(x) > 1e-6 {
				crossings++
			}
			if math.Abs(x) > 1e-6 {
				was = x
			}
			most = max(most, math.Abs(x))
		}
		if crossings != bends-1 || most > width/2+1e-6 || most < width/2*0.999 {
			t.Errorf("%d bends: it crosses its line %d times and goes %g out", bends, crossings, most)
		}
		for i := 1; i < len(d); i++ {
			s := c.SpanStart(i)
			_, a := c.At(s - 1e-7)
			_, b := c.At(s + 1e-7)
			if a.Sub(b).Norm() > 1e-5 {
				t.Errorf("%d bends: span %d sets out another way by %g", bends, i, a.Sub(b).Norm())
			}
		}
	}
}
