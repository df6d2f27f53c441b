package figure

import (
	"math"

	"bead/core/geom"
)

// Foot is what stands on the ground: a joint, or its tip, and the leg of joints that bring it there.
type Foot struct {
	Joint int
	// Contact is the place that stands, in the joint's own axes and the figure's units. A foot that
	// is a Tip is the end of its joint, which then turns with the leg; else the joint is set down as
	// it is turned in the cycle, and the leg reaches for its place.
	Contact geom.Vec
	Tip     bool
	// Leg are the joints that are turned, from the hip on; the last is the one that the foot hangs
	// from, or the foot's own joint.
	Leg []int
}

// Plant is a time in which a foot stands, in rounds: it begins in the first one, and may end in the
// next.
type Plant struct{ From, To float64 }

// How feet are found.
const (
	plantLooks = 240  // a round
	plantHigh  = 0.25 // of how high a foot is lifted
	plantFast  = 0.25 // of the mean speed
	plantShort = 0.06 // of a round: what is shorter is no plant
	plantGap   = 0.02 // of a round: shorter gaps are none
	lowest     = 0.06 // of the figure's height above the lowest: a foot comes down at least so far
	footShort  = 0.75 // of the bone before: a last bone that is shorter is a foot, else a shank
	legMost    = 8
)

// LegOf makes the foot that a joint is: its leg reaches up so many joints, or, with 0, to the joint that
// others hang from, too.
func (f *Figure) LegOf(joint, joints int, tip bool) Foot {
	foot := Foot{Joint: joint, Tip: tip}
	if ends := f.Joints[joint].Ends; len(ends) > 0 {
		foot.Contact = ends[0]
	}
	kids := f.Children()
	at := joint
	if !tip {
		at = f.Joints[joint].Parent
	}
	for at > 0 && len(foot.Leg) < legMost && (joints == 0 || len(foot.Leg) < joints) {
		foot.Leg = append([]int{at}, foot.Leg...)
		up := f.Joints[at].Parent
		if joints == 0 && (up < 0 || len(kids[up]) > 1) {
			break
		}
		at = up
	}
	return foot
}

// FindFeet finds what stands in a cycle: the ends of limbs that come down to the ground and stay there
// for a while.
func (g *Gait) FindFeet() []Foot {
	f := g.Figure
	kids := f.Children()
	rest := f.AtRest()
	var found []Foot
	var low []float64
	top, bottom := math.Inf(-1), math.Inf(1)
	at := g.looks()
	for _, joints := range at {
		for i := range joints {
			top = max(top, joints[i].P.Y)
		}
	}
	for i := range f.Joints {
		if len(kids[i]) > 0 || i == 0 {
			continue
		}
		foot := f.limb(i, kids, rest)
		if len(foot.Leg) == 0 {
			continue
		}
		least := math.Inf(1)
		for _, joints := range at {
			least = min(least, g.Contact(&foot, joints).Y)
		}
		found, low = append(found, foot), append(low, least)
		bottom = min(bottom, least)
	}
	out := found[:0]
	for i := range found {
		if low[i]-bottom <= lowest*(top-bottom) && len(g.FindPlants(&found[i])) > 0 {
			out = append(out, found[i])
		}
	}
	return out
}

// limb is the foot at the end of a limb: the last joint, or the one before where the last is a toe.
func (f *Figure) limb(leaf int, kids [][]int, rest []geom.Rigid) Foot {
	chain := []int{leaf}
	for at := f.Joints[leaf].Parent; at > 0 && len(kids[at]) == 1; at = f.Joints[at].Parent {
		chain = append([]int{at}, chain...)
	}
	bone := func(joint int) float64 { // the one that leads to it
		if p := f.Joints[joint].Parent; p >= 0 {
			return rest[joint].P.Sub(rest[p].P).Norm()
		}
		return 0
	}
	tip := 0.0
	if ends := f.Joints[leaf].Ends; len(ends) > 0 {
		tip = ends[0].Norm()
	}
	switch n := len(chain); {
	case n >= 4 && bone(leaf) < footShort*bone(chain[n-2]): // hip, knee, ankle and toe
		foot := f.LegOf(chain[n-2], 0, false)
		foot.Contact = f.Joints[leaf].Rest.P
		return foot
	case n >= 3 && tip < footShort*bone(leaf):
		return f.LegOf(leaf, 0, false)
	case tip > 0:
		return f.LegOf(leaf, 0, true)
	}
	return f.LegOf(leaf, 0, false)
}

