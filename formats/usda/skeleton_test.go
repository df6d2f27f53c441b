package usda_test

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/demo"
)

var number = regexp.MustCompile(`-?\d+(?:\.\d+)?(?:e[-+]?\d+)?`)

// after are the numbers between what stands first after a word in a text and the end of that line.
func after(t *testing.T, text, word string) []float64 {
	t.Helper()
	at := strings.Index(text, word)
	if at < 0 {
		t.Fatalf("%q is not in the file", word)
	}
	line, _, _ := strings.Cut(text[at+len(word):], "\n")
	line, _, _ = strings.Cut(line, "] (") // metadata has numbers, too
	var out []float64
	for _, s := range number.FindAllString(line, -1) {
		v, err := strconv.ParseFloat(s, 64)
		if err != nil {
			t.Fatal(err)
		}
		out = append(out, v)
	}
	return out
}

type mat [16]float64 // rows, for vectors that stand before it

func (a mat) mul(b mat) (c mat) {
	for i := range 4 {
		for j := range 4 {
			for k := range 4 {
				c[4*i+j] += a[4*i+k] * b[4*k+j]
			}
		}
	}
	return c
}

// rigidInverse undoes a turn and a place.
func (a mat) rigidInverse() (c mat) {
	for i := range 3 {
		for j := range 3 {
			c[4*i+j] = a[4*j+i]
		}
	}
	for j := range 3 {
		for k := range 3 {
			c[12+j] -= a[12+k] * c[4*k+j]
		}
	}
	c[15] = 1
	return c
}

// posed is a joint's matrix by its place and its turn, w first.
func posed(p, q []float64) mat {
	w, x, y, z := q[0], q[1], q[2], q[3]
	return mat{1 - 2*(y*y+z*z), 2 * (x*y + w*z), 2 * (x*z - w*y), 0,
		2 * (x*y - w*z), 1 - 2*(x*x+z*z), 2 * (y*z + w*x), 0,
		2 * (x*z + w*y), 2 * (y*z - w*x), 1 - 2*(x*x+y*y), 0,
		p[0], p[1], p[2], 1}
}

// The UsdSkel schema, worked out here from the text alone by its own words: a joint is posed by its
// translation, rotation and scale in its parent; a point goes to the sum over its joints of weight times
// point times the inverse of the joint's bind times the joint. That is where the picture has the point.
func TestFiguresAsSkeletons(t *testing.T) {
	d, err := demo.Scene("crab-patrol")
	if err != nil {
		t.Fatal(err)
	}
	s := compile(t, d)
	const first, frames = 40, 3
	text := bake(t, s, first, frames)
	scout := text[strings.Index(text, `def SkelRoot "piece_1"`):]
	joints := strings.Split(strings.SplitN(strings.SplitN(scout, "joints = [", 2)[1], "]", 2)[0], ", ")
	parent := make([]int, len(joints))
	for i, j := range joints {
		j = strings.Trim(j, `"`)
		parent[i] = -1
		for k := range i {
			if up := strings.Trim(joints[k], `"`); j[:max(strings.LastIndex(j, "/"), 0)] == up {
				parent[i] = k
			}
		}
	}
	binds := after(t, scout, "bindTransforms = [")
	points, at := after(t, scout, "point3f[] points = ["), after(t, scout, "jointIndices = [")
	weights := after(t, scout, "jointWeights = [")
	if len(joints) != 31 || len(binds) != 31*16 || len(at) != len(weights) || 4*len(points) != 3*len(at) {
		t.Fatalf("%d joints, %d binds, %d points, %d indices, %d weights", len(joints), len(binds), len(points), len(at), len(weights))
	}
	// The crab was bound as it rests: what its rests come to, one in another, is its binds.
	rests, at0 := after(t, scout, "restTransforms = ["), make([]mat, len(joints))
	for i := range joints {
		if at0[i] = mat(rests[16*i : 16*i+16]); parent[i] >= 0 {
			at0[i] = at0[i].mul(at0[parent[i]])
		}
		for c, want := range binds[16*i : 16*i+16] {
			if math.Abs(at0[i][c]-want) > 1e-6 {
				t.Fatalf("%s rests at %v, and was bound at %v", joints[i], at0[i], binds[16*i:16*i+16])
			}
		}
	}
	var pic rig.Picture
	for f := first; f < first+frames; f++ {
		s.Frame(&pic, f)
		motion := scout[strings.Index(scout, "translations.timeSamples"):]
		shifts := after(t, motion, fmt.Sprintf(" %d: ", f))
		turns := after(t, motion[strings.Index(motion, "rotations.timeSamples"):], fmt.Sprintf(" %d: ", f))
		world := make([]mat, len(joints))
		skin := make([]mat, len(joints))
		for i := range joints {
			world[i] = posed(shifts[3*i:], turns[4*i:])
			if parent[i] >= 0 {
				world[i] = world[i].mul(world[parent[i]])
			}
			skin[i] = mat(binds[16*i : 16*i+16]).rigidInverse().mul(world[i])
		}
		for v := range len(points) / 3 {
			var p [3]float64
			for k := range 4 {
				m := skin[int(at[4*v+k])]
				for c := range 3 {
					p[c] += weights[4*v+k] * (points[3*v]*m[c] + points[3*v+1]*m[4+c] + points[3*v+2]*m[8+c] + m[12+c])
				}
			}
			for c := range 3 {
				if want := float64(pic.Rigs[0].Positions[3*v+c]); math.Abs(p[c]-want) > 1e-5 {
					t.Fatalf("frame %d, vertex %d: %v, want %g", f, v, p, want)
				}
			}
		}
	}
	// A stranger's parser reads the layer.
	if got := stranger(t, text, first); got.Layer["upAxis"] != "Y" {
		t.Errorf("%v", got.Layer)
	}
}
