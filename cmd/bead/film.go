package main

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/spf13/cobra"

	"bead/core/scene"
	"bead/server"
	"bead/store"
	"bead/web"
)

// filmWish is what the page is asked for, in its words.
type filmWish struct {
	Kind        string  `json:"kind"`
	Camera      string  `json:"camera"`
	Width       int     `json:"width,omitempty"`
	Height      int     `json:"height,omitempty"`
	First       int     `json:"first"`
	Last        int     `json:"last"`
	Rounds      int     `json:"rounds"`
	Moments     int     `json:"moments"`
	Shutter     float64 `json:"shutter"`
	Background  string  `json:"background"`
	Colour      string  `json:"colour,omitempty"`
	Smooth      bool    `json:"smooth"`
	Ground      bool    `json:"ground"`
	Paths       bool    `json:"paths"`
	FrameNumber bool    `json:"frameNumber"`
	Named       bool    `json:"named"`
	Checks      bool    `json:"checks"`
}

// filmOptions is what a film is asked for on the command line.
type filmOptions struct {
	filmWish
	to, frames, size, background, write, chromium string
	rough, bare                                   bool
}

func filmCommand() *cobra.Command {
	var o filmOptions
	c := &cobra.Command{Use: "film SCENE --to FILE|DIR", Short: "Make a film or pictures of a scene", Args: cobra.ExactArgs(1),
		Long: "Film SCENE (a document file or demo:NAME) without a window, by an installed Chromium: to X.webm (VP9), X.mp4 (H.264), X.apng or X.png.zip, to one picture X.png of the first frame, or to a directory of PNGs. It is what the page's Film makes.",
		RunE: func(c *cobra.Command, args []string) error { return film(c, args[0], &o) }}
	f := c.Flags()
	f.StringVar(&o.to, "to", "", "the file to write (.webm, .mp4, .apng, .png.zip, .png), or a directory for a PNG a frame")
	f.StringVar(&o.Camera, "camera", "", "id or name of the camera (default: the scene's first; of a scene without one the corner view)")
	f.StringVar(&o.frames, "frames", "", "frames A-B (default: the scene's range)")
	f.StringVar(&o.size, "size", "", "WxH pixels, up to 3840x2160 (default: the camera's)")
	f.IntVar(&o.Rounds, "rounds", 1, "how often a loop is gone through")
	f.IntVar(&o.Moments, "blur", 1, "motion blur: so many moments in each picture, up to 64")
	f.Float64Var(&o.Shutter, "shutter", 0.5, "with --blur: the share of a frame during which the shutter is open")
	f.StringVar(&o.background, "background", "paper", "paper, night, none or a colour as #RRGGBB")
	f.StringVar(&o.write, "write", "", "what is written and drawn on it, of: name,frame,paths,checks")
	f.BoolVar(&o.rough, "rough", false, "leave edges unsmoothed, which is quicker")
	f.BoolVar(&o.bare, "no-ground", false, "leave the ground out")
	f.StringVar(&o.chromium, "chromium", "", "the Chromium to use (default: the one on the path)")
	_ = c.MarkFlagRequired("to")
	return c
}

var (
	sizeForm   = regexp.MustCompile(`^(\d{2,4})x(\d{2,4})$`)
	colourForm = regexp.MustCompile(`^#[0-9A-Fa-f]{6}$`)
)

