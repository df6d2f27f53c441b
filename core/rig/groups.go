package rig

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"bead/core/bend"
	"bead/core/figure"
	"bead/core/geom"
	"bead/core/look"
	"bead/core/machine"
	"bead/core/scene"
)

// Group is things of a picture that belong together: the pieces of a rig, the wheels of a belt, a
// fixture. What is delivered is read from groups, which tell nothing of the kind of a rig.
type Group struct {
	// Name is the group's for people. A group that is Alone is one thing that stands by itself.
	Name   string
	ID     string // of the rig; "" of what is no rig's
	Alone  bool
	Things []Thing
	// Surfaces is set of things whose shape differs from frame to frame: read them by Vertices, or as
	// skeletons. Others are rigid: read them by Place.
	Surfaces bool
	// Skeletal is set of surfaces that can be read as skeletons.
	Skeletal bool
	// Jointed is set of figures, whose joints can be read.
	Jointed bool
	// Scaled is set where the scale shows or hides a thing: it is 0 while it is not there, else Scale.
	Scaled bool
	Scale  float64
	// Jumps is set of things that leave at one end of a path and come in at the other: between two such frames
	// they must not be interpolated.
	Jumps bool
	// Carrier is the number of the one that the things hang from, or World.
	Carrier int

	rig   *Rig  // of a rig's pieces
	index int   // of the rig, path or fixture
	from  []int // of surfaces: where the numbers of each thing begin in those of the picture
	place func(p *Picture, k int) [Stride]float32
}

// Thing is one of a group.
type Thing struct {
	Name  string // whole: "Row piece 3"
	Short string // within its group: "piece 3"
	Model *Model
	// Colour takes the place of its material's, #RRGGBB; "" where it has no tint.
	Colour string
}

// Model is a mesh that things share, in its own axes.
type Model struct {
	Name   string
	Bounds geom.Box // of parts; empty of wheels
	// Part is set of a part of the document; other models are made for what they belong to.
	Part bool
	Mesh func() *geom.Mesh
	// Materials are those of the mesh's groups, one of a mesh without.
	Materials []*look.Material
	// Of is the part of the document, nil of what is none.
	Of *scene.Part
	// Stretch is how much the thing is stretched along its path in the first frame, so that images keep their
	// size.
	Stretch float64
	up      geom.Vec
}

// Groups lists what is delivered of a scene, rigs first, then wheels, then fixtures, but for the
// rigs that are skipped, their belts' wheels, and fixtures that are guides only. Nil skips none.
func (s *Scene) Groups(skip []bool) []Group {
	left := func(rig int) bool { return rig < len(skip) && skip[rig] }
	var out []Group
	type made struct {
		part  int
		first *look.Material
	}
	parts := map[made]*Model{}
	part := func(i int, stands string) *Model {
		p, of := &s.Parts[i], s.MadeOf(i, stands)
		// A part looks otherwise where it stands (still, riding, on a rig) unless it names a material: it is another
		// model then.
		key := made{i, of[0]}
		if parts[key] == nil {
			parts[key] = &Model{Name: s.Doc.Parts[i].Name, Bounds: p.Bounds, Part: true, Mesh: func() *geom.Mesh { return p.Mesh }, Materials: of, Of: &s.Doc.Parts[i], up: p.Axes.Up}
		}
		return parts[key]
	}
	for i := range s.Rigs {
		if !left(i) {
			out = append(out, s.pieces(i, part))
			if len(s.Rigs[i].moulds) > 0 {
				out = append(out, s.moulded(i))
			}
		}
	}
	wheels := map[[32]byte]*Model{}
	for i := range s.Paths {
		if s.WheelCount(i) > 0 && s.wheelsGo(i, left) {
			out = append(out, s.wheels(i, wheels))
		}
	}
	for i := range s.Fixtures {
		d := &s.Doc.Fixtures[i]
		// Guides are there to lay paths on and to measure against; nobody is to get them.
		if d.Guide || s.Doc.Parts[s.Fixtures[i].Part].Guide {
			continue
		}
		out = append(out, Group{Name: d.Name, Alone: true, Carrier: s.Fixtures[i].Carrier, Scale: 1, index: i, Things: []Thing{{Name: d.Name, Short: d.Name, Model: part(s.Fixtures[i].Part, s.standing(i))}},
			place: func(p *Picture, _ int) [Stride]float32 { return unscaled(p.Fixtures[i]) }})
	}
	return out
}

