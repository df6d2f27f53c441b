package motion

import "encoding/json"

// In documents a value is a plain number, {"keys": [...], "before", "after"},
// {"speed": metres a second, "start": metres} or a drive: {"of": ...}, {"rpm": ...},
// {"turns": ...}, {"rolls": ...}.

// Keyed is the document's form of a value with keys.
type Keyed struct {
	Keys   []Key `json:"keys" jsonschema:"minItems=1"`
	Before Ends  `json:"before,omitempty" jsonschema:"enum=hold,enum=carry on,enum=repeat,enum=build,enum=mirror"`
	After  Ends  `json:"after,omitempty" jsonschema:"enum=hold,enum=carry on,enum=repeat,enum=build,enum=mirror"`
	// Within are the frames between which the keys and their ends act.
	Within *[2]float64 `json:"within,omitempty" jsonschema:"description=First and last frame between which the value moves; left out: always."`
}

// Running is the document's form of a value with a constant speed.
type Running struct {
	Speed float64 `json:"speed"`
	Start float64 `json:"start,omitempty"`
}

// Forms lists the document's forms of a value besides a plain number, each by the
// field that tells it from the others.
var Forms = []struct {
	Field string
	Type  any
}{{"keys", Keyed{}}, {"speed", Running{}}, {"of", Driven{}}, {"rpm", Spun{}}, {"turns", Turning{}}, {"rolls", Rolling{}}}

// MarshalJSON writes the form that the value has.
func (v Value) MarshalJSON() ([]byte, error) {
	switch {
	case v.Speed != nil:
		return json.Marshal(Running{v.Speed.PerSecond, v.Speed.Start})
	case len(v.Keys) > 0:
		return json.Marshal(Keyed{v.Keys, v.Before, v.After, v.Within})
	case v.Of != nil:
		return json.Marshal(v.Of)
	case v.RPM != nil:
		return json.Marshal(v.RPM)
	case v.Turns != nil:
		return json.Marshal(v.Turns)
	case v.Rolls != nil:
		return json.Marshal(v.Rolls)
	}
	return json.Marshal(v.Const)
}

// UnmarshalJSON reads any of the forms. Unknown fields are the caller's to refuse:
// core/scene does so for the whole document, with addresses.
func (v *Value) UnmarshalJSON(data []byte) error {
	*v = Value{}
	if len(data) == 0 || data[0] != '{' {
		return json.Unmarshal(data, &v.Const)
	}
	var has map[string]json.RawMessage
	if err := json.Unmarshal(data, &has); err != nil {
		return err
	}
	given := func(field string) bool { _, ok := has[field]; return ok }
	switch {
	case given("speed"):
		var r Running
		if err := json.Unmarshal(data, &r); err != nil {
			return err
		}
		v.Speed = &Speed{r.Speed, r.Start}
		return nil
	case given("of"):
		v.Of = new(Driven)
		return json.Unmarshal(data, v.Of)
	case given("rpm"):
		v.RPM = new(Spun)
		return json.Unmarshal(data, v.RPM)
	case given("turns"):
		v.Turns = new(Turning)
		return json.Unmarshal(data, v.Turns)
	case given("rolls"):
		v.Rolls = new(Rolling)
		return json.Unmarshal(data, v.Rolls)
	}
	var k Keyed
	if err := json.Unmarshal(data, &k); err != nil {
		return err
	}
	v.Keys, v.Before, v.After, v.Within = k.Keys, k.Before, k.After, k.Within
	return nil
}
