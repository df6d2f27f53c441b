package browser_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
)

// A crawler's tread is tied to its chassis by hand: a carrier that drives, a path that
// rides on it, travel that rolls with it; a lamp rides along, the carrier is pulled in
// the view, a parent changes without moving anything.
func TestCarriersAndDrives(t *testing.T) {
	r := setup(t)
	p := r.page
	r.simpleTread()
	r.ok(p.BenchReady())
	r.add("Carrier")
	r.storedIs(`s.doc.carriers?.length === 1 && s.doc.carriers[0].at.join() === '0,0,0'`)
	// It drives 4.8 m in the range.
	r.ok(p.ClickText("Key its place at this frame"))
	r.storedIs(`s.doc.carriers[0].at[2].keys?.length === 1`)
	r.ok(p.Type(`input[aria-label="Frame"]`, "96"))
	r.ok(p.Type(r.labelled("Z"), "4.75 m"))
	r.storedIs(`s.doc.carriers[0].at[2].keys.map((k) => k.frame + ':' + k.value).join() === '1:0,96:4.75'`)
	// The path rides on it, the tread rolls with it: it grips.
	r.rack("Loop")
	r.pick("Rides on", "Carrier")
	r.storedIs(`s.doc.paths[0].carrier === 'carrier'`)
	r.rack("Tread")
	r.ok(p.Click("[data-step=travel]"))
	r.pick("Comes from", "rolling with a carrier")
	r.storedIs(`s.doc.rigs[0].travel.rolls === 'carrier'`)
	r.ok(p.Wait(`document.querySelector('[data-gauge=slip]')?.dataset.state === 'inside'`))
	r.ok(p.Wait(`document.querySelector('input[aria-label="Travel at this frame"]').value === '4.750'`))
	// At a wrong side with a gauge it would still grip while it drives straight; the other way it slips.
	r.ok(p.ClickText("the other way"))
	r.ok(p.Wait(`document.querySelector('[data-gauge=slip]')?.dataset.state === 'outside'`))
	r.ok(p.ClickText("Reverse the rolling direction"))
	r.ok(p.Wait(`document.querySelector('[data-gauge=slip]')?.dataset.state === 'inside'`))

	// A rider at the head of the tread, a tenth of a metre behind, rolling.
	r.add("Single rider on Loop")
	r.storedIs(`s.doc.rigs[1].rider.lead.rig === 'tread'`)
	r.ok(p.Type(r.labelled("Ahead by (negative: behind)"), "-0.1 m"))
	r.set("Rolls on a radius of", "50")
	r.storedIs(`s.doc.rigs[1].travel === -0.1 && s.doc.rigs[1].rider.rolling === 0.05`)
	r.ok(p.Click("[data-step=travel]"))
	r.pick("In step with", "Tread")
	r.ok(p.Wait(`document.querySelector('[data-gauge=step]')?.dataset.state === 'inside'`))

	// The carrier is lifted in the view by its upper knob, left of which its name stands.
	r.ok(p.Type(`input[aria-label="Frame"]`, "1"))
	r.rack("Carrier")
	r.ok(p.Still())
	at := eval[[2]float64](r, `(() => { const b = [...document.querySelectorAll('[data-testid=view] div')].find((e) => e.childElementCount === 0 && e.textContent === 'Carrier').getBoundingClientRect(); return [b.left - 10, b.top + 0.6 * b.height] })()`)
	r.ok(p.Drag(at[0], at[1], at[0], at[1]-60))
	r.storedIs(`s.doc.carriers[0].at[1].keys?.[0].value > 0.1 && s.doc.carriers[0].at[0].keys?.[0].value === 0`)
	r.ok(p.Wait(saved))
	r.ok(p.Key("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	r.storedIs(`s.doc.carriers[0].at[1].keys?.[0].value === 0`)

	// A second carrier takes the first aboard: nothing moves.
	r.add("Carrier")
	r.ok(p.Type(r.labelled("X"), "3 m"))
	r.ok(p.Type(r.labelled("Heading"), "90"))
	r.storedIs(`s.doc.carriers[1].at[0] === 3 && s.doc.carriers[1].turn.heading === 90`)
	r.rack("Carrier")
	r.pick("Rides on", "Carrier 2")
	r.storedIs(`s.doc.carriers[0].parent === 'carrier-2' && s.doc.carriers[0].at[0].keys?.length === 96`)
	r.ok(p.Wait(`document.querySelector('` + r.labelled("Z") + `').value === '-3.000'`))
	r.noErrors()
}

// rack chooses a thing of the rack by its whole name.
func (r *rigged) rack(name string) {
	r.t.Helper()
	r.ok(r.page.Wait(fmt.Sprintf(`[...document.querySelectorAll('section[aria-label=Rack] button')].some((b) => b.textContent === %q && (b.click(), true))`, name)))
	r.ok(r.page.Wait(fmt.Sprintf(`document.querySelector('section[aria-label=Rack] button[aria-pressed=true]')?.textContent === %q`, name)))
}

// From an empty scene: a drawn line is pulled by a keyed tug, plates arrive along it,
// the loop solver's first offer is taken, and two that are out of step are brought
// into step.
func TestTugsArrivalsAndLoops(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.add("Spline")
	r.ok(p.ClickText("Add a handle that pulls these points"))
	r.ok(p.Click(`button[aria-label="Point 2"]`))
	r.ok(p.Click(`button[aria-label="Point 1"]`))
	r.storedIs(`s.doc.tugs[0].points.join() === '2'`)
	r.ok(p.Type(r.labelled("Falls off over"), "1.5 m"))
	r.ok(p.Type(r.labelled("Pull y"), "400"))
	r.storedIs(`s.doc.tugs[0].reach === 1.5 && s.doc.tugs[0].pull[1] === 0.4`)
	// Keys from the time strip, another value at the end.
	r.ok(p.ClickText("Key Handle"))
	r.storedIs(`s.doc.tugs[0].pull.every((v) => v.keys?.length === 1)`)
	r.ok(p.Type(`input[aria-label="Frame"]`, "96"))
	r.ok(p.Type(r.labelled("Pull y"), "-100"))
	r.storedIs(`s.doc.tugs[0].pull[1].keys.length === 2`)
	// Where a value comes from opens beside it: pull x follows pull y.
	r.ok(p.Click(`button[aria-label="Where pull x comes from"]`))
	r.pick("Comes from", "another value")
	r.storedIs(`s.doc.tugs[0].pull[0].of?.startsWith('tugs/')`)
	r.ok(p.Key("\x1b"))
	r.ok(p.Wait(`!document.querySelector('.MuiPopover-root')`))

	// A train whose pieces arrive.
	r.rack("Spline")
	r.ok(p.ClickText("Put a train on this path"))
	r.ok(p.BenchReady())
	r.ok(p.Click("[data-step=travel]"))
	r.ok(p.ClickText("Pieces arrive one after another"))
	r.storedIs(`s.doc.rigs[0].train.arrive?.takes > 0`)
	r.ok(p.Type(r.labelled("Takes"), "10"))
	r.ok(p.ClickText("from the end"))
	r.storedIs(`s.doc.rigs[0].train.arrive.takes === 10 && s.doc.rigs[0].train.arrive.end === 'end'`)
	r.ok(p.ClickText("Pieces arrive one after another"))
	r.storedIs(`!s.doc.rigs[0].train.arrive`)

	// Out of step: keys against eased keys. The difference is the smoothstep's, and a press mends it.
	r.pick("Comes from", "keys")
	r.ok(p.Click(`button[aria-label="More for Spline train"]`))
	r.ok(p.ClickText("Duplicate"))
	r.storedIs(`s.doc.rigs.length === 2`)
	r.pick("In step with", "Spline train")
	r.ok(p.Wait(`document.querySelector('[data-gauge=step]')?.dataset.state === 'inside'`))
	r.ok(p.Click(`[role=combobox]:has(+ input[aria-label="Shape after frame 1"]), div:has(> input[aria-label="Shape after frame 1"]) [role=combobox], [role=combobox][aria-label="Shape after frame 1"]`))
	r.ok(p.ClickText("eased"))
	// sqrt(3)/18 of a metre at the worst; at whole frames a little less.
	r.ok(p.Wait(`document.querySelector('[data-gauge=step]')?.dataset.state === 'outside' && document.querySelector('[data-gauge=step]').textContent.includes('96.2')`))
	r.ok(p.Key("g"))
	r.ok(p.Click(`[aria-label="What is shown"] button[value="in step"]`))
	r.ok(p.Wait(`document.querySelectorAll('[data-testid=step-plot] path').length === 2 && document.querySelector('[data-testid=step-worst]').textContent.includes('96.2 mm')`))
	r.ok(p.ClickText("Take the key shapes of Spline train"))
	r.ok(p.Wait(`document.querySelector('[data-gauge=step]')?.dataset.state === 'inside'`))

	// The loop brace opens the solver: of pieces that run off an open path it says why there is
	// no loop. Once they come round, an offer is taken.
	r.pick("Comes from", "a constant speed")
	x, y := r.middle(`[data-testid=loop-brace]`)
	r.ok(p.ClickAt(x, y))
	r.ok(p.Type(r.labelled("Wished length"), "60"))
	r.ok(p.Wait(`document.body.textContent.includes("does not come back")`))
	r.ok(p.Key("\x1b"))
	r.ok(p.Click("[data-step=spacing]"))
	r.pick("Past the end", "come round")
	r.storedIs(`s.doc.rigs[1].train.pastEnd === 'come round'`)
	// The pull on the path is to be the same at the end.
	r.rack("Handle")
	r.ok(p.Click(`button[aria-label="Where pull y comes from"]`))
	r.pick("Comes from", "by hand")
	r.ok(p.Key("\x1b"))
	r.storedIs(`typeof s.doc.tugs[0].pull[1] === 'number'`)
	r.rack("Spline train 2")
	r.ok(p.ClickAt(x, y))
	r.ok(p.Type(r.labelled("Wished length"), "60"))
	r.ok(p.Wait(`document.querySelectorAll('[data-testid=loop-offer]').length > 2 && document.querySelector('[data-testid=loop-offer]').textContent.includes(' f')`))
	r.ok(p.Click(`[data-testid=loop-offer]`))
	r.storedIs(`s.doc.range.last < 80 && s.doc.rigs[1].travel.speed > 0`)
	r.noErrors()
}
