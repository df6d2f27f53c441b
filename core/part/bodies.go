package part

import (
	"fmt"
	"math"

	"bead/core/geom"
)

// Bodies are parts made to be bent: rings of vertices one behind the other along +z, close
// enough that the shape itself is within ringTol of round and smooth. How many rings a bend
// needs depends on the path; Slice adds them.

// ringTol is the distance of a ring's chords from the true circle, as a share of its radius.
const ringTol = 0.004

// sidesOf is the number of chords that keep a ring within ringTol.
var sidesOf = int(math.Ceil(math.Pi / math.Acos(1-ringTol)))

// ring is one section of a body: its place along z, its half width and half height, how far
// its middle lies above the axis.
type ring struct{ z, w, h, y float64 }

// skin adds a smooth closed surface through rings whose half sizes may be 0 at the ends.
// Normals come from the differences of the rings, so that it shades smoothly; the texture
// runs round in metres and along in metres.
func (b *builder) skin(rings []ring, sides int) {
	n := len(rings)
	girth := 0.0
	for _, r := range rings {
		girth = max(girth, math.Pi*(r.w+r.h))
	}
	base := uint32(len(b.m.Positions) / 3)
	for i, r := range rings {
		lo, hi := rings[max(i-1, 0)], rings[min(i+1, n-1)]
		dz := hi.z - lo.z
		for k := range sides + 1 {
			sin, cos := math.Sincos(2 * math.Pi * float64(k%sides) / float64(sides))
			// Of the surface (w cos, y + h sin, z) the normal is the cross product of its
			// derivatives round and along.
			round := geom.V(-r.w*sin, r.h*cos, 0)
			along := geom.V((hi.w-lo.w)*cos, (hi.y-lo.y)+(hi.h-lo.h)*sin, dz)
			normal := round.Cross(along)
			if r.w*r.h == 0 { // a point: straight ahead or behind
				normal = geom.V(0, 0, 1)
				if i == 0 {
					normal = geom.V(0, 0, -1)
				}
			}
			b.vertex(geom.V(r.w*cos, r.y+r.h*sin, r.z), normal.Unit())
			b.m.UVs = append(b.m.UVs, float32(girth*float64(k)/float64(sides)), float32(r.z))
		}
	}
	row := uint32(sides + 1)
	for i := range uint32(n - 1) {
		for k := range uint32(sides) {
			p := base + i*row + k
			if rings[i].w*rings[i].h > 0 {
				b.m.Indices = append(b.m.Indices, p, p+1, p+row)
			}
			if rings[i+1].w*rings[i+1].h > 0 {
				b.m.Indices = append(b.m.Indices, p+1, p+row+1, p+row)
			}
		}
	}
}

// disc closes an end of a body with a flat face; ahead: it looks forward.
func (b *builder) disc(r ring, inner float64, sides int, ahead bool) {
	n := geom.V(0, 0, -1)
	if ahead {
		n = geom.V(0, 0, 1)
	}
	base := uint32(len(b.m.Positions) / 3)
	for k := range sides {
		sin, cos := math.Sincos(2 * math.Pi * float64(k) / float64(sides))
		for _, q := range [2]float64{1, inner} {
			b.vertex(geom.V(r.w*cos*q, r.y+r.h*sin*q, r.z), n)
			b.m.UVs = append(b.m.UVs, float32(r.w*cos*q), float32(r.h*sin*q))
		}
	}
	for k := range uint32(sides) {
		p, q := base+2*k, base+2*((k+1)%uint32(sides))
		if ahead {
			b.m.Indices = append(b.m.Indices, p, q, p+1, q, q+1, p+1)
		} else {
			b.m.Indices = append(b.m.Indices, p, p+1, q, q, p+1, q+1)
		}
	}
}

// TubeSize is the measure of a tube in metres.
type TubeSize struct {
	Length float64 `json:"length" form:"Length;length;min=1e-6"`
	Radius float64 `json:"radius" form:"Radius;length;min=1e-6"`
	Bore   float64 `json:"bore,omitempty" form:"Bore, 0: solid;length;min=0"` // inner radius; 0: solid
}

