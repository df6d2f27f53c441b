// Package server is Bead's HTTP face: scenes and their history, the live channel,
// imports, bakes, and the page itself. Handlers decode, call and encode; what is
// right or wrong about a scene is decided in core.
package server

import (
	"context"
	"crypto/subtle"
	"errors"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"runtime/debug"
	"strings"
	"sync"
	"time"

	"github.com/gin-contrib/gzip"
	"github.com/gin-contrib/requestid"
	"github.com/gin-gonic/gin"

	"bead/core/scene"
	"bead/formats"
	"bead/store"
)

// Config is what a server needs.
type Config struct {
	Store   *store.Store
	Kind    string // of the scenes: scenes or demo
	Page    fs.FS  // the built front end; index.html is missing when it was not built
	Version string
	// AccessKey must be given by every visitor when it is not empty.
	AccessKey string
	// Hosts are the names this server answers to besides the loopback ones, without
	// ports. Empty with an access key means any.
	Hosts []string
	// FillBytes bounds the frames sent ahead for one edit; frames beyond it come when they are
	// looked at. 0: 96 MB.
	FillBytes int
	// BakeDir keeps the files of bakes, and nothing else: what is left there from before is
	// deleted. Empty: the system's directory for passing files.
	BakeDir string
	Log     *slog.Logger
	// Frames keeps simulated frames; nil keeps none.
	Frames *store.Frames
}

// Limits of requests.
const (
	maxBody       = scene.MaxBytes + 1<<20 // a document in its envelope
	maxImport     = 64 << 20               // a file of paths
	headerTimeout = 10 * time.Second
)

// Server answers requests until Close.
type Server struct {
	cfg      Config
	engine   *gin.Engine
	api      []byte // its description
	describe sync.Once
	jobs     *jobs
	hub      *hub
	library  *formats.Library // meshes of the store's assets
	gates
	proven proven
	stop   context.CancelFunc
	ctx    context.Context // ends the live channels, which Shutdown does not
}

// New returns a server ready to handle requests.
func New(cfg Config) *Server {
	gin.SetMode(gin.ReleaseMode)
	s := &Server{cfg: cfg, engine: gin.New(), jobs: newJobs(cfg.BakeDir), hub: newHub(), gates: newGates()}
	s.ctx, s.stop = context.WithCancel(context.Background())
	s.library = formats.NewLibrary(func(asset string) (string, []byte, error) {
		return cfg.Store.Asset(s.ctx, asset)
	})

	s.engine.Use(requestid.New(), s.logged, s.recovered, s.guarded, s.known, gzip.Gzip(gzip.BestSpeed, gzip.WithExcludedPathsRegexs([]string{"/live$", "/file$", "/pictures$"})))
	s.routes()
	return s
}

// Handler returns the server as an http.Handler.
func (s *Server) Handler() http.Handler { return s.engine }

// Close ends live channels and running bakes.
func (s *Server) Close() {
	s.stop()
	s.jobs.close()
}

// When the server stops, requests may take finishWithin to end by themselves; then their contexts
// end, and after endWithin their connections.
const finishWithin, endWithin = 200 * time.Millisecond, 2 * time.Second

// Run serves on the listener until ctx is done, then finishes what is quickly finished and ends
// the rest: what was not acknowledged was not done.
func (s *Server) Run(ctx context.Context, l net.Listener) error {
	requests, end := context.WithCancel(context.WithoutCancel(ctx))
	defer end()
	hs := &http.Server{Handler: s.engine, ReadHeaderTimeout: headerTimeout, IdleTimeout: time.Minute,
		BaseContext: func(net.Listener) context.Context { return requests }}
	hs.RegisterOnShutdown(func() {
		time.AfterFunc(finishWithin, end)
		s.Close()
	})
	done := make(chan error, 1)
	go func() { done <- hs.Serve(l) }()
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
	}
	wait, cancel := context.WithTimeout(context.WithoutCancel(ctx), endWithin)
	defer cancel()
	err := hs.Shutdown(wait)
	if errors.Is(err, context.DeadlineExceeded) {
		s.cfg.Log.Warn("requests that did not end were cut off")
		return hs.Close()
	}
	return err
}

func (s *Server) logged(c *gin.Context) {
	start := time.Now()
	c.Next()
	s.cfg.Log.Debug("request", "method", c.Request.Method, "path", c.Request.URL.Path,
		"status", c.Writer.Status(), "took", time.Since(start), "id", requestid.Get(c))
}

func (s *Server) recovered(c *gin.Context) {
	defer func() {
		if r := recover(); r != nil {
			s.cfg.Log.Error("panic", "path", c.Request.URL.Path, "id", requestid.Get(c), "value", r, "stack", string(debug.Stack()))
			fail(c, http.StatusInternalServerError, "internal", "Bead made a mistake here. Nothing was changed; the request id names it in the log.", nil)
		}
	}()
	c.Next()
}