// MadeOf are the materials of a part that stands somehow: one of each group of its mesh, or one.
func (s *Scene) MadeOf(part int, stands string) []*look.Material {
	p := &s.Doc.Parts[part]
	own := s.Doc.MadeOf(p, stands)
	// A figure's file says what it is made of, until the document does.
	if m := s.Parts[part].Made; m != nil && p.Material == "" {
		own = m
	}
	out := []*look.Material{own}
	for k, g := range s.Parts[part].Mesh.Groups {
		// A surface that is not named is of the part's own.
		m := own
		for _, x := range p.Surfaces {
			if x.Name == g.Name {
				m = s.Doc.Material(x.Material)
			}
		}
		if k == 0 {
			out[0] = m
		} else {
			out = append(out, m)
		}
	}
	return out
}

// standing tells how a fixture does.
func (s *Scene) standing(fixture int) string {
	if s.Fixtures[fixture].Carrier >= 0 {
		return scene.Riding
	}
	return scene.Still
}

// MadeOfFixture are the materials of a fixture's part, as MadeOf's.
func (s *Scene) MadeOfFixture(i int) []*look.Material {
	return s.MadeOf(s.Fixtures[i].Part, s.standing(i))
}

// Tinted is the colour that a piece has by its rig's tints, "" of none.
func (s *Scene) Tinted(rig, piece int) string {
	t := &s.Rigs[rig]
	return s.tinted(rig, piece, t.Layout.Count, s.MadeOf(t.PartOf(piece), scene.OnRig)[0])
}

// tinted is the colour that a piece has by its rig's tints, "" of none.
func (s *Scene) tinted(rig, piece, count int, of *look.Material) string {
	out := ""
	for i := range s.Doc.Rigs[rig].Tints {
		// Later tints lie over earlier ones, each by its share, mixed in linear light as paint is seen.
		t := &s.Doc.Rigs[rig].Tints[i]
		share := t.Share(piece, count)
		if share == 0 {
			continue
		}
		from := out
		if from == "" {
			from = of.Colour
		}
		a, b := look.Linear(from), look.Linear(t.Colour)
		for k := range a {
			a[k] += (b[k] - a[k]) * share
		}
		out = look.ColourOf(a)
	}
	return out
}

func (s *Scene) pieces(i int, part func(int, string) *Model) Group {
	t, name := &s.Rigs[i], s.Doc.Rigs[i].Name
	g := Group{Name: name, ID: s.Doc.Rigs[i].ID, Carrier: s.PathParent(t.Path), Surfaces: t.Bends(), Skeletal: t.Bends() && !t.Simulated && !t.Jointed, Jointed: t.Jointed, Scaled: true, Scale: t.scale, rig: t, index: i,
		// What leaves an open path and comes in again at its start.
		Jumps: t.ComesRound && !t.Curve.Closed(),
		place: func(p *Picture, k int) [Stride]float32 { return [Stride]float32(p.Rigs[i].Transforms[k*Stride:]) }}
	// A body does not leave and come in: its rounds do.
	if t.Spine {
		g.Jumps = t.Renews
	}
	from, digits := 0, max(3, len(fmt.Sprint(t.Layout.Count)))
	for k := range t.Layout.Count {
		// Not "name 1": readers number nodes of one name that way themselves. With zeros in front, so
		// that lists by name are in order.
		short := fmt.Sprintf("piece %0*d", digits, k+1)
		m := part(t.PartOf(k), scene.OnRig)
		// Images on a body that is drawn out would be drawn out with it.
		if x := t.Drawn(); x != 1 {
			drawn := *m
			// Copies of one body share their model: a receiver keeps it once.
			if k > 0 && g.Things[k-1].Model.Mesh() == m.Mesh() {
				drawn = *g.Things[k-1].Model
			}
			drawn.Stretch = x
			m = &drawn
		}
		g.Things = append(g.Things, Thing{Name: name + " " + short, Short: short, Model: m, Colour: s.tinted(i, k, t.Layout.Count, m.Materials[0])})
		if g.Surfaces {
			g.from = append(g.from, from)
			from += 3 * t.Body(k).Vertices()
		}
	}
	return g
}

