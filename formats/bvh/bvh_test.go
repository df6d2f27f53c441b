package bvh_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"bead/core/figure"
	"bead/core/geom"
	"bead/formats/bvh"
)

var orders = []string{"XYZ", "XZY", "YXZ", "YZX", "ZXY", "ZYX"}

// made is a figure with joints of all six orders, with offsets and without, and tips.
func made(seed uint64) *figure.Figure {
	r := rand.New(rand.NewPCG(seed, 1))
	f := &figure.Figure{}
	for i := range 9 {
		rest := geom.Still
		if i%3 != 1 {
			rest.P = geom.V(r.Float64()-0.5, r.Float64(), r.Float64()-0.5)
		}
		j := figure.Joint{Name: fmt.Sprintf("j%d", i), Parent: -1, Rest: rest, Order: orders[i%6], Moves: i == 0 || i == 5}
		if i > 0 {
			j.Parent = i / 2
		}
		if i > 4 {
			j.Ends = []geom.Vec{{X: 0.1, Y: -0.2, Z: 0.05 * float64(i)}}
		}
		f.Joints = append(f.Joints, j)
	}
	for k := range 7 {
		var turns []geom.Quat
		var shifts []geom.Vec
		for i := range f.Joints {
			turns = append(turns, geom.Quat{X: r.NormFloat64(), Y: r.NormFloat64(), Z: r.NormFloat64(), W: r.NormFloat64()}.Unit())
			p := f.Joints[i].Rest.P
			if f.Joints[i].Moves {
				p = p.Add(geom.V(r.Float64(), r.Float64(), float64(k)))
			}
			shifts = append(shifts, p)
		}
		f.Times, f.Turns, f.Shifts = append(f.Times, float64(k)/30), append(f.Turns, turns), append(f.Shifts, shifts)
	}
	return f
}

// What is written is read back to the same places of all joints, with every order of turns.
func TestThereAndBack(t *testing.T) {
	for seed := range uint64(20) {
		f := made(seed)
		if err := f.Check(); err != nil {
			t.Fatal(err)
		}
		var b bytes.Buffer
		if err := bvh.Write(&b, f); err != nil {
			t.Fatal(err)
		}
		g, err := bvh.Read(context.Background(), b.Bytes())
		if err != nil {
			t.Fatalf("%v in\n%s", err, b.String())
		}
		if len(g.Joints) != len(f.Joints) || len(g.Times) != len(f.Times) || math.Abs(g.Duration()-f.Duration()) > 1e-9 {
			t.Fatalf("%d joints, %d keys", len(g.Joints), len(g.Times))
		}
		for k := range f.Times {
			was, is := f.Globals(nil, f.Between(nil, k, k, 1)), g.Globals(nil, g.Between(nil, k, k, 1))
			for i := range was {
				n := g.Find(f.Joints[i].Name)
				if d := was[i].P.Sub(is[n].P).Norm(); d > 1e-9 {
					t.Fatalf("key %d, %s: %g off", k, f.Joints[i].Name, d)
				}
				if d := was[i].X.Sub(is[n].X).Norm() + was[i].Y.Sub(is[n].Y).Norm(); d > 1e-9 {
					t.Fatalf("key %d, %s: turned off by %g", k, f.Joints[i].Name, d)
				}
			}
		}
	}
}

// Angles of every order come to the rotation again, at the middle angle's ends too, which have many.
func TestAngles(t *testing.T) {
	axis := map[byte]geom.Vec{'X': {X: 1}, 'Y': {Y: 1}, 'Z': {Z: 1}}
	r := rand.New(rand.NewPCG(3, 4))
	for _, order := range orders {
		of := func(a [3]float64) geom.Quat {
			q := geom.Identity
			for i := range 3 {
				q = q.Mul(geom.Rotation(axis[order[i]], a[i]))
			}
			return q
		}
		for k := range 400 {
			want := [3]float64{r.Float64()*6 - 3, r.Float64()*3 - 1.5, r.Float64()*6 - 3}
			if k%4 == 0 {
				want[1] = math.Copysign(math.Pi/2, float64(k%8)-2)
			}
			q := of(want)
			if off := of(bvh.Angles(q, order)).Inverse().Mul(q).Angle(); off > 1e-7 {
				t.Fatalf("%s: %v comes back turned by %g", order, want, off)
			}
		}
	}
}

const small = `HIERARCHY
ROOT Hips
{
  OFFSET 1 2 3
  CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation
  JOINT Left Knee
  {
    OFFSET 0 -4 0
    CHANNELS 1 Xrotation
    End Site
    {
      OFFSET 0 -3 0
    }
  }
}
MOTION
Frames: 2
Frame Time: 0.04
0 0 0 0 0 0 0
0 0 10 0 0 90 90
`

