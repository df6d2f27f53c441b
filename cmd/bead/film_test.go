package main

import (
	"strings"
	"testing"

	"bead/core/scene"
)

// What is asked for on the command line becomes what the page is asked for; what is not accepted names its flag.
func TestFilmWish(t *testing.T) {
	d := &scene.Document{Range: scene.Range{First: 3, Last: 9}, Cameras: []scene.Camera{{ID: "a", Name: "Bow"}, {ID: "b", Name: "Stern"}}}
	plain := func(to string, change func(o *filmOptions)) (filmWish, error) {
		o := &filmOptions{to: to, background: "paper", filmWish: filmWish{Rounds: 1, Moments: 1, Shutter: 0.5}}
		if change != nil {
			change(o)
		}
		return o.wish(d)
	}
	for to, kind := range map[string]string{"x.webm": "webm", "x.MP4": "mp4", "x.png.zip": "png", "x.png": "png", "dir": "png"} {
		if w, err := plain(to, nil); err != nil || w.Kind != kind || w.First != 3 || w.Camera != "a" || !w.Smooth || !w.Ground {
			t.Errorf("%s: %+v %v", to, w, err)
		}
	}
	if w, _ := plain("x.png", nil); w.Last != 3 {
		t.Errorf("one picture of frames %d to %d", w.First, w.Last)
	}
	w, err := plain("x.webm", func(o *filmOptions) {
		o.Camera, o.frames, o.size, o.background, o.write, o.rough, o.bare = "Stern", "5-6", "640x360", "#102030", "name,checks", true, true
	})
	if err != nil || w.Camera != "b" || w.First != 5 || w.Last != 6 || w.Width != 640 || w.Height != 360 || w.Background != "colour" || w.Colour != "#102030" || !w.Named || !w.Checks || w.Paths || w.Smooth || w.Ground {
		t.Errorf("%+v %v", w, err)
	}
	for flag, change := range map[string]func(o *filmOptions){
		"--size":       func(o *filmOptions) { o.size = "9000x10" },
		"--rounds":     func(o *filmOptions) { o.Rounds = 0 },
		"--blur":       func(o *filmOptions) { o.Moments = 65 },
		"--shutter":    func(o *filmOptions) { o.Shutter = 2 },
		"--background": func(o *filmOptions) { o.background = "sky" },
		"--write":      func(o *filmOptions) { o.write = "name,all" },
		"--camera":     func(o *filmOptions) { o.Camera = "Mast" },
		"--frames":     func(o *filmOptions) { o.frames = "9-" },
		"--to":         func(o *filmOptions) { o.to = "x.gif" },
	} {
		if _, err := plain("x.webm", change); err == nil || !strings.HasPrefix(err.Error(), flag) {
			t.Errorf("%s: %v", flag, err)
		}
	}
	if _, err := findChromium("no-such-browser"); err == nil || !strings.Contains(err.Error(), "no Chromium is installed here") {
		t.Error(err)
	}
}