// Tube returns a tube or rod about the forward axis, centred on the origin.
func Tube(s TubeSize) (*geom.Mesh, error) {
	if err := positive([]string{"length", "radius"}, s.Length, s.Radius); err != nil {
		return nil, err
	}
	if !(s.Bore >= 0 && s.Bore < s.Radius) {
		return nil, fmt.Errorf("a bore of %g m is not accepted: from 0 to less than the radius %g m is", s.Bore, s.Radius)
	}
	var b builder
	ends := []ring{{-s.Length / 2, s.Radius, s.Radius, 0}, {s.Length / 2, s.Radius, s.Radius, 0}}
	b.skin(ends, sidesOf)
	inner := s.Bore / s.Radius
	b.disc(ends[0], inner, sidesOf, false)
	b.disc(ends[1], inner, sidesOf, true)
	if s.Bore > 0 {
		first := len(b.m.Indices)
		at := len(b.m.Normals)
		b.skin([]ring{{-s.Length / 2, s.Bore, s.Bore, 0}, {s.Length / 2, s.Bore, s.Bore, 0}}, sidesOf)
		for i := first; i < len(b.m.Indices); i += 3 { // seen from inside
			b.m.Indices[i], b.m.Indices[i+1] = b.m.Indices[i+1], b.m.Indices[i]
		}
		for i := at; i < len(b.m.Normals); i++ {
			b.m.Normals[i] = -b.m.Normals[i]
		}
	}
	return &b.m, nil
}

// EelSize is the measure of an eel in metres.
type EelSize struct {
	Length float64 `json:"length" form:"Length;length;min=1e-6"`
	Girth  float64 `json:"girth" form:"Girth;length;min=1e-6"` // greatest width of the body
}

// JawBlend is the name of the eel's other shape: its mouth open.
const JawBlend = "jaw"

// jawOpen is how far the lower jaw turns down when it is wholly open, radians.
const jawOpen = 0.62

// Eel returns a tapered body with a head, two jaws, eyes, a paler belly's flat, and a fin along
// back, tail and belly, centred on the origin, its head ahead. Its blend jaw opens the mouth.
func Eel(s EelSize) (*geom.Mesh, error) {
	if err := positive([]string{"length", "girth"}, s.Length, s.Girth); err != nil {
		return nil, err
	}
	if s.Girth > s.Length/2 {
		return nil, &SizeError{Field: "girth", Value: s.Girth}
	}
	var b builder
	l, w := s.Length, s.Girth/2
	head := min(1.15*s.Girth, l/4) // from the gills to the nose
	hinge := l/2 - 0.62*head
	// The trunk: from the tail's point to the hinge of the jaws.
	var trunk []ring
	const rings = 64
	width := func(u float64) float64 { // of the trunk, u from 0 at the tail to 1 at the hinge
		grow := math.Sin(math.Pi / 2 * math.Min(u/0.55, 1))
		return w * (0.04 + 0.96*grow) * (1 - 0.16*smooth((u-0.88)/0.12))
	}
	for i := range rings + 1 {
		u := float64(i) / rings
		z := -l/2 + (hinge+l/2)*u
		r := width(u)
		if i == 0 {
			r = 0
		}
		trunk = append(trunk, ring{z, r * (0.62 + 0.38*smooth(u/0.35)), r * 1.06, -0.04 * r})
	}
	b.skin(trunk, sidesOf)
	end := trunk[rings]
	// Each jaw is a half round that narrows to the nose, with a flat inner face.
	b.jaw(end, hinge, l/2, 1, 0.52)
	lower := len(b.m.Positions) / 3
	b.jaw(end, hinge, l/2-0.1*head, -1, 0.44)
	after := len(b.m.Positions) / 3
	for _, side := range [2]float64{-1, 1} {
		b.ball(geom.V(side*end.w*0.72, end.y+end.h*0.52, hinge+0.13*head), 0.12*s.Girth, 12)
	}
	b.fin(trunk, 0.10*l, 1, 0.55*s.Girth)
	b.fin(trunk, 0.42*l, -1, 0.4*s.Girth)
	b.spine()
	m := &b.m
	jaw := geom.Blend{Name: JawBlend, Positions: make([]float32, len(m.Positions)), Normals: make([]float32, len(m.Normals))}
	sin, cos := math.Sincos(jawOpen)
	for i := lower; i < after; i++ {
		// About the side axis at the hinge: ahead goes down.
		y, z := float64(m.Positions[3*i+1])-end.y, float64(m.Positions[3*i+2])-hinge
		ny, nz := float64(m.Normals[3*i+1]), float64(m.Normals[3*i+2])
		jaw.Positions[3*i+1] = float32(y*cos - z*sin - y)
		jaw.Positions[3*i+2] = float32(y*sin + z*cos - z)
		jaw.Normals[3*i+1] = float32(ny*cos - nz*sin - ny)
		jaw.Normals[3*i+2] = float32(ny*sin + nz*cos - nz)
	}
	m.Blends = []geom.Blend{jaw}
	return m, nil
}

