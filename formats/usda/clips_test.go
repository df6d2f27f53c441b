package usda_test

import (
	"fmt"
	"reflect"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/demo"
	"bead/formats/usda"
)

// What clips hold, and the layer beside them, read by a stranger's parser, is what the one file holds in every
// frame: places, turns, visibility, points; no clip is larger than was asked; each clip ends with the first
// key of the next.
func TestClipsHoldWhatTheFileHolds(t *testing.T) {
	for _, name := range []string{"hull-plates", "bucket-ladder"} {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		s := compile(t, d)
		const first, frames = 10, 9
		baker := func() *usda.Baker {
			b := usda.NewBaker(s, usda.Options{First: first, Start: first, Frames: frames, Paths: true, Exact: true})
			var pic rig.Picture
			for f := range frames {
				s.Frame(&pic, first+f)
				b.Frame(&pic)
			}
			return b
		}
		var plain strings.Builder
		if err := baker().Close(&plain); err != nil {
			t.Fatal(err)
		}
		files := map[string]string{}
		size := 0 // less than half of what all that changes takes
		if err := baker().CloseInClips(1<<30, func(name string, data []byte) error {
			if name == "clips/0001.usda" {
				size = len(data) * 45 / 100
			}
			return nil
		}); err != nil {
			t.Fatal(err)
		}
		if err := baker().CloseInClips(size, func(name string, data []byte) error {
			files[name] = string(data)
			return nil
		}); err != nil {
			t.Fatal(err)
		}
		if len(files) < 4 || strings.Contains(files["scene.usda"], "timeSamples") {
			t.Fatalf("%s: %d files", name, len(files))
		}
		all := make([]int, frames)
		for f := range all {
			all[f] = first + f
		}
		want, layer := stranger(t, plain.String(), all...), stranger(t, files["scene.usda"], first)
		at := first
		for k := 1; at < first+frames; k++ {
			text, there := files[fmt.Sprintf("clips/%04d.usda", k)]
			if !there || len(text) > size {
				t.Fatalf("%s: clip %d is there: %v, with %d bytes", name, k, there, len(text))
			}
			var from, to int
			if _, err := fmt.Sscanf(text[strings.Index(text, "startTimeCode"):], "startTimeCode = %d\n    endTimeCode = %d", &from, &to); err != nil || from != at {
				t.Fatalf("%s: clip %d begins at %d, want %d: %v", name, k, from, at, err)
			}
			if !strings.Contains(files["scene.usda"], fmt.Sprintf("(%d, %d)", from, k-1)) {
				t.Errorf("%s: the layer does not say that clip %d counts from %d", name, k, from)
			}
			codes := []int{}
			for f := from; f <= to; f++ {
				codes = append(codes, f)
			}
			// The parser passes over what is no definition.
			got := stranger(t, strings.ReplaceAll(text, "over \"", "def Xform \""), codes...)
			seen := 0
			for i, f := range codes {
				for prim, w := range want.At[f-first] {
					both := layer.At[0][prim]
					if c, has := got.At[i][prim]; has {
						v, of := reflect.ValueOf(&both).Elem(), reflect.ValueOf(c)
						for n := range of.NumField() {
							if !of.Field(n).IsZero() {
								v.Field(n).Set(of.Field(n))
								seen++
							}
						}
					}
					if !reflect.DeepEqual(both, w) {
						t.Fatalf("%s, frame %d, %s: %.200v in clips, %.200v in one file", name, f, prim, both, w)
					}
				}
			}
			if seen == 0 {
				t.Errorf("%s: clip %d moves nothing", name, k)
			}
			if at = to; to == first+frames-1 {
				break // else the last key is the next one's first
			}
		}
		if err := baker().CloseInClips(1000, func(string, []byte) error { return nil }); err == nil || !strings.Contains(err.Error(), "frame 10 alone takes") {
			t.Errorf("clips of 1000 bytes: %v", err)
		}
	}
}
