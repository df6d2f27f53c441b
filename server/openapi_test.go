package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"bead/core/scene"
	"bead/demo"
)

type operation struct {
	Parameters  []struct{ Name, In string }
	RequestBody *struct {
		Content map[string]struct{ Schema map[string]any }
	}
	Responses map[string]struct {
		Content map[string]struct{ Schema map[string]any }
	}
}

// The description of the API is one by the schema of the OpenAPI initiative, and every route of it is
// driven here: what is sent and what is answered are what the description says, the problems too.
func TestTheDescriptionHolds(t *testing.T) {
	s := start(t, nil)
	var text []byte
	if code := s.call("GET", "/api/v1/openapi.json", nil, &text); code != 200 {
		t.Fatal(code)
	}
	official(t, text)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		t.Fatal(err)
	}
	compiler := jsonschema.NewCompiler()
	if err := compiler.AddResource("api.json", doc); err != nil {
		t.Fatal(err)
	}
	holds := func(what string, of map[string]any, value []byte) {
		t.Helper()
		at := "api.json"
		ref, named := of["$ref"].(string)
		if items, list := of["items"].(map[string]any); list && !named {
			if ref, named = items["$ref"].(string); named {
				var all []json.RawMessage
				if err := json.Unmarshal(value, &all); err != nil {
					t.Errorf("%s: no list: %s", what, value)
				}
				for _, one := range all {
					validate(t, compiler, at+ref, what, one)
				}
			}
			return
		}
		if named {
			validate(t, compiler, at+ref, what, value)
		}
	}
	var api struct {
		Paths map[string]map[string]operation
	}
	if err := json.Unmarshal(text, &api); err != nil {
		t.Fatal(err)
	}

	made := s.create("tread")
	var d scene.Document
	if err := json.Unmarshal(made.Doc, &d); err != nil {
		t.Fatal(err)
	}
	drive := newDrive(t, s, made, &d)
	if len(api.Paths) < 30 {
		t.Fatalf("%d paths are described", len(api.Paths))
	}
	for _, step := range drive {
		op, known := api.Paths[step.path][strings.ToLower(step.method)]
		if !known {
			t.Errorf("%s %s is not described", step.method, step.path)
			continue
		}
		delete(api.Paths[step.path], strings.ToLower(step.method))
		what := step.method + " " + step.path
		at := inBraces.ReplaceAllStringFunc(step.path, func(name string) string { return step.with[strings.Trim(name, "{}")] })
		in := step.in
		if step.of != nil {
			in = step.of()
		}
		if body, err := json.Marshal(in); op.RequestBody != nil && err == nil {
			if _, raw := in.([]byte); !raw {
				holds(what+" takes", op.RequestBody.Content["application/json"].Schema, body)
			}
		}
		var out []byte
		code := s.call(step.method, "/api/v1"+at+step.query, in, &out)
		good, known := op.Responses[fmt.Sprint(code)]
		if !known {
			t.Errorf("%s: %d is not described: %s", what, code, out)
			continue
		}
		if media, is := good.Content["application/json"]; is && media.Schema != nil {
			holds(what+" answers", media.Schema, out)
		}
		if step.then != nil {
			step.then(out)
		}
		// The same with an id that is nowhere, or no body, is a problem of the form that is described.
		wrong := "/api/v1" + inBraces.ReplaceAllString(step.path, "nowhere")
		if wrong == "/api/v1"+step.path && op.RequestBody == nil || strings.HasSuffix(step.path, "/live") {
			continue
		}
		if code := s.call(step.method, wrong, []byte("[]"), &out); code < 400 {
			t.Errorf("%s without what it needs: %d", what, code)
		}
		holds(what+" refuses", op.Responses["default"].Content["application/problem+json"].Schema, out)
	}
	for path, left := range api.Paths {
		for method := range left {
			if strings.HasSuffix(path, "/live") {
				continue // a WebSocket, which live_test.go drives
			}
			t.Errorf("%s %s is described and was not driven", method, path)
		}
	}
}

var inBraces = regexp.MustCompile(`\{[a-z]+\}`)

