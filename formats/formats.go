// Package formats bakes compiled scenes to open formats and reads paths from
// them. Each format has a package of its own below this one.
package formats

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"path/filepath"
	"runtime"
	"strings"
	"sync"
	"sync/atomic"

	"bead/core/figure"
	"bead/core/geom"
	"bead/core/path"
	"bead/core/rig"
	"bead/core/scene"
	"bead/core/surface"
	"bead/formats/bvh"
	"bead/formats/csvtab"
	"bead/formats/gltf"
	"bead/formats/obj"
	"bead/formats/svg"
)

// bakeAhead is the number of frames a core that are made before they are written.
const bakeAhead = 4

// Bake writes frames first..last of the scene. done is called after each frame,
// from the calling goroutine, and may be nil. A cancelled context ends the bake
// with its error. Since a frame is pure, a bake of some frames equals the same
// frames of the whole bake bit for bit.
func Bake(ctx context.Context, w io.Writer, s *rig.Scene, o Options, done func(n int)) error {
	f, err := o.ready(ctx, s)
	if err != nil {
		return err
	}
	out := bufio.NewWriterSize(&endable{ctx, w}, 1<<18)
	baker, err := f.bake(out, s, &o)
	if err == nil {
		err = f.feed(ctx, baker, s, &o, done)
	}
	if err == nil {
		err = baker.Close()
	}
	if err != nil {
		return err
	}
	return out.Flush()
}

// ready checks the options and simulates the frames that are baked.
func (o *Options) ready(ctx context.Context, s *rig.Scene) (*Format, error) {
	o.stopped = func() bool { return ctx.Err() != nil }
	if err := CheckFrames(o.Frames); err != nil {
		return nil, err
	}
	if err := o.CheckRigs(s); err != nil {
		return nil, err
	}
	if err := o.checkTime(s); err != nil {
		return nil, err
	}
	if o.Library == nil {
		o.Library = LibraryOf(s.Doc)
	}
	f, known := Of(o.Format)
	if !known {
		return nil, fmt.Errorf("%q is no format: %s are accepted", o.Format, strings.Join(Endings(), ", "))
	}
	if f.Still {
		o.Frames.Last = o.Frames.First
	}
	if err := f.room(s, o); err != nil {
		return nil, err
	}
	return f, s.SimulateTo(ctx, max(o.Frames.Last, s.Doc.Range.First), o.Simulated)
}

// feed gives a baker its frames.
func (f *Format) feed(ctx context.Context, baker Baker, s *rig.Scene, o *Options, done func(n int)) error {
	frames := o.Frames
	// The signs of rotations are those of a bake from the scene's first frame on: the frames
	// between that and the first one written are gone through without being written.
	// A table's rows each stand for themselves and keep the sign that a rotation has by itself.
	var signs turns
	sign := signs.next
	if f.rows {
		sign = func(*rig.Picture) {}
	}
	from := frames.First
	if r := s.Doc.Range; from > r.First {
		from = r.First
	} else {
		var p rig.Picture
		for n := r.First; n > frames.First; n-- {
			if err := s.FrameContext(ctx, &p, n); err != nil {
				return err
			}
			sign(&p)
			baker.Prime(&p)
		}
	}
	if err := s.Settle(ctx, from); err != nil {
		return err
	}
	// Frames are pure: some are made at once, and then written in their order.
	pics := make([]rig.Picture, bakeAhead*runtime.GOMAXPROCS(0))
	for i := range pics {
		pics[i].Bare = f.Figures && !o.Exact
	}
	for first := from; first <= frames.Last; first += len(pics) {
		n := min(len(pics), frames.Last-first+1)
		var wait sync.WaitGroup
		var next atomic.Int64
		for range min(n, runtime.GOMAXPROCS(0)) {
			wait.Go(func() {
				for k := int(next.Add(1)) - 1; k < n && ctx.Err() == nil; k = int(next.Add(1)) - 1 {
					_ = s.FrameContext(ctx, &pics[k], first+k) // looked at below
				}
			})
		}
		wait.Wait()
		for k := range n {
			if err := ctx.Err(); err != nil {
				return err
			}
			sign(&pics[k])
			if n := first + k - frames.First; n < 0 || n%max(o.Step, 1) != 0 {
				baker.Prime(&pics[k])
				continue
			}
			if err := baker.Frame(&pics[k]); err != nil {
				return err
			}
			if done != nil {
				done(first + k - frames.First + 1)
			}
		}
	}
	return nil
}

// endable ends writing when its context does.
type endable struct {
	ctx context.Context
	w   io.Writer
}

func (e *endable) Write(p []byte) (int, error) {
	if err := e.ctx.Err(); err != nil {
		return 0, err
	}
	return e.w.Write(p)
}

// PathFiles lists the endings that ReadPaths accepts.
var PathFiles = []string{"svg", "csv", "obj", "glb", "gltf"}

