package gltf

import (
	"fmt"
	"math"

	"bead/core/rig"
)

// camera is a perspective camera (glTF 2.0, 5.12). It looks along its own -z, with y up.
type camera struct {
	Name        string      `json:"name"`
	Type        string      `json:"type"`
	Perspective perspective `json:"perspective"`
}

type perspective struct {
	Aspect float64 `json:"aspectRatio"`
	Angle  float64 `json:"yfov"`
	Near   float64 `json:"znear"`
}

// cameraTrack is what one camera does over the frames.
type cameraTrack struct {
	Track              track
	First, Least, Most float64 // angles
}

const near = 0.01 // metres

// cameraFrame takes in how cameras look.
func (b *Baker) cameraFrame(p *rig.Picture) {
	if b.cameras == nil {
		b.cameras = make([]cameraTrack, len(p.Cameras))
	}
	for i := range p.Cameras {
		c, t := &p.Cameras[i], &b.cameras[i]
		x := p.Under(b.under(b.scene.CameraParent(i)), c.Backward())
		t.Track.add(x[:])
		angle := float64(c.Angle)
		if len(t.Track.Rotation) == 4 {
			t.First, t.Least, t.Most = angle, angle, angle
		}
		t.Least, t.Most = min(t.Least, angle), max(t.Most, angle)
	}
}

// addCameras adds the scene's cameras as nodes of their own, below the carriers that they ride on. A lens that changes keeps its first length:
// glTF's animations move nodes only.
func (b *Baker) addCameras() {
	for i := range b.cameras {
		d, t := &b.scene.Doc.Cameras[i], &b.cameras[i]
		w, h := d.Size()
		k := len(b.doc.Cameras)
		b.doc.Cameras = append(b.doc.Cameras, camera{Name: d.Name, Type: "perspective", Perspective: perspective{Aspect: float64(w) / float64(h), Angle: t.First, Near: near}})
		b.hang(len(b.doc.Nodes), b.under(b.scene.CameraParent(i)))
		b.add(d.Name, nil, &t.Track, "LINEAR")
		b.doc.Nodes[len(b.doc.Nodes)-1].Camera = &k
		if t.Most-t.Least > 1e-6 && b.Say != nil {
			b.Say(fmt.Sprintf("%s: its lens changes from %.2f to %.2f degrees, and glTF keeps the first", d.Name, t.Least*180/math.Pi, t.Most*180/math.Pi))
		}
	}
}
