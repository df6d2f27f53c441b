package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"bead/core/rig"
	"bead/core/scene"
	"bead/delivery"
	"bead/formats"
	"bead/store"
)

// bakeWish is what bake is asked for.
type bakeWish struct {
	formats.Options
	to, rigs       []string
	format, frames string
	watch, note    bool
	destination    string
	going          *delivery.Destination
	millimetres    float64 // of tolerance
}

func bakeCommand() *cobra.Command {
	var w bakeWish
	c := &cobra.Command{Use: "bake SCENE --to FILE...", Short: "Bake a scene to open formats", Args: cobra.ExactArgs(1),
		Long: "Bake SCENE (a document file, demo:NAME, or - for standard input) to FILE, whose ending says the format: glb, gltf, csv, obj.zip (one OBJ a frame), usda, usdz (with its images), usd.zip (what changes in value clips of a size); of figures also bvh, bvh.zip (one a figure) or joints.csv; values.csv; the paths as paths.svg, paths.csv or paths.obj, and the ways of pieces as tracks.svg or tracks.obj. --to - writes to standard output what --format names.\nA bake of frames A-B equals the same frames of the whole bake bit for bit, so a farm may split the range: FILE.part keeps what was gathered for bead join.",
		RunE: func(c *cobra.Command, args []string) error {
			if err := w.choose(c); err != nil {
				return err
			}
			targets, err := w.targets()
			if err != nil {
				return err
			}
			if w.frames != "" {
				if w.Frames, err = parseFrames(w.frames); err != nil {
					return err
				}
			}
			bake := func() error { return w.bake(c, args[0], targets) }
			if !w.watch {
				return bake()
			}
			return watched(c.Context(), args[0], func(text string) { tell(c, text) }, bake)
		}}
	f := c.Flags()
	f.StringArrayVar(&w.to, "to", nil, "the file to write, its ending is the format; - is standard output; may be given several times")
	f.StringVar(&w.format, "format", "", "the format of what goes to standard output")
	f.StringVar(&w.frames, "frames", "", "frames A-B or one frame A to bake (default: the scene's range)")
	f.StringSliceVar(&w.rigs, "rigs", nil, "ids or names of the rigs to bake (default: all)")
	f.BoolVar(&w.Paths, "paths", false, "take the paths along as lines (glb, gltf, usda, usdz)")
	f.BoolVar(&w.Single, "single", false, "give every piece a mesh of its own, its origin at the part's pivot (glb, gltf, usda, usdz)")
	f.BoolVar(&w.Centred, "centred", false, "with --single: the origin at the piece's centre")
	f.BoolVar(&w.watch, "watch", false, "go on and bake again whenever SCENE changes, until interrupted")
	f.BoolVar(&w.Exact, "exact", false, "deliver bodies that bend as they are in every frame, instead of as joints (glb, gltf: morph targets; usda, usdz: points)")
	f.Float64Var(&w.Density, "density", 0, "for a solver of rigid bodies: pieces as they stand in the first frame, with mass by this density (kg/m³) and colliders (usda, usdz)")
	f.BoolVar(&w.InPlace, "in-place", false, "keep the roots of figures where they are in the first frame, but for their height (bvh, glb, gltf, usda, usdz, joints.csv)")
	f.BoolVar(&w.OwnKeys, "own-keys", false, "give figures keys only where their cycle, layers and travel have them, and where --tolerance asks for more (glb, gltf)")
	f.Float64Var(&w.millimetres, "tolerance", 1, "with --own-keys: how far a joint may be off between keys, mm")
	f.BoolVar(&w.ImageSizes, "image-sizes", false, "say the sizes of images beside them, with texture coordinates in metres, for readers of KHR_texture_transform (glb, gltf)")
	f.Float64Var(&w.ClipMB, "clip-mb", 0, "how large a file of value clips may be, MB (usd.zip; default 64)")
	f.StringVar(&w.Plane, "plane", "", "the plane of a drawing: side (default), ahead or above (paths.svg, tracks.svg)")
	f.BoolVar(&w.Units, "units", false, "put units behind the names of columns, such as x (m) (csv, values.csv, paths.csv)")
	f.StringVar(&w.destination, "for", "", "who goes on with it, which sets the choices that suit them and are not set here: "+strings.Join(delivery.IDs(), ", "))
	f.BoolVar(&w.Closing, "closing", false, "of a loop that is baked to its end: the frame after the last, too, which is the first again")
	f.BoolVar(&w.note, "note", false, "write a note beside each file, FILE.note.json: scene, frames, choices, and the checks with their figures")
	f.IntVar(&w.Step, "step", 1, "bake every n-th frame")
	f.StringVar(&w.Time, "time", "", "where the file's time begins: zero (at the first frame baked), range (at the scene's first frame), frames (a key's time is its frame's number); default: zero in glb and gltf, frames in usda and usdz")
	f.BoolVar(&w.Flat, "flat", false, "put everything into the world instead of below the carriers that it rides on (glb, gltf, usda, usdz)")
	f.BoolVar(&w.PerRig, "per-rig", false, "make an animation for each rig instead of one (glb, gltf)")
	f.BoolVar(&w.Instanced, "instances", false, "write rigid pieces as instances: in glb and gltf those that stand still (EXT_mesh_gpu_instancing), in usda and usdz all of a rig (PointInstancer)")
	_ = c.MarkFlagRequired("to")
	_ = c.RegisterFlagCompletionFunc("plane", among(func() []string { return formats.Planes }))
	_ = c.RegisterFlagCompletionFunc("for", among(delivery.IDs))
	_ = c.RegisterFlagCompletionFunc("time", among(func() []string { return formats.Times }))
	_ = c.RegisterFlagCompletionFunc("format", among(formats.Endings))
	c.ValidArgsFunction = scenes
	cacheFlag(c)
	return c
}

