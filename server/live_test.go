package server_test

import (
	"context"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"os"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/santhosh-tekuri/jsonschema/v6"

	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/server"
)

// message is the live channel read by a second hand, from docs/protocol.md.
type message struct {
	kind     int
	seq      uint32
	frame    int
	sections map[string][][]byte
}

func readMessage(t *testing.T, data []byte) message {
	t.Helper()
	le := binary.LittleEndian
	if len(data) < 24 || string(data[:4]) != "BEAD" || le.Uint16(data[4:]) != 1 {
		t.Fatalf("not a message: % x", data[:min(len(data), 24)])
	}
	m := message{int(le.Uint16(data[6:])), le.Uint32(data[8:]), int(int32(le.Uint32(data[12:]))), map[string][][]byte{}}
	for at := 24; at < len(data); {
		n := int(le.Uint32(data[at+4:]))
		tag := string(data[at : at+4])
		m.sections[tag] = append(m.sections[tag], data[at+8:at+8+n])
		if of := typeOf[m.kind][tag]; of != "" {
			types, err := pageTypes()
			if err != nil {
				t.Fatal(err)
			}
			held(t, types[of], of, data[at+8:at+8+n])
		}
		at += 8 + n
		at += (8 - at%8) % 8
	}
	return m
}

// typeOf are the types of the JSON in the messages of each kind: the page holds them to its schema.
var typeOf = map[int]map[string]string{1: {"READ": "Readout"}, 3: {"JSON": "Checks"}, 4: {"JSON": "Refusal"}, 6: {"JSON": "Moved"}, 7: {"JSON": "Simulating"}}

// pageTypes are the page's own schemas of them.
var pageTypes = sync.OnceValues(func() (map[string]*jsonschema.Schema, error) {
	f, err := os.Open("../web/src/core/page.schema.json")
	if err != nil {
		return nil, err
	}
	defer f.Close()
	v, err := jsonschema.UnmarshalJSON(f)
	if err != nil {
		return nil, err
	}
	c := jsonschema.NewCompiler()
	err = c.AddResource("page.schema.json", v)
	out := map[string]*jsonschema.Schema{}
	for _, of := range []string{"Readout", "Checks", "Refusal", "Moved", "Simulating"} {
		if err == nil {
			out[of], err = c.Compile("page.schema.json#/$defs/" + of)
		}
	}
	return out, err
})

// What is said of every demo scene, of the empty one and of one of nothing is of the types that the page accepts.
func TestReadoutsHold(t *testing.T) {
	s := start(t, nil)
	docs := map[string]*scene.Document{}
	var err error
	for _, name := range demo.Names() {
		if docs[name], err = demo.Scene(name); err != nil {
			t.Fatal(err)
		}
	}
	if docs["empty"], err = demo.Begin("empty", nil); err != nil {
		t.Fatal(err)
	}
	empty, err := scene.Decode([]byte(`{"bead":2,"name":"nothing","fps":24,"range":{"first":1,"last":2},"paths":[],"parts":[],"rigs":[]}`))
	if err != nil {
		t.Fatal(err)
	}
	docs["nothing"] = empty
	seen := map[string]bool{scene.KindDrape: true} // which is simulated first
	for _, name := range slices.Sorted(maps.Keys(docs)) {
		d := docs[name]
		text, err := d.Encode()
		if err != nil {
			t.Fatal(err)
		}
		var made state
		if code := s.call("POST", "/api/scenes/document", text, &made); code != 201 {
			t.Fatal(name, code)
		}
		ch := s.live(made.ID)
		ch.send(map[string]any{"seq": 1, "frame": 1, "doc": json.RawMessage(text), "fill": true})
		if m := ch.next(); m.kind != 1 || len(m.sections["READ"]) != 1 {
			t.Errorf("%s: kind %d", name, m.kind)
		}
		if fresh := slices.ContainsFunc(d.Rigs, func(r scene.Rig) bool { return !seen[r.Kind()] }); !fresh {
			continue
		}
		for ch.next().kind != 3 { // the first of the checks of each kind of rig
		}
		for _, r := range d.Rigs {
			seen[r.Kind()] = true
		}
		if t.Failed() {
			t.Fatal(name)
		}
	}
}

type pieces struct {
	travel     float64
	offset     float64
	roll       float64
	distances  []float64
	transforms []float32
}

