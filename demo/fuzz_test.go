package demo_test

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"io"
	"maps"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"bead/core/check"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
)

// numbers are those that hurt.
var numbers = []float64{0, 1, -1, 2, 0.5, 3, 1e-3, -1e-3, 1e-6, 1e-9, 5e-324, 1e3, 1e5, -1e5, 1e6, -1e6, 1e9, -1e9, 90, 360, 1e15, 1e308, -1e308}

// steps and values are put in as they are.
var (
	oddSteps = []string{`{"reverse":{}}`, `{"close":{"smooth":true}}`, `{"open":{"gap":0.1}}`, `{"extend":{"before":1,"after":1e6,"curved":true}}`, `{"trim":{"from":0.2,"to":1}}`,
		`{"subdivide":{"parts":64}}`, `{"resample":{"count":1000}}`, `{"simplify":{"tolerance":1e-9}}`, `{"round":{"radius":0.1}}`, `{"smooth":{"reach":0.1}}`,
		`{"offset":{"distance":-5}}`, `{"offset":{"distance":1e6}}`, `{"mirror":{"axis":"x","at":1}}`, `{"startAt":{"distance":1e9}}`, `{"drop":{"clearance":0,"flat":true}}`,
		`{"jitter":{"amount":1,"grain":0.01,"seed":3,"beats":2,"direction":"all","floor":true}}`, `{"wave":{"side":0.1,"up":{"speed":1},"phase":{"speed":1},"wavelength":0.1}}`,
		`{"lag":{"frequency":1,"damping":0.3}}`, `{"lag":{"frequency":1e-3,"damping":0,"from":1}}`}
	oddValues = []string{`{"speed":1e6}`, `{"speed":-0.3,"start":1e5}`, `{"turns":1}`, `{"turns":-3}`, `{"rpm":1e6,"radius":1e-6}`, `{"keys":[{"frame":-20,"value":0},{"frame":3,"value":1e6,"shape":"free"}],"before":"build","after":"mirror"}`,
		`{"of":"rigs/x/travel","ratio":1e6}`}
)

// walked calls at with everything in a JSON tree: what holds it, its key or index, and itself.
func walked(node any, at func(set func(any), del func(), v any, key string)) {
	switch n := node.(type) {
	case map[string]any:
		for _, k := range slices.Sorted(maps.Keys(n)) {
			at(func(v any) { n[k] = v }, func() { delete(n, k) }, n[k], k)
			walked(n[k], at)
		}
	case []any:
		for i := range n {
			at(func(v any) { n[i] = v }, func() {}, n[i], "")
			walked(n[i], at)
		}
	}
}

func parsed(text string) (v any) {
	_ = json.Unmarshal([]byte(text), &v)
	return v
}

// mutated changes a document in one place, by structure or number.
func mutated(r *rand.Rand, doc any) {
	type place struct {
		set func(any)
		del func()
		v   any
		key string
	}
	var all, nums, lists, shapes []place
	walked(doc, func(set func(any), del func(), v any, key string) {
		p := place{set, del, v, key}
		all = append(all, p)
		switch x := v.(type) {
		case float64:
			nums = append(nums, p)
		case []any:
			lists = append(lists, p)
		case map[string]any:
			if key == "shape" && len(x) > 0 {
				shapes = append(shapes, p)
			}
		}
	})
	pick := func(list []place) place { return list[r.IntN(len(list))] }
	switch k := r.IntN(100); {
	case k < 45 && len(nums) > 0:
		p := pick(nums)
		v := p.v.(float64)
		switch r.IntN(4) {
		case 0:
			v *= []float64{-1, 0.5, 2, 10, 0.1, 1.001, 1e-3, 1e3}[r.IntN(8)]
		case 1:
			v = pick(nums).v.(float64)
		default:
			v = numbers[r.IntN(len(numbers))]
		}
		p.set(v)
	case k < 53:
		pick(all).del()
	case k < 63 && len(lists) > 0: // an entry again, or one away
		p := pick(lists)
		list := p.v.([]any)
		if len(list) == 0 {
			return
		}
		if r.IntN(3) == 0 {
			p.set(slices.Delete(slices.Clone(list), 0, 1))
			return
		}
		text, _ := json.Marshal(list[r.IntN(len(list))])
		again := parsed(string(text))
		if o, ok := again.(map[string]any); ok && o["id"] != nil {
			o["id"] = "again"
		}
		p.set(append(slices.Clone(list), again))
	case k < 73 && len(shapes) > 1:
		pick(shapes).set(pick(shapes).v)
	case k < 86:
		d := doc.(map[string]any)
		paths, _ := d["paths"].([]any)
		if len(paths) == 0 {
			return
		}
		if p, ok := paths[r.IntN(len(paths))].(map[string]any); ok {
			steps, _ := p["steps"].([]any)
			p["steps"] = append(slices.Clone(steps), parsed(oddSteps[r.IntN(len(oddSteps))]))
		}
	case len(nums) > 0:
		pick(nums).set(parsed(oddValues[r.IntN(len(oddValues))]))
	}
}

