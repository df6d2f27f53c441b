package scene

import "bead/core/path"

// Step is one shaping step: exactly one of its fields besides off, in the order of the menu that
// adds them. One more is a file of its own and a line here; one that needs more than the curve
// before it is taken in core/rig.
type Step struct {
	Off       bool           `json:"off,omitempty" jsonschema:"description=Passed over."`
	Reverse   *ReverseStep   `json:"reverse,omitempty" jsonschema:"oneof_required=reverse"`
	StartAt   *StartAtStep   `json:"startAt,omitempty" jsonschema:"oneof_required=startAt"`
	Close     *CloseStep     `json:"close,omitempty" jsonschema:"oneof_required=close"`
	Open      *OpenStep      `json:"open,omitempty" jsonschema:"oneof_required=open"`
	Extend    *ExtendStep    `json:"extend,omitempty" jsonschema:"oneof_required=extend"`
	Trim      *TrimStep      `json:"trim,omitempty" jsonschema:"oneof_required=trim"`
	Join      *JoinStep      `json:"join,omitempty" jsonschema:"oneof_required=join"`
	Subdivide *SubdivideStep `json:"subdivide,omitempty" jsonschema:"oneof_required=subdivide"`
	Resample  *ResampleStep  `json:"resample,omitempty" jsonschema:"oneof_required=resample"`
	Simplify  *SimplifyStep  `json:"simplify,omitempty" jsonschema:"oneof_required=simplify"`
	Round     *RoundStep     `json:"round,omitempty" jsonschema:"oneof_required=round"`
	Smooth    *SmoothStep    `json:"smooth,omitempty" jsonschema:"oneof_required=smooth"`
	Offset    *OffsetStep    `json:"offset,omitempty" jsonschema:"oneof_required=offset"`
	Mirror    *MirrorStep    `json:"mirror,omitempty" jsonschema:"oneof_required=mirror"`
	Jitter    *JitterStep    `json:"jitter,omitempty" jsonschema:"oneof_required=jitter"`
	Wave      *WaveStep      `json:"wave,omitempty" jsonschema:"oneof_required=wave"`
	Lag       *LagStep       `json:"lag,omitempty" jsonschema:"oneof_required=lag"`
	Drop      *DropStep      `json:"drop,omitempty" jsonschema:"oneof_required=drop"`
}

// Shaping is what a step makes of a curve, and what there is to say about it.
type Shaping struct {
	Spans  []path.Span
	Closed bool
	Note   string
}

// Shaper is a step that needs nothing but the curve before it.
type Shaper interface {
	Shape(in *path.Curve) (Shaping, error)
}

// Kind names the step's field.
func (s *Step) Kind() string {
	key, _, _ := one(s)
	return key
}

// One is the step that it is, nil where none is given.
func (s *Step) One() any {
	_, x, _ := one(s)
	return x
}