// moulded are the surfaces that a rig's kind makes itself.
func (s *Scene) moulded(i int) Group {
	t, name := &s.Rigs[i], s.Doc.Rigs[i].Name
	g := Group{Name: name + " surfaces", ID: s.Doc.Rigs[i].ID, Carrier: s.PathParent(t.Path), Surfaces: true, Scale: 1, rig: t, index: i}
	from := 0
	for k := range t.moulds {
		m := &t.moulds[k]
		g.Things = append(g.Things, Thing{Name: name + " " + m.Name, Short: m.Name, Model: &Model{Name: name + " " + m.Name, Mesh: func() *geom.Mesh { return m.Mesh }, Materials: []*look.Material{s.Doc.MouldOf(t.rig)}}})
		g.from = append(g.from, from)
		from += 3 * m.vertices()
	}
	return g
}

func (s *Scene) wheels(i int, models map[[32]byte]*Model) Group {
	path := &s.Doc.Paths[i]
	g := Group{Name: path.Name + " wheels", Carrier: s.PathParent(i), Scale: 1, index: i,
		place: func(p *Picture, k int) [Stride]float32 { return unscaled(p.Paths[i].Mul(p.Wheels[i][k].Place)) }}
	for k := range path.Shape.Wrap.Wheels {
		name := path.Shape.Wrap.Wheels[k].Name
		key, mesh := s.WheelMesh(i, k)
		// Wheels of one size are one model, on whatever belt.
		if models[key] == nil {
			models[key] = &Model{Name: name, Mesh: mesh, Materials: []*look.Material{s.Doc.WheelsOf()}}
		}
		g.Things = append(g.Things, Thing{Name: name + " of " + path.Name, Short: name, Model: models[key]})
	}
	return g
}

func unscaled(p Place) (out [Stride]float32) {
	copy(out[:], p[:])
	out[7], out[8], out[9] = 1, 1, 1
	return out
}

// Place is where a rigid thing stands in the world: position, rotation (x y z w), scale.
func (g *Group) Place(p *Picture, thing int) [Stride]float32 { return g.place(p, thing) }

// Centre is the middle of the model's bounds, in its own axes.
func (m *Model) Centre() geom.Vec { return m.Bounds.Min.Add(m.Bounds.Max).Mul(0.5) }

// Centred is where the centre of a thing's model is, turned and scaled as the thing.
func (g *Group) Centred(p *Picture, thing int) [Stride]float32 {
	x := g.place(p, thing)
	q := Place(x[:7]).Quat()
	// The scale is applied to the way from the pivot to the centre, too.
	at := geom.V(float64(x[0]), float64(x[1]), float64(x[2])).Add(q.Apply(g.Things[thing].Model.Centre().Mul(g.Scale)))
	x[0], x[1], x[2] = float32(at.X), float32(at.Y), float32(at.Z)
	return x
}

// CentredMesh is the model's mesh, moved so that its centre is at the origin.
func (m *Model) CentredMesh() *geom.Mesh {
	mesh, c := *m.Mesh(), m.Centre()
	mesh.Positions = append([]float32(nil), mesh.Positions...)
	for i := 0; i+2 < len(mesh.Positions); i += 3 {
		mesh.Positions[i] -= float32(c.X)
		mesh.Positions[i+1] -= float32(c.Y)
		mesh.Positions[i+2] -= float32(c.Z)
	}
	return &mesh
}

// At fills a picture with the group's rig at a frame, and nothing else.
func (g *Group) At(p *Picture, frame float64) {
	p.Frame, p.Rigs = frame, resized(p.Rigs, g.index+1)
	g.rig.frame(&p.Rigs[g.index], frame)
}

// Vertices are those of a surface in the world, and their normals, three numbers each.
func (g *Group) Vertices(p *Picture, thing int) (positions, normals []float32) {
	r := &p.Rigs[g.index]
	from := g.from[thing]
	to := from + 3*g.rig.SurfaceVertices(thing)
	return r.Positions[from:to], r.Normals[from:to]
}

// Distance is where a piece of a rig is along its path, metres.
func (g *Group) Distance(p *Picture, thing int) float64 { return p.Rigs[g.index].Distances[thing] }

