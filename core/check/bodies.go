package check

import (
	"fmt"
	"math"
	"slices"

	"bead/core/bend"
	"bead/core/facing"
	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
)

const (
	keepTol    = 1e-6   // metres by which the centre line of a body may be too long (MATH 7)
	facetTol   = 0.0005 // metres between a body's straight edges and its path
	foldTol    = 100.0  // % by which the inside of a bend may be pressed together: then it folds
	strainTol  = 50.0   // % by which the outside of a bend may be drawn out
	bodyFrames = 13     // at which bodies are looked at
	flipLooks  = 64     // places along a body at which its up is looked at
)

// bodies measures what the pieces of a rig that bends do.
func (m *measure) bodies() []Result {
	look := m.look()
	out := []Result{}
	if m.train.Rig().Kind == scene.KindBend {
		out = append(out, m.length(look))
	}
	out = append(out, m.facets(look), m.fold(look), m.strain(look), m.below(look))
	if !m.train.Curve.Closed() {
		out = append(out, m.ends(look))
	}
	return out
}

// spot is a place on a body at a frame.
type spot struct {
	value   float64
	piece   int
	frame   int
	along   float64 // distance on the path
	at      geom.Vec
	segment float64 // facets: the curvature there, 1/m
}

// looked is what was found on the bodies over the range.
type looked struct {
	length, facet, pressed, drawn, deep, beyond spot
	stretch                                     [2]float64 // least and greatest
}

// look goes over the bodies at some frames of the range.
func (m *measure) look() *looked {
	t := m.train
	out := &looked{stretch: [2]float64{math.Inf(1), 0}, deep: spot{value: math.Inf(-1)}, beyond: spot{value: math.Inf(-1)}}
	first := m.scene.Doc.Range.First
	for _, s := range []*spot{&out.length, &out.facet, &out.pressed, &out.drawn, &out.deep, &out.beyond} {
		s.frame = first
	}
	ground := m.scene.Ground()
	var amounts []float64
	for _, f := range m.frames(bodyFrames) {
		m.scene.Frame(&m.pic, f)
		p := &m.pic.Rigs[m.index]
		now := t.At(float64(f))
		curve, pose := now.Curve, m.scene.PathPlace(t.Path, float64(f))
		base := 0
		for i := range p.Reach {
			body, r := t.Body(i), p.Reach[i]
			n := body.Vertices()
			at := base
			base += 3 * n
			if !r.Shown {
				continue
			}
			place := func(z float64) float64 { return r.Tail + (z-body.Tail)*r.Stretch }
			better := func(s *spot, v, along float64, pos geom.Vec) {
				if v > s.value {
					*s = spot{value: v, piece: i, frame: f, along: along, at: pos}
				}
			}
			out.stretch = [2]float64{min(out.stretch[0], r.Stretch), max(out.stretch[1], r.Stretch)}
			middle, _ := curve.At((r.Tail + r.Head) / 2)
			better(&out.length, math.Abs(m.covered(curve, r)-body.Length()*r.Stretch), (r.Tail+r.Head)/2, pose.Apply(middle))
			var w bend.Work
			body.Pose(&w, amounts)
			sections := t.Sections(p, i, float64(f), w.Places)
			pressed, drawn := body.Strains(&w, sections)
			if v := pressed.Vertex; pressed.Strain < 0 {
				better(&out.pressed, -pressed.Strain, place(body.Place(v)), vertexAt(p.Positions, at, v))
			}
			if v := drawn.Vertex; drawn.Strain > 0 {
				better(&out.drawn, drawn.Strain, place(body.Place(v)), vertexAt(p.Positions, at, v))
			}
			for _, e := range body.Edges() {
				s := place((e.From + e.To) / 2)
				k := curve.Curvature(s).Norm()
				if v := bend.Facet(k, e.To-e.From, r.Stretch); v > out.facet.value {
					pos, _ := curve.At(s)
					better(&out.facet, v, s, pose.Apply(pos))
					out.facet.segment = k * r.Stretch * r.Stretch
				}
			}
			for v := range n {
				q := vertexAt(p.Positions, at, v)
				h, slope := ground.Height(q.Z)
				better(&out.deep, (h-q.Y)/math.Hypot(1, slope), place(body.Place(v)), q)
			}
			tail, head := -r.Tail, r.Head-curve.Length()
			end, _ := curve.At(min(max(r.Head, 0), curve.Length()))
			if tail > head {
				end, _ = curve.At(max(r.Tail, 0))
			}
			better(&out.beyond, max(tail, head), min(max(r.Head, 0), curve.Length()), pose.Apply(end))
		}
	}
	return out
}