func readPieces(b []byte) pieces {
	le := binary.LittleEndian
	n := int(le.Uint32(b[4:]))
	f64 := func(at int) float64 { return math.Float64frombits(le.Uint64(b[at:])) }
	p := pieces{travel: f64(8), offset: f64(16), roll: f64(24)}
	for i := range n {
		p.distances = append(p.distances, f64(32+8*i))
	}
	for i := range n * rig.Stride {
		p.transforms = append(p.transforms, math.Float32frombits(le.Uint32(b[32+8*n+4*i:])))
	}
	return p
}

type channel struct {
	t    *testing.T
	conn *websocket.Conn
	ctx  context.Context
}

func (s *site) live(id string) *channel {
	s.t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	conn, _, err := websocket.Dial(ctx, strings.Replace(s.ts.URL, "http", "ws", 1)+"/api/scenes/"+id+"/live", nil)
	if err != nil {
		s.t.Fatal(err)
	}
	conn.SetReadLimit(64 << 20)
	s.t.Cleanup(func() { conn.CloseNow(); cancel() })
	ch := &channel{s.t, conn, ctx}
	// A window that was away learns at once where the scene stands.
	var now struct{ Revision int64 }
	s.call("GET", "/api/scenes/"+id, nil, &now)
	if m := ch.next(); m.kind != 6 || string(m.sections["JSON"][0]) != fmt.Sprintf(`{"revision":%d}`, now.Revision) {
		s.t.Fatalf("greeted with kind %d, %s", m.kind, m.sections["JSON"])
	}
	return ch
}

func (c *channel) send(v any) {
	c.t.Helper()
	text, _ := json.Marshal(v)
	if err := c.conn.Write(c.ctx, websocket.MessageText, text); err != nil {
		c.t.Fatal(err)
	}
}

func (c *channel) next() message {
	c.t.Helper()
	_, data, err := c.conn.Read(c.ctx)
	if err != nil {
		c.t.Fatal(err)
	}
	return readMessage(c.t, data)
}

