package report

import (
	"math"

	"bead/core/facing"
	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
)

// RigReadout describes a rig as it is laid out.
type RigReadout struct {
	ID         string  `json:"id"`
	Count      int     `json:"count"`
	Pitch      float64 `json:"pitch"`
	Asked      float64 `json:"asked"`
	Gap        float64 `json:"gap"` // pitch less the piece's own length
	PartLength float64 `json:"partLength"`
	Seam       float64 `json:"seam"`
	ComesRound bool    `json:"comesRound"`
	// Row is set of pieces one behind the other that take one another's places, Jointed of figures.
	Row     bool `json:"row"`
	Jointed bool `json:"jointed"`
	// Facing, in degrees and metres.
	ResidualDeg float64          `json:"residualDeg"`
	OffPlane    float64          `json:"offPlane"`
	Straight    bool             `json:"straight"`
	Along       []StretchReadout `json:"along,omitempty"`
	Travels     bool             `json:"travels"`
	TravelRange [2]float64       `json:"travelRange"` // at the first frame and one past the last
	// Comb is a thinned row of frames for drawing: place and up, six numbers a tooth.
	Comb []float32 `json:"comb"`
	// Twist is the turn of up about forward beyond least twist, degrees a metre,
	// evenly sampled from start to end.
	Twist []float32 `json:"twist"`
	// Roll is the roll of the beads in degrees at the same places and at the end.
	Roll []float32 `json:"roll"`
	// Way is how far the rig has come at each frame of the range, metres; only of rigs that
	// are to be in step.
	Way []float64 `json:"way,omitempty"`
	// GuideNear is the least distance to the guide, metres; GuideAhead the greatest angle in
	// degrees by which the guide runs ahead or behind.
	GuideNear    float64 `json:"guideNear,omitempty"`
	GuideNearAt  float64 `json:"guideNearAt,omitempty"`
	GuideAhead   float64 `json:"guideAhead,omitempty"`
	GuideAheadAt float64 `json:"guideAheadAt,omitempty"`
	rig.OfKind
	Notes []string `json:"notes,omitempty"`
	// Deviation is the greatest distance between a bent piece and the same piece rigid, metres, and
	// DeviationPiece that piece, from 1 on; of trains that can be seated either way.
	Deviation      float64 `json:"deviation"`
	DeviationPiece int     `json:"deviationPiece"`
	// Body is of bodies that bend.
	Body *BodyReadout `json:"body,omitempty"`

	// Made is the material of surfaces that the rig's kind makes itself. Colours are those of tinted
	// pieces, "" of the others; empty without tints. Drawn is the stretch of the body in the first
	// frame, by which images on it are shrunk along it to keep their size.
	Made    int      `json:"made"`
	Colours []string `json:"colours,omitempty"`
	Drawn   float64  `json:"drawn"`

	// Pinned is set where the pieces sit on their pins. Pattern is the number of pieces after which
	// their parts repeat, Kinds the part of each piece where they differ.
	Pinned  bool  `json:"pinned"`
	Pattern int   `json:"pattern"`
	Kinds   []int `json:"kinds,omitempty"`
}

// BodyReadout describes a body that bends.
type BodyReadout struct {
	Vertices int      `json:"vertices"`
	Sections int      `json:"sections"` // rings that bend by themselves
	Length   float64  `json:"length"`
	Blends   []string `json:"blends,omitempty"` // that the part has
	// Tail and Head are its reach in the first frame, metres.
	Tail    float64 `json:"tail"`
	Head    float64 `json:"head"`
	Stretch float64 `json:"stretch"`
	// Longest is the part's longest axis where that is not its forward, such as "+x"; else empty.
	Longest string `json:"longest,omitempty"`
}

// StretchReadout is a stretch where the path runs along its up.
type StretchReadout struct {
	From    float64 `json:"from"`
	To      float64 `json:"to"`
	TurnDeg float64 `json:"turnDeg"`
}

