package server

import (
	"context"
	"runtime/debug"
	"sync"
	"time"

	"github.com/coder/websocket"

	"bead/core/rig"
)

// Simulating is the JSON of a kindSimulating message: how far the simulation has come that frames
// wait for.
type Simulating struct {
	Done int `json:"done"`
	Of   int `json:"of"`
	// Left is how many seconds it takes at the pace so far; 0 while that is not known.
	Left float64 `json:"left"`
	// Stopped tells that it was given up; the next edit goes on with it.
	Stopped bool `json:"stopped,omitempty"`
}

// simulation works out what frames wait for, beside the edits.
type simulation struct {
	mu   sync.Mutex
	stop context.CancelFunc
	came chan struct{} // frames have come
}

func newSimulation() *simulation {
	return &simulation{stop: func() {}, came: make(chan struct{}, 1)}
}

// end gives up what is being worked out.
func (x *simulation) end() {
	x.mu.Lock()
	defer x.mu.Unlock()
	x.stop()
}

// begin ends what was being worked out and returns the context of what comes next.
func (x *simulation) begin(ctx context.Context) context.Context {
	x.mu.Lock()
	defer x.mu.Unlock()
	x.stop()
	ctx, x.stop = context.WithCancel(ctx)
	return ctx
}

// simulate works out all frames of a scene and tells how far it is; false when it was given up.
// Messages are sent as long as the channel lives.
func (l *liveChannel) simulate(ctx, work context.Context, s *rig.Scene, seq uint32) bool {
	// A mistake in a simulation ends it and not the server.
	defer func() {
		if r := recover(); r != nil {
			l.server.cfg.Log.Error("panic in a simulation", "value", r, "stack", string(debug.Stack()))
		}
	}()
	var msg message
	say := func(x Simulating) {
		msg.start(kindSimulating, seq, 0)
		if msg.json(tagJSON, x) == nil {
			_ = l.conn.Write(ctx, websocket.MessageBinary, msg.b) // a broken channel is seen by its reader
		}
	}
	free, err := l.server.sims.take(work)
	if err != nil {
		return false
	}
	defer free()
	begun, told := time.Now(), time.Time{}
	from, of := s.Simulated()
	say(Simulating{Done: from, Of: of})
	err = s.Simulate(work, func(done, of int) {
		select {
		case l.simulation.came <- struct{}{}:
		default:
		}
		if time.Since(told) > progressEvery {
			told = time.Now()
			left := time.Since(begun).Seconds() / float64(max(done-from, 1)) * float64(of-done)
			say(Simulating{Done: done, Of: of, Left: left})
		}
	})
	done, _ := s.Simulated()
	say(Simulating{Done: done, Of: of, Stopped: err != nil})
	select {
	case l.simulation.came <- struct{}{}:
	default:
	}
	return err == nil
}

// allReady reports whether nothing of a scene waits for a simulation.
func allReady(s *rig.Scene) bool {
	done, of := s.Simulated()
	return done == of
}
