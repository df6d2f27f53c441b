package server

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"testing"
	"testing/fstest"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
)

func as(name string) context.Context {
	return context.WithValue(context.Background(), personKey{}, name)
}

// hold takes so many places, and returns what gives each back.
func hold(t *testing.T, g *gate, name string, places int) (held []func()) {
	t.Helper()
	for range places {
		done, err := g.take(as(name))
		if err != nil {
			t.Fatal(err)
		}
		held = append(held, done)
	}
	return held
}

// One person takes no more than its share, whatever waits; another gets a place at once, and nobody is
// remembered afterwards.
func TestOnePersonLeavesOthersRoom(t *testing.T) {
	g := newGate(4, 2)
	held := hold(t, g, "a", 2)
	soon, cancel := context.WithTimeout(as("a"), 20*time.Millisecond)
	defer cancel()
	if _, err := g.take(soon); !errors.Is(err, context.DeadlineExceeded) {
		t.Fatalf("a third place of one person: %v", err)
	}
	waits := make(chan func())
	go func() {
		done, _ := g.take(as("a"))
		waits <- done
	}()
	held = append(held, hold(t, g, "b", 2)...)
	full, cancel := context.WithTimeout(as("c"), 20*time.Millisecond)
	defer cancel()
	if _, err := g.take(full); !errors.Is(err, context.DeadlineExceeded) {
		t.Fatalf("a fifth place of four: %v", err)
	}
	held[0]()
	held[0] = <-waits
	for _, done := range held {
		done()
	}
	if len(g.held) != 0 || len(g.queue) != 0 || g.free != 4 {
		t.Errorf("%v hold places, %d wait, %d are free", g.held, len(g.queue), g.free)
	}
}

// Who has the fewest places is served first, though it came last; alone one may have all of them.
func TestTurnsGoRound(t *testing.T) {
	g := newGate(2, 2)
	held := hold(t, g, "a", 2)
	order := make(chan string, 3)
	for k, name := range []string{"a", "a", "b"} {
		go func() {
			done, err := g.take(as(name))
			if err != nil {
				t.Error(err)
				return
			}
			order <- name
			done()
		}()
		for n := -1; n != k+1; time.Sleep(time.Millisecond) { // until it waits
			g.mu.Lock()
			n = len(g.queue)
			g.mu.Unlock()
		}
	}
	held[0]()
	if first := <-order; first != "b" {
		t.Errorf("%s is served first", first)
	}
	held[1]()
	for range 2 {
		<-order
	}
}

// A browser is known by its cookie, whatever its address; programs by their address.
func TestWhoAsks(t *testing.T) {
	const id = "6f9619ff-8b86-4011-b42d-00c04fc964ff"
	for want, req := range map[string]func(r *http.Request){
		id:          func(r *http.Request) { r.AddCookie(&http.Cookie{Name: personCookie, Value: id}) },
		"192.0.2.1": func(*http.Request) {},
		"192.0.2.2": func(r *http.Request) {
			r.RemoteAddr = "192.0.2.2:7"
			r.AddCookie(&http.Cookie{Name: personCookie, Value: "chosen"}) // a name that was not given
		},
	} {
		r := httptest.NewRequest(http.MethodGet, "/", nil)
		req(r)
		c, _ := gin.CreateTestContext(httptest.NewRecorder())
		c.Request = r
		new(Server).known(c)
		if got := personOf(c.Request.Context()); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// The page gives a browser its cookie, once.
func TestThePageIntroduces(t *testing.T) {
	s := New(Config{Page: fstest.MapFS{"index.html": {Data: []byte("<!doctype html>")}}, Log: slog.New(slog.DiscardHandler)})
	t.Cleanup(s.Close)
	at := "http://localhost/"
	visit := func(with *http.Cookie) []*http.Cookie {
		r := httptest.NewRequest(http.MethodGet, at, nil)
		if with != nil {
			r.AddCookie(with)
		}
		w := httptest.NewRecorder()
		s.Handler().ServeHTTP(w, r)
		return w.Result().Cookies()
	}
	given := visit(nil)
	if len(given) != 1 || given[0].Name != personCookie || uuid.Validate(given[0].Value) != nil || !given[0].HttpOnly {
		t.Fatalf("%v", given)
	}
	if again := visit(given[0]); len(again) != 0 {
		t.Errorf("given again: %v", again)
	}
	at += "?key=x" // a key that nobody asked for
	if none := visit(nil); len(none) != 0 {
		t.Errorf("an address with a key: %v", none)
	}
}

// Bakes of one person leave room for those of others.
func TestBakesOfOnePerson(t *testing.T) {
	j := newJobs("")
	fill := func(name string, n int) {
		for range n {
			j.all[uuid.NewString()] = &job{state: BakeState{State: "running"}, asked: ask{person: name}}
		}
	}
	fill("a", maxOwnBakes)
	if a, b := j.room("a"), j.room("b"); !errors.Is(a, errOwnBakes) || b != nil {
		t.Errorf("%v for the one who has %d, %v for another", a, maxOwnBakes, b)
	}
	fill("b", maxBakes-maxOwnBakes)
	if c := j.room("c"); !errors.Is(c, errManyBakes) {
		t.Errorf("with %d in all: %v", maxBakes, c)
	}
}
