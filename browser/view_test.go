package browser_test

import (
	"fmt"
	"math"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"bead/core/geom"
)

// Numbers typed into a field come to metres, or are refused there with words; the field is
// dragged and stepped. What can be typed is tested with the page's core.
func TestNumbersAsTyped(t *testing.T) {
	r := setup(t)
	p := r.page
	r.openDemo("crawler")
	gap := r.labelled("Gap")
	for _, tc := range []struct {
		typed string
		want  float64
	}{
		{"2", 0.002}, {"(3+5) mm / 2", 0.004},
	} {
		r.ok(p.Type(gap, tc.typed))
		if err := p.Wait(stored + fmt.Sprintf(`.then((s) => Math.abs((s.doc.rigs[0].train.spacing.gap ?? 0) - %g) < 1e-12)`, tc.want)); err != nil {
			t.Fatalf("%q does not come to %g m: %v", tc.typed, tc.want, err)
		}
	}
	r.ok(p.Type(gap, "abc"))
	r.ok(p.Wait(`document.querySelector('[role=alert]')?.textContent.includes('“abc” is not understood')`))
	r.ok(p.Key("\x1b"))
	// The field's name is dragged sideways: 20 pixels are 20 steps of a millimetre.
	r.ok(p.Type(gap, "1"))
	r.ok(p.Wait(stored + `.then((s) => s.doc.rigs[0].train.spacing.gap === 0.001)`))
	at := eval[[]float64](r, fmt.Sprintf(`(() => { const b = document.querySelector('label[for="%s"]').getBoundingClientRect(); return [b.x + 6, b.y + b.height / 2] })()`, strings.TrimSuffix(strings.TrimPrefix(gap, `input[id="`), `"]`)))
	r.ok(p.Drag(at[0], at[1], at[0]+20, at[1]))
	r.ok(p.Wait(stored + `.then((s) => Math.abs(s.doc.rigs[0].train.spacing.gap - 0.021) < 1e-9)`))
	// Arrow keys step; one step of the history for a run of them.
	r.ok(p.Type(gap, "4"))
	r.ok(p.Wait(stored + `.then((s) => s.doc.rigs[0].train.spacing.gap === 0.004)`))
	r.ok(p.Click(gap))
	for range 3 {
		r.ok(p.Key("\u0304")) // arrow up
	}
	r.ok(p.Wait(stored + `.then((s) => Math.abs(s.doc.rigs[0].train.spacing.gap - 0.007) < 1e-12)`))
}

// orange returns where the first piece is seen: the middle of the view's shaded
// orange pixels. The travel's lines are of the plain, unshaded orange.
func (r *rigged) orange() (x, y float64) {
	r.t.Helper()
	r.ok(r.page.Away()) // a piece under the pointer has another colour
	v := r.shadedOrange()
	for range 20 { // what was asked for may not have been drawn yet
		if v[0] >= 30 {
			break
		}
		r.ok(r.page.Drawn())
		_, err := r.page.Picture()
		r.ok(err)
		v = r.shadedOrange()
	}
	if v[0] < 30 {
		r.ok(fmt.Errorf("only %g orange pixels in the view", v[0])) // with a picture
	}
	return v[1], v[2]
}

// shadedOrange is how many such pixels there are, and their middle.
func (r *rigged) shadedOrange() []float64 {
	r.t.Helper()
	return eval[[]float64](r, `(() => {
	  const c = document.querySelector('[data-testid=view] canvas'), k = document.createElement('canvas')
	  k.width = c.width; k.height = c.height
	  const g = k.getContext('2d'); g.drawImage(c, 0, 0)
	  const d = g.getImageData(0, 0, k.width, k.height).data
	  let n = 0, sx = 0, sy = 0
	  for (let i = 0; i < d.length; i += 4) if (d[i] > 2 * d[i + 1] && d[i] > 2.6 * d[i + 2] && d[i] > 90 && Math.abs(d[i] - 217) + Math.abs(d[i + 1] - 87) > 24) { n++; sx += (i / 4) % k.width; sy += Math.floor(i / 4 / k.width) }
	  const b = c.getBoundingClientRect()
	  return [n * (b.width / k.width) ** 2, b.left + sx / n * b.width / k.width, b.top + sy / n * b.height / k.height]
	})()`)
}

