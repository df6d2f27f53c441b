// Command screenshots takes the pictures in docs/screenshots from the demo data.
// Usage: screenshots PROGRAM DIRECTORY
package main

import (
	"fmt"
	"os"
	"path/filepath"
	"time"

	"bead/browser"
)

func main() {
	if len(os.Args) != 3 {
		fmt.Fprintln(os.Stderr, "usage: screenshots PROGRAM DIRECTORY")
		os.Exit(2)
	}
	if err := run(os.Args[1], os.Args[2]); err != nil {
		fmt.Fprintln(os.Stderr, "screenshots:", err)
		os.Exit(1)
	}
}

// shot is a picture and what is done before it.
type shot struct {
	name string
	do   func(p *browser.Page) error
}

func steps(fns ...func() error) error {
	for _, f := range fns {
		if err := f(); err != nil {
			return err
		}
	}
	return nil
}

func run(program, out string) error {
	dir, err := os.MkdirTemp("", "bead-shots")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	prog, err := browser.Start(program, filepath.Join(dir, "data"), "127.0.0.1:0", "demo")
	if err != nil {
		return err
	}
	defer prog.Kill()
	p, err := browser.Chromium(dir)
	if err != nil {
		return err
	}
	defer p.Close()
	for _, s := range shots(p, prog.URL) {
		if err := s.do(p); err != nil {
			return fmt.Errorf("%s: %w", s.name, err)
		}
		time.Sleep(3500 * time.Millisecond)
		if err := p.Wait(`document.getAnimations().every((a) => a.playState !== 'running')`); err != nil { // colours of a theme fade
			return fmt.Errorf("%s: %w", s.name, err)
		}
		png, err := p.Picture()
		if err != nil {
			return fmt.Errorf("%s: %w", s.name, err)
		}
		if err := os.WriteFile(filepath.Join(out, s.name+".png"), png, 0o644); err != nil {
			return err
		}
		fmt.Println(s.name)
	}
	for _, e := range p.Errors() {
		return fmt.Errorf("the page said: %s", e)
	}
	return nil
}

// shots are the pictures in order, each from where the one before left the page.
func shots(p *browser.Page, url string) []shot {
	home := func() error {
		return steps(func() error { return p.Open(url + "/") }, func() error { return p.Wait(`document.querySelectorAll('main li img').length > 1`) })
	}
	open := func(name string) error {
		return steps(home, func() error { return p.ClickText(name) }, p.BenchReady)
	}
	click := func(css string) func() error { return func() error { return p.Click(css) } }
	text := func(s string) func() error { return func() error { return p.ClickText(s) } }
	theme := func(name string) func() error { return click(fmt.Sprintf(`button[aria-label="%s theme"]`, name)) }
	toFrame := func(f string) func() error {
		return func() error { return p.Type(`input[aria-label="Frame"]`, f) }
	}
	return []shot{
		{"scenes", func(*browser.Page) error { return home() }},
		{"bench", func(*browser.Page) error {
			return steps(func() error { return open("Crawler tread") }, toFrame("37"))
		}},
		{"bench-dark", func(*browser.Page) error { return theme("Dark")() }},
		{"checks", func(*browser.Page) error {
			return steps(theme("Light"), func() error { return open("Crawler tread") }, text("set pitch"),
				func() error {
					return p.Wait(`document.querySelector('[data-gauge=seam]')?.dataset.state === 'inside'`)
				},
				click("[data-step=facing]"), text("fixed up"),
				func() error {
					return p.Wait(`document.querySelector('[data-gauge=flips]')?.dataset.state === 'outside'`)
				}, click("[data-gauge=flips]"))
		}},
		{"film", func(*browser.Page) error {
			return steps(func() error { return open("Crawler over the hump") }, text("From the quay"), text("Look through it"), text("Film and stills"), toFrame("64"))
		}},
		{"terraces", func(*browser.Page) error {
			return steps(func() error { return open("Terraces") }, text("Way down"))
		}},
		{"crab", func(*browser.Page) error {
			return steps(func() error { return open("Crab patrol") }, click("[data-step=cycle]"), toFrame("90"),
				func() error { return p.Wait(`document.body.textContent.includes('at 2.376 m')`) }, text("Alongside"))
		}},
		{"deliver", func(*browser.Page) error {
			return steps(func() error { return open("Float line") }, text("Deliver"), text("Bake 97 frames"),
				func() error { return p.Wait(`!!document.querySelector('[data-testid=baked]')`) })
		}},
		{"hump", func(*browser.Page) error {
			return steps(func() error { return open("Crawler over the hump") }, text("a hump"), toFrame("64"))
		}},
		{"cable", func(*browser.Page) error {
			return steps(func() error { return open("Umbilical") }, click("[data-step=bend]"), toFrame("40"))
		}},
		{"ladder", func(*browser.Page) error {
			return steps(func() error { return open("Bucket ladder") }, click("[data-step=path]"), text("1 Head sprocket"), toFrame("20"))
		}},
		{"eel", func(*browser.Page) error {
			return steps(func() error { return open("Eel") }, click("[data-step=liveliness]"), toFrame("30"))
		}},
		{"materials", func(*browser.Page) error {
			return steps(func() error { return open("Signal pennants") }, text("Banded sailcloth"), toFrame("20"),
				func() error { return p.Wait(`!document.querySelector('[data-testid=simulating]')`) })
		}},
		{"winch", func(*browser.Page) error {
			return steps(theme("Dark"), func() error { return open("Winch") }, click("[data-step=drum]"), toFrame("30"))
		}},
		{"net", func(*browser.Page) error {
			return steps(theme("Light"), func() error { return open("Net on rings") }, click("[data-step=cloth]"),
				func() error { return p.Wait(`!document.querySelector('[data-testid=simulating]')`) }, toFrame("30"))
		}},
		{"mat", func(*browser.Page) error {
			return steps(func() error { return open("Erosion mat") }, click("[data-step=roll]"), toFrame("60"), text("Alongside"))
		}},
		{"ballast", func(*browser.Page) error {
			return steps(func() error { return open("Ballast slabs") }, click("[data-step=travel]"), toFrame("62"), text("Ghosts"))
		}},
		{"graph", func(*browser.Page) error {
			return steps(func() error { return open("Skid steer") }, text("Ghosts"), text("Chassis"), text("Trail"), text("Graph"), toFrame("60"))
		}},
	}
}
