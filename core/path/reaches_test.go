package path

import (
	"context"
	"errors"
	"math"
	"testing"

	"bead/core/geom"
)

// Looking through the boxes finds what looking at every pair finds, in the same order.
func TestReaches(t *testing.T) {
	r := geom.Chance(7)
	for _, n := range []int{1, 2, 3, 7, 64, 65, 300} {
		from, s := make([]geom.Vec, n), make([]float64, n+1)
		at := geom.Vec{}
		for i := range from {
			from[i] = at
			step := geom.V(r.Next()-0.5, r.Next()-0.5, r.Next()-0.5)
			at, s[i+1] = at.Add(step), s[i]+step.Norm()*(1+r.Next())
		}
		near := newReaches(from, s)
		for i := range from {
			next := near.next(i, i+1)
			for j := i + 1; j < n; j++ {
				far := s[i+1] - s[i] + s[j+1] - s[j]
				if from[i].Sub(from[j]).Norm2() > far*far {
					continue
				}
				if next != j {
					t.Fatalf("%d chords: after %d comes %d, not %d", n, i, j, next)
				}
				next = near.next(i, j+1)
			}
			if next != -1 {
				t.Fatalf("%d chords: %d meets %d by the boxes only", n, i, next)
			}
		}
	}
}

// Spans that come in endless numbers are refused, and work that nobody waits for ends.
func TestMostSpansAndStop(t *testing.T) {
	var pts []geom.Vec
	for i := range 3000 {
		pts = append(pts, geom.V(math.Sin(float64(i)), 0, float64(i)/50))
	}
	stop := new(Stop)
	cache := Cache{Stop: stop}
	c, err := cache.New(through(pts, false), false)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := cache.New(Subdivide(c.Spans(), 20), false); err == nil || err.Error() != TooMany(20*2999).Error() {
		t.Errorf("59980 spans: %v", err)
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	stop.Arm(gone)
	if n := len(c.Offset(0.01, geom.V(0, 1, 0))); n > 0 {
		t.Errorf("offset made %d spans for nobody", n)
	}
	if got := c.Simplify(1e-9); len(got.Spans) > 0 {
		t.Errorf("simplify made %d spans for nobody", len(got.Spans))
	}
	if _, err := cache.New(through(pts, false), false); !errors.Is(err, context.Canceled) {
		t.Errorf("measured for nobody: %v", err)
	}
	stop.LetGo()
	if _, err := cache.New(through(pts, false), false); err != nil {
		t.Errorf("after it was let go: %v", err)
	}
}
