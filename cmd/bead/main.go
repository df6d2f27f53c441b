// Command bead is the whole program: the server with its page, and the same
// computation for pipelines and farms.
//
// Results go to standard output, everything else to standard error. Exit codes:
// 0 fine, 1 a check failed, 2 wrong use or bad input, 3 what was made could not be
// written, 130 interrupted.
package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"strings"
	"syscall"

	"github.com/spf13/cobra"

	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
)

// version is set by the linker for releases.
var version = ""

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	os.Exit(runWith(ctx, os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
}

// errChecksFailed ends the program with exit code 1, having said why.
var errChecksFailed = errors.New("a check failed")

// runWith is the program without its process.
func runWith(ctx context.Context, args []string, stdin io.Reader, stdout, stderr io.Writer) int {
	root := &cobra.Command{
		Use:           "bead",
		Short:         "Rig treads, chains and lines along curves, looping and even",
		Version:       programVersion(),
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.SetArgs(args)
	out := &honest{Writer: stdout}
	root.SetIn(stdin)
	root.SetOut(out)
	root.PersistentFlags().String("log", logText, "how what is no result is said on standard error: text, or json, a line each")
	root.PersistentPreRunE = func(c *cobra.Command, _ []string) error { return logForm(c) }
	root.PersistentFlags().Bool("quiet", false, "say nothing but errors on standard error")
	root.SetVersionTemplate("{{.Version}}\n")
	root.SetErr(stderr)
	root.AddCommand(demoCommand(), serveCommand(), bakeCommand(), joinCommand(), openCommand(), filmCommand(), checkCommand(), pathCommand(), loopCommand(), beginCommand(), schemaCommand(), referenceCommand(),
		&cobra.Command{Use: "version", Short: "Print the version", Args: cobra.NoArgs, Run: func(c *cobra.Command, _ []string) {
			fmt.Fprintln(c.OutOrStdout(), programVersion())
		}})
	code, says := ended(ctx, out, root.ExecuteContext(ctx))
	if says != nil && logsJSON(root) {
		logger(stderr).Error(says.Error(), "exit", code)
	} else if says != nil {
		fmt.Fprintln(stderr, "bead:", says)
	}
	return code
}

func programVersion() string {
	if version != "" {
		return version
	}
	if info, ok := debug.ReadBuildInfo(); ok {
		for _, s := range info.Settings {
			if s.Key == "vcs.revision" && len(s.Value) >= 12 {
				return "0.1.0+" + s.Value[:12]
			}
		}
	}
	return "0.1.0"
}

// loadScene reads SCENE: a document file, demo:NAME, or - for standard input.
func loadScene(c *cobra.Command, name string) (*rig.Scene, error) {
	ctx := c.Context()
	var d *scene.Document
	var err error
	if demoName, ok := strings.CutPrefix(name, "demo:"); ok {
		d, err = demo.Scene(demoName)
	} else {
		var data []byte
		if name == "-" {
			data, err = io.ReadAll(io.LimitReader(c.InOrStdin(), scene.MaxBytes+1))
		} else {
			data, err = os.ReadFile(name)
		}
		if err != nil {
			return nil, fmt.Errorf("%w: a document file, demo:NAME or - is accepted", err)
		}
		d, err = documentOf(ctx, data)
	}
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	s, err := compilerOf(ctx, d)(d)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	return s, nil
}

// documentOf reads a document, or makes one of a GLB that Bead wrote.
func documentOf(ctx context.Context, data []byte) (*scene.Document, error) {
	if formats.IsGLB(data) {
		return formats.Reopen(ctx, data)
	}
	return scene.DecodeContext(ctx, data)
}

// compilerOf compiles a document, and what is made of it by edits, with the files it brings.
func compilerOf(ctx context.Context, d *scene.Document) func(*scene.Document) (*rig.Scene, error) {
	library := formats.LibraryOf(d)
	return func(d *scene.Document) (*rig.Scene, error) {
		kept, err := keptFrom(ctx)
		if err != nil {
			return nil, err
		}
		k := rig.Compiler{Meshes: library.Mesh, Figures: library.Figure, Kept: kept}
		return k.CompileContext(ctx, d)
	}
}

// dataDir is where scenes are kept when no --data is given.
func dataDir(kind string) (string, error) {
	if base := os.Getenv("XDG_DATA_HOME"); base != "" {
		return filepath.Join(base, "bead", kind), nil
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return "", fmt.Errorf("%w: say with --data where scenes are to be kept", err)
	}
	return filepath.Join(home, ".local", "share", "bead", kind), nil
}
