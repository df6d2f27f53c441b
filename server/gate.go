package server

import (
	"context"
	"runtime"

	"golang.org/x/sync/semaphore"
)

// gate lets so many do heavy work at once; who waits is served in turn.
type gate struct{ places *semaphore.Weighted }

func newGate(n int) gate { return gate{semaphore.NewWeighted(int64(max(n, 1)))} }

// take waits for a place and returns what gives it back.
func (g gate) take(ctx context.Context) (done func(), err error) {
	if err := g.places.Acquire(ctx, 1); err != nil {
		return nil, err
	}
	return func() { g.places.Release(1) }, nil
}

// inTurn does work when the gate has a place for it.
func inTurn[T any](ctx context.Context, g gate, work func() (T, error)) (out T, err error) {
	done, err := g.take(ctx)
	if err != nil {
		return out, err
	}
	defer done()
	return work()
}

// answersAtOnce bounds what documents take in memory while they are read and compiled: so many a
// core. Frames that are sent ahead, and checks, get as many at once as there are cores, each;
// simulations, which take long, one fewer, so that a core is left for what somebody waits for.
const answersAtOnce = 4

func newGates() (answers, ahead, checks, sims gate) {
	n := runtime.GOMAXPROCS(0)
	return newGate(answersAtOnce * n), newGate(n), newGate(n), newGate(n - 1)
}
