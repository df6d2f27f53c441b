package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"math"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"bead/core/scene"
	"bead/demo"
	"bead/server"
	"bead/store"
)

type site struct {
	t  *testing.T
	ts *httptest.Server
}

func start(t *testing.T, change func(*server.Config)) *site {
	t.Helper()
	st, err := store.Open(context.Background(), t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	cfg := server.Config{Store: st, Page: fstest.MapFS{"index.html": {Data: []byte("the page")}, "assets/a.js": {Data: []byte("script")}},
		Version: "test", Log: slog.New(slog.DiscardHandler)}
	if change != nil {
		change(&cfg)
	}
	srv := server.New(cfg)
	ts := httptest.NewServer(srv.Handler())
	t.Cleanup(func() { srv.Close(); ts.Close(); st.Close() })
	return &site{t, ts}
}

// call sends JSON (or raw bytes) and reads the answer into out.
func (s *site) call(method, path string, in, out any, header ...string) int {
	s.t.Helper()
	var body io.Reader
	switch v := in.(type) {
	case nil:
	case []byte:
		body = bytes.NewReader(v)
	default:
		text, err := json.Marshal(v)
		if err != nil {
			s.t.Fatal(err)
		}
		body = bytes.NewReader(text)
	}
	req, err := http.NewRequest(method, s.ts.URL+path, body)
	if err != nil {
		s.t.Fatal(err)
	}
	for i := 0; i+1 < len(header); i += 2 {
		if header[i] == "Host" {
			req.Host = header[i+1]
		}
		req.Header.Set(header[i], header[i+1])
	}
	res, err := (&http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}).Do(req)
	if err != nil {
		s.t.Fatal(err)
	}
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	if err != nil {
		s.t.Fatal(err)
	}
	switch o := out.(type) {
	case nil:
	case *[]byte:
		*o = data
	default:
		if err := json.Unmarshal(data, out); err != nil {
			s.t.Fatalf("%s %s: %d %v in %s", method, path, res.StatusCode, err, data)
		}
	}
	return res.StatusCode
}

type state struct {
	ID         string
	Revision   int64
	Undo, Redo string
	Doc        json.RawMessage
}

type problem struct {
	Status       int
	Code, Detail string
	Faults       []scene.Fault
	Current      *state
}

func (s *site) create(starter string) state {
	s.t.Helper()
	var st state
	if starter == "tread" { // on a slot: simple enough to be reckoned with
		data, err := os.ReadFile("testdata/tread.json")
		if err != nil {
			s.t.Fatal(err)
		}
		if code := s.call("POST", "/api/scenes/document", json.RawMessage(data), &st); code != 201 {
			s.t.Fatalf("create: %d", code)
		}
		return st
	}
	if code := s.call("POST", "/api/scenes", map[string]any{"starter": starter}, &st); code != 201 {
		s.t.Fatalf("create: %d", code)
	}
	return st
}

// A starter takes answers to its questions, and says what it does not accept.
func TestStartersAsk(t *testing.T) {
	s := start(t, nil)
	var st state
	ask := map[string]any{"starter": "chain", "answers": map[string]string{"driver": "12", "driven": "24"}}
	if code := s.call("POST", "/api/scenes", ask, &st); code != 201 {
		t.Fatalf("chain: %d", code)
	}
	d, err := scene.Decode(st.Doc)
	if err != nil || d.Paths[0].Shape.Wrap.Wheels[1].Teeth != 24 || len(d.Rigs[0].Traits().Others) != 1 {
		t.Errorf("%v %s", err, st.Doc)
	}
	for _, bad := range []map[string]any{
		{"starter": "boat"},
		{"starter": "chain", "answers": map[string]string{"driver": "many"}},
		{"starter": "chain", "answers": map[string]string{"colour": "red"}},
		{"starter": "tread", "answers": map[string]string{"length": "-4"}},
	} {
		var p problem
		if code := s.call("POST", "/api/scenes", bad, &p); code != 400 || p.Code != "starter" || p.Detail == "" {
			t.Errorf("%v: %d %+v", bad, code, p)
		}
	}
}

func renamed(doc json.RawMessage, name string) json.RawMessage {
	var d scene.Document
	if err := json.Unmarshal(doc, &d); err != nil {
		panic(err)
	}
	d.Name = name
	out, _ := json.Marshal(&d)
	return out
}

