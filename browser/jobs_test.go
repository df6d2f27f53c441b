package browser_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// Jobs of a day, done from the scenes page by mouse and keyboard by the way that the page offers,
// counted in presses: clicks, drags, keys, and numbers that are typed. Before is how many someone
// needed who had never seen Bead, in an earlier version; most is what is aimed at. The shortest are
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
