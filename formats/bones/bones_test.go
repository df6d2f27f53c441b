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
