package machine

import "fmt"

// Limits of a machine. They are checked before memory is taken, so that a small document cannot ask for
// unbounded memory or time. docs/formats.md lists them.
const (
	maxSceneSpans  = 100_000   // of all paths as they stand
	maxStepSpans   = 300_000   // of all paths after each of their steps
	maxMovingSpans = 10_000    // of all paths that differ from frame to frame, after each of their steps
	maxMovingPath  = 3_000     // of one of them
	maxVertices    = 1_000_000 // of a part that is cut
	maxAllVertices = 4_000_000 // of all parts
	maxChain       = 64        // values, leads or carriers that follow one another
	maxLagFrames   = 20_000    // over which all lags are counted, those before the range included
	maxLags        = 2         // steps lag of a path
)

// spent is how much of each limit has been used.
type spent struct{ spans, steps, moving, vertices, lagFrames int }

// Over adds n to what is used of a limit, and reports a fault at an address when that passes it. what names
// the things in the plural, do says what would be accepted.
func (c *Builder) Over(used *int, n, most int, what, do, format string, args ...any) bool {
	said := *used > most
	err := Spend(used, n, most, what, do)
	if err != nil && !said {
		c.Say(err, format, args...)
	}
	return err != nil
}

// Spend adds n to what is used of a limit; its error says that the limit is passed and what would be accepted.
func Spend(used *int, n, most int, what, do string) error {
	if *used += n; *used <= most {
		return nil
	}
	return fmt.Errorf("the scene comes to more than %d %s here: %s", most, what, do)
}

// TooLong reports a fault at an address when a chain of things that follow one another is too long.
func (c *Builder) TooLong(links int, format string, args ...any) bool {
	if links == maxChain {
		c.Say(fmt.Errorf("comes after more than %d others, each of which follows the next: a shorter row is accepted", maxChain-1), format, args...)
	}
	return links >= maxChain
}

// Stopped reports whether the compile has been cancelled.
func (c *Builder) Stopped() bool { return c.stop.Err() != nil }
