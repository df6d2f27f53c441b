package server_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"bead/server"
	"bead/store"
)

// heavy is a document whose answer takes long, for its lag is counted over its frames.
func heavy(doc map[string]any) map[string]any {
	copied := map[string]any{}
	for k, v := range doc {
		copied[k] = v
	}
	copied["range"] = map[string]any{"first": 1, "last": 18000}
	way := map[string]any{"id": "slow", "name": "Slow", "shape": json.RawMessage(`{"spline":{"points":[{"at":[0,0,0]},{"at":[0,1,9]}]}}`),
		"steps": json.RawMessage(`[{"wave":{"side":0.1,"wavelength":0.5,"phase":{"speed":1}}},{"lag":{"frequency":1,"damping":0.3,"first":-1000}}]`)}
	copied["paths"] = append(append([]any(nil), doc["paths"].([]any)...), way)
	return copied
}

// An edit that is kept ends the answer to the one before; while it waits nobody else does.
func TestNewerEditOvertakes(t *testing.T) {
	s := start(t, nil)
	var sc struct {
		ID  string
		Doc map[string]any
	}
	s.call("POST", "/api/scenes", map[string]any{"starter": "row"}, &sc)
	a, b := s.live(sc.ID), s.live(sc.ID)
	a.send(map[string]any{"seq": 1, "frame": 17000, "fill": true, "doc": heavy(sc.Doc)})
	time.Sleep(300 * time.Millisecond) // it is at work
	b.send(map[string]any{"seq": 1, "frame": 1, "fill": false, "doc": sc.Doc})
	if m := b.next(); m.kind != 1 || m.seq != 1 {
		t.Fatalf("beside a heavy scene: kind %d, seq %d", m.kind, m.seq)
	}
	a.send(map[string]any{"seq": 2, "frame": 1, "fill": true, "doc": sc.Doc})
	for {
		m := a.next()
		if m.seq == 1 && m.kind == 1 {
			t.Fatal("the older edit was answered first, after all of its 18,000 frames of a lag")
		}
		if m.seq == 2 {
			break
		}
	}
}

// Bakes wait in a row of a bounded length, end when they are cancelled, and leave no files.
func TestBakesAreBounded(t *testing.T) {
	dir := t.TempDir()
	left := filepath.Join(dir, "bead-bake-left.glb")
	if err := os.WriteFile(left, []byte("from a run that was killed"), 0o600); err != nil {
		t.Fatal(err)
	}
	s := start(t, func(c *server.Config) { c.BakeDir = dir })
	if _, err := os.Stat(left); err == nil {
		t.Error("what a killed run left is still there")
	}
	var sc struct{ Doc map[string]any }
	s.call("POST", "/api/scenes", map[string]any{"starter": "row"}, &sc)
	var ids []string
	many := 0
	for range 12 {
		var state server.BakeState
		switch status := s.call("POST", "/api/bakes", map[string]any{"doc": sc.Doc, "format": "csv", "first": 1, "last": 100_000}, &state); status {
		case http.StatusAccepted:
			ids = append(ids, state.ID)
		case http.StatusTooManyRequests:
			many++
		default:
			t.Fatalf("status %d", status)
		}
	}
	if many == 0 {
		t.Error("twelve long bakes were all taken")
	}
	for _, far := range []string{`{"first":9223372036854775000,"last":9223372036854775807}`, `{"first":-9223372036854775808,"last":9223372036854775807}`, `{"first":1,"last":100001}`} {
		var r struct{ First, Last int }
		_ = json.Unmarshal([]byte(far), &r)
		if status := s.call("POST", "/api/bakes", map[string]any{"doc": sc.Doc, "format": "csv", "first": r.First, "last": r.Last}, nil); status != http.StatusBadRequest {
			t.Errorf("frames %s: status %d", far, status)
		}
	}
	for _, id := range ids {
		s.call("DELETE", "/api/bakes/"+id, nil, nil)
	}
	for _, id := range ids {
		for {
			var state server.BakeState
			s.call("GET", "/api/bakes/"+id, nil, &state)
			if state.State == "failed" || state.State == "finished" {
				break
			}
			time.Sleep(10 * time.Millisecond)
		}
	}
	var state server.BakeState
	if status := s.call("POST", "/api/bakes", map[string]any{"doc": sc.Doc, "format": "csv", "first": 1, "last": 2}, &state); status != http.StatusAccepted {
		t.Errorf("after all were cancelled: %d", status)
	}
}

