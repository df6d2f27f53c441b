package web_test

import (
	"encoding/json"
	"os"
	"os/exec"
	"strings"
	"testing"
)

// The page reads what docs/protocol.md says, and says so of every message that is cut short or damaged: none is
// drawn by half, and nothing else is thrown.
func TestMessagesAreReadWhole(t *testing.T) {
	needPackages(t)
	cmd := exec.Command("node", "tools/wire.mjs")
	cmd.Stderr = os.Stderr
	text, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	var got struct {
		Whole struct {
			Kind       string
			Seq, Frame int
			Meshes     map[string]struct{ Positions, Indices, Uvs map[string]float64 }
			Shot       struct {
				Pieces []struct {
					Rig                   int
					Travel, Roll          float64
					Distances, Transforms map[string]float64
				}
				Lines  []*struct{ Points, Distances map[string]float64 }
				Bodies []*struct{ Reach, Positions, Normals map[string]float64 }
				Joints []map[string]float64
				Values map[string]float64
				Waits  bool
			}
		}
		Length, Cuts int
		Tally        struct {
			Read, Unreadable int
			Other            []string
		}
		Sections [][4]string
		Types    []string
	}
	if err := json.Unmarshal(text, &got); err != nil {
		t.Fatalf("%v: %.300s", err, text)
	}
	w := got.Whole
	p, b := w.Shot.Pieces[0], w.Shot.Bodies[2]
	if w.Kind != "scene" || w.Seq != 7 || w.Frame != -3 || w.Meshes["0123456789abcdef"].Uvs["1"] != 6 || p.Travel != 1.5 || p.Roll != 90 || p.Distances["0"] != 2.5 ||
		p.Transforms["2"] != 3 || w.Shot.Lines[1].Distances["1"] != 2 || b.Positions["5"] != 6 || b.Normals["5"] != 32767 || w.Shot.Joints[2]["2"] != 9 || w.Shot.Values["1"] != 8 || !w.Shot.Waits {
		t.Errorf("read: %.600s", text)
	}
	// A cut between two sections or in the filling up to eight bytes leaves whole ones: only those are read.
	if whole := got.Length - got.Cuts; whole < 1 || whole > 30 || len(got.Tally.Other) > 0 || got.Tally.Unreadable < 5000 {
		t.Errorf("%d of %d cuts are read; %d unreadable, else %.3q", whole, got.Length, got.Tally.Unreadable, got.Tally.Other)
	}
	for _, s := range got.Sections {
		if s[1] != "read" || s[2] != "unreadable" || s[3] != "unreadable" {
			t.Errorf("%s: whole %s, short %s, long %s", s[0], s[1], s[2], s[3])
		}
	}
	want := []string{"meshes is missing", "wheels is 1.5, not a whole number", "", "reach[1] has 2 entries", "facing.mode is", "travel is of the kind object, not of any kind", "it is null"}
	for k, says := range want {
		if !strings.HasPrefix(got.Types[k], says) || says == "" && got.Types[k] != "" {
			t.Errorf("type %d: %q, want %q", k, got.Types[k], says)
		}
	}
}
