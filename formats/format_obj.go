package formats

import (
	"io"

	"bead/core/rig"
	"bead/formats/obj"
)

var objArchive = Format{Ending: "obj.zip", Name: "obj", Text: "One OBJ a frame in an archive: everything as it stands, with normals and textures.",
	Media: "application/zip",
	bake: func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
		return obj.NewBaker(w, s, o.skip(s)), nil
	}}
