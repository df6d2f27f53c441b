package sim

import (
	"math"
	"math/bits"
	"slices"

	"bead/core/geom"
)

// Fabric is what a cloth is made of.
type Fabric struct {
	Weight  float64 // kg/m^2
	Stretch float64 // N/m: the pull on a metre's width that would draw it out to twice its length
	Shear   float64 // N/m
	Bend    float64 // N m: of a metre's width, bent to a radius of a metre
}

// Cloth is points held together by springs that follow from its fabric. It moves by small steps of
// extended position-based dynamics with one pass over the springs each (Macklin, Mueller,
// Chentanez, "XPBD", 2016; Macklin et al., "Small steps in physics simulation", SCA 2019). Its bending
// of meshes without rows is that of Bergou et al., "A quadratic bending model for inextensible surfaces", SGP 2006. All is
// done in one order, so that the same steps give the same bits.
type Cloth struct {
	X, V []geom.Vec
	Mass []float64 // kg

	before    []geom.Vec
	inverse   []float64 // of the masses; 0 of points that are held
	triangles [][3]int32
	shares    [][3]float64 // of each triangle, what of its area goes to each corner
	areas     []float64    // of each triangle at rest, m^2
	weight    float64
	springs   []spring
	shears    []shear
	bends     []fold
	tuned     float64    // to one over this, seconds squared; 0: not yet
	near      [][2]int32 // points that could touch before the next look
	apart     float64    // metres at which points of the cloth touch
	cells     cells
}

// spring keeps two points apart, shear the two diagonals of a square alike, fold keeps
// three or four points as flat as they were. by is how far each point goes for what is amiss, in
// a step of the length that they are tuned to.
type (
	spring struct {
		a, b       int32
		rest, soft float64 // soft: metres a newton
		by         [2]float64
	}
	shear struct {
		p     [4]int32 // round the square
		scale float64
		soft  float64
	}
	fold struct {
		p    [4]int32
		k    [4]float64
		rest float64
		soft float64
		by   [4]float64
	}
)

// NewCloth makes a cloth of points and triangles at rest. Triangles without an area are left out.
func NewCloth(points []geom.Vec, triangles [][3]int32, f Fabric) *Cloth {
	n := len(points)
	c := &Cloth{X: slices.Clone(points), V: make([]geom.Vec, n), Mass: make([]float64, n), before: slices.Clone(points),
		inverse: make([]float64, n), weight: f.Weight}
	var net netting
	net.of = map[[2]int32]int{}
	for _, t := range triangles {
		if a := points[t[1]].Sub(points[t[0]]).Cross(points[t[2]].Sub(points[t[0]])).Norm() / 2; a >= 1e-12 {
			c.triangles = append(c.triangles, t)
			net.add(t, a)
		}
	}
	c.areas = net.areas
	c.join(&net, points, f)
	c.springs = spread(c.springs, n, func(s *spring) []int32 { return []int32{s.a, s.b} })
	c.shears = spread(c.shears, n, func(s *shear) []int32 { return s.p[:] })
	for i := range c.Mass {
		if c.Mass[i] == 0 { // belongs to no triangle: it goes along with nothing
			c.Mass[i] = 1e-6
		}
		c.inverse[i] = 1 / c.Mass[i]
	}
	c.stiffen(&net, points, f)
	c.bends = spread(c.bends, n, func(b *fold) []int32 { return b.p[:] })
	return c
}

// spread sorts what holds points together into groups in which no point comes twice, so that the processor
// need not wait for one before it begins the next (graph colouring: common practice). What no
// group of the first 63 takes, as at the hub of a mesh, comes last.
func spread[T any](list []T, points int, of func(*T) []int32) []T {
	var groups [64][]T
	in := make([]uint64, points) // the groups that a point is in, a bit each
	for i := range list {
		taken := uint64(0)
		for _, p := range of(&list[i]) {
			taken |= in[p]
		}
		g := min(bits.TrailingZeros64(^taken), len(groups)-1)
		groups[g] = append(groups[g], list[i])
		for _, p := range of(&list[i]) {
			in[p] |= 1 << g
		}
	}
	return slices.Concat(groups[:]...)
}

// netting is the edges of a cloth with what lies beside them.
type netting struct {
	of    map[[2]int32]int
	edges []brink
	areas []float64 // of the triangles
}

type brink struct {
	a, b      int32
	triangles []int
	across    []int32 // the third points of the triangles
	area      float64 // of them
}

