package main

import (
	"fmt"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"bead/core/scene"
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
	long.WriteString("\nWith --file a figure begins with a file of one's own, in metres, along the axes and with the stride that are found in\nits motion, unless they are said. Its way is then as long as eight of its strides a bend, unless that is answered.\n")
	var file string
	var wish figureWish
	cmd := &cobra.Command{Use: "begin STARTER [QUESTION=ANSWER ...]", Short: "Make a scene document of a few answers", Args: cobra.MinimumNArgs(1), Long: long.String(),
		RunE: func(c *cobra.Command, args []string) error {
			answers := map[string]string{}
			for _, a := range args[1:] {
				k, v, ok := strings.Cut(a, "=")
				if !ok {
					return fmt.Errorf("%q is no answer: QUESTION=ANSWER is accepted", a)
				}
				answers[k] = v
			}
			d, err := begun(c, args[0], answers, file, wish)
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
	f := cmd.Flags()
	f.StringVar(&file, "file", "", "with figure: the file of a figure (bvh, glb, gltf)")
	f.StringVar(&wish.Unit, "unit", "", "with --file: what a unit of it is, m, cm, mm or in; of a BVH else guessed by its size")
	f.StringVar(&wish.Forward, "forward", "", "with --file: the axis along which it goes, such as +x; else as its motion goes")
	f.StringVar(&wish.Up, "up", "", "with --file: the axis that is up; else as found")
	f.Float64Var(&wish.Stride, "stride", 0, "with --file: metres that a round goes, of a cycle that runs on the spot")
	return cmd
}

// begun is what a starter begins with, or a figure with a file of one's own.
func begun(c *cobra.Command, starter string, answers map[string]string, file string, w figureWish) (*scene.Document, error) {
	if file == "" {
		if w != (figureWish{}) {
			return nil, fmt.Errorf("--unit, --forward, --up and --stride say how a file is read: --file is wanted with them")
		}
		return demo.Begin(starter, answers)
	}
	if starter != "figure" {
		return nil, fmt.Errorf("--file is accepted with figure: %s begins with parts of Bead's own", starter)
	}
	if !(w.Stride >= 0 && w.Stride <= 1000) {
		return nil, fmt.Errorf("a stride of %g m is not accepted: from 0 to 1000 m is", w.Stride)
	}
	// What the starter itself asks, checked as it checks it.
	own, err := demo.FigureAnswers(answers)
	if err != nil {
		return nil, err
	}
	w.Length, w.Bends, w.Count, w.Ground = own.Length, own.Bends, own.Count, own.Ground
	if _, given := answers["length"]; !given {
		w.Length = 0
	}
	data, err := os.ReadFile(file)
	if err != nil {
		return nil, err
	}
	d, err := figureScene(c.Context(), file, data, w)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	return d, nil
}
