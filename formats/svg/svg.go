package svg

import (
	"bytes"
	"context"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"bead/core/geom"
	"bead/core/path"
)

// MaxBytes is the largest SVG document that is read; maxDepth its deepest nesting.
const (
	MaxBytes = 32 << 20
	maxDepth = 200
)

// Read returns the paths of an SVG document in document order, subpaths apart.
// A name is the element's id or its kind and number. Bytes that are no XML but
// plain path data are read as that. When ctx ends its error is returned. What stands inside defs, clipPath, mask,
// marker, pattern and symbol is not drawn and not read.
func Read(ctx context.Context, data []byte) ([]path.Named, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the file has %d bytes: at most %d are read", len(data), MaxBytes)
	}
	if trimmed := bytes.TrimSpace(data); len(trimmed) > 0 && (trimmed[0] == 'M' || trimmed[0] == 'm') {
		out, err := ParsePathData(string(trimmed))
		if err == nil && len(out) == 0 {
			err = errors.New("the path data draws nothing: at least one line or curve is accepted")
		}
		for i := range out {
			out[i].Name = fmt.Sprintf("path %d", i+1)
		}
		return out, err
	}
	r := &reader{dec: xml.NewDecoder(bytes.NewReader(data)), stack: []matrix{{1, 0, 0, 1, 0, 0}}}
	r.dec.Strict = true
	if err := r.run(ctx); err != nil {
		return nil, err
	}
	if len(r.out) == 0 {
		return nil, errors.New("the file holds no path: SVG with path, line, polyline, polygon, rect, circle or ellipse elements is accepted")
	}
	return r.out, nil
}

// matrix is SVG's (a b c d e f): x' = ax + cy + e, y' = bx + dy + f.
type matrix [6]float64

func (m matrix) times(o matrix) matrix {
	return matrix{
		m[0]*o[0] + m[2]*o[1], m[1]*o[0] + m[3]*o[1],
		m[0]*o[2] + m[2]*o[3], m[1]*o[2] + m[3]*o[3],
		m[0]*o[4] + m[2]*o[5] + m[4], m[1]*o[4] + m[3]*o[5] + m[5],
	}
}

func (m matrix) vector(v geom.Vec) geom.Vec {
	return geom.V(m[0]*v.X+m[2]*v.Y, m[1]*v.X+m[3]*v.Y, 0)
}

func (m matrix) point(v geom.Vec) geom.Vec { return m.vector(v).Add(geom.V(m[4], m[5], 0)) }

func (m matrix) span(s path.Span) path.Span {
	switch s.Kind {
	case path.Arc: // an affine image of an ellipse has the images of its half axes
		s.P[0] = m.point(s.P[0])
		for i := 1; i < 4; i++ {
			s.P[i] = m.vector(s.P[i])
		}
	case path.Line:
		s.P[0], s.P[3] = m.point(s.P[0]), m.point(s.P[3])
	default:
		for i := range s.P {
			s.P[i] = m.point(s.P[i])
		}
	}
	return s
}

type reader struct {
	dec    *xml.Decoder
	stack  []matrix
	hidden int // depth inside elements that are not drawn
	counts map[string]int
	out    []path.Named
	spans  int
}

var notDrawn = map[string]bool{"defs": true, "clipPath": true, "mask": true, "marker": true, "pattern": true, "symbol": true}

func (r *reader) run(ctx context.Context) error {
	r.counts = map[string]int{}
	for n := 1; ; n++ {
		if n%256 == 0 && ctx.Err() != nil {
			return ctx.Err()
		}
		tok, err := r.dec.Token()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			var syn *xml.SyntaxError
			if errors.As(err, &syn) {
				return fmt.Errorf("line %d: not SVG: %s", syn.Line, syn.Msg)
			}
			return fmt.Errorf("not SVG: %w", err)
		}
		switch t := tok.(type) {
		case xml.StartElement:
			if len(r.stack) > maxDepth {
				return fmt.Errorf("elements are nested more than %d deep", maxDepth)
			}
			if r.hidden > 0 || notDrawn[t.Name.Local] {
				r.hidden++
			} else if err := r.element(t); err != nil {
				line, _ := r.dec.InputPos()
				return fmt.Errorf("line %d, <%s>: %w", line, t.Name.Local, err)
			}
			if r.hidden > 0 {
				r.stack = append(r.stack, r.stack[len(r.stack)-1])
			}
		case xml.EndElement:
			if r.hidden > 0 {
				r.hidden--
			}
			r.stack = r.stack[:max(len(r.stack)-1, 1)]
		}
	}
}

// element draws one element and pushes its transform.
func (r *reader) element(e xml.StartElement) error {
	attr := map[string]string{}
	for _, a := range e.Attr {
		if a.Name.Space == "" {
			attr[a.Name.Local] = a.Value
		}
	}
	m := r.stack[len(r.stack)-1]
	if t, has := attr["transform"]; has {
		own, err := parseTransform(t)
		if err != nil {
			return fmt.Errorf("transform: %w", err)
		}
		m = m.times(own)
	}
	r.stack = append(r.stack, m)
	d, err := shapeData(e.Name.Local, attr)
	if err != nil || d == "" {
		return err
	}
	subpaths, err := ParsePathData(d)
	if err != nil {
		return err
	}
	r.counts[e.Name.Local]++
	name := attr["id"]
	if name == "" {
		name = fmt.Sprintf("%s %d", e.Name.Local, r.counts[e.Name.Local])
	}
	for i, s := range subpaths {
		s.Name = name
		if len(subpaths) > 1 {
			s.Name = fmt.Sprintf("%s part %d", name, i+1)
		}
		for k := range s.Spans {
			s.Spans[k] = m.span(s.Spans[k])
		}
		if r.spans += len(s.Spans); r.spans > maxSpans {
			return fmt.Errorf("more than %d segments in the file", maxSpans)
		}
		r.out = append(r.out, s)
	}
	return nil
}

