package obj

import (
	"archive/zip"
	"bufio"
	"cmp"
	"compress/flate"
	"fmt"
	"io"
	"math"
	"strconv"

	"bead/core/geom"
	"bead/core/rig"
)

// Baker writes pictures as one OBJ a frame into a zip archive: every piece, body, wheel and fixture as an object
// with its vertices in the world, their normals, and textures where a part has them. The order of vertices is
// the same in every frame.
type Baker struct {
	zip    *zip.Writer
	scene  *rig.Scene
	groups []rig.Group
	buf    []byte
	names  map[rig.Finish]string // of materials
	below  map[rig.Finish]string // of their lower sides, of those that have two
	files  map[string]string     // of images, by their assets
}

// NewBaker returns a writer for the scene's pictures, but for the rigs that are skipped. Files are the
// names of images in the archive, by their assets, and image gives their bytes.
func NewBaker(w io.Writer, s *rig.Scene, skip []bool, files map[string]string, image func(asset string) ([]byte, error)) (*Baker, error) {
	out := &Baker{zip: zip.NewWriter(w), scene: s, groups: s.Groups(skip), files: files, names: map[rig.Finish]string{}, below: map[rig.Finish]string{}}
	// Numbers as text pack well at any level, and the quickest is four times as quick.
	out.zip.RegisterCompressor(zip.Deflate, func(w io.Writer) (io.WriteCloser, error) { return flate.NewWriter(w, flate.BestSpeed) })
	lib, err := out.zip.CreateHeader(&zip.FileHeader{Name: libraryFile, Method: zip.Deflate})
	if err == nil {
		err = out.library(lib)
	}
	assets, _ := rig.ImagesUsed(out.groups)
	for _, id := range assets {
		if err != nil {
			break
		}
		var data []byte
		if data, err = image(id); err != nil {
			break
		}
		var f io.Writer
		if f, err = out.zip.CreateHeader(&zip.FileHeader{Name: files[id], Method: zip.Store}); err == nil {
			_, err = f.Write(data)
		}
	}
	return out, err
}

// libraryFile is the file of the materials in the archive.
const libraryFile = "materials.mtl"

// Again writes a frame that was written before, under its name.
func (b *Baker) Again(name string, text io.Reader) error {
	file, err := b.zip.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate})
	if err == nil {
		_, err = io.Copy(file, text)
	}
	return err
}

// Frame writes one picture as frame_NNNNNN.obj.
func (b *Baker) Frame(p *rig.Picture) (err error) {
	// No time of writing, so that the same frames give the same bytes.
	file, err := b.zip.CreateHeader(&zip.FileHeader{Name: fmt.Sprintf("frame_%06d.obj", int(p.Frame)), Method: zip.Deflate})
	if err != nil {
		return err
	}
	r := newRelay(file)
	defer func() { err = cmp.Or(err, r.Close()) }()
	w := bufio.NewWriterSize(r, 1<<16)
	fmt.Fprintf(w, "# %s, frame %g. Metres, y up.\nmtllib %s\n", oneLine(b.scene.Doc.Name), p.Frame, libraryFile)
	o := object{w: w, buf: b.buf, names: b.names, below: b.below}
	for i := range b.groups {
		g := &b.groups[i]
		for k := range g.Things {
			if _, err := w.Write(nil); err != nil {
				return err // that of a write before: nobody wants the rest
			}
			t := &g.Things[k]
			if g.Surfaces {
				positions, normals := g.Vertices(p, k)
				o.add(t, positions, normals)
			} else {
				o.rigid(t, g.Place(p, k))
			}
		}
	}
	b.buf = o.buf
	return w.Flush()
}

// Prime does nothing: each file stands for itself.
func (b *Baker) Prime(*rig.Picture) {}

// Close ends the archive.
func (b *Baker) Close() error { return b.zip.Close() }

// oneLine keeps a name from ending its line.
func oneLine(s string) string {
	out := []rune(s)
	for i, r := range out {
		if r < ' ' {
			out[i] = ' '
		}
	}
	return string(out)
}

// object writes objects, which OBJ numbers from 1 on through the file.
type object struct {
	w              *bufio.Writer
	buf            []byte
	points, places int
	names, below   map[rig.Finish]string
}

func (o *object) row(word string, v []float32) {
	o.buf = append(o.buf[:0], word...)
	for _, x := range v {
		o.buf = append(o.buf, ' ')
		o.buf = strconv.AppendFloat(o.buf, float64(x), 'g', -1, 32)
	}
	o.buf = append(o.buf, '\n')
	_, _ = o.w.Write(o.buf) // the buffer keeps its error for Flush
}

