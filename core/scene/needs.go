package scene

import (
	"reflect"
	"strings"

	"bead/core/motion"
)

// lists are the lists of things by the word that ref tags name them by.
var lists = map[string]string{"rig": "rigs", "path": "paths", "carrier": "carriers", "fixture": "fixtures"}

// Needs is what a thing could move or look otherwise by, as "rigs/port" or "carriers/hull", itself included: what it
// and all of those ride on, lie on, are led by and follow. A thing that is not among them changes nothing of it.
func (d *Document) Needs(thing string) map[string]bool {
	n := &needs{doc: d, of: map[string]bool{}}
	n.add(thing)
	return n.of
}

type needs struct {
	doc *Document
	of  map[string]bool
}

func (n *needs) add(thing string) {
	list, id, _ := strings.Cut(thing, "/")
	if n.of[thing] {
		return
	}
	found := n.doc.entry(list, id)
	if !found.IsValid() {
		return
	}
	n.of[thing] = true
	n.named(found)
	d := n.doc
	switch x := found.Interface().(type) {
	case *Path:
		n.path(x)
	case *Fixture:
		n.add("carriers/" + d.Parent(x.Carrier))
	case *Carrier:
		n.add("carriers/" + d.ParentOf(x))
		for i := range d.Paths { // on the ground it stands on the wheels of its belts
			if p := &d.Paths[i]; x.Ground != nil && p.Shape.Wrap != nil && d.PathCarrier(p) == x.ID {
				n.add("paths/" + p.ID)
			}
		}
	}
}

// entry is a pointer to the thing of an id in a list of the document, such as "rigs"; not valid where there is none.
func (d *Document) entry(list, id string) (found reflect.Value) {
	v := reflect.ValueOf(d).Elem()
	for i := range v.NumField() {
		if keyOf(v.Type().Field(i)) != list || v.Field(i).Kind() != reflect.Slice {
			continue
		}
		for k := range v.Field(i).Len() {
			if x := v.Field(i).Index(k); x.FieldByName("ID").String() == id {
				return x.Addr()
			}
		}
	}
	return found
}

// path adds what a path needs: what it names and rides on, what pulls it, and the links that lie on a belt, whose
// places its sag goes by.
func (n *needs) path(p *Path) {
	d := n.doc
	n.add("carriers/" + d.PathCarrier(p))
	for i := range d.Tugs {
		if d.Tugs[i].Path == p.ID {
			n.add("tugs/" + d.Tugs[i].ID)
		}
	}
	if p.Shape.Wrap == nil {
		return
	}
	for i := range d.Rigs {
		if d.Rigs[i].Path == p.ID {
			n.add("rigs/" + d.Rigs[i].ID)
		}
	}
}

// named adds all that a thing names, by its ref tags and its values.
func (n *needs) named(thing reflect.Value) {
	refsIn(thing.Type(), nil).named(thing.Elem(), new(spot), "", func(_ *spot, _ string, f *refField, id string) {
		if list := lists[f.of.Kind]; list != "" && f.key != "inStep" { // that one is only compared with it
			n.add(list + "/" + id)
		}
	})
	each(thing, func(v reflect.Value) bool {
		x, is := v.Addr().Interface().(*motion.Value)
		if !is {
			return false
		}
		if x.Of != nil {
			n.add(x.Of.Of[:max(strings.LastIndexByte(x.Of.Of, '/'), 0)])
		}
		if x.Rolls != nil {
			n.add("carriers/" + x.Rolls.Rolls)
		}
		return true
	})
}
