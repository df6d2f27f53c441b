package server_test

import (
	"encoding/binary"
	"encoding/json"
	"math"
	"os"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/server"
)

func demoDoc(t *testing.T, name string) (json.RawMessage, *rig.Scene) {
	t.Helper()
	d, err := demo.Scene(name)
	if err != nil {
		t.Fatal(err)
	}
	text, err := d.Encode()
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return text, s
}

// Loops come with edits that close; what cannot be solved for is said.
func TestLoops(t *testing.T) {
	s := start(t, nil)
	doc, _ := demoDoc(t, "crawler")
	ask := func(rig string, frames int, speed float64, out any) int {
		return s.call("POST", "/api/loops", map[string]any{"doc": doc, "rig": rig, "frames": frames, "speed": speed}, out)
	}
	var got server.Loops
	if code := ask("port-tread", 100, 0.7, &got); code != 200 || len(got.Offers) == 0 || len(got.Offers[0].Edits) != 2 {
		t.Fatalf("%d %+v", code, got)
	}
	o := got.Offers[0]
	if pitches := o.Speed * float64(o.Frames) / 24 / 0.19; math.Abs(pitches-math.Round(pitches)) > 1e-9 {
		t.Errorf("%+v goes %v pitches", o, pitches)
	}
	var p problem
	if code := ask("port-thread", 100, 0.7, &p); code != 422 || !strings.Contains(p.Detail, "no rig") {
		t.Errorf("%d %+v", code, p)
	}
	if code := ask("port-tread", 0, 0.7, &p); code != 422 || !strings.Contains(p.Detail, "from 1") {
		t.Errorf("%d %+v", code, p)
	}
}

// A thing is put on another carrier; a ring is refused by name.
func TestMoveToCarrier(t *testing.T) {
	s := start(t, nil)
	doc, was := demoDoc(t, "skid-steer")
	move := func(kind, id, to string, out any) int {
		return s.call("POST", "/api/carriers/move", map[string]any{"doc": doc, "kind": kind, "id": id, "carrier": to, "frame": 60}, out)
	}
	var d struct {
		Fixtures []struct {
			Carrier string
			At      [3]float64
		}
	}
	if code := move("fixture", "cabin", "boom", &d); code != 200 || d.Fixtures[1].Carrier != "boom" || d.Fixtures[1].At == was.Doc.Fixtures[1].At {
		t.Errorf("%d %+v", code, d)
	}
	var p problem
	if code := move("carrier", "chassis", "boom", &p); code != 422 || !strings.Contains(p.Detail, "rides on itself") {
		t.Errorf("%d %+v", code, p)
	}
	if code := move("part", "shoe", "boom", &p); code != 422 || !strings.Contains(p.Detail, "do") {
		t.Errorf("%d %+v", code, p)
	}
}

// Frames say where everything is, what moving values come to, and how deformed paths
// lie; each equals the core's.
func TestLiveTellsWhereThingsAre(t *testing.T) {
	s := start(t, nil)
	for _, name := range []string{"skid-steer", "sounding-dart"} {
		doc, compiled := demoDoc(t, name)
		ch := s.live(s.create("empty").ID)
		ch.send(map[string]any{"seq": 1, "frame": 40, "doc": doc})
		m := ch.next()
		if m.kind != 1 {
			t.Fatalf("%s: kind %d", name, m.kind)
		}
		var pic rig.Picture
		compiled.Frame(&pic, 40)
		le := binary.LittleEndian
		b := m.sections["POSE"][0]
		at := 16
		for k, list := range [][]rig.Place{pic.Paths, pic.Fixtures, pic.Carriers} {
			if n := le.Uint32(b[4*k:]); int(n) != len(list) {
				t.Fatalf("%s: %d of list %d, want %d", name, n, k, len(list))
			}
			for _, place := range list {
				for _, want := range place {
					if got := math.Float32frombits(le.Uint32(b[at:])); got != want {
						t.Fatalf("%s: list %d: %v, want %v", name, k, got, want)
					}
					at += 4
				}
			}
		}
		for i, want := range pic.Values {
			if got := math.Float64frombits(le.Uint64(m.sections["VALV"][0][8*i:])); got != want {
				t.Errorf("%s: value %d is %v, want %v", name, i, got, want)
			}
		}
		// Cameras look from where they do, and wheels stand and turn as they do, with where the belt lies on them.
		floats := func(b []byte, want ...float32) {
			t.Helper()
			for k, w := range want {
				if got := math.Float32frombits(le.Uint32(b[4*k:])); got != w {
					t.Errorf("%s: number %d is %g, want %g", name, k, got, w)
				}
			}
		}
		for i, c := range pic.Cameras {
			floats(m.sections["LOOK"][0][32*i:], append(c.Place[:], c.Angle)...)
		}
		belts := 0
		for i, wheels := range pic.Wheels {
			if len(wheels) == 0 {
				continue
			}
			b := m.sections["WHEL"][belts]
			if belts++; int(le.Uint32(b)) != i || int(le.Uint32(b[4:])) != len(wheels) {
				t.Fatalf("%s: wheels of path %d: %d of %d", name, i, le.Uint32(b), le.Uint32(b[4:]))
			}
			for k, w := range wheels {
				floats(b[8+40*k:], w.Place[:]...)
			}
		}
		if len(pic.Cameras) == 0 || name == "skid-steer" && belts != 2 || belts != len(m.sections["WHEL"]) {
			t.Errorf("%s: %d cameras, wheels of %d belts in %d sections", name, len(pic.Cameras), belts, len(m.sections["WHEL"]))
		}
		if len(m.sections["PATH"]) != len(compiled.Paths) {
			t.Errorf("%s: %d paths, want %d", name, len(m.sections["PATH"]), len(compiled.Paths))
		}
		if name == "sounding-dart" {
			points, _ := pic.Curves[0].Polyline(compiled.Doc.Paths[0].Chord(pic.Curves[0].Length()))
			if got := math.Float32frombits(le.Uint32(m.sections["PATH"][0][8+4*4:])); got != points[4] {
				t.Errorf("%s: the path lies at %v, want %v", name, got, points[4])
			}
		}
	}
}

