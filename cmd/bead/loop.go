package main

import (
	"encoding/json"
	"fmt"
	"slices"

	"github.com/spf13/cobra"

	"bead/core/check"
	"bead/core/scene"
)

func loopCommand() *cobra.Command {
	var rigName string
	var frames int
	var speed float64
	var asJSON bool
	c := &cobra.Command{Use: "loop SCENE --rig ID --frames N [--speed M/S]", Short: "Find lengths and speeds at which a rig's loop closes", Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			s, err := loadScene(c, args[0])
			if err != nil {
				return err
			}
			i := slices.IndexFunc(s.Doc.Rigs, func(r scene.Rig) bool { return r.ID == rigName || r.Name == rigName })
			if i < 0 {
				return fmt.Errorf("%s has no rig %q", args[0], rigName)
			}
			if frames == 0 {
				frames = s.Doc.Range.Count()
			}
			if !c.Flags().Changed("speed") {
				r := s.Doc.Range
				t := &s.Rigs[i]
				speed = (t.Travel(float64(r.Last+1)) - t.Travel(float64(r.First))) / float64(r.Count()) * s.Clock.FPS
			}
			answer, err := check.Loops(c.Context(), s, compilerOf(c.Context(), s.Doc), i, frames, speed)
			if err != nil {
				return err
			}
			if answer.Note != "" {
				tell(c, answer.Note)
			}
			if asJSON {
				return json.NewEncoder(c.OutOrStdout()).Encode(answer.Offers)
			}
			for _, o := range answer.Offers {
				fmt.Fprintln(c.OutOrStdout(), o.Text)
			}
			return nil
		}}
	c.Flags().StringVar(&rigName, "rig", "", "id or name of the rig")
	c.Flags().IntVar(&frames, "frames", 0, "wished length; 0: the scene's range")
	c.Flags().Float64Var(&speed, "speed", 0, "rough speed in metres a second; left out: the rig's own")
	c.Flags().BoolVar(&asJSON, "json", false, "print JSON")
	_ = c.MarkFlagRequired("rig")
	return c
}
