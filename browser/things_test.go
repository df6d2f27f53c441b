package browser_test

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// What is chosen is duplicated, renamed, copied with all it needs into another scene, and deleted,
// by key and by the menu of a right-click in the rack and in the view.
func TestThings(t *testing.T) {
	r := setup(t)
	p := r.page
	ctrl := chromedp.KeyModifiers(chromedp.ModifierCtrl)
	r.simpleTread()
	r.ok(p.BenchReady())
	r.ok(p.Wait(`document.querySelector('section[aria-label=Rack] button[aria-pressed=true]') !== null`))
	r.ok(p.Key("d", ctrl))
	r.storedIs(`s.doc.rigs.length === 2 && s.doc.rigs[1].path === s.doc.rigs[0].path`)
	r.ok(p.Key(kb.F2))
	r.ok(p.Wait(`document.activeElement.getAttribute('aria-label') === 'Name of the rig'`))
	r.ok(p.Key("Other side\r"))
	r.storedIs(`s.doc.rigs[1].name === 'Other side'`)
	r.ok(p.Key(kb.Delete))
	r.storedIs(`s.doc.rigs.length === 1`)
	r.ok(p.Key("z", ctrl))
	r.storedIs(`s.doc.rigs.length === 2`)
	r.rack("Other side")
	r.ok(p.Draw())
	r.ok(p.Key("n")) // goes near it
	r.ok(p.Still())

	// In the view: the tinted first piece of the other rig lies at the same place.
	x, y := r.orange()
	r.ok(p.RightClickAt(x, y))
	r.ok(p.ClickText("Delete"))
	r.storedIs(`s.doc.rigs.length === 1`)
	x, y = r.middle(`[data-testid=strip-start]`)
	r.ok(p.RightClickAt(x, y)) // on the strip: what it shows
	r.ok(p.ClickText("Copy"))
	r.ok(p.Wait(`document.body.textContent.includes('is copied, with all that it needs')`))
	r.ok(p.Wait(saved))

	// The scene is kept as a beginning, and one of its own begins with it.
	r.ok(p.Open(r.prog.URL))
	r.ok(p.Click(`button[aria-label^="More for"]`))
	r.ok(p.ClickText("Keep as a beginning too"))
	r.ok(p.ClickText("A beginning of your own"))
	r.storedIs(`s.revision === 1 && s.doc.rigs.length === 1 && !s.doc.name.endsWith('copy')`)

	r.ok(p.Open(r.prog.URL))
	r.empty()
	r.ok(p.Key("v", ctrl))
	r.storedIs(`s.doc.rigs.length === 1 && s.doc.paths.length === 1 && s.doc.parts.length === 1 && s.doc.rigs[0].path === s.doc.paths[0].id`)
	r.ok(p.BenchReady())
	r.ok(p.Key("v", ctrl)) // what it needs is there already
	r.storedIs(`s.doc.rigs.length === 2 && s.doc.paths.length === 1 && s.doc.parts.length === 1`)
	r.noErrors()
}
