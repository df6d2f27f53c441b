package formats

import (
	"bufio"
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/gob"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"

	"bead/core/rig"
	"bead/core/scene"
)

// A part is what a bake of some frames has gathered, to be joined with those of the frames before and
// behind: the file that comes of them is the whole bake's, bit for bit. It holds its scene, so that nobody
// needs to bring that along.

// PartEnding is that of parts, behind the ending of the format: shot.glb.part.
const PartEnding = ".part"

const (
	partMagic    = "BEADPART"
	partForm     = 1
	maxPartBytes = 2 << 30
	maxParts     = 1000
)

// partHead says what a part is of.
type partHead struct {
	Form     int
	Choices  []byte // Options as JSON
	Scene    string
	Revision int64
	First    int
	Last     int
	Doc      []byte // with its assets
}

// BakePart writes a part instead of the file itself.
func BakePart(ctx context.Context, w io.Writer, s *rig.Scene, o Options, done func(n int)) error {
	f, err := o.ready(ctx, s)
	if err != nil {
		return err
	}
	if f.Still {
		return fmt.Errorf("%s holds one frame, so that it has no parts: write the file itself", o.Format)
	}
	doc, err := s.Doc.Encode()
	if err != nil {
		return err
	}
	choices, err := json.Marshal(o)
	if err != nil {
		return err
	}
	var rows bytes.Buffer
	baker, err := f.bake(&rows, s, &o)
	if err == nil {
		err = f.feed(ctx, baker, s, &o, done)
	}
	if err != nil {
		return err
	}
	out := bufio.NewWriterSize(&endable{ctx, w}, 1<<18)
	if _, err := out.WriteString(partMagic); err != nil {
		return err
	}
	e := gob.NewEncoder(out)
	if err := e.Encode(partHead{partForm, choices, o.Scene, o.Revision, o.Frames.First, o.Frames.Last, doc}); err != nil {
		return err
	}
	if g, is := baker.(gathered); is {
		err = g.save(e)
	} else if err = baker.Close(); err == nil {
		err = e.Encode(rows.Bytes())
	}
	if err != nil {
		return err
	}
	return out.Flush()
}

// Joined is what parts are joined to.
type Joined struct {
	Scene   *rig.Scene
	Options Options
	parts   []joinable
}

type joinable struct {
	name string
	head partHead
	gob  *gob.Decoder
}

// OpenParts reads what parts are of, in any order, and puts them in that of their frames. compile compiles
// their scene. Errors name the part.
func OpenParts(names []string, parts []io.Reader, compile func(*scene.Document) (*rig.Scene, error)) (*Joined, error) {
	if n := len(parts); n < 1 || n > maxParts {
		return nil, fmt.Errorf("%d parts are not accepted: 1 to %d are", n, maxParts)
	}
	out := &Joined{}
	for k, r := range parts {
		p := joinable{name: names[k]}
		r := bufio.NewReader(io.LimitReader(r, maxPartBytes))
		magic := make([]byte, len(partMagic))
		if _, err := io.ReadFull(r, magic); err != nil || string(magic) != partMagic {
			return nil, fmt.Errorf("%s is no part of a bake: what bake writes to a name that ends in %s is accepted", names[k], PartEnding)
		}
		p.gob = gob.NewDecoder(r)
		if err := p.gob.Decode(&p.head); err != nil {
			return nil, fmt.Errorf("%s cannot be read: %w", names[k], err)
		}
		if p.head.Form != partForm {
			return nil, fmt.Errorf("%s is of form %d: %d is accepted, so bake it again with this Bead", names[k], p.head.Form, partForm)
		}
		out.parts = append(out.parts, p)
	}
	slices.SortStableFunc(out.parts, func(a, b joinable) int { return a.head.First - b.head.First })
	first := &out.parts[0].head
	var o Options
	if err := json.Unmarshal(first.Choices, &o); err != nil {
		return nil, fmt.Errorf("%s cannot be read: %w", out.parts[0].name, err)
	}
	o.Scene, o.Revision, o.Frames = first.Scene, first.Revision, scene.Range{First: first.First, Last: out.parts[len(out.parts)-1].head.Last}
	for k := range out.parts {
		h := &out.parts[k].head
		if !bytes.Equal(h.Choices, first.Choices) || h.Scene != first.Scene || h.Revision != first.Revision {
			return nil, fmt.Errorf("%s was baked with other choices than %s", out.parts[k].name, out.parts[0].name)
		}
		if sha256.Sum256(h.Doc) != sha256.Sum256(first.Doc) {
			return nil, fmt.Errorf("%s is of another scene than %s", out.parts[k].name, out.parts[0].name)
		}
		if err := CheckFrames(scene.Range{First: h.First, Last: h.Last}); err != nil {
			return nil, fmt.Errorf("%s: %w", out.parts[k].name, err)
		}
		if k == 0 {
			continue
		}
		before, step := &out.parts[k-1].head, max(o.Step, 1)
		next := before.First + ((before.Last-before.First)/step+1)*step
		if h.First != next {
			return nil, fmt.Errorf("%s begins at frame %d: after %s, which ends at %d, one that begins at %d is wanted", out.parts[k].name, h.First, out.parts[k-1].name, before.Last, next)
		}
	}
	d, err := scene.Decode(first.Doc)
	if err != nil {
		return nil, fmt.Errorf("the scene in %s: %w", out.parts[0].name, err)
	}
	if out.Scene, err = compile(d); err != nil {
		return nil, fmt.Errorf("the scene in %s: %w", out.parts[0].name, err)
	}
	out.Options = o
	return out, nil
}

// Write writes the file that the parts are of.
func (j *Joined) Write(ctx context.Context, w io.Writer, say func(string)) error {
	o, s := j.Options, j.Scene
	o.Library, o.Say = LibraryOf(s.Doc), say
	f, known := Of(o.Format)
	if !known {
		return fmt.Errorf("%q is no format", o.Format)
	}
	if err := errors.Join(o.Fits(), o.CheckRigs(s), CheckFrames(o.Frames)); err != nil {
		return err
	}
	if err := f.room(s, &o); err != nil {
		return err
	}
	out := bufio.NewWriterSize(&endable{ctx, w}, 1<<18)
	if f.join != nil {
		var rows [][]byte
		for k := range j.parts {
			var part []byte
			if err := j.parts[k].gob.Decode(&part); err != nil {
				return fmt.Errorf("%s cannot be read: %w", j.parts[k].name, err)
			}
			rows = append(rows, part)
		}
		if err := f.join(out, s, &o, rows); err != nil {
			return err
		}
		return out.Flush()
	}
	baker, err := f.bake(out, s, &o)
	if err != nil {
		return err
	}
	g, is := baker.(gathered)
	if !is {
		return errors.New("this format has no parts")
	}
	for k := range j.parts {
		if err := g.load(j.parts[k].gob); err != nil {
			return fmt.Errorf("%s: %w", j.parts[k].name, err)
		}
	}
	if err := g.Close(); err != nil {
		return err
	}
	return out.Flush()
}
