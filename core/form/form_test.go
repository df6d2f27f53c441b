package form_test

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"testing"

	"bead/core/form"
)

// knot is a made-up kind.
type knot struct {
	Turns  int            `json:"turns" form:"Turns;count;min=1;max=9;unit=turns"`
	Loop   float64        `json:"loop" form:"Loop;length;min=0.001;or0;scaled"`
	Hand   string         `json:"hand" jsonschema:"enum=left,enum=right" form:"Hand;choice;fallback=left;names=left:to the left,right:to the right"`
	Lie    string         `json:"lie,omitempty" jsonschema:"enum=flat" form:"Lies;choice;fallback=;names=:as it falls"`
	At     [3]float64     `json:"at" form:"At;place"`
	Over   *[3]float64    `json:"over,omitempty" form:";place"`
	Points [][3]float64   `json:"points" form:";points"`
	Tight  bool           `json:"tight" form:"Drawn;switch;off=loose;on=tight"`
	Since  *int           `json:"since,omitempty" form:"Since frame;frame;auto=always;like=loop;min=-10;max=10"`
	Note   string         `json:"note"`
	Pull   map[string]int `json:"pull" form:"Pull;moving"`
}

func right() knot {
	return knot{Turns: 3, Hand: "left", Points: [][3]float64{{0, 0, 0}, {0, 0, 1}}}
}

// Each field is refused outside what its tag accepts, under its own address, and nowhere inside it.
func TestCheck(t *testing.T) {
	since := 11
	for name, tc := range map[string]struct {
		change func(k *knot)
		field  string
		says   string
	}{
		"as it is":        {func(k *knot) {}, "", ""},
		"least, greatest": {func(k *knot) { k.Turns, k.Loop, k.At[1] = 9, 0.001, -form.MaxPosition }, "", ""},
		"too few":         {func(k *knot) { k.Turns = 0 }, "turns", "0 is not accepted: a number from 1 to 9 is"},
		"not at all":      {func(k *knot) { k.Loop = 0 }, "", ""},
		"too small":       {func(k *knot) { k.Loop = 0.0009 }, "loop", "0.0009 is not accepted: a number from 0.001 to 1e+06 is"},
		"no number":       {func(k *knot) { k.Loop = math.NaN() }, "loop", "NaN is not accepted: a number from 0.001 to 1e+06 is"},
		"no word":         {func(k *knot) { k.Hand = "up" }, "hand", `"up" is not accepted: left and right are`},
		"left out":        {func(k *knot) { k.Hand = "" }, "hand", `"" is not accepted: left and right are`},
		"another word":    {func(k *knot) { k.Lie = "high" }, "lie", `"high" is not accepted: flat is`},
		"far away":        {func(k *knot) { k.At[2] = 1e7 }, "at[2]", "1e+07 is not accepted: a number within ±1e+06 m is"},
		"a far handle":    {func(k *knot) { k.Over = &[3]float64{math.Inf(1)} }, "over[0]", "+Inf is not accepted: a number within ±1e+06 m is"},
		"one point":       {func(k *knot) { k.Points = k.Points[:1] }, "points", "1 points are not accepted: from 2 to 20000 are"},
		"a far point":     {func(k *knot) { k.Points[1][0] = 2e6 }, "points[1][0]", "2e+06 is not accepted: a number within ±1e+06 m is"},
		"a later frame":   {func(k *knot) { k.Since = &since }, "since", "11 is not accepted: a number from -10 to 10 is"},
	} {
		k := right()
		tc.change(&k)
		got, want := "", ""
		form.Check(&k, func(field, text string) { got += field + ": " + text })
		if tc.field != "" {
			want = tc.field + ": " + tc.says
		}
		if got != want {
			t.Errorf("%s: says %q, want %q", name, got, want)
		}
	}
}

// The form of a kind holds what its tags say, in their order.
func TestFields(t *testing.T) {
	fields := form.Of(reflect.TypeFor[*knot]())
	var said []string
	for _, f := range fields {
		said = append(said, fmt.Sprintf("%s %s %q", f.Key, f.Kind, f.Label))
	}
	want := []string{`turns count "Turns"`, `loop length "Loop"`, `hand choice "Hand"`, `lie choice "Lies"`, `at place "At"`, `over place ""`, `points points ""`, `tight switch "Drawn"`, `since frame "Since frame"`, `pull moving "Pull"`}
	if !slices.Equal(said, want) {
		t.Errorf("%q, want %q", said, want)
	}
	if h := fields[2]; !slices.Equal(h.Options, []string{"left", "right"}) || h.Names["right"] != "to the right" || h.Fallback != "left" {
		t.Errorf("hand: %+v", h)
	}
	if l := fields[3]; !slices.Equal(l.Options, []string{"", "flat"}) || l.Fallback != "" {
		t.Errorf("lie: %+v", l)
	}
	if s := fields[7]; s.Off != "loose" || s.On != "tight" {
		t.Errorf("tight: %+v", s)
	}
	if f := fields[8]; f.Auto != "always" || f.Like != "loop" || *f.Min != -10 || *f.Max != 10 {
		t.Errorf("since: %+v", f)
	}
}

// A tag that cannot be read is a mistake of the program, and said at once.
func TestBadTags(t *testing.T) {
	for name, of := range map[string]reflect.Type{
		"no kind": reflect.TypeFor[struct {
			A int `form:"A"`
		}](),
		"no number": reflect.TypeFor[struct {
			A int `form:"A;count;min=x"`
		}](),
		"no option": reflect.TypeFor[struct {
			A int `form:"A;count;loud"`
		}](),
	} {
		func() {
			defer func() {
				if recover() == nil {
					t.Errorf("%s is accepted", name)
				}
			}()
			form.Of(of)
		}()
	}
}