// smooth rises from 0 to 1 over 0..1 without a kink at either end.
func smooth(u float64) float64 {
	u = min(max(u, 0), 1)
	return u * u * (3 - 2*u)
}

// jaw adds the upper (side 1) or lower (-1) half of a head from the ring at its root to the
// nose; blunt is how broad it still is there.
func (b *builder) jaw(root ring, z0, z1, side, blunt float64) {
	const along, round = 14, 14
	at := func(i, k int) (p, n geom.Vec) {
		u := float64(i) / along
		// A rounded snout: narrows to blunt, then closes as a quarter of an ellipse.
		narrow := 1 - (1-blunt)*smooth(u)
		if u > 0.7 {
			q := (u - 0.7) / 0.3
			narrow *= math.Sqrt(max(1-q*q, 0))
		}
		sin, cos := math.Sincos(math.Pi * float64(k) / round)
		return geom.V(root.w*narrow*cos, root.y+side*root.h*narrow*sin*(1-0.2*u), z0+(z1-z0)*u), geom.Vec{}
	}
	put := func(flat bool) {
		base := uint32(len(b.m.Positions) / 3)
		for i := range along + 1 {
			for k := range round + 1 {
				p, _ := at(i, k)
				// Normals by differences of the same formula.
				i0, i1, k0, k1 := max(i-1, 0), min(i+1, along), max(k-1, 0), min(k+1, round)
				pa, _ := at(i0, k)
				pb, _ := at(i1, k)
				pc, _ := at(i, k0)
				pd, _ := at(i, k1)
				n := pd.Sub(pc).Cross(pb.Sub(pa)).Mul(side)
				if i == along {
					n = geom.V(0, 0, 1)
				}
				if flat {
					p.Y = root.y
					n = geom.V(0, -side, 0)
				}
				b.vertex(p, n.Unit())
				b.m.UVs = append(b.m.UVs, float32(math.Pi*root.w*float64(k)/round), float32(p.Z))
			}
		}
		const row = round + 1
		for i := range uint32(along) {
			for k := range uint32(round) {
				p := base + i*row + k
				if (side > 0) != flat {
					b.m.Indices = append(b.m.Indices, p, p+1, p+row, p+1, p+row+1, p+row)
				} else {
					b.m.Indices = append(b.m.Indices, p, p+row, p+1, p+1, p+row, p+row+1)
				}
			}
		}
	}
	put(false)
	put(true)
}