// A file by hand: the place channels are added to the offset, as other readers do; a turn about y takes
// the knee's axis along, and the shank, hanging down, is turned about that, x turned to -z, to +x ... by
// hand: down, about x by 90 degrees, is -z; that about y by 90 degrees is -x.
func TestByHand(t *testing.T) {
	f, err := bvh.Read(context.Background(), []byte(small))
	if err != nil {
		t.Fatal(err)
	}
	if f.Joints[1].Name != "Left Knee" || f.Joints[1].Order != "X" || !f.Joints[0].Moves || f.Joints[1].Moves {
		t.Errorf("%+v", f.Joints)
	}
	at := f.Globals(nil, f.Locals(nil, 0.04))
	tip := at[1].Apply(f.Joints[1].Ends[0])
	if want := geom.V(1-3, 2-4, 13); tip.Sub(want).Norm() > 1e-12 {
		t.Errorf("the tip is at %v, want %v", tip, want)
	}
}

// three's BVHLoader puts the joints of made-up files where they are read here: all six orders of turns,
// joints with offsets and without, that move and that do not, several tips; within 1e-4.
func TestStrangersReadTheSame(t *testing.T) {
	if _, err := os.Stat("../../web/node_modules/three"); err != nil {
		t.Skip("the front end's packages are not installed: make setup")
	}
	for seed := range uint64(4) {
		f := made(seed + 40)
		var b bytes.Buffer
		if err := bvh.Write(&b, f); err != nil {
			t.Fatal(err)
		}
		read, err := bvh.Read(context.Background(), b.Bytes())
		if err != nil {
			t.Fatal(err)
		}
		file := filepath.Join(t.TempDir(), "a.bvh")
		if err := os.WriteFile(file, b.Bytes(), 0o600); err != nil {
			t.Fatal(err)
		}
		frames := []int{0, 3, 6}
		cmd := exec.Command("node", "tools/read-bvh.mjs", file, "0", "3", "6")
		cmd.Dir, cmd.Stderr = "../../web", os.Stderr
		out, err := cmd.Output()
		if err != nil {
			t.Fatal(err)
		}
		var got [][]struct {
			Name string
			At   [3]float64
		}
		if err := json.Unmarshal(out, &got); err != nil {
			t.Fatal(err)
		}
		seen := 0
		for i, k := range frames {
			want := read.Globals(nil, read.Between(nil, k, k, 1))
			for _, j := range got[i] {
				n := read.Find(j.Name)
				if n < 0 {
					continue // a tip
				}
				seen++
				if d := geom.FromArray(j.At).Sub(want[n].P).Norm(); d > 1e-4 {
					t.Errorf("seed %d, frame %d, %s: three has it %g off", seed, k, j.Name, d)
				}
			}
		}
		if seen != 3*len(f.Joints) {
			t.Errorf("seed %d: three read %d joints, want %d", seed, seen, 3*len(f.Joints))
		}
	}
}

func TestBadFiles(t *testing.T) {
	for says, text := range map[string]string{
		"no line MOTION":               "HIERARCHY\n",
		"no joints":                    "HIERARCHY\nMOTION\nFrames: 1\nFrame Time: 1\n",
		"a second ROOT":                strings.Replace(small, "MOTION", "ROOT b\n{\nOFFSET 0 0 0\nCHANNELS 0\n}\nMOTION", 1),
		"two joints have the name":     strings.Replace(small, "Left Knee", "Hips", 1),
		"is no channel":                strings.Replace(small, "Xposition", "Xshear", 1),
		"turns twice about X":          strings.Replace(small, "Zrotation", "Xrotation", 1),
		"7 channels are not accepted":  strings.Replace(small, "CHANNELS 6", "CHANNELS 7", 1),
		`"Frames:" is wanted`:          strings.Replace(small, "Frames: 2", "", 1),
		"Frames: 0 is not accepted":    strings.Replace(small, "Frames: 2", "Frames: 0", 1),
		"1e+06 frames":                 strings.Replace(small, "Frames: 2", "Frames: 1000000", 1),
		"the motion ends after 2":      strings.Replace(small, "Frames: 2", "Frames: 3", 1),
		"goes on after 1":              strings.Replace(small, "Frames: 2", "Frames: 1", 1),
		"line 20: frame 2 has 6 value": strings.Replace(small, "10 0 0 90 90", "10 0 0 90", 1),
		"line 20: frame 2, value 3":    strings.Replace(small, "0 0 10", "0 0 NaN", 1),
		"line 4: \"one\" is not":       strings.Replace(small, "OFFSET 1", "OFFSET one", 1),
		"} is wanted":                  strings.Replace(small, "}\nMOTION", "MOTION", 1),
	} {
		_, err := bvh.Read(context.Background(), []byte(text))
		if err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", says, err)
		}
	}
	ctx, stop := context.WithCancel(context.Background())
	stop()
	if _, err := bvh.Read(ctx, []byte(small)); err != context.Canceled {
		t.Errorf("given up: %v", err)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(small))
	f.Fuzz(func(t *testing.T, data []byte) {
		fig, err := bvh.Read(context.Background(), data)
		if err != nil {
			return
		}
		var b bytes.Buffer
		if err := bvh.Write(&b, fig); err != nil {
			t.Fatal(err)
		}
	})
}
