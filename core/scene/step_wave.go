package scene

import (
	"fmt"

	"bead/core/motion"
	"bead/core/path"
)

// WaveStep lets waves run along the path. Its length is measured after them.
type WaveStep struct {
	Side       motion.Value `json:"side,omitzero" jsonschema:"description=Metres that the path swings to either side." form:"Sideways;moving;scaled" move:"wave#-side;length;word=wave # side"`
	Up         motion.Value `json:"up,omitzero" jsonschema:"description=Metres that it swings up and down; a quarter of a wave behind side." form:"Up, down;moving" move:"wave#-up;length;word=wave # up"`
	Wavelength float64      `json:"wavelength" jsonschema:"description=Metres along the path." form:"Wavelength;length;min=1e-6;scaled"`
	Phase      motion.Value `json:"phase,omitzero" jsonschema:"description=Waves that have run by: a speed is waves a second; below 0 they run against the path." form:"Phase;moving" move:"wave#-phase;waves;word=wave # phase"`
	Amount     []AmountBead `json:"amount,omitempty" jsonschema:"description=Share of the swing by distance."`
	With       string       `json:"with,omitempty" jsonschema:"description=Id of the rig whose travel the distances of amount are counted from." ref:"rig"`
}

// AmountBead is a share at a distance along the path.
type AmountBead struct {
	At    float64 `json:"at" jsonschema:"minimum=-1e6,maximum=1e6,description=Metres."`
	Share float64 `json:"share" jsonschema:"minimum=-100,maximum=100"`
}

func (w *WaveStep) about() About {
	return About{Name: "Wave", Text: "runs along the path: slither", First: &WaveStep{
		Side: motion.Value{Const: 1. / 40}, Wavelength: 1. / 4, Phase: motion.Value{Speed: &motion.Speed{PerSecond: -1}}}}
}

func (w *WaveStep) check(c *checker, at string) {
	for i, x := range w.Amount {
		aa := fmt.Sprintf("%s.amount[%d]", at, i)
		if i > 0 && x.At <= w.Amount[i-1].At {
			c.say(aa+".at", "%g is not beyond the one before, at %g: rising distances are accepted", x.At, w.Amount[i-1].At)
		}
	}
	if len(w.Amount) > 200 {
		c.say(at+".amount", "%d are not accepted: up to 200 are", len(w.Amount))
	}
}

// Amounts are the beads as a wave takes them; those of none are 1 everywhere.
func (w *WaveStep) Amounts(from float64) func(s float64) float64 {
	return func(s float64) float64 {
		share, _ := path.Beads(len(w.Amount), func(i int) (at, v float64) { return w.Amount[i].At + from, w.Amount[i].Share }, s, 1)
		return share
	}
}
