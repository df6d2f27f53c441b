package gltf

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"strings"

	"bead/core/geom"
)

// A file that Bead wrote tells of its meshes which are parts, and how they lie.

// Own is what a file of Bead's own tells of the scene that it was made of.
type Own struct {
	Name        string
	FPS         float64
	First, Last int
	Plays       string
	Parts       []OwnPart
}

// OwnPart is a mesh that was a part, as an OBJ text whose materials are those of the file by their names.
type OwnPart struct {
	Name        string
	Forward, Up string
	Pivot       [3]float64
	OBJ         []byte
	Materials   []string
}

// sourcePart is how a mesh lies that was a part.
type sourcePart struct {
	Name        string
	Forward, Up string
	Pivot       [3]float64
}

const maxParts = 1000

var usesOf = regexp.MustCompile(`(?m)^usemtl .*$`)

// ErrForeign is of a file that others wrote.
var ErrForeign = errors.New("this glTF was not written by Bead: bring it into a scene as a part, as paths or as a figure")

// ReadOwn reads a file that Bead wrote.
func ReadOwn(ctx context.Context, data []byte) (*Own, error) {
	r, err := open(data)
	if err != nil {
		return nil, err
	}
	if r.src.Asset.Generator != generator || len(r.src.Scenes) != 1 {
		return nil, ErrForeign
	}
	var of struct {
		FramesPerSecond       float64
		FirstFrame, LastFrame int
		Plays                 string
	}
	if text := r.src.Scenes[0].Extras; text != nil {
		if err := json.Unmarshal(text, &of); err != nil {
			return nil, fmt.Errorf("what the scene tells of itself cannot be read: %w", err)
		}
	}
	out := &Own{Name: r.src.Scenes[0].Name, FPS: of.FramesPerSecond, First: of.FirstFrame, Last: of.LastFrame, Plays: of.Plays}
	known := map[string]bool{}
	for k := range r.src.Meshes {
		m := &r.src.Meshes[k]
		// The same part in another tint, or as single pieces, is the same part.
		if p := m.Extras.Part; p != nil && len(m.Primitives) > 0 && len(out.Parts) < maxParts {
			part := OwnPart{Name: cmp.Or(p.Name, m.Name), Forward: p.Forward, Up: p.Up, Pivot: p.Pivot}
			if err := r.partText(ctx, k, &part); err != nil {
				return nil, fmt.Errorf("mesh %d: %w", k, err)
			}
			if key := usesOf.ReplaceAllString(string(part.OBJ), ""); !known[key] {
				known[key] = true
				out.Parts = append(out.Parts, part)
			}
		}
	}
	return out, nil
}

// partText writes a mesh as OBJ.
func (r *reader) partText(ctx context.Context, k int, out *OwnPart) error {
	var text strings.Builder
	points := 0
	m := &r.src.Meshes[k]
	shared := -1 // the positions that the last primitive has, which others share
	for i := range m.Primitives {
		p := &m.Primitives[i]
		var uvs []float64
		if at, has := p.Attributes["TEXCOORD_0"]; has {
			var err error
			if uvs, err = r.pairs(at); err != nil {
				return err
			}
		}
		name := "no material"
		if p.Material != nil && *p.Material >= 0 && *p.Material < len(r.src.Materials) {
			name = r.src.materialName(*p.Material)
		}
		out.Materials = append(out.Materials, name)
		first := points
		err := r.primitive(p, m.Name, nil, (&sourceNode{}).place(), func(_ string, mode int, pos []geom.Vec, index []int32, _ []morph) error {
			if err := ctx.Err(); mode != modeTriangles || err != nil {
				return errors.Join(err, errNotTriangles(mode))
			}
			if at := p.Attributes["POSITION"]; at == shared && len(m.Primitives) > 1 {
				first = points - len(pos)
			} else {
				shared = at
				points += len(pos)
				for _, v := range pos {
					fmt.Fprintf(&text, "v %.9g %.9g %.9g\n", v.X, v.Y, v.Z)
				}
				for v := 0; v+1 < len(uvs); v += 2 {
					fmt.Fprintf(&text, "vt %.9g %.9g\n", uvs[v], 1-uvs[v+1])
				}
			}
			fmt.Fprintf(&text, "usemtl %s\n", name)
			for t := 0; t+2 < len(index); t += 3 {
				text.WriteString("f")
				for _, v := range index[t : t+3] {
					if n := first + int(v) + 1; len(uvs) > 0 {
						fmt.Fprintf(&text, " %d/%d", n, n)
					} else {
						fmt.Fprintf(&text, " %d", n)
					}
				}
				text.WriteString("\n")
			}
			return nil
		})
		if err != nil {
			return err
		}
	}
	out.OBJ = []byte(text.String())
	return nil
}

func errNotTriangles(mode int) error {
	if mode == modeTriangles {
		return nil
	}
	return errors.New("a part that is no triangles")
}
