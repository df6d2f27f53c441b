package bones

import (
	"slices"
	"testing"

	"bead/core/begin"
	"bead/core/rig"
)

// The joints of a body are the same whether the frames that they are tried at are kept or made anew, and
// nothing goes on when nobody waits any more.
func TestPlacesOfKeptFrames(t *testing.T) {
	d, err := begin.Creature(begin.CreatureSpec{Length: 1, Does: begin.Doings[0], Waves: 2})
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	for _, g := range s.Groups(nil) {
		if !g.Skeletal {
			continue
		}
		kept := Of(s, &g, nil)
		var tried [][]float64
		for _, n := range []int{4, 9, 20} {
			places := make([]float64, n)
			for j := range places {
				places[j] = g.Skeleton(0).Tail + g.Skeleton(0).Length()*float64(j)/float64(n-1)
			}
			tried = append(tried, places)
		}
		one, all := kept[0].worst(&looked{scene: s, group: &g, keep: true}, 0, tried), kept[0].worst(&looked{scene: s, group: &g}, 0, tried)
		for n := range tried {
			if a, b := one(n), all(n); a != b || !(a > 0) {
				t.Errorf("%d joints: %g m off in kept frames, %g else", len(tried[n]), a, b)
			}
		}
		for k := range kept {
			anew := kept[k].places(&looked{scene: s, group: &g}, k)
			if len(anew) < counts[0] || !slices.Equal(anew, kept[k].Places) {
				t.Errorf("%d joints of kept frames, %d else", len(kept[k].Places), len(anew))
			}
		}
		asked := 0
		Of(s, &g, func() bool { asked++; return asked > 5 })
		if asked != 6 {
			t.Errorf("asked %d times, the sixth time nobody waited", asked)
		}
		return
	}
	t.Error("no body")
}
