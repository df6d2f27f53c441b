package web_test

import (
	"encoding/json"
	"sync"
	"testing"

	"bead/core/figure"
	"bead/core/rig"
	"bead/core/scene"
	"bead/demo"
	"bead/formats"
)

// Whatever is copied from any demo scene is put into an empty scene, twice, and into another demo
// scene: each time a document that the core accepts and compiles, in which the thing that was
// copied stands as it stood.
func TestParcels(t *testing.T) {
	type thing struct {
		doc      *scene.Document
		kind, id string
	}
	var things []thing
	var packs [][]any
	docs := make([]*scene.Document, 0, 20)
	for _, name := range demo.Names() {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		docs = append(docs, d)
	}
	// A master that moves carries what names no carrier, and another scene has none.
	carried, err := scene.Decode([]byte(`{"bead":2,"name":"t","fps":24,"range":{"first":1,"last":30},"master":"m","carriers":[{"id":"m","name":"M","at":[{"speed":1},2,0]},{"id":"c","name":"C","at":[0,0,1]}],
"parts":[{"id":"a","name":"A","shape":{"box":{"side":0.1,"height":0.1,"length":0.1}}}],"paths":[{"id":"p","name":"P","shape":{"line":{"from":[0,0,0],"to":[0,0,2]}}},{"id":"q","name":"Q","carrier":"c","shape":{"line":{"from":[0,0,0],"to":[0,0,2]}}}],
"rigs":[{"id":"r","name":"R","path":"p","part":"a","rider":{},"facing":{"mode":"steady"},"travel":0,"inStep":"s"},{"id":"s","name":"S","path":"q","part":"a","rider":{},"facing":{"mode":"steady"},"travel":{"of":"rigs/r/travel"}}]}`))
	if err != nil {
		t.Fatal(err)
	}
	docs = append(docs, carried)
	for _, d := range docs {
		d.Assets = nil
		for k := range d.Parts { // meshes of files are the store's
			if d.Parts[k].Shape.File != nil {
				d.Parts[k].Shape = scene.PartShape{Box: &scene.BoxShape{Side: 1, Height: 1, Length: 1}}
			}
		}
		add := func(kind, id string) {
			things = append(things, thing{d, kind, id})
			packs = append(packs, []any{"parcel", "pack", d, kind, id})
		}
		for k := range d.Rigs {
			add("rig", d.Rigs[k].ID)
		}
		for k := range d.Paths {
			add("path", d.Paths[k].ID)
		}
		for k := range d.Fixtures {
			add("fixture", d.Fixtures[k].ID)
		}
		for k := range d.Carriers {
			add("carrier", d.Carriers[k].ID)
		}
	}
	var unpacks [][]any
	for i, got := range call(t, packs) {
		d := things[i].doc
		empty := map[string]any{"bead": 2, "name": "t", "fps": d.FPS, "range": d.Range, "paths": []any{}, "parts": []any{}, "rigs": []any{}}
		if d.Ground != nil { // the ground is the scene's
			ground := *d.Ground
			ground.Material = "" // its material is the scene's own as well
			empty["ground"] = ground
		}
		unpacks = append(unpacks, []any{"parcel", "unpack", empty, got[0]}, []any{"parcel", "unpack", docs[(i*7+3)%len(docs)], got[0]}, []any{"parcel", "unpack", d, got[0]})
	}
	first := call(t, unpacks)
	var again [][]any
	for i := 0; i < len(first); i += 3 {
		again = append(again, []any{"parcel", "unpack", first[i][1], unpacks[i][3]})
	}
	compile := func(at int, where string, text json.RawMessage) *rig.Scene {
		x := things[at]
		d, err := scene.Decode(text)
		if err == nil {
			var s *rig.Scene
			if s, err = whole(d); err == nil {
				return s
			}
		}
		t.Errorf("%s %s of %s %s: %v", x.kind, x.id, x.doc.Name, where, err)
		return nil
	}
	for i, got := range call(t, again) {
		if s := compile(i, "twice", got[1]); s != nil && things[i].kind == "rig" && len(s.Doc.Rigs) < 2 {
			t.Errorf("rig %s of %s twice: %d", things[i].id, things[i].doc.Name, len(s.Doc.Rigs))
		}
	}
	for i, x := range things {
		alone := compile(i, "alone", first[3*i][1])
		compile(i, "elsewhere", first[3*i+1][1])
		compile(i, "in its own scene", first[3*i+2][1])
		if alone == nil || x.kind != "rig" {
			continue
		}
		whole, err := whole(x.doc)
		if err != nil {
			t.Fatal(err)
		}
		var id string
		_ = json.Unmarshal(first[3*i][0], &id)
		var a, b rig.Picture
		frame := x.doc.Range.First + x.doc.Range.Count()/3
		alone.Frame(&a, frame)
		whole.Frame(&b, frame)
		was, is := 0, 0
		for k := range x.doc.Rigs {
			if x.doc.Rigs[k].ID == x.id {
				was = k
			}
		}
		for k := range alone.Doc.Rigs {
			if alone.Doc.Rigs[k].ID == id {
				is = k
			}
		}
		p, q := a.Rigs[is].Transforms, b.Rigs[was].Transforms
		if len(p) != len(q) {
			t.Errorf("%s of %s: %d and %d pieces", x.id, x.doc.Name, len(p)/rig.Stride, len(q)/rig.Stride)
			continue
		}
		for k := range p {
			if d := p[k] - q[k]; d > 1e-5 || d < -1e-5 {
				t.Errorf("%s of %s stands elsewhere at frame %d: %g and %g", x.id, x.doc.Name, frame, p[k], q[k])
				break
			}
		}
	}
}

// Whatever is duplicated in any demo scene, what comes of it is a document that the core accepts and compiles.
func TestDuplicates(t *testing.T) {
	var calls [][]any
	var of []string
	for _, name := range demo.Names() {
		d, err := demo.Scene(name)
		if err != nil {
			t.Fatal(err)
		}
		d.Assets = nil
		for k := range d.Parts { // meshes of files are the store's
			if d.Parts[k].Shape.File != nil {
				d.Parts[k].Shape = scene.PartShape{Box: &scene.BoxShape{Side: 1, Height: 1, Length: 1}}
			}
		}
		add := func(kind, id string) {
			calls, of = append(calls, []any{"parcel", "duplicate", d, kind, id}), append(of, name+" "+kind+" "+id)
		}
		for _, p := range d.Paths {
			add("path", p.ID)
		}
		for _, r := range d.Rigs {
			add("rig", r.ID)
		}
	}
	for k, got := range call(t, calls) {
		d, err := scene.Decode(got[1])
		if err == nil {
			_, err = whole(d)
		}
		if err != nil {
			t.Errorf("%s: %v", of[k], err)
		}
	}
}

// whole compiles a document with the file of the kelp station's crab, which parcels name and do not hold.
func whole(d *scene.Document) (*rig.Scene, error) {
	figures, err := crabs()
	if err != nil {
		return nil, err
	}
	k := rig.Compiler{Figures: figures}
	return k.Compile(d)
}

// crabs finds the figure of the demo scenes.
var crabs = sync.OnceValues(func() (func(string) (*figure.Figure, error), error) {
	crab, err := demo.Scene("crab-patrol")
	if err != nil {
		return nil, err
	}
	return formats.LibraryOf(crab).Figure, nil
})
