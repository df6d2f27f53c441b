package svg_test

import (
	"context"
	"errors"
	"math"
	"strings"
	"testing"

	"bead/core/path"
	"bead/formats/svg"
)

func lengthOf(t *testing.T, list []path.Named) float64 {
	t.Helper()
	sum := 0.0
	for _, n := range list {
		c, err := path.New(n.Spans, n.Closed)
		if err != nil {
			t.Fatal(err)
		}
		sum += c.Length()
	}
	return sum
}

// Lengths in closed form. The commands are held against Chromium's own geometry
// in the browser tests.
func TestPathDataLengths(t *testing.T) {
	for d, want := range map[string]float64{
		"M0 0L3 4":                             5,
		"m1 1 3 4-3-4z":                        10,
		"M0 0h3v4H0z":                          14,
		"M0,0 1e0.5":                           math.Hypot(1, 0.5),
		"M.5.5.5-1.5":                          2,
		"M1 0A1 1 0 0 1-1 0":                   math.Pi,
		"M1 0a1 1 0 10-1 1":                    1.5 * math.Pi, // flags against the numbers
		"M0 0A1 1 0 0 1 6 0":                   3 * math.Pi,   // radii grow to reach
		"M0 0A0 1 0 0 1 6 0":                   6,             // a radius of 0 is a line
		"M2 0A2 1 90 0 1-2 0A2 1 90 0 1 2 0":   2 * 9.688448220547676,
		"M0 0Q0 0 1 0T2 0":                     2,
		"M0 0C1 2 3 2 4 0":                     5.268365543018514, // MATH 1
		"M0 0C1 2 3 2 4 0S7-2 8 0":             2 * 5.268365543018514,
		"M0 0L1 0Zl0 2z":                       6, // a command after Z starts where the subpath did
		"M0 0L1 0M5 5L5 7":                     3,
		"M 0 0 L 1 0 M 9 9":                    1,
		"\n M 0 , 0 \t L\r\n 2 , 0 ":           2,
		"M0 0L1 0 2 0 3 0":                     3,
		"M-1,0a1,1,0,0,0,2,0a1,1,0,0,0,-2,0z ": 2 * math.Pi,
	} {
		list, err := svg.ParsePathData(d)
		if err != nil {
			t.Errorf("%q: %v", d, err)
			continue
		}
		if got := lengthOf(t, list); math.Abs(got-want) > 1e-11*want {
			t.Errorf("%q: length %.15g, want %.15g", d, got, want)
		}
	}
}

func TestBadPathData(t *testing.T) {
	for d, at := range map[string]int{
		"L1 1": 1, "M": 2, "M1": 3, "M1 1L": 6, "M0 0 X": 6, "M0 0L1,,2": 8, "M0 0A1 1 0 2 0 1 1": 12,
		"M0 0L1e999 0": 6, "M0 0L- 1": 6, "M0 0C1 2 3 4 5": 15,
	} {
		_, err := svg.ParsePathData(d)
		var syn *svg.SyntaxError
		if !errors.As(err, &syn) || syn.At != at {
			t.Errorf("%q: %v, want a fault at character %d", d, err, at)
		}
	}
}

func TestDocument(t *testing.T) {
	list, err := svg.Read(context.Background(), []byte(`<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg">
<defs><path d="M0 0L99 0"/><g><circle r="3"/></g></defs>
<g transform="translate(10 20) scale(2)"><path id="track" d="M0 0L3 4" transform="rotate(30)"/></g>
<circle cx="1" cy="1" r="2"/><rect width="4" height="3" rx="1"/><polygon points="0,0 3,0 3,4"/>
<ellipse rx="2" ry="1"/><line x2="7"/><path d="M0 0L1 0M5 0L6 0"/></svg>`))
	if err != nil {
		t.Fatal(err)
	}
	wants := []struct {
		name   string
		length float64
		closed bool
	}{{"track", 10, false}, {"circle 1", 4 * math.Pi, true}, {"rect 1", 6 + 2*math.Pi, true}, {"polygon 1", 12, true},
		{"ellipse 1", 9.688448220547676, true}, {"line 1", 7, false}, {"path 2 part 1", 1, false}, {"path 2 part 2", 1, false}}
	if len(list) != len(wants) {
		t.Fatalf("%d paths, want %d: %+v", len(list), len(wants), list)
	}
	for i, w := range wants {
		got := lengthOf(t, list[i:i+1])
		if list[i].Name != w.name || list[i].Closed != w.closed || math.Abs(got-w.length) > 1e-11 {
			t.Errorf("path %d: %q closed %v length %.15g, want %+v", i, list[i].Name, list[i].Closed, got, w)
		}
	}
	// Translation and rotation act in the written order.
	end := list[0].Spans[0].End()
	sin, cos := math.Sincos(math.Pi / 6)
	if math.Abs(end.X-(10+2*(3*cos-4*sin))) > 1e-12 || math.Abs(end.Y-(20+2*(3*sin+4*cos))) > 1e-12 {
		t.Errorf("the track ends at %v", end)
	}
	if plain, err := svg.Read(context.Background(), []byte(" M0 0L3 4 ")); err != nil || lengthOf(t, plain) != 5 {
		t.Errorf("plain path data: %v, %v", plain, err)
	}
}

func TestBadDocuments(t *testing.T) {
	for text, says := range map[string]string{
		"":                                    "holds no path",
		"<svg></svg>":                         "holds no path",
		"<svg><path d='M0 0L1'/></svg>":       "line 1, <path>: path data, character 7",
		"<svg>\n<path d='M0 0":                "line 2: not SVG",
		"<svg><g transform='spin(3)'/></svg>": "not a transform",
		"<svg><circle r='2em'/></svg>":        "a plain number",
		"M0 0":                                "draws nothing",
		strings.Repeat("<g>", 1000):           "nested more than",
		"\x00\xff\xfe":                        "not SVG",
	} {
		if _, err := svg.Read(context.Background(), []byte(text)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%.40q: %v, want an error with %q", text, err, says)
		}
	}
}

// Any bytes give paths that can be measured (or have no length), or an error.
func FuzzRead(f *testing.F) {
	f.Add([]byte(`<svg><path d="M0 0a1 1 0 10-1 1T2 2S3 3 4 4z" transform="matrix(1 2 3 4 5 6)"/></svg>`))
	f.Add([]byte("M1e8-1e8A1e-300 1e9 1e9 0 1.1.1"))
	f.Add([]byte(`<svg><rect width="1e-300" height="4" ry="9"/></svg>`))
	f.Fuzz(func(t *testing.T, data []byte) {
		list, err := svg.Read(context.Background(), data)
		if err != nil {
			return
		}
		for _, n := range list {
			if len(n.Spans) > 300 {
				continue
			}
			c, err := path.New(n.Spans, n.Closed)
			if err != nil {
				continue
			}
			if l := c.Length(); !(l > 0) || math.IsInf(l, 0) {
				t.Fatalf("length %g of %q", l, data)
			}
			if p, tan := c.At(c.Length() / 3); !p.IsFinite() || !tan.IsFinite() {
				t.Fatalf("position %v %v of %q", p, tan, data)
			}
		}
	})
}
