package server_test

import (
	"bytes"
	"context"
	"encoding/base64"
	"encoding/binary"
	"encoding/json"
	"image"
	"image/png"
	"math"
	"slices"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
	"bead/formats/still"
	"bead/server"
)

const clothScene = `{"bead":2,"name":"Cloth","fps":24,"range":{"first":1,"last":24},"plays":"once",
"parts":[{"id":"s","name":"s","shape":{"sheet":{"length":1,"drop":0.8,"along":60,"down":48}}}],
"paths":[{"id":"p","name":"p","shape":{"line":{"from":[0,1,0],"to":[0,1,2]}}}],
"rigs":[{"id":"r","name":"Cloth","path":"p","part":"s","facing":{"mode":"steady"},"travel":0,
"drape":{"hang":"corners","fabric":{"weight":0.3,"stretch":900,"shear":50,"bending":0.02},"damping":1}}]}`

// A frame that waits for its simulation is shown without it, and says so; then the frames come from
// the first on, each with its last bit that of a simulation from outside, and the checks after them.
// A stopped simulation says so, and the next edit goes on with it.
func TestLiveSimulates(t *testing.T) {
	s := start(t, nil)
	a := s.create("empty")
	ch := s.live(a.ID)
	doc, err := scene.Decode([]byte(clothScene))
	if err != nil {
		t.Fatal(err)
	}
	want, err := rig.Compile(doc)
	if err != nil {
		t.Fatal(err)
	}
	if err := want.Simulate(context.Background(), nil); err != nil {
		t.Fatal(err)
	}
	ch.send(map[string]any{"seq": 1, "frame": 20, "doc": json.RawMessage(clothScene), "fill": true})
	if m := ch.next(); m.kind != 1 || len(m.sections["WAIT"]) != 1 {
		t.Fatalf("kind %d with %d marks of waiting", m.kind, len(m.sections["WAIT"]))
	}
	asked, stopped := false, false
	for !stopped {
		if m := ch.next(); m.kind == 7 {
			if !asked {
				asked = true
				ch.send(map[string]any{"seq": 1, "stop": true})
			}
			var at server.Simulating
			if err := json.Unmarshal(m.sections["JSON"][0], &at); err != nil || at.Of != 25 {
				t.Fatalf("%v %+v", err, at)
			}
			stopped = at.Stopped
		}
	}
	ch.send(map[string]any{"seq": 2, "frame": 20, "doc": json.RawMessage(clothScene), "fill": true})
	var pic rig.Picture
	next, checked := 1, false
	for next <= 24 || !checked {
		m := ch.next()
		if m.seq != 2 {
			continue
		}
		checked = checked || m.kind == 3
		if m.kind != 2 {
			continue
		}
		if m.frame != next || len(m.sections["WAIT"]) != 0 {
			t.Fatalf("frame %d comes, not %d, with %d marks of waiting", m.frame, next, len(m.sections["WAIT"]))
		}
		next++
		want.Frame(&pic, m.frame)
		body := m.sections["BODY"][0]
		at := 8 + 16*len(pic.Rigs[0].Reach)
		for k, v := range pic.Rigs[0].Positions {
			if got := math.Float32frombits(binary.LittleEndian.Uint32(body[at+4*k:])); got != v {
				t.Fatalf("frame %d: number %d is %g, not %g", m.frame, k, got, v)
			}
		}
	}
}

// A card shows cloth as it hangs, not as it would follow its path.
func TestCardsAreSimulated(t *testing.T) {
	s := start(t, nil)
	settled := strings.NewReplacer(`"damping":1`, `"damping":1,"settle":1`, `"along":60,"down":48`, `"along":20,"down":16`).Replace(clothScene)
	var made state
	if code := s.call("POST", "/api/scenes/document", []byte(settled), &made); code != 201 {
		t.Fatal(code)
	}
	var svg []byte
	if code := s.call("GET", "/api/scenes/"+made.ID+"/picture.svg", nil, &svg); code != 200 {
		t.Fatal(code)
	}
	_, rest, _ := strings.Cut(string(svg), "base64,")
	text, _, _ := strings.Cut(rest, `"`)
	data, err := base64.StdEncoding.DecodeString(text)
	if err != nil {
		t.Fatal(err)
	}
	got, err := png.Decode(bytes.NewReader(data))
	if err != nil {
		t.Fatal(err)
	}
	doc, err := scene.Decode([]byte(settled))
	if err != nil {
		t.Fatal(err)
	}
	drawn := func(simulate bool) image.Image {
		c, err := rig.Compile(doc)
		if err == nil && simulate {
			err = c.Simulate(context.Background(), nil)
		}
		if err != nil {
			t.Fatal(err)
		}
		out, err := still.Draw(context.Background(), c, nil)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	differ := func(a, b image.Image) (n int) {
		for y := range a.Bounds().Dy() {
			for x := range a.Bounds().Dx() {
				if a.At(x, y) != b.At(x, y) {
					n++
				}
			}
		}
		return n
	}
	if hangs, follows := differ(got, drawn(true)), differ(got, drawn(false)); hangs != 0 || follows < 500 {
		t.Errorf("the card differs by %d pixels from the cloth as it hangs, and by %d from how it follows its path", hangs, follows)
	}
}

// Checks of a rig that waits for no simulation come beside it and name the one that waits; so does word that
// no other frame is left to be sent ahead.
func TestChecksBesideASimulation(t *testing.T) {
	s := start(t, nil)
	ch := s.live(s.create("empty").ID)
	doc := strings.NewReplacer(`"damping":1`, `"damping":1,"substeps":1000`, `"rigs":[`, `"rigs":[{"id":"beads","name":"Beads","path":"p","part":"b",
"facing":{"mode":"steady"},"travel":0,"train":{"spacing":{"mode":"set count","count":3}}},`, `"parts":[`, `"parts":[{"id":"b","name":"b","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}},`).Replace(clothScene)
	ch.send(map[string]any{"seq": 1, "frame": 1, "doc": json.RawMessage(doc), "fill": true})
	told := false
	for range 1000 {
		switch m := ch.next(); m.kind {
		case 4:
			t.Fatalf("%s", m.sections["JSON"][0])
		case 5:
			told = true
		case 7:
			var at server.Simulating
			if err := json.Unmarshal(m.sections["JSON"][0], &at); err != nil || at.Done == at.Of {
				t.Fatalf("%v %+v: the simulation came first", err, at)
			}
		case 3:
			var c server.Checks
			err := json.Unmarshal(m.sections["JSON"][0], &c)
			if err == nil && c.Seen == 0 {
				break // how far it has come
			}
			if err != nil || !slices.Equal(c.Waiting, []string{"r"}) || len(c.Results) == 0 {
				t.Fatalf("%v: %d results, %v wait", err, len(c.Results), c.Waiting)
			}
			for _, r := range c.Results {
				if r.Rig != "beads" {
					t.Errorf("%s of %s", r.ID, r.Rig)
				}
			}
			if told && c.Seen == c.Of {
				return
			}
		}
	}
	t.Fatalf("told that what is left waits: %v", told)
}
