package browser_test

import (
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"testing"
)

// From a scene to those who go on with it: choices by who that is, several files under way, what was chosen is
// there again when one comes back, the note says what the file is, and the GLB opens as a scene.
func TestDeliveries(t *testing.T) {
	r := setup(t)
	p := r.page
	scene := r.prog.URL + "/scenes/" + r.bringDemo("hump")
	r.ok(p.Open(scene))
	r.ok(p.BenchReady())
	r.ok(p.ClickText("Deliver"))
	r.pick("Who goes on with it", "Game engine")
	r.ok(p.Wait(`document.body.textContent.includes('One file that plays by itself')`))
	r.ok(p.ClickText("The paths too"))
	r.ok(p.Wait(`document.body.textContent.includes('My own choices')`)) // no longer those of a game engine
	r.ok(p.Type(r.labelled("From frame"), "3"))
	r.ok(p.Type(r.labelled("To frame"), "8"))
	r.ok(p.Type(r.labelled("Every n-th frame"), "2"))
	r.ok(p.ClickText("Bake 3 frames"))
	r.pick("Format", "values")
	r.ok(p.ClickText("Units behind"))
	r.ok(p.ClickText("Bake 3 frames"))
	r.ok(p.Wait(`document.querySelectorAll('[data-testid=baked]').length === 2`))
	of := func(n, what string) string {
		return `fetch('/api/bakes/' + [...document.querySelectorAll('[data-testid=baked]')][` + n + `].dataset.job + '/` + what + `')`
	}
	r.ok(p.Wait(of("0", "file") + `.then((r) => r.text()).then((t) => t.startsWith('frame,rigs/port-tread/travel (m)') && t.trim().split('\n').length === 4)`))
	r.ok(p.Wait(of("1", "note") + `.then((r) => r.json()).then((n) => n.choices.perRig && n.choices.paths && n.frames.step === 2 && n.scene.id && n.scene.revision > 0 && n.checks.results.length > 5 && n.file.sha256.length === 64)`))
	// Back from another place, all is as it was left, and the files are there.
	r.ok(p.Open(scene))
	r.ok(p.BenchReady())
	r.ok(p.ClickText("Deliver"))
	r.ok(p.Wait(`document.querySelectorAll('[data-testid=baked]').length === 2 && document.body.textContent.includes('A table of the values that move')`))
	if v := eval[string](r, fmt.Sprintf(`document.querySelector(%q).value`, r.labelled("From frame"))); v != "3" {
		t.Errorf("it begins at frame %q", v)
	}

	// The GLB is opened on the scenes page.
	res, err := http.Get(r.prog.URL + "/api/bakes/" + eval[string](r, `[...document.querySelectorAll('[data-testid=baked]')][1].dataset.job`) + "/file")
	r.ok(err)
	defer res.Body.Close()
	bytes, err := io.ReadAll(res.Body)
	r.ok(err)
	glb := filepath.Join(r.dir, "made.glb")
	r.ok(os.WriteFile(glb, bytes, 0o600))
	r.ok(p.Open(r.prog.URL + "/"))
	r.ok(p.Choose(`[data-testid=scene-file]`, glb))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=view] canvas')`)) // it has no rig yet, and so no checks
	r.storedIs(`s.doc.parts.some((p) => p.name === 'Shoe' && p.shape.file) && s.doc.paths.length === 3 && s.doc.materials.some((m) => m.name === 'Track steel')`)
	r.noErrors()
}
