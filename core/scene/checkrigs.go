package scene

import (
	"bead/core/facing"
	"fmt"

	"bead/core/form"
	"bead/core/place"
)

// rig checks one rig but for the things that it names.
func (c *checker) rig(at string, r *Rig, paths []Path) {
	key, x, kinds := one(r)
	if kinds != 1 {
		c.say(at, "is of %d kinds: exactly one of %s is accepted", kinds, form.And(keys(r)))
		return
	}
	x.(rigKind).checkRig(c, at+"."+key, r, paths)
	c.number(at+".scale", r.Scale, 1e-4, 1e4)
	c.facing(at+".facing", &r.Facing)
}

// facing checks which way is up.
func (c *checker) facing(at string, f *Facing) {
	c.oneOf(at+".mode", string(f.Mode), string(facing.Steady), string(facing.Loopside), string(facing.LeastTwist), string(facing.Guide), string(facing.Turn))
	for i, b := range f.RollAt {
		ba := fmt.Sprintf("%s.rollAt[%d]", at, i)
		c.number(ba+".at", b.At, 0, maxPosition)
		c.number(ba+".roll", b.Roll, -1e6, 1e6)
		if b.Ease != place.Straight && b.Ease != place.Eased {
			c.say(ba+".ease", "%q is not accepted: straight and eased are", b.Ease)
		}
		if i > 0 && b.At <= f.RollAt[i-1].At {
			c.say(ba+".at", "%g is not beyond the bead before, at %g: rising distances are accepted", b.At, f.RollAt[i-1].At)
		}
	}
	if u := f.Up; u != nil {
		c.vec(at+".up", *u)
		if *u == (Vec3{}) {
			c.say(at+".up", "has no direction: one of its three numbers must not be 0")
		}
	}
	if b := f.Bank; b != nil {
		c.number(at+".bank.share", b.Share, -10, 10)
		c.number(at+".bank.over", b.Over, 0, maxPosition)
		c.number(at+".bank.lead", b.Lead, -1e6, 1e6)
		c.number(at+".bank.limit", b.Limit, 0, 90)
	}
}
