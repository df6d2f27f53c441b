package main

import (
	"encoding/json"
	"fmt"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"bead/core/check"
)

func checkCommand() *cobra.Command {
	var asJSON bool
	var terms check.Terms
	var tolerances []string
	c := &cobra.Command{Use: "check SCENE", Short: "Measure a scene; exit code 1 when a check fails", Args: cobra.ExactArgs(1),
		Long: "Measure SCENE (a document file, demo:NAME, or - for standard input) in every frame of its range. Each line says pass or fail, the rig, the check, what was measured, what is allowed, and a sentence.",
		RunE: func(c *cobra.Command, args []string) error {
			if err := terms.Check(); err != nil {
				return fmt.Errorf("--only, --skip: %w", err)
			}
			for _, text := range tolerances {
				if err := terms.Tolerate(text); err != nil {
					return fmt.Errorf("--tolerance: %w", err)
				}
			}
			s, err := loadScene(c, args[0])
			if err != nil {
				return err
			}
			if err := simulate(c, s); err != nil {
				return err
			}
			verdict, err := check.Judged(c.Context(), s, &terms, check.Look{})
			if err != nil {
				return err
			}
			if asJSON {
				enc := json.NewEncoder(c.OutOrStdout())
				enc.SetIndent("", "  ")
				err = enc.Encode(verdict)
			} else {
				tw := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
				for _, r := range verdict.Results {
					word := "pass"
					if r.State == check.Outside {
						word = "fail"
					}
					fmt.Fprintf(tw, "%s\t%s\t%s\t%s\tmax %s\t%s\n", word, r.Rig, r.ID, r.Figure(s.Doc.Units), r.Allowed(s.Doc.Units), r.Text)
				}
				err = tw.Flush()
			}
			if err == nil && !verdict.Passed {
				err = errChecksFailed
			}
			return err
		}}
	f := c.Flags()
	f.BoolVar(&asJSON, "json", false, "print the results as JSON (docs/command-line.md)")
	f.StringSliceVar(&terms.Only, "only", nil, "the checks that count (default: all)")
	f.StringSliceVar(&terms.Skip, "skip", nil, "checks that do not count")
	f.StringArrayVar(&tolerances, "tolerance", nil, "CHECK=VALUE: another tolerance, in mm, cm, m, % or deg, such as seam=1mm; may be given several times")
	_ = c.RegisterFlagCompletionFunc("only", among(check.IDs))
	_ = c.RegisterFlagCompletionFunc("skip", among(check.IDs))
	c.ValidArgsFunction = scenes
	cacheFlag(c)
	return c
}
