package browser_test

import (
	"fmt"
	"strings"
	"testing"
)

// add chooses an entry of the rack's Add menu.
func (r *rigged) add(entry string) {
	r.t.Helper()
	r.ok(r.page.ClickText("Add"))
	r.ok(r.page.ClickText(entry))
	r.ok(r.page.Wait(`!document.querySelector('[role=dialog]')`))
}

// pick chooses an option of a folded-up choice by its label.
func (r *rigged) pick(label, option string) {
	r.t.Helper()
	mark := fmt.Sprintf(`(() => { const l = [...document.querySelectorAll('[id]')].find((e) => e.textContent.trim() === %q && e.childElementCount === 0);
	  const c = l && document.querySelector('[role=combobox][aria-labelledby~="' + l.id + '"]'); c?.setAttribute('data-picked', '1'); return !!c })()`, label)
	r.ok(r.page.Wait(mark))
	r.ok(r.page.Click(`[data-picked]`))
	r.ok(r.page.ClickText(option))
	r.ok(r.page.Wait(`!document.querySelector('[role=listbox]')`))
	r.ok(r.page.Wait(`(document.querySelectorAll('[data-picked]').forEach((e) => e.removeAttribute('data-picked')), true)`))
}

func (r *rigged) storedIs(condition string) {
	r.t.Helper()
	r.ok(r.page.Wait(stored + `.then((s) => (` + condition + `))`))
}

