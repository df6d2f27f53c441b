package formats_test

import (
	"bytes"
	"context"
	"encoding/csv"
	"math"
	"strconv"
	"strings"
	"testing"

	"bead/core/path"
	"bead/core/scene"
	"bead/formats"
)

// Paths are written in every form that paths are read from, and read back as they were: names, lengths,
// whether they are closed; the track of a piece goes where the piece does; values are those of the pictures.
func TestPathsAreWrittenAndReadBack(t *testing.T) {
	s := compileDemo(t, "crawler")
	write := func(o formats.Options) []byte {
		t.Helper()
		if o.Frames == (scene.Range{}) {
			o.Frames = s.Doc.Range
		}
		if err := o.Fits(); err != nil {
			t.Fatal(err)
		}
		var out bytes.Buffer
		if err := formats.Bake(context.Background(), &out, s, o, nil); err != nil {
			t.Fatal(err)
		}
		return out.Bytes()
	}
	plane := "side"
	for file, unit := range map[string]float64{"paths.svg": 1e-3, "paths.obj": 1} {
		o := formats.Options{Format: file}
		if file == "paths.svg" {
			o.Plane = plane
		}
		back, err := formats.ReadPaths(context.Background(), "a."+file, write(o), false)
		if err != nil {
			t.Fatal(file, err)
		}
		if len(back) != len(s.Paths) {
			t.Fatalf("%s: %d paths of %d", file, len(back), len(s.Paths))
		}
		for i, n := range back {
			c, err := path.New(n.Spans, n.Closed)
			if err != nil {
				t.Fatal(err)
			}
			want := s.Paths[i]
			if n.Name != s.Doc.Paths[i].Name || n.Closed != want.Closed() || math.Abs(c.Length()*unit-want.Length()) > 2e-4*want.Length() {
				t.Errorf("%s: %q is %g long, closed %v; want %q, %g, %v", file, n.Name, c.Length()*unit, n.Closed, s.Doc.Paths[i].Name, want.Length(), want.Closed())
			}
		}
	}
	one := write(formats.Options{Format: "paths.csv", Rigs: []string{s.Doc.Rigs[0].ID}, Units: true})
	if !strings.HasPrefix(string(one), "path,distance (m),x (m),y (m),z (m)\n") {
		t.Errorf("%.80s", one)
	}
	one = write(formats.Options{Format: "paths.csv", Rigs: []string{s.Doc.Rigs[0].ID}})
	back, err := formats.ReadPaths(context.Background(), "a.csv", one, false)
	if err != nil || len(back) != 1 || !back[0].Closed {
		t.Fatalf("%v: %d paths", err, len(back))
	}
	if c, err := path.New(back[0].Spans, true); err != nil || math.Abs(c.Length()-s.Rigs[0].Curve.Length()) > 2e-4*c.Length() {
		t.Errorf("%v: the table's path is another", err)
	}

	rng := s.Doc.Range
	tracks, err := formats.ReadPaths(context.Background(), "a.obj", write(formats.Options{Format: "tracks.obj"}), false)
	if err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(bytes.NewReader(write(formats.Options{Format: "csv"}))).ReadAll()
	if err != nil {
		t.Fatal(err)
	}
	for _, row := range rows[1:] {
		frame, _ := strconv.Atoi(row[0])
		piece, _ := strconv.Atoi(row[2])
		if row[1] != s.Doc.Rigs[0].ID {
			break
		}
		spans := tracks[piece-1].Spans
		at := spans[max(0, frame-rng.First-1)].End()
		if frame == rng.First {
			at = spans[0].Start()
		}
		for k, x := range []float64{at.X, at.Y, at.Z} {
			if want, _ := strconv.ParseFloat(row[3+k], 64); math.Abs(x-want) > 1e-6 {
				t.Fatalf("frame %d, piece %d: the track is at %v, the table says %v", frame, piece, at, row[3:6])
			}
		}
	}
	values, err := csv.NewReader(bytes.NewReader(write(formats.Options{Format: "values.csv", Units: true}))).ReadAll()
	if err != nil || len(values) != rng.Count()+1 || values[0][1] != "rigs/"+s.Doc.Rigs[0].ID+"/travel (m)" {
		t.Fatalf("%v: %v", err, values[0])
	}
	last, _ := strconv.ParseFloat(values[len(values)-1][1], 64)
	if want := s.Rigs[0].Travel(float64(rng.Last)); math.Abs(last-want) > 1e-9*math.Abs(want) {
		t.Errorf("travel ends at %g, want %g", last, want)
	}
}
