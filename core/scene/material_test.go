package scene

import (
	"strings"
	"testing"

	"bead/core/look"
)

func TestTintShare(t *testing.T) {
	for _, c := range []struct {
		t    Tint
		want string // of seven pieces: . none, X all
	}{
		{Tint{}, "X......"}, {Tint{From: 3}, "..X...."}, {Tint{From: 2, Every: 3}, ".X..X.."}, {Tint{Every: 2}, "X.X.X.X"}, {Tint{From: 5, Every: 2}, "....X.X"}, {Tint{From: 9}, "......."},
	} {
		got := ""
		for k := range 7 {
			switch c.t.Share(k, 7) {
			case 0:
				got += "."
			case 1:
				got += "X"
			default:
				got += "?"
			}
		}
		if got != c.want {
			t.Errorf("%+v: %s, want %s", c.t, got, c.want)
		}
	}
	along := Tint{Along: true, From: 3}
	if along.Share(0, 5) != 0 || along.Share(1, 5) != 0.25 || along.Share(4, 5) != 1 || along.Share(0, 1) != 0 {
		t.Error("more and more: not even")
	}
}

// Faults of materials with their addresses; a good one has none.
func TestMaterialFaults(t *testing.T) {
	doc := func(materials, more string) string {
		return `{"bead":2,"name":"a","fps":24,"range":{"first":1,"last":2},"materials":[` + materials + `],"ground":{"material":"` + more + `"},
"paths":[{"id":"p","name":"p","shape":{"circle":{"centre":[0,0,0],"radius":1,"plane":"side"}}}],
"parts":[{"id":"b","name":"b","shape":{"box":{"side":1,"height":1,"length":1}}}],
"rigs":[{"id":"r","name":"r","path":"p","part":"b","facing":{"mode":"steady"},"travel":0,"train":{"seat":"pivot","spacing":{"mode":"close up"}}}]}`
	}
	const good = `{"id":"m","name":"m","colour":"#AbCdEf","roughness":0.5}`
	if _, err := Decode([]byte(doc(good, "m"))); err != nil {
		t.Error(err)
	}
	id := strings.Repeat("ab", 32)
	for text, at := range map[string]string{
		doc(`{"id":"m","name":"m","colour":"red","roughness":0.5}`, "m"):                                           "materials[0].colour",
		doc(`{"id":"m","name":"m","colour":"#123456","roughness":2}`, "m"):                                         "materials[0].roughness",
		doc(`{"id":"m","name":"m","colour":"#123456","roughness":1,"opacity":-1}`, "m"):                            "materials[0].opacity",
		doc(`{"id":"m","name":"m","colour":"#123456","roughness":1,"images":{"normal":"x"}}`, "m"):                 "materials[0].images.normal",
		doc(`{"id":"m","name":"m","colour":"#123456","roughness":1,"images":{"colour":"`+id+`","width":-1}}`, "m"): "materials[0].images.width",
		doc(good+","+good, "m"): "materials[1].id",
		doc(good, "n"):          "ground.material",
		strings.Replace(doc(good, "m"), `"shape":{"box"`, `"material":"n","shape":{"box"`, 1):                                                       "parts[0].material",
		strings.Replace(doc(good, "m"), `"shape":{"box"`, `"surfaces":[{"name":"x","material":"m"},{"name":"x","material":"m"}],"shape":{"box"`, 1): "parts[0].surfaces[1].name",
		strings.Replace(doc(good, "m"), `"travel":0`, `"travel":0,"tints":[{"colour":"#12345"}]`, 1):                                                "rigs[0].tints[0].colour",
		strings.Replace(doc(good, "m"), `"travel":0`, `"travel":0,"tints":[{"colour":"#123456","every":-1}]`, 1):                                    "rigs[0].tints[0].every",
	} {
		_, err := Decode([]byte(text))
		faults, is := err.(Faults)
		if !is || faults[0].Address != at {
			t.Errorf("%v, want a fault at %s", err, at)
		}
	}
}

// Every part is made of something of the palette, which is what documents accept.
func TestPalette(t *testing.T) {
	d := &Document{Bead: Version, Name: "a", Units: "m", FPS: 24, Range: Range{1, 1}, Materials: look.Palette}
	if faults := d.Check(); len(faults) > 0 {
		t.Error(faults)
	}
	for _, n := range newParts {
		for _, stands := range []string{OnRig, Still, Riding} {
			if m := d.MadeOf(&Part{Name: n.Name, Shape: n.Shape}, stands); m.Name == "" {
				t.Errorf("%s is of nothing", n.Name)
			}
		}
	}
}
