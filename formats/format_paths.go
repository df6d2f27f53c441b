package formats

import (
	"bufio"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/rig"
	"bead/formats/svg"
)

// What Bead reads paths from it also writes: the paths of a scene as they are in the first frame that is
// baked, and the tracks that pieces draw over all of them.

var (
	pathDrawing = Format{Ending: "paths.svg", Group: "Lines", Name: "paths.svg", Text: "The paths as they are in the first frame, drawn on a plane in millimetres: straights, arcs and curves as what they are.",
		Media: "image/svg+xml", Drawn: true, rows: true, Still: true, bake: drawn}
	pathTable = Format{Ending: "paths.csv", Group: "Lines", Name: "paths.csv", Text: "The points of the paths in the first frame, with their distances.",
		Media: "text/csv; charset=utf-8", rows: true, Still: true, Units: true, bake: tabled}
	pathLines = Format{Ending: "paths.obj", Group: "Lines", Name: "paths.obj", Text: "The paths in the first frame as OBJ lines.",
		Media: "model/obj", rows: true, Still: true, bake: lined}
	trackDrawing = Format{Ending: "tracks.svg", Group: "Lines", Name: "tracks.svg", Text: "The way of every piece over the frames, drawn on a plane in millimetres.",
		Media: "image/svg+xml", Drawn: true, rows: true, holds: true, bake: drawn}
	trackLines = Format{Ending: "tracks.obj", Group: "Lines", Name: "tracks.obj", Text: "The way of every piece over the frames as OBJ lines.",
		Media: "model/obj", rows: true, holds: true, bake: lined}
	valueTable = Format{Ending: "values.csv", Group: "Tables", Name: "values", Text: "A table of the values that move, a row for each frame.",
		Media: "text/csv; charset=utf-8", rows: true, Units: true, join: joinTables, bake: valued}
)

// Planes are the choices of the plane of a drawing: what goes to the right and what goes up.
var Planes = []string{path.PlaneSide, path.PlaneAhead, path.PlaneAbove}

// onto brings places in the world to a drawing on a plane, y down.
func onto(plane string) func(geom.Vec) geom.Vec {
	switch plane {
	case path.PlaneAhead:
		return func(p geom.Vec) geom.Vec { return geom.V(p.X, -p.Y, 0) }
	case path.PlaneAbove:
		return func(p geom.Vec) geom.Vec { return geom.V(p.X, -p.Z, 0) }
	}
	return func(p geom.Vec) geom.Vec { return geom.V(p.Z, -p.Y, 0) }
}

// ways gathers paths, or the tracks of pieces, in the world.
type ways struct {
	s      *rig.Scene
	o      *Options
	still  bool // paths, of one frame
	chosen []bool
	groups []rig.Group
	tracks [][][]geom.Vec // of each group, of each thing
	paths  []path.Named
	places []int // of paths, in the scene
}

func newWays(s *rig.Scene, o *Options) *ways {
	w := &ways{s: s, o: o, still: strings.HasPrefix(o.Format, "paths.")}
	skip := o.skip(s)
	if w.still {
		w.chosen = make([]bool, len(s.Paths))
		for i := range s.Rigs {
			if !skip[i] {
				w.chosen[s.Rigs[i].Path] = true
			}
		}
		if len(o.Rigs) == 0 { // those that nothing goes along, too
			for i := range w.chosen {
				w.chosen[i] = true
			}
		}
		return w
	}
	for _, g := range s.Groups(skip) {
		if g.ID != "" && !g.Surfaces {
			w.groups = append(w.groups, g)
			w.tracks = append(w.tracks, make([][]geom.Vec, len(g.Things)))
		}
	}
	return w
}

func (w *ways) frame(p *rig.Picture) {
	for i := range w.groups {
		for k := range w.groups[i].Things {
			x := w.groups[i].Place(p, k)
			w.tracks[i][k] = append(w.tracks[i][k], geom.V(float64(x[0]), float64(x[1]), float64(x[2])))
		}
	}
	if !w.still || w.paths != nil {
		return
	}
	for i, c := range w.s.Paths {
		if !w.chosen[i] {
			continue
		}
		if p.Curves[i] != nil {
			c = p.Curves[i]
		}
		m := p.Paths[i].Rigid()
		n := path.Named{Name: w.s.Doc.Paths[i].Name, Closed: c.Closed()}
		for _, span := range c.Spans() {
			n.Spans = append(n.Spans, span.Moved(m.Apply))
		}
		w.paths, w.places = append(w.paths, n), append(w.places, i)
	}
}

// baker is one that writes what was gathered in the end.
func (w *ways) baker(close func() error) Baker {
	save, load := keeps(func() *[][][]geom.Vec { return &w.tracks }, w.append)
	return gathered{frame: w.frame, close: close, save: save, load: load}
}

// append goes on with what another has gathered of the frames that follow.
func (w *ways) append(more *[][][]geom.Vec) error {
	if len(*more) != len(w.tracks) {
		return errors.New("the part is of other rigs")
	}
	for i, things := range *more {
		if len(things) != len(w.tracks[i]) {
			return errors.New("the part is of other pieces")
		}
		for k, points := range things {
			w.tracks[i][k] = append(w.tracks[i][k], points...)
		}
	}
	return nil
}

