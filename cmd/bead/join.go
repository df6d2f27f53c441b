package main

import (
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"bead/core/rig"
	"bead/core/scene"
	"bead/formats"
)

func joinCommand() *cobra.Command {
	var to string
	c := &cobra.Command{Use: "join PART... --to FILE", Short: "Join the parts of a bake that was split by frames", Args: cobra.MinimumNArgs(1),
		Long: "Join parts, which bake writes to names that end in .part (bead bake shot.json --frames 1-48 --to shot.1.glb.part), to the file of the whole bake, bit for bit. The parts may be named in any order; they hold their scene.",
		RunE: func(c *cobra.Command, args []string) error {
			var files []io.Reader
			for _, name := range args {
				f, err := os.Open(name)
				if err != nil {
					return err
				}
				defer f.Close()
				files = append(files, f)
			}
			ctx := c.Context()
			j, err := formats.OpenParts(args, files, func(d *scene.Document) (*rig.Scene, error) { return compilerOf(ctx, d)(d) })
			if err != nil {
				return err
			}
			if to != "-" {
				format, err := formats.FormatOf(to)
				if err != nil {
					return fmt.Errorf("--to: %w", err)
				}
				if format != j.Options.Format {
					return fmt.Errorf("--to %s: the parts are of %s, so that a name ending in .%s is accepted", to, j.Options.Format, j.Options.Format)
				}
			}
			var said []string
			err = writeTo(c, to, func(w io.Writer) error {
				return j.Write(ctx, w, func(text string) { said = append(said, text) })
			})
			if err == nil {
				tell(c, said...)
			}
			return err
		}}
	c.Flags().StringVar(&to, "to", "", "the file to write; - is standard output")
	_ = c.MarkFlagRequired("to")
	return c
}
