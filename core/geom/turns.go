package geom

// Turns keeps rotations that follow one another on one sign: q and -q are one rotation, but what
// goes from one key to the next goes the long way round between them. The zero value has seen
// nothing.
type Turns struct{ last [][4]float32 }

// Steady turns q, the rotation x y z w of thing i, to the side of the one before.
func (t *Turns) Steady(i int, q []float32) {
	for len(t.last) <= i {
		t.last = append(t.last, [4]float32{})
	}
	l := &t.last[i]
	if l[0]*q[0]+l[1]*q[1]+l[2]*q[2]+l[3]*q[3] < 0 {
		for k := range 4 {
			q[k] = -q[k]
		}
	}
	copy(l[:], q[:4])
}
