// Package check measures pictures: is the spacing even, does the seam close, does
// anything flip, does the loop meet. Each result has its tolerance, where it is
// worst, and what to change when it is not right.
package check

import (
	"fmt"
	"math"
	"slices"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
)

// State grades a result against its tolerance.
type State string

// The states. Near is inside, but with less than a third of the tolerance left.
const (
	Inside  State = "inside"
	Near    State = "near"
	Outside State = "outside"
)

// Result is one measured property of one rig.
type Result struct {
	ID        string   `json:"id"` // spacing, seam, flips, loop
	Rig       string   `json:"rig"`
	Value     float64  `json:"value"`     // in Unit
	Unit      string   `json:"unit"`      // m or pieces
	Tolerance float64  `json:"tolerance"` // greatest |Value| that is inside
	State     State    `json:"state"`
	Word      string   `json:"word"` // the state in a word of this check
	Text      string   `json:"text"` // a sentence
	Of        int      `json:"of,omitempty"`
	Where     *Where   `json:"where,omitempty"`
	Remedies  []Remedy `json:"remedies,omitempty"`
}

// Where is the place at which a result is worst. Piece counts from 1.
type Where struct {
	Piece    int        `json:"piece"`
	Distance float64    `json:"distance"`
	Frame    int        `json:"frame"`
	Position scene.Vec3 `json:"position"`
}

// Remedy is an edit of the document that mends the result.
type Remedy struct {
	Label string `json:"label"`
	Edits []Edit `json:"edits"`
}

// Edit sets the field at a JSON pointer (RFC 6901) to a value.
type Edit struct {
	Path  string `json:"path"`
	Value any    `json:"value"`
}

// Tolerances.
const (
	lengthTol     = 0.0005 // metres: half a millimetre of spacing or seam
	loopTol       = 0.0001 // metres between a piece and its successor one loop later
	loopAngle     = 0.1 * math.Pi / 180
	flipAngle     = math.Pi / 4 // turn of up between neighbours that is not the curve's doing
	stretchAngle  = math.Pi / 2
	nearShare     = 2.0 / 3
	spacingFrames = 5 // frames over the range at which spacing is measured
	seamFrames    = 9 // the same for the seam of a path that is deformed over time
)

func grade(value, tolerance float64) State {
	switch v := math.Abs(value); {
	case v > tolerance || math.IsNaN(v):
		return Outside
	case v > nearShare*tolerance:
		return Near
	}
	return Inside
}

// All measures every rig of the scene, in the order of its rigs.
func All(s *rig.Scene) []Result {
	var out []Result
	for i := range s.Trains {
		out = append(out, Train(s, i)...)
	}
	return out
}

// Passed reports whether no result is outside its tolerance.
func Passed(results []Result) bool {
	for _, r := range results {
		if r.State == Outside {
			return false
		}
	}
	return true
}

// Train measures rig i: spacing, seam where the train comes round, flips, slip where
// it rolls with a carrier, the step where it is to be in step with another, the loop.
func Train(s *rig.Scene, i int) []Result {
	m := &measure{scene: s, index: i, train: &s.Trains[i], id: s.Doc.Rigs[i].ID}
	r := m.train.Rig()
	var out []Result
	if r.Kind == scene.KindTrain {
		if m.train.Pinned {
			out = append(out, m.pins())
		} else {
			out = append(out, m.spacing())
		}
		if m.train.ComesRound {
			out = append(out, m.seam())
		}
	}
	if m.train.Bends() {
		out = append(out, m.bodies()...)
	}
	if r.Kind == scene.KindBend {
		out = append(out, m.bodyFlips())
	} else {
		out = append(out, m.flips())
	}
	if r.Travel.Rolls != nil && r.Kind == scene.KindTrain {
		out = append(out, m.slip())
	}
	if w := m.wrap(); w != nil && r.Kind == scene.KindTrain {
		if w.Keep != nil || m.scene.Deforms(m.train.Path) {
			out = append(out, m.tension())
		}
		if slices.ContainsFunc(w.Wheels, func(x scene.Wheel) bool { return x.Teeth > 0 && !x.Free }) {
			out = append(out, m.phase())
		}
		if w.OnGround() {
			out = append(out, m.floor())
		}
	}
	if _, held := m.scene.Held(m.train.Path, float64(m.scene.Doc.Range.First)); held {
		out = append(out, m.cable())
	}
	if r.InStep != "" {
		out = append(out, m.step())
	}
	return append(out, m.loop())
}

