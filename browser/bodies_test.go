package browser_test

import "testing"

// From an empty scene to an eel that swims an S and opens its jaw, by hand: a path, a body, a wave that
// loops, keys of the jaw, a reach pulled on the length strip, and what the checks say on the way.
func TestEelByHand(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.add("Spline")
	r.ok(p.Wait(`document.querySelectorAll('[data-testid=view] canvas').length === 1`))
	r.add("Body that bends on Spline")
	r.storedIs(`s.doc.rigs[0].body && s.doc.parts.some((x) => x.shape.eel)`)
	r.ok(p.BenchReady())
	// It is drawn as it is bent: the sleeve on the strip is as long as it.
	r.ok(p.Wait(`!!document.querySelector('[data-testid=sleeve] rect')`))
	r.ok(p.Wait(`['length', 'facets', 'fold', 'strain', 'ends', 'flips'].every((g) => document.querySelector('[data-gauge=' + g + ']')?.dataset.state !== 'outside')`))

	// A wave: whole waves over the range, so that the loop meets.
	r.ok(p.Click("[data-step=liveliness]"))
	r.ok(p.ClickText("Add wave"))
	r.storedIs(`s.doc.paths[0].steps[0].wave.phase.speed === -1`)
	r.ok(p.Wait(`document.querySelector('[data-gauge=loop]')?.dataset.state === 'inside'`))

	// The jaw: shut at the first frame, open at the middle, shut again.
	r.ok(p.ClickText("Use the blend jaw"))
	r.storedIs(`s.doc.rigs[0].body.blends[0].name === 'jaw'`)
	for _, k := range [][2]string{{"1", "0"}, {"48", "1"}, {"96", "0"}} {
		r.ok(p.Type(`input[aria-label="Frame"]`, k[0]))
		if k[0] == "1" {
			r.ok(p.Click(`button[aria-label*="blend jaw" i]`))
			continue
		}
		if k[0] == "96" { // what is held there from the key before
			r.ok(p.Wait(`document.querySelector('[aria-label="Blend jaw"] input').value === '1'`))
		}
		r.ok(p.Type(r.labelled("Blend jaw, 0–1"), k[1]))
	}
	r.storedIs(`s.doc.rigs[0].body.blends[0].amount.keys.map((k) => k.frame + ':' + k.value).join() === '1:0,48:1,96:0'`)

	// It stretches out and closes up: tail and head pulled apart on the strip.
	r.ok(p.Click("[data-step=bend]"))
	r.ok(p.ClickText("reach"))
	r.storedIs(`s.doc.rigs[0].body.fit === 'reach' && s.doc.rigs[0].body.head > 1`)
	x := eval[float64](r, `(() => { const b = document.querySelector('[data-testid=sleeve-head]').getBoundingClientRect(); return b.x + b.width / 2 })()`)
	y := eval[float64](r, `(() => { const b = document.querySelector('[data-testid=sleeve-head]').getBoundingClientRect(); return b.y + b.height / 2 })()`)
	r.ok(p.Drag(x, y, x+120, y))
	r.storedIs(`s.doc.rigs[0].body.head > 1.4`)
	r.ok(p.Wait(`document.querySelector('[data-gauge=length]')?.textContent.includes('as asked')`))
	r.ok(p.ClickText("own length"))
	r.storedIs(`s.doc.rigs[0].body.fit === 'own length'`)

	// A body much too thick for the bends folds, and the check says where and what to press.
	r.ok(p.Click("[data-step=part]"))
	r.ok(p.Type(r.labelled("Length"), "700"))
	r.ok(p.Type(r.labelled("Girth"), "340"))
	r.ok(p.Wait(`document.querySelector('[data-gauge=strain]')?.dataset.state === 'outside'`))
	r.ok(p.Click(`[data-gauge=strain]`))
	// What is offered after a look at a few frames may not do for all of them.
	r.ok(p.Wait(`document.body.textContent.includes('in every frame')`))
	r.ok(p.ClickText("as thick"))
	r.ok(p.Wait(`document.querySelector('[data-gauge=strain]')?.dataset.state !== 'outside'`))
	r.ok(p.Key("\x1b"))

	// Undone, over a reload, too.
	r.ok(p.Reload())
	r.ok(p.BenchReady())
	r.ok(p.Click(`button[aria-label^="Undo"]`))
	r.storedIs(`s.doc.rigs[0].body.taper === undefined`)

	// Planks that bend: a train's pieces, beside the number that lets a person choose.
	r.add("Pieces in a row on Spline")
	r.ok(p.Click("[data-step=seat]"))
	r.ok(p.Wait(`document.body.textContent.includes('Rigid and bent differ by')`))
	r.ok(p.ClickText("bent"))
	r.storedIs(`s.doc.rigs[1].train.seat === 'bent'`)
	r.ok(p.Wait(`document.querySelectorAll('[data-testid=sleeve] rect').length > 1`))
	r.noErrors()
}

// A cable begins with its questions, and hangs from what holds it.
func TestCableBegins(t *testing.T) {
	r := setup(t)
	p := r.page
	r.scenes()
	r.ok(p.ClickText("Cable"))
	r.ok(p.Wait(`!!document.querySelector('[role=dialog]')`))
	r.ok(p.Type(`[role=dialog] input`, "3"))
	r.ok(p.BenchReady())
	r.storedIs(`s.doc.paths[0].shape.hang.length === 5 && s.doc.paths[0].shape.hang.toCarrier === 'holder' && s.doc.parts[0].shape.strands.count === 3`)
	r.ok(p.Wait(`['length', 'facets', 'floor', 'loop'].every((g) => document.querySelector('[data-gauge=' + g + ']')?.dataset.state === 'inside')`))
	r.noErrors()
}
