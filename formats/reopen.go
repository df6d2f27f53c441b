package formats

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"math"
	"strings"

	"bead/core/look"
	"bead/core/scene"
	"bead/formats/gltf"
)

// IsGLB reports whether bytes are a binary glTF.
func IsGLB(data []byte) bool { return bytes.HasPrefix(data, []byte("glTF")) }

// Reopen makes a document of a GLB that Bead wrote: its parts, materials and paths, with its rate and range.
// What rigs did with them does not lie in such a file.
func Reopen(ctx context.Context, data []byte) (*scene.Document, error) {
	own, err := gltf.ReadOwn(ctx, data)
	if err != nil {
		return nil, err
	}
	d := &scene.Document{Bead: scene.Version, Name: cmp.Or(own.Name, "Opened"), FPS: cmp.Or(own.FPS, 24), Plays: own.Plays,
		Range: scene.Range{First: own.First, Last: max(own.Last, own.First+1)}, Paths: []scene.Path{}, Parts: []scene.Part{}, Rigs: []scene.Rig{}}
	materials, err := ReadMaterials("a.glb", data)
	if err != nil {
		return nil, err
	}
	ids := map[string]string{} // of materials, by their names in the file
	for _, m := range materials {
		of := m.Material
		of.ID, of.Under = unique(d, of.Name), ""
		of.Roughness = math.Round(of.Roughness*1e6) / 1e6
		for field, bytes := range m.Files {
			if of.Images == nil {
				of.Images = &look.Images{}
			}
			image, err := ReadImage(of.Name+" "+field, bytes)
			if err != nil {
				return nil, fmt.Errorf("material %s: %w", of.Name, err)
			}
			of.Images.Put(field, keep(d, of.Name+" "+field+endings[image.Media], bytes))
		}
		ids[m.Name] = of.ID
		d.Materials = append(d.Materials, of)
	}
	for _, p := range own.Parts {
		of := scene.Part{ID: unique(d, p.Name), Name: p.Name, Pivot: p.Pivot,
			Shape: scene.PartShape{File: &scene.FileShape{Asset: keep(d, p.Name+".obj", p.OBJ)}}}
		of.Face(p.Forward, p.Up)
		of.Material = ids[p.Materials[0]]
		for _, name := range p.Materials[1:] {
			if ids[name] != "" && name != p.Materials[0] {
				of.Surfaces = append(of.Surfaces, scene.Surface{Name: name, Material: ids[name]})
			}
		}
		d.Parts = append(d.Parts, of)
	}
	// A file without lines has no paths, which is no fault here.
	if lines, err := gltf.ReadLines(ctx, data); err == nil {
		for _, n := range lines {
			shape := &scene.PolylineShape{Closed: n.Closed}
			for i := range n.Spans {
				if i == 0 {
					shape.Points = append(shape.Points, n.Spans[i].Start().Array())
				}
				if end := n.Spans[i].End(); i < len(n.Spans)-1 || !n.Closed {
					shape.Points = append(shape.Points, end.Array())
				}
			}
			d.Paths = append(d.Paths, scene.Path{ID: unique(d, n.Name), Name: n.Name, Shape: scene.PathShape{Polyline: shape}})
		}
	} else if ctx.Err() != nil {
		return nil, err
	}
	used := map[string]bool{}
	for i := range d.Parts {
		used[d.Parts[i].Material] = true
		for _, x := range d.Parts[i].Surfaces {
			used[x.Material] = true
		}
	}
	kept := d.Materials[:0]
	for _, m := range d.Materials { // without the colour of path lines
		if used[m.ID] || m.Name != "path" {
			kept = append(kept, m)
		}
	}
	d.Materials = kept
	d.FillDefaults()
	if faults := d.Check(); len(faults) > 0 {
		return nil, faults
	}
	return d, nil
}

// endings are those of images by their media types.
var endings = map[string]string{"image/png": ".png", "image/jpeg": ".jpg"}

// keep puts a file among the assets of a document, once.
func keep(d *scene.Document, name string, data []byte) string {
	id := scene.AssetID(data)
	for _, a := range d.Assets {
		if a.ID == id {
			return id
		}
	}
	d.Assets = append(d.Assets, scene.Asset{ID: id, Name: name, Data: data})
	return id
}

// unique is an id made of a name, that nothing of the document has.
func unique(d *scene.Document, name string) string {
	base := strings.Trim(strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' {
			return r
		}
		return '-'
	}, strings.ToLower(name)), "-")
	base = cmp.Or(base[:min(len(base), 40)], "thing")
	taken := func(id string) bool {
		for i := range d.Materials {
			if d.Materials[i].ID == id {
				return true
			}
		}
		for i := range d.Parts {
			if d.Parts[i].ID == id {
				return true
			}
		}
		for i := range d.Paths {
			if d.Paths[i].ID == id {
				return true
			}
		}
		return false
	}
	id := base
	for n := 2; taken(id); n++ {
		id = fmt.Sprintf("%s-%d", base, n)
	}
	return id
}