func vertexAt(list []float32, base, v int) geom.Vec {
	k := base + 3*v
	return geom.V(float64(list[k]), float64(list[k+1]), float64(list[k+2]))
}

// covered is the length of the centre line, by integrating the path anew.
func (m *measure) covered(c interface {
	Between(a, b float64) float64
	Length() float64
	Closed() bool
}, r rig.Reach) float64 {
	if c.Closed() {
		turns := math.Floor(r.Tail / c.Length())
		a, b := r.Tail-turns*c.Length(), r.Head-turns*c.Length()
		sum, end := 0.0, math.Nextafter(c.Length(), 0) // the length itself is the start again
		for b > end {
			sum += c.Between(min(a, end), end)
			a, b = 0, b-c.Length()
		}
		return sum + c.Between(a, max(b, a))
	}
	a, b := min(max(r.Tail, 0), c.Length()), min(max(r.Head, 0), c.Length())
	beyond := math.Max(-r.Tail, 0) - math.Max(-r.Head, 0) + math.Max(r.Head-c.Length(), 0) - math.Max(r.Tail-c.Length(), 0)
	return c.Between(a, b) + beyond
}

// whereAt is a spot as a result points at it.
func (m *measure) whereAt(s *spot) *Where {
	return &Where{Piece: s.piece + 1, Distance: s.along, Frame: s.frame, Position: s.at.Array()}
}

// length measures the centre line against what the fit asks for.
func (m *measure) length(l *looked) Result {
	r := Result{ID: "length", Rig: m.id, Unit: "m", Value: l.length.value, Tolerance: keepTol, Word: "kept", Where: m.whereAt(&l.length)}
	r.State = grade(r.Value, r.Tolerance)
	b := m.train.Rig().Bend
	own := m.train.Body(0).Length()
	r.Text = fmt.Sprintf("Its middle line keeps %.4g m within %.2g mm.", own, r.Value*1000)
	if b.Fit != scene.FitKeep {
		r.Word = "as asked"
		r.Text = fmt.Sprintf("It is drawn out from %.0f to %.0f %% of its own length of %.4g m.", l.stretch[0]*100, l.stretch[1]*100, own)
	}
	if l.stretch[0] < 0.01 { // its head has come to its tail
		r.State, r.Word = Outside, "collapsed"
		r.Text = "Its head comes to its tail or behind it: put the head farther along."
		r.Remedies = []Remedy{{"Keep its length", []Edit{{m.pointer("bend/fit"), scene.FitKeep}}}}
	}
	return r
}

// cable measures whether a hanging cable still reaches between its ends where carriers hold them. Where
// it does not, it is drawn as in the first frame, which has to be said.
func (m *measure) cable() Result {
	i := m.train.Path
	long := m.scene.Doc.Paths[i].Shape.Hang.Length
	r := Result{ID: "tension", Rig: m.id, Unit: "m", Tolerance: tensionTol, Word: "hangs"}
	least, at := math.Inf(1), m.scene.Doc.Range.First
	for _, f := range m.frames(tensionFrames) {
		if apart, _ := m.scene.Held(i, float64(f)); long-apart < least {
			least, at = long-apart, f
		}
	}
	r.Where = m.where(0, at)
	r.Text = fmt.Sprintf("Its ends come at most to within %.1f mm of its length of %.4g m.", least*1000, long)
	if r.Value = min(least, 0); least > 0 {
		r.State = Inside
		return r
	}
	r.State, r.Word = Outside, "too short"
	r.Text = fmt.Sprintf("At frame %d its ends are %.1f mm farther apart than it is long: it is shown there as in the first frame.", at, -least*1000)
	longer := math.Ceil((long-least)*1.01*1000) / 1000
	r.Remedies = []Remedy{{fmt.Sprintf("Make it %.4g m long", longer), []Edit{{fmt.Sprintf("/paths/%d/shape/hang/length", i), longer}}}}
	return r
}

// facets measures how far the straight edges along the body stray from the bend.
func (m *measure) facets(l *looked) Result {
	t := m.train
	body := t.Body(l.facet.piece)
	r := Result{ID: "facets", Rig: m.id, Unit: "m", Value: l.facet.value, Tolerance: facetTol, Word: "smooth", Where: m.whereAt(&l.facet)}
	r.State = grade(r.Value, r.Tolerance)
	r.Text = fmt.Sprintf("Its edges stray at most %.3f mm from the bend.", r.Value*1000)
	if r.State == Outside {
		r.Word = "faceted"
		n := bend.SegmentsFor(body.Length(), l.facet.segment, facetTol*0.6)
		part := t.PartOf(l.facet.piece)
		r.Text = fmt.Sprintf("Straight edges stray %.1f mm from the bend: at %.4g m it has a radius of %.0f mm, and the body too few sections for it.", r.Value*1000, l.facet.along, 1000/math.Max(m.curvatureAt(&l.facet), 1e-9))
		if shape := &m.scene.Doc.Parts[part].Shape; shape.Coil == nil && shape.Strands == nil {
			r.Remedies = []Remedy{{fmt.Sprintf("Cut it into %d segments", n), []Edit{{fmt.Sprintf("/parts/%d/segments", part), n}}}}
		}
	}
	return r
}

