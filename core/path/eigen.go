package path

import (
	"math"

	"gonum.org/v1/gonum/mat"

	"bead/core/geom"
)

// leastDirection returns the unit eigenvector of the least eigenvalue of the
// symmetric matrix m, with its largest component positive so that the answer
// does not depend on the solver's whim, and whether all but one eigenvalue
// vanish, so that the points lie on a line.
func leastDirection(m [3][3]float64) (geom.Vec, bool) {
	sym := mat.NewSymDense(3, []float64{
		m[0][0], m[0][1], m[0][2],
		m[1][0], m[1][1], m[1][2],
		m[2][0], m[2][1], m[2][2],
	})
	var e mat.EigenSym
	if !e.Factorize(sym, true) {
		return geom.V(1, 0, 0), true
	}
	val := e.Values(nil) // ascending
	var vec mat.Dense
	e.VectorsTo(&vec)
	n := geom.V(vec.At(0, 0), vec.At(1, 0), vec.At(2, 0)).Unit()
	isLine := val[1] <= 1e-14*val[2]
	if isLine {
		// Any normal fits; keep the side direction when it is one.
		t := geom.V(vec.At(0, 2), vec.At(1, 2), vec.At(2, 2)).Unit()
		n = geom.V(1, 0, 0)
		if math.Abs(t.X) > 0.9 {
			n = geom.V(0, 0, 1)
		}
		n = n.Sub(t.Mul(t.Dot(n))).Unit()
		return n, true
	}
	big := n.X
	if math.Abs(n.Y) > math.Abs(big) {
		big = n.Y
	}
	if math.Abs(n.Z) > math.Abs(big) {
		big = n.Z
	}
	if big < 0 {
		n = n.Neg()
	}
	return n, false
}
