package main

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"strconv"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"bead/core/check"
)

func checkCommand() *cobra.Command {
	var asJSON, asCSV bool
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
			if err := simulate(c, s, s.Doc.Range.Last+1); err != nil {
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
			} else if asCSV {
				err = table(c.OutOrStdout(), verdict.Results)
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
	f.BoolVar(&asCSV, "csv", false, "print the results as a table, a row each (docs/command-line.md)")
	c.MarkFlagsMutuallyExclusive("json", "csv")
	f.StringSliceVar(&terms.Only, "only", nil, "the checks that count (default: all)")
	f.StringSliceVar(&terms.Skip, "skip", nil, "checks that do not count")
	f.StringArrayVar(&tolerances, "tolerance", nil, "CHECK=VALUE: another tolerance, in mm, cm, m, % or deg, such as seam=1mm; may be given several times")
	_ = c.RegisterFlagCompletionFunc("only", among(check.IDs))
	_ = c.RegisterFlagCompletionFunc("skip", among(check.IDs))
	c.ValidArgsFunction = scenes
	cacheFlag(c)
	return c
}

// table writes results as a table, with their units in a column.
func table(w io.Writer, results []check.Result) error {
	out := csv.NewWriter(w)
	_ = out.Write([]string{"rig", "check", "state", "value", "tolerance", "unit", "piece", "frame", "distance", "text"})
	number := func(x float64) string { return strconv.FormatFloat(x, 'g', -1, 64) }
	for _, r := range results {
		row := []string{r.Rig, r.ID, string(r.State), number(r.Value), number(r.Tolerance), r.Unit, "", "", "", r.Text}
		if at := r.Where; at != nil {
			row[6], row[7], row[8] = strconv.Itoa(at.Piece), strconv.Itoa(at.Frame), number(at.Distance)
		}
		_ = out.Write(row)
	}
	out.Flush()
	return out.Error()
}
