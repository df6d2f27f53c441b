package browser_test

import "testing"

// A falling row from an empty scene: standing blocks on a line let fall, both ways, by a speed, and by
// a rider that comes along.
func TestFallsByHand(t *testing.T) {
	r := setup(t)
	p := r.page
	r.openDemo("breakwater")
	r.ok(p.ClickText("Armour slabs"))
	r.ok(p.ClickText("Travel"))
	r.ok(p.Wait(`document.querySelector('[data-gauge=fall]')?.dataset.state === 'inside' && document.body.textContent.includes('let go at frame')`))
	r.pick("Set off", "pushed by a speed")
	r.storedIs(`s.doc.rigs[0].train.fall.speed === 60 && !s.doc.rigs[0].train.fall.rig`)
	r.ok(p.Type(r.labelled("Pushed by"), "10"))
	r.ok(p.Wait(`document.body.textContent.includes('comes to a stop before it balances')`))
	r.ok(p.Type(r.labelled("Pushed by"), "90"))
	r.storedIs(`s.doc.rigs[0].train.fall.speed === 90`)
	r.ok(p.ClickText("middle, both ways"))
	r.storedIs(`s.doc.rigs[0].train.fall.from === 'both'`)
	r.ok(p.Wait(`document.body.textContent.includes('60 of 60')`))
	r.ok(p.Type(r.labelled("First ahead, piece"), "20"))
	r.storedIs(`s.doc.rigs[0].train.fall.piece === 20`)
	r.pick("Set off", "touched by Drifting fender")
	r.storedIs(`s.doc.rigs[0].train.fall.rig === 'fender' && !s.doc.rigs[0].train.fall.speed`)
	r.ok(p.Wait(`document.body.textContent.includes('piece 1') && document.querySelector('[data-gauge=fall]')?.dataset.state === 'inside'`))
	r.noErrors()
}