// A server that is told to stop does so soon, whatever is under way, and says nothing is wrong.
func TestStopsSoon(t *testing.T) {
	st, err := store.Open(context.Background(), t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	srv := server.New(server.Config{Store: st, Log: slog.New(slog.DiscardHandler)})
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	ctx, stop := context.WithCancel(context.Background())
	ended := make(chan error, 1)
	go func() { ended <- srv.Run(ctx, l) }()
	conn, err := net.Dial("tcp", l.Addr().String())
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close()
	// A save whose body comes no further.
	fmt.Fprintf(conn, "PUT /api/scenes/x HTTP/1.1\r\nHost: localhost\r\nContent-Length: 100000\r\n\r\n{\"doc\":")
	time.Sleep(50 * time.Millisecond)
	stop()
	select {
	case err := <-ended:
		if err != nil {
			t.Errorf("stopped with %v", err)
		}
	case <-time.After(30 * time.Second):
		t.Error("does not stop")
	}
}

// A scene that cannot be read is a card among the others and can be saved as a file.
func TestUnreadableCard(t *testing.T) {
	dir := t.TempDir()
	st, err := store.Open(context.Background(), dir)
	if err != nil {
		t.Fatal(err)
	}
	s := start(t, func(c *server.Config) { c.Store = st })
	var good, bad struct{ ID string }
	s.call("POST", "/api/scenes", map[string]any{"starter": "row"}, &good)
	s.call("POST", "/api/scenes", map[string]any{"starter": "row"}, &bad)
	db, err := sql.Open("sqlite", filepath.Join(dir, "bead.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	if _, err := db.Exec(`UPDATE history SET doc = CAST('{"bead":1,"name":"torn' AS BLOB) WHERE scene = ?`, bad.ID); err != nil {
		t.Fatal(err)
	}
	var cards []server.SceneCard
	if status := s.call("GET", "/api/scenes", nil, &cards); status != 200 || len(cards) != 2 || cards[0].Unreadable == "" || cards[1].Unreadable != "" {
		t.Fatalf("status %d, cards %+v", status, cards)
	}
	var problem server.Problem
	if status := s.call("GET", "/api/scenes/"+bad.ID, nil, &problem); status != http.StatusUnprocessableEntity || problem.Code != "unreadable" {
		t.Errorf("opened: %d %+v", status, problem)
	}
	r, err := http.Get(s.ts.URL + "/api/scenes/" + bad.ID + "/document")
	if err != nil {
		t.Fatal(err)
	}
	defer r.Body.Close()
	if text, _ := io.ReadAll(r.Body); r.StatusCode != 200 || !strings.HasPrefix(string(text), `{"bead":1,"name":"torn`) {
		t.Errorf("saved: %d %.40s", r.StatusCode, text)
	}
}

// Many windows edit, look and save at once; with the race detector on nothing is shared by mistake.
func TestManyAtOnce(t *testing.T) {
	s := start(t, nil)
	var wait sync.WaitGroup
	for range 4 {
		wait.Go(func() {
			var sc struct {
				ID       string
				Revision int64
				Doc      map[string]any
			}
			if status := s.call("POST", "/api/scenes", map[string]any{"starter": "row"}, &sc); status != http.StatusCreated {
				t.Errorf("status %d", status)
				return
			}
			c := s.live(sc.ID)
			c.send(map[string]any{"seq": 1, "frame": 1, "fill": true, "doc": sc.Doc})
			for k := range 4 {
				sc.Doc["name"] = fmt.Sprintf("name %d", k)
				if status := s.call("PUT", "/api/scenes/"+sc.ID, map[string]any{"revision": sc.Revision, "label": "named", "doc": sc.Doc}, &sc); status != 200 {
					t.Errorf("status %d", status)
				}
				s.call("GET", "/api/scenes", nil, nil)
			}
			s.call("GET", "/api/scenes/"+sc.ID+"/picture.svg", nil, nil) // once: it is slow with the detector
			for c.next().kind != 5 {
			}
		})
	}
	wait.Wait()
}
