package gltf

import (
	"encoding/base64"
	"fmt"
	"strings"

	"bead/core/look"
	"bead/core/surface"
)

// sourceMaterial is what Bead reads of a material (glTF 2.0, 5.19).
type sourceMaterial struct {
	Name string `json:"name"`
	PBR  struct {
		Colour    *[4]float64    `json:"baseColorFactor"`
		Metallic  *float64       `json:"metallicFactor"`
		Roughness *float64       `json:"roughnessFactor"`
		Base      *sourceTexture `json:"baseColorTexture"`
		Rough     *sourceTexture `json:"metallicRoughnessTexture"`
	} `json:"pbrMetallicRoughness"`
	Normal *sourceTexture `json:"normalTexture"`
	Alpha  string         `json:"alphaMode"`
}

type sourceTexture struct {
	Index    int `json:"index"`
	TexCoord int `json:"texCoord"`
}

const (
	maxMaterials = 200
	maxName      = 120
)

// dresser gathers how the faces of primitives look.
type dresser struct {
	names []string
	known map[int]int32
	group []int32
	uvs   [][][2]float32
	bare  bool // some primitive has no texture coordinates
}

// dress takes in the faces of the primitive that is being given; their vertices are counted from first.
func (d *dresser) dress(r *reader, faces [][]int32, first int32) error {
	p, material := r.now, -1
	if p.Material != nil && *p.Material >= 0 && *p.Material < len(r.src.Materials) {
		material = *p.Material
	}
	at, is := d.known[material]
	if !is {
		if len(d.names) == maxMaterials {
			return fmt.Errorf("more than %d materials: up to so many are read", maxMaterials)
		}
		if d.known == nil {
			d.known = map[int]int32{}
		}
		at = int32(len(d.names))
		d.known[material] = at
		d.names = append(d.names, r.src.materialName(material))
	}
	var flat []float64
	if k, has := p.Attributes["TEXCOORD_0"]; has && !d.bare {
		var err error
		if flat, err = r.pairs(k); err != nil {
			return err
		}
	}
	for _, f := range faces {
		d.group = append(d.group, at)
		uv := make([][2]float32, len(f))
		for i, v := range f {
			k := 2 * int(v-first)
			if k+1 >= len(flat) {
				d.bare = true
				break
			}
			uv[i] = [2]float32{float32(flat[k]), float32(1 - flat[k+1])} // from the lower left
		}
		d.uvs = append(d.uvs, uv)
	}
	return nil
}

// of is what was gathered. One surface alone is told apart from none.
func (d *dresser) of() surface.Dress {
	out := surface.Dress{Names: d.names, Group: d.group, UVs: d.uvs}
	if d.bare {
		out.UVs = nil
	}
	return out
}

// materialName is a material's, one that no other has.
func (s *source) materialName(k int) string {
	if k < 0 {
		return "no material"
	}
	name := s.Materials[k].Name
	taken := name == "" || len(name) > maxName || name == "no material"
	for i := range k {
		taken = taken || s.Materials[i].Name == name
	}
	if taken {
		return fmt.Sprintf("material %d", k+1)
	}
	return name
}

// Found is a material of a file, under the name that its surfaces have, with its images by the
// fields of look.Images.
type Found struct {
	look.Material
	Files map[string][]byte
}

// ReadMaterials returns the materials of a file, with the images that lie in it.
func ReadMaterials(data []byte) ([]Found, error) {
	r, err := open(data)
	if err != nil {
		return nil, err
	}
	if len(r.src.Materials) > maxMaterials {
		return nil, fmt.Errorf("the file has %d materials: up to %d are read", len(r.src.Materials), maxMaterials)
	}
	var out []Found
	for k := range r.src.Materials {
		m := &r.src.Materials[k]
		f := Found{Material: look.Material{Name: r.src.materialName(k), Colour: "#FFFFFF", Roughness: 1, Metalness: 1}, Files: map[string][]byte{}}
		if c := m.PBR.Colour; c != nil {
			f.Colour = look.ColourOf([3]float64{c[0], c[1], c[2]})
			if m.Alpha == "BLEND" {
				f.Opacity = min(max(c[3], 0.01), 1)
			}
		}
		for _, x := range []struct {
			of *float64
			to *float64
		}{{m.PBR.Roughness, &f.Roughness}, {m.PBR.Metallic, &f.Metalness}} {
			if x.of != nil {
				*x.to = min(max(*x.of, 0), 1)
			}
		}
		for _, x := range []struct {
			field string
			of    *sourceTexture
		}{{"colour", m.PBR.Base}, {"normal", m.Normal}, {"rough", m.PBR.Rough}} {
			if x.of == nil {
				continue
			}
			if x.of.TexCoord != 0 {
				return nil, fmt.Errorf("material %s: texture coordinates %d are not read: the first are", f.Name, x.of.TexCoord)
			}
			bytes, err := r.image(x.of.Index)
			if err != nil {
				return nil, fmt.Errorf("material %s: %w", f.Name, err)
			}
			f.Files[x.field] = bytes
		}
		out = append(out, f)
	}
	return out, nil
}

// image is the bytes of a texture's image, which lies in the file.
func (r *reader) image(texture int) ([]byte, error) {
	if texture < 0 || texture >= len(r.src.Textures) || r.src.Textures[texture].Source == nil {
		return nil, fmt.Errorf("texture %d is not there or of no image that is read", texture)
	}
	k := *r.src.Textures[texture].Source
	if k < 0 || k >= len(r.src.Images) {
		return nil, fmt.Errorf("image %d is not there", k)
	}
	img := &r.src.Images[k]
	if img.URI != nil {
		_, code, is := strings.Cut(*img.URI, ";base64,")
		bytes, err := base64.StdEncoding.DecodeString(code)
		if !is || err != nil {
			return nil, fmt.Errorf("image %d lies in a file of its own: a .glb with its images inside is accepted", k)
		}
		return bytes, nil
	}
	if img.View == nil || *img.View < 0 || *img.View >= len(r.src.BufferViews) {
		return nil, fmt.Errorf("image %d has no bytes", k)
	}
	v := r.src.BufferViews[*img.View]
	if v.Buffer < 0 || v.Buffer >= len(r.buffers) || v.ByteOffset < 0 || v.ByteLength < 0 || v.ByteOffset > len(r.buffers[v.Buffer])-v.ByteLength {
		return nil, fmt.Errorf("image %d reaches beyond its buffer", k)
	}
	return r.buffers[v.Buffer][v.ByteOffset : v.ByteOffset+v.ByteLength], nil
}
