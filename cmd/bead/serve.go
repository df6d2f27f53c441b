package main

import (
	"cmp"
	"context"
	"crypto/rand"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"time"

	"github.com/pkg/browser"
	"github.com/spf13/cobra"

	"bead/demo"
	"bead/server"
	"bead/store"
	"bead/web"
)

const defaultListen = "127.0.0.1:7411"

// serveOptions is what serve and demo are asked for.
type serveOptions struct {
	listen, data, key string
	verbose, noOpen   bool
	cache             int // MB
}

func (o *serveOptions) flags(c *cobra.Command) {
	c.Flags().StringVar(&o.listen, "listen", cmp.Or(os.Getenv("BEAD_LISTEN"), defaultListen), "address to listen on, else that of BEAD_LISTEN; beyond loopback an access key is asked for")
	c.Flags().StringVar(&o.data, "data", os.Getenv("BEAD_DATA"), "directory that keeps the scenes, else that of BEAD_DATA (default ~/.local/share/bead)")
	c.Flags().StringVar(&o.key, "key", "", "access key that visitors must give, else that of BEAD_KEY (made up beyond loopback)")
	c.Flags().BoolVar(&o.noOpen, "no-open", false, "do not open the page in the browser")
	c.Flags().BoolVarP(&o.verbose, "verbose", "v", false, "log every request")
	c.Flags().IntVar(&o.cache, "cache-size", 512, "MB of simulated frames that are kept in the data directory; 0: none")
}

func serveCommand() *cobra.Command {
	var o serveOptions
	c := &cobra.Command{Use: "serve", Short: "Serve the page and its scenes", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			return serve(c, "scenes", &o, nil)
		}}
	o.flags(c)
	return c
}

func demoCommand() *cobra.Command {
	var o serveOptions
	var list bool
	c := &cobra.Command{Use: "demo", Short: "Serve the page with the kelp station's scenes", Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if list {
				for _, n := range demo.Names() {
					fmt.Fprintln(c.OutOrStdout(), n)
				}
				return nil
			}
			return serve(c, "demo", &o, addDemoScenes)
		}}
	o.flags(c)
	c.Flags().BoolVar(&list, "list", false, "print the demo scenes' names, one a line, and stop")
	return c
}

// addDemoScenes puts the demo scenes into an empty store.
func addDemoScenes(ctx context.Context, st *store.Store) error {
	have, err := st.List(ctx)
	if err != nil || len(have) > 0 {
		return err
	}
	names := demo.Names()
	for i := len(names) - 1; i >= 0; i-- { // the last made is listed first
		d, err := demo.Scene(names[i])
		if err != nil {
			return err
		}
		if _, err := st.Create(ctx, d, "made"); err != nil {
			return err
		}
	}
	return nil
}

// memoryAim is what the server keeps to as long as what it holds allows: near it memory is collected more
// eagerly. GOMEMLIMIT says another.
const memoryAim = 900 << 20

func serve(c *cobra.Command, kind string, o *serveOptions, prepare func(context.Context, *store.Store) error) error {
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(memoryAim)
	}
	ctx, data, key := c.Context(), o.data, cmp.Or(o.key, os.Getenv("BEAD_KEY"))
	if data == "" {
		var err error
		if data, err = dataDir(kind); err != nil {
			return err
		}
	}
	if err := os.MkdirAll(data, 0o700); err != nil {
		return fmt.Errorf("%w: choose another directory with --data", err)
	}
	l, err := net.Listen("tcp", o.listen)
	if err != nil {
		if there := running(ctx, o.listen, kind); there != "" && o.data == "" {
			fmt.Fprintf(c.OutOrStdout(), "Bead is at %s already\n", there)
			o.open(there)
			return nil
		}
		return fmt.Errorf("%w: choose another address with --listen", err)
	}
	defer l.Close() // a second time where it was served
	st, err := store.Open(ctx, data)
	if err != nil {
		return err
	}
	defer st.Close()
	if prepare != nil {
		if err := prepare(ctx, st); err != nil {
			return err
		}
	}
	host, _, _ := net.SplitHostPort(o.listen)
	if ip := net.ParseIP(host); key == "" && host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		key = rand.Text()
	}
	level := slog.LevelInfo
	if o.verbose {
		level = slog.LevelDebug
	}
	bakes := filepath.Join(data, "bakes")
	if err := os.MkdirAll(bakes, 0o700); err != nil {
		return fmt.Errorf("%w: choose another directory with --data", err)
	}
	frames, err := keptFrames(c, filepath.Join(data, "frames"), o.cache)
	if err != nil {
		return err
	}
	srv := server.New(server.Config{
		BakeDir: bakes,
		Frames:  frames,
		Store:   st, Page: web.Page(), Version: programVersion(), Kind: kind, AccessKey: key,
		Log: serverLog(c, level),
	})
	address := "http://" + l.Addr().String() + "/"
	if key != "" {
		address += "?key=" + url.QueryEscape(key)
	}
	tell(c, "Bead keeps its scenes in "+data)
	fmt.Fprintf(c.OutOrStdout(), "Bead is at %s\n", address)
	o.open(address)
	return srv.Run(ctx, l)
}

// running is the address of a Bead with scenes of a kind that listens there already; "" of none that can be
// asked.
func running(ctx context.Context, listen, kind string) string {
	ctx, cancel := context.WithTimeout(ctx, 2*time.Second)
	defer cancel()
	address := "http://" + listen + "/"
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, address+"api/about", nil)
	if err != nil {
		return ""
	}
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return ""
	}
	defer res.Body.Close()
	var about server.About
	if json.NewDecoder(io.LimitReader(res.Body, 1<<20)).Decode(&about) != nil || about.Kind != kind {
		return ""
	}
	return address
}

// open shows the page in the browser, where there is a screen for one.
func (o *serveOptions) open(address string) {
	screen := runtime.GOOS == "windows" || runtime.GOOS == "darwin" || os.Getenv("DISPLAY") != "" || os.Getenv("WAYLAND_DISPLAY") != ""
	if o.noOpen || !screen {
		return
	}
	browser.Stdout = io.Discard  // standard output is for results
	_ = browser.OpenURL(address) // the address stands on standard output in any case
}

// keptFrames opens the cache of simulated frames, and says how full it is; nil where it is to keep none.
func keptFrames(c *cobra.Command, dir string, megabytes int) (*store.Frames, error) {
	if megabytes < 0 {
		return nil, fmt.Errorf("--cache-size %d: 0 and more are accepted", megabytes)
	}
	if megabytes == 0 {
		return nil, nil
	}
	f, err := store.OpenFrames(dir, int64(megabytes)<<20)
	if err != nil {
		return nil, err
	}
	bytes, most := f.Size()
	tell(c, fmt.Sprintf("Simulated frames: %.1f of %d MB are kept in %s", float64(bytes)/(1<<20), most>>20, dir))
	return f, nil
}

// serverLog is the log of a server, in the form that was asked for.
func serverLog(c *cobra.Command, level slog.Level) *slog.Logger {
	o := &slog.HandlerOptions{Level: level}
	if logsJSON(c) {
		return slog.New(slog.NewJSONHandler(c.ErrOrStderr(), o))
	}
	return slog.New(slog.NewTextHandler(c.ErrOrStderr(), o))
}
