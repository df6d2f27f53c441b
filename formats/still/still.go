// Package still draws a frame of a scene as a small picture without a browser: lit by the scene's sun,
// in the colours of its materials, seen by its first camera or else from the corner.
package still

import (
	"context"
	"image"
	"math"

	"bead/core/geom"
	"bead/core/look"
	"bead/core/part"
	"bead/core/rig"
)

// The size of a picture in pixels; each is the mean of two by two.
const (
	Width, Height = 640, 360
	fine          = 2
)

const (
	margin        = 0.08    // of a picture round what the corner view fits, as a share of its size
	mostTriangles = 400_000 // of a group; pieces beyond that are drawn as their boxes
	sand          = "#d8cfbc"
	water         = "#2e7466" // of paths, where nothing else is seen
	few           = 1500      // fine pixels
)

// Draw draws the first frame in which all pieces have arrived, with nothing behind it. mean returns the mean
// linear colour of an image asset. It stops when ctx ends.
func Draw(ctx context.Context, s *rig.Scene, mean func(asset string) ([3]float64, error)) (*image.NRGBA, error) {
	n := s.Doc.Range.First
	for i := range s.Rigs {
		n = max(n, s.Rigs[i].SettledFrame())
	}
	d := drawing{ctx: ctx, scene: s, groups: s.Groups(nil), mean: mean}
	if err := s.FrameContext(ctx, &d.pic, n); err != nil {
		return nil, err
	}
	sun := s.Doc.Sun()
	h, v := sun.Heading*math.Pi/180, sun.Height*math.Pi/180
	d.sun, d.strength = geom.V(math.Sin(h)*math.Cos(v), math.Sin(v), math.Cos(h)*math.Cos(v)), sun.Strength
	d.bounds = geom.EmptyBox()
	d.things(func(t *triangle) {
		for k := range t.at {
			d.bounds = d.bounds.Extend(t.at[k])
		}
	})
	bare := d.bounds.Min.X > d.bounds.Max.X
	if bare {
		d.lines(func(p geom.Vec) { d.bounds = d.bounds.Extend(p) })
	}
	if d.bounds.Min.X > d.bounds.Max.X {
		d.bounds = d.bounds.Extend(geom.Vec{})
	}
	c := newCanvas(Width*fine, Height*fine, d.eye())
	d.things(func(t *triangle) {
		c.cast(t, d.sun)
		c.triangle(t)
	})
	if c.seen() < few { // nothing, or too small to be seen
		ink := shade{look.Linear(water), 1}
		d.lines(func(p geom.Vec) { c.dot(p, 2.5, ink) })
	}
	if !bare && s.Doc.Ground != nil {
		d.ground(c.triangle)
	}
	return c.picture(), ctx.Err()
}

// triangle is one of the world's, with the light that its corners send.
type triangle struct {
	at    [3]geom.Vec
	light [3][3]float64
	// clear is the opacity, from 0 to 1.
	clear float64
}

type shade struct {
	light [3]float64
	cover float64
}

type drawing struct {
	ctx      context.Context
	scene    *rig.Scene
	groups   []rig.Group
	pic      rig.Picture
	sun      geom.Vec
	strength float64
	bounds   geom.Box
	mean     func(asset string) ([3]float64, error)
}

// lines tells points along all paths.
func (d *drawing) lines(tell func(geom.Vec)) {
	for i, c := range d.scene.Paths {
		m := d.scene.PathPlace(i, d.pic.Frame)
		if d.pic.Curves[i] != nil {
			c = d.pic.Curves[i]
		}
		const looks = 1500
		for k := range looks {
			p, _ := c.At(c.Length() * float64(k) / (looks - 1))
			tell(m.Apply(p))
		}
	}
}

// things tells all triangles but those of the ground.
func (d *drawing) things(tell func(*triangle)) {
	for i := range d.groups {
		g := &d.groups[i]
		for n := range g.Things {
			if d.ctx.Err() != nil {
				return
			}
			d.thing(g, n, tell)
		}
	}
}

func (d *drawing) thing(g *rig.Group, n int, tell func(*triangle)) {
	model := g.Things[n].Model
	if g.Surfaces {
		at, normals := g.Vertices(&d.pic, n)
		own := model.Mesh()
		d.mesh(g, n, &geom.Mesh{Positions: at, Normals: normals, Indices: own.Indices, Groups: own.Groups}, own, geom.Still, 1, tell)
		return
	}
	x := g.Place(&d.pic, n)
	if x[7] == 0 {
		return
	}
	m := model.Mesh()
	if len(m.Indices)/3*len(g.Things) > mostTriangles && model.Part {
		m = boxOf(model)
	}
	d.mesh(g, n, m, m, rig.Place(x[:7]).Rigid(), float64(x[7]), tell)
}

