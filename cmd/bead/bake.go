package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"text/tabwriter"
	"time"

	"github.com/schollz/progressbar/v3"
	"github.com/spf13/cobra"

	"bead/core/check"
	"bead/core/scene"
	"bead/formats"
)

func bakeCommand() *cobra.Command {
	var to, frames string
	var paths, single, exact bool
	c := &cobra.Command{Use: "bake SCENE --to FILE", Short: "Bake a scene to an open format", Args: cobra.ExactArgs(1),
		Long: "Bake SCENE (a document file or demo:NAME) to FILE, whose ending says the format: glb, gltf, csv, obj.zip (one OBJ a frame) or usda.\nA bake of frames A-B equals the same frames of the whole bake bit for bit, so a farm may split the range.",
		RunE: func(c *cobra.Command, args []string) (err error) {
			format, err := formats.FormatOf(to)
			if err != nil {
				return fmt.Errorf("--to: %w", err)
			}
			s, err := loadScene(c.Context(), args[0])
			if err != nil {
				return err
			}
			span := s.Doc.Range
			if frames != "" {
				if span, err = parseFrames(frames); err != nil {
					return err
				}
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
			var said []string
			bar := progressbar.NewOptions(span.Count(), progressbar.OptionSetWriter(c.ErrOrStderr()),
				progressbar.OptionSetDescription("baking"), progressbar.OptionThrottle(100*time.Millisecond),
				progressbar.OptionClearOnFinish(), progressbar.OptionShowCount())
			if err = formats.Bake(c.Context(), file, s, formats.Options{Format: format, Frames: span, Paths: paths, Single: single, Exact: exact, Say: func(text string) { said = append(said, text) }}, func(n int) { _ = bar.Set(n) }); err != nil {
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
		}}
	c.Flags().StringVar(&to, "to", "", "the file to write; its ending is the format")
	c.Flags().StringVar(&frames, "frames", "", "frames A-B to bake (default: the scene's range)")
	c.Flags().BoolVar(&paths, "paths", false, "take the paths along as lines (glb, gltf, usda)")
	c.Flags().BoolVar(&single, "single", false, "make every piece an object of its own with its origin at its centre (glb, gltf)")
	c.Flags().BoolVar(&exact, "exact", false, "deliver bodies that bend as they are in every frame, as morph targets, instead of as joints (glb, gltf)")
	_ = c.MarkFlagRequired("to")
	return c
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
	return c
}
