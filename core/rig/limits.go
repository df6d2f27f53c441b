package rig

import (
	"bead/core/facing"
	"bead/core/path"
)

// Limits of the rigs of a scene. They are checked before memory is taken, as those of the machine are.
// docs/formats.md lists them.
const (
	maxFieldSpans = 100_000   // of the paths of all rigs that face in different ways
	maxPieces     = 200_000   // of all rigs
	maxBodies     = 4_000_000 // vertices of all pieces that bend
)

// spent is how much of each limit has been used.
type spent struct{ fields, pieces, bodies int }

// fieldKey identifies a facing field: rigs that share one share its memory.
type fieldKey struct {
	curve *path.Curve
	spec  facing.Spec
}

// field is the facing along a curve, shared by rigs that face alike on the same path. It is nil with a nil
// error where a limit is passed.
func (c *compiler) field(curve *path.Curve, spec facing.Spec, format string, args ...any) (*facing.Field, error) {
	key := fieldKey{curve, spec}
	if f := c.shared[key]; f != nil {
		return f, nil
	}
	if c.Over(&c.spent.fields, len(curve.Spans()), maxFieldSpans, "spans of paths along which rigs face in ways of their own",
		"fewer rigs, paths with fewer points, or rigs of one facing are accepted", format, args...) {
		return nil, nil
	}
	f, err := facing.New(curve, spec)
	if err == nil {
		c.shared[key] = f
	}
	return f, err
}
