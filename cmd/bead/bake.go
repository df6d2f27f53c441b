package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"text/tabwriter"
	"time"

	"github.com/schollz/progressbar/v3"
	"github.com/spf13/cobra"

	"bead/core/check"
	"bead/core/rig"
	"bead/core/scene"
	"bead/formats"
	"bead/store"
)

func bakeCommand() *cobra.Command {
	var to, frames string
	var paths, single, centred, exact, watch, inPlace, ownKeys bool
	var density, tolerance float64
	c := &cobra.Command{Use: "bake SCENE --to FILE", Short: "Bake a scene to an open format", Args: cobra.ExactArgs(1),
		Long: "Bake SCENE (a document file or demo:NAME) to FILE, whose ending says the format: glb, gltf, csv, obj.zip (one OBJ a frame), usda, usdz (with its images); of figures also bvh, bvh.zip (one a figure) or joints.csv.\nA bake of frames A-B equals the same frames of the whole bake bit for bit, so a farm may split the range.",
		RunE: func(c *cobra.Command, args []string) error {
			format, err := formats.FormatOf(to)
			if err != nil {
				return fmt.Errorf("--to: %w", err)
			}
			if err := formats.CheckDensity(format, density); err != nil {
				return fmt.Errorf("--density: %w", err)
			}
			if !(tolerance >= 0 && tolerance <= 1e6) {
				return fmt.Errorf("--tolerance: %g mm is not accepted: 0 and more is", tolerance)
			}
			o := formats.Options{Format: format, Paths: paths, Single: single, Centred: centred, Exact: exact, Density: density, InPlace: inPlace, OwnKeys: ownKeys, Tolerance: tolerance / 1000}
			if frames != "" {
				if o.Frames, err = parseFrames(frames); err != nil {
					return err
				}
			}
			if !watch {
				return bakeOnce(c, args[0], to, o)
			}
			return watched(c.Context(), args[0], c.ErrOrStderr(), func() error { return bakeOnce(c, args[0], to, o) })
		}}
	c.Flags().StringVar(&to, "to", "", "the file to write; its ending is the format")
	c.Flags().StringVar(&frames, "frames", "", "frames A-B to bake (default: the scene's range)")
	c.Flags().BoolVar(&paths, "paths", false, "take the paths along as lines (glb, gltf, usda, usdz)")
	c.Flags().BoolVar(&single, "single", false, "give every piece a mesh of its own, its origin at the part's pivot (glb, gltf, usda, usdz)")
	c.Flags().BoolVar(&centred, "centred", false, "with --single: the origin at the piece's centre")
	c.Flags().BoolVar(&watch, "watch", false, "go on and bake again whenever SCENE changes, until interrupted")
	c.Flags().BoolVar(&exact, "exact", false, "deliver bodies that bend as they are in every frame, as morph targets, instead of as joints (glb, gltf)")
	c.Flags().Float64Var(&density, "density", 0, "for a solver of rigid bodies: pieces as they stand in the first frame, with mass by this density (kg/m³) and colliders (usda, usdz)")
	c.Flags().BoolVar(&inPlace, "in-place", false, "keep the roots of figures where they are in the first frame, but for their height (bvh, glb, gltf)")
	c.Flags().BoolVar(&ownKeys, "own-keys", false, "give figures keys only where their cycle, layers and travel have them, and where --tolerance asks for more (glb, gltf)")
	c.Flags().Float64Var(&tolerance, "tolerance", 1, "with --own-keys: how far a joint may be off between keys, mm")
	_ = c.MarkFlagRequired("to")
	cacheFlag(c)
	return c
}

// bakeOnce bakes a scene to a file; no frames stand for its range.
func bakeOnce(c *cobra.Command, name, to string, o formats.Options) (err error) {
	s, err := loadScene(c.Context(), name)
	if err != nil {
		return err
	}
	if o.Frames == (scene.Range{}) {
		o.Frames = s.Doc.Range
	}
	// Written beside the target and renamed, so that no half file is left.
	file, err := os.CreateTemp(filepath.Dir(to), ".bead-*")
	if err != nil {
		return fmt.Errorf("--to: %w", err)
	}
	defer func() {
		err = errors.Join(err, ignoreClosed(file.Close()))
		if err != nil {
			err = errors.Join(err, os.Remove(file.Name()))
		}
	}()
	if err = simulate(c, s); err != nil {
		return err
	}
	var said []string
	o.Say = func(text string) { said = append(said, text) }
	bar := progressbar.NewOptions(o.Frames.Count(), progressbar.OptionSetWriter(c.ErrOrStderr()),
		progressbar.OptionSetDescription("baking"), progressbar.OptionThrottle(100*time.Millisecond),
		progressbar.OptionClearOnFinish(), progressbar.OptionShowCount())
	if err = formats.Bake(c.Context(), file, s, o, func(n int) { _ = bar.Set(n) }); err != nil {
		return err
	}
	if err = file.Chmod(0o644); err != nil {
		return err
	}
	if err = file.Close(); err != nil {
		return err
	}
	for _, text := range said {
		fmt.Fprintln(c.ErrOrStderr(), text)
	}
	return os.Rename(file.Name(), to)
}

