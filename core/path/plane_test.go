package path_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"bead/core/geom"
	"bead/core/path"
)

// A flat curve turned any way has that plane's normal and no stray; the normal's
// sign follows the direction it runs in.
func TestPlaneOfFlatLoops(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 8))
	for range 50 {
		n := geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64()).Unit()
		u := geom.AnyPerpendicular(n)
		v := n.Cross(u)
		centre := geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64()).Mul(10)
		// From v towards u is clockwise about n.
		c := must(t, path.Ellipse(centre, u, v, 1+r.Float64(), 0.2+r.Float64()), true)
		pl := c.Plane()
		if pl.Normal.Add(n).Norm() > 1e-9 || pl.Off > 1e-12*20 || pl.Line || pl.Centre.Sub(centre).Norm() > 1e-3 {
			t.Fatalf("plane %+v of an ellipse about %v with normal %v", pl, centre, n.Neg())
		}
		back := must(t, path.Ellipse(centre, v, u, 1, 1), true).Plane()
		if back.Normal.Sub(n).Norm() > 1e-9 {
			t.Fatalf("run the other way the normal is %v, want %v", back.Normal, n)
		}
	}
}

// A saddle z = a cos 2t over the unit circle strays by a from its plane (closed
// form: the plane is z = 0 by symmetry).
func TestPlaneOfASaddle(t *testing.T) {
	const a = 0.1
	pts := make([]path.Point, 64)
	for i := range pts {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / 64)
		pts[i] = path.Point{At: geom.V(cos, sin, a*(cos*cos-sin*sin)), Handles: path.Smooth}
	}
	pl := must(t, path.Spline(path.Resolve(pts, true), true), true).Plane()
	if math.Abs(pl.Off-a) > 1e-4 || math.Abs(pl.Normal.Z-1) > 1e-6 {
		t.Errorf("plane %+v, want normal +z and %g off", pl, a)
	}
}

func TestPlaneOfAStraightLine(t *testing.T) {
	for _, d := range []geom.Vec{{X: 1}, {Y: 2}, {Z: -3}, {X: 1, Y: 1, Z: 1}} {
		pl := must(t, []path.Span{path.LineSpan(geom.V(5, 5, 5), geom.V(5, 5, 5).Add(d))}, false).Plane()
		if !pl.Line || pl.Off > 1e-12 || math.Abs(pl.Normal.Dot(d)) > 1e-12 || math.Abs(pl.Normal.Norm()-1) > 1e-12 {
			t.Errorf("along %v: %+v", d, pl)
		}
	}
}

// Reversing a curve keeps its length and mirrors its distances.
func TestReversedCurvesAreTheSame(t *testing.T) {
	for name, c := range hard() {
		spans := c.Spans()
		back := make([]path.Span, len(spans))
		for i, s := range spans {
			if s.Kind == path.Arc {
				s.From, s.Sweep = s.From+s.Sweep, -s.Sweep
			} else {
				s.P[0], s.P[1], s.P[2], s.P[3] = s.P[3], s.P[2], s.P[1], s.P[0]
			}
			back[len(spans)-1-i] = s
		}
		d := must(t, back, c.Closed())
		if e := math.Abs(c.Length()-d.Length()) / c.Length(); e > 1e-11 {
			t.Errorf("%s: reversed it is %g longer", name, e)
		}
		for i := range 60 {
			s := c.Length() * (float64(i) + 0.5) / 60
			p, _ := c.At(s)
			q, _ := d.At(d.Length() - s)
			if e := p.Sub(q).Norm() / c.Length(); e > 2e-9 {
				t.Errorf("%s at %g: reversed it lies %g of the length away", name, s, e)
			}
		}
	}
}

// Moving, turning and scaling a curve moves, turns and scales what is measured.
func TestSimilarityInvariance(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 1))
	for name, c := range hard() {
		axis := geom.V(r.NormFloat64(), r.NormFloat64(), r.NormFloat64()).Unit()
		angle, k, shift := r.Float64()*6, 0.1+3*r.Float64(), geom.V(1, -2, 3).Mul(c.Length())
		vector := func(v geom.Vec) geom.Vec { return geom.RotateAbout(v, axis, angle).Mul(k) }
		moved := append([]path.Span(nil), c.Spans()...)
		for i := range moved {
			for j := range moved[i].P {
				moved[i].P[j] = vector(moved[i].P[j])
				if moved[i].Kind != path.Arc || j == 0 {
					moved[i].P[j] = moved[i].P[j].Add(shift)
				}
			}
		}
		d := must(t, moved, c.Closed())
		if e := math.Abs(d.Length()/k/c.Length() - 1); e > 1e-10 {
			t.Errorf("%s: length off by %g", name, e)
		}
		for i := range 20 {
			s := c.Length() * (float64(i) + 0.3) / 20
			p, _ := c.At(s)
			q, _ := d.At(s * k)
			if e := q.Sub(vector(p).Add(shift)).Norm() / d.Length(); e > 2e-9 {
				t.Errorf("%s at %g: off by %g of the length", name, s, e)
			}
		}
	}
}

// Modulo is the remainder that is never negative and never the length itself.
func TestModulo(t *testing.T) {
	for _, tc := range []struct{ s, l, want float64 }{
		{0, 3, 0}, {1, 3, 1}, {3, 3, 0}, {-1, 3, 2}, {-3, 3, 0}, {7, 3, 1}, {-1e-20, 3, 0}, {3e9 + 1, 3, 1}, {math.Nextafter(3, 0), 3, math.Nextafter(3, 0)},
	} {
		if got := path.Modulo(tc.s, tc.l); got != tc.want {
			t.Errorf("Modulo(%g, %g) = %g, want %g", tc.s, tc.l, got, tc.want)
		}
	}
}
