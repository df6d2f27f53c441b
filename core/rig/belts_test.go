package rig_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"bead/core/check"
	"bead/core/geom"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
)

const (
	pitch = 0.0127
	link  = `"shape":{"link":{"pitch":0.0127,"width":0.0078,"height":0.0118,"plate":0.0015,"roller":0.0042}}`
	// The lower run hangs; distances begin on the driver.
	slackChain = `{"wrap":{"keep":{"links":84,"pitch":0.0127,"pins":true},"anchor":1,"wheels":[
{"name":"Driver","at":[0,1,0],"teeth":17,"pitch":0.0127},{"name":"Driven","at":[0,1,0.35],"teeth":38,"pitch":0.0127,"slack":true}]}}`
)

func chain(t testing.TB, travel string) *rig.Scene {
	return compile(t, slackChain, link, `{"mode":"set count","count":84}`, `"seat":"ends","facing":{"mode":"loopside"},"travel":`+travel)
}

func pinAt(s *rig.Scene, pic *rig.Picture, k int, frame float64) geom.Vec {
	p, _ := s.Rigs[0].At(frame).Curve.At(pic.Rigs[0].Pins[k])
	return p
}

// A chain on its pins: links are one pitch long from pin to pin in every frame, within the
// chordal effect that rigid sprockets leave (under a thousandth of a millimetre); the pins
// on a sprocket lie on its pitch circle at its regular polygon's corners, evenly carried
// by the driver; after a pitch of travel each stands where the next one stood, after a
// turn of the driver where the 17th one stood (MATH 3 and 4).
func TestChainOnPins(t *testing.T) {
	s := chain(t, `{"rpm":60,"radius":0.034361}`)
	tr := &s.Rigs[0]
	var a, b rig.Picture
	for frame := 1.0; frame < 30; frame += 0.37 {
		s.At(&a, frame)
		p := a.Rigs[0].Pins
		for k := range 84 {
			if d := pinAt(s, &a, k+1, frame).Sub(pinAt(s, &a, k, frame)).Norm(); math.Abs(d-pitch) > 5e-5*pitch {
				t.Fatalf("frame %g: link %d is %g long from pin to pin, want %g", frame, k+1, d, pitch)
			}
		}
		if off := p[84] - p[0] - tr.Curve.Length(); math.Abs(off) > 1e-9 {
			t.Errorf("frame %g: the last pin misses the first by %g", frame, off)
		}
		engaged := map[int]int{}
		for _, e := range s.Engaged(0, frame, &a) {
			engaged[e.Wheel]++
			if math.Abs(e.Off) > 1e-3*pitch {
				t.Errorf("frame %g: a pin stands %g beside its gap on wheel %d", frame, e.Off, e.Wheel)
			}
		}
		if engaged[0] < 6 || engaged[1] < 16 {
			t.Errorf("frame %g: %v pins engaged", frame, engaged)
		}
		// Corners of the regular polygon: on the circle, 2 pi/N apart.
		for w, teeth := range []float64{17, 38} {
			c := geom.V(0, 1, 0.35*float64(w))
			r := pitch / 2 / math.Sin(math.Pi/teeth)
			var last geom.Vec
			for k := range 85 {
				v := pinAt(s, &a, k, frame).Sub(c)
				on := math.Abs(v.Norm()-r) < 1e-9
				if on && last != (geom.Vec{}) {
					if turn := geom.Angle(last, v); math.Abs(turn-2*math.Pi/teeth) > 1e-4 {
						t.Errorf("frame %g: pins on wheel %d are %g apart, want %g", frame, w, turn, 2*math.Pi/teeth)
					}
				}
				if last = (geom.Vec{}); on {
					last = v
				}
			}
		}
	}
	// Purely by travel: one pitch, and one turn of the driver.
	for _, tc := range []struct {
		name  string
		n     int
		doc   [2]string
		moved float64
	}{{"a pitch", 1, [2]string{"0.003", fmt.Sprint(0.003 + pitch)}, 1}, {"a turn", 17, [2]string{"0.003", fmt.Sprint(0.003 + 17*pitch)}, 17}} {
		s, u := chain(t, tc.doc[0]), chain(t, tc.doc[1])
		s.At(&a, 1)
		u.At(&b, 1)
		for k := range 84 {
			if d := pinAt(s, &a, k, 1).Sub(pinAt(u, &b, k, 1)).Norm(); d > 1e-9*s.Paths[0].Length() {
				t.Fatalf("%s: pin %d is %g off", tc.name, k, d)
			}
		}
		if b.Rigs[0].FirstPin-a.Rigs[0].FirstPin != -tc.n {
			t.Errorf("%s: the first pin is number %d, then %d", tc.name, a.Rigs[0].FirstPin, b.Rigs[0].FirstPin)
		}
		if d := a.Rigs[0].Distances[0] - b.Rigs[0].Distances[84-tc.n]; math.Abs(d) > 1e-9 {
			t.Errorf("%s: piece %d stands %g from where piece 1 stood", tc.name, 85-tc.n, d)
		}
	}
}

