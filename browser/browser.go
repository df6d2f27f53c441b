// Package browser drives the real page in headless Chromium: its tests are the
// proof that a person can do the work, and its pictures go into the docs.
package browser

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
)

// Program is a running bead.
type Program struct {
	URL string
	cmd *exec.Cmd
}

var address = regexp.MustCompile(`http://[^\s]+`)

// Start runs the built program with a data directory and waits until it listens.
// listen is the address, port 0 for any free one.
func Start(binary, data, listen string, args ...string) (*Program, error) {
	cmd := exec.Command(binary, append(args, "--no-open", "--listen", listen, "--data", data)...)
	cmd.Stderr = os.Stderr
	out, err := cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := cmd.Start(); err != nil {
		return nil, err
	}
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		return nil, fmt.Errorf("the program said %q and then: %w", line, err)
	}
	return &Program{URL: strings.TrimSuffix(address.FindString(line), "/"), cmd: cmd}, nil
}

// Stop asks the program to end and waits for it.
func (p *Program) Stop() error {
	if err := p.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		return err
	}
	return p.cmd.Wait()
}

// Kill ends the program at once, as a power cut would.
func (p *Program) Kill() {
	_ = p.cmd.Process.Kill()
	_ = p.cmd.Wait()
}

// pause is how long one waits before looking at the page again.
const pause = 15 * time.Millisecond

// Page is a tab of a browser. Its methods do one thing a person does and wait
// until the page has taken it in; their errors name that thing.
type Page struct {
	// Presses counts what a person would have done so far: clicks, drags, keys, and numbers typed.
	Presses int

	ctx  context.Context
	stop context.CancelFunc

	mu     sync.Mutex
	errors []string
}

// Errors returns the exceptions and console errors that the page has had.
func (p *Page) Errors() []string {
	p.mu.Lock()
	defer p.mu.Unlock()
	return append([]string(nil), p.errors...)
}

// patience is how long a page may take over one thing; software WebGL on a busy
// machine is slow. What is there at once costs nothing of it.
const patience = 90 * time.Second

// Undrawn asks a tab for no pictures of the view at all.
const Undrawn = "undrawn"

// Quick makes a tab draw as little as it may and move nothing by itself: pictures of a
// quality or none, reduced motion. It has to be asked for before an address is opened.
func (p *Page) Quick(quality string) error {
	return p.do("asking for quick pictures", chromedp.Func(func(ctx context.Context, _ *chromedp.Target) error {
		_, err := chromedp.Call(ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{
			Features: []*emulation.MediaFeature{{Name: "prefers-reduced-motion", Value: "reduce"}},
		})
		if err != nil {
			return err
		}
		script := rough
		if quality == Undrawn {
			script, quality = rough+undrawn, "rough"
		}
		script += fmt.Sprintf(`localStorage['bead-prefs'] ??= JSON.stringify({ state: { quality: %q }, version: 0 })`, quality)
		_, err = chromedp.Call(ctx, page.AddScriptToEvaluateOnNewDocument, page.AddScriptToEvaluateOnNewDocumentParams{
			Source: script,
		})
		return err
	}))
}

// rough works the surroundings that shine in what is smooth out from 4 samples of each place instead of
// 256, which take software five seconds a page.
const rough = `{
  const gl = WebGL2RenderingContext.prototype, own = gl.shaderSource
  gl.shaderSource = function (shader, text) {
    own.call(this, shader, text.replace('#define GGX_SAMPLES 256u', '#define GGX_SAMPLES 4u'))
  }
}
`

// undrawn leaves out what WebGL draws; all else of the view goes on: its programs are linked and
// checked, rays find what is pressed, labels stand where they belong.
const undrawn = `{
  const gl = WebGL2RenderingContext.prototype, own = {}
  for (const draw of ['drawArrays', 'drawElements', 'drawArraysInstanced', 'drawElementsInstanced']) {
    own[draw] = gl[draw]
    gl[draw] = () => undefined
  }
  window.drawFromNowOn = () => !!Object.assign(gl, own)
}
`

// Draw lets an undrawn page of a view draw from its next picture on.
func (p *Page) Draw() error { return p.Wait(`window.drawFromNowOn()`) }