// looks are the joints of a whole round, evenly.
func (g *Gait) looks() [][]geom.Rigid {
	out := make([][]geom.Rigid, plantLooks)
	var work []geom.Rigid
	for k := range out {
		out[k], work = g.Straight(nil, work, float64(k)/plantLooks)
	}
	return out
}

// Contact is where a foot's contact is, for joints in the gait's axes.
func (g *Gait) Contact(f *Foot, joints []geom.Rigid) geom.Vec {
	return joints[f.Joint].Apply(f.Contact.Mul(g.scale))
}

// FindPlants finds when a foot stands: low, and slow beside the way that the figure goes.
func (g *Gait) FindPlants(f *Foot) []Plant {
	at := make([]geom.Vec, plantLooks+1)
	lo, hi := math.Inf(1), math.Inf(-1)
	var joints, work []geom.Rigid
	for k := range at {
		joints, work = g.Straight(joints, work, float64(k)/plantLooks)
		at[k] = g.Contact(f, joints)
		lo, hi = min(lo, at[k].Y), max(hi, at[k].Y)
	}
	pace := math.Abs(g.Stride)
	if pace == 0 {
		return nil
	}
	stands := make([]bool, plantLooks)
	count := 0
	for k := range stands {
		before, after := at[max(k-1, 0)], at[k+1]
		if k == 0 {
			before = at[plantLooks-1].Sub(geom.V(0, 0, g.Stride))
		}
		v := after.Sub(before).Mul(plantLooks / 2.0)
		v.Y = 0
		stands[k] = at[k].Y-lo <= plantHigh*(hi-lo)+1e-9 && v.Norm() <= plantFast*pace
		if stands[k] {
			count++
		}
	}
	switch count {
	case 0:
		return nil
	case plantLooks:
		return []Plant{{0, 1}}
	}
	out := runs(stands)
	kept := out[:0]
	for _, p := range out { // from key to key: there the foot is as it was made
		if from, to := g.NearestKey(p.From), g.NearestKey(p.To); to > from {
			p = Plant{from, to}
		}
		if p.From >= 1 {
			p.From, p.To = p.From-1, p.To-1
		}
		kept = append(kept, p)
	}
	return kept
}

// runs are the stretches of a round in which something is true, short gaps closed, short ones left out.
func runs(true_ []bool) []Plant {
	n := len(true_)
	first := 0
	for true_[first] || !true_[(first+n-1)%n] { // begin behind one that ends
		first++
	}
	var out []Plant
	for k := 0; k < n; {
		if !true_[(first+k)%n] {
			k++
			continue
		}
		from := k
		for k < n && true_[(first+k)%n] {
			k++
		}
		p := Plant{float64(first+from) / float64(n), float64(first+k-1) / float64(n)}
		if last := len(out) - 1; last >= 0 && p.From-out[last].To <= plantGap {
			out[last].To = p.To
		} else {
			out = append(out, p)
		}
	}
	kept := out[:0]
	for _, p := range out {
		if p.To-p.From < plantShort {
			continue
		}
		if down := math.Floor(p.From); down != 0 {
			p.From, p.To = p.From-down, p.To-down
		}
		kept = append(kept, p)
	}
	return kept
}

// During is the plant in which a foot stands after so many rounds, and in which round that plant
// began; false while it is in the air.
func During(plants []Plant, rounds float64) (p Plant, round float64, stands bool) {
	whole := math.Floor(rounds)
	for _, p := range plants {
		for _, round := range [2]float64{whole, whole - 1} {
			if rounds >= round+p.From && rounds <= round+p.To {
				return p, round, true
			}
		}
	}
	return Plant{}, 0, false
}

// Slide is the farthest that a foot gets, level, from where it stands in the middle of its plants,
// metres, as the cycle has it.
func (g *Gait) Slide(f *Foot, plants []Plant) float64 {
	most := 0.0
	var joints, work []geom.Rigid
	at := func(rounds float64) geom.Vec {
		joints, work = g.Straight(joints, work, rounds)
		p := g.Contact(f, joints)
		p.Y = 0
		return p
	}
	for _, p := range plants {
		mid := at((p.From + p.To) / 2)
		for k := range 41 {
			most = max(most, at(p.From+(p.To-p.From)*float64(k)/40).Sub(mid).Norm())
		}
	}
	return most
}
