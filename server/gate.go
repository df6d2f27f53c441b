package server

import (
	"context"
	"net"
	"net/http"
	"runtime"
	"sync"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"golang.org/x/sync/semaphore"
)

// gate lets so many do heavy work at once, and of one person half as many; who waits is served in turn.
type gate struct {
	places *semaphore.Weighted
	each   int64
	people *people
}

func newGate(n int) gate {
	n = max(n, 1)
	return gate{semaphore.NewWeighted(int64(n)), int64(max(n/2, 1)), &people{here: map[string]*person{}}}
}

// people are those who have or wait for a place.
type people struct {
	mu   sync.Mutex
	here map[string]*person
}

type person struct {
	places *semaphore.Weighted
	asked  int // places that the person has or waits for
}

// take waits for a place and returns what gives it back. Who has as many as one person may waits behind
// nobody but itself, so that others do not wait behind all that it has asked for.
func (g gate) take(ctx context.Context) (done func(), err error) {
	own, leave := g.people.come(personOf(ctx), g.each)
	if err := own.Acquire(ctx, 1); err != nil {
		leave()
		return nil, err
	}
	if err := g.places.Acquire(ctx, 1); err != nil {
		own.Release(1)
		leave()
		return nil, err
	}
	return func() {
		g.places.Release(1)
		own.Release(1)
		leave()
	}, nil
}

// come is the places of one person, and what is done when one of them is not wanted any more.
func (x *people) come(name string, each int64) (own *semaphore.Weighted, leave func()) {
	x.mu.Lock()
	defer x.mu.Unlock()
	p := x.here[name]
	if p == nil {
		p = &person{places: semaphore.NewWeighted(each)}
		x.here[name] = p
	}
	p.asked++
	return p.places, func() {
		x.mu.Lock()
		defer x.mu.Unlock()
		if p.asked--; p.asked == 0 {
			delete(x.here, name)
		}
	}
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

// introduce gives a browser that has none its cookie.
func introduce(c *gin.Context) {
	if _, err := c.Cookie(personCookie); err != nil {
		http.SetCookie(c.Writer, &http.Cookie{Name: personCookie, Value: uuid.NewString(), Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode})
	}
}