func (m *measure) curvatureAt(s *spot) float64 {
	return m.train.At(float64(s.frame)).Curve.Curvature(s.along).Norm()
}

// fold measures how far the inside of a bend is pressed together; at 100 % it folds over itself.
func (m *measure) fold(l *looked) Result {
	r := Result{ID: "fold", Rig: m.id, Unit: "%", Value: l.pressed.value * 100, Tolerance: foldTol, Word: "none", Where: m.whereAt(&l.pressed)}
	r.State = grade(r.Value, r.Tolerance)
	if r.Value >= foldTol {
		r.State = Outside
	}
	r.Text = fmt.Sprintf("On the inside of its tightest bend it is pressed together by %.0f %%.", r.Value)
	if r.State == Outside {
		r.Word = "folds"
		k := m.curvatureAt(&l.pressed)
		r.Text = fmt.Sprintf("At %.4g m the bend has a radius of %.0f mm, and the body is thicker towards it than that: it folds over itself.", l.pressed.along, 1000/math.Max(k, 1e-9))
		r.Remedies = m.thinner(l.pressed.value / 0.6)
	}
	return r
}

// strain measures how far the outside of a bend is drawn out: curvature times half the thickness.
func (m *measure) strain(l *looked) Result {
	s := l.drawn
	if l.pressed.value > s.value {
		s = l.pressed
	}
	r := Result{ID: "strain", Rig: m.id, Unit: "%", Value: s.value * 100, Tolerance: strainTol, Word: "slight", Where: m.whereAt(&s)}
	r.State = grade(r.Value, r.Tolerance)
	r.Text = fmt.Sprintf("What runs along it is at most %.1f %% longer or shorter than its middle.", r.Value)
	if r.State == Outside {
		r.Word = "stretched"
		r.Text = fmt.Sprintf("At %.4g m the skin is %.0f %% longer or shorter than the middle: the shape is squashed there.", s.along, r.Value)
		r.Remedies = m.thinner(s.value / 0.4)
	}
	return r
}

// thinner offers a body thinner by a factor, or a path whose bends are wider.
func (m *measure) thinner(by float64) []Remedy {
	t := m.train
	path := &m.scene.Doc.Paths[t.Path]
	var out []Remedy
	steps := append(slices.Clone(path.Steps), scene.Step{Smooth: &scene.SmoothStep{Reach: math.Round(t.Body(0).Half*4*1000) / 1000}})
	if path.Shape.Wrap == nil {
		out = append(out, Remedy{"Smooth the path's bends", []Edit{{fmt.Sprintf("/paths/%d/steps", t.Path), steps}}})
	}
	if b := t.Rig().Bend; b != nil && len(b.Taper) == 0 {
		scale := math.Floor(100/by) / 100
		if scale >= 0.01 {
			out = append(out, Remedy{fmt.Sprintf("Make it %.0f %% as thick", scale*100), []Edit{{m.pointer("bend/taper"), []scene.TaperBead{{At: 0, Scale: scale}}}}})
		}
	}
	return out
}

// below measures how deep bodies come into the ground.
func (m *measure) below(l *looked) Result {
	r := Result{ID: "floor", Rig: m.id, Unit: "m", Value: max(l.deep.value, 0), Tolerance: floorTol, Word: "clear", Where: m.whereAt(&l.deep)}
	r.State = grade(r.Value, r.Tolerance)
	r.Text = fmt.Sprintf("It comes at most %.2f mm into the ground.", r.Value*1000)
	if l.deep.value < 0 {
		r.Text = fmt.Sprintf("It stays %.1f mm above the ground.", -l.deep.value*1000)
	}
	if r.State == Outside {
		r.Word = "below"
		r.Text = fmt.Sprintf("At %.4g m it comes %.1f mm into the ground at frame %d.", l.deep.along, r.Value*1000, l.deep.frame)
		path := &m.scene.Doc.Paths[m.train.Path]
		if lowest, _ := m.scene.LowestOf(m.train.Path); path.Shape.Wrap == nil {
			steps := append(slices.Clone(path.Steps), scene.Step{Drop: &scene.DropStep{Clearance: lowest + r.Value}})
			out := Remedy{fmt.Sprintf("Lift the path by %.1f mm", r.Value*1000), []Edit{{fmt.Sprintf("/paths/%d/steps", m.train.Path), steps}}}
			r.Remedies = []Remedy{out}
		}
	}
	return r
}

