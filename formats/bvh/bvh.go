// Package bvh reads and writes figures of joints with their motion as BVH text: a hierarchy of joints
// with offsets and channels, and a table of the channels' values frame by frame. There is no standard;
// the form is that which its readers share: a joint's turn is that of its channels one after another,
// the first the outermost, degrees; what its place channels say is added to its offset.
package bvh

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"bead/core/figure"
	"bead/core/geom"
)

// What is read at most.
const (
	MaxBytes = 64 << 20
	maxDepth = 200
)

type channel struct {
	joint int
	axis  int // 0 to 2
	turns bool
}

type scanner struct {
	words []string
	lines []int
	at    int
}

// Read reads a figure. Any bytes give a figure or an error that says what is wrong and in which line.
func Read(ctx context.Context, data []byte) (*figure.Figure, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the file has %d bytes: at most %d are read", len(data), MaxBytes)
	}
	head, rest, found := bytes.Cut(data, []byte("MOTION"))
	if !found {
		return nil, fmt.Errorf("the file has no line MOTION: a BVH with HIERARCHY and MOTION is accepted")
	}
	s := &scanner{}
	line := 0
	for text := range bytes.Lines(head) {
		line++
		for _, w := range strings.Fields(string(text)) {
			s.words, s.lines = append(s.words, w), append(s.lines, line)
		}
	}
	f := &figure.Figure{}
	var channels []channel
	if err := s.want("HIERARCHY"); err != nil {
		return nil, err
	}
	for s.at < len(s.words) {
		if err := s.want("ROOT"); err != nil {
			return nil, err
		}
		if len(f.Joints) > 0 {
			return nil, s.say("a second ROOT: a figure with one root is accepted")
		}
		if err := s.joint(f, &channels, -1, 0); err != nil {
			return nil, err
		}
	}
	if len(f.Joints) == 0 {
		return nil, fmt.Errorf("it has no joints: ROOT is wanted after HIERARCHY")
	}
	if len(head) > 0 && head[len(head)-1] != '\n' {
		line-- // MOTION stands on it
	}
	if err := motion(ctx, f, channels, rest, line); err != nil {
		return nil, err
	}
	return f, f.Check()
}

func (s *scanner) say(format string, args ...any) error {
	line := 0
	if len(s.lines) > 0 {
		line = s.lines[min(max(s.at-1, 0), len(s.lines)-1)]
	}
	return fmt.Errorf("line %d: %s", line, fmt.Sprintf(format, args...))
}

func (s *scanner) next() string {
	if s.at >= len(s.words) {
		return ""
	}
	s.at++
	return s.words[s.at-1]
}

func (s *scanner) want(word string) error {
	if got := s.next(); !strings.EqualFold(got, word) {
		return s.say("%q stands where %s is wanted", got, word)
	}
	return nil
}

func (s *scanner) number() (float64, error) {
	w := s.next()
	v, err := strconv.ParseFloat(w, 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return 0, s.say("%q is not a number", w)
	}
	return v, nil
}

func (s *scanner) offset() (geom.Vec, error) {
	var p [3]float64
	if err := s.want("OFFSET"); err != nil {
		return geom.Vec{}, err
	}
	for i := range p {
		var err error
		if p[i], err = s.number(); err != nil {
			return geom.Vec{}, err
		}
	}
	return geom.FromArray(p), nil
}

// name reads the words up to the brace: names may hold spaces.
func (s *scanner) name() (string, error) {
	var words []string
	for {
		switch w := s.next(); w {
		case "{":
			return strings.Join(words, " "), nil
		case "":
			return "", s.say("{ is wanted after the name of a joint")
		default:
			words = append(words, w)
		}
	}
}

func (s *scanner) joint(f *figure.Figure, channels *[]channel, parent, depth int) error {
	if depth > maxDepth || len(f.Joints) >= figure.MaxJoints {
		return s.say("more than %d joints, or deeper than %d: up to so many are read", figure.MaxJoints, maxDepth)
	}
	name, err := s.name()
	if err != nil {
		return err
	}
	at := len(f.Joints)
	if name == "" {
		name = fmt.Sprintf("joint %d", at+1)
	}
	if f.Find(name) >= 0 {
		return s.say("two joints have the name %q", name)
	}
	rest := geom.Still
	if rest.P, err = s.offset(); err != nil {
		return err
	}
	f.Joints = append(f.Joints, figure.Joint{Name: name, Parent: parent, Rest: rest})
	for {
		switch w := s.next(); strings.ToUpper(w) {
		case "CHANNELS":
			if err := s.channels(&f.Joints[at], channels, at); err != nil {
				return err
			}
		case "JOINT":
			if err := s.joint(f, channels, at, depth+1); err != nil {
				return err
			}
		case "END":
			if _, err := s.name(); err != nil { // "Site"
				return err
			}
			tip, err := s.offset()
			if err != nil {
				return err
			}
			f.Joints[at].Ends = append(f.Joints[at].Ends, tip)
			if err := s.want("}"); err != nil {
				return err
			}
		case "}":
			return nil
		default:
			return s.say("%q stands where CHANNELS, JOINT, End Site or } is wanted", w)
		}
	}
}

