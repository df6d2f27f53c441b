package gltf

import (
	"encoding/binary"
	"slices"

	"bead/core/geom"
	"bead/core/rig"
)

// transform is the extension by which a texture's size on the thing is said beside it (Khronos).
const transform = "KHR_texture_transform"

// uses notes an extension that the file may be read without.
func (b *Baker) uses(extension string) {
	if !slices.Contains(b.doc.Used, extension) {
		b.doc.Used = append(b.doc.Used, extension)
	}
}

// load takes the images in that the groups are covered with.
func (b *Baker) load() {
	assets, _ := rig.ImagesUsed(b.groups)
	for _, id := range assets {
		name, media, data := b.Image(id)
		v := b.view(len(data), 0)
		b.bin = append(b.bin, data...)
		for len(b.bin)%4 != 0 {
			b.bin = append(b.bin, 0)
		}
		b.images[id] = len(b.doc.Textures)
		b.doc.Images = append(b.doc.Images, image{Name: name, Media: media, View: v})
		b.doc.Textures = append(b.doc.Textures, texture{Source: len(b.doc.Images) - 1})
	}
	if len(assets) > 0 {
		const repeat, linear, mipmaps = 10497, 9729, 9987 // glTF 2.0, 5.26
		b.doc.Samplers = []textureSampler{{linear, mipmaps, repeat, repeat}}
	}
}

// finish is the index of the material for a surface's look. shaded is set when its vertices have colours.
func (b *Baker) finish(f rig.Finish, shaded bool) int {
	if !b.ImageSizes {
		f.Across, f.Along = 1, 1 // that is in the texture coordinates
	}
	if n, known := b.finishes[f]; known {
		return n
	}
	m := material{Name: f.Name(), PBR: pbr{BaseColor: f.Light(), Metallic: f.Material.Metalness, Roughness: f.Material.Roughness}}
	if shaded {
		for k := range 3 {
			m.PBR.BaseColor[k] = 1
		}
	}
	if f.Material.Clear() < 1 {
		m.Alpha = "BLEND"
	}
	f.Material.Images.Each(func(field, asset string) {
		t := &textureInfo{Index: b.images[asset]}
		if b.ImageSizes { // of places in metres, from the lower left
			t.Extensions = map[string]any{transform: map[string]any{"scale": [2]float64{f.Across, -f.Along}, "offset": [2]float64{0, 1}}}
			b.uses(transform)
		}
		switch field {
		case "colour":
			m.PBR.BaseTexture = t
		case "normal":
			m.Normal = t
		default:
			m.PBR.RoughTexture = t
			// The image is multiplied by these factors.
			if m.PBR.Metallic == 0 {
				m.PBR.Metallic = 1
			}
		}
	})
	b.doc.Materials = append(b.doc.Materials, m)
	b.finishes[f] = len(b.doc.Materials) - 1
	return b.finishes[f]
}

// addMesh adds the mesh of a thing, or another with the same triangles, and returns its number.
func (b *Baker) addMesh(name string, t *rig.Thing, m *geom.Mesh) int {
	attributes := map[string]int{
		"POSITION": b.addFloats(m.Positions, "VEC3", targetVertex, true),
		"NORMAL":   b.addFloats(m.Normals, "VEC3", targetVertex, false),
	}
	v := b.view(4*len(m.Indices), targetIndex)
	for _, i := range m.Indices {
		b.bin = binary.LittleEndian.AppendUint32(b.bin, i)
	}
	tiled := map[[2]float64]int{}
	out := mesh{Name: name}
	if of := t.Model.Of; of != nil { // so that it can be opened as a part again
		out.Extras = map[string]any{"part": map[string]any{"name": of.Name, "forward": of.Forward, "up": of.Up, "pivot": of.Pivot}}
	}
	for k, run := range rig.Runs(m) {
		f := t.Finish(k)
		own := map[string]int{}
		for key, at := range attributes {
			own[key] = at
		}
		shades := f.Shades(m, t.Model.Up())
		if shades != nil {
			own["COLOR_0"] = b.addFloats(shades, "VEC3", targetVertex, false)
		}
		if len(m.UVs) > 0 {
			size := [2]float64{f.Across, f.Along}
			if b.ImageSizes {
				size = [2]float64{}
			}
			at, known := tiled[size]
			if !known {
				places := m.UVs
				if !b.ImageSizes {
					places = f.Tiled(m.UVs, true)
				}
				at = b.addFloats(places, "VEC2", targetVertex, false)
				tiled[size] = at
			}
			own["TEXCOORD_0"] = at
		}
		index := b.accessor(accessor{BufferView: v, ByteOffset: 4 * run.First, ComponentType: typeUint32, Count: run.Count, Type: "SCALAR"})
		out.Primitives = append(out.Primitives, primitive{Attributes: own, Indices: &index, Material: b.finish(f, shades != nil)})
	}
	b.doc.Meshes = append(b.doc.Meshes, out)
	return len(b.doc.Meshes) - 1
}

// each runs over the primitives of a mesh.
func (b *Baker) each(mesh int, do func(p *primitive)) {
	for k := range b.doc.Meshes[mesh].Primitives {
		do(&b.doc.Meshes[mesh].Primitives[k])
	}
}
