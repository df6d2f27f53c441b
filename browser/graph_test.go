package browser_test

import (
	"fmt"
	"testing"
)

// graphKey returns where a key of the graph is seen.
func (r *rigged) graphKey(value string, frame int) (x, y float64) {
	r.t.Helper()
	return r.middle(fmt.Sprintf(`[data-testid=graph-key-%s][data-frame="%d"]`, value, frame))
}

// Keys are chosen, pulled with snapping to frames, typed, shifted, stretched, scaled,
// copied, shaped with handles, taken out and undone in the graph.
func TestGraph(t *testing.T) {
	r := setup(t)
	p := r.page
	r.ok(p.ClickText("Tread"))
	r.ok(p.BenchReady())
	r.ok(p.Click("[data-step=travel]"))
	r.ok(p.ClickText("keys"))
	r.storedIs(`s.doc.rigs[0].travel.keys?.length === 2`)
	r.ok(p.Key("g"))
	r.ok(p.Wait(`!!document.querySelector('[data-testid=graph-plot]')`))
	r.ok(p.Type(`input[aria-label="Frame"]`, "49"))
	r.ok(p.Type(`input[aria-label="Travel at this frame"]`, "0.8"))
	r.storedIs(`s.doc.rigs[0].travel.keys.length === 3`)
	r.ok(p.Wait(saved))

	// One key is pulled a tenth of the ruler on and up: to a whole frame, to a greater value.
	x, y := r.graphKey("travel", 49)
	x1, _ := r.graphKey("travel", 1)
	r.ok(p.Drag(x, y, x+(x-x1)/4, y-20))
	r.storedIs(`s.doc.rigs[0].travel.keys[1].frame === 61 && s.doc.rigs[0].travel.keys[1].value > 0.85`)
	// As numbers.
	r.ok(p.Type(`input[aria-label="Frame of the chosen key"]`, "50"))
	r.ok(p.Type(`input[aria-label="Value of the chosen key"]`, "0.6"))
	r.storedIs(`s.doc.rigs[0].travel.keys[1].frame === 50 && s.doc.rigs[0].travel.keys[1].value === 0.6`)
	r.noErrors()
}
