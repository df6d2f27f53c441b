package server

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http/httptest"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"bead/store"
)

// A request whose body comes no further is given up, and one that goes on coming, however slowly, is not.
func TestBodiesThatComeNoFurther(t *testing.T) {
	was := idle
	idle = 150 * time.Millisecond
	t.Cleanup(func() { idle = was })
	st, err := store.Open(context.Background(), t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	srv := New(Config{Store: st, Page: fstest.MapFS{}, Log: slog.New(slog.DiscardHandler)})
	ts := httptest.NewServer(srv.Handler())
	t.Cleanup(func() { srv.Close(); ts.Close(); st.Close() })
	send := func(more bool) string {
		t.Helper()
		conn, err := net.Dial("tcp", ts.Listener.Addr().String())
		if err != nil {
			t.Fatal(err)
		}
		defer conn.Close()
		text := `{"starter":"empty"}`
		fmt.Fprintf(conn, "POST /api/v1/scenes HTTP/1.1\r\nHost: localhost\r\nContent-Length: %d\r\nConnection: close\r\n\r\n%s", len(text), text[:5])
		for at := 5; more && at < len(text); at++ {
			time.Sleep(40 * time.Millisecond) // three times as long in all
			fmt.Fprint(conn, text[at:at+1])
		}
		_ = conn.SetReadDeadline(time.Now().Add(10 * time.Second))
		answer, err := io.ReadAll(conn)
		if err != nil {
			t.Fatal(err)
		}
		status, _, _ := strings.Cut(string(answer), "\r\n")
		return status
	}
	if got := send(false); !strings.Contains(got, " 400 ") {
		t.Errorf("a body that stops: %q", got)
	}
	if got := send(true); !strings.Contains(got, " 201 ") {
		t.Errorf("a body that comes slowly: %q", got)
	}
}
