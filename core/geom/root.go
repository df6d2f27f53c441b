package geom

import "math"

// Root finds where f, of opposite signs at lo and hi, is 0 within tol: the Illinois
// variant of false position (Dowell and Jarratt, BIT 11, 1971).
func Root(f func(float64) float64, lo, hi, fLo, fHi, tol float64) (x float64, ok bool) {
	side := 0
	for range 200 {
		x = (lo*fHi - hi*fLo) / (fHi - fLo)
		if !(x > min(lo, hi) && x < max(lo, hi)) {
			x = (lo + hi) / 2
		}
		y := f(x)
		if math.Abs(y) <= tol || math.Abs(hi-lo) <= 1e-15*max(math.Abs(lo), math.Abs(hi)) {
			return x, math.Abs(y) <= 1e3*tol
		}
		if (y > 0) == (fHi > 0) {
			hi, fHi = x, y
			if side == 1 {
				fLo /= 2
			}
			side = 1
		} else {
			lo, fLo = x, y
			if side == -1 {
				fHi /= 2
			}
			side = -1
		}
	}
	return x, false
}