// ball adds a sphere that is not bent: all of it is fastened at its centre.
func (b *builder) ball(c geom.Vec, r float64, n int) {
	b.spine()
	base := uint32(len(b.m.Positions) / 3)
	for i := range n + 1 {
		sa, ca := math.Sincos(math.Pi * float64(i) / float64(n))
		for k := range n + 1 {
			sb, cb := math.Sincos(2 * math.Pi * float64(k%n) / float64(n))
			d := geom.V(sa*cb, sa*sb, -ca)
			b.vertex(c.Mad(d, r), d)
			b.m.UVs = append(b.m.UVs, float32(r*2*math.Pi*float64(k)/float64(n)), float32(c.Z-ca*r))
			b.m.Spine = append(b.m.Spine, float32(c.Z))
		}
	}
	row := uint32(n + 1)
	for i := range uint32(n) {
		for k := range uint32(n) {
			p := base + i*row + k
			if i > 0 {
				b.m.Indices = append(b.m.Indices, p, p+1, p+row)
			}
			if i < uint32(n)-1 {
				b.m.Indices = append(b.m.Indices, p+1, p+row+1, p+row)
			}
		}
	}
}

// spine lets all vertices that are not fastened so far bend where they are.
func (b *builder) spine() {
	for i := len(b.m.Spine); i < len(b.m.Positions)/3; i++ {
		b.m.Spine = append(b.m.Spine, float32(math.NaN()))
	}
}

// fin adds a thin blade along the back (side 1) or belly (-1) of a body, from the tail to where
// it begins, height high at most.
func (b *builder) fin(trunk []ring, length, side, height float64) {
	length = trunk[len(trunk)-1].z - trunk[0].z - length
	for _, x := range [2]float64{-1, 1} {
		base := uint32(len(b.m.Positions) / 3)
		n := 0
		for _, r := range trunk {
			u := (r.z - trunk[0].z) / length
			if u > 1 {
				break
			}
			rise := height * smooth(1-u) * smooth(u/0.12+0.35) * 0.8
			root := r.y + side*r.h*0.82
			b.vertex(geom.V(x*0.06*r.w, root, r.z), geom.V(x, 0, 0))
			b.vertex(geom.V(0, r.y+side*(r.h*0.82+rise+0.18*r.h), r.z), geom.V(x, 0.2*side, 0).Unit())
			b.m.UVs = append(b.m.UVs, 0, float32(r.z), float32(rise), float32(r.z))
			n++
		}
		for i := range uint32(n - 1) {
			p := base + 2*i
			if x*side > 0 {
				b.m.Indices = append(b.m.Indices, p, p+1, p+2, p+1, p+3, p+2)
			} else {
				b.m.Indices = append(b.m.Indices, p, p+2, p+1, p+1, p+2, p+3)
			}
		}
	}
}

// PlankSize is the measure of a plank in metres.
type PlankSize struct {
	Length    float64 `json:"length" form:"Length;length;min=1e-6"`
	Width     float64 `json:"width" form:"Width;length;min=1e-6"`
	Thickness float64 `json:"thickness" form:"Thickness;length;min=1e-6"`
}

// Plank returns a plank with bevelled long edges, centred on the origin, its flat side up.
func Plank(s PlankSize) (*geom.Mesh, error) {
	if err := positive([]string{"length", "width", "thickness"}, s.Length, s.Width, s.Thickness); err != nil {
		return nil, err
	}
	w, h := s.Width/2, s.Thickness/2
	v := min(w, h) * 0.3
	return extrude([][2]float64{
		{w, -h + v}, {w, h - v}, {w - v, h}, {-w + v, h}, {-w, h - v}, {-w, -h + v}, {-w + v, -h}, {w - v, -h},
	}, s.Length), nil
}

// StripSize is the measure of a strip in metres.
type StripSize struct {
	Length    float64 `json:"length" form:"Length;length;min=1e-6"`
	Width     float64 `json:"width" form:"Width;length;min=1e-6"`
	Thickness float64 `json:"thickness" form:"Thickness;length;min=1e-6"`
}

// Strip returns a flat band, centred on the origin.
func Strip(s StripSize) (*geom.Mesh, error) {
	if err := positive([]string{"length", "width", "thickness"}, s.Length, s.Width, s.Thickness); err != nil {
		return nil, err
	}
	w, h := s.Width/2, s.Thickness/2
	return extrude([][2]float64{{w, -h}, {w, h}, {-w, h}, {-w, -h}}, s.Length), nil
}

