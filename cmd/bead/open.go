package main

import (
	"github.com/spf13/cobra"
)

func openCommand() *cobra.Command {
	return &cobra.Command{Use: "open SCENE", Short: "Print the document of a scene, also of a GLB that Bead wrote", Args: cobra.ExactArgs(1),
		Long: "Print the document of SCENE in the present version: of a document file of any version, demo:NAME, or - for standard input. Of a GLB that Bead wrote it is made anew: its parts, materials and paths, with its rate and range; what rigs did with them does not lie in such a file.",
		RunE: func(c *cobra.Command, args []string) error {
			s, err := loadScene(c, args[0])
			if err != nil {
				return err
			}
			text, err := s.Doc.Encode()
			if err != nil {
				return err
			}
			_, err = c.OutOrStdout().Write(text)
			return err
		}, ValidArgsFunction: scenes}
}
