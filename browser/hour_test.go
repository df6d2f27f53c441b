package browser_test

import (
	"fmt"
	"math/rand/v2"
	"os"
	"strings"
	"testing"
	"time"

	"bead/browser"

	"github.com/chromedp/chromedp"
)

// hour is a run of two windows on one scene, and what must be there.
type hour struct {
	*rigged
	windows [2]*rigged
	typed   int   // edits so far
	gap     int   // what the scene's gap must be, in tenths of a millimetre
	told    int   // edits that a person chose to give up
	must    []int // gaps that the history must tell
	done    map[string]int
}

// edit types a gap that was not there before, in a window.
func (h *hour) edit(w int) {
	h.t.Helper()
	h.typed++
	h.gap = h.typed%600 + 1
	two := h.windows[w]
	two.ok(two.page.Type(two.labelled("Gap"), fmt.Sprintf("%.1f", float64(h.gap)/10)))
	h.must = append(h.must, h.gap)
}

// settled waits until both windows say saved and show what must be there, and the server has it.
func (h *hour) settled() {
	h.t.Helper()
	for _, two := range h.windows {
		two.ok(two.page.Wait(saved))
		two.shows("Gap", fmt.Sprintf("%.1f", float64(h.gap)/10))
	}
	h.storedIs(fmt.Sprintf(`Math.abs((s.doc.rigs[0].train.spacing.gap ?? 0) - %g) < 1e-9`, float64(h.gap)/1e4))
	if len(h.must) == 0 {
		return
	}
	var want []string
	for _, v := range h.must {
		want = append(want, fmt.Sprintf("'%.1f mm'", float64(v)/10))
	}
	h.must = nil
	if !eval[bool](h.rigged, `fetch('/api/scenes/'+`+pathPart+`+'/history').then((r) => r.json()).then((h) => [`+strings.Join(want, ",")+`].every((v) => h.some((x) => x.is === v)))`) {
		h.t.Fatalf("after %d edits the history lacks one of %v", h.typed, want)
	}
}

func (h *hour) keys(w int, key string, mod chromedp.KeyOption, times int) {
	h.t.Helper()
	for range times {
		h.ok(h.windows[w].page.Key(key, mod))
	}
}

// An hour with two windows: edits, the server away and back, killed and started, conflicts, fast
// undo and redo, reloads with and without unsaved edits, in any order. Nothing is lost. It is run
// by hand: BEAD_HOUR=60m go test -timeout 2h -run AnHour ./browser
func TestAnHour(t *testing.T) {
	length, err := time.ParseDuration(os.Getenv("BEAD_HOUR"))
	if err != nil {
		t.Skip("run by hand, with its length in BEAD_HOUR")
	}
	r := setupAlone(t)
	r.openDemo("crawler")
	other, err := r.page.Tab()
	r.ok(err)
	r.ok(other.Quick("rough"))
	h := &hour{rigged: r, done: map[string]int{}}
	h.windows = [2]*rigged{r, {t: t, dir: r.dir, prog: r.prog, page: other}}
	askedOne, err := r.page.Leaving()
	r.ok(err)
	askedTwo, err := other.Leaving()
	r.ok(err)
	open := func(p *browser.Page) {
		r.ok(p.Open(r.prog.URL + eval[string](r, `location.pathname`)))
		r.ok(p.BenchReady())
	}
	open(other)
	dice := rand.New(rand.NewPCG(11, 28))
	const kept = `document.body.textContent.includes('kept in this browser')`
	things := []struct {
		name string
		do   func(w int)
	}{
		{"edits", func(w int) {
			for range 1 + dice.IntN(3) {
				h.edit(w)
			}
		}},
		{"away", func(w int) {
			h.windows[w].away()
			for range 1 + dice.IntN(3) {
				h.edit(w)
			}
			h.windows[w].ok(h.windows[w].page.Wait(kept))
			h.windows[w].back()
		}},
		{"away, reloaded", func(w int) {
			h.windows[w].away()
			h.edit(w)
			h.windows[w].ok(h.windows[w].page.Wait(kept))
			open(h.windows[w].page)
		}},
		{"killed", func(w int) {
			r.prog.Kill()
			h.edit(w)
			h.windows[w].ok(h.windows[w].page.Wait(kept))
			r.start(strings.TrimPrefix(r.prog.URL, "http://"))
			h.windows[1].prog = r.prog
		}},
		{"conflict", func(w int) {
			h.windows[w].away()
			h.edit(w)
			mine := h.gap
			h.windows[w].ok(h.windows[w].page.Wait(kept))
			h.must = nil
			h.edit(1 - w)
			theirs := h.gap
			h.windows[1-w].ok(h.windows[1-w].page.Wait(saved))
			h.windows[1-w].storedIs(fmt.Sprintf(`Math.abs(s.doc.rigs[0].train.spacing.gap - %g) < 1e-9`, float64(theirs)/1e4))
			h.windows[w].back()
			h.windows[w].ok(h.windows[w].page.Wait(`document.body.textContent.includes('changed in another window')`))
			if dice.IntN(2) == 0 {
				h.windows[w].ok(h.windows[w].page.ClickText("Keep this window’s"))
				h.gap = mine
				h.must = append(h.must, mine)
			} else {
				h.windows[w].ok(h.windows[w].page.ClickText("Take the other"))
				h.told++
			}
		}},
		{"undo and redo", func(w int) {
			if h.typed < 12 {
				return
			}
			n := 1 + dice.IntN(8)
			h.keys(w, "z", chromedp.KeyModifiers(chromedp.ModifierCtrl), n)
			h.keys(w, "Z", chromedp.KeyModifiers(chromedp.ModifierCtrl|chromedp.ModifierShift), n)
		}},
		{"reload", func(w int) {
			r.ok(h.windows[w].page.Reload())
			r.ok(h.windows[w].page.BenchReady())
		}},
	}
	for end := time.Now().Add(length); time.Now().Before(end); {
		k := dice.IntN(len(things))
		w := dice.IntN(2)
		t.Logf("%s in window %d", things[k].name, w+1)
		things[k].do(w)
		h.done[things[k].name]++
		h.settled()
		if t.Failed() {
			t.Fatalf("after %q in window %d; so far %v", things[k].name, w+1, h.done)
		}
	}
	if n := askedOne() + askedTwo(); n != h.done["away, reloaded"] {
		t.Errorf("asked %d times before leaving with unsaved work, left so %d times", n, h.done["away, reloaded"])
	}
	t.Logf("%d edits, %d given up by choice; %v", h.typed, h.told, h.done)
}