// The frame looked at comes first, then the checks, then the rest outward from
// it; each equals the core's frame bit for bit.
func TestLiveAnswersTheFrameLookedAtFirst(t *testing.T) {
	s := start(t, nil)
	a := s.create("tread")
	a.Doc = json.RawMessage(strings.NewReplacer(`"travel":0`, `"travel":{"speed":0.3}`, `"train":{`, `"offset":0.125,"train":{`,
		`"mode":"loopside"`, `"mode":"loopside","roll":{"keys":[{"frame":1,"value":0},{"frame":90,"value":40}]}`).Replace(string(a.Doc)))
	doc, err := scene.Decode(a.Doc)
	if err != nil {
		t.Fatal(err)
	}
	compiled, err := rig.Compile(doc)
	if err != nil {
		t.Fatal(err)
	}
	ch := s.live(a.ID)
	ch.send(map[string]any{"seq": 1, "frame": 40, "fill": true, "doc": a.Doc})
	m := ch.next()
	if m.kind != 1 || m.seq != 1 || m.frame != 40 || len(m.sections["READ"]) != 1 || len(m.sections["PATH"]) != 1 || len(m.sections["MESH"]) != 1 || len(m.sections["PIEC"]) != 1 {
		t.Fatalf("first answer: kind %d, frame %d, sections %v", m.kind, m.frame, len(m.sections))
	}
	same := func(m message) {
		t.Helper()
		var pic rig.Picture
		compiled.Frame(&pic, m.frame)
		got := readPieces(m.sections["PIEC"][0])
		if got.travel != pic.Rigs[0].Travel || got.offset != pic.Rigs[0].Offset || got.roll != pic.Rigs[0].Roll || !slices.Equal(got.distances, pic.Rigs[0].Distances) || !slices.Equal(got.transforms, pic.Rigs[0].Transforms) {
			t.Fatalf("frame %d is not the core's", m.frame)
		}
	}
	same(m)
	if got := readPieces(m.sections["PIEC"][0]); got.travel == 0 || got.offset != 0.125 || got.roll == 0 {
		t.Errorf("travel %g, offset %g, roll %g", got.travel, got.offset, got.roll)
	}
	// The other frames follow, and beside them the checks: of a few frames, then of all.
	var order []int
	var looks []server.Checks
	filled := false
	for !filled || len(looks) == 0 || looks[len(looks)-1].Seen < 96 {
		switch m = ch.next(); m.kind {
		case 2:
			same(m)
			order = append(order, m.frame)
		case 3:
			var c server.Checks
			if err := json.Unmarshal(m.sections["JSON"][0], &c); err != nil {
				t.Fatal(err)
			}
			looks = append(looks, c)
		case 5:
			filled = true
		}
	}
	if first := looks[0]; first.Seen != 9 || first.Of != 96 || first.Looked == 0 || len(first.Results) == 0 {
		t.Errorf("the first look: %+v", first)
	}
	if last := looks[len(looks)-1]; last.Looked != 0 || len(last.Results) != len(looks[0].Results) {
		t.Errorf("the last look: %+v", last)
	}
	if len(order) != 95 || !slices.Equal(order[:4], []int{41, 39, 42, 38}) {
		t.Errorf("kind %d after %d frames: %v", m.kind, len(order), order)
	}
	// A mesh that the page has is not sent again; a part that changed is.
	ch.send(map[string]any{"seq": 2, "frame": 1, "doc": a.Doc})
	if m = ch.next(); m.seq != 2 || len(m.sections["MESH"]) != 0 {
		t.Errorf("second edit: seq %d with %d meshes", m.seq, len(m.sections["MESH"]))
	}
	ch.send(map[string]any{"seq": 3, "frame": 1, "doc": json.RawMessage(strings.Replace(string(a.Doc), `"width":0.52`, `"width":0.6`, 1))})
	if m = ch.next(); m.seq != 3 || len(m.sections["MESH"]) != 1 {
		t.Errorf("changed part: seq %d with %d meshes", m.seq, len(m.sections["MESH"]))
	}
	// A frame may be asked for, outside the range too.
	ch.send(map[string]any{"seq": 3, "frame": 400})
	if m = ch.next(); m.kind != 2 || m.frame != 400 {
		t.Errorf("look: kind %d frame %d", m.kind, m.frame)
	}
	// Several are sent in the order in which they are wanted, though they have been sent before.
	ch.send(map[string]any{"seq": 3, "frame": 50, "frames": []int{51, 400, 7}})
	for _, want := range []int{50, 51, 400, 7} {
		if m = ch.next(); m.kind != 2 || m.frame != want {
			t.Errorf("look: kind %d frame %d, want %d", m.kind, m.frame, want)
		}
	}
	// A frame beyond all reason is refused, and the channel goes on.
	ch.send(map[string]any{"seq": 4, "frame": 1_000_000_000_000_000, "fill": true, "doc": a.Doc})
	if m = ch.next(); m.kind != 4 || !strings.Contains(string(m.sections["JSON"][0]), "frames within") {
		t.Errorf("frame 1e15: kind %d %s", m.kind, m.sections["JSON"])
	}
}

// Frames are sent ahead up to so many bytes; that there are no more is said, and those that are
// missing come when they are asked for.
func TestLiveFillsWithinItsBytes(t *testing.T) {
	const budget = 40_000
	s := start(t, func(c *server.Config) { c.FillBytes = budget })
	a := s.create("tread")
	ch := s.live(a.ID)
	ch.send(map[string]any{"seq": 1, "frame": 1, "fill": true, "doc": a.Doc})
	sent, most, frames := 0, 0, 0
	for {
		_, data, err := ch.conn.Read(ch.ctx)
		if err != nil {
			t.Fatal(err)
		}
		m := readMessage(t, data)
		if m.kind == 2 {
			sent, most, frames = sent+len(data), max(most, len(data)), frames+1
		}
		if m.kind == 5 {
			break
		}
	}
	if frames == 0 || frames > 90 || sent > budget+most {
		t.Errorf("%d frames of %d bytes were sent ahead", frames, sent)
	}
	ch.send(map[string]any{"seq": 1, "frame": 95})
	for m := ch.next(); m.kind != 2 || m.frame != 95; m = ch.next() {
		if m.kind == 2 {
			t.Fatalf("frame %d came for 95", m.frame)
		}
	}
}

// A newer edit cuts the filling of an older one short.
func TestLiveNewerEditOvertakes(t *testing.T) {
	s := start(t, nil)
	a := s.create("tread")
	long := json.RawMessage(strings.Replace(string(a.Doc), `"last":96`, `"last":20000`, 1))
	ch := s.live(a.ID)
	ch.send(map[string]any{"seq": 1, "frame": 1, "fill": true, "doc": long})
	ch.next()
	ch.send(map[string]any{"seq": 2, "frame": 1, "doc": a.Doc})
	old := 0
	for m := ch.next(); m.seq == 1; m = ch.next() {
		old++
	}
	if old > 15000 {
		t.Errorf("%d frames of the old edit came before the new answer", old)
	}
}

