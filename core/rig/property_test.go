package rig_test

import (
	"fmt"
	"math"
	"testing"

	"bead/core/rig"
)

// Travel by whole lengths of the path changes nothing that can be seen.
func TestTravelIsPeriodic(t *testing.T) {
	length := 6 + math.Pi
	at := func(travel float64) []float32 {
		var pic rig.Picture
		compile(t, slot, shoe, `{"mode":"set count","count":31}`, fmt.Sprintf(`"facing":{"mode":"loopside"},"travel":%.17g`, travel)).Frame(&pic, 1)
		return pic.Rigs[0].Transforms
	}
	want := at(0.4)
	for _, turns := range []float64{-7, -1, 1, 50} {
		got := at(0.4 + turns*length)
		for i := range got {
			if math.Abs(float64(got[i]-want[i])) > 2e-6 {
				t.Fatalf("after %g turns number %d is %g, was %g", turns, i, got[i], want[i])
			}
		}
	}
}

// Pieces that travel backwards pass the places of those that travel forwards.
func TestBackwardsIsForwardsMirrored(t *testing.T) {
	speeds := func(v float64) *rig.Scene {
		return compile(t, slot, shoe, `{"mode":"set count","count":20}`, fmt.Sprintf(`"facing":{"mode":"loopside"},"travel":{"speed":%g}`, v))
	}
	ahead, back := speeds(0.5), speeds(-0.5)
	var a, b rig.Picture
	for k := range 40 {
		ahead.Frame(&a, 1-k)
		back.Frame(&b, 1+k)
		for i, d := range a.Rigs[0].Distances {
			if math.Abs(d-b.Rigs[0].Distances[i]) > 1e-12 {
				t.Fatalf("frame %d: piece %d at %g and %g", k, i, d, b.Rigs[0].Distances[i])
			}
		}
	}
}

// A circle's pieces stand on a regular polygon, each turned by 2 pi/N against the
// one before (closed form).
func TestPiecesOfACircle(t *testing.T) {
	const n, r = 24, 0.8
	s := compile(t, `{"circle":{"centre":[0,1,0],"radius":0.8}}`, box, `{"mode":"set count","count":24}`, `"facing":{"mode":"loopside"},"travel":0.31`)
	var pic rig.Picture
	s.Frame(&pic, 1)
	chord := 2 * r * math.Sin(math.Pi/n)
	for i := range n {
		p, q := pieceAt(&pic, i)
		p2, q2 := pieceAt(&pic, (i+1)%n)
		if d := p.Sub(p2).Norm(); math.Abs(d-chord) > 1e-6 {
			t.Errorf("pieces %d and %d are %g apart, want %g", i, i+1, d, chord)
		}
		dot := math.Abs(q.X*q2.X + q.Y*q2.Y + q.Z*q2.Z + q.W*q2.W)
		if angle := 2 * math.Acos(min(dot, 1)); math.Abs(angle-2*math.Pi/n) > 1e-3 {
			t.Errorf("pieces %d and %d are turned by %g, want %g", i, i+1, angle, 2*math.Pi/n)
		}
		if math.Abs(q.X*q.X+q.Y*q.Y+q.Z*q.Z+q.W*q.W-1) > 1e-6 {
			t.Errorf("piece %d has no unit rotation", i)
		}
	}
}

// An offset shifts all pieces like travel does, and both may be keyed.
func TestOffsetAddsToTravel(t *testing.T) {
	a := compile(t, slot, shoe, `{"mode":"set count","count":9,"offset":0.25}`, `"facing":{"mode":"loopside"},"travel":0.5`)
	b := compile(t, slot, shoe, `{"mode":"set count","count":9,"offset":{"keys":[{"frame":1,"value":0},{"frame":5,"value":0.5}]}}`, `"facing":{"mode":"loopside"},"travel":0.5`)
	var pa, pb rig.Picture
	a.Frame(&pa, 3)
	b.Frame(&pb, 3)
	for i, d := range pa.Rigs[0].Distances {
		if math.Abs(d-pb.Rigs[0].Distances[i]) > 1e-12 || (i == 0 && math.Abs(d-0.75) > 1e-12) {
			t.Fatalf("piece %d at %g and %g", i, d, pb.Rigs[0].Distances[i])
		}
	}
	// Each moving value reads by itself, between its keys too.
	if pa.Rigs[0].Travel != 0.5 || pb.Rigs[0].Offset != 0.25 {
		t.Errorf("travel %g, offset %g; want 0.5 and 0.25", pa.Rigs[0].Travel, pb.Rigs[0].Offset)
	}
	rolling := compile(t, slot, shoe, `{"mode":"set count","count":9}`, driven)
	rolling.Frame(&pb, 1+47/2)
	if want := 30 * 23.0 / 47; math.Abs(pb.Rigs[0].Roll-want) > 1e-12 {
		t.Errorf("roll %g, want %g degrees", pb.Rigs[0].Roll, want)
	}
}

// Scaling the pieces leaves their places and the spacing alone, but not the pitch
// that stands for their own length.
func TestScaleLeavesSpacingAlone(t *testing.T) {
	for _, tc := range []struct {
		spacing string
		count   int
	}{{`{"mode":"set count","count":12}`, 12}, {`{"mode":"set pitch","pitch":0.3}`, 30}, {`{"mode":"set pitch"}`, 15}} {
		s := compile(t, slot, box, tc.spacing, `"facing":{"mode":"loopside"},"travel":0,"scale":2`)
		var pic rig.Picture
		s.Frame(&pic, 1)
		if got := len(pic.Rigs[0].Distances); got != tc.count {
			t.Errorf("%s: %d pieces, want %d", tc.spacing, got, tc.count)
		}
		if x := pic.Rigs[0].Transforms; x[7] != 2 || x[8] != 2 || x[9] != 2 {
			t.Errorf("scale %v", x[7:10])
		}
	}
}

// A drawn polyline keeps to its chord error, closes to the bit, and its distances
// are the stations'.
func TestPolylineForDrawing(t *testing.T) {
	s := compile(t, `{"ellipse":{"centre":[0,1,0],"along":2,"across":1}}`, box, `{"mode":"set count","count":2}`, `"facing":{"mode":"loopside"},"travel":0`)
	c := s.Paths[0]
	for _, tol := range []float64{1e-2, 1e-4} {
		pts, dist := c.Polyline(tol)
		n := len(dist)
		if len(pts) != 3*n || dist[0] != 0 || math.Abs(float64(dist[n-1])-c.Length()) > 1e-6 {
			t.Fatalf("%d numbers, %d distances, last %g", len(pts), n, dist[n-1])
		}
		for i := range 3 {
			if pts[i] != pts[3*(n-1)+i] {
				t.Errorf("the drawing does not close: %v and %v", pts[:3], pts[3*(n-1):])
			}
		}
		for i := 1; i < n; i++ {
			mid, _ := c.At((float64(dist[i-1]) + float64(dist[i])) / 2)
			off := math.Hypot(math.Hypot(mid.X-float64(pts[3*i-3]+pts[3*i])/2, mid.Y-float64(pts[3*i-2]+pts[3*i+1])/2), mid.Z-float64(pts[3*i-1]+pts[3*i+2])/2)
			if off > 1.05*tol {
				t.Fatalf("tolerance %g: chord %d is %g off", tol, i, off)
			}
		}
	}
}
