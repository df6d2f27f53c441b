package rig_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
	"bead/core/surface"
)

// Blends go by their names: a piece of another part that has none of that name is as it is.
func TestBlendsOfOtherParts(t *testing.T) {
	doc := `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":4},"paths":[{"id":"w","name":"w",%s}],
"parts":[{"id":"e","name":"e","shape":{"eel":{"length":0.5,"girth":0.06}}},{"id":"b","name":"b","segments":8,"shape":{"box":{"side":0.1,"height":0.1,"length":0.5}}}],
"rigs":[{"id":"r","name":"r","kind":"train","seat":"bent","path":"w","part":"e","others":[{"part":"b","pieces":[2]}],"spacing":{"mode":"set count","count":3},"facing":{"mode":"steady"},"travel":0,"blends":[{"name":"jaw","amount":%g}]}]}`
	shut, open := shot(whole(t, fmt.Sprintf(doc, along, 0.0)), 1).Rigs[0].Positions, shot(whole(t, fmt.Sprintf(doc, along, 1.0)), 1).Rigs[0].Positions
	s := whole(t, fmt.Sprintf(doc, along, 0.0))
	from := 3 * s.Rigs[0].Body(0).Vertices()
	to := from + 3*s.Rigs[0].Body(1).Vertices()
	if !slices.Equal(shut[from:to], open[from:to]) {
		t.Error("the box opens a jaw")
	}
	if slices.Equal(shut[:from], open[:from]) || slices.Equal(shut[to:], open[to:]) {
		t.Error("an eel keeps its jaw shut")
	}
}

// Of a part whose blends come in another order the one of the name is taken, not that of the number.
func TestBlendsGoByTheirNames(t *testing.T) {
	corners := []geom.Vec{geom.V(-0.1, 0, -0.2), geom.V(0.1, 0, -0.2), geom.V(0.1, 0, 0.2), geom.V(-0.1, 0, 0.2)}
	asset := map[string][]string{strings.Repeat("a", 64): {"jaw", "fin"}, strings.Repeat("b", 64): {"fin", "jaw"}}
	k := rig.Compiler{Meshes: func(id string) (*surface.Mesh, error) {
		m, err := surface.New(corners, [][]int32{{0, 1, 2, 3}})
		for _, name := range asset[id] {
			by := map[string]geom.Vec{"jaw": geom.V(0, 0.3, 0), "fin": geom.V(0.7, 0, 0)}[name]
			if err == nil {
				err = m.AddBlend(name, []geom.Vec{by, by, by, by})
			}
		}
		return m, err
	}}
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":4},"paths":[{"id":"w","name":"w",%s}],
"parts":[{"id":"a","name":"a","shape":{"file":{"asset":"%s"}}},{"id":"b","name":"b","shape":{"file":{"asset":"%s"}}}],
"rigs":[{"id":"r","name":"r","kind":"train","seat":"bent","path":"w","part":"a","others":[{"part":"b","pieces":[2]}],"spacing":{"mode":"set count","count":2},"facing":{"mode":"steady"},"travel":0,"blends":[{"name":"jaw","amount":0.5}]}]}`,
		along, strings.Repeat("a", 64), strings.Repeat("b", 64)))
	if err != nil {
		t.Fatal(err)
	}
	s, err := k.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	p := shot(s, 1).Rigs[0].Positions
	for i := 0; i < len(p); i += 3 {
		if math.Abs(math.Abs(float64(p[i]))-0.1) > 1e-6 || math.Abs(float64(p[i+1])-0.15) > 1e-6 {
			t.Errorf("vertex %d of both pieces is at %v", i/3, p[i:i+3])
		}
	}
}
