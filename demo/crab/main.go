// Command crab writes the files of the kelp station's crab into demo/parts.
package main

import (
	"bytes"
	"log"
	"os"

	"bead/demo"
	"bead/formats/bvh"
	"bead/formats/gltf"
)

func main() {
	f := demo.Crab()
	var text, binary bytes.Buffer
	if err := bvh.Write(&text, f); err != nil {
		log.Fatal(err)
	}
	if err := gltf.WriteFigure(&binary, "Crab", f); err != nil {
		log.Fatal(err)
	}
	for name, data := range map[string][]byte{"crab.bvh": text.Bytes(), "crab.glb": binary.Bytes()} {
		if err := os.WriteFile("demo/parts/"+name, data, 0o644); err != nil {
			log.Fatal(err)
		}
	}
}
