package browser_test

import (
	"fmt"
	"testing"
)

// From an empty scene to a chain of 84 links on 17 and 38 teeth: wheels are taken out,
// given teeth, and moved to where the chain closes; a wheel that lies within another is
// refused by name and put back.
func TestChainByHand(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.add("Belt round wheels")
	r.ok(p.Wait(`document.querySelectorAll('[aria-label="Wheels in the belt\'s order"] button').length === 4`))
	for _, wheel := range []string{"4 Road wheel 2", "3 Road wheel 1"} {
		r.ok(p.ClickText(wheel))
		r.ok(p.ClickText("Remove it"))
	}
	r.storedIs(`s.doc.paths[0].shape.wrap.wheels.length === 2`)
	for i, teeth := range []string{"17", "38"} {
		r.ok(p.Click([]string{`[aria-label="Wheels in the belt's order"] button:nth-child(1)`, `[aria-label="Wheels in the belt's order"] button:nth-child(2)`}[i]))
		r.set("Teeth", teeth)
		r.ok(p.Type(r.labelled("Pitch of its teeth"), "12.7"))
	}
	r.storedIs(`s.doc.paths[0].shape.wrap.wheels.map((w) => w.teeth + ':' + w.pitch).join() === '17:0.0127,38:0.0127'`)
	r.ok(p.Type(`input[aria-label="Centre y"]`, "800"))
	r.ok(p.Type(`input[aria-label="Centre z"]`, "-850"))
	// 350 mm apart the chain is about 83 pitches long; it closes with 84 a little farther off.
	r.ok(p.Wait(`document.querySelector('[data-testid=chain]')?.textContent.includes('ratio 2.2353')`))
	// Other teeth than the links: said at once.
	r.ok(p.ClickText("84 links"))
	r.ok(p.Type(r.labelled("Pitch of its teeth"), "12.5"))
	r.ok(p.Wait(`document.querySelector('[data-testid=odd-teeth]')?.textContent.includes('they do not mesh')`))
	r.ok(p.ClickText("Cut the teeth for the links"))
	r.ok(p.Wait(`!document.querySelector('[data-testid=odd-teeth]')`))
	// The length is kept, and the lower run hangs by a tenth of a pitch: 0.3558071 m apart the
	// chain would be drawn straight (the closed form of two circles, docs/geometry).
	r.storedIs(`((k, w) => k.links === 84 && k.pins && w[1].slack && w[1].at[2] + 1.2 < 0.3558071 && w[1].at[2] + 1.2 > 0.3545)(s.doc.paths[0].shape.wrap.keep, s.doc.paths[0].shape.wrap.wheels)`)
	r.ok(p.ClickText("Put a train on this path"))
	r.ok(p.BenchReady())
	r.storedIs(`s.doc.rigs[0].train.seat === 'ends' && s.doc.rigs[0].train.spacing.count === 84 && s.doc.rigs[0].train.others[0].every === 2`)
	r.ok(p.Click("[data-step=travel]"))
	r.pick("Comes from", "the rpm of a wheel")
	r.storedIs(`Math.abs(s.doc.rigs[0].travel.radius - 17 * 0.0127 / 2 / Math.PI) < 1e-9`)
	// A driver's turns that bring whole pairs of links round: all that is measured is in.
	r.ok(p.Type(r.labelled("Turns a minute"), "30"))
	r.ok(p.Wait(`document.querySelectorAll('[data-gauge]').length >= 8 && [...document.querySelectorAll('[data-gauge]')].every((g) => g.dataset.state === 'inside')`))
	r.ok(p.Click("[data-step=path]"))
	r.ok(p.Wait(`document.querySelectorAll('[data-testid=contact]').length === 2`))
	// The driven sprocket is pulled away in the view: too short at once, and a press uses
	// more links.
	r.ok(p.Draw())
	r.ok(p.ClickText("Side"))
	r.ok(p.Still())
	r.ok(p.Click(`[aria-label="Wheels in the belt's order"] button:nth-child(2)`))
	before := eval[float64](r, stored+`.then((s) => s.doc.paths[0].shape.wrap.wheels[1].at[2])`)
	x, y := r.wheelMark()
	r.ok(p.Drag(x, y, x-60, y))
	r.storedIs(fmt.Sprintf(`Math.abs(s.doc.paths[0].shape.wrap.wheels[1].at[2] - %g) > 0.01`, before))
	r.ok(p.Wait(`document.querySelector('[data-gauge=tension]')?.dataset.state === 'outside'`))
	r.ok(p.Click(`[data-gauge=tension]`))
	r.ok(p.ClickText("Use "))
	r.storedIs(`s.doc.paths[0].shape.wrap.keep.links !== 84 && s.doc.rigs[0].train.spacing.count === s.doc.paths[0].shape.wrap.keep.links`)
	r.ok(p.Wait(`document.querySelector('[data-gauge=tension]')?.dataset.state === 'inside'`))
	r.ok(p.Key("\x1b"))
	// Onto the other: refused by name, and put back.
	r.ok(p.Type(`input[aria-label="Centre z"]`, "-1200"))
	r.ok(p.Wait(`document.querySelector('[role=alert]')?.textContent.includes('no way for the belt from Sprocket to Idler')`))
	r.ok(p.ClickText("Put back what was there"))
	r.ok(p.Wait(`!document.querySelector('[role=alert]')`))
	r.noErrors()
}

