package rig

import (
	"fmt"
	"math"
	"slices"

	"bead/core/geom"
	"bead/core/scene"
)

// weld merges vertices in one place into one point.
func (r *clothRun) weld(flat []float32) []geom.Vec {
	var points []geom.Vec
	at := map[[3]float32]int32{}
	for i := 0; i < len(flat); i += 3 {
		p := [3]float32(flat[i : i+3])
		k, known := at[p]
		if !known {
			// Points of one place to the last bit are one: file formats double points along edges of texture and of
			// shading.
			k = int32(len(points))
			at[p] = k
			points = append(points, geom.V(float64(p[0]), float64(p[1]), float64(p[2])))
		}
		r.of = append(r.of, k)
	}
	return points
}

func (r *clothRun) triangles(m *geom.Mesh) {
	for i := 0; i+2 < len(m.Indices); i += 3 {
		r.triangle = append(r.triangle, [3]int32{int32(m.Indices[i]), int32(m.Indices[i+1]), int32(m.Indices[i+2])})
	}
}

// oneSided are the triangles of the points without doubles: a sheet has two sides in one place.
func (r *clothRun) oneSided() [][3]int32 {
	var out [][3]int32
	seen := map[[3]int32]bool{}
	for _, t := range r.triangle {
		f := [3]int32{r.of[t[0]], r.of[t[1]], r.of[t[2]]}
		key := f
		slices.Sort(key[:])
		// A triangle that welding has drawn together has no area and would divide by it.
		if f[0] != f[1] && f[1] != f[2] && f[2] != f[0] && !seen[key] {
			seen[key] = true
			out = append(out, f)
		}
	}
	return out
}

// hold fastens the points by which the cloth hangs.
func (r *clothRun) hold(points []geom.Vec) (field string, err error) {
	d := r.t.drape
	var held []int
	top, size := math.Inf(-1), 0.0
	for _, p := range points {
		top = max(top, p.Y)
	}
	for _, p := range points {
		size = max(size, top-p.Y, math.Abs(p.Z))
	}
	var edge []int // the upper edge, from tail to head
	for i, p := range points {
		// The upper edge as the part is made: those within a ten-thousandth of its size below the topmost.
		if p.Y > top-1e-4*size {
			edge = append(edge, i)
		}
	}
	slices.SortFunc(edge, func(a, b int) int {
		switch {
		case points[a].Z < points[b].Z:
			return -1
		case points[a].Z > points[b].Z:
			return 1
		}
		return a - b
	})
	switch d.Hang {
	case scene.HangCorners:
		held = []int{edge[0], edge[len(edge)-1]}
	case scene.HangEvery:
		for i := 0; i < len(edge); i += d.Every {
			held = append(held, edge[i])
		}
		// The last point is held too, or the end would hang off.
		if (len(edge)-1)%d.Every != 0 {
			held = append(held, edge[len(edge)-1])
		}
	case scene.HangPoints:
		for k, i := range d.Points {
			if i >= len(points) {
				return fmt.Sprintf("drape.points[%d]", k), fmt.Errorf("the cloth has no point %d: 0 to %d are there", i, len(points)-1)
			}
			held = append(held, i)
		}
	default:
		held = edge
	}
	r.pinOf = make([]int32, len(points)*d.Count)
	for i := range r.pinOf {
		r.pinOf[i] = -1
	}
	for k := range d.Count {
		for _, i := range held {
			at := int32(k*len(points) + i)
			// A point that is named twice is held once.
			if r.pinOf[at] >= 0 {
				continue
			}
			r.pinOf[at] = int32(len(r.pins))
			r.pins = append(r.pins, clothPin{at, k, points[i].X, points[i].Y, points[i].Z})
			r.cloth.Hold(int(at))
		}
	}
	return "", nil
}

