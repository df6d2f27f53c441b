// Package check measures pictures: is the spacing even, does the seam close, does
// anything flip, does the loop meet. Each result has its tolerance, where it is
// worst, and what to change when it is not right.
//
// A check looks at every frame of the range, or says at how many it has looked: Run goes
// over the frames once for all checks, on several cores, and can be stopped.
package check

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"strconv"
	"strings"

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
	ID        string   `json:"id"` // spacing, seam, flips, loop ...
	Rig       string   `json:"rig"`
	Value     float64  `json:"value"`     // in Unit: the figure that decides
	Unit      string   `json:"unit"`      // m, m/frame, %, ° or what is counted
	Tolerance float64  `json:"tolerance"` // greatest |Value| that is inside
	State     State    `json:"state"`
	Word      string   `json:"word"` // the state in a word of this check
	Text      string   `json:"text"` // Says in words
	Says      []Saying `json:"-"`    // what was seen, as codes and numbers
	Of        int      `json:"of,omitempty"`
	Where     *Where   `json:"where,omitempty"`
	Remedies  []Remedy `json:"remedies,omitempty"`
}

// Figure is the figure that decides, with its unit: lengths in a document's.
func (r *Result) Figure(u scene.Units) string {
	v := math.Abs(r.Value)
	switch r.Unit {
	case "m":
		// The sign says which way it is off; people read how far.
		return u.Length(v)
	case "m/frame":
		return say("figure.a-frame", length(v)).in(u)
	case "%", "°":
		return fmt.Sprintf("%.3g %s", v, r.Unit)
	}
	return fmt.Sprintf("%g %s", v, r.Unit)
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
	Label string `json:"label"` // Says in words
	Says  Saying `json:"-"`
	Edits []Edit `json:"edits"`
}

// Edit sets the field at a JSON pointer (RFC 6901) to a value.
type Edit struct {
	Path  string `json:"path"`
	Value any    `json:"value"`
}

// MarshalJSON writes the edit as an operation of a JSON Patch (RFC 6902): what stands in a list is
// replaced, a field is added, which sets it where it is there already.
func (e Edit) MarshalJSON() ([]byte, error) {
	op := "add"
	// In a list "add" would put one more in (RFC 6902).
	if _, err := strconv.Atoi(e.Path[strings.LastIndexByte(e.Path, '/')+1:]); err == nil {
		op = "replace"
	}
	return json.Marshal(struct {
		Op    string `json:"op"`
		Path  string `json:"path"`
		Value any    `json:"value"`
	}{op, e.Path, e.Value})
}

// Tolerances that several checks share.
const (
	lengthTol = 0.0005 // metres: half a millimetre of spacing or seam
	floorTol  = 0.002  // metres that something may dip into the ground
	// For large things these shares of their own size are allowed where they are more: half a millimetre on a
	// link of two metres is no fault that anyone sees.
	pinShare   = 5e-4   // of a link's pitch, from pin to pin
	dipShare   = 0.01   // of a piece's pitch, into the ground
	facetShare = 2.5e-3 // of a body's half thickness, off the bend of its skin
	nearShare  = 2.0 / 3
	inDegrees  = 180 / math.Pi
)

func grade(value, tolerance float64) State {
	switch v := math.Abs(value); {
	// What is no number has not passed.
	case v > tolerance || math.IsNaN(v):
		return Outside
	case v > nearShare*tolerance:
		return Near
	}
	return Inside
}

