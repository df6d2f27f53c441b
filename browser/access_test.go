package browser_test

import (
	"fmt"
	"os"
	"strings"
	"testing"
)

// axe looks at the page with axe-core, a checker of web accessibility that is not Bead's, and
// tells of every rule of WCAG A and AA and of its own best practices that is broken.
func (r *rigged) axe(where string) {
	r.t.Helper()
	only := ""
	if strings.HasPrefix(where, "Dark") { // all but the colours is as it is in light
		only = `, runOnly: ['color-contrast']`
	}
	broken := eval[[]string](r, `axe.run(document, { resultTypes: ['violations']`+only+` }).then((x) => x.violations.flatMap((v) =>
	  v.nodes.slice(0, 3).map((n) => v.id + ': ' + n.target.join(' ') + ' ' + n.html.slice(0, 120) + (v.id === 'color-contrast' ? n.any[0]?.message : ''))))`)
	if len(broken) > 0 {
		r.t.Errorf("%s:\n  %s", where, strings.Join(broken, "\n  "))
	}
}

// Nothing is found on the scenes page, and on the bench with each panel, menu and dialog, in both themes.
func TestAccess(t *testing.T) {
	script, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	r := setup(t)
	p := r.page
	open := func(demo string) {
		r.openDemo(demo)
		r.ok(p.BenchReady())
		eval[bool](r, string(script)+";true")
	}
	for _, theme := range []string{"Light", "Dark"} {
		r.ok(p.Open(r.prog.URL))
		r.ok(p.Wait(`document.querySelectorAll('main button').length > 5`))
		eval[bool](r, string(script)+";true")
		if theme == "Dark" {
			r.ok(p.Click(`button[aria-label="Dark theme"]`))
		}
		r.axe(theme + ", scenes")
		open("crawler")
		for _, step := range []string{"path", "part", "seat", "facing", "travel"} {
			r.ok(p.Click(fmt.Sprintf("[data-step=%s]", step)))
			r.axe(theme + ", bench at " + step)
		}
		r.ok(p.Click(`[data-gauge]`))
		r.axe(theme + ", checks")
		r.ok(p.Key("\x1b"))
		r.ok(p.ClickText("Deliver"))
		r.axe(theme + ", deliver")
		r.ok(p.ClickText("Film and stills"))
		r.axe(theme + ", film")
		r.ok(p.Key("\x1b"))
		r.ok(p.ClickText("level"))
		r.axe(theme + ", ground")
		r.ok(p.ClickText("Graph"))
		r.axe(theme + ", graph")
		r.ok(p.ClickText("Graph"))
		r.ok(p.ClickText("Add"))
		r.ok(p.Wait(`!!document.querySelector('[role=listbox]')`))
		r.axe(theme + ", add")
		r.ok(p.Key("\x1b"))
		r.ok(p.Wait(`!document.querySelector('[role=listbox]')`))
		x, y := r.middle(`section[aria-label=Rack] button[aria-pressed]`)
		r.ok(p.RightClickAt(x, y))
		r.ok(p.Wait(`!!document.querySelector('[role=menu]')`))
		r.axe(theme + ", menu of a thing")
		r.ok(p.Key("\x1b"))
		r.ok(p.Wait(`!document.querySelector('[role=menu]')`))
		r.ok(p.Key("?"))
		r.ok(p.Wait(`!!document.querySelector('[role=dialog]')`))
		r.axe(theme + ", keys")
		r.ok(p.Key("\x1b"))
		open("eel")
		r.axe(theme + ", eel")
	}
}