func readRig(s *rig.Scene, i int) RigReadout {
	t, doc := &s.Rigs[i], &s.Doc.Rigs[i]
	rep := t.Field.Report()
	r := RigReadout{ID: doc.ID, Count: t.Layout.Count, Pitch: t.Layout.Pitch, Asked: t.Layout.Asked,
		PartLength: s.Parts[t.Part].Length * doc.Scale, Seam: t.Layout.Seam, ComesRound: t.ComesRound, Row: t.Row, Jointed: t.Jointed,
		ResidualDeg: rep.Residual * 180 / math.Pi, OffPlane: rep.Off, Straight: rep.Straight,
		Travels:     doc.Travel.Moves(),
		TravelRange: [2]float64{t.Travel(float64(s.Doc.Range.First)), t.Travel(float64(s.Doc.Range.Last + 1))}}
	r.Gap = r.Pitch - r.PartLength
	r.OfKind = t.OfKind()
	r.Pinned, r.Pattern, r.Kinds = t.Pinned, t.Pattern(), t.Parts
	for _, a := range rep.Along {
		r.Along = append(r.Along, StretchReadout{a.From, a.To, a.Turn * 180 / math.Pi})
	}
	r.GuideNear, r.GuideNearAt = rep.Guided.Nearest, rep.Guided.NearestAt
	r.GuideAhead, r.GuideAheadAt = rep.Guided.Ahead*180/math.Pi, rep.Guided.AheadAt
	r.Notes = t.Notes()
	piece := 0
	r.Deviation, piece = t.Deviation()
	r.DeviationPiece = piece + 1
	if t.Bends() {
		r.Body = readBody(s, t, doc.Scale)
	}
	comb(&r, t, s.Clock.First)
	if inStep(s.Doc, r.ID) {
		r.Way = t.Way()
	}
	return r
}

// inStep reports whether a rig is one of two that are to be in step.
func inStep(d *scene.Document, id string) bool {
	for i := range d.Rigs {
		if r := &d.Rigs[i]; r.InStep != "" && (r.ID == id || r.InStep == id) {
			return true
		}
	}
	return false
}

func readBody(s *rig.Scene, t *rig.Rig, scale float64) *BodyReadout {
	b := t.Body(0)
	r := t.ReachOf(0, s.Clock.First)
	out := &BodyReadout{Vertices: b.Vertices(), Sections: len(b.Stations), Length: b.Length(), Blends: b.Blends, Tail: r.Tail, Head: r.Head, Stretch: r.Stretch}
	size := s.Parts[t.Part].Bounds.Size().Array()
	long := 0
	for i := range size {
		if size[i] > size[long]*(1+1e-6) {
			long = i
		}
	}
	if f := s.Parts[t.Part].Axes.Forward.Array(); f[long] == 0 && size[long] > 1.02*b.Length()/scale {
		out.Longest = "+" + string("xyz"[long])
	}
	return out
}

const (
	combTeeth    = 120
	twistSamples = 240
)

// comb samples the facing for drawing, with the roll and the lean of one frame.
func comb(r *RigReadout, t *rig.Rig, frame float64) {
	length := t.Curve.Length()
	up := t.Facing(frame)
	teeth := combTeeth
	if !t.Curve.Closed() {
		teeth++
	}
	r.Comb = make([]float32, 0, 6*teeth)
	for i := range teeth {
		f := up(length * float64(i) / combTeeth)
		r.Comb = append(r.Comb, float32(f.P.X), float32(f.P.Y), float32(f.P.Z), float32(f.U.X), float32(f.U.Y), float32(f.U.Z))
	}
	r.Twist, r.Roll = make([]float32, twistSamples), make([]float32, twistSamples+1)
	h := length / twistSamples
	for i := range r.Roll {
		r.Roll[i] = float32(t.RollAt(t.Curve, min(h*float64(i), length)) * 180 / math.Pi)
	}
	for i := range r.Twist {
		a, b := up(h*float64(i)), up(h*(float64(i)+1)-1e-9*h)
		carried := facing.Carry(t.Curve, h*float64(i), h*(float64(i)+1)-1e-9*h, a.U)
		r.Twist[i] = float32(geom.AngleAbout(b.T, carried, b.U) * 180 / math.Pi / h)
	}
}
