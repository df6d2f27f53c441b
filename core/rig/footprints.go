package rig

import (
	"math"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/part"
	"bead/core/scene"
)

// Footprint is where a foot of a figure is at a frame.
type Footprint struct {
	Copy, Foot int
	Name       string // of its joint
	At         geom.Vec
	Stands     bool
	Plant      [2]int  // that it stands in: its number and its round
	Short      float64 // by how much its leg is too short, metres
}

// Footprints are those of all figures of a rig in its picture of a frame; none where legs go along.
func (t *Rig) Footprints(dst []Footprint, p *Pieces, frame float64) []Footprint {
	k, is := t.kind.(*cycle)
	if !is {
		return dst[:0]
	}
	dst = dst[:0]
	joints := k.gait.Figure.Joints
	for i := range k.doc.Count {
		rounds, _ := k.rounds(i, frame)
		for n := range k.feet {
			foot := &k.feet[n]
			at := p.Joints[i*len(joints)+foot.Joint].Apply(foot.Contact.Mul(k.gait.Scale()))
			f := Footprint{Copy: i, Foot: n, Name: joints[foot.Joint].Name, At: at, Short: p.short[i*len(k.feet)+n]}
			for m, plant := range foot.plants {
				// Each plant for itself: two that overlap would be told as one.
				if _, round, stands := figure.During([]figure.Plant{plant}, rounds); stands {
					f.Stands, f.Plant = true, [2]int{m, int(round)}
				}
			}
			dst = append(dst, f)
		}
	}
	return dst
}

// CycleReadout is what a figure's motion is as a cycle.
type CycleReadout struct {
	Joints    []JointReadout `json:"joints"`
	Keys      int            `json:"keys"`
	Seconds   float64        `json:"seconds"` // of a round
	Stride    float64        `json:"stride"`  // metres of a round
	Own       float64        `json:"own"`     // metres that its keys go in a round
	Pace      float64        `json:"pace"`    // at which its feet are true at its own time, m/s
	Closed    bool           `json:"closed"`  // its last key is its first, come round
	MissPlace float64        `json:"missPlace"`
	MissTurn  float64        `json:"missTurn"` // degrees
	Aside     float64        `json:"aside"`
	Rise      float64        `json:"rise"`
	Feet      []FootReadout  `json:"feet"`
	// Rounds is how far the first is in its cycle at each frame of the range; none of ranges of more
	// than 4,000 frames.
	Rounds []float32 `json:"rounds,omitempty"`
}

// JointReadout is one joint of a figure.
type JointReadout struct {
	Name   string `json:"name"`
	Parent int    `json:"parent"`
}

// FootReadout is one foot: what its leg is of, and when it stands.
type FootReadout struct {
	Joint  string       `json:"joint"`
	Tip    bool         `json:"tip,omitempty"`
	Joints int          `json:"joints"`
	Plants [][2]float64 `json:"plants"`
	// Slides is how far it slides while it stands, as its keys have it, metres.
	Slides float64 `json:"slides"`
}

// tell says what its motion is made of, and where its feet stand.
func (k *cycle) tell(told *OfKind) {
	t := k.Rig
	g := k.gait
	out := &CycleReadout{Keys: len(g.Figure.Times), Seconds: g.Period, Stride: g.Stride, Own: g.Own(), Pace: g.Stride / g.Period,
		Closed: g.Closed, MissPlace: g.MissPlace, MissTurn: g.MissTurn * 180 / math.Pi, Aside: g.Aside, Rise: g.Rise}
	for _, j := range g.Figure.Joints {
		out.Joints = append(out.Joints, JointReadout{j.Name, j.Parent})
	}
	out.Feet = t.CycleFeet()
	// A longer list would be most of the message, and be drawn as a smear.
	if r := t.scene.Doc.Range; r.Count() <= 4000 {
		for f := r.First; f <= r.Last; f++ {
			rounds, _ := k.rounds(0, float64(f))
			out.Rounds = append(out.Rounds, float32(rounds))
		}
	}
	told.Cycle = out
}

// CycleFeet are the feet of a figure.
func (t *Rig) CycleFeet() []FootReadout {
	k, is := t.kind.(*cycle)
	if !is {
		return nil
	}
	out := []FootReadout{}
	for i := range k.feet {
		f := &k.feet[i]
		r := FootReadout{Joint: k.gait.Figure.Joints[f.Joint].Name, Tip: f.Tip, Joints: len(f.Leg), Plants: [][2]float64{}, Slides: k.gait.Slide(&f.Foot, f.plants)}
		for _, p := range f.plants {
			r.Plants = append(r.Plants, [2]float64{p.From, p.To})
		}
		out = append(out, r)
	}
	return out
}

// Gait is the cycle of a rig's figure, nil of others.
func (t *Rig) Gait() *figure.Gait {
	if k, is := t.kind.(*cycle); is {
		return k.gait
	}
	return nil
}

// Rounds is how far a copy of a figure is in its cycle at a frame.
func (t *Rig) Rounds(piece int, frame float64) float64 {
	rounds, _ := t.kind.(*cycle).rounds(piece, frame)
	return rounds
}

// FigureFile is a figure's file as it is read: what is proposed of it.
type FigureFile struct {
	Joints  []JointReadout `json:"joints"`
	Keys    int            `json:"keys"`
	Seconds float64        `json:"seconds"`
	Forward string         `json:"forward"` // as its motion goes
	Up      string         `json:"up"`
	Goes    float64        `json:"goes"`  // in a round, in units of the file
	Floor   float64        `json:"floor"` // where its feet come down to, along up, in units of the file
	Min     scene.Vec3     `json:"min"`
	Max     scene.Vec3     `json:"max"`
	Skinned bool           `json:"skinned"` // it brings a mesh of its own
	// Unit is what its units are likely to be, m, cm or mm: figures are taken for living things.
	Unit string `json:"unit"`
}

// DescribeFigure reads what can be said of a figure before it is in a scene.
func DescribeFigure(f *figure.Figure, skinned bool) FigureFile {
	forward, up, goes := f.Axes()
	g := figure.NewGait(f, forward, up, geom.Vec{}, 1, 0)
	box := f.RestMesh(1).Bounds()
	out := FigureFile{Keys: len(f.Times), Seconds: g.Period, Forward: axisName(forward), Up: axisName(up), Goes: goes,
		Min: box.Min.Array(), Max: box.Max.Array(), Skinned: skinned, Floor: g.Floor()}
	for _, j := range f.Joints {
		out.Joints = append(out.Joints, JointReadout{j.Name, j.Parent})
	}
	size := 0.0
	for k := range 3 {
		size = max(size, out.Max[k]-out.Min[k])
	}
	switch {
	// A living thing of more than 20 m, or of 400 cm, is not likely: then the unit is a smaller one.
	case skinned, size <= 20: // glTF says metres
		out.Unit = "m"
	case size > 400:
		out.Unit = "mm"
	default:
		out.Unit = "cm"
	}
	return out
}

func axisName(v geom.Vec) string {
	for _, a := range []part.Axis{"+x", "-x", "+y", "-y", "+z", "-z"} {
		if w, err := a.Vec(); err == nil && w.Dot(v) > 0.5 {
			return string(a)
		}
	}
	return "+z"
}
