package rig

import (
	"fmt"
	"math"

	"bead/core/geom"
	"bead/core/machine"
	"bead/core/scene"
)

// What the rope on a drum is drawn with.
const (
	ropeSides    = 6
	ropeLooks    = 28  // places a turn
	maxRopeTurns = 600 // that are drawn
)

// drum is a rig that is the drum of its path.
// A drum that its path does not name stands there as if it did.
type drum struct {
	carried
	doc   *scene.Drum
	winch *machine.Winch
}

func (*drum) nature() Nature                { return Nature{Stays: true} }
func (t *drum) at(int, float64) float64     { return 0 }
func (t *drum) reach(int, float64) Reach    { return Reach{} }
func (t *drum) ends(float64) (a, b float64) { return 0, 0 }

func (t *drum) ready(c *compiler) (field string, err error) {
	w := machine.NewWinch(t.doc, &t.scene.Doc.Paths[t.Path].Shape, t.travel)
	t.winch = w
	// The turns that are drawn, before their vertices take memory.
	turns := w.Drum.At(t.doc.Wound).Angle / (2 * math.Pi)
	if turns > maxRopeTurns {
		return "drum.wound", fmt.Errorf("%.0f turns of rope are not accepted: up to %d are", turns, maxRopeTurns)
	}
	// Half a turn more, for what lies beyond its top.
	looks := int(math.Ceil((turns + 0.5) * ropeLooks))
	var indices []uint32
	var uvs []float32
	for k := range looks + 1 {
		for n := range ropeSides {
			uvs = append(uvs, float32(math.Pi*t.doc.Rope*float64(n)/ropeSides), float32(w.Drum.Length(2*math.Pi*float64(k)/ropeLooks)))
			// Each ring is joined to the one before; the ends stay open.
			if k > 0 {
				a, b := uint32((k-1)*ropeSides+n), uint32((k-1)*ropeSides+(n+1)%ropeSides)
				indices = append(indices, a, b, b+ropeSides, a, b+ropeSides, a+ropeSides)
			}
		}
	}
	t.moulds = []Mould{newMould("rope", (looks+1)*ropeSides, uvs, indices)}
	return "drum.wound", machine.Spend(&c.spent.bodies, t.moulds[0].vertices(), maxBodies, "vertices of pieces that bend", "less rope, or fewer pieces, segments or rigs are accepted")
}

func (t *drum) stand(dst *Pieces, m *moment) {
	// The hub's place, and where and how the rope leaves it, are the machine's: the cable begins there.
	s := t.scene
	w, p := t.winch, s.PaidAt(t.winch, t.Path, m.frame)
	f := geom.Frame{P: p.Hub, T: p.Ahead, U: geom.V(0, 1, 0)}
	side, turn := f.Side(), w.Turned(&p)
	f.U, f.T = geom.RotateAbout(f.U, side, turn), geom.RotateAbout(f.T, side, turn)
	if m.moved {
		f = m.pose.Frame(f)
	}
	t.stood(dst, 0, 0, f, float32(t.scale))
	out := moulder{dst.Positions[:0], dst.Normals[:0]}
	// What lies on it ends where the rope leaves it.
	end := w.Drum.At(p.Wound).Angle + w.Sense()*p.Fall
	for k := range t.moulds[0].vertices() / ropeSides {
		a := min(2*math.Pi*float64(k)/ropeLooks, max(end, 0))
		at := w.Drum.At(w.Drum.Length(a))
		// What has been paid out stands where the rope leaves the drum: no area, nothing seen.
		if a >= end {
			at.Radius, at.Across = p.At.Radius, p.At.Across
		}
		sin, cos := math.Sincos(end - a)
		// Round the drum from where the rope leaves it, back along what is wound.
		dir := p.Out.Mul(cos).Mad(p.Along, -sin)
		mid := p.Hub.Mad(p.Axis, at.Across).Mad(dir, at.Radius)
		for n := range ropeSides {
			sn, cs := math.Sincos(2 * math.Pi * float64(n) / ropeSides)
			round := dir.Mul(cs).Mad(p.Axis, -w.Sense()*sn)
			q := mid.Mad(round, t.doc.Rope/2)
			if m.moved {
				q, round = m.pose.Apply(q), m.pose.Turn(round)
			}
			out.add(q, round)
		}
	}
	dst.Positions, dst.Normals = out.positions, out.normals
	dst.Reach = append(dst.Reach[:0], Reach{0, 0, 1, true})
}

// DrumReadout is what a drum holds.
type DrumReadout struct {
	Layers   int     `json:"layers"` // in the first frame
	Turns    float64 `json:"turns"`
	Hangs    float64 `json:"hangs"`    // metres that hang in the first frame: of a cable all that is off it, of an open belt what is behind its last wheel
	Diameter float64 `json:"diameter"` // over the rope, metres
	// RunsOut is the frame at which all of its rope is off, left out where that is not in the range.
	RunsOut *float64 `json:"runsOut,omitempty"`
}

// tell says what is wound on it.
func (k *drum) tell(told *OfKind) {
	t := k.Rig
	w, first := k.winch, t.scene.Clock.First
	p := t.scene.PaidAt(w, t.Path, first)
	out := &DrumReadout{Turns: p.At.Angle / (2 * math.Pi), Hangs: p.Off - p.Used, Diameter: 2*p.At.Radius + k.doc.Rope}
	if p.Wound > 0 {
		out.Layers = p.At.Layer + 1
	}
	r := t.scene.Doc.Range
	for f := r.First; f <= r.Last; f++ {
		if w.Travel.At(float64(f), t.scene.Clock) >= k.doc.Wound {
			at := float64(f)
			out.RunsOut = &at
			break
		}
	}
	told.Drum = out
}
