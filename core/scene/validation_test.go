package scene

import (
	"errors"
	"strings"
	"testing"
)

// whole is a scene with one of each thing that moves another, all of it accepted.
const whole = `{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":24},"ground":{"points":[{"z":0,"height":0},{"z":1,"height":0.1}],"humps":[{"z":3,"length":2,"height":0.1}],"rough":{"seed":1,"amount":0.1,"grain":0.5,"from":-2,"to":2}},
"carriers":[{"id":"c","name":"Hull","at":[0,0,{"speed":1}],"ground":{"soften":3}},{"id":"d","name":"Sled","at":[0,0,0],"ride":{"path":"s","distance":1}}],
"tugs":[{"id":"t","name":"Tug","path":"s","points":[2],"handle":"both","reach":0.5,"pull":[0,{"keys":[{"frame":1,"value":0},{"frame":9,"value":1}]},0]},{"id":"u","name":"Hook","path":"s","points":[1],"wheel":{"path":"b","wheel":1},"pull":[0,0,0]}],
"paths":[{"id":"b","name":"Belt","carrier":"c","shape":{"wrap":{"keep":{"links":60,"pitch":0.1},"anchor":2,"depth":0.02,"wheels":[{"name":"A","at":[0,1,-1],"teeth":12,"pitch":0.1,"slack":true},{"name":"B","at":[0,0.32,0],"radius":0.3,"ground":true,"spring":{"up":0.1,"down":0.1,"arm":[0,0.5,0.6]}},{"name":"C","at":[0,1,1],"radius":0.3,"takeUp":{"angle":10,"in":0.1,"out":0.1}}]}}},
{"id":"s","name":"Way","shape":{"spline":{"points":[{"at":[0,1,0]},{"at":[0,1,2]},{"at":[1,1,4]}]}},"steps":[{"wave":{"side":0.1,"wavelength":0.5,"phase":{"speed":1},"amount":[{"at":0,"share":0},{"at":1,"share":1}],"with":"e"}},{"lag":{"from":0,"to":2,"frequency":2,"damping":0.3}}]}],
"parts":[{"id":"a","name":"Shoe","shape":{"box":{"side":0.1,"height":0.05,"length":0.09}}},{"id":"f","name":"Eel","segments":20,"shape":{"eel":{"length":1,"girth":0.1}}}],
"rigs":[{"id":"r","name":"Tread","kind":"train","path":"b","part":"a","spacing":{"mode":"set count","count":60},"facing":{"mode":"loopside"},"travel":{"rolls":"c"},"inStep":"l","arrive":{"first":1,"delay":1,"takes":5}},
{"id":"e","name":"Eel","kind":"bend","path":"s","part":"f","seat":"bent","facing":{"mode":"least-twist","bank":{"share":1}},"travel":{"speed":0.2},"bend":{"fit":"reach","tail":0,"head":1,"taper":[{"at":0,"scale":1},{"at":1,"scale":0.5}],"rounds":{"count":2,"frames":12,"stride":0.5}},"blends":[{"name":"jaw","amount":0.5}]},
{"id":"l","name":"Lamp","kind":"rider","path":"s","part":"a","facing":{"mode":"steady"},"travel":0.1,"lead":{"rig":"e","at":"head"},"rolling":0.05}]}`

