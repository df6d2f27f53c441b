package path

import (
	"math"

	"bead/core/geom"
)

// through returns the spans of the smooth curve through the points.
func through(pts []geom.Vec, closed bool) []Span {
	p := make([]Point, len(pts))
	for i := range pts {
		p[i] = Point{At: pts[i], Handles: Smooth}
	}
	return Spline(Resolve(p, closed), closed)
}

// Evenly returns n positions evenly along the curve; on an open one the first and
// last are its ends.
func (c *Curve) Evenly(n int) []geom.Vec {
	steps := n
	if !c.closed {
		steps = max(n-1, 1)
	}
	out := make([]geom.Vec, n)
	for i := range out {
		out[i], _ = c.At(c.length * float64(i) / float64(steps))
	}
	return out
}

// Resample returns n points evenly along the curve, joined smoothly or straight.
func (c *Curve) Resample(n int, straight bool) []Span {
	if pts := c.Evenly(n); straight {
		return Polyline(pts, c.closed)
	} else {
		return through(pts, c.closed)
	}
}

// Smooth returns the curve with all that is finer than reach metres evened out: its
// points averaged with weights that fall off like a bell of that standard
// deviation. The ends of an open curve stay where they are.
func (c *Curve) Smooth(reach float64) []Span {
	const mostPoints = 2000
	n := int(min(max(math.Ceil(4*c.length/reach), 8), mostPoints))
	pts := c.Evenly(n)
	step := c.length / float64(n)
	if !c.closed {
		step = c.length / float64(n-1)
	}
	at := func(i int) geom.Vec {
		switch {
		case c.closed:
			return pts[(i%n+n)%n]
		case i < 0: // mirrored in the end point, so that the end stays
			return pts[0].Mul(2).Sub(pts[min(-i, n-1)])
		case i >= n:
			return pts[n-1].Mul(2).Sub(pts[max(2*(n-1)-i, 0)])
		}
		return pts[i]
	}
	half := min(int(math.Ceil(3*reach/step)), n-1)
	weight := make([]float64, half+1)
	sum := 0.0
	for k := range weight {
		weight[k] = math.Exp(-0.5 * math.Pow(float64(k)*step/reach, 2))
		sum += weight[k]
		if k > 0 {
			sum += weight[k]
		}
	}
	out := make([]geom.Vec, n)
	for i := range out {
		var v geom.Vec
		for k := -half; k <= half; k++ {
			v = v.Mad(at(i+k), weight[max(k, -k)]/sum)
		}
		out[i] = v
	}
	return through(out, c.closed)
}

// Simplified is the outcome of Simplify.
type Simplified struct {
	Spans  []Span
	Points int
	Off    float64 // greatest distance of the old curve from the new one, metres
	// Kept curves are as they were: with as few points as they have none is near enough.
	Kept bool
}

// simplifyCorner is the turn from which on Simplify keeps a corner as a corner:
// finer ones are taken for facets.
const simplifyCorner = 40 * math.Pi / 180

// Simplify rebuilds the curve as a smooth one through as few of its own points as
// keep it within tol of the old one: it begins with the corners and ends, and adds
// the worst point of each stretch until all are near enough. Turns below 40 degrees
// are taken for facets of a smooth shape, as a path from the edges of a mesh has
// them: its points are held to tol, and the flats between them to tol beyond the
// rise of the arc that turns as they do.
func (c *Curve) Simplify(tol float64) Simplified {
	f := c.facets()
	whole := len(c.spans) // points that it has
	if !c.closed {
		whole++
	}
	for c.stop.Err() == nil {
		var index []int
		var pts []Point
		for i := range f.keep {
			if f.keep[i] {
				p := Point{At: f.pos[i], Handles: Smooth}
				index, pts = append(index, i), append(pts, p)
			}
		}
		if len(index) > whole {
			return Simplified{Spans: append([]Span(nil), c.spans...), Points: whole, Kept: true}
		}
		spans := splineWithCorners(pts, index, f.sharp, c.closed)
		out := Simplified{Spans: spans, Points: len(index)}
		added := false
		for j := range spans {
			if j%stopEvery == 0 && c.stop.Err() != nil {
				break
			}
			to := len(f.keep)
			if j+1 < len(index) {
				to = index[j+1]
			}
			worst, at, off := f.worst(&spans[j], index[j], to, tol)
			out.Off = max(out.Off, off)
			if worst > tol && at > 0 {
				f.keep[at], added = true, true
			}
		}
		if !added {
			return out
		}
	}
	return Simplified{}
}