func TestLiveFaults(t *testing.T) {
	s := start(t, nil)
	a := s.create("tread")
	ch := s.live(a.ID)
	ch.send(map[string]any{"seq": 7, "frame": 1, "doc": json.RawMessage(strings.Replace(string(a.Doc), `"fps":24`, `"fps":-1`, 1))})
	m := ch.next()
	if m.kind != 4 || m.seq != 7 || !strings.Contains(string(m.sections["JSON"][0]), `"address":"fps"`) {
		t.Errorf("kind %d: %s", m.kind, m.sections["JSON"])
	}
	ch.send(map[string]any{"seq": 8, "frame": 1, "doc": a.Doc})
	if m = ch.next(); m.kind != 1 || m.seq != 8 {
		t.Errorf("after a fault: kind %d seq %d", m.kind, m.seq)
	}
	// What is no JSON is said, under its number where that can be read; the channel stays.
	for text, seq := range map[string]uint32{`{"seq": 9, "frame": 1, "doc": {"fps": Infinity}}`: 9, "{": 0, `{"frame":[{}],"seq":10,"x":}`: 10, "7": 0, `{"seq":`: 0} {
		if err := ch.conn.Write(ch.ctx, websocket.MessageText, []byte(text)); err != nil {
			t.Fatal(err)
		}
		if m = ch.next(); m.kind != 4 || m.seq != seq || !strings.Contains(string(m.sections["JSON"][0]), "cannot be read") {
			t.Errorf("%s: kind %d, seq %d: %s", text, m.kind, m.seq, m.sections["JSON"])
		}
	}
	ch.send(map[string]any{"seq": 11, "frame": 1, "doc": a.Doc})
	if m = ch.next(); m.kind != 1 || m.seq != 11 {
		t.Errorf("after broken JSON: kind %d seq %d", m.kind, m.seq)
	}
	if err := ch.conn.Write(ch.ctx, websocket.MessageBinary, []byte("{}")); err != nil {
		t.Fatal(err)
	}
	if _, _, err := ch.conn.Read(ch.ctx); websocket.CloseStatus(err) != websocket.StatusUnsupportedData {
		t.Errorf("no text: %v", err)
	}
}

// Whoever looks at a scene is told of every step of it, whatever window it comes from; who looks
// at another scene is not, and a step that is refused is none.
func TestLiveTellsOfMoves(t *testing.T) {
	s := start(t, nil)
	a, b := s.create("tread"), s.create("tread")
	one, two, other := s.live(a.ID), s.live(a.ID), s.live(b.ID)
	told := func(what string, revision int64) {
		t.Helper()
		for n, ch := range []*channel{one, two} {
			m := ch.next()
			if want := fmt.Sprintf(`{"revision":%d}`, revision); m.kind != 6 || string(m.sections["JSON"][0]) != want {
				t.Fatalf("%s: window %d gets kind %d, %s, want %s", what, n+1, m.kind, m.sections["JSON"], want)
			}
		}
	}
	step := func(method, path string, body map[string]any) int64 {
		t.Helper()
		var now state
		if code := s.call(method, "/api/scenes/"+a.ID+path, body, &now); code != 200 {
			t.Fatalf("%s %s: %d", method, path, code)
		}
		return now.Revision
	}
	doc := json.RawMessage(strings.Replace(string(a.Doc), `"fps":24`, `"fps":25`, 1))
	at := step("PUT", "", map[string]any{"revision": a.Revision, "label": "faster", "doc": doc})
	told("an edit", at)
	for _, path := range []string{"/undo", "/redo"} {
		at = step("POST", path, map[string]any{"revision": at})
		told(path, at)
	}
	// Stale: refused, and nobody hears of it.
	if code := s.call("POST", "/api/scenes/"+a.ID+"/undo", map[string]any{"revision": at - 1}, nil); code != 409 {
		t.Errorf("a stale step: %d", code)
	}
	at = step("POST", "/undo", map[string]any{"revision": at})
	told("after a refused step", at)
	// The window on the other scene has heard nothing: its first message is its own answer.
	other.send(map[string]any{"seq": 1, "frame": 1, "doc": b.Doc})
	if m := other.next(); m.kind != 1 {
		t.Errorf("the other scene's window gets kind %d", m.kind)
	}
}