// steps is the number of simulation steps a frame.
func (r *clothRun) steps(points []geom.Vec) int {
	d := r.t.drape
	if d.Substeps > 0 {
		return d.Substeps
	}
	box := geom.EmptyBox()
	for _, p := range points {
		box = box.Extend(p)
	}
	// From corner to corner: the longest row of springs that its weight can hang on.
	hangs := box.Size().Norm()
	fastest := geom.FromArray(d.Air.Speed).Norm() * (1 + d.Air.Gusts)
	// Its weight in the fluid, and the pressure of the flow as a weight (half the density times the speed squared).
	pull := gravity*math.Abs(1-d.Buoyancy) + densities[d.Air.Medium]*fastest*fastest/2/d.Fabric.Weight
	if pull == 0 || hangs == 0 {
		return leastSteps
	}
	// With one pass a step, each spring stretches by its share of the weight below times the step squared over
	// its points' mass; choose the step so that this stays small.
	near := r.cloth.Spacing()
	step := math.Sqrt(ownStretch * near * near / (hangs * pull))
	return min(max(int(math.Ceil(1/(step*r.t.scene.Clock.FPS))), leastSteps), mostSteps)
}

// begin lays the cloth along its path in the first frame: flat, or in folds where it is wider than its run,
// with the wrinkles of the document.
func (r *clothRun) begin() {
	t, d := r.t, r.t.drape
	first := t.scene.Clock.First
	r.at = first
	r.now = first
	var p Pieces
	p.Distances, p.Transforms = make([]float64, d.Count), make([]float32, d.Count*Stride)
	m := t.momentOf(first)
	t.flat(&p, &m)
	per := len(r.of)
	// The first frame is where it would be if it followed the path.
	for k := range d.Count {
		for v, at := range r.of {
			i := 3 * (k*per + v)
			r.cloth.X[k*r.perPiece+int(at)] = geom.V(float64(p.Positions[i]), float64(p.Positions[i+1]), float64(p.Positions[i+2]))
		}
	}
	chance := geom.Chance(uint64(d.Seed) + 1)
	gap := r.gap()
	for i := range r.cloth.X {
		k := i / r.perPiece
		reach := t.reach(k, first)
		z := r.rest[i].Z - copiesApart*float64(k)*t.Body(0).Length() - t.Body(0).Tail
		off := (2*chance.Next() - 1) * d.Wrinkle
		// Wider than its run it hangs in folds from held point to held point; less than a ten-thousandth is as good as
		// flat.
		if reach.Stretch < 0.9999 && gap > 0 {
			// A sine whose arc length is that of the cloth, half a wave from held point to held point.
			b := gap * reach.Stretch
			off += 2 * b / math.Pi * math.Sqrt(1/reach.Stretch-1) * math.Sin(math.Pi*z/gap)
		}
		if r.pinOf[i] >= 0 {
			continue
		}
		p := &r.cloth.X[i]
		height, _ := t.scene.Ground().Height(p.Z)
		under := max(height+d.Thickness-p.Y, 0) // what would hang below the ground lies on it
		if off != 0 || under > 0 {
			f := t.worldFrame(&m, reach.Tail+z*reach.Stretch)
			*p = p.Mad(f.Side(), off+under).Add(geom.V(0, under, 0))
		}
	}
	r.pin(r.cloth.X)
	clear(r.cloth.V)
	if r.settle == 0 && r.round == 0 {
		r.keep(0)
	}
}

// gap is how far the held points of the edge are apart on the flat cloth, 0 where all are held.
// Of the first copy; the others are held as it is.
func (r *clothRun) gap() float64 {
	lo, hi, n := math.Inf(1), math.Inf(-1), 0
	for i := range r.pins {
		if r.pins[i].piece == 0 {
			lo, hi, n = min(lo, r.pins[i].z), max(hi, r.pins[i].z), n+1
		}
	}
	if n < 2 || r.t.drape.Hang == scene.HangEdge {
		return 0
	}
	return (hi - lo) / float64(n-1)
}
