package machine

import "sync"

// ByFrame caches what was computed for a thing at a frame.
type ByFrame[T any] struct {
	mu   sync.Mutex
	made map[thingAtFrame]T
	most int // that are kept; byFrameMost where 0
	// Spans counts those of the curve in a thing, where it holds one: they are what fills memory.
	Spans func(T) int
	held  int // spans of all that are kept
}

type thingAtFrame struct {
	thing int
	frame float64
}

const byFrameMost, smallMost = 600, 20_000

// heldSpans is the most spans of cached curves; a span takes about a kilobyte.
const heldSpans = 150_000

// Get returns what is kept of a thing at a frame, or makes it.
func (b *ByFrame[T]) Get(thing int, frame float64, make1 func() T) T {
	key := thingAtFrame{thing, frame}
	b.mu.Lock()
	v, known := b.made[key]
	b.mu.Unlock()
	if known {
		return v
	}
	v = make1() // twice by two at once: the same, for frames are pure
	b.mu.Lock()
	defer b.mu.Unlock()
	n := 0
	if b.Spans != nil {
		n = b.Spans(v)
	}
	if most := max(b.most, byFrameMost); b.made == nil || len(b.made) >= most || b.held+n > heldSpans {
		b.made, b.held = map[thingAtFrame]T{}, 0
	}
	b.held += n
	b.made[key] = v
	return v
}
