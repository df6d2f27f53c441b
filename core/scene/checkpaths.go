package scene

import (
	"fmt"
	"slices"

	"bead/core/form"
)

// names are the ids that a path may refer to.
type names struct {
	paths, fixtures, rigs, carriers map[string]bool
	self                            string // of the path whose steps are checked
}

func (c *checker) path(at string, p *Path, known names) {
	c.pathShape(at+".shape", &p.Shape, &known)
	c.number(at+".chordError", p.ChordError, 0, maxPosition)
	if len(p.Steps) > maxSteps {
		c.say(at+".steps", "%d steps are not accepted: up to %d are", len(p.Steps), maxSteps)
	}
	known.self = p.ID
	for i := range p.Steps[:min(len(p.Steps), maxSteps)] {
		c.step(fmt.Sprintf("%s.steps[%d]", at, i), &p.Steps[i], &known)
	}
}

const (
	minRadius = 1e-6
	maxSteps  = 100
)

// pathShape checks a shape. Without known names it may only be one that stands alone.
func (c *checker) pathShape(at string, s *PathShape, known *names) {
	key, x, given := one(s)
	if given != 1 {
		c.say(at, "holds %d shapes: exactly one of %s is accepted", given, form.And(keys(s)))
		return
	}
	c.kind(at+"."+key, x, known)
}

// kind checks a shape or a step: its fields by their tags, then what these cannot say.
func (c *checker) kind(at string, of any, known *names) {
	c.fields(at, of)
	if x, is := of.(checked); is {
		x.check(c, at, known)
	}
}

// fields checks the fields of a struct by their form tags.
func (c *checker) fields(at string, of any) {
	form.Check(of, func(field, text string) { c.say(at+"."+field, "%s", text) })
}

// known checks an id. Nil names mean a shape that was sent alone, of which nothing
// else can be known.
func (c *checker) known(at, id, what string, n *names, of func(*names) map[string]bool) {
	if n == nil {
		c.say(at, "a shape that needs a %s of its scene is not accepted here", what)
	} else if !of(n)[id] {
		c.say(at, "%q is no %s of this scene", id, what)
	}
}

func (c *checker) oneOf(at, got string, accepted ...string) {
	if !slices.Contains(accepted, got) {
		c.say(at, "%s", form.NotAccepted(got, accepted))
	}
}

func (c *checker) count(at string, n int) {
	if n < form.MinPoints || n > maxPoints {
		c.say(at, "%d points are not accepted: from %d to %d are", n, form.MinPoints, maxPoints)
	}
}

func (c *checker) step(at string, s *Step, known *names) {
	key, x, given := one(s)
	if given != 1 {
		c.say(at, "holds %d steps: exactly one kind is accepted", given)
		return
	}
	c.kind(at+"."+key, x, known)
}