// wheelMark is where the chosen wheel's mark is seen: the middle of the plain orange spot
// in the view.
func (r *rigged) wheelMark() (x, y float64) {
	r.t.Helper()
	r.ok(r.page.Still())
	v := eval[[]float64](r, `(() => {
	  const c = document.querySelector('[data-testid=view] canvas'), k = document.createElement('canvas')
	  k.width = c.width; k.height = c.height
	  const g = k.getContext('2d'); g.drawImage(c, 0, 0)
	  const d = g.getImageData(0, 0, k.width, k.height).data
	  const near = (i) => Math.abs(d[i] - 217) + Math.abs(d[i + 1] - 87) + Math.abs(d[i + 2] - 43) < 30
	  // The pixel with most of its kind about it: a spot, not a line.
	  let best = [0, 0, 0]
	  const b = c.getBoundingClientRect(), fine = k.width / b.width // pixels of the picture a pixel of the page
	  const R = Math.max(Math.round(3 * fine), 1), far = 11 * fine
	  for (let y = 12; y < k.height - 12; y++) for (let x = 12; x < k.width - 12; x++) {
	    if (!near(4 * (y * k.width + x))) continue
	    let n = 0
	    for (let j = -R; j <= R; j++) for (let i = -R; i <= R; i++) if (near(4 * ((y + j) * k.width + x + i))) n++
	    // Not within a larger field of it: a piece that is tinted.
	    for (let a = 0; a < 16; a++) if (near(4 * (Math.round(y + far * Math.sin(a * Math.PI / 8)) * k.width + Math.round(x + far * Math.cos(a * Math.PI / 8))))) n -= 8
	    if (n > best[0]) best = [n, x, y]
	  }
	  return [best[0] / fine ** 2, b.left + best[1] * b.width / k.width, b.top + best[2] * b.height / k.height]
	})()`)
	if v[0] < 30 {
		r.t.Fatalf("no mark of the chosen wheel in the view: %v", v)
	}
	return v[1], v[2]
}

// A tread begins with three answers and works: on a hump, its chassis rides, nothing slips;
// the ground is changed in its panel, and undone.
func TestTreadBegins(t *testing.T) {
	r := setup(t)
	p := r.page
	r.scenes()
	r.ok(p.ClickText("Tread"))
	r.ok(p.ClickText("hump"))
	r.ok(p.Type(r.labelled("How long is it?"), "0")) // and Enter begins
	r.ok(p.Wait(`document.querySelector('[role=dialog] [role=alert]')?.textContent.includes('from 0.05')`))
	r.ok(p.Type(r.labelled("How long is it?"), "2.7"))
	r.ok(p.BenchReady())
	r.storedIs(`s.doc.rigs[0].train.seat === 'ends' && s.doc.carriers[0].ground.soften === 5 && s.doc.ground.humps.length === 1`)
	r.ok(p.Wait(`['tension', 'teeth', 'slip', 'floor', 'loop'].every((g) => document.querySelector('[data-gauge=' + g + ']')?.dataset.state === 'inside')`))
	r.ok(p.Click("[data-step=path]"))
	r.ok(p.Wait(`document.querySelector('[data-testid=belt]')?.textContent.includes('sags')`))
	r.ok(p.ClickText("a hump"))
	r.ok(p.ClickText("Add a hump"))
	r.storedIs(`s.doc.ground.humps.length === 2`)
	r.ok(p.Wait(`document.querySelectorAll('[aria-label^="Hump "]').length === 2`))
	r.ok(p.Click(`button[aria-label="Remove hump 2"]`))
	r.storedIs(`s.doc.ground.humps.length === 1`)
	r.ok(p.ClickText("Make it rough"))
	r.storedIs(`s.doc.ground.rough.seed === 1`)
	r.ok(p.ClickText("Take it away"))
	r.storedIs(`!s.doc.ground.rough`)
	r.ok(p.Key("\x1b"))
	// A road wheel on a slide; the sprocket takes its turn in another order and is found again.
	r.ok(p.ClickText("9 Road wheel 5"))
	r.ok(p.ClickText("vertical slide"))
	r.storedIs(`s.doc.paths[0].shape.wrap.wheels[8].spring.up > 0 && !s.doc.paths[0].shape.wrap.wheels[8].spring.arm`)
	r.ok(p.ClickText("1 Sprocket, 15 teeth"))
	r.ok(p.ClickText("Later"))
	r.storedIs(`s.doc.paths[0].shape.wrap.wheels[1].name === 'Sprocket'`)
	r.ok(p.ClickText("Later"))
	// In that order it would go round twice: it says so, and which order would do.
	r.ok(p.Wait(`document.querySelector('[role=alert]')?.textContent.includes('round the outside: ')`))
	r.ok(p.ClickText("Order them round the outside"))
	r.storedIs(`s.doc.paths[0].shape.wrap.wheels.map((w) => w.name[0]).join('').match(/SRRIRRRRR|RRIRRRRRS|RIRRRRRSR|IRRRRRSRR|RRRRRSRRI|RRRRSRRIR|RRRSRRIRR|RRSRRIRRR|RSRRIRRRR/) && s.doc.paths[0].shape.wrap.wheels[s.doc.paths[0].shape.wrap.anchor - 1].name === 'Road wheel 1'`)
	r.ok(p.Wait(`!document.querySelector('[role=alert]')`))
}
