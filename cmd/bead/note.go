package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"unicode"

	"github.com/spf13/cobra"

	"bead/core/check"
	"bead/core/rig"
	"bead/delivery"
	"bead/formats"
)

// choose takes over the choices of --for, but for those that are set beside it.
func (w *bakeWish) choose(c *cobra.Command) error {
	if w.destination == "" {
		return nil
	}
	d, err := delivery.Of(w.destination)
	if err != nil {
		return fmt.Errorf("--for: %w", err)
	}
	text, err := json.Marshal(d.Choices)
	if err != nil {
		return err
	}
	var choices map[string]any
	if err := json.Unmarshal(text, &choices); err != nil {
		return err
	}
	for name, value := range choices {
		if f := c.Flags().Lookup(flagOf(name)); f != nil && !f.Changed {
			if err := f.Value.Set(fmt.Sprint(value)); err != nil {
				return fmt.Errorf("--for: %w", err)
			}
		}
	}
	w.going = d
	return nil
}

// flagOf is the flag of a choice: perRig is per-rig.
func flagOf(name string) string {
	var out strings.Builder
	for _, r := range name {
		if unicode.IsUpper(r) {
			out.WriteByte('-')
		}
		out.WriteRune(unicode.ToLower(r))
	}
	return out.String()
}

// noteEnding is that of notes, behind the name of the file.
const noteEnding = ".note.json"

// writeNote writes what a file was made of beside it.
func writeNote(c *cobra.Command, s *rig.Scene, file string, o *formats.Options, said []string) error {
	n := delivery.NoteOf(programVersion(), s.Doc, o, said)
	f, err := os.Open(file)
	if err != nil {
		return err
	}
	defer f.Close()
	if n.File, err = delivery.FileOf(filepath.Base(file), o.Format, f); err != nil {
		return err
	}
	if n.Checks, err = check.Judged(c.Context(), s, &check.Terms{}, check.Look{}); err != nil {
		return err
	}
	return writeTo(c, file+noteEnding, func(w io.Writer) error {
		e := json.NewEncoder(w)
		e.SetIndent("", "  ")
		return e.Encode(n)
	})
}
