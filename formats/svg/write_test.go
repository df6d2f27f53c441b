package svg_test

import (
	"bytes"
	"context"
	"math"
	"regexp"
	"strconv"
	"testing"

	"bead/core/geom"
	"bead/core/path"
	"bead/formats/svg"
)

func written(t *testing.T, lines ...svg.Line) (string, []path.Named) {
	t.Helper()
	var out bytes.Buffer
	if err := svg.Write(&out, `a "title" & <more>`, lines); err != nil {
		t.Fatal(err)
	}
	back, err := svg.Read(context.Background(), out.Bytes())
	if err != nil {
		t.Fatalf("%v in %s", err, out.String())
	}
	return out.String(), back
}

// A circle that is tilted by 60 degrees out of the plane is drawn as an ellipse of half its width (closed
// form), turned as the circle's axis is.
func TestArcsAreDrawnAsEllipses(t *testing.T) {
	for _, turn := range []float64{0, 0.3, 1.2, -2} {
		c, s := math.Cos(turn), math.Sin(turn)
		a, b := geom.V(c, s, 0).Mul(0.4), geom.V(-s/2, c/2, math.Sqrt(3)/2).Mul(0.4)
		// The same circle by other axes that are square to one another in space, not on paper.
		u, v := a.Mul(math.Cos(0.7)).Add(b.Mul(math.Sin(0.7))), b.Mul(math.Cos(0.7)).Sub(a.Mul(math.Sin(0.7)))
		text, back := written(t, svg.Line{Name: "ring", Closed: true, Spans: []path.Span{path.ArcSpan(geom.V(1, 2, 0), u, v, 0.2, 2*math.Pi)}})
		m := regexp.MustCompile(`A([\d.]+) ([\d.]+) ([-\d.]+) `).FindStringSubmatch(text)
		if m == nil {
			t.Fatal(text)
		}
		var got [3]float64
		for i := range got {
			got[i], _ = strconv.ParseFloat(m[i+1], 64)
		}
		off := math.Mod(got[2]*math.Pi/180-turn, math.Pi)
		if math.Abs(got[0]-400) > 1e-6 || math.Abs(got[1]-200) > 1e-6 || math.Abs(math.Sin(off)) > 1e-8 {
			t.Errorf("turned by %g: an ellipse %v", turn, got)
		}
		// Ramanujan's second approximation for its perimeter, good to 1e-5 here.
		h := math.Pow((400.0-200)/(400+200), 2)
		want := math.Pi * 600 * (1 + 3*h/(10+math.Sqrt(4-3*h)))
		curve, err := path.New(back[0].Spans, back[0].Closed)
		if err != nil || math.Abs(curve.Length()-want) > 2e-5*want || !curve.Closed() {
			t.Errorf("%v: it is read back %g mm long, want %g", err, curve.Length(), want)
		}
	}
}

// What is drawn is read back to the same places: straights, cubics and arcs to rounding, catenaries and
// helices within what 64 straights are off.
func TestDrawnIsReadBack(t *testing.T) {
	for _, x := range []struct {
		name string
		span path.Span
		off  float64 // metres
	}{
		{"straight", path.LineSpan(geom.V(0, 0, 0), geom.V(3, -1, 0)), 1e-9},
		{"cubic", path.CubicSpan(geom.V(0, 0, 0), geom.V(1, 2, 0), geom.V(2, -2, 0), geom.V(3, 0, 0)), 1e-9},
		{"arc back", path.ArcSpan(geom.V(0, 1, 0), geom.V(0.5, 0, 0), geom.V(0, 0.2, 0), 1, -5), 1e-9},
		{"hanging", path.HangSpan(geom.V(0, 0, 0), geom.V(1, 0, 0), geom.V(0, 1, 0), -1, 1.5), 1e-3},
		{"edge on", path.ArcSpan(geom.V(0, 0, 0), geom.V(1, 0, 0), geom.V(0, 0, 1), 0, math.Pi/2), 1e-9},
	} {
		_, back := written(t, svg.Line{Name: x.name, Spans: []path.Span{x.span}})
		if len(back) != 1 || back[0].Name != x.name {
			t.Fatalf("%s: %v", x.name, back)
		}
		for i := range 21 {
			p := x.span.Point(float64(i) / 20)
			p.Z = 0
			near := math.Inf(1)
			for k := range back[0].Spans {
				for j := range 401 {
					near = min(near, back[0].Spans[k].Point(float64(j)/400).Mul(1e-3).Sub(p).Norm())
				}
			}
			// Between the places that are looked at, at most half of what they are apart.
			if near > x.off+x.span.Start().Sub(x.span.End()).Norm()/400+2e-3 {
				t.Errorf("%s: place %d is %g m off", x.name, i, near)
			}
		}
		for _, end := range []struct{ want, got geom.Vec }{{x.span.Start(), back[0].Spans[0].Start()}, {x.span.End(), back[0].Spans[len(back[0].Spans)-1].End()}} {
			end.want.Z = 0
			if end.got.Mul(1e-3).Sub(end.want).Norm() > 1e-9 {
				t.Errorf("%s ends at %v, want %v", x.name, end.got.Mul(1e-3), end.want)
			}
		}
	}
}
