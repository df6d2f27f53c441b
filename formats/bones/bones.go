// Package bones finds few joints along a body that bends, by which those who move meshes by joints
// show it as it is: each vertex is held by the joint behind it and the one ahead.
package bones

import (
	"math"

	"bead/core/bend"
	"bead/core/geom"
	"bead/core/rig"
)

const (
	share = 5e-4 // of a body's length that joints may be off
	gain  = 0.93 // to which share of the error more joints must bring it, or they are too many
	looks = 37   // frames at which the number of joints is tried
)

// counts are the numbers of joints that are tried.
var counts = []int{4, 6, 8, 12, 16, 24, 32, 48, 64, 96, 128, 192}

// Track is a body under way.
type Track struct {
	// Places are the forward coordinates of the joints on the straight body.
	Places []float64
	// Joints hold, of each joint, ten floats a frame: place, rotation (x y z w) and scale below the
	// carrier of the body's group.
	Joints [][]float32
	// Used are the blends of the body that move or are not 0, Amounts theirs in each frame.
	Used    []int
	Amounts [][]float32
	// Off is the greatest distance of the joints' shape from the true one so far, metres.
	Off float64
	// Rest are the vertices of the straight body.
	Rest []float32

	turns  geom.Turns
	deltas [][]float32 // of each used blend
	held   []holding   // of each vertex, by the joints at Places; nil of bodies whose frames are not kept
}

// holding is the joint behind a vertex and the share of the one ahead.
type holding struct {
	joint int
	ahead float64
}

// holdings are those of all vertices of a body by joints at some places.
func holdings(s rig.Skeleton, places []float64) []holding {
	out := make([]holding, s.Vertices())
	for v := range out {
		out[v].joint, out[v].ahead = hold(places, s.Place(v))
	}
	return out
}

// Of prepares the bodies of a skeletal group. stopped is asked now and then and may be nil; when it says
// that nobody waits any more the tracks are not to be read.
func Of(s *rig.Scene, g *rig.Group, stopped func() bool) []Track {
	out := make([]Track, len(g.Things))
	made := map[*bend.Body]*Track{}
	looked, floats := looked{scene: s, group: g, stopped: stopped}, 0
	for k := range g.Things {
		floats += looks * 6 * g.Skeleton(k).Vertices()
	}
	looked.keep = floats < keptFloats
	for k := range out {
		o, b := &out[k], g.Skeleton(k)
		n := b.Vertices()
		o.Rest = make([]float32, 3*n)
		normals := make([]float32, 3*n)
		b.Rest(o.Rest, normals)
		o.Used = b.Used()
		o.Amounts = make([][]float32, len(o.Used))
		for _, x := range o.Used {
			d := make([]float32, 3*n)
			b.Blend(x, d, normals)
			o.deltas = append(o.deltas, d)
		}
		if like := made[b.Body]; like != nil {
			o.Places, o.held = like.Places, like.held
		} else {
			made[b.Body], o.Places = o, o.places(&looked, k)
			if looked.keep {
				o.held = holdings(b, o.Places)
			}
		}
		o.Joints = make([][]float32, len(o.Places))
	}
	return out
}

// looked are the frames of a group at which the number of joints is tried. They are kept where they are
// few vertices, and else made anew each time.
type looked struct {
	scene   *rig.Scene
	group   *rig.Group
	stopped func() bool
	over    bool // nobody waits any more
	keep    bool
	kept    [looks]*rig.Picture
	one     rig.Picture
}

// keptFloats is the most numbers of vertices that are kept, about 64 MB.
const keptFloats = 16 << 20

// at is look k; nil when the work has been cancelled.
func (l *looked) at(k int) *rig.Picture {
	if l.over = l.over || l.stopped != nil && l.stopped(); l.over {
		return nil
	}
	if l.kept[k] != nil {
		return l.kept[k]
	}
	r := l.scene.Doc.Range
	p := &l.one
	if l.keep {
		p = new(rig.Picture)
	}
	l.group.At(p, float64(r.First+k*(r.Count()-1)/(looks-1)))
	if l.keep {
		l.kept[k] = p
	}
	return p
}

// places are the fewest joints of those tried that keep body k within share at some frames.
func (o *Track) places(l *looked, k int) []float64 {
	b := l.group.Skeleton(k)
	var tried [][]float64
	for _, n := range counts {
		places := make([]float64, n)
		for j := range places {
			places[j] = b.Tail + b.Length()*float64(j)/float64(n-1)
		}
		tried = append(tried, places)
	}
	worst := o.worst(l, k, tried)
	best := tried[0]
	least := math.Inf(1)
	for n, places := range tried {
		off := worst(n)
		if n > 0 && off > gain*least {
			break // what is left is no matter of joints: an open jaw on a bend
		}
		if best, least = places, off; off <= share*b.Length() {
			break
		}
	}
	return best
}

