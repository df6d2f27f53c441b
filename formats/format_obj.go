package formats

import (
	"io"

	"bead/core/rig"
	"bead/formats/obj"
)

var objArchive = Format{Ending: "obj.zip", Name: "obj", Text: "One OBJ a frame in an archive: everything as it stands, with normals and textures, its materials as MTL and their images.",
	Media: "application/zip",
	bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
		files, images, err := o.imagesOf(s)
		if err != nil {
			return nil, err
		}
		return obj.NewBaker(w, s, o.skip(s), files, func(asset string) ([]byte, error) { return images[asset].Data, nil })
	}}
