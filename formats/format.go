package formats

import (
	"encoding/gob"
	"fmt"
	"io"
	"strings"

	"bead/core/rig"
)

// Format is one that scenes are baked to. One more is a file of its own and a line in All.
type Format struct {
	Ending string `json:"ending"` // of its files
	Name   string `json:"name"`   // where there is little room
	Text   string `json:"text"`   // for people
	Media  string `json:"-"`      // its registered type
	Group  string `json:"group"`  // with which others it is offered
	// What may be asked for: paths as lines, every piece an object of its own, bodies as they
	// are in every frame, pieces as rigid bodies for a solver.
	Lines  bool `json:"lines,omitempty"`
	Single bool `json:"single,omitempty"`
	Exact  bool `json:"exact,omitempty"`
	Solver bool `json:"solver,omitempty"`
	// Figures is set of a format that holds figures of joints: their root may stay in place.
	Figures bool `json:"figures,omitempty"`
	// Only is set of a format that holds nothing but figures, Bodies of one that holds bodies as joints.
	Only   bool `json:"only,omitempty"`
	Bodies bool `json:"bodies,omitempty"`
	// Keys is set where figures may have fewer keys than frames.
	Keys bool `json:"keys,omitempty"`
	// Nested is set where things hang from carriers and times may begin elsewhere.
	Nested bool `json:"nested,omitempty"`
	// Instances is set where pieces that stand still can be instances of one mesh.
	Instances bool `json:"instances,omitempty"`

	// Drawn is set of drawings on a plane, Units of tables whose columns can name their units.
	Drawn bool `json:"drawn,omitempty"`
	Units bool `json:"units,omitempty"`
	// Clips is set where what changes can be split into files of a given size.
	Clips bool `json:"clips,omitempty"`
	// Still is set of files of the first frame alone.
	Still bool `json:"still,omitempty"`

	// rows are each written by themselves: rotations keep the sign that they have alone.
	rows bool
	// holds is set of a file that is gathered in memory.
	holds bool
	// vertices is the most vertices of bodies, over all frames, of a format that writes them frame by frame:
	// always, or only when they are wanted exactly.
	vertices int
	// each is the most vertices of a frame, of a format in which every piece has its own.
	each int
	bake func(w io.Writer, s *rig.Scene, o *Options) (Baker, error)
	// join writes a file from frames that were written apart, in formats whose frames are independent.
	join func(w io.Writer, s *rig.Scene, o *Options, parts [][]byte) error
}

// Baker writes one file. Prime takes in a frame that is not written, for what goes on from frame
// to frame.
type Baker interface {
	Frame(*rig.Picture) error
	Prime(*rig.Picture)
	Close() error
}

// All are the formats, in the order in which they are offered.
var All = []Format{glb, gltfText, usdText, usdPackage, usdClips, csvTable, objArchive, bvhText, bvhArchive, jointTable, valueTable, pathDrawing, pathTable, pathLines, trackDrawing, trackLines}

// Of returns a format by its ending.
func Of(ending string) (*Format, bool) {
	for i := range All {
		if All[i].Ending == ending {
			return &All[i], true
		}
	}
	return nil, false
}

// Endings are those of all formats.
func Endings() []string {
	var out []string
	for i := range All {
		out = append(out, All[i].Ending)
	}
	return out
}

// FormatOf returns the format a file name asks for by its ending.
func FormatOf(file string) (string, error) {
	best := ""
	for _, f := range Endings() { // joints.csv is not csv
		if strings.HasSuffix(strings.ToLower(file), "."+f) && len(f) > len(best) {
			best = f
		}
	}
	if best != "" {
		return best, nil
	}
	return "", fmt.Errorf("%q has no ending that can be baked to: .%s are accepted", file, strings.Join(Endings(), ", ."))
}

// room says where a bake would take more memory than there may be.
func (f *Format) room(s *rig.Scene, o *Options) error {
	frames := o.Frames.Count()
	if f.vertices > 0 {
		if n := s.VertexSamples(o.skip(s), o.Exact || !f.Exact) * frames; n > f.vertices {
			return fmt.Errorf("surfaces have %d vertices in all frames: up to %d are accepted here, so bake up to %d frames at a time, leave rigs out, or deliver glTF with joints or an OBJ a frame",
				n, f.vertices, f.vertices*frames/n)
		}
	}
	if n := verticesOf(f, s, o); n > f.each {
		return fmt.Errorf("a frame would hold %d vertices, since each piece has its own: up to %d are accepted here, so leave rigs out, use parts with fewer vertices, or bake to glTF or USD, which hold a part once for all its pieces", n, f.each)
	}
	pieces := 0
	for i := range s.Rigs {
		pieces += s.Rigs[i].Layout.Count
	}
	if samples := pieces * frames; f.holds && samples > maxSamples {
		return fmt.Errorf("%d pieces in %d frames are %d samples: up to %d are baked at once; bake a range of frames at a time", pieces, frames, samples, maxSamples)
	}
	return nil
}

// verticesOf is how many vertices a frame has in a format in which each piece has its own, 0 in others.
func verticesOf(f *Format, s *rig.Scene, o *Options) int {
	n := 0
	if f.each > 0 {
		for _, g := range s.Groups(o.skip(s)) {
			for k := range g.Things {
				n += len(g.Things[k].Model.Mesh().Positions) / 3
			}
		}
	}
	return n
}

// gathered makes a baker of one that gathers frames and writes all in the end. What it has gathered can
// be kept as a part of a bake, and gone on with.
type gathered struct {
	frame, prime func(*rig.Picture)
	close        func() error
	save         func(*gob.Encoder) error
	load         func(*gob.Decoder) error
}

func (g gathered) Frame(p *rig.Picture) error { g.frame(p); return nil }

func (g gathered) Prime(p *rig.Picture) {
	if g.prime != nil {
		g.prime(p)
	}
}

func (g gathered) Close() error { return g.close() }

// keeps makes the saving and loading of a baker that can report what it has gathered and continue from it.
func keeps[T any](of func() *T, on func(*T) error) (save func(*gob.Encoder) error, load func(*gob.Decoder) error) {
	return func(e *gob.Encoder) error { return e.Encode(of()) },
		func(d *gob.Decoder) error {
			var x T
			if err := d.Decode(&x); err != nil {
				return fmt.Errorf("the part cannot be read: %w", err)
			}
			return on(&x)
		}
}