// worst tells how far body k is off at most with each of the places tried. Where frames are kept it looks when it
// is asked; else it looks at each frame once, for all of them.
func (o *Track) worst(l *looked, k int, tried [][]float64) func(n int) float64 {
	if l.keep {
		return func(n int) (off float64) {
			held := holdings(l.group.Skeleton(k), tried[n])
			for f := range looks {
				if p := l.at(f); p != nil {
					off = max(off, o.off(l.group, p, k, tried[n], held))
				}
			}
			return off
		}
	}
	all := make([]float64, len(tried))
	for f := range looks {
		p := l.at(f)
		if p == nil {
			break
		}
		for n := range tried {
			all[n] = max(all[n], o.off(l.group, p, k, tried[n], nil))
		}
	}
	return func(n int) float64 { return all[n] }
}

// Hold is the joint behind a place and the share of the one ahead.
func (o *Track) Hold(z float64) (joint int, ahead float64) { return hold(o.Places, z) }

func hold(places []float64, z float64) (j int, ahead float64) {
	n := len(places)
	x := (z - places[0]) / (places[n-1] - places[0]) * float64(n-1)
	j = min(max(int(x), 0), n-2)
	return j, min(max(x-float64(j), 0), 1)
}

// off is the greatest distance of the joints' shape from the true one in a picture. held are the vertices'
// holdings where they are known.
func (o *Track) off(g *rig.Group, p *rig.Picture, k int, places []float64, held []holding) float64 {
	s := g.Skeleton(k)
	if !s.Shown(p) {
		return 0
	}
	truth, _ := g.Vertices(p, k)
	sections := append([]bend.Section(nil), s.Sections(p, places)...)
	amounts := s.Amounts(p)
	worst := 0.0
	for v := range s.Vertices() {
		q := vec3(o.Rest, v)
		for n, d := range o.deltas {
			if x := amounts[o.Used[n]]; x != 0 {
				q = q.Mad(vec3(d, v), x)
			}
		}
		var h holding
		if held != nil {
			h = held[v]
		} else {
			h.joint, h.ahead = hold(places, s.Place(v))
		}
		a, c := &sections[h.joint], &sections[h.joint+1]
		got := a.At(q.X, q.Y, q.Z-places[h.joint]).Lerp(c.At(q.X, q.Y, q.Z-places[h.joint+1]), h.ahead)
		worst = max(worst, got.Sub(vec3(truth, v)).Norm2())
	}
	return math.Sqrt(worst)
}

func vec3(list []float32, v int) geom.Vec {
	return geom.V(float64(list[3*v]), float64(list[3*v+1]), float64(list[3*v+2]))
}

// Frame adds the next frame of body k of a group.
func (o *Track) Frame(g *rig.Group, p *rig.Picture, k int) {
	s := g.Skeleton(k)
	o.Off = max(o.Off, o.off(g, p, k, o.Places, o.held))
	shown := s.Shown(p)
	for j, x := range s.Sections(p, o.Places) {
		at := o.turn(g, p, j, &x)
		w, along := float32(x.W), float32(1)
		if !shown {
			w, along = 0, 0
		}
		o.Joints[j] = append(append(o.Joints[j], at[:]...), w, w, along)
	}
	amounts := s.Amounts(p)
	for x, u := range o.Used {
		o.Amounts[x] = append(o.Amounts[x], float32(amounts[u]))
	}
}

// Prime takes in a frame that is not written, for the sides of the rotations of those that are.
func (o *Track) Prime(g *rig.Group, p *rig.Picture, k int) {
	for j, x := range g.Skeleton(k).Sections(p, o.Places) {
		o.turn(g, p, j, &x)
	}
}

// Append continues a track with what another of the same body has gathered in so many frames; false where it
// is not of that body.
func (o *Track) Append(more *Track, frames int) bool {
	if len(more.Joints) != len(o.Joints) || len(more.Amounts) != len(o.Amounts) {
		return false
	}
	for j, x := range more.Joints {
		if len(x) != frames*rig.Stride {
			return false
		}
		o.Joints[j] = append(o.Joints[j], x...)
	}
	for k, x := range more.Amounts {
		if len(x) != frames {
			return false
		}
		o.Amounts[k] = append(o.Amounts[k], x...)
	}
	o.Off = max(o.Off, more.Off)
	return true
}

// turn is where a joint is below its group's carrier, its rotation on the side of the one before.
func (o *Track) turn(g *rig.Group, p *rig.Picture, joint int, s *bend.Section) rig.Place {
	at := g.SectionUnder(p, s)
	o.turns.Steady(joint, at[3:])
	return at
}
