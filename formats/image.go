package formats

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/color"
	_ "image/jpeg" // the two kinds of images that materials have
	_ "image/png"
	"path/filepath"
	"strings"
	"sync"

	"bead/core/look"
	"bead/core/rig"
	"bead/formats/gltf"
	"bead/formats/obj"
)

// Limits of the images of materials.
const (
	maxImageBytes = 24 << 20
	maxImageSide  = 4096 // pixels
)

// ImageFiles lists the endings of images that materials can have.
var ImageFiles = []string{"png", "jpg", "jpeg"}

// Image is a picture that things are covered with, as it came.
type Image struct {
	Name, Media   string
	Data          []byte
	Width, Height int // pixels
}

// decoding lets images be read whole one at a time: a small file can be a large picture.
var decoding sync.Mutex

// ReadImage checks an image of a material: PNG or JPEG by its bytes, whatever its name. All of it is decoded,
// so that everything kept can be shown.
func ReadImage(name string, data []byte) (*Image, error) {
	m, err := imageHead(name, data)
	if err != nil {
		return nil, err
	}
	decoding.Lock()
	defer decoding.Unlock()
	if _, _, err := image.Decode(bytes.NewReader(data)); err != nil {
		return nil, fmt.Errorf("%s is damaged: %w", name, err)
	}
	return m, nil
}

// imageHead reads what an image says of itself.
func imageHead(name string, data []byte) (*Image, error) {
	if len(data) > maxImageBytes {
		return nil, fmt.Errorf("%s has %d bytes: images up to %d MB are accepted", name, len(data), maxImageBytes>>20)
	}
	head, kind, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("%s is no image that is read: PNG and JPEG are accepted", name)
	}
	if head.Width > maxImageSide || head.Height > maxImageSide {
		return nil, fmt.Errorf("%s is %d x %d pixels: up to %d x %d are accepted, so make it smaller", name, head.Width, head.Height, maxImageSide, maxImageSide)
	}
	return &Image{name, "image/" + kind, data, head.Width, head.Height}, nil
}

// Image returns an image of a material by its asset, which was read whole when it was kept.
func (l *Library) Image(asset string) (*Image, error) {
	name, data, err := l.find(asset)
	if err != nil {
		return nil, err
	}
	return imageHead(name, data)
}

// Mean is the mean linear colour of a material's image, from 64 x 64 of its pixels: how it looks from afar.
func (l *Library) Mean(asset string) ([3]float64, error) { return kept(l, l.means, asset, meanOf) }

func meanOf(_ context.Context, name string, data []byte) (mean [3]float64, err error) {
	if _, err := imageHead(name, data); err != nil {
		return mean, err
	}
	decoding.Lock()
	defer decoding.Unlock()
	m, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return mean, err
	}
	const looks = 64
	b := m.Bounds()
	for k := range looks * looks {
		x, y := b.Min.X+(2*(k%looks)+1)*b.Dx()/(2*looks), b.Min.Y+(2*(k/looks)+1)*b.Dy()/(2*looks)
		c := color.NRGBAModel.Convert(m.At(x, y)).(color.NRGBA)
		for i, v := range [3]uint8{c.R, c.G, c.B} {
			mean[i] += look.Light(v) / (looks * looks)
		}
	}
	return mean, nil
}

// imagesOf finds the images of what is baked: where each lies beside the file, and their bytes.
func (o *Options) imagesOf(s *rig.Scene) (files map[string]string, images map[string]*Image, err error) {
	files, images = map[string]string{}, map[string]*Image{}
	assets, of := rig.ImagesUsed(s.Groups(o.skip(s)))
	for _, id := range assets {
		m, err := o.Library.Image(id)
		if err != nil {
			return nil, nil, fmt.Errorf("material %s: %w", of[id].Name, err)
		}
		ending := strings.TrimPrefix(m.Media, "image/")
		if ending == "jpeg" {
			ending = "jpg"
		}
		images[id], files[id] = m, fmt.Sprintf("textures/%s_%.8s.%s", plain(m.Name), id, ending)
	}
	return files, images, nil
}

// plain is a file's name without its ending, of letters that every program takes.
func plain(name string) string {
	base := filepath.Base(name)
	base = strings.TrimSuffix(base, filepath.Ext(base))
	return strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '-' {
			return r
		}
		return '_'
	}, base)
}

// MaterialFiles lists the endings that ReadMaterials accepts.
var MaterialFiles = []string{"mtl", "glb", "gltf"}

// FoundMaterial is a material of a file, named as its surfaces are. Files are the bytes of its images
// that lie in the file, Wants the names of those that lie beside it, by the fields of look.Images.
type FoundMaterial struct {
	look.Material
	Files map[string][]byte
	Wants map[string]string
}

// ReadMaterials reads the materials of a file by its name's ending.
func ReadMaterials(file string, data []byte) ([]FoundMaterial, error) {
	var out []FoundMaterial
	switch ext := strings.ToLower(filepath.Ext(file)); ext {
	case ".mtl":
		found, err := obj.ReadMaterials(data)
		if err != nil {
			return nil, err
		}
		for _, m := range found {
			out = append(out, FoundMaterial{Material: m.Material, Wants: m.Files})
		}
	case ".glb", ".gltf":
		found, err := gltf.ReadMaterials(data)
		if err != nil {
			return nil, err
		}
		for _, m := range found {
			out = append(out, FoundMaterial{Material: m.Material, Files: m.Files})
		}
	default:
		return nil, fmt.Errorf("%q is not a kind of file that holds materials: .%s are accepted", filepath.Base(file), strings.Join(MaterialFiles, ", ."))
	}
	return out, nil
}
