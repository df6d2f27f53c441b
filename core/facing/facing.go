// Package facing chooses which way is up along a path: moving frames whose
// forward is the path's tangent. A Field is made once for a curve and then gives
// the frame at any distance as a pure function.
//
// Angles are radians about the forward direction, right-handed.
package facing

import (
	"errors"
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/path"
)

// Mode names a way to choose up.
type Mode string

// The modes.
const (
	Steady     Mode = "steady"      // one fixed direction, as far as forward allows
	Loopside   Mode = "loopside"    // the outward side of a flat loop
	LeastTwist Mode = "least-twist" // turned about forward as little as possible
	Guide      Mode = "guide"       // towards a second path
	Turn       Mode = "turn"        // into the curve, towards the centre of the bend
)

// Spec says how to face. The zero Up means +Y.
type Spec struct {
	Mode   Mode
	Up     geom.Vec // steady: the direction; least-twist: the up to start from
	Inward bool     // loopside: face into the loop instead of out of it
	// Turns adds whole turns over the length. Fractions are refused on closed
	// paths, where they would open the seam.
	Turns float64
	// Symmetry m lets a least-twist loop close on a multiple of a turn over m, for
	// parts that look the same every 360/m degrees. 0 counts as 1.
	Symmetry int
	// Guide is the second path of mode guide. Distance s looks at the guide at the
	// same share of its length.
	Guide *path.Curve
	// Near, where it is not nil, is the correction in radians over the whole length
	// that a neighbouring frame of a moving path made at its seam (Report.Spread):
	// of all that close, the nearest is taken, so that a path deformed over time
	// never pops by a turn.
	Near *float64
}

// Stretch is a part of the path where the reference direction says nothing
// because the path runs along it, and the frame is carried over by least twist.
type Stretch struct {
	From, To float64 // metres; To < From where the stretch holds the seam
	Turn     float64 // turn about forward spread over it to meet the far side
}

// Report tells what a Field had to do.
type Report struct {
	Residual float64   // least-twist, closed: the angle left over at the seam before correction
	Twist    float64   // turn per metre spread over the path
	Off      float64   // loopside: greatest distance of the path from its plane, metres
	Straight bool      // loopside: the path is straight, so no side of it is outward
	Along    []Stretch // where the reference says nothing, and up is carried over
	Spread   float64   // least-twist, closed: the correction spread over the length, without Turns
	Guided   Guided
}

// Guided tells how well a guide path leads.
type Guided struct {
	// Nearest is the least distance between a place and the one it looks at.
	Nearest, NearestAt float64
	// Ahead is the greatest angle in radians by which the guide runs away: between
	// the direction to it and the plane at right angles to the path.
	Ahead, AheadAt float64
}

// Field gives the frame at a distance. It is immutable and safe for concurrent use.
type Field struct {
	curve   *path.Curve
	spec    Spec
	ref     geom.Vec // steady: up; loopside: the loop's normal
	sign    float64
	bend    float64    // turn: curvature below which the path counts as straight, 1/m
	whole   *transport // least-twist, or no reference anywhere
	twist   float64    // per metre
	bridges []bridge
	report  Report
}

// bridge carries the frame over one stretch. from may be negative when the
// stretch holds the seam of a closed path.
type bridge struct {
	from, to float64
	carried  *transport
	rate     float64
}

// minSine is the sine of the angle between forward and the reference below which
// the reference is not followed: at 3 degrees the up it gives turns twenty times
// as fast as the path.
const minSine = 0.052

// turnShare is the share of the tightest curvature below which a path counts as
// straight for facing turn, so that up is carried over inflections.
const turnShare = 0.05

