package browser_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
)

// graphKey returns where a key of the graph is seen.
func (r *rigged) graphKey(value string, frame int) (x, y float64) {
	r.t.Helper()
	return r.middle(fmt.Sprintf(`[data-testid=graph-key-%s][data-frame="%d"]`, value, frame))
}

// Keys are chosen, pulled with snapping to frames, typed, shifted, stretched, scaled,
// copied, shaped with handles, taken out and undone in the graph.
func TestGraph(t *testing.T) {
	r := setup(t)
	p := r.page
	r.simpleTread()
	r.ok(p.BenchReady())
	r.ok(p.Click("[data-step=travel]"))
	r.pick("Comes from", "keys")
	r.storedIs(`s.doc.rigs[0].travel.keys?.length === 2`)
	r.ok(p.Key("g"))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=graph-plot]')`))
	r.ok(p.Type(`input[aria-label="Frame"]`, "49"))
	r.ok(p.Type(`input[aria-label="Travel at this frame"]`, "0.8"))
	r.storedIs(`s.doc.rigs[0].travel.keys.length === 3`)
	r.ok(p.Wait(saved))

	// One key is pulled a tenth of the ruler on and up: to a whole frame, to a greater value.
	x, y := r.graphKey("travel", 49)
	x1, _ := r.graphKey("travel", 1)
	r.ok(p.Drag(x, y, x+(x-x1)/4, y-20))
	r.storedIs(`s.doc.rigs[0].travel.keys[1].frame === 61 && s.doc.rigs[0].travel.keys[1].value > 0.85`)
	// As numbers.
	r.ok(p.Type(`input[aria-label="Frame of the chosen key"]`, "50"))
	r.ok(p.Type(`input[aria-label="Value of the chosen key"]`, "0.6"))
	r.storedIs(`s.doc.rigs[0].travel.keys[1].frame === 50 && s.doc.rigs[0].travel.keys[1].value === 0.6`)
	// A box chooses all three; they are shifted, stretched about the first, scaled.
	bx := eval[[4]float64](r, `(() => { const b = document.querySelector('[data-testid=graph-plot]').getBoundingClientRect(); return [b.x + 85, b.y + 2, b.right - 6, b.bottom - 2] })()`)
	r.ok(p.Drag(bx[0], bx[1], bx[2], bx[3]))
	r.ok(p.Wait(`document.body.textContent.includes('3 keys: shift')`))
	r.ok(p.Type(`input[aria-label="Shift the chosen keys"]`, "2"))
	r.storedIs(`s.doc.rigs[0].travel.keys.map((k) => k.frame).join() === '3,52,98'`)
	r.ok(p.Type(`input[aria-label="Stretch the chosen keys in time"]`, "0.5"))
	r.storedIs(`s.doc.rigs[0].travel.keys.map((k) => k.frame).join() === '3,28,51'`)
	r.ok(p.Type(`input[aria-label="Scale the chosen values"]`, "2"))
	r.storedIs(`s.doc.rigs[0].travel.keys[1].value === 1.2`)

	// Free stretches have handles to pull.
	r.ok(p.Click(`div:has(> input[aria-label="Shape after the chosen keys"]) [role=combobox], [role=combobox][aria-label="Shape after the chosen keys"]`))
	r.ok(p.ClickText("free"))
	r.storedIs(`s.doc.rigs[0].travel.keys.every((k) => k.shape === 'free')`)
	x, y = r.middle(`[data-testid=graph-handle-out]`)
	r.ok(p.Drag(x, y, x+10, y-25))
	r.storedIs(`s.doc.rigs[0].travel.keys[0].out?.length === 2`)
	r.ok(p.Wait(saved))

	// Copied keys are set down at the play head; taken out; and undone.
	r.ok(p.ClickText("Copy"))
	r.ok(p.Type(`input[aria-label="Frame"]`, "60"))
	r.ok(p.ClickText("Paste"))
	r.storedIs(`s.doc.rigs[0].travel.keys.map((k) => k.frame).join() === '3,28,51,60,85,108'`)
	r.ok(p.Click(`[data-testid=graph-plot]`)) // nothing is chosen any more
	x, y = r.graphKey("travel", 85)
	r.ok(p.ClickAt(x, y))
	r.ok(p.Key("\x7f"))
	r.storedIs(`s.doc.rigs[0].travel.keys.length === 5`)
	r.ok(p.Wait(saved))
	r.ok(p.Key("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	r.storedIs(`s.doc.rigs[0].travel.keys.length === 6`)

	// Ends to and fro, within frames; the speed; and a constant again.
	r.ok(p.Click(`div:has(> input[aria-label="Before the first key"]) [role=combobox], [role=combobox][aria-label="Before the first key"]`))
	r.ok(p.ClickText("mirror"))
	r.storedIs(`s.doc.rigs[0].travel.before === 'mirror'`)
	r.ok(p.ClickText("within frames"))
	r.storedIs(`s.doc.rigs[0].travel.within?.join() === '1,96'`)
	line := `document.querySelector('[data-testid=graph-plot] path[stroke]').getAttribute('d')`
	before := eval[string](r, line)
	r.ok(p.Click(`[aria-label="What is shown"] button[value=speed]`))
	r.ok(p.Wait(fmt.Sprintf("%s !== %q", line, before)))
	// Opened with nothing to show, it is as high as its room once there is.
	room := `(() => { const p = document.querySelector('[data-testid=graph-plot]'); return p && p.getBoundingClientRect().height === p.parentElement.clientHeight })()`
	r.ok(p.Key("g"))
	rig, part := eval[string](r, stored+`.then((s) => s.doc.rigs[0].name)`), eval[string](r, stored+`.then((s) => s.doc.parts[0].name)`)
	r.rack(part)
	r.ok(p.Key("g"))
	r.ok(p.Wait(`document.body.textContent.includes('to see its values over time')`))
	r.rack(rig)
	r.ok(p.Wait(room))
	// Frames that go by make no observer of sizes anew.
	eval[bool](r, `(() => { const Was = ResizeObserver; window.made = 0; window.ResizeObserver = class extends Was { constructor(f) { super(f); window.made++ } }; return true })()`)
	for range 5 {
		r.ok(p.Click(`[aria-label="One frame on"]`))
	}
	r.ok(p.Still())
	if made := eval[int](r, `window.made`); made > 0 {
		t.Errorf("five frames make %d observers", made)
	}
	r.ok(p.ClickText("Make constant"))
	r.storedIs(`typeof s.doc.rigs[0].travel === 'number'`)
	r.noErrors()
}
