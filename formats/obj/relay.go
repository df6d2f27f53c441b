package obj

import (
	"io"
	"sync/atomic"
)

// relay hands what is written to another goroutine, so that text is made and compressed at once. It is
// closed by its writer, which then has all of it, or the error, of the other side.
type relay struct {
	full, free chan []byte
	failed     atomic.Pointer[error]
	ended      chan struct{}
}

// relayBlocks is how many blocks may be under way.
const relayBlocks = 8

func newRelay(w io.Writer) *relay {
	r := &relay{full: make(chan []byte, relayBlocks), free: make(chan []byte, relayBlocks), ended: make(chan struct{})}
	for range relayBlocks {
		r.free <- nil
	}
	go func() {
		defer close(r.ended)
		for b := range r.full {
			if r.failed.Load() == nil {
				if _, err := w.Write(b); err != nil {
					r.failed.Store(&err)
				}
			}
			r.free <- b
		}
	}()
	return r
}

func (r *relay) Write(p []byte) (int, error) {
	if err := r.err(); err != nil {
		return 0, err
	}
	r.full <- append((<-r.free)[:0], p...)
	return len(p), nil
}

// Close waits for what was written.
func (r *relay) Close() error {
	close(r.full)
	<-r.ended
	return r.err()
}

func (r *relay) err() error {
	if e := r.failed.Load(); e != nil {
		return *e
	}
	return nil
}