func (n *netting) add(t [3]int32, area float64) {
	for k := range 3 {
		e := [2]int32{min(t[k], t[(k+1)%3]), max(t[k], t[(k+1)%3])}
		at, known := n.of[e]
		if !known {
			at = len(n.edges)
			n.of[e] = at
			n.edges = append(n.edges, brink{a: e[0], b: e[1]})
		}
		x := &n.edges[at]
		x.triangles, x.across, x.area = append(x.triangles, len(n.areas)), append(x.across, t[(k+2)%3]), x.area+area
	}
	n.areas = append(n.areas, area)
}

// join makes the springs of the edges, and shares out the weight: of squares a quarter to each corner,
// of other triangles a third.
func (c *Cloth) join(n *netting, at []geom.Vec, f Fabric) {
	squared := make([]bool, len(n.areas))
	c.shares = make([][3]float64, len(n.areas))
	for i := range n.edges {
		e := &n.edges[i]
		if len(e.across) == 2 && !squared[e.triangles[0]] && !squared[e.triangles[1]] {
			if sh, square := squareOf(e.a, e.across[0], e.b, e.across[1], at); square {
				squared[e.triangles[0]], squared[e.triangles[1]] = true, true
				for _, k := range e.triangles {
					for x, p := range c.triangles[k] {
						c.shares[k][x] = 0.25 // on the diagonal, of both triangles
						if p != e.a && p != e.b {
							c.shares[k][x] = 0.5
						}
					}
				}
				if f.Shear > 0 {
					sh.soft = 1 / (f.Shear * e.area)
					c.shears = append(c.shears, sh)
				}
				continue
			}
		}
		// The width that an edge stands for is the area beside it over its length.
		long := at[e.b].Sub(at[e.a]).Norm()
		c.springs = append(c.springs, spring{a: e.a, b: e.b, rest: long, soft: long * long / (f.Stretch * e.area)})
	}
	for k, t := range c.triangles {
		for x, p := range t {
			if !squared[k] {
				c.shares[k][x] = 1. / 3
			}
			c.Mass[p] += f.Weight * n.areas[k] * c.shares[k][x]
		}
	}
}

// squareOf reports whether the edge from a to b is the diagonal of what is nearly a rectangle.
func squareOf(a, p, b, q int32, at []geom.Vec) (shear, bool) {
	u, v := at[p].Sub(at[a]), at[q].Sub(at[a])
	w := at[b].Sub(at[a])
	if u.Add(v).Sub(w).Norm() > 0.35*w.Norm() || math.Abs(u.Dot(v)) > 0.35*u.Norm()*v.Norm() {
		return shear{}, false
	}
	return shear{p: [4]int32{a, p, b, q}, scale: 1 / (4 * u.Norm() * v.Norm())}, true
}

// stiffen makes what keeps the cloth flat. Where its edges go on straight through their points, as in
// a net of squares, three points in a row are bent as a beam is: half B times the width they stand
// for, over the length, times the turn squared. Elsewhere the angles at edges are kept after Bergou
// et al., at a third of their strength: bent over a cylinder, regular triangles and squares hold three
// times the energy of a plate (counted out by hand).
func (c *Cloth) stiffen(n *netting, at []geom.Vec, f Fabric) {
	if f.Bend <= 0 {
		return
	}
	beside := make([][]int32, len(at)) // of each point, the points that springs join it to
	for i := range c.springs {
		s := &c.springs[i]
		beside[s.a], beside[s.b] = append(beside[s.a], s.b), append(beside[s.b], s.a)
	}
	var rows [][3]int32
	inner, straight := 0, 0
	for b, list := range beside {
		through := 0
		for x, p := range list {
			for _, q := range list[:x] {
				u, v := at[p].Sub(at[b]), at[q].Sub(at[b])
				if u.Dot(v) < -0.97*u.Norm()*v.Norm() {
					rows, through = append(rows, [3]int32{p, int32(b), q}), through+1
				}
			}
		}
		if len(list) == 4 {
			inner++
		}
		if through == 2 || len(list) < 4 {
			straight++
		}
	}
	if inner > 0 && float64(straight) > 0.8*float64(len(at)) {
		for _, r := range rows {
			c.row(r, at, f)
		}
		return
	}
	for i := range n.edges {
		if e := &n.edges[i]; len(e.across) == 2 {
			c.hinge([4]int32{e.a, e.b, e.across[0], e.across[1]}, e.area, at, f)
		}
	}
}

// row bends three points in a row, the middle one second.
func (c *Cloth) row(p [3]int32, at []geom.Vec, f Fabric) {
	before, after := at[p[1]].Sub(at[p[0]]).Norm(), at[p[2]].Sub(at[p[1]]).Norm()
	long := (before + after) / 2
	area := c.Mass[p[1]] / f.Weight
	x := fold{p: [4]int32{p[0], p[1], p[2], p[2]}, k: [4]float64{1 / before, -1/before - 1/after, 1 / after, 0}, soft: long * long / (f.Bend * area)}
	c.keepFlat(x, at)
}