// Chromium starts a headless browser of 1280 x 800 with a fresh profile in dir
// and returns its first tab. Downloads go to dir/downloads.
func Chromium(dir string) (*Page, error) {
	opts := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.UserDataDir(filepath.Join(dir, "chromium")),
		chromedp.NoSandbox, chromedp.DisableGPU, chromedp.WindowSize(1280, 800),
		chromedp.Flag("enable-unsafe-swiftshader", true),
		chromedp.Flag("disable-quic", true),
		chromedp.Flag("disable-component-update", true),
		chromedp.Flag("hide-scrollbars", true),
		chromedp.Flag("force-color-profile", "srgb"),
		// SVG paths' getPathData, which the geometry tests ask for Chromium's own reading.
		chromedp.Flag("enable-experimental-web-platform-features", true),
	)
	// The headless shell draws no window of a browser round each page, which takes a quarter less time.
	for _, name := range []string{"chromium-headless-shell", "chromium"} {
		if file, err := exec.LookPath(name); err == nil {
			opts = append(opts, chromedp.ExecPath(file))
			break
		}
	}
	alloc, stopAlloc := chromedp.NewExecAllocator(context.Background(), opts...)
	p := &Page{}
	ctx, stop := chromedp.NewContext(alloc)
	p.ctx, p.stop = ctx, func() { stop(); stopAlloc() }
	downloads := filepath.Join(dir, "downloads")
	// The browser lives as long as the context of the first actions, so these have
	// no time limit.
	if err := chromedp.Do(ctx); err != nil {
		p.Close()
		return nil, fmt.Errorf("starting Chromium: %w", err)
	}
	err := p.do("starting Chromium", chromedp.EmulateViewport(1280, 800), chromedp.Func(func(ctx context.Context, _ *chromedp.Target) error {
		_, err := chromedp.CallBrowser(ctx, browser.SetDownloadBehavior, browser.SetDownloadBehaviorParams{
			Behavior: browser.SetDownloadBehaviorBehaviorAllow, DownloadPath: downloads,
		})
		return err
	}))
	if err != nil {
		p.Close()
		return nil, err
	}
	p.watch()
	return p, nil
}

// Tab opens another tab that shares this one's storage.
func (p *Page) Tab() (*Page, error) { return p.open() }

// Person opens a tab with a storage of its own, as another person's browser.
func (p *Page) Person() (*Page, error) { return p.open(chromedp.WithNewBrowserContext()) }

func (p *Page) open(opts ...chromedp.ContextOption) (*Page, error) {
	q := &Page{}
	q.ctx, q.stop = chromedp.NewContext(p.ctx, opts...)
	err := chromedp.Do(q.ctx, chromedp.EmulateViewport(1280, 800))
	if err == nil {
		q.watch()
	}
	return q, err
}

// Size makes the tab's window so large, in pixels of the page.
func (p *Page) Size(width, height int64) error {
	return p.do("making the window another size", chromedp.EmulateViewport(width, height))
}

// Close closes the tab, the first one the browser as well.
func (p *Page) Close() { p.stop() }

func (p *Page) watch() {
	messages := chromedp.Console(p.ctx)
	go func() {
		for m, err := range messages {
			if err != nil {
				return
			}
			if m.Type == "error" || m.Type == chromedp.ConsoleException {
				p.mu.Lock()
				p.errors = append(p.errors, m.Text)
				p.mu.Unlock()
			}
		}
	}()
}

// Leaving answers the browser's question whether to leave a page with unsaved work: yes, from
// now on. It returns how often that was asked so far.
func (p *Page) Leaving() (asked func() int, err error) {
	var count atomic.Int64
	err = chromedp.Listen(p.ctx, func(ev any) {
		if _, ok := ev.(*page.EventJavascriptDialogOpening); !ok {
			return
		}
		count.Add(1)
		go func() {
			_ = p.do("leaving", chromedp.Func(func(ctx context.Context, _ *chromedp.Target) error {
				_, err := chromedp.Call(ctx, page.HandleJavaScriptDialog, page.HandleJavaScriptDialogParams{Accept: true})
				return err
			}))
		}()
	})
	return func() int { return int(count.Load()) }, err
}

func (p *Page) do(what string, actions ...chromedp.Action[chromedp.Void]) error {
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	if err := chromedp.Do(ctx, actions...); err != nil {
		return fmt.Errorf("%s: %w", what, err)
	}
	return nil
}