// extrude runs a convex outline in (x, y), counter-clockwise seen from ahead, along z, flat
// shaded and with ends.
func extrude(outline [][2]float64, length float64) *geom.Mesh {
	var b builder
	n := len(outline)
	at := func(i int, z float64) geom.Vec { return geom.V(outline[i%n][0], outline[i%n][1], z) }
	front, back := make([]geom.Vec, n), make([]geom.Vec, n)
	way := 0.0
	uv := func(u, v float64) { b.m.UVs = append(b.m.UVs, float32(u), float32(v)) }
	for i := range n {
		j := i + 1
		b.face(at(i, -length/2), at(j, -length/2), at(j, length/2), at(i, length/2))
		next := way + at(j, 0).Sub(at(i, 0)).Norm()
		uv(way, -length/2)
		uv(next, -length/2)
		uv(next, length/2)
		uv(way, length/2)
		way = next
		front[i], back[n-1-i] = at(i, length/2), at(i, -length/2)
	}
	for _, end := range [2][]geom.Vec{front, back} {
		b.face(end...)
		for _, p := range end {
			uv(p.X, p.Y)
		}
	}
	return &b.m
}

// DartSize is the measure of a dart in metres.
type DartSize struct {
	Length float64 `json:"length" form:"Length;length;min=1e-6"`
	Radius float64 `json:"radius" form:"Radius;length;min=1e-6"`
	Fins   int     `json:"fins,omitempty" form:"Fins;count;min=0;max=12"` // 0: none
}

// Dart returns a slim body of revolution with a long nose and fins at its tail, centred on the
// origin.
func Dart(s DartSize) (*geom.Mesh, error) {
	if err := positive([]string{"length", "radius"}, s.Length, s.Radius); err != nil {
		return nil, err
	}
	if s.Fins < 0 || s.Fins > 12 {
		return nil, fmt.Errorf("%d fins are not accepted: from 0 to 12 are", s.Fins)
	}
	var b builder
	var rings []ring
	const n = 72
	for i := range n + 1 {
		u := float64(i) / n
		// Blunt behind, thickest at two fifths, drawn out to a point.
		r := s.Radius
		if u < 0.4 {
			q := 1 - u/0.4
			r *= math.Sqrt(max(1-q*q, 0))*0.55 + 0.45*smooth(u/0.4)
		} else {
			q := (u - 0.4) / 0.6
			r *= 1 - q*q
		}
		if i == 0 || i == n {
			r = 0
		}
		rings = append(rings, ring{-s.Length/2 + s.Length*u, r, r, 0})
	}
	b.skin(rings, sidesOf)
	for k := range s.Fins {
		a := math.Pi/2 + 2*math.Pi*float64(k)/float64(s.Fins)
		sin, cos := math.Sincos(a)
		out, across := geom.V(cos, sin, 0), geom.V(-sin, cos, 0)
		t, z := 0.05*s.Radius, -s.Length/2
		corner := func(r, dz, side float64) geom.Vec { return out.Mul(r).Mad(across, side).Add(geom.V(0, 0, z+dz)) }
		outline := [][2]float64{{0.3 * s.Radius, 0.02 * s.Length}, {2.1 * s.Radius, 0}, {2.1 * s.Radius, 0.05 * s.Length}, {0.8 * s.Radius, 0.2 * s.Length}}
		m := len(outline)
		left, right := make([]geom.Vec, m), make([]geom.Vec, m)
		for i, p := range outline {
			q := outline[(i+1)%m]
			left[i], right[m-1-i] = corner(p[0], p[1], -t), corner(p[0], p[1], t)
			b.face(corner(p[0], p[1], -t), corner(p[0], p[1], t), corner(q[0], q[1], t), corner(q[0], q[1], -t))
		}
		b.face(right...)
		b.face(left...)
		for i := len(b.m.UVs) / 2; i < len(b.m.Positions)/3; i++ {
			b.m.UVs = append(b.m.UVs, b.m.Positions[3*i], b.m.Positions[3*i+2])
		}
	}
	return &b.m, nil
}