// New prepares the field. Errors: an unknown mode, a fractional number of turns
// on a closed path, a negative symmetry or an up that is not finite.
func New(c *path.Curve, spec Spec) (*Field, error) {
	if spec.Up == (geom.Vec{}) {
		spec.Up = geom.V(0, 1, 0)
	}
	spec.Up = spec.Up.Unit()
	switch {
	case !spec.Up.IsFinite():
		return nil, errors.New("up is not a direction")
	case spec.Symmetry < 0:
		return nil, fmt.Errorf("symmetry %d: a whole number from 1 is accepted", spec.Symmetry)
	case math.IsNaN(spec.Turns) || math.Abs(spec.Turns) > 1e4:
		return nil, fmt.Errorf("turns %g: a number within ±10000 is accepted", spec.Turns)
	case c.Closed() && spec.Turns != math.Trunc(spec.Turns):
		return nil, fmt.Errorf("turns %g: a closed path takes a whole number, or the seam would open", spec.Turns)
	}
	f := &Field{curve: c, spec: spec, sign: 1}
	f.twist = 2 * math.Pi * spec.Turns / c.Length()
	switch spec.Mode {
	case Steady:
		f.ref = spec.Up
	case Loopside:
		pl := c.Plane()
		f.ref, f.report.Off, f.report.Straight = pl.Normal, pl.Off, pl.Line
		if spec.Inward {
			f.sign = -1
		}
	case LeastTwist:
		f.carryWhole(spec.Up)
		return f, nil
	case Guide:
		if spec.Guide == nil {
			return nil, errors.New("facing by a guide needs a guide path")
		}
		f.ref = spec.Up
	case Turn:
		f.ref = spec.Up
		k, _ := c.Tightest()
		f.bend = turnShare * k
	default:
		return nil, fmt.Errorf("unknown facing %q: steady, loopside, least-twist, guide and turn are accepted", spec.Mode)
	}
	// A flat loop never runs along its own normal.
	if spec.Mode != Loopside || f.report.Straight || f.report.Off > 1e-12*c.Length() {
		f.bridge()
	}
	f.report.Twist = f.twist
	return f, nil
}

// Curve is what the field lies along.
func (f *Field) Curve() *path.Curve { return f.curve }

// Report returns what was found on the way.
func (f *Field) Report() Report { return f.report }

// Frame returns the frame at distance s. Past an open end it is the end's.
func (f *Field) Frame(s float64) geom.Frame {
	p, t := f.curve.At(s)
	if f.curve.Closed() {
		s = f.curve.Wrap(s)
	} else {
		s = min(max(s, 0), f.curve.Length())
	}
	u := f.untwisted(s, p, t)
	if f.twist != 0 {
		u = geom.RotateAbout(u, t, f.twist*s)
	}
	return geom.Frame{P: p, T: t, U: u}
}

func (f *Field) untwisted(s float64, p, t geom.Vec) geom.Vec {
	if f.whole != nil {
		return f.whole.at(s, p, t)
	}
	for i := range f.bridges {
		b := &f.bridges[i]
		q := s
		if q > b.to && f.curve.Closed() {
			q -= f.curve.Length() // the seam lies inside the stretch
		}
		if q >= b.from && q <= b.to {
			u := b.carried.at(q, p, t)
			if b.rate != 0 {
				u = geom.RotateAbout(u, t, b.rate*(q-b.from))
			}
			return u
		}
	}
	u, _ := f.reference(s, p, t)
	return u
}

// reference returns the up that the reference gives at distance s, position p and
// forward t, and how much it says: the sine of the angle between the two
// directions, less than minSine where it is not to be followed.
func (f *Field) reference(s float64, p, t geom.Vec) (up geom.Vec, says float64) {
	switch f.spec.Mode {
	case Loopside:
		up = t.Cross(f.ref).Mul(f.sign)
	case Guide:
		to, _ := f.spec.Guide.At(f.share(s) * f.spec.Guide.Length())
		to = to.Sub(p)
		if to.Norm() < guideNear*f.curve.Length() {
			return up, 0
		}
		to = to.Unit()
		up = to.Sub(t.Mul(to.Dot(t)))
	case Turn:
		k := f.curve.Curvature(s)
		n := k.Norm()
		if n <= f.bend || n == 0 {
			return up, 0
		}
		return k.Mul(1 / n), 1
	default:
		up = f.ref.Sub(t.Mul(f.ref.Dot(t)))
	}
	says = up.Norm()
	if says == 0 {
		return up, 0
	}
	return up.Mul(1 / says), says
}

// guideNear is the distance, as a share of the length, below which a guide is too
// near to say where up is.
const guideNear = 1e-4

// share is distance s as a share of the length.
func (f *Field) share(s float64) float64 {
	if f.curve.Closed() {
		s = f.curve.Wrap(s)
	}
	return min(max(s/f.curve.Length(), 0), 1)
}

// startUp returns a unit up at right angles to t, as near to want as possible.
func startUp(t, want geom.Vec) geom.Vec {
	u := want.Sub(t.Mul(want.Dot(t)))
	if u.Norm() < minSine {
		return geom.AnyPerpendicular(t)
	}
	return u.Unit()
}

// carryWhole runs least twist over the whole path and spreads what is left over
// at a closed path's seam evenly over the length.
func (f *Field) carryWhole(want geom.Vec) {
	_, t := f.curve.At(0)
	u := startUp(t, want)
	f.whole = carry(f.curve, 0, f.curve.Length(), u)
	if f.curve.Closed() {
		left := geom.AngleAbout(t, u, geom.TurnTo(f.whole.end(), f.whole.t[len(f.whole.t)-1], t))
		f.report.Residual = left
		part := 2 * math.Pi / float64(max(f.spec.Symmetry, 1))
		f.report.Spread = part*math.Round(left/part) - left
		if f.spec.Near != nil {
			f.report.Spread += part * math.Round((*f.spec.Near-f.report.Spread)/part)
		}
		f.twist += f.report.Spread / f.curve.Length()
	}
	f.report.Twist = f.twist
}