func validate(t *testing.T, c *jsonschema.Compiler, at, what string, value []byte) {
	t.Helper()
	accepts, err := c.Compile(at)
	if err != nil {
		t.Fatal(err)
	}
	held(t, accepts, what, value)
}

// held holds a text to a schema.
func held(t *testing.T, accepts *jsonschema.Schema, what string, value []byte) {
	t.Helper()
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(value))
	if err == nil {
		err = accepts.Validate(v)
	}
	if err != nil {
		t.Errorf("%s: %v in %.300s", what, err, value)
	}
}

// official asks a validator of OpenAPI descriptions (npm @seriousme/openapi-schema-validator, which has the
// published schemas).
func official(t *testing.T, text []byte) {
	t.Helper()
	if _, err := os.Stat("../web/node_modules/@seriousme"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	file := filepath.Join(t.TempDir(), "openapi.json")
	if err := os.WriteFile(file, text, 0o600); err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command("node", "tools/check-openapi.mjs", file)
	cmd.Dir, cmd.Stderr = "../web", os.Stderr
	out, err := cmd.Output()
	var verdict struct {
		Valid   bool
		Version string
		Errors  any
	}
	if err == nil {
		err = json.Unmarshal(out, &verdict)
	}
	if err != nil || !verdict.Valid || verdict.Version != "3.1" {
		t.Errorf("%v: %s", err, out)
	}
}

// driven is one request of the description.
type driven struct {
	method, path, query string
	with                map[string]string // what stands in the braces
	in                  any
	of                  func() any // in place of in, where it comes of what was answered
	then                func(answer []byte)
}

// newDrive are requests for all routes, in an order in which each can be answered.
func newDrive(t *testing.T, s *site, made state, d *scene.Document) []driven {
	id := map[string]string{"id": made.ID}
	revision := made.Revision
	keep := func(answer []byte) {
		var st state
		if err := json.Unmarshal(answer, &st); err != nil {
			t.Fatal(err)
		}
		revision = st.Revision
	}
	at := func() any { return map[string]any{"revision": revision} }
	doc := map[string]any{"doc": d}
	job := map[string]string{}
	picture := map[string]string{}
	cube := []byte("v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 1 4 3\n")
	crab, err := os.ReadFile("../demo/parts/crab.bvh")
	if err != nil {
		t.Fatal(err)
	}
	var dot bytes.Buffer
	if err := png.Encode(&dot, image.NewGray(image.Rect(0, 0, 4, 4))); err != nil {
		t.Fatal(err)
	}
	box := scene.Part{ID: "a", Name: "Box", Shape: scene.PartShape{Box: &scene.BoxShape{Side: 1, Height: 1, Length: 1}}, Forward: "+z", Up: "+y"}
	carried, err := demo.Scene("hump")
	if err != nil {
		t.Fatal(err)
	}
	belt := carried.Paths[0].Shape
	finished := func([]byte) {
		for until := time.Now().Add(20 * time.Second); time.Now().Before(until); time.Sleep(20 * time.Millisecond) {
			var state struct{ State string }
			if s.call("GET", "/api/v1/bakes/"+job["job"], nil, &state); state.State != "running" {
				return
			}
		}
		t.Error("the bake does not end")
	}
	path := func(by float64) any { return map[string]any{"doc": d, "path": d.Paths[0].ID, "by": by} }
	return []driven{
		{method: "GET", path: "/about"},
		{method: "GET", path: "/openapi.json"},
		{method: "GET", path: "/scenes"},
		{method: "POST", path: "/scenes", in: map[string]any{"starter": "tread"}},
		{method: "POST", path: "/scenes/document", in: []byte(made.Doc)},
		{method: "POST", path: "/documents", in: doc},
		{method: "GET", path: "/scenes/{id}", with: id},
		{method: "PUT", path: "/scenes/{id}", with: id, of: func() any { return map[string]any{"revision": revision, "label": "the same", "doc": d} }, then: keep},
		{method: "PATCH", path: "/scenes/{id}", with: id, of: func() any {
			return map[string]any{"revision": revision, "label": "renamed", "patch": []any{map[string]any{"op": "replace", "path": "/name", "value": "Other"}}}
		}, then: keep},
		{method: "POST", path: "/scenes/{id}/copy", with: id},
		{method: "PUT", path: "/scenes/{id}/beginning", with: id, in: map[string]any{"beginning": true}},
		{method: "POST", path: "/scenes/{id}/undo", with: id, of: at, then: keep},
		{method: "POST", path: "/scenes/{id}/redo", with: id, of: at, then: keep},
		{method: "GET", path: "/scenes/{id}/history", with: id},
		{method: "POST", path: "/scenes/{id}/history/{seq}", with: map[string]string{"id": made.ID, "seq": "1"}, of: at, then: keep},
		{method: "GET", path: "/scenes/{id}/picture.svg", with: id},
		{method: "GET", path: "/scenes/{id}/document", with: id},
		{method: "POST", path: "/paths/read", query: "?file=a.csv", in: []byte("x,y,z\n0,0,0\n1,0,0\n1,0,2\n")},
		{method: "POST", path: "/paths/points", in: map[string]any{"doc": d, "path": d.Paths[0].ID}},
		{method: "POST", path: "/paths/insert", in: map[string]any{"after": 0, "shape": map[string]any{"spline": map[string]any{"closed": false,
			"points": []any{map[string]any{"at": []int{0, 0, 0}, "handles": "smooth"}, map[string]any{"at": []int{1, 0, 3}, "handles": "smooth"}}}}}},
		{method: "POST", path: "/paths/resize", of: func() any { return path(2) }},
		{method: "POST", path: "/paths/resize-with-rigs", of: func() any { return path(2) }},
		{method: "POST", path: "/paths/other-side", of: func() any { return path(3) }},
		{method: "POST", path: "/belts/order", in: map[string]any{"shape": belt}},
		{method: "POST", path: "/meshes", query: "?file=cube.obj", in: cube},
		{method: "POST", path: "/images", query: "?file=a.png", in: dot.Bytes(), then: func(answer []byte) {
			var got struct{ Asset string }
			if err := json.Unmarshal(answer, &got); err != nil {
				t.Fatal(err)
			}
			picture["id"] = got.Asset
		}},
		{method: "GET", path: "/images/{id}", with: picture},
		{method: "POST", path: "/materials/read", query: "?file=a.mtl", in: []byte("newmtl grey\nKd 0.5 0.5 0.5\n")},
		{method: "POST", path: "/figures", query: "?file=crab.bvh", in: crab},
		{method: "POST", path: "/meshes/edges", in: map[string]any{"part": box, "fixture": scene.Fixture{ID: "f", Name: "F", Part: "a"}, "at": []float64{0.5, 0.5, 0}, "way": "loop"}},
		{method: "POST", path: "/meshes/wire", in: map[string]any{"part": box}},
		{method: "POST", path: "/pictures", in: map[string]any{"doc": d, "frames": []float64{1, 1.5}}},
		{method: "POST", path: "/checks", in: map[string]any{"scene": made.ID, "only": []string{"spacing", "seam"}, "tolerances": []string{"seam=2mm"}}},
		{method: "POST", path: "/bakes", in: map[string]any{"scene": made.ID, "format": "glb", "perRig": true}, then: func(answer []byte) {
			var got struct{ ID string }
			if err := json.Unmarshal(answer, &got); err != nil {
				t.Fatal(err)
			}
			job["job"] = got.ID
			finished(nil)
		}},
		{method: "GET", path: "/bakes"},
		{method: "GET", path: "/bakes/{job}", with: job},
		{method: "GET", path: "/bakes/{job}/file", with: job},
		{method: "GET", path: "/bakes/{job}/note", with: job},
		{method: "DELETE", path: "/bakes/{job}", with: job},
		{method: "POST", path: "/loops", in: map[string]any{"doc": d, "rig": d.Rigs[0].ID, "frames": 48, "speed": 0.5}},
		{method: "POST", path: "/carriers/move", in: map[string]any{"doc": carried, "kind": "path", "id": carried.Paths[0].ID, "carrier": "", "frame": 1}},
		{method: "DELETE", path: "/scenes/{id}", with: id},
	}
}

// A bake begins once however often its request is sent with its key; a scene is checked and baked by its id
// and its newest revision; an old one is a conflict; what has not changed is not sent again.
func TestBakesByID(t *testing.T) {
	s := start(t, nil)
	made := s.create("tread")
	wish := map[string]any{"scene": made.ID, "format": "csv", "closing": true}
	var first, again struct {
		ID          string
		First, Last int
		Name        string
	}
	if code := s.call("POST", "/api/v1/bakes", wish, &first, "Idempotency-Key", "shot-7"); code != 202 {
		t.Fatal(code)
	}
	if code := s.call("POST", "/api/v1/bakes", wish, &again, "Idempotency-Key", "shot-7"); code != 202 || again.ID != first.ID {
		t.Errorf("%d: sent again, %s and then %s", code, first.ID, again.ID)
	}
	// Ten at once begin one, too.
	var together sync.WaitGroup
	begun := make([]string, 10)
	for i := range begun {
		together.Go(func() {
			var got struct{ ID string }
			s.call("POST", "/api/v1/bakes", map[string]any{"scene": made.ID, "format": "csv", "step": 5}, &got, "Idempotency-Key", "shot-8")
			begun[i] = got.ID
		})
	}
	together.Wait()
	if slices.Sort(begun); begun[0] == "" || begun[0] != begun[9] {
		t.Errorf("ten at once begin %v", slices.Compact(begun))
	}
	var p problem
	wish["format"] = "glb"
	if code := s.call("POST", "/api/v1/bakes", wish, &p, "Idempotency-Key", "shot-7"); code != 422 || p.Code != "idempotency" {
		t.Errorf("another request of the same key: %d %q", code, p.Code)
	}
	if code := s.call("POST", "/api/bakes", wish, &again); code != 202 || again.ID == first.ID {
		t.Errorf("without a key: %d %s", code, again.ID)
	}
	var d scene.Document
	if err := json.Unmarshal(made.Doc, &d); err != nil {
		t.Fatal(err)
	}
	if first.First != d.Range.First || first.Last != d.Range.Last+1 || first.Name != d.Name {
		t.Errorf("%+v of %+v: the range and its closing frame", first, d.Range)
	}
	var list []struct{ ID string }
	if s.call("GET", "/api/v1/bakes", nil, &list); len(list) != 3 || list[2].ID != first.ID {
		t.Errorf("%v", list)
	}
	for _, x := range []struct {
		in   map[string]any
		code int
		says string
	}{
		{map[string]any{"scene": made.ID, "revision": made.Revision + 5, "format": "csv"}, 409, "conflict"},
		{map[string]any{"scene": made.ID, "doc": d, "format": "csv"}, 400, "request"},
		{map[string]any{"format": "csv"}, 400, "request"},
		{map[string]any{"scene": made.ID, "format": "csv", "single": true}, 400, "choices"},
		{map[string]any{"scene": made.ID, "format": "csv", "rigs": []string{"nobody"}}, 400, "rigs"},
		{map[string]any{"scene": made.ID, "format": "glb", "time": "noon"}, 400, "choices"},
	} {
		if code := s.call("POST", "/api/v1/bakes", x.in, &p); code != x.code || p.Code != x.says {
			t.Errorf("%v: %d %s (%s), want %d %s", x.in, code, p.Code, p.Detail, x.code, x.says)
		}
	}
	if code := s.call("GET", "/api/v1/scenes/"+made.ID, nil, nil, "If-None-Match", fmt.Sprintf(`"%s-%d"`, made.ID, made.Revision)); code != http.StatusNotModified {
		t.Errorf("what has not changed: %d", code)
	}
	if code := s.call("GET", "/api/v1/scenes/"+made.ID, nil, nil, "If-None-Match", `"x"`); code != 200 {
		t.Errorf("what has changed: %d", code)
	}
}
