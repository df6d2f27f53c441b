package svg

import (
	"encoding/xml"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"bead/core/geom"
	"bead/core/path"
)

// Line is a path to be drawn, in the plane of the drawing: x to the right, y down.
type Line struct {
	Name   string
	Spans  []path.Span
	Closed bool
}

const (
	millimetres = 1000 // of a metre
	margin      = 10   // mm about what is drawn
	hangPieces  = 64   // straights for a stretch of a catenary
	arcPieces   = 64   // straights a turn of an arc that rises or grows: SVG's arcs do neither
)

// Write draws lines as an SVG document in millimetres. Straights, cubics and arcs of ellipses are drawn as
// what they are; catenaries, and arcs that grow, as fine polylines.
func Write(w io.Writer, title string, lines []Line) error {
	box := geom.EmptyBox()
	for i := range lines {
		for k := range lines[i].Spans {
			s := &lines[i].Spans[k]
			for t := range 33 {
				box = box.Extend(s.Point(float64(t) / 32).Mul(millimetres))
			}
		}
	}
	if len(lines) == 0 {
		box = box.Extend(geom.Vec{})
	}
	lo, size := box.Min, box.Size()
	var out strings.Builder
	fmt.Fprintf(&out, `<svg xmlns="http://www.w3.org/2000/svg" width="%[3]smm" height="%[4]smm" viewBox="%[1]s %[2]s %[3]s %[4]s">`+"\n",
		short(lo.X-margin), short(lo.Y-margin), short(size.X+2*margin), short(size.Y+2*margin))
	out.WriteString("<title>")
	if err := xml.EscapeText(&out, []byte(title)); err != nil {
		return err
	}
	out.WriteString("</title>\n<g fill=\"none\" stroke=\"#0B6E5F\" stroke-width=\"2\">\n")
	for i := range lines {
		out.WriteString(`<path id="`)
		if err := xml.EscapeText(&out, []byte(lines[i].Name)); err != nil {
			return err
		}
		out.WriteString(`" d="` + data(&lines[i]) + "\"/>\n")
	}
	out.WriteString("</g>\n</svg>\n")
	_, err := io.WriteString(w, out.String())
	return err
}

// data is the path data of a line, in millimetres.
func data(l *Line) string {
	var out strings.Builder
	at := func(p geom.Vec) string { return short(p.X*millimetres) + " " + short(p.Y*millimetres) }
	for k := range l.Spans {
		s := &l.Spans[k]
		if k == 0 {
			out.WriteString("M" + at(s.Start()))
		}
		switch {
		case s.Kind == path.Line:
			out.WriteString(" L" + at(s.End()))
		case s.Kind == path.Cubic:
			out.WriteString(" C" + at(s.P[1]) + " " + at(s.P[2]) + " " + at(s.P[3]))
		case s.Kind == path.Arc && s.Grow == 0 && flat(s.P[3]) == 0:
			out.WriteString(drawArc(s, at))
		default:
			n := hangPieces
			if s.Kind == path.Arc {
				n = max(8, int(math.Ceil(math.Abs(s.Sweep)/(2*math.Pi)*arcPieces)))
			}
			for i := 1; i <= n; i++ {
				out.WriteString(" L" + at(s.Point(float64(i)/float64(n))))
			}
		}
	}
	if l.Closed {
		out.WriteString(" Z")
	}
	return out.String()
}

func flat(v geom.Vec) float64 { return math.Hypot(v.X, v.Y) }

// drawArc draws an arc of an ellipse, of which SVG draws less than a whole turn at once. Its half axes are the
// singular values of the two that the span has, which need not be square to one another.
func drawArc(s *path.Span, at func(geom.Vec) string) string {
	a, b := s.P[1], s.P[2]
	// Of the matrix with the columns a and b: lengths and direction of the image of the circle.
	e, f, g, h := (a.X+b.Y)/2, (a.X-b.Y)/2, (a.Y+b.X)/2, (a.Y-b.X)/2
	q, r := math.Hypot(e, h), math.Hypot(f, g)
	rx, ry := q+r, math.Abs(q-r)
	turn := (math.Atan2(g, f) + math.Atan2(h, e)) / 2 * 180 / math.Pi
	sweep := "0"
	if (a.X*b.Y-a.Y*b.X)*s.Sweep > 0 {
		sweep = "1"
	}
	n := max(1, int(math.Ceil(math.Abs(s.Sweep)/(math.Pi*0.99))))
	var out strings.Builder
	for i := 1; i <= n; i++ {
		p := s.Point(float64(i) / float64(n))
		if ry < 1e-9*rx { // seen from its edge
			out.WriteString(" L" + at(p))
			continue
		}
		fmt.Fprintf(&out, " A%s %s %s 0 %s %s", short(rx*millimetres), short(ry*millimetres), short(turn), sweep, at(p))
	}
	return out.String()
}

// short is a number to a ten-millionth of a millimetre.
func short(x float64) string {
	return strconv.FormatFloat(math.Round(x*1e7)/1e7+0, 'f', -1, 64)
}
