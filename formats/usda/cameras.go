package usda

import (
	"fmt"
	"math"

	"bead/core/look"
	"bead/core/rig"
)

// lens is what a camera does over the frames: its place as ten floats a frame, and its focal length in mm.
type lens struct {
	Track track
	Focal []float32
}

// cameraFrame takes in how cameras look.
func (b *Baker) cameraFrame(p *rig.Picture) {
	if b.cameras == nil {
		b.cameras = make([]lens, len(p.Cameras))
	}
	for i := range p.Cameras {
		c, t := &p.Cameras[i], &b.cameras[i]
		t.Track = placed(t.Track, p.Under(b.under(b.scene.CameraParent(i)), c.Backward()))
		w, h := b.scene.Doc.Cameras[i].Size()
		// Of tan(angle/2) = height / 2 f; the angle came in single precision.
		f := look.PictureWidth * float64(h) / float64(w) / 2 / math.Tan(float64(c.Angle)/2)
		t.Focal = append(t.Focal, float32(math.Round(f*1e5)/1e5))
	}
}

// camera writes a camera by the UsdGeomCamera schema; its lengths are tenths of a scene unit in the
// schema's words, and the same in all its attributes, so mm as everybody writes them.
func (b *Baker) camera(w *writer, i int) {
	d, t := &b.scene.Doc.Cameras[i], &b.cameras[i]
	width, height := d.Size()
	w.open("Camera", d.Name, d.Name)
	same := true
	for _, f := range t.Focal {
		same = same && f == t.Focal[0]
	}
	b.value(w, "float focalLength", same, func(f int) { w.number(t.Focal[f]) })
	w.line(fmt.Sprintf("float horizontalAperture = %d", look.PictureWidth))
	w.line("float verticalAperture = " + number(look.PictureWidth*float64(height)/float64(width)))
	w.line("float2 clippingRange = (0.01, 100000)")
	b.moves(w, t.Track)
	w.close()
}
