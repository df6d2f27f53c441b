package main

import (
	"cmp"
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"
)

// referenceCommand prints docs/commands.md.
func referenceCommand() *cobra.Command {
	return &cobra.Command{Use: "reference", Hidden: true, Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
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