// shapeData returns path data that draws the element (SVG 2, chapter 10), empty
// for elements that draw nothing.
func shapeData(kind string, attr map[string]string) (string, error) {
	var err error
	length := func(name string) float64 {
		text := strings.TrimSuffix(strings.TrimSpace(attr[name]), "px")
		if text == "" {
			return 0
		}
		v, e := strconv.ParseFloat(text, 64)
		if e != nil || !(math.Abs(v) <= maxCoordinate) {
			err = fmt.Errorf("%s=%q: a plain number within ±1e9 is accepted", name, attr[name])
		}
		return v
	}
	f := func(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }
	oval := func(cx, cy, rx, ry float64) string {
		if rx <= 0 || ry <= 0 {
			return ""
		}
		to := func(x, y float64) string { return "A" + f(rx) + " " + f(ry) + " 0 0 1 " + f(x) + " " + f(y) }
		return "M" + f(cx+rx) + " " + f(cy) + to(cx, cy+ry) + to(cx-rx, cy) + to(cx, cy-ry) + to(cx+rx, cy) + "Z"
	}
	d := ""
	switch kind {
	case "path":
		d = attr["d"]
	case "line":
		d = "M" + f(length("x1")) + " " + f(length("y1")) + "L" + f(length("x2")) + " " + f(length("y2"))
	case "polyline", "polygon":
		if pts := strings.TrimSpace(attr["points"]); pts != "" {
			d = "M" + pts
		}
		if kind == "polygon" && d != "" {
			d += "Z"
		}
	case "circle":
		d = oval(length("cx"), length("cy"), length("r"), length("r"))
	case "ellipse":
		d = oval(length("cx"), length("cy"), length("rx"), length("ry"))
	case "rect":
		d = rect(length, f, attr)
	}
	return d, err
}

func rect(length func(string) float64, f func(float64) string, attr map[string]string) string {
	x, y, w, h := length("x"), length("y"), length("width"), length("height")
	if w <= 0 || h <= 0 {
		return ""
	}
	rx, ry := length("rx"), length("ry")
	if attr["rx"] == "" {
		rx = ry
	}
	if attr["ry"] == "" {
		ry = rx
	}
	rx, ry = min(max(rx, 0), w/2), min(max(ry, 0), h/2)
	if rx == 0 || ry == 0 {
		return "M" + f(x) + " " + f(y) + "H" + f(x+w) + "V" + f(y+h) + "H" + f(x) + "Z"
	}
	arc := func(dx, dy float64) string { return "a" + f(rx) + " " + f(ry) + " 0 0 1 " + f(dx) + " " + f(dy) }
	return "M" + f(x+rx) + " " + f(y) + "H" + f(x+w-rx) + arc(rx, ry) + "V" + f(y+h-ry) + arc(-rx, ry) +
		"H" + f(x+rx) + arc(-rx, -ry) + "V" + f(y+ry) + arc(rx, -ry) + "Z"
}

// parseTransform reads a transform attribute (CSS Transforms 1, chapter 8, as
// SVG writes them).
func parseTransform(text string) (matrix, error) {
	m := matrix{1, 0, 0, 1, 0, 0}
	rest := strings.TrimSpace(text)
	for rest != "" && rest != "none" {
		name, after, found := strings.Cut(rest, "(")
		inside, tail, ends := strings.Cut(after, ")")
		if !found || !ends {
			return m, fmt.Errorf("%q is not accepted: matrix, translate, scale, rotate, skewX and skewY with numbers in brackets are", text)
		}
		p := parser{text: inside}
		var a []float64
		for p.space(); p.pos < len(inside); p.separator() {
			v, err := p.number()
			if err != nil || len(a) == 6 {
				return m, fmt.Errorf("%q: numbers in brackets are accepted", rest)
			}
			a = append(a, v)
		}
		own, ok := transformOf(strings.TrimSpace(name), a)
		if !ok {
			return m, fmt.Errorf("%q is not a transform with %d numbers", strings.TrimSpace(name), len(a))
		}
		m = m.times(own)
		for _, v := range m {
			if !(math.Abs(v) <= maxCoordinate) {
				return m, fmt.Errorf("%q leaves ±1e9", text)
			}
		}
		rest = strings.TrimLeft(tail, " \t\r\n,")
	}
	return m, nil
}

func transformOf(name string, a []float64) (matrix, bool) {
	n := len(a)
	arg := func(i int, otherwise float64) float64 {
		if i < n {
			return a[i]
		}
		return otherwise
	}
	switch {
	case name == "matrix" && n == 6:
		return matrix(a), true
	case name == "translate" && (n == 1 || n == 2):
		return matrix{1, 0, 0, 1, a[0], arg(1, 0)}, true
	case name == "scale" && (n == 1 || n == 2):
		return matrix{a[0], 0, 0, arg(1, a[0]), 0, 0}, true
	case name == "rotate" && (n == 1 || n == 3):
		sin, cos := math.Sincos(a[0] * math.Pi / 180)
		x, y := arg(1, 0), arg(2, 0)
		return matrix{cos, sin, -sin, cos, x - cos*x + sin*y, y - sin*x - cos*y}, true
	case name == "skewX" && n == 1:
		return matrix{1, 0, math.Tan(a[0] * math.Pi / 180), 1, 0, 0}, true
	case name == "skewY" && n == 1:
		return matrix{1, math.Tan(a[0] * math.Pi / 180), 0, 1, 0, 0}, true
	}
	return matrix{}, false
}
