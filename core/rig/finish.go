package rig

import (
	"bead/core/geom"
	"bead/core/look"
	"bead/core/part"
)

// Finish is the look of a surface. Equal finishes become one material in a delivery.
type Finish struct {
	Material *look.Material
	Colour   string // of a tint, in the place of the material's; ""
	// Across and Along scale texture coordinates in metres to shares of an image; 1 without images.
	Across, Along float64
}

// Finish is how group k of a thing's mesh looks.
func (t *Thing) Finish(k int) Finish {
	m := t.Model.Materials[min(k, len(t.Model.Materials)-1)]
	// A mesh of fewer materials than groups wears its last one on the rest.
	f := Finish{Material: m, Colour: t.Colour, Across: 1, Along: 1}
	if m.Images != nil && !t.Model.Mesh().Tiles {
		// An image without a size covers its own width and length; texture coordinates in metres are divided by that.
		w, l := m.Images.Size()
		f.Across, f.Along = 1/w, 1/l
		if t.Model.Stretch > 0 {
			f.Along *= t.Model.Stretch
		}
	}
	return f
}

// Name is that of its material.
func (f Finish) Name() string {
	if f.Colour == "" {
		return f.Material.Name
	}
	return f.Material.Name + " " + f.Colour[1:]
}

// Shown is its colour, #RRGGBB.
func (f Finish) Shown() string {
	if f.Colour != "" {
		return f.Colour
	}
	return f.Material.Colour
}

// Light is its colour as light, with its opacity.
func (f Finish) Light() (out [4]float64) {
	rgb := look.Linear(f.Shown())
	return [4]float64{rgb[0], rgb[1], rgb[2], f.Material.Clear()}
}

// Lower is, for each vertex of a mesh, the share from 0 to 1 of the material's colour for lower sides; nil
// where it has none. up is in the mesh's axes.
func (f Finish) Lower(m *geom.Mesh, up geom.Vec) []float64 {
	if f.Material.Under == "" {
		return nil
	}
	return part.Lowness(m, up)
}

// Shades are the linear colours of a mesh's vertices for a material with a colour for lower sides; nil of
// others. up is in the mesh's axes.
func (f Finish) Shades(m *geom.Mesh, up geom.Vec) []float32 {
	low := f.Lower(m, up)
	if low == nil {
		return nil
	}
	top, under := f.Light(), look.Linear(f.Material.Under)
	out := make([]float32, 0, 3*len(low))
	for _, u := range low {
		for k := range under {
			out = append(out, float32(top[k]+(under[k]-top[k])*u))
		}
	}
	return out
}

// Runs are the groups of a mesh, one of a mesh without.
func Runs(m *geom.Mesh) []geom.Group {
	if len(m.Groups) > 0 {
		return m.Groups
	}
	return []geom.Group{{Count: len(m.Indices)}}
}

// Tiled are texture coordinates scaled to the size of an image; down is set for formats whose images begin at
// their upper edge.
func (f Finish) Tiled(uvs []float32, down bool) []float32 {
	if f.Material.Images == nil {
		return uvs
	}
	out := make([]float32, len(uvs))
	for i := 0; i+1 < len(uvs); i += 2 {
		out[i], out[i+1] = float32(float64(uvs[i])*f.Across), float32(float64(uvs[i+1])*f.Along)
		// glTF and most images begin at the upper left, texture coordinates of the scene at the lower left.
		if down {
			out[i+1] = 1 - out[i+1]
		}
	}
	return out
}

// ImagesUsed are the assets of the images that things are covered with, each once, with the material
// that names it.
func ImagesUsed(groups []Group) (assets []string, of map[string]*look.Material) {
	of = map[string]*look.Material{}
	for i := range groups {
		for k := range groups[i].Things {
			for _, m := range groups[i].Things[k].Model.Materials {
				// A document names an image by its asset, and several materials may share one.
				m.Images.Each(func(_, asset string) {
					if of[asset] == nil {
						of[asset] = m
						assets = append(assets, asset)
					}
				})
			}
		}
	}
	return assets, of
}

// Up is the up axis of the model's part, in the model's axes.
func (m *Model) Up() geom.Vec {
	if m.up == (geom.Vec{}) {
		return geom.V(0, 1, 0)
	}
	return m.up
}