func (s *scanner) channels(j *figure.Joint, channels *[]channel, at int) error {
	n, err := s.number()
	if err != nil {
		return err
	}
	if n != math.Trunc(n) || n < 0 || n > 6 {
		return s.say("%g channels are not accepted: from 0 to 6 are", n)
	}
	for range int(n) {
		w := strings.ToUpper(s.next())
		if w == "" {
			return s.say("a channel is missing")
		}
		axis := strings.IndexByte("XYZ", w[0])
		switch {
		case axis >= 0 && w[1:] == "ROTATION":
			if strings.IndexByte(j.Order, w[0]) >= 0 {
				return s.say("joint %q turns twice about %c", j.Name, w[0])
			}
			j.Order += w[:1]
			*channels = append(*channels, channel{at, axis, true})
		case axis >= 0 && w[1:] == "POSITION":
			j.Moves = true
			*channels = append(*channels, channel{at, axis, false})
		default:
			return s.say("%q is no channel: Xposition to Zposition and Xrotation to Zrotation are", w)
		}
	}
	return nil
}

// motion reads the table of frames.
func motion(ctx context.Context, f *figure.Figure, channels []channel, data []byte, line int) error {
	in := bufio.NewScanner(bytes.NewReader(data))
	in.Buffer(nil, 4<<20)
	var words []string
	read := func() bool { // the next line that is not empty
		for in.Scan() {
			line++
			if words = strings.Fields(in.Text()); len(words) > 0 {
				return true
			}
		}
		return false
	}
	headed := func(what string, names ...string) (float64, error) {
		ok := read() && len(words) == len(names)+1
		for i := range names {
			ok = ok && strings.EqualFold(strings.TrimSuffix(words[i], ":"), names[i])
		}
		if !ok {
			return 0, fmt.Errorf("line %d: %q is wanted after MOTION", line, what)
		}
		v, err := strconv.ParseFloat(words[len(names)], 64)
		if err != nil || !(v > 0) || v > 1e7 {
			return 0, fmt.Errorf("line %d: %s %s is not accepted: more than 0 is", line, what, words[len(names)])
		}
		return v, nil
	}
	frames, err := headed("Frames:", "Frames")
	if err != nil {
		return err
	}
	step, err := headed("Frame Time:", "Frame", "Time")
	if err != nil {
		return err
	}
	if n := len(f.Joints); frames != math.Trunc(frames) || frames > figure.MaxKeys || frames*float64(n) > figure.MaxPlaces {
		return fmt.Errorf("%g frames of %d joints are not accepted: whole ones up to %d, and %d places in all, are", frames, n, figure.MaxKeys, figure.MaxPlaces)
	}
	for k := range int(frames) {
		if k&63 == 0 && ctx.Err() != nil {
			return ctx.Err()
		}
		if !read() {
			return fmt.Errorf("line %d: the motion ends after %d frames of %g", line, k, frames)
		}
		if len(words) != len(channels) {
			return fmt.Errorf("line %d: frame %d has %d values, the joints have %d channels", line, k+1, len(words), len(channels))
		}
		turns, shifts := make([]geom.Quat, len(f.Joints)), make([]geom.Vec, len(f.Joints))
		for i := range turns {
			turns[i], shifts[i] = geom.Identity, f.Joints[i].Rest.P
		}
		for c, w := range words {
			v, err := strconv.ParseFloat(w, 64)
			if err != nil || math.IsNaN(v) || math.Abs(v) > 1e9 {
				return fmt.Errorf("line %d: frame %d, value %d: %q is not a number within ±1e9", line, k+1, c+1, w)
			}
			ch := channels[c]
			if ch.turns {
				turns[ch.joint] = turns[ch.joint].Mul(geom.Rotation(axes[ch.axis], v*math.Pi/180))
				continue
			}
			shifts[ch.joint] = shifts[ch.joint].Mad(axes[ch.axis], v)
		}
		for i := range turns {
			turns[i] = turns[i].Unit()
		}
		f.Times = append(f.Times, float64(k)*step)
		f.Turns, f.Shifts = append(f.Turns, turns), append(f.Shifts, shifts)
	}
	if read() {
		return fmt.Errorf("line %d: the motion goes on after %g frames", line, frames)
	}
	return nil
}