// target is one file to bake to, or standard output.
type target struct {
	file, format string
	part         bool // what is gathered instead of the file
}

// targets reads where to bake to, and whether what is asked fits each format.
func (w *bakeWish) targets() (out []target, err error) {
	if !(w.millimetres >= 0 && w.millimetres <= 1e6) {
		return nil, fmt.Errorf("--tolerance: %g mm is not accepted: 0 and more is", w.millimetres)
	}
	w.Tolerance = w.millimetres / 1000
	written := false
	for _, to := range w.to {
		t := target{file: to, format: w.format}
		switch {
		case to != "-":
			var name string
			name, t.part = strings.CutSuffix(to, formats.PartEnding)
			if t.format, err = formats.FormatOf(name); err != nil {
				return nil, fmt.Errorf("--to: %w", err)
			}
		case w.format == "":
			return nil, errors.New("--to -: say with --format which format goes to standard output")
		case written:
			return nil, errors.New("--to -: only one file goes to standard output")
		default:
			written = true
		}
		if w.going != nil {
			if err := w.going.Takes(t.format); err != nil {
				return nil, fmt.Errorf("--for: %w", err)
			}
		}
		if w.note && (to == "-" || t.part) {
			return nil, errors.New("--note: a note goes beside a file: --to FILE is accepted")
		}
		o := w.Options
		o.Format = t.format
		if err := o.Fits(); err != nil {
			return nil, fmt.Errorf("--to %s: %w", to, err)
		}
		out = append(out, t)
	}
	if w.format != "" && !written {
		return nil, errors.New("--format is for --to -: a file's ending says its format")
	}
	return out, nil
}

// bake bakes a scene to all targets; no frames stand for its range.
func (w *bakeWish) bake(c *cobra.Command, name string, targets []target) error {
	s, err := loadScene(c, name)
	if err != nil {
		return err
	}
	o := w.Options
	if o.Frames == (scene.Range{}) {
		o.Frames = s.Doc.Range
	}
	o.TakeClosing(s.Doc)
	if o.Rigs, err = rigsNamed(s.Doc, w.rigs); err != nil {
		return err
	}
	if err := simulate(c, s, max(o.Frames.Last, s.Doc.Range.First)); err != nil {
		return err
	}
	for _, t := range targets {
		o.Format = t.format
		if err := bakeTo(c, s, t, o, w.note); err != nil {
			return err
		}
	}
	return nil
}

// rigsNamed are the ids of rigs that are named by id or name.
func rigsNamed(d *scene.Document, names []string) (out []string, err error) {
	for _, name := range names {
		n := len(out)
		for i := range d.Rigs {
			if r := &d.Rigs[i]; r.ID == name || r.Name == name {
				out = append(out, r.ID)
			}
		}
		if len(out) == n {
			var all []string
			for i := range d.Rigs {
				all = append(all, d.Rigs[i].ID)
			}
			return nil, fmt.Errorf("--rigs: the scene has no rig %q: %s are", name, strings.Join(all, ", "))
		}
	}
	return out, nil
}