// angle is a wheel's turn in its plane: forward z, up y.
func angle(w *rig.Turning) float64 {
	q := geom.Quat{X: float64(w.Place[3]), Y: float64(w.Place[4]), Z: float64(w.Place[5]), W: float64(w.Place[6])}
	z := q.Apply(geom.V(0, 0, 1))
	return math.Atan2(z.Y, z.Z)
}

// Wheels turn as their teeth: a turn of the driver is 17/38 of one of the driven
// sprocket, whatever the arcs; a plain wheel turns by travel over radius.
func TestWheelsTurn(t *testing.T) {
	s := chain(t, `{"keys":[{"frame":1,"value":0,"shape":"straight"},{"frame":48,"value":0.5969}]}`) // 47 pitches
	var pic rig.Picture
	turned := [2]float64{}
	var last [2]float64
	for f := 0; f <= 4700; f++ {
		s.At(&pic, 1+float64(f)/100)
		for w := range 2 {
			now := angle(&pic.Wheels[0][w])
			if f > 0 {
				turned[w] += math.Remainder(now-last[w], 2*math.Pi)
			}
			last[w] = now
		}
	}
	for w, teeth := range []float64{17, 38} {
		if want := -47 * 2 * math.Pi / teeth; math.Abs(turned[w]-want) > 1e-5 {
			t.Errorf("wheel %d turned by %g, want %g", w, turned[w], want)
		}
	}
	// The driver evenly: half way through the way it has made half its turn.
	s.At(&pic, 1)
	from := angle(&pic.Wheels[0][0])
	s.At(&pic, 1+8.5) // eight and a half pitches: one a frame
	if got := math.Remainder(angle(&pic.Wheels[0][0])-from+8.5*2*math.Pi/17, 2*math.Pi); math.Abs(got) > 1e-5 {
		t.Errorf("after half a turn the driver is off by %g", got)
	}
	plain := compile(t, `{"wrap":{"wheels":[{"name":"a","at":[0,1,0],"radius":0.3},{"name":"b","at":[0,1,2],"radius":0.2},{"name":"c","at":[0,1.6,1],"radius":0.1,"back":true}]}}`,
		box, `{"mode":"set count","count":12}`, `"facing":{"mode":"loopside"},"travel":{"keys":[{"frame":1,"value":0},{"frame":2,"value":0.1}]}`)
	var one, two rig.Picture
	plain.Frame(&one, 1)
	plain.Frame(&two, 2)
	for w, want := range []float64{-0.1 / 0.3, -0.1 / 0.2, 1} {
		if !one.Wheels[0][w].Touches && w < 2 {
			t.Errorf("wheel %d does not touch", w)
		}
		if got := angle(&two.Wheels[0][w]) - angle(&one.Wheels[0][w]); math.Abs(got-want) > 1e-6 {
			t.Errorf("wheel %d turned by %g, want %g", w, got, want)
		}
	}
}