// wish reads the flags for a scene; its errors name the flag.
func (o *filmOptions) wish(d *scene.Document) (w filmWish, err error) {
	w = o.filmWish
	switch ext := strings.ToLower(filepath.Ext(o.to)); {
	case ext == ".webm" || ext == ".mp4" || ext == ".apng":
		w.Kind = ext[1:]
	case strings.HasSuffix(strings.ToLower(o.to), ".png.zip"), ext == ".png", ext == "":
		w.Kind = "png"
	default:
		return w, fmt.Errorf("--to %q: .webm, .mp4, .apng, .png.zip, .png and a directory are accepted", o.to)
	}
	w.First, w.Last = d.Range.First, d.Range.Last
	if o.frames != "" {
		r, err := parseFrames(o.frames)
		if err != nil {
			return w, err
		}
		w.First, w.Last = r.First, r.Last
	}
	if strings.EqualFold(filepath.Ext(o.to), ".png") {
		w.Last = w.First
	}
	if o.size != "" {
		m := sizeForm.FindStringSubmatch(o.size)
		if m != nil {
			w.Width, _ = strconv.Atoi(m[1])
			w.Height, _ = strconv.Atoi(m[2])
		}
		if w.Width < 16 || w.Width > 3840 || w.Height < 16 || w.Height > 2160 {
			return w, fmt.Errorf("--size %q is not accepted: WxH from 16x16 to 3840x2160 is", o.size)
		}
	}
	if w.Rounds < 1 || w.Rounds > 100 {
		return w, fmt.Errorf("--rounds %d is not accepted: 1 to 100 are", w.Rounds)
	}
	if w.Moments < 1 || w.Moments > 64 {
		return w, fmt.Errorf("--blur %d is not accepted: 1 to 64 are", w.Moments)
	}
	if !(w.Shutter >= 0 && w.Shutter <= 1) {
		return w, fmt.Errorf("--shutter %g is not accepted: 0 to 1 is", w.Shutter)
	}
	switch {
	case o.background == "paper", o.background == "night", o.background == "none":
		w.Background = o.background
	case colourForm.MatchString(o.background):
		w.Background, w.Colour = "colour", o.background
	default:
		return w, fmt.Errorf("--background %q is not accepted: paper, night, none and #RRGGBB are", o.background)
	}
	for _, word := range strings.FieldsFunc(o.write, func(r rune) bool { return r == ',' || r == ' ' }) {
		switch word {
		case "name":
			w.Named = true
		case "frame":
			w.FrameNumber = true
		case "paths":
			w.Paths = true
		case "checks":
			w.Checks = true
		default:
			return w, fmt.Errorf("--write %q is not accepted: name, frame, paths and checks are", word)
		}
	}
	w.Smooth, w.Ground = !o.rough, !o.bare
	w.Camera = ""
	for i := range d.Cameras {
		if c := &d.Cameras[i]; o.Camera == "" || o.Camera == c.ID || o.Camera == c.Name {
			w.Camera = c.ID
			break
		}
	}
	if o.Camera != "" && w.Camera == "" {
		return w, fmt.Errorf("--camera: the scene has no camera %q", o.Camera)
	}
	return w, nil
}