func TestEditUndoConflict(t *testing.T) {
	s := start(t, nil)
	a := s.create("tread")
	put := func(revision int64, name string, out any) int {
		return s.call("PUT", "/api/scenes/"+a.ID, map[string]any{"revision": revision, "label": "rename", "doc": renamed(a.Doc, name)}, out)
	}
	var b state
	if code := put(a.Revision, "One", &b); code != 200 || b.Undo != "rename" || b.Revision != a.Revision+1 {
		t.Fatalf("save: %d %+v", code, b)
	}
	var p problem
	if code := put(a.Revision, "Two", &p); code != 409 || p.Code != "conflict" || p.Current == nil || p.Current.Revision != b.Revision {
		t.Fatalf("stale save: %d %+v", code, p)
	}
	if code := s.call("POST", "/api/scenes/"+a.ID+"/undo", map[string]any{"revision": b.Revision}, &b); code != 200 || b.Redo != "rename" {
		t.Fatalf("undo: %d %+v", code, b)
	}
	if code := s.call("POST", "/api/scenes/"+a.ID+"/undo", map[string]any{"revision": b.Revision}, &p); code != 409 || p.Code != "step" {
		t.Fatalf("undo at the start: %d %+v", code, p)
	}
	if code := s.call("POST", "/api/scenes/"+a.ID+"/redo", map[string]any{"revision": b.Revision}, &b); code != 200 || !strings.Contains(string(b.Doc), `"One"`) {
		t.Fatalf("redo: %d %+v", code, b)
	}
	var steps []server.HistoryStep
	if s.call("GET", "/api/scenes/"+a.ID+"/history", nil, &steps); len(steps) != 2 || !steps[0].Current {
		t.Errorf("history %+v", steps)
	}
	if code := s.call("POST", "/api/scenes/"+a.ID+"/history/1", map[string]any{"revision": b.Revision}, &b); code != 200 || strings.Contains(string(b.Doc), `"One"`) {
		t.Errorf("go to step 1: %d", code)
	}
	var c state
	if code := s.call("POST", "/api/scenes/"+a.ID+"/copy", nil, &c); code != 201 || c.ID == a.ID || !strings.Contains(string(c.Doc), "copy") {
		t.Errorf("copy: %d %+v", code, c)
	}
	var cards []server.SceneCard
	if s.call("GET", "/api/scenes", nil, &cards); len(cards) != 2 {
		t.Errorf("cards %+v", cards)
	}
	if code := s.call("DELETE", "/api/scenes/"+c.ID, nil, nil); code != 204 {
		t.Errorf("delete: %d", code)
	}
	if code := s.call("GET", "/api/scenes/"+c.ID, nil, &p); code != 404 || p.Code != "scene" {
		t.Errorf("deleted scene: %d %+v", code, p)
	}
}