// Open goes to an address.
func (p *Page) Open(url string) error { return p.do("opening "+url, chromedp.Navigate(url)) }

// Click clicks the middle of the first element that a CSS selector finds, as soon
// as it shows, nothing moves it (menus grow into their place) and nothing lies over it.
func (p *Page) Click(css string) error {
	return p.clickFound(css, "document.querySelector("+strconv.Quote(css)+")")
}

// clickFound clicks what an expression finds; it is looked for anew until it can be
// clicked, for the page may draw it anew meanwhile.
func (p *Page) clickFound(what, find string) error {
	at := fmt.Sprintf(`(async () => {
	  const e = %s
	  if (!e) return null
	  e.scrollIntoView({ block: 'nearest', inline: 'nearest', behavior: 'instant' })
	  if (document.getAnimations().some((a) => a.playState === 'running' && a.effect?.target?.contains(e))) return null
	  const middle = () => { const b = e.getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2] }
	  const before = middle()
	  await new Promise((done) => requestAnimationFrame(done)) // what was just pressed may still move it
	  const now = middle(), over = document.elementFromPoint(...now)
	  if (Math.hypot(now[0] - before[0], now[1] - before[1]) > 0.1) return null
	  return over && (e.contains(over) || over.contains(e)) ? now : null
	})()`, find)
	end := time.Now().Add(patience)
	var before *[2]float64
	for {
		place, err := Eval[*[2]float64](p, at)
		// Twice at one place: the answer to what was just done may move it once more.
		if err == nil && place != nil && before != nil && *place == *before {
			return p.ClickAt(place[0], place[1])
		}
		if before = place; time.Now().After(end) {
			return fmt.Errorf("clicking %s: not there, never still or covered (%v)", what, err)
		}
		time.Sleep(pause)
	}
}

// ClickText clicks the innermost button, link, menu item or label with exactly
// this text, or, where there is none, whose text holds it. An open menu, list or
// dialog is looked through alone.
func (p *Page) ClickText(text string) error {
	return p.clickFound(strconv.Quote(text), `(() => {
	  const top = [...document.querySelectorAll('[role=menu], [role=listbox], [role=dialog]')].at(-1) ?? document
	  const all = [...top.querySelectorAll('button, a, li[role^=menuitem], li[role=option], label, summary')]
	    .filter((e) => e.getClientRects().length > 0 && !e.disabled)
	  const text = `+strconv.Quote(text)+`
	  return all.find((e) => e.textContent.trim() === text) ?? all.find((e) => e.textContent.includes(text))
	})()`)
}

// Type puts text in the place of what a field holds and ends with Enter.
func (p *Page) Type(css, text string) error {
	if err := p.Click(css); err != nil {
		return err
	}
	p.Presses++ // what is typed, with its Enter
	return p.do("typing into "+css, chromedp.KeyEvent("a", chromedp.KeyModifiers(chromedp.ModifierCtrl)),
		chromedp.KeyEvent(text), chromedp.KeyEvent("\r"))
}

// Key presses a key, with modifiers.
func (p *Page) Key(keys string, opts ...chromedp.KeyOption) error {
	p.Presses++
	return p.do("pressing "+strconv.Quote(keys), chromedp.KeyEvent(keys, opts...))
}

// Wait waits until an expression is true.
func (p *Page) Wait(expression string) error {
	end := time.Now().Add(patience)
	for {
		ok, err := Eval[bool](p, expression)
		if err == nil && ok {
			return nil
		}
		if time.Now().After(end) {
			return fmt.Errorf("never true: %s (%v)", expression, err)
		}
		time.Sleep(pause)
	}
}

