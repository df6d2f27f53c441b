package surface

import (
	"math"

	"bead/core/geom"
	"bead/core/path"
)

// Post is a cylinder or cone that stands upright on Base.
type Post struct {
	Base                      geom.Vec
	Radius, TopRadius, Height float64
}

// Over returns the path through the points, which lie on or near the post, kept at
// the clearance from its side all along. The points are joined smoothly on the
// unrolled side, each the shorter way round from the one before; the path follows
// that curve within 1e-6 of the radius.
func (o Post) Over(points []geom.Vec, closed bool, clearance float64) []path.Span {
	slope := math.Atan2(o.Radius-o.TopRadius, o.Height)
	mean := (o.Radius + o.TopRadius) / 2
	// On the unrolled side: x is the angle times the mean radius, y the height.
	flat := make([]path.Point, len(points))
	angle := 0.0
	for i, p := range points {
		d := p.Sub(o.Base)
		a := math.Atan2(d.X, d.Z)
		if i > 0 {
			a = angle + math.Remainder(a-angle, 2*math.Pi)
		}
		angle = a
		flat[i] = path.Point{At: geom.V(a*mean, d.Y, 0), Handles: path.Smooth}
	}
	if closed {
		// Once or more round the post the path ends whole turns from where it began:
		// the curve is made over three rounds and its middle taken, so that it goes on
		// over the seam as it came.
		first := flat[0].At.X / mean
		turns := angle + math.Remainder(first-angle, 2*math.Pi) - first
		n := len(flat)
		long := make([]path.Point, 0, 3*n+1)
		for k := -1; k <= 1; k++ {
			for _, p := range flat {
				p.At.X += float64(k) * turns * mean
				long = append(long, p)
			}
		}
		end := flat[0]
		end.At.X += 2 * turns * mean
		long = append(long, end)
		return o.roll(path.Spline(path.Resolve(long, false), false)[n:2*n], mean, slope, clearance)
	}
	return o.roll(path.Spline(path.Resolve(flat, false), false), mean, slope, clearance)
}

func (o Post) roll(flat []path.Span, mean, slope, clearance float64) []path.Span {
	sin, cos := math.Sincos(slope)
	var out []path.Span
	for i := range flat {
		s := &flat[i]
		out = path.FitTo(out, 0, 1, func(t float64) (p, d geom.Vec) {
			v, dv := s.Point(t), s.Deriv(t)
			sa, ca := math.Sincos(v.X / mean)
			radial, round := geom.V(sa, 0, ca), geom.V(ca, 0, -sa)
			r := o.Radius + (o.TopRadius-o.Radius)*v.Y/o.Height + clearance*cos
			dr := (o.TopRadius - o.Radius) / o.Height * dv.Y
			p = o.Base.Mad(radial, r).Add(geom.V(0, v.Y+clearance*sin, 0))
			return p, radial.Mul(dr).Mad(round, r*dv.X/mean).Add(geom.V(0, dv.Y, 0))
		}, 1e-6*mean)
	}
	return out
}

// Over returns the path through the points, which lie on or near the mesh, kept at
// about the clearance from it: between points the shortest way over the surface is
// approached, and the smooth curve through places on it is returned. least is the
// least clearance that was found half way between those places.
func (m *Mesh) Over(points []geom.Vec, closed bool, clearance float64) (spans []path.Span, least float64) {
	const (
		mostPlaces = 600
		rounds     = 24 // of pulling tight; enough for a few dozen places a stretch
	)
	n := len(points)
	stretches := n
	if !closed {
		stretches--
	}
	total := 0.0
	for i := range stretches {
		total += points[(i+1)%n].Sub(points[i]).Norm()
	}
	step := max(m.tree.nodes[0].box.Size().Norm()/60, total/mostPlaces)
	var at []geom.Vec
	var fixed []bool
	for i := range stretches {
		a, b := points[i], points[(i+1)%n]
		k := max(int(math.Ceil(b.Sub(a).Norm()/step)), 1)
		for j := range k {
			q, _ := m.Nearest(a.Lerp(b, float64(j)/float64(k)))
			at, fixed = append(at, q), append(fixed, j == 0)
		}
	}
	if !closed {
		q, _ := m.Nearest(points[n-1])
		at, fixed = append(at, q), append(fixed, true)
	}
	for range rounds {
		for i := range at {
			if !fixed[i] {
				at[i], _ = m.Nearest(at[(i+len(at)-1)%len(at)].Lerp(at[(i+1)%len(at)], 0.5))
			}
		}
	}
	pts := make([]path.Point, len(at))
	for i, q := range at {
		_, normal := m.Nearest(q)
		pts[i] = path.Point{At: q.Mad(normal, clearance), Handles: path.Smooth}
	}
	spans = path.Spline(path.Resolve(pts, closed), closed)
	least = math.Inf(1)
	for i := range spans {
		p := spans[i].Point(0.5)
		q, normal := m.Nearest(p)
		d := p.Sub(q)
		least = min(least, math.Copysign(d.Norm(), d.Dot(normal)))
	}
	return spans, least
}