// hinge keeps the two triangles at an edge in their angle: the edge's ends first, then the points
// across from it.
func (c *Cloth) hinge(p [4]int32, area float64, at []geom.Vec, f Fabric) {
	cot := func(apex, b, d int32) float64 { // of the angle at apex
		u, v := at[b].Sub(at[apex]), at[d].Sub(at[apex])
		return u.Dot(v) / max(u.Cross(v).Norm(), 1e-12)
	}
	a, b := p[0], p[1]
	c03, c01 := cot(a, b, p[2]), cot(b, a, p[2]) // at the edge's ends, in the first triangle
	c04, c02 := cot(a, b, p[3]), cot(b, a, p[3])
	c.keepFlat(fold{p: p, k: [4]float64{c01 + c02, c03 + c04, -c01 - c03, -c02 - c04}, soft: area / f.Bend}, at)
}

func (c *Cloth) keepFlat(x fold, at []geom.Vec) {
	var sum geom.Vec
	for i, k := range x.k {
		sum = sum.Mad(at[x.p[i]], k)
	}
	x.rest = sum.Norm()
	c.bends = append(c.bends, x)
}

// Hold fastens a point: from now on it stands where it is put.
func (c *Cloth) Hold(point int) { c.inverse[point], c.tuned = 0, 0 }

// Held reports whether a point is fastened.
func (c *Cloth) Held(point int) bool { return c.inverse[point] == 0 }

// Spacing is the mean length of the cloth's edges at rest.
func (c *Cloth) Spacing() float64 {
	sum := 0.0
	for i := range c.springs {
		sum += c.springs[i].rest
	}
	return sum / float64(max(len(c.springs), 1))
}

// Stretched is the greatest share by which an edge is longer than at rest, and the edge's points.
func (c *Cloth) Stretched(at []geom.Vec) (most float64, a, b int) {
	for i := range c.springs {
		s := &c.springs[i]
		if x := at[s.b].Sub(at[s.a]).Norm()/s.rest - 1; x > most {
			most, a, b = x, int(s.a), int(s.b)
		}
	}
	return most, a, b
}

// Surroundings are what acts on a cloth.
type Surroundings struct {
	Gravity geom.Vec // m/s^2
	Damping float64  // share of the speed that is lost a second, as the power of e
	// Flow is the speed of air or water at a place, m/s; nil where none flows. Density is in kg/m^3,
	// with which its pressure along the cloth's normal is half the density times the speed squared.
	Flow    func(at geom.Vec) geom.Vec
	Density float64
	// Push brings a point out of what it must not be in: by how far, along which normal; 0 where it
	// is clear. Nil where there is nothing. Friction is the share of the push by which a point is
	// held back along the surface.
	Push     func(at geom.Vec) (depth float64, normal geom.Vec)
	Friction float64
	// Pins puts the held points where they are at the end of the step.
	Pins func(x []geom.Vec)
}

// Step moves the cloth on by dt seconds.
func (c *Cloth) Step(dt float64, s *Surroundings) {
	if s.Flow != nil && s.Density > 0 {
		c.press(dt, s)
	}
	for i := range c.X {
		c.before[i] = c.X[i]
		if c.inverse[i] == 0 {
			continue
		}
		v := c.V[i].Mad(s.Gravity, dt)
		c.X[i] = c.X[i].Mad(v, dt)
	}
	if s.Pins != nil {
		s.Pins(c.X)
	}
	c.solve(1 / (dt * dt))
	if c.apart > 0 {
		c.part()
	}
	if s.Push != nil {
		c.push(s)
	}
	keep := math.Exp(-s.Damping*dt) / dt
	for i := range c.X {
		c.V[i] = c.X[i].Sub(c.before[i]).Mul(keep)
	}
}

// tune works out what of springs and folds is the same in all steps of a length. per is one over its square.
func (c *Cloth) tune(per float64) {
	w := c.inverse
	for i := range c.springs {
		s := &c.springs[i]
		if all := w[s.a] + w[s.b] + s.soft*per; all > 0 {
			s.by = [2]float64{w[s.a] / all, -w[s.b] / all}
		}
	}
	for i := range c.bends {
		b := &c.bends[i]
		all := b.soft * per
		for k, p := range b.p {
			all += w[p] * b.k[k] * b.k[k]
		}
		for k, p := range b.p {
			if b.by[k] = 0; all > 0 {
				b.by[k] = -w[p] * b.k[k] / all
			}
		}
	}
	c.tuned = per
}

