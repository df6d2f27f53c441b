package formats

import (
	"io"

	"bead/core/rig"
	"bead/formats/gltf"
)

// exactVertices is the most vertices of bodies, over all frames, that are written as morph targets.
const exactVertices = 25_000_000

var (
	glb = Format{Ending: "glb", Group: "Scenes", Name: "glb", Text: "glTF 2.0, binary: a mesh for each part, a node for each piece, a key on every frame.",
		Media: "model/gltf-binary", Lines: true, Single: true, Exact: true, Figures: true, Keys: true, Nested: true, Instances: true, holds: true, vertices: exactVertices, bake: bakeGLTF(true)}
	gltfText = Format{Ending: "gltf", Group: "Scenes", Name: "gltf", Text: "glTF 2.0 as text, the numbers inside it.",
		Media: "model/gltf+json", Lines: true, Single: true, Exact: true, Figures: true, Keys: true, Nested: true, Instances: true, holds: true, vertices: exactVertices, bake: bakeGLTF(false)}
)

func bakeGLTF(binary bool) func(io.Writer, *rig.Scene, *Options) (Baker, error) {
	return func(w io.Writer, s *rig.Scene, o *Options) (Baker, error) {
		_, images, err := o.imagesOf(s)
		if err != nil {
			return nil, err
		}
		image := func(asset string) (string, string, []byte) {
			m := images[asset]
			return plain(m.Name), m.Media, m.Data
		}
		b := gltf.NewBaker(s, gltf.Options{Frames: o.Count(), Stopped: o.stopped, Binary: binary, Paths: o.Paths, Skip: o.skip(s), Single: o.Single, Centred: o.Centred, Exact: o.Exact, InPlace: o.InPlace, OwnKeys: o.OwnKeys, Tolerance: o.Tolerance, First: o.Frames.First,
			Step: o.Step, Start: o.start(s, TimeZero), Flat: o.Flat, PerRig: o.PerRig, Instanced: o.Instanced, ImageSizes: o.ImageSizes, Extras: o.facts(s), Image: image, Say: o.Say})
		save, load := keeps(b.Gathered, b.Append)
		return gathered{b.Frame, b.Prime, func() error { return b.Close(w) }, save, load}, nil
	}
}
