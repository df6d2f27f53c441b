package scene

import (
	"encoding/json"
	"reflect"
	"slices"
	"strings"
	"testing"

	"bead/core/form"
	"bead/core/motion"
	"bead/core/path"
)

// Every kind of the menus has a name, and what a new one begins with is accepted as it stands,
// written and read again the same; each of its fields is there.
func TestForms(t *testing.T) {
	forms := AllForms()
	document := func(shape, step string) string {
		return `{"bead":2,"name":"n","fps":24,"range":{"first":1,"last":9},"parts":[],"rigs":[],"paths":[` +
			`{"id":"q","name":"q","shape":{"line":{"from":[0,0,5],"to":[0,0,9]}}},{"id":"p","name":"p","shape":` + shape + `,"steps":[` + step + `]}]}`
	}
	accepted := func(what, text string) {
		t.Helper()
		d, err := Decode([]byte(text))
		if err != nil {
			t.Errorf("%s: %v", what, err)
			return
		}
		again, _ := json.Marshal(d)
		d2, err := Decode(again)
		if err != nil {
			t.Errorf("%s, written: %v", what, err)
			return
		}
		if twice, _ := json.Marshal(d2); string(twice) != string(again) {
			t.Errorf("%s is written as %s, then as %s", what, again, twice)
		}
	}
	const line = `{"line":{"from":[0,0,0],"to":[0,0,4]}}`
	for _, k := range forms.Shapes {
		if k.Name == "" {
			t.Errorf("%s has no name", k.Key)
		}
		if k.First == nil {
			if k.Key != "over" && k.Key != "track" {
				t.Errorf("%s begins with nothing", k.Key)
			}
			continue
		}
		first, _ := json.Marshal(map[string]any{k.Key: k.First})
		accepted(k.Key, document(string(first), ""))
	}
	for _, k := range forms.Steps {
		if k.Name == "" || k.Text == "" || k.First == nil {
			t.Errorf("%s: %+v", k.Key, k)
		}
		first, _ := json.Marshal(map[string]any{k.Key: k.First})
		text := strings.Replace(string(first), `"paths":[]`, `"paths":["q"]`, 1) // which a person chooses
		accepted(k.Key, document(line, text))
		for _, f := range k.Fields { // what is scaled stands in it, as a share
			var tree map[string]map[string]any
			_ = json.Unmarshal(first, &tree)
			if v, is := tree[k.Key][f.Key].(float64); f.Scaled && (!is || !(v > 0 && v <= 1)) {
				t.Errorf("%s.%s begins with %v", k.Key, f.Key, tree[k.Key][f.Key])
			}
		}
	}
	for _, p := range forms.NewParts {
		if _, err := p.Shape.Mesh(); err != nil {
			t.Errorf("%s: %v", p.Name, err)
		}
	}
	loops := []string{}
	for _, k := range forms.Shapes {
		if k.Loop {
			loops = append(loops, k.Key)
		}
	}
	if want := []string{"slot", "circle", "ellipse", "rectangle", "wrap"}; !slices.Equal(loops, want) {
		t.Errorf("loops %v, want %v", loops, want)
	}
}

// bow is a made-up shape, halve a made-up step: all of each stands in its type.
type (
	bow struct {
		Span float64 `json:"span" form:"Span;length;min=0.5;max=2"`
		Bend string  `json:"bend,omitempty" jsonschema:"enum=up,enum=down" form:"Bends;choice;fallback=up"`
	}
	halve struct {
		Keep float64 `json:"keep" form:"Keep;plain;min=0;max=1"`
	}
)

func (b *bow) about() About { return About{Name: "Bow", First: &bow{Span: 1}} }
func (b *bow) fill()        { fill(&b.Bend, "up") }
func (b *bow) spans(func(string)) ([]path.Span, bool) {
	s := SplineShape{Points: []Point{{Handles: path.Smooth}, {At: Vec3{0, 0, b.Span}, Handles: path.Smooth}}}
	return s.spans(nil)
}
func (h *halve) about() About { return About{Name: "Halve", Text: "keep a part", First: &halve{0.5}} }
func (h *halve) Shape(in *path.Curve) (Shaping, error) {
	return Shaping{Spans: in.Cut(0, h.Keep*in.Length())}, nil
}