// cacheSize is how much simulated frames a directory of --cache holds at most, bytes.
const cacheSize = 1 << 30

type cacheDir struct{}

// cacheFlag adds where simulated frames are kept from run to run.
func cacheFlag(c *cobra.Command) {
	dir := c.Flags().String("cache", "", "directory that keeps simulated frames from run to run, up to 1 GB (default: none)")
	c.PreRun = func(c *cobra.Command, _ []string) {
		c.SetContext(context.WithValue(c.Context(), cacheDir{}, *dir))
	}
}

// keptFrom is the cache that a command was given; nil of none.
func keptFrom(ctx context.Context) (rig.Kept, error) {
	dir, _ := ctx.Value(cacheDir{}).(string)
	if dir == "" {
		return nil, nil
	}
	f, err := store.OpenFrames(dir, cacheSize)
	if err != nil {
		return nil, fmt.Errorf("--cache: %w", err)
	}
	return f, nil
}

// simulate works out what frames come of the frames before, with its progress.
func simulate(c *cobra.Command, s *rig.Scene) error {
	_, of := s.Simulated()
	if of == 0 {
		return nil
	}
	bar := progressbar.NewOptions(of, progressbar.OptionSetWriter(c.ErrOrStderr()), progressbar.OptionSetDescription("simulating"),
		progressbar.OptionThrottle(100*time.Millisecond), progressbar.OptionClearOnFinish(), progressbar.OptionShowCount())
	return s.Simulate(c.Context(), func(done, _ int) { _ = bar.Set(done) })
}

// lookEvery is how often a watched file is looked at.
const lookEvery = 200 * time.Millisecond

// watched bakes a file, and again whenever it has changed, until nobody waits any more. What is
// wrong with the file is said, and the next change waited for.
func watched(ctx context.Context, file string, log io.Writer, bake func() error) error {
	if strings.HasPrefix(file, "demo:") {
		return fmt.Errorf("--watch: %s does not change: a document file is accepted", file)
	}
	var seen os.FileInfo
	for {
		info, err := os.Stat(file)
		if seen == nil && err != nil {
			return err
		}
		if err == nil && (seen == nil || !info.ModTime().Equal(seen.ModTime()) || info.Size() != seen.Size()) {
			seen = info
			if err := bake(); err == nil {
				fmt.Fprintf(log, "%s: baked\n", file)
			} else if ctx.Err() == nil {
				fmt.Fprintln(log, err)
			}
		}
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(lookEvery):
		}
	}
}

func ignoreClosed(err error) error {
	if errors.Is(err, os.ErrClosed) {
		return nil
	}
	return err
}

var frameRange = regexp.MustCompile(`^(-?\d{1,8})-(-?\d{1,8})$`)

func parseFrames(text string) (scene.Range, error) {
	m := frameRange.FindStringSubmatch(text)
	if m == nil {
		return scene.Range{}, fmt.Errorf("--frames %q is not accepted: A-B is, such as 1-96", text)
	}
	var r scene.Range
	r.First, _ = strconv.Atoi(m[1]) // at most eight digits
	r.Last, _ = strconv.Atoi(m[2])
	if r.Count() < 1 {
		return r, fmt.Errorf("--frames %s ends before it starts", text)
	}
	return r, nil
}

func checkCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{Use: "check SCENE", Short: "Measure a scene; exit code 1 when a check fails", Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			s, err := loadScene(c.Context(), args[0])
			if err != nil {
				return err
			}
			if err := simulate(c, s); err != nil {
				return err
			}
			report, err := check.Run(c.Context(), s, check.Look{})
			if err != nil {
				return err
			}
			results := report.Results
			passed := check.Passed(results)
			if asJSON {
				enc := json.NewEncoder(c.OutOrStdout())
				enc.SetIndent("", "  ")
				err = enc.Encode(struct {
					Passed bool `json:"passed"`
					check.Report
				}{passed, report})
			} else {
				tw := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
				for _, r := range results {
					fmt.Fprintf(tw, "%s\t%s\t%s\t%s\t%s\t%s\n", r.Rig, r.ID, r.State, r.Word, r.Figure(s.Doc.Units), r.Text)
				}
				err = tw.Flush()
			}
			if err == nil && !passed {
				err = errChecksFailed
			}
			return err
		}}
	c.Flags().BoolVar(&asJSON, "json", false, "print the results as JSON")
	cacheFlag(c)
	return c
}
