package main

import (
	"cmp"
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"bead/core/check"
)

// referenceCommand prints docs/commands.md, or docs/checks.md.
func referenceCommand() *cobra.Command {
	return &cobra.Command{Use: "reference [checks]", Hidden: true, Args: cobra.MaximumNArgs(1), RunE: func(c *cobra.Command, args []string) error {
		if len(args) == 1 {
			checkReference(c.OutOrStdout())
			return nil
		}
		fmt.Fprint(c.OutOrStdout(), "# Commands\n\nMade by `bead reference` of the program itself. What commands have in common stands in [The command line](command-line.md).\n")
		reference(c.OutOrStdout(), c.Root())
		return nil
	}}
}

// sentence ends a text as one.
func sentence(text string) string { return strings.TrimSuffix(text, ".") + "." }

func reference(w io.Writer, c *cobra.Command) {
	for _, sub := range c.Commands() {
		if sub.Hidden || sub.Name() == "help" || sub.Name() == "completion" {
			continue
		}
		if sub.HasSubCommands() {
			reference(w, sub)
			continue
		}
		sub.InitDefaultHelpFlag()
		fmt.Fprintf(w, "\n## %s\n\n%s\n\n```text\n%s```\n", sub.CommandPath(), sentence(cmp.Or(sub.Long, sub.Short)), sub.UsageString())
	}
}

// checkReference tells of every check what it measures, what is allowed, what lies behind it and what helps.
func checkReference(w io.Writer) {
	fmt.Fprint(w, `# Checks

Made by `+"`bead reference checks`"+` of the program itself.

Each check measures one thing of each rig in every frame of the range. A result is *inside* its tolerance, *near* it (less than a third of it
is left), or *outside*. It says where it is worst: the piece, the frame and the distance on the path. Where something can be
done about it by a press, it is offered; in the page under the gauge, on the command line as JSON Patch under `+"`remedies`"+`.

A check that does not apply to a rig is not there. While a longer look goes on, the page says how many frames were looked at.
`)
	entries := check.Reference()
	for _, c := range check.Vocabulary() {
		e := entries[c.ID]
		fmt.Fprintf(w, "\n## %s\n\n`%s`. %s\n\n- Allowed: %s\n- Often behind it: %s\n- What helps: %s\n", c.Name, c.ID, c.Means, e.Allows, e.Causes, e.Helps)
	}
}
