package scene

import (
	"fmt"

	"bead/core/form"
)

func (c *checker) path(at string, p *Path) {
	c.pathShape(at+".shape", &p.Shape)
	if len(p.Steps) > maxSteps {
		c.say(at+".steps", "%d steps are not accepted: up to %d are", len(p.Steps), maxSteps)
	}
	for i := range p.Steps[:min(len(p.Steps), maxSteps)] {
		c.step(fmt.Sprintf("%s.steps[%d]", at, i), &p.Steps[i])
	}
}

const (
	minRadius = 1e-6
	maxSteps  = 100
)

// pathShape checks a shape.
func (c *checker) pathShape(at string, s *PathShape) {
	key, x, given := one(s)
	if given != 1 {
		c.say(at, "holds %d shapes: exactly one of %s is accepted", given, form.And(keys(s)))
		return
	}
	c.kind(at+"."+key, x)
}

// kind checks of a shape or a step what the tags of its fields cannot say.
func (c *checker) kind(at string, of any) {
	if x, is := of.(checked); is {
		x.check(c, at)
	}
}

func (c *checker) count(at string, n int) {
	if n < form.MinPoints || n > maxPoints {
		c.say(at, "%d points are not accepted: from %d to %d are", n, form.MinPoints, maxPoints)
	}
}

func (c *checker) step(at string, s *Step) {
	key, x, given := one(s)
	if given != 1 {
		c.say(at, "holds %d steps: exactly one kind is accepted", given)
		return
	}
	c.kind(at+"."+key, x)
}
