package bench_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
)

// wheels200 is a chain of 200 links round eight wheels, three of them sprung on rough
// ground, two runs hanging.
func wheels200(b *testing.B, frames int) *rig.Scene {
	b.Helper()
	var wheels []string
	add := func(name string, y, z, r float64, more string) {
		wheels = append(wheels, fmt.Sprintf(`{"name":%q,"at":[0,%g,%g],%s%s}`, name, y, z, map[bool]string{true: `"teeth":12,"pitch":0.1`, false: fmt.Sprintf(`"radius":%g`, r)}[r == 0], more))
	}
	add("driver", 1.2, -4.2, 0, `,"slack":true`)
	add("roller", 1.3, 0, 0.15, `,"slack":true`)
	add("idler", 1.1, 4.25, 0.3, "")
	for i, z := range []float64{3.2, 1.6, 0, -1.6, -3.2} {
		add(fmt.Sprint("road ", i), 0.33, z, 0.3, `,"ground":true,"spring":{"up":0.15,"down":0.15}`)
	}
	d, err := scene.Decode(fmt.Appendf(nil, `{"bead":1,"name":"b","fps":24,"range":{"first":1,"last":%d},"ground":{"rough":{"seed":3,"amount":0.06,"grain":1,"from":-9,"to":9}},
"carriers":[{"id":"c","name":"c","at":[0,0,{"keys":[{"frame":1,"value":-3},{"frame":%d,"value":3}]}],"ground":{"soften":5}}],
"paths":[{"id":"p","name":"p","carrier":"c","shape":{"wrap":{"wheels":[%s],"keep":{"links":200,"pitch":0.1,"pins":true},"depth":0.03,"anchor":4}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.3,"height":0.03,"length":0.1}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","seat":"ends","spacing":{"mode":"set count","count":200},"facing":{"mode":"loopside"},"travel":{"rolls":"c"}}]}`,
		frames, frames, strings.Join(wheels, ",")))
	if err != nil {
		b.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		b.Fatal(err)
	}
	if belt := s.Belt(0, 5); !belt.Hanging {
		b.Fatalf("the belt does not hang: %g to spare", belt.Spare)
	}
	return s
}

// A chain of 200 links round eight wheels with slack and ground: solved, its pins
// marched, its pieces placed and its wheels turned, on one core. Aim: 0.5 ms a frame.
func BenchmarkChainOnGround(b *testing.B) {
	const frames = 1800 // more than are kept from one round to the next
	s := wheels200(b, frames)
	var pic rig.Picture
	var belt, all time.Duration
	n := 0
	for b.Loop() {
		n++
		f := float64(n%frames + 1)
		begin := time.Now()
		s.Belt(0, f)
		belt += time.Since(begin)
		s.At(&pic, f)
		all += time.Since(begin)
	}
	us := func(d time.Duration) float64 { return float64(d.Microseconds()) / float64(n) }
	b.ReportMetric(us(belt), "µs-belt")
	b.ReportMetric(us(all), "µs-frame")
	b.ReportMetric(us(all)/500, "ratio-to-aim")
}

// 96 frames of two treads of 62 shoes over the hump, baked to GLB. Aim: 100 ms.
func BenchmarkBakeTreads(b *testing.B) {
	var total time.Duration
	for b.Loop() {
		d, err := demo.Scene("hump")
		if err != nil {
			b.Fatal(err)
		}
		s, err := rig.Compile(d) // anew, so that no frame is known yet
		if err != nil {
			b.Fatal(err)
		}
		var out bytes.Buffer
		begin := time.Now()
		if err := formats.Bake(context.Background(), &out, s, formats.Options{Format: "glb", Frames: scene.Range{First: 1, Last: 96}}, nil); err != nil {
			b.Fatal(err)
		}
		total += time.Since(begin)
	}
	ms := float64(total.Microseconds()) / 1000 / float64(b.N)
	b.ReportMetric(ms, "ms")
	b.ReportMetric(ms/100, "ratio-to-aim")
}

// Frames of 10,000 links from the live channel, looked at one after another. Aim: 30 a
// second.
func BenchmarkTenThousandLinksLive(b *testing.B) {
	d, err := scene.Decode(document(10_000, 2000))
	if err != nil {
		b.Fatal(err)
	}
	ask := liveChannel(b, d)
	doc, _ := json.Marshal(d)
	ask(map[string]any{"seq": 1, "frame": 1, "doc": json.RawMessage(doc)})
	frame := 1
	for b.Loop() {
		frame++
		ask(map[string]any{"seq": 1, "frame": frame})
	}
	rate := float64(b.N) / b.Elapsed().Seconds()
	b.ReportMetric(rate, "frames/s")
	b.ReportMetric(30/rate, "ratio-to-aim")
}

// An eel of 20,000 vertices, swimming, from the live channel, looked at frame after frame. Aim: 60 a second.
func BenchmarkEelLive(b *testing.B) {
	d, err := scene.Decode([]byte(`{"bead":1,"name":"eel","fps":24,"range":{"first":1,"last":2000},
"paths":[{"id":"way","name":"way","shape":{"spline":{"points":[{"at":[0,0.3,-2]},{"at":[0.8,0.3,-0.6]},{"at":[-0.8,0.3,0.6]},{"at":[0,0.3,2]}]}},
"steps":[{"wave":{"side":0.08,"wavelength":0.9,"phase":{"speed":-1}}}]}],
"parts":[{"id":"eel","name":"eel","segments":260,"shape":{"eel":{"length":1.6,"girth":0.15}}}],
"rigs":[{"id":"r","name":"r","kind":"bend","path":"way","part":"eel","facing":{"mode":"steady"},"travel":{"speed":0.02},"blends":[{"name":"jaw","amount":0.5}]}]}`))
	if err != nil {
		b.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		b.Fatal(err)
	}
	n := s.Rigs[0].Body(0).Vertices()
	ask := liveChannel(b, d)
	doc, _ := json.Marshal(d)
	ask(map[string]any{"seq": 1, "frame": 1, "doc": json.RawMessage(doc)})
	frame := 1
	for b.Loop() {
		frame++
		ask(map[string]any{"seq": 1, "frame": frame})
	}
	rate := float64(b.N) / b.Elapsed().Seconds()
	b.ReportMetric(float64(n), "vertices")
	b.ReportMetric(rate, "frames/s")
	b.ReportMetric(60/rate, "ratio-to-aim")
}
