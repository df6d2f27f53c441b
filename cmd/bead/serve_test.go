package main

import (
	"bead/demo"
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"
)

// output may be written by the program while the test reads it.
type output struct {
	mu sync.Mutex
	b  bytes.Buffer
}

func (o *output) Write(p []byte) (int, error) {
	o.mu.Lock()
	defer o.mu.Unlock()
	return o.b.Write(p)
}

func (o *output) String() string {
	o.mu.Lock()
	defer o.mu.Unlock()
	return o.b.String()
}

var printed = regexp.MustCompile(`http://\S+`)

// serving starts the program and returns the address it prints and a function
// that stops it and returns its exit code.
func serving(t *testing.T, args ...string) (address string, stop func() int) {
	t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	var out, errs output
	done := make(chan int, 1)
	go func() { done <- runWith(ctx, append(args, "--no-open"), nil, &out, &errs) }()
	for range 200 {
		if address = printed.FindString(out.String()); address != "" {
			break
		}
		time.Sleep(10 * time.Millisecond)
	}
	if address == "" {
		t.Fatalf("no address was printed: %s", errs.String())
	}
	return address, func() int {
		cancel()
		select {
		case code := <-done:
			return code
		case <-time.After(15 * time.Second):
			t.Fatal("the program does not stop")
			return -1
		}
	}
}

func get(t *testing.T, url string, header ...string) (int, string) {
	t.Helper()
	req, err := http.NewRequest("GET", url, nil)
	if err != nil {
		t.Fatal(err)
	}
	for i := 0; i+1 < len(header); i += 2 {
		req.Header.Set(header[i], header[i+1])
	}
	res, err := http.DefaultTransport.RoundTrip(req)
	if err != nil {
		t.Fatal(err)
	}
	defer res.Body.Close()
	body, err := io.ReadAll(res.Body)
	if err != nil {
		t.Fatal(err)
	}
	return res.StatusCode, string(body)
}

// demo starts with its scenes, keeps what is there on the next start, and stops
// when asked; serve starts empty.
func TestDemoAndServe(t *testing.T) {
	dir := t.TempDir()
	for start := range 2 {
		address, stop := serving(t, "demo", "--listen", "127.0.0.1:0", "--data", dir)
		code, body := get(t, address+"api/scenes")
		var cards []struct{ ID, Name string }
		if err := json.Unmarshal([]byte(body), &cards); err != nil || code != 200 || len(cards) != len(demo.Names())-start {
			t.Fatalf("start %d: %d %s", start+1, code, body)
		}
		if start == 0 {
			req, _ := http.NewRequest("DELETE", address+"api/scenes/"+cards[0].ID, nil)
			if res, err := http.DefaultClient.Do(req); err != nil || res.StatusCode != 204 {
				t.Fatal("delete:", res, err)
			}
		}
		if code := stop(); code != 0 {
			t.Errorf("exit code %d", code)
		}
	}
	address, stop := serving(t, "serve", "--listen", "127.0.0.1:0", "--data", t.TempDir())
	if code, body := get(t, address+"api/scenes"); code != 200 || strings.TrimSpace(body) != "[]" {
		t.Errorf("serve: %d %s", code, body)
	}
	// The address is taken: a message, and exit code 2.
	taken := strings.TrimSuffix(strings.TrimPrefix(address, "http://"), "/")
	if code, _, errs := bead("serve", "--listen", taken, "--data", t.TempDir()); code != 2 || !strings.Contains(errs, "--listen") {
		t.Errorf("taken address: %d %s", code, errs)
	}
	// Started again without a directory of its own it finds the first, if that has the same scenes.
	t.Setenv("XDG_DATA_HOME", t.TempDir())
	if code, out, errs := bead("serve", "--no-open", "--listen", taken); code != 0 || out != "Bead is at "+address+" already\n" {
		t.Errorf("started again: exit %d, %q, %q", code, out, errs)
	}
	if code, _, errs := bead("demo", "--listen", taken); code != 2 || !strings.Contains(errs, "--listen") {
		t.Errorf("other scenes at the same address: exit %d, %q", code, errs)
	}
	stop()
}

// Beyond loopback an access key is made up, printed, and asked for.
func TestAccessKeyBeyondLoopback(t *testing.T) {
	address, stop := serving(t, "serve", "--listen", "0.0.0.0:0", "--data", t.TempDir())
	defer stop()
	base, key, found := strings.Cut(address, "/?key=")
	if !found || len(key) < 20 {
		t.Fatalf("address %s holds no key", address)
	}
	base = strings.Replace(strings.Replace(base, "[::]", "127.0.0.1", 1), "0.0.0.0", "127.0.0.1", 1)
	if code, _ := get(t, base+"/api/scenes"); code != 401 {
		t.Errorf("without the key: %d", code)
	}
	if code, _ := get(t, base+"/api/scenes", "Authorization", "Bearer "+key); code != 200 {
		t.Errorf("with the key: %d", code)
	}
}

// Whatever the access key is made of, the address that is printed lets in and hands out a cookie
// that does; a client with a cookie jar is an ordinary browser to it. No address leads elsewhere.
func TestPrintedAddressLetsIn(t *testing.T) {
	for _, key := range []string{"plain", "with space", "a+b", "a%41b", "semi;colon", "a&b", "ümlaut", `q"uote`, "a#b"} {
		address, stop := serving(t, "serve", "--listen", "127.0.0.1:0", "--data", t.TempDir(), "--key", key)
		jar, err := cookiejar.New(nil)
		if err != nil {
			t.Fatal(err)
		}
		client := &http.Client{Jar: jar, CheckRedirect: func(r *http.Request, _ []*http.Request) error {
			if r.URL.Query().Has("key") {
				t.Errorf("key %q stays in the address: %s", key, r.URL)
			}
			return nil
		}}
		base, _, _ := strings.Cut(address, "?")
		for _, step := range []struct {
			address string
			code    int
		}{{base + "api/scenes", 401}, {address, 200}, {base + "api/scenes", 200}} {
			res, err := client.Get(step.address)
			if err != nil {
				t.Fatal(err)
			}
			if res.Body.Close(); res.StatusCode != step.code {
				t.Errorf("key %q, %s: %d, want %d", key, step.address, res.StatusCode, step.code)
			}
		}
		_, query, _ := strings.Cut(address, "?")
		for _, path := range []string{"//elsewhere.example/", `/\elsewhere.example/`, "///x//y"} {
			to := redirected(t, base, path+"?"+query)
			if to.Host != base[len("http://"):len(base)-1] {
				t.Errorf("key %q, %s: on to %s", key, path, to)
			}
		}
		if code := stop(); code != 0 {
			t.Errorf("key %q: ended with %d", key, code)
		}
	}
}

// redirected asks for a target as it stands, as no client would write it, and returns the address
// that a browser goes on to.
func redirected(t *testing.T, base, target string) *url.URL {
	t.Helper()
	from, err := url.Parse(base)
	if err != nil {
		t.Fatal(err)
	}
	conn, err := net.Dial("tcp", from.Host)
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close()
	fmt.Fprintf(conn, "GET %s HTTP/1.1\r\nHost: %s\r\nConnection: close\r\n\r\n", target, from.Host)
	res, err := http.ReadResponse(bufio.NewReader(conn), nil)
	if err != nil {
		t.Fatal(err)
	}
	res.Body.Close()
	location := strings.ReplaceAll(res.Header.Get("Location"), `\`, "/") // as browsers read it
	to, err := from.Parse(location)
	if err != nil || location == "" {
		t.Fatalf("%s: %d, on to %q (%v)", target, res.StatusCode, location, err)
	}
	return to
}
