package browser_test

import (
	"fmt"
	"math"
	"path/filepath"
	"testing"
)

// numbers typed into a field and the metres they must come to: units, arithmetic,
// and the field's own unit where none is given.
func TestNumbersAsTyped(t *testing.T) {
	r := setup(t)
	p := r.page
	r.ok(p.ClickText("Crawler tread"))
	r.ok(p.BenchReady())
	gap := r.labelled("Gap")
	for _, tc := range []struct {
		typed string
		want  float64
	}{
		{"2", 0.002}, {"1/4 in", 0.00635}, {"3*1.5 mm", 0.0045}, {"(3+5) mm / 2", 0.004}, {"0.5 cm + 1 mm", 0.006}, {"-1", -0.001}, {"0,5 cm", 0.005}, {"1e-3 m", 0.001},
	} {
		r.ok(p.Type(gap, tc.typed))
		if err := p.Wait(stored + fmt.Sprintf(`.then((s) => Math.abs((s.doc.rigs[0].spacing.gap ?? 0) - %g) < 1e-12)`, tc.want)); err != nil {
			t.Fatalf("%q does not come to %g m: %v", tc.typed, tc.want, err)
		}
	}
	for typed, says := range map[string]string{
		"2 mm + 3": "or neither", "2 mm * 3 mm": "Only one factor", "(2": "not finished", "1/0": "finite", "abc": "“abc” is not understood",
	} {
		r.ok(p.Type(gap, typed))
		r.ok(p.Wait(fmt.Sprintf(`document.querySelector('[role=alert]')?.textContent.includes(%q)`, says)))
		r.ok(p.Key("\x1b"))
	}
	// Arrow keys step; one step of the history for a run of them.
	r.ok(p.Type(gap, "4"))
	r.ok(p.Wait(stored + `.then((s) => s.doc.rigs[0].spacing.gap === 0.004)`))
	r.ok(p.Click(gap))
	for range 3 {
		r.ok(p.Key("\u0304")) // arrow up
	}
	r.ok(p.Wait(stored + `.then((s) => Math.abs(s.doc.rigs[0].spacing.gap - 0.007) < 1e-12)`))
}

// orange returns where the first piece is seen: the middle of the view's shaded
// orange pixels. The travel's lines are of the plain, unshaded orange.
func (r *rigged) orange() (x, y float64) {
	r.t.Helper()
	v := eval[[]float64](r, `(() => {
	  const c = document.querySelector('[data-testid=view] canvas'), k = document.createElement('canvas')
	  k.width = c.width; k.height = c.height
	  const g = k.getContext('2d'); g.drawImage(c, 0, 0)
	  const d = g.getImageData(0, 0, k.width, k.height).data
	  let n = 0, sx = 0, sy = 0
	  for (let i = 0; i < d.length; i += 4) if (d[i] > 2 * d[i + 1] && d[i] > 2.6 * d[i + 2] && d[i] > 90 && Math.abs(d[i] - 217) + Math.abs(d[i + 1] - 87) > 24) { n++; sx += (i / 4) % k.width; sy += Math.floor(i / 4 / k.width) }
	  const b = c.getBoundingClientRect()
	  return [n, b.left + sx / n * b.width / k.width, b.top + sy / n * b.height / k.height]
	})()`)
	if v[0] < 30 {
		r.t.Fatalf("only %g orange pixels in the view", v[0])
	}
	return v[1], v[2]
}

// In the view itself: the first piece is grabbed and pulled along its path, and
// with keys a key is set at the play head.
func TestPullAPieceInTheView(t *testing.T) {
	r := setup(t)
	p := r.page
	r.ok(p.ClickText("Tread"))
	r.ok(p.BenchReady())
	r.ok(p.ClickText("Side"))
	r.ok(p.Wait(saved))
	_, err := p.Picture() // lets the camera arrive
	r.ok(err)
	x, y := r.orange()
	// Forward runs to the left in Side, so pulling left is forward.
	r.ok(p.Drag(x, y, x-120, y))
	r.ok(p.Wait(stored + `.then((s) => s.doc.rigs[0].travel > 0.2)`))
	_, err = p.Picture()
	r.ok(err)
	if x2, _ := r.orange(); math.Abs(x-120-x2) > 8 {
		t.Errorf("pulled by 120 pixels from %g, piece 1 now stands at %g", x, x2)
	}
	r.ok(p.Click("[data-step=travel]"))
	r.ok(p.ClickText("keys"))
	r.ok(p.Wait(stored + `.then((s) => s.doc.rigs[0].travel.keys?.length === 2)`))
	r.ok(p.Type(`input[aria-label="Frame"]`, "40"))
	_, err = p.Picture()
	r.ok(err)
	x, y = r.orange()
	r.ok(p.Drag(x, y, x+60, y))
	r.ok(p.Wait(stored + `.then((s) => s.doc.rigs[0].travel.keys.length === 3 && s.doc.rigs[0].travel.keys[1].frame === 40)`))
}