// bakeTo bakes a scene to a file, or to standard output.
func bakeTo(c *cobra.Command, s *rig.Scene, t target, o formats.Options, note bool) error {
	to, said := t.file, []string(nil)
	o.Say = func(text string) { said = append(said, text) }
	bar := progress(c, o.Frames.Count(), "baking")
	bake := func(w io.Writer) error {
		how := formats.Bake
		if t.part {
			how = formats.BakePart
		}
		err := how(c.Context(), w, s, o, func(n int) { bar.set(n) })
		bar.end()
		if err == nil {
			tell(c, said...)
		}
		return err
	}
	if err := writeTo(c, to, bake); err != nil || !note {
		return err
	}
	return writeNote(c, s, to, &o, said)
}

// writeTo writes a file, or standard output, by what write does.
func writeTo(c *cobra.Command, to string, write func(io.Writer) error) (err error) {
	if to == "-" {
		return write(c.OutOrStdout())
	}
	// Written beside the target and renamed, so that no half file is left.
	file, err := os.CreateTemp(filepath.Dir(to), ".bead-*")
	if err != nil {
		return fmt.Errorf("--to: %w", err)
	}
	defer func() {
		err = errors.Join(err, ignoreClosed(file.Close()))
		if err != nil {
			err = errors.Join(err, os.Remove(file.Name()))
		}
	}()
	if err = write(file); err != nil {
		return err
	}
	if err = file.Chmod(0o644); err != nil {
		return err
	}
	if err = file.Close(); err != nil {
		return err
	}
	return os.Rename(file.Name(), to)
}

// cacheSize is how much simulated frames a directory of --cache holds at most, bytes.
const cacheSize = 1 << 30

type cacheDir struct{}

// cacheFlag adds where simulated frames are kept from run to run.
func cacheFlag(c *cobra.Command) {
	dir := c.Flags().String("cache", "", "directory that keeps simulated frames from run to run, up to 1 GB (default: none)")
	c.PreRun = func(c *cobra.Command, _ []string) {
		c.SetContext(context.WithValue(c.Context(), cacheDir{}, *dir))
	}
}

// keptFrom is the cache that a command was given; nil of none.
func keptFrom(ctx context.Context) (rig.Kept, error) {
	dir, _ := ctx.Value(cacheDir{}).(string)
	if dir == "" {
		return nil, nil
	}
	f, err := store.OpenFrames(dir, cacheSize)
	if err != nil {
		return nil, fmt.Errorf("--cache: %w", err)
	}
	return f, nil
}

// simulate works out up to a frame what frames come of the frames before, with its progress.
func simulate(c *cobra.Command, s *rig.Scene, frame int) error {
	_, of := s.SimulatedTo(frame)
	if of == 0 {
		return nil
	}
	bar := progress(c, of, "simulating")
	defer bar.end()
	return s.SimulateTo(c.Context(), frame, func(done, _ int) { bar.set(done) })
}

// lookEvery is how often a watched file is looked at.
const lookEvery = 200 * time.Millisecond

// watched bakes a file, and again whenever it has changed, until nobody waits any more. What is
// wrong with the file is said, and the next change waited for.
func watched(ctx context.Context, file string, say func(string), bake func() error) error {
	if strings.HasPrefix(file, "demo:") || file == "-" {
		return fmt.Errorf("--watch: %s does not change: a document file is accepted", file)
	}
	var seen os.FileInfo
	for {
		info, err := os.Stat(file)
		if seen == nil && err != nil {
			return err
		}
		if err == nil && (seen == nil || !info.ModTime().Equal(seen.ModTime()) || info.Size() != seen.Size()) {
			seen = info
			if err := bake(); err == nil {
				say(file + ": baked")
			} else if ctx.Err() == nil {
				say(err.Error())
			}
		}
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(lookEvery):
		}
	}
}

func ignoreClosed(err error) error {
	if errors.Is(err, os.ErrClosed) {
		return nil
	}
	return err
}

var frameRange = regexp.MustCompile(`^(-?\d{1,8})(?:-(-?\d{1,8}))?$`)

func parseFrames(text string) (scene.Range, error) {
	m := frameRange.FindStringSubmatch(text)
	if m == nil {
		return scene.Range{}, fmt.Errorf("--frames %q is not accepted: A-B or one frame is, such as 1-96 or 24", text)
	}
	var r scene.Range
	r.First, _ = strconv.Atoi(m[1]) // at most eight digits
	if r.Last = r.First; m[2] != "" {
		r.Last, _ = strconv.Atoi(m[2])
	}
	if r.Count() < 1 {
		return r, fmt.Errorf("--frames %s ends before it starts", text)
	}
	return r, nil
}
