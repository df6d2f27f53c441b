package browser_test

import (
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"bead/core/motion"
	"bead/core/place"
	"bead/core/scene"
	"bead/demo"
)

// Jobs of a day, done from the scenes page by mouse and keyboard by the way that the page offers,
// counted in presses: clicks, drags, keys, and numbers that are typed. Before is how many someone
// needed who had never seen Bead, in an earlier version, 0 where nobody counted; most is what is aimed at. The shortest are
// part of every run, all of them of 'make jobs'.
var jobs = []struct {
	name         string
	before, most int
	short        bool
	do           func(*rigged)
}{
	{"a closed loop of 30 boxes, looping", 50, 20, false, func(r *rigged) {
		p := r.page
		r.empty()
		r.add("Box")
		r.add("Circle")
		r.ok(p.ClickText("Put a train on this path"))
		r.ok(p.BenchReady())
		r.ok(p.ClickText("set count"))
		r.ok(p.Type(r.labelled("Count"), "30"))
		r.ok(p.Click("[data-step=travel]"))
		r.pick("Comes from", "a constant speed")
		r.ok(p.ClickText("pitches in 96 frames"))
		r.storedIs(`s.doc.rigs[0].train.spacing.count === 30 && !!s.doc.parts.find((p) => p.id === s.doc.rigs[0].part).shape.box`)
		r.gauge("loop", "inside")
	}},
	{"a tread on bumpy ground, two sides, no slip", 62, 30, false, func(r *rigged) {
		p := r.page
		r.ok(p.ClickText("Tread"))
		r.ok(p.ClickText("rough"))
		r.ok(p.ClickText("Begin"))
		r.ok(p.BenchReady())
		r.ok(p.ClickText("Belt"))
		r.ok(p.ClickText("Place, size, other side"))
		r.ok(p.Type(r.labelled("Apart"), "2.4 m"))
		r.ok(p.ClickText("Make the other side"))
		r.storedIs(`s.doc.rigs.length === 2 && s.doc.paths[1].shape.wrap.wheels.every((w, i) => Math.abs(w.at[0] + s.doc.paths[0].shape.wrap.wheels[i].at[0]) < 1e-9 && Math.abs(w.at[0]) === 1.2)`)
		r.ok(p.ClickText("Tread right"))
		r.gauge("slip", "inside")
		r.gauge("teeth", "inside")
	}},
	{"a chain of 17 and 38 teeth at 60 rpm, looping at 50 frames a second", 50, 22, false, func(r *rigged) {
		p := r.page
		r.ok(p.ClickText("Chain"))
		r.ok(p.Type(`[role=dialog] input[value="30"]`, "60")) // Enter begins
		r.ok(p.BenchReady())
		r.ok(p.Type(`input[aria-label="Frames a second"]`, "50"))
		r.gauge("loop", "outside")
		r.ok(p.Click("[data-step=travel]"))
		r.ok(p.ClickText("Find a loop"))
		r.ok(p.Click(`[data-testid=loop-offer]`))
		r.gauge("loop", "inside")
		r.storedIs(`s.doc.fps === 50 && s.doc.paths[0].shape.wrap.wheels.map((w) => w.teeth).join() === '17,38'`)
	}},
	{"an SVG with 200 twisted pieces", 28, 14, false, func(r *rigged) {
		p := r.page
		r.empty()
		svg := filepath.Join(r.dir, "wave.svg")
		r.ok(writeFile(svg, `<svg width="4000mm" viewBox="0 0 400 100"><path d="M0 50C100 -50 300 150 400 50"/></svg>`))
		r.page.Presses++ // the file is chosen
		r.ok(p.Choose(`[data-testid=import-file]`, svg))
		r.ok(p.ClickText("Add path"))
		r.ok(p.ClickText("Put a train on this path"))
		r.ok(p.BenchReady())
		r.ok(p.ClickText("set count"))
		r.ok(p.Type(r.labelled("Count"), "200"))
		r.ok(p.Click("[data-step=facing]"))
		r.ok(p.ClickText("least twist"))
		r.ok(p.Type(r.labelled("Extra turns"), "2"))
		r.storedIs(`s.doc.rigs[0].train.spacing.count === 200 && s.doc.rigs[0].facing.turns === 2`)
	}},
	{"a cable with strands and clamps, one end moving", 45, 22, true, func(r *rigged) {
		p := r.page
		r.ok(p.ClickText("Cable"))
		r.pick("What holds its end?", "a carrier")
		r.ok(p.ClickText("Begin"))
		r.ok(p.BenchReady())
		r.storedIs(`s.doc.rigs.length === 2 && !!s.doc.paths[0].shape.hang.toCarrier`)
	}},
	{"planks arriving", 11, 11, true, func(r *rigged) {
		p := r.page
		r.ok(p.ClickText("Row of pieces"))
		r.ok(p.BenchReady())
		r.ok(p.Click("[data-step=travel]"))
		r.ok(p.ClickText("Pieces arrive one after another"))
		r.storedIs(`s.doc.rigs[0].train.arrive.takes > 0`)
	}},
	{"41 blocks as single objects", 51, 18, true, func(r *rigged) {
		p := r.page
		r.empty()
		r.add("Line")
		r.ok(p.ClickText("Put a train on this path"))
		r.ok(p.BenchReady())
		r.ok(p.ClickText("set count"))
		r.ok(p.Type(r.labelled("Count"), "41"))
		r.ok(p.ClickText("Deliver"))
		r.ok(p.ClickText("Single pieces"))
		r.ok(p.ClickText("Bake"))
		r.ok(p.Wait(`!!document.querySelector('[data-testid=baked]')`))
		r.storedIs(`s.doc.rigs[0].train.spacing.count === 41 && s.doc.parts.find((p) => p.id === s.doc.rigs[0].part).pivot[1] < 0`)
	}},
	{"a coil that goes down stairs in six steps", 0, 8, true, func(r *rigged) {
		p := r.page
		r.ok(p.ClickText("Walker"))
		r.ok(p.Type(r.labelled("How many steps does it make?"), "6")) // Enter begins
		r.ok(p.BenchReady())
		r.storedIs(`s.doc.fixtures.length === 7 && s.doc.rigs[0].body.rounds.count === 6`)
		r.gauge("loop", "inside")
	}},
	{"an imported fish that swims round a post with a ball before its nose", 0, 24, false, func(r *rigged) {
		p := r.page
		r.empty()
		fish := filepath.Join(r.dir, "fish.obj")
		r.ok(writeFile(fish, fishOBJ()))
		r.page.Presses++ // the file is chosen
		r.ok(p.Choose(`[data-testid=import-mesh]`, fish))
		r.ok(p.ClickText("Take it as a part"))
		r.add("Post")
		r.add("Circle")
		r.ok(p.ClickText("Fish"))
		r.add("Body that bends on Circle")
		r.ok(p.BenchReady())
		r.ok(p.Click("[data-step=travel]"))
		r.pick("Comes from", "a constant speed")
		r.ok(p.ClickText("Circle"))
		r.ok(p.ClickText("above"))
		r.storedIs(`s.doc.paths[0].shape.circle.plane === 'above'`)
		r.add("Single rider on Circle")
		r.storedIs(`s.doc.rigs[0].body && s.doc.parts.find((x) => x.id === s.doc.rigs[0].part).shape.file && s.doc.rigs[1].rider.lead.rig === s.doc.rigs[0].id && s.doc.rigs[1].rider.lead.at === 'head'`)
	}},
	{"five broken scenes mended by what is offered", 0, 20, false, func(r *rigged) {
		for _, b := range []broken{
			{"breakwater", "fall", "near", "Let the range last", func(d *scene.Document) { d.Range.Last = 120 }},
			{"eel", "facets", "outside", "Cut it into", func(d *scene.Document) { d.Parts[0].Segments = 4 }},
			{"float-line", "seam", "outside", "Fill evenly", func(d *scene.Document) {
				d.Rigs[0].Train.Spacing = scene.Spacing{Mode: place.SetPitch, Pitch: 0.31}
			}},
			{"float-line", "loop", "outside", "in 96 frames", func(d *scene.Document) {
				d.Rigs[0].Travel = motion.Value{Speed: &motion.Speed{PerSecond: 0.1}}
			}},
			{"crawler", "outward", "outside", "Turn them outside out", func(d *scene.Document) { d.Parts[0].Up = "-y" }},
		} {
			r.mend(b)
		}
	}},
}

