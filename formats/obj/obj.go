// Package obj reads line elements of Wavefront OBJ text (an open format) as paths.
package obj

import (
	"bufio"
	"bytes"
	"fmt"
	"math"
	"strconv"
	"strings"

	"bead/core/geom"
	"bead/core/path"
)

// Limits of what is read.
const (
	MaxBytes      = 64 << 20
	maxCoordinate = 1e9
)

// ReadLines returns the l elements as straight-sided paths, named by the last o
// or g before them; a line that ends where it starts is closed. Other elements
// are passed over. Any bytes give paths or an error with its line.
func ReadLines(data []byte) ([]path.Named, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the file has %d bytes: at most %d are read", len(data), MaxBytes)
	}
	var points []geom.Vec
	var out []path.Named
	name := ""
	sc := bufio.NewScanner(bytes.NewReader(data))
	sc.Buffer(nil, 1<<20)
	for line := 1; sc.Scan(); line++ {
		f := strings.Fields(sc.Text())
		if len(f) == 0 {
			continue
		}
		switch f[0] {
		case "o", "g":
			name = strings.Join(f[1:], " ")
		case "v":
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
			points = append(points, geom.FromArray(v))
		case "l":
			n, err := polyline(f[1:], points)
			if err != nil {
				return nil, fmt.Errorf("line %d: %w", line, err)
			}
			if n.Name = name; name == "" {
				n.Name = fmt.Sprintf("line %d", len(out)+1)
			}
			out = append(out, n)
		}
	}
	if err := sc.Err(); err != nil {
		return nil, fmt.Errorf("not OBJ: %w", err)
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("the file holds no line: OBJ with l elements is accepted")
	}
	return out, nil
}

func polyline(refs []string, points []geom.Vec) (path.Named, error) {
	if len(refs) < 2 {
		return path.Named{}, fmt.Errorf("l has %d points: at least 2 are accepted", len(refs))
	}
	pts := make([]geom.Vec, len(refs))
	for i, r := range refs {
		r, _, _ = strings.Cut(r, "/")
		k, err := strconv.Atoi(r)
		if k < 0 {
			k += len(points) + 1 // counted back from the last vertex
		}
		if err != nil || k < 1 || k > len(points) {
			return path.Named{}, fmt.Errorf("%q is no vertex: 1 to %d are", r, len(points))
		}
		pts[i] = points[k-1]
	}
	closed := len(pts) > 3 && pts[0] == pts[len(pts)-1]
	return path.Named{Spans: path.Polyline(pts, false), Closed: closed}, nil
}
