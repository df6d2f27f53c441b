package path

import "bead/core/geom"

// reaches finds, among chords that follow one another, those that may meet: chords farther
// apart than they are long together cannot. They lie in boxes of two, four, eight and so on.
type reaches struct {
	from  []geom.Vec  // where each chord starts
	along []float64   // how long the curve is over it
	boxes [][]reached // of 2^(k+1) chords each
}

type reached struct {
	box  geom.Box
	long float64 // the longest of them
}

// newReaches takes where the chords start and the distances along the curve of their ends, one
// more.
func newReaches(from []geom.Vec, s []float64) *reaches {
	r := &reaches{from: from, along: make([]float64, len(from))}
	level := make([]reached, len(from))
	for i := range from {
		r.along[i] = s[i+1] - s[i]
		level[i] = reached{geom.EmptyBox().Extend(from[i]), r.along[i]}
	}
	for len(level) > 1 {
		up := make([]reached, (len(level)+1)/2)
		for i := range up {
			up[i] = level[2*i]
			if 2*i+1 < len(level) {
				o := &level[2*i+1]
				up[i].box = up[i].box.Extend(o.box.Min).Extend(o.box.Max)
				up[i].long = max(up[i].long, o.long)
			}
		}
		r.boxes = append(r.boxes, up)
		level = up
	}
	return r
}

// next is the first chord from j on that may meet chord i, -1 where there is none.
func (r *reaches) next(i, j int) int {
	for j < len(r.from) {
		// The greatest box that begins here and is too far away is passed over.
		far := r.along[i] + r.along[j]
		if r.from[i].Sub(r.from[j]).Norm2() <= far*far {
			return j
		}
		step := 1
		for k := 0; k < len(r.boxes) && j%(2<<k) == 0; k++ {
			b := &r.boxes[k][j>>(k+1)]
			far := r.along[i] + b.long
			if away2(&b.box, r.from[i]) <= far*far*(1+1e-12) {
				break
			}
			step = 2 << k
		}
		j += step
	}
	return -1
}

// away2 is the square of how far p is from a box, 0 within.
func away2(b *geom.Box, p geom.Vec) float64 {
	d := geom.V(max(b.Min.X-p.X, p.X-b.Max.X, 0), max(b.Min.Y-p.Y, p.Y-b.Max.Y, 0), max(b.Min.Z-p.Z, p.Z-b.Max.Z, 0))
	return d.Norm2()
}
