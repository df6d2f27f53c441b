package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"bead/core/facing"
	"bead/core/path"
	"bead/core/place"
	"bead/core/rig"
	"bead/core/scene"
	"bead/formats"
)

func pathCommand() *cobra.Command {
	c := &cobra.Command{Use: "path", Short: "Measure and sample the paths of files and scenes, take paths from meshes"}
	c.AddCommand(measureCommand(), sampleCommand(), edgesCommand(),
		changeCommand("resize SCENE PATH TIMES", "Print the scene with a path so many times as large", (*rig.Scene).Resize),
		changeCommand("resize-with-rigs SCENE PATH TIMES", "The same with the rigs on it: pieces, distances, travel", (*rig.Scene).ResizeWithRigs),
		changeCommand("other-side SCENE PATH APART", "Print the scene with the mirror image of a path and of what rides on it, so many metres apart (0: as far as it lies from the middle, twice)", (*rig.Scene).OtherSide))
	return c
}

// measured is a path of a file with its curve.
type measured struct {
	path.Named
	curve *path.Curve
}

// readPaths reads the paths of a file, or of a scene with their steps taken.
func readPaths(cmd *cobra.Command, file string, smooth bool) ([]measured, error) {
	if strings.HasPrefix(file, "demo:") || file == "-" || strings.EqualFold(filepath.Ext(file), ".json") {
		s, err := loadScene(cmd, file)
		if err != nil {
			return nil, err
		}
		out := make([]measured, len(s.Paths))
		for i, c := range s.Paths {
			out[i] = measured{path.Named{Name: s.Doc.Paths[i].Name, Spans: c.Spans(), Closed: c.Closed()}, c}
		}
		if len(out) == 0 {
			return nil, fmt.Errorf("%s: the scene has no path", file)
		}
		return out, nil
	}
	data, err := os.ReadFile(file)
	if err != nil {
		return nil, err
	}
	list, err := formats.ReadPaths(cmd.Context(), file, data, smooth)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	out := make([]measured, len(list))
	for i, n := range list {
		curve, err := path.New(n.Spans, n.Closed)
		if err != nil {
			return nil, fmt.Errorf("%s: %s: %w", file, n.Name, err)
		}
		out[i] = measured{n, curve}
	}
	return out, nil
}

type boundsJSON struct {
	Min scene.Vec3 `json:"min"`
	Max scene.Vec3 `json:"max"`
}

type measureJSON struct {
	Name   string     `json:"name"`
	Closed bool       `json:"closed"`
	Length float64    `json:"length"`
	Spans  int        `json:"spans"`
	Bounds boundsJSON `json:"bounds"`
}

func measureCommand() *cobra.Command {
	var asJSON, smooth bool
	c := &cobra.Command{Use: "measure FILE", Short: "Print the lengths of the paths of a file or scene", Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			list, err := readPaths(c, args[0], smooth)
			if err != nil {
				return err
			}
			out := make([]measureJSON, len(list))
			for i, m := range list {
				b := m.curve.Bounds()
				out[i] = measureJSON{m.Name, m.Closed, m.curve.Length(), len(m.curve.Spans()), boundsJSON{b.Min.Array(), b.Max.Array()}}
			}
			if asJSON {
				return json.NewEncoder(c.OutOrStdout()).Encode(map[string]any{"paths": out})
			}
			for _, m := range out {
				kind := "open"
				if m.Closed {
					kind = "closed"
				}
				fmt.Fprintf(c.OutOrStdout(), "%s: %.9g long, %s, %d spans\n", m.Name, m.Length, kind, m.Spans)
			}
			return nil
		}}
	c.Flags().BoolVar(&asJSON, "json", false, "print as JSON")
	c.Flags().BoolVar(&smooth, "smooth", false, "put a smooth curve through a table's points")
	return c
}

type sampleJSON struct {
	Distance float64    `json:"distance"`
	Position scene.Vec3 `json:"position"`
	Forward  scene.Vec3 `json:"forward"`
	Up       scene.Vec3 `json:"up"`
}

// sampleOptions are the flags of path sample.
type sampleOptions struct {
	count         int
	pitch         float64
	spacing, mode string
	name, guide   string
	json, smooth  bool
}

const maxSamples = 10_000_000