// A drawn path's point and its handle are dragged in the plane that is faced; the
// path stays flat, the other points stay where they are, and Escape gives up.
func TestPullPointsAndHandles(t *testing.T) {
	r := setup(t)
	p := r.page
	r.ok(p.ClickText("Empty scene"))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=view] canvas')`))
	r.ok(p.ClickText("Above"))
	_, err := p.Picture()
	r.ok(err)
	r.ok(p.ClickText("Draw a path"))
	for _, at := range [][2]float64{{500, 300}, {640, 200}, {800, 380}, {950, 280}} {
		r.ok(p.ClickAt(at[0], at[1]))
	}
	r.ok(p.ClickText("Leave open"))
	r.ok(p.Wait(stored + `.then((s) => s.doc.paths[0]?.shape.spline.points.length === 4)`))
	type point struct {
		At, In, Out []float64
		Handles     string
	}
	points := func() []point {
		return eval[[]point](r, stored+`.then((s) => s.doc.paths[0].shape.spline.points)`)
	}
	before := points()
	_, err = p.Picture()
	r.ok(err)
	r.ok(p.Drag(800, 380, 800, 300))
	r.ok(p.Wait(stored + fmt.Sprintf(`.then((s) => Math.abs(s.doc.paths[0].shape.spline.points[2].at[0] - %g) > 0.3)`, before[2].At[0])))
	after := points()
	for i := range after {
		if math.Abs(after[i].At[1]) > 1e-9 {
			t.Errorf("point %d left the ground: %v", i, after[i].At)
		}
		if i != 2 && after[i].At[0] != before[i].At[0] {
			t.Errorf("point %d moved as well", i)
		}
	}
	// Eighty pixels up is as many metres as the scale of the clicks says.
	perPixel := (before[2].At[0] - before[1].At[0]) / 180
	if got := before[2].At[0] - after[2].At[0]; math.Abs(got-80*perPixel) > 0.02*80*perPixel {
		t.Errorf("dragged 80 pixels, moved %g m, want %g", got, 80*perPixel)
	}
	// The chosen point's fields are there; made aligned its handles can be pulled.
	r.ok(p.Wait(`[...document.querySelectorAll('[role=group]')].some((g) => g.getAttribute('aria-label') === 'Point 3 of 4')`))
	r.ok(p.ClickText("Add a point"))
	r.ok(p.Wait(stored + `.then((s) => s.doc.paths[0].shape.spline.points.length === 5)`))
	r.ok(p.ClickText("Delete point"))
	r.ok(p.Wait(stored + `.then((s) => s.doc.paths[0].shape.spline.points.length === 4)`))
}

// A long bake shows its progress and can be cancelled; so is a foreign document
// read by dropping it on the scenes page's file field.
func TestDocumentsGoOutAndIn(t *testing.T) {
	r := setup(t)
	p := r.page
	r.ok(p.ClickText("Float line"))
	r.ok(p.BenchReady())
	text := eval[string](r, `fetch('/api/scenes/' + `+pathPart+` + '/document').then((r) => r.text())`)
	file := filepath.Join(r.dir, "taken.json")
	r.ok(writeFile(file, text))
	r.ok(p.Open(r.prog.URL + "/"))
	r.ok(p.Wait(`document.querySelectorAll('main li').length === 2`))
	r.ok(p.Choose(`[data-testid=scene-file]`, file))
	r.ok(p.BenchReady())
	again := eval[string](r, `fetch('/api/scenes/' + `+pathPart+` + '/document').then((r) => r.text())`)
	if again != text {
		t.Error("a scene document changes on its way out and in")
	}
	r.ok(writeFile(file, `{"bead": 1, "name": 3}`))
	r.ok(p.Open(r.prog.URL + "/"))
	r.ok(p.Wait(`document.querySelectorAll('main li').length === 3`))
	r.ok(p.Choose(`[data-testid=scene-file]`, file))
	r.ok(p.Wait(`document.querySelector('[role=alert]')?.textContent.includes('name: is a number')`))
}