// facets are places along a curve that is to be simplified.
type facets struct {
	pos         []geom.Vec
	slack       []float64 // how far a flat may lie off the smooth shape that it stands for, metres
	keep, sharp []bool    // it is a point of the simplified curve; a corner of it
}

// facets are places of the curve, denser where it is long, with its corners and ends kept; of a closed
// curve three or four more.
func (c *Curve) facets() *facets {
	var f facets
	var samples []float64
	var firsts []int // of each span among the samples
	n := len(c.spans)
	turn := func(i int) float64 { // into span i, 0 where that is a corner or an end
		if !c.closed && (i == 0 || i == n) {
			return 0
		}
		a := geom.Angle(endTangent(&c.spans[(i+n-1)%n]), startTangent(&c.spans[i%n]))
		if a > simplifyCorner {
			return 0
		}
		return a
	}
	for i := range c.spans {
		lo, hi := c.starts[i], c.starts[i+1]
		rise := (hi - lo) / 2 * math.Tan(max(turn(i), turn(i+1))/4)
		n := 1
		if c.spans[i].Kind != Line {
			n = 8
		}
		n = max(n, int(min(math.Ceil(64*(hi-lo)/c.length), 64)))
		firsts = append(firsts, len(samples))
		for j := range n {
			s := lo + (hi-lo)*float64(j)/float64(n)
			p, _ := c.At(s)
			samples, f.pos, f.slack = append(samples, s), append(f.pos, p), append(f.slack, rise)
			if j == 0 {
				f.slack[len(f.slack)-1] = 0
			}
		}
	}
	f.slack = append(f.slack, 0)
	if !c.closed {
		f.pos, samples = append(f.pos, c.spans[n-1].End()), append(samples, c.length)
	}
	total := len(samples)
	f.keep, f.sharp = make([]bool, total), make([]bool, total)
	corners, k := c.Corners(simplifyCorner), 0
	for i, s := range samples {
		if k < len(corners) && s >= corners[k].At-1e-9*c.length {
			f.keep[i], f.sharp[i] = true, true
			k++
		}
	}
	if !c.closed {
		f.keep[0], f.keep[total-1] = true, true
		return &f
	}
	for j := range 4 {
		if n < 4 {
			f.keep[j*total/4] = true
		} else {
			f.keep[firsts[j*n/4]] = true
		}
	}
	return &f
}

// worst is by how much the worst place of those behind from and before to lies further off a span than its
// slack, metres; which place is to be kept for that, or -1; and how far the farthest lies off at all.
func (f *facets) worst(span *Span, from, to int, tol float64) (worst float64, at int, off float64) {
	at = -1
	for i := from + 1; i < to; i++ {
		d := distanceTo(span, f.pos[i])
		off = max(off, d)
		if d-f.slack[i] <= worst {
			continue
		}
		// A place on a flat that stands for a bend is no place of the smooth
		// shape: the next point of the old curve is taken instead.
		k := i
		for k > from && f.slack[k] > tol {
			k--
		}
		if f.keep[k] {
			for k = i; k < to-1 && f.slack[k] > tol; {
				k++
			}
		}
		if k < to && !f.keep[k] && f.slack[k] <= tol {
			worst, at = d-f.slack[i], k
		}
	}
	return worst, at, off
}

// splineWithCorners is the smooth curve through points that parts at sharp ones.
func splineWithCorners(pts []Point, index []int, sharp []bool, closed bool) []Span {
	var cuts []int
	for i := range pts {
		if sharp[index[i]] {
			cuts = append(cuts, i)
		}
	}
	if len(cuts) == 0 {
		return Spline(Resolve(pts, closed), closed)
	}
	n := len(pts)
	var out []Span
	if !closed {
		from := 0
		for _, k := range append(cuts, n-1) {
			if k > from {
				out = append(out, Spline(Resolve(pts[from:k+1], false), false)...)
				from = k
			}
		}
		return out
	}
	// Round from corner to corner, then turned so that span j follows point j.
	round := append(append([]Point(nil), pts...), pts...)
	for i, k := range cuts {
		to := cuts[0] + n
		if i+1 < len(cuts) {
			to = cuts[i+1]
		}
		out = append(out, Spline(Resolve(round[k:to+1], false), false)...)
	}
	shift := (n - cuts[0]) % n
	return append(append([]Span(nil), out[shift:]...), out[:shift]...)
}

