package browser_test

import (
	"fmt"
	"math"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// simpleTread opens shoes on a slot with nothing else about them.
func (r *rigged) simpleTread() {
	r.t.Helper()
	doc, err := os.ReadFile("../server/testdata/tread.json")
	r.ok(err)
	r.ok(r.page.Open(r.prog.URL + "/scenes/" + r.bring(doc)))
}

// empty opens an empty scene.
func (r *rigged) empty() {
	r.t.Helper()
	var s struct{ ID string }
	r.api(http.MethodPost, "/api/scenes", []byte(`{"starter":"empty"}`), &s)
	r.ok(r.page.Open(r.prog.URL + "/scenes/" + s.ID))
	r.ok(r.page.Wait(`!!document.querySelector('[data-testid=view] canvas') && !!document.querySelector('[data-save]')`))
}

// step adds a shaping step by its name in the menu.
func (r *rigged) step(name string) {
	r.t.Helper()
	r.ok(r.page.ClickText("Add a step"))
	r.ok(r.page.Click(fmt.Sprintf(`[role=menuitem]:nth-child(%d)`, r.menuItem(name))))
	r.ok(r.page.Wait(`!document.querySelector('[role=menu]')`))
}

func (r *rigged) menuItem(name string) int {
	r.t.Helper()
	find := fmt.Sprintf(`[...document.querySelectorAll('[role=menu] li')].findIndex((e) => e.textContent.startsWith(%q)) + 1`, name)
	r.ok(r.page.Wait(find + ` > 0`))
	return eval[int](r, find)
}

// middle returns the middle of an element.
func (r *rigged) middle(css string) (x, y float64) {
	r.t.Helper()
	find := fmt.Sprintf(`document.querySelector(%q)`, css)
	r.ok(r.page.Wait(`!!` + find))
	at := eval[[2]float64](r, `(() => { const b = `+find+`.getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2] })()`)
	return at[0], at[1]
}

// reads waits until the readings of the chosen path say something.
func (r *rigged) reads(text string) {
	r.t.Helper()
	r.ok(r.page.Wait(fmt.Sprintf(`document.querySelector('[data-testid=path-reading]')?.textContent.includes(%q)`, text)))
}

// noErrors fails for what the page logged; that a request was refused is Chromium's
// own line, and meant in tests of bad input.
func (r *rigged) noErrors() {
	r.t.Helper()
	for _, e := range r.page.Errors() {
		if !strings.Contains(e, "422 (Unprocessable Entity)") {
			r.t.Error("page:", e)
		}
	}
}

// A path is drawn on the ground and shaped: steps are added, typed, switched off,
// reordered, taken out and undone, and each shows what it did to the length.
func TestDrawOnTheGroundAndShape(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.ok(p.ClickText("Above"))
	r.ok(p.Still())
	r.ok(p.ClickText("Draw a path"))
	for _, at := range [][2]float64{{520, 380}, {620, 240}, {800, 330}, {950, 220}} {
		r.ok(p.ClickAt(at[0], at[1]))
	}
	r.ok(p.ClickText("Leave open"))
	r.storedIs(`s.doc.paths[0].shape.spline.points.length === 4 && s.doc.paths[0].shape.spline.points.every((p) => p.at[1] === 0)`)
	r.reads("above ground")

	r.step("Extend")
	r.ok(p.Type(r.labelled("Behind the end"), "0.5"))
	r.storedIs(`s.doc.paths[0].steps[0].extend.after === 0.5`)
	r.ok(p.Wait(`document.querySelector('[data-step-kind=extend]').textContent.includes('+500.0 mm')`))
	r.step("Trim")
	r.set("To", "1")
	r.storedIs(`s.doc.paths[0].steps[1].trim.to === 1`)
	r.reads("1.000 m")
	// In the other order the trimmed path is extended.
	r.ok(p.Click(`button[aria-label="Earlier: trim, step 2"]`))
	r.storedIs(`!!s.doc.paths[0].steps[0].trim && !!s.doc.paths[0].steps[1].extend`)
	r.reads("1.500 m")
	r.ok(p.Click(`input[aria-label="Take extend, step 2"]`))
	r.storedIs(`s.doc.paths[0].steps[1].off === true`)
	r.reads("1.000 m")
	r.ok(p.Wait(saved))
	r.ok(p.Click(`button[aria-label=Undo]`))
	r.reads("1.500 m")
	r.ok(p.Wait(saved))
	r.ok(p.Click(`button[aria-label="Remove trim, step 1"]`))
	r.storedIs(`s.doc.paths[0].steps.length === 1`)
	// Its steps become part of its points.
	r.ok(p.ClickText("Turn with its steps into points"))
	r.storedIs(`s.doc.paths[0].steps === undefined && s.doc.paths[0].shape.spline.points.length === 5`)
	// A tolerance of a millimetre takes few points, a micrometre many.
	count := `Number(document.querySelector('[data-testid=path-reading]').textContent.match(/drawn with (\d+) points/)[1])`
	asItComes := eval[int](r, count)
	r.set("Display tolerance", "1")
	r.storedIs(`s.doc.paths[0].chordError === 0.001`)
	r.ok(p.Wait(fmt.Sprintf("%s !== %d", count, asItComes)))
	few := eval[int](r, count)
	r.set("Display tolerance", "0.001")
	r.ok(p.Wait(fmt.Sprintf("%s > %d", count, 5*few)))
	r.noErrors()
}

// Every generator of the menu gives a path; a joined path takes others in, a ring of
// joins is refused with its names and nothing is lost.
func TestGeneratorsAndJoin(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	for i, kind := range []string{"rectangle", "arch", "helix", "polyline", "bspline"} {
		r.add([]string{"Rounded rectangle", "Arch", "Helix", "Polyline with fillets", "B-spline"}[i])
		r.storedIs(fmt.Sprintf(`s.doc.paths.length === %d && !!s.doc.paths[%d].shape.%s`, i+1, i, kind))
	}
	// A helix by its numbers: three turns of sqrt((2 pi r)^2 + rise^2).
	r.ok(p.ClickText("Helix"))
	r.ok(p.Type(r.labelled("Radius"), "1 m"))
	r.ok(p.Type(r.labelled("Rise a turn"), "500"))
	r.reads(fmt.Sprintf("%.3f m", 3*math.Hypot(2*math.Pi, 0.5)))
	r.ok(p.Type(r.labelled("Lead-in"), "0.75"))
	r.reads(fmt.Sprintf("%.3f m", 3*math.Hypot(2*math.Pi, 0.5)+0.75))
	r.ok(p.ClickText("left"))
	r.storedIs(`s.doc.paths[2].shape.helix.hand === 'left' && s.doc.paths[2].shape.helix.leadIn === 0.75`)

	r.ok(p.ClickText("Arch"))
	r.step("Join")
	// The rounded rectangle is closed and not offered; the helix is the next.
	r.storedIs(`s.doc.paths[1].steps[0].join.paths[0] === 'helix'`)
	r.ok(p.Wait(`document.querySelector('[data-step-kind=join]').textContent.includes('2 paths joined')`))
	r.ok(p.ClickText("Helix"))
	r.step("Join") // the arch, which has the helix behind it: a ring
	r.ok(p.Wait(`document.querySelector('[role=alert]')?.textContent.includes('goes round in a ring: Arch needs Helix, which needs Arch')`))
	r.ok(p.ClickText("Put back what was there"))
	r.ok(p.Wait(`!document.querySelector('[role=alert]')`))
	r.storedIs(`!s.doc.paths[2].steps?.length && s.doc.paths[1].steps.length === 1`)
	r.noErrors()
}

// A post is set up, a path drawn round it by clicking on it, wound as a helix, and a
// train put on the path keeps facing the post.
func TestDrawRoundThePost(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.add("Post")
	r.storedIs(`s.doc.fixtures.length === 1 && !!s.doc.parts.at(-1).shape.post`)
	r.ok(p.ClickText("Ahead"))
	r.ok(p.Wait(`document.querySelector('button[aria-pressed=true][title^=Ahead]') !== null`))
	r.ok(p.Still())
	r.ok(p.ClickText("Draw a path on it"))
	r.ok(p.Wait(`document.querySelector('[data-testid=tool-help]')?.textContent.includes('on Post')`))
	for i, at := range [][2]float64{{716, 430}, {736, 340}, {716, 250}, {734, 170}} {
		r.ok(p.ClickAt(at[0], at[1]))
		if i == 2 { // beside the post nothing is set
			r.ok(p.ClickAt(500, 300))
		}
	}
	r.ok(p.ClickText("Leave open"))
	r.storedIs(`s.doc.paths[0].shape.over.points.length === 4`)
	// Each point lies on the post's side: between its flats and its radius of 0.2.
	r.storedIs(`s.doc.paths[0].shape.over.points.every((q) => Math.abs(Math.hypot(q[0], q[2]) - 0.2) < 0.2 * (1 - Math.cos(Math.PI / 48)) + 1e-3)`)
	r.ok(p.Type(r.labelled("Clearance"), "50"))
	r.storedIs(`s.doc.paths[0].shape.over.clearance === 0.05`)
	r.ok(p.ClickText("Put a train on this path"))
	r.ok(p.BenchReady())
	// The fixture moves and the path goes with it.
	r.ok(p.ClickText("Post"))
	r.ok(p.Click(`section[aria-label=Rack] > div:nth-of-type(4) button`))
	r.ok(p.Type(`input[aria-label="Stands at x"], [role=group][aria-label="Stands at"] input`, "500"))
	r.storedIs(`s.doc.fixtures[0].at[0] === 0.5`)
	r.ok(p.ClickText("Wind a helix round it"))
	r.storedIs(`s.doc.paths[1].shape.helix.base[0] === 0.5 && s.doc.paths[1].shape.helix.radius === 0.25`)
	// Deleting the post takes what lies on it, and undo brings all back.
	r.ok(p.Click(`section[aria-label=Rack] > div:nth-of-type(4) button`))
	r.ok(p.Click(`button[aria-label="More for Post"]`))
	r.ok(p.ClickText("Delete, with "))
	r.storedIs(`!s.doc.fixtures && s.doc.paths.length === 1 && s.doc.rigs.length === 0`)
	r.ok(p.Wait(saved))
	r.ok(p.Click(`button[aria-label=Undo]`))
	r.storedIs(`s.doc.fixtures.length === 1 && s.doc.paths.length === 2 && s.doc.rigs.length === 1`)
	r.noErrors()
}

// A mesh comes in from a file, its rim becomes a path, rebuilt with fewer points; a
// train on it faces by roll beads that are set on the strip, and starts elsewhere.
func TestPathFromAMeshEdge(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	hull, err := filepath.Abs("../demo/parts/hull.obj")
	r.ok(err)
	r.ok(p.Choose(`[data-testid=import-mesh]`, hull))
	r.ok(p.ClickText("Stand it in the scene"))
	r.storedIs(`s.doc.fixtures?.length === 1 && s.doc.parts.at(-1).shape.file.asset.length === 64`)
	r.ok(p.Wait(`document.body.textContent.includes('270 triangles')`)) // its reading stays; the notice goes by itself
	r.ok(p.ClickText("Take a path from its edges"))
	r.ok(p.ClickText("Rim"))
	r.ok(p.Still())
	r.ok(p.ClickAt(726, 320))
	r.ok(p.Wait(`document.querySelector('[data-testid=tool-help]')?.textContent.includes('34 points, closed')`))
	r.ok(p.ClickText("Use, rebuilt smooth"))
	r.storedIs(`s.doc.paths[0].shape.polyline.points.length === 34 && s.doc.paths[0].shape.polyline.closed && s.doc.paths[0].steps[0].simplify.tolerance > 0`)
	r.ok(p.Click(`[data-step-kind=simplify] button[aria-expanded]`))
	r.ok(p.Wait(`/\d+ points instead of 34, at most [\d.]+ mm off/.test(document.querySelector('[data-step-kind=simplify]').textContent)`))

	r.ok(p.ClickText("Put a train on this path"))
	r.ok(p.BenchReady())
	// The start mark is pulled along the strip: a quarter of the ruler.
	x, y := r.middle(`[data-testid=strip-start]`)
	r.ok(p.Drag(x, y, x+215, y))
	r.storedIs(`s.doc.paths[0].steps.length === 2 && s.doc.paths[0].steps[1].startAt.distance > 1`)
	// A bead of roll by double click, pulled up, typed, and taken out by key.
	x, y = r.middle(`[data-testid=strip-roll]`)
	r.ok(p.DoubleClickAt(x, y))
	r.storedIs(`s.doc.rigs[0].facing.rollAt?.length === 1`)
	r.ok(p.DoubleClickAt(x+120, y))
	r.storedIs(`s.doc.rigs[0].facing.rollAt.length === 2`)
	x, y = r.middle(`[data-testid=roll-bead]`)
	r.ok(p.Drag(x, y, x, y-8))
	r.storedIs(`s.doc.rigs[0].facing.rollAt[0].roll > 20`)
	r.ok(p.Click("[data-step=facing]"))
	r.ok(p.Type(`input[aria-label="Roll of roll key 2"]`, "45"))
	r.storedIs(`s.doc.rigs[0].facing.rollAt[1].roll === 45`)
	r.ok(p.Wait(saved))
	x, y = r.middle(`[data-testid=roll-bead]`)
	r.ok(p.ClickAt(x, y))
	r.ok(p.Key("\x7f"))
	r.storedIs(`s.doc.rigs[0].facing.rollAt.length === 1 && s.doc.rigs[0].facing.rollAt[0].roll === 45`)
	// Towards a guide: there is none yet, which is said, and then there is.
	r.ok(p.ClickText("towards a guide"))
	r.ok(p.Wait(`document.body.textContent.includes('needs a second path')`))
	r.add("Line")
	r.ok(p.ClickText("Hull edge train"))
	r.ok(p.Click("[data-step=facing]"))
	r.ok(p.ClickText("towards a guide"))
	r.storedIs(`s.doc.rigs[0].facing.mode === 'guide' && s.doc.rigs[0].facing.guide === 'line'`)
	r.ok(p.Wait(`document.body.textContent.includes('Guide, nearest')`))
	r.noErrors()
}

// A bad mesh and a path in a bad place are told of, and nothing is lost.
func TestBadMeshesAndPaths(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	bad := filepath.Join(r.dir, "bad.obj")
	r.ok(writeFile(bad, "v 0 0 0\nf 1 2 3\n"))
	r.ok(p.Choose(`[data-testid=import-mesh]`, bad))
	r.ok(p.Wait(`document.body.textContent.includes('bad.obj: line 2: "2" is no vertex')`))
	r.add("Circle")
	r.ok(p.Type(r.labelled("Radius"), "800"))
	r.reads("under the ground")
	// Drawn as an eight it crosses itself, which is said.
	r.ok(p.ClickText("Above"))
	r.ok(p.Still())
	r.add("Draw by clicking")
	for _, at := range [][2]float64{{600, 180}, {850, 420}, {850, 180}, {600, 420}} {
		r.ok(p.ClickAt(at[0], at[1]))
	}
	r.ok(p.ClickText("Close path"))
	r.reads("Crosses itself")
	r.noErrors()
}