// What cannot be shown is refused with its address, and nothing is stored.
func TestRefusals(t *testing.T) {
	s := start(t, nil)
	a := s.create("tread")
	bad := func(old, new string) json.RawMessage {
		return json.RawMessage(strings.Replace(string(a.Doc), old, new, 1))
	}
	for _, tc := range []struct {
		name    string
		doc     json.RawMessage
		address string
	}{
		{"unknown field", bad(`"name":`, `"nome":"x","name":`), "nome"},
		{"dangling path", bad(`"path":"loop"`, `"path":"gone"`), "rigs[0].path"},
		{"nothing fits", bad(`"pitch":0.19,"rest":"pitch"`, `"pitch":1000,"rest":"slack"`), "rigs[0].train.spacing.pitch"},
		{"endless radius", bad(`"radius":0.4`, `"radius":4e99`), "paths[0].shape.slot.radius"},
	} {
		var p problem
		code := s.call("PUT", "/api/scenes/"+a.ID, map[string]any{"revision": a.Revision, "label": "x", "doc": tc.doc}, &p)
		if code != 422 || len(p.Faults) == 0 || p.Faults[0].Address != tc.address {
			t.Errorf("%s: %d %+v", tc.name, code, p)
		}
	}
	var taken state
	if code := s.call("POST", "/api/scenes/document", []byte(a.Doc), &taken); code != 201 || taken.ID == a.ID || string(taken.Doc) != string(a.Doc) {
		t.Errorf("a document taken in: %d", code)
	}
	var after state
	if s.call("GET", "/api/scenes/"+a.ID, nil, &after); after.Revision != a.Revision {
		t.Errorf("a refused edit changed the scene to revision %d", after.Revision)
	}
	for _, tc := range []struct {
		method, path string
		body         any
		code         int
		word         string
	}{
		{"POST", "/api/scenes", []byte(`{"starter":`), 400, "request"},
		{"POST", "/api/scenes", map[string]string{"starter": "rocket"}, 400, "starter"},
		{"POST", "/api/scenes", map[string]string{"colour": "red"}, 400, "request"},
		{"POST", "/api/scenes/document", []byte(`{"bead":1,"fps":24,"fps":25}`), 422, "document"},
		{"POST", "/api/scenes/document", []byte("{\n\"bead\": 1,,"), 422, "document"},
		{"POST", "/api/scenes/document", bytes.Repeat([]byte(" "), 49<<20), 413, "size"},
		{"POST", "/api/paths/read?file=a.svg", []byte(`<svg><path d="M0 0L1"/></svg>`), 422, "file"},
		{"POST", "/api/paths/read?file=a.csv", []byte("1,2\n3,x"), 422, "file"},
		{"POST", "/api/paths/read?file=a.exe", []byte("MZ"), 422, "file"},
		{"POST", "/api/paths/insert", []byte(`{"shape":{"circle":{"centre":[0,0,0],"radius":1}},"after":1}`), 422, "shape"},
		{"POST", "/api/paths/insert", []byte(`{"shape":{"spline":{"points":[{"at":[0,0,0]},{"at":[1,0,0]}]}},"after":1}`), 422, "shape"},
		{"POST", "/api/paths/points", map[string]any{"doc": a.Doc, "path": "x"}, 422, "path"},
		{"POST", "/api/paths/points", []byte(`{"doc":{"bead":1},"path":"x"}`), 422, "document"},
		{"POST", "/api/meshes?file=a.obj", []byte("v 0 0 0\nf 1 2 3"), 422, "file"},
		{"POST", "/api/meshes?file=a.stl", []byte("solid"), 422, "file"},
		{"POST", "/api/meshes/wire", []byte(`{"part":{"id":"a","name":"a","shape":{"file":{"asset":"` + strings.Repeat("0", 64) + `"}}}}`), 422, "document"},
		{"POST", "/api/meshes/edges", []byte(`{"part":{"id":"a","name":"a","shape":{"post":{"radius":1,"height":1}}},"fixture":{"id":"f","name":"f","part":"a","at":[0,0,0]},"at":[1,0,0],"way":"boundary"}`), 422, "edge"},
		{"POST", "/api/bakes", map[string]any{"doc": a.Doc, "format": "doc", "first": 1, "last": 2}, 400, "format"},
		{"POST", "/api/bakes", map[string]any{"doc": a.Doc, "format": "glb", "first": 9, "last": 2}, 400, "range"},
		{"GET", "/api/bakes/none", nil, 404, "bake"},
		{"GET", "/api/nothing", nil, 404, "route"},
		{"POST", "/somewhere", nil, 404, "route"},
		{"POST", "/api/scenes", bytes.Repeat([]byte(" "), 10<<20), 400, "request"},
	} {
		var p problem
		if code := s.call(tc.method, tc.path, tc.body, &p); code != tc.code || p.Code != tc.word || p.Detail == "" {
			t.Errorf("%s %s: %d %+v, want %d %s", tc.method, tc.path, code, p, tc.code, tc.word)
		}
	}
}

func TestReadPathsAndPoints(t *testing.T) {
	s := start(t, nil)
	var read []server.ReadPath
	if code := s.call("POST", "/api/paths/read?file=loop.svg", []byte(`<svg><circle r="2"/></svg>`), &read); code != 200 || len(read) != 1 || !read[0].Shape.Spline.Closed {
		t.Fatalf("svg: %d %+v", code, read)
	}
	var made server.ReadPath
	doc, err := scene.Decode(s.create("tread").Doc)
	if err != nil {
		t.Fatal(err)
	}
	doc.Paths[0].Steps = []scene.Step{{Offset: &scene.OffsetStep{Distance: 0.1}}}
	if code := s.call("POST", "/api/paths/points", map[string]any{"doc": doc, "path": doc.Paths[0].ID}, &made); code != 200 || made.Shape.Spline == nil {
		t.Fatalf("slot to points: %d", code)
	}
	// With its step taken: a tenth of a metre outside all round, within the fit of arcs.
	slot := doc.Paths[0].Shape.Slot
	if want := 2*slot.Length + 2*math.Pi*(slot.Radius+0.1); math.Abs(made.Length-want) > 1e-4 {
		t.Errorf("the points are %g long, want %g", made.Length, want)
	}
	var more server.ReadPath
	if code := s.call("POST", "/api/paths/insert", map[string]any{"shape": made.Shape, "after": 2}, &more); code != 200 || len(more.Shape.Spline.Points) != len(made.Shape.Spline.Points)+1 {
		t.Fatalf("insert: %d %+v", code, more)
	}
}

