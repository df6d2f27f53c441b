package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
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

// tell says something that is no result.
func tell(c *cobra.Command, lines ...string) {
	if !quiet(c) {
		for _, text := range lines {
			fmt.Fprintln(c.ErrOrStderr(), text)
		}
	}
}

// progress is a bar on a terminal, and nothing elsewhere.
func progress(c *cobra.Command, of int, what string) *progressbar.ProgressBar {
	var w io.Writer = io.Discard
	if f, is := c.ErrOrStderr().(*os.File); is && term.IsTerminal(int(f.Fd())) && !quiet(c) {
		w = f
	}
	return progressbar.NewOptions(of, progressbar.OptionSetWriter(w), progressbar.OptionSetDescription(what),
		progressbar.OptionThrottle(100*time.Millisecond), progressbar.OptionClearOnFinish(), progressbar.OptionShowCount())
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
