package scene

import (
	"math"

	"bead/core/geom"
	"bead/core/mech"
	"bead/core/path"
)

// HangShape is a cable that hangs between two ends.
type HangShape struct {
	From   Vec3    `json:"from" form:"From;place"`
	To     Vec3    `json:"to" form:"To;place"`
	Length float64 `json:"length" jsonschema:"description=Metres; more than the ends are apart." form:"Length;distance;min=1e-6"`
	// The ends move as these carriers have moved since the first frame.
	FromOn string `json:"fromCarrier,omitempty" jsonschema:"description=Id of the carrier that holds its start; it moves as that has moved since the first frame." ref:"carrier"`
	ToOn   string `json:"toCarrier,omitempty" jsonschema:"description=Id of the carrier that holds its end." ref:"carrier"`
	Drum   string `json:"drum,omitempty" jsonschema:"description=Id of the rig that is the drum at its start; from is then its hub." ref:"rig"`
}

func (h *HangShape) about() About {
	return About{Name: "Hanging cable", First: &HangShape{From: Vec3{0, 2, -2}, To: Vec3{0, 2, 2}, Length: 4.6}}
}

func (h *HangShape) check(c *checker, at string) {
	if _, _, _, err := h.cable(); err != nil {
		c.say(at+".length", "%v", err)
	}
}

// cable hangs the cable and says which way ahead is.
func (h *HangShape) cable() (c mech.Cable, from, ahead geom.Vec, err error) {
	from = geom.FromArray(h.From)
	v := geom.FromArray(h.To).Sub(from)
	ahead = geom.V(v.X, 0, v.Z)
	span := ahead.Norm()
	c, err = mech.Hang(span, v.Y, h.Length)
	return c, from, ahead.Mul(1 / max(span, 1e-300)), err
}

// spans are the cable's; none where it cannot hang, which checking says.
func (h *HangShape) spans(func(string)) ([]path.Span, bool) {
	c, from, ahead, err := h.cable()
	if err != nil {
		return nil, false
	}
	return []path.Span{path.HangSpan(from, ahead.Mul(c.A), geom.V(0, c.A, 0), math.Sinh(c.U0), math.Sinh(c.U1))}, false
}
