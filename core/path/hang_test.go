package path

import (
	"math"
	"testing"

	"bead/core/geom"
)

// A hanging cable of MATH 6: span 10, length 11, level ends (computed there with 25
// digits: a 6.549639476, sag 2.003007907); and one with ends at different heights.
func TestHangSpan(t *testing.T) {
	const a = 6.549639476
	u := math.Sinh(5 / a)
	s := HangSpan(geom.V(0, 3, -5), geom.V(0, 0, a), geom.V(0, a, 0), -u, u)
	c, err := New([]Span{s}, false)
	if err != nil {
		t.Fatal(err)
	}
	if math.Abs(c.Length()-11) > 1e-8 || c.Spans()[0].End().Sub(geom.V(0, 3, 5)).Norm() > 1e-8 {
		t.Errorf("length %v, end %v: want 11 and (0 3 5)", c.Length(), c.Spans()[0].End())
	}
	if sag := 3 - c.Bounds().Min.Y; math.Abs(sag-2.003007907) > 1e-8 {
		t.Errorf("sag %v, want 2.003007907", sag)
	}
	// Equal steps of t are equal distances, the curvature is 1/(a (1 + u^2)), and a
	// split or turned span is the same curve.
	left, right := s.Split(0.3)
	back := s.Reversed()
	for i := range 11 {
		f := float64(i) / 10
		p, tan := c.At(11 * f)
		if p.Sub(s.Point(f)).Norm() > 1e-9 || p.Sub(back.Point(1-f)).Norm() > 1e-9 {
			t.Errorf("at %g of the length: %v, by parameter %v, from behind %v", f, p, s.Point(f), back.Point(1-f))
		}
		slope := -u + 2*u*f
		if math.Abs(tan.Y/tan.Z-slope) > 1e-9 || math.Abs(c.Curvature(11*f).Norm()-1/(a*(1+slope*slope))) > 1e-9 {
			t.Errorf("at %g of the length: slope %v, want %v; curvature %v", f, tan.Y/tan.Z, slope, c.Curvature(11*f).Norm())
		}
		part := &left
		at := f / 0.3
		if f > 0.3 {
			part, at = &right, (f-0.3)/0.7
		}
		if part.Point(at).Sub(s.Point(f)).Norm() > 1e-12 {
			t.Errorf("split at %g: %v, want %v", f, part.Point(at), s.Point(f))
		}
	}
	pts := ToPoints([]Span{s}, false)
	spline, err := New(Spline(pts, false), false)
	if err != nil {
		t.Fatal(err)
	}
	if math.Abs(spline.Length()-11) > 1e-4 {
		t.Errorf("as a spline it is %v long, want 11", spline.Length())
	}
}
