// Package svg reads the paths of SVG 2 documents: path data with all its
// commands, the basic shapes, groups and transforms. Coordinates keep their
// numbers as (x, y, 0). The readers are total: any bytes give paths or an error.
package svg

import (
	"fmt"
	"math"
	"strconv"

	"bead/core/geom"
	"bead/core/path"
)

// Limits of what is read.
const (
	maxSpans      = 200_000
	maxCoordinate = 1e9
)

// SyntaxError is a fault in path data at a byte position counted from 1.
type SyntaxError struct {
	At   int
	Text string
}

func (e *SyntaxError) Error() string {
	return fmt.Sprintf("path data, character %d: %s", e.At, e.Text)
}

// ParsePathData reads the d attribute of a path (SVG 2, chapter 9.3). Each
// subpath is a run of spans; one that ends with Z is closed. Subpaths of a single
// point are left out.
func ParsePathData(d string) ([]path.Named, error) {
	p := &parser{text: d}
	for {
		p.space()
		if p.pos == len(d) {
			break
		}
		at, c := p.pos, d[p.pos]
		if len(p.out) == 0 && !p.started && c != 'M' && c != 'm' {
			return nil, &SyntaxError{at + 1, fmt.Sprintf("%q where the first command, M or m, is expected", c)}
		}
		p.pos++
		if err := p.command(c, at); err != nil {
			return nil, err
		}
	}
	p.finish(false)
	return p.out, nil
}

// parser holds the pen: where it is, where its subpath began, and the last
// control point for the shorthand commands.
type parser struct {
	text    string
	pos     int
	out     []path.Named
	spans   []path.Span
	total   int
	started bool
	at      geom.Vec
	start   geom.Vec
	control geom.Vec
	last    byte // the last command, upper case
}

func (p *parser) space() {
	for p.pos < len(p.text) {
		switch p.text[p.pos] {
		case ' ', '\t', '\n', '\r', '\f':
			p.pos++
		default:
			return
		}
	}
}

func (p *parser) separator() {
	p.space()
	if p.pos < len(p.text) && p.text[p.pos] == ',' {
		p.pos++
		p.space()
	}
}

func digit(c byte) bool { return c >= '0' && c <= '9' }

// number reads one number by the grammar of SVG, in which "1.5.5-3" is three.
func (p *parser) number() (float64, error) {
	t, i := p.text, p.pos
	peek := func() byte {
		if i < len(t) {
			return t[i]
		}
		return 0
	}
	if c := peek(); c == '+' || c == '-' {
		i++
	}
	digits := 0
	for digit(peek()) {
		i, digits = i+1, digits+1
	}
	if peek() == '.' {
		i++
		for digit(peek()) {
			i, digits = i+1, digits+1
		}
	}
	if digits == 0 {
		return 0, p.expected("a number")
	}
	if c := peek(); c == 'e' || c == 'E' {
		mark := i
		if i++; peek() == '+' || peek() == '-' {
			i++
		}
		if !digit(peek()) {
			i = mark
		}
		for digit(peek()) {
			i++
		}
	}
	v, err := strconv.ParseFloat(t[p.pos:i], 64)
	if err != nil || math.Abs(v) > maxCoordinate {
		return 0, &SyntaxError{p.pos + 1, fmt.Sprintf("%s is not accepted: a number within ±1e9 is", t[p.pos:i])}
	}
	p.pos = i
	return v, nil
}

func (p *parser) expected(what string) error {
	if p.pos >= len(p.text) {
		return &SyntaxError{p.pos + 1, "the data ends where " + what + " is expected"}
	}
	return &SyntaxError{p.pos + 1, fmt.Sprintf("%q where %s is expected", p.text[p.pos], what)}
}

// flag reads an arc flag, which may stand against the next number.
func (p *parser) flag() (float64, error) {
	if p.pos < len(p.text) && (p.text[p.pos] == '0' || p.text[p.pos] == '1') {
		p.pos++
		return float64(p.text[p.pos-1] - '0'), nil
	}
	return 0, p.expected("a flag, 0 or 1,")
}

// argCount is the number of arguments of each command.
var argCount = map[byte]int{'M': 2, 'L': 2, 'H': 1, 'V': 1, 'C': 6, 'S': 4, 'Q': 4, 'T': 2, 'A': 7, 'Z': 0}

func (p *parser) command(c byte, at int) error {
	upper, relative := c, false
	if c >= 'a' && c <= 'z' {
		upper, relative = c-'a'+'A', true
	}
	n, known := argCount[upper]
	if !known {
		return &SyntaxError{at + 1, fmt.Sprintf("%q is not a command", c)}
	}
	if upper == 'Z' {
		p.finish(true)
		p.at, p.last = p.start, 'Z'
		return nil
	}
	for first := true; ; first = false {
		p.space()
		if !first {
			p.separator()
			if p.pos == len(p.text) || !numberStart(p.text[p.pos]) {
				return nil
			}
			if upper == 'M' { // further pairs are lines
				upper = 'L'
			}
		}
		var a [7]float64
		for i := range n {
			if i > 0 {
				p.separator()
			}
			var err error
			if upper == 'A' && (i == 3 || i == 4) {
				a[i], err = p.flag()
			} else {
				a[i], err = p.number()
			}
			if err != nil {
				return err
			}
		}
		p.draw(upper, relative, a)
		if p.total > maxSpans {
			return &SyntaxError{p.pos + 1, fmt.Sprintf("more than %d segments", maxSpans)}
		}
	}
}