// mesh tells the triangles of a mesh that stands at a place; own has its form before it is bent.
func (d *drawing) mesh(g *rig.Group, n int, m, own *geom.Mesh, place geom.Rigid, scale float64, tell func(*triangle)) {
	thing := &g.Things[n]
	vec := func(of []float32, v uint32) geom.Vec {
		return geom.V(float64(of[3*v]), float64(of[3*v+1]), float64(of[3*v+2]))
	}
	for k, run := range rig.Runs(own) {
		f := thing.Finish(k)
		made := f.Material
		colour := d.colour(f)
		low, under := f.Lower(own, thing.Model.Up()), [3]float64{}
		if low != nil {
			under = look.Linear(made.Under)
		}
		for i := run.First; i+2 < run.First+run.Count; i += 3 {
			t := triangle{clear: made.Clear()}
			for k := range 3 {
				v := m.Indices[i+k]
				t.at[k] = place.Apply(vec(m.Positions, v).Mul(scale))
				own := colour
				if low != nil {
					for c := range own {
						own[c] += (under[c] - own[c]) * low[v]
					}
				}
				t.light[k] = d.lit(own, place.Turn(vec(m.Normals, v)), made)
			}
			tell(&t)
		}
	}
}

// boxOf is a part's box.
func boxOf(m *rig.Model) *geom.Mesh {
	size, c := m.Bounds.Size(), m.Centre()
	box, err := part.Box(max(size.X, 1e-6), max(size.Y, 1e-6), max(size.Z, 1e-6))
	if err != nil { // larger than any box: it is seen as it is
		return m.Mesh()
	}
	for i := range box.Positions {
		box.Positions[i] += float32(c.Array()[i%3])
	}
	return box
}

// colour is the colour of a finish times the mean of its image.
func (d *drawing) colour(f rig.Finish) [3]float64 {
	out := look.Linear(f.Shown())
	if images := f.Material.Images; images != nil && images.Colour != "" {
		if mean, err := d.mean(images.Colour); err == nil { // one that is lost is told of elsewhere
			for k := range out {
				out[k] *= mean[k]
			}
		}
	}
	return out
}

// lit is the light that a place of a colour sends: of the sun by the cosine, of the sky from above,
// of the sand from below; metals send less of it, and a little of the sky as it is.
func (d *drawing) lit(colour [3]float64, normal geom.Vec, m *look.Material) (out [3]float64) {
	n := normal.Unit()
	sun := max(0, n.Dot(d.sun)) * 0.85 * d.strength
	sky := 0.42 + 0.22*n.Y
	metal := m.Metalness
	for c := range out {
		out[c] = colour[c]*(sun+sky)*(1-0.35*metal) + 0.12*metal*(1-m.Roughness)*(0.5+0.5*n.Y)
	}
	return out
}

// ground tells the ground round what is seen, as a strip along z.
func (d *drawing) ground(tell func(*triangle)) {
	profile := d.scene.Doc.Ground.Profile()
	if profile == nil {
		return
	}
	colour := look.Linear(sand)
	made := &look.Material{Roughness: 1}
	if m := d.scene.Doc.Material(d.scene.Doc.Ground.Material); m != nil {
		colour, made = d.colour(rig.Finish{Material: m}), m
	}
	size := d.bounds.Max.Sub(d.bounds.Min)
	wide := 0.5 * max(size.X, size.Z)
	x0, x1 := d.bounds.Min.X-wide, d.bounds.Max.X+wide
	const steps = 240
	from, step := d.bounds.Min.Z-wide, (size.Z+2*wide)/steps
	at := func(z float64) (geom.Vec, geom.Vec, [3]float64) {
		y, slope := profile.Height(z)
		return geom.V(x0, y, z), geom.V(x1, y, z), d.lit(colour, geom.V(0, 1, -slope), made)
	}
	for k := range steps {
		a, b, la := at(from + float64(k)*step)
		p, q, lp := at(from + float64(k+1)*step)
		tell(&triangle{at: [3]geom.Vec{a, b, p}, light: [3][3]float64{la, la, lp}, clear: 0.5})
		tell(&triangle{at: [3]geom.Vec{b, q, p}, light: [3][3]float64{la, lp, lp}, clear: 0.5})
	}
}