// Eval evaluates an expression in the page; promises are awaited.
func Eval[T any](p *Page, expression string) (T, error) {
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	return chromedp.Run(ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
}

// ClickAt clicks a place of the page.
func (p *Page) ClickAt(x, y float64) error {
	p.Presses++
	return p.do(fmt.Sprintf("clicking at %g, %g", x, y), chromedp.MouseEvent(chromedp.MouseMoved, x, y), chromedp.MouseClickXY(x, y))
}

// RightClickAt clicks a place with the right button.
func (p *Page) RightClickAt(x, y float64) error {
	return p.do(fmt.Sprintf("right-clicking at %g, %g", x, y), chromedp.MouseEvent(chromedp.MouseMoved, x, y),
		chromedp.MouseClickXY(x, y, chromedp.ButtonRight))
}

// ClickHolding clicks a place with a key held.
func (p *Page) ClickHolding(x, y float64, key chromedp.Modifier) error {
	return p.do(fmt.Sprintf("clicking at %g, %g with %v", x, y, key), chromedp.MouseEvent(chromedp.MouseMoved, x, y),
		chromedp.MouseClickXY(x, y, chromedp.ButtonModifiers(key)))
}

// DoubleClickAt clicks a place twice.
func (p *Page) DoubleClickAt(x, y float64) error {
	return p.do(fmt.Sprintf("double-clicking at %g, %g", x, y), chromedp.MouseEvent(chromedp.MouseMoved, x, y),
		chromedp.MouseClickXY(x, y), chromedp.MouseClickXY(x, y, func(e *input.DispatchMouseEventParams) { e.ClickCount = 2 }))
}

// Drag presses at one place and lets go at another, by a few steps.
func (p *Page) Drag(x0, y0, x1, y1 float64) error {
	p.Presses++
	return p.do(fmt.Sprintf("dragging from %g, %g to %g, %g", x0, y0, x1, y1),
		chromedp.MouseEvent(chromedp.MouseMoved, x0, y0), chromedp.DragAndDropXY(x0, y0, x1, y1, 8))
}

// Away takes the pointer off whatever it is over: what it is over may look otherwise.
func (p *Page) Away() error {
	return p.do("moving the pointer away", chromedp.MouseEvent(chromedp.MouseMoved, 2, 2))
}

// DragAndGiveUp drags and presses Escape before letting go.
func (p *Page) DragAndGiveUp(x0, y0, x1, y1 float64) error {
	return p.DragWhile(x0, y0, x1, y1, func() error { return p.do("giving up", chromedp.KeyEvent("\x1b")) })
}

// DragWhile drags and does something before letting go.
func (p *Page) DragWhile(x0, y0, x1, y1 float64, held func() error) error {
	left := func(e *input.DispatchMouseEventParams) {
		e.Button, e.Buttons, e.ClickCount = input.MouseButtonLeft, 1, 1
	}
	err := p.do("dragging", chromedp.MouseEvent(chromedp.MouseMoved, x0, y0),
		chromedp.MouseEvent(chromedp.MousePressed, x0, y0, left),
		chromedp.MouseEvent(chromedp.MouseMoved, (x0+x1)/2, (y0+y1)/2, left),
		chromedp.MouseEvent(chromedp.MouseMoved, x1, y1, left))
	if err == nil {
		err = held()
	}
	return errors.Join(err, p.do("letting go", chromedp.MouseEvent(chromedp.MouseReleased, x1, y1, left)))
}

// Choose gives a file to a hidden file field.
func (p *Page) Choose(css, file string) error {
	return p.do("choosing "+file, chromedp.SetUploadFiles(chromedp.CSS(css), []string{file}, chromedp.NodeReady))
}

// Reload loads the page again.
func (p *Page) Reload() error { return p.do("reloading", chromedp.Reload()) }

// Drawn waits until what the page knows now has been drawn: two frames of the screen, so
// that what the first one asks for is in the second.
func (p *Page) Drawn() error {
	return p.Wait(`new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(() => done(true)))))`)
}

// Picture returns a PNG of the page once it has drawn.
func (p *Page) Picture() ([]byte, error) {
	if err := p.Drawn(); err != nil {
		return nil, err
	}
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	return chromedp.Run(ctx, chromedp.CaptureScreenshot())
}

// Still waits until the view has come to rest, so that places in it stay.
func (p *Page) Still() error {
	return p.Wait(`(async () => {
	  for (let i = 0; i < 4; i++) {
	    const c = document.querySelector('[data-testid=view] canvas')
	    if (!c || c.dataset.moving) return false
	    await new Promise((done) => requestAnimationFrame(done))
	  }
	  return true
	})()`)
}

// BenchReady waits until an opened scene is drawn: its picture and its checks.
func (p *Page) BenchReady() error {
	return p.Wait(`!!document.querySelector('[data-testid=view] canvas') && document.querySelectorAll('[data-gauge]').length > 0`)
}