// A crawler on the scene's ground: chassis, wheels on arms, N shoes of pitch P.
func crawler(t testing.TB, ground, more string) *rig.Scene {
	t.Helper()
	wheels := `{"name":"Sprocket","at":[0.95,0.86,-2.25],"teeth":13,"pitch":0.19,"slack":true},{"name":"Idler","at":[0.95,0.84,2.25],"radius":0.36}`
	for _, z := range []float64{1.56, 0.78, 0, -0.78, -1.56} {
		wheels += fmt.Sprintf(`,{"name":"Road","at":[0.95,0.308,%g],"radius":0.25,"ground":true,"spring":{"arm":[0.95,0.468,%g],"up":0.12,"down":0.1}}`, z, z+0.42)
	}
	d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":144},` + ground + `
"carriers":[{"id":"chassis","name":"c","at":[0,0,{"keys":[{"frame":1,"value":-4.2,"shape":"straight"},{"frame":144,"value":4.2}]}],"ground":{` + more + `}}],
"paths":[{"id":"p","name":"p","carrier":"chassis","shape":{"wrap":{"wheels":[` + wheels + `],"keep":{"links":62,"pitch":0.19},"depth":0.058,"anchor":3}}}],
"parts":[{"id":"a","name":"a",` + shoe + `}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":62},"facing":{"mode":"loopside"},"travel":{"rolls":"chassis"}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// Over a hump the belt keeps its length, lies nowhere below the ground, and what lies on
// the ground stands still, all along the contact; the chassis pitches with the slope; and
// travel is the ground's own length, by the closed form of a cosine's arc to its second
// order.
func TestCrawlerOverHump(t *testing.T) {
	const length, height = 4.4, 0.24
	s := crawler(t, fmt.Sprintf(`"ground":{"humps":[{"z":0,"length":%g,"height":%g}]},`, length, height), `"soften":5`)
	ground := s.Ground()
	nose := 0.0
	for f := 1.0; f <= 144; f += 1.3 {
		c := s.Rigs[0].At(f).Curve
		if off := c.Length() - 62*0.19; math.Abs(off) > 1e-6 {
			t.Fatalf("frame %g: %g longer than 62 shoes", f, off)
		}
		pose := s.PathPlace(0, f)
		for k := range 600 {
			p, _ := c.At(c.Length() * float64(k) / 600)
			p = pose.Apply(p)
			h, slope := ground.Height(p.Z)
			if over := (p.Y - h) / math.Hypot(1, slope); over < 0.058-2e-4 {
				t.Fatalf("frame %g: the pitch line is %g above the ground, 0.058 is its depth", f, over)
			}
		}
		_, p, _ := s.CarrierPlace(0, f).Turns()
		nose = max(nose, p)
	}
	if steep := math.Atan(math.Pi * height / length); nose < 0.4*steep || nose > 1.1*steep {
		t.Errorf("the chassis noses up by %g at most, the slope is %g", nose, steep)
	}
	for _, r := range check.All(s) {
		if r.State == check.Outside && r.ID != "loop" && r.ID != "teeth" {
			t.Errorf("%s: %s", r.ID, r.Text)
		}
		if r.ID == "slip" && !strings.Contains(r.Text, "pieces on the ground") {
			t.Error(r.Text)
		}
	}
	k := math.Pi * height / length
	want := 8.4 + length*(k*k/4-3*k*k*k*k/64)
	if got := s.Rigs[0].Travel(144); math.Abs(got-want) > 1e-3 {
		t.Errorf("travel %g, want %g", got, want)
	}
}

// Level ground: no pitch, and slip far below a hundredth of a percent (issue 3's bound).
func TestCrawlerOnTheLevel(t *testing.T) {
	s := crawler(t, "", "")
	for _, r := range check.All(s) {
		if r.ID == "slip" && math.Abs(r.Value) > 0.01 {
			t.Error(r.Text)
		}
	}
	if m := s.CarrierPlace(0, 50); math.Abs(m.P.Y) > 1e-9 || math.Abs(m.Z.Y) > 1e-9 {
		t.Errorf("on the level it stands at %v, forward %v", m.P, m.Z)
	}
}

// Rigid wheels rest on two of themselves: on a ramp from the first wheel to the last the
// chassis has the ramp's slope, on a wedge below the middle wheel it rocks on it and the
// wheel in front.
func TestRigidWheelsRest(t *testing.T) {
	for _, tc := range []struct {
		points string
		slope  float64
	}{
		{`{"z":-9,"height":0},{"z":9,"height":1.8}`, 0.1},
		{`{"z":-9,"height":0},{"z":9,"height":0}`, 0},
	} {
		d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":2},"ground":{"points":[` + tc.points + `]},
"carriers":[{"id":"c","name":"c","at":[0,0,0],"ground":{}}],
"paths":[{"id":"p","name":"p","carrier":"c","shape":{"wrap":{"wheels":[{"name":"a","at":[0,0.5,1],"radius":0.5,"ground":true},{"name":"b","at":[0,0.5,-1],"radius":0.5,"ground":true}]}}}],"parts":[],"rigs":[]}`))
		if err != nil {
			t.Fatal(err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		m := s.CarrierPlace(0, 1)
		if got := m.Z.Y / m.Z.Z; math.Abs(got-tc.slope) > 1e-9 {
			t.Errorf("slope %g, want %g", got, tc.slope)
		}
	}
}

// A wheel that may come up by a hundredth only lifts the chassis over a bump below the
// middle one: its hub stands as high above the bump as its radius.
func TestChassisIsLifted(t *testing.T) {
	d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":2},"ground":{"humps":[{"z":0,"length":1,"height":0.2}]},
"carriers":[{"id":"c","name":"c","at":[0,0,0],"ground":{}}],
"paths":[{"id":"p","name":"p","carrier":"c","shape":{"wrap":{"wheels":[{"name":"top","at":[0,1.5,0],"radius":0.2},
{"name":"a","at":[0,0.3,2],"radius":0.3,"ground":true,"spring":{"up":0.01,"down":0.02}},{"name":"b","at":[0,0.3,0],"radius":0.3,"ground":true,"spring":{"up":0.01,"down":0.02}},
{"name":"c","at":[0,0.3,-2],"radius":0.3,"ground":true,"spring":{"up":0.01,"down":0.02}}]}}}],"parts":[],"rigs":[]}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	m := s.CarrierPlace(0, 1)
	if math.Abs(m.P.Y-0.19) > 1e-9 || math.Abs(m.Z.Y) > 1e-9 {
		t.Errorf("the chassis stands at %g with forward %v, want 0.19 and level", m.P.Y, m.Z)
	}
	for k, want := range []float64{0.28, 0.31, 0.28} { // hanging, up, hanging: from their places at 0.3
		if y := s.Belt(0, 1).Wheels[k+1].Y; math.Abs(y-want) > 1e-9 {
			t.Errorf("wheel %d stands at %g in the chassis, want %g", k, y, want)
		}
	}
}

// Patterns: which pieces are of which part, after how many they repeat, and that the loop
// counts only such as look alike.
func TestOthers(t *testing.T) {
	for _, tc := range []struct {
		others  string
		pattern int
		b       []int
	}{
		{`[]`, 1, nil},
		{`[{"part":"b","every":2}]`, 2, []int{2, 4, 6, 8, 10, 12}},
		{`[{"part":"b","every":3}]`, 3, []int{3, 6, 9, 12}},
		{`[{"part":"b","every":6,"first":1}]`, 6, []int{1, 7}},
		{`[{"part":"b","pieces":[2,7]}]`, 12, []int{2, 7}},
		{`[{"part":"b","every":2},{"part":"a","pieces":[2]}]`, 12, []int{4, 6, 8, 10, 12}},
	} {
		doc := fmt.Sprintf(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":48},"paths":[{"id":"p","name":"p","shape":%s}],
"parts":[{"id":"a","name":"a",%s},{"id":"b","name":"b",%s}],"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","others":%s,
"spacing":{"mode":"set count","count":12},"facing":{"mode":"loopside"},"travel":{"turns":1,"frames":576}}]}`, slot, box, shoe, tc.others)
		d, err := scene.Decode([]byte(doc))
		if err != nil {
			t.Fatal(tc.others, err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(tc.others, err)
		}
		tr := &s.Rigs[0]
		var b []int
		for i := range 12 {
			if tr.PartOf(i) == 1 {
				b = append(b, i+1)
			}
		}
		if fmt.Sprint(b) != fmt.Sprint(tc.b) || tr.Pattern() != tc.pattern {
			t.Errorf("%s: %v, again after %d; want %v and %d", tc.others, b, tr.Pattern(), tc.b, tc.pattern)
		}
		// A twelfth of a turn in 48 frames is one piece: alike only where all are.
		for _, r := range check.All(s) {
			if r.ID == "loop" && (r.State == check.Outside) != (tc.pattern > 1) {
				t.Errorf("%s: %s", tc.others, r.Text)
			}
		}
	}
}

// A tug that rides on a road wheel moves its point as the hub moves over the hump.
func TestTugOnWheel(t *testing.T) {
	d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":100},"ground":{"humps":[{"z":3,"length":2,"height":0.3}]},
"carriers":[{"id":"c","name":"c","at":[0,0,{"keys":[{"frame":1,"value":0},{"frame":100,"value":3}]}]}],
"paths":[{"id":"belt","name":"b","carrier":"c","shape":{"wrap":{"wheels":[{"name":"a","at":[0,0.5,0],"radius":0.5,"ground":true,"spring":{"up":0.5,"down":0.1}},{"name":"b","at":[0,1,-1],"radius":0.5}]}}},
{"id":"hose","name":"h","shape":{"spline":{"points":[{"at":[1,1,0]},{"at":[1,1,1]},{"at":[1,1,2]}]}}}],
"tugs":[{"id":"t","name":"t","path":"hose","points":[2],"wheel":{"path":"belt","wheel":1}}],"parts":[],"rigs":[]}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	var pic rig.Picture
	s.Frame(&pic, 100)
	// At the hump's top the hub stands 0.3 higher and 3 further on.
	p := pic.Curves[1].Spans()[0].End()
	if want := geom.V(1, 1.3, 4); p.Sub(want).Norm() > 1e-6 {
		t.Errorf("the point is at %v, want %v", p, want)
	}
}