// solve passes once over the springs. per is one over the step squared.
func (c *Cloth) solve(per float64) {
	if c.tuned != per {
		c.tune(per)
	}
	x, w := c.X, c.inverse
	for i := range c.bends {
		b := &c.bends[i]
		p0, p1, p2, p3 := b.p[0], b.p[1], b.p[2], b.p[3]
		sum := x[p0].Mul(b.k[0]).Mad(x[p1], b.k[1]).Mad(x[p2], b.k[2])
		if p3 != p2 {
			sum = sum.Mad(x[p3], b.k[3])
		}
		if b.rest > 1e-9 {
			n := sum.Norm()
			if n < 1e-12 {
				continue
			}
			sum = sum.Mul(1 - b.rest/n)
		}
		x[p0], x[p1], x[p2] = x[p0].Mad(sum, b.by[0]), x[p1].Mad(sum, b.by[1]), x[p2].Mad(sum, b.by[2])
		if p3 != p2 {
			x[p3] = x[p3].Mad(sum, b.by[3])
		}
	}
	for i := range c.shears {
		s := &c.shears[i]
		a, p, b, q := s.p[0], s.p[1], s.p[2], s.p[3]
		u, v := x[b].Sub(x[a]), x[q].Sub(x[p])
		uu, vv := u.Norm2(), v.Norm2()
		by := 4*s.scale*s.scale*((w[a]+w[b])*uu+(w[p]+w[q])*vv) + s.soft*per
		if by <= 0 {
			continue
		}
		m := -s.scale * (uu - vv) / by * 2 * s.scale
		x[a], x[b] = x[a].Mad(u, -m*w[a]), x[b].Mad(u, m*w[b])
		x[p], x[q] = x[p].Mad(v, m*w[p]), x[q].Mad(v, -m*w[q])
	}
	for i := range c.springs {
		s := &c.springs[i]
		d := x[s.b].Sub(x[s.a])
		long := d.Norm()
		if long < 1e-12 {
			continue
		}
		m := 1 - s.rest/long
		x[s.a], x[s.b] = x[s.a].Mad(d, m*s.by[0]), x[s.b].Mad(d, m*s.by[1])
	}
}

// mostSpread is how many times its area at rest a triangle may have before what flows takes it into account.
// Below 2 a step stays stable.
const mostSpread = 1.5

// press lets what flows push on the triangles along their normals. It is taken with the speed that
// it leads to, so that no density is too much for the step.
func (c *Cloth) press(dt float64, s *Surroundings) {
	for at, t := range c.triangles {
		a, b, d := c.X[t[0]], c.X[t[1]], c.X[t[2]]
		n := b.Sub(a).Cross(d.Sub(a))
		size := n.Norm()
		if size < 1e-14 {
			continue
		}
		n = n.Mul(1 / size)
		mid := a.Add(b).Add(d).Mul(1. / 3)
		speed := c.V[t[0]].Add(c.V[t[1]]).Add(c.V[t[2]]).Mul(1. / 3)
		u := s.Flow(mid).Sub(speed).Dot(n)
		k := 0.5 * s.Density * math.Abs(u) * dt / c.weight
		// Drawn far out, it has more area for its mass; without that in the divisor it is thrown back faster than it came.
		dv := n.Mul(u * k / (1 + k*max(1, 0.5*size/c.areas[at]/mostSpread)))
		for x, i := range t {
			if c.inverse[i] > 0 {
				c.V[i] = c.V[i].Mad(dv, c.shares[at][x]*0.5*size*c.weight/c.Mass[i])
			}
		}
	}
}

// push brings points out of what they must not be in, and holds them back along it.
func (c *Cloth) push(s *Surroundings) {
	for i := range c.X {
		if c.inverse[i] == 0 {
			continue
		}
		deep, n := s.Push(c.X[i])
		if deep <= 0 {
			continue
		}
		c.X[i] = c.X[i].Mad(n, deep)
		c.holdBack(i, n, s.Friction*deep)
	}
}

// holdBack takes up to some metres off the way that a point has gone across a normal.
func (c *Cloth) holdBack(i int, n geom.Vec, most float64) {
	went := c.X[i].Sub(c.before[i])
	went = went.Mad(n, -went.Dot(n))
	if far := went.Norm(); far > 1e-15 {
		c.X[i] = c.X[i].Mad(went, -min(most/far, 1))
	}
}

// Energy is that of its motion and its height, joules, from the height 0 on.
func (c *Cloth) Energy(gravity float64) float64 {
	e := 0.0
	for i := range c.X {
		if c.inverse[i] > 0 {
			e += c.Mass[i] * (c.V[i].Norm2()/2 + gravity*c.X[i].Y)
		}
	}
	return e
}