func sampleCommand() *cobra.Command {
	var o sampleOptions
	c := &cobra.Command{Use: "sample FILE (--count N | --pitch P)", Short: "Print even samples of a path with their frames", Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			list, err := readPaths(c, args[0], o.smooth)
			if err != nil {
				return err
			}
			m, err := choose(list, o.name)
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			if len(list) > 1 && o.name == "" {
				tell(c, fmt.Sprintf("bead: %s holds %d paths; this is %q. Name another with --path.", args[0], len(list), m.Name))
			}
			distances, err := o.distances(m.curve)
			if err != nil {
				return err
			}
			spec := facing.Spec{Mode: facing.Mode(o.mode)}
			if spec.Mode == facing.Guide {
				if o.guide == "" {
					return errors.New("--facing guide needs --guide with the name of another path of the file")
				}
				g, err := choose(list, o.guide)
				if err != nil {
					return fmt.Errorf("--guide: %w", err)
				}
				spec.Guide = g.curve
			}
			field, err := facing.New(m.curve, spec)
			if err != nil {
				return fmt.Errorf("--facing: %w", err)
			}
			out := make([]sampleJSON, len(distances))
			for i, s := range distances {
				// At exactly the end of a closed curve At answers for its start; an even
				// sampling never asks for it.
				f := field.Frame(s)
				out[i] = sampleJSON{s, f.P.Array(), f.T.Array(), f.U.Array()}
			}
			if o.json {
				return json.NewEncoder(c.OutOrStdout()).Encode(map[string]any{"samples": out})
			}
			fmt.Fprintln(c.OutOrStdout(), "distance,x,y,z,fx,fy,fz,ux,uy,uz")
			for _, s := range out {
				fmt.Fprintf(c.OutOrStdout(), "%.17g,%s,%s,%s\n", s.Distance, triple(s.Position), triple(s.Forward), triple(s.Up))
			}
			return nil
		}}
	f := c.Flags()
	f.IntVar(&o.count, "count", 0, "number of samples")
	f.Float64Var(&o.pitch, "pitch", 0, "distance from sample to sample")
	f.StringVar(&o.spacing, "spacing", "arc", "arc: even along the path; pin: even in straight lines")
	f.StringVar(&o.mode, "facing", string(facing.LeastTwist), "steady, loopside, least-twist, guide or turn")
	f.StringVar(&o.guide, "guide", "", "name of the path that facing guide looks at")
	f.StringVar(&o.name, "path", "", "name of the path to sample (default: the first)")
	f.BoolVar(&o.json, "json", false, "print as JSON")
	f.BoolVar(&o.smooth, "smooth", false, "put a smooth curve through a table's points")
	c.MarkFlagsOneRequired("count", "pitch")
	c.MarkFlagsMutuallyExclusive("count", "pitch")
	return c
}

func triple(v scene.Vec3) string { return fmt.Sprintf("%.17g,%.17g,%.17g", v[0], v[1], v[2]) }

func choose(list []measured, name string) (measured, error) {
	var names []string
	for _, m := range list {
		if name == "" || m.Name == name {
			return m, nil
		}
		names = append(names, m.Name)
	}
	return measured{}, fmt.Errorf("no path has the name %q: %s are there", name, strings.Join(names, ", "))
}

// distances returns where the samples stand.
func (o *sampleOptions) distances(c *path.Curve) ([]float64, error) {
	length := c.Length()
	if o.spacing != "arc" && o.spacing != "pin" {
		return nil, fmt.Errorf("--spacing %q is not accepted: arc and pin are", o.spacing)
	}
	if o.pitch == 0 {
		if o.count < 1 || o.count > maxSamples {
			return nil, fmt.Errorf("--count %d is not accepted: 1 to %d are", o.count, maxSamples)
		}
		if o.spacing == "pin" {
			pins, _, err := place.EvenPins(c, o.count)
			return pins, err
		}
		return evenly(length, c.Closed(), o.count), nil
	}
	if !(o.pitch > 0) || length/o.pitch > maxSamples {
		return nil, fmt.Errorf("--pitch %g is not accepted on a path %.6g long: a pitch above %.3g is", o.pitch, length, length/maxSamples)
	}
	var out []float64
	if o.spacing == "arc" {
		for i := 0; float64(i)*o.pitch <= length*(1+1e-12); i++ {
			if s := float64(i) * o.pitch; !c.Closed() || s < length*(1-1e-12) {
				out = append(out, min(s, length))
			}
		}
		return out, nil
	}
	for s := 0.0; s < length; {
		out = append(out, s)
		next, err := place.NextPin(c, s, o.pitch)
		if errors.Is(err, place.ErrNoPin) {
			break
		}
		s = next
	}
	return out, nil
}

func evenly(length float64, closed bool, n int) []float64 {
	out := make([]float64, n)
	intervals := float64(n - 1)
	if closed {
		intervals = float64(n)
	}
	for i := range out {
		if i > 0 {
			out[i] = length * (float64(i) / intervals)
		}
	}
	return out
}

// changeCommand prints the document that a change by one number makes of a scene.
func changeCommand(use, short string, change func(*rig.Scene, string, float64) (*scene.Document, error)) *cobra.Command {
	return &cobra.Command{Use: use, Short: short, Args: cobra.ExactArgs(3), RunE: func(c *cobra.Command, args []string) error {
		s, err := loadScene(c, args[0])
		if err != nil {
			return err
		}
		by, err := strconv.ParseFloat(args[2], 64)
		if err != nil {
			return fmt.Errorf("%q is no number", args[2])
		}
		d, err := change(s, args[1], by)
		if err != nil {
			return err
		}
		if _, err := compilerOf(c.Context(), d)(d); err != nil {
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