// Random belts with everything at once: they compile or say why, and every number of every
// frame is finite.
func TestRandomBelts(t *testing.T) {
	rnd := rand.New(rand.NewPCG(11, 4))
	compiled := 0
	for n := range 250 {
		var wheels []string
		for i := range 2 + rnd.IntN(7) {
			more := ""
			add := func(chance float64, text string, args ...any) {
				if rnd.Float64() < chance {
					more += "," + fmt.Sprintf(text, args...)
				}
			}
			add(0.15, `"back":true`)
			add(0.1, `"free":true`)
			add(0.5, `"slack":true`)
			add(0.2, `"carrier":"arm"`)
			if rnd.Float64() < 0.4 {
				more += `,"ground":true`
				add(0.5, `"spring":{"up":%g,"down":%g}`, rnd.Float64()*0.3, rnd.Float64()*0.3)
			}
			size := fmt.Sprintf(`"radius":%g`, 0.05+0.4*rnd.Float64())
			if rnd.IntN(3) == 0 {
				size = fmt.Sprintf(`"teeth":%d,"pitch":%g`, 6+rnd.IntN(20), 0.05+0.1*rnd.Float64())
			}
			wheels = append(wheels, fmt.Sprintf(`{"name":"w%d","at":[0,%g,%g],%s%s}`, i, 0.2+1.5*rnd.Float64(), 4*rnd.Float64()-2, size, more))
		}
		keep := ""
		if rnd.IntN(2) == 0 {
			keep = fmt.Sprintf(`,"keep":{"links":%d,"pitch":%g,"pins":%v}`, 20+rnd.IntN(80), 0.05+0.2*rnd.Float64(), rnd.IntN(2) == 0)
		}
		anchor := rnd.IntN(len(wheels) + 1)
		doc := fmt.Sprintf(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":20},"ground":{"rough":{"seed":%d,"amount":0.3,"grain":0.4,"from":-5,"to":5}},
"carriers":[{"id":"c","name":"c","at":[0,0,{"speed":1}]},{"id":"arm","name":"a","at":[0,{"keys":[{"frame":1,"value":0},{"frame":20,"value":0.5}]},0]}],
"paths":[{"id":"p","name":"p","carrier":"c","shape":{"wrap":{"wheels":[%s],"depth":%g,"anchor":%d%s}}}],"parts":[{"id":"a","name":"a",%s}],
"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","seat":%q,"spacing":{"mode":"set count","count":%d},"facing":{"mode":"loopside"},"travel":{"rolls":"c"}}]}`,
			n, strings.Join(wheels, ","), 0.1*rnd.Float64(), anchor, keep, box, []string{"pivot", "ends"}[rnd.IntN(2)], 5+rnd.IntN(60))
		d, err := scene.Decode([]byte(doc))
		if err != nil {
			t.Fatalf("%v\n%s", err, doc)
		}
		s, err := rig.Compile(d)
		if err != nil {
			if err.Error() == "" {
				t.Error("refused without a word")
			}
			continue
		}
		compiled++
		var pic rig.Picture
		for f := 1; f <= 20; f += 3 {
			s.Frame(&pic, f)
			all := pic.Rigs[0].Transforms
			for k := range pic.Wheels[0] {
				all = append(all, pic.Wheels[0][k].Place[:]...)
			}
			for _, x := range all {
				if v := float64(x); math.IsNaN(v) || math.Abs(v) > 1e4 {
					t.Fatalf("frame %d: %g\n%s", f, v, doc)
				}
			}
		}
		check.All(s)
		report.Of(s)
	}
	if compiled < 60 {
		t.Errorf("only %d of 250 compile", compiled)
	}
}
