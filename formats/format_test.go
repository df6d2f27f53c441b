package formats

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/core/scene"
)

// tally is a made-up format: a line a frame, with how many pieces there are.
type tally struct{ w io.Writer }

func (t tally) Frame(p *rig.Picture) error {
	_, err := fmt.Fprintf(t.w, "%g: %d\n", p.Frame, len(p.Rigs[0].Distances))
	return err
}
func (t tally) Prime(*rig.Picture) {}
func (t tally) Close() error {
	_, err := io.WriteString(t.w, "end\n")
	return err
}

// One more format is its own file and a line in All: it is found by its ending, named among those
// that are accepted, baked, and kept within its room.
func TestOneMoreFormat(t *testing.T) {
	before := All
	t.Cleanup(func() { All = before })
	All = append(All[:len(All):len(All)], Format{Ending: "tally", Name: "tally", Text: "A line a frame.", Media: "text/plain", holds: true,
		bake: func(w io.Writer, _ *rig.Scene, _ *Options) (Baker, error) { return tally{w}, nil }})
	if f, err := FormatOf("shot.TALLY"); f != "tally" || err != nil {
		t.Errorf("%q, %v", f, err)
	}
	if _, err := FormatOf("shot.doc"); err == nil || !strings.Contains(err.Error(), ".tracks.obj, .tally are accepted") {
		t.Error(err)
	}
	d, err := scene.Decode([]byte(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":9},"parts":[{"id":"a","name":"a","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"paths":[{"id":"p","name":"p","shape":{"circle":{"centre":[0,1,0],"radius":1}}}],
"rigs":[{"id":"r","name":"r","path":"p","part":"a","train":{"spacing":{"mode":"set count","count":7}},"facing":{"mode":"loopside"},"travel":{"speed":1}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	frames := 0
	if err := Bake(context.Background(), &out, s, Options{Format: "tally", Frames: scene.Range{First: 3, Last: 5}}, func(n int) { frames = n }); err != nil || frames != 3 {
		t.Errorf("%d frames, %v", frames, err)
	}
	if want := "3: 7\n4: 7\n5: 7\nend\n"; out.String() != want {
		t.Errorf("%q, want %q", out.String(), want)
	}
	most := maxSamples/7 + 1
	if err := All[len(All)-1].room(s, &Options{Frames: scene.Range{First: 1, Last: most}}); err == nil || !strings.Contains(err.Error(), "are baked at once") {
		t.Errorf("%d frames of 7 pieces: %v", most, err)
	}
	if err := Bake(context.Background(), &out, s, Options{Format: "none", Frames: d.Range}, nil); err == nil || !strings.Contains(err.Error(), "usda, usdz, usd.zip, csv, obj.zip, bvh, bvh.zip, joints.csv, values.csv, paths.svg, paths.csv, paths.obj, tracks.svg, tracks.obj, tally are accepted") {
		t.Error(err)
	}
}

// An OBJ whose frames would hold too many vertices is refused before anything is simulated or written.
func TestFramesHaveALimit(t *testing.T) {
	for count, fits := range map[int]bool{100: true, 100_000: false} {
		d, err := scene.Decode(fmt.Appendf(nil, `{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":3},
"paths":[{"id":"p","name":"p","shape":{"line":{"from":[0,3,0],"to":[0,3,900]}}}],
"parts":[{"id":"post","name":"post","shape":{"post":{"radius":0.2,"height":2}}},{"id":"s","name":"s","shape":{"sheet":{"length":1,"drop":0.5,"along":4,"down":2}}}],
"rigs":[{"id":"r","name":"r","path":"p","part":"post","facing":{"mode":"steady"},"travel":0,"train":{"spacing":{"mode":"set count","count":%d}}},
{"id":"c","name":"c","path":"p","part":"s","facing":{"mode":"steady"},"travel":0,"drape":{"fabric":{"weight":0.3,"stretch":900,"bending":0.02}}}]}`, count))
		if err != nil {
			t.Fatal(err)
		}
		s, err := rig.Compile(d)
		if err != nil {
			t.Fatal(err)
		}
		want := fmt.Sprintf("a frame would hold %d vertices", count*len(s.Parts[0].Mesh.Positions)/3+len(s.Parts[1].Mesh.Positions)/3)
		before, _ := s.Simulated()
		var out bytes.Buffer
		err = Bake(context.Background(), &out, s, Options{Format: "obj.zip", Frames: d.Range}, nil)
		after, _ := s.Simulated()
		switch {
		case fits && (err != nil || after == before):
			t.Errorf("%d pieces: %v, simulated from %d to %d", count, err, before, after)
		case !fits && (err == nil || !strings.Contains(err.Error(), want+", since each piece has its own: up to 2000000 are accepted") || out.Len() > 0 || after != before):
			t.Errorf("%d pieces: %v, want %s; %d bytes, simulated from %d to %d", count, err, want, out.Len(), before, after)
		}
	}
}