// Middle is the middle line of a thing that is described by one: CentreSamples sections evenly from tail to
// head, and their distances on the path in metres. The slices are reused by the next call with the same
// picture.
func (g *Group) Middle(p *Picture, thing int) (sections []bend.Section, distances []float64, told bool) {
	if g.rig == nil || !g.rig.Spine {
		return nil, nil, false
	}
	sections, distances = g.rig.CentreLine(&p.Rigs[g.index], thing, p.Frame)
	return sections, distances, true
}

// Figure is that of a group of figures, with the metres of a unit of it.
func (g *Group) Figure() (f *figure.Figure, scale float64) {
	gait := g.rig.kind.(*cycle).gait
	return gait.Figure, gait.Scale()
}

// Joints are those of a figure in the world.
func (g *Group) Joints(p *Picture, thing int) []geom.Rigid {
	n := len(g.rig.kind.(*cycle).gait.Figure.Joints)
	return p.Rigs[g.index].Joints[thing*n : (thing+1)*n]
}

// OwnKeys are the times of the keys that made a figure's motion (its cycle's and its values'): frames counted
// from the first, rising, which may lie between two frames.
func (g *Group) OwnKeys(thing, first, frames int) []float64 {
	t, gait := g.rig, g.rig.kind.(*cycle).gait
	var out []float64
	for n := range frames - 1 {
		a, b := t.Rounds(thing, float64(first+n)), t.Rounds(thing, float64(first+n+1))
		for whole := math.Floor(min(a, b)); whole <= max(a, b); whole++ {
			// The file's keys, in every round that the figure goes through between two frames.
			for _, at := range gait.Figure.Times {
				u := whole + (at-gait.Figure.Times[0])/gait.Period
				// Within this step the rounds go evenly, near enough for a key.
				if share := (u - a) / (b - a); share >= 0 && share <= 1 {
					out = append(out, float64(n)+share)
				}
			}
		}
	}
	for _, slot := range t.scene.Doc.Slots() {
		if !strings.HasPrefix(slot.Ref, "rigs/"+t.rig.ID+"/") {
			continue
		}
		for _, k := range slot.Value.Keys {
			if at := k.Frame - float64(first); at >= 0 && at <= float64(frames-1) {
				out = append(out, at)
			}
		}
	}
	slices.Sort(out)
	// A millionth of a frame: what was keyed by two values at once is one key.
	return slices.CompactFunc(out, func(a, b float64) bool { return math.Abs(b-a) < 1e-6 })
}

// JointsAt are the joints of one figure at a frame, which may lie between two, in the space of the group's
// carrier. The picture is overwritten.
func (g *Group) JointsAt(s *Scene, p *Picture, thing int, frame float64) []geom.Rigid {
	p.Frame, p.Rigs, p.Carriers = frame, resized(p.Rigs, g.index+1), resized(p.Carriers, len(s.Doc.Carriers))
	r := &p.Rigs[g.index]
	r.bare, r.one = true, thing+1
	g.rig.frame(r, frame)
	r.bare, r.one = false, 0 // whoever uses the picture next may want all of it
	if g.Carrier != machine.World {
		p.Carriers[g.Carrier] = PlaceOf(s.CarrierPlace(g.Carrier, frame))
	}
	return g.JointsUnder(p, thing)
}

// Skeleton reads a surface by sections along it, for those who move it by joints.
type Skeleton struct {
	*bend.Body
	group *Group
	thing int
}

// Skeleton is that of a surface.
func (g *Group) Skeleton(thing int) Skeleton { return Skeleton{g.rig.Body(thing), g, thing} }

// Shown reports whether it is there in a picture.
func (k Skeleton) Shown(p *Picture) bool { return p.Rigs[k.group.index].Reach[k.thing].Shown }

// Sections are those at places along it. They stay until the next are asked for with the same picture.
func (k Skeleton) Sections(p *Picture, places []float64) []bend.Section {
	return k.group.rig.Sections(&p.Rigs[k.group.index], k.thing, p.Frame, places)
}

// Amounts are those of its other shapes in a picture, Used the numbers of those that are used.
func (k Skeleton) Amounts(p *Picture) []float64 { return k.group.rig.Amounts(p.Frame) }

// Used are the numbers of its other shapes that are used.
func (k Skeleton) Used() []int { return k.group.rig.BlendsUsed() }