var axes = [3]geom.Vec{{X: 1}, {Y: 1}, {Z: 1}}

// Write writes a figure with its keys, which have to be evenly spaced in time. Offsets are those at
// rest; joints without an order of turns have ZXY, as the root has places before its turns.
func Write(w io.Writer, f *figure.Figure) error {
	out := bufio.NewWriter(w)
	fmt.Fprintln(out, "HIERARCHY")
	kids := f.Children()
	moves := f.Moving()
	var joint func(i int, pad string)
	joint = func(i int, pad string) {
		j := &f.Joints[i]
		what := "JOINT"
		if j.Parent < 0 {
			what = "ROOT"
		}
		fmt.Fprintf(out, "%s%s %s\n%s{\n", pad, what, strings.NewReplacer("{", "(", "}", ")", "\n", " ").Replace(j.Name), pad)
		in := pad + "\t"
		fmt.Fprintf(out, "%sOFFSET %s\n", in, triple(j.Rest.P))
		order := orderOf(j)
		channels, n := "", 3
		if moves[i] {
			channels, n = " Xposition Yposition Zposition", 6
		}
		for _, a := range order {
			channels += " " + string(a) + "rotation"
		}
		fmt.Fprintf(out, "%sCHANNELS %d%s\n", in, n, channels)
		for _, k := range kids[i] {
			joint(k, in)
		}
		for _, e := range j.Ends {
			fmt.Fprintf(out, "%sEnd Site\n%s{\n%s\tOFFSET %s\n%s}\n", in, in, in, triple(e), in)
		}
		if len(kids[i]) == 0 && len(j.Ends) == 0 {
			fmt.Fprintf(out, "%sEnd Site\n%s{\n%s\tOFFSET 0 0 0\n%s}\n", in, in, in, in)
		}
		fmt.Fprintf(out, "%s}\n", pad)
	}
	joint(0, "")
	step := 1.0 / 24
	if n := len(f.Times); n > 1 {
		step = f.Duration() / float64(n-1)
	}
	fmt.Fprintf(out, "MOTION\nFrames: %d\nFrame Time: %s\n", len(f.Times), number(step))
	walk := f.DepthFirst()
	for k := range f.Times {
		for n, i := range walk {
			j := &f.Joints[i]
			if n > 0 {
				out.WriteByte(' ')
			}
			if moves[i] {
				out.WriteString(triple(f.Shifts[k][i].Sub(j.Rest.P)) + " ")
			}
			a := Angles(f.Turns[k][i], orderOf(j))
			out.WriteString(triple(geom.V(a[0], a[1], a[2]).Mul(180 / math.Pi)))
		}
		out.WriteByte('\n')
	}
	return out.Flush()
}

func orderOf(j *figure.Joint) string {
	if len(j.Order) == 3 {
		return j.Order
	}
	return "ZXY"
}

func triple(v geom.Vec) string { return number(v.X) + " " + number(v.Y) + " " + number(v.Z) }

func number(v float64) string {
	if math.Abs(v) < 1e-12 {
		return "0"
	}
	return strconv.FormatFloat(v, 'g', 12, 64)
}

// Angles are the angles in radians of turns about three different axes, one after another, the first
// the outermost, that come to a rotation. The middle one is from -90 to 90 degrees; at those two the last
// is 0. (The three-axis form for any order: K. Shoemake, "Euler angle conversion", Graphics Gems IV,
// 1994.)
func Angles(q geom.Quat, order string) [3]float64 {
	i, j, k := int(order[0]-'X'), int(order[1]-'X'), int(order[2]-'X')
	sign := 1.0
	if (i+1)%3 != j {
		sign = -1
	}
	m := q.At(geom.Vec{})
	at := func(row, column int) float64 {
		return [3][3]float64{m.X.Array(), m.Y.Array(), m.Z.Array()}[column][row]
	}
	sin := sign * at(i, k)
	cos := math.Hypot(at(i, i), at(i, j))
	b := math.Atan2(sin, cos)
	if cos < 1e-9 {
		return [3]float64{math.Atan2(sign*at(k, j), at(j, j)), b, 0}
	}
	return [3]float64{math.Atan2(-sign*at(j, k), at(k, k)), b, math.Atan2(-sign*at(i, j), at(i, i))}
}
