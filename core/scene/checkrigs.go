package scene

import (
	"fmt"

	"bead/core/form"
)

// rig checks one rig but for the things that it names.
func (c *checker) rig(at string, r *Rig, paths []Path) {
	key, x, kinds := one(r)
	if kinds != 1 {
		c.say(at, "is of %d kinds: exactly one of %s is accepted", kinds, form.And(keys(r)))
		return
	}
	x.(rigKind).checkRig(c, at+"."+key, r, paths)
	c.facing(at+".facing", &r.Facing)
}

// facing checks which way is up.
func (c *checker) facing(at string, f *Facing) {
	for i, b := range f.RollAt {
		ba := fmt.Sprintf("%s.rollAt[%d]", at, i)
		if i > 0 && b.At <= f.RollAt[i-1].At {
			c.say(ba+".at", "%g is not beyond the bead before, at %g: rising distances are accepted", b.At, f.RollAt[i-1].At)
		}
	}
	if u := f.Up; u != nil && *u == (Vec3{}) {
		c.say(at+".up", "has no direction: one of its three numbers must not be 0")
	}
}