// gauge waits until a check is in a state.
func (r *rigged) gauge(id, state string) {
	r.t.Helper()
	r.ok(r.page.Wait(`document.querySelector('[data-gauge=` + id + `]')?.dataset.state === '` + state + `'`))
}

func TestJobs(t *testing.T) {
	for _, job := range jobs {
		t.Run(strings.ReplaceAll(job.name, " ", "-"), func(t *testing.T) {
			if !job.short && os.Getenv("BEAD_JOBS") == "" {
				t.Skip("a part of 'make jobs'")
			}
			r := setup(t)
			r.scenes()
			r.page.Presses = 0
			job.do(r)
			r.noErrors()
			t.Logf("%d presses, %d before, aim %d", r.page.Presses, job.before, job.most)
			if r.page.Presses > job.most {
				t.Errorf("%d presses, want at most %d", r.page.Presses, job.most)
			}
		})
	}
}

// fishOBJ is a slender body of rings, half a metre long.
func fishOBJ() string {
	const rings, round = 16, 8
	var b strings.Builder
	for k := range rings {
		at := float64(k) / (rings - 1)
		r := 0.06*math.Sin(math.Pi*math.Pow(at, 0.7)) + 0.004
		for n := range round {
			a := 2 * math.Pi * float64(n) / round
			fmt.Fprintf(&b, "v %.5f %.5f %.5f\n", r*0.6*math.Cos(a), r*math.Sin(a), at*0.5)
		}
	}
	for k := range rings - 1 {
		for n := range round {
			a, c := k*round+n+1, k*round+(n+1)%round+1
			fmt.Fprintf(&b, "f %d %d %d %d\n", a, c, c+round, a+round)
		}
	}
	return b.String()
}

// broken is one of the kelp station's scenes with a fault, and what mends it.
type broken struct {
	scene, check, state, press string
	change                     func(*scene.Document)
}

func (r *rigged) mend(b broken) {
	r.t.Helper()
	d, err := demo.Scene(b.scene)
	r.ok(err)
	b.change(d)
	doc, err := d.Encode()
	r.ok(err)
	r.ok(r.page.Open(r.prog.URL + "/scenes/" + r.bring(doc)))
	r.ok(r.page.BenchReady())
	r.gauge(b.check, b.state)
	r.ok(r.page.Click("[data-gauge=" + b.check + "]"))
	r.ok(r.page.ClickText(b.press))
	r.gauge(b.check, "inside")
}