// A mesh comes in, stands in a scene, its edges are followed and its wire is seen;
// the scene goes out as one document and comes in whole where the mesh never was.
func TestMeshes(t *testing.T) {
	s := start(t, nil)
	hull, err := demo.Scene("hull-rail")
	if err != nil {
		t.Fatal(err)
	}
	data := hull.Assets[0].Data
	var mesh server.ReadMesh
	if code := s.call("POST", "/api/meshes?file=some/dir/hull.obj", data, &mesh); code != 201 || mesh.Asset != hull.Assets[0].ID || mesh.Name != "hull.obj" || mesh.Points != 153 {
		t.Fatalf("%d %+v", code, mesh)
	}
	part := hull.Parts[0]
	fixture := scene.Fixture{ID: "f", Name: "f", Part: part.ID, At: scene.Vec3{10, 0, 0}, Heading: 90}
	var chain server.EdgeChain
	if code := s.call("POST", "/api/meshes/edges", map[string]any{"part": part, "fixture": fixture, "at": scene.Vec3{10, 0.8, -0.6}, "way": "boundary"}, &chain); code != 200 || !chain.Closed || len(chain.Points) != 34 {
		t.Fatalf("%d %+v", code, chain)
	}
	// Turned by 90 degrees its length of 3.8 m lies along x.
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, p := range chain.Points {
		lo, hi = min(lo, p[0]), max(hi, p[0])
	}
	if math.Abs(hi-lo-3.8) > 1e-9 || math.Abs(lo+hi-20) > 1e-9 {
		t.Errorf("the rim lies from %g to %g", lo, hi)
	}
	var wire []float32
	// 17 sections of 8 edges, 16 gaps of 9, and none for the two end faces.
	if code := s.call("POST", "/api/meshes/wire", map[string]any{"part": part}, &wire); code != 200 || len(wire) != 6*(17*8+16*9+2) {
		t.Errorf("%d: %d numbers", code, len(wire))
	}
	whole, err := hull.Encode()
	if err != nil {
		t.Fatal(err)
	}
	fresh := start(t, nil)
	var made struct {
		ID  string
		Doc scene.Document
	}
	if code := fresh.call("POST", "/api/scenes/document", whole, &made); code != 201 || len(made.Doc.Assets) != 0 {
		t.Fatalf("%d, %d assets in the page's document", code, len(made.Doc.Assets))
	}
	var out []byte
	if code := fresh.call("GET", "/api/scenes/"+made.ID+"/document", nil, &out); code != 200 || !bytes.Equal(out, whole) {
		t.Errorf("%d: the document that went out is not the one that came in (%d and %d bytes)", code, len(out), len(whole))
	}
	var picture []byte
	if code := fresh.call("GET", "/api/scenes/"+made.ID+"/picture.svg", nil, &picture); code != 200 || !bytes.HasPrefix(picture, []byte("<svg")) {
		t.Errorf("picture: %d", code)
	}
	// Without its mesh a document is refused where it names it.
	bare := *hull
	bare.Assets = nil
	text, _ := bare.Encode()
	var problem server.Problem
	if code := start(t, nil).call("POST", "/api/scenes/document", text, &problem); code != 422 || problem.Faults[0].Address != "parts[0].shape.file" {
		t.Errorf("%d %+v", code, problem)
	}
}

func TestBakeJob(t *testing.T) {
	s := start(t, nil)
	a := s.create("tread")
	var job server.BakeState
	if code := s.call("POST", "/api/bakes", map[string]any{"doc": a.Doc, "format": "csv", "first": 3, "last": 6, "rigs": []string{"tread"}}, &job); code != 202 {
		t.Fatalf("bake: %d", code)
	}
	for range 200 {
		if s.call("GET", "/api/bakes/"+job.ID, nil, &job); job.State != "running" {
			break
		}
		time.Sleep(10 * time.Millisecond)
	}
	var file []byte
	code := s.call("GET", "/api/bakes/"+job.ID+"/file", nil, &file)
	rows := strings.Count(string(file), "\n")
	if code != 200 || job.State != "finished" || job.Done != 4 || rows < 5 || !strings.Contains(string(file), "\n6,tread,") {
		t.Errorf("%d %+v, %d rows", code, job, rows)
	}
	if int64(len(file)) != job.Bytes {
		t.Errorf("%d bytes, announced %d", len(file), job.Bytes)
	}
}

