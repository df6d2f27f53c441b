package scene_test

import (
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/path"
	"bead/core/scene"
)

// Shapes, steps, fixtures and beads that cannot be: each fault with its address.
func TestPathRefusals(t *testing.T) {
	doc := func(path, more string) string {
		return fmt.Sprintf(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":2},"paths":[{"id":"p","name":"p",%s},
{"id":"q","name":"q","shape":{"line":{"from":[0,0,0],"to":[0,0,1]}}}],
"parts":[{"id":"a","name":"a","shape":{"post":{"radius":0.1,"height":1}}}]%s}`, path, more)
	}
	shape := func(s string) string { return `"shape":` + s }
	step := func(s string) string {
		return `"shape":{"line":{"from":[0,0,0],"to":[0,0,1]}},"steps":[` + s + `]`
	}
	const none = `,"rigs":[]`
	rig := func(facing string) string {
		return `,"rigs":[{"id":"r","name":"r","kind":"train","path":"p","part":"a","spacing":{"mode":"close up"},"facing":` + facing + `,"travel":0}]`
	}
	plain := step("")
	for _, tc := range []struct{ path, more, address, says string }{
		{shape(`{"rectangle":{"centre":[0,0,0],"length":1,"height":1,"radius":0.6}}`), none, "paths[0].shape.rectangle.radius", "0 to 0.5"},
		{shape(`{"arch":{"base":[0,0,0],"width":1,"height":0.2,"radius":0.4}}`), none, "paths[0].shape.arch.radius", "0 to 0.2"},
		{shape(`{"arch":{"base":[0,0,0],"width":1,"height":1,"open":"left"}}`), none, "paths[0].shape.arch.open", "below, above, ahead and behind"},
		{shape(`{"helix":{"base":[0,0,0],"radius":1,"rise":0.1,"turns":0}}`), none, "paths[0].shape.helix.turns", "0.001"},
		{shape(`{"helix":{"base":[0,0,0],"radius":1,"rise":0.1,"turns":2,"hand":"both"}}`), none, "paths[0].shape.helix.hand", "right and left"},
		{shape(`{"bspline":{"points":[[0,0,0]]}}`), none, "paths[0].shape.bspline.points", "from 2"},
		{shape(`{"polyline":{"points":[[0,0,0],[1,0,0]],"fillets":[1,2,3]}}`), none, "paths[0].shape.polyline.fillets", "one a point"},
		{shape(`{"over":{"fixture":"x","points":[[0,0,0],[1,0,0]]}}`), none, "paths[0].shape.over.fixture", "no fixture"},
		{shape(`{"track":{"rig":"x"}}`), none, "paths[0].shape.track.rig", "no rig"},
		{shape(`{"circle":{"centre":[0,0,0],"radius":1,"plane":"below"}}`), none, "paths[0].shape.circle.plane", "side, ahead and above"},
		{step(`{}`), none, "paths[0].steps[0]", "exactly one"},
		{step(`{"reverse":{},"close":{}}`), none, "paths[0].steps[0]", "holds 2"},
		{step(`{"reverse":{"hard":true}}`), none, "paths[0].steps[0].reverse.hard", "not a field"},
		{step(`{"trim":{"from":2,"to":1}}`), none, "paths[0].steps[0].trim.to", "not beyond"},
		{step(`{"join":{"paths":[]}}`), none, "paths[0].steps[0].join.paths", "from 1"},
		{step(`{"join":{"paths":["p"]}}`), none, "paths[0].steps[0].join.paths[0]", "itself"},
		{step(`{"join":{"paths":["q","x"]}}`), none, "paths[0].steps[0].join.paths[1]", "no path"},
		{step(`{"subdivide":{"parts":1000}}`), none, "paths[0].steps[0].subdivide.parts", "2 to 64"},
		{step(`{"jitter":{"seed":1,"amount":1,"grain":0}}`), none, "paths[0].steps[0].jitter.grain", "1e-06"},
		{step(`{"mirror":{"axis":"w"}}`), none, "paths[0].steps[0].mirror.axis", "x, y and z"},
		{plain, `,"fixtures":[{"id":"f","name":"f","part":"x","at":[0,0,0]}],"rigs":[]`, "fixtures[0].part", "no part"},
		{plain, `,"rigs":[],"assets":[{"id":"00","name":"a.obj","data":"AAAA"}]`, "assets[0]", "SHA-256"},
		{plain, `,"rigs":[],"assets":[{"id":"00","name":"a.obj","data":"?"}]`, "assets[0].data", "base64"},
		{plain, rig(`{"mode":"guide"}`), "rigs[0].facing.guide", "needs one"},
		{plain, rig(`{"mode":"steady","rollAt":[{"at":1,"roll":0},{"at":1,"roll":9}]}`), "rigs[0].facing.rollAt[1].at", "rising"},
		{plain, rig(`{"mode":"steady","rollAt":[{"at":1,"roll":0,"ease":"fast"}]}`), "rigs[0].facing.rollAt[0].ease", "straight and eased"},
	} {
		_, err := scene.Decode([]byte(doc(tc.path, tc.more)))
		var faults scene.Faults
		if !errors.As(err, &faults) {
			t.Errorf("%s%s: accepted", tc.path, tc.more)
			continue
		}
		if faults[0].Address != tc.address || !strings.Contains(faults[0].Message, tc.says) {
			t.Errorf("%s%s: %q: %q; want %q and a message with %q", tc.path, tc.more, faults[0].Address, faults[0].Message, tc.address, tc.says)
		}
	}
	if _, err := scene.Decode([]byte(doc(plain, none))); err != nil {
		t.Errorf("what the cases are made from: %v", err)
	}
	// A shape that needs its scene is not accepted alone.
	over := scene.PathShape{Over: &scene.OverShape{Fixture: "f", Points: []scene.Vec3{{}, {1}}}}
	if err := over.Accept(); err == nil {
		t.Error("a shape on a fixture was accepted without its scene")
	}
}

// A hanging cable is as long as asked and ends where it is to; one that does not reach is
// refused with what would.
func TestHangShape(t *testing.T) {
	d := func(length string) string {
		return `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":2},"paths":[{"id":"p","name":"p","shape":{"hang":{"from":[1,2,3],"to":[4,3,7],"length":` + length + `}}}],"parts":[],"rigs":[]}`
	}
	doc, err := scene.Decode([]byte(d("6.5")))
	if err != nil {
		t.Fatal(err)
	}
	spans, closed := doc.Paths[0].Shape.Spans(nil)
	c, err := path.New(spans, closed)
	if err != nil || closed {
		t.Fatal(err, closed)
	}
	end, _ := c.At(c.Length())
	if math.Abs(c.Length()-6.5) > 1e-9 || end.Sub(geom.V(4, 3, 7)).Norm() > 1e-9 {
		t.Errorf("%g long, to %v", c.Length(), end)
	}
	for length, says := range map[string]string{"5": "more than that is accepted", "0": "from 1e-06"} {
		if _, err := scene.Decode([]byte(d(length))); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("length %s: %v, want %q", length, err, says)
		}
	}
}
