// Package bench_test measures what a person feels, as figures and as ratios in
// one run: placing pieces, the answer to an edit, a bake, and the same spacing by
// three's getSpacedPoints.
package bench_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"math"
	"net/http/httptest"
	"os/exec"
	"sort"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/coder/websocket"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
	"bead/server"
	"bead/store"
)

// points are those of a closed smooth spline of 12 spans.
func points() []scene.Vec3 {
	out := make([]scene.Vec3, 12)
	for i := range out {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / 12)
		k := 1 + 0.3*math.Sin(3*float64(i))
		out[i] = scene.Vec3{0.2 * sin * cos, k * sin, k * cos}
	}
	return out
}

func document(pieces, frames int) []byte {
	var pts []string
	for _, p := range points() {
		pts = append(pts, fmt.Sprintf(`{"at":[%g,%g,%g]}`, p[0], p[1], p[2]))
	}
	return fmt.Appendf(nil, `{"bead":1,"name":"bench","fps":24,"range":{"first":1,"last":%d},
"paths":[{"id":"p","name":"p","shape":{"spline":{"closed":true,"points":[%s]}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.02,"length":0.05}}}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":%d},"facing":{"mode":"loopside"},"travel":{"speed":0.3}}]}`,
		frames, strings.Join(pts, ","), pieces)
}

func compiled(b *testing.B, pieces, frames int) *rig.Scene {
	b.Helper()
	d, err := scene.Decode(document(pieces, frames))
	if err != nil {
		b.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		b.Fatal(err)
	}
	return s
}

// Pieces placed on one core; aim: under 150 ns a piece, no allocation.
func BenchmarkPlacePieces(b *testing.B) {
	s := compiled(b, 1000, 96)
	var pic rig.Picture
	s.Frame(&pic, 0)
	frame := 0
	b.ReportAllocs()
	for b.Loop() {
		frame++
		s.Frame(&pic, frame)
	}
	ns := float64(b.Elapsed().Nanoseconds()) / float64(b.N) / 1000
	b.ReportMetric(ns, "ns/piece")
	b.ReportMetric(1e9/ns, "pieces/s")
	b.ReportMetric(ns/150, "ratio-to-aim")
}

// One point of a path of 100 spans is dragged: compiled with the cache of the last
// answer, read, drawn and its pieces placed, as the live channel does; beside the
// same without the cache. Aim: an answer in under 5 ms.
func BenchmarkDragOfHundred(b *testing.B) {
	d := &scene.Document{Bead: 1, Name: "drag", FPS: 24, Range: scene.Range{First: 1, Last: 96},
		Parts: []scene.Part{{ID: "a", Name: "a", Shape: scene.PartShape{Box: &scene.BoxShape{Side: 0.1, Height: 0.02, Length: 0.05}}}}}
	spline := &scene.SplineShape{}
	for i := range 101 {
		x := float64(i)
		spline.Points = append(spline.Points, scene.Point{At: scene.Vec3{math.Sin(x / 3), 0.3 + 0.2*math.Cos(x/2), x / 4}})
	}
	d.Paths = []scene.Path{{ID: "p", Name: "p", Shape: scene.PathShape{Spline: spline}}}
	d.Rigs = []scene.Rig{{ID: "r", Name: "r", Path: "p", Part: "a", Facing: scene.Facing{Mode: "least-twist"},
		Train: &scene.Train{Spacing: scene.Spacing{Mode: "set count", Count: 200}}}}
	d.FillDefaults()
	var pic rig.Picture
	answer := func(k *rig.Compiler) time.Duration {
		begin := time.Now()
		spline.Points[50].At[1] += 0.001
		s, err := k.Compile(d)
		if err != nil {
			b.Fatal(err)
		}
		report.Of(s)
		s.Paths[0].Polyline(d.Paths[0].Chord(s.Paths[0].Length()))
		s.Frame(&pic, 37)
		return time.Since(begin)
	}
	var with, without time.Duration
	cached := rig.Compiler{Memo: new(rig.Memo)}
	for b.Loop() {
		with += answer(&cached)
		without += answer(new(rig.Compiler))
	}
	n := float64(b.N)
	b.ReportMetric(float64(with.Microseconds())/1000/n, "ms-cached")
	b.ReportMetric(float64(without.Microseconds())/1000/n, "ms-anew")
	b.ReportMetric(float64(with)/float64(without), "ratio")
	b.ReportMetric(float64(with.Microseconds())/5000/n, "ratio-to-aim")
}

// liveChannel serves a scene and returns what asks its live channel and says how long the
// answer took.
func liveChannel(b *testing.B, d *scene.Document) (ask func(map[string]any) time.Duration) {
	b.Helper()
	ctx := context.Background()
	st, err := store.Open(ctx, b.TempDir())
	if err != nil {
		b.Fatal(err)
	}
	b.Cleanup(func() { st.Close() })
	sc, err := st.Create(ctx, d, "made")
	if err != nil {
		b.Fatal(err)
	}
	srv := server.New(server.Config{Store: st, Page: fstest.MapFS{}, Log: slog.New(slog.DiscardHandler)})
	b.Cleanup(srv.Close)
	ts := httptest.NewServer(srv.Handler())
	b.Cleanup(ts.Close)
	conn, _, err := websocket.Dial(ctx, strings.Replace(ts.URL, "http", "ws", 1)+"/api/scenes/"+sc.ID+"/live", nil)
	if err != nil {
		b.Fatal(err)
	}
	b.Cleanup(func() { conn.CloseNow() })
	conn.SetReadLimit(64 << 20)
	return func(v map[string]any) time.Duration {
		text, _ := json.Marshal(v)
		begin := time.Now()
		if err := conn.Write(ctx, websocket.MessageText, text); err != nil {
			b.Fatal(err)
		}
		if _, _, err := conn.Read(ctx); err != nil {
			b.Fatal(err)
		}
		return time.Since(begin)
	}
}