// distanceTo returns about how far p is from the span: from a polyline of 16 steps,
// then by one Newton step on the nearest.
func distanceTo(s *Span, p geom.Vec) float64 {
	const steps = 16
	best, at := math.Inf(1), 0.0
	for k := 0; k <= steps; k++ {
		t := float64(k) / steps
		if d := s.Point(t).Sub(p).Norm2(); d < best {
			best, at = d, t
		}
	}
	for range 3 {
		d, v, w := s.Point(at).Sub(p), s.Deriv(at), s.Deriv2(at)
		slope := v.Norm2() + d.Dot(w)
		if slope <= 0 {
			break
		}
		at = min(max(at-d.Dot(v)/slope, 0), 1)
	}
	return math.Sqrt(min(best, s.Point(at).Sub(p).Norm2()))
}

// Direction says which way Jitter pushes.
type Direction string

// The directions of Jitter.
const (
	JitterSide Direction = "side" // over the ground, x and z
	JitterUp   Direction = "up"
	JitterAll  Direction = "all"
)

// Jittering describes a wavering path. Amount bounds the push in each direction in
// metres, Grain is about the length of one waver.
type Jittering struct {
	Seed          int64
	Amount, Grain float64
	Direction     Direction
	Floor         bool    // never below the ground
	Land          Land    // that ground
	Phase         float64 // of a jitter that moves, radians: at whole turns it is as at 0
}

// Jitter returns the curve pushed about by seeded noise of a narrow band: five
// waves a direction of lengths between Grain and twice that, each a whole number
// of times on the path, so that closed paths close. The same seed gives the same.
func (c *Curve) Jitter(j Jittering) []Span {
	type wave struct{ rate, phase float64 }
	const waves = 5
	var axes [3][waves]wave
	r := geom.Chance(j.Seed)
	for a := range axes {
		for k := range axes[a] {
			// Waves drift past one another, each once or twice a beat and either way.
			drift := j.Phase * [waves]float64{1, -1, 2, -1, 1}[k]
			rounds := max(math.Round(c.length/j.Grain*(0.5+0.5*r.Next())), 1)
			axes[a][k] = wave{2 * math.Pi * rounds / c.length, 2*math.Pi*r.Next() + drift}
		}
	}
	on := [3]bool{j.Direction != JitterUp, j.Direction != JitterSide, j.Direction != JitterUp}
	push := func(s float64) (p, d geom.Vec) {
		var v, w [3]float64
		for a := range axes {
			if !on[a] {
				continue
			}
			for _, k := range axes[a] {
				sin, cos := math.Sincos(k.rate*s + k.phase)
				v[a] += sin * j.Amount / waves
				w[a] += k.rate * cos * j.Amount / waves
			}
		}
		return geom.FromArray(v), geom.FromArray(w)
	}
	// Over uneven ground it is followed within the fit's error only, which this leaves room for.
	room := 0.0
	if j.Land != nil {
		room = 3e-6 * c.length
	}
	var out []Span
	for i := 0; i < len(c.spans) && c.stop.Err() == nil; i++ {
		out = FitTo(out, c.starts[i], c.starts[i+1], func(s float64) (geom.Vec, geom.Vec) {
			p, t, _ := c.onSpan(i, s)
			v, w := push(s)
			p, t = p.Add(v), t.Add(w)
			if low, slope := j.Land.at(p.Z); j.Floor && p.Y < low+room {
				p.Y, t.Y = low+room, slope*t.Z
			}
			return p, t
		}, 1e-6*c.length)
	}
	if j.Floor && j.Land == nil {
		liftAboveGround(out)
	}
	return out
}

// liftAboveGround keeps the control points of cubics, and with them the curve, from
// lying below y = 0.
func liftAboveGround(spans []Span) {
	for i := range spans {
		for k := range spans[i].P {
			spans[i].P[k].Y = max(spans[i].P[k].Y, 0)
		}
	}
}