func (o *object) add(t *rig.Thing, positions, normals []float32) {
	m := t.Model.Mesh()
	fmt.Fprintf(o.w, "o %s\n", oneLine(t.Name))
	for i := 0; i < len(positions); i += 3 {
		o.row("v", positions[i:i+3])
	}
	for i := 0; i < len(m.UVs); i += 2 {
		o.row("vt", m.UVs[i:i+2])
	}
	for i := 0; i < len(normals); i += 3 {
		o.row("vn", normals[i:i+3])
	}
	for k, run := range rig.Runs(m) {
		f, indices := t.Finish(k), m.Indices[run.First:run.First+run.Count]
		lower := []uint32(nil)
		if low := f.Lower(m, t.Model.Up()); low != nil {
			indices, lower = apart(indices, low)
		}
		fmt.Fprintf(o.w, "usemtl %s\n", o.names[f])
		o.faces(m, indices)
		if len(lower) > 0 {
			fmt.Fprintf(o.w, "usemtl %s\n", o.below[f])
			o.faces(m, lower)
		}
	}
	o.points += len(positions) / 3
	o.places += len(m.UVs) / 2
}

// apart parts the triangles that are mostly of the lower side's colour from the others.
func apart(indices []uint32, low []float64) (upper, lower []uint32) {
	for i := 0; i+2 < len(indices); i += 3 {
		t := indices[i : i+3]
		if low[t[0]]+low[t[1]]+low[t[2]] > 1.5 {
			lower = append(lower, t...)
		} else {
			upper = append(upper, t...)
		}
	}
	return upper, lower
}

func (o *object) faces(m *geom.Mesh, indices []uint32) {
	for len(indices) > 0 {
		n := polygon(m, indices)
		o.buf = append(o.buf[:0], 'f')
		for k := range n {
			v := indices[0] + uint32(k)
			if n == 3 {
				v = indices[k]
			}
			o.corner(m, v)
		}
		o.buf = append(o.buf, '\n')
		_, _ = o.w.Write(o.buf)
		indices = indices[3*(n-2):]
	}
}

func (o *object) corner(m *geom.Mesh, v uint32) {
	k := int64(v) + 1
	o.buf = append(o.buf, ' ')
	o.buf = strconv.AppendInt(o.buf, k+int64(o.points), 10)
	o.buf = append(o.buf, '/')
	if len(m.UVs) > 0 {
		o.buf = strconv.AppendInt(o.buf, k+int64(o.places), 10)
	}
	o.buf = append(o.buf, '/')
	o.buf = strconv.AppendInt(o.buf, k+int64(o.points), 10)
}

// polygon is how many corners the face has that the first triangles of a list are: those of a face with
// vertices of its own come as a fan about its first, numbered one after another. A fan that goes all
// round is a disc about its middle, and stays triangles.
func polygon(m *geom.Mesh, indices []uint32) int {
	a := indices[0]
	at := func(v uint32) geom.Vec {
		return geom.V(float64(m.Positions[3*v]), float64(m.Positions[3*v+1]), float64(m.Positions[3*v+2])).
			Sub(geom.V(float64(m.Positions[3*a]), float64(m.Positions[3*a+1]), float64(m.Positions[3*a+2])))
	}
	n, round := 2, 0.0
	for i := 0; i+2 < len(indices) && indices[i] == a; i += 3 {
		if indices[i+1] != a+uint32(n)-1 || indices[i+2] != a+uint32(n) {
			return 3
		}
		b, c := at(indices[i+1]), at(indices[i+2])
		round += math.Atan2(b.Cross(c).Norm(), b.Dot(c))
		n++
	}
	if n > 3 && round > 1.99*math.Pi || n < 3 {
		return 3
	}
	return n
}

// rigid adds a mesh that stands somewhere.
func (o *object) rigid(t *rig.Thing, at [rig.Stride]float32) {
	m := t.Model.Mesh()
	scale := float64(at[7])
	q := rig.Place(at[:7]).Quat()
	p := geom.V(float64(at[0]), float64(at[1]), float64(at[2]))
	positions, normals := make([]float32, len(m.Positions)), make([]float32, len(m.Normals))
	for i := 0; i < len(positions); i += 3 {
		v := p.Add(q.Apply(geom.V(float64(m.Positions[i]), float64(m.Positions[i+1]), float64(m.Positions[i+2])).Mul(scale)))
		n := q.Apply(geom.V(float64(m.Normals[i]), float64(m.Normals[i+1]), float64(m.Normals[i+2])))
		copy(positions[i:], []float32{float32(v.X), float32(v.Y), float32(v.Z)})
		copy(normals[i:], []float32{float32(n.X), float32(n.Y), float32(n.Z)})
	}
	o.add(t, positions, normals)
}