func film(c *cobra.Command, name string, o *filmOptions) error {
	ctx := c.Context()
	s, err := loadScene(c, name)
	if err != nil {
		return err
	}
	w, err := o.wish(s.Doc)
	if err != nil {
		return err
	}
	chromium, err := findChromium(o.chromium)
	if err != nil {
		return err
	}
	dir, err := os.MkdirTemp("", "bead-film-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	st, err := store.Open(ctx, dir)
	if err != nil {
		return err
	}
	defer st.Close()
	made, err := st.Create(ctx, s.Doc, "made")
	if err != nil {
		return err
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	serving, stop := context.WithCancel(ctx)
	srv := server.New(server.Config{BakeDir: dir, Store: st, Page: web.Page(), Version: programVersion(), Log: slog.New(slog.DiscardHandler)})
	served := make(chan error, 1)
	go func() { served <- srv.Run(serving, l) }()
	defer func() { stop(); <-served }()
	wish, err := json.Marshal(w)
	if err != nil {
		return err
	}
	data, err := shoot(c, chromium, dir, fmt.Sprintf("http://%s/scenes/%s?film=%s", l.Addr(), made.ID, url.QueryEscape(string(wish))))
	if err != nil {
		return err
	}
	return writeFilm(o.to, data)
}

// findChromium finds the browser that films.
func findChromium(named string) (string, error) {
	names := []string{"chromium", "chromium-headless-shell", "chromium-browser", "google-chrome"}
	if named != "" {
		names = []string{named}
	}
	for _, n := range names {
		if at, err := exec.LookPath(n); err == nil {
			return at, nil
		}
	}
	return "", fmt.Errorf("no Chromium is installed here (%s): films are drawn by one; install it, or name it with --chromium", strings.Join(names, ", "))
}

const (
	pageWithin = time.Minute // until the scene stands
	filmSlice  = 6 << 20     // bytes that are taken out of the page at once
)

// shoot opens the page, which films by itself, and takes what it made.
func shoot(c *cobra.Command, chromium, dir, address string) ([]byte, error) {
	ctx := c.Context()
	opts := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath(chromium), chromedp.UserDataDir(filepath.Join(dir, "profile")),
		chromedp.WindowSize(1280, 800), chromedp.Flag("enable-unsafe-swiftshader", true), chromedp.Flag("force-color-profile", "srgb"),
		chromedp.Flag("disable-component-update", true))
	if os.Geteuid() == 0 { // Chromium's sandbox is not for root
		opts = append(opts, chromedp.NoSandbox)
	}
	alloc, stopAlloc := chromedp.NewExecAllocator(ctx, opts...)
	defer stopAlloc()
	tab, stop := chromedp.NewContext(alloc)
	defer stop()
	if err := chromedp.Do(tab, chromedp.Navigate(address)); err != nil {
		return nil, fmt.Errorf("%s: %w", chromium, err)
	}
	bar := progress(c, 1, "filming")
	began := time.Now()
	for {
		state, err := chromedp.Run(tab, chromedp.Evaluate[struct {
			Error    string
			Bytes    int
			Done, Of int
		}](`({ error: window.film?.error ?? '', bytes: window.film?.blob?.size ?? 0, done: window.film?.done ?? 0, of: window.film?.of ?? 0 })`))
		switch {
		case ctx.Err() != nil:
			return nil, ctx.Err()
		case err != nil:
			return nil, fmt.Errorf("the page: %w", err)
		case state.Error != "":
			return nil, errors.New(state.Error)
		case state.Bytes > 0:
			bar.end()
			return takeOut(tab, state.Bytes)
		case state.Of > 0:
			bar.grow(state.Of)
			bar.set(state.Done)
		case time.Since(began) > pageWithin:
			return nil, fmt.Errorf("the scene did not stand in %s after %v: does it draw WebGL?", chromium, pageWithin)
		}
		select {
		case <-ctx.Done():
			return nil, ctx.Err()
		case <-time.After(100 * time.Millisecond):
		}
	}
}

// takeOut takes the film out of the page, piece by piece.
func takeOut(tab context.Context, size int) ([]byte, error) {
	out := make([]byte, 0, size)
	for at := 0; at < size; at += filmSlice {
		text, err := chromedp.Run(tab, chromedp.Evaluate[string](fmt.Sprintf(`new Promise((done) => { const r = new FileReader();
			r.onload = () => done(r.result.slice(r.result.indexOf(',') + 1)); r.readAsDataURL(window.film.blob.slice(%d, %d)) })`, at, at+filmSlice), chromedp.EvalAwaitPromise))
		if err != nil {
			return nil, err
		}
		part, err := base64.StdEncoding.DecodeString(text)
		if err != nil {
			return nil, err
		}
		out = append(out, part...)
	}
	return out, nil
}

// writeFilm writes a film where it is wanted: pictures one by one into a directory, or the one there is.
func writeFilm(to string, data []byte) error {
	lower := strings.ToLower(to)
	if filepath.Ext(lower) != "" && !strings.HasSuffix(lower, ".png") {
		return os.WriteFile(to, data, 0o644)
	}
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return err
	}
	if !strings.HasSuffix(lower, ".png") {
		if err := os.MkdirAll(to, 0o755); err != nil {
			return err
		}
	}
	for _, f := range z.File {
		r, err := f.Open()
		if err != nil {
			return err
		}
		picture, err := io.ReadAll(r)
		if err != nil {
			return err
		}
		at := to
		if !strings.HasSuffix(lower, ".png") {
			at = filepath.Join(to, filepath.Base(f.Name))
		}
		if err := os.WriteFile(at, picture, 0o644); err != nil {
			return err
		}
	}
	return nil
}
