package scene

import (
	"fmt"
	"math"

	"bead/core/look"
	"bead/core/motion"
)

// Camera is a kept place to look from, with its lens and the size of its picture.
type Camera struct {
	ID   string          `json:"id"`
	Name string          `json:"name"`
	At   [3]motion.Value `json:"at" jsonschema:"description=Where it is in metres: in the world or in the space of what it rides on or from its place on its path." move:"*;distance"`
	Turn Turn            `json:"turn,omitzero" jsonschema:"description=Where it looks; of one that is aimed only its bank counts."`
	// It stands where it is, or one of these moves it.
	Carrier string  `json:"carrier,omitempty" jsonschema:"description=Id of the carrier that it rides and turns with." ref:"carrier"`
	Ride    *Ride   `json:"ride,omitempty" jsonschema:"description=The path that it goes along."`
	Beside  *Beside `json:"beside,omitempty" jsonschema:"description=What it goes alongside without turning: it moves as that has moved since the first frame."`
	Aim     *Aim    `json:"aim,omitempty" jsonschema:"description=What it looks at whatever moves; left out: it looks where it is turned."`
	// Lens is the focal length on a picture 36 mm wide.
	Lens   motion.Value `json:"lens,omitzero" jsonschema:"description=Focal length in mm on a picture 36 mm wide; 0 or left out: 35." move:"lens;plain;unit=mm;else=35"`
	Width  int          `json:"width,omitempty" jsonschema:"description=Of its picture in pixels; 0 or left out: 1280." form:";count;min=16;max=3840;or0"`
	Height int          `json:"height,omitempty" jsonschema:"description=Of its picture in pixels; 0 or left out: 720." form:";count;min=16;max=2160;or0"`
}

// Beside is what a camera goes alongside: the first piece of a rig, or a carrier.
type Beside struct {
	Rig     string `json:"rig,omitempty" jsonschema:"description=Id of the rig." ref:"rig;whole"`
	Carrier string `json:"carrier,omitempty" jsonschema:"description=Id of the carrier; instead of rig." ref:"carrier;whole"`
}

// Aim is what a camera looks at: the first piece of a rig, a carrier, or a place.
type Aim struct {
	At      [3]motion.Value `json:"at,omitzero" jsonschema:"description=A place in the world in metres; from what is named: so far from that." move:"aim-*;distance;word=aim *"`
	Rig     string          `json:"rig,omitempty" jsonschema:"description=Id of the rig." ref:"rig"`
	Carrier string          `json:"carrier,omitempty" jsonschema:"description=Id of the carrier; instead of rig." ref:"carrier"`
}

// The size and lens of pictures where the document gives none.
const (
	FirstLens   = 35
	FirstWidth  = 1280
	FirstHeight = 720

	minLens, maxLens = 4, 2000
	maxCameras       = 100
)

// Size is that of its picture in pixels.
func (c *Camera) Size() (width, height int) {
	width, height = c.Width, c.Height
	if width == 0 {
		width = FirstWidth
	}
	if height == 0 {
		height = FirstHeight
	}
	return width, height
}

// FieldOfView is the angle that a lens of so many mm takes in from top to bottom, radians, of a picture
// 36 mm wide: 2 atan(h / 2 f).
func (c *Camera) FieldOfView(lens float64) float64 {
	if lens == 0 {
		lens = FirstLens
	}
	w, h := c.Size()
	return 2 * math.Atan(look.PictureWidth*float64(h)/float64(w)/(2*min(max(lens, minLens), maxLens)))
}

// Light is the sun of a scene: over the left shoulder where it is left out.
type Light struct {
	Heading  float64 `json:"heading" jsonschema:"minimum=-1e4,maximum=1e4,description=Degrees to the left of z from which it shines."`
	Height   float64 `json:"height" jsonschema:"minimum=2,maximum=90,description=Degrees above the horizon."`
	Strength float64 `json:"strength" jsonschema:"minimum=0,maximum=10,description=1 is a clear day."`
}

// FirstLight is the light of a scene that says none.
var FirstLight = Light{Heading: 57, Height: 62, Strength: 1}

// Sun is the scene's light.
func (d *Document) Sun() Light {
	if d.Light == nil {
		return FirstLight
	}
	return *d.Light
}

func (c *checker) cameras(d *Document) {
	if len(d.Cameras) > maxCameras {
		c.say("cameras", "%d are not accepted: up to %d are", len(d.Cameras), maxCameras)
		return
	}
	c.ids("cameras", len(d.Cameras), func(i int) (string, string) { return d.Cameras[i].ID, d.Cameras[i].Name })
	for i := range d.Cameras {
		c.camera(fmt.Sprintf("cameras[%d]", i), &d.Cameras[i])
	}
}

func (c *checker) camera(at string, x *Camera) {
	movers := 0
	for _, is := range []bool{x.Carrier != "", x.Ride != nil, x.Beside != nil} {
		if is {
			movers++
		}
	}
	if movers > 1 {
		c.say(at, "rides on a carrier, goes along a path or goes alongside: leave all but one out")
	}
	thing := func(at, rig, carrier string, need bool) {
		switch {
		case rig != "" && carrier != "":
			c.say(at, "names a rig and a carrier: leave one of the two out")
		case need && rig == "" && carrier == "":
			c.say(at, "names nothing: the id of a rig or of a carrier is accepted")
		}
	}
	if b := x.Beside; b != nil {
		thing(at+".beside", b.Rig, b.Carrier, true)
	}
	if a := x.Aim; a != nil {
		thing(at+".aim", a.Rig, a.Carrier, false)
	}
	if !x.Lens.Moves() && x.Lens.Const != 0 {
		c.number(at+".lens", x.Lens.Const, minLens, maxLens)
	}
}
