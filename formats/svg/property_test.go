package svg_test

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"bead/core/path"
	"bead/formats/svg"
)

// pen writes one random drawing twice: in absolute commands with every separator,
// and in relative ones packed as tightly as the grammar allows.
type pen struct {
	r        *rand.Rand
	abs, rel strings.Builder
	x, y     float64
}

// tight writes numbers without the separators that may be left out.
func tight(v ...float64) string {
	var b strings.Builder
	for i, x := range v {
		s := strings.Replace(fmt.Sprintf("%g", x), "0.", ".", 1)
		if strings.HasPrefix(fmt.Sprintf("%g", x), "10.") || math.Abs(x) >= 10 {
			s = fmt.Sprintf("%g", x)
		}
		if i > 0 && s[0] != '-' {
			b.WriteByte(' ')
		}
		b.WriteString(s)
	}
	return b.String()
}

// step is a random shift in eighths, so that sums are exact in both forms.
func (p *pen) step() (dx, dy float64) {
	return float64(p.r.IntN(161)-80) / 8, float64(p.r.IntN(161)-80) / 8
}

func (p *pen) draw(n int) {
	fmt.Fprintf(&p.abs, "M 0 , 0 ")
	p.rel.WriteString("m0 0")
	for range n {
		dx, dy := p.step()
		ax, ay := p.step()
		bx, by := p.step()
		x, y := p.x, p.y
		switch p.r.IntN(8) {
		case 0:
			fmt.Fprintf(&p.abs, "L %g , %g ", x+dx, y+dy)
			p.rel.WriteString("l" + tight(dx, dy))
		case 1:
			fmt.Fprintf(&p.abs, "H %g ", x+dx)
			p.rel.WriteString("h" + tight(dx))
			dy = 0
		case 2:
			fmt.Fprintf(&p.abs, "V %g ", y+dy)
			p.rel.WriteString("v" + tight(dy))
			dx = 0
		case 3:
			fmt.Fprintf(&p.abs, "C %g %g %g %g %g %g ", x+ax, y+ay, x+bx, y+by, x+dx, y+dy)
			p.rel.WriteString("c" + tight(ax, ay, bx, by, dx, dy))
		case 4:
			fmt.Fprintf(&p.abs, "S %g %g %g %g ", x+bx, y+by, x+dx, y+dy)
			p.rel.WriteString("s" + tight(bx, by, dx, dy))
		case 5:
			fmt.Fprintf(&p.abs, "Q %g %g %g %g ", x+ax, y+ay, x+dx, y+dy)
			p.rel.WriteString("q" + tight(ax, ay, dx, dy))
		case 6:
			fmt.Fprintf(&p.abs, "T %g %g ", x+dx, y+dy)
			p.rel.WriteString("t" + tight(dx, dy))
		case 7:
			large, sweep := p.r.IntN(2), p.r.IntN(2)
			fmt.Fprintf(&p.abs, "A %g %g %g %d %d %g %g ", ax, by, bx*10, large, sweep, x+dx, y+dy)
			fmt.Fprintf(&p.rel, "a%s %d%d%s", tight(ax, by, bx*10), large, sweep, tight(dx, dy))
		}
		p.x, p.y = x+dx, y+dy
	}
}

// Relative commands packed tightly draw what absolute ones drawn out do.
func TestRelativeAndAbsoluteAgree(t *testing.T) {
	for seed := range uint64(200) {
		p := &pen{r: rand.New(rand.NewPCG(seed, 11))}
		p.draw(12)
		a, errA := svg.ParsePathData(p.abs.String())
		b, errB := svg.ParsePathData(p.rel.String())
		if errA != nil || errB != nil || len(a) != 1 || len(b) != 1 {
			t.Fatalf("seed %d: %v, %v\n%s\n%s", seed, errA, errB, p.abs.String(), p.rel.String())
		}
		if len(a[0].Spans) != len(b[0].Spans) {
			t.Fatalf("seed %d: %d and %d spans", seed, len(a[0].Spans), len(b[0].Spans))
		}
		for i := range a[0].Spans {
			for _, u := range []float64{0, 0.3, 1} {
				if e := a[0].Spans[i].Point(u).Sub(b[0].Spans[i].Point(u)).Norm(); e > 1e-9 {
					t.Fatalf("seed %d span %d at %g: %g apart\n%s\n%s", seed, i, u, e, p.abs.String(), p.rel.String())
				}
			}
			// Spans follow one another without gaps, arcs too.
			if i > 0 {
				if e := a[0].Spans[i].Start().Sub(a[0].Spans[i-1].End()).Norm(); e > 1e-9 {
					t.Fatalf("seed %d: a gap of %g before span %d\n%s", seed, e, i, p.abs.String())
				}
			}
		}
	}
}

// A transform of the document is the transform of what is drawn.
func TestTransformsActOnPoints(t *testing.T) {
	const d = "M1 2C3 4 5 1 6 2A2 1 20 0 1 9 3L10 0"
	plain, err := svg.ParsePathData(d)
	if err != nil {
		t.Fatal(err)
	}
	sin, cos := math.Sincos(30 * math.Pi / 180)
	for transform, want := range map[string]func(x, y float64) (float64, float64){
		"translate(3)":             func(x, y float64) (float64, float64) { return x + 3, y },
		"translate(3,-4)":          func(x, y float64) (float64, float64) { return x + 3, y - 4 },
		"scale(2 -1)":              func(x, y float64) (float64, float64) { return 2 * x, -y },
		"rotate(30)":               func(x, y float64) (float64, float64) { return cos*x - sin*y, sin*x + cos*y },
		"rotate(30 1 2)":           func(x, y float64) (float64, float64) { return 1 + cos*(x-1) - sin*(y-2), 2 + sin*(x-1) + cos*(y-2) },
		"skewX(30)":                func(x, y float64) (float64, float64) { return x + math.Tan(math.Pi/6)*y, y },
		"skewY(30)":                func(x, y float64) (float64, float64) { return x, y + math.Tan(math.Pi/6)*x },
		"matrix(1 2 3 4 5 6)":      func(x, y float64) (float64, float64) { return x + 3*y + 5, 2*x + 4*y + 6 },
		"translate(3) , scale(2)":  func(x, y float64) (float64, float64) { return 2*x + 3, 2 * y },
		"scale(2)\ttranslate(3 0)": func(x, y float64) (float64, float64) { return 2 * (x + 3), 2 * y },
	} {
		list, err := svg.Read(context.Background(), []byte(`<svg><path transform="`+transform+`" d="`+d+`"/></svg>`))
		if err != nil {
			t.Errorf("%s: %v", transform, err)
			continue
		}
		for i := range list[0].Spans {
			for _, u := range []float64{0, 0.4, 1} {
				p, q := plain[0].Spans[i].Point(u), list[0].Spans[i].Point(u)
				x, y := want(p.X, p.Y)
				if math.Hypot(q.X-x, q.Y-y) > 1e-12*100 {
					t.Errorf("%s span %d at %g: %v, want %g %g", transform, i, u, q, x, y)
				}
			}
		}
		if c, err := path.New(list[0].Spans, false); err != nil || math.IsNaN(c.Length()) {
			t.Errorf("%s: %v", transform, err)
		}
	}
}
