package server

import (
	"context"
	"net"
	"net/http"
	"runtime"
	"slices"
	"sync"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
)

// gate limits heavy work: so many at once, and up to each of one person. Places go to waiting people who hold
// the fewest, so that nobody waits behind all that another has asked for.
type gate struct {
	mu    sync.Mutex
	free  int
	each  int
	held  map[string]int // places of a person
	queue []*waiting
}

// waiting is one request for a place.
type waiting struct {
	person string
	ready  chan struct{}
}

func newGate(places, each int) *gate {
	places = max(places, 1)
	return &gate{free: places, each: max(min(each, places), 1), held: map[string]int{}}
}

// take waits for a place and returns what gives it back.
func (g *gate) take(ctx context.Context) (done func(), err error) {
	w := &waiting{personOf(ctx), make(chan struct{})}
	g.mu.Lock()
	g.queue = append(g.queue, w)
	g.serve()
	g.mu.Unlock()
	select {
	case <-w.ready:
		return func() { g.leave(w.person) }, nil
	case <-ctx.Done():
	}
	g.mu.Lock()
	at := slices.Index(g.queue, w)
	if at >= 0 {
		g.queue = slices.Delete(g.queue, at, at+1)
	}
	g.mu.Unlock()
	if at < 0 { // it got its place at the same time
		g.leave(w.person)
	}
	return nil, ctx.Err()
}

// tryTake is take without waiting.
func (g *gate) tryTake(ctx context.Context) (done func(), ok bool) {
	who := personOf(ctx)
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.free == 0 || g.held[who] >= g.each {
		return nil, false
	}
	g.free--
	g.held[who]++
	return func() { g.leave(who) }, true
}

// leave gives a place back.
func (g *gate) leave(person string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.free++
	if g.held[person]--; g.held[person] == 0 {
		delete(g.held, person)
	}
	g.serve()
}

// serve hands free places to waiting requests. The caller holds mu.
func (g *gate) serve() {
	for g.free > 0 {
		next := -1
		for i, w := range g.queue {
			if n := g.held[w.person]; n < g.each && (next < 0 || n < g.held[g.queue[next].person]) {
				next = i
			}
		}
		if next < 0 {
			return
		}
		w := g.queue[next]
		g.queue = slices.Delete(g.queue, next, next+1)
		g.free--
		g.held[w.person]++
		close(w.ready)
	}
}

// inTurn does work when the gate has a place for it.
func inTurn[T any](ctx context.Context, g *gate, work func() (T, error)) (out T, err error) {
	done, err := g.take(ctx)
	if err != nil {
		return out, err
	}
	defer done()
	return work()
}

// answersAtOnce bounds the memory of documents that are being read and compiled: so many a core, half of them
// for one person. Frames sent ahead and frames checked: as many at once as cores, and of one person's checks
// one fewer. Simulations, which take long: one fewer in all. So a core is left for whoever waits for an
// answer. reports bounds the memory of scenes that are checked on a request.
const answersAtOnce = 4

// gates are those of answers that somebody waits for, frames sent ahead, frames checked, simulations, and
// checks on a request.
type gates struct{ answers, ahead, checks, sims, reports *gate }

func newGates() gates {
	n := runtime.GOMAXPROCS(0)
	return gates{answers: newGate(answersAtOnce*n, answersAtOnce*n/2), ahead: newGate(n, n), checks: newGate(n, n-1), sims: newGate(n-1, n-1), reports: newGate(2*n, n)}
}

// personCookie tells one browser from another of the same address. It is no secret and opens nothing.
const personCookie = "bead_person"

type personKey struct{}

// personOf is whose work a context belongs to; "" of the server's own.
func personOf(ctx context.Context) string {
	name, _ := ctx.Value(personKey{}).(string)
	return name
}

// known puts into a request's context whose it is: a browser that has been here is known by its cookie,
// all else by the address that it comes from.
func (s *Server) known(c *gin.Context) {
	name, _, _ := net.SplitHostPort(c.Request.RemoteAddr)
	if cookie, err := c.Cookie(personCookie); err == nil && uuid.Validate(cookie) == nil {
		name = cookie
	}
	c.Request = c.Request.WithContext(context.WithValue(c.Request.Context(), personKey{}, name))
	c.Next()
}

// introduce gives a browser that has none its cookie, on a page whose address brings nothing else.
func introduce(c *gin.Context) {
	if _, err := c.Cookie(personCookie); err != nil && c.Request.URL.RawQuery == "" {
		http.SetCookie(c.Writer, &http.Cookie{Name: personCookie, Value: uuid.NewString(), Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode})
	}
}
