package scene

import (
	"reflect"

	"bead/core/form"
	"bead/core/look"
)

// Forms are what can be made, what it is called, and the fields of all kinds: the page's menus and
// forms are drawn from them.
type Forms struct {
	Shapes []Kind `json:"shapes"`
	Steps  []Kind `json:"steps"`
	// Parts are the fields of the parts' shapes; NewParts what the menu begins with.
	Parts []Kind `json:"parts"`
	// Rigs are the fields of those kinds of rigs that have a form.
	Rigs     []Kind    `json:"rigs"`
	NewParts []NewPart `json:"newParts"`
	// Fabrics are those that cloth can be begun with.
	Fabrics []NamedFabric `json:"fabrics"`
	// Fabric and Flow are the fields of a cloth's material and of the fluid about it.
	Fabric []form.Field `json:"fabric"`
	Flow   []form.Field `json:"flow"`
	// Palette are the materials that can be begun with.
	Palette []look.Material `json:"palette"`
	// References are the fields that name other things.
	References []Reference `json:"references"`
	// Movings are the fields that may move.
	Movings []Moving `json:"movings"`
	// Limits are those of numbers without a form.
	Limits map[string]Limit `json:"limits"`
}

// Kind is one kind of shape or step.
type Kind struct {
	Key  string `json:"key"`
	Name string `json:"name,omitempty"`
	Text string `json:"text,omitempty"`
	// Loop is set of a shape that is always closed.
	Loop bool `json:"loop,omitempty"`
	// Seat is how the pieces of a kind of rig sit, where the rig does not say so itself.
	Seat   string       `json:"seat,omitempty"`
	First  any          `json:"first,omitempty"`
	Fields []form.Field `json:"fields"`
}

// NewPart is a part that can be begun with.
type NewPart struct {
	Name  string    `json:"name"`
	Shape PartShape `json:"shape"`
}

// AllForms makes the forms of all that documents know.
func AllForms() Forms {
	out := Forms{Shapes: kindsOf(&PathShape{}), Steps: kindsOf(&Step{}), Parts: kindsOf(&PartShape{}), Rigs: kindsOf(&Rig{}), NewParts: newParts, Fabrics: Fabrics, Fabric: form.Of(reflect.TypeFor[Fabric]()), Flow: form.Of(reflect.TypeFor[Flow]()), Palette: look.Palette, References: References(), Movings: Movings(), Limits: Limits()}
	for i := range out.Shapes {
		k := &out.Shapes[i]
		if g, is := k.First.(generator); is {
			_, k.Loop = g.spans(nil)
		}
	}
	return out
}

func kindsOf(of any) []Kind {
	var out []Kind
	t := reflect.TypeOf(of).Elem()
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Type.Kind() != reflect.Pointer {
			continue
		}
		k := Kind{Key: keyOf(f), Fields: []form.Field{}}
		for _, field := range form.Of(f.Type) {
			if field.Label != "" {
				k.Fields = append(k.Fields, field)
			}
		}
		made := reflect.New(f.Type.Elem()).Interface()
		if d, is := made.(described); is {
			about := d.about()
			k.Name, k.Text, k.First = about.Name, about.Text, about.First
		}
		if r, is := made.(rigKind); is {
			r.fill()
			k.Seat = r.traits().Seat
		}
		out = append(out, k)
	}
	return out
}