// A made-up kind of one file and one line goes through everything: matching, limits, defaults,
// names in faults, spans, forms.
func TestOneMoreKind(t *testing.T) {
	var shapes struct {
		Bow  *bow       `json:"bow,omitempty"`
		Line *LineShape `json:"line,omitempty"`
	}
	w := walker{}
	w.match(map[string]any{"bow": map[string]any{"span": json.Number("1"), "height": json.Number("2")}}, reflect.TypeOf(shapes))
	if len(w.faults) != 1 || w.faults[0].Address != "bow.height" {
		t.Errorf("a field that it has not: %v", w.faults)
	}
	shapes.Bow = &bow{Span: 3}
	key, x, given := one(&shapes)
	if key != "bow" || given != 1 || form.And(keys(&shapes)) != "bow and line" {
		t.Errorf("%s, %d, %v", key, given, keys(&shapes))
	}
	x.(filler).fill()
	c := &checker{}
	c.fields(reflect.ValueOf(x).Elem(), &spot{nil, "paths[0].shape." + key, -1})
	if len(c.faults) != 1 || c.faults[0].Address != "paths[0].shape.bow.span" {
		t.Errorf("too wide: %v", c.faults)
	}
	spans, closed := x.(generator).spans(nil)
	curve, err := path.New(spans, closed)
	if err != nil || curve.Length() < 2.99 {
		t.Errorf("%v, %v", curve, err)
	}
	var h any = &halve{0.25}
	if did, err := h.(Shaper).Shape(curve); err != nil {
		t.Error(err)
	} else if half, err := path.New(did.Spans, did.Closed); err != nil || half.Length() > 0.26*curve.Length() {
		t.Errorf("%v, %v", half, err)
	}
	kinds := kindsOf(&shapes)
	if len(kinds) != 2 || kinds[0].Name != "Bow" || len(kinds[0].Fields) != 2 || *kinds[0].Fields[0].Max != 2 {
		t.Errorf("%+v", kinds)
	}
}

// hop is a made-up kind of rig.
type hop struct {
	High   float64      `json:"high,omitempty"`
	Spring motion.Value `json:"spring,omitzero" move:"spring;distance;along"`
}

func (h *hop) traits() Traits { return Traits{Seat: SeatPivot, Spacing: alone, PastEnd: ComeRound} }
func (h *hop) fill() {
	if h.High == 0 {
		h.High = 0.5
	}
}
func (h *hop) checkRig(c *checker, at string, _ *Rig, _ []Path) {
	c.number(at+".high", h.High, 0, 2)
}

// A made-up kind of rig is found, named, read, filled in, checked, and its value may move.
func TestOneMoreRigKind(t *testing.T) {
	var rig struct {
		Train *Train `json:"train,omitempty"`
		Hop   *hop   `json:"hop,omitempty"`
	}
	w := walker{}
	w.match(map[string]any{"hop": map[string]any{"far": json.Number("1")}}, reflect.TypeOf(rig))
	if len(w.faults) != 1 || w.faults[0].Address != "hop.far" {
		t.Errorf("a field that it has not: %v", w.faults)
	}
	rig.Hop = &hop{}
	key, x, given := one(&rig)
	k, is := x.(rigKind)
	if key != "hop" || given != 1 || !is || form.And(keys(&rig)) != "train and hop" {
		t.Fatalf("%s, %d, %v", key, given, is)
	}
	if k.fill(); rig.Hop.High != 0.5 || k.traits().PastEnd != ComeRound {
		t.Errorf("%+v, %+v", rig.Hop, k.traits())
	}
	rig.Hop.High = 3
	c := &checker{}
	if k.checkRig(c, "rigs[0].hop", nil, nil); len(c.faults) != 1 || c.faults[0].Address != "rigs[0].hop.high" {
		t.Errorf("%v", c.faults)
	}
	owner := struct {
		Path string
		Hop  *hop `json:"hop,omitempty"`
	}{"p", rig.Hop}
	w2 := slotWalk{}
	w2.in(reflect.ValueOf(&owner).Elem(), movesIn(reflect.TypeOf(owner), nil), where{owner: "rigs/r/", name: "R", at: &spot{nil, "rigs", 0}})
	if len(w2.out) != 1 || w2.out[0] != (Slot{"rigs/r/spring", "rigs[0].hop.spring", "R spring", Metres, "p", &rig.Hop.Spring}) {
		t.Errorf("%+v", w2.out)
	}
}
