package server

import "sync"

// hub tells the live channels of a scene that it has moved on to another revision.
type hub struct {
	mu  sync.Mutex
	all map[string]map[chan int64]bool
}

func newHub() *hub { return &hub{all: map[string]map[chan int64]bool{}} }

// join returns a channel that holds the newest revision of a scene, and what leaves it again.
func (h *hub) join(scene string) (revisions <-chan int64, leave func()) {
	c := make(chan int64, 1)
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.all[scene] == nil {
		h.all[scene] = map[chan int64]bool{}
	}
	h.all[scene][c] = true
	return c, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		if delete(h.all[scene], c); len(h.all[scene]) == 0 {
			delete(h.all, scene)
		}
	}
}

// moved announces a revision; a listener that has not taken the one before gets only this one.
func (h *hub) moved(scene string, revision int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for c := range h.all[scene] {
		select {
		case <-c:
		default:
		}
		c <- revision
	}
}
