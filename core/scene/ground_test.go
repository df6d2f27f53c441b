package scene

import (
	"math"
	"testing"
)

// Wheels on humps and on smooth ground stand where brute force over the curves themselves puts
// them: the highest of h(u) + sqrt(r^2 - (x-u)^2), the offset of a graph by a circle.
func TestWheelsStandOnCurves(t *testing.T) {
	for _, g := range []Ground{
		{Humps: []Hump{{Z: 0.3, Length: 4.4, Height: 0.24}}},
		{Humps: []Hump{{Length: 0.2, Height: 0.05}, {Z: 0.1, Length: 1, Height: -0.1}}},
		{Humps: []Hump{{Length: 90, Height: 12}}},
		{Smooth: true, Points: []GroundPoint{{-3, 0}, {-1, 0.4}, {0.2, 0.1}, {0.5, 0.3}, {4, 0}}},
	} {
		profile, slopes := g.Profile(), g.slopes()
		if len(profile) > MaxGround {
			t.Errorf("%+v: %d straights", g, len(profile))
		}
		height := func(z float64) float64 {
			y := g.base(z, slopes)
			for _, h := range g.Humps {
				if u := (z - h.Z) / h.Length; math.Abs(u) < 0.5 {
					y += h.Height * (1 + math.Cos(2*math.Pi*u)) / 2
				}
			}
			return y
		}
		for _, r := range []float64{0.1, 0.35} {
			for x := -3.03; x < 3; x += 0.31 {
				over := func(u float64) float64 { return height(u) + math.Sqrt(max(r*r-(x-u)*(x-u), 0)) }
				best, at := math.Inf(-1), x
				for reach := r; reach > 1e-7; reach /= 40 { // ever nearer to the best place
					for k, mid := -100, at; k <= 100; k++ {
						if u := mid + reach*float64(k)/100; math.Abs(u-x) <= r && over(u) > best {
							best, at = over(u), u
						}
					}
				}
				if y, _ := profile.Rest(x, r); math.Abs(y-best) > 1e-5 {
					t.Errorf("%+v: a wheel of %g m at %.2f stands at %.7f, want %.7f", g, r, x, y, best)
				}
			}
		}
	}
}

// No straight of the profile strays by more than 5 µm from the hump or the smooth curve that it
// stands for, and none is cut finer than a hundredth of what that asks for.
func TestStraightsOfTheGround(t *testing.T) {
	for _, h := range []Hump{{0, 4.4, 0.24}, {3, 0.2, 0.05}, {-1, 1, -0.4}, {0, 60, 8}, {0, 2, 1e-6}} {
		g := Ground{Humps: []Hump{h}}
		p := g.Profile()
		worst := 0.0
		for k := 1; k < len(p); k++ {
			for _, u := range []float64{0.25, 0.5, 0.75} {
				z := p[k-1].X + u*(p[k].X-p[k-1].X)
				want := h.Height * math.Pow(math.Cos(math.Pi*(z-h.Z)/h.Length), 2)
				worst = max(worst, math.Abs(p[k-1].Y+u*(p[k].Y-p[k-1].Y)-want))
			}
		}
		if worst > 5e-6 || h.Height > 0.01 && worst < 5e-8 {
			t.Errorf("%+v in %d straights: %g m off", h, len(p)-1, worst)
		}
	}
}

// Whatever is accepted as ground has a profile that rises in z, is finite, and is not larger than
// what humps and points may make.
func FuzzProfile(f *testing.F) {
	f.Add(0.0, 4.4, 0.24, 0.5, 1.0, -0.3, true)
	f.Add(1e4, 1e-3, 1e4, 1e-6, 0.0, 0.0, false)
	f.Add(-3.0, 7.0, -2.0, 1e4, 1e4, -1e4, true)
	f.Fuzz(func(t *testing.T, z, length, height, apart, y1, y2 float64, smooth bool) {
		g := Ground{Smooth: smooth, Humps: []Hump{{z, length, height}}, Points: []GroundPoint{{z, y1}, {z + apart, y2}, {z + 2*apart, y1}}}
		c := checker{}
		if c.ground(&g); len(c.faults) > 0 {
			return
		}
		p := g.Profile()
		if len(p) == 0 || len(p) > 3*maxParts+8 {
			t.Fatalf("%d points", len(p))
		}
		for k, at := range p {
			if math.IsNaN(at.Y) || math.IsInf(at.Y, 0) || k > 0 && !(at.X > p[k-1].X) {
				t.Fatalf("point %d of %d: %v", k, len(p), at)
			}
		}
	})
}
