package browser_test

import "testing"

// A roll from an empty scene: put on a line, made to end with it, wound the other way, and refused
// with a core larger than itself.
func TestRollByHand(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.add("Line")
	r.add("Roll that lays out a sheet on Line")
	r.storedIs(`s.doc.rigs[0].payout.core > 0 && s.doc.parts.some((x) => x.shape.tube)`)
	r.ok(p.BenchReady())
	r.ok(p.Wait(`['contact', 'dips', 'strain', 'floor'].every((g) => document.querySelector('[data-gauge=' + g + ']')?.dataset.state === 'inside')`))
	r.ok(p.Type(`input[aria-label="Frame"]`, "48"))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=radius]') && !!document.querySelector('[data-testid=sleeve] rect')`))
	r.ok(p.Type(r.labelled("Sheet thickness"), "2*3 mm"))
	r.storedIs(`s.doc.rigs[0].payout.thickness === 0.006`)
	r.ok(p.ClickText("End with the path: radius"))
	r.storedIs(`Math.abs(Math.PI * (s.doc.rigs[0].payout.radius ** 2 - s.doc.rigs[0].payout.core ** 2) / 0.006 - 4) < 1e-6`)
	r.ok(p.Wait(`!document.body.textContent.includes('End with the path')`))
	r.ok(p.ClickText("winds up"))
	r.storedIs(`s.doc.rigs[0].payout.winds === true`)
	r.ok(p.Wait(`document.querySelector('[data-gauge=contact]')?.dataset.state === 'inside'`))
	r.ok(p.Type(r.labelled("Core radius"), "2 m"))
	r.ok(p.Wait(`document.body.textContent.includes("leaves nothing on a roll")`))
	r.ok(p.Type(r.labelled("Core radius"), "40 mm"))
	r.storedIs(`s.doc.rigs[0].payout.core === 0.04`)
	r.noErrors()
}

// A drum on a hanging cable: it pays out, and the cable is longer for it.
func TestDrumByHand(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.add("Hanging cable")
	r.add("Drum that pays out Hanging cable")
	r.storedIs(`s.doc.rigs[0].drum.wound > 0`)
	r.ok(p.Wait(`document.querySelector('[data-gauge=tension]')?.dataset.state === 'inside'`))
	r.ok(p.Type(r.labelled("Rope diameter"), "25 mm"))
	r.storedIs(`s.doc.rigs[0].drum.rope === 0.025`)
	r.ok(p.ClickText("from below"))
	r.storedIs(`s.doc.rigs[0].drum.under === true`)
	r.ok(p.Wait(`document.body.textContent.includes('Across its rope')`))
	r.noErrors()
}

// From an empty scene: a belt round wheels is opened, hangs from its last wheel, and a drum pays it out; closed
// again it is a belt as before, without its drum.
func TestOpenBeltByHand(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.add("Belt round wheels")
	r.ok(p.ClickText("hangs from its last wheel"))
	r.storedIs(`s.doc.paths[0].shape.wrap.ends.length > 0`)
	r.ok(p.Wait(`document.body.textContent.includes('Hangs at first') && !document.body.textContent.includes('Distances begin at')`))
	r.add("Drum that pays out Belt round wheels")
	r.storedIs(`s.doc.rigs[0].drum && s.doc.paths[0].shape.wrap.ends.drum === s.doc.rigs[0].id`)
	r.gauge("tension", "inside")
	r.ok(p.Click("[data-step=path]"))
	r.ok(p.Type(r.labelled("Off its drum at first"), "0.5 m"))
	r.ok(p.Wait(`document.body.textContent.includes('too short to come over its last wheel')`))
	r.ok(p.ClickText("Put back what was there"))
	r.ok(p.ClickText("goes round"))
	r.storedIs(`!s.doc.paths[0].shape.wrap.ends && s.doc.rigs.length === 0`)
	r.noErrors()
}