// cookieName holds the access key of a visitor who came with it once.
const cookieName = "bead_key"

// guarded turns away what a page elsewhere might send: requests by another name
// than ours (DNS rebinding), from another origin, or without the access key.
func (s *Server) guarded(c *gin.Context) {
	if !s.hostAllowed(c.Request.Host) {
		fail(c, http.StatusForbidden, "host", "This server does not answer to that name. Open it by the address it printed.", nil)
		return
	}
	if origin := c.GetHeader("Origin"); origin != "" {
		u, err := url.Parse(origin)
		if err != nil || !strings.EqualFold(u.Host, c.Request.Host) {
			fail(c, http.StatusForbidden, "origin", "Requests from other pages are not accepted.", nil)
			return
		}
	}
	if site := c.GetHeader("Sec-Fetch-Site"); site == "cross-site" && strings.HasPrefix(c.Request.URL.Path, "/api/") {
		fail(c, http.StatusForbidden, "origin", "Requests from other pages are not accepted.", nil)
		return
	}
	h := c.Writer.Header()
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "no-referrer")
	h.Set("X-Frame-Options", "DENY")
	if s.cfg.AccessKey != "" && !s.admitted(c) {
		return
	}
	c.Next()
}

func (s *Server) hostAllowed(hostport string) bool {
	host := hostport
	if h, _, err := net.SplitHostPort(hostport); err == nil {
		host = h
	}
	host = strings.Trim(host, "[]")
	if host == "localhost" {
		return true
	}
	if ip := net.ParseIP(host); ip != nil && ip.IsLoopback() {
		return true
	}
	if s.cfg.AccessKey != "" && len(s.cfg.Hosts) == 0 {
		return true
	}
	for _, h := range s.cfg.Hosts {
		if strings.EqualFold(h, host) {
			return true
		}
	}
	return false
}

func (s *Server) admitted(c *gin.Context) bool {
	same := func(key string) bool { return subtle.ConstantTimeCompare([]byte(key), []byte(s.cfg.AccessKey)) == 1 }
	if bearer, ok := strings.CutPrefix(c.GetHeader("Authorization"), "Bearer "); ok && same(bearer) {
		return true
	}
	if cookie, err := c.Cookie(cookieName); err == nil && same(cookie) {
		return true
	}
	if c.Request.Method == http.MethodGet && same(c.Query("key")) {
		http.SetCookie(c.Writer, &http.Cookie{Name: cookieName, Value: url.QueryEscape(s.cfg.AccessKey), Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode})
		if !strings.HasPrefix(c.Request.URL.Path, "/api/") {
			// Out of the address bar; two slashes at the front would lead to another host.
			here := url.URL{Path: "/" + strings.TrimLeft(c.Request.URL.Path, `/\`)}
			c.Redirect(http.StatusSeeOther, here.String())
			c.Abort()
			return false
		}
		return true
	}
	fail(c, http.StatusUnauthorized, "key", "This Bead asks for its access key: open the address it printed when it started, with ?key=.", nil)
	return false
}

const notBuilt = `<!doctype html><meta charset="utf-8"><title>Bead</title>
<body style="font:16px/1.5 sans-serif;max-width:38em;margin:4em auto;padding:0 1em;color:#1B2A33;background:#F6F3EC">
<h1>Bead is running, its page is not built</h1>
<p>The front end is made with Node: run <code>make build</code> (or <code>cd web &amp;&amp; npm ci &amp;&amp; npm run build</code>),
then build the program again with <code>go build ./cmd/bead</code>. The command line and <code>/api</code> work without it.</p>`

// static serves the page's files; any other address is the page itself, which
// reads the address.
func (s *Server) static(c *gin.Context) {
	if strings.HasPrefix(c.Request.URL.Path, "/api/") || c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
		fail(c, http.StatusNotFound, "route", "There is nothing at this address.", nil)
		return
	}
	name := strings.TrimPrefix(c.Request.URL.Path, "/")
	if f, err := fs.Stat(s.cfg.Page, name); err == nil && !f.IsDir() && name != "index.html" {
		if strings.HasPrefix(name, "assets/") { // named by their content
			c.Header("Cache-Control", "public, max-age=31536000, immutable")
		}
		c.FileFromFS(name, http.FS(s.cfg.Page))
		return
	}
	page, err := fs.ReadFile(s.cfg.Page, "index.html")
	if err != nil {
		c.Data(http.StatusOK, "text/html; charset=utf-8", []byte(notBuilt))
		return
	}
	introduce(c)
	c.Header("Cache-Control", "no-cache")
	c.Header("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; media-src 'self' blob:; worker-src 'self' blob:; connect-src 'self' blob: data:; base-uri 'none'; form-action 'none'; frame-ancestors 'none'")
	c.Data(http.StatusOK, "text/html; charset=utf-8", page)
}