// Each thing that can be wrong with what moves is refused at its address, with what would be
// accepted.
func TestWhatMovesIsValidated(t *testing.T) {
	if _, err := Decode([]byte(whole)); err != nil {
		t.Fatal(err)
	}
	for _, tc := range []struct{ from, to, at, says string }{
		// Tugs.
		{`"path":"s","points":[2]`, `"path":"x","points":[2]`, "tugs[0].path", "no path of this scene"},
		{`"points":[2],"handle"`, `"points":[],"handle"`, "tugs[0].points", "at least one point"},
		{`"points":[2],"handle"`, `"points":[4],"handle"`, "tugs[0].points[0]", "1 to 3"},
		{`"handle":"both"`, `"handle":"left"`, "tugs[0].handle", "both"},
		{`"reach":0.5`, `"reach":-1`, "tugs[0].reach", "from 0"},
		{`"path":"s","points":[2]`, `"path":"b","points":[2]`, "tugs[0].path", "a path with points of its own"},
		{`"wheel":{"path":"b","wheel":1}`, `"wheel":{"path":"s","wheel":1}`, "tugs[1].wheel.path", "no belt round wheels"},
		{`"wheel":{"path":"b","wheel":1}`, `"wheel":{"path":"b","wheel":9}`, "tugs[1].wheel.wheel", "1 to 3"},
		{`"wheel":{"path":"b","wheel":1}`, `"carrier":"c","wheel":{"path":"b","wheel":1}`, "tugs[1].wheel", "a carrier or on a wheel"},
		// Carriers.
		{`"ride":{"path":"s"`, `"ride":{"path":"x"`, "carriers[1].ride.path", "no path"},
		{`"name":"Sled","at":[0,0,0]`, `"name":"Sled","parent":"c","at":[0,0,0]`, "carriers[1].parent", "leave parent or ride out"},
		{`"ground":{"soften":3}`, `"ground":{"soften":-3}`, "carriers[0].ground.soften", "from 0"},
		{`"ride":{"path":"s","distance":1}`, `"ground":{}`, "carriers[1].ground", "no wheel on the ground"},
		{`"id":"c","name":"Hull"`, `"id":"c","parent":"c","name":"Hull"`, "carriers[0].parent", "rides on itself"},
		// Drives.
		{`"travel":{"rolls":"c"}`, `"travel":{"rolls":"x"}`, "rigs[0].travel.rolls", "no carrier"},
		{`"travel":{"rolls":"c"}`, `"travel":{"rolls":"c","side":"left"}`, "rigs[0].travel.gauge", "from the left track to the right"},
		{`"travel":{"speed":0.2}`, `"travel":{"of":"rigs/x/travel"}`, "rigs[1].travel.of", "no value of this scene"},
		{`"travel":{"speed":0.2}`, `"travel":{"of":"carriers/c/heading"}`, "rigs[1].travel.ratio", "ratio"},
		{`"travel":{"speed":0.2}`, `"travel":{"rpm":10,"radius":0}`, "rigs[1].travel.radius", "above 0"},
		{`"travel":{"speed":0.2}`, `"travel":{"keys":[{"frame":5,"value":0},{"frame":5,"value":1}]}`, "rigs[1].travel.keys[1].frame", "stand in order"},
		{`"phase":{"speed":1}`, `"phase":{"rpm":10,"radius":1}`, "paths[1].steps[0].wave.phase", "metres only"},
		// Bodies.
		{`"fit":"reach"`, `"fit":"stretch"`, "rigs[1].bend.fit", "reach"},
		{`"tail":0,"head":1`, `"tail":1,"head":0.5`, "rigs[1].bend.head", "beyond it"},
		{`{"at":1,"scale":0.5}`, `{"at":0,"scale":0.5}`, "rigs[1].bend.taper[1].at", "rising"},
		{`"count":2,"frames":12`, `"count":0,"frames":12`, "rigs[1].bend.rounds.count", "from 1"},
		{`"frames":12,"stride"`, `"frames":0,"stride"`, "rigs[1].bend.rounds.frames", "from"},
		{`"blends":[{"name":"jaw","amount":0.5}]`, `"blends":[{"name":"jaw","amount":0.5},{"name":"jaw","amount":1}]`, "rigs[1].blends[1].name", "twice"},
		{`"bank":{"share":1}`, `"bank":{"share":99}`, "rigs[1].facing.bank.share", "to 10"},
		{`"seat":"bent","facing"`, `"seat":"ends","facing"`, "rigs[1].seat", "not a field here"},
		{`"kind":"train","path":"b"`, `"kind":"train","bend":{},"path":"b"`, "rigs[0].bend", "not a field here"},
		// Riders, arrivals.
		{`"lead":{"rig":"e"`, `"lead":{"rig":"x"`, "rigs[2].lead.rig", "no rig"},
		{`"lead":{"rig":"e","at":"head"}`, `"lead":{"rig":"e","at":"nose"}`, "rigs[2].lead.at", "head"},
		{`"rolling":0.05`, `"rolling":-1`, "rigs[2].rolling", "from"},
		{`"inStep":"l"`, `"inStep":"r"`, "rigs[0].inStep", "itself"},
		{`"delay":1,"takes":5`, `"delay":1,"takes":0`, "rigs[0].arrive.takes", "from"},
		{`"lead":{"rig":"e","at":"head"}`, `"arrive":{"first":1,"delay":1,"takes":5}`, "rigs[2].arrive", "not a field here"},
		// Waves and lags.
		{`"wavelength":0.5`, `"wavelength":0`, "paths[1].steps[0].wave.wavelength", "from"},
		{`{"at":1,"share":1}`, `{"at":0,"share":1}`, "paths[1].steps[0].wave.amount[1].at", "rising"},
		{`"with":"e"`, `"with":"x"`, "paths[1].steps[0].wave.with", "no rig"},
		{`"frequency":2`, `"frequency":0`, "paths[1].steps[1].lag.frequency", "from"},
		{`"damping":0.3`, `"damping":0.3,"first":9,"last":3`, "paths[1].steps[1].lag.last", "before the first"},
		// Ground.
		{`{"z":1,"height":0.1}`, `{"z":0,"height":0.1}`, "ground.points[1].z", "rising"},
		{`"length":2,"height":0.1`, `"length":0,"height":0.1`, "ground.humps[0].length", "from"},
		{`"from":-2,"to":2`, `"from":2,"to":-2`, "ground.rough", "grains"},
		{`"grain":0.5`, `"grain":0`, "ground.rough.grain", "from"},
		// Wheels.
		{`"teeth":12,"pitch":0.1`, `"teeth":2,"pitch":0.1`, "paths[0].shape.wrap.wheels[0].teeth", "from 4"},
		{`"teeth":12,"pitch":0.1`, `"teeth":12,"pitch":0.1,"radius":1`, "paths[0].shape.wrap.wheels[0].radius", "leave it out"},
		{`"anchor":2`, `"anchor":7`, "paths[0].shape.wrap.anchor", "1 to 3"},
		{`"slack":true`, `"slack":true,"takeUp":{"in":0,"out":1}`, "paths[0].shape.wrap.wheels[2].takeUp", "only one wheel"},
		{`"ground":true,"spring"`, `"spring"`, "paths[0].shape.wrap.wheels[1].spring", "rides on the ground"},
		{`"arm":[0,0.5,0.6]`, `"arm":[0,0.32,0.02]`, "paths[0].shape.wrap.wheels[1].spring.arm", "a longer arm"},
		{`"links":60`, `"links":1`, "paths[0].shape.wrap.keep.links", "from 2"},
		{`"at":[0,1,1],"radius":0.3`, `"at":[0,1,1],"carrier":"x","radius":0.3`, "paths[0].shape.wrap.wheels[2].carrier", "no carrier"},
	} {
		text := strings.Replace(whole, tc.from, tc.to, 1)
		if text == whole {
			t.Errorf("%s is not in the scene", tc.from)
			continue
		}
		_, err := Decode([]byte(text))
		var faults Faults
		if !errors.As(err, &faults) {
			t.Errorf("%s: %v", tc.to, err)
			continue
		}
		found := false
		for _, f := range faults {
			found = found || f.Address == tc.at && strings.Contains(f.Message, tc.says)
		}
		if !found {
			t.Errorf("%s: %v, want %q at %s", tc.to, faults, tc.says, tc.at)
		}
	}
}
