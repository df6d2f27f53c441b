package path

import (
	"context"
	"sync/atomic"
)

// Stop tells long work that nobody wants it any more. Curves that a Cache measures while it
// has a Stop take it over: their steps and readings then end early, with what they have, and
// the cache's next New returns the context's error. Until it is armed, and when it has been
// let go, nothing stops. A nil Stop never stops.
type Stop struct {
	ctx atomic.Pointer[context.Context]
}

// stopEvery is after how many turns of a quick loop it is seen whether it goes on.
const stopEvery = 64

// Arm makes ctx the one that is asked.
func (s *Stop) Arm(ctx context.Context) { s.ctx.Store(&ctx) }

// LetGo ends that ctx is asked: what was made is kept and used without it.
func (s *Stop) LetGo() { s.ctx.Store(nil) }

// Err is the context's error.
func (s *Stop) Err() error {
	if s == nil {
		return nil
	}
	if ctx := s.ctx.Load(); ctx != nil {
		return (*ctx).Err()
	}
	return nil
}
