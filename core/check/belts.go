package check

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/place"
	"bead/core/rig"
	"bead/core/scene"
)

const (
	tensionTol    = 0.0005 // metres that a belt may lack or have too much
	tensionFrames = 48
	phaseShare    = 0.01  // of a pitch that a pin may stand beside its gap
	floorTol      = 0.002 // metres that a rigid piece may dip into ground that is not level
	floorFrames   = 24
)

// near is the piece next to a distance on the path at a frame.
func (m *measure) near(distance float64, frame int) *Where {
	m.scene.Frame(&m.pic, frame)
	best, least := 0, math.Inf(1)
	length := m.train.At(float64(frame)).Curve.Length()
	for i, d := range m.pic.Rigs[m.index].Distances {
		if off := math.Abs(math.Remainder(d-distance, length)); off < least {
			best, least = i, off
		}
	}
	return m.where(best, frame)
}

// wrap is the shape of the train's belt, nil of other paths.
func (m *measure) wrap() *scene.WrapShape { return m.scene.Doc.Paths[m.train.Path].Shape.Wrap }

// frames are up to n frames evenly over the range.
func (m *measure) frames(n int) []int {
	rg := m.scene.Doc.Range
	n = min(n, rg.Count())
	out := make([]int, n)
	for k := range out {
		out[k] = rg.First + k*(rg.Count()-1)/max(n-1, 1)
	}
	return out
}

