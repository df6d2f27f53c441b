// Package report gathers what the page and programs are told beside the picture: lengths, gaps, facing,
// wheels, values over time, in metres, degrees and 1/m. It reads a compiled scene by its public face.
package report

import (
	"context"
	"runtime"
	"sync"
	"sync/atomic"

	"bead/core/look"
	"bead/core/rig"
	"bead/core/scene"
)

// Readout is what compiling found out, for the recipe and the strips: plain
// numbers in metres, degrees and 1/m.
type Readout struct {
	Paths    []PathReadout    `json:"paths"`
	Parts    []PartReadout    `json:"parts"`
	Rigs     []RigReadout     `json:"rigs"`
	Fixtures []FixtureReadout `json:"fixtures"`
	// Reach is the box, least and greatest corner, in which the paths and fixtures are
	// over the range; left out where there are none.
	Reach []scene.Vec3 `json:"reach,omitempty"`
	// Ground is the profile of the ground as z, height, z, ...; left out where it is level.
	Ground []float32 `json:"ground,omitempty"`
	// Values are those that move, over time.
	Values []CurveReadout `json:"values,omitempty"`
	// Materials are those that anything is made of, the scene's own and those that go with a shape;
	// others are told by their numbers among these. Wheels is that of wheels, GroundMaterial that of
	// the ground, -1 of a ground that is a chart.
	Materials      []look.Material `json:"materials"`
	Wheels         int             `json:"wheels"`
	GroundMaterial int             `json:"groundMaterial"`
}

// FixtureReadout is where a fixture stands.
type FixtureReadout struct {
	ID   string `json:"id"`
	Part int    `json:"part"` // index of its part
	// Place is position, rotation (x y z w) and scale, as of a piece.
	Place     []float32 `json:"place"`
	Materials []int     `json:"materials"` // of the groups of its mesh, or one
}

// PartReadout describes a part's geometry.
type PartReadout struct {
	ID        string     `json:"id"`
	Length    float64    `json:"length"`
	Min       scene.Vec3 `json:"min"`
	Max       scene.Vec3 `json:"max"`
	Triangles int        `json:"triangles"`
	Materials []int      `json:"materials"` // of the groups of its mesh on a rig, or one
	// Groups are the surfaces that its mesh tells apart.
	Groups []PartGroup `json:"groups,omitempty"`
	// Tiles tells of a mesh that lies on its images as its file has it, whatever their size.
	Tiles bool `json:"tiles,omitempty"`
}

// PartGroup is a surface of a part's mesh: a run of its indices.
type PartGroup struct {
	Name  string `json:"name"`
	First int    `json:"first"`
	Count int    `json:"count"`
}

// Of is OfContext without an end.
func Of(s *rig.Scene) Readout {
	out, _ := OfContext(context.Background(), s)
	return out
}

// OfContext gathers the numbers of a compiled scene. Its error is that of ctx.
func OfContext(ctx context.Context, s *rig.Scene) (Readout, error) {
	defer s.Until(ctx)()
	out := Readout{
		Paths: make([]PathReadout, len(s.Paths)),
		Parts: make([]PartReadout, len(s.Parts)),
		Rigs:  make([]RigReadout, len(s.Rigs)),

		Fixtures:  make([]FixtureReadout, len(s.Fixtures)),
		Materials: []look.Material{},
	}
	var wait sync.WaitGroup
	var next atomic.Int64
	for range runtime.GOMAXPROCS(0) {
		wait.Go(func() {
			for k := int(next.Add(1)) - 1; k < len(s.Paths)+len(s.Rigs) && ctx.Err() == nil; k = int(next.Add(1)) - 1 {
				if k < len(s.Paths) {
					out.Paths[k] = readPath(s, k)
				} else {
					out.Rigs[k-len(s.Paths)] = readRig(s, k-len(s.Paths))
				}
			}
		})
	}
	for i := range s.Fixtures {
		f := &s.Fixtures[i]
		p := s.FixturePlace(i, s.Clock.First)
		out.Fixtures[i] = FixtureReadout{s.Doc.Fixtures[i].ID, f.Part, append(p[:], 1, 1, 1), out.madeOf(s.MadeOfFixture(i))}
	}
	for i := range s.Parts {
		p := &s.Parts[i]
		out.Parts[i] = PartReadout{ID: s.Doc.Parts[i].ID, Length: p.Length,
			Min: p.Bounds.Min.Array(), Max: p.Bounds.Max.Array(), Triangles: len(p.Mesh.Indices) / 3, Materials: out.madeOf(s.MadeOf(i, scene.OnRig)), Tiles: p.Mesh.Tiles}
		for _, g := range p.Mesh.Groups {
			out.Parts[i].Groups = append(out.Parts[i].Groups, PartGroup{g.Name, g.First, g.Count})
		}
	}
	out.Wheels, out.GroundMaterial = out.material(s.Doc.WheelsOf()), -1
	if g := s.Doc.Ground; g != nil && g.Material != "" {
		out.GroundMaterial = out.material(s.Doc.Material(g.Material))
	}
	for _, p := range s.Ground() {
		out.Ground = append(out.Ground, float32(p.X), float32(p.Y))
	}
	if ctx.Err() == nil {
		out.Values, out.Reach = values(ctx, s), s.Reach(ctx)
	}
	wait.Wait()
	for i := range out.Rigs {
		r, t, doc := &out.Rigs[i], &s.Rigs[i], &s.Doc.Rigs[i]
		r.Made, r.Drawn = out.material(s.Doc.MouldOf(doc)), t.Drawn()
		if len(doc.Tints) == 0 {
			continue
		}
		r.Colours = make([]string, t.Layout.Count)
		for k := range r.Colours {
			r.Colours[k] = s.Tinted(i, k)
		}
	}
	return out, ctx.Err()
}

// material is the number of a material among those of the readout.
func (r *Readout) material(m *look.Material) int {
	for i := range r.Materials {
		if r.Materials[i] == *m {
			return i
		}
	}
	r.Materials = append(r.Materials, *m)
	return len(r.Materials) - 1
}

func (r *Readout) madeOf(list []*look.Material) (out []int) {
	for _, m := range list {
		out = append(out, r.material(m))
	}
	return out
}