// A square-on view has no perspective: of two treads that stand side by side the far one is hidden
// behind the near one, with its tinted piece. With perspective it is smaller, and seen inside it.
func TestFlatViews(t *testing.T) {
	r := setupWith(t, "plain")
	p := r.page
	r.openDemo("crawler")
	r.ok(p.BenchReady())
	r.rack("Starboard tread") // the far one, seen from port
	r.ok(p.ClickText("Side"))
	r.ok(p.Still())
	r.ok(p.Drawn())
	flat := r.shadedOrange()[0]
	r.ok(p.Key("p"))
	r.ok(p.Still())
	r.ok(p.Drawn())
	if deep := r.shadedOrange()[0]; flat > 0 || deep < 20 {
		t.Errorf("%g pixels of the far tread's first piece without perspective, %g with it", flat, deep)
	}
	r.ok(p.ClickText("Side"))
	r.ok(p.Wait(`[...document.querySelectorAll('button')].find((b) => b.textContent === 'Flat').getAttribute('aria-pressed') === 'true'`))
	r.noErrors()
}

// In the view itself: the first piece is grabbed and pulled along its path, and
// with keys a key is set at the play head.
func TestPullAPieceInTheView(t *testing.T) {
	r := setupWith(t, "rough")
	p := r.page
	r.simpleTread()
	r.ok(p.BenchReady())
	r.ok(p.ClickText("Side"))
	r.ok(p.Wait(saved))
	r.ok(p.Still())
	_, err := p.Picture() // and lets it be drawn
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
	r.pick("Comes from", "keys")
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
	r.scenes()
	r.ok(p.ClickText("Empty scene"))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=view] canvas')`))
	r.ok(p.ClickText("Above"))
	r.ok(p.Still())
	_, err := p.Picture()
	r.ok(err)
	r.ok(p.ClickText("Draw a path"))
	for _, at := range [][2]float64{{500, 300}, {640, 200}, {800, 380}, {950, 280}} {
		r.ok(p.ClickHolding(at[0], at[1], chromedp.ModifierAlt)) // just there, not on the grid
	}
	r.ok(p.ClickText("Leave open"))
	r.ok(p.Wait(stored + `.then((s) => s.doc.paths[0]?.shape.spline.points.length === 4)`))
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
	// The chosen point shows its handles. One is pulled: the point becomes aligned,
	// stays where it is, and the other handle turns to lie opposite.
	_, err = p.Picture()
	r.ok(err)
	at := r.screenOf(after[2].At, before, [2][2]float64{{640, 200}, {800, 380}})
	out := eval[[]float64](r, `new Promise((done) => { const s = new WebSocket(location.href.replace('http', 'ws').replace('/scenes/', '/api/scenes/') + '/live'); s.binaryType = 'arraybuffer'
	  s.onopen = () => `+stored+`.then((x) => s.send(JSON.stringify({ seq: 1, frame: 1, doc: x.doc })))
	  s.onmessage = (e) => { const t = new TextDecoder('latin1').decode(e.data), i = t.indexOf('{"paths"'); if (i < 0) return; const n = new DataView(e.data).getUint32(i - 4, true)
	    s.close(); done(JSON.parse(t.slice(i, i + n)).paths[0].points[2].out) } })`)
	h := r.screenOf(out, before, [2][2]float64{{640, 200}, {800, 380}})
	r.ok(p.Drag(h[0], h[1], h[0]+40, h[1]-50))
	r.ok(p.Wait(stored + `.then((s) => s.doc.paths[0].shape.spline.points[2].handles === 'aligned')`))
	pulled := points()[2]
	if pulled.At[0] != after[2].At[0] || pulled.At[2] != after[2].At[2] {
		t.Errorf("pulling its handle moved the point from %v to %v", after[2].At, pulled.At)
	}
	// On the ground, seen from above: right is -z and down is +x in Above.
	want := []float64{out[0] - after[2].At[0] - 50*perPixel, 0, out[2] - after[2].At[2] - 40*perPixel}
	for k := range want {
		if math.Abs(pulled.Out[k]-want[k]) > 0.02*(1+math.Abs(want[k])) {
			t.Errorf("handle pulled to %v, want %v (the point is drawn at %v)", pulled.Out, want, at)
			break
		}
	}
	// The handle that was pulled is moved by the arrows: right is -z. O goes on to the one behind, which turns the
	// other one, and to the point again.
	r.ok(p.Key(kb.ArrowRight, chromedp.KeyModifiers(chromedp.ModifierShift)))
	r.ok(p.Wait(stored + fmt.Sprintf(`.then((s) => s.doc.paths[0].shape.spline.points[2].out[2] < %g - 0.01)`, pulled.Out[2])))
	ahead := points()[2]
	r.ok(p.Key("o"))
	r.ok(p.Wait(`document.body.textContent.includes('The arrows move the handle behind point 3.')`))
	r.ok(p.Key(kb.ArrowUp, chromedp.KeyModifiers(chromedp.ModifierShift)))
	r.ok(p.Wait(stored + fmt.Sprintf(`.then((s) => s.doc.paths[0].shape.spline.points[2].out[0] > %g + 1e-3)`, ahead.Out[0])))
	if turned := points()[2]; math.Abs(geom.V(turned.Out[0], turned.Out[1], turned.Out[2]).Norm()-geom.V(ahead.Out[0], ahead.Out[1], ahead.Out[2]).Norm()) > 1e-9 ||
		turned.At[0] != after[2].At[0] || ahead.At[2] != after[2].At[2] {
		t.Errorf("the arrows moved %v to %v to %v", pulled, ahead, turned)
	}
	r.ok(p.Key("o"))
	r.ok(p.Wait(`document.body.textContent.includes('The arrows move point 3.')`))
	r.ok(p.Key(kb.ArrowRight, chromedp.KeyModifiers(chromedp.ModifierShift)))
	r.ok(p.Wait(stored + fmt.Sprintf(`.then((s) => s.doc.paths[0].shape.spline.points[2].at[2] < %g - 0.01)`, after[2].At[2])))
	r.ok(p.Key("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	r.ok(p.Wait(stored + fmt.Sprintf(`.then((s) => s.doc.paths[0].shape.spline.points[2].at[2] === %g)`, after[2].At[2])))
	r.ok(p.Wait(saved))
	// Escape while pulling gives up: nothing is kept.
	steps := eval[float64](r, stored+`.then((s) => s.revision)`)
	r.ok(p.DragAndGiveUp(at[0], at[1], at[0]+60, at[1]+60))
	r.ok(p.Wait(saved))
	if again := points()[2]; again.At[0] != after[2].At[0] || eval[float64](r, stored+`.then((s) => s.revision)`) != steps {
		t.Errorf("after Escape the point is at %v", again.At)
	}
	r.ok(p.Wait(`[...document.querySelectorAll('[role=group]')].some((g) => g.getAttribute('aria-label') === 'Point 3 of 4')`))
	length := eval[string](r, `document.querySelector('svg[role=group]').getAttribute('aria-label')`)
	r.ok(p.ClickText("Add a point"))
	r.ok(p.Wait(stored + `.then((s) => s.doc.paths[0].shape.spline.points.length === 5)`))
	if got := eval[string](r, `document.querySelector('svg[role=group]').getAttribute('aria-label')`); got != length {
		t.Errorf("a point more makes of %q %q", length, got)
	}
	r.ok(p.ClickText("Delete point"))
	r.ok(p.Wait(stored + `.then((s) => s.doc.paths[0].shape.spline.points.length === 4)`))
}

// screenOf returns where a point of the ground is drawn in Above, from two drawn
// points whose places on the screen are known.
func (r *rigged) screenOf(at []float64, drawn []point, clicks [2][2]float64) [2]float64 {
	r.t.Helper()
	a, b := drawn[1].At, drawn[2].At
	perX := (clicks[1][0] - clicks[0][0]) / (b[2] - a[2])
	perY := (clicks[1][1] - clicks[0][1]) / (b[0] - a[0])
	return [2]float64{clicks[0][0] + (at[2]-a[2])*perX, clicks[0][1] + (at[0]-a[0])*perY}
}

// point is a spline point as the document holds it.
type point struct {
	At, In, Out []float64
	Handles     string
}

// A value that moves shows what it is at the play head, and a key set there by
// its bead changes nothing of the motion.
func TestMovingValuesShowThemselves(t *testing.T) {
	r := setup(t)
	p := r.page
	r.simpleTread()
	r.ok(p.BenchReady())
	r.ok(p.Type(r.labelled("Offset"), "10"))
	r.ok(p.Click(`button[aria-label="Set a key of offset at frame 1"]`))
	r.ok(p.Type(`input[aria-label="Frame"]`, "21"))
	r.ok(p.Type(r.labelled("Offset"), "50"))
	r.storedIs(`s.doc.rigs[0].offset.keys?.length === 2 && s.doc.rigs[0].offset.keys[1].value === 0.05`)
	r.ok(p.Type(`input[aria-label="Frame"]`, "6"))
	shows := func(value string) {
		t.Helper()
		r.ok(p.Wait(fmt.Sprintf(`document.querySelector('%s').value === %q`, r.labelled("Offset"), value)))
	}
	shows("20.0") // a quarter of the way from 10 to 50
	r.ok(p.Click(`button[aria-label="Set a key of offset at frame 6"]`))
	r.storedIs(`Math.abs(s.doc.rigs[0].offset.keys[1].value - 0.02) < 1e-12 && s.doc.rigs[0].offset.keys[1].frame === 6`)
	r.ok(p.Type(`input[aria-label="Frame"]`, "11"))
	shows("30.0")
	// B sets and takes out a key of travel, from the keyboard.
	r.ok(p.ClickText("Corner"))
	r.ok(p.Key("b"))
	r.storedIs(`s.doc.rigs[0].travel.keys?.[0].frame === 11`)
	r.ok(p.Key("b"))
	r.storedIs(`s.doc.rigs[0].travel === 0`)
}

// A scene document goes out and comes in through the scenes page unchanged; a
// broken one is refused with its address; a file of paths is asked how it lies.
func TestDocumentsGoOutAndIn(t *testing.T) {
	r := setup(t)
	p := r.page
	r.openDemo("float-line")
	text := eval[string](r, `fetch('/api/scenes/' + `+pathPart+` + '/document').then((r) => r.text())`)
	file := filepath.Join(r.dir, "taken.json")
	r.ok(writeFile(file, text))
	r.ok(p.Open(r.prog.URL + "/"))
	r.ok(p.Wait(fmt.Sprintf(`document.querySelectorAll('main li').length === %d`, 1)))
	r.ok(p.Choose(`[data-testid=scene-file]`, file))
	r.ok(p.BenchReady())
	again := eval[string](r, `fetch('/api/scenes/' + `+pathPart+` + '/document').then((r) => r.text())`)
	if again != text {
		t.Error("a scene document changes on its way out and in")
	}
	r.ok(writeFile(file, `{"bead": 2, "name": 3}`))
	r.ok(p.Open(r.prog.URL + "/"))
	r.ok(p.Wait(fmt.Sprintf(`document.querySelectorAll('main li').length === %d`, 2)))
	r.ok(p.Choose(`[data-testid=scene-file]`, file))
	r.ok(p.Wait(`document.querySelector('[role=alert]')?.textContent.includes('name: is a number')`))
	r.ok(writeFile(file, "{\n  \"bead\": 1,\n  oops\n}"))
	r.ok(p.Choose(`[data-testid=scene-file]`, file))
	r.ok(p.Wait(`document.querySelector('[role=alert]')?.textContent.includes('line 3')`))
	// Numbers in the hundreds stay what they are unless the person says otherwise.
	table := filepath.Join(r.dir, "survey.csv")
	r.ok(writeFile(table, "x,y,z\n0,0,0\n100,0,0\n100,0,300\n"))
	r.ok(p.Choose(`[data-testid=scene-file]`, table))
	r.ok(p.Wait(`document.querySelector('[role=dialog]')?.textContent.includes('Paths of survey.csv')`))
	r.ok(p.ClickText("Add path"))
	r.ok(p.Wait(`location.pathname.startsWith('/scenes/')`))
	r.ok(p.Wait(stored + `.then((s) => s.doc.name === 'survey' && s.doc.paths[0].shape.spline.points[2].at[2] === 300)`))
}

// mark returns where the start mark's label is seen, as places on the page.
func (r *rigged) mark() (x, y float64) {
	r.t.Helper()
	_, err := r.page.Picture() // and lets it be drawn
	r.ok(err)
	v := eval[[]float64](r, `(() => {
	  const e = [...document.querySelectorAll('[data-testid=view] div')].filter((e) => e.textContent === 'start 0 m').at(-1)
	  const b = e.getBoundingClientRect()
	  return [b.x, b.y]
	})()`)
	return v[0], v[1]
}

// Alongside, the view draws near to what is chosen and goes where it goes: the belt's start stays
// in its place of the picture while the crawler drives on, which it does not otherwise. The strip
// names the wheels that the belt touches.
func TestAlongside(t *testing.T) {
	r := setup(t)
	p := r.page
	r.openDemo("hump")
	r.ok(p.Wait(`[...document.querySelectorAll('[data-testid=wheel]')].map((e) => e.textContent).join().includes('Sprocket')`))
	moves := func() (dx, dy float64) {
		r.ok(p.Type(`input[aria-label="Frame"]`, "1"))
		r.ok(p.Still())
		x0, y0 := r.mark()
		r.ok(p.Type(`input[aria-label="Frame"]`, "20"))
		x1, y1 := r.mark()
		return math.Abs(x1 - x0), math.Abs(y1 - y0)
	}
	if dx, dy := moves(); dx+dy < 40 {
		t.Errorf("seen from afar the crawler moves by %g, %g pixels in 20 frames", dx, dy)
	}
	wide := eval[string](r, `document.querySelector('[data-full]').textContent`)
	r.ok(p.ClickText("Alongside"))
	r.ok(p.Still())
	if dx, dy := moves(); dx > 8 || dy > 8 {
		t.Errorf("alongside the start moves by %g, %g pixels", dx, dy)
	}
	if near := eval[string](r, `document.querySelector('[data-full]').textContent`); near == wide {
		t.Errorf("the scale is %s before and after", near)
	}
}

// A range of 10,000 frames plays: from its middle on, frames that nobody has sent ahead are asked
// for as they come up, and the first after the last is the first of all.
func TestLongRangePlays(t *testing.T) {
	r := setup(t)
	p := r.page
	r.openDemo("crawler")
	r.ok(p.Type(`input[aria-label="Last frame of the range"]`, "10000"))
	r.storedIs(`s.doc.range.last === 10000`)
	const frame = `Number(document.querySelector('input[aria-label="Frame"]').value)`
	for _, from := range []int{5000, 9990} {
		r.ok(p.Type(`input[aria-label="Frame"]`, fmt.Sprint(from)))
		r.ok(p.Click(`button[aria-label="Play"]`))
		if from == 5000 {
			r.ok(p.Wait(frame + ` >= 5012`))
		} else {
			r.ok(p.Wait(frame + ` >= 3 && ` + frame + ` < 5000`))
		}
		r.ok(p.Click(`button[aria-label="Pause"]`))
	}
	r.noErrors()
}

// Frames and answers draw with what there is: frames make no buffer and no program, answers no program and nothing of
// the size of a mesh. It is counted at the graphics interface itself.
func TestNothingIsMadeAnew(t *testing.T) {
	r := setupWith(t, "rough")
	p := r.page
	count := func() {
		t.Helper()
		eval[bool](r, `(() => {
		  const gl = WebGL2RenderingContext.prototype, was = { buffer: gl.createBuffer, program: gl.createProgram, data: gl.bufferData }
		  window.made = { buffers: 0, programs: 0, bytes: 0 }
		  let fresh = false
		  gl.createBuffer = function () { made.buffers++; fresh = true; return was.buffer.call(this) }
		  gl.createProgram = function () { made.programs++; return was.program.call(this) }
		  gl.bufferData = function (to, x, use) { if (fresh) made.bytes += x.byteLength ?? x; fresh = false; return was.data.call(this, to, x, use) }
		  return true
		})()`)
	}
	type made struct{ Buffers, Programs, Bytes int }
	// Path, body and travel have another form in every frame.
	r.openDemo("eel")
	r.ok(p.Type(`input[aria-label="Frame"]`, "20"))
	r.ok(p.Still())
	count()
	for range 12 {
		r.ok(p.Click(`[aria-label="One frame on"]`))
	}
	r.ok(p.Still())
	if m := eval[made](r, `made`); m.Buffers+m.Programs > 0 {
		t.Errorf("twelve frames make %+v", m)
	}
	// Floats that bend are pulled along their line; what marks the pull is small.
	r.openDemo("float-line")
	_, y := r.middle(`[data-testid=strip-pieces]`)
	r.ok(p.Drag(640, y, 700, y))
	r.ok(p.Wait(saved))
	r.ok(p.Still())
	count()
	r.ok(p.Drag(700, y, 640, y))
	r.ok(p.Wait(saved))
	r.ok(p.Still())
	if m := eval[made](r, `made`); m.Programs > 0 || m.Bytes > 10_000 {
		t.Errorf("a pull of many answers makes %+v", m)
	}
	r.noErrors()
}
