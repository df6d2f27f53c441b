package scene

import (
	"fmt"
	"math"

	"bead/core/path"
)

// names are the ids that a path may refer to.
type names struct{ paths, fixtures, rigs, carriers map[string]bool }

func (c *checker) path(at string, p *Path, known names) {
	c.pathShape(at+".shape", &p.Shape, &known)
	c.number(at+".chordError", p.ChordError, 0, maxPosition)
	if len(p.Steps) > maxSteps {
		c.say(at+".steps", "%d steps are not accepted: up to %d are", len(p.Steps), maxSteps)
	}
	for i := range p.Steps[:min(len(p.Steps), maxSteps)] {
		c.step(fmt.Sprintf("%s.steps[%d]", at, i), &p.Steps[i], p.ID, known)
	}
}

const (
	minRadius = 1e-6
	maxSteps  = 100
	maxTurns  = 1000
)

// pathShape checks a shape. Without known names it may only be one that stands alone.
func (c *checker) pathShape(at string, s *PathShape, known *names) {
	given := 0
	if x := s.Line; x != nil {
		given++
		c.vec(at+".line.from", x.From)
		c.vec(at+".line.to", x.To)
	}
	if x := s.Hang; x != nil {
		given++
		c.vec(at+".hang.from", x.From)
		c.vec(at+".hang.to", x.To)
		c.number(at+".hang.length", x.Length, minRadius, maxPosition)
		if _, _, _, err := x.cable(); err != nil {
			c.say(at+".hang.length", "%v", err)
		}
	}
	if x := s.Circle; x != nil {
		given++
		c.vec(at+".circle.centre", x.Centre)
		c.number(at+".circle.radius", x.Radius, minRadius, maxPosition)
	}
	if x := s.Ellipse; x != nil {
		given++
		c.vec(at+".ellipse.centre", x.Centre)
		c.number(at+".ellipse.along", x.Along, minRadius, maxPosition)
		c.number(at+".ellipse.across", x.Across, minRadius, maxPosition)
	}
	if x := s.Slot; x != nil {
		given++
		c.vec(at+".slot.centre", x.Centre)
		c.number(at+".slot.length", x.Length, 0, maxPosition)
		c.number(at+".slot.radius", x.Radius, minRadius, maxPosition)
	}
	if x := s.Rectangle; x != nil {
		given++
		c.vec(at+".rectangle.centre", x.Centre)
		c.number(at+".rectangle.length", x.Length, minRadius, maxPosition)
		c.number(at+".rectangle.height", x.Height, minRadius, maxPosition)
		c.number(at+".rectangle.radius", x.Radius, 0, max(min(x.Length, x.Height)/2, 0))
	}
	if x := s.Arch; x != nil {
		given++
		c.vec(at+".arch.base", x.Base)
		c.number(at+".arch.width", x.Width, minRadius, maxPosition)
		c.number(at+".arch.height", x.Height, minRadius, maxPosition)
		c.number(at+".arch.radius", x.Radius, 0, max(min(x.Width/2, x.Height), 0))
		switch x.Open {
		case OpenBelow, OpenAbove, OpenAhead, OpenBehind:
		default:
			c.say(at+".arch.open", "%q is not accepted: below, above, ahead and behind are", x.Open)
		}
	}
	if x := s.Helix; x != nil {
		given++
		c.vec(at+".helix.base", x.Base)
		c.number(at+".helix.radius", x.Radius, minRadius, maxPosition)
		if x.EndRadius != 0 {
			c.number(at+".helix.endRadius", x.EndRadius, minRadius, maxPosition)
		}
		c.number(at+".helix.rise", x.Rise, -maxPosition, maxPosition)
		c.number(at+".helix.turns", x.Turns, 1e-3, maxTurns)
		c.number(at+".helix.leadIn", x.LeadIn, 0, maxPosition)
		c.number(at+".helix.leadOut", x.LeadOut, 0, maxPosition)
		c.number(at+".helix.begin", x.Begin, -1e6, 1e6)
		c.oneOf(at+".helix.hand", x.Hand, "right", "left")
		c.oneOf(at+".helix.axis", x.Axis, "up", "forward", "side")
	}
	if x := s.Spline; x != nil {
		given++
		c.count(at+".spline.points", len(x.Points))
		for i := range x.Points[:min(len(x.Points), maxPoints)] {
			p := &x.Points[i]
			pa := fmt.Sprintf("%s.spline.points[%d]", at, i)
			c.vec(pa+".at", p.At)
			if p.In != nil {
				c.vec(pa+".in", *p.In)
			}
			if p.Out != nil {
				c.vec(pa+".out", *p.Out)
			}
			c.oneOf(pa+".handles", string(p.Handles), "smooth", "aligned", "mirrored", "free")
		}
	}
	if x := s.BSpline; x != nil {
		given++
		c.points(at+".bspline.points", x.Points)
	}
	if x := s.Polyline; x != nil {
		given++
		c.points(at+".polyline.points", x.Points)
		c.number(at+".polyline.fillet", x.Fillet, 0, maxPosition)
		if n := len(x.Fillets); n > len(x.Points) {
			c.say(at+".polyline.fillets", "%d radii for %d points: one a point is accepted", n, len(x.Points))
		}
		for i, r := range x.Fillets {
			c.number(fmt.Sprintf("%s.polyline.fillets[%d]", at, i), r, 0, maxPosition)
		}
	}
	if x := s.Over; x != nil {
		given++
		c.points(at+".over.points", x.Points)
		c.number(at+".over.clearance", x.Clearance, -maxPosition, maxPosition)
		c.known(at+".over.fixture", x.Fixture, "fixture", known, func(n *names) map[string]bool { return n.fixtures })
	}
	if x := s.Track; x != nil {
		given++
		switch {
		case (x.Rig == "") == (x.Carrier == ""):
			c.say(at+".track", "names a rig and a carrier or neither: one of them is accepted")
		case x.Carrier != "":
			c.known(at+".track.carrier", x.Carrier, "carrier", known, func(n *names) map[string]bool { return n.carriers })
		default:
			c.known(at+".track.rig", x.Rig, "rig", known, func(n *names) map[string]bool { return n.rigs })
		}
		c.number(at+".track.piece", float64(x.Piece), 1, 1e6)
	}
	if x := s.Wrap; x != nil {
		given++
		c.wheels(at+".wrap", x)
	}
	if p := s.plane(); p != nil {
		c.plane(at+"."+s.Kind()+".plane", *p)
	}
	if given != 1 {
		c.say(at, "holds %d shapes: exactly one of line, circle, ellipse, slot, rectangle, arch, helix, spline, bspline, polyline, over, track, wrap and hang is accepted", given)
	}
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
	for _, a := range accepted {
		if got == a {
			return
		}
	}
	list := accepted[0]
	for i, a := range accepted[1:] {
		if i == len(accepted)-2 {
			list += " and " + a
		} else {
			list += ", " + a
		}
	}
	c.say(at, "%q is not accepted: %s are", got, list)
}

