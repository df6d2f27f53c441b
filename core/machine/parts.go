package machine

import (
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/look"
	"bead/core/part"
	"bead/core/scene"
)

func (c *Builder) part(i int) {
	p := &c.Doc.Parts[i]
	made, err := c.makePart(p)
	if err != nil {
		field := ""
		var size *part.SizeError
		if errors.As(err, &size) {
			field = "." + size.Field
		}
		c.Say(err, "parts[%d].shape.%s%s", i, p.Shape.Kind(), field)
		c.faultyPart[i] = true
	}
	if err == nil && c.Over(&c.spent.vertices, len(made.Mesh.Positions)/3, maxAllVertices, "vertices of parts", "fewer segments or parts are accepted", "parts[%d]", i) {
		c.faultyPart[i] = true
	}
	c.Parts[i] = made
}

func (c *Builder) makePart(p *scene.Part) (Part, error) {
	var out Part
	var err error
	if f := p.Shape.File; f != nil {
		if c.Meshes == nil {
			return Part{}, errNoAsset
		}
		solid, err := c.Meshes(f.Asset)
		if err != nil {
			return Part{}, err
		}
		// The asset's mesh is shared by all parts that name it; its scale is the part's.
		if out.solid, err = solid.Scaled(f.Scale); err != nil {
			return Part{}, err
		}
		out.Mesh = out.solid.Drawn()
	} else if f := p.Shape.Figure; f != nil {
		if c.Figures == nil {
			return Part{}, errNoAsset
		}
		if out.Figure, err = c.Figures(f.Asset); err != nil {
			return Part{}, err
		}
		out.Mesh = out.Figure.RestMesh(f.Scale)
		out.Made = MaterialOf(p.Name, out.Figure)
	} else if out.Mesh, err = p.Shape.Mesh(); err != nil {
		return Part{}, err
	}
	if out.Axes, err = part.NewAxes(p.Forward, p.Up, geom.FromArray(p.Pivot)); err != nil {
		return Part{}, err
	}
	if n := len(out.Mesh.Positions)/3 + part.Cuts(out.Mesh, out.Axes.Forward, p.Segments); n > maxVertices {
		return Part{}, fmt.Errorf("cut into %d segments the part has about %d vertices: up to %d are accepted", p.Segments, n, maxVertices)
	}
	// A mesh of a file lies on its images as its file has it, until their size is said.
	images, sized := c.images(p)
	// A figure's vertices are those of its skin, as they are.
	covered := images && (!out.Mesh.Tiles || sized) && out.Figure == nil
	if covered {
		out.Mesh = part.Cover(out.Mesh)
	}
	// Cut last: bends need cuts across the whole part, whatever covers it.
	out.Mesh = part.Slice(out.Mesh, out.Axes.Forward, p.Segments)
	shape, err := json.Marshal(struct {
		Shape    scene.PartShape
		Segments int
		Forward  part.Axis
		Covered  bool `json:",omitempty"`
	}{p.Shape, p.Segments, p.Forward, covered})
	if err != nil {
		return Part{}, err
	}
	out.Hash, out.Bounds = sha256.Sum256(shape), out.Mesh.Bounds()
	out.Length = out.Axes.Extent(out.Bounds)
	if p.Shape.Shoe != nil && out.Axes.Forward.Z != 0 {
		out.Length = p.Shape.Shoe.Length // pin to pin; the barrels reach past the pins
	}
	if c := p.Shape.Coil; c != nil && out.Axes.Forward.Z != 0 {
		out.Length = c.Length() // between the middles of its wire's ends
	}
	if p.Shape.Link != nil && out.Axes.Forward.Z != 0 {
		out.Length = p.Shape.Link.Pitch
	}
	return out, nil
}

// images tells of a part that is covered with an image somewhere, and whether the size of one is said.
func (c *Builder) images(p *scene.Part) (has, sized bool) {
	look := func(id string) {
		if m := c.Doc.Material(id); m != nil && m.Images != nil {
			has, sized = true, sized || m.Images.Width > 0 || m.Images.Length > 0
		}
	}
	look(p.Material)
	for _, s := range p.Surfaces {
		look(s.Material)
	}
	return has, sized
}

// MaterialOf is what a figure is made of by its file.
func MaterialOf(name string, f *figure.Figure) *look.Material {
	k := f.Skin.Colour
	return &look.Material{Name: name, Roughness: 0.85, Opacity: min(max(float64(k[3]), 0.01), 1),
		Colour: look.ColourOf([3]float64{float64(k[0]), float64(k[1]), float64(k[2])})}
}

var errNoAsset = errors.New("the mesh's file is not here: bring it in again, or use a document that holds its assets")