// Pages elsewhere, other names and visitors without the key are turned away.
func TestGuards(t *testing.T) {
	open := start(t, nil)
	for _, tc := range []struct {
		what   string
		header []string
		code   int
	}{
		{"own page", []string{"Origin", open.ts.URL}, 200},
		{"no origin", nil, 200},
		{"another page", []string{"Origin", "http://elsewhere.example"}, 403},
		{"another port", []string{"Origin", "http://127.0.0.1:1"}, 403},
		{"no origin of a sandbox", []string{"Origin", "null"}, 403},
		{"rebound name", []string{"Host", "elsewhere.example"}, 403},
		{"fetched from another site", []string{"Sec-Fetch-Site", "cross-site"}, 403},
	} {
		if code := open.call("GET", "/api/scenes", nil, nil, tc.header...); code != tc.code {
			t.Errorf("%s: %d, want %d", tc.what, code, tc.code)
		}
	}
	a := open.create("tread")
	if code := open.call("GET", "/api/scenes/"+a.ID+"/live", nil, nil, "Connection", "Upgrade", "Upgrade", "websocket",
		"Sec-WebSocket-Version", "13", "Sec-WebSocket-Key", "AAAAAAAAAAAAAAAAAAAAAA==", "Origin", "http://elsewhere.example"); code != 403 {
		t.Errorf("live channel from another page: %d", code)
	}
	locked := start(t, func(c *server.Config) { c.AccessKey = "sesame" })
	for _, tc := range []struct {
		path   string
		header []string
		code   int
	}{
		{"/api/scenes", nil, 401}, {"/", nil, 401}, {"/?key=wrong", nil, 401}, {"/?key=sesame", nil, 303},
		{"/api/scenes", []string{"Authorization", "Bearer sesame"}, 200}, {"/api/scenes", []string{"Cookie", "bead_key=sesame"}, 200},
	} {
		if code := locked.call("GET", tc.path, nil, nil, tc.header...); code != tc.code {
			t.Errorf("%s with %v: %d, want %d", tc.path, tc.header, code, tc.code)
		}
	}
}

func TestPageAndPictures(t *testing.T) {
	s := start(t, nil)
	var body []byte
	for path, want := range map[string]string{"/": "the page", "/scenes/x": "the page", "/assets/a.js": "script"} {
		if code := s.call("GET", path, nil, &body); code != 200 || string(body) != want {
			t.Errorf("%s: %d %q", path, code, body)
		}
	}
	for _, st := range demo.Starters() {
		a := s.create(st.ID)
		if code := s.call("GET", "/api/scenes/"+a.ID+"/picture.svg", nil, &body); code != 200 || !bytes.HasPrefix(body, []byte("<svg")) {
			t.Errorf("picture of %s: %d %.80s", st.ID, code, body)
		}
		if code := s.call("GET", "/api/scenes/"+a.ID+"/document", nil, &body); code != 200 {
			t.Errorf("document of %s: %d", st.ID, code)
		} else if _, err := scene.Decode(body); err != nil {
			t.Errorf("document of %s: %v", st.ID, err)
		}
	}
	bare := start(t, func(c *server.Config) { c.Page = fstest.MapFS{} })
	if code := bare.call("GET", "/", nil, &body); code != 200 || !strings.Contains(string(body), "make build") {
		t.Errorf("without a built page: %d %s", code, fmt.Sprintf("%.60s", body))
	}
}

// A bake may be cancelled while it runs; the file of a cancelled one is not served.
func TestBakeIsCancelled(t *testing.T) {
	s := start(t, nil)
	a := s.create("tread")
	big := json.RawMessage(strings.Replace(string(a.Doc), `"mode":"close up"`, `"mode":"set count","count":20000`, 1))
	var job server.BakeState
	if code := s.call("POST", "/api/bakes", map[string]any{"doc": big, "format": "csv", "first": 1, "last": 5000}, &job); code != 202 {
		t.Fatalf("bake: %d", code)
	}
	if code := s.call("DELETE", "/api/bakes/"+job.ID, nil, nil); code != 204 {
		t.Fatalf("cancel: %d", code)
	}
	for range 500 {
		if s.call("GET", "/api/bakes/"+job.ID, nil, &job); job.State != "running" {
			break
		}
		time.Sleep(10 * time.Millisecond)
	}
	if job.State != "failed" || job.Done == 5000 || !strings.Contains(job.Detail, "cancel") {
		t.Errorf("%+v", job)
	}
	var p problem
	if code := s.call("GET", "/api/bakes/"+job.ID+"/file", nil, &p); code != 409 {
		t.Errorf("file of a cancelled bake: %d %+v", code, p)
	}
}