func (c *checker) count(at string, n int) {
	if n < 2 || n > maxPoints {
		c.say(at, "%d points are not accepted: from 2 to %d are", n, maxPoints)
	}
}

func (c *checker) points(at string, pts []Vec3) {
	c.count(at, len(pts))
	for i := range pts[:min(len(pts), maxPoints)] {
		c.vec(fmt.Sprintf("%s[%d]", at, i), pts[i])
	}
}

func (c *checker) step(at string, s *Step, self string, known names) {
	given := 0
	if s.Reverse != nil {
		given++
	}
	if x := s.StartAt; x != nil {
		given++
		c.number(at+".startAt.distance", x.Distance, -maxPosition, maxPosition)
	}
	if s.Close != nil {
		given++
	}
	if x := s.Open; x != nil {
		given++
		c.number(at+".open.gap", x.Gap, 0, maxPosition)
	}
	if x := s.Extend; x != nil {
		given++
		c.number(at+".extend.before", x.Before, 0, maxPosition)
		c.number(at+".extend.after", x.After, 0, maxPosition)
	}
	if x := s.Trim; x != nil {
		given++
		c.number(at+".trim.from", x.From, 0, maxPosition)
		c.number(at+".trim.to", x.To, 0, maxPosition)
		if x.To != 0 && x.To <= x.From {
			c.say(at+".trim.to", "%g is not beyond the start at %g: a greater distance is accepted, or 0 for the end", x.To, x.From)
		}
	}
	if x := s.Join; x != nil {
		given++
		c.number(at+".join.snap", x.Snap, 0, maxPosition)
		if len(x.Paths) == 0 || len(x.Paths) > maxSteps {
			c.say(at+".join.paths", "%d paths are not accepted: from 1 to %d are", len(x.Paths), maxSteps)
		}
		for i, id := range x.Paths {
			pa := fmt.Sprintf("%s.join.paths[%d]", at, i)
			if !known.paths[id] {
				c.say(pa, "%q is no path of this scene", id)
			} else if id == self {
				c.say(pa, "a path is not joined to itself: another path is accepted")
			}
		}
	}
	if x := s.Subdivide; x != nil {
		given++
		c.number(at+".subdivide.parts", float64(x.Parts), 2, 64)
	}
	if x := s.Resample; x != nil {
		given++
		c.number(at+".resample.count", float64(x.Count), 3, maxPoints)
	}
	if x := s.Simplify; x != nil {
		given++
		c.number(at+".simplify.tolerance", x.Tolerance, 1e-9, maxPosition)
	}
	if x := s.Round; x != nil {
		given++
		c.number(at+".round.radius", x.Radius, 0, maxPosition)
	}
	if x := s.Smooth; x != nil {
		given++
		c.number(at+".smooth.reach", x.Reach, 1e-6, maxPosition)
	}
	if x := s.Offset; x != nil {
		given++
		c.number(at+".offset.distance", x.Distance, -maxPosition, maxPosition)
		if x.Plane != "" {
			c.plane(at+".offset.plane", x.Plane)
		}
	}
	if x := s.Mirror; x != nil {
		given++
		c.oneOf(at+".mirror.axis", x.Axis, "x", "y", "z")
		c.number(at+".mirror.at", x.At, -maxPosition, maxPosition)
	}
	if x := s.Jitter; x != nil {
		given++
		c.number(at+".jitter.amount", x.Amount, 0, maxPosition)
		c.number(at+".jitter.grain", x.Grain, 1e-6, maxPosition)
		c.number(at+".jitter.beats", float64(x.Beats), 0, 1000)
		c.oneOf(at+".jitter.direction", string(x.Direction), string(path.JitterSide), string(path.JitterUp), string(path.JitterAll))
		if math.Abs(float64(x.Seed)) > 1<<52 {
			c.say(at+".jitter.seed", "%d is not accepted: a whole number within ±2^52 is", x.Seed)
		}
	}
	if x := s.Wave; x != nil {
		given++
		c.wave(at+".wave", x, known)
	}
	if x := s.Lag; x != nil {
		given++
		c.lag(at+".lag", x)
	}
	if x := s.Drop; x != nil {
		given++
		c.number(at+".drop.clearance", x.Clearance, -maxPosition, maxPosition)
	}
	if given != 1 {
		c.say(at, "holds %d steps: exactly one kind is accepted", given)
	}
}