// bridge finds the stretches where the reference says nothing and prepares the
// frames over them.
func (f *Field) bridge() {
	c, length := f.curve, f.curve.Length()
	stations := f.stations()
	weak := make([]bool, len(stations))
	count := 0
	for i, s := range stations {
		// Both sides of a corner count: a station is weak if the path leaves it or
		// arrives at it along the reference.
		p, t := c.At(s)
		_, says := f.reference(s, p, t)
		if i > 0 {
			before := s - (s-stations[i-1])*1e-6
			q, u := c.At(before)
			_, saysBefore := f.reference(before, q, u)
			says = min(says, saysBefore)
		}
		if weak[i] = says < minSine; weak[i] {
			count++
		}
		f.guided(s, p, t)
	}
	if count == 0 {
		return
	}
	if count == len(stations) {
		f.report.Along = []Stretch{{From: 0, To: length}}
		f.carryWhole(f.ref)
		return
	}
	for i := 0; i < len(stations); i++ {
		if !weak[i] {
			continue
		}
		j := i
		for j+1 < len(stations) && weak[j+1] {
			j++
		}
		f.addBridge(stations, i, j)
		i = j
	}
	f.joinAtSeam()
	for i := range f.bridges {
		f.prepare(&f.bridges[i])
	}
}

// stations returns distances close enough to find where the reference fails.
func (f *Field) stations() []float64 {
	c, length := f.curve, f.curve.Length()
	if f.spec.Mode != Turn && f.spec.Mode != Guide {
		return c.Stations(nil, length, minSine/2)
	}
	// Curvature and a guide change between places where the tangent does not.
	const least = 400
	var out []float64
	for _, s := range c.Stations(nil, length, minSine) {
		if len(out) > 0 {
			from := out[len(out)-1]
			n := math.Ceil((s - from) * least / length)
			for k := 1.0; k < n; k++ {
				out = append(out, from+(s-from)*k/n)
			}
		}
		out = append(out, s)
	}
	return out
}

// guided gathers how well the guide leads at one place.
func (f *Field) guided(s float64, p, t geom.Vec) {
	if f.spec.Mode != Guide {
		return
	}
	to, _ := f.spec.Guide.At(f.share(s) * f.spec.Guide.Length())
	to = to.Sub(p)
	g := &f.report.Guided
	if d := to.Norm(); s == 0 || d < g.Nearest {
		g.Nearest, g.NearestAt = d, s
	}
	if a := math.Abs(math.Pi/2 - geom.Angle(to, t)); a > g.Ahead {
		g.Ahead, g.AheadAt = a, s
	}
}

// addBridge covers stations i..j and the steps up to their good neighbours.
func (f *Field) addBridge(stations []float64, i, j int) {
	f.bridges = append(f.bridges, bridge{from: stations[max(i-1, 0)], to: stations[min(j+1, len(stations)-1)]})
}

// joinAtSeam makes one of two bridges that meet at the seam of a closed path.
func (f *Field) joinAtSeam() {
	length, n := f.curve.Length(), len(f.bridges)
	if !f.curve.Closed() || n < 2 || f.bridges[0].from > 0 || f.bridges[n-1].to < length {
		return
	}
	f.bridges[0].from = f.bridges[n-1].from - length
	f.bridges = f.bridges[:n-1]
}

func (f *Field) prepare(b *bridge) {
	c, length := f.curve, f.curve.Length()
	p0, t0 := c.At(b.from)
	p1, t1 := c.At(b.to)
	u0, ok0 := f.reference(b.from, p0, t0)
	u1, ok1 := f.reference(b.to, p1, t1)
	stretch := Stretch{From: b.from, To: b.to}
	switch {
	case ok0 >= minSine:
		b.carried = carry(c, b.from, b.to, u0)
		if ok1 >= minSine {
			turn := geom.AngleAbout(t1, b.carried.end(), u1)
			stretch.Turn = turn
			b.rate = turn / (b.to - b.from)
		}
	case ok1 >= minSine:
		// From an open end: run backwards from the far side.
		b.carried = carry(c, b.to, b.from, u1)
	default:
		b.carried = carry(c, b.from, b.to, startUp(t0, f.ref))
	}
	if stretch.From < 0 {
		stretch.From += length
	}
	f.report.Along = append(f.report.Along, stretch)
}
