package rig

import (
	"fmt"
	"math"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/machine"
	"bead/core/path"
	"bead/core/place"
	"bead/core/scene"
)

// cycle is a figure that goes along the path in the rounds of a motion that was made going straight.
type cycle struct {
	*Rig
	doc    *scene.Cycle
	gait   *figure.Gait
	follow []bool // joints that turn with the way where they are
	feet   []standingFoot
	legs   [][]int // joints that a leg takes along: those below its foot, and beside
	layers []layer
	strays []float64 // of each copy, metres
}

// standingFoot is a foot with the times in which it stands.
type standingFoot struct {
	figure.Foot
	plants []figure.Plant
	mids   []geom.Vec // where it stands in each, in the round in which the plant begins
	ends   [][2]geom.Vec
}

// layer turns and shifts joints on top.
type layer struct {
	doc    *scene.Layer
	joints []bool // the topmost of those that it names
	by     [6]*machine.Signal
}

// plantEase is how long before and after a plant a foot that slides in its cycle is led to where it
// stands, in rounds.
const plantEase = 0.05

// maxPoses bounds joints times copies of a scene.
const maxPoses = 200_000

func (t *cycle) nature() Nature { return Nature{Jointed: true} }

func (t *cycle) prepare(c *compiler) bool {
	f := c.Parts[t.Part].Figure
	if f == nil {
		c.Say(fmt.Errorf("%q is no figure: a part read from BVH, or from glTF with a skin, is accepted", c.Doc.Parts[t.Part].Name), "rigs[%d].part", t.index)
		return false
	}
	// Before joints take memory.
	if n := len(f.Joints) * max(t.doc.Count, 1); n > maxPoses {
		c.Say(fmt.Errorf("%d copies come to %d joints: up to %d are accepted", t.doc.Count, n, maxPoses), "rigs[%d].cycle.count", t.index)
		return false
	}
	a := &c.Parts[t.Part].Axes
	t.gait = figure.NewGait(f, a.Forward, a.Up, a.Pivot, c.Doc.Parts[t.Part].Shape.Figure.Scale*t.scale, t.doc.Stride)
	// Without a stride the way gives no rounds. A figure that runs in place has to be told how far a round goes.
	if !(math.Abs(t.gait.Stride) > 1e-6) || t.doc.Stride == 0 && !t.gait.Moves() {
		c.Say(fmt.Errorf("it runs on the spot: how far a round goes is wanted, more than 0 m"), "rigs[%d].cycle.stride", t.index)
		return false
	}
	if t.gait.Stride < 0 {
		c.Say(fmt.Errorf("its keys go %.4g m back in a round: a forward of the part that is the other way is accepted", -t.gait.Stride), "rigs[%d].part", t.index)
		return false
	}
	named, ok := t.named(c, "follow", t.doc.Follow)
	if !ok {
		return false
	}
	t.follow = named
	return t.findFeet(c) && t.findLayers(c)
}

// named are the joints of names of joints and sets.
func (t *cycle) named(c *compiler, field string, names []string) ([]bool, bool) {
	f := t.gait.Figure
	out := make([]bool, len(f.Joints))
	for _, name := range names {
		list := []string{name}
		for _, s := range t.doc.Sets {
			if s.Name == name {
				list = s.Joints
			}
		}
		for _, joint := range list {
			j := f.Find(joint)
			if j < 0 {
				c.Say(fmt.Errorf("%q is no joint of %q, and no set: names of its joints are accepted", joint, c.Doc.Parts[t.Part].Name), "rigs[%d].cycle.%s", t.index, field)
				return nil, false
			}
			out[j] = true
		}
	}
	return out, true
}

// findFeet takes the feet that the rig names, or those that are found.
func (t *cycle) findFeet(c *compiler) bool {
	f := t.gait.Figure
	var feet []figure.Foot
	if t.doc.Feet == nil {
		feet = t.gait.FindFeet()
	}
	for k := range t.doc.Feet {
		d := &t.doc.Feet[k]
		j := f.Find(d.Joint)
		if j < 0 {
			c.Say(fmt.Errorf("%q is no joint of %q: names of its joints are accepted", d.Joint, c.Doc.Parts[t.Part].Name), "rigs[%d].cycle.feet[%d].joint", t.index, k)
			return false
		}
		if d.Tip && len(f.Joints[j].Ends) == 0 {
			c.Say(fmt.Errorf("%q has no tip: the joint itself is accepted", d.Joint), "rigs[%d].cycle.feet[%d].tip", t.index, k)
			return false
		}
		feet = append(feet, f.LegOf(j, d.Joints, d.Tip))
	}
	for k := range feet {
		s := standingFoot{Foot: feet[k]}
		if k < len(t.doc.Feet) && t.doc.Feet[k].Plants != nil {
			for _, p := range t.doc.Feet[k].Plants {
				s.plants = append(s.plants, figure.Plant{From: p[0], To: p[1]})
			}
		} else {
			s.plants = t.gait.FindPlants(&s.Foot)
		}
		for _, p := range s.plants {
			at := func(rounds float64) geom.Vec {
				joints, _ := t.gait.Straight(nil, nil, rounds)
				return t.gait.Contact(&s.Foot, joints)
			}
			// The key nearest the middle is a pose that somebody made; between keys the foot may slide.
			mid := at(t.gait.NearestKey((p.From + p.To) / 2)) // as it was made there
			s.mids = append(s.mids, mid)
			// By how much it slides off there at either end of the plant, level: it is led back over plantEase.
			s.ends = append(s.ends, [2]geom.Vec{level(mid.Sub(at(p.From))), level(mid.Sub(at(p.To)))})
		}
		t.feet = append(t.feet, s)
	}
	// What a leg takes along, but for the leg itself: it is brought to its place after the leg.
	for k := range t.feet {
		below := make([]bool, len(f.Joints))
		in := map[int]bool{}
		for _, j := range t.feet[k].Leg {
			in[j], below[j] = true, true
		}
		var list []int
		for j := range f.Joints {
			// Joints come after their parents, so one pass finds all that hangs from the leg.
			if p := f.Joints[j].Parent; p >= 0 && below[p] && !in[j] {
				below[j] = true
				list = append(list, j)
			}
		}
		t.legs = append(t.legs, list)
	}
	return true
}