// FuzzMutated changes the demo scenes by structure and number: reading, compiling, frames, checks
// and bakes panic never, give no number that is not finite, and end soon when they are ended.
func FuzzMutated(f *testing.F) {
	names := demo.Names()
	for i := range names {
		f.Add(uint8(i), uint64(i), uint8(1+i%4))
	}
	f.Fuzz(func(t *testing.T, which uint8, seed uint64, edits uint8) {
		d, err := demo.Scene(names[int(which)%len(names)])
		if err != nil {
			t.Fatal(err)
		}
		text, _ := d.Encode()
		doc := parsed(string(text))
		r := rand.New(rand.NewPCG(seed, 5))
		for range 1 + edits%5 {
			mutated(r, doc)
		}
		if text, err = json.Marshal(doc); err != nil {
			t.Fatal(err)
		}
		patience := 5 * time.Second
		if flag.Lookup("test.fuzz").Value.String() == "" {
			patience = 2 * time.Second // of the kept finds it matters that they end when they are ended
		}
		ctx, cancel := context.WithTimeout(context.Background(), patience)
		defer cancel()
		late := time.AfterFunc(time.Minute, func() { panic("does not end when it is ended: " + string(text)) })
		defer late.Stop()
		used(ctx, t, text)
	})
}

// used does with a document what a server does.
func used(ctx context.Context, t *testing.T, text []byte) {
	d, err := scene.DecodeContext(ctx, text)
	if err != nil {
		return
	}
	k := rig.Compiler{Meshes: formats.LibraryOf(d).Mesh, Figures: formats.LibraryOf(d).Figure}
	s, err := k.CompileContext(ctx, d)
	if err != nil {
		var faults scene.Faults
		if !errors.As(err, &faults) && ctx.Err() == nil {
			t.Fatalf("compiling gives %T %v", err, err)
		}
		return
	}
	if _, err := report.OfContext(ctx, s); err != nil {
		return
	}
	var p rig.Picture
	for _, n := range []int{d.Range.First, (d.Range.First + d.Range.Last) / 2, d.Range.Last, d.Range.Last + 100} {
		if s.Settle(ctx, n) != nil {
			return
		}
		s.Frame(&p, n)
		for i := range p.Rigs {
			for _, list := range [][]float32{p.Rigs[i].Transforms, p.Rigs[i].Positions, p.Rigs[i].Normals} {
				for _, v := range list {
					if f := float64(v); math.IsNaN(f) || math.IsInf(f, 0) {
						t.Fatalf("frame %d of rig %d: %v in %s", n, i, v, text)
					}
				}
			}
		}
	}
	_, _ = check.Run(ctx, s, check.Look{Frames: check.First(d.Range, 5)})
	frames := scene.Range{First: d.Range.First, Last: min(d.Range.Last, d.Range.First+1)}
	for _, format := range formats.Endings() {
		if err := formats.Bake(ctx, io.Discard, s, formats.Options{Format: format, Frames: frames}, nil); err != nil {
			return
		}
	}
}
