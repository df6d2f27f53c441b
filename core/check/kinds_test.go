package check

import (
	"strings"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
)

// tallest is a made-up check: how high the pieces of a train stand at most.
type tallest struct {
	*measure
	worst
}

func (g *tallest) look(f *moment) {
	p := g.pieces(f.pic)
	for k := range p.Distances {
		g.take(float64(p.Transforms[k*rig.Stride+1]), f.frame, k)
	}
}
func (g *tallest) merge(later gauge) { g.worst.merge(later.(*tallest).worst) }
func (g *tallest) result() Result {
	r := Result{ID: "tallest", Rig: g.id, Unit: "m", Value: g.value, Tolerance: 1, Word: "low", Where: g.measure.where(g.piece, g.frame)}
	r.State = grade(r.Value, r.Tolerance)
	return r
}

// One more check is its own file and a line in Kinds: it is measured in every frame beside the
// others, where it applies, and its words are in the vocabulary that the page is given.
func TestOneMoreCheck(t *testing.T) {
	before := Kinds
	t.Cleanup(func() {
		Kinds = before
		delete(names, "tallest")
	})
	names["tallest"] = struct{ name, means string }{"Tallest", "How high pieces stand."}
	Kinds = append(Kinds[:len(Kinds):len(Kinds)], Kind{Words: []Words{{ID: "tallest"}},
		gauges: func(m *measure) []gauge {
			if !m.rig.Row {
				return nil
			}
			return []gauge{&tallest{measure: m}}
		}})
	d, err := scene.Decode([]byte(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":24},"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"paths":[{"id":"p","name":"p","shape":{"circle":{"centre":[0,1,0],"radius":0.5}}}],
"rigs":[{"id":"r","name":"r","path":"p","part":"a","train":{"spacing":{"mode":"set count","count":4}},"facing":{"mode":"loopside"},"travel":{"turns":1}},
{"id":"s","name":"s","path":"p","part":"a","rider":{},"facing":{"mode":"loopside"},"travel":0}]}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	seen := 0
	for _, r := range All(s) {
		if r.ID != "tallest" {
			continue
		}
		seen++
		if r.Rig != "r" || r.State != Outside || r.Value < 1.5-1e-6 || r.Value > 1.5+1e-6 { // the top of the circle
			t.Errorf("%+v", r)
		}
	}
	if seen != 1 {
		t.Errorf("seen %d times", seen)
	}
	if v := Vocabulary(); v[len(v)-1].Name != "Tallest" {
		t.Errorf("%v", v)
	}
	ids := map[string]bool{}
	for _, w := range Vocabulary() {
		if ids[w.ID] || w.Name == "" || !strings.HasSuffix(w.Means, ".") {
			t.Errorf("%+v", w)
		}
		ids[w.ID] = true
	}
	if len(ids) != len(names) {
		t.Errorf("%d checks, and names of %d", len(ids), len(names))
	}
}
