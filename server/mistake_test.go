package server

import (
	"context"
	"log/slog"
	"net/http/httptest"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/coder/websocket"

	"bead/core/scene"
	"bead/store"
)

// A mistake of the program while it answers a live channel ends that with code 1011 and a reason; the server goes
// on, and its log has the place.
func TestAMistakeEndsItsChannel(t *testing.T) {
	ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
	defer cancel()
	st, err := store.Open(ctx, t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	var log strings.Builder
	srv := New(Config{Store: st, Page: fstest.MapFS{}, Log: slog.New(slog.NewTextHandler(&log, nil))})
	ts := httptest.NewServer(srv.Handler())
	t.Cleanup(func() { srv.Close(); ts.Close(); st.Close() })
	made, err := st.Create(ctx, &scene.Document{Bead: scene.Version, Name: "One", FPS: 24, Range: scene.Range{First: 1, Last: 2}, Paths: []scene.Path{}, Parts: []scene.Part{}, Rigs: []scene.Rig{}}, "made")
	if err != nil {
		t.Fatal(err)
	}
	srv.library = nil // the mistake: whoever asks it for a mesh fails
	conn, _, err := websocket.Dial(ctx, strings.Replace(ts.URL, "http", "ws", 1)+"/api/v1/scenes/"+made.ID+"/live", nil)
	if err != nil {
		t.Fatal(err)
	}
	defer conn.CloseNow()
	edit := `{"seq":1,"frame":1,"doc":{"bead":2,"name":"One","fps":24,"range":{"first":1,"last":2},"paths":[],"rigs":[],
"parts":[{"id":"a","name":"a","shape":{"file":{"asset":"` + strings.Repeat("ab", 32) + `"}}}],"fixtures":[{"id":"f","name":"f","part":"a","at":[0,0,0]}]}}`
	if err := conn.Write(ctx, websocket.MessageText, []byte(edit)); err != nil {
		t.Fatal(err)
	}
	for err == nil {
		_, _, err = conn.Read(ctx)
	}
	if code := websocket.CloseStatus(err); code != websocket.StatusInternalError {
		t.Errorf("it ends with %d: %v", code, err)
	}
	res, err := ts.Client().Get(ts.URL + "/api/v1/scenes")
	if err != nil || res.StatusCode != 200 {
		t.Fatalf("afterwards the server answers %v, %v", res, err)
	}
	res.Body.Close()
	srv.Close()
	if !strings.Contains(log.String(), "stack") {
		t.Errorf("the log says %q", log.String())
	}
}
