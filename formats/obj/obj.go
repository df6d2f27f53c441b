// Package obj reads Wavefront OBJ text (an open format): line elements as paths,
// faces as a mesh.
package obj

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"math"
	"strconv"
	"strings"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/surface"
)

// Limits of what is read.
const (
	MaxBytes      = 64 << 20
	maxCoordinate = 1e9
	maxSpans      = 200_000   // of all lines
	maxElements   = 3_000_000 // vertices, and corners of faces
)

// ReadLines returns the l elements as straight-sided paths, named by the last o
// or g before them; a line that ends where it starts is closed. Other elements
// are passed over. Any bytes give paths or an error with its line.
func ReadLines(ctx context.Context, data []byte) ([]path.Named, error) {
	var out []path.Named
	name, spans := "", 0
	points, err := elements(ctx, data, func(f []string, points []geom.Vec) error {
		switch f[0] {
		case "o", "g":
			name = strings.Join(f[1:], " ")
		case "l":
			n, err := polyline(f[1:], points)
			if err != nil {
				return err
			}
			if spans += len(n.Spans); spans > maxSpans {
				return fmt.Errorf("the lines have more than %d straights in all: up to so many are read", maxSpans)
			}
			if n.Name = name; name == "" {
				n.Name = fmt.Sprintf("line %d", len(out)+1)
			}
			out = append(out, n)
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("the file holds no line among its %d vertices: OBJ with l elements is accepted", len(points))
	}
	return out, nil
}

// ReadMesh returns the f elements of all objects as one mesh, with the surfaces that usemtl tells
// apart and, where every corner has one, the places on an image that vt gives. Other elements are
// passed over. Any bytes give a mesh or an error with its line.
func ReadMesh(ctx context.Context, data []byte) (*surface.Mesh, error) {
	var faces [][]int32
	corners := 0
	var uvs [][2]float32
	var dress surface.Dress
	known, now, all := map[string]int32{}, int32(0), true
	points, err := elements(ctx, data, func(f []string, points []geom.Vec) error {
		switch f[0] {
		case "vt":
			uv, err := texture(f[1:])
			if uvs = append(uvs, uv); len(uvs) > maxElements {
				return fmt.Errorf("more than %d vt: up to so many are read", maxElements)
			}
			return err
		case "usemtl":
			name := strings.Join(f[1:], " ")
			if _, is := known[name]; !is {
				if len(dress.Names) == maxSurfaces {
					return fmt.Errorf("more than %d materials: up to so many are read", maxSurfaces)
				}
				known[name] = int32(len(dress.Names))
				dress.Names = append(dress.Names, named(name, len(dress.Names)))
			}
			now = known[name]
			return nil
		case "f":
		default:
			return nil
		}
		if len(f) < 4 || len(f) > maxCorners {
			return fmt.Errorf("f has %d corners: from 3 to %d are accepted", len(f)-1, maxCorners)
		}
		if corners += len(f) - 1; corners > maxElements {
			return fmt.Errorf("the faces have more than %d corners in all: up to so many are read", maxElements)
		}
		face, at := make([]int32, len(f)-1), make([][2]float32, len(f)-1)
		for i, r := range f[1:] {
			k, err := vertex(r, len(points))
			if err != nil {
				return err
			}
			face[i] = int32(k)
			_, rest, _ := strings.Cut(r, "/")
			rest, _, _ = strings.Cut(rest, "/")
			k, err = vertex(rest, len(uvs))
			if all = all && err == nil; all {
				at[i] = uvs[k]
			}
		}
		faces, dress.Group, dress.UVs = append(faces, face), append(dress.Group, now), append(dress.UVs, at)
		return nil
	})
	if err != nil {
		return nil, err
	}
	if len(points) > surface.MaxPoints {
		return nil, fmt.Errorf("the mesh has %d vertices: up to %d are read", len(points), surface.MaxPoints)
	}
	if len(faces) == 0 {
		return nil, fmt.Errorf("the file holds no face among its %d vertices: OBJ with f elements is accepted", len(points))
	}
	if !all {
		dress.UVs = nil
	}
	return surface.NewDressed(points, faces, dress)
}

const (
	maxCorners  = 1000
	maxSurfaces = 200
	maxName     = 120
)

// named is a surface's name as documents take it.
func named(name string, i int) string {
	if name == "" || len(name) > maxName {
		return fmt.Sprintf("surface %d", i+1)
	}
	return name
}

// texture reads the two numbers of a vt.
func texture(f []string) (out [2]float32, err error) {
	if len(f) < 2 {
		return out, fmt.Errorf("vt has %d numbers: 2 are accepted", len(f))
	}
	for i := range out {
		v, err := strconv.ParseFloat(f[i], 32)
		if err != nil || !(math.Abs(v) <= maxCoordinate) {
			return out, fmt.Errorf("%q is not accepted: a number within ±1e9 is", f[i])
		}
		out[i] = float32(v)
	}
	return out, nil
}

// elements goes through the lines: vertices are gathered, all else is given to take.
func elements(ctx context.Context, data []byte, take func(f []string, points []geom.Vec) error) ([]geom.Vec, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the file has %d bytes: at most %d are read", len(data), MaxBytes)
	}
	var points []geom.Vec
	sc := bufio.NewScanner(bytes.NewReader(data))
	sc.Buffer(nil, 1<<20)
	for line := 1; sc.Scan(); line++ {
		if line%4096 == 0 && ctx.Err() != nil {
			return nil, ctx.Err()
		}
		f := strings.Fields(sc.Text())
		if len(f) == 0 {
			continue
		}
		if f[0] != "v" {
			if err := take(f, points); err != nil {
				return nil, fmt.Errorf("line %d: %w", line, err)
			}
			continue
		}
		var v [3]float64
		for i := range v {
			var err error
			if len(f) < 4 {
				return nil, fmt.Errorf("line %d: v has %d numbers: 3 are accepted", line, len(f)-1)
			}
			if v[i], err = strconv.ParseFloat(f[i+1], 64); err != nil || !(math.Abs(v[i]) <= maxCoordinate) {
				return nil, fmt.Errorf("line %d: %q is not accepted: a number within ±1e9 is", line, f[i+1])
			}
		}
		if points = append(points, geom.FromArray(v)); len(points) > maxElements {
			return nil, fmt.Errorf("line %d: more than %d vertices: up to so many are read", line, maxElements)
		}
	}
	if err := sc.Err(); err != nil {
		return nil, fmt.Errorf("not OBJ: %w", err)
	}
	return points, nil
}

// vertex resolves a reference such as 7, 7/1/2 or -1 to a number from 0.
func vertex(ref string, count int) (int, error) {
	r, _, _ := strings.Cut(ref, "/")
	k, err := strconv.Atoi(r)
	if k < 0 {
		k += count + 1 // counted back from the last vertex
	}
	if err != nil || k < 1 || k > count {
		return 0, fmt.Errorf("%q is no vertex: 1 to %d are", r, count)
	}
	return k - 1, nil
}

func polyline(refs []string, points []geom.Vec) (path.Named, error) {
	if len(refs) < 2 {
		return path.Named{}, fmt.Errorf("l has %d points: at least 2 are accepted", len(refs))
	}
	pts := make([]geom.Vec, len(refs))
	for i, r := range refs {
		k, err := vertex(r, len(points))
		if err != nil {
			return path.Named{}, err
		}
		pts[i] = points[k]
	}
	closed := len(pts) > 3 && pts[0] == pts[len(pts)-1]
	return path.Named{Spans: path.Polyline(pts, false), Closed: closed}, nil
}
