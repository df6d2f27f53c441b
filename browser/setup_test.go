package browser_test

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"sync"
	"testing"

	"bead/browser"
	"bead/demo"
	_ "bead/server" // what the program is of: a result is not kept for another one
)

var binary string

func TestMain(m *testing.M) {
	if _, err := os.Stat("../web/dist/index.html"); err != nil {
		fmt.Println("the page is not built: make build")
		if os.Getenv("CI") != "" {
			os.Exit(1) // a run without a page must not look like one that passed
		}
		return
	}
	dir, err := os.MkdirTemp("", "bead-browser")
	if err != nil {
		panic(err)
	}
	own, err := filepath.Glob("../cmd/bead/*.go")
	for _, file := range own {
		_, err = os.Stat(file) // what is looked at here, results depend on
	}
	if err != nil || len(own) == 0 {
		panic(fmt.Sprint("the program's own files: ", err))
	}
	binary = filepath.Join(dir, "bead")
	if out, err := exec.Command("go", "build", "-o", binary, "../cmd/bead").CombinedOutput(); err != nil {
		fmt.Printf("%s\n", out)
		os.Exit(1)
	}
	// Most of a browser test is waiting, so that more of them run at once than there are cores.
	flag.Parse()
	if !given("test.parallel") {
		flag.Set("test.parallel", strconv.Itoa(2*runtime.NumCPU()))
	}
	code := m.Run()
	if chrome != nil {
		chrome.Close()
	}
	close(idle)
	for p := range idle {
		if err := p.Stop(); err != nil {
			fmt.Println("the program does not end gracefully:", err)
			code = 1
		}
	}
	os.RemoveAll(dir)
	os.Exit(code)
}

// given reports whether a flag was set by the person.
func given(name string) bool {
	found := false
	flag.Visit(func(f *flag.Flag) { found = found || f.Name == name })
	return found
}

// chrome is the one browser of all tests: each has a tab of it with a storage of its own.
// idle are programs that no test uses now: as many as tests run at once, for all those that
// do not end theirs.
var (
	chromeOnce = sync.OnceValues(func() (*browser.Page, error) {
		dir, err := os.MkdirTemp(filepath.Dir(binary), "chromium")
		if err != nil {
			return nil, err
		}
		chrome, err = browser.Chromium(dir)
		return chrome, err
	})
	chrome *browser.Page
	idle   = make(chan *browser.Program, 64)
)

// program lends a program without scenes to a test.
func program(t *testing.T) *browser.Program {
	t.Helper()
	select {
	case p := <-idle:
		return p
	default:
	}
	dir, err := os.MkdirTemp(filepath.Dir(binary), "data")
	if err != nil {
		t.Fatal(err)
	}
	p, err := browser.Start(binary, dir, "127.0.0.1:0", "serve")
	if err != nil {
		t.Fatal(err)
	}
	return p
}

func tab(t *testing.T, quality string) *browser.Page {
	t.Helper()
	first, err := chromeOnce()
	if err != nil {
		t.Fatal(err)
	}
	p, err := first.Person()
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(p.Close)
	if err := p.Quick(quality); err != nil {
		t.Fatal(err)
	}
	return p
}

// rigged is a running program and a page of it.
type rigged struct {
	t    *testing.T
	dir  string
	prog *browser.Program
	page *browser.Page
}

// setup is a program without scenes and a page that shows nothing yet, beside other tests. The view of
// its page is not drawn: drawing by software took most of the time of these tests.
func setup(t *testing.T) *rigged {
	t.Helper()
	return setupWith(t, browser.Undrawn)
}

// setupWith is setup with a picture quality, for tests that look at the picture.
func setupWith(t *testing.T, quality string) *rigged {
	t.Helper()
	t.Parallel()
	r := &rigged{t: t, dir: t.TempDir(), prog: program(t)}
	t.Cleanup(func() {
		var list []struct{ ID string }
		r.api(http.MethodGet, "/api/scenes", nil, &list)
		for _, s := range list {
			r.api(http.MethodDelete, "/api/scenes/"+s.ID, nil, nil)
		}
		idle <- r.prog
	})
	r.page = tab(t, quality)
	return r
}

// scenes opens the scenes page.
func (r *rigged) scenes() {
	r.t.Helper()
	r.ok(r.page.Open(r.prog.URL + "/"))
}

