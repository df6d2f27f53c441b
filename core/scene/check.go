package scene

import (
	"fmt"
	"reflect"
	"regexp"

	"bead/core/facing"
	"bead/core/form"
	"bead/core/geom"
	"bead/core/motion"
	"bead/core/part"
)

// Limits of a document.
const (
	MaxFrames = 100_000
	// FarthestFrame is how far from 0 a frame may lie.
	FarthestFrame = 10_000_000

	maxObjects  = 2_000
	maxPoints   = form.MaxPoints
	MaxName     = 120
	maxPosition = form.MaxPosition // metres
)

var assetForm = regexp.MustCompile(`^[0-9a-f]{64}$`)

// IDForm is what ids look like, as a regular expression.
const IDForm = `^[A-Za-z0-9][A-Za-z0-9_-]{0,63}$`

var idForm = regexp.MustCompile(IDForm)

// checker gathers faults.
type checker struct {
	faults Faults
	lone   bool // a shape is checked that was sent without its scene
}

func (c *checker) say(address, format string, args ...any) {
	if len(c.faults) < maxFaults {
		c.faults = append(c.faults, Fault{address, fmt.Sprintf(format, args...)})
	}
}

// Check returns what is wrong with the document, empty when it can be compiled
// into pictures but for the geometry itself (a path without length, a pitch
// that no piece fits), which compiling finds.
func (d *Document) Check() Faults {
	c := &checker{}
	if d.Bead != Version {
		c.say("bead", "version %d is not known: %d is accepted", d.Bead, Version)
	}
	c.name("name", d.Name)
	// Limits and choices, which stand on the fields themselves.
	c.fields(reflect.ValueOf(d).Elem(), nil)
	switch n := d.Range.Count(); {
	case max(d.Range.First, -d.Range.First, d.Range.Last, -d.Range.Last) > FarthestFrame:
		c.say("range", "frames %d to %d: frames within ±%d are accepted", d.Range.First, d.Range.Last, FarthestFrame)
	case n < 1:
		c.say("range", "ends at frame %d before it starts at %d", d.Range.Last, d.Range.First)
	case n > MaxFrames:
		c.say("range", "%d frames are not accepted: up to %d are", n, MaxFrames)
	}
	paths := c.ids("paths", len(d.Paths), func(i int) (string, string) { return d.Paths[i].ID, d.Paths[i].Name })
	parts := c.ids("parts", len(d.Parts), func(i int) (string, string) { return d.Parts[i].ID, d.Parts[i].Name })
	rigs := c.ids("rigs", len(d.Rigs), func(i int) (string, string) { return d.Rigs[i].ID, d.Rigs[i].Name })
	fixtures := c.ids("fixtures", len(d.Fixtures), func(i int) (string, string) { return d.Fixtures[i].ID, d.Fixtures[i].Name })
	carriers := c.ids("carriers", len(d.Carriers), func(i int) (string, string) { return d.Carriers[i].ID, d.Carriers[i].Name })
	materials := c.ids("materials", len(d.Materials), func(i int) (string, string) { return d.Materials[i].ID, d.Materials[i].Name })
	c.references(d, map[string]map[string]bool{"path": paths, "part": parts, "rig": rigs, "fixture": fixtures, "carrier": carriers, "material": materials})
	for i := range d.Paths {
		c.path(fmt.Sprintf("paths[%d]", i), &d.Paths[i])
	}
	// The name of an asset is its content, so that one file is kept once and a changed one is seen.
	for i := range d.Assets {
		// Read from text on the way in, so a byte may have been lost.
		if a := &d.Assets[i]; a.ID != AssetID(a.Data) {
			c.say(fmt.Sprintf("assets[%d]", i), "%q is not the SHA-256 of its bytes: the file was changed on the way", a.ID)
		}
	}
	for i := range d.Parts {
		c.part(fmt.Sprintf("parts[%d]", i), &d.Parts[i])
	}
	for i := range d.Rigs {
		at := fmt.Sprintf("rigs[%d]", i)
		r := &d.Rigs[i]
		// Asked only where the guide is in use: one that is kept for later may be gone.
		if g := r.Facing.Guide; r.Facing.Mode == facing.Guide && !paths[g] {
			c.say(at+".facing.guide", "%q is no path of this scene: facing guide needs one to look at", g)
		}
		c.rig(at, r, d.Paths)
	}
	c.ground(d.Ground)
	c.materials(d)
	c.motion(d, carriers)
	return c.faults
}

func (c *checker) name(at, s string) {
	if len(s) == 0 || len(s) > MaxName {
		c.say(at, "a name has from 1 to %d bytes, this one %d", MaxName, len(s))
	}
}

func (c *checker) ids(list string, n int, of func(int) (id, name string)) map[string]bool {
	seen := make(map[string]bool, n)
	if n > maxObjects {
		c.say(list, "%d are not accepted: up to %d are", n, maxObjects)
	}
	// Of too many, the first are still looked at: their faults may be why there are so many.
	for i := range min(n, maxObjects) {
		id, name := of(i)
		at := fmt.Sprintf("%s[%d]", list, i)
		if !idForm.MatchString(id) {
			c.say(at+".id", "%q is not an id: letters, digits, - and _ are accepted, up to 64", id)
		} else if seen[id] {
			c.say(at+".id", "%q is taken by another of these", id)
		}
		seen[id] = true
		c.name(at+".name", name)
	}
	return seen
}

func (c *checker) number(at string, v, lo, hi float64) {
	if !(v >= lo && v <= hi) {
		c.say(at, "%g is not accepted: a number from %g to %g is", v, lo, hi)
	}
}

func (c *checker) part(at string, p *Part) {
	if key, x, given := one(&p.Shape); given != 1 {
		c.say(at+".shape", "holds %d shapes: exactly one of %s is accepted", given, form.And(keys(&p.Shape)))
	} else {
		c.kind(at+".shape."+key, x)
	}
	_, forward := p.Forward.Vec()
	_, up := p.Up.Vec()
	// Where an axis itself is wrong that has been said; both right may still be one and the same.
	if _, err := part.NewAxes(p.Forward, p.Up, geom.Vec{}); err != nil && forward == nil && up == nil {
		c.say(at+".up", "%v", err)
	}
}

func (c *checker) value(at string, v *motion.Value) {
	for _, p := range v.Check() {
		a := at
		if p.Field != "" {
			a += "." + p.Field
		}
		c.say(a, "%s", p.Text)
	}
}

// Accept fills in a lone shape's defaults and returns what is wrong with it as
// Faults, nil when it is right.
func (s *PathShape) Accept() error {
	// As reading a document does, so that a lone shape means what it would mean there.
	s.fillDefaults()
	c := &checker{lone: true}
	c.fields(reflect.ValueOf(s).Elem(), &spot{nil, "shape", -1})
	c.pathShape("shape", s)
	if len(c.faults) > 0 {
		return c.faults
	}
	return nil
}