// Everything that the rack and the recipe can make or change is made, changed,
// kept and taken back.
func TestRackAndRecipe(t *testing.T) {
	r := setup(t)
	p := r.page
	r.scenes()
	r.ok(p.ClickText("Empty scene"))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=view] canvas')`))
	for i, kind := range []string{"Slot", "Circle", "Ellipse", "Line", "Spline"} {
		r.add(kind)
		r.storedIs(fmt.Sprintf(`s.doc.paths.length === %d && !!s.doc.paths[%d].shape.%s`, i+1, i, strings.ToLower(kind)))
	}
	for i, kind := range []string{"Shoe", "Box", "Float"} {
		r.add(kind)
		r.storedIs(fmt.Sprintf(`s.doc.parts.length === %d && !!s.doc.parts[%d].shape.%s`, i+2, i+1, strings.ToLower(kind)))
	}
	// A part's own axes: forward -x forces another up when it lies along it.
	r.pick("Its forward", "-y")
	r.storedIs(`s.doc.parts[3].forward === '-y' && s.doc.parts[3].up === '+z'`)
	r.pick("Its up", "-x")
	r.storedIs(`s.doc.parts[3].up === '-x'`)

	// A train on the slot, of floats, its sizes and path changed.
	r.ok(p.ClickText("Slot"))
	r.ok(p.ClickText("Put a train on this path"))
	r.ok(p.BenchReady())
	r.ok(p.Click("[data-step=part]"))
	r.pick("Made of", "Float")
	r.storedIs(`s.doc.rigs[0].part === 'float'`)
	r.ok(p.Type(r.labelled("Radius"), "9 cm"))
	r.storedIs(`s.doc.parts[3].shape.float.radius === 0.09`)
	r.ok(p.Click("[data-step=path]"))
	r.ok(p.Type(r.labelled("Straights"), "3000"))
	r.storedIs(`s.doc.paths[0].shape.slot.length === 3`)
	r.ok(p.ClickText("above"))
	r.storedIs(`s.doc.paths[0].shape.slot.plane === 'above'`)
	r.ok(p.ClickText("Turn into points to pull"))
	r.storedIs(`s.doc.paths[0].shape.spline?.closed === true`)
	r.ok(p.Click("[data-step=seat]"))
	r.ok(p.Type(r.labelled("Scale of the pieces"), "1.5"))
	r.storedIs(`s.doc.rigs[0].scale === 1.5`)
	r.ok(p.Click("[data-step=facing]"))
	r.ok(p.ClickText("least twist"))
	r.ok(p.Type(r.labelled("Extra turns"), "2"))
	r.storedIs(`s.doc.rigs[0].facing.turns === 2 && s.doc.rigs[0].facing.mode === 'least-twist'`)
	r.ok(p.Type(r.labelled("Roll"), "0.25 turn"))
	r.storedIs(`s.doc.rigs[0].facing.roll === 90`)
	r.ok(p.Click("[data-step=spacing]"))
	r.ok(p.ClickText("scatter"))
	r.storedIs(`s.doc.rigs[0].train.spacing.mode === 'scatter' && s.doc.rigs[0].train.spacing.seed === 1`)
	r.ok(p.Type(r.labelled("Evenness, 0 to 1"), "0.5"))
	r.storedIs(`s.doc.rigs[0].train.spacing.even === 0.5`)
	r.ok(p.Wait(`document.querySelector('[data-gauge=spacing]').textContent.includes('scattered')`))

	// Names, copies, units, range and rate.
	r.ok(p.Type(`input[aria-label="Name of the rig"]`, "Kelp chain"))
	r.storedIs(`s.doc.rigs[0].name === 'Kelp chain'`)
	r.ok(p.Type(`input[aria-label="Last frame of the range"]`, "48"))
	r.ok(p.Type(`input[aria-label="Frames a second"]`, "30"))
	r.storedIs(`s.doc.range.last === 48 && s.doc.fps === 30`)
	r.ok(p.Click(`button[aria-label="More for Kelp chain"]`))
	r.ok(p.ClickText("Duplicate"))
	r.storedIs(`s.doc.rigs.length === 2 && s.doc.rigs[1].name === 'Kelp chain 2'`)
	r.ok(p.Click(`button[aria-label="Scene menu"]`))
	r.pick("Small lengths in", "in")
	r.storedIs(`s.doc.units === 'in'`)
	r.ok(p.Key("\x1b"))
	r.ok(p.Wait(`!document.querySelector('[role=menu]')`))

	// Deleting a path takes its rigs; undo brings them back.
	r.ok(p.ClickText("Slot"))
	r.ok(p.Click(`button[aria-label="More for Slot"]`))
	r.ok(p.ClickText("Delete, with Kelp chain and Kelp chain 2"))
	r.storedIs(`s.doc.rigs.length === 0 && s.doc.paths.length === 4`)
	r.ok(p.Wait(saved))
	r.ok(p.Click(`button[aria-label=Undo]`))
	r.storedIs(`s.doc.rigs.length === 2 && s.doc.paths.length === 5`)
	r.ok(p.Wait(saved))

	// The history goes back to any step.
	r.ok(p.ClickText("History"))
	r.ok(p.ClickText("add a circle"))
	r.storedIs(`s.doc.paths.length === 2 && s.redo !== ''`)
	if n := eval[int](r, `document.querySelectorAll('[role=alert]:not(.MuiSnackbarContent-root)').length`); n != 0 {
		t.Errorf("%d alerts at the end", n)
	}
	for _, e := range p.Errors() {
		t.Error("page:", e)
	}
}