// setupAlone is setup with a program of the test's own, which it may kill.
func setupAlone(t *testing.T) *rigged {
	t.Helper()
	t.Parallel()
	r := &rigged{t: t, dir: t.TempDir()}
	r.start("127.0.0.1:0")
	r.page = tab(t, browser.Undrawn)
	return r
}

// start starts the test's own program, on the same scenes each time.
func (r *rigged) start(listen string) {
	r.t.Helper()
	var err error
	if r.prog, err = browser.Start(binary, filepath.Join(r.dir, "data"), listen, "serve"); err != nil {
		r.t.Fatal(err)
	}
	r.t.Cleanup(r.prog.Kill)
}

// api asks the program itself, as a script would; out may be nil.
func (r *rigged) api(method, address string, body []byte, out any) {
	r.t.Helper()
	req, err := http.NewRequest(method, r.prog.URL+address, bytes.NewReader(body))
	if err != nil {
		r.t.Fatal(err)
	}
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		r.t.Fatal(err)
	}
	defer res.Body.Close()
	if res.StatusCode >= 300 {
		r.t.Fatalf("%s %s: %s", method, address, res.Status)
	}
	if out != nil {
		if err := json.NewDecoder(res.Body).Decode(out); err != nil {
			r.t.Fatal(err)
		}
	}
}

// bring stores a document and returns its scene's id.
func (r *rigged) bring(doc []byte) string {
	r.t.Helper()
	var s struct{ ID string }
	r.api(http.MethodPost, "/api/scenes/document", doc, &s)
	return s.ID
}

// bringDemo stores one of the kelp station's scenes.
func (r *rigged) bringDemo(name string) string {
	r.t.Helper()
	d, err := demo.Scene(name)
	r.ok(err)
	doc, err := d.Encode()
	r.ok(err)
	return r.bring(doc)
}

// openDemo opens a new copy of one of the kelp station's scenes on the bench.
func (r *rigged) openDemo(name string) {
	r.t.Helper()
	r.ok(r.page.Open(r.prog.URL + "/scenes/" + r.bringDemo(name)))
	r.ok(r.page.BenchReady())
}

func (r *rigged) ok(err error) {
	r.t.Helper()
	if err == nil {
		return
	}
	if shot, e := r.page.Picture(); e == nil {
		file := filepath.Join(os.TempDir(), "bead-failed-"+strings.ReplaceAll(r.t.Name(), "/", "-")+".png")
		if os.WriteFile(file, shot, 0o600) == nil {
			r.t.Log("picture:", file)
		}
	}
	for _, e := range r.page.Errors() {
		r.t.Log("page:", e)
	}
	r.t.Fatal(err)
}

func eval[T any](r *rigged, expression string) T {
	r.t.Helper()
	v, err := browser.Eval[T](r.page, expression)
	r.ok(err)
	return v
}

const (
	undoKey  = `document.querySelector('button[aria-label=Undo]')`
	saved    = `document.querySelector('[data-save]').dataset.save === 'saved' && document.querySelector('[data-save]').textContent.includes('Saved')`
	pathPart = `location.pathname.split('/').pop()`
)

// stored is the scene as the server holds it.
const stored = `fetch('/api/scenes/' + ` + pathPart + `).then((r) => r.json())`

func field(label string) string { return fmt.Sprintf(`input[id="%s"]`, label) }

// set types a number into a field that Bead else fills in by itself.
func (r *rigged) set(label, text string) {
	r.t.Helper()
	button := fmt.Sprintf(`button[aria-label^=%q]`, label+": ")
	r.ok(r.page.Wait(fmt.Sprintf(`!!document.querySelector(%q)`, button)))
	typed := fmt.Sprintf(`[...document.querySelectorAll('label')].some((l) => l.textContent.trim() === %q)`, label)
	if !eval[bool](r, typed) {
		r.ok(r.page.Click(button))
	}
	r.ok(r.page.Type(r.labelled(label), text))
}

// labelled returns a selector of the field with a label.
func (r *rigged) labelled(label string) string {
	r.t.Helper()
	expr := fmt.Sprintf(`(() => { const l = [...document.querySelectorAll('label')].find((l) => l.textContent.trim() === %q);
	  return l ? l.htmlFor : '' })()`, label)
	r.ok(r.page.Wait(expr + ` !== ''`))
	return field(eval[string](r, expr))
}
