package main

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"bead/demo"
)

// beginCommand prints the document of a starter: the same scenes that the page begins.
func beginCommand() *cobra.Command {
	var long strings.Builder
	long.WriteString("Print the scene document that a starter begins with, its questions answered by name, such as\nbead begin tread length=4 ground=hump. What is asked, and the answers to begin with:\n")
	for _, s := range demo.Starters() {
		fmt.Fprintf(&long, "\n  %s: %s\n", s.ID, s.Text)
		for _, q := range s.Questions {
			fmt.Fprintf(&long, "      %s=%s  %s", q.ID, q.Answer, q.Text)
			if len(q.Options) > 0 {
				fmt.Fprintf(&long, " (%s)", strings.Join(q.Options, ", "))
			}
			long.WriteString("\n")
		}
	}
	return &cobra.Command{Use: "begin STARTER [QUESTION=ANSWER ...]", Short: "Make a scene document of a few answers", Args: cobra.MinimumNArgs(1), Long: long.String(),
		RunE: func(c *cobra.Command, args []string) error {
			answers := map[string]string{}
			for _, a := range args[1:] {
				k, v, ok := strings.Cut(a, "=")
				if !ok {
					return fmt.Errorf("%q is no answer: QUESTION=ANSWER is accepted", a)
				}
				answers[k] = v
			}
			d, err := demo.Begin(args[0], answers)
			if err != nil {
				return err
			}
			data, err := d.Encode()
			if err != nil {
				return err
			}
			_, err = c.OutOrStdout().Write(data)
			return err
		}}
}