func numberStart(c byte) bool { return digit(c) || c == '+' || c == '-' || c == '.' }

func (p *parser) add(s path.Span, to geom.Vec) {
	p.spans = append(p.spans, s)
	p.total++
	p.at = to
}

// draw carries out one command with its arguments.
func (p *parser) draw(c byte, relative bool, a [7]float64) {
	base := geom.Vec{}
	if relative {
		base = p.at
	}
	pt := func(i int) geom.Vec { return base.Add(geom.V(a[i], a[i+1], 0)) }
	from, control := p.at, geom.Vec{}
	if p.last == 'Z' && c != 'M' {
		p.start = p.at // a command after Z starts a subpath where the last one did
	}
	switch c {
	case 'M':
		p.finish(false)
		p.at = pt(0)
		p.start, p.started = p.at, true
	case 'L':
		p.add(path.LineSpan(from, pt(0)), pt(0))
	case 'H':
		to := geom.V(base.X+a[0], from.Y, 0)
		p.add(path.LineSpan(from, to), to)
	case 'V':
		to := geom.V(from.X, base.Y+a[0], 0)
		p.add(path.LineSpan(from, to), to)
	case 'C':
		control = pt(2)
		p.add(path.CubicSpan(from, pt(0), control, pt(4)), pt(4))
	case 'S':
		first := from
		if p.last == 'C' || p.last == 'S' {
			first = from.Mul(2).Sub(p.control)
		}
		control = pt(0)
		p.add(path.CubicSpan(from, first, control, pt(2)), pt(2))
	case 'Q', 'T':
		to := pt(2)
		if c == 'Q' {
			control = pt(0)
		} else {
			to, control = pt(0), from
			if p.last == 'Q' || p.last == 'T' {
				control = from.Mul(2).Sub(p.control)
			}
		}
		// The same curve one degree higher.
		p.add(path.CubicSpan(from, from.Lerp(control, 2.0/3), to.Lerp(control, 2.0/3), to), to)
	case 'A':
		to := pt(5)
		if s, ok := arc(from, to, a[0], a[1], a[2], a[3] == 1, a[4] == 1); ok {
			p.add(s, to)
		} else if to != from {
			p.add(path.LineSpan(from, to), to)
		}
	}
	p.last, p.control = c, control
}

// arc turns SVG's end points and flags into centre and sweep (SVG 2, appendix
// B.2.4 and, for radii that do not reach, B.2.5). ok is false where the arc is a
// line or nothing.
func arc(from, to geom.Vec, rx, ry, degrees float64, large, sweep bool) (path.Span, bool) {
	rx, ry = math.Abs(rx), math.Abs(ry)
	if rx == 0 || ry == 0 || from == to {
		return path.Span{}, false
	}
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	h := from.Sub(to).Mul(0.5)
	x, y := (cos*h.X+sin*h.Y)/rx, (cos*h.Y-sin*h.X)/ry // in units of the radii
	l := x*x + y*y
	if l == 0 || math.IsInf(l, 0) {
		return path.Span{}, false
	}
	k := 0.0
	if l > 1 { // too small: both grow until they reach
		rx, ry = rx*math.Sqrt(l), ry*math.Sqrt(l)
		x, y = x/math.Sqrt(l), y/math.Sqrt(l)
	} else {
		k = math.Sqrt((1 - l) / l)
	}
	if large == sweep {
		k = -k
	}
	cx, cy := k*y, -k*x // the centre, in units of the radii, from the chord's middle
	a, b := geom.V(rx*cos, rx*sin, 0), geom.V(-ry*sin, ry*cos, 0)
	centre := from.Add(to).Mul(0.5).Mad(a, cx).Mad(b, cy)
	start := math.Atan2(y-cy, x-cx)
	turn := math.Atan2(-y-cy, -x-cx) - start
	if sweep && turn < 0 {
		turn += 2 * math.Pi
	} else if !sweep && turn > 0 {
		turn -= 2 * math.Pi
	}
	if turn == 0 {
		return path.Span{}, false
	}
	return path.ArcSpan(centre, a, b, start, turn), true
}

// finish ends the subpath being drawn.
func (p *parser) finish(closed bool) {
	if closed && p.at != p.start {
		p.add(path.LineSpan(p.at, p.start), p.start)
	}
	if len(p.spans) > 0 {
		p.out = append(p.out, path.Named{Spans: p.spans, Closed: closed})
	}
	p.spans = nil
}