// ends measures how far a body reaches beyond an open path.
func (m *measure) ends(l *looked) Result {
	t := m.train
	own := t.Body(l.beyond.piece).Length()
	r := Result{ID: "ends", Rig: m.id, Unit: "m", Value: max(l.beyond.value, 0), Tolerance: own, Word: "on the path", Where: m.whereAt(&l.beyond)}
	r.State = grade(r.Value, r.Tolerance)
	switch {
	case r.Value <= lengthTol:
		r.State, r.Text = Inside, "It stays on the path over the whole range."
	case r.State != Outside:
		r.Word = "straight on"
		r.Text = fmt.Sprintf("It runs %.1f mm straight on beyond the path's end at frame %d.", r.Value*1000, l.beyond.frame)
	default:
		r.Word = "left the path"
		r.Text = fmt.Sprintf("At frame %d it has left the path: it reaches %.4g m beyond its end.", l.beyond.frame, r.Value)
	}
	if r.State == Outside && t.Rig().Kind == scene.KindBend && t.Rig().PastEnd != scene.Stop {
		r.Remedies = []Remedy{{"Stop at the path's ends", []Edit{{m.pointer("pastEnd"), scene.Stop}}}}
	}
	return r
}

// bodyFlips counts the places along a body between which up turns about forward by more than
// flipAngle beyond what least twist and the turns that were asked for explain.
func (m *measure) bodyFlips() Result {
	t := m.train
	r := Result{ID: "flips", Rig: m.id, Unit: "places", Of: flipLooks, Word: "none"}
	frame := m.scene.Doc.Range.First
	now := t.At(float64(frame))
	reach := t.ReachOf(0, float64(frame))
	rep := now.Field.Report()
	step := (reach.Head - reach.Tail) / flipLooks
	worst, at, count := 0.0, 0.0, 0
	for i := range flipLooks {
		a := reach.Tail + step*float64(i)
		fa, fb := now.Field.Frame(a), now.Field.Frame(a+step)
		turn := geom.AngleAbout(fb.T, facing.Carry(now.Curve, a, a+step, fa.U), fb.U) - rep.Twist*step
		turn = math.Abs(math.Remainder(turn, 2*math.Pi))
		if turn > flipAngle {
			count++
		}
		if turn > worst {
			worst, at = turn, a
		}
	}
	r.Value = float64(count)
	r.State = grade(r.Value, 0)
	p, _ := now.Curve.At(at)
	r.Where = &Where{Piece: 1, Distance: at, Frame: frame, Position: m.scene.PathPlace(t.Path, float64(frame)).Apply(p).Array()}
	r.Text = fmt.Sprintf("Along it up turns by at most %.1f° from place to place beyond what the curve explains.", worst*inDegrees)
	if r.State == Outside {
		r.Word = "flips"
		r.Text = fmt.Sprintf("At %.4g m its up turns over by %.0f°.", at, worst*inDegrees)
		r.Remedies = []Remedy{{"Face by least twist", []Edit{{m.pointer("facing/mode"), "least-twist"}}}}
	}
	return r
}

// bodyJump is the greatest distance of a vertex at the loop's end from where it, or a copy that
// takes its place, is at the start, seen from the path's space.
func (m *measure) bodyJump(a, b *rig.Pieces, back geom.Rigid, shift int) (worst float64, piece int) {
	t := m.train
	n := len(b.Reach)
	if k := t.Rig().Bend; k != nil && k.Rounds != nil && k.Rounds.All {
		moved := t.ReachOf(0, float64(m.scene.Doc.Range.Last+1)).Tail - t.ReachOf(0, float64(m.scene.Doc.Range.First)).Tail
		if k.Rounds.Stride != 0 {
			shift = int(math.Round(moved / k.Rounds.Stride))
		}
	}
	start := make([]int, n+1)
	for i := range n {
		start[i+1] = start[i] + 3*t.Body(i).Vertices()
	}
	for i := range n {
		j := i + shift
		if t.ComesRound {
			j = (j%n + n) % n
		}
		if j < 0 || j >= n || t.PartOf(i) != t.PartOf(j) || !b.Reach[i].Shown || !a.Reach[j].Shown {
			continue
		}
		for v := range t.Body(i).Vertices() {
			if d := back.Apply(vertexAt(b.Positions, start[i], v)).Sub(vertexAt(a.Positions, start[j], v)).Norm(); d > worst {
				worst, piece = d, i
			}
		}
	}
	return worst, piece
}
