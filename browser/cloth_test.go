package browser_test

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"
)

// Cloth from an empty scene: hung from a line, of another fabric, by its corners, by points picked in
// the view; its frames come, are checked, and it can be undone.
func TestClothByHand(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.add("Line")
	r.add("Cloth that hangs on Line")
	r.storedIs(`s.doc.rigs[0].drape && s.doc.parts.some((x) => x.shape.sheet)`)
	r.ok(p.Wait(`['stretch', 'through', 'itself'].every((g) => document.querySelector('[data-gauge=' + g + ']')?.dataset.state === 'inside')`))
	r.ok(p.Wait(`!document.querySelector('[data-testid=simulating]')`))
	r.ok(p.Type(r.labelled("Bending length"), "3 cm"))
	r.storedIs(`s.doc.rigs[0].drape.fabric.bending === 0.03`)
	r.pick("Fabric", "Canvas")
	r.storedIs(`s.doc.rigs[0].drape.fabric.weight === 0.45`)
	r.pick("Held on the path by", "points that are picked")
	r.storedIs(`s.doc.rigs[0].drape.points.join() === '0'`)
	r.ok(p.Wait(`!document.querySelector('[data-testid=simulating]')`))
	r.ok(p.ClickText("Pick in the view"))
	r.ok(p.Still())
	// It hangs from one corner somewhere in the middle of the view: a click that meets it holds a point.
	x, y := r.middle(`[data-testid=view] canvas`)
	met := false
	for k := 0; k < 60 && !met; k++ {
		r.ok(p.ClickAt(x+40*float64(k%10)-200, y+40*float64(k/10)-120))
		r.ok(p.Still())
		met = eval[bool](r, `document.body.textContent.includes('2 points are held')`)
	}
	r.storedIs(`s.doc.rigs[0].drape.points.length === 2`)
	r.ok(p.ClickText("Done"))
	r.ok(p.Wait(`document.querySelector('[data-gauge=itself]')?.dataset.state !== undefined`))
	r.noErrors()
}

// A mesh from a file as cloth: a net of triangles hangs by the points at its upper edge, and the
// whole of it is simulated and checked.
func TestMeshAsCloth(t *testing.T) {
	r := setup(t)
	p := r.page
	r.empty()
	r.add("Line")
	const wide = 12
	var obj strings.Builder
	for k := range wide * wide {
		fmt.Fprintf(&obj, "v %g %g 0\n", 0.1*float64(k%wide), 0.1*float64(k/wide))
	}
	for k := range wide * wide {
		if k%wide < wide-1 && k/wide < wide-1 {
			fmt.Fprintf(&obj, "f %d %d %d\nf %d %d %d\n", k+1, k+2, k+wide+2, k+1, k+wide+2, k+wide+1)
		}
	}
	mesh := filepath.Join(r.dir, "tarp.obj")
	r.ok(writeFile(mesh, obj.String()))
	r.ok(p.Choose(`[data-testid=import-mesh]`, mesh))
	r.ok(p.ClickText("Take it as a part"))
	r.storedIs(`s.doc.parts.at(-1).name === 'Tarp'`)
	r.add("Cloth that hangs on Line")
	r.storedIs(`s.doc.rigs[0].drape && s.doc.rigs[0].part === s.doc.parts.at(-1).id`)
	r.ok(p.Wait(`['stretch', 'through', 'itself'].every((g) => document.querySelector('[data-gauge=' + g + ']')?.dataset.state)`))
	r.ok(p.Wait(`!document.querySelector('[data-testid=simulating]')`))
	r.ok(p.Wait(`document.querySelector('[data-gauge=stretch]').dataset.state === 'inside'`))
	r.noErrors()
}