// All measures every rig of the scene in every frame of its range, in the order of its rigs.
func All(s *rig.Scene) []Result {
	r, _ := Run(context.Background(), s, Look{})
	return r.Results
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

// gauge measures one property of one rig, frame by frame.
type gauge interface {
	// look takes in a frame. Frames come in rising order.
	look(f *moment)
	// merge takes in what a gauge of the same kind has seen in other, later frames.
	merge(later gauge)
	// result says what was seen.
	result() Result
}

// moment is a frame that is looked at.
type moment struct {
	frame int
	pic   *rig.Picture
	// before is the picture of the frame before, nil where that is not known.
	before *rig.Picture
}

// measure is what the gauges of one rig share. Each worker has its own.
type measure struct {
	scene *rig.Scene
	index int
	rig   *rig.Rig
	id    string
	units scene.Units
	// seen is the number of frames looked at, of those of the range: for texts.
	seen, of int
	one      rig.Pieces // room for a frame of this rig alone
	// ctx ends what takes long within one look.
	ctx context.Context
}

func newMeasure(s *rig.Scene, i int) *measure {
	return &measure{scene: s, index: i, rig: &s.Rigs[i], id: s.Doc.Rigs[i].ID, units: s.Doc.Units, of: s.Doc.Range.Count(), ctx: context.Background()}
}

// every names the frames that were looked at, as the end of a sentence.
func (m *measure) every() Saying {
	if m.seen >= m.of {
		return say("every.frame")
	}
	return say("every.looked-at", m.seen)
}

func (m *measure) doc() *scene.Rig { return m.rig.Doc() }

// pieces are those of the rig in a picture.
func (m *measure) pieces(p *rig.Picture) *rig.Pieces { return &p.Rigs[m.index] }

// pathPlace is where the rig's path is in the world at a frame.
func (m *measure) pathPlace(frame int) geom.Rigid {
	return m.scene.PathPlace(m.rig.Path, float64(frame))
}

// where points at a piece on its path.
func (m *measure) where(piece, frame int) *Where {
	// Of this rig alone: the picture that was looked at has long been used again.
	m.scene.RigAt(&m.one, m.index, float64(frame))
	d := m.one.Distances[piece]
	p, _ := m.rig.At(float64(frame)).Curve.At(d)
	return &Where{Piece: piece + 1, Distance: d, Frame: frame, Position: m.pathPlace(frame).Apply(p).Array()}
}

// whereAt points at the piece next to a distance on the path.
func (m *measure) whereAt(distance float64, frame int) *Where {
	m.scene.RigAt(&m.one, m.index, float64(frame))
	best, least := 0, math.Inf(1)
	length := m.rig.At(float64(frame)).Curve.Length()
	for i, d := range m.one.Distances {
		// The shorter way round: piece 1 is next to the seam on either side.
		if off := math.Abs(math.Remainder(d-distance, length)); off < least {
			best, least = i, off
		}
	}
	return m.where(best, frame)
}

func (m *measure) pointer(format string, args ...any) string {
	return fmt.Sprintf("/rigs/%d/", m.index) + fmt.Sprintf(format, args...)
}

// shape is a pointer to a field of the train's belt.
func (m *measure) shape(format string, args ...any) string {
	return fmt.Sprintf("/paths/%d/shape/wrap/", m.rig.Path) + fmt.Sprintf(format, args...)
}

// wrap is the shape of the train's belt, nil of other paths.
func (m *measure) wrap() *scene.WrapShape { return m.scene.Doc.Paths[m.rig.Path].Shape.Wrap }

// sameShare is the share by which a figure has to be greater than another: rounding is not, so
// that of equal ones the first frame is named.
const sameShare = 1e-12

// worst is the greatest figure that was seen, and where.
type worst struct {
	value float64 // signed
	frame int
	piece int
	along float64  // distance on the path
	at    geom.Vec // in the world
	seen  bool
}

// take takes a figure in; it reports whether this is the greatest so far, so that the caller
// can say where.
func (w *worst) take(value float64, frame, piece int) bool {
	// Rounding must not move the place from the first frame of equal ones to another, or it jumps from look to look.
	if w.seen && math.Abs(value) <= math.Abs(w.value)*(1+sameShare) {
		return false
	}
	*w = worst{value: value, frame: frame, piece: piece, seen: true}
	return true
}

// merge takes in the greatest figure of later frames.
func (w *worst) merge(later worst) {
	if later.seen && (!w.seen || math.Abs(later.value) > math.Abs(w.value)*(1+sameShare)) {
		*w = later
	}
}

// spot points at the place that was kept with the figure.
func (w *worst) spot() *Where {
	return &Where{Piece: w.piece + 1, Distance: w.along, Frame: w.frame, Position: w.at.Array()}
}

// placed is a piece's transform without its scale.
func placed(x []float32) geom.Rigid {
	return rig.Place(x[:7]).Rigid()
}

func vertexAt(list []float32, base, v int) geom.Vec {
	k := base + 3*v
	return geom.V(float64(list[k]), float64(list[k+1]), float64(list[k+2]))
}
