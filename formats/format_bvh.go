package formats

import (
	"archive/zip"
	"bufio"
	"errors"
	"fmt"
	"io"
	"strings"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/rig"
	"bead/formats/bones"
	"bead/formats/bvh"
)

var (
	bvhText = Format{Ending: "bvh", Group: "Figures", Name: "bvh", Text: "One figure as BVH: its own joints, turned in every frame; or a body that bends, as joints along it. Lengths in metres.",
		Media: "text/plain; charset=utf-8", Figures: true, Only: true, Bodies: true, holds: true,
		bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
			f := gatherFigures(s, o)
			if n := len(f.tracks); n != 1 {
				return nil, fmt.Errorf("a BVH holds one figure, and %d are delivered: choose a rig with one, or bvh.zip, which has a BVH for each", n)
			}
			save, load := keeps(f.gathered, f.append)
			return gathered{f.frame, nil, func() error { return bvh.Write(w, f.figure(0)) }, save, load}, nil
		}}
	bvhArchive = Format{Ending: "bvh.zip", Group: "Figures", Name: "bvhs", Text: "A BVH for each figure and body that bends, in an archive.",
		Media: "application/zip", Figures: true, Only: true, Bodies: true, holds: true,
		bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
			f := gatherFigures(s, o)
			if len(f.tracks) == 0 {
				return nil, errNoFigures
			}
			save, load := keeps(f.gathered, f.append)
			return gathered{frame: f.frame, save: save, load: load, close: func() error {
				z := zip.NewWriter(w)
				for k, name := range f.names {
					file, err := z.Create(fileName(name, k) + ".bvh")
					if err != nil {
						return err
					}
					if err := bvh.Write(file, f.figure(k)); err != nil {
						return err
					}
				}
				return z.Close()
			}}, nil
		}}
	jointTable = Format{Ending: "joints.csv", Group: "Figures", Name: "joints", Text: "A table with a row for each frame and joint of figures: place and rotation in the world.",
		Media: "text/csv; charset=utf-8", Figures: true, Only: true, rows: true, join: joinTables,
		bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) { return newJointRows(w, s, o) }}
)

var errNoFigures = errors.New("the scene has no figures to deliver: a rig of the kind cycle is wanted, or in BVH a body that bends")

// fileName is a name that files may have.
func fileName(name string, k int) string {
	clean := strings.Map(func(r rune) rune {
		if r == '/' || r == '\\' || r < ' ' {
			return '-'
		}
		return r
	}, name)
	return fmt.Sprintf("%03d %s", k+1, clean)
}

// figures gathers the motion of the figures that are delivered, and of bodies as joints along them.
type figures struct {
	groups []rig.Group
	places [][]float64 // of each group of bodies, where its joints are along it
	tracks []*figure.Track
	names  []string
	fps    float64
	taken  int
	place  bool
}

func gatherFigures(s *rig.Scene, o *Options) *figures {
	f := &figures{fps: s.Clock.FPS / float64(max(o.Step, 1)), place: o.InPlace}
	for _, g := range s.Groups(o.skip(s)) {
		var of *figure.Figure
		var places []float64
		scale := 1.0
		switch {
		case g.Jointed:
			of, scale = g.Figure()
		case g.Surfaces && g.Skeletal:
			places = bones.Of(s, &g, o.stopped)[0].Places
			of = spineOf(places)
		default:
			continue
		}
		f.groups, f.places = append(f.groups, g), append(f.places, places)
		for k := range g.Things {
			f.tracks = append(f.tracks, figure.NewTrack(of, scale))
			name := g.Things[k].Name
			if len(g.Things) == 1 {
				name = g.Name
			}
			f.names = append(f.names, name)
		}
	}
	return f
}

// spineOf are joints one behind the other, along a body from its tail.
func spineOf(places []float64) *figure.Figure {
	f := &figure.Figure{}
	for k, z := range places {
		j := figure.Joint{Name: fmt.Sprintf("joint_%03d", k+1), Parent: k - 1, Rest: geom.Still}
		if k > 0 {
			z -= places[k-1]
		}
		j.Rest.P.Z = z
		f.Joints = append(f.Joints, j)
	}
	return f
}

func (f *figures) frame(p *rig.Picture) {
	at := 0
	for i := range f.groups {
		g := &f.groups[i]
		for k := range g.Things {
			joints := f.spine(p, i, k)
			if g.Jointed {
				joints = g.Joints(p, k)
			}
			f.tracks[at].Add(float64(f.taken)/f.fps, joints)
			at++
		}
	}
	f.taken++
}

// spine is where the joints of a body are; nil of a figure.
func (f *figures) spine(p *rig.Picture, group, thing int) (out []geom.Rigid) {
	if f.places[group] == nil {
		return nil
	}
	for _, s := range f.groups[group].Skeleton(thing).Sections(p, f.places[group]) {
		out = append(out, geom.Rigid{P: s.P, X: s.S, Y: s.U, Z: s.T})
	}
	return out
}

// gathered is what has been taken in so far.
func (f *figures) gathered() *[]figure.Motion {
	var out []figure.Motion
	for _, t := range f.tracks {
		out = append(out, t.Motion())
	}
	return &out
}

// append goes on with what others have gathered of the frames that follow.
func (f *figures) append(more *[]figure.Motion) error {
	if len(*more) != len(f.tracks) {
		return errors.New("the part is of other figures")
	}
	for k, m := range *more {
		if err := f.tracks[k].Append(m, func(key int) float64 { return float64(key) / f.fps }); err != nil {
			return err
		}
	}
	return nil
}

func (f *figures) figure(k int) *figure.Figure {
	out := f.tracks[k].Figure()
	if f.place {
		out.InPlace()
	}
	return out
}

// jointRows writes a row a frame and joint.
type jointRows struct {
	out    *bufio.Writer
	groups []rig.Group
}

func newJointRows(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
	out := &jointRows{out: bufio.NewWriter(w)}
	for _, g := range s.Groups(o.skip(s)) {
		if g.Jointed {
			out.groups = append(out.groups, g)
		}
	}
	if len(out.groups) == 0 {
		return nil, errNoFigures
	}
	_, err := fmt.Fprintln(out.out, "frame,rig,piece,joint,x,y,z,qx,qy,qz,qw")
	return out, err
}

func (j *jointRows) Frame(p *rig.Picture) error {
	for i := range j.groups {
		g := &j.groups[i]
		f, _ := g.Figure()
		for k := range g.Things {
			for n, m := range g.Joints(p, k) {
				q, at := m.Quat(), tidy(m.P)
				if _, err := fmt.Fprintf(j.out, "%g,%s,%d,%s,%.9g,%.9g,%.9g,%.9g,%.9g,%.9g,%.9g\n",
					p.Frame, quoted(g.ID), k+1, quoted(f.Joints[n].Name), at.X, at.Y, at.Z, q.X, q.Y, q.Z, q.W); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// tidy sets components that are nothing but rounding to 0.
func tidy(v geom.Vec) geom.Vec {
	for _, x := range []*float64{&v.X, &v.Y, &v.Z} {
		if *x < 1e-12 && *x > -1e-12 {
			*x = 0
		}
	}
	return v
}

// quoted is a field of a table (RFC 4180).
func quoted(s string) string {
	if strings.ContainsAny(s, "\",\n\r") {
		return `"` + strings.ReplaceAll(s, `"`, `""`) + `"`
	}
	return s
}

func (j *jointRows) Prime(*rig.Picture) {}
func (j *jointRows) Close() error       { return j.out.Flush() }
