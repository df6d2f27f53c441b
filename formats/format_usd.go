package formats

import (
	"archive/zip"
	"bytes"
	"hash/crc32"
	"io"
	"math"

	"bead/core/rig"
	"bead/formats/usda"
)

var (
	// usdText holds surfaces that are no skeletons in every frame, about 60 bytes a vertex.
	usdText = Format{Ending: "usda", Group: "Scenes", Name: "usda", Text: "USD as text: pieces that refer to their parts, bodies and figures as skeletons. Images of materials do not fit in a text: usdz holds them.",
		Media: "model/vnd.usda", Lines: true, Single: true, Exact: true, Solver: true, Figures: true, Nested: true, Instances: true, holds: true, vertices: 8_000_000,
		bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
			b, images, err := newUSD(s, o)
			if err != nil {
				return nil, err
			}
			if len(images) > 0 && o.Say != nil {
				o.Say("The images of its materials are not in this text: it looks for them beside it, in textures. A usdz holds them.")
			}
			save, load := keeps(b.Gathered, b.Append)
			return gathered{b.Frame, b.Prime, func() error { return b.Close(w) }, save, load}, nil
		}}
	// usdPackage holds its text once more, until it is packed.
	usdPackage = Format{Ending: "usdz", Group: "Scenes", Name: "usdz", Text: "USD as a package: the text of usda with the images of its materials, in one file.",
		Media: "model/vnd.usdz+zip", Lines: true, Single: true, Exact: true, Solver: true, Figures: true, Nested: true, Instances: true, holds: true, vertices: 4_000_000,
		bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
			b, images, err := newUSD(s, o)
			if err != nil {
				return nil, err
			}
			save, load := keeps(b.Gathered, b.Append)
			return gathered{frame: b.Frame, prime: b.Prime, save: save, load: load, close: func() error {
				var text bytes.Buffer
				if err := b.Close(&text); err != nil {
					return err
				}
				p := &usdzWriter{counted: counted{w: w}}
				p.zip = zip.NewWriter(&p.counted)
				if err := p.add("scene.usda", text.Bytes()); err != nil {
					return err
				}
				for _, m := range images {
					if err := p.add(m.file, m.Data); err != nil {
						return err
					}
				}
				return p.zip.Close()
			}}, nil
		}}
)

// usdClips is a layer with what changes in clips beside it, packed for the way.
var usdClips = Format{Ending: "usd.zip", Group: "Scenes", Name: "usd.zip", Text: "USD as text in an archive: the scene, and what changes over time in value clips beside it, none of them larger than you say; with the images of its materials.",
	Media: "application/zip", Lines: true, Single: true, Exact: true, Figures: true, Nested: true, Instances: true, Clips: true, holds: true, vertices: 16_000_000,
	bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
		b, images, err := newUSD(s, o)
		if err != nil {
			return nil, err
		}
		save, load := keeps(b.Gathered, b.Append)
		return gathered{frame: b.Frame, prime: b.Prime, save: save, load: load, close: func() error {
			z := zip.NewWriter(w)
			add := func(name string, data []byte) error {
				f, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate})
				if err == nil {
					_, err = f.Write(data)
				}
				return err
			}
			megabytes := o.ClipMB
			if megabytes == 0 {
				megabytes = usualClip
			}
			if err := b.CloseInClips(int(megabytes*(1<<20)), add); err != nil {
				return err
			}
			for _, m := range images {
				if err := add(m.file, m.Data); err != nil {
					return err
				}
			}
			return z.Close()
		}}, nil
	}}

// usualClip is the largest size of a clip unasked, MB.
const usualClip = 64

// packed is an image and where it lies in a package.
type packed struct {
	*Image
	file string
}

// newUSD prepares a USD text and lists its images.
func newUSD(s *rig.Scene, o *Options) (*usda.Baker, []packed, error) {
	files, images, err := o.imagesOf(s)
	if err != nil {
		return nil, nil, err
	}
	var list []packed
	assets, _ := rig.ImagesUsed(s.Groups(o.skip(s)))
	for _, id := range assets {
		list = append(list, packed{images[id], files[id]})
	}
	return usda.NewBaker(s, usda.Options{First: o.Frames.First, Stopped: o.stopped, Frames: o.Count(), Step: o.Step, Start: int(math.Round(o.start(s, TimeFrames) * s.Clock.FPS)), Flat: o.Flat, Instanced: o.Instanced, Facts: o.facts(s), Paths: o.Paths, Skip: o.skip(s), Single: o.Single || o.Density > 0, Centred: o.Centred, InPlace: o.InPlace, Density: o.Density, Exact: o.Exact, Say: o.Say, Files: files}), list, nil
}

// usdzWriter writes a USDZ package (Usdz File Format Specification): a zip archive whose files are not
// compressed and begin at multiples of 64 bytes, the first one the scene.
type usdzWriter struct {
	counted
	zip *zip.Writer
}

const (
	usdzAlignment = 64
	zipHeader     = 30     // bytes of a file's header before its name
	usdzPadding   = 0x1986 // the extra field that fills up
)

func (p *usdzWriter) add(name string, data []byte) error {
	if err := p.zip.Flush(); err != nil {
		return err
	}
	// An extra field has four bytes of its own before what it fills.
	fill := usdzAlignment - (p.n+zipHeader+int64(len(name))+4)%usdzAlignment
	extra := append([]byte{usdzPadding & 255, usdzPadding >> 8, byte(fill), byte(fill >> 8)}, make([]byte, fill)...)
	size := uint64(len(data))
	w, err := p.zip.CreateRaw(&zip.FileHeader{Name: name, Method: zip.Store, CRC32: crc32.ChecksumIEEE(data), CompressedSize64: size, UncompressedSize64: size, Extra: extra})
	if err != nil {
		return err
	}
	_, err = w.Write(data)
	return err
}

// counted counts what is written.
type counted struct {
	w io.Writer
	n int64
}

func (c *counted) Write(p []byte) (int, error) {
	n, err := c.w.Write(p)
	c.n += int64(n)
	return n, err
}
