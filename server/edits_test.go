package server_test

import (
	"encoding/json"
	"strings"
	"testing"
)

// An edit is told by what it changes, to the store and on the live channel alike.
func TestEditsAsPatches(t *testing.T) {
	s := start(t, nil)
	a := s.create("tread")
	patch := func(revision int64, ops string, out any) int {
		return s.call("PATCH", "/api/scenes/"+a.ID, map[string]any{"revision": revision, "label": "rename", "patch": json.RawMessage(ops)}, out)
	}
	var kept map[string]any
	if code := patch(a.Revision, `[{"op":"add","path":"/name","value":"One"}]`, &kept); code != 200 || kept["undo"] != "rename" || kept["doc"] != nil {
		t.Fatalf("%d %v", code, kept)
	}
	var b state
	if code := s.call("GET", "/api/scenes/"+a.ID, nil, &b); code != 200 || string(b.Doc) != string(renamed(a.Doc, "One")) || b.Revision != a.Revision+1 {
		t.Fatalf("%d %s", code, b.Doc)
	}
	// What is stored in other words comes back: an empty list is left out.
	if code := patch(b.Revision, `[{"op":"add","path":"/rigs/0/train/others","value":[]}]`, &kept); code != 200 || kept["doc"] == nil {
		t.Fatalf("%d %v", code, kept)
	}
	s.call("GET", "/api/scenes/"+a.ID, nil, &b)
	for _, tc := range []struct {
		revision int64
		ops      string
		code     int
		want     string
	}{
		{a.Revision, `[]`, 409, "conflict"}, // of an older state
		{b.Revision, `{}`, 400, "patch"},
		{b.Revision, `[{"op":"remove","path":"/rigs/0/offset"}]`, 400, "patch"},        // it is not there
		{b.Revision, `[{"op":"add","path":"/rigs/7/name","value":"x"}]`, 400, "patch"}, // the page then sends the whole
		{b.Revision, `[{"op":"test","path":"/name","value":"Two"}]`, 400, "patch"},
		{b.Revision, `[{"op":"add","path":"/fps","value":-1}]`, 422, "document"},
		{b.Revision, "[" + strings.Repeat(`{"op":"add","path":"/fps","value":24},`, 10_000) + `{"op":"add","path":"/fps","value":24}]`, 400, "patch"},
	} {
		var p problem
		if code := patch(tc.revision, tc.ops, &p); code != tc.code || p.Code != tc.want {
			t.Errorf("%.60s: %d %+v", tc.ops, code, p)
		}
	}
	var gone problem
	if code := s.call("PATCH", "/api/scenes/none", map[string]any{"revision": 1, "label": "x", "patch": []any{}}, &gone); code != 404 {
		t.Errorf("of no scene: %d %+v", code, gone)
	}

	ch := s.live(a.ID)
	ch.send(map[string]any{"seq": 1, "frame": 1, "doc": b.Doc})
	whole := ch.next()
	ch.send(map[string]any{"seq": 2, "frame": 1, "patch": json.RawMessage(`[{"op":"replace","path":"/rigs/0/travel","value":0.25}]`)})
	moved := ch.next()
	if whole.kind != 1 || moved.kind != 1 || readPieces(moved.sections["PIEC"][0]).travel != 0.25 {
		t.Fatalf("kinds %d and %d", whole.kind, moved.kind)
	}
	// One that was refused still counts: the next is told from it.
	ch.send(map[string]any{"seq": 3, "frame": 1, "patch": json.RawMessage(`[{"op":"add","path":"/fps","value":-1}]`)})
	if m := ch.next(); m.kind != 4 {
		t.Errorf("kind %d", m.kind)
	}
	ch.send(map[string]any{"seq": 4, "frame": 1, "patch": json.RawMessage(`[{"op":"add","path":"/fps","value":24}]`)})
	if m := ch.next(); m.kind != 1 || readPieces(m.sections["PIEC"][0]).travel != 0.25 {
		t.Errorf("kind %d", m.kind)
	}
	// What does not fit ends the channel: the page comes back with the whole document.
	ch.send(map[string]any{"seq": 5, "frame": 1, "patch": json.RawMessage(`[{"op":"replace","path":"/no/where","value":1}]`)})
	for {
		if _, _, err := ch.conn.Read(ch.ctx); err != nil {
			if !strings.Contains(err.Error(), "the whole document is accepted") {
				t.Error(err)
			}
			break
		}
	}
}
