package server

import (
	"context"
	"encoding/json"
	"math"
	"strings"
	"testing"
	"time"

	"bead/core/scene"
	"bead/demo"
)

// A document that is shown and kept by one edit is compiled once: who keeps it waits for who shows it.
func TestProven(t *testing.T) {
	d, err := demo.Scene("crawler")
	if err != nil {
		t.Fatal(err)
	}
	var p proven
	ctx := context.Background()
	if p.went(ctx, d) {
		t.Error("of nothing")
	}
	end := p.begin(d)
	asked := make(chan bool)
	go func() { asked <- p.went(ctx, d) }()
	select {
	case <-asked:
		t.Error("did not wait")
	case <-time.After(20 * time.Millisecond):
	}
	end(true)
	if !<-asked || !p.went(ctx, d) {
		t.Error("went well")
	}
	other := *d
	other.Name = "another"
	if p.went(ctx, &other) {
		t.Error("another document")
	}
	p.begin(&other)(false)
	if p.went(ctx, &other) {
		t.Error("one that did not compile")
	}
	under := p.begin(&other)
	left, cancel := context.WithCancel(ctx)
	cancel()
	if p.went(left, &other) {
		t.Error("nobody waits")
	}
	under(true)
	for i := range maxProven + 5 {
		d := *d
		d.FPS = float64(1 + i)
		p.begin(&d)(true)
	}
	if len(p.of) > maxProven || len(p.order) > maxProven {
		t.Errorf("%d and %d are remembered", len(p.of), len(p.order))
	}
}

// A document does not grow beyond what is accepted, however little each change says: it is held
// from change to change.
func TestPatchedKeepsWithinItsSize(t *testing.T) {
	text := []byte(`{"a":"` + strings.Repeat("x", scene.MaxBytes/2) + `"}`)
	out, err := patched(text, []byte(`[{"op":"copy","from":"/a","path":"/b"}]`))
	if err == nil || !strings.Contains(err.Error(), "are accepted") {
		t.Errorf("%d bytes, %v", len(out), err)
	}
}

func FuzzPatched(f *testing.F) {
	for _, s := range []string{`[]`, `[{"op":"add","path":"/a/0","value":1}]`, `[{"op":"move","from":"/a","path":"/b"}]`, `[{"op":"copy","from":"","path":"/a/-"}]`,
		`[{"op":"remove","path":"/a/99999999999999999999"}]`, `[{"op":"test","path":"/a~1b","value":null}]`, `[{"op":"replace","path":"","value":1}]`} {
		f.Add(`{"a":[1,{"b":2}],"c":null}`, s)
	}
	f.Fuzz(func(t *testing.T, text, patch string) {
		out, err := patched([]byte(text), []byte(patch))
		if err == nil && json.Valid([]byte(text)) && !json.Valid(out) {
			t.Errorf("%q", out)
		}
	})
}

// A drag: the document whole as it was sent before, or what has changed. Both are then decoded.
func BenchmarkDrag(b *testing.B) {
	most := []byte(nil)
	for _, name := range demo.Names() {
		d, err := demo.Scene(name)
		if err != nil {
			b.Fatal(err)
		}
		d.Assets = nil
		if text, err := json.Marshal(d); err == nil && len(text) > len(most) {
			most = text
		}
	}
	patch := []byte(`[{"op":"add","path":"/rigs/0/travel","value":0.123456}]`)
	// And one with a path of many points, as files bring them.
	var d map[string]any
	if err := json.Unmarshal(most, &d); err != nil {
		b.Fatal(err)
	}
	points := make([][3]float64, 5000)
	for i := range points {
		points[i] = [3]float64{math.Sin(float64(i)), 1, 0.01 * float64(i)}
	}
	d["paths"] = append(d["paths"].([]any), map[string]any{"id": "long", "name": "long", "shape": map[string]any{"polyline": map[string]any{"points": points}}})
	long, err := json.Marshal(d)
	if err != nil {
		b.Fatal(err)
	}
	run := func(name string, bytes int, read func() []byte) {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				_, _ = scene.Decode(read())
			}
			b.ReportMetric(float64(bytes), "B-sent/op")
		})
	}
	for name, text := range map[string][]byte{"demo": most, "long": long} {
		run(name+"/whole", len(text), func() []byte { return text })
		run(name+"/patch", len(patch), func() []byte {
			out, err := patched(text, patch)
			if err != nil {
				b.Fatal(err)
			}
			return out
		})
	}
}