// ReadPaths reads the paths of a file by its name's ending. smooth puts a smooth
// curve through a table's points instead of straights. Errors say where in the
// file and what would be accepted.
func ReadPaths(ctx context.Context, file string, data []byte, smooth bool) ([]path.Named, error) {
	base := filepath.Base(file)
	name := strings.TrimSuffix(base, filepath.Ext(base))
	switch ext := strings.ToLower(filepath.Ext(base)); ext {
	case ".svg":
		return svg.Read(ctx, data)
	case ".obj":
		return obj.ReadLines(ctx, data)
	case ".glb", ".gltf":
		return gltf.ReadLines(ctx, data)
	case ".csv", ".tsv", ".txt":
		t, err := csvtab.ReadPoints(data)
		if err != nil {
			return nil, err
		}
		if !smooth {
			return []path.Named{{Name: name, Spans: path.Polyline(t.Points, t.Closed), Closed: t.Closed}}, nil
		}
		return []path.Named{{Name: name, Spans: path.Spline(path.Resolve(smoothPoints(t.Points), t.Closed), t.Closed), Closed: t.Closed}}, nil
	default:
		return nil, fmt.Errorf("%q is not a kind of file that holds paths: .%s are accepted", base, strings.Join(PathFiles, ", ."))
	}
}

// MeshFiles lists the endings that ReadMesh accepts.
var MeshFiles = []string{"obj", "glb", "gltf"}

// ReadMesh reads the mesh of a file by its name's ending.
func ReadMesh(ctx context.Context, file string, data []byte) (*surface.Mesh, error) {
	switch ext := strings.ToLower(filepath.Ext(file)); ext {
	case ".obj":
		return obj.ReadMesh(ctx, data)
	case ".glb", ".gltf":
		return gltf.ReadMesh(ctx, data)
	default:
		return nil, fmt.Errorf("%q is not a kind of file that holds a mesh: .%s are accepted", filepath.Base(file), strings.Join(MeshFiles, ", ."))
	}
}

// FigureFiles lists the endings that ReadFigure accepts.
var FigureFiles = []string{"bvh", "glb", "gltf"}

// ReadFigure reads the figure of a file by its name's ending. One without a skin gets bones.
func ReadFigure(ctx context.Context, file string, data []byte) (f *figure.Figure, err error) {
	switch ext := strings.ToLower(filepath.Ext(file)); ext {
	case ".bvh":
		f, err = bvh.Read(ctx, data)
	case ".glb", ".gltf":
		f, err = gltf.ReadFigure(ctx, data)
	default:
		err = fmt.Errorf("%q is not a kind of file that holds a figure: .%s are accepted", filepath.Base(file), strings.Join(FigureFiles, ", ."))
	}
	if err == nil && f.Skin == nil {
		f.Skin = f.Bones()
	}
	return f, err
}

// Library reads the meshes and figures of assets, each once. It is safe for concurrent use.
type Library struct {
	find    func(asset string) (name string, data []byte, err error)
	mu      sync.Mutex
	read    map[string]*surface.Mesh
	figures map[string]*figure.Figure
	means   map[string][3]float64
}

// keptMeshes bounds how many a Library keeps.
const keptMeshes = 24

// NewLibrary returns a library that finds files by find.
func NewLibrary(find func(asset string) (name string, data []byte, err error)) *Library {
	return &Library{find: find, read: map[string]*surface.Mesh{}, figures: map[string]*figure.Figure{}, means: map[string][3]float64{}}
}

// LibraryOf returns a library of the assets that a document holds.
func LibraryOf(d *scene.Document) *Library {
	return NewLibrary(func(asset string) (string, []byte, error) {
		for _, a := range d.Assets {
			if a.ID == asset {
				return a.Name, a.Data, nil
			}
		}
		return "", nil, fmt.Errorf("the document does not hold the asset %.12s: use one that was saved with its assets", asset)
	})
}

// Mesh returns the mesh of an asset.
func (l *Library) Mesh(asset string) (*surface.Mesh, error) {
	return kept(l, l.read, asset, ReadMesh)
}

// Figure returns the figure of an asset.
func (l *Library) Figure(asset string) (*figure.Figure, error) {
	return kept(l, l.figures, asset, ReadFigure)
}

// kept reads an asset, or takes it from those that were read.
func kept[T any](l *Library, known map[string]T, asset string, read func(context.Context, string, []byte) (T, error)) (none T, err error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	if m, is := known[asset]; is {
		return m, nil
	}
	name, data, err := l.find(asset)
	if err != nil {
		return none, err
	}
	m, err := read(context.Background(), name, data)
	if err != nil {
		return none, fmt.Errorf("%s: %w", name, err)
	}
	if len(known) >= keptMeshes {
		clear(known)
	}
	known[asset] = m
	return m, nil
}

func smoothPoints(pts []geom.Vec) []path.Point {
	out := make([]path.Point, len(pts))
	for i, p := range pts {
		out[i] = path.Point{At: p, Handles: path.Smooth}
	}
	return out
}
