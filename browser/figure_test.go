package browser_test

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// A figure from an empty scene: its file is chosen, it goes along a weave by its own pace with feet that
// stand; its way is made wider, a joint is turned on top by a key, an end of a plant is moved, and it is
// delivered as BVH on its own joints.
func TestFigureByHand(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	crab, err := filepath.Abs("../demo/parts/crab.glb")
	r.ok(err)
	r.ok(p.Choose(`[data-testid=import-figure]`, crab))
	r.ok(p.Wait(`document.querySelector('[role=dialog]')?.textContent.includes('a round, along +x')`))
	r.ok(p.ClickText("Send it along"))
	r.storedIs(`s.doc.rigs[0].cycle && s.doc.paths[0].shape.weave.bends === 2 && Math.abs(s.doc.rigs[0].travel.speed - 0.24) < 1e-9 && s.doc.parts.at(-1).forward === '+x'`)
	r.ok(p.BenchReady())
	for _, g := range []string{"slide", "reach", "sink", "stride", "joints"} {
		r.gauge(g, "inside")
	}
	r.ok(p.Wait(`document.querySelectorAll('[data-testid=feet] rect[role=slider]').length === 16 && !!document.querySelector('[data-testid=foot-bars] line')`))
	// Its way is wider: nothing is attached anew.
	r.ok(p.Click("[data-step=path]"))
	r.ok(p.Type(r.labelled("Width"), "0.5 m"))
	r.storedIs(`s.doc.paths[0].shape.weave.width === 0.5`)
	r.gauge("slide", "inside")
	r.ok(p.Click("[data-step=cycle]"))
	// A foot is let stand a little shorter.
	r.ok(p.Wait(`!!document.querySelector('[data-testid=feet]')`))
	_ = eval[bool](r, `(document.querySelector('[data-testid=feet] rect[aria-label$=until]').focus(), true)`)
	r.ok(p.Key(kb.ArrowLeft))
	r.storedIs(`s.doc.rigs[0].cycle.feet?.length === 8 && s.doc.rigs[0].cycle.feet[0].plants[0][1] < 0.541`)
	r.ok(p.ClickText("Find its feet again"))
	r.storedIs(`!s.doc.rigs[0].cycle.feet`)
	// So it is on the time strip, by pulling the end of its bar.
	r.ok(p.Wait(`!!document.querySelector('[data-testid=foot-bars] rect[data-end$=until]')`))
	x, y := r.middle(`[data-testid=foot-bars] rect[data-end$=until]`)
	stood := eval[float64](r, `Number(document.querySelector('[data-testid=feet] rect[aria-label$=until]').getAttribute('aria-valuenow'))`)
	r.ok(p.Drag(x, y, x-12, y))
	r.storedIs(fmt.Sprintf(`s.doc.rigs[0].cycle.feet?.length === 8 && s.doc.rigs[0].cycle.feet[0].plants[0][1] < %g`, stood-0.03))
	r.ok(p.Key("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	r.storedIs(`!s.doc.rigs[0].cycle.feet`)
	// Its claws are raised on top.
	r.ok(p.ClickText("Joints, 31"))
	r.ok(p.Type(`input[aria-label="Find a joint"]`, "arm"))
	r.ok(p.ClickText("left arm"))
	r.ok(p.ClickText("right arm"))
	r.ok(p.Type(`input[aria-label="Name of the set"]`, "claws"))
	r.ok(p.ClickText("Keep as a set"))
	r.storedIs(`s.doc.rigs[0].cycle.sets[0].joints.length === 2`)
	// They stand where the way puts them, and by the root alone again.
	r.ok(p.ClickText("Turn with the way where they are"))
	r.ok(p.ClickText("stretch to the way"))
	r.storedIs(`s.doc.rigs[0].cycle.bones === 'drawn' && s.doc.rigs[0].cycle.follow.length > 0`)
	r.ok(p.ClickText("By the root alone"))
	r.storedIs(`!s.doc.rigs[0].cycle.follow`)
	r.ok(p.ClickText("Turn or shift them on top"))
	r.storedIs(`s.doc.rigs[0].cycle.layers[0].joints.join() === 'claws'`)
	r.ok(p.Type(r.labelled("Nose up"), "30"))
	r.storedIs(`s.doc.rigs[0].cycle.layers[0].pitch === 30`)
	r.ok(p.Key("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	r.storedIs(`!s.doc.rigs[0].cycle.layers[0].pitch`)
	// Delivered on its own joints.
	r.ok(p.ClickText("Deliver"))
	r.pick("Format", "bvh")
	r.ok(p.ClickText("stay in place"))
	r.ok(p.ClickText("Bake"))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=baked]')`))
	text := eval[string](r, `fetch('/api/bakes/' + document.querySelector('[data-testid=baked]').dataset.job + '/file').then((r) => r.text())`)
	if !strings.HasPrefix(text, "HIERARCHY\nROOT shell") || !strings.Contains(text, "Frames: 96") {
		t.Errorf("the BVH begins with %.60q", text)
	}
	// A file that is none is refused in words.
	bad := filepath.Join(r.dir, "bad.bvh")
	r.ok(writeFile(bad, "HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\nCHANNELS 3 Xrotation Yrotation\n}\nMOTION\nFrames: 0\nFrame Time: 1\n"))
	r.ok(p.Choose(`[data-testid=import-figure]`, bad))
	r.ok(p.Wait(`document.body.textContent.includes('is no channel')`))
	// Of two values that move, each has a colour of its own in the graph and the name that it has for people.
	r.openDemo("crab-patrol")
	r.ok(p.ClickText("Graph"))
	r.ok(p.Wait(`(() => {
	  const lines = [...document.querySelectorAll('svg[aria-label^="Graph of the values"] g[clip-path] > g')]
	  return lines.length === 2 && new Set(lines.map((g) => g.querySelector('path').getAttribute('stroke'))).size === 2
	    && lines.map((g) => g.querySelector('text').textContent).join() === 'travel,raises its claws pitch'
	})()`))
}
