package scene

import (
	"fmt"

	"bead/core/place"
)

// rig checks one rig but for the things that it names.
func (c *checker) rig(at string, r *Rig, paths []Path) {
	kinds := 0
	for _, there := range []bool{r.Train != nil, r.Rider != nil, r.Body != nil} {
		if there {
			kinds++
		}
	}
	if kinds != 1 {
		c.say(at, "is of %d kinds: exactly one of train, rider and body is accepted", kinds)
		return
	}
	switch {
	case r.Train != nil:
		c.train(at+".train", r.Train)
	case r.Rider != nil:
		c.oneOf(at+".rider.pastEnd", r.Rider.PastEnd, StraightOn, ComeRound)
		if x := r.Rider.Rolling; x != 0 {
			c.number(at+".rider.rolling", x, minRadius, maxPosition)
		}
	case r.Body != nil:
		c.body(at+".body", r, paths)
	}
	c.number(at+".scale", r.Scale, 1e-4, 1e4)
	c.facing(at+".facing", &r.Facing)
}

// train checks pieces one behind the other.
func (c *checker) train(at string, t *Train) {
	c.oneOf(at+".seat", t.Seat, SeatPivot, SeatEnds, SeatBent)
	if t.Seat == SeatEnds && t.Spacing.Mode == place.Scatter {
		c.say(at+".spacing.mode", "pieces joined by pins are not scattered: set count, set pitch and close up are accepted, or another seat")
	}
	if e := t.Spacing.Even; !(e >= 0 && e <= 1) {
		c.say(at+".spacing.even", "%g is not accepted: from 0 to 1 is", e)
	}
	c.number(at+".spacing.pitch", t.Spacing.Pitch, 0, maxPosition)
	c.number(at+".spacing.gap", t.Spacing.Gap, -maxPosition, maxPosition)
	if t.Seat == SeatEnds && (t.Arrive != nil || t.Leave != nil) {
		c.say(at+".seat", "pieces that come and go one after another are not joined by pins: pivot is accepted")
	}
	c.oneOf(at+".pastEnd", t.PastEnd, StraightOn, ComeRound)
	c.arrivals(at+".arrive", t.Arrive)
	c.arrivals(at+".leave", t.Leave)
	if len(t.Others) > 20 {
		c.say(at+".others", "%d entries are not accepted: up to 20 are", len(t.Others))
	}
	for i := range t.Others {
		o, oa := &t.Others[i], fmt.Sprintf("%s.others[%d]", at, i)
		c.number(oa+".every", float64(o.Every), 0, 100_000)
		c.number(oa+".first", float64(o.First), 0, 100_000)
		switch {
		case o.Every == 0 && len(o.Pieces) == 0:
			c.say(oa, "names no pieces: every or pieces is accepted")
		case o.Every != 0 && len(o.Pieces) > 0:
			c.say(oa+".pieces", "every says which they are: leave one of the two out")
		}
	}
	c.blends(at, t.Blends)
	if len(t.Blends) > 0 && t.Seat != SeatBent {
		c.say(at+".blends", "only bodies that bend show blends: seat bent is accepted")
	}
}

func (c *checker) arrivals(at string, a *Arrivals) {
	if a == nil {
		return
	}
	c.number(at+".first", a.First, -1e7, 1e7)
	c.number(at+".delay", a.Delay, 0, 1e6)
	c.number(at+".takes", a.Takes, 1e-3, 1e7)
	c.oneOf(at+".order", a.Order, LastFirst, FirstFirst, ByDistance, Scattered)
	c.oneOf(at+".end", a.End, FromStart, FromEnd)
	c.oneOf(at+".ease", a.Ease, Straight, Eased)
}

// facing checks which way is up.
func (c *checker) facing(at string, f *Facing) {
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
	}
}