// Keys are set, moved by mouse, shaped and taken out; the theme stays after a
// reload; the sheet opens and closes by keyboard.
func TestKeysAndTheme(t *testing.T) {
	r := setup(t)
	p := r.page
	r.simpleTread()
	r.ok(p.BenchReady())
	r.ok(p.Type(`input[aria-label="Frame"]`, "10"))
	r.ok(p.Key("\x1b"))
	r.ok(p.Click(`button[aria-label="Set a key of travel at frame 10"]`))
	r.storedIs(`s.doc.rigs[0].travel.keys?.length === 1`)
	r.ok(p.Type(`input[aria-label="Frame"]`, "60"))
	r.ok(p.Type(`input[aria-label="Travel at this frame"]`, "1.2"))
	r.storedIs(`s.doc.rigs[0].travel.keys.length === 2 && s.doc.rigs[0].travel.keys[1].value === 1.2`)
	at := eval[[]float64](r, `(() => { const b = document.querySelector('circle[aria-label="Key of travel at frame 60"]').getBoundingClientRect(), a = document.querySelector('circle[aria-label="Key of travel at frame 10"]').getBoundingClientRect();
	  return [b.x + b.width / 2, b.y + b.height / 2, (b.x - a.x) / 50] })()`)
	r.ok(p.Drag(at[0], at[1], at[0]+12*at[2], at[1]))
	r.storedIs(`s.doc.rigs[0].travel.keys[1].frame === 72`)
	r.ok(p.Click("[data-step=travel]"))
	r.ok(p.Click(`[role=combobox][aria-label="Shape after frame 10"], div:has(> input[aria-label="Shape after frame 10"]) [role=combobox]`))
	r.ok(p.ClickText("eased"))
	r.storedIs(`s.doc.rigs[0].travel.keys[0].shape === 'eased'`)
	r.ok(p.Type(`input[aria-label="Frame"]`, "72"))
	r.ok(p.Click(`button[aria-label="Remove the key of travel at frame 72"]`))
	r.storedIs(`s.doc.rigs[0].travel.keys.length === 1`)

	r.ok(p.Click(`button[aria-label="Dark theme"]`))
	r.ok(p.Wait(`getComputedStyle(document.body).backgroundColor === 'rgb(16, 25, 30)'`))
	r.ok(p.Reload())
	r.ok(p.BenchReady())
	if dark := eval[bool](r, `getComputedStyle(document.body).backgroundColor === 'rgb(16, 25, 30)'`); !dark {
		t.Error("the theme is forgotten")
	}
	r.ok(p.Key("?"))
	r.ok(p.Wait(`document.querySelector('[role=dialog]')?.textContent.includes('Keys and gestures')`))
	r.ok(p.Key("\x1b"))
	r.ok(p.Wait(`!document.querySelector('[role=dialog]')`))
	// Space plays and stops by keyboard.
	r.ok(p.Key(" "))
	r.ok(p.Wait(`!!document.querySelector('button[aria-label=Pause]')`))
	r.ok(p.Key(" "))
	r.ok(p.Wait(`!!document.querySelector('button[aria-label=Play]')`))
}

// On the scenes page a scene is copied and deleted, and a card shows its picture.
func TestScenesPage(t *testing.T) {
	r := setup(t)
	p := r.page
	r.scenes()
	count := func(n int) {
		t.Helper()
		r.ok(p.Wait(fmt.Sprintf(`document.querySelectorAll('main li').length === %d`, n)))
	}
	const have = 3
	for _, name := range []string{"crawler", "eel", "hump"} {
		r.bringDemo(name)
	}
	r.ok(p.Reload())
	count(have)
	r.ok(p.Wait(`[...document.querySelectorAll('main li img')].every((i) => i.complete && i.naturalWidth > 0)`))
	r.ok(p.Click(`button[aria-label="More for Crawler tread"]`))
	r.ok(p.ClickText("Copy"))
	count(have + 1)
	r.ok(p.Wait(`!document.querySelector('[role=menu]')`))
	r.ok(p.Click(`button[aria-label="More for Crawler tread copy"]`))
	r.ok(p.ClickText("Delete"))
	r.ok(p.Wait(`document.querySelector('[role=dialog]')?.textContent.includes('Delete “Crawler tread copy”')`))
	r.ok(p.Wait(`(document.querySelector('[role=dialog] button:last-of-type').setAttribute('data-sure', '1'), true)`))
	r.ok(p.Click(`[data-sure]`))
	count(have)
	// An address of no scene says so and leads back.
	r.ok(p.Open(r.prog.URL + "/scenes/nothing-here"))
	r.ok(p.ClickText("To the scenes"))
	count(have)
}
