package usda_test

import (
	"bytes"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"bead/core/rig"
	"bead/demo"
	"bead/formats/usda"
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
	scout := text[strings.Index(text, `def SkelRoot "piece_001"`):]
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

// Bodies leave as skeletons: worked out here from the text alone by the schema's words, their points
// are where the picture has them to within the error that the file states, which is small.
func TestBodiesAsSkeletons(t *testing.T) {
	for _, name := range []string{"sounding-dart", "eel", "winch"} {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		s := compile(t, d)
		first, said := d.Range.First+20, ""
		const frames = 2
		b := usda.NewBaker(s, usda.Options{First: first, Start: first, Frames: frames, Flat: true, Say: func(text string) { said += text }})
		var pic rig.Picture
		for f := range frames {
			s.Frame(&pic, first+f)
			b.Frame(&pic)
		}
		var out bytes.Buffer
		if err := b.Close(&out); err != nil {
			t.Fatal(err)
		}
		body := -1
		for i := range s.Rigs {
			if s.Rigs[i].Bends() && body < 0 {
				body = i
			}
		}
		text := out.String()
		text = text[strings.Index(text, "def SkelRoot"):]
		stated := after(t, text, "greatestErrorMetres = ")[0]
		if stated <= 0 || stated > 2e-3*s.Rigs[body].Body(0).Length() || !strings.Contains(said, "off its true shape") {
			t.Errorf("%s: an error of %g m is stated, and said: %q", name, stated, said)
		}
		binds, points := after(t, text, "bindTransforms = ["), after(t, text, "point3f[] points = [")
		at, weights := after(t, text, "jointIndices = ["), after(t, text, "jointWeights = [")
		motion := text[strings.Index(text, "translations.timeSamples"):]
		frame := fmt.Sprintf(" %d: ", first+frames-1)
		shifts, turns := after(t, motion, frame), after(t, motion[strings.Index(motion, "rotations.timeSamples"):], frame)
		scales := motion[strings.Index(motion, "half3[] scales"):]
		var scale []float64
		if strings.HasPrefix(scales, "half3[] scales.time") {
			scale = after(t, scales, frame)
		} else {
			scale = after(t, scales, "scales = [")
		}
		var offsets [][]float64
		var amounts []float64
		if k := strings.Index(motion, "blendShapeWeights.timeSamples"); k >= 0 {
			amounts = after(t, motion[k:], frame)
			rest := text
			for range amounts {
				rest = rest[strings.Index(rest, "vector3f[] offsets")+10:]
				offsets = append(offsets, after(t, rest, "offsets = ["))
			}
		}
		worst := 0.0
		for v := range len(points) / 3 {
			rest := [3]float64(points[3*v : 3*v+3])
			for k, amount := range amounts {
				for c := range 3 {
					rest[c] += amount * offsets[k][3*v+c]
				}
			}
			var p [3]float64
			for k := range 2 {
				j := int(at[2*v+k])
				local := posed(shifts[3*j:], turns[4*j:])
				m := mat{scale[3*j], 0, 0, 0, 0, scale[3*j+1], 0, 0, 0, 0, scale[3*j+2], 0, 0, 0, 0, 1}.mul(local)
				m = mat(binds[16*j : 16*j+16]).rigidInverse().mul(m)
				for c := range 3 {
					p[c] += weights[2*v+k] * (rest[0]*m[c] + rest[1]*m[4+c] + rest[2]*m[8+c] + m[12+c])
				}
			}
			far := 0.0
			for c := range 3 {
				far += math.Pow(p[c]-float64(pic.Rigs[body].Positions[3*v+c]), 2)
			}
			worst = max(worst, math.Sqrt(far))
		}
		if worst > stated+1e-5 || worst < stated/50 {
			t.Errorf("%s: points are up to %g m off, and %g is stated", name, worst, stated)
		}
	}
}
