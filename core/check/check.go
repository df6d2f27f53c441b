// Package check measures pictures: is the spacing even, does the seam close, does
// anything flip, does the loop meet. Each result has its tolerance, where it is
// worst, and what to change when it is not right.
package check

import (
	"fmt"
	"math"

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

// Train measures rig i: spacing, seam where the train comes round, flips, loop.
func Train(s *rig.Scene, i int) []Result {
	m := &measure{scene: s, index: i, train: &s.Trains[i], id: s.Doc.Rigs[i].ID}
	out := []Result{m.spacing()}
	if m.train.ComesRound {
		out = append(out, m.seam())
	}
	return append(out, m.flips(), m.loop())
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
	p, _ := m.train.Curve.At(d)
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
	worstPiece, worstFrame := 0, m.scene.Doc.Range.First
	rg := m.scene.Doc.Range
	for k := range min(spacingFrames, rg.Count()) {
		frame := rg.First
		if k > 0 {
			frame += k * (rg.Count() - 1) / (min(spacingFrames, rg.Count()) - 1)
		}
		m.scene.Frame(&m.pic, frame)
		d := m.pic.Rigs[m.index].Distances
		for i := 1; i < len(d); i++ {
			step := d[i] - d[i-1]
			if !(step >= 0) { // over the seam: measured there
				continue
			}
			if d[i-1] >= 0 && d[i] <= t.Curve.Length() {
				step = t.Curve.Between(d[i-1], d[i])
			}
			if off := step - t.Layout.Pitch; math.Abs(off) > math.Abs(r.Value) {
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
	r.Text = fmt.Sprintf("From piece to piece along the path: %.3f mm, at most %.4f mm off.", t.Layout.Pitch*1000, math.Abs(r.Value)*1000)
	return r
}

// seam measures what is left between the last piece and the first beyond one
// pitch; negative where they overlap.
func (m *measure) seam() Result {
	t := m.train
	r := Result{ID: "seam", Rig: m.id, Unit: "m", Tolerance: lengthTol}
	first := m.scene.Doc.Range.First
	m.scene.Frame(&m.pic, first)
	d := m.pic.Rigs[m.index].Distances
	n := len(d)
	// The way round from the last piece to the first, on the path itself.
	over := d[0] - d[n-1]
	if over <= 0 {
		over += t.Curve.Length()
	}
	r.Value = over - t.Layout.Pitch
	if math.Abs(r.Value) < 1e-9*t.Curve.Length() {
		r.Value = 0
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
	frame := m.scene.Doc.Range.First
	m.scene.Frame(&m.pic, frame)
	d := append([]float64(nil), m.pic.Rigs[m.index].Distances...)
	rep := t.Field.Report()
	worst, piece, count := 0.0, 0, 0
	for i := range n {
		a, b := d[i], d[(i+1)%n]
		if b <= a {
			if !t.Curve.Closed() {
				continue
			}
			b += t.Curve.Length()
		}
		fa, fb := t.Field.Frame(a), t.Field.Frame(b)
		carried := facing.Carry(t.Curve, a, b, fa.U)
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

// loop compares the frame after the range with the range's first, up to pieces
// that changed places.
func (m *measure) loop() Result {
	t, rg := m.train, m.scene.Doc.Range
	r := Result{ID: "loop", Rig: m.id, Unit: "m", Tolerance: loopTol}
	var last rig.Picture
	m.scene.Frame(&m.pic, rg.First)
	m.scene.Frame(&last, rg.Last+1)
	a, b := &m.pic.Rigs[m.index], &last.Rigs[m.index]
	n := len(a.Distances)
	moved := t.Distance(0, float64(rg.Last+1)) - t.Distance(0, float64(rg.First))
	shift := 0
	if t.ComesRound {
		// Whole turns first: on a loop left open they are no whole number of pitches.
		rest := math.Remainder(moved, t.Curve.Length())
		shift = int(math.Mod(math.Round(rest/t.Layout.Pitch), float64(n)))
	}
	worst, angle, piece := -1.0, 0.0, 0
	for i := range n {
		j := ((i+shift)%n + n) % n
		p, q := b.Transforms[i*rig.Stride:], a.Transforms[j*rig.Stride:]
		gap := math.Hypot(math.Hypot(float64(p[0]-q[0]), float64(p[1]-q[1])), float64(p[2]-q[2]))
		// Of the rotation between two unit quaternions the dot product is the cosine
		// of half the angle; the sine from the difference keeps small angles exact.
		var sum, diff float64
		for k := 3; k < 7; k++ {
			sum += math.Pow(float64(p[k]+q[k]), 2)
			diff += math.Pow(float64(p[k]-q[k]), 2)
		}
		angle = max(angle, 4*math.Atan2(math.Sqrt(min(sum, diff)), math.Sqrt(max(sum, diff))))
		if gap > worst {
			worst, piece = gap, i
		}
	}
	r.Value = worst
	r.State = grade(worst, loopTol)
	if angle > loopAngle {
		r.State = Outside
	}
	r.Where = m.where(piece, rg.First)
	if r.State != Outside {
		r.Word = "meets"
		links := ""
		if k := math.Round(moved / t.Layout.Pitch); k != 0 && t.ComesRound {
			links = fmt.Sprintf(" after %.0f pitches of travel", math.Abs(k))
		}
		r.Text = fmt.Sprintf("Frame %d shows frame %d again%s, within %.4f mm.", rg.Last+1, rg.First, links, worst*1000)
		return r
	}
	r.Word = "jumps"
	r.Text = fmt.Sprintf("From frame %d to frame %d pieces jump by %.1f mm", rg.Last, rg.First, worst*1000)
	if angle > loopAngle {
		r.Text += fmt.Sprintf(" and %.1f°", angle*180/math.Pi)
	}
	r.Text += "."
	r.Remedies = m.loopRemedies(moved)
	return r
}

// loopRemedies offers the nearest travel over the range at which pieces stand
// where pieces stood: a speed, or the keys' values stretched from the first key on
// (every kind of end stretches alike, for values are linear in their keys').
func (m *measure) loopRemedies(moved float64) []Remedy {
	t, rg := m.train, m.scene.Doc.Range
	r := &m.scene.Doc.Rigs[m.index]
	if !t.ComesRound || r.Spacing.Offset.Moves() || !r.Travel.Moves() {
		return nil
	}
	// On a loop left open only a whole turn brings the gap back to its place.
	period, what := t.Layout.Pitch, "pitches"
	if math.Abs(t.Layout.Seam) > lengthTol {
		period, what = t.Curve.Length(), "turns"
	}
	whole := math.Round(moved / period)
	if whole == 0 {
		whole = math.Copysign(1, moved)
	}
	if math.Abs(whole) == 1 {
		what = map[string]string{"pitches": "pitch", "turns": "turn"}[what]
	}
	mend := Remedy{Label: fmt.Sprintf("Run %.0f %s in %d frames", math.Abs(whole), what, rg.Count())}
	if r.Travel.Speed != nil {
		speed := whole * period * m.scene.Clock.FPS / float64(rg.Count())
		mend.Edits = []Edit{{m.pointer("travel/speed"), speed}}
		return []Remedy{mend}
	}
	if math.Abs(moved) < 1e-3*period {
		return nil // keys that come back to where they were: stretching moves nothing
	}
	first := r.Travel.Keys[0].Value
	for i, k := range r.Travel.Keys {
		for _, h := range []struct {
			name string
			v    *[2]float64
		}{{"in", k.In}, {"out", k.Out}} {
			if h.v != nil {
				mend.Edits = append(mend.Edits, Edit{m.pointer("travel/keys/%d/%s/1", i, h.name), h.v[1] * whole * period / moved})
			}
		}
	}
	for i, k := range r.Travel.Keys[1:] {
		mend.Edits = append(mend.Edits, Edit{m.pointer("travel/keys/%d/value", i+1), first + (k.Value-first)*whole*period/moved})
	}
	return []Remedy{mend}
}