// The time from sending an edited document to having its picture.
func BenchmarkEditToAnswer(b *testing.B) {
	d, err := demo.Scene("crawler")
	if err != nil {
		b.Fatal(err)
	}
	ask := liveChannel(b, d)
	var took []float64
	for b.Loop() {
		d.Paths[0].Shape.Slot.Length += 1e-6 // something must change
		doc, _ := json.Marshal(d)
		took = append(took, float64(ask(map[string]any{"seq": len(took) + 1, "frame": 37, "doc": json.RawMessage(doc)}).Microseconds()))
	}
	sort.Float64s(took)
	b.ReportMetric(took[len(took)/2], "median-µs")
	b.ReportMetric(took[len(took)*95/100], "p95-µs")
}

// A bake's time against frames times pieces: eight times the samples must take
// about eight times as long.
func BenchmarkBakeIsLinear(b *testing.B) {
	bake := func(s *rig.Scene) float64 {
		begin := time.Now()
		var out bytes.Buffer
		if err := formats.Bake(context.Background(), &out, s, formats.Options{Format: "glb", Frames: s.Doc.Range}, nil); err != nil {
			b.Fatal(err)
		}
		return time.Since(begin).Seconds()
	}
	small, large := compiled(b, 250, 96), compiled(b, 1000, 192)
	var one, eight float64
	for b.Loop() {
		one += bake(small)
		eight += bake(large)
	}
	b.ReportMetric(one/float64(b.N)*1e9/(250*96), "ns/sample-small")
	b.ReportMetric(eight/float64(b.N)*1e9/(1000*192), "ns/sample-large")
	b.ReportMetric(eight/one/8, "ratio-to-linear")
}

const threeScript = `
import { CubicBezierCurve3, CurvePath, Vector3 } from 'three'
const spans = JSON.parse(process.argv[1]), n = Number(process.argv[2])
const make = () => { const p = new CurvePath(); for (const s of spans) p.add(new CubicBezierCurve3(...s.map((v) => new Vector3(...v)))); return p }
let pts, best = Infinity
for (let round = 0; round < 30; round++) {
  const p = make()
  const begin = performance.now()
  pts = p.getSpacedPoints(n)
  best = Math.min(best, performance.now() - begin)
}
console.log(JSON.stringify({ ms: best, points: pts.map((p) => p.toArray()) }))`

// The same 1,000 even places by npm three's getSpacedPoints in Node: the ratio of
// time (measuring the curve included on both sides) and of spacing error. The
// error is the greatest deviation of the straight distance between neighbours
// from that of exactly even ones, which is measured on our own curve.
func BenchmarkAgainstThree(b *testing.B) {
	const n = 1000
	pts := make([]path.Point, 12)
	for i, p := range points() {
		pts[i] = path.Point{At: geom.FromArray(p), Handles: path.Smooth}
	}
	spans := path.Spline(path.Resolve(pts, true), true)
	var arg [][4]scene.Vec3
	for _, s := range spans {
		arg = append(arg, [4]scene.Vec3{s.P[0].Array(), s.P[1].Array(), s.P[2].Array(), s.P[3].Array()})
	}
	text, _ := json.Marshal(arg)
	cmd := exec.Command("node", "--input-type=module", "-e", threeScript, string(text), fmt.Sprint(n))
	cmd.Dir = "../web"
	out, err := cmd.Output()
	if err != nil {
		b.Skip("node and the front end's packages are needed: make setup")
	}
	var theirs struct {
		MS     float64
		Points []scene.Vec3
	}
	if err := json.Unmarshal(out, &theirs); err != nil {
		b.Fatal(err)
	}
	var c *path.Curve
	ours := make([]geom.Vec, n+1)
	for b.Loop() {
		if c, err = path.New(spans, true); err != nil {
			b.Fatal(err)
		}
		for i := range ours {
			ours[i], _ = c.At(c.Length() * float64(i) / n)
		}
	}
	ms := b.Elapsed().Seconds() * 1e3 / float64(b.N)
	// Where a point lies on the curve, by the nearest distance, refined.
	distance := func(p geom.Vec, near float64) float64 {
		s := near
		for range 50 {
			q, t := c.At(s)
			s += p.Sub(q).Dot(t)
		}
		return s
	}
	worst := func(at func(i int) geom.Vec) float64 {
		step, w := c.Length()/n, 0.0
		for i := 1; i < n; i++ {
			a, z := distance(at(i-1), step*float64(i-1)), distance(at(i), step*float64(i))
			w = max(w, math.Abs(z-a-step)/step)
		}
		return w
	}
	mine := worst(func(i int) geom.Vec { return ours[i] })
	three := worst(func(i int) geom.Vec { return geom.FromArray(theirs.Points[i]) })
	b.ReportMetric(ms, "ms-ours")
	b.ReportMetric(theirs.MS, "ms-three")
	b.ReportMetric(ms/theirs.MS, "time-ratio")
	b.ReportMetric(mine, "spacing-error-ours")
	b.ReportMetric(three, "spacing-error-three")
	b.ReportMetric(three/max(mine, 1e-16), "error-ratio")
}