// tension measures what a belt of kept length lacks, or has too much of where nothing
// takes it up, at its worst over the range. A frame in which there is no way for the belt
// is said first.
func (m *measure) tension() Result {
	w, i := m.wrap(), m.train.Path
	r := Result{ID: "tension", Rig: m.id, Unit: "m", Tolerance: tensionTol, Of: m.train.Layout.Count, Word: "held"}
	least, most, at, ok := math.Inf(1), math.Inf(-1), m.scene.Doc.Range.First, true
	for _, f := range m.frames(tensionFrames) {
		b := m.scene.Belt(i, float64(f))
		if b.Trouble != "" {
			r.State, r.Word, r.Where = Outside, "no way", m.where(0, f)
			r.Text = fmt.Sprintf("At frame %d %s. The belt is shown as in the first frame.", f, b.Trouble)
			return r
		}
		bad := b.Spare
		if b.Hanging {
			bad = 0
		}
		if math.Abs(bad) > math.Abs(r.Value) {
			r.Value, at = bad, f
		}
		ok = ok && (b.Spare <= tensionTol || b.Hanging)
		least, most = min(least, b.Spare), max(most, b.Spare)
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = m.where(0, at)
	if w.Keep == nil {
		r.Text = "There is a way for the belt in every frame; its length is as it comes."
		return r
	}
	kept := fmt.Sprintf("%d links of %.4g mm", w.Keep.Links, w.Keep.Pitch*1000)
	switch {
	case r.State != Outside && most <= tensionTol:
		r.Text = kept + " are taut in every frame."
	case r.State != Outside:
		r.Text = fmt.Sprintf("%s have from %.1f to %.1f mm to spare, which hang.", kept, least*1000, most*1000)
	case r.Value < 0:
		r.Word = "too short"
		r.Text = fmt.Sprintf("%s are %.1f mm too short at frame %d: the pieces are drawn apart.", kept, -r.Value*1000, at)
		r.Remedies = m.lengthRemedies(w, r.Value, at)
	default:
		r.Word = "too long"
		r.Text = fmt.Sprintf("%s are %.1f mm too long at frame %d, and nothing takes that up.", kept, r.Value*1000, at)
		r.Remedies = append(m.slackRemedies(w, at), m.lengthRemedies(w, r.Value, at)...)
	}
	return r
}

// slackRemedies lets the longest upper run hang.
func (m *measure) slackRemedies(w *scene.WrapShape, frame int) []Remedy {
	b := m.scene.Belt(m.train.Path, float64(frame))
	best, long := -1, 0.0
	for k, i := range b.Touching {
		r := &b.Runs[k]
		for n := range w.Wheels {
			if m.scene.WheelIndex(m.train.Path, n) == i && r.X1-r.X0 > long {
				best, long = n, r.X1-r.X0
			}
		}
	}
	if best < 0 || w.Wheels[best].Slack {
		return nil
	}
	return []Remedy{{"Let the run behind " + w.Wheels[best].Name + " hang", []Edit{{m.shape("wheels/%d/slack", best), true}}}}
}

// lengthRemedies offers the number of links that fits, and the move of a wheel.
func (m *measure) lengthRemedies(w *scene.WrapShape, spare float64, frame int) []Remedy {
	var out []Remedy
	// As many as reach round; what is more than that hangs.
	links := w.Keep.Links - int(math.Floor(spare/w.Keep.Pitch+1e-9))
	if links >= 2 && links != w.Keep.Links {
		edits := []Edit{{m.shape("keep/links"), links}}
		if sp := &m.train.Rig().Spacing; sp.Mode == place.SetCount && sp.Count == w.Keep.Links {
			edits = append(edits, Edit{m.pointer("spacing/count"), links})
		}
		out = append(out, Remedy{fmt.Sprintf("Use %d links", links), edits})
	}
	for n := len(w.Wheels) - 1; n >= 0; n-- {
		x := &w.Wheels[n]
		if x.Free || x.Ground || x.TakeUp != nil {
			continue
		}
		way, ok := m.scene.MoveToFit(m.train.Path, n, float64(frame))
		if !ok || math.Abs(way) < 1e-6 {
			continue
		}
		axis := map[string]int{"ahead": 0}[string(w.Plane)]
		if w.Plane != "ahead" {
			axis = 2
		}
		out = append(out, Remedy{fmt.Sprintf("Move %s by %+.1f mm", x.Name, way*1000), []Edit{{m.shape("wheels/%d/at/%d", n, axis), x.At[axis] + way}}})
		break
	}
	return out
}

func (m *measure) shape(format string, args ...any) string {
	return fmt.Sprintf("/paths/%d/shape/wrap/", m.train.Path) + fmt.Sprintf(format, args...)
}

// phase measures how far the pins on sprockets stand beside the gaps between the teeth.
func (m *measure) phase() Result {
	r := Result{ID: "teeth", Rig: m.id, Unit: "m", Tolerance: phaseShare * m.train.Layout.Pitch, Of: m.train.Layout.Count, Word: "mesh"}
	at, name, wrong, pin := m.scene.Doc.Range.First, "", -1, 0.0
	for _, f := range m.frames(spacingFrames) {
		m.scene.Frame(&m.pic, f)
		for _, e := range m.scene.Engaged(m.train.Path, float64(f), &m.pic) {
			if math.Abs(e.Off) > math.Abs(r.Value) {
				r.Value, at, name, wrong, pin = e.Off, f, m.wrap().Wheels[e.Wheel].Name, e.Wheel, e.Distance
			}
		}
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = m.near(pin, at)
	r.Text = fmt.Sprintf("Pins sit in their gaps within %.3f mm.", math.Abs(r.Value)*1000)
	if r.State != Outside {
		return r
	}
	r.Word = "beside"
	r.Text = fmt.Sprintf("On %s a pin stands %.2f mm beside its gap at frame %d.", name, math.Abs(r.Value)*1000, at)
	if w := &m.wrap().Wheels[wrong]; math.Abs(w.Pitch-m.train.Layout.Pitch) > 1e-3*w.Pitch {
		r.Text += fmt.Sprintf(" Its teeth have a pitch of %.4g mm, the pieces one of %.4g mm.", w.Pitch*1000, m.train.Layout.Pitch*1000)
	}
	if !m.train.Pinned {
		edits := []Edit{{m.pointer("seat"), scene.SeatEnds}}
		if k := m.wrap().Keep; k != nil && !k.Pins {
			edits = append(edits, Edit{m.shape("keep/pins"), true})
		}
		r.Remedies = append(r.Remedies, Remedy{"Seat the pieces on their pins", edits})
	}
	if k := m.wrap().Keep; k == nil && m.train.Pinned {
		w := &m.wrap().Wheels[wrong]
		links := int(math.Ceil(float64(m.train.Layout.Count) * m.train.Layout.Pitch / w.Pitch))
		r.Remedies = append(r.Remedies, Remedy{fmt.Sprintf("Keep the length of %d links of %.4g mm", links, w.Pitch*1000), []Edit{
			{m.shape("keep"), scene.KeptLength{Links: links, Pitch: w.Pitch, Pins: true}},
			{m.pointer("spacing/mode"), place.SetCount}, {m.pointer("spacing/count"), links},
		}})
	}
	return r
}

// floor measures how deep pieces come into the ground that their belt rides on.
func (m *measure) floor() Result {
	r := Result{ID: "floor", Rig: m.id, Unit: "m", Tolerance: floorTol, Of: m.train.Layout.Count, Word: "clear"}
	ground := m.scene.Ground()
	at, piece := m.scene.Doc.Range.First, 0
	for _, f := range m.frames(floorFrames) {
		m.scene.Frame(&m.pic, f)
		x := m.pic.Rigs[m.index].Transforms
		for i := range m.pic.Rigs[m.index].Distances {
			part := &m.scene.Parts[m.train.PartOf(i)]
			o := x[i*rig.Stride : (i+1)*rig.Stride]
			pose, size := placed(o), float64(o[7])
			low := pose.P.Y - size*part.Bounds.Max.Sub(part.Bounds.Min).Norm()
			if h, _ := ground.Height(pose.P.Z); low > h {
				continue
			}
			v := part.Mesh.Positions
			for k := 0; k < len(v); k += 3 {
				p := pose.Apply(geom.V(float64(v[k]), float64(v[k+1]), float64(v[k+2])).Mul(size))
				h, slope := ground.Height(p.Z)
				if deep := (h - p.Y) / math.Hypot(1, slope); deep > r.Value {
					r.Value, at, piece = deep, f, i
				}
			}
		}
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = m.where(piece, at)
	r.Text = fmt.Sprintf("No piece comes more than %.2f mm into the ground.", r.Value*1000)
	if r.State == Outside {
		r.Word = "below"
		r.Text = fmt.Sprintf("Piece %d comes %.1f mm into the ground at frame %d.", piece+1, r.Value*1000, at)
		if w := m.wrap(); r.Value > w.Depth*0.05 {
			r.Remedies = []Remedy{{fmt.Sprintf("Lay the belt %.1f mm higher", r.Value*1000), []Edit{{m.shape("depth"), w.Depth + r.Value}}}}
		}
	}
	return r
}

// pins measures the straight distance from pin to pin of a train that sits on its pins,
// against the pitch of its links.
func (m *measure) pins() Result {
	t := m.train
	pitch := t.Layout.Pitch
	if w := m.wrap(); w != nil && w.Keep != nil && w.Keep.Pins {
		pitch = w.Keep.Pitch
	}
	r := Result{ID: "spacing", Rig: m.id, Unit: "m", Tolerance: lengthTol, Of: t.Layout.Count, Word: "even"}
	worst, at := 0, m.scene.Doc.Range.First
	for _, f := range m.frames(spacingFrames) {
		m.scene.Frame(&m.pic, f)
		curve, pins := t.At(float64(f)).Curve, m.pic.Rigs[m.index].Pins
		for k := 1; k < len(pins); k++ {
			p, _ := curve.At(pins[k-1])
			q, _ := curve.At(pins[k])
			if off := q.Sub(p).Norm() - pitch; math.Abs(off) > math.Abs(r.Value) {
				r.Value, worst, at = off, k-1, f
			}
		}
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = m.where(worst, at)
	if r.State == Outside {
		r.Word = "uneven"
	}
	r.Text = fmt.Sprintf("From pin to pin in a straight line: %.3f mm, at most %.4f mm off.", pitch*1000, math.Abs(r.Value)*1000)
	return r
}