// all are what was gathered, as spans.
func (w *ways) all() []path.Named {
	out := w.paths
	for i := range w.tracks {
		for k, points := range w.tracks[i] {
			if n := (path.Named{Name: w.groups[i].Things[k].Name}); len(points) > 0 {
				n.Spans = path.Polyline(points, false)
				out = append(out, n)
			}
		}
	}
	return out
}

// points are those of something that was gathered, within its chord error, with their distances.
func (w *ways) points(k int, n *path.Named) (points []geom.Vec, distances []float64) {
	if !w.still {
		for i := range n.Spans {
			if i == 0 {
				points = append(points, n.Spans[i].Start())
			}
			points = append(points, n.Spans[i].End())
		}
		return points, nil
	}
	c, err := path.New(n.Spans, n.Closed)
	if err != nil {
		return nil, nil
	}
	for _, s := range c.Stations(nil, w.s.Doc.Paths[w.places[k]].Chord(c.Length()), 0.1) {
		if p, _ := c.At(min(s, c.Length())); !n.Closed || s < c.Length() {
			points, distances = append(points, p), append(distances, s)
		}
	}
	return points, distances
}

func drawn(out io.Writer, s *rig.Scene, o *Options) (Baker, error) {
	w := newWays(s, o)
	return w.baker(func() error {
		var lines []svg.Line
		to := onto(o.Plane)
		for _, n := range w.all() {
			l := svg.Line{Name: n.Name, Closed: n.Closed}
			for i := range n.Spans {
				l.Spans = append(l.Spans, n.Spans[i].Moved(to))
			}
			lines = append(lines, l)
		}
		return svg.Write(out, s.Doc.Name, lines)
	}), nil
}

func lined(out io.Writer, s *rig.Scene, o *Options) (Baker, error) {
	w := newWays(s, o)
	return w.baker(func() error {
		b := bufio.NewWriter(out)
		fmt.Fprintf(b, "# %s. Metres, y up.\n", fileName(s.Doc.Name, 0)[4:])
		count := 0
		for k, n := range w.all() {
			points, _ := w.points(k, &n)
			fmt.Fprintf(b, "o %s\n", fileName(n.Name, 0)[4:])
			for _, p := range points {
				fmt.Fprintf(b, "v %.9g %.9g %.9g\n", p.X, p.Y, p.Z)
			}
			b.WriteString("l")
			for i := range points {
				fmt.Fprintf(b, " %d", count+i+1)
			}
			if n.Closed && len(points) > 0 {
				fmt.Fprintf(b, " %d", count+1)
			}
			b.WriteString("\n")
			count += len(points)
		}
		return b.Flush()
	}), nil
}

func tabled(out io.Writer, s *rig.Scene, o *Options) (Baker, error) {
	w := newWays(s, o)
	return w.baker(func() error {
		t := csv.NewWriter(out)
		if err := t.Write(o.headed("path", "distance", "x", "y", "z")); err != nil {
			return err
		}
		for k, n := range w.all() {
			points, distances := w.points(k, &n)
			for i, p := range points {
				if err := t.Write([]string{n.Name, number(distances[i]), number(p.X), number(p.Y), number(p.Z)}); err != nil {
					return err
				}
			}
			if n.Closed && len(points) > 0 { // by its first point again, so that it is read as closed
				p := points[0]
				if err := t.Write([]string{n.Name, number(w.s.Paths[w.places[k]].Length()), number(p.X), number(p.Y), number(p.Z)}); err != nil {
					return err
				}
			}
		}
		t.Flush()
		return t.Error()
	}), nil
}

func number(x float64) string { return strconv.FormatFloat(x, 'g', 12, 64) }

// headed are the names of columns, with their units where these are asked for.
func (o *Options) headed(names ...string) []string {
	if !o.Units {
		return names
	}
	out := append([]string(nil), names...)
	for i, n := range out {
		switch n {
		case "distance", "x", "y", "z":
			out[i] += " (m)"
		}
	}
	return out
}

// valueRows writes a row a frame.
type valueRows struct{ out *csv.Writer }

func valued(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
	v := &valueRows{csv.NewWriter(w)}
	head := []string{"frame"}
	for _, slot := range s.Moving() {
		name := slot.Ref
		if o.Units {
			name += " (" + string(slot.Unit) + ")"
		}
		head = append(head, name)
	}
	if len(head) == 1 {
		return nil, fmt.Errorf("no value of the scene moves: one with keys, a speed or a drive is wanted")
	}
	return v, v.out.Write(head)
}

func (v *valueRows) Frame(p *rig.Picture) error {
	row := []string{number(p.Frame)}
	for _, x := range p.Values {
		row = append(row, number(x))
	}
	return v.out.Write(row)
}

func (v *valueRows) Prime(*rig.Picture) {}
func (v *valueRows) Close() error       { v.out.Flush(); return v.out.Error() }