func level(v geom.Vec) geom.Vec { return geom.V(v.X, 0, v.Z) }

func (t *cycle) findLayers(c *compiler) bool {
	f := t.gait.Figure
	for k := range t.doc.Layers {
		d := &t.doc.Layers[k]
		named, ok := t.named(c, fmt.Sprintf("layers[%d].joints", k), d.Joints)
		if !ok {
			return false
		}
		l := layer{doc: d, joints: make([]bool, len(named))}
		under := make([]bool, len(named))
		for j := range named {
			if p := f.Joints[j].Parent; p >= 0 {
				under[j] = under[p] || named[p]
			}
			// Only the topmost: those below are turned along with it.
			l.joints[j] = named[j] && !under[j]
		}
		for n, field := range [6]string{"heading", "pitch", "bank", "aside", "rise", "ahead"} {
			if !c.own(t.Rig, fmt.Sprintf("layer%d-%s", k+1, field), &l.by[n]) {
				return false
			}
		}
		if !d.Off {
			t.layers = append(t.layers, l)
		}
	}
	return true
}

func (t *cycle) layOut(*path.Curve) (place.Layout, string, error) {
	chance := geom.Chance(t.doc.Seed)
	// The stray of a copy is of the seed and its number alone, so that more copies leave the first where they are.
	for range t.doc.Count {
		t.strays = append(t.strays, t.doc.Stray*(2*chance.Next()-1))
	}
	return place.Layout{Count: t.doc.Count, Pitch: max(t.doc.Pitch, 1e-6)}, "cycle.count", nil
}

func (t *cycle) ready(*compiler) (field string, err error) { return "", nil }
func (t *cycle) on(*path.Curve) place.Layout               { return t.Layout }
func (t *cycle) form(float64) form                         { return form{} }

// A copy that goes faster gains by its share of the travel; it does not begin elsewhere.
func (t *cycle) at(piece int, frame float64) float64 {
	speed := 1.0
	if n := len(t.doc.Speeds); n > 0 {
		speed = t.doc.Speeds[piece%n]
	}
	return t.base(frame) + (speed-1)*t.Travel(frame) + float64(piece)*t.doc.Pitch + t.strays[piece]
}

func (t *cycle) ends(frame float64) (tail, head float64) {
	return t.at(0, frame), t.at(t.Layout.Count-1, frame)
}

func (t *cycle) reach(piece int, frame float64) Reach {
	d := t.at(piece, frame)
	return Reach{Tail: d, Head: d, Stretch: 1, Shown: true}
}

// rounds is how far a copy is in its cycle at a frame, and the distance along the way at which a round
// began that the straight cycle begins at 0.
func (t *cycle) rounds(piece int, frame float64) (rounds, from float64) {
	d := t.at(piece, frame)
	start := t.doc.Start + float64(piece)*t.doc.Phase
	// By its own clock the feet may slide, and the check says by how much; by the way they are true at any speed.
	if t.doc.Pace == scene.PaceTime {
		rounds = start + (frame-t.scene.Clock.First)/t.scene.Clock.FPS/t.gait.Period
	} else {
		rounds = start + d/t.gait.Stride
	}
	// Where on the way the round began that the keys begin at 0.
	return rounds, d - rounds*t.gait.Stride
}

func (t *cycle) stand(dst *Pieces, m *moment) {
	n := m.Layout.Count
	skin := t.scene.Parts[t.Part].Figure.Skin
	joints, vertices := len(t.gait.Figure.Joints), 3*len(skin.Weights)
	dst.Joints = resized(dst.Joints, n*joints)
	dst.Reach = resized(dst.Reach, n)
	if dst.bare {
		vertices = 0
	}
	dst.Positions, dst.Normals = resized(dst.Positions, n*vertices), resized(dst.Normals, n*vertices)
	dst.short = resized(dst.short, n*len(t.feet))
	for i := range n {
		if dst.givenUp(0) {
			return
		}
		// For one figure alone (its footprints, a chosen one) the others are left as they are.
		if dst.one > 0 && dst.one != i+1 {
			continue
		}
		dst.Reach[i] = t.reach(i, m.frame)
		t.put(dst, m, i, t.wrap(m.Curve, dst.Reach[i].Tail), float32(t.scale), 0)
		own := dst.Joints[i*joints : (i+1)*joints]
		t.pose(dst, m, i, own)
		if dst.bare {
			continue
		}
		dst.binds = skin.Pose(dst.Positions[i*vertices:(i+1)*vertices], dst.Normals[i*vertices:(i+1)*vertices], own, t.gait.Scale(), dst.binds)
	}
}
