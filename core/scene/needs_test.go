package scene

import (
	"maps"
	"slices"
	"strings"
	"testing"
)

// What a thing goes by is found over all of its ties, and nothing else.
func TestNeeds(t *testing.T) {
	d, err := Decode([]byte(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":24},"master":"hull",
"carriers":[{"id":"hull","name":"hull","at":[0,0,{"of":"cameras/c/z"}]},{"id":"boat","name":"boat","at":[0,0,0],"ride":{"path":"way","distance":0}},
 {"id":"other","name":"other","at":[0,0,0]}],
"parts":[{"id":"b","name":"b","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],
"paths":[{"id":"way","name":"way","shape":{"spline":{"points":[{"at":[0,0,0]},{"at":[0,0,1]}]}}},
 {"id":"line","name":"line","carrier":"boat","shape":{"line":{"from":[0,0,0],"to":[0,0,1]}},"steps":[{"join":{"paths":["more"]}}]},
 {"id":"more","name":"more","carrier":"boat","shape":{"line":{"from":[0,0,1],"to":[0,0,2]}}},
 {"id":"else","name":"else","shape":{"line":{"from":[0,0,0],"to":[0,0,1]}}}],
"tugs":[{"id":"tug","name":"tug","path":"way","points":[1],"carrier":"other"}],
"rigs":[{"id":"r","name":"r","path":"line","part":"b","facing":{"mode":"steady"},"travel":{"of":"rigs/led/offset"},"inStep":"far","rider":{}},
 {"id":"led","name":"led","path":"else","part":"b","facing":{"mode":"steady"},"travel":0,"rider":{"lead":{"rig":"head","at":"head"}}},
 {"id":"head","name":"head","path":"else","part":"b","facing":{"mode":"steady"},"travel":0,"rider":{}},
 {"id":"far","name":"far","path":"else","part":"b","facing":{"mode":"steady"},"travel":0,"rider":{}}],
"cameras":[{"id":"c","name":"c","at":[0,0,0]},{"id":"d","name":"d","at":[0,0,0]}]}`))
	if err != nil {
		t.Fatal(err)
	}
	for thing, want := range map[string]string{
		"rigs/r":     "cameras/c carriers/boat carriers/hull carriers/other paths/else paths/line paths/more paths/way rigs/head rigs/led rigs/r tugs/tug",
		"rigs/far":   "cameras/c carriers/hull paths/else rigs/far",
		"cameras/d":  "cameras/d",
		"rigs/gone":  "",
		"paths/more": "cameras/c carriers/boat carriers/hull carriers/other paths/more paths/way tugs/tug",
	} {
		if got := strings.Join(slices.Sorted(maps.Keys(d.Needs(thing))), " "); got != want {
			t.Errorf("%s needs %s\nwant %s", thing, got, want)
		}
	}
}
