package csvtab_test

import (
	"bytes"
	"encoding/csv"
	"math"
	"strconv"
	"strings"
	"testing"

	"bead/core/geom"
	"bead/core/rig"
	"bead/core/scene"
	"bead/formats/csvtab"
)

func TestReadPoints(t *testing.T) {
	for _, tc := range []struct {
		text   string
		n      int
		last   geom.Vec
		closed bool
	}{
		{"0,0\n3,4\n", 2, geom.V(3, 4, 0), false},
		{"x,y,z\n0,0,0\n1,2,3", 2, geom.V(1, 2, 3), false},
		{"# made by hand\nname;Z;y;X\na;3;2;1\nb;6;5;4\n", 2, geom.V(4, 5, 6), false},
		{"\xef\xbb\xbf0\t0\t1\r\n1e-3\t-2.5\t+7\r\n", 2, geom.V(0.001, -2.5, 7), false},
		{"0,0\n1,0\n1,1\n0,0\n", 3, geom.V(1, 1, 0), true},
		{"a,b,c\n1,2,3\n 4, 5 ,6", 2, geom.V(4, 5, 6), false},
	} {
		p, err := csvtab.ReadPoints([]byte(tc.text))
		if err != nil || len(p.Points) != tc.n || p.Points[tc.n-1] != tc.last || p.Closed != tc.closed {
			t.Errorf("%q: %+v, %v", tc.text, p, err)
		}
	}
	for text, says := range map[string]string{
		"": "holds 0 points", "1,2,3": "holds 1 points", "1,2\n3,4,5": "line 2 has 3 columns",
		"0,0\n1,abc": `line 2, column 2: "abc"`, "0,0\n1,NaN": "line 2, column 2", "0,0\n1,1e999": "line 2, column 2",
		"1\n2\n3": "line 1 has 1 columns", "0,0\n\"1,2": "line 2, column", "0,Inf\n1,1": "line 1, column 2",
	} {
		if _, err := csvtab.ReadPoints([]byte(text)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v, want an error with %q", text, err, says)
		}
	}
}

func FuzzReadPoints(f *testing.F) {
	f.Add([]byte("x;y\n1;2\n3;4\n"))
	f.Add([]byte("\"\n1,2"))
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := csvtab.ReadPoints(data)
		if err != nil {
			return
		}
		if len(p.Points) < 2 {
			t.Fatalf("%d points of %q", len(p.Points), data)
		}
		for _, v := range p.Points {
			if !v.IsFinite() {
				t.Fatalf("point %v of %q", v, data)
			}
		}
	})
}

// What is written reads back to the picture's numbers with encoding/csv.
func TestBake(t *testing.T) {
	d, err := scene.Decode([]byte(`{"bead":1,"name":"t","fps":24,"range":{"first":1,"last":2},
"paths":[{"id":"p","name":"p","shape":{"circle":{"centre":[0,1,0],"radius":0.7}}}],
"parts":[{"id":"a","name":"a","shape":{"box":{"side":1,"height":1,"length":1}}}],
"rigs":[{"id":"r","name":"Ring, outer","kind":"train","path":"p","part":"a","spacing":{"mode":"set count","count":7},"facing":{"mode":"loopside"},"travel":{"speed":1}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	s, err := rig.Compile(d)
	if err != nil {
		t.Fatal(err)
	}
	var buf bytes.Buffer
	b, err := csvtab.NewBaker(&buf, s, make([]bool, len(s.Rigs)), false)
	if err != nil {
		t.Fatal(err)
	}
	var pic rig.Picture
	for n := 1; n <= 2; n++ {
		s.Frame(&pic, n)
		if err := b.Frame(&pic); err != nil {
			t.Fatal(err)
		}
	}
	if err := b.Close(); err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(&buf).ReadAll()
	if err != nil || len(rows) != 15 {
		t.Fatalf("%d rows, %v", len(rows), err)
	}
	if got := strings.Join(rows[0], ","); got != "frame,rig,piece,x,y,z,qx,qy,qz,qw,sx,sy,sz,distance" {
		t.Errorf("header %s", got)
	}
	for k := range 7 {
		row := rows[8+k]
		if row[0] != "2" || row[1] != "r" || row[2] != strconv.Itoa(k+1) {
			t.Errorf("row %v", row)
		}
		for j := range rig.Stride {
			if v, err := strconv.ParseFloat(row[3+j], 32); err != nil || float32(v) != pic.Rigs[0].Transforms[k*rig.Stride+j] {
				t.Errorf("piece %d number %d: %v, %v", k, j, v, err)
			}
		}
		if v, _ := strconv.ParseFloat(row[13], 64); math.Abs(v-pic.Rigs[0].Distances[k]) > 0 {
			t.Errorf("piece %d distance %v", k, v)
		}
	}
}