type measure struct {
	scene *rig.Scene
	index int
	train *rig.Train
	id    string
	pic   rig.Picture
}

func (m *measure) where(piece, frame int) *Where {
	m.scene.Frame(&m.pic, frame)
	d := m.pic.Rigs[m.index].Distances[piece]
	p, _ := m.train.At(float64(frame)).Curve.At(d)
	p = m.scene.PathPlace(m.train.Path, float64(frame)).Apply(p)
	return &Where{Piece: piece + 1, Distance: d, Frame: frame, Position: p.Array()}
}

func (m *measure) pointer(format string, args ...any) string {
	return fmt.Sprintf("/rigs/%d/", m.index) + fmt.Sprintf(format, args...)
}

// spacing measures the distance along the path from each piece to the next, by
// integrating the curve between the two anew, not by the table that placed them.
func (m *measure) spacing() Result {
	t := m.train
	r := Result{ID: "spacing", Rig: m.id, Unit: "m", Tolerance: lengthTol, Of: t.Layout.Count}
	rg := m.scene.Doc.Range
	worstPiece, worstFrame, settled := 0, m.train.SettledFrame(), false
	for k := range min(spacingFrames, rg.Count()) {
		frame := rg.First
		if k > 0 {
			frame += k * (rg.Count() - 1) / (min(spacingFrames, rg.Count()) - 1)
		}
		if !t.Settled(float64(frame)) { // pieces that are under way
			if frame = t.SettledFrame(); !t.Settled(float64(frame)) {
				continue
			}
		}
		settled = true
		m.scene.Frame(&m.pic, frame)
		now := t.At(float64(frame))
		d := m.pic.Rigs[m.index].Distances
		for i := 1; i < len(d); i++ {
			step := d[i] - d[i-1]
			if !(step >= 0) { // over the seam: measured there
				continue
			}
			if d[i-1] >= 0 && d[i] <= now.Curve.Length() {
				step = now.Curve.Between(d[i-1], d[i])
			}
			if off := step - (now.Layout.At(i) - now.Layout.At(i-1)); math.Abs(off) > math.Abs(r.Value) {
				r.Value, worstPiece, worstFrame = off, i, frame
			}
		}
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = m.where(worstPiece, worstFrame)
	r.Word = "even"
	if r.State == Outside {
		r.Word = "uneven"
	}
	if !settled {
		r.Text = "At no frame that was looked at have all pieces arrived: lengthen the range or let them arrive sooner."
		return r
	}
	if places := t.Layout.Places; places != nil && r.State != Outside {
		least, most := math.Inf(1), 0.0
		for i := 1; i < len(places); i++ {
			least, most = min(least, places[i]-places[i-1]), max(most, places[i]-places[i-1])
		}
		r.Word = "scattered"
		r.Text = fmt.Sprintf("From piece to piece along the path: from %.1f to %.1f mm, %.1f mm on average, at most %.4f mm off.", least*1000, most*1000, t.Layout.Pitch*1000, math.Abs(r.Value)*1000)
		return r
	}
	r.Text = fmt.Sprintf("From piece to piece along the path: %.3f mm, at most %.4f mm off.", t.Layout.Pitch*1000, math.Abs(r.Value)*1000)
	return r
}

// seam measures what is left between the last piece and the first beyond one
// pitch; negative where they overlap.
func (m *measure) seam() Result {
	t := m.train
	r := Result{ID: "seam", Rig: m.id, Unit: "m", Tolerance: lengthTol}
	first, n := t.SettledFrame(), t.Layout.Count
	frames := []int{first}
	if m.scene.Deforms(t.Path) { // its length changes
		for k := 1; k < seamFrames; k++ {
			frames = append(frames, first+k*(m.scene.Doc.Range.Last-first)/(seamFrames-1))
		}
	}
	for _, f := range frames {
		m.scene.Frame(&m.pic, f)
		d, now := m.pic.Rigs[m.index].Distances, t.At(float64(f))
		if t.Pinned {
			// From the last pin to the first, where they are to be one.
			v := now.Layout.Seam
			if pins := m.pic.Rigs[m.index].Pins; v == 0 {
				p, _ := now.Curve.At(pins[0])
				q, _ := now.Curve.At(pins[n])
				v = q.Sub(p).Norm()
			}
			if math.Abs(v) > max(math.Abs(r.Value), 1e-9*now.Curve.Length()) {
				r.Value, first = v, f
			}
			continue
		}
		// The way round from the last piece to the first, on the path itself.
		over := d[0] - d[n-1]
		if over <= 0 {
			over += now.Curve.Length()
		}
		if v := over - now.Layout.Closing(); math.Abs(v) > max(math.Abs(r.Value), 1e-9*now.Curve.Length()) {
			r.Value, first = v, f
		}
	}
	r.State = grade(r.Value, r.Tolerance)
	r.Where = m.where(n-1, first)
	switch {
	case r.State != Outside:
		r.Word = "closed"
		r.Text = fmt.Sprintf("Piece %d meets piece 1 within %.4f mm.", n, math.Abs(r.Value)*1000)
		return r
	case r.Value > 0:
		r.Word = "open"
		r.Text = fmt.Sprintf("%.1f mm are left open between piece %d and piece 1.", r.Value*1000, n)
	default:
		r.Word = "overlaps"
		r.Text = fmt.Sprintf("Piece %d and piece 1 overlap by %.1f mm.", n, -r.Value*1000)
	}
	r.Remedies = append(r.Remedies, Remedy{"Close up: spread the rest over the pitch", []Edit{
		{m.pointer("spacing/mode"), "close up"}, {m.pointer("spacing/rest"), "pitch"},
	}})
	if slot := m.scene.Doc.Paths[t.Path].Shape.Slot; slot != nil && slot.Length-r.Value/2 >= 0 {
		word, by := "Shorten", r.Value/2
		if by < 0 {
			word, by = "Lengthen", -by
		}
		r.Remedies = append(r.Remedies, Remedy{
			fmt.Sprintf("%s the straights by %.1f mm", word, by*1000),
			[]Edit{{fmt.Sprintf("/paths/%d/shape/slot/length", t.Path), slot.Length - r.Value/2}},
		})
	}
	return r
}

// flips counts the neighbours between which up turns about forward by more than
// flipAngle beyond what least twist and the chosen extra turns explain, and the
// stretches over which a facing had to turn by more than stretchAngle.
func (m *measure) flips() Result {
	t := m.train
	n := t.Layout.Count
	r := Result{ID: "flips", Rig: m.id, Unit: "pieces", Of: n}
	frame := t.SettledFrame()
	m.scene.Frame(&m.pic, frame)
	d := append([]float64(nil), m.pic.Rigs[m.index].Distances...)
	now := t.At(float64(frame))
	rep := now.Field.Report()
	worst, piece, count := 0.0, 0, 0
	for i := range n {
		a, b := d[i], d[(i+1)%n]
		if b <= a {
			if !now.Curve.Closed() || n == 1 {
				continue
			}
			b += now.Curve.Length()
		}
		fa, fb := now.Field.Frame(a), now.Field.Frame(b)
		carried := facing.Carry(now.Curve, a, b, fa.U)
		turn := geom.AngleAbout(fb.T, carried, fb.U) - rep.Twist*(b-a)
		turn = math.Abs(math.Remainder(turn, 2*math.Pi))
		if turn > flipAngle {
			count++
		}
		if turn > worst {
			worst, piece = turn, i
		}
	}
	stretches := 0
	for _, a := range rep.Along {
		if math.Abs(a.Turn) > stretchAngle {
			stretches++
		}
	}
	r.Value = float64(max(count, stretches))
	r.State = grade(r.Value, 0)
	r.Where = m.where(piece, frame)
	r.Word = "none"
	r.Text = fmt.Sprintf("Up turns by at most %.1f° between neighbours beyond what the curve explains.", worst*180/math.Pi)
	if r.State == Outside {
		r.Word = "flips"
		facingFields := []Edit{{m.pointer("facing/mode"), "least-twist"}}
		label := "Face by least twist"
		if pl := t.Curve.Plane(); !pl.Line && pl.Off < 1e-3*t.Curve.Length() {
			facingFields[0].Value, label = "loopside", "Face loopside"
		}
		r.Remedies = []Remedy{{label, facingFields}}
		if stretches > 0 {
			why := "The path runs along its up"
			switch t.Mode() {
			case facing.Guide:
				why = "The guide says nothing"
			case facing.Turn:
				why = "The bend changes sides"
			}
			worst := rep.Along[0]
			for _, a := range rep.Along {
				if math.Abs(a.Turn) > math.Abs(worst.Turn) {
					worst = a
				}
			}
			r.Text = fmt.Sprintf("%s at %.3f m, and up has to turn by %.0f° there.", why, worst.From, math.Abs(worst.Turn)*180/math.Pi)
		}
	}
	return r
}
