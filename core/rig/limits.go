package rig

import (
	"fmt"

	"bead/core/facing"
	"bead/core/path"
)

// Limits of a compiled scene. They are checked before memory is taken, so that a small document cannot ask for
// unbounded memory or time. docs/formats.md lists them.
const (
	maxSceneSpans  = 100_000   // of all paths as they stand
	maxStepSpans   = 300_000   // of all paths after each of their steps
	maxMovingSpans = 10_000    // of all paths that differ from frame to frame, after each of their steps
	maxMovingPath  = 3_000     // of one of them
	maxFieldSpans  = 100_000   // of the paths of all rigs that face in different ways
	maxPieces      = 200_000   // of all rigs
	maxVertices    = 1_000_000 // of a part that is cut
	maxAllVertices = 4_000_000 // of all parts
	maxBodies      = 4_000_000 // vertices of all pieces that bend
	maxChain       = 64        // values, leads or carriers that follow one another
	maxLagFrames   = 20_000    // over which all lags are counted, those before the range included
	maxLags        = 2         // steps lag of a path
)

// spent is how much of each limit has been used.
type spent struct{ spans, steps, moving, fields, pieces, vertices, bodies, lagFrames int }

// over adds n to what is used of a limit, and reports a fault at an address when that passes it. what names
// the things in the plural, do says what would be accepted.
func (c *compiler) over(used *int, n, most int, what, do, format string, args ...any) bool {
	said := *used > most
	err := spend(used, n, most, what, do)
	if err != nil && !said {
		c.say(err, format, args...)
	}
	return err != nil
}

// spend adds n to what is used of a limit; its error says that the limit is passed and what would be accepted.
func spend(used *int, n, most int, what, do string) error {
	if *used += n; *used <= most {
		return nil
	}
	return fmt.Errorf("the scene comes to more than %d %s here: %s", most, what, do)
}

// tooLong reports a fault at an address when a chain of things that follow one another is too long.
func (c *compiler) tooLong(links int, format string, args ...any) bool {
	if links == maxChain {
		c.say(fmt.Errorf("comes after more than %d others, each of which follows the next: a shorter row is accepted", maxChain-1), format, args...)
	}
	return links >= maxChain
}

// stopped reports whether the compile has been cancelled.
func (c *compiler) stopped() bool { return c.stop.Err() != nil }

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
	if c.over(&c.spent.fields, len(curve.Spans()), maxFieldSpans, "spans of paths along which rigs face in ways of their own",
		"fewer rigs, paths with fewer points, or rigs of one facing are accepted", format, args...) {
		return nil, nil
	}
	f, err := facing.New(curve, spec)
	if err == nil {
		c.shared[key] = f
	}
	return f, err
}
