package server

import (
	"sync"

	"bead/core/scene"
)

// mailbox keeps the newest edit and the newest look that have arrived.
type mailbox struct {
	mu     sync.Mutex
	edit   *LiveRequest
	look   *LiveRequest
	signal chan struct{}
	// overtake ends the answer under way for an edit that is kept; those that are passed through
	// while something is dragged wait for it, or none would ever come.
	overtake func()
}

func newMailbox() *mailbox { return &mailbox{signal: make(chan struct{}, 1)} }

func (m *mailbox) put(r *LiveRequest) {
	m.mu.Lock()
	if r.Doc != nil {
		m.edit, m.look = r, nil
		if r.Fill && m.overtake != nil {
			m.overtake()
		}
	} else {
		m.look = r
	}
	m.mu.Unlock()
	select {
	case m.signal <- struct{}{}:
	default:
	}
}

func (m *mailbox) take() (edit, look *LiveRequest) {
	m.mu.Lock()
	defer m.mu.Unlock()
	edit, look = m.edit, m.look
	m.edit, m.look = nil, nil
	return
}

// answering sets the function that cancels the answer under way; nil: there is none.
func (m *mailbox) answering(overtake func()) {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.overtake = overtake
	if overtake != nil && m.edit != nil && m.edit.Fill {
		overtake()
	}
}

func (m *mailbox) editWaits() bool {
	m.mu.Lock()
	defer m.mu.Unlock()
	return m.edit != nil
}

// outward lists the range's frames other than from, the nearest last, the one
// ahead before the one behind.
func outward(dst []int, from int, r scene.Range) []int {
	from = min(max(from, r.First-1), r.Last+1)
	for d := max(r.Last-from, from-r.First, 0); d > 0; d-- {
		if n := from - d; n >= r.First && n <= r.Last {
			dst = append(dst, n)
		}
		if n := from + d; n >= r.First && n <= r.Last {
			dst = append(dst, n)
		}
	}
	return dst
}
