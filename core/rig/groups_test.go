package rig_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
)

func demoScene(t *testing.T, name string) *rig.Scene {
	t.Helper()
	data, err := os.ReadFile("../../demo/scenes/" + name + ".json")
	if err != nil {
		t.Fatal(err)
	}
	d, err := scene.Decode(data)
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// Groups hold all that a picture holds, each thing once and under a name of its own, where the
// picture has it; what is left out takes its belt's wheels along.
func TestGroups(t *testing.T) {
	s := demoScene(t, "skid-steer")
	var p rig.Picture
	s.Frame(&p, 20)
	count := func(skip []bool) (said string) {
		names := map[string]bool{}
		for _, g := range s.Groups(skip) {
			for k := range g.Things {
				if n := g.Things[k].Name; names[n] {
					t.Errorf("%q is there twice", n)
				} else {
					names[n] = true
				}
				if g.Things[k].Model.Mesh() == nil {
					t.Errorf("%q has no mesh", g.Things[k].Name)
				}
				x := g.Place(&p, k)
				if turn := x[3]*x[3] + x[4]*x[4] + x[5]*x[5] + x[6]*x[6]; turn < 1-1e-5 || turn > 1+1e-5 {
					t.Errorf("%q is turned by %v", g.Things[k].Name, x[3:7])
				}
			}
			said += fmt.Sprintf("%s %d, ", g.Name, len(g.Things))
		}
		return strings.TrimSuffix(said, ", ")
	}
	d := s.Doc
	rigs, wheels := "", ""
	for i := range d.Rigs {
		rigs += fmt.Sprintf("%s %d, ", d.Rigs[i].Name, len(p.Rigs[i].Distances))
	}
	for i := range d.Paths {
		if n := len(p.Wheels[i]); n > 0 {
			wheels += fmt.Sprintf("%s wheels %d, ", d.Paths[i].Name, n)
		}
	}
	all := count(nil)
	if !strings.HasPrefix(all, strings.TrimSuffix(rigs+wheels, ", ")) {
		t.Errorf("%s; want %s%s first", all, rigs, wheels)
	}
	none := count(slices.Repeat([]bool{true}, len(s.Rigs)))
	if strings.Contains(none, "wheels") || strings.Contains(none, d.Rigs[0].Name) {
		t.Errorf("with all rigs left out: %s", none)
	}
	groups := s.Groups(nil)
	for k := range groups[0].Things {
		if x := groups[0].Place(&p, k); x != [rig.Stride]float32(p.Rigs[0].Transforms[k*rig.Stride:]) {
			t.Errorf("piece %d stands at %v", k+1, x)
		}
	}

	eel := demoScene(t, "eel")
	eel.Frame(&p, 30)
	g := eel.Groups(nil)[0]
	at, _ := g.Vertices(&p, 0)
	if !g.Surfaces || len(at) != len(p.Rigs[0].Positions) || len(at) != 3*g.Skeleton(0).Vertices() {
		t.Errorf("surfaces: %v, %d numbers of %d", g.Surfaces, len(at), len(p.Rigs[0].Positions))
	}
}
