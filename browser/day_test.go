package browser_test

import (
	"fmt"
	"math"
	"path/filepath"
	"strconv"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// A path is drawn with points that go to the grid, one of them by numbers; a point is nudged by key;
// the whole is moved by its hoop and resized, all of it undone by one step each.
func TestDrawPlaceNudge(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.ok(p.Key("4")) // above
	r.ok(p.Still())
	r.ok(p.ClickText("Draw a path"))
	r.ok(p.ClickAt(620, 330))
	r.ok(p.Wait(`document.querySelector('[data-testid=drawn]')?.textContent.includes('from the last')`))
	r.ok(p.Type(r.labelled("Distance"), "1.5 m"))
	r.ok(p.Type(r.labelled("Angle"), "30"))
	r.ok(p.ClickText("Set point"))
	r.ok(p.ClickAt(700, 180))
	// The server has made the curve that is being drawn, and measured it.
	r.ok(p.Wait(`/[\d.]+ m in all/.test(document.querySelector('[data-testid=drawn]').textContent)`))
	// Another edit meanwhile keeps nothing of it.
	r.ok(p.Type(`input[aria-label="Frames a second"]`, "25"))
	r.storedIs(`s.doc.fps === 25 && s.doc.paths.length === 0`)
	r.ok(p.ClickText("Leave open"))
	r.storedIs(`s.doc.paths.length === 1 && s.doc.paths[0].shape.spline.points.length === 3`)
	r.storedIs(`(([a, b]) => Math.abs(Math.hypot(b.at[0] - a.at[0], b.at[2] - a.at[2]) - 1.5) < 2e-4 && Math.abs(Math.atan2(b.at[0] - a.at[0], b.at[2] - a.at[2]) - Math.PI / 6) < 1e-3)(s.doc.paths[0].shape.spline.points)`)

	// The first point, chosen by a press, moves by the arrows.
	before := eval[[]float64](r, `fetch('/api/scenes/' + location.pathname.split('/').pop()).then((r) => r.json()).then((s) => s.doc.paths[0].shape.spline.points[0].at)`)
	r.ok(p.ClickAt(620, 330))
	r.ok(p.Wait(`document.body.textContent.includes('Point 1 of 3')`))
	r.ok(p.Key(kb.ArrowUp, chromedp.KeyModifiers(chromedp.ModifierShift)))
	r.storedIs(`s.doc.paths[0].shape.spline.points[0].at[0] !== ` + num(before[0]) + ` || s.doc.paths[0].shape.spline.points[0].at[2] !== ` + num(before[2]))

	r.ok(p.ClickText("Place, size, other side"))
	r.ok(p.Type(`[aria-label="Moved by"] input`, "0.25 m"))
	r.storedIs(`s.doc.paths[0].rest.at[0] === 0.25`)
	r.ok(p.ClickText("Resize the path"))
	r.storedIs(`(([a, b]) => Math.hypot(...b.at.map((x, i) => x - a.at[i])) > 2.5)(s.doc.paths[0].shape.spline.points)`)
	r.ok(p.Type(r.labelled("Apart"), "3 m"))
	r.ok(p.ClickText("Make the other side"))
	r.storedIs(`s.doc.paths.length === 2 && s.doc.paths[1].rest.at[0] !== 0.25`)
	r.ok(p.Key("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	r.storedIs(`s.doc.paths.length === 1`)
	r.noErrors()
}

func num(x float64) string { return strconv.FormatFloat(x, 'g', -1, 64) }

// Several things are chosen in the rack and edited together; the rack is reordered by dragging and
// searched; keys have a menu; panels fold; focus is never on nothing.
func TestSeveralAndFolding(t *testing.T) {
	r := setup(t)
	p := r.page
	r.openDemo("hump")
	r.ok(p.BenchReady())
	r.ok(p.Wait(`document.activeElement?.id === 'recipe'`))
	r.ok(p.ClickText("Port tread"))
	eval[bool](r, `(document.querySelector('[data-ctrl]'), [...document.querySelectorAll('section[aria-label=Rack] button')].find((b) => b.textContent === 'Starboard tread').dataset.ctrl = '1', true)`)
	x, y := r.middle(`[data-ctrl]`)
	r.ok(p.ClickHolding(x, y, chromedp.ModifierCtrl))
	r.ok(p.Wait(`document.body.textContent.includes('2 rigs')`))
	r.ok(p.Type(r.labelled("Roll"), "7"))
	r.storedIs(`s.doc.rigs.slice(0, 2).every((r) => r.facing.roll === 7)`)
	r.ok(p.ClickText("is added to each"))
	r.ok(p.Type(r.labelled("Roll, more by"), "-2"))
	r.storedIs(`s.doc.rigs.slice(0, 2).every((r) => r.facing.roll === 5)`)
	r.ok(p.Key(kb.Escape))

	r.ok(p.Type(`input[aria-label="Find in the rack"]`, "stones"))
	r.ok(p.Wait(`![...document.querySelectorAll('section[aria-label=Rack] button')].some((b) => b.textContent === 'Port tread')`))
	r.ok(p.Type(`input[aria-label="Find in the rack"]`, " "))

	r.ok(p.Click(`button[aria-label="What is shown"]`))
	r.ok(p.ClickText("Length strip"))
	r.ok(p.Key(kb.Escape))
	r.ok(p.Wait(`!document.querySelector('[data-testid=strip-start]')`))
	r.ok(p.Wait(`document.activeElement !== document.body`))
	r.ok(p.Key("l"))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=strip-start]')`))
	r.noErrors()
}

// A mesh comes in as a part, its longest side along the path, in the unit that fits; an SVG in
// millimetres is in millimetres, and only the paths that are wanted come.
func TestImportsAsTheyAre(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	mesh := filepath.Join(r.dir, "rod.obj")
	r.ok(writeFile(mesh, "v 0 0 0\nv 400 0 0\nv 400 60 0\nv 0 60 0\nv 0 0 40\nf 1 2 3 4\nf 1 2 5\n"))
	r.ok(p.Choose(`[data-testid=import-mesh]`, mesh))
	r.ok(p.Wait(`document.querySelector('[role=dialog]')?.textContent.includes('0.400 m × 0.060 m × 0.040 m')`))
	r.ok(p.ClickText("Take it as a part"))
	r.storedIs(`((q) => q.name === 'Rod' && q.forward === '+x' && q.shape.file.scale === 0.001)(s.doc.parts.at(-1)) && !s.doc.fixtures?.length`)
	r.ok(p.ClickText("Stand it on the path"))
	r.storedIs(`s.doc.parts.at(-1).pivot[1] === 0 && Math.abs(s.doc.parts.at(-1).pivot[0] - 0.2) < 1e-6`)
	svg := filepath.Join(r.dir, "two.svg")
	r.ok(writeFile(svg, `<svg width="500mm" height="200mm" viewBox="0 0 1000 400"><path id="low" d="M0 400H1000"/><path id="high" d="M0 0H600"/></svg>`))
	r.ok(p.Choose(`[data-testid=import-file]`, svg))
	r.ok(p.ClickText("low, 0.500 m")) // not this one
	r.ok(p.ClickText("side"))
	r.ok(p.ClickText("Add path"))
	r.storedIs(`s.doc.paths.length === 1 && s.doc.paths[0].name === 'high' && s.doc.paths[0].shape.spline.points.every((q) => q.at[1] === 0) && Math.abs(s.doc.paths[0].shape.spline.points.at(-1).at[2] - 0.3) < 1e-9`)
	r.noErrors()
}

// cursor finds where the view shows a cursor, as one does who looks for a knob.
func (r *rigged) cursor(name string) (x, y float64) {
	r.t.Helper()
	at := eval[[]float64](r, fmt.Sprintf(`(() => {
	  const c = document.querySelector('[data-testid=view] canvas'), b = c.getBoundingClientRect()
	  const all = []
	  for (let y = b.top + 60; y < b.bottom - 10; y += 5) for (let x = b.left + 10; x < b.right - 10; x += 5) all.push([x, y])
	  const off = ([x, y]) => Math.hypot(x - (b.left + b.right) / 2, y - (b.top + b.bottom) / 2)
	  for (const [x, y] of all.sort((p, q) => off(p) - off(q))) { // from the middle out: the view is framed
	    c.dispatchEvent(new PointerEvent('pointermove', { clientX: x, clientY: y, bubbles: true, pointerId: 1 }))
	    if (c.style.cursor === %q) return [x, y]
	  }
	  return []
	})()`, name))
	if len(at) != 2 {
		r.t.Fatalf("no place of the view has the cursor %s", name)
	}
	return at[0], at[1]
}

// A fixture and a path are made larger by the knob of their hoop: all of their lengths by one factor.
func TestSizesByHand(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.add("Post")
	r.ok(p.ClickText("Above"))
	r.ok(p.Still())
	times := func(what string) float64 {
		t.Helper()
		cx, cy := r.cursor("move")
		x, y := r.cursor("nesw-resize")
		r.ok(p.Drag(x, y, cx+1.5*(x-cx), cy+1.5*(y-cy)))
		r.ok(p.Wait(stored + `.then((s) => ` + what + `)`))
		r.ok(p.Wait(saved))
		return 1.5
	}
	want := times(`s.doc.parts.at(-1).shape.post.radius > 0.21`)
	post := eval[[]float64](r, stored+`.then((s) => [s.doc.parts.at(-1).shape.post.radius / 0.2, s.doc.parts.at(-1).shape.post.height / 2])`)
	if math.Abs(post[0]-want) > 0.08*want || math.Abs(post[0]-post[1]) > 1e-6 {
		t.Errorf("the post is %g times as thick and %g times as high, pulled %g times as far", post[0], post[1], want)
	}
	r.add("Circle")
	r.ok(p.ClickText("Above"))
	r.ok(p.Still())
	radius := eval[float64](r, stored+`.then((s) => s.doc.paths[0].shape.circle.radius)`)
	want = times(fmt.Sprintf(`s.doc.paths[0].shape.circle.radius > %g`, radius*1.05))
	if got := eval[float64](r, stored+`.then((s) => s.doc.paths[0].shape.circle.radius)`) / radius; math.Abs(got-want) > 0.08*want {
		t.Errorf("the circle is %g times as large, pulled %g times as far", got, want)
	}
	r.ok(p.Key("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	r.ok(p.Wait(stored + fmt.Sprintf(`.then((s) => s.doc.paths[0].shape.circle.radius === %g)`, radius)))
	// A rig goes with its path: it is made larger with it, and with its step Path open it has the same hoop.
	r.add("Single rider on Circle")
	if !eval[bool](r, `document.querySelector('[data-step=path]').ariaExpanded === 'true'`) {
		r.ok(p.Click("[data-step=path]"))
	}
	r.ok(p.ClickText("Place, size, other side"))
	r.ok(p.ClickText("Resize with its rigs"))
	r.storedIs(fmt.Sprintf(`s.doc.rigs[0].scale === 2 && Math.abs(s.doc.paths[0].shape.circle.radius - %g) < 1e-9`, 2*radius))
	r.ok(p.ClickText("Corner"))
	r.ok(p.Still())
	x, y := r.cursor("move")
	r.ok(p.Drag(x, y, x+80, y))
	r.ok(p.Wait(stored + `.then((s) => Math.abs(s.doc.paths[0].rest?.at?.[0] ?? 0) + Math.abs(s.doc.paths[0].rest?.at?.[2] ?? 0) > 0.1)`))
	r.noErrors()
}

// While a path is pulled larger with its rig, the pieces cover what they then cover, before anything is kept.
func TestPiecesGrowAsPulled(t *testing.T) {
	r := setupWith(t, "rough")
	p := r.page
	r.simpleTread()
	r.ok(p.BenchReady())
	r.ok(p.Click(`button[data-step=path]`))
	r.ok(p.Still())
	// Where the view is as dark as steel, kept in the page under a name.
	look := func(name string) {
		_, err := p.Picture()
		r.ok(err)
		eval[bool](r, fmt.Sprintf(`(() => {
		  const c = document.querySelector('[data-testid=view] canvas'), k = document.createElement('canvas')
		  k.width = c.width; k.height = c.height
		  const g = k.getContext('2d'); g.drawImage(c, 0, 0)
		  const d = g.getImageData(0, 0, k.width, k.height).data
		  window[%q] = Array.from({ length: d.length / 4 }, (_, i) => d[4 * i + 3] > 200 && d[4 * i] + d[4 * i + 1] + d[4 * i + 2] < 330)
		  return true
		})()`, name))
	}
	// The share of what either covers that both cover.
	shared := func(a, b string) float64 {
		return eval[float64](r, fmt.Sprintf(`window[%q].filter((x, i) => x && window[%q][i]).length / window[%q].filter((x, i) => x || window[%q][i]).length`, a, b, a, b))
	}
	look("before")
	cx, cy := r.cursor("move")
	x, y := r.cursor("nesw-resize")
	r.ok(p.DragWhile(x, y, cx+1.3*(x-cx), cy+1.3*(y-cy), func() error {
		look("pulled")
		if eval[bool](r, stored+`.then((s) => s.doc.rigs[0].scale !== 1)`) {
			t.Error("it is kept while it is pulled")
		}
		return nil
	}))
	r.storedIs(`s.doc.rigs[0].scale > 1.2 && s.doc.rigs[0].scale < 1.4`)
	r.ok(p.Wait(saved))
	r.ok(p.Wait(`!document.querySelector('[data-testid=view]').textContent.includes('times as large')`))
	look("after")
	if same, was := shared("pulled", "after"), shared("before", "after"); same < 0.9 || was > 0.7 {
		t.Errorf("pulled and after share %.3f of what they cover, before and after %.3f", same, was)
	}
}

// In a window of 640 x 400, as one of 1280 x 800 is at 200 % zoom, the numbers of a place are read whole and the
// row of frames can be reached.
func TestAtTwiceTheSize(t *testing.T) {
	r := setup(t)
	p := r.page
	r.ok(p.Size(640, 400))
	r.openDemo("crawler")
	r.rack("Port loop")
	r.ok(p.Wait(`!!document.querySelector('[role=group][aria-label=Centre] input')`))
	if cut := eval[[]string](r, `[...document.querySelectorAll('[role=group][aria-label=Centre] input')].filter((e) => e.scrollWidth > e.clientWidth).map((e) => e.value)`); len(cut) > 0 {
		t.Errorf("cut off: %v", cut)
	}
	// Only what a person can scroll counts: a script moves what is hidden, too.
	r.ok(p.Wait(`(() => {
	  const e = [...document.querySelectorAll('main text')].find((x) => x.textContent === 'frames')
	  for (let by = e; by; by = by.parentElement) if (getComputedStyle(by).overflowY === 'auto') by.scrollTop = by.scrollHeight
	  return !!e && e.getBoundingClientRect().bottom <= innerHeight + 1
	})()`))
	// The start's label, which would lie on the view's buttons here, is clear of them and within the view.
	r.ok(p.Draw())
	r.ok(p.Wait(`(() => {
	  const box = (e) => e.getBoundingClientRect()
	  const row = document.querySelector('[role=toolbar][aria-label="Ready views"]')
	  const label = [...document.querySelectorAll('div')].findLast((e) => e.textContent === 'start 0 m')
	  if (!label) return false
	  const [l, v] = [box(label), box(row.parentElement)]
	  const on = [...row.children].some((e) => box(e).left < l.right && box(e).right > l.left && box(e).top < l.bottom && box(e).bottom > l.top)
	  return !on && l.left >= v.left && l.right <= v.right && l.top < box(row).bottom + 40
	})()`))
	r.noErrors()
}