// A document of version 1 comes back in the present version; what is no document is refused.
func TestDocumentsOfOldVersions(t *testing.T) {
	s := start(t, nil)
	old, err := os.ReadFile("../core/scene/testdata/v1/eel.json")
	if err != nil {
		t.Fatal(err)
	}
	var now scene.Document
	if code := s.call("POST", "/api/documents", map[string]any{"doc": json.RawMessage(old)}, &now); code != 200 || now.Bead != scene.Version || now.Rigs[0].Body == nil {
		t.Errorf("%d, %+v", code, now)
	}
	var p problem
	if code := s.call("POST", "/api/documents", map[string]any{"doc": map[string]any{"bead": 7}}, &p); code != 422 || p.Faults[0].Address != "bead" {
		t.Errorf("%d, %+v", code, p)
	}
}

// A path is resized or mirrored with what rides on it; what cannot be is said, and that of nobody.
func TestResizeAndOtherSide(t *testing.T) {
	s := start(t, nil)
	doc, was := demoDoc(t, "skid-steer")
	ask := func(what, path string, by float64, out any) int {
		return s.call("POST", "/api/paths/"+what, map[string]any{"doc": doc, "path": path, "by": by}, out)
	}
	var d scene.Document
	if code := ask("other-side", "port-loop", 0, &d); code != 200 || len(d.Paths) != 4 || len(d.Rigs) != 3 || d.Paths[3].Shape.Wrap.Wheels[0].At[0] != -was.Doc.Paths[0].Shape.Wrap.Wheels[0].At[0] {
		t.Errorf("%d %+v", code, d.Paths)
	}
	d = scene.Document{}
	if code := ask("resize", "port-loop", 2, &d); code != 200 || d.Paths[0].Shape.Wrap.Wheels[0].Radius != 2*was.Doc.Paths[0].Shape.Wrap.Wheels[0].Radius {
		t.Errorf("%d %+v", code, d.Paths)
	}
	d = scene.Document{}
	if code := ask("resize-with-rigs", "port-loop", 2, &d); code != 200 || d.Rigs[0].Scale != 2*max(was.Doc.Rigs[0].Scale, 1) || d.Rigs[1].Scale != was.Doc.Rigs[1].Scale {
		t.Errorf("%d %+v", code, d.Rigs)
	}
	var p problem
	for _, bad := range []struct {
		what, path string
		by         float64
		want       string
	}{{"resize", "port-loop", 0, "not accepted"}, {"resize", "port-loop", 1e6, "wheels[0].at[2]"}, {"resize", "ruts", 2, "as large as what it follows"}, {"other-side", "ruts", 1, "has no other side"}, {"resize", "nothing", 2, "no path"}} {
		if code := ask(bad.what, bad.path, bad.by, &p); code != 422 || !strings.Contains(p.Detail, bad.want) {
			t.Errorf("%v: %d %+v", bad, code, p)
		}
	}
}

// A scene is kept as a beginning without a step of its history; what begins with it has its name.
func TestBeginnings(t *testing.T) {
	s := start(t, nil)
	var made, other server.SceneState
	s.call("POST", "/api/scenes", map[string]any{"starter": "row"}, &made)
	if code := s.call("PUT", "/api/scenes/"+made.ID+"/beginning", map[string]any{"beginning": true}, nil); code != 204 {
		t.Fatal(code)
	}
	var cards []server.SceneCard
	if s.call("GET", "/api/scenes", nil, &cards); len(cards) != 1 || !cards[0].Beginning || cards[0].Revision != made.Revision {
		t.Errorf("%+v", cards)
	}
	if code := s.call("POST", "/api/scenes/"+made.ID+"/copy?begin=true", nil, &other); code != 201 || other.Doc.Name != made.Doc.Name || other.ID == made.ID {
		t.Errorf("%d %+v", code, other)
	}
	cards = nil
	if s.call("GET", "/api/scenes", nil, &cards); len(cards) != 2 || cards[0].Beginning == cards[1].Beginning {
		t.Errorf("what began with it is a beginning, too: %+v", cards)
	}
	if code := s.call("PUT", "/api/scenes/nobody/beginning", map[string]any{"beginning": true}, nil); code != 404 {
		t.Error(code)
	}
}
