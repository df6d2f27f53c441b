package formats

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"strings"

	"bead/core/rig"
	"bead/formats/obj"
)

var objArchive = Format{Ending: "obj.zip", Group: "Scenes", Name: "obj", Text: "One OBJ a frame in an archive: everything as it stands, with normals and textures, its materials as MTL and their images.",
	Media: "application/zip", join: joinArchives, each: 2_000_000, // some 240 MB of text
	bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) { return newOBJ(w, s, o) }}

func newOBJ(w io.Writer, s *rig.Scene, o *Options) (*obj.Baker, error) {
	files, images, err := o.imagesOf(s)
	if err != nil {
		return nil, err
	}
	return obj.NewBaker(w, s, o.skip(s), files, func(asset string) ([]byte, error) { return images[asset].Data, nil })
}

// joinArchives writes the frames of archives one after another into one.
func joinArchives(w io.Writer, s *rig.Scene, o *Options, parts [][]byte) error {
	b, err := newOBJ(w, s, o)
	if err != nil {
		return err
	}
	for _, p := range parts {
		z, err := zip.NewReader(bytes.NewReader(p), int64(len(p)))
		if err != nil {
			return fmt.Errorf("the part cannot be read: %w", err)
		}
		for _, f := range z.File {
			if !strings.HasSuffix(f.Name, ".obj") {
				continue // the materials and images, which the first has brought
			}
			if err := again(b, f); err != nil {
				return err
			}
		}
	}
	return b.Close()
}

func again(b *obj.Baker, f *zip.File) error {
	r, err := f.Open()
	if err != nil {
		return fmt.Errorf("the part cannot be read: %w", err)
	}
	defer r.Close()
	return b.Again(f.Name, r)
}
