package web_test

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"testing"
)

// What becomes of edits, steps and frames, played against a made-up server in Node.
func TestSavingAndFrames(t *testing.T) {
	needPackages(t)
	names := []string{"twoScenes", "reload", "fastUndo", "twoWindows", "lostAnswer", "refusedAndTakenBack", "frames", "history", "safe", "reconnect", "disk"}
	cmd := exec.Command("node", append([]string{"tools/saving.mjs"}, names...)...)
	cmd.Stderr = os.Stderr
	text, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	var got map[string]json.RawMessage
	if err := json.Unmarshal(text, &got); err != nil {
		t.Fatalf("%v: %s", err, text)
	}
	for name, want := range map[string]string{
		"twoScenes": `{"a":["A","A1"],"b":["B","B1"],"left":0}`,
		"reload":    `{"edits":2,"revision":1,"name":"A2","a":["A","A1","A2"],"left":0}`,
		// 50 saves and 50 steps back: not one more is sent, and nobody is asked.
		"fastUndo": `{"doc":"A","calls":100,"conflicts":0,"last":"mine","steps":0,"after":0}`,
		"twoWindows": `{"followed":{"doc":"one","conflicts":0},"asked":{"state":"conflict","theirs":"one again","stored":"one again"},"kept":"two",` +
			`"names":["A","one","one again","two","four"],"twoSees":"four","asks":1}`,
		"lostAnswer":          `{"names":["A","A1","A2"],"conflicts":0,"states":["saved","saving","offline"]}`,
		"disk":                `{"trouble":"full","unsaved":2,"names":["A","one","two"]}`,
		"refusedAndTakenBack": `{"refused":{"state":"refused","unsaved":1,"safe":false,"revision":1,"trouble":""},"back":"x","unsaved":["to z"],"state":{"state":"gone","unsaved":1,"safe":false,"revision":3,"trouble":""}}`,
		"safe":                `[true,false,false,true,true]`,
		"reconnect": `{"url":"ws://bead.example/api/scenes/a/live","sent":[["A/1","add /name D/2"],[],["E/3","look 4,5/3","add /name F/4","add /name H/5","add /name I/6","add /name J/7"]],"looks":[false,false,true],` +
			`"log":["open","at 3","fault of A","away","away","open","at 5","checks of E","fault of E","fault of H","What the server sent is not understood (faults is missing). Reload the page: the server may be of another version."],"sockets":3}`,
		"history": `["Row: count 52 to 53 now","Row: count 50 to 52 x2","add a circle","Row: count 49 to 50","made"]`,
	} {
		have := string(got[name])
		if name == "fastUndo" { // how many redo steps came through before the edit is chance
			var f struct {
				Doc, Last               string
				Calls, Conflicts, After int
				Steps                   int
			}
			if err := json.Unmarshal(got[name], &f); err != nil || f.Steps < 5 {
				t.Errorf("%s: %s", name, have)
			}
			have = fmt.Sprintf(`{"doc":%q,"calls":%d,"conflicts":%d,"last":%q,"steps":0,"after":%d}`, f.Doc, f.Calls, f.Conflicts, f.Last, f.After)
		}
		if have != want {
			t.Errorf("%s:\n%s, want\n%s", name, have, want)
		}
	}
	// 1000 bytes hold 50 frames of 20: from the play head at 30 on.
	var f struct{ First, Last, Count, Held, StuckAt int }
	if err := json.Unmarshal(got["frames"], &f); err != nil || f.First != 30 || f.Last != 79 || f.Count != 50 || f.Held > 5000/37 || f.StuckAt != 0 {
		t.Errorf("frames: %s", got["frames"])
	}
}
