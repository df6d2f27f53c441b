package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"os"
	"strings"
	"syscall"
	"time"

	"github.com/schollz/progressbar/v3"
	"github.com/spf13/cobra"
	"golang.org/x/term"

	"bead/demo"
)

// Exit codes.
const (
	exitFine        = 0
	exitFailed      = 1 // a check failed
	exitWrong       = 2 // wrong use or bad input
	exitUnwritten   = 3 // what was made could not be written
	exitInterrupted = 130
)

// honest remembers that something could not be written: output that is lost is no success.
type honest struct {
	io.Writer
	err error
}

func (h *honest) Write(p []byte) (int, error) {
	n, err := h.Writer.Write(p)
	if h.err == nil {
		h.err = err
	}
	return n, err
}

// ended is the exit code for how a command ended, and what is said of it.
func ended(ctx context.Context, out *honest, err error) (code int, says error) {
	var write *fs.PathError
	switch {
	case out.err != nil:
		return exitUnwritten, fmt.Errorf("standard output could not be written: %w", out.err)
	case err == nil:
		return exitFine, nil
	case errors.Is(err, errChecksFailed):
		return exitFailed, nil
	case ctx.Err() != nil:
		return exitInterrupted, errors.New("interrupted")
	case errors.Is(err, syscall.ENOSPC), errors.As(err, &write) && write.Op == "write":
		return exitUnwritten, err
	}
	return exitWrong, err
}

// quiet tells whether only errors are to be said.
func quiet(c *cobra.Command) bool {
	is, _ := c.Flags().GetBool("quiet")
	return is
}

// The forms of what is said on standard error.
const logText, logJSON = "text", "json"

// logForm says whether the form of the log is known.
func logForm(c *cobra.Command) error {
	if form, _ := c.Flags().GetString("log"); form != logText && form != logJSON {
		return fmt.Errorf("--log %q is not accepted: text and json are", form)
	}
	return nil
}

// logsJSON tells whether standard error is for programs.
func logsJSON(c *cobra.Command) bool {
	form, _ := c.Root().PersistentFlags().GetString("log")
	return form == logJSON
}

func logger(w io.Writer) *slog.Logger { return slog.New(slog.NewJSONHandler(w, nil)) }

// tell says something that is no result.
func tell(c *cobra.Command, lines ...string) {
	if quiet(c) {
		return
	}
	for _, text := range lines {
		if logsJSON(c) {
			logger(c.ErrOrStderr()).Info(text)
		} else {
			fmt.Fprintln(c.ErrOrStderr(), text)
		}
	}
}

// meter tells how far something has come: a bar on a terminal, lines of JSON where these were asked for, and
// nothing elsewhere.
type meter struct {
	bar  *progressbar.ProgressBar
	log  *slog.Logger
	what string
	of   int
	told time.Time
}

// progressEvery is how often a line of JSON tells of progress.
const progressEvery = time.Second

func progress(c *cobra.Command, of int, what string) *meter {
	m := &meter{what: what, of: of}
	if quiet(c) {
		return m
	}
	if logsJSON(c) {
		m.log = logger(c.ErrOrStderr())
	} else if f, is := c.ErrOrStderr().(*os.File); is && term.IsTerminal(int(f.Fd())) {
		m.bar = progressbar.NewOptions(of, progressbar.OptionSetWriter(f), progressbar.OptionSetDescription(what),
			progressbar.OptionThrottle(100*time.Millisecond), progressbar.OptionClearOnFinish(), progressbar.OptionShowCount())
	}
	return m
}

func (m *meter) set(done int) {
	if m.bar != nil {
		_ = m.bar.Set(done)
	}
	if m.log != nil && (time.Since(m.told) > progressEvery || done == m.of) {
		m.told = time.Now()
		m.log.Info(m.what, "done", done, "of", m.of)
	}
}

// grow says of how many.
func (m *meter) grow(of int) {
	if m.of = of; m.bar != nil {
		m.bar.ChangeMax(of)
	}
}

func (m *meter) end() {
	if m.bar != nil {
		_ = m.bar.Finish()
	}
}

type completer = func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective)

// among completes to some words.
func among(words func() []string) completer {
	return func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
		return words(), cobra.ShellCompDirectiveNoFileComp
	}
}

// scenes completes SCENE: demo scenes by name, else files.
func scenes(_ *cobra.Command, args []string, begun string) ([]string, cobra.ShellCompDirective) {
	if len(args) > 0 || !strings.HasPrefix(begun, "demo:") {
		return nil, cobra.ShellCompDirectiveDefault
	}
	var out []string
	for _, n := range demo.Names() {
		out = append(out, "demo:"+n)
	}
	return out, cobra.ShellCompDirectiveNoFileComp
}
