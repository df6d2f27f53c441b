package web_test

import (
	"encoding/json"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"

	jsonpatch "github.com/evanphx/json-patch/v5"

	"bead/demo"
)

// stir changes a JSON value here and there: members come, go and change, list entries too.
func stir(r *rand.Rand, v any, share float64) any {
	switch x := v.(type) {
	case map[string]any:
		out := map[string]any{}
		for k, e := range x {
			if r.Float64() >= share/4 {
				out[k] = stir(r, e, share)
			}
		}
		if r.Float64() < share {
			out["a/b~c"] = float64(r.IntN(9))
		}
		return out
	case []any:
		out := []any{}
		for _, e := range x {
			if r.Float64() >= share/2 {
				out = append(out, stir(r, e, share))
			}
			if r.Float64() < share/2 {
				out = append(out, map[string]any{"new": []any{float64(r.IntN(9))}})
			}
		}
		return out
	}
	if r.Float64() < share/2 {
		return r.Float64()
	}
	return v
}

// What the page makes of two documents leads from one to the other, applied by a library that is
// not Bead's. Documents that share what has not changed cost what has.
func TestPatches(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 4))
	var pairs [][2]any
	for _, name := range demo.Names() {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		text, err := json.Marshal(d)
		if err != nil {
			t.Fatal(err)
		}
		var v any
		if err := json.Unmarshal(text, &v); err != nil {
			t.Fatal(err)
		}
		for _, share := range []float64{0, 0.002, 0.02, 0.2} {
			pairs = append(pairs, [2]any{v, stir(r, v, share)})
		}
	}
	list := func(text string) (v any) {
		if err := json.Unmarshal([]byte(text), &v); err != nil {
			t.Fatal(err)
		}
		return v
	}
	for _, p := range [][2]string{{`[1,2,3]`, `[2,3]`}, {`[1,2,3]`, `[1,2,3,4]`}, {`[1,2,3]`, `[3,2,1]`}, {`{"a":[]}`, `{"a":[1]}`}, {`{"a":{}}`, `{"a":{"b":1}}`},
		{`{"a":[1]}`, `{"a":[]}`}, {`{"a":1}`, `{"a":{"b":2}}`}, {`{"a":[{"x":1},{"y":2}]}`, `{"a":[{"y":2}]}`}, {`{"":1,"~1":2}`, `{"":2}`}, {`{"a":null}`, `{"a":0}`}} {
		pairs = append(pairs, [2]any{list(p[0]), list(p[1])})
	}
	var calls [][]any
	for _, p := range pairs {
		calls = append(calls, []any{"patch", "patchOf", p[0], p[1]})
	}
	sent, whole := 0, 0
	for i, got := range call(t, calls) {
		if string(got[0]) == "null" {
			continue // too much has changed
		}
		before, _ := json.Marshal(pairs[i][0])
		patch, err := jsonpatch.DecodePatch(got[0])
		if err != nil {
			t.Fatalf("%v: %s", err, got[0])
		}
		after, err := patch.Apply(before)
		if err != nil {
			t.Errorf("pair %d: %v\n%.300s", i, err, got[0])
			continue
		}
		var have any
		if err := json.Unmarshal(after, &have); err != nil || !reflect.DeepEqual(have, pairs[i][1]) {
			t.Errorf("pair %d: another document\n%.300s", i, got[0])
		}
		if reflect.DeepEqual(pairs[i][0], pairs[i][1]) && string(got[0]) != "[]" {
			t.Errorf("pair %d: nothing has changed, %.300s", i, got[0])
		}
		sent, whole = sent+len(got[0]), whole+len(before)
	}
	if sent*2 > whole {
		t.Errorf("%d bytes of changes to %d of documents", sent, whole)
	}
	// One entry of a long list that goes, comes or changes is one operation.
	long := make([]any, 500)
	for i := range long {
		long[i] = map[string]any{"at": i}
	}
	without := append(append([]any{}, long[:70]...), long[71:]...)
	for i, got := range call(t, [][]any{{"patch", "patchOf", long, without}, {"patch", "patchOf", without, long}}) {
		if n := strings.Count(string(got[0]), `"op"`); n != 1 {
			t.Errorf("%d: %d operations", i, n)
		}
	}
}
