package geom

// Hermite is the cubic from a to b over a stretch h with the slopes m and n at its ends, at the
// share u of the stretch, and its slope there.
func Hermite(a, b, m, n, h, u float64) (y, slope float64) {
	u2, u3 := u*u, u*u*u
	y = (2*u3-3*u2+1)*a + (u3-2*u2+u)*h*m + (3*u2-2*u3)*b + (u3-u2)*h*n
	return y, (6*u2-6*u)*(a-b)/h + (3*u2-4*u+1)*m + (3*u2-2*u)*n
}
